using Keralith.Core.Formats;
using Keralith.Core.Gear;
using Keralith.Core.Judgement;
using Keralith.Core.Quantities;
using Xunit;

namespace Keralith.Core.Tests;

/// <summary>Readings held against a figure on record of the piece: asked only where it carries one.</summary>
public class OnRecordTests
{
    private const string Hoist = """ "family": "hand-chain-hoist", "falls": 1, "handPullLimit": "260 N" """;
    private const string Ring = """ "family": "swivel-hoist-ring", "size": "3/4 in", "torque": "100 ft lbf" """;
    private const string Turnbuckle = """ "family": "turnbuckle", "size": "20 mm", "threadSize": "20 mm" """;
    private const string Bolt = """ "family": "eye-bolt", "size": "3/4 in", "threadSize": "3/4 in", "hole": "blind" """;

    [Theory]
    [InlineData("259.99 N", "clear")]
    [InlineData("260 N", "clear")]
    [InlineData("260.01 N", "remove")]
    [InlineData("0.26 kN", "clear")]
    [InlineData("58 lbf", "clear")]
    [InlineData("58.5 lbf", "remove")]
    public void A_pull_over_the_makers_figure_removes(string pull, string outcome) =>
        Assert.Equal(outcome, Outcome(Hoist, "hoist.hand-pull", "hand-chain", $"\"value\": \"{pull}\""));

    [Theory]
    [InlineData("258 N", "1 N", "clear")]
    [InlineData("259 N", "1 N", "hold")]
    [InlineData("260 N", "0.5 N", "hold")]
    [InlineData("262 N", "1 N", "remove")]
    public void A_pull_nearer_to_the_figure_than_the_balance_can_tell_holds(
        string pull,
        string about,
        string outcome
    ) =>
        Assert.Equal(
            outcome,
            Outcome(Hoist, "hoist.hand-pull", "hand-chain", $"\"value\": \"{pull}\", \"uncertainty\": \"{about}\"")
        );

    [Theory]
    [InlineData("unsure")]
    [InlineData("not-accessible")]
    public void No_load_at_hand_holds(string answer) =>
        Assert.Equal("hold", Outcome(Hoist, "hoist.hand-pull", "hand-chain", $"\"answer\": \"{answer}\""));

    [Theory]
    [InlineData("94.99 ft lbf", "hold")]
    [InlineData("95 ft lbf", "clear")]
    [InlineData("100 ft lbf", "clear")]
    [InlineData("105 ft lbf", "clear")]
    [InlineData("105.01 ft lbf", "hold")]
    [InlineData("1140 in lbf", "clear")]
    [InlineData("135 N m", "clear")]
    [InlineData("128 N m", "hold")]
    [InlineData("143 N m", "hold")]
    public void A_torque_off_its_mark_by_more_than_a_twentieth_holds(string torque, string outcome) =>
        Assert.Equal(outcome, Outcome(Ring, "ring.torque", "body", $"\"value\": \"{torque}\""));

    [Theory]
    [InlineData("97 ft lbf", "clear")]
    [InlineData("96 ft lbf", "hold")]
    [InlineData("104 ft lbf", "hold")]
    public void A_torque_nearer_to_an_end_than_the_wrench_can_tell_holds(string torque, string outcome) =>
        Assert.Equal(
            outcome,
            Outcome(Ring, "ring.torque", "body", $"\"value\": \"{torque}\", \"uncertainty\": \"1 ft lbf\"")
        );

    [Theory]
    [InlineData("19.99 mm", "remove")]
    [InlineData("20 mm", "clear")]
    [InlineData("20.01 mm", "clear")]
    public void A_turnbuckle_engages_one_diameter_of_thread(string engaged, string outcome) =>
        Assert.Equal(outcome, Outcome(Turnbuckle, "turnbuckle.engagement", "thread", $"\"value\": \"{engaged}\""));

    [Theory]
    [InlineData("1.1249 in", "remove")]
    [InlineData("1.125 in", "clear")]
    [InlineData("1-9/64 in", "clear")]
    public void An_eye_bolt_engages_one_and_a_half_diameters_of_a_blind_hole(string engaged, string outcome) =>
        Assert.Equal(outcome, Outcome(Bolt, "eyebolt.engagement", "thread", $"\"value\": \"{engaged}\""));

