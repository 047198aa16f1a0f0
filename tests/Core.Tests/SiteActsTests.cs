using Keralith.Core.Gear;
using Keralith.Core.Judgement;
using Keralith.Core.People;
using Keralith.Core.Sites;
using Xunit;

namespace Keralith.Core.Tests;

/// <summary>How a site is let work: its books, its watch share, limits beside the books.</summary>
public class SiteActsTests
{
    private static readonly Signer Admin = GivenPeople.Signer(Role.Admin);
    private static readonly Signer Qualified = GivenPeople.Signer(Role.Qualified);

    private static readonly SiteChange Change = new(
        1,
        [RuleBookShelf.Asme],
        new Dictionary<string, int>(),
        0.75m,
        SitePolicies.None,
        "The office decided"
    );

    private static readonly EnteredLimit Limit = new(LimitOwner.Site, "", "", "hook.throat", "3 %", "Policy 7");

    [Theory]
    [InlineData("0", false)]
    [InlineData("0.01", true)]
    [InlineData("0.75", true)]
    [InlineData("0.751", false)]
    public void Watching_begins_above_nothing_and_at_three_quarters_at_the_latest(string share, bool may) =>
        Assert.Equal(
            may,
            SiteActs.RefusalToChange(
                Change with
                {
                    WatchShare = decimal.Parse(share, System.Globalization.CultureInfo.InvariantCulture),
                },
                Admin
            )
                is null
        );

    [Theory]
    [InlineData(1949, false)]
    [InlineData(1950, true)]
    [InlineData(2100, true)]
    [InlineData(2101, false)]
    public void An_edition_is_a_year(int year, bool may) =>
        Assert.Equal(
            may,
            SiteActs.RefusalToChange(Change with { Editions = new Dictionary<string, int> { ["asme"] = year } }, Admin)
                is null
        );

    [Theory]
    [InlineData(Role.Admin, true)]
    [InlineData(Role.Qualified, false)]
    [InlineData(Role.Inspector, false)]
    public void The_books_are_the_administrators_to_choose(Role role, bool may) =>
        Assert.Equal(may, SiteActs.RefusalToChange(Change, GivenPeople.Signer(role)) is null);

    [Fact]
    public void A_site_works_to_a_book_for_a_reason_in_a_time_zone_that_there_is()
    {
        Assert.Contains(
            "one book",
            SiteActs.RefusalToChange(Change with { Books = [] }, Admin)!.Words,
            StringComparison.Ordinal
        );
        Assert.Contains(
            "Say why",
            SiteActs.RefusalToChange(Change with { Reason = " " }, Admin)!.Words,
            StringComparison.Ordinal
        );
        Assert.NotNull(SiteActs.RefusalToChange(Change with { TimeZone = "Here/Nowhere" }, Admin));
        Assert.Null(SiteActs.RefusalToChange(Change with { TimeZone = "UTC" }, Admin));
    }

    [Theory]
    [InlineData(true, true, true)]
    [InlineData(true, false, false)]
    [InlineData(false, true, false)]
    public void Where_chain_adjusts_a_load_a_site_may_ask_a_second_sling(bool policy, bool shortener, bool asks)
    {
        var gear = GivenPlan.Bare("alloy-chain-sling").With("shortener", new FlagValue(shortener));
        Assert.Equal(asks, (SitePolicies.None with { BackUpSling = policy }).Asked(gear).Any());
    }

    [Theory]
    // A site's own is stricter than every book, a maker's need not be.
    [InlineData(LimitOwner.Site, "", "hook.throat", "4.99 %", null)]
    [InlineData(LimitOwner.Site, "", "hook.throat", "5 %", "not stricter")]
    [InlineData(LimitOwner.Maker, "Orrery", "hook.throat", "5 %", null)]
    [InlineData(LimitOwner.Maker, "Orrery", "hook.throat", "8 %", null)]
    [InlineData(LimitOwner.Maker, "", "hook.throat", "3 %", "Name the maker")]
    [InlineData(LimitOwner.Maker, "-", "hook.throat", "3 %", "Name the maker")]
    [InlineData(LimitOwner.Site, "Orrery", "hook.throat", "3 %", "names no maker")]
    [InlineData(LimitOwner.Site, "", "hook.crack", "3 %", "Choose a measure or a count")]
    [InlineData(LimitOwner.Site, "", "hook.none", "3 %", "Choose a measure or a count")]
    [InlineData(LimitOwner.Site, "", "hook.throat", "101 %", "between 0 and 100")]
    [InlineData(LimitOwner.Site, "", "hook.throat", "-1 mm", "0 or over")]
    [InlineData(LimitOwner.Site, "", "rope.broken-in-lay", "0", "first count that fails")]
    [InlineData(LimitOwner.Site, "", "rope.broken-in-lay", "1", null)]
    // Without a figure it is withdrawn.
    [InlineData(LimitOwner.Site, "", "hook.throat", "", null)]
    public void A_limit_is_one_that_can_be_judged_by(
        LimitOwner owner,
        string maker,
        string criterion,
        string figure,
        string? refused
    )
    {
        var set = SiteActs.SetLimit(
            Limit with
            {
                Owner = owner,
                Maker = maker,
                Criterion = criterion,
                Figure = figure,
            },
            [RuleBookShelf.Asme],
            Qualified
        );
        if (refused is null)
            Assert.Null(set.Fault);
        else
            Assert.Contains(refused, set.Fault ?? "it was let through", StringComparison.Ordinal);
    }

    [Theory]
    [InlineData(Role.Qualified, "Policy 7", true)]
    [InlineData(Role.Qualified, " ", false)]
    [InlineData(Role.Admin, "Policy 7", false)]
    [InlineData(Role.Inspector, "Policy 7", false)]
    public void A_qualified_person_sets_it_and_says_where_it_stands(Role role, string reason, bool may) =>
        Assert.Equal(
            may,
            SiteActs.SetLimit(Limit with { Reason = reason }, [RuleBookShelf.Asme], GivenPeople.Signer(role)).Ok
        );
}
