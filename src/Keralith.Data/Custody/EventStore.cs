using Keralith.Core.Custody;
using Keralith.Core.Ledger;
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

/// <summary>
/// Events: everything that was there is held in one go, until an inspection after it and a qualified person let it go.
/// </summary>
public sealed class EventStore(Database database)
{
    /// <summary>The events of a piece, newest first.</summary>
    public Task<List<EventRow>> OfAsync(Guid piece, CancellationToken cancel) =>
        database.AskAsync(t => Of(t, piece), cancel);

    /// <summary>The same, on a trip made with other questions.</summary>
    public static Asked<List<EventRow>> Of(Trip trip, Guid piece) =>
        trip.All(
            new NpgsqlBatchCommand(
                """
                select e.id, e.kind, e.happened, e.what, w.name, array(select p.mark from gear_event_piece o join piece p on p.id = o.piece_id where o.event_id = e.id order by p.mark) as marks
                from gear_event e
                join gear_event_piece x on x.event_id = e.id
                join person w on w.id = e.by_person
                where x.piece_id = $1
                order by e.happened desc, e.at desc limit 20
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
        DateOnly? happened,
        string what,
        Stamp stamp,
        CancellationToken cancel
    )
    {
        var begun = false;
        return Session.RunAsync(database, stamp, session => session.OnPiecesAsync(pieces, async row =>
                {
                    var outcome = GearEvents.Record(
                        stamp.Submission,
                        kind,
                        happened,
                        what,
                        row.Mark,
                        row.State,
                        session.By
                    );
                    if (!outcome.Ok)
                        return outcome;
                    if (!begun)
                        await BeginAsync(session, (GearEventRecorded)outcome.Value.Record).ConfigureAwait(false);
                    begun = true;
                    await session
                        .WriteAsync(
                            "insert into gear_event_piece (event_id, piece_id) values ($1, $2)",
                            stamp.Submission,
                            row.Id
                        )
                        .ConfigureAwait(false);
                    return outcome;
                }), cancel);
    }

    private static Task BeginAsync(Session session, GearEventRecorded said) =>
        session.WriteAsync(
            "insert into gear_event (id, kind, happened, what, at, by_person) values ($1, $2, $3, $4, $5, $6)",
            said.Event,
            said.EventKind,
            said.Happened,
            said.What,
            session.Stamp.At,
            session.Stamp.Actor.Id
        );
}
