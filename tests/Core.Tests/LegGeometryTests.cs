using FsCheck;
using FsCheck.Fluent;
using FsCheck.Xunit;
using Keralith.Core.Formats;
using Keralith.Core.Lifts;
using Keralith.Core.Quantities;
using Xunit;
using static Keralith.Core.Tests.GivenLift;

namespace Keralith.Core.Tests;

/// <summary>Statics of a load hung from known points.</summary>
public class LegGeometryTests
{
    [Fact]
    public void The_closed_form_of_two_legs_with_level_picks_comes_out()
    {
        // 6000 lb, a 9 ft, b 3 ft, h 12 ft: T1 1875.0, T2 4638.5 lb.
        var result = ToPoints("2743.2 0 3962.4", "2743.2 0 0", ["0 0 304.8", "3657.6 0 304.8"], weight: "6000 lb");
        Assert.Equal(1875.0, Pounds(result, 0), 1.0);
        Assert.Equal(4638.5, Pounds(result, 1), 2.0);
    }

    [Theory]
    [InlineData("0 0 1000", "0 0 400", "0 0 399.99", false)]
    [InlineData("0 0 1000", "0 0 400", "0 0 400", false)]
    [InlineData("0 0 1000", "0 0 399.9", "0 0 400", true)]
    public void One_leg_takes_hold_above_the_centre_of_gravity(
        string hook,
        string centre,
        string pick,
        bool permitted
    ) => Assert.Equal(permitted, ToPoints(hook, centre, [pick]).Outcome != LiftOutcome.NotPermitted);

    [Theory]
    [InlineData(34.9, LiftOutcome.Ok)]
    [InlineData(35.0, LiftOutcome.Caution)]
    [InlineData(87.4, LiftOutcome.Caution)]
    [InlineData(87.5, LiftOutcome.NotPermitted)]
    public void A_load_that_turns_over_two_degrees_is_watched_and_over_five_rigged_again(
        double off,
        LiftOutcome outcome
    )
    {
        // tan 2 deg = 0.03492, tan 5 deg = 0.08749, a metre below the line of the picks.
        var result = ToPoints("0 0 2000", Sheet($"0 {off} -1000"), ["-500 0 0", "500 0 0"]);
        Assert.Equal(outcome, result.Outcome);
        Assert.Equal(0, result.Geometry!.Tilt!.Value, 6);
    }

    [Theory]
    [InlineData("0 0 2000", "0 0 -100", "-100 0 0|100 0 0|0 100 2000", "higher")]
    [InlineData("0 1.1 2000", "0 0 -100", "-100 0 0|100 0 0", "1 mm")]
    [InlineData("0 0 2000", "0 0 2000", "-100 0 0|100 0 0", "elsewhere")]
    [InlineData("0 0 2000", "0 0 -100", "-100 0 0|100 0 0|50 0 0", "triangle")]
    [InlineData("0 0 2000", "0 0 -100", "0 0 0|0 0 10", "apart")]
    [InlineData("0 0 2000", "0 0 -100", "0 0 0|0 0 0", "apart")]
    public void A_geometry_with_no_answer_is_refused_in_words(string hook, string centre, string picks, string expected)
    {
        var read = LiftReader.Read(PointsJson(hook, centre, picks.Split('|')));
        Assert.Contains(expected, Assert.Single(read.Faults).Message, StringComparison.Ordinal);
    }

    [Fact]
    public void A_hook_a_millimetre_off_the_plane_of_two_legs_is_still_in_it() =>
        Assert.NotEqual(LiftOutcome.NotPermitted, ToPoints("0 1 2000", "0 0 -500", ["-500 0 0", "500 0 0"]).Outcome);

    [Fact]
    public void Legs_on_points_are_single_parts() =>
        Assert.NotEmpty(
            LiftReader.Read(PointsJson("0 0 2000", "0 0 -100", ["-100 0 0", "100 0 0"], hitch: "basket")).Faults
        );

    [Theory]
    [InlineData("0 0 -300", LiftOutcome.Ok)]
    [InlineData("0 0 50", LiftOutcome.Caution)]
    [InlineData("0 0 100", LiftOutcome.Ask)]
    public void Picks_at_or_below_the_centre_of_gravity_are_watched_or_asked_about(
        string centre,
        LiftOutcome outcome
    ) =>
        Assert.Equal(
            outcome,
            ToPoints("0 0 2500", centre, ["-800 -500 0", "800 -500 0", "800 500 100", "-800 500 100"]).Outcome
        );

    [Fact]
    public void Three_that_share_carry_never_less_than_a_third_and_want_adjusted_legs()
    {
        string[] picks = ["-1000 -700 0", "1000 -700 0", "1000 700 0", "-1000 700 0"];
        var shared = ToPoints("0 0 2500", "0 0 -500", picks, more: ",\"fourLegs\":\"three-share\"");
        Assert.Equal(LiftOutcome.Caution, shared.Outcome);
        Assert.All(shared.Legs, l =>
            Assert.Equal(1000 / (3 * Math.Sin((double)l.Angle * Math.PI / 180)), (double)l.Tension!.Value, 6)
        );
        Assert.All(ToPoints("0 0 2500", "0 0 -500", picks).Legs, l => Assert.True(l.Tension > shared.Legs[0].Tension));
    }

    [Fact]
    public void Four_legs_around_a_far_centre_of_gravity_are_not_permitted_and_have_no_figure()
    {
        var result = ToPoints(
            "3000 0 2500",
            "3000 0 -500",
            ["-1000 -700 0", "1000 -700 0", "1000 700 0", "-1000 700 0"]
        );
        Assert.Equal(LiftOutcome.NotPermitted, result.Outcome);
        Assert.All(result.Legs, l => Assert.Null(l.Tension));
        Assert.Null(result.Weakest);
    }

