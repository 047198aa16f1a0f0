using System.Globalization;
using Keralith.Core.Custody;
using Keralith.Core.Formats;
using Keralith.Core.Gear;
using Keralith.Core.Ledger;
using Keralith.Core.Lifts;
using Keralith.Core.People;
using Keralith.Core.Quantities;
using Keralith.Core.Register;
using Keralith.Core.Tags;
using Xunit;
using static Keralith.Core.Tests.GivenLift;
using static Keralith.Core.Tests.GivenPlan;

namespace Keralith.Core.Tests;

/// <summary>Putting a lift together: weights, gear from the register, what will do, what would help.</summary>
public class LiftPlanTests
{
    [Theory]
    [InlineData("box", "2 m", "0.5 m", "0.4 m", "granite", 1, 1080)]
    [InlineData("cylinder", "1 m", "2 m", "", "water", 1, 1570.7963267949)]
    [InlineData("pipe", "500 mm", "10 mm", "6 m", "steel", 2, 1450.16)]
    [InlineData("sphere", "1 m", "", "", "lead", 1, 5937.61)]
    [InlineData("prism", "0.02 m2", "5 m", "", "steel", 1, 785)]
    [InlineData("linear", "12 kg/m", "5 m", "", "", 4, 240)]
    public void A_load_is_worked_out_from_its_shapes(
        string shape,
        string a,
        string b,
        string c,
        string of,
        int count,
        double kilograms
    )
    {
        var fields = Fields(
            ("basis", "estimated"),
            ("part-1-shape", shape),
            ("part-1-a", a),
            ("part-1-b", b),
            ("part-1-c", c),
            ("part-1-density", of),
            ("part-1-count", count.ToString(CultureInfo.InvariantCulture))
        );
        var plan = Plan(fields);
        Assert.Equal(kilograms, (double)plan.Estimate!.Bare, kilograms / 1000);
        Assert.Equal((double)plan.Estimate.Bare * 1.1, (double)plan.Load.Weight.Kilograms, 6);
    }

    [Theory]
    [InlineData("1100 kg", false)]
    [InlineData("1210 kg", false)]
    [InlineData("1210.1 kg", true)]
    [InlineData("990 kg", false)]
    [InlineData("989.9 kg", true)]
    public void A_weighing_more_than_a_tenth_off_the_estimate_asks_what_is_inside(string weighed, bool asks)
    {
        var estimate = new LoadEstimate(
            [new(new Box(Length.Parse("1 m"), Length.Parse("1 m"), Length.Parse("1 m")), 1000, 1)],
            LoadEstimate.UsualContingency,
            0
        );
        Assert.Equal(asks, estimate.Against(Mass.Parse(weighed)) is not null);
    }

    [Theory]
    [InlineData("weight", "3 ton", "weight")]
    [InlineData("legs", "5", "legs")]
    [InlineData("angle", "91", "angle")]
    [InlineData("chokeAngle", "181", "chokeAngle")]
    [InlineData("temperature", "hot", "temperature")]
    [InlineData("bentRound", "-1 in", "bentRound")]
    [InlineData("piece-1-place", "leg-3", "piece-1-place")]
    [InlineData("piece-1-pull", "200", "piece-1-pull")]
    [InlineData("hitch", "noose", "hitch")]
    public void What_is_at_fault_with_a_plan_is_named_by_its_field(string field, string typed, string fault)
    {
        var fields = Fields(
            ("basis", "known"),
            ("weight", "1 t"),
            ("piece-1-mark", "HM-0001"),
            ("piece-1-place", "legs")
        );
        fields[field] = typed;
        var (plan, faults) = LiftPlanReader.Read(fields);
        Assert.Null(plan);
        Assert.Contains(fault, faults.Keys);
    }

    [Theory]
    [InlineData("horizontal", "55", 55)]
    [InlineData("vertical", "35", 55)]
    [InlineData("included", "70", 55)]
    public void An_angle_is_the_same_whichever_way_it_is_named(string how, string typed, int degrees) =>
        Assert.Equal(
            degrees,
            ((StandAlike)Plan(Fields(("basis", "known"), ("weight", "1 t"), ("angleAs", how), ("angle", typed))).Stand)
                .Angle
                .Degrees
        );

    [Fact]
    public void An_angle_by_hook_height_is_worked_out() =>
        Assert.Equal(
            60,
            (double)
                (
                    (StandAlike)
                        Plan(
                            Fields(
                                ("basis", "known"),
                                ("weight", "1 t"),
                                ("angleAs", "height"),
                                ("height", "1.7320508 m"),
                                ("spread", "1 m")
                            )
                        ).Stand
                )
                    .Angle
                    .Degrees,
            2
        );

