using Keralith.Core.Formats;
using Keralith.Core.Lifts;
using Keralith.Core.Quantities;
using Keralith.Core.Tags;
using Xunit;
using static Keralith.Core.Tests.GivenPlan;

namespace Keralith.Core.Tests;

/// <summary>A plan with its load's own figures, its beam, its crane and its way.</summary>
public class PlanPathTests
{
    private static readonly (string, string)[] Ton = [("basis", "known"), ("weight", "1000 kg"), ("unit", "mm")];

    private static readonly LiftGear Beam = Piece(
        "HM-0009",
        "lifting-beam",
        "2 t",
        ("kind", "spreader"),
        ("span", "2 m"),
        ("ownWeight", "60 kg")
    );

    private static LiftGear Chain(string mark, string reach = "2 m") =>
        Piece(mark, "alloy-chain-sling", "3 t", ("reach", reach), ("ownWeight", "10 kg"), ("legs", "1"));

    private static readonly LiftGear[] UnderBeam =
    [
        Beam,
        Chain("HM-0001"),
        Chain("HM-0002"),
        Chain("HM-0003"),
        Chain("HM-0004"),
    ];

    private static Dictionary<string, string> Spreader(params (string, string)[] more)
    {
        var fields = Fields([
            .. Ton,
            ("stand", "beam"),
            ("span", "2 m"),
            ("along", "0"),
            ("drop-1-above", "200"),
            ("drop-2-above", "200"),
        ]);
        foreach (
            var (row, (mark, place)) in new[]
            {
                ("HM-0001", "leg-1"),
                ("HM-0002", "leg-2"),
                ("HM-0009", "beam"),
                ("HM-0003", "top"),
                ("HM-0004", "top"),
            }.Index()
        )
        {
            fields[LiftPlanReader.PieceField(row + 1, "mark")] = mark;
            fields[LiftPlanReader.PieceField(row + 1, "place")] = place;
        }

        foreach (var (name, value) in more)
            fields[name] = value;
        return fields;
    }

    // Readings 1800 and 1200 lb, 10 ft apart: 3000 lb, G 4.0 ft from the first.
    [Fact]
    public void Two_weighings_give_the_weight_and_the_place_in_plan_of_the_centre_of_gravity()
    {
        var plan = Plan(
            Fields(
                ("basis", "weighed"),
                ("unit", "ft"),
                ("scale-1-reading", "1800 lb"),
                ("scale-2-reading", "1200 lb"),
                ("scale-2-x", "10"),
                ("stand", "points"),
                ("legs", "2"),
                ("hook-x", "4"),
                ("hook-z", "9"),
                ("pick-1-z", "1"),
                ("pick-2-x", "10"),
                ("pick-2-z", "1")
            )
        );
        Assert.Equal(3000 * 0.45359237m, plan.Load.Weight.Kilograms);
        var stand = Assert.IsType<StandPoints>(plan.Stand);
        Assert.Equal(4 * 304.8, stand.Geometry.Centre.X, 6);
        Assert.False(stand.CentreIsTyped);
    }

    [Theory]
    [InlineData("scale-2-reading", "")]
    [InlineData("scale-2-x", "0")]
    public void One_support_or_two_at_one_place_weigh_nothing(string field, string value)
    {
        var fields = Fields(
            ("basis", "weighed"),
            ("scale-1-reading", "1800 lb"),
            ("scale-2-reading", "1200 lb"),
            ("scale-2-x", "3000")
        );
        if (value.Length == 0)
            fields.Remove(field);
        else
            fields[field] = value;
        Assert.Contains(field, LiftPlanReader.Read(fields).Faults.Keys);
    }

