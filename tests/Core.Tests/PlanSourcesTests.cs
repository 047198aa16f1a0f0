using Keralith.Core.Lifts;
using Keralith.Core.People;
using Keralith.Core.Quantities;
using Keralith.Core.Register;
using Xunit;
using static Keralith.Core.Tests.GivenPlan;

namespace Keralith.Core.Tests;

/// <summary>
/// What is typed of a plan never takes the place of something harsher that is known: weighed, drawn, worked out, on
/// record of the piece, or asked by the site.
/// </summary>
public class PlanSourcesTests
{
    private static readonly LiftGear Sling = Piece("HM-0001", "web-sling", "20 t", ("legs", "1"));

    private static Dictionary<string, string> One(params (string Name, string Value)[] more) =>
        Fields([("legs", "1"), ("angle", "90"), ("piece-1-mark", "HM-0001"), ("piece-1-place", "legs"), .. more]);

    private static LiftRecord Weighed(string weight, int version = 1, string with = "load cell") =>
        Done(new WeighLift(Mass.Parse(weight), with), version);

    private static LiftRecord Done(LiftStep step, int version = 1) =>
        new(Guid.CreateVersion7(), step.Code, version, step.Said, DateTimeOffset.UnixEpoch.AddDays(100), "Maud");

    private static LiftKnown Known(int version, params LiftRecord[] records) =>
        LiftKnown.Of(records, version, Crane.UsualCriticalShare);

    private static PlanVerdict Judged(Dictionary<string, string> fields, LiftKnown known, params LiftGear[] gear)
    {
        var (_, verdict, faults) = PlanVerdict.OfFields(fields, gear.ToDictionary(g => g.Mark), Asme, known);
        Assert.True(verdict is not null, string.Join("; ", faults));
        return verdict;
    }

    [Theory]
    [InlineData("marked", "1000 kg", LiftOutcome.NotPermitted)]
    [InlineData("known", "1000 kg", LiftOutcome.NotPermitted)]
    [InlineData("marked", "9001.9 kg", LiftOutcome.NotPermitted)]
    [InlineData("marked", "9002 kg", LiftOutcome.Ok)]
    [InlineData("marked", "9003 kg", LiftOutcome.Ok)]
    public void A_plan_weighed_and_saved_again_as_less_is_not_lifted(string basis, string said, LiftOutcome outcome)
    {
        var verdict = Judged(One(("basis", basis), ("weight", said)), Known(3, Weighed("9002 kg")), Sling);
        Assert.Equal(outcome, verdict.Outcome);
        Assert.Equal(Math.Max(9002, Mass.Parse(said).Kilograms), verdict.Result!.Load.Weight.Kilograms);
        if (outcome == LiftOutcome.NotPermitted)
            Assert.Contains(verdict.Remarks, r => r.Text.Contains("weighed 9002 kg (load cell, Maud, 1970-04-11)"));
    }

    [Fact]
    public void What_is_worked_out_as_less_than_the_cell_said_is_not_lifted_either()
    {
        var fields = One(
            ("basis", "estimated"),
            ("part-1-shape", "box"),
            ("part-1-a", "1 m"),
            ("part-1-b", "1 m"),
            ("part-1-c", "1 m"),
            ("part-1-density", "water")
        );
        Assert.Equal(LiftOutcome.NotPermitted, Judged(fields, Known(1, Weighed("1100.1 kg")), Sling).Outcome);
        Assert.Equal(LiftOutcome.Ok, Judged(fields, Known(1, Weighed("1100 kg")), Sling).Outcome);
    }

    [Theory]
    [InlineData(1, LiftOutcome.Ok)]
    [InlineData(2, LiftOutcome.NotPermitted)]
    public void A_qualified_person_sets_a_weighing_aside_for_one_version_of_the_plan(int version, LiftOutcome outcome)
    {
        var cell = Weighed("9002 kg");
        var aside = Done(new SetSourceAside($"weighing {cell.Id}", "The crane was on the cell too"));
        var verdict = Judged(One(("basis", "marked"), ("weight", "1000 kg")), Known(version, cell, aside), Sling);
        Assert.Equal(outcome, verdict.Outcome);
        Assert.Equal(version == 1 ? 1000 : 9002, verdict.Result!.Load.Weight.Kilograms);
    }

