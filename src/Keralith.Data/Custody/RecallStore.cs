using Keralith.Core.Custody;
using Keralith.Core.Ledger;
using Keralith.Core.Register;
using Npgsql;

namespace Keralith.Data;

/// <summary>A recall on record.</summary>
/// <param name="Held">Pieces it holds still.</param>
/// <param name="All">Pieces it ever held.</param>
public sealed record RecallRow(
    Guid Id,
    RecallMatch Match,
    string Reason,
    string Source,
    DateTimeOffset At,
    Guid ById,
    string By,
    string? EndReason,
    DateTimeOffset? EndedAt,
    int Held,
    int All
);

/// <summary>Recalls: previewed, set, standing for what is registered later, let go by who set them.</summary>
public sealed class RecallStore(Database database)
{
    private const string Columns = """
        select r.id, r.maker, r.model, r.batch, r.serial_from, r.serial_to, r.since_from, r.since_until, r.reason, r.source, r.at,
          r.by_person, w.name as by_name, e.reason as end_reason, e.at as ended_at,
          (select count(*)::int from hold h where h.recall_id = r.id) as all_held,
          (select count(*)::int from hold h
           where h.recall_id = r.id and not exists (select from release f where f.hold_id = h.id)) as held
        from recall r
        join person w on w.id = r.by_person
        left join recall_end e on e.recall_id = r.id
        """;

    private const string One = $"{Columns} where r.id = $1";

    /// <summary>All recalls, the standing ones first.</summary>
    public Task<List<RecallRow>> AllAsync(CancellationToken cancel) =>
        database.Command($"{Columns} order by e.at is not null, r.at desc limit 200").ListAsync(From, cancel);

    public Task<RecallRow?> FindAsync(Guid id, CancellationToken cancel) =>
        database.Command(One).Positional(id).FirstAsync(From, cancel);

    private static async Task<RecallRow?> OfAsync(Session session, Guid id) =>
        (await session.ReadAsync(One, From, id).ConfigureAwait(false)).FirstOrDefault();

    /// <summary>The pieces a recall would hold, by store and peg.</summary>
    /// <param name="most">How many are read in full; how many there are is told beside.</param>
    public async Task<(List<Piece> Pieces, int All)> PreviewAsync(RecallMatch match, int most, CancellationToken cancel)
    {
        var ids = await RecalledGear.MeantAsync(t => database.MakeAsync(t, cancel), match).ConfigureAwait(false);
        return (await OfAsync("p.id = any($1)", ids.ToArray(), most, cancel), ids.Count);
    }

    /// <summary>Makes near what a recall would mean and not meant by it: somebody decides whether they are.</summary>
    public Task<List<(string Maker, string? Model, int Pieces)>> NearAsync(
        RecallMatch match,
        CancellationToken cancel
    ) => RecalledGear.NearAsync(database, match, cancel);

    /// <summary>How many pieces not retired have no maker on record, or none that says anything: no recall finds them.</summary>
    public async Task<int> MakerlessAsync(CancellationToken cancel) =>
        (
            await database
                .Command(
                    $"select maker, count(*)::int as n from piece where state not in {Fragments.Retired} group by maker"
                )
                .ListAsync(r => (Maker: r.TextOrNull("maker"), Count: r.Get<int>("n")), cancel)
                .ConfigureAwait(false)
        )
            .Where(m => Spelling.SaysNothing(m.Maker))
            .Sum(m => m.Count);

    /// <summary>The pieces a recall holds still, by store and peg.</summary>
    public Task<List<Piece>> HeldAsync(Guid recall, int most, CancellationToken cancel) =>
        OfAsync(
            """
            exists (select from hold h where h.piece_id = p.id and h.recall_id = $1
                    and not exists (select from release f where f.hold_id = h.id))
            """,
            recall,
            most,
            cancel
        );

