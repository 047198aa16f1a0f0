using Keralith.Core.Judgement;
using Keralith.Core.Ledger;
using Keralith.Core.People;
using Keralith.Core.Quantities;
using Npgsql;

namespace Keralith.Data;

/// <summary>An instrument as listed.</summary>
public sealed record InstrumentRow(Guid Id, Instrument Instrument, DateTimeOffset SetAt, string SetBy);

/// <summary>Calipers and gauges, their calibration, and who has which in hand today.</summary>
public sealed class InstrumentStore(Database database)
{
    private const string Columns =
        "select i.id, i.name, i.uncertainty, i.calibration_due, i.set_at, w.name as set_by from instrument i join person w on w.id = i.set_by";

    /// <summary>The newest entry of each instrument, by name.</summary>
    public Task<List<InstrumentRow>> ListAsync(CancellationToken cancel) =>
        database
            .Command(
                $"{Columns} where i.id in (select distinct on (lower(name)) id from instrument order by lower(name), set_at desc) order by i.name"
            )
            .ListAsync(From, cancel);

    /// <summary>What somebody measures with on a day; null where nothing was chosen.</summary>
    public Task<InstrumentRow?> InHandAsync(Guid person, DateOnly day, CancellationToken cancel) =>
        database
            .Command(
                $"{Columns} join instrument_in_hand h on h.instrument_id = i.id where h.person_id = $1 and h.day = $2"
            )
            .Positional(person, day)
            .FirstAsync(From, cancel);

    /// <summary>Enters an instrument, or what a new calibration found of one already known by that name.</summary>
    public Task<Checked<Recorded>> EnterAsync(
        string name,
        string uncertainty,
        DateOnly? calibrationDue,
        Stamp stamp,
        CancellationToken cancel
    ) =>
        Session.RunAsync(
            database,
            stamp,
            async session =>
            {
                var read = Length.Read(uncertainty);
                if (PeopleActs.RefusalOfInstrument(name, read.Fault, calibrationDue, session.By) is { } refusal)
                    return refusal;
                await session
                    .WriteAsync(
                        "insert into instrument (id, name, uncertainty, calibration_due, set_at, set_by) values ($1, $2, $3, $4, $5, $6)",
                        stamp.Submission,
                        name.Trim(),
                        read.Value.ToString(),
                        calibrationDue,
                        session.Stamp.At,
                        stamp.Actor.Id
                    )
                    .ConfigureAwait(false);
                await session
                    .LedgerAsync(
                        new InstrumentEntered(name.Trim(), read.Value.ToString(), calibrationDue!.Value),
                        "site"
                    )
                    .ConfigureAwait(false);
                return null;
            },
            cancel
        );

    /// <summary>Takes an instrument in hand for a day; readings saved from then on carry it. Null: puts it down.</summary>
    public async Task TakeAsync(Guid person, DateOnly day, Guid? instrument, CancellationToken cancel)
    {
        await (
            instrument is { } taken
                ? database
                    .Command(
                        """
                        insert into instrument_in_hand (person_id, day, instrument_id) select $1, $2, id from instrument where id = $3
                        on conflict (person_id, day) do update set instrument_id = excluded.instrument_id
                        """
                    )
                    .Positional(person, day, taken)
                : database
                    .Command("delete from instrument_in_hand where person_id = $1 and day = $2")
                    .Positional(person, day)
        ).RunAsync(cancel).ConfigureAwait(false);
    }

    private static InstrumentRow From(NpgsqlDataReader r) =>
        new(
            r.Get<Guid>("id"),
            new(r.Get<string>("name"), Length.Parse(r.Get<string>("uncertainty")), r.Get<DateOnly>("calibration_due")),
            r.Get<DateTimeOffset>("set_at"),
            r.Get<string>("set_by")
        );
}