    [Fact]
    public void A_sling_of_two_legs_marked_at_sixty_degrees_carries_no_more_than_marked_however_steep()
    {
        var sling = Sling("HM-0001", "alloy-chain-sling", "10 t", TagWords.Plain with { Angle = new(60) }, 2);
        Assert.Equal(10_000 / (2 * 0.8660254), (double)sling.Sling(Hitch.Vertical).RatedLoad!.Value.Kilograms, 1);
        foreach (var (angle, most) in new[] { ("60", 10_000.0), ("80", 10_000.0), ("45", 8_165.0) })
        {
            var verdict = Verdict(
                Fields(
                    ("basis", "known"),
                    ("weight", "1 t"),
                    ("angle", angle),
                    ("piece-1-mark", "HM-0001"),
                    ("piece-1-place", "legs")
                ),
                sling
            );
            Assert.Equal(most, (double)verdict.Result!.Capacity!.Value, 1.0);
        }
    }

    [Fact]
    public void A_marking_without_hitch_or_with_a_choker_rating_alone_gives_no_straight_rating()
    {
        foreach (var words in new[] { TagWords.Plain, TagWords.Plain with { Hitch = Hitch.Choker } })
        {
            var verdict = Verdict(
                Fields(
                    ("basis", "known"),
                    ("weight", "1 t"),
                    ("legs", "1"),
                    ("angle", "90"),
                    ("piece-1-mark", "HM-0001"),
                    ("piece-1-place", "legs")
                ),
                Sling("HM-0001", "web-sling", "2 t", words)
            );
            Assert.Equal((LiftOutcome.Ask, (decimal?)null), (verdict.Outcome, verdict.Result!.Capacity));
        }
    }

    [Fact]
    public void A_kit_carries_by_its_weakest_member_and_never_above_the_sets_rating()
    {
        var kit = new LiftGear("HM-0001", Bare("sling-kit", 4), Mass.Parse("2500 kg"), null, TagWords.Plain, Usable)
        {
            Members = [KitMember.Read("4; leg; 1000 kg; bears").Value, KitMember.Read("1; ring; 5 t; bears").Value],
        };
        var verdict = Verdict(
            Fields(
                ("basis", "known"),
                ("weight", "1 t"),
                ("legs", "4"),
                ("angle", "60"),
                ("piece-1-mark", "HM-0001"),
                ("piece-1-place", "legs")
            ),
            kit
        );
        Assert.Equal(2500, (double)verdict.Result!.Capacity!.Value, 6);
    }

    [Fact]
    public void One_sling_is_never_counted_in_more_legs_than_it_has()
    {
        var verdict = Verdict(
            Fields(("basis", "known"), ("weight", "1 t"), ("piece-1-mark", "HM-0001"), ("piece-1-place", "legs")),
            Sling("HM-0001", "web-sling", "2 t", TagWords.Plain with { Hitch = Hitch.Vertical })
        );
        Assert.Null(verdict.Result);
        Assert.Contains("in 2 legs and serves 1", Assert.Single(verdict.Planned.Wanted), StringComparison.Ordinal);
    }

    [Theory]
    [InlineData("lever-hoist", "leg-1")]
    [InlineData("web-sling", "above")]
    public void A_piece_put_where_it_is_not_worked_out_leaves_the_lift_without_a_result(string family, string place)
    {
        var fields = Fields(
            ("basis", "known"),
            ("weight", "1 t"),
            ("legs", "1"),
            ("angle", "90"),
            ("piece-1-mark", "HM-0001"),
            ("piece-1-place", "legs"),
            ("piece-2-mark", "HM-0002"),
            ("piece-2-place", place)
        );
        var verdict = Verdict(
            fields,
            Sling("HM-0001", "roundsling", "2 t", TagWords.Plain with { Hitch = Hitch.Vertical }),
            new LiftGear(
                "HM-0002",
                Bare(family),
                Mass.Parse("1 kg"),
                null,
                TagWords.Plain with
                {
                    Hitch = Hitch.Vertical,
                },
                Usable
            )
        );
        Assert.Null(verdict.Result);
        Assert.Contains("no place", Assert.Single(verdict.Planned.Wanted), StringComparison.Ordinal);
    }

