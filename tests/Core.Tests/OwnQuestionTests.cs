using Keralith.Core.Formats;
using Keralith.Core.Gear;
using Keralith.Core.Judgement;
using Keralith.Core.People;
using Keralith.Core.Sites;
using Xunit;

namespace Keralith.Core.Tests;

/// <summary>What a site asks beside the books: asked where it says, judged like any other, and apart in the documents.</summary>
public class OwnQuestionTests
{
    private static readonly Signer Qualified = GivenPeople.Signer(Role.Qualified);

    private static EnteredQuestion Entered { get; } =
        new()
        {
            Family = "alloy-chain-sling",
            Part = "leg-{n}/hook",
            Kind = "see",
            AskedIn = "frequent",
            OnFault = "remove",
            Title = "Bulletin hooks",
            Question = "The hook carries forging code K7.",
            Look = "The code is on the back, under the latch.",
            Source = "Maker's bulletin 12",
            Reason = "Hooks of one heat are called back",
        };

    [Theory]
    [InlineData("frequent", "no", "remove", VerdictKind.Fit)]
    [InlineData("frequent", "yes", "remove", VerdictKind.Remove)]
    [InlineData("frequent", "yes", "hold", VerdictKind.Hold)]
    [InlineData("frequent", "unsure", "remove", VerdictKind.Hold)]
    [InlineData("frequent", "not-accessible", "remove", VerdictKind.Hold)]
    public void A_fault_comes_to_what_the_site_says_and_what_nobody_could_tell_holds(
        string askedIn,
        string answer,
        string onFault,
        VerdictKind verdict
    )
    {
        var @case = Sling(Set(Entered with { AskedIn = askedIn, OnFault = onFault }), InspectionKind.Periodic);
        var judged = Judge.Of(Answered(@case, answer));
        Assert.Equal(verdict, judged.Kind);
        var finding = judged.Findings.First(f => OwnQuestion.IsId(f.Criterion.Id));
        Assert.Equal(("site", 1), (finding.Governing.Book, finding.Books.Count));
        Assert.Equal("Maker's bulletin 12, asked by this site", finding.Criterion.Source.ToString());
    }

    [Theory]
    [InlineData("frequent", InspectionKind.Frequent, true)]
    [InlineData("frequent", InspectionKind.Periodic, true)]
    [InlineData("periodic", InspectionKind.Frequent, false)]
    [InlineData("periodic", InspectionKind.Return, false)]
    [InlineData("periodic", InspectionKind.AfterEvent, true)]
    [InlineData("initial", InspectionKind.Periodic, false)]
    [InlineData("initial", InspectionKind.Initial, true)]
    public void It_is_missing_in_the_inspections_that_ask_it_on_every_part_it_sits_on(
        string askedIn,
        InspectionKind kind,
        bool asked
    ) =>
        Assert.Equal(
            asked ? ["leg-1/hook", "leg-2/hook"] : [],
            Judge
                .Of(Sling(Set(Entered with { AskedIn = askedIn }), kind))
                .Missing.Where(m => OwnQuestion.IsId(m.Criterion.Id))
                .Select(m => m.Part)
        );

    [Theory]
    [InlineData("", "", "Pellow", "T1", true)]
    [InlineData("Pellow", "", "pellow", "T1", true)]
    [InlineData("Pellow", "T-1", "Pellow", "t1", true)]
    [InlineData("Pellow", "T-1", "Pellow", "T2", false)]
    [InlineData("Pellow", "T-1", "Pellow", null, true)]
    [InlineData("Pellow", "T-1", "Pellow", "-", true)]
    [InlineData("Pellow", "T-1", null, null, false)]
    [InlineData("Pellow", "", "Carrick", "T1", false)]
    [InlineData("Pellow", "", null, null, false)]
    public void It_is_asked_of_the_family_the_maker_and_the_model_it_names(
        string maker,
        string model,
        string? piecesMaker,
        string? piecesModel,
        bool asked
    )
    {
        var site = At(Set(Entered with { Maker = maker, Model = model }));
        var chain = GearFamilies.Find("alloy-chain-sling")!;
        Assert.Equal(asked, site.QuestionsFor(chain, piecesMaker, piecesModel).Count == 1);
        Assert.Empty(site.QuestionsFor(GearFamilies.Find("shackle")!, piecesMaker, piecesModel));
    }

    [Fact]
    public void It_stands_apart_from_the_fixed_documents_with_what_was_asked_and_answered()
    {
        var @case = Answered(Sling(Set(Entered), InspectionKind.Periodic), "yes", "leg-1/hook");
        var verdict = Judge.Of(@case);
        Assert.DoesNotContain("own.", CaseWriter.Write(@case), StringComparison.Ordinal);
        Assert.Empty(CaseReader.Read(CaseWriter.Write(@case)).Faults);
        var written = VerdictWriter.Write(verdict);
        Assert.DoesNotContain("own.", written, StringComparison.Ordinal);
        Assert.Contains("\"verdict\":\"remove\"", written, StringComparison.Ordinal);
        var own = OwnDocument.Read(OwnDocument.Write(@case, verdict));
        Assert.Equal(
            [("leg-1/hook", "yes", "remove"), ("leg-2/hook", null, null)],
            own.Select(o => (o.Part, o.Answer, o.Outcome))
        );
        Assert.All(own, o => Assert.Equal(("Bulletin hooks", "Maker's bulletin 12"), (o.Title, o.Source)));
        Assert.Null(
            OwnDocument.Write(@case with { Own = [], Answers = [] }, Judge.Of(@case with { Own = [], Answers = [] }))
        );
        Assert.Empty(OwnDocument.Read(null));
    }

