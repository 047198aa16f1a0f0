using Keralith.Core.Gear;
using Keralith.Core.Judgement;
using Keralith.Core.Register;
using Keralith.Core.Signing;
using Keralith.Core.Sites;
using Keralith.Testing;
using Xunit;

namespace Keralith.Data.Tests;

/// <summary>A clean look before use is one press, whatever the family; and what a draft found never goes without a trace.</summary>
public class OnePressTests
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    [Fact]
    public async Task One_press_answers_all_that_a_look_before_use_asks_of_every_family_under_every_book()
    {
        await using var yard = await Yard.OpenAsync();
        var lacking = new List<string>();
        foreach (var (family, i) in GearFamilies.All.Select((f, i) => (f, i)))
        {
            var piece = await yard.RegisterAsync(EveryFamily.Form(family, $"HM-{1000 + i}"), "qualified");
            foreach (var book in RuleBookShelf.All)
            {
                var site = new Site("Works", [RuleBookShelf.Asme, book], Judge.DefaultWatchShare, 30, false, false);
                var answers = DraftCase.Clean(piece, site, "Crew", yard.Now);
                var none = new Dictionary<BaselineKey, BaselineFigure>();
                var @case = DraftCase.Of(piece, InspectionKind.Frequent, site, answers, none);
                lacking.AddRange(
                    Judge.MissingAnswers(@case).Select(m => $"{family} ({book}): {m.Criterion.Id} on {m.Part}")
                );
            }
        }

        Assert.Equal([], lacking.Distinct());
    }

    [Theory]
    [InlineData("inspector", true)]
    [InlineData("trainee", false)]
    [InlineData("inspector2", false)]
    [InlineData("qualified", true)]
    [InlineData("crew", false)]
    public async Task A_draft_is_thrown_away_by_whoever_made_it_or_a_qualified_person(string who, bool may)
    {
        await using var yard = await Yard.OpenAsync();
        var piece = await yard.InServiceAsync(Seed.Sling("HM-0001"));
        var (draft, _) = await yard.DraftAsync(
            "HM-0001",
            InspectionKind.Periodic,
            ("leg-2", "chain.crack", new(Answer: "yes"))
        );
        var entries = (await yard.Ledger.VerifyAsync(Cancel)).Entries;
        var thrown = await yard.Inspections.DiscardAsync(draft, yard.Stamp(who), Cancel);
        Assert.Equal(may, thrown.Ok);
        Assert.Equal(may ? RefusalKind.Invalid : RefusalKind.Forbidden, thrown.Refusal?.Kind ?? RefusalKind.Invalid);
        Assert.Equal(!may, await yard.Inspections.DraftAsync(draft, Cancel) is not null);
        Assert.Equal(may ? entries + 1 : entries, (await yard.Ledger.VerifyAsync(Cancel)).Entries);
        Assert.NotNull(piece);
    }

    [Fact]
    public async Task A_draft_in_which_nothing_was_found_leaves_no_entry()
    {
        await using var yard = await Yard.OpenAsync();
        await yard.InServiceAsync(Seed.Sling("HM-0001"));
        var opened = await yard.Inspections.OpenAsync(
            await yard.FindAsync("HM-0001"),
            InspectionKind.Periodic,
            yard.Stamp("inspector"),
            Cancel
        );
        var entries = (await yard.Ledger.VerifyAsync(Cancel)).Entries;
        Yard.Must(await yard.Inspections.DiscardAsync(opened.Value, yard.Stamp("inspector"), Cancel));
        Assert.Equal(entries, (await yard.Ledger.VerifyAsync(Cancel)).Entries);
    }
}