    [Fact]
    public void Gear_that_may_not_be_used_makes_no_lift_whatever_it_could_carry()
    {
        var held = Sling("HM-0001", "web-sling", "2 t", TagWords.Plain with { Hitch = Hitch.Vertical }) with
        {
            Use = new(["On hold: a doubt."]),
        };
        var fields = Fields(
            ("basis", "known"),
            ("weight", "100 kg"),
            ("legs", "1"),
            ("angle", "90"),
            ("piece-1-mark", "HM-0001"),
            ("piece-1-place", "legs")
        );
        Assert.Equal(LiftOutcome.NotPermitted, Verdict(fields, held).Outcome);
        Assert.False(Verdict(fields, held).MayBeLifted);
        Assert.Equal(
            LiftOutcome.NotPermitted,
            PlanVerdict
                .Of(
                    Plan(
                        Fields(
                            ("basis", "known"),
                            ("weight", "1 t"),
                            ("piece-1-mark", "HM-0009"),
                            ("piece-1-place", "legs")
                        )
                    ),
                    new Dictionary<string, LiftGear>(),
                    Asme,
                    null
                )
                .Remarks[0]
                .Outcome
        );
        Assert.Equal(
            LiftOutcome.NotPermitted,
            Verdict(fields, new LiftGear("HM-0001", Bare("restraint"), Mass.Parse("2 t"), null, TagWords.Plain, Usable))
                .Remarks[0]
                .Outcome
        );
    }

    [Fact]
    public void A_shackle_too_thick_for_the_hook_above_is_asked_about()
    {
        var hook = new LiftGear("HM-0002", Bare("hook"), Mass.Parse("5 t"), null, TagWords.Plain, Usable)
        {
            Fit = new(Length.Parse("30 mm"), Length.Parse("32 mm"), null, null, Length.Parse("20 mm")),
        };
        var thick = Sling("HM-0001", "roundsling", "2 t", TagWords.Plain with { Hitch = Hitch.Vertical }) with
        {
            Fit = new(null, null, Length.Parse("60 mm"), Length.Parse("34 mm"), null),
        };
        var fields = Fields(
            ("basis", "known"),
            ("weight", "1 t"),
            ("legs", "1"),
            ("angle", "90"),
            ("piece-1-mark", "HM-0001"),
            ("piece-1-place", "legs"),
            ("piece-2-mark", "HM-0002"),
            ("piece-2-place", "above")
        );
        Assert.Equal(LiftOutcome.Ask, Verdict(fields, thick, hook).Outcome);
        Assert.True(Verdict(fields, thick, hook).AsksSignature);
    }

    [Fact]
    public void The_search_offers_usable_gear_the_tightest_first_and_says_why_the_rest_does_not()
    {
        var plan = Plan(Fields(("basis", "known"), ("weight", "2 t"), ("angle", "60")));
        var words = TagWords.Plain with { Hitch = Hitch.Vertical };
        var search = GearSearch.Of(
            plan,
            GearFamilies.Find("web-sling")!,
            false,
            [
                Sling("HM-0003", "web-sling", "3 t", words),
                Sling("HM-0001", "web-sling", "1.2 t", words),
                Sling("HM-0002", "web-sling", "1.1 t", words),
                Sling("HM-0004", "web-sling", "2 t", words) with
                {
                    Use = new(["On hold: a doubt."]),
                },
            ],
            Asme
        );
        Assert.Equal(["HM-0001", "HM-0003"], search.Offers.Select(o => o.Gear.Mark));
        Assert.Equal(2, search.Offers[0].Needed);
        Assert.Equal(["HM-0002", "HM-0004"], search.NearMisses.Select(m => m.Gear.Mark).Order());
        Assert.Contains(
            "On hold",
            search.NearMisses.Single(m => m.Gear.Mark == "HM-0004").WhyNot[0],
            StringComparison.Ordinal
        );
        Assert.Equal(2000 / (2 * Math.Sin(Math.PI / 3)), (double)search.Least!.RatedLoad, 3);
    }

    [Theory]
    // The load leaves the first hoist plumb and leans on the second far over 2 deg. A hung hoist that pulls straight alone will do
    // at the one and not at the other, whatever its rating; a lever hoist does at both.
    [InlineData("hand-chain-hoist", "0", "0.03", "", 1, true)]
    [InlineData("hand-chain-hoist", "0", "0.03", "leg-1", 2, false)]
    [InlineData("hand-chain-hoist", "0", "0.03", "leg-2", 1, true)]
    [InlineData("hand-chain-hoist", "0", "0.03", "legs", null, false)]
    [InlineData("hand-chain-hoist", "1.97", "2", "", 1, false)]
    [InlineData("hand-chain-hoist", "1.97", "2", "leg-1", 2, true)]
    [InlineData("lever-hoist", "0", "0.03", "", 1, true)]
    [InlineData("lever-hoist", "0", "0.03", "leg-1", 2, true)]
    public void Of_a_row_of_hoists_the_next_is_tried_where_it_would_hang(
        string family,
        string from,
        string to,
        string taken,
        int? place,
        bool offered
    )
    {
        var fields = BetweenTwoHoists(from, to);
        if (taken.Length > 0)
            (fields["piece-1-mark"], fields["piece-1-place"]) = ("HM-0002", taken);
        var hoist = new LiftGear("HM-0001", Bare(family), Mass.Parse("1 t"), null, TagWords.Plain, Usable);
        var there = hoist with { Mark = "HM-0002" };
        var search = GearSearch.Of(
            Plan(fields),
            hoist.Gear.Family,
            false,
            [hoist],
            Asme,
            chosen: new Dictionary<string, LiftGear> { [there.Mark] = there }
        );
        Assert.Equal(place, search.Place);
        Assert.Equal(offered, search.Offers.Count == 1);
        Assert.Equal(offered, search.Least is not null);
        Assert.Equal(place is null ? 2 : 1, search.Offers.Concat(search.NearMisses).Single().Needed);
        if (!offered)
            Assert.Contains("plumb", Assert.Single(search.NearMisses).WhyNot[0], StringComparison.Ordinal);
    }

