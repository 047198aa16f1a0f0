using Keralith.Core.Custody;
using Npgsql;

namespace Keralith.Data;

/// <summary>A hold, open or closed.</summary>
public sealed record HoldRow(
    Guid Id,
    Guid Piece,
    HoldCause Cause,
    string Reason,
    Guid? Inspection,
    DateTimeOffset PlacedAt,
    string PlacedBy,
    DateTimeOffset? ReleasedAt,
    string? ReleasedBy,
    string? ReleaseReason
)
{
    public bool IsOpen => ReleasedAt is null;
}

/// <summary>A step towards scrap.</summary>
public sealed record DisposalRow(
    string Step,
    string Reason,
    string? Method,
    string? Witness,
    DateTimeOffset At,
    string By
);

/// <summary>The cage: holds, releases, new tags, condemning and destruction.</summary>
public sealed class CustodyStore(Database database)
{
    private const string HoldColumns = """
        select h.id, h.piece_id, h.cause, h.reason, h.inspection_id, h.placed_at, p.name as placed_by, r.released_at, q.name as released_by, r.reason as release_reason
        from hold h
        join person p on p.id = h.placed_by
        left join release r on r.hold_id = h.id
        left join person q on q.id = r.released_by
        """;

    /// <summary>All holds of a piece, newest first.</summary>
    public Task<List<HoldRow>> HoldsAsync(Guid piece, CancellationToken cancel) =>
        database.AskAsync(t => Holds(t, piece), cancel);

    /// <summary>The same, on a trip made with other questions.</summary>
    public static Asked<List<HoldRow>> Holds(Trip trip, Guid piece) =>
        trip.All(
            new NpgsqlBatchCommand($"{HoldColumns} where h.piece_id = $1 order by h.placed_at desc").Positional(piece),
            Hold
        );

    /// <summary>Every open hold of what is in the cage, oldest first.</summary>
    public Task<List<HoldRow>> OpenHoldsAsync(CancellationToken cancel) =>
        database
            .Command(
                $"""
                {HoldColumns}
                where r.hold_id is null and h.piece_id in (select id from piece where state = 'held')
                order by h.placed_at
                """
            )
            .ListAsync(Hold, cancel);

    public Task<List<DisposalRow>> DisposalsAsync(Guid piece, CancellationToken cancel) =>
        database.AskAsync(t => Disposals(t, piece), cancel);

    /// <summary>The same, on a trip made with other questions.</summary>
    public static Asked<List<DisposalRow>> Disposals(Trip trip, Guid piece) =>
        trip.All(
            new NpgsqlBatchCommand(
                """
                select d.step, d.reason, d.method || coalesce(' (recorded wrongly: ' || r.why || ')', '') as method, w.name as witness,
                  d.at, b.name as by_name
                from disposal d join person b on b.id = d.by_person left join person w on w.id = d.witness
                left join put_right r on r.record_id = d.id
                where d.piece_id = $1 order by d.at desc
                """
            ).Positional(piece),
            r => new DisposalRow(
                r.Get<string>("step"),
                r.Get<string>("reason"),
                r.TextOrNull("method"),
                r.TextOrNull("witness"),
                r.Get<DateTimeOffset>("at"),
                r.Get<string>("by_name")
            )
        );

    /// <summary>Takes a piece out of use on a doubt or after an event. Anyone may; whatever else has changed meanwhile.</summary>
    /// <param name="photo">A picture of what is the matter; null: none.</param>
    public Task<Checked<Recorded>> HoldAsync(
        Guid piece,
        HoldCause cause,
        string reason,
        Stamp stamp,
        CancellationToken cancel,
        NewFile? photo = null
    ) =>
        Session.RunAsync(
            database,
            stamp,
            async session =>
            {
                if (await session.LockAsync(piece).ConfigureAwait(false) is not { } row)
                    return Refusals.NoSuchPiece;
                var held = Cage.Hold(row.State, cause, reason, session.By);
                if (!held.Ok)
                    return held.Refusal;

                // The hold has the submission's id, so that a picture can be kept with it.
                await session.HoldAsync(row.Id, held.Value.Hold!, stamp.Submission).ConfigureAwait(false);
                if (photo is not null)
                    await FileStore.AttachToHoldAsync(session, row, stamp.Submission, photo).ConfigureAwait(false);
                await session.StopAsync(row, held.Value.State).ConfigureAwait(false);
                await session.LedgerAsync(held.Value.Record, row.Mark).ConfigureAwait(false);
                return null;
            },
            cancel
        );

    /// <summary>Closes a hold, as its cause allows.</summary>
    public Task<Checked<Recorded>> ReleaseAsync(
        Guid piece,
        int version,
        Guid hold,
        string reason,
        Stamp stamp,
        CancellationToken cancel
    ) =>
        Session.RunAsync(
            database,
            stamp,
            session =>
            {
                var beside = new Trip();
                var open = Holding.OpenHolds(beside, piece);
                var inspections = Derivation.Inspections(beside, piece);
                var retagged = Holding.Retagged(beside, piece);
                var movers = Holding.Movers(beside, piece);
                var lacksProof = AwayStore.LacksProof(beside, piece);
                return session.OnPieceAsync(
                    piece,
                    version,
                    async row =>
                    {
                        var facts = new ReleaseFacts(
                            row.State,
                            open.Value,
                            inspections.Value,
                            retagged.Value,
                            session.Site.OneMayDoBoth
                        )
                        {
                            Movers = movers.Value,
                            LacksProof = lacksProof.Value,
                            Locked = row.Locked,
                        };
                        var outcome = Cage.Release(facts, hold, reason, session.By);
                        if (outcome.Ok)
                            await session.LetGoAsync(hold, reason.Trim()).ConfigureAwait(false);
                        return outcome;
                    },
                    beside
                );
            },
            cancel
        );