    public static TheoryData<EnteredQuestion, string> Refusals =>
        new()
        {
            { Entered with { Family = "anchor" }, "family" },
            { Entered with { Family = null }, "family" },
            { Entered with { Part = "leg-1/hook" }, "part" },
            { Entered with { Part = "legs" }, "part" },
            { Entered with { Kind = "measure" }, "looked for" },
            { Entered with { AskedIn = "sometimes" }, "which inspections" },
            { Entered with { OnFault = "watch" }, "hold or remove" },
            { Entered with { OnFault = "clear" }, "hold or remove" },
            { Entered with { Model = "T-1" }, "maker of the model" },
            { Entered with { Title = " " }, "a name" },
            { Entered with { Title = new('x', 61) }, "up to 60" },
            { Entered with { Question = null }, "what counts" },
            { Entered with { Look = "" }, "how it is" },
            { Entered with { Source = "" }, "where it comes from" },
            { Entered with { Reason = "" }, "ledger" },
        };

    [Theory]
    [MemberData(nameof(Refusals))]
    public void A_question_says_of_what_where_how_when_and_why(EnteredQuestion entered, string words) =>
        Assert.Contains(words, OwnQuestionActs.Set(entered, 0, Qualified).Fault, StringComparison.Ordinal);

    [Theory]
    [InlineData(Role.Inspector)]
    [InlineData(Role.Stores)]
    [InlineData(Role.Admin)]
    [InlineData(Role.Auditor)]
    public void Only_a_qualified_person_sets_or_withdraws_one(Role who)
    {
        Assert.Equal(RefusalKind.Forbidden, OwnQuestionActs.Set(Entered, 0, GivenPeople.Signer(who)).Refusal!.Kind);
        Assert.Equal(
            RefusalKind.Forbidden,
            OwnQuestionActs.Withdraw(Set(Entered), "No longer", GivenPeople.Signer(who)).Refusal!.Kind
        );
    }

    [Fact]
    public void One_is_withdrawn_once_and_with_a_reason()
    {
        var set = Set(Entered);
        Assert.Equal("Bulletin closed", OwnQuestionActs.Withdraw(set, " Bulletin closed ", Qualified).Value);
        Assert.False(OwnQuestionActs.Withdraw(set, " ", Qualified).Ok);
        Assert.False(OwnQuestionActs.Withdraw(null, "Why", Qualified).Ok);
        Assert.False(
            OwnQuestionActs.Withdraw(set with { Withdrawn = (default, "Somebody", "Done") }, "Why", Qualified).Ok
        );
    }

    [Theory]
    [InlineData(OwnQuestionActs.Most - 1, true)]
    [InlineData(OwnQuestionActs.Most, false)]
    public void A_site_asks_no_more_than_can_be_answered(int asked, bool set) =>
        Assert.Equal(set, OwnQuestionActs.Set(Entered, asked, Qualified).Ok);

    [Fact]
    public void Every_part_of_every_family_can_carry_one()
    {
        foreach (var family in GearFamilies.All)
        {
            foreach (var (part, name) in OwnQuestion.PartsOf(family))
            {
                Assert.DoesNotContain("{n}", name, StringComparison.Ordinal);
                Assert.True(
                    OwnQuestionActs.Set(Entered with { Family = family.Code, Part = part }, 0, Qualified).Ok,
                    $"{family} {part}"
                );
            }
        }
    }

    private static QuestionRow Set(EnteredQuestion entered) => OwnQuestionActs.Set(entered, 0, Qualified).Value;

    private static Site At(QuestionRow question) =>
        new("Works", [RuleBookShelf.Asme], 0.75m, 30, false, false) { Questions = [question] };

    private static Case Sling(QuestionRow question, InspectionKind kind)
    {
        var gear = CaseReader
            .Read(
                """{"format":"keralith.case/1","ruleBooks":["asme"],"kind":"periodic","gear":{"family":"alloy-chain-sling","size":"3/8 in","grade":"80","legs":2,"endFitting":"hook"},"answers":[]}"""
            )
            .Value!.Gear;
        return new([RuleBookShelf.Asme], kind, gear, [], [])
        {
            Own = At(question).QuestionsFor(gear.Family, null, null),
        };
    }

    /// <summary>Everything else clear, and the site's own answered so.</summary>
    /// <param name="part">On which part alone; null: on every one.</param>
    private static Case Answered(Case @case, string answer, string? part = null) =>
        @case with
        {
            Answers =
            [
                .. Judge
                    .MissingAnswers(@case)
                    .Where(m => !OwnQuestion.IsId(m.Criterion.Id) || part is null || m.Part == part)
                    .Select(m => new Answer(
                        m.Criterion,
                        m.Part,
                        OwnQuestion.IsId(m.Criterion.Id)
                            ? new Chosen(Code.Parse<Found>(answer))
                            : Clean(m.Criterion, @case.Gear)
                    )),
            ],
        };

    private static Response Clean(Criterion criterion, GearPiece gear)
    {
        if (criterion.IsAnswerChosen)
            return new Chosen(Found.No);
        if (criterion.Kind == CriterionKind.Count)
            return new Counted(0);
        return new Measured(gear.Size!.Value, gear.Size);
    }
}