    [Fact]
    public void Nobody_types_a_weighing()
    {
        var typed = Judged(One(("basis", "weighed"), ("weighed", "1 kg")), LiftKnown.Nothing, Sling);
        Assert.Equal(LiftOutcome.Ask, typed.Outcome);
        Assert.True(typed.AsksSignature);
        var beside = Judged(One(("basis", "weighed"), ("weighed", "1 kg")), Known(1, Weighed("9002 kg")), Sling);
        Assert.Equal(9002, beside.Result!.Load.Weight.Kilograms);
        Assert.Equal(LoadBasis.Weighed, beside.Result!.Load.Basis);
    }

    [Theory]
    [InlineData("900 kg", "1200 kg", 1200)]
    [InlineData("1200 kg", "900 kg", 1200)]
    public void Of_two_weighings_the_larger_counts(string first, string second, int kilograms)
    {
        var verdict = Judged(One(("basis", "weighed")), Known(1, Weighed(first), Weighed(second)), Sling);
        Assert.Equal((kilograms, LiftOutcome.Ok), ((int)verdict.Result!.Load.Weight.Kilograms, verdict.Outcome));
        Assert.Contains(verdict.Remarks, r => r.Text.Contains("milder: weighed 900 kg"));
    }

    [Fact]
    public void A_marking_left_beside_what_is_worked_out_counts_where_it_is_more()
    {
        var fields = One(
            ("basis", "estimated"),
            ("part-1-shape", "box"),
            ("part-1-a", "1 m"),
            ("part-1-b", "1 m"),
            ("part-1-c", "1 m"),
            ("part-1-density", "water"),
            ("weight", "5 t")
        );
        var verdict = Judged(fields, LiftKnown.Nothing, Sling);
        Assert.Equal((5000, LoadBasis.Marked), (verdict.Result!.Load.Weight.Kilograms, verdict.Result.Load.Basis));
    }

    [Fact]
    public void A_weighing_is_of_an_instrument_somebody_can_name()
    {
        var facts = new LiftFacts(LiftState.Planned, false, null, false, false, [], 1);
        var by = GivenPeople.Signer(Role.Crew);
        Assert.False(LiftLife.After(facts, new WeighLift(Mass.Parse("1 t"), " "), by).Ok);
        Assert.False(LiftLife.After(facts, new WeighLift(Mass.Parse("0 t"), "cell"), by).Ok);
        Assert.True(LiftLife.After(facts, new WeighLift(Mass.Parse("1 t"), "cell CS-2"), by).Ok);
    }

    [Fact]
    public void What_is_set_aside_is_there_has_a_reason_and_takes_a_qualified_person()
    {
        var cell = Weighed("9002 kg");
        var facts = new LiftFacts(LiftState.Ready, false, null, true, true, [], 1) { Known = Known(1, cell) };
        var by = GivenPeople.Signer(Role.Qualified);
        var step = new SetSourceAside($"weighing {cell.Id}", "The crane hung on it");
        Assert.Equal(LiftState.Planned, LiftLife.After(facts, step, by).Value);
        Assert.False(LiftLife.After(facts, step with { Why = " " }, by).Ok);
        Assert.False(LiftLife.After(facts, step with { What = $"weighing {Guid.NewGuid()}" }, by).Ok);
        Assert.False(LiftLife.After(facts, step, GivenPeople.Signer(Role.Crew)).Ok);
        Assert.False(LiftLife.After(facts, step, GivenPeople.Signer(Role.Inspector)).Ok);
        var again = facts with { Known = Known(1, cell, Done(step)) };
        Assert.False(LiftLife.After(again, step, by).Ok);
    }

    [Fact]
    public void Readings_of_supports_come_back_from_the_record_as_they_were_written()
    {
        var on = new LoadWeighings([new(0, -12.5m, Mass.Parse("1800 lb")), new(3048, 0, Mass.Parse("1200 lb"))]);
        var known = Known(1, Done(new WeighLift(on.Weight, "two jacks") { Supports = on }));
        Assert.Equal(on.Readings, Assert.Single(known.Weighings).Supports!.Readings);
    }