    // (600 - 550) x 3 m / (1000 kg x tan 5 deg) = 1714.5 mm over the supports.
    [Theory]
    [InlineData("600 kg", "550 kg", "5 deg", "1 kg", "1714.51")]
    [InlineData("600 kg", "550 kg", "2.99 deg", "1 kg", null)]
    [InlineData("600 kg", "550 kg", "3 deg", "1 kg", "2862.17")]
    [InlineData("600 kg", "597.1 kg", "5 deg", "1 kg", null)]
    [InlineData("600 kg", "597 kg", "5 deg", "1 kg", "102.87")]
    [InlineData("600 kg", "600 kg", "5 deg", "0 kg", null)]
    [InlineData("600 kg", "650 kg", "5 deg", "1 kg", null)]
    [InlineData("600 kg", "550 kg", "45 deg", "1 kg", null)]
    public void A_tilt_tells_the_height_or_says_why_it_tells_none(
        string level,
        string raised,
        string tilt,
        string step,
        string? high
    )
    {
        var height = new TiltedWeighing(
            Length.Parse("3 m"),
            Mass.Parse(level),
            Mass.Parse(raised),
            Angle.Read(tilt).Value,
            step == "0 kg" ? Mass.FromKilograms(0) : Mass.Parse(step)
        ).Height(Mass.Parse("1000 kg"));
        Assert.Equal(high is not null, height.Ok);
        if (high is not null)
            Assert.Equal(decimal.Parse(high, System.Globalization.CultureInfo.InvariantCulture), height.Value, 2);
    }

    [Fact]
    public void A_height_weighed_by_a_tilt_stands_in_the_plan_and_nothing_is_taken_for_granted()
    {
        var fields = Fields(
            ("basis", "weighed"),
            ("unit", "mm"),
            ("scale-1-reading", "400 kg"),
            ("scale-2-reading", "600 kg"),
            ("scale-2-x", "3000"),
            ("tilt-apart", "3000"),
            ("tilt-level", "600 kg"),
            ("tilt-raised", "585 kg"),
            ("tilt-angle", "5"),
            ("stand", "points"),
            ("legs", "1"),
            ("hook-x", "1800"),
            ("hook-z", "4000"),
            ("pick-1-x", "1800"),
            ("pick-1-z", "1000")
        );
        var stand = Assert.IsType<StandPoints>(Plan(fields).Stand);
        Assert.Equal(514.35, stand.Geometry.Centre.Z, 2);
        Assert.True(stand.CentreIsTyped);
        fields["tilt-raised"] = "599.9 kg";
        fields["tilt-step"] = "1 kg";
        Assert.Contains("tilt-raised", LiftPlanReader.Read(fields).Faults.Keys);
    }

    [Fact]
    public void Parts_with_their_places_tell_the_centre_of_gravity_and_one_without_leaves_it_to_be_typed()
    {
        var fields = Fields(
            ("basis", "estimated"),
            ("unit", "mm"),
            ("part-1-shape", "box"),
            ("part-1-a", "1000"),
            ("part-1-b", "1000"),
            ("part-1-c", "100"),
            ("part-1-density", "steel"),
            ("part-1-x", "0"),
            ("part-2-shape", "box"),
            ("part-2-a", "1000"),
            ("part-2-b", "1000"),
            ("part-2-c", "300"),
            ("part-2-density", "steel"),
            ("part-2-x", "2000"),
            ("stand", "points"),
            ("legs", "1"),
            ("hook-x", "1500"),
            ("hook-z", "4000"),
            ("pick-1-x", "1500"),
            ("pick-1-z", "1000")
        );
        Assert.Equal(1500, Assert.IsType<StandPoints>(Plan(fields).Stand).Geometry.Centre.X, 6);
        fields.Remove("part-2-x");
        var left = Assert.IsType<StandPoints>(Plan(fields).Stand);
        Assert.True(left.CentreIsTyped);
        Assert.Equal(0, left.Geometry.Centre.X, 6);
    }

    // The hook 9 ft above G, 4 deg: 9 x tan 4 deg = 0.629 ft off.
    [Theory]
    [InlineData("x+", "4 deg", 0.629, 0)]
    [InlineData("x-", "4", -0.629, 0)]
    [InlineData("y+", "4 deg", 0, 0.629)]
    [InlineData("x+ y-", "4 deg", 0.445, -0.445)]
    public void A_trial_lift_puts_the_centre_of_gravity_towards_the_low_end(string low, string by, double x, double y)
    {
        var geometry = LegGeometry
            .Read(new(1000, 0, 9 * 304.8), new(1000, 0, 0), [new(0, 0, 300), new(2000, 0, 300)])
            .Value;
        var found = TrialFinding.Read(low, by).Value;
        var centre = found.Centre(geometry);
        Assert.Equal(1000 + (x * 304.8), centre.X, 0.5);
        Assert.Equal(y * 304.8, centre.Y, 0.5);
    }