    /// <summary>What a standing recall means and never held, by store and peg; how many there are is told beside.</summary>
    public async Task<(List<Piece> Pieces, int All)> MissedAsync(Guid recall, int most, CancellationToken cancel)
    {
        var missed = await RecalledGear.MissedAsync(t => database.MakeAsync(t, cancel), recall).ConfigureAwait(false);
        var ids = missed.SelectMany(m => m.Pieces).ToArray();
        return ids.Length == 0 ? ([], 0) : (await OfAsync("p.id = any($1)", ids, most, cancel), ids.Length);
    }

    /// <summary>How many pieces each standing recall means and never held; recalls that missed none are left out.</summary>
    public async Task<IReadOnlyDictionary<Guid, int>> MissedAsync(CancellationToken cancel) =>
        (await RecalledGear.MissedAsync(t => database.MakeAsync(t, cancel)).ConfigureAwait(false)).ToDictionary(
            m => m.Recall.Id,
            m => m.Pieces.Count
        );

    /// <summary>Sets a recall and holds at once all that matches.</summary>
    public Task<Checked<Recorded>> SetAsync(
        RecallMatch match,
        string? reason,
        string? source,
        Stamp stamp,
        CancellationToken cancel
    ) =>
        Session.RunAloneAsync(
            database,
            stamp,
            async session =>
            {
                if (Recalls.RefusalToSet(reason, source, session.By) is { } refusal)
                    return refusal;
                await InsertAsync(session, match, reason!.Trim(), source!.Trim()).ConfigureAwait(false);
                var missed = await RecalledGear.MissedAsync(session.AskAsync, stamp.Submission).ConfigureAwait(false);
                var held = await RecalledGear.StopAsync(session, missed).ConfigureAwait(false);
                await LedgerStore
                    .AppendAllAsync(
                        session,
                        [("site", Said(stamp.Submission, match, reason.Trim(), source.Trim(), held.Count)), .. held]
                    )
                    .ConfigureAwait(false);
                return null;
            },
            cancel
        );

    /// <summary>Holds what a standing recall means and never held, such as gear whose maker was written in another way.</summary>
    public Task<Checked<Recorded>> HoldMissedAsync(Guid recall, Stamp stamp, CancellationToken cancel) =>
        Session.RunAloneAsync(
            database,
            stamp,
            async session =>
            {
                if (await OfAsync(session, recall).ConfigureAwait(false) is not { } row)
                    return Refusals.NoSuchRecall;
                var missed = await RecalledGear.MissedAsync(session.AskAsync, recall).ConfigureAwait(false);
                if (
                    Recalls.RefusalToHoldMissed(row.EndedAt is not null, missed.Sum(m => m.Pieces.Count), session.By) is
                    { } refusal
                )
                    return refusal;
                await RecalledGear.HoldAsync(session, missed).ConfigureAwait(false);
                return null;
            },
            cancel
        );

    /// <summary>
    /// Holds what standing recalls mean and never held, by the program itself: at its start, for a program before it may have
    /// read as other gear what this one knows is meant.
    /// </summary>
    /// <returns>How many holds that came to.</returns>
    public async Task<int> HoldMissedAsync(DateTimeOffset now, CancellationToken cancel)
    {
        if ((await MissedAsync(cancel).ConfigureAwait(false)).Count == 0)
            return 0;
        var held = 0;
        await Session
            .RunAloneAsync(
                database,
                new(JudgeAgain.Itself, now, Guid.CreateVersion7()),
                async session =>
                {
                    var missed = await RecalledGear.MissedAsync(session.AskAsync).ConfigureAwait(false);
                    held = await RecalledGear.HoldAsync(session, missed).ConfigureAwait(false);
                    return null;
                },
                cancel
            )
            .ConfigureAwait(false);
        return held;
    }

    private static RecallSet Said(Guid id, RecallMatch match, string reason, string source, int held) =>
        new(
            id,
            match.Maker,
            match.Model,
            match.Batch,
            match.SerialFrom,
            match.SerialTo,
            match.From,
            match.Until,
            reason,
            source,
            held
        );

