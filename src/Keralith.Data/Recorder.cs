using Keralith.Core.Custody;
using Keralith.Core.Judgement;
using Keralith.Core.Schedule;
using Npgsql;

namespace Keralith.Data;

/// <summary>
/// Carries out one command in one transaction: once per client-made id, whole or not at all, the state of the piece derived
/// and the ledger entry appended before it commits.
/// </summary>
internal sealed class Recorder(Database database)
{
    /// <summary>Said when somebody else was quicker.</summary>
    public const string Conflict =
        "Somebody else has changed this piece since you opened it. Nothing of yours was saved or lost: look at what it says now, then send it again.";

    /// <summary>Carries out a command.</summary>
    /// <param name="stamp">Who, when and under which id.</param>
    /// <param name="work">The command; returns the words of a refusal, or null when it went well.</param>
    public async Task<Checked<Recorded>> RecordAsync(
        Stamp stamp,
        Func<NpgsqlTransaction, Task<string?>> work,
        CancellationToken cancel
    )
    {
        await using var connection = await database.OpenAsync(cancel).ConfigureAwait(false);
        await using var transaction = await connection.BeginTransactionAsync(cancel).ConfigureAwait(false);
        var first = await transaction
            .Command("insert into submission (id, at) values ($1, $2) on conflict do nothing")
            .Positional(stamp.Submission, stamp.At)
            .RunAsync(cancel)
            .ConfigureAwait(false);
        if (first == 0)
            return new Recorded(Repeated: true);
        if (await work(transaction).ConfigureAwait(false) is { } refusal)
            return new Refusal(refusal);
        await transaction.CommitAsync(cancel).ConfigureAwait(false);
        return new Recorded(Repeated: false);
    }

    /// <summary>The piece, locked until the transaction ends; null when there is none. Locked first and read then: what others committed while this waited is seen.</summary>
    /// <param name="beside">What else is asked behind the lock, on the same trip; null: nothing.</param>
    public static async Task<PieceRow?> LockAsync(
        NpgsqlTransaction transaction,
        Guid piece,
        CancellationToken cancel,
        Trip? beside = null
    )
    {
        var trip = new Trip();
        trip.All(new NpgsqlBatchCommand("select 1 from piece where id = $1 for update").Positional(piece), r =>
            r.GetInt32(0)
        );
        var locked = trip.All(
            new NpgsqlBatchCommand(
                $"select {PieceRow.Columns} from piece p join store s on s.id = p.store_id where p.id = $1"
            ).Positional(piece),
            PieceRow.From
        );
        if (beside is not null)
            trip.Add(beside);
        await trip.MakeAsync(transaction.Connection!, cancel).ConfigureAwait(false);
        return locked.Value.FirstOrDefault();
    }

    /// <summary>Keeps Core's answers on the piece: state, last verdict, open holds and due dates, from the records as they now stand.</summary>
    public static async Task DeriveAsync(
        NpgsqlTransaction transaction,
        Site site,
        PieceRow piece,
        PieceState state,
        CancellationToken cancel
    )
    {
        var trip = new Trip();
        var asked = Inspections(trip, piece.Id);
        var report = trip.All(
            new NpgsqlBatchCommand(
                "select max(c.last_periodic) as carried from carried_over c join carried_accepted a using (piece_id) where c.piece_id = $1"
            ).Positional(piece.Id),
            r => r.ValueOrNull<DateOnly>("carried")
        );
        await trip.MakeAsync(transaction.Connection!, cancel).ConfigureAwait(false);
        var (inspections, carried) = (asked.Value, report.Value[0]);
        var due = DueDates.From(
            piece.Gear.Family,
            piece.ServiceClass,
            site.Books,
            inspections
                .Where(i => i.Signed.IsClean)
                .Select(i => new AcceptedInspection(i.Signed.Kind, i.InspectedOn, i.NextBy))
                .Concat(Carried(carried))
        );
        var standing = Standing.Of(inspections.Select(i => i.Signed)) is { } verdict ? Code.Of(verdict) : null;
        await transaction
            .Command(
                """
                update piece set state = $2, verdict = $3, periodic_due = $4, frequent_due = $5, carried = $6, last_by = $8, touched = greatest(coalesce($7, touched), (select max(i.at at time zone 'UTC')::date from issue i where i.piece_id = $1)), version = version + 1,
                  open_holds = (select count(*) from hold h left join release r on r.hold_id = h.id where h.piece_id = $1 and r.hold_id is null)
                where id = $1
                """
            )
            .Positional(
                piece.Id,
                Code.Of(state),
                standing,
                due.Periodic,
                due.Frequent,
                carried is not null && !inspections.Any(i => i.Signed.IsFull),
                inspections.Count == 0 ? (DateOnly?)null : inspections.Max(i => i.InspectedOn),
                inspections.Count == 0 ? (Guid?)null : inspections[^1].MadeBy
            )
            .RunAsync(cancel)
            .ConfigureAwait(false);
    }

    /// <summary>The accepted report of gear taken over counts as a periodic inspection of its day.</summary>
    public static IEnumerable<AcceptedInspection> Carried(DateOnly? lastPeriodic) =>
        lastPeriodic is { } day ? [new(InspectionKind.Periodic, day)] : [];

    /// <summary>The signed inspections of a piece that count, oldest first; a correction stands where the record it corrects stood.</summary>
    public static Asked<
        List<(SignedInspection Signed, DateOnly InspectedOn, DateOnly? NextBy, Guid MadeBy)>
    > Inspections(Trip trip, Guid piece) =>
        trip.All(
            new NpgsqlBatchCommand(
                "select kind, verdict, counts_from, seen_at is not null as correction, signed_by, inspected_on, next_by, coalesce(made_by, signed_by) as made_by from standing_inspection where piece_id = $1 order by counts_from, id"
            ).Positional(piece),
            r =>
                (
                    new SignedInspection(
                        Code.Parse<InspectionKind>(r.Get<string>("kind")),
                        Code.Parse<VerdictKind>(r.Get<string>("verdict")),
                        r.Get<DateTimeOffset>("counts_from"),
                        r.Get<Guid>("signed_by")
                    )
                    {
                        IsCorrection = r.Get<bool>("correction"),
                    },
                    r.Get<DateOnly>("inspected_on"),
                    r.ValueOrNull<DateOnly>("next_by"),
                    r.Get<Guid>("made_by")
                )
        );
}