    /// <summary>500 kg passed between two hoists 2 m apart, 2 m below them.</summary>
    private static Dictionary<string, string> BetweenTwoHoists(string from, string to) =>
        Fields(
            ("basis", "known"),
            ("weight", "500 kg"),
            ("stand", "drift"),
            ("unit", "m"),
            ("a-x", "0"),
            ("a-z", "3"),
            ("b-x", "2"),
            ("b-z", "3"),
            ("from", from),
            ("to", to),
            ("carried", "1")
        );

    [Fact]
    public void Of_legs_it_is_too_weak_for_the_one_that_asks_most_is_named()
    {
        // The load hangs nearer to the second pick: that leg pulls half as hard again as the first.
        var fields = Fields(
            ("basis", "known"),
            ("weight", "3 t"),
            ("stand", "points"),
            ("unit", "m"),
            ("hook-x", "1.8"),
            ("hook-y", "0"),
            ("hook-z", "20"),
            ("g-x", "1.8"),
            ("g-y", "0"),
            ("g-z", "0"),
            ("pick-1-x", "0"),
            ("pick-1-y", "0"),
            ("pick-1-z", "0"),
            ("pick-2-x", "3"),
            ("pick-2-y", "0"),
            ("pick-2-z", "0")
        );
        var words = TagWords.Plain with { Hitch = Hitch.Vertical };
        var weak = Sling("HM-0001", "web-sling", "1.1 t", words);
        var plan = Plan(fields);
        var search = GearSearch.Of(plan, weak.Gear.Family, false, [weak], Asme);
        Assert.InRange(Assert.Single(search.NearMisses).Piece.Utilisation!.Value, 1.63m, 1.66m);
    }

    [Theory]
    [InlineData("1.99 t", LiftOutcome.Overloaded)]
    [InlineData("2 t", LiftOutcome.Caution)]
    [InlineData("4 t", LiftOutcome.Ok)]
    public void Hung_above_a_shackle_carries_the_whole_load(string rated, LiftOutcome outcome)
    {
        var plan = Plan(Fields(("basis", "known"), ("weight", "2 t"), ("angle", "60")));
        var shackle = Piece("HM-0001", "shackle", rated, ("pinType", "screw"));
        var search = GearSearch.Of(plan, shackle.Gear.Family, true, [shackle], Asme);
        var tried = Assert.Single(search.Offers.Concat(search.NearMisses));
        Assert.Equal((outcome, 2000m, 1), (tried.Piece.Outcome, tried.Piece.Demand, tried.Needed));
        Assert.Equal(outcome <= LiftOutcome.Caution, tried.IsOffered);
        Assert.Equal(2000m, search.Least!.RatedLoad);
    }

    [Theory]
    [InlineData("choker", "web-sling")]
    [InlineData("vertical", "eye-bolt")]
    [InlineData("basket", "roundsling")]
    public void The_least_rating_is_just_enough(string hitch, string family)
    {
        var fields = Fields(
            ("basis", "known"),
            ("weight", "2 t"),
            ("angle", "72"),
            ("hitch", hitch),
            ("chokeAngle", "100")
        );
        var least = GearSearch.Of(Plan(fields), GearFamilies.Find(family)!, false, [], Asme).Least!;
        Assert.Equal((double)least.RatedLoad, (double)least.Steps.Select(s => s.Needed).LastOrDefault(least.Demand), 3);
        foreach (var (share, outcome) in new[] { (1.0001m, LiftOutcome.Caution), (0.9999m, LiftOutcome.Overloaded) })
        {
            var rated = Mass.FromKilograms(least.RatedLoad * share);
            var gear = new LiftGear(
                "HM-0001",
                family == "eye-bolt" ? Bare(family).With("shoulder", new FlagValue(true)) : Bare(family),
                rated,
                GearFamilies.Find(family)!.AssumedDesignFactor,
                TagWords.Plain with
                {
                    Hitch = Hitch.Vertical,
                },
                Usable
            );
            var tried = GearSearch.Of(Plan(fields), GearFamilies.Find(family)!, false, [gear], Asme);
            Assert.Equal(outcome, tried.Offers.Concat(tried.NearMisses).Single().Piece.Outcome);
        }
    }

