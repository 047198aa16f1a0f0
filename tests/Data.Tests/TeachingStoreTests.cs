using Keralith.Core.Custody;
using Keralith.Core.Judgement;
using Keralith.Testing;
using Xunit;

namespace Keralith.Data.Tests;

/// <summary>What the record teaches: every figure leads to as many records as it counts.</summary>
public class TeachingStoreTests
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    private static DateOnly Today(Yard yard) => DateOnly.FromDateTime(yard.Now.UtcDateTime);

    private static async Task<Yard> TaughtAsync()
    {
        var yard = await Yard.OpenAsync();
        foreach (var mark in new[] { "HM-0001", "HM-0002", "HM-0003" })
        {
            var form = Seed.Shackle(mark);
            form["maker"] = mark == "HM-0003" ? "" : "Pellow Forge";
            form["model"] = "";
            await yard.InServiceAsync(form);
        }

        // One is found worn, one is bent by a lift and nobody inspects it, one wears and stays.
        Yard.Must(
            await yard.InspectAsync(
                "HM-0001",
                InspectionKind.Periodic,
                ("body", "shackle.wear-body", new(Value: "0.70 in"))
            )
        );
        Yard.Must(await yard.HoldAsync("crew", "HM-0003"));
        foreach (var mark in new[] { "HM-0001", "HM-0003" })
        {
            var piece = await yard.FindAsync(mark);
            Assert.Equal(PieceState.Held, piece.State);
            Yard.Must(
                await yard.Custody.CondemnAsync(piece.Id, piece.Version, "Done with", yard.Stamp("qualified"), Cancel)
            );
        }

        return yard;
    }

    [Fact]
    public async Task Every_figure_leads_to_as_many_records_as_it_counts()
    {
        await using var yard = await TaughtAsync();
        var teaching = new TeachingStore(yard.Database);
        var records = new TaughtRecords(yard.Database, teaching);
        var taught = await teaching.AsOfAsync(Today(yard), Cancel);
        Assert.NotEmpty(taught.Why);
        Assert.Contains(taught.Why, l => l.Name == "not by an inspection");
        Assert.Contains(taught.ByMake, l => l.Name.Length == 0);
        var lines = new[]
        {
            taught.Why,
            taught.ByMake,
            taught.ByStore,
            taught.Findings,
            taught.FoundAt,
            taught.ByInspector,
        };
        foreach (var line in lines.SelectMany(l => l).Where(l => l.Count > 0))
        {
            var behind = await records.OfAsync(line.By, line.Name, null, Today(yard), Cancel);
            Assert.True(line.Count == behind.Count, $"{line.By} {line.Name}: {line.Count}, {behind.Count}");
        }

        foreach (var age in taught.Ages)
            Assert.Equal(
                age.Count,
                (await records.OfAsync(TaughtBy.Family, age.Family.Code, null, Today(yard), Cancel)).Count
            );
        var left = taught.Expected.Single(e => e.Rate.Removed > 0);
        Assert.Equal(2, (await records.OfAsync(TaughtBy.Left, left.Family.Code, null, Today(yard), Cancel)).Count);
        var size = Assert.Single(taught.BySize);
        Assert.Equal(2, (await records.OfAsync(TaughtBy.Left, size.Family.Code, size.Size, Today(yard), Cancel)).Count);
        Assert.Empty(await records.OfAsync(TaughtBy.Left, size.Family.Code, "9 in", Today(yard), Cancel));
    }

    [Fact]
    public async Task What_only_held_a_piece_is_no_reason_it_left()
    {
        await using var yard = await Yard.OpenAsync();
        await yard.InServiceAsync(Seed.Shackle("HM-0001"));
        Yard.Must(
            await yard.InspectAsync(
                "HM-0001",
                InspectionKind.Periodic,
                ("body", "shackle.deformed", new(Answer: Code.Of(Core.Gear.Found.Unsure)))
            )
        );
        var piece = await yard.FindAsync("HM-0001");
        Assert.Equal((PieceState.Held, VerdictKind.Hold), (piece.State, piece.Verdict));
        Yard.Must(
            await yard.Custody.CondemnAsync(piece.Id, piece.Version, "Done with", yard.Stamp("qualified"), Cancel)
        );
        var teaching = new TeachingStore(yard.Database);
        var why = Assert.Single((await teaching.AsOfAsync(Today(yard), Cancel)).Why);
        Assert.Equal(("not by an inspection", 1), (why.Name, why.Count));
        var gone = await new TaughtRecords(yard.Database, teaching).OfAsync(
            TaughtBy.Why,
            why.Name,
            null,
            Today(yard),
            Cancel
        );
        Assert.Empty(Assert.Single(gone).Criteria);
    }

    [Fact]
    public async Task Twelve_quarters_end_with_this_one_and_count_every_inspection_once()
    {
        await using var yard = await TaughtAsync();
        var quarters = (await new TeachingStore(yard.Database).AsOfAsync(Today(yard), Cancel)).Quarters;
        Assert.Equal(12, quarters.Count);
        Assert.True(quarters[^1].From <= Today(yard) && Today(yard) < quarters[^1].From.AddMonths(3));
        Assert.All(quarters.Zip(quarters.Skip(1)), p => Assert.Equal(p.First.From.AddMonths(3), p.Second.From));
        Assert.Equal((1, 4), (quarters.Sum(q => q.Found), quarters.Sum(q => q.Of)));
        Assert.Equal(250, quarters[^1].InThousand);
        Assert.Equal(0, quarters[0].InThousand);
    }

    [Fact]
    public async Task A_finding_leads_to_the_inspections_of_one_inspector()
    {
        await using var yard = await TaughtAsync();
        var teaching = new TeachingStore(yard.Database);
        var records = new TaughtRecords(yard.Database, teaching);
        var finding = (await teaching.AsOfAsync(Today(yard), Cancel)).Findings.First();
        var all = await records.OfAsync(TaughtBy.Finding, finding.Name, null, Today(yard), Cancel);
        var own = await records.OfAsync(TaughtBy.InspectorFinding, finding.Name, all[0].By, Today(yard), Cancel);
        Assert.Equal(all, own, (a, b) => a.Inspection == b.Inspection && a.Mark == b.Mark);
        Assert.Empty(await records.OfAsync(TaughtBy.InspectorFinding, finding.Name, "Nobody", Today(yard), Cancel));
    }

    [Fact]
    public async Task A_pace_leads_to_the_measures_it_is_the_middle_of()
    {
        await using var yard = await Yard.OpenAsync();
        await yard.InServiceAsync(Seed.Shackle("HM-0001"));
        yard.Now = yard.Now.AddDays(200);
        Yard.Must(
            await yard.InspectAsync(
                "HM-0001",
                InspectionKind.Periodic,
                ("body", "shackle.wear-body", new(Value: "0.86 in"))
            )
        );
        var teaching = new TeachingStore(yard.Database);
        var taught = await teaching.AsOfAsync(Today(yard), Cancel);
        var records = new TaughtRecords(yard.Database, teaching);
        foreach (
            var (by, lines) in new[]
            {
                (TaughtBy.PaceOfMake, taught.PaceByMake),
                (TaughtBy.PaceOfStore, taught.PaceByStore),
            }
        )
        {
            var line = Assert.Single(lines);
            Assert.Equal(line.Measures, (await records.OfAsync(by, line.Name, null, Today(yard), Cancel)).Count);
        }
    }

    [Fact]
    public async Task Prices_say_what_is_expected_to_leave_in_money_and_go_again_when_emptied()
    {
        await using var yard = await TaughtAsync();
        var prices = new PriceStore(yard.Database);
        var teaching = new TeachingStore(yard.Database);
        Assert.Empty((await teaching.AsOfAsync(Today(yard), Cancel)).Costs);
        var line = Assert.Single(await prices.AllAsync(Cancel));
        Assert.Equal((1, null), (line.Pieces, line.Price));
        var key = (line.Family.Code, line.Size);

        Yard.Must(await prices.SetAsync([new(key.Code, key.Size, "40 EUR")], yard.Stamp("stores"), Cancel));
        Yard.Must(await prices.SetAsync([new(key.Code, key.Size, "50 EUR")], yard.Stamp("stores"), Cancel));
        Assert.Equal("50 EUR", Assert.Single(await prices.AllAsync(Cancel)).Price.ToString());
        var taught = await teaching.AsOfAsync(Today(yard), Cancel);
        Assert.Equal("100 EUR", Assert.Single(taught.LeftCosts).ToString());

        Assert.False((await prices.SetAsync([new(key.Code, key.Size, "cheap")], yard.Stamp("stores"), Cancel)).Ok);
        Assert.False((await prices.SetAsync([new("tent", "", "5 EUR")], yard.Stamp("stores"), Cancel)).Ok);
        foreach (var role in new[] { "crew", "auditor" })
            Assert.False((await prices.SetAsync([new(key.Code, key.Size, "5 EUR")], yard.Stamp(role), Cancel)).Ok);
        Assert.Equal("50 EUR", Assert.Single(await prices.AllAsync(Cancel)).Price.ToString());
        Yard.Must(await prices.SetAsync([new(key.Code, key.Size, " ")], yard.Stamp("stores"), Cancel));
        Assert.Null(Assert.Single(await prices.AllAsync(Cancel)).Price);
    }
}
