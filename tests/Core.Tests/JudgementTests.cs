using FsCheck;
using FsCheck.Xunit;
using Keralith.Core.Formats;
using Keralith.Core.Gear;
using Keralith.Core.Judgement;
using Keralith.Core.Quantities;
using Xunit;
using Outcome = Keralith.Core.Gear.Outcome;

namespace Keralith.Core.Tests;

public class JudgementTests
{
    [Theory]
    [InlineData("no", Outcome.Clear)]
    [InlineData("yes", Outcome.Remove)]
    [InlineData("unsure", Outcome.Hold)]
    [InlineData("not-accessible", Outcome.Hold)]
    public void Every_fault_that_removes_is_clear_removed_or_held(string answer, Outcome expected)
    {
        var chain = Given.Case(Given.TwoLegChain, "", kind: "initial");
        foreach (var part in Catalogue.Parts(chain.Gear, chain.Books))
        {
            foreach (var criterion in part.Criteria.Where(c => c is { IsAnswerChosen: true, OnFault: Outcome.Remove }))
            {
                var verdict = Given.Judged(
                    Given.TwoLegChain,
                    $$"""{"criterion":"{{criterion.Id}}","part":"{{part.Path}}","answer":"{{answer}}"}""",
                    kind: "initial"
                );
                Assert.Equal(expected, verdict.Findings[0].Outcome);
            }
        }
    }

    [Theory]
    [InlineData("id.tag-complete", "tag")]
    [InlineData("id.overhead", "tag")]
    [InlineData("id.certificate", "tag")]
    [InlineData("any.doubt", "whole")]
    [InlineData("any.attachment-rating", "whole")]
    [InlineData("hook.fit", "leg-1/hook")]
    public void Some_faults_only_hold(string criterion, string part) =>
        Assert.Equal(
            Outcome.Hold,
            Given
                .Judged(
                    Given.TwoLegChain,
                    $$"""{"criterion":"{{criterion}}","part":"{{part}}","answer":"yes"}""",
                    kind: "initial"
                )
                .Findings[0]
                .Outcome
        );

    [Fact]
    public void A_visible_twist_is_held_under_osha_alone_until_its_angle_is_measured_and_removed_under_any_other_book()
    {
        const string Twist = """{"criterion":"hook.twist","part":"hook","answer":"yes"}""";
        Assert.Equal(Outcome.Hold, Given.Judged(Given.OneHook, Twist, "osha").Findings[0].Outcome);
        Assert.Equal(Outcome.Remove, Given.Judged(Given.OneHook, Twist, "asme osha").Findings[0].Outcome);
        var measured = Given.Judged(
            Given.OneHook,
            $$"""{{Twist}},{"criterion":"hook.twist-angle","part":"hook","value":"11 deg"}""",
            "osha"
        );
        Assert.Equal([Outcome.Clear, Outcome.Remove], measured.Findings.Select(f => f.Outcome));
        Assert.Empty(CaseReader.Read(Given.Json(Given.OneHook, "", "osha")).Faults);
        Assert.NotEmpty(
            CaseReader
                .Read(Given.Json(Given.OneHook, """{"criterion":"hook.twist-angle","part":"hook","value":"11 deg"}"""))
                .Faults
        );
    }

    [Theory]
    [InlineData("40")]
    [InlineData("G70")]
    [InlineData("4")]
    public void Chain_below_grade_80_is_removed_on_each_leg_whatever_was_answered(string grade)
    {
        var gear = Given.TwoLegChain.Replace("\"80\"", $"\"{grade}\"", StringComparison.Ordinal);
        var verdict = Given.Judged(gear, Given.Clean(gear));
        Assert.Equal(VerdictKind.Remove, verdict.Kind);
        Assert.Equal(["leg-1", "leg-2"], verdict.Findings.Where(f => f.FromGear).Select(f => f.Part));
    }

    [Theory]
    [InlineData("80")]
    [InlineData("8")]
    [InlineData("800")]
    [InlineData("10")]
    [InlineData("G100")]
    [InlineData("120")]
    public void Grade_80_and_higher_is_known_by_each_of_its_marks(string grade) =>
        Assert.DoesNotContain(
            Given.Judged(Given.TwoLegChain.Replace("\"80\"", $"\"{grade}\"", StringComparison.Ordinal), "").Findings,
            f => f.FromGear
        );

