using Keralith.Core.Formats;
using Keralith.Core.Gear;
using Keralith.Core.Judgement;
using Keralith.Core.Lifts;
using Keralith.Core.Register;
using Xunit;

namespace Keralith.Core.Tests;

/// <summary>A grade mark is on the list or says nothing: letters and figures run together are never alloy.</summary>
public class ChainGradeTests
{
    [Theory]
    [InlineData("8", 80)]
    [InlineData("80", 80)]
    [InlineData("800", 80)]
    [InlineData("T", 80)]
    [InlineData("10", 100)]
    [InlineData("100", 100)]
    [InlineData("1000", 100)]
    [InlineData("V", 100)]
    [InlineData("12", 120)]
    [InlineData("120", 120)]
    [InlineData("1200", 120)]
    [InlineData("grade 80", 80)]
    [InlineData("Grade80", 80)]
    [InlineData("gr. 100", 100)]
    [InlineData("GR.100", 100)]
    [InlineData("g 8", 80)]
    [InlineData("G80", 80)]
    [InlineData("gt", 80)]
    [InlineData("v", 100)]
    public void Marks_of_alloy_name_their_grade(string mark, int number) =>
        Assert.Equal(new ChainGrade(ChainKind.Alloy, number), ChainGrade.Of(mark));

    [Theory]
    [InlineData("A")]
    [InlineData("b")]
    [InlineData("alloy")]
    [InlineData("Grade A")]
    public void Marks_of_alloy_without_a_figure_leave_the_grade_open(string mark) =>
        Assert.Equal(new ChainGrade(ChainKind.AlloyOfUnknownGrade, null), ChainGrade.Of(mark));

    [Theory]
    [InlineData("3")]
    [InlineData("4")]
    [InlineData("5")]
    [InlineData("6")]
    [InlineData("7")]
    [InlineData("28")]
    [InlineData("30")]
    [InlineData("40")]
    [InlineData("43")]
    [InlineData("G43")]
    [InlineData("50")]
    [InlineData("63")]
    [InlineData("70")]
    [InlineData("grade 70")]
    [InlineData("L")]
    [InlineData("M")]
    [InlineData("P")]
    [InlineData("S")]
    [InlineData("PC")]
    [InlineData("bbb")]
    [InlineData("HT")]
    public void Other_chain_is_not_for_lifting(string mark)
    {
        Assert.Equal(ChainKind.NotForLifting, ChainGrade.Of(mark).Kind);
        var verdict = Judge.Of(Case(mark).Value!);
        Assert.Equal(["leg-1", "leg-2"], verdict.Findings.Select(f => f.Part));
        Assert.All(verdict.Findings, f =>
            Assert.Equal((Outcome.Remove, "chain.grade-mark"), (f.Outcome, f.Criterion.Id))
        );
        Assert.Equal(LiftOutcome.NotPermitted, Lifted(mark).Outcome);
    }

    [Theory]
    [InlineData("43 (9/32)")]
    [InlineData("G43 0.28")]
    [InlineData("80/43")]
    [InlineData("43 (3/8)")]
    [InlineData("79")]
    [InlineData("81")]
    [InlineData("8000")]
    [InlineData("08")]
    [InlineData("8 0")]
    [InlineData("grade  80")]
    [InlineData("gr 80")]
    [InlineData("grade")]
    [InlineData("g.80")]
    [InlineData("80 t")]
    [InlineData("ℊ80")]
    [InlineData("٨")]
    [InlineData("８０")]
    [InlineData("ſ")]
    [InlineData("80\n")]
    public void What_is_on_no_list_is_refused_and_never_alloy(string mark)
    {
        Assert.Equal(ChainKind.Unreadable, ChainGrade.Of(mark).Kind);
        Assert.NotNull(ChainGrade.FaultOf(mark));
        if (mark.Trim() != mark)
            return;
        Assert.Contains(Case(mark).Faults, f => f.Path == "$.gear.grade");
        var (_, faults) = PieceEntryReader.Read(
            new Dictionary<string, string> { ["family"] = "alloy-chain-sling", ["grade"] = mark }
        );
        Assert.Contains("no grade mark of chain", faults["grade"], StringComparison.Ordinal);
        var document =
            $$"""{"format":"keralith.lift/1","load":{"weight":"1 t","basis":"weighed"},"symmetric":{"legs":1,"angle":"90 deg","hitch":"vertical","sling":{{Sling(mark)}} } }""";
        Assert.NotEmpty(LiftReader.Read(document).Faults);
    }

    [Fact]
    public void A_mark_that_cannot_be_read_any_more_holds_what_stands_on_record_and_is_not_lifted_with()
    {
        var gear = new GearPiece(
            GearFamilies.Find("alloy-chain-sling")!,
            [new("size", new LengthValue(Quantities.Length.Parse("10 mm"))), new("grade", new TextValue("G43 0.28"))]
        );
        Assert.Equal(VerdictKind.Hold, Judge.Of(new([RuleBookShelf.Asme], InspectionKind.Periodic, gear, [], [])).Kind);
        var sling = new LiftSling(gear, Quantities.Mass.Parse("1 t"));
        var lift = new Lift(
            [RuleBookShelf.Asme],
            new(Quantities.Mass.Parse("100 kg"), LoadBasis.Known),
            new SymmetricLegs(1, new(90), new(Tags.Hitch.Vertical, sling))
        );
        Assert.Equal(LiftOutcome.NotPermitted, LiftJudge.Of(lift).Outcome);
    }

    [Theory]
    [InlineData("A", LiftOutcome.Ask)]
    [InlineData("80", LiftOutcome.Ok)]
    [InlineData(null, LiftOutcome.Ask)]
    public void Alloy_of_a_grade_nobody_knows_is_asked_about(string? mark, LiftOutcome outcome) =>
        Assert.Equal(outcome, Lifted(mark).Outcome);

    [Fact]
    public void A_shackles_grade_is_its_makers_word() =>
        Assert.DoesNotContain(
            CaseReader
                .Read("""{"format":"keralith.case/1","gear":{"family":"shackle","grade":"6 (alloy)"},"answers":[]}""")
                .Faults,
            f => f.Path == "$.gear.grade"
        );

    private static ReadResult<Case> Case(string mark) =>
        CaseReader.Read(
            $$"""{"format":"keralith.case/1","ruleBooks":["asme"],"gear":{"family":"alloy-chain-sling","size":"3/8 in","grade":"{{mark}}","legs":2},"answers":[]}"""
        );

    private static string Sling(string? mark) =>
        $$"""{"family":"alloy-chain-sling","size":"10 mm",{{(mark is null ? string.Empty : $"\"grade\":\"{mark}\",")}}"ratedLoad":"3000 kg","designFactor":4}""";

    private static LiftResult Lifted(string? mark) =>
        GivenLift.Alike(Sling(mark), 1, "90 deg", "vertical", string.Empty);
}
