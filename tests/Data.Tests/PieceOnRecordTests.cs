using System.Text.Json;
using Keralith.Core.Custody;
using Keralith.Core.Judgement;
using Keralith.Core.Register;
using Keralith.Testing;
using Xunit;

namespace Keralith.Data.Tests;

/// <summary>All of a piece comes with the trip that finds it: by its mark it is what it is by its id.</summary>
public class PieceOnRecordTests
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    [Fact]
    public async Task A_piece_asked_for_by_its_mark_is_what_it_is_by_its_id_and_no_other()
    {
        await using var yard = await Yard.OpenAsync();
        var form = Seed.Sling("HM-0001");
        await LiveAsync(yard, await yard.InServiceAsync(form));
        await yard.RegisterAsync(new(form) { ["mark"] = "HM-0002" }, by: "qualified");
        var (first, second) = (await yard.FindAsync("HM-0001"), await yard.FindAsync("HM-0002"));

        var whole = await ToldAsync(yard, t => new(t, first.Id));
        Assert.All(
            ["Codes", "Tags", "Baselines", "Inspections", "SerialTwins", "Drafts", "Events", "Holds", "Moves"],
            kept => Assert.NotEqual("[]", whole[kept])
        );
        Assert.Equal(whole, await ToldAsync(yard, t => PieceOnRecord.Marked(t, "HM-0001")));
        var other = await ToldAsync(yard, t => PieceOnRecord.Marked(t, "HM-0002"));
        Assert.Equal(await ToldAsync(yard, t => new(t, second.Id)), other);
        Assert.NotEqual(whole["Inspections"], other["Inspections"]);
    }

    [Fact]
    public async Task Of_a_mark_that_no_piece_has_nothing_is_on_record()
    {
        await using var yard = await Yard.OpenAsync();
        await LiveAsync(yard, await yard.InServiceAsync(Seed.Sling("HM-0001")));
        var nothing = await ToldAsync(yard, t => PieceOnRecord.Marked(t, "HM-9999"));
        Assert.Equal("""{"Item1":null,"Item2":null}""", nothing["Places"]);
        Assert.All(nothing.Where(k => k.Key != "Places"), kept => Assert.Equal("[]", kept.Value));
    }

    /// <summary>Something of everything that is kept of a piece.</summary>
    private static async Task LiveAsync(Yard yard, Piece piece)
    {
        Yard.Must(await yard.InspectAsync(piece.Mark, InspectionKind.Periodic));
        Yard.Must(await new CodeStore(yard.Database).BindAsync(piece.Id, "04A2B9", yard.Stamp("stores"), Cancel));
        Yard.Must(await yard.HoldAsync("crew", piece.Mark));
        Yard.Must(
            await new EventStore(yard.Database).RecordAsync(
                [piece.Id],
                GearEventKind.Shock,
                new(2026, 3, 1),
                "The load slipped and was caught",
                yard.Stamp("crew"),
                Cancel
            )
        );
        await yard.DraftAsync(piece.Mark, InspectionKind.Periodic);
    }

    /// <summary>What each question answers, as text.</summary>
    private static async Task<Dictionary<string, string>> ToldAsync(Yard yard, Func<Trip, PieceOnRecord> ask)
    {
        var trip = new Trip();
        var kept = ask(trip);
        await yard.Database.MakeAsync(trip, Cancel);
        return typeof(PieceOnRecord)
            .GetProperties()
            .Where(p => p.PropertyType.IsGenericType)
            .ToDictionary(
                p => p.Name,
                p =>
                {
                    var answer = p.GetValue(kept)!;
                    var value = answer.GetType().GetProperty("Value")!.GetValue(answer);
                    return value is IReadOnlyDictionary<BaselineKey, BaselineRow> figures
                        ? $"[{string.Join(' ', figures.OrderBy(f => $"{f.Key}"))}]"
                        : JsonSerializer.Serialize(value, Whole);
                }
            );
    }

    private static readonly JsonSerializerOptions Whole = new() { IncludeFields = true };
}