    [Fact]
    public void Nothing_is_fit_before_every_question_is_answered()
    {
        var clean = Given.Clean(Given.ScrewShackle, kind: "frequent");
        var answers = clean.Split("},{");
        Assert.Equal(VerdictKind.Fit, Given.Judged(Given.ScrewShackle, clean, kind: "frequent").Kind);
        for (var left = 0; left < answers.Length; left++)
        {
            var some = string.Join("},{", answers.Where((_, i) => i != left)).Trim('{', '}');
            Assert.Equal(
                VerdictKind.Incomplete,
                Given.Judged(Given.ScrewShackle, $"{{{some}}}", kind: "frequent").Kind
            );
        }
    }

    [Fact]
    public void What_is_missing_stands_by_part_and_then_in_catalogue_order()
    {
        var missing = Given.Judged(Given.TwoLegChain, "").Missing.Select(m => m.Part).Distinct();
        Assert.Equal(
            [
                "tag",
                "top-link",
                "leg-1/coupling",
                "leg-1",
                "leg-1/hook",
                "leg-2/coupling",
                "leg-2",
                "leg-2/hook",
                "legs",
                "whole",
            ],
            missing
        );
        Assert.Equal(
            ["id.marking", "id.tag-complete"],
            Given.Judged(Given.TwoLegChain, "").Missing.Where(m => m.Part == "tag").Select(m => m.Criterion.Id)
        );
        Assert.Contains(Given.Judged(Given.TwoLegChain, "", kind: "initial").Missing, m =>
            m.Criterion.Id == "id.certificate"
        );
    }

    [Theory]
    [InlineData("""{"family":"hook","hookLatch":false}""", "hook.latch", false)]
    [InlineData("""{"family":"hook"}""", "hook.latch", true)]
    [InlineData("""{"family":"hook","hookSwivels":true}""", "hook.rotate", true)]
    [InlineData("""{"family":"hook"}""", "hook.rotate", false)]
    [InlineData("""{"family":"hook"}""", "hook.fit", false)]
    [InlineData("""{"family":"hook","latchPolicy":true}""", "policy.latch", true)]
    [InlineData("""{"family":"shackle","pinType":"bolt"}""", "shackle.pin-secured", true)]
    [InlineData("""{"family":"shackle","pinType":"screw"}""", "shackle.pin-secured", false)]
    [InlineData("""{"family":"alloy-chain-sling","endFitting":"shackle"}""", "shackle.wear-pin", true)]
    [InlineData("""{"family":"alloy-chain-sling"}""", "chain.leg-difference", false)]
    [InlineData("""{"family":"alloy-chain-sling","shortener":true}""", "coupling.free", true)]
    public void Only_what_the_gear_has_is_asked(string gear, string criterion, bool asked) =>
        Assert.Equal(asked, Given.Judged(gear, "").Missing.Any(m => m.Criterion.Id == criterion));

    [Fact]
    public void A_provisional_baseline_is_watch_at_best() =>
        Assert.Equal(
            Outcome.Watch,
            Given
                .Measured(
                    Given.TwoLegChain,
                    "chain.gauge-growth",
                    "leg-1",
                    "1000 mm",
                    "1000 mm",
                    more: ",\"baselineBasis\":\"provisional\""
                )
                .Outcome
        );

    [Theory]
    [InlineData("40 mm", "does not heal")]
    [InlineData("40.01 mm", "check the unit")]
    public void More_than_twice_the_figure_when_new_is_a_slip_of_the_unit(string section, string said)
    {
        var finding = Given.Measured(Given.OneHook, "hook.wear", "hook", section, "20 mm");
        Assert.Equal(Outcome.Hold, finding.Outcome);
        Assert.Contains(said, finding.Reason, StringComparison.Ordinal);
    }

    [Theory]
    [InlineData("1004.49 mm", Outcome.Clear)]
    [InlineData("1004.5 mm", Outcome.Hold)]
    [InlineData("1005 mm", Outcome.Hold)]
    [InlineData("1005.01 mm", Outcome.Hold)]
    public void A_reading_nearer_to_the_first_step_than_its_instrument_can_tell_is_held(
        string length,
        Outcome outcome
    ) =>
        Assert.Equal(
            outcome,
            Given
                .Measured(
                    """{"family":"alloy-chain-sling","size":"10 mm"}""",
                    "chain.gauge-growth",
                    "leg-1",
                    length,
                    "1000 mm",
                    more: ",\"uncertainty\":\"0.5 mm\""
                )
                .Outcome
        );