    [Fact]
    public void Each_fix_is_tried_before_it_is_named()
    {
        var lift = Read(
            $$$"""{"format":"keralith.lift/1","load":{"weight":"4 t","basis":"weighed"},"symmetric":{"legs":2,"angle":"35 deg","hitch":"vertical","sling":{{{Chain}}},"components":[{"kind":"eye-bolt","ratedLoad":"5 t","shoulder":true}]}}"""
        );
        var now = LiftJudge.Of(lift);
        var fixes = LiftFixes.Of(lift, now);
        Assert.Equal(LiftOutcome.Overloaded, now.Outcome);
        Assert.Contains(fixes, f => f.Text.Contains("60 deg", StringComparison.Ordinal));
        Assert.Contains(fixes, f => f.Text.Contains("hoist rings", StringComparison.Ordinal));
        Assert.Contains(fixes, f => f.Text.Contains("marked at least", StringComparison.Ordinal));
        Assert.All(fixes, f => Assert.True(f.Outcome <= now.Outcome));
        Assert.Empty(
            LiftFixes.Of(
                Read(
                    $$$"""{"format":"keralith.lift/1","load":{"weight":"1 t","basis":"weighed"},"symmetric":{"legs":2,"angle":"60 deg","hitch":"vertical","sling":{{{Chain}}}}}"""
                ),
                Alike(Chain)
            )
        );
    }

    [Fact]
    public void Links_taken_up_bring_a_load_level_and_the_tilt_that_remains_is_told()
    {
        var geometry = LegGeometry
            .Read(new(2743.2, 0, 3962.4), new(2743.2, 0, 0), [new(0, 0, 304.8), new(3657.6, 0, 304.8)])
            .Value;
        var level = Levelling.Of(geometry, [new(4572, 30), new(4572, 30)]);
        Assert.Equal(4572, level.Legs[0].Needed, 1);
        Assert.Equal(3770.2, level.Legs[1].Needed, 1);
        Assert.Equal((0, 27), (level.Legs[0].Links, level.Legs[1].Links));
        Assert.InRange(level.Tilt!.Value, 0, 0.5);
        Assert.InRange(Levelling.Of(geometry, [new(4572), new(4572)]).Tilt!.Value, 5, 30);
        Assert.Null(Levelling.Of(geometry, [new(1000), new(1000)]).Tilt);
    }

    [Fact]
    public void Four_legs_of_one_reach_tilt_an_off_centre_load_as_much_as_their_worst_three()
    {
        var centred = LegGeometry
            .Read(
                new(0, 0, 3000),
                new(0, 0, -500),
                [new(-1000, -700, 0), new(1000, -700, 0), new(1000, 700, 0), new(-1000, 700, 0)]
            )
            .Value;
        var reach = centred.ReachNeeded(0, 3000);
        Assert.Equal(0, Levelling.Of(centred, [new(reach), new(reach), new(reach), new(reach)]).Tilt!.Value, 3);
        var off = LegGeometry.Read(new(200, 0, 3000), new(200, 0, -500), centred.Picks).Value;
        Assert.True(Levelling.Of(off, [new(reach), new(reach), new(reach), new(reach)]).Tilt > 2);
    }

    [Fact]
    public void Half_way_between_two_hoists_each_pulls_the_same_and_beyond_them_nothing_is_worked_out()
    {
        var drift = Drift.Read(new(0, 0, 3000), new(2000, 0, 3000), 100, 1900, 1000).Value;
        var middle = drift.Way[10];
        Assert.Equal(middle.First, middle.Second, 9);
        Assert.Equal(1 / (2 * Math.Sin(Math.Atan2(2000, 1000))), middle.First, 9);
        Assert.All(drift.Way, s =>
            Assert.Equal(
                1,
                (s.First * Math.Cos(s.FirstOffPlumb * Math.PI / 180))
                    + (s.Second * Math.Cos(s.SecondOffPlumb * Math.PI / 180)),
                9
            )
        );
    }