    private static Task InsertAsync(Session session, RecallMatch match, string reason, string source) =>
        session.WriteAsync(
            """
            insert into recall (id, maker, model, batch, serial_from, serial_to, since_from, since_until, reason, source, at, by_person)
            values ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10, $11, $12)
            """,
            session.Stamp.Submission,
            match.Maker,
            match.Model,
            match.Batch,
            match.SerialFrom,
            match.SerialTo,
            match.From,
            match.Until,
            reason,
            source,
            session.Stamp.At,
            session.Stamp.Actor.Id
        );

    /// <summary>Lets a recall go: its holds close, and nothing registered later is held by it.</summary>
    public Task<Checked<Recorded>> EndAsync(Guid recall, string? reason, Stamp stamp, CancellationToken cancel) =>
        Session.RunAloneAsync(
            database,
            stamp,
            async session =>
            {
                if (await OfAsync(session, recall).ConfigureAwait(false) is not { } row)
                    return Refusals.NoSuchRecall;
                if (Recalls.RefusalToEnd(row.ById, row.EndedAt is not null, reason, session.By) is { } refusal)
                    return refusal;
                var holds = await session
                    .ReadAsync(
                        """
                        select h.id, h.piece_id from hold h
                        where h.recall_id = $1 and not exists (select from release f where f.hold_id = h.id)
                        """,
                        r => (Hold: r.GetGuid(0), Piece: r.GetGuid(1)),
                        recall
                    )
                    .ConfigureAwait(false);
                var pieces = (
                    await session.LockAllAsync(holds.Select(h => h.Piece)).ConfigureAwait(false)
                ).ToDictionary(p => p.Id);
                await CloseAsync(session, recall, holds.Select(h => h.Hold).ToArray(), reason!.Trim())
                    .ConfigureAwait(false);
                await session.DeriveAfterReleaseAsync(pieces.Values).ConfigureAwait(false);
                await LedgerStore
                    .AppendAllAsync(
                        session,
                        [
                            ("site", new RecallEnded(recall, reason.Trim(), holds.Count)),
                            .. holds.Select(h =>
                                (
                                    pieces[h.Piece].Mark,
                                    (LedgerRecord)new HoldReleased(h.Hold, Code.Of(HoldCause.Recall), reason.Trim())
                                )
                            ),
                        ]
                    )
                    .ConfigureAwait(false);
                return null;
            },
            cancel
        );

    private static async Task CloseAsync(Session session, Guid recall, Guid[] holds, string reason)
    {
        await session
            .WriteAsync(
                "insert into release (hold_id, reason, released_at, released_by) select unnest($1::uuid[]), $2, $3, $4",
                holds,
                reason,
                session.Stamp.At,
                session.Stamp.Actor.Id
            )
            .ConfigureAwait(false);
        await session
            .WriteAsync(
                "insert into recall_end (recall_id, reason, at, by_person) values ($1, $2, $3, $4)",
                recall,
                reason,
                session.Stamp.At,
                session.Stamp.Actor.Id
            )
            .ConfigureAwait(false);
    }

    private Task<List<Piece>> OfAsync(string where, object value, int most, CancellationToken cancel) =>
        database
            .Command(
                $"""
                select {PieceRows.Columns} from piece p join store s on s.id = p.store_id
                where {where}
                order by s.position, p.peg, p.mark
                limit {most}
                """
            )
            .Positional([value])
            .ListAsync(PieceRows.From, cancel);

    private static RecallRow From(NpgsqlDataReader r) =>
        new(
            r.Get<Guid>("id"),
            RecalledGear.MatchFrom(r),
            r.Get<string>("reason"),
            r.Get<string>("source"),
            r.Get<DateTimeOffset>("at"),
            r.Get<Guid>("by_person"),
            r.Get<string>("by_name"),
            r.TextOrNull("end_reason"),
            r.ValueOrNull<DateTimeOffset>("ended_at"),
            r.Get<int>("held"),
            r.Get<int>("all_held")
        );
}