    [Theory]
    [InlineData("9.01 mm", Outcome.Clear)]
    [InlineData("9 mm", Outcome.Clear)]
    [InlineData("8.99 mm", Outcome.Remove)]
    public void A_makers_least_thickness_governs_where_the_figure_when_new_is_not_known(string link, Outcome outcome)
    {
        const string Least = """{"source":"maker","criterion":"hoistchain.wear","absolute":"9 mm"}""";
        var found = Given.Measured(
            """{"family":"hand-chain-hoist"}""",
            "hoistchain.wear",
            "load-chain",
            link,
            limits: Least
        );
        Assert.Equal((outcome, "maker"), (found.Outcome, found.Governing.From));
        Assert.Equal(
            Outcome.Hold,
            Given.Measured("""{"family":"hand-chain-hoist"}""", "hoistchain.wear", "load-chain", link).Outcome
        );
    }

    [Theory]
    [InlineData("""{"source":"site","criterion":"hook.throat","percent":3}""", "site", Outcome.Remove)]
    [InlineData("""{"source":"site","criterion":"hook.throat","percent":8}""", "asme", Outcome.Watch)]
    [InlineData("""{"source":"maker","criterion":"hook.throat","percent":8}""", "maker", Outcome.Clear)]
    [InlineData("""{"source":"maker","criterion":"hook.throat","absolute":"1 mm"}""", "maker", Outcome.Remove)]
    public void A_site_may_only_be_stricter_and_a_maker_laxer_only_where_the_book_says_so(
        string limit,
        string governs,
        Outcome expected
    )
    {
        var finding = Given.Measured(Given.OneHook, "hook.throat", "hook", "41.6 mm", "40 mm", limits: limit);
        Assert.Equal((governs, expected), (finding.Governing.Book, finding.Outcome));
    }

    [Theory]
    [InlineData(8, 3)]
    [InlineData(3, 8)]
    [InlineData(10, 3)]
    public void Of_two_figures_a_maker_names_the_stricter_still_counts(int first, int second)
    {
        var limits = string.Join(
            ",",
            new[] { first, second }.Select(p => $$"""{"source":"maker","criterion":"hook.throat","percent":{{p}}}""")
        );
        Assert.Equal(
            Outcome.Remove,
            Given.Measured(Given.OneHook, "hook.throat", "hook", "41.5 mm", "40 mm", limits: limits).Outcome
        );
    }

    [Fact]
    public void A_limit_that_allows_nothing_still_passes_the_figure_when_new()
    {
        const string None = """{"source":"site","criterion":"hook.throat","percent":0}""";
        Assert.Equal(
            Outcome.Clear,
            Given.Measured(Given.OneHook, "hook.throat", "hook", "40 mm", "40 mm", limits: None).Outcome
        );
        Assert.Equal(
            Outcome.Remove,
            Given.Measured(Given.OneHook, "hook.throat", "hook", "40.01 mm", "40 mm", limits: None).Outcome
        );
    }

    [Property]
    public bool The_unit_of_entry_never_changes_an_outcome(PositiveInt thousandths)
    {
        var inches = (thousandths.Get % 4000 + 1) / 1000m;
        var inInches = Given.Measured(Given.OneHook, "hook.throat", "hook", $"{inches} in", "2 in", "asme osha");
        var inMillimetres = Given.Measured(
            Given.OneHook,
            "hook.throat",
            "hook",
            $"{inches * 25.4m} mm",
            "2 in",
            "asme osha"
        );
        return inInches.Outcome == inMillimetres.Outcome
            && inInches.Governing.Consumed == inMillimetres.Governing.Consumed;
    }

    [Property]
    public bool Another_book_or_a_stricter_limit_never_makes_a_verdict_milder(
        PositiveInt hundredths,
        byte percent,
        bool throat
    )
    {
        var value = $"{20 + (hundredths.Get % 4000 / 100m)} mm";
        var criterion = throat ? "hook.throat" : "hook.wear";
        var limit = $$"""{"source":"site","criterion":"{{criterion}}","percent":{{percent % 30}}}""";
        var one = Given.Measured(Given.OneHook, criterion, "hook", value, "40 mm").Outcome;
        return Given.Measured(Given.OneHook, criterion, "hook", value, "40 mm", "asme osha").Outcome >= one
            && Given.Measured(Given.OneHook, criterion, "hook", value, "40 mm", "osha asme").Outcome >= one
            && Given.Measured(Given.OneHook, criterion, "hook", value, "40 mm", limits: limit).Outcome >= one;
    }

