using Keralith.Core.Custody;
using Keralith.Core.Gear;
using Keralith.Core.People;
using Keralith.Core.Register;
using Keralith.Core.Schedule;
using Keralith.Core.Sites;
using Xunit;

namespace Keralith.Core.Tests;

/// <summary>Proof tests that makers and sites ask again and again, and how long one holds.</summary>
public class ProofDueTests
{
    private static readonly DateOnly Tested = new(2026, 1, 31);
    private static readonly Signer Qualified = GivenPeople.Signer(Role.Qualified);
    private static readonly EnteredProofAsk OfHooks = new(string.Empty, string.Empty, "hook", 12, "Works policy 7");

    private static readonly Site Works = new("Works", [RuleBookShelf.Asme], 0.8m, 30, false, false);

    private static readonly IReadOnlyList<KitMember> Roster = KitMember.Roster("2; leg chain; 7100 lb; bears; HM-2");

    private static Site With(params EnteredProofAsk[] asks) => asks.Aggregate(Works, (site, ask) => site.With(ask));

    [Theory]
    // Nobody asks: the day entered by hand alone counts, whatever was tested.
    [InlineData(null, null, null, null, false)]
    [InlineData("2026-06-30", null, null, "2026-06-30", false)]
    [InlineData("2026-06-30", "2026-06-30", null, "2026-06-30", false)]
    // Asked, and never tested here: the entered day; without one it lacks its test.
    [InlineData("2026-06-30", null, 12, "2026-06-30", false)]
    [InlineData(null, null, 12, null, true)]
    // Tested: the months from that day, in place of the day entered before it.
    [InlineData(null, "none", 12, "2027-01-31", false)]
    [InlineData("2026-02-15", "2026-02-15", 12, "2027-01-31", false)]
    [InlineData("2030-01-01", "2030-01-01", 12, "2027-01-31", false)]
    [InlineData(null, "none", 1, "2026-02-28", false)]
    // Entered since: it counts where it is earlier, never where it is later.
    [InlineData("2026-09-30", "2026-02-15", 12, "2026-09-30", false)]
    [InlineData("2027-01-30", "none", 12, "2027-01-30", false)]
    [InlineData("2027-02-01", "none", 12, "2027-01-31", false)]
    [InlineData(null, "2026-02-15", 12, "2027-01-31", false)]
    public void A_test_holds_for_the_months_asked_and_takes_the_place_of_the_day_before_it(
        string? entered,
        string? renews,
        int? months,
        string? until,
        bool lacks
    )
    {
        var last = renews is null ? null : new PassedProof(Tested, renews == "none" ? null : DateOnly.Parse(renews));
        var due = ProofDue.Of(new(entered is null ? null : DateOnly.Parse(entered), last, months));
        Assert.Equal(new ProofDue(until is null ? null : DateOnly.Parse(until), lacks), due);
    }

    [Theory]
    [InlineData(-1, false)]
    [InlineData(0, false)]
    [InlineData(1, true)]
    public void It_stops_a_piece_after_its_last_day(int days, bool stops)
    {
        Assert.Equal(stops, new ProofDue(Tested, false).StopsOn(Tested.AddDays(days)));
        Assert.True(new ProofDue(null, true).StopsOn(Tested.AddDays(days)));
        Assert.False(ProofDue.None.StopsOn(Tested.AddDays(days)));
    }

    [Theory]
    [InlineData("hook", null, null, 12)]
    [InlineData("shackle", null, null, null)]
    [InlineData("shackle", "Pellow Forge", "Bow", 6)]
    [InlineData("shackle", "PELLOW forge.", "bow", 6)]
    [InlineData("shackle", "Pellow Forge", "Dee", 24)]
    [InlineData("hook", "Pellow Forge", "Dee", 12)]
    [InlineData("hook", "Pellow Forge", null, 6)]
    [InlineData("shackle", "Pellow Forge", "-", 6)]
    [InlineData("shackle", null, "Bow", null)]
    [InlineData("shackle", "Another", "Bow", null)]
    public void The_shortest_that_is_asked_of_a_piece_counts(string family, string? maker, string? model, int? months)
    {
        var site = With(
            OfHooks,
            new("Pellow Forge", "Bow", "", 6, "Sheet 4"),
            new("Pellow Forge", "", "", 24, "Sheet 1")
        );
        Assert.Equal(months, site.ProofMonthsOf(GearFamilies.Find(family)!, maker, model));
    }