    private static Dictionary<string, string> Points(string g, params (string Name, string Value)[] more) =>
        Fields([
            ("stand", "points"),
            ("legs", "2"),
            ("hook-x", g),
            ("hook-z", "2000"),
            ("pick-1-x", "-1000"),
            ("pick-2-x", "1000"),
            ("g-x", g),
            ("g-z", "-300"),
            ("piece-1-mark", "HM-0001"),
            ("piece-1-place", "leg-1"),
            ("piece-2-mark", "HM-0002"),
            ("piece-2-place", "leg-2"),
            .. more,
        ]);

    private static readonly LiftGear Other = Piece("HM-0002", "web-sling", "20 t", ("legs", "1"));

    [Theory]
    [InlineData("100", LiftOutcome.Ok)]
    [InlineData("100.1", LiftOutcome.Ask)]
    [InlineData("200", LiftOutcome.Ask)]
    [InlineData("400.1", LiftOutcome.NotPermitted)]
    public void A_centre_of_gravity_typed_away_from_the_parts_is_asked_about_and_then_not_lifted(
        string g,
        LiftOutcome outcome
    )
    {
        var fields = Points(
            g,
            ("basis", "estimated"),
            ("contingency", "0"),
            ("part-1-shape", "box"),
            ("part-1-a", "1 m"),
            ("part-1-b", "1 m"),
            ("part-1-c", "1 m"),
            ("part-1-density", "water"),
            ("part-1-z", "-300")
        );
        Assert.Equal(outcome, Judged(fields, LiftKnown.Nothing, Sling, Other).Outcome);

        // With the weight marked on it the parts still say where it balances.
        (fields["basis"], fields["weight"]) = ("marked", "2 t");
        Assert.Equal(outcome, Judged(fields, LiftKnown.Nothing, Sling, Other).Outcome);
    }

    /// <summary>A contingency is for what is not known; who marks or weighs less than the bare figure does not know it.</summary>
    [Theory]
    [InlineData("marked", "weight", "1 kg", "1100")]
    [InlineData("marked", "weight", "999.9 kg", "1100")]
    [InlineData("marked", "weight", "1000 kg", "1000")]
    [InlineData("marked", "weight", "1050 kg", "1050")]
    [InlineData("weighed", "record", "999.9 kg", "1100")]
    [InlineData("weighed", "record", "1000 kg", "1000")]
    public void A_contingency_is_left_out_only_where_another_source_bears_the_bare_figure_out(
        string basis,
        string field,
        string figure,
        string counts
    )
    {
        var fields = Points(
            "0",
            ("basis", basis),
            ("contingency", "10"),
            ("part-1-shape", "box"),
            ("part-1-a", "1 m"),
            ("part-1-b", "1 m"),
            ("part-1-c", "1 m"),
            ("part-1-density", "water"),
            ("part-1-z", "-300"),
            (field, figure)
        );
        var known = field == "record" ? Known(1, Weighed(figure)) : LiftKnown.Nothing;
        var weight = Judged(fields, known, Sling, Other).Planned.Plan.Weight.Weight;
        Assert.Equal(decimal.Parse(counts, System.Globalization.CultureInfo.InvariantCulture), weight.Kilograms);
    }

    [Fact]
    public void The_worse_of_two_centres_of_gravity_counts()
    {
        // At the middle each leg has its half; 0.3 m off, the second carries more than it may.
        var weak = Piece("HM-0002", "web-sling", "600 kg", ("legs", "1"));
        var parts = new[]
        {
            ("basis", "estimated"),
            ("contingency", "0"),
            ("part-1-shape", "box"),
            ("part-1-a", "1 m"),
            ("part-1-b", "1 m"),
            ("part-1-c", "1 m"),
            ("part-1-density", "water"),
            ("part-1-z", "-300"),
        };
        var verdict = Judged(Points("0", [.. parts, ("part-1-x", "300")]), LiftKnown.Nothing, Sling, weak);
        Assert.True(verdict.Result!.Outcome < LiftOutcome.Overloaded);
        Assert.True(verdict.Outcome >= LiftOutcome.Overloaded);
        Assert.Contains(verdict.Remarks, r => r.Text.Contains("comes out worse"));
    }

