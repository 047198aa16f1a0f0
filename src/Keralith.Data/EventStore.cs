using Keralith.Core.Custody;
using Keralith.Core.People;
using Npgsql;

namespace Keralith.Data;

/// <summary>An event on record, with what else it happened to.</summary>
public sealed record EventRow(
    Guid Id,
    GearEventKind Kind,
    DateOnly Happened,
    string What,
    string By,
    IReadOnlyList<string> Marks
);

/// <summary>Events: everything that was there is held in one go, until an inspection after it and a qualified person let it go.</summary>
public sealed class EventStore(Database database, SiteStore sites)
{
    private readonly PieceChanges _changes = new(database, sites);

    /// <summary>The events of a piece, newest first.</summary>
    public Task<List<EventRow>> OfAsync(Guid piece, CancellationToken cancel) =>
        database.AskAsync(t => Of(t, piece), cancel);

    /// <summary>The same, on a trip made with other questions.</summary>
    public static Asked<List<EventRow>> Of(Trip trip, Guid piece) =>
        trip.All(
            new NpgsqlBatchCommand(
                """
                select e.id, e.kind, e.happened, e.what, w.name, array(select p.mark from gear_event_piece o join piece p on p.id = o.piece_id where o.event_id = e.id order by p.mark) as marks
                from gear_event e join gear_event_piece x on x.event_id = e.id join person w on w.id = e.by_person where x.piece_id = $1 order by e.happened desc, e.at desc limit 20
                """
            ).Positional(piece),
            r => new EventRow(
                r.Get<Guid>("id"),
                Enum.GetValues<GearEventKind>().First(k => Code.Of(k) == r.Get<string>("kind")),
                r.Get<DateOnly>("happened"),
                r.Get<string>("what"),
                r.Get<string>("name"),
                r.Get<string[]>("marks")
            )
        );

    /// <summary>Records an event and holds every piece it happened to, all or none. Anybody may.</summary>
    public Task<Checked<Recorded>> RecordAsync(
        IReadOnlyCollection<Guid> pieces,
        GearEventKind kind,
        DateOnly happened,
        string what,
        Stamp stamp,
        CancellationToken cancel
    )
    {
        var begun = false;
        return _changes.RunAllAsync(
            pieces,
            Right.Hold,
            stamp,
            "gear.event",
            async (transaction, row) =>
            {
                if (
                    GearEvents.RefusalOf(happened, what, DateOnly.FromDateTime(stamp.At.UtcDateTime).AddDays(1)) is
                    { } refusal
                )
                    return new Refusal(refusal);
                if (!begun)
                    await BeginAsync(transaction, kind, happened, what, stamp, cancel).ConfigureAwait(false);
                begun = true;
                var state = PieceLife.AfterHold(row.State);
                if (!state.Ok)
                    return new Refusal($"{row.Mark}: {state.Fault}");
                await transaction
                    .Command("insert into gear_event_piece (event_id, piece_id) values ($1, $2)")
                    .Positional(stamp.Submission, row.Id)
                    .RunAsync(cancel)
                    .ConfigureAwait(false);
                await CustodyStore
                    .InsertHoldAsync(
                        transaction,
                        Guid.CreateVersion7(),
                        row.Id,
                        HoldCause.Event,
                        $"{GearEvents.Name(kind)} on {happened:yyyy-MM-dd}: {what.Trim()}",
                        null,
                        stamp,
                        cancel
                    )
                    .ConfigureAwait(false);
                return new Change(
                    state.Value,
                    new
                    {
                        @event = stamp.Submission,
                        kind = Code.Of(kind),
                        happened,
                        what = what.Trim(),
                    }
                );
            },
            cancel
        );
    }

    private static Task BeginAsync(
        NpgsqlTransaction transaction,
        GearEventKind kind,
        DateOnly happened,
        string what,
        Stamp stamp,
        CancellationToken cancel
    ) =>
        transaction
            .Command("insert into gear_event (id, kind, happened, what, at, by_person) values ($1, $2, $3, $4, $5, $6)")
            .Positional(stamp.Submission, Code.Of(kind), happened, what.Trim(), stamp.At, stamp.Actor.Id)
            .RunAsync(cancel);
}