    [Property]
    public bool One_more_answer_never_makes_a_remove_milder(NonNegativeInt which, NonNegativeInt answer)
    {
        const string Removed = """{"criterion":"hook.crack","part":"leg-1/hook","answer":"yes"}""";
        var open = Given.Judged(Given.TwoLegChain, Removed).Missing.Where(m => m.Criterion.IsAnswerChosen).ToList();
        var next = open[which.Get % open.Count];
        var word = Code.Of((Found)(answer.Get % 4));
        return Given
                .Judged(
                    Given.TwoLegChain,
                    $$"""{{Removed}},{"criterion":"{{next.Criterion.Id}}","part":"{{next.Part}}","answer":"{{word}}"}"""
                )
                .Kind == VerdictKind.Remove;
    }

    [Fact]
    public void A_case_written_is_read_back_to_the_same_verdict()
    {
        var answers =
            """{"criterion":"hook.throat","part":"leg-1/hook","value":"1-27/64 in","baseline":"1-3/8 in","baselineBasis":"twin","uncertainty":"0.001 in"},{"criterion":"chain.crack","part":"leg-2","answer":"not-accessible"}""";
        var @case = Given.Case(
            Given.TwoLegChain,
            answers,
            "asme osha",
            "initial",
            """{"source":"site","criterion":"hook.throat","percent":4}"""
        );
        var again = CaseReader.Read(CaseWriter.Write(@case)).Value!;
        Assert.Equal(VerdictWriter.Write(Judge.Of(@case)), VerdictWriter.Write(Judge.Of(again)));
    }

    [Fact]
    public void Every_criterion_is_reachable_sourced_and_worded()
    {
        var reached = GearFamilies
            .All.SelectMany(MakeUps)
            .SelectMany(g => Catalogue.Parts(g, RuleBookShelf.All))
            .SelectMany(p => p.Criteria)
            .Select(c => c.Id)
            .ToHashSet();
        foreach (var criterion in Catalogue.All)
        {
            Assert.Contains(criterion.Id, reached);
            Assert.True(
                criterion.Title.Length > 2 && criterion.Question.Length > 8 && criterion.Look.Length > 8,
                criterion.Id
            );
            Assert.True(criterion.Source.Standard.Length > 3 && criterion.Source.Topic.Length > 2, criterion.Id);
            Assert.True(
                criterion.IsAnswerChosen
                    || criterion.Limit is not null
                    || RuleBookShelf.All.Any(b => b.Rules.ContainsKey(criterion.Id)),
                criterion.Id
            );
        }
    }

    /// <summary>Gear of a family with every flag set, once for each choice of each attribute it is asked for.</summary>
    private static IEnumerable<GearPiece> MakeUps(GearFamily family)
    {
        var flags = GearAttributes
            .All.Where(a => a.Kind == AttributeKind.Flag)
            .ToDictionary(a => a.Name, AttributeValue (_) => new FlagValue(true));
        flags["legs"] = new WholeValue(2);
        flags["torque"] = new MomentValue(Moment.Read("100 ft lbf").Value);
        flags["handPullLimit"] = new ForceValue(Force.Read("260 N").Value, null);
        flags["threadSize"] = new LengthValue(Length.Parse("20 mm"));
        yield return new(family, flags);
        foreach (var attribute in GearAttributes.All.Where(a => a.Kind == AttributeKind.Choice))
        {
            foreach (var choice in attribute.Choices)
                yield return new(
                    family,
                    new Dictionary<string, AttributeValue>(flags) { [attribute.Name] = new TextValue(choice) }
                );
        }
    }

    [Fact]
    public void Rules_never_call_gear_safe()
    {
        foreach (var c in Catalogue.All)
            Assert.DoesNotContain(
                "safe",
                $"{c.Title} {c.Question} {c.Look} {c.Why}",
                StringComparison.OrdinalIgnoreCase
            );
    }

    [Fact]
    public void Where_a_book_says_nothing_of_a_fault_the_finding_says_whose_word_stands_in()
    {
        var finding = Given
            .Judged(
                Given.OneHook,
                """{"criterion":"hook.crack","part":"hook","answer":"yes"}""",
                books: "asme europe japan"
            )
            .Findings[0];
        Assert.Equal(
            [("asme", null), ("europe", "asme"), ("japan", "asme")],
            finding.Books.Select(b => (b.Book, b.From))
        );
    }
}