    [Theory]
    [InlineData(Ring, "ring.torque", "body", "no", "clear")]
    [InlineData(Bolt, "eyebolt.engagement", "thread", "no", "clear")]
    [InlineData(Bolt, "eyebolt.engagement", "thread", "unsure", "hold")]
    [InlineData(Turnbuckle, "turnbuckle.engagement", "thread", "not-accessible", "hold")]
    public void What_is_not_fitted_has_nothing_to_measure_and_what_cannot_be_seen_holds(
        string gear,
        string criterion,
        string part,
        string answer,
        string outcome
    ) => Assert.Equal(outcome, Outcome(gear, criterion, part, $"\"answer\": \"{answer}\""));

    [Theory]
    [InlineData(Hoist, "hoist.hand-pull", "hand-chain", "no")]
    [InlineData(Hoist, "hoist.hand-pull", "hand-chain", "yes")]
    [InlineData(Turnbuckle, "turnbuckle.engagement", "thread", "no")]
    [InlineData(Ring, "ring.torque", "body", "yes")]
    public void A_figure_is_not_answered_away(string gear, string criterion, string part, string answer)
    {
        var read = CaseReader.Read(Json(gear, criterion, part, $"\"answer\": \"{answer}\""));
        Assert.Contains(read.Faults, f => f.Path == "$.answers[0].answer");
        Assert.False(new AnswerEntry(answer).Read(Catalogue.Get(criterion), null).Ok);
    }

    [Theory]
    [InlineData(Hoist, "hoist.hand-pull", "hand-chain", "12 mm")]
    [InlineData(Hoist, "hoist.hand-pull", "hand-chain", "260")]
    [InlineData(Hoist, "hoist.hand-pull", "hand-chain", "-1 N")]
    [InlineData(Ring, "ring.torque", "body", "100 N")]
    [InlineData(Ring, "ring.torque", "body", "100 lb")]
    [InlineData(Turnbuckle, "turnbuckle.engagement", "thread", "0 mm")]
    public void A_figure_has_its_own_unit_and_is_not_under_nothing(
        string gear,
        string criterion,
        string part,
        string value
    ) =>
        Assert.Contains(CaseReader.Read(Json(gear, criterion, part, $"\"value\": \"{value}\"")).Faults, f =>
            f.Path == "$.answers[0].value"
        );

    [Theory]
    [InlineData(Hoist, "handPullLimit", "hoist.hand-pull")]
    [InlineData(Ring, "torque", "ring.torque")]
    [InlineData(Turnbuckle, "threadSize", "turnbuckle.engagement")]
    [InlineData(Bolt, "threadSize", "eyebolt.engagement")]
    [InlineData(Bolt, "hole", "eyebolt.engagement")]
    public void It_is_missing_where_the_figure_is_on_record_and_never_asked_where_it_is_not(
        string gear,
        string attribute,
        string criterion
    )
    {
        var with = CaseReader.Read(Case(gear, string.Empty)).Value!;
        Assert.Contains(Judge.Of(with).Missing, m => m.Criterion.Id == criterion);
        var without = with with { Gear = new(with.Gear.Family, with.Gear.Values.Where(v => v.Key != attribute)) };
        Assert.DoesNotContain(Judge.Of(without).Missing, m => m.Criterion.Id == criterion);
        Assert.DoesNotContain(without.Placement.Questions, q => q.Criterion.Id == criterion);

        // A look before use measures nothing.
        Assert.DoesNotContain(Judge.Of(with with { Kind = InspectionKind.Frequent }).Missing, m =>
            m.Criterion.Id == criterion
        );
    }

    [Theory]
    [InlineData("through-tapped")]
    [InlineData("through")]
    public void Only_a_blind_hole_is_measured(string hole) =>
        Assert.DoesNotContain(
            CaseReader.Read(Case(Bolt.Replace("blind", hole), string.Empty)).Value!.Placement.Questions,
            q => q.Criterion.Id == "eyebolt.engagement"
        );