    [Fact]
    public void What_the_trial_lift_and_the_scales_told_of_the_centre_stands_until_it_is_set_aside()
    {
        var fields = Points("0", ("basis", "known"), ("weight", "1 t"));
        var tried = Done(new TryLift(false, false, null, null) { Centre = new(450, 0, -300) });
        var scales = new LoadWeighings([new(-1000, 0, Mass.Parse("400 kg")), new(1000, 0, Mass.Parse("600 kg"))]);
        var weighed = Done(new WeighLift(scales.Weight, "two jacks") { Supports = scales });
        Assert.Equal(LiftOutcome.NotPermitted, Judged(fields, Known(1, tried), Sling, Other).Outcome);
        Assert.Equal(LiftOutcome.Ask, Judged(fields, Known(1, weighed), Sling, Other).Outcome);
        var aside = Done(new SetSourceAside(LiftKnown.Centre, "Tried with a slipped choke"));
        var known = Known(1, tried, weighed, aside);
        Assert.Equal(LiftOutcome.Ok, Judged(fields, known, Sling, Other).Outcome);
        Assert.True(Judged(fields, known, Sling, Other).HasOtherCentre);
        var level = Done(new TryLift(true, false, null, null));
        Assert.Equal(LiftOutcome.Ok, Judged(fields, Known(1, tried, level), Sling, Other).Outcome);
    }

    [Fact]
    public void A_trial_lift_keeps_where_it_put_the_centre_of_gravity()
    {
        var verdict = Judged(Points("0", ("basis", "known"), ("weight", "1 t")), LiftKnown.Nothing, Sling, Other);
        var facts = new LiftFacts(LiftState.Out, false, verdict, true, false, [], 2);
        var step = (TryLift)
            LiftLife.Completed(facts, new TryLift(false, false, null, null) { Low = "x+", By = "4 deg" });
        var known = Known(1, Done(step));
        Assert.Equal(2300 * Math.Tan(4 * Math.PI / 180), known.TrialCentre!.Value.X, 2);
    }

    [Theory]
    [InlineData("0", 240)]
    [InlineData(null, 240)]
    [InlineData("45", 240)]
    public void A_pull_on_an_eye_bolt_said_to_be_in_line_is_asked_about(string? pull, int percent)
    {
        var bolt = Piece("HM-0009", "eye-bolt", "2 t", ("shoulder", "true"));
        var fields = Fields(
            ("basis", "known"),
            ("weight", "1.7 t"),
            ("legs", "2"),
            ("angle", "45"),
            ("piece-1-mark", "HM-0001"),
            ("piece-1-place", "leg-1"),
            ("piece-2-mark", "HM-0002"),
            ("piece-2-place", "leg-2"),
            ("piece-3-mark", "HM-0009"),
            ("piece-3-place", "leg-1"),
            ("piece-3-pull", pull ?? string.Empty),
            ("piece-3-outOfPlane", "0"),
            ("piece-3-hole", "blind"),
            ("piece-3-engaged", "2")
        );
        var outcome = Judged(fields, LiftKnown.Nothing, Sling, Other, bolt).Outcome;
        Assert.Equal(pull == "0" ? LiftOutcome.Ask : LiftOutcome.Overloaded, outcome);
        Assert.Equal(percent, (int)Math.Round(1700 / (2 * Math.Sin(Math.PI / 4)) / (2000 * 0.25) * 100));
    }

    [Theory]
    [InlineData("20", null, LiftOutcome.NotPermitted)]
    [InlineData("20", "19.9 deg", LiftOutcome.NotPermitted)]
    [InlineData("20", "20 deg", LiftOutcome.Caution)]
    public void What_a_hoists_maker_states_is_on_record_of_the_hoist_and_no_field_of_a_plan(
        string off,
        string? makers,
        LiftOutcome outcome
    )
    {
        var hoist = Piece("HM-0003", "hand-chain-hoist", "20 t", ("ownWeight", "40 kg")) with
        {
            MakersAngle = makers is null ? null : Angle.Read(makers).Value,
        };
        var fields = One(
            ("basis", "known"),
            ("weight", "1 t"),
            ("rigging", "20 kg"),
            ("piece-2-mark", "HM-0003"),
            ("piece-2-place", "above"),
            ("piece-2-offPlumb", off),
            ("piece-2-makersAngle", "90"),
            ("piece-2-documented", "true")
        );
        Assert.Equal(outcome, Judged(fields, LiftKnown.Nothing, Sling, hoist).Outcome);
    }

