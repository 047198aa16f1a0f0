using Keralith.Core.Custody;
using Keralith.Core.People;
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
public sealed class CustodyStore(Database database, SiteStore sites)
{
    private readonly PieceChanges _changes = new(database, sites);

    private const string HoldColumns = """
        select h.id, h.piece_id, h.cause, h.reason, h.inspection_id, h.placed_at, p.name as placed_by, r.released_at, q.name as released_by, r.reason as release_reason
        from hold h join person p on p.id = h.placed_by left join release r on r.hold_id = h.id left join person q on q.id = r.released_by
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

    /// <summary>Every open hold of what is not retired, oldest first.</summary>
    public Task<List<HoldRow>> OpenHoldsAsync(CancellationToken cancel) =>
        database
            .Command(
                $"""
                {HoldColumns} where r.hold_id is null and h.piece_id in (select id from piece where state = 'held') order by h.placed_at
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
                select d.step, d.reason, d.method, w.name as witness, d.at, b.name as by_name
                from disposal d join person b on b.id = d.by_person left join person w on w.id = d.witness
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
        _changes.RunAsync(
            piece,
            null,
            Right.Hold,
            stamp,
            "piece.held",
            async (transaction, row) =>
            {
                if (string.IsNullOrWhiteSpace(reason))
                    return new Refusal("Write what is the matter with it.");
                if (cause is not (HoldCause.Doubt or HoldCause.Event or HoldCause.Marking))
                    return new Refusal("Choose why it is held.");
                var state = PieceLife.AfterHold(row.State);
                if (!state.Ok)
                    return new Refusal(state.Fault!);
                await InsertHoldAsync(transaction, stamp.Submission, row.Id, cause, reason.Trim(), null, stamp, cancel)
                    .ConfigureAwait(false);
                if (photo is not null)
                {
                    var file = Guid.NewGuid();
                    await FileStore
                        .InsertAsync(transaction, file, [(row.Mark, row.Id)], photo, stamp, cancel)
                        .ConfigureAwait(false);
                    await transaction
                        .Command("insert into hold_photo (hold_id, attachment_id) values ($1, $2)")
                        .Positional(stamp.Submission, file)
                        .RunAsync(cancel)
                        .ConfigureAwait(false);
                }

                return new Change(state.Value, new { cause = Code.Of(cause), reason = reason.Trim() });
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
        _changes.RunAsync(
            piece,
            version,
            Right.Read,
            stamp,
            "hold.released",
            async (transaction, row) =>
            {
                var trip = new Trip();
                var open = trip.All(
                    new NpgsqlBatchCommand(
                        "select h.id, h.cause, h.placed_at from hold h left join release r on r.hold_id = h.id where h.piece_id = $1 and r.hold_id is null"
                    ).Positional(row.Id),
                    r =>
                        (
                            Id: r.Get<Guid>("id"),
                            Hold: new OpenHold(
                                Code.Parse<HoldCause>(r.Get<string>("cause")),
                                r.Get<DateTimeOffset>("placed_at")
                            )
                        )
                );
                var (signed, retagged) = (
                    Recorder.Inspections(trip, row.Id),
                    trip.All(
                        new NpgsqlBatchCommand("select max(at) as at from retag where piece_id = $1").Positional(
                            row.Id
                        ),
                        r => r.ValueOrNull<DateTimeOffset>("at")
                    )
                );
                await trip.MakeAsync(transaction.Connection!, cancel).ConfigureAwait(false);
                var holds = open.Value;
                if (holds.All(h => h.Id != hold))
                    return new Refusal("This hold is closed already.");
                var inspections = signed.Value.Select(i => i.Signed).ToList();
                var site = await sites.GetAsync(cancel).ConfigureAwait(false);
                var may = HoldRules.MayClose(
                    holds.Single(h => h.Id == hold).Hold,
                    new(stamp.Actor.Id, stamp.Actor.Role),
                    reason,
                    inspections,
                    retagged.Value[0],
                    site.OneMayDoBoth
                );
                if (!may.Ok)
                    return new Refusal(may.Fault!);
                var state = PieceLife.AfterRelease(
                    row.State,
                    holds.Count - 1,
                    inspections.Any(i => i is { IsClean: true, IsFull: true })
                );
                if (!state.Ok)
                    return new Refusal(state.Fault!);
                await transaction
                    .Command("insert into release (hold_id, reason, released_at, released_by) values ($1, $2, $3, $4)")
                    .Positional(hold, reason.Trim(), stamp.At, stamp.Actor.Id)
                    .RunAsync(cancel)
                    .ConfigureAwait(false);
                return new Change(
                    state.Value,
                    new
                    {
                        hold,
                        cause = Code.Of(may.Value.Cause),
                        reason = reason.Trim(),
                    }
                );
            },
            cancel
        );

    /// <summary>Records that the identity was proved and a new tag fitted. Its transcription begins as the old one's, which stays readable.</summary>
    public Task<Checked<Recorded>> RetagAsync(
        Guid piece,
        int version,
        string proof,
        string fittedBy,
        Stamp stamp,
        CancellationToken cancel
    ) =>
        _changes.RunAsync(
            piece,
            version,
            Right.Retag,
            stamp,
            "piece.retagged",
            async (transaction, row) =>
            {
                if (row.State.IsRetired())
                    return new Refusal("This piece is retired.");
                if (string.IsNullOrWhiteSpace(proof))
                    return new Refusal("Write how its identity was proved.");
                if (string.IsNullOrWhiteSpace(fittedBy))
                    return new Refusal("Write who fitted the new tag: the maker or a qualified person.");
                await transaction
                    .Command(
                        "insert into retag (id, piece_id, proof, fitted_by, at, by_person) values ($1, $2, $3, $4, $5, $6)"
                    )
                    .Positional(stamp.Submission, row.Id, proof.Trim(), fittedBy.Trim(), stamp.At, stamp.Actor.Id)
                    .RunAsync(cancel)
                    .ConfigureAwait(false);
                await transaction
                    .Command(
                        """
                        insert into tag_record (piece_id, rated_load, design_factor, rated_for, entries, words, why, at, by_person)
                        select p.id, p.rated_load, p.design_factor, p.rated_for, p.tag_entries, coalesce((select t.words from tag_record t where t.piece_id = p.id order by t.id desc limit 1), '{}'), 'new tag fitted', $2, $3
                        from piece p where p.id = $1
                        """
                    )
                    .Positional(row.Id, stamp.At, stamp.Actor.Id)
                    .RunAsync(cancel)
                    .ConfigureAwait(false);
                return new Change(row.State, new { proof = proof.Trim(), fittedBy = fittedBy.Trim() });
            },
            cancel
        );

    /// <summary>Condemns a piece: it will never lift again.</summary>
    public Task<Checked<Recorded>> CondemnAsync(
        Guid piece,
        int version,
        string reason,
        Stamp stamp,
        CancellationToken cancel
    ) =>
        _changes.RunAsync(
            piece,
            version,
            Right.Condemn,
            stamp,
            "piece.condemned",
            async (transaction, row) =>
            {
                if (string.IsNullOrWhiteSpace(reason))
                    return new Refusal("Write why it is condemned.");
                var state = PieceLife.AfterCondemning(row.State);
                if (!state.Ok)
                    return new Refusal(state.Fault!);
                await DisposeAsync(transaction, row.Id, "condemned", reason.Trim(), null, null, stamp, cancel)
                    .ConfigureAwait(false);
                await transaction
                    .Command("delete from draft where piece_id = $1")
                    .Positional(row.Id)
                    .RunAsync(cancel)
                    .ConfigureAwait(false);
                return new Change(state.Value, new { reason = reason.Trim() });
            },
            cancel
        );

    /// <summary>Records the destruction of a condemned piece.</summary>
    /// <param name="witness">Sign-in name of the witness: another person.</param>
    public Task<Checked<Recorded>> DestroyAsync(
        Guid piece,
        int version,
        string method,
        string witness,
        string note,
        Stamp stamp,
        CancellationToken cancel
    ) =>
        _changes.RunAsync(
            piece,
            version,
            Right.Destroy,
            stamp,
            "piece.destroyed",
            async (transaction, row) =>
            {
                if (string.IsNullOrWhiteSpace(method))
                    return new Refusal("Write how it was destroyed, such as cut through every link.");
                var saw = await transaction
                    .Command("select id, name from person where username = $1")
                    .Positional(witness)
                    .ListAsync(r => r.Get<Guid>("id"), cancel)
                    .ConfigureAwait(false);
                if (saw.Count == 0)
                    return new Refusal("Name the witness.");
                if (saw[0] == stamp.Actor.Id)
                    return new Refusal("The witness is another person than the one who records it.");
                var state = PieceLife.AfterDestruction(row.State);
                if (!state.Ok)
                    return new Refusal(state.Fault!);
                await DisposeAsync(transaction, row.Id, "destroyed", note.Trim(), method.Trim(), saw[0], stamp, cancel)
                    .ConfigureAwait(false);
                return new Change(
                    state.Value,
                    new
                    {
                        method = method.Trim(),
                        witness,
                        note = note.Trim(),
                    }
                );
            },
            cancel
        );

    /// <summary>Puts a hold on, and tells those who planned to lift with the piece.</summary>
    internal static async Task InsertHoldAsync(
        NpgsqlTransaction transaction,
        Guid id,
        Guid piece,
        HoldCause cause,
        string reason,
        Guid? inspection,
        Stamp stamp,
        CancellationToken cancel
    )
    {
        await transaction
            .Command(
                "insert into hold (id, piece_id, cause, reason, inspection_id, placed_at, placed_by) values ($1, $2, $3, $4, $5, $6, $7)"
            )
            .Positional(id, piece, Code.Of(cause), reason, inspection, stamp.At, stamp.Actor.Id)
            .RunAsync(cancel)
            .ConfigureAwait(false);
        await LiftStore.TellOfHoldAsync(transaction, piece, reason, stamp, cancel).ConfigureAwait(false);
    }

    private static Task DisposeAsync(
        NpgsqlTransaction transaction,
        Guid piece,
        string step,
        string reason,
        string? method,
        Guid? witness,
        Stamp stamp,
        CancellationToken cancel
    ) =>
        transaction
            .Command(
                "insert into disposal (id, piece_id, step, reason, method, witness, at, by_person) values ($1, $2, $3, $4, $5, $6, $7, $8)"
            )
            .Positional(stamp.Submission, piece, step, reason, method, witness, stamp.At, stamp.Actor.Id)
            .RunAsync(cancel);

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