    private static double Pounds(LiftResult result, int leg) => (double)result.Legs[leg].Tension!.Value / 0.45359237;

    private static string Sheet(FormattableString text) => FormattableString.Invariant(text);
}

/// <summary>What must hold for any arrangement.</summary>
[Properties(Arbitrary = [typeof(AnyArrangement)], MaxTest = 300)]
public class LiftPropertyTests
{
    [Property]
    public bool The_pulls_of_three_legs_hold_the_load_in_balance(Picked picked)
    {
        if (picked.Geometry.Picks.Count == 4 || picked.Geometry.Pulls(FourLegs.TwoCarry) is not { } pulls)
            return true;
        var sum = picked.Geometry.Directions.Zip(pulls, (u, t) => u * t).Aggregate(default(Point3), (a, b) => a + b);
        return Math.Abs(sum.Norm - 1) < 1e-6;
    }

    [Property]
    public bool Legs_named_in_another_order_pull_the_same(Picked picked)
    {
        var geometry = picked.Geometry;
        var turned = LegGeometry.Read(geometry.Hook, geometry.Centre, [.. geometry.Picks.Reverse()]).Value;
        return FourLegs.TwoCarry is var four
            && (geometry.Pulls(four), turned.Pulls(four)) switch
            {
                (null, null) => true,
                ({ } a, { } b) => a.Zip(b.Reverse(), (x, y) => Math.Abs(x - y) < 1e-6 * Math.Max(1, x))
                    .All(same => same),
                _ => false,
            };
    }

    [Property]
    public bool No_arrangement_throws_or_gives_a_figure_where_it_is_not_permitted(Picked picked, PositiveInt weight)
    {
        var result = LiftJudge.Of(picked.Lift(weight.Get));
        return result.Remarks.Count > 0 && (result.Outcome != LiftOutcome.NotPermitted || result.Capacity is null);
    }

    [Property]
    public bool Flatter_legs_never_pull_less_and_never_carry_more(PositiveInt first, PositiveInt second)
    {
        var (steep, flat) = (
            30 + (Math.Max(first.Get % 61, second.Get % 61)),
            30 + Math.Min(first.Get % 61, second.Get % 61)
        );
        var (a, b) = (Alike(Chain, angle: $"{steep} deg"), Alike(Chain, angle: $"{flat} deg"));
        return b.Legs[0].Tension >= a.Legs[0].Tension && b.Capacity <= a.Capacity;
    }

    [Property]
    public bool One_more_thing_against_a_sling_never_raises_what_it_carries(PositiveInt which, bool choked)
    {
        string[] books = ["osha", "ontario", "japan", "australia", "europe"];
        string[] heats = ["", ",\"temperature\":\"500 F\"", ",\"temperature\":\"900 F\""];
        var (hitch, extra) = choked ? ("choker", ",\"chokeAngle\":\"100 deg\"") : ("vertical", string.Empty);
        var book = books[which.Get % books.Length];
        var heat = heats[which.Get % heats.Length];
        var plain = Alike(Chain, 2, "65 deg", hitch, extra).Legs[0].Pieces[0].Allowed;
        var both = Alike(Chain, 2, "65 deg", hitch, extra, $"asme {book}", load: heat).Legs[0].Pieces[0].Allowed;
        return both is null || both <= plain;
    }

    [Property]
    public bool The_unit_of_the_weight_changes_nothing(PositiveInt pounds)
    {
        var kilograms = QuantityFormat.Number(pounds.Get * Mass.KilogramsPerPound);
        return Alike(Chain, weight: $"{pounds.Get} lb").Weakest!.Piece.Utilisation
            == Alike(Chain, weight: $"{kilograms} kg").Weakest!.Piece.Utilisation;
    }
}

/// <summary>Points that have an answer.</summary>
public sealed record Picked(LegGeometry Geometry)
{
    internal Lift Lift(int kilograms) =>
        Read(PointsJson("0 0 1", "0 0 -1", ["0 0 0"])) with
        {
            Load = new(Mass.FromKilograms(kilograms), LoadBasis.Weighed),
            Arrangement = new LegsToPoints(
                Geometry,
                [
                    .. Enumerable.Repeat(
                        ((LegsToPoints)Read(PointsJson("0 0 1", "0 0 -1", ["0 0 0"])).Arrangement).Rigging[0],
                        Geometry.Picks.Count
                    ),
                ]
            ),
        };
}

/// <summary>Any geometry of 1 to 4 legs that is not refused.</summary>
public static class AnyArrangement
{
    public static Arbitrary<Picked> Picked() =>
        (
            from count in Gen.Choose(1, 4)
            from hook in Point(-500, 500, 1500, 4000)
            from centre in Point(-600, 600, -800, 300)
            from picks in Gen.ArrayOf(Point(-1500, 1500, 0, 200), count)
            let geometry = LegGeometry.Read(count == 2 ? InPlane(hook, picks) : hook, centre, picks)
            where geometry.Ok
            select new Picked(geometry.Value)
        ).ToArbitrary();

    private static Gen<Point3> Point(int least, int most, int low, int high) =>
        from x in Gen.Choose(least, most)
        from y in Gen.Choose(least, most)
        from z in Gen.Choose(low, high)
        select new Point3(x, y, z);

    private static Point3 InPlane(Point3 hook, Point3[] picks)
    {
        var middle = (picks[0] + picks[1]) * 0.5;
        return new(middle.X, middle.Y, hook.Z);
    }
}
