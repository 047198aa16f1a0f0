using Keralith.Core.Gear;
using Keralith.Core.Judgement;
using Keralith.Core.Lifts;
using Keralith.Core.Quantities;
using Keralith.Core.Schedule;
using Keralith.Core.Tags;
using Xunit;

namespace Keralith.Core.Tests;

/// <summary>A family nobody makes and a book nobody wrote: judged, rated, scheduled and lifted by what they say of themselves, without touching other code.</summary>
public class MadeUpTests
{
    /// <summary>A chain sling of another name, with one part the others don't have.</summary>
    private static readonly GearFamily Barbed = new()
    {
        Code = "barbed-chain-sling",
        Name = "Barbed chain sling",
        Standard = "Nobody's",
        Group = FamilyGroup.Sling,
        Kind = GearKind.Chain,
        Asks = ["size", "grade", "legs"],
        Requires = ["size"],
        Parts =
        [
            new("tag", "Tag", []),
            new("leg-{n}", "Leg {n}", ["chain.link-thickness"]),
            new("barb-{n}", "Barb {n}", ["hook.throat"]),
        ],
        TagEntries = [new("maker", "maker")],
        AssumedDesignFactor = 4,
    };

    /// <summary>A book that is stricter with hooks, wants seven to one, inspects every two months and forbids nothing else.</summary>
    private static readonly RuleBook Book = new()
    {
        Id = "brine",
        Name = "The brine yard's book",
        Covers = "Nobody's",
        Rules = new Dictionary<string, BookRule> { ["hook.throat"] = new(new GrowthLimit(0.02m, Comparator.Above)) },
        DesignFactor = _ => 7,
        PeriodicMonths = _ => 2,
        IdleMonths = 1,
        Choker = (_, _) => 0.5m,
        WatchedBelow = 70,
    };

    private static readonly GearPiece Sling = new(
        Barbed,
        [
            new("size", GearAttributes.Find("size")!.Read("3/8 in").Value),
            new("grade", GearAttributes.Find("grade")!.Read("80").Value),
            new("legs", new WholeValue(2)),
        ]
    );

    [Theory]
    [InlineData("35.69 mm", Outcome.Watch)]
    [InlineData("35.70 mm", Outcome.Watch)]
    [InlineData("35.71 mm", Outcome.Remove)]
    public void A_made_up_book_judges_a_made_up_family(string throat, Outcome outcome)
    {
        var answer = new AnswerEntry(Value: throat)
            .ReadAll(Catalogue.Get("hook.throat"), new(Length.Parse("35 mm"), BaselineBasis.New, null))
            .Value;
        var inspected = new Case(
            [Book],
            InspectionKind.Periodic,
            Sling,
            [],
            [.. answer.Select(a => new Answer(Catalogue.Get("hook.throat"), "barb-2", a))]
        );
        var found = Judge.Of(inspected).Findings.Single(f => f.Part == "barb-2");
        Assert.Equal((outcome, "brine"), (found.Outcome, found.Governing.Book));
    }

    [Theory]
    [InlineData("80", null)]
    [InlineData("43", Outcome.Remove)]
    [InlineData("4", Outcome.Remove)]
    [InlineData("79", Outcome.Hold)]
    [InlineData("81", Outcome.Hold)]
    [InlineData("8", null)]
    [InlineData("T", null)]
    public void Chain_not_marked_alloy_is_stopped_whatever_the_family_is_called_and_asks(string grade, Outcome? stopped)
    {
        var sling = Sling.With("grade", GearAttributes.Find("grade")!.Read(grade).Value);
        var verdict = Judge.Of(new([Book], InspectionKind.Frequent, sling, [], []));
        Assert.Equal(stopped is null ? [] : ["whole"], verdict.Findings.Where(f => f.FromGear).Select(f => f.Part));
        Assert.Equal(stopped is not null, verdict.Kind.Stops());
        Assert.Equal(
            stopped is null ? [] : [("brine", stopped)],
            verdict.Findings.SelectMany(f => f.Books).Select(b => (b.Book, b.Outcome))
        );
    }

    [Fact]
    public void It_asks_what_its_parts_bring_beside_what_every_piece_is_asked()
    {
        var paths = Catalogue.Parts(Sling, [Book]).Select(p => p.Path);
        Assert.Equal(["tag", "leg-1", "barb-1", "leg-2", "barb-2", "whole"], paths);
        Assert.NotSame(Catalogue.PlacementOf(Sling, [Book]), Catalogue.PlacementOf(Sling, [RuleBookShelf.Asme]));
    }

    [Fact]
    public void Its_intervals_its_rating_and_its_heat_follow_from_what_it_is_like_and_from_the_book()
    {
        Assert.Equal(new Months(2), Intervals.Periodic(Barbed, ServiceClass.Normal, [Book]));
        Assert.IsType<EachUse>(Intervals.Frequent(Barbed, ServiceClass.Normal));
        Assert.Equal(1, Idle.Months(GearFamilies.Find("hand-chain-hoist")!, [RuleBookShelf.Asme, Book]));
        Assert.Equal(4m / 7, RatedLoadHere.For(Barbed, Mass.Parse("7000 lb"), null, [Book]).Here.Pounds / 7000, 3);
        Assert.NotNull(OperatingTemperatures.Of(Sling, [Book]));
        Assert.Equal(0.5m, HitchFactors.Choker(Barbed, [Book]));
        Assert.Equal(70, HitchFactors.CautionBelow(2, [Book]));
    }

    [Fact]
    public void It_goes_on_a_lift_as_a_sling()
    {
        Assert.Equal(LiftRole.Sling, LiftGear.RoleOf(Barbed));
        var words = TagWords.Plain with { Hitch = Hitch.Vertical };
        var gear = new LiftGear(
            "HM-1",
            new(Barbed, [new("legs", new WholeValue(1))]),
            Mass.Parse("7000 lb"),
            4,
            words,
            new([])
        );
        var (plan, faults) = LiftPlanReader.Read(
            new Dictionary<string, string>
            {
                ["basis"] = "known",
                ["weight"] = "3000 lb",
                ["hitch"] = "vertical",
                ["stand"] = "alike",
                ["legs"] = "1",
                ["angle"] = "90",
                ["piece-1-mark"] = "HM-1",
                ["piece-1-place"] = "leg-1",
            }
        );
        Assert.True(plan is not null, string.Join("; ", faults));
        var verdict = PlanVerdict.Of(plan, new Dictionary<string, LiftGear> { ["HM-1"] = gear }, [Book]);
        Assert.Equal(3000m / 4000, verdict.Result!.Weakest!.Piece.Utilisation!.Value, 3);
    }
}