    [Theory]
    // The load stays between the hoists, below both of them, and they hang apart.
    [InlineData(2000, 3000, 0, 2000, 1000, true)]
    [InlineData(2000, 3000, -0.1, 2000, 1000, false)]
    [InlineData(2000, 3000, 0, 2000.1, 1000, false)]
    [InlineData(2000, 3000, 2000, 0, 1000, true)]
    [InlineData(2000, 3000, 2000.1, 0, 1000, false)]
    [InlineData(2000, 3000, 2000, -0.1, 1000, false)]
    [InlineData(-2000, 3000, -2000, 0, 1000, true)]
    [InlineData(2000, 3000, 0, 2000, 2999.9, true)]
    [InlineData(2000, 3000, 0, 2000, 3000, false)]
    [InlineData(2000, 1500, 0, 2000, 1499.9, true)]
    [InlineData(2000, 1500, 0, 2000, 1500, false)]
    [InlineData(2000, 1500, 0, 2000, 2000, false)]
    [InlineData(2000, 4500, 0, 2000, 3000, false)]
    [InlineData(1, 3000, 0, 1, 1000, true)]
    [InlineData(0.9, 3000, 0, 0.9, 1000, false)]
    public void A_way_beyond_two_hoists_or_over_one_of_them_is_not_worked_out(
        double apart,
        double second,
        double from,
        double to,
        double height,
        bool worked
    ) => Assert.Equal(worked, Drift.Read(new(0, 0, 3000), new(apart, 0, second), from, to, height).Ok);

    [Theory]
    [InlineData("hand-chain-hoist", null, LiftOutcome.NotPermitted)]
    [InlineData("hand-chain-hoist", "60", LiftOutcome.Caution)]
    [InlineData("lever-hoist", null, LiftOutcome.Ok)]
    public void A_hung_hoist_drifts_a_load_only_where_its_maker_states_the_angle(
        string family,
        string? makers,
        LiftOutcome outcome
    )
    {
        var fields = BetweenTwoHoists("0.2", "1.8");
        (fields["piece-1-mark"], fields["piece-1-place"]) = ("HM-0001", "leg-1");
        (fields["piece-2-mark"], fields["piece-2-place"]) = ("HM-0002", "leg-2");
        Assert.Equal(outcome, Verdict(fields, Hoist("HM-0001"), Hoist("HM-0002")).Outcome);

        LiftGear Hoist(string mark) =>
            new(mark, Bare(family), Mass.Parse("1 t"), null, TagWords.Plain, Usable)
            {
                MakersAngle = makers is null ? null : Angle.Read($"{makers} deg").Value,
            };
    }

    [Fact]
    public void Legs_whose_reach_does_not_bring_the_hook_there_are_asked_about()
    {
        var sling = Sling("HM-0001", "alloy-chain-sling", "5 t", TagWords.Plain with { Angle = new(60) }, 2);
        sling = sling with { Gear = sling.Gear.With("reach", new LengthValue(Length.Parse("3 m"))) };
        var fields = Fields(
            ("basis", "known"),
            ("weight", "1 t"),
            ("stand", "points"),
            ("unit", "m"),
            ("hook-x", "0.3"),
            ("hook-z", "2.8"),
            ("g-x", "0.3"),
            ("g-z", "-0.5"),
            ("pick-1-x", "-1"),
            ("pick-2-x", "1"),
            ("piece-1-mark", "HM-0001"),
            ("piece-1-place", "legs")
        );
        var verdict = Verdict(fields, sling);
        Assert.Equal(LiftOutcome.Ok, verdict.Result!.Outcome);
        Assert.Equal(LiftOutcome.Ask, verdict.Outcome);
    }

    [Fact]
    public void A_lift_written_out_reads_back_to_the_same_result()
    {
        var lift = Read(
            $$$"""{"format":"keralith.lift/1","ruleBooks":["asme","osha"],"fourLegs":"two-carry","load":{"weight":"2 t","basis":"weighed","temperature":"60 F"},"symmetric":{"legs":4,"angle":"62 deg","hitch":"choker","sling":{{{Chain}}},"chokeAngle":"100 deg","contact":"square","components":[{"kind":"shackle","ratedLoad":"2 t","pull":"10 deg","pin":"screw"},{"kind":"eye-bolt","ratedLoad":"4 t","shoulder":true,"hole":"blind","engaged":1.6}]},"above":[{"kind":"hook","ratedLoad":"8 t","collects":"60 deg"},{"kind":"lifting-point","ratedLoad":"5 t","documented":true}],"rigging":{"weight":"40 kg"}}"""
        );
        Assert.Equal(
            LiftWriter.Write(LiftJudge.Of(lift)),
            LiftWriter.Write(LiftJudge.Of(Read(LiftDocument.Write(lift)!)))
        );
        var points = Read(
            PointsJson("200 100 2700", "210 100 200", ["-1000 -700 600", "1000 -700 600", "1000 700 600"])
        );
        Assert.Equal(
            LiftWriter.Write(LiftJudge.Of(points)),
            LiftWriter.Write(LiftJudge.Of(Read(LiftDocument.Write(points)!)))
        );
    }