    [Theory]
    [InlineData("x+", "3 in over 4 ft", true)]
    [InlineData("x+", "0 deg", false)]
    [InlineData("x+", "45 deg", true)]
    [InlineData("x+", "45.1 deg", false)]
    [InlineData("x+", "4 ft over 3 in", false)]
    [InlineData("x+", "much", false)]
    [InlineData("", "4 deg", false)]
    [InlineData(null, null, false)]
    public void How_it_hung_is_an_end_and_an_angle_or_a_height_over_a_length(string? low, string? by, bool read) =>
        Assert.Equal(read, TrialFinding.Read(low, by).Ok);

    [Fact]
    public void Three_inches_over_four_feet_is_three_point_six_degrees() =>
        Assert.Equal(3.583m, TrialFinding.Read("x+", "3 in over 4 ft").Value.Tilt.Degrees);

    [Theory]
    [InlineData("0", 500, 500)]
    [InlineData("20 mm", 490, 510)]
    [InlineData("-20 mm", 510, 490)]
    public void Below_a_spreader_each_drop_carries_by_the_place_of_the_centre_of_gravity(
        string along,
        int first,
        int second
    )
    {
        var verdict = Verdict(Spreader(("along", along)), UnderBeam);
        var result = verdict.Result!;
        Assert.Equal([first, second], result.Legs.Select(l => (int)l.Tension!.Value));
        Assert.Equal(LiftOutcome.Ok, verdict.Outcome);

        // Two slings above, two below: 40 kg of rigging, counted with the load and not the beam's own weight.
        Assert.Equal(1040m, result.Beam!.Piece.Demand);
        Assert.Equal("HM-0009", verdict.Planned.BeamMark);
        Assert.Equal(["HM-0003", "HM-0004"], verdict.Planned.TopMarks.Select(t => t[0]));
    }

    [Fact]
    public void The_weaker_of_two_slings_above_a_beam_counts_for_both_and_an_unrated_one_is_the_weakest()
    {
        var weak = Piece("HM-0004", "alloy-chain-sling", "700 kg", ("reach", "2 m"), ("legs", "1"));
        var both = Verdict(Spreader(), [.. UnderBeam[..4], weak]).Result!.Beam!.Top;
        Assert.All(both, t => Assert.Equal(700m, t.Pieces[0].Allowed));
        var unrated = Piece("HM-0004", "alloy-chain-sling", "", ("reach", "2 m"), ("legs", "1"));
        Assert.Equal(LiftOutcome.Ask, Verdict(Spreader(), [.. UnderBeam[..4], unrated]).Outcome);
    }

    [Theory]
    [InlineData("piece-3-place", "above", "no beam is named yet")]
    [InlineData("piece-4-place", "above", "slings hang in the legs")]
    [InlineData("piece-1-place", "leg-2", "drop 1 has no sling yet")]
    [InlineData("piece-5-place", "leg-1", "drop 1 has 2 slings")]
    public void What_lacks_under_a_beam_is_wanted(string field, string value, string wanted)
    {
        var verdict = Verdict(Spreader((field, value)), UnderBeam);
        Assert.Null(verdict.Result);
        Assert.Contains(verdict.Planned.Wanted, w => w.Contains(wanted, StringComparison.Ordinal));
    }

    [Fact]
    public void One_single_sling_above_a_spreader_is_half_of_what_it_hangs_by()
    {
        var fields = Spreader();
        fields.Remove("piece-5-mark");
        fields.Remove("piece-5-place");
        Assert.Contains(Verdict(fields, UnderBeam).Planned.Wanted, w =>
            w.Contains("two legs above the beam", StringComparison.Ordinal)
        );
    }

