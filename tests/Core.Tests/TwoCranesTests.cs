using Keralith.Core.Formats;
using Keralith.Core.Lifts;
using Xunit;
using static Keralith.Core.Tests.GivenPlan;

namespace Keralith.Core.Tests;

/// <summary>A load on two cranes: each its part by the statics of two hooks, each by its own chart, always critical.</summary>
public class TwoCranesTests
{
    private const string Chart = "main\t10 m\t4 m\t9000 kg\nmain\t10 m\t8 m\t4000 kg";

    private static readonly LiftGear[] Slings =
    [
        Piece("HM-0001", "alloy-chain-sling", "5 t", ("legs", "1")),
        Piece("HM-0002", "alloy-chain-sling", "5 t", ("legs", "1")),
    ];

    [Theory]
    [InlineData("0", 6000, 4000)]
    [InlineData("1", 4000, 6000)]
    [InlineData("-1.999", 9998, 2)]
    [InlineData("2.999", 2, 9998)]
    public void Each_hook_has_its_part_by_the_lever_rule(string centre, int first, int second)
    {
        var result = Verdict(Two("10 t", ("hooks-along", centre)), Slings).Result!;
        Assert.Equal([first, second], result.Legs.Select(l => (int)Math.Round(l.Tension!.Value)));
        Assert.Equal(first, (int)Math.Round(result.Crane!.Piece.Demand!.Value));
        Assert.Equal(second, (int)Math.Round(result.SecondCrane!.Piece.Demand!.Value));
    }

    [Theory]
    [InlineData("-2", false)]
    [InlineData("-2.001", false)]
    [InlineData("3", false)]
    [InlineData("3.001", false)]
    [InlineData("-1.999", true)]
    [InlineData("2.999", true)]
    public void The_centre_of_gravity_lies_between_the_hooks(string centre, bool between) =>
        Assert.Equal(
            !between,
            Verdict(Two("100 kg", ("hooks-along", centre)), Slings).Outcome == LiftOutcome.NotPermitted
        );

    // The first crane has 4000 kg at 8 m, and three fifths of the load.
    [Theory]
    [InlineData("6666.66 kg", LiftOutcome.Ask)]
    [InlineData("6666.67 kg", LiftOutcome.Overloaded)]
    public void The_crane_with_the_larger_part_is_held_against_its_own_chart(string weight, LiftOutcome outcome) =>
        Assert.Equal(outcome, Verdict(Two(weight), Slings).Outcome);

    [Fact]
    public void It_is_critical_however_little_hangs()
    {
        var verdict = Verdict(Two("100 kg"), Slings);
        Assert.Equal(LiftOutcome.Ask, verdict.Outcome);
        Assert.True(verdict.AsksSignature);
        Assert.True(verdict.Result!.Crane!.IsCritical && verdict.Result.SecondCrane!.IsCritical);
        Assert.Contains(verdict.Checklist, i => i.Code == "crane");
        Assert.Contains(verdict.Checklist, i => i.Code == "tandem");
    }

    [Fact]
    public void The_second_crane_may_have_a_chart_of_its_own()
    {
        var verdict = Verdict(
            Two(
                "9 t",
                ("second-chart", "rear\t12 m\t5 m\t3500 kg"),
                ("second-configuration", "rear"),
                ("second-boom", "12 m"),
                ("second-pick", "5 m")
            ),
            Slings
        );
        Assert.Equal(LiftOutcome.Overloaded, verdict.Outcome);
        Assert.Equal("crane-1", verdict.Result!.Weakest!.Piece.Kind);
        Assert.Equal(3500, verdict.Result.SecondCrane!.Gross);
    }

    [Fact]
    public void All_the_rigging_is_counted_at_each_hook()
    {
        var bare = Verdict(Two("1 t"), Slings).Result!;
        var rigged = Verdict(Two("1 t", ("rigging", "100 kg")), Slings).Result!;
        Assert.Equal(bare.Crane!.Net - 100, rigged.Crane!.Net);
        Assert.Equal(bare.SecondCrane!.Net - 100, rigged.SecondCrane!.Net);
    }

    [Theory]
    [InlineData("-10 mm", "-10 mm", true)]
    [InlineData("0 mm", "0 mm", true)]
    [InlineData("1 mm", "1 mm", false)]
    [InlineData("100 mm", "-70 mm", false)]
    [InlineData("100 mm", "-160 mm", true)]
    public void Taken_hold_of_at_or_below_its_centre_of_gravity_it_turns_over(string one, string other, bool over) =>
        Assert.Equal(
            over,
            Verdict(Two("1 t", ("hook-1-above", one), ("hook-2-above", other)), Slings).Outcome
                == LiftOutcome.NotPermitted
        );

