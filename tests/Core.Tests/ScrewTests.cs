using Keralith.Core.Lifts;
using Keralith.Core.Quantities;
using Xunit;
using static Keralith.Core.Tests.GivenPlan;

namespace Keralith.Core.Tests;

/// <summary>A turnbuckle brings a leg to length as far as its thread allows, and no further.</summary>
public class ScrewTests
{
    [Theory]
    [InlineData("1/4 in", 20)]
    [InlineData("1/2 in", 13)]
    [InlineData("3/4 in", 10)]
    [InlineData("1 in", 8)]
    [InlineData("1-1/4 in", 7)]
    [InlineData("2 in", 4.5)]
    [InlineData("2-3/4 in", 4)]
    public void A_coarse_inch_thread_has_so_many_turns_to_the_inch(string thread, double turns) =>
        Assert.Equal(25.4m / (decimal)turns, Screw.CoarsePitch(Length.Parse(thread))!.Value.Millimetres);

    [Theory]
    [InlineData("12 mm", 1.75)]
    [InlineData("16 mm", 2)]
    [InlineData("20 mm", 2.5)]
    [InlineData("24 mm", 3)]
    [InlineData("36 mm", 4)]
    [InlineData("64 mm", 6)]
    public void A_coarse_metric_thread_rises_so_much_in_a_turn(string thread, double pitch) =>
        Assert.Equal((decimal)pitch, Screw.CoarsePitch(Length.Parse(thread))!.Value.Millimetres);

    [Theory]
    [InlineData("12.6 mm")]
    [InlineData("13 mm")]
    [InlineData("0.7 in")]
    public void A_size_between_is_no_thread_of_either_kind(string thread)
    {
        Assert.Null(Screw.CoarsePitch(Length.Parse(thread)));
        Assert.Null(Screw.Of(Length.Parse(thread), RigFacts.None));
        Assert.False(Screw.Of(Length.Parse(thread), new() { ScrewPitch = Length.Parse("2 mm") })!.PitchIsTaken);
    }

    // A 20 mm thread, 2.5 mm to the turn.
    [Theory]
    [InlineData(25, 25, null)]
    [InlineData(25, 25.1, null)]
    [InlineData(25, 24.9, "open no further")]
    [InlineData(25, 0, "open no further")]
    [InlineData(25, -1, "open no further")]
    public void It_is_taken_up_no_further_than_its_body_is_open(double by, double open, string? stops)
    {
        var turn = Twenty(open: open).Turn(by);
        Assert.Equal(Math.Min(by, Math.Max(0, open)), turn.By, 6);
        Assert.Equal(turn.By / 2.5, turn.Turns, 6);
        Assert.Equal(stops is null, turn.Stops is null);
        if (stops is not null)
            Assert.Contains(stops, turn.Stops!, StringComparison.Ordinal);
    }

    [Theory]
    [InlineData(-10, 30, -10)]
    [InlineData(-10, 30.1, -10)]
    [InlineData(-10, 29.9, -9.9)]
    [InlineData(-10, 20, 0)]
    [InlineData(-10, 19, 0)]
    public void Let_out_it_keeps_one_diameter_of_thread_engaged(double by, double engaged, double turned)
    {
        var turn = Twenty(engaged: engaged).Turn(by);
        Assert.Equal(turned, turn.By, 6);
        Assert.Equal(turned > by, turn.Stops is not null);
    }

    [Theory]
    [InlineData(10, "open")]
    [InlineData(-10, "engaged")]
    public void What_nobody_has_measured_turns_nothing_and_is_asked(double by, string asked)
    {
        var turn = Twenty().Turn(by);
        Assert.Equal((0, 0), (turn.By, turn.Turns));
        Assert.Contains(asked, turn.ToString(), StringComparison.Ordinal);
    }

    [Fact]
    public void Less_than_a_quarter_turn_is_left()
    {
        Assert.Equal(string.Empty, Twenty().Turn(0.6).ToString());
        Assert.NotEqual(0, Twenty(open: 50).Turn(0.7).By);
    }

    [Fact]
    public void Links_take_the_most_and_the_turnbuckle_what_they_leave()
    {
        var geometry = LegGeometry
            .Read(new(2743.2, 0, 3962.4), new(2743.2, 0, 0), [new(0, 0, 304.8), new(3657.6, 0, 304.8)])
            .Value;
        var level = Levelling.Of(geometry, [new(4572), new(4572, 30, Twenty(open: 80, engaged: 60))]);
        var leg = level.Legs[1];
        Assert.Equal(27, leg.Links);
        Assert.InRange(Math.Abs(leg.Turned!.Value.By), 0.1, 15);
        Assert.Equal(leg.Needed, leg.Left, 6);
        Assert.Equal(0, level.Tilt!.Value, 3);
    }

    [Fact]
    public void A_plan_counts_a_turnbuckles_own_reach_in_its_leg_and_tells_its_turns()
    {
        (string, string)[] fields =
        [
            ("basis", "known"),
            ("weight", "1 t"),
            ("unit", "mm"),
            ("stand", "points"),
            ("legs", "2"),
            ("hook-x", "1000"),
            ("hook-z", "3000"),
            ("g-x", "1000"),
            ("g-z", "-500"),
            ("pick-1-x", "0"),
            ("pick-1-z", "0"),
            ("pick-2-x", "2000"),
            ("pick-2-z", "0"),
            ("piece-1-mark", "HM-0001"),
            ("piece-1-place", "leg-1"),
            ("piece-2-mark", "HM-0002"),
            ("piece-2-place", "leg-2"),
            ("piece-3-mark", "HM-0003"),
            ("piece-3-place", "leg-2"),
        ];
        var long1 = Piece("HM-0001", "wire-rope-sling", "5 t", ("reach", "3162 mm"));
        var short2 = Piece("HM-0002", "wire-rope-sling", "5 t", ("reach", "2700 mm"));
        var turnbuckle = Piece("HM-0003", "turnbuckle", "5 t", ("reach", "500 mm"), ("threadSize", "20 mm"));
        var asked = Verdict(Fields(fields), long1, short2, turnbuckle).Levelled!;
        Assert.Contains("measure how far", asked.Legs[1].Turned.ToString()!, StringComparison.Ordinal);
        var level = Verdict(Fields([.. fields, ("piece-3-screwOpen", "60")]), long1, short2, turnbuckle).Levelled!;
        Assert.Equal(3200 - Math.Sqrt(10_000_000), level.Legs[1].Turned!.Value.By, 6);
        Assert.Contains(
            "15.1 turns of one screw, 7.5 of a body with two",
            level.Legs[1].Turned.ToString()!,
            StringComparison.Ordinal
        );
        Assert.Null(Verdict(Fields(fields), long1, short2, Piece("HM-0003", "turnbuckle", "5 t")).Levelled);
    }

    private static Screw Twenty(double? open = null, double? engaged = null) =>
        new(Length.Parse("20 mm"), Length.Parse("2.5 mm"))
        {
            Open = open is { } o ? Length.FromMillimetres((decimal)o) : null,
            Engaged = engaged is { } e ? Length.FromMillimetres((decimal)e) : null,
        };
}