    [Theory]
    [InlineData("beamKind", "lifting", LiftOutcome.NotPermitted, "made as a spreader")]
    [InlineData("span", "1.9 m", LiftOutcome.Ask, "marked for a span of 2 m")]
    [InlineData("topAngle", "44", LiftOutcome.NotPermitted, "under 45 deg")]
    [InlineData("along", "41 mm", LiftOutcome.Ask, "over 2 %")]
    [InlineData("drop-1-at", "-1045 mm", LiftOutcome.NotPermitted, "outside the top pick")]
    public void A_beam_used_otherwise_than_it_is_made_for_is_told(
        string field,
        string value,
        LiftOutcome outcome,
        string words
    )
    {
        var fields = Spreader((field, value));
        if (field == "beamKind")
        {
            (fields["drop-1-at"], fields["drop-2-at"]) = ("-1000", "1000");
            fields.Remove("piece-5-mark");
        }

        var verdict = Verdict(fields, UnderBeam);
        Assert.Equal(outcome, verdict.Outcome);
        Assert.Contains(verdict.Remarks.Concat(verdict.Result!.Remarks), r =>
            r.Outcome == outcome && r.Text.Contains(words, StringComparison.Ordinal)
        );
    }

    [Theory]
    [InlineData("span", "")]
    [InlineData("topAngle", "90")]
    [InlineData("drops", "3")]
    [InlineData("drop-2-at", "-1000")]
    public void A_beam_nobody_measured_is_asked_for(string field, string value)
    {
        var fields = Spreader((field, value));
        if (value.Length == 0)
            fields.Remove(field);
        Assert.Contains(field, LiftPlanReader.Read(fields).Faults.Keys);
    }

    [Fact]
    public void A_plan_under_a_beam_from_a_crane_is_told_whole_in_the_second_edition()
    {
        var verdict = Verdict(Spreader(Crane("15 m", "8 m")), UnderBeam);
        var lift = verdict.Planned.Lift!;
        Assert.Equal(LiftEdition.Second, lift.Edition);
        Assert.Empty(LiftDocument.LeftOut(verdict.Planned));
        Assert.Equal(
            LiftWriter.Write(verdict.Result!),
            LiftWriter.Write(LiftJudge.Of(GivenLift.Read(LiftDocument.Write(lift)!)))
        );
    }

    private const string Chart =
        "main\t10 m\t4 m\t9000 kg\nmain\t10 m\t8 m\t4000 kg\nmain\t20 m\t8 m\t3500 kg\nmain\t20 m\t12 m\t1800 kg";

    private static (string, string)[] Crane(string boom, string pick, params (string, string)[] more) =>
        [
            ("machine", "crane"),
            ("crane-chart", Chart),
            ("crane-configuration", "main"),
            ("crane-boom", boom),
            ("crane-pick", pick),
            .. more,
        ];

    private static Dictionary<string, string> OneLeg(params (string, string)[] more) =>
        Fields([
            .. Ton,
            ("legs", "1"),
            ("angle", "90"),
            ("rigging", "0 kg"),
            ("piece-1-mark", "HM-0001"),
            ("piece-1-place", "legs"),
            .. more,
        ]);

    [Theory]
    [InlineData("10 m", "8 m", "", 4000, LiftOutcome.Ok, false)]
    [InlineData("10 m", "8.001 m", "", 0, LiftOutcome.NotPermitted, true)]
    [InlineData("15 m", "8 m", "", 3500, LiftOutcome.Ok, false)]
    [InlineData("20 m", "8.1 m", "", 1800, LiftOutcome.Ok, false)]
    [InlineData("20 m", "8 m", "2163.33 kg", 3500, LiftOutcome.Ok, false)]
    [InlineData("20 m", "8 m", "2170 kg", 3500, LiftOutcome.Ask, true)]
    [InlineData("20 m", "8 m", "2500 kg", 3500, LiftOutcome.Ask, true)]
    [InlineData("20 m", "8 m", "2501 kg", 3500, LiftOutcome.Overloaded, true)]
    [InlineData("9 m", "8 m", "", 0, LiftOutcome.NotPermitted, true)]
    public void A_plan_from_a_crane_is_held_against_what_its_chart_leaves(
        string boom,
        string pick,
        string off,
        int gross,
        LiftOutcome outcome,
        bool asksSignature
    )
    {
        var verdict = Verdict(
            OneLeg(Crane(boom, pick, ("deduct-1-weight", off), ("deduct-1-what", "block"))),
            Piece("HM-0001", "alloy-chain-sling", "3 t", ("legs", "1"))
        );
        Assert.Equal(gross, (int)(verdict.Result!.Crane!.Gross ?? 0));
        Assert.Equal(outcome, verdict.Outcome);
        Assert.Equal(asksSignature, verdict.AsksSignature);
    }