    [Fact]
    public void Kinds_of_sling_are_ruled_out_by_heat_and_policy_and_minded_at_edges()
    {
        var hot = SlingKinds.For(
            new()
            {
                Temperature = new(210, TemperatureScale.Fahrenheit),
                NoChain = true,
                SharpEdges = true,
            }
        );
        KindFits Of(string family) => hot.Single(k => k.Family.Code == family).Fits;
        Assert.Equal(
            (KindFits.No, KindFits.No, KindFits.WithCare, KindFits.Fits),
            (Of("alloy-chain-sling"), Of("web-sling"), Of("wire-rope-sling"), Of("metal-mesh-sling"))
        );
        Assert.Equal(
            KindFits.Fits,
            SlingKinds
                .For(new() { Temperature = new(194, TemperatureScale.Fahrenheit) })
                .Single(k => k.Family.Code == "web-sling")
                .Fits
        );
    }

    [Theory]
    [InlineData(true, null, "Maud", null, null)]
    [InlineData(false, null, "Maud", null, "may not be used")]
    [InlineData(true, "Osric", "Maud", null, "out with Osric")]
    [InlineData(true, null, " ", null, "name who takes it")]
    [InlineData(true, null, "Maud", "2026-03-01", "is past")]
    [InlineData(true, null, "Maud", "2026-03-02", null)]
    public void Gear_is_handed_out_once_to_a_named_person_and_only_when_it_may_be_used(
        bool usable,
        string? with,
        string holder,
        string? back,
        string? refusal
    )
    {
        var handedOut = Issuing.HandOut(
            Guid.NewGuid(),
            "HM-0002",
            PieceState.InService,
            usable ? Usable : new(["On hold."]),
            with is null ? null : new(with, "Lock 9", null, new(2026, 3, 1)),
            holder,
            "Lock 9",
            back is null ? null : DateOnly.ParseExact(back, "yyyy-MM-dd", CultureInfo.InvariantCulture),
            null,
            GivenPeople.Signer(Role.Stores)
        );
        if (refusal is null)
            Assert.True(handedOut.Ok, handedOut.Fault);
        else
            Assert.Contains(refusal, handedOut.Fault, StringComparison.Ordinal);
    }

    [Theory]
    [InlineData(Role.Crew, true, "Osric", "Maud", null, null)]
    [InlineData(Role.Trainee, true, "Osric", "Maud", null, "does not allow")]
    [InlineData(Role.Crew, true, null, "Maud", null, "is not out")]
    [InlineData(Role.Crew, true, "Osric", "osric ", null, "Osric has it already")]
    [InlineData(Role.Crew, true, "Osric", " ", null, "name who takes it")]
    [InlineData(Role.Crew, false, "Osric", "Maud", null, "may not be used")]
    [InlineData(Role.Crew, true, "Osric", "Maud", "2026-03-01", "is past")]
    [InlineData(Role.Crew, true, "Osric", "Maud", "2026-03-02", null)]
    public void Who_has_gear_hands_it_to_the_next_for_the_same_job_only_while_it_may_be_used(
        Role role,
        bool usable,
        string? with,
        string next,
        string? back,
        string? refusal
    )
    {
        var over = Issuing.HandOver(
            Guid.NewGuid(),
            "HM-0002",
            PieceState.InService,
            usable ? Usable : new(["On hold."]),
            with is null ? null : new(with, "Lock 9", new(2026, 3, 9), new(2026, 3, 1)),
            next,
            " ",
            back is null ? null : DateOnly.ParseExact(back, "yyyy-MM-dd", CultureInfo.InvariantCulture),
            GivenPeople.Signer(role)
        );
        if (refusal is not null)
        {
            Assert.Contains(refusal, over.Fault, StringComparison.Ordinal);
            return;
        }

        var said = Assert.IsType<PieceHandedOver>(over.Value.Record);
        Assert.Equal(("Osric", "Maud", "Lock 9"), (said.From, said.Holder, said.Job));
        Assert.Equal(back is null ? new(2026, 3, 9) : new DateOnly(2026, 3, 2), said.Back);
    }