    [Fact]
    public void A_hoist_said_to_lean_more_than_drawn_leans_as_said()
    {
        var fields = Fields(
            ("basis", "known"),
            ("weight", "500 kg"),
            ("stand", "drift"),
            ("a-z", "3000"),
            ("b-x", "2000"),
            ("b-z", "3000"),
            ("from", "0"),
            ("to", "2000"),
            ("carried", "0"),
            ("piece-1-mark", "HM-0003"),
            ("piece-1-place", "leg-1"),
            ("piece-1-offPlumb", "80"),
            ("piece-2-mark", "HM-0004"),
            ("piece-2-place", "leg-2")
        );
        LiftGear Hoist(string mark) => Piece(mark, "hand-chain-hoist", "20 t") with { MakersAngle = new(60) };
        Assert.Equal(
            LiftOutcome.NotPermitted,
            Judged(fields, LiftKnown.Nothing, Hoist("HM-0003"), Hoist("HM-0004")).Outcome
        );
        fields.Remove("piece-1-offPlumb");
        Assert.NotEqual(
            LiftOutcome.NotPermitted,
            Judged(fields, LiftKnown.Nothing, Hoist("HM-0003"), Hoist("HM-0004")).Outcome
        );
    }

    [Theory]
    [InlineData(true, LiftOutcome.Ok)]
    [InlineData(false, LiftOutcome.Ask)]
    public void A_lifting_points_calculation_is_on_record_of_the_point(bool calculated, LiftOutcome outcome)
    {
        var point = Piece("HM-0003", "lifting-point", "20 t") with { IsCalculated = calculated };
        var fields = One(
            ("basis", "known"),
            ("weight", "1 t"),
            ("rigging", "20 kg"),
            ("piece-2-mark", "HM-0003"),
            ("piece-2-place", "above"),
            ("piece-2-documented", "true")
        );
        Assert.Equal(outcome, Judged(fields, LiftKnown.Nothing, Sling, point).Outcome);
    }

    [Theory]
    [InlineData("75", true)]
    [InlineData("50", true)]
    [InlineData("75.1", false)]
    [InlineData("100", false)]
    public void A_plan_is_stricter_than_its_site_or_at_fault(string share, bool may)
    {
        var fields = One(
            ("basis", "known"),
            ("weight", "1 t"),
            ("machine", "crane"),
            ("crane-boom", "10 m"),
            ("crane-configuration", "A"),
            ("crane-pick", "5 m"),
            ("crane-critical", share),
            ("crane-chart", "A; 10 m; 5 m; 5 t")
        );
        Assert.Equal(may, !LiftPlanReader.Read(fields).Faults.ContainsKey("crane-critical"));
        fields["crane-critical"] = "41";
        var strict = LiftKnown.Nothing with { CriticalShare = 0.40m };
        Assert.Contains("crane-critical", LiftPlanReader.Read(fields, strict).Faults.Keys);
        fields["crane-critical"] = "40";
        Assert.DoesNotContain("crane-critical", LiftPlanReader.Read(fields, strict).Faults.Keys);
    }

    [Theory]
    [InlineData("35 deg; manual K-7, p. 12", true)]
    [InlineData("90 deg; sheet", true)]
    [InlineData("90.1 deg; sheet", false)]
    [InlineData("0 deg; sheet", false)]
    [InlineData("35 deg", false)]
    [InlineData("35 deg; ", false)]
    [InlineData("sheet", false)]
    public void A_makers_angle_names_its_paper(string typed, bool may) => Assert.Equal(may, MakersAngle.Read(typed).Ok);

    [Fact]
    public void What_frees_a_piece_is_entered_by_a_qualified_person()
    {
        var freed = PieceDetails.None with { MakersAngle = new(new(35), "manual K-7"), Calculation = null };
        var point = PieceDetails.None with { Calculation = "C-118" };
        Assert.NotNull(freed.RefusalToFree(PieceDetails.None, Role.Inspector));
        Assert.NotNull(point.RefusalToFree(PieceDetails.None, Role.Stores));
        Assert.Null(freed.RefusalToFree(PieceDetails.None, Role.Qualified));
        Assert.Null(freed.RefusalToFree(freed, Role.Inspector));
        Assert.Null((freed with { MakersAngle = new(new(10), "manual K-7") }).RefusalToFree(freed, Role.Inspector));
        Assert.Null(PieceDetails.None.RefusalToFree(point, Role.Inspector));
    }
}