    [Fact]
    public void The_worst_of_the_radii_governs_and_one_by_boom_angle_is_among_them()
    {
        var verdict = Verdict(
            OneLeg(Crane("20 m", "8 m", ("crane-land", "9 m"), ("crane-angle", "60"), ("crane-offset", "-200"))),
            Piece("HM-0001", "alloy-chain-sling", "3 t", ("legs", "1"))
        );

        // 20 m x cos 60 deg - 0.2 m = 9.8 m.
        Assert.Equal([8000m, 9000m, 9800m], verdict.Planned.Plan.Crane!.Radii.Select(r => r.Millimetres));
        Assert.Equal(1800m, verdict.Result!.Crane!.Gross);
    }

    [Theory]
    [InlineData("crane-chart", "")]
    [InlineData("crane-chart", "main\t10 m\t4 m")]
    [InlineData("crane-chart", "main\t10 m\t4 m\t9000")]
    [InlineData("crane-chart", "main\t10 m\t4 m\t4000 kg\nmain\t10 m\t8 m\t9000 kg")]
    [InlineData("crane-chart", "main\t10 m\t4 m\t4000 kg\nmain\t10 m\t4 m\t3000 kg")]
    [InlineData("crane-configuration", "")]
    [InlineData("crane-boom", "")]
    [InlineData("crane-pick", "")]
    [InlineData("crane-critical", "101")]
    public void A_crane_without_its_chart_or_its_stand_is_no_crane(string field, string value)
    {
        var fields = OneLeg(Crane("20 m", "8 m"));
        fields.Remove(field);
        if (value.Length > 0)
            fields[field] = value;
        Assert.Contains(field, LiftPlanReader.Read(fields).Faults.Keys);
    }

    [Fact]
    public void A_chart_is_written_as_it_was_read()
    {
        var chart = ChartText.Read(Chart).Value;
        Assert.Equal(Chart, ChartText.Write(chart));
        Assert.False(
            ChartText
                .Of([.. Enumerable.Repeat<IReadOnlyList<string>>(["m", "1 m", "1 m", "1 kg"], ChartText.MostRows + 1)])
                .Ok
        );
    }

    // 1.2 m and 0.15 m clear, load 0.8 m, legs 2 m, 0.5 m above: 4.65 m.
    [Theory]
    [InlineData("4.65 m", LiftOutcome.Ok)]
    [InlineData("4.6499 m", LiftOutcome.NotPermitted)]
    [InlineData("4.6501 m", LiftOutcome.Ok)]
    [InlineData("", LiftOutcome.Ask)]
    public void A_lift_fits_under_its_hook_or_is_told_where_it_does_not(string highest, LiftOutcome outcome)
    {
        var verdict = Verdict(OneLeg(Room(("room-hook", highest))), Chain("HM-0001"));
        Assert.Equal(outcome, verdict.Outcome);
        Assert.Equal(4650m, verdict.Fit!.Needed);
        Assert.Equal("rail", verdict.Fit.Governing!.Note);
    }

    [Theory]
    [InlineData("room-above", LiftOutcome.Ask)]
    [InlineData("way-1-clear", null)]
    [InlineData("room-load", null)]
    public void What_of_the_room_is_not_known_is_never_taken_as_fine(string field, LiftOutcome? outcome)
    {
        var fields = OneLeg(Room());
        fields.Remove(field);
        if (outcome is null)
            Assert.Contains(field, LiftPlanReader.Read(fields).Faults.Keys);
        else
            Assert.Equal(outcome, Verdict(fields, Chain("HM-0001")).Outcome);
    }

    [Fact]
    public void Legs_whose_reach_is_not_on_record_are_measured_or_asked()
    {
        var unknown = Piece("HM-0001", "alloy-chain-sling", "3 t", ("legs", "1"));
        Assert.Equal(LiftOutcome.Ask, Verdict(OneLeg(Room()), unknown).Outcome);
        Assert.Equal(LiftOutcome.Ok, Verdict(OneLeg(Room(("room-legs", "2 m"))), unknown).Outcome);
    }

