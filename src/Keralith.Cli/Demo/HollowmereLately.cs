using Keralith.Core.Custody;
using Keralith.Core.Gear;
using Keralith.Data;

namespace Keralith.Cli.Demo;

/// <summary>What happened at Hollowmere in the last days: work that waits for somebody.</summary>
public sealed partial class Hollowmere
{
    /// <summary>A new shackle a trainee has inspected: it waits for somebody's countersignature.</summary>
    private void TraineesWork(Store store)
    {
        var shackle = DemoPiece.Shackle("HM-0100", _scenario.Shackles[0], "screw", _random);
        Hang(shackle, store, 40);
        Register(shackle, 2);
        At(1, 11, t => Draft(shackle, t, offered: true));
    }

    /// <summary>
    /// What is measured with, one of it out of calibration; and a load that was snatched, with all that hung in it.
    /// </summary>
    private void Lately()
    {
        On(-5, new(7, 30), MeasuringWithAsync);
        On(-2, new(15, 20), SnatchedAsync);
    }

    private async Task MeasuringWithAsync(DateTimeOffset at)
    {
        var instruments = new InstrumentStore(_database);
        foreach (
            var (name, uncertainty, days) in new[]
            {
                ("Caliper C-114", "0.02 mm", 190),
                ("Caliper C-098", "0.02 mm", -12),
                ("Throat gauge G-3", "0.2 mm", 75),
            }
        )
        {
            var entering = Stamp("inspector", at);
            Must(await instruments.EnterAsync(name, uncertainty, _today.AddDays(days), entering, _cancel));
            if (days > 100)
                await instruments.TakeAsync(_people["inspector"].Id, _today, entering.Submission, _cancel);
        }
    }

    private async Task SnatchedAsync(DateTimeOffset at)
    {
        var hung = new List<Guid>();
        foreach (var mark in new[] { "HM-0009", "HM-0044" })
            hung.Add((await _pieces.FindAsync(mark, _cancel))!.Id);
        Must(
            await new EventStore(_database).RecordAsync(
                hung,
                GearEventKind.Shock,
                _today.AddDays(-2),
                "Stop plank slipped out of its groove at lock 7 and dropped about a foot into the sling",
                Stamp("crew", at),
                _cancel
            )
        );
    }

    /// <summary>Hoists in use are looked at each month; now and then a month is missed.</summary>
    private void MonthlyChecks(DemoPiece piece, int from)
    {
        if (GearFamilies.Find(piece.Fields["family"])!.Group != FamilyGroup.Hoist)
            return;
        for (var ago = from; ago > 6; ago -= 29)
        {
            if (_random.Next(9) > 0)
                At(ago, 7, t => CheckAsync(piece, t));
        }
    }

    private async Task CheckAsync(DemoPiece piece, DateTimeOffset at)
    {
        var row = (await _pieces.FindAsync(piece.Mark, _cancel))!;
        if (row.State == PieceState.InService)
            await _signing.SignCleanCheckAsync(row, DateOnly.FromDateTime(at.Date), Stamp("crew", at), _cancel);
    }
}
