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

    /// <summary>All recalls, the standing ones first.</summary>
    public Task<List<RecallRow>> AllAsync(CancellationToken cancel) =>
        database.Command($"{Columns} order by e.at is not null, r.at desc limit 200").ListAsync(From, cancel);

    public Task<RecallRow?> FindAsync(Guid id, CancellationToken cancel) =>
        database.Command($"{Columns} where r.id = $1").Positional(id).FirstAsync(From, cancel);

    /// <summary>The pieces a recall would hold, by store and peg.</summary>
    /// <param name="most">How many are read in full; how many there are is told beside.</param>
    public async Task<(List<Piece> Pieces, int All)> PreviewAsync(RecallMatch match, int most, CancellationToken cancel)
    {
        var makers = (await database.AskAsync(Makers, cancel)).Where(match.MeansMaker).ToArray();
        var ids = Meant(await database.AskAsync(t => OfMakers(t, makers), cancel), match).ToList();
        return (await OfAsync("p.id = any($1)", ids.ToArray(), most, cancel), ids.Count);
    }

    /// <summary>How many pieces not retired have no maker on record: no recall finds them.</summary>
    public async Task<int> MakerlessAsync(CancellationToken cancel) =>
        (
            await database
                .Command(
                    $"select count(*)::int as n from piece where maker is null and state not in {Fragments.Retired}"
                )
                .ListAsync(r => r.Get<int>("n"), cancel)
                .ConfigureAwait(false)
        )[0];

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
                var makers = (await session.AskAsync(Makers).ConfigureAwait(false)).Where(match.MeansMaker).ToArray();
                var made = await session.AskAsync(t => OfMakers(t, makers)).ConfigureAwait(false);
                var held = await StopAsync(session, Meant(made, match), stamp.Submission, reason.Trim())
                    .ConfigureAwait(false);
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
                var found = await session.ReadAsync($"{Columns} where r.id = $1", From, recall).ConfigureAwait(false);
                if (found is not [var row])
                    return Refusal.NotFound("There is no such recall.");
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

    /// <summary>Holds by the standing recalls what was just registered, or entered otherwise; one question, however many stand.</summary>
    internal static async Task CatchAsync(Session session, IReadOnlyCollection<Guid> pieces)
    {
        var trip = new Trip();
        var standing = trip.All(
            new NpgsqlBatchCommand(
                """
                select id, maker, model, batch, serial_from, serial_to, since_from, since_until, reason
                from recall r
                where not exists (select from recall_end e where e.recall_id = r.id)
                order by at
                """
            ),
            r => (Id: r.Get<Guid>("id"), Match: MatchFrom(r), Reason: r.Get<string>("reason"))
        );
        var candidates = Candidates(trip, "id = any($1)", pieces.ToArray());
        var held = trip.All(
            new NpgsqlBatchCommand(
                "select recall_id, piece_id from hold where recall_id is not null and piece_id = any($1)"
            ).Positional(pieces.ToArray()),
            r => (Recall: r.GetGuid(0), Piece: r.GetGuid(1))
        );
        await session.AskAsync(trip).ConfigureAwait(false);

        // Whose hold was let go before is not held again by the same recall.
        var before = held.Value.ToHashSet();
        foreach (var (recall, match, reason) in standing.Value)
        {
            var meant = Meant(candidates.Value, match).Where(id => !before.Contains((recall, id))).ToList();
            if (meant.Count == 0)
                continue;
            var records = await StopAsync(session, meant, recall, reason).ConfigureAwait(false);
            await LedgerStore.AppendAllAsync(session, records).ConfigureAwait(false);
        }
    }

    private static async Task<List<(string Subject, LedgerRecord Record)>> StopAsync(
        Session session,
        IEnumerable<Guid> ids,
        Guid recall,
        string reason
    )
    {
        var stopped = (await session.LockAllAsync(ids).ConfigureAwait(false))
            .Select(p => (Piece: p, Outcome: Recalls.Stop(p.State, recall, reason)))
            .Where(p => p.Outcome is not null)
            .ToList();
        if (stopped.Count == 0)
            return [];
        await session
            .HoldAllAsync(
                [.. stopped.Select(s => (Guid.CreateVersion7(), s.Piece.Id, s.Outcome!.Hold!, (Guid?)null))],
                recall
            )
            .ConfigureAwait(false);
        await session.DeriveManyAsync(stopped.Select(s => (s.Piece, s.Outcome!.State))).ConfigureAwait(false);
        return stopped.ConvertAll(s => (s.Piece.Mark, s.Outcome!.Record));
    }

    /// <summary>The makers on record. Core says which of them is meant: a database's lower case is that of its locale.</summary>
    private static Asked<List<string>> Makers(Trip trip) =>
        trip.All(
            new NpgsqlBatchCommand(
                $"select distinct maker from piece where maker is not null and state not in {Fragments.Retired}"
            ),
            r => r.GetString(0)
        );

    private static Asked<List<(Guid Id, RecallCandidate Candidate)>> OfMakers(Trip trip, string[] makers) =>
        Candidates(trip, "lower(maker) = any(array(select lower(m) from unnest($1::text[]) m))", makers);

    private static IEnumerable<Guid> Meant(
        IEnumerable<(Guid Id, RecallCandidate Candidate)> among,
        RecallMatch match
    ) => among.Where(c => match.Matches(c.Candidate)).Select(c => c.Id);

    /// <summary>What bears on a recall of some pieces that are not retired.</summary>
    private static Asked<List<(Guid Id, RecallCandidate Candidate)>> Candidates(
        Trip trip,
        string where,
        Array values
    ) =>
        trip.All(
            new NpgsqlBatchCommand(
                $"""
                select id, maker, model, batch, serial, in_service_since
                from piece
                where {where} and state not in {Fragments.Retired}
                """
            ).Positional([values]),
            r =>
                (
                    r.Get<Guid>("id"),
                    new RecallCandidate(
                        r.TextOrNull("maker"),
                        r.TextOrNull("model"),
                        r.TextOrNull("batch"),
                        r.TextOrNull("serial"),
                        r.ValueOrNull<DateOnly>("in_service_since")
                    )
                )
        );

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
            MatchFrom(r),
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

    private static RecallMatch MatchFrom(NpgsqlDataReader r) =>
        new(
            r.Get<string>("maker"),
            r.TextOrNull("model"),
            r.TextOrNull("batch"),
            r.TextOrNull("serial_from"),
            r.TextOrNull("serial_to"),
            r.ValueOrNull<DateOnly>("since_from"),
            r.ValueOrNull<DateOnly>("since_until")
        );
}