    [Theory]
    [InlineData("1.35 m", LiftOutcome.Ok)]
    [InlineData("1.349 m", LiftOutcome.NotPermitted)]
    public void A_hoist_that_does_not_lift_so_far_does_not_clear_the_way(string travel, LiftOutcome outcome) =>
        Assert.Equal(outcome, Verdict(OneLeg(Room(("room-travel", travel))), Chain("HM-0001")).Outcome);

    [Fact]
    public void Legs_to_picks_of_two_heights_stand_over_the_lower()
    {
        var fields = Fields([
            .. Ton,
            ("stand", "points"),
            ("legs", "2"),
            ("hook-x", "1 m"),
            ("hook-z", "3 m"),
            ("g-x", "1 m"),
            ("pick-2-x", "2 m"),
            ("pick-2-z", "0.5 m"),
            .. Room(),
        ]);
        Assert.Equal(3000m, Verdict(fields).Fit!.Legs);
    }

    [Theory]
    [InlineData("2 m", false)]
    [InlineData("", true)]
    public void Where_the_reach_of_one_leg_is_not_known_nobody_knows_how_high_they_stand(string reach, bool asks)
    {
        var fields = Fields([
            .. Ton,
            ("legs", "2"),
            ("angle", "60"),
            ("piece-1-mark", "HM-0001"),
            ("piece-1-place", "leg-1"),
            ("piece-2-mark", "HM-0002"),
            ("piece-2-place", "leg-2"),
            .. Room(),
        ]);
        var other = reach.Length > 0 ? Chain("HM-0002", reach) : Piece("HM-0002", "alloy-chain-sling", "3 t");
        var verdict = Verdict(fields, Chain("HM-0001"), other);
        Assert.Equal(asks, verdict.Fit!.Legs is null);
        Assert.Equal(
            asks,
            verdict.Fit.Remarks.Any(r => r.Text.StartsWith("How high the legs", StringComparison.Ordinal))
        );
    }

    [Fact]
    public void The_document_says_that_it_has_no_place_for_headroom() =>
        Assert.Contains(
            "the headroom and the way",
            LiftDocument.LeftOut(Verdict(OneLeg(Room()), Chain("HM-0001")).Planned)
        );

    private static (string, string)[] Room(params (string, string)[] more) =>
        [
            .. new (string Name, string Value)[]
            {
                ("room", "asked"),
                ("room-hook", "10 m"),
                ("room-load", "800 mm"),
                ("room-above", "500 mm"),
                ("way-1-along", "1 m"),
                ("way-1-clear", "1.2 m"),
                ("way-1-note", "rail"),
                ("way-2-along", "4 m"),
                ("way-2-clear", "300 mm"),
            }
                .Where(f => more.All(m => m.Item1 != f.Name))
                .Concat(more),
        ];

    // Two hoists 6 m apart carry the load over: the third sees it plumb at the end.
    [Fact]
    public void Along_a_row_of_hoists_each_sees_the_worst_of_its_steps()
    {
        var fields = Fields([
            .. Ton,
            ("stand", "drift"),
            ("hoists", "3"),
            ("a-x", "0"),
            ("a-z", "4 m"),
            ("b-x", "3 m"),
            ("b-z", "4 m"),
            ("c-x", "6 m"),
            ("c-z", "4 m"),
            ("from", "0"),
            ("to", "6 m"),
            ("carried", "1 m"),
        ]);
        var row = Assert.IsType<StandDrift>(Plan(fields).Stand);
        Assert.Equal(3, row.Legs);
        Assert.Equal([(0.0, 3000.0), (3000.0, 6000.0)], row.Steps.Select(s => (s.From, s.To)));
        var hoists = new BetweenHoists(
            row.Steps,
            [
                [],
                [],
                [],
            ]
        );
        Assert.Equal(1, hoists.Worst(0).Pull, 9);
        Assert.Equal(45, hoists.Worst(0).OffPlumb, 6);
        Assert.Equal(1, hoists.Worst(1).Pull, 9);
        Assert.Equal(1, hoists.Worst(2).Pull, 9);
        fields["hoists"] = "7";
        Assert.Contains("hoists", LiftPlanReader.Read(fields).Faults.Keys);
    }