    [Fact]
    public void Not_knowing_where_the_centre_lies_is_said()
    {
        var fields = Two("1 t");
        fields.Remove("hooks-along");
        Assert.Contains(Verdict(fields, Slings).Result!.Remarks, r =>
            r.Outcome == LiftOutcome.Ask && r.Text.Contains("is not said", StringComparison.Ordinal)
        );
    }

    [Theory]
    [InlineData("machine", "machine")]
    [InlineData("hook-1-at", "hook-1-at")]
    [InlineData("second-boom", "second-boom")]
    [InlineData("second-configuration", "second-configuration")]
    [InlineData("second-pick", "second-pick")]
    [InlineData("crane-chart", "crane-chart")]
    public void What_two_cranes_want_is_asked_by_its_field(string without, string fault)
    {
        var fields = Two("1 t");
        fields.Remove(without);
        Assert.Contains(fault, LiftPlanReader.Read(fields).Faults.Keys);
    }

    [Fact]
    public void Both_hooks_at_one_place_are_refused()
    {
        var fields = Two("1 t", ("hook-2-at", "-2"));
        Assert.Contains("hook-2-at", LiftPlanReader.Read(fields).Faults.Keys);
    }

    [Fact]
    public void Nothing_hangs_above_both_and_a_hook_without_a_sling_is_wanted()
    {
        var shackle = Piece("HM-0003", "shackle", "5 t");
        var fields = Two("1 t", ("piece-3-mark", "HM-0003"), ("piece-3-place", "above"));
        Assert.Contains(Verdict(fields, [.. Slings, shackle]).Planned.Wanted, w =>
            w.Contains("at one of the hooks", StringComparison.Ordinal)
        );
        fields = Two("1 t");
        fields.Remove("piece-2-mark");
        Assert.Contains("hook 2 has no sling yet", Verdict(fields, Slings).Planned.Wanted);
    }

    [Fact]
    public void The_document_has_no_place_for_it_and_says_so()
    {
        var planned = Verdict(Two("1 t"), Slings).Planned;
        Assert.Null(LiftDocument.Write(planned.Lift!));
        Assert.Contains("a load on two cranes", LiftDocument.LeftOut(planned));
    }

    [Fact]
    public void A_chart_is_changed_figure_by_figure_and_stays_a_chart()
    {
        var more = ChartText.With(Chart, ["main", "10 m", "6 m", "6000 kg"]).Value;
        Assert.Equal(3, more.Rows.Count);
        Assert.True(ChartText.With(Chart, ["main", "10 m", "6 m", "9000 kg"]).Ok);
        Assert.False(ChartText.With(Chart, ["main", "10 m", "6 m", "9000.1 kg"]).Ok);
        Assert.False(ChartText.With(Chart, ["main", "10 m", "8 m", "4000 kg"]).Ok);
        Assert.Equal("4 m", Assert.Single(ChartText.Without(Chart, 1).Value.Rows).Radius.ToString());
        Assert.False(ChartText.Without(Chart, 2).Ok);
        Assert.False(ChartText.Without(Chart, -1).Ok);
        Assert.False(ChartText.Without("main\t10 m\t4 m\t9000 kg", 0).Ok);
    }

    private static Dictionary<string, string> Two(string weight, params (string Name, string Value)[] more)
    {
        var fields = Fields(
            ("basis", "known"),
            ("weight", weight),
            ("unit", "m"),
            ("stand", "cranes"),
            ("machine", "crane"),
            ("crane-chart", Chart),
            ("crane-configuration", "main"),
            ("crane-boom", "10 m"),
            ("crane-pick", "8 m"),
            ("second-configuration", "main"),
            ("second-boom", "10 m"),
            ("second-pick", "8 m"),
            ("hook-1-at", "-2"),
            ("hook-2-at", "3"),
            ("hooks-along", "0"),
            ("rigging", "0 kg"),
            ("piece-1-mark", "HM-0001"),
            ("piece-1-place", "leg-1"),
            ("piece-2-mark", "HM-0002"),
            ("piece-2-place", "leg-2")
        );
        foreach (var (name, value) in more)
            fields[name] = value;
        return fields;
    }
}