    [Fact]
    public void Set_again_it_takes_the_place_of_what_it_was_and_withdrawn_it_is_asked_no_more()
    {
        var hook = GearFamilies.Find("hook")!;
        Assert.Equal(6, With(OfHooks, OfHooks with { Months = 6 }).ProofMonthsOf(hook, null, null));
        Assert.Null(With(OfHooks, OfHooks with { Months = null }).ProofMonthsOf(hook, null, null));
    }

    [Fact]
    public void A_makers_is_asked_at_every_site_and_a_sites_own_at_that_one()
    {
        var two = new SiteSet([Works, Works with { Id = 2 }]);
        var hook = GearFamilies.Find("hook")!;
        Assert.Equal([12, null], two.With(OfHooks).All.Select(s => s.ProofMonthsOf(hook, null, null)));
        Assert.Equal(
            [6, 6],
            two.With(new EnteredProofAsk("Pellow Forge", "", "", 6, "Sheet") { Site = 2 })
                .All.Select(s => s.ProofMonthsOf(hook, "Pellow Forge", null))
        );
        Assert.Equal(12, two.With(OfHooks).Together([1, 2]).ProofMonthsOf(hook, null, null));
    }

    [Theory]
    [InlineData("", "", "hook", 1, "Policy", null)]
    [InlineData("", "", "hook", 120, "Policy", null)]
    [InlineData("Pellow Forge", "Bow", "", 12, "Sheet 4", null)]
    [InlineData("", "", "hook", 0, "Policy", "1 to 120")]
    [InlineData("", "", "hook", 121, "Policy", "1 to 120")]
    [InlineData("", "", "", 12, "Policy", "Name the maker, or choose")]
    [InlineData("", "Bow", "hook", 12, "Policy", "maker of the model")]
    [InlineData("", "", "tent", 12, "Policy", "Choose a family")]
    [InlineData("", "", "hook", 12, " ", "Say why")]
    [InlineData("", "", "hook", null, "Policy", "No such proof test")]
    public void What_is_asked_is_of_a_maker_or_a_family_for_some_months_and_says_why(
        string maker,
        string model,
        string family,
        int? months,
        string reason,
        string? refused
    )
    {
        var read = ProofAskActs.Set(new(maker, model, family, months, reason), [], Qualified);
        Assert.Equal(refused is null, read.Ok);
        if (refused is not null)
            Assert.Contains(refused, read.Fault, StringComparison.Ordinal);
    }

    [Fact]
    public void Only_a_qualified_person_sets_or_withdraws_one()
    {
        foreach (var role in Enum.GetValues<Role>())
            Assert.Equal(role == Role.Qualified, ProofAskActs.Set(OfHooks, [], GivenPeople.Signer(role)).Ok);
        var inForce = With(OfHooks).ProofAsks;
        Assert.True(ProofAskActs.Set(OfHooks with { Months = null }, inForce, Qualified).Ok);
    }

    [Fact]
    public void A_piece_without_a_test_that_is_asked_may_not_be_used()
    {
        var facts = new UseFacts
        {
            State = PieceState.InService,
            OpenHolds = [],
            PeriodicDue = Tested.AddYears(1),
            FrequentDue = null,
            FrequentByCalendar = false,
            RatedLoadKnown = true,
        };
        Assert.True(Usability.On(facts, Tested).MayBeUsed);
        Assert.Contains(
            "No proof test",
            Assert.Single(Usability.On(facts with { LacksProofTest = true }, Tested).Reasons)
        );
    }

    [Theory]
    [InlineData(0, false, null)]
    [InlineData(-1, false, "its proof test ran out")]
    [InlineData(1, true, "no proof test of it is on record")]
    public void A_kit_stands_still_with_a_member_whose_proof_test_does(int days, bool lacks, string? why)
    {
        var member = new MemberStanding("HM-2", PieceState.InService, new(Tested.AddYears(1), null), null)
        {
            Proof = new(Tested.AddDays(days), lacks),
        };
        var against = KitUse.Against(Roster, [member], Tested);
        Assert.Equal(why is not null, against.Count == 1);
        if (why is not null)
            Assert.Contains(why, against[0], StringComparison.Ordinal);
    }

    [Theory]
    [InlineData(0, true)]
    [InlineData(-1, false)]
    public void A_kit_stands_still_with_a_member_past_its_makers_day(int days, bool usable)
    {
        var member = new MemberStanding("HM-2", PieceState.InService, new(Tested.AddYears(1), null), null)
        {
            DiscardOn = Tested.AddDays(days),
        };
        Assert.Equal(usable, KitUse.Against(Roster, [member], Tested).Count == 0);
    }
}