    // Statics: the pulls of both hoists hold the load up and cancel sideways, wherever it hangs.
    [Theory]
    [InlineData(0.2)]
    [InlineData(1.0)]
    [InlineData(3.0)]
    public void A_load_drawn_sideways_is_in_balance(double x)
    {
        var drift = Drift.Read(new(0, 0, 4000), new(3000, 0, 1800), x * 1000, x * 1000, 900).Value;
        var step = drift.Way[0];
        static double Rad(double degrees) => degrees * Math.PI / 180;
        Assert.Equal(
            1,
            (step.First * Math.Cos(Rad(step.FirstOffPlumb))) + (step.Second * Math.Cos(Rad(step.SecondOffPlumb))),
            9
        );
        Assert.Equal(
            step.First * Math.Sin(Rad(step.FirstOffPlumb)),
            step.Second * Math.Sin(Rad(step.SecondOffPlumb)),
            9
        );
    }

    [Fact]
    public void What_hangs_from_a_crane_along_a_way_brings_its_lines_to_the_checklist()
    {
        var own = LiftChecklist
            .Of(Plan(OneLeg([.. Crane("20 m", "8 m"), .. Room()])), [])
            .Except(LiftChecklist.Of(Plan(OneLeg()), []))
            .Select(i => i.Code);
        Assert.Equal(["crane", "radius", "headroom", "landing"], own);
    }

    [Theory]
    [InlineData("", "", "", "", "")]
    [InlineData("1", "2", "1", "2", "")]
    [InlineData("1", "1", "2", "2", "")]
    [InlineData("1", "2", "2", "2", "")]
    [InlineData("1", "2", "3", "3", "3>2")]
    [InlineData("1", "", "3", "3", "3>")]
    [InlineData("1", "2", "", "", ">2")]
    [InlineData("1", "", "1", "", "")]
    public void Two_who_change_a_plan_at_once_keep_both_changes_and_are_told_of_one_field_changed_twice(
        string seen,
        string mine,
        string theirs,
        string stands,
        string clash
    )
    {
        var merge = PlanMerge.Of(
            Fields(("a", seen), ("b", "x")),
            Fields(("a", mine), ("b", "x")),
            Fields(("a", theirs), ("b", "x"))
        );
        Assert.Equal(stands, merge.Fields.GetValueOrDefault("a") ?? "");
        Assert.Equal("x", merge.Fields["b"]);
        Assert.Equal(clash, string.Join(";", merge.Clashes.Select(c => $"{c.Theirs}>{c.Mine}")));
    }

    [Theory]
    [InlineData(Hitch.Vertical, false, KindFits.No)]
    [InlineData(Hitch.Vertical, true, KindFits.Fits)]
    [InlineData(Hitch.Choker, false, KindFits.Fits)]
    [InlineData(Hitch.Basket, false, KindFits.Fits)]
    public void A_load_without_points_is_held_round(Hitch hitch, bool points, KindFits fits) =>
        Assert.Equal(fits, HitchKinds.For(new() { HasPoints = points }).Single(h => h.Hitch == hitch).Fits);

    [Fact]
    public void A_loose_bundle_is_choked_and_never_basketed()
    {
        var kinds = HitchKinds.For(new() { Loose = true });
        Assert.Equal(Hitch.Choker, kinds[0].Hitch);
        Assert.Equal(KindFits.No, kinds.Single(h => h.Hitch == Hitch.Basket).Fits);
        Assert.Equal(KindFits.No, HitchKinds.For(new() { Fragile = true }).Single(h => h.Hitch == Hitch.Choker).Fits);
    }

    [Fact]
    public void A_load_is_long_by_its_own_shape()
    {
        var (longest, next) = HitchKinds
            .Sizes(new([new(new Cylinder(Length.Parse("200 mm"), Length.Parse("3 m")), 7850, 1)], 0, 0))!
            .Value;
        Assert.True(longest > HitchKinds.LongFrom * next);
        Assert.Null(HitchKinds.Sizes(null));
    }
}