    [Theory]
    [InlineData(Hoist, "hoist.hand-pull", "hand-chain", "\"value\": \"261 N\", \"uncertainty\": \"2 N\"", "n", 260)]
    [InlineData(Ring, "ring.torque", "body", "\"value\": \"98 ft lbf\"", null, 0)]
    [InlineData(Hoist, "hoist.hand-pull", "hand-chain", "\"answer\": \"unsure\"", null, 0)]
    public void A_case_is_written_as_it_was_read_and_a_verdict_names_the_limit_with_its_unit(
        string gear,
        string criterion,
        string part,
        string answer,
        string? unit,
        decimal limit
    )
    {
        var read = CaseReader.Read(Json(gear, criterion, part, answer)).Value!;
        Assert.Equal(read.Answers, CaseReader.Read(CaseWriter.Write(read)).Value!.Answers);
        using var verdict = System.Text.Json.JsonDocument.Parse(VerdictWriter.Write(Judge.Of(read)));
        var finding = verdict.RootElement.GetProperty("findings")[0];
        if (unit is null)
            Assert.Equal(System.Text.Json.JsonValueKind.Null, finding.GetProperty("limit").ValueKind);
        else
            Assert.Equal(limit, finding.GetProperty("limit").GetProperty(unit).GetDecimal());
    }

    [Fact]
    public void Neither_site_nor_maker_sets_a_limit_beside_what_is_on_record()
    {
        var limits = """ "limits": [{"source": "site", "criterion": "hoist.hand-pull", "percent": 5}], """;
        Assert.Contains(
            CaseReader.Read(Case(Hoist, string.Empty).Replace("\"answers\"", $"{limits}\"answers\"")).Faults,
            f => f.Path == "$.limits[0].criterion"
        );
        Assert.False(OwnLimitReader.Parse(LimitOwner.Maker, "ring.torque", "3 %").Ok);
    }

    [Theory]
    [InlineData("180 N at 500 kg", true)]
    [InlineData("180 N", true)]
    [InlineData("0 N", false)]
    [InlineData("180 N at 0 kg", false)]
    [InlineData("180 kg", false)]
    [InlineData("180 N at half", false)]
    public void A_hand_pull_may_name_the_load_it_was_stated_at(string text, bool read)
    {
        var value = GearAttributes.Find("handPullLimit")!.Read(text);
        Assert.Equal(read, value.Ok);
        if (read)
            Assert.Equal(text, value.Value.Text);
    }

    [Theory]
    [InlineData("135 N m", "135 N m", 135)]
    [InlineData("135Nm", "135 N m", 135)]
    [InlineData("100 ft lbf", "100 ft lbf", 135.58179483314004)]
    [InlineData("100 ft-lbf", "100 ft lbf", 135.58179483314004)]
    [InlineData("100 lb-ft", "100 ft lbf", 135.58179483314004)]
    [InlineData("1200 in lbf", "1200 in lbf", 135.58179483314004)]
    public void A_moment_reads_as_it_is_written(string text, string written, double newtonMetres)
    {
        var moment = Moment.Read(text);
        Assert.Equal((written, newtonMetres), (moment.Value.ToString(), (double)moment.Value.NewtonMetres));
        Assert.Equal(moment.Value, Moment.Read(written).Value);
    }

    [Theory]
    [InlineData("100")]
    [InlineData("100 N")]
    [InlineData("about 100 N m")]
    [InlineData("9999999999 N m")]
    [InlineData("")]
    public void A_moment_that_is_none_says_why(string text) => Assert.NotNull(Moment.Read(text).Fault);

    private static string Outcome(string gear, string criterion, string part, string answer)
    {
        var read = CaseReader.Read(Json(gear, criterion, part, answer));
        Assert.Empty(read.Faults);
        return Code.Of(Judge.Of(read.Value!).Findings[0].Outcome);
    }

    private static string Json(string gear, string criterion, string part, string answer) =>
        Case(gear, $$"""{"criterion": "{{criterion}}", "part": "{{part}}", {{answer}} }""");

    private static string Case(string gear, string answers) =>
        $$"""{"format": "keralith.case/1", "ruleBooks": ["asme"], "kind": "periodic", "gear": { {{gear}} }, "answers": [{{answers}}] }""";
}