    /// <summary>
    /// Records that the identity was proved and a new tag fitted. Its transcription begins as the old one's, which
    /// stays readable.
    /// </summary>
    public Task<Checked<Recorded>> RetagAsync(
        Guid piece,
        int version,
        string proof,
        string fittedBy,
        Stamp stamp,
        CancellationToken cancel
    ) => Session.RunAsync(database, stamp, session => session.OnPieceAsync(piece, version, async row =>
                {
                    var outcome = Cage.Retag(row.State, proof, fittedBy, session.By);
                    if (outcome.Ok)
                        await WriteRetagAsync(session, row.Id, proof.Trim(), fittedBy.Trim()).ConfigureAwait(false);
                    return outcome;
                }), cancel);

    /// <summary>Condemns a piece: it will never lift again.</summary>
    public Task<Checked<Recorded>> CondemnAsync(
        Guid piece,
        int version,
        string reason,
        Stamp stamp,
        CancellationToken cancel
    ) =>
        Session.RunAsync(
            database,
            stamp,
            async session =>
            {
                // Drafts before pieces, as everywhere.
                await session
                    .ReadAsync(
                        "select 1 from draft where piece_id = $1 order by id for update",
                        r => r.GetInt32(0),
                        piece
                    )
                    .ConfigureAwait(false);
                return await session
                    .OnPieceAsync(piece, version, async row =>
                    {
                        var outcome = Cage.Condemn(row.State, reason, session.By);
                        if (!outcome.Ok)
                            return outcome;
                        await DisposeAsync(session, row.Id, "condemned", reason.Trim(), null, null)
                            .ConfigureAwait(false);
                        await session.WriteAsync("delete from draft where piece_id = $1", row.Id).ConfigureAwait(false);
                        return outcome;
                    })
                    .ConfigureAwait(false);
            },
            cancel
        );

    /// <summary>Records the destruction of a condemned piece.</summary>
    /// <param name="witness">The witness, another person, who confirmed it by their own sign-in; null: nobody did.</param>
    public Task<Checked<Recorded>> DestroyAsync(
        Guid piece,
        int version,
        string method,
        Actor? witness,
        string note,
        Stamp stamp,
        CancellationToken cancel
    ) => Session.RunAsync(database, stamp, session => session.OnPieceAsync(piece, version, async row =>
                {
                    var outcome = Cage.Destroy(
                        row.State,
                        method,
                        witness?.Id,
                        witness?.Username ?? string.Empty,
                        note,
                        session.By,
                        row.Locked
                    );
                    if (outcome.Ok)
                        await DisposeAsync(session, row.Id, "destroyed", note.Trim(), method.Trim(), witness!.Id)
                            .ConfigureAwait(false);
                    return outcome;
                }), cancel);

    private static async Task WriteRetagAsync(Session session, Guid piece, string proof, string fittedBy)
    {
        var stamp = session.Stamp;
        await session
            .WriteAsync(
                "insert into retag (id, piece_id, proof, fitted_by, at, by_person) values ($1, $2, $3, $4, $5, $6)",
                stamp.Submission,
                piece,
                proof,
                fittedBy,
                stamp.At,
                stamp.Actor.Id
            )
            .ConfigureAwait(false);
        await session
            .WriteAsync(
                """
                insert into tag_record (piece_id, rated_load, design_factor, rated_for, entries, words, why, at, by_person)
                select p.id, p.rated_load, p.design_factor, p.rated_for, p.tag_entries,
                  coalesce((select t.words from tag_record t where t.piece_id = p.id order by t.id desc limit 1), '{}'),
                  'new tag fitted', $2, $3
                from piece p
                where p.id = $1
                """,
                piece,
                stamp.At,
                stamp.Actor.Id
            )
            .ConfigureAwait(false);
    }

    private static Task DisposeAsync(
        Session session,
        Guid piece,
        string step,
        string reason,
        string? method,
        Guid? witness
    ) =>
        session.WriteAsync(
            """
            insert into disposal (id, piece_id, step, reason, method, witness, at, by_person)
            values ($1, $2, $3, $4, $5, $6, $7, $8)
            """,
            session.Stamp.Submission,
            piece,
            step,
            reason,
            method,
            witness,
            session.Stamp.At,
            session.Stamp.Actor.Id
        );

    private static HoldRow Hold(NpgsqlDataReader r) =>
        new(
            r.Get<Guid>("id"),
            r.Get<Guid>("piece_id"),
            Code.Parse<HoldCause>(r.Get<string>("cause")),
            r.Get<string>("reason"),
            r.ValueOrNull<Guid>("inspection_id"),
            r.Get<DateTimeOffset>("placed_at"),
            r.Get<string>("placed_by"),
            r.ValueOrNull<DateTimeOffset>("released_at"),
            r.TextOrNull("released_by"),
            r.TextOrNull("release_reason")
        );
}