    [Theory]
    [InlineData("", "", "", "", LiftOutcome.Ok)]
    [InlineData("bears", "12 mm", "", "12 mm", LiftOutcome.Ok)]
    [InlineData("bears", "11.9 mm", "", "12 mm", LiftOutcome.NotPermitted)]
    [InlineData("bears", "0", "cut-protector", "12 mm", LiftOutcome.Caution)]
    [InlineData("bears", "20", "", "", LiftOutcome.Ask)]
    public void A_plan_whose_sling_bears_on_an_edge_is_worked_out_with_it_and_told_in_the_second_edition(
        string edge,
        string radius,
        string protection,
        string thickness,
        LiftOutcome outcome
    )
    {
        var fields = Fields(
            ("basis", "known"),
            ("weight", "500 kg"),
            ("legs", "1"),
            ("unit", "mm"),
            ("edge", edge),
            ("edgeRadius", radius),
            ("edgeProtection", protection),
            ("slingThickness", thickness),
            ("piece-1-mark", "HM-0001"),
            ("piece-1-place", "legs")
        );
        var sling = Sling("HM-0001", "web-sling", "3 t", TagWords.Plain with { Hitch = Hitch.Vertical });
        var verdict = Verdict(fields, sling);
        Assert.Equal(outcome, verdict.Result!.Outcome);
        var lift = verdict.Planned.Lift!;
        Assert.Equal(edge.Length == 0 ? LiftEdition.First : LiftEdition.Second, lift.Edition);
        Assert.Equal(LiftWriter.Write(verdict.Result), LiftWriter.Write(LiftJudge.Of(Read(LiftDocument.Write(lift)!))));
    }

    [Theory]
    // What a protector makes of an edge is asked where there is one; said of a bare edge, it rounds nothing.
    [InlineData("", null, null)]
    [InlineData("none", null, null)]
    [InlineData("cut-protector", 25, 300)]
    public void Only_a_protector_rounds_an_edge(string protection, int? radius, int? bears)
    {
        var fields = Fields(
            ("basis", "known"),
            ("weight", "500 kg"),
            ("legs", "1"),
            ("edge", "bears"),
            ("edgeRadius", "2 mm"),
            ("edgeProtection", protection),
            ("edgeProtectedRadius", "25 mm"),
            ("edgeBears", "300 mm")
        );
        var edge = Plan(fields).Hitch.Edge!;
        Assert.Equal(
            (2m, (decimal?)radius, (decimal?)bears),
            (edge.Radius.Millimetres, edge.ProtectedRadius?.Millimetres, edge.Bears?.Millimetres)
        );
    }

    [Fact]
    public void Every_part_of_an_estimate_counts_the_last_too()
    {
        var fields = Fields(("basis", "estimated"), ("contingency", "0"), ("legs", "1"));
        for (var part = 1; part <= LiftPlanReader.MostParts; part++)
        {
            foreach (var (name, value) in new[] { ("shape", "box"), ("a", "1 m"), ("b", "1 m"), ("c", "1 m") })
                fields[$"part-{part}-{name}"] = value;
            fields[$"part-{part}-density"] = "granite";
        }

        var one = Plan(
            fields
                .Where(f =>
                    !f.Key.StartsWith("part-", StringComparison.Ordinal)
                    || f.Key.StartsWith("part-1-", StringComparison.Ordinal)
                )
                .ToDictionary()
        );
        Assert.Equal(LiftPlanReader.MostParts * one.Load.Weight.Kilograms, Plan(fields).Load.Weight.Kilograms);
    }

    [Fact]
    public void What_was_added_to_an_estimate_is_not_added_again_in_the_document()
    {
        var fields = Fields(
            ("basis", "estimated"),
            ("part-1-shape", "box"),
            ("part-1-a", "1 m"),
            ("part-1-b", "1 m"),
            ("part-1-c", "300 mm"),
            ("part-1-density", "granite"),
            ("contingency", "15"),
            ("legs", "1"),
            ("edge", "bears"),
            ("edgeRadius", "50 mm"),
            ("slingThickness", "6 mm"),
            ("piece-1-mark", "HM-0001"),
            ("piece-1-place", "legs")
        );
        var lift = Verdict(fields, Sling("HM-0001", "web-sling", "3 t", TagWords.Plain)).Planned.Lift!;
        Assert.Equal(931.5m, lift.Load.Weight.Kilograms);
        Assert.Equal(931.5m, Read(LiftDocument.Write(lift)!).Load.Weight.Kilograms);
    }

    [Theory]
    [InlineData("edgeRadius", "")]
    [InlineData("edgeRadius", "-1 mm")]
    [InlineData("edgeProtection", "carpet")]
    [InlineData("slingThickness", "0 mm")]
    public void An_edge_nobody_measured_is_asked_for(string field, string value)
    {
        var fields = Fields(
            ("basis", "known"),
            ("weight", "500 kg"),
            ("legs", "1"),
            ("edge", "bears"),
            ("edgeRadius", "5 mm")
        );
        fields[field] = value;
        Assert.Contains(field, LiftPlanReader.Read(fields).Faults.Keys);
    }
}
