using Keralith.Core.Gear;
using Keralith.Core.Judgement;
using Keralith.Core.Sites;
using Xunit;

namespace Keralith.Core.Tests;

/// <summary>Several sites under one roof, and by whose rules their gear is lifted together.</summary>
public class SiteSetTests
{
    private static readonly Site Home = new("Basin", [RuleBookShelf.Asme], 0.75m, 30, false, false);
    private static readonly Site North = Home with
    {
        Id = 2,
        Name = "Quay",
        Books = [RuleBookShelf.Find("europe")!, RuleBookShelf.Asme],
        Policies = SitePolicies.None with { NoChainHoisting = true },
    };

    private static readonly SiteSet Both = new([North, Home]);

    [Fact]
    public void A_works_has_one_site_at_the_least_and_the_first_is_its_home()
    {
        Assert.Throws<ArgumentException>(() => new SiteSet([]));
        Assert.Equal("Basin", Both.Home.Name);
        Assert.False(new SiteSet([Home]).AreSeveral);
        Assert.Null(Both.Find(3));
        Assert.Throws<InvalidOperationException>(() => Both.Of(3));
    }

    [Fact]
    public void Gear_of_two_sites_is_lifted_by_the_books_and_policies_of_both()
    {
        var together = Both.Together([2, 1, 2]);
        Assert.Equal(["asme", "europe"], together.Books.Select(b => b.Id));
        Assert.True(together.Policies.NoChainHoisting);
        Assert.Same(Both.Of(2), Both.Together([2]));
        Assert.Same(Both.Home, Both.Together([]));
    }

    [Fact]
    public void A_sites_own_limit_counts_there_and_a_makers_everywhere()
    {
        var own = new EnteredLimit(LimitOwner.Site, "", "", "hook.throat", "3 %", "Policy") { Site = 2 };
        Assert.Equal([0, 1], Both.With(own).All.Select(s => s.Limits.Count));
        var makers = new EnteredLimit(LimitOwner.Maker, "Orrery", "", "hook.throat", "3 %", "Leaflet") { Site = 2 };
        Assert.Equal([1, 1], Both.With(makers).All.Select(s => s.Limits.Count));
    }

    [Theory]
    [InlineData(LimitOwner.Maker, 2, "ORRERY", "T 1", "hook.throat", true)]
    [InlineData(LimitOwner.Maker, 1, "Orrery", "T-2", "hook.throat", false)]
    [InlineData(LimitOwner.Maker, 1, "Orrery", "", "hook.throat", false)]
    [InlineData(LimitOwner.Maker, 1, "Orrery", "T-1", "hook.wear", false)]
    [InlineData(LimitOwner.Maker, 1, "Carrick", "T-1", "hook.throat", false)]
    [InlineData(LimitOwner.Site, 1, "Orrery", "T-1", "hook.throat", false)]
    public void Set_anew_a_makers_limit_of_a_model_takes_the_place_of_the_last_wherever_it_is_set(
        LimitOwner owner,
        int site,
        string maker,
        string model,
        string criterion,
        bool isOne
    ) =>
        Assert.Equal(
            isOne,
            LimitRow.KeyOf(owner, site, maker, model, criterion)
                == LimitRow.KeyOf(LimitOwner.Maker, 1, "Orrery", "T-1", "hook.throat")
        );

    [Fact]
    public void Two_sites_each_have_a_limit_of_their_own() =>
        Assert.NotEqual(
            LimitRow.KeyOf(LimitOwner.Site, 1, "", "", "hook.throat"),
            LimitRow.KeyOf(LimitOwner.Site, 2, "", "", "hook.throat")
        );
}
