using FsCheck;
using FsCheck.Fluent;
using FsCheck.Xunit;
using Keralith.Core.Gear;
using Keralith.Core.Judgement;
using Keralith.Core.Quantities;
using Xunit;
using Outcome = Keralith.Core.Gear.Outcome;

namespace Keralith.Core.Tests;

/// <summary>What must hold for any gear of any family, whatever is stated of it and whatever is answered.</summary>
[Properties(Arbitrary = [typeof(AnyCase)], MaxTest = 400)]
public class PropertyTests
{
    [Property]
    public bool Another_rule_book_never_makes_a_finding_milder(Case any, PositiveInt which)
    {
        var others = RuleBookShelf.All.Except(any.Books).ToList();
        if (others.Count == 0)
            return true;
        var more = any with { Books = [.. any.Books, others[which.Get % others.Count]] };
        var (before, after) = (Judge.Of(any), Judge.Of(more));
        return before.Findings.Zip(after.Findings).All(f => f.Second.Outcome >= f.First.Outcome);
    }

    [Property]
    public bool A_site_limit_never_makes_a_finding_milder(Case any, PositiveInt figure)
    {
        var measured = any
            .Answers.Where(a => !a.Criterion.IsAnswerChosen && a.Criterion.Limit is not (RosterMembers or RosterLinks))
            .ToList();
        if (measured.Count == 0)
            return true;
        var criterion = measured[figure.Get % measured.Count].Criterion;
        var limit = new OwnLimit(LimitOwner.Site, criterion) switch
        {
            var l when criterion.Kind == CriterionKind.Count => l with { Count = 1 + (figure.Get % 30) },
            var l when criterion.IsAngle => l with { Absolute = figure.Get % 20 },
            var l => l with { Percent = figure.Get % 30 },
        };
        return Judge
            .Of(any)
            .Findings.Zip(Judge.Of(any with { Limits = [limit] }).Findings)
            .All(f => f.Second.Outcome >= f.First.Outcome);
    }

    [Property]
    public bool One_answer_more_never_makes_a_remove_milder(Case any)
    {
        if (any.Answers.Count == 0)
            return true;
        var fewer = any with { Answers = any.Answers.Take(any.Answers.Count - 1).ToList() };
        return Judge.Of(fewer).Kind != VerdictKind.Remove || Judge.Of(any).Kind == VerdictKind.Remove;
    }

    [Property]
    public bool The_unit_of_entry_never_changes_an_outcome(Case any)
    {
        var other = any with
        {
            Answers = any
                .Answers.Select(a =>
                    a.Response is Measured m
                        ? a with
                        {
                            Response = m with { Value = Turned(m.Value), Uncertainty = Turned(m.Uncertainty) },
                        }
                        : a
                )
                .ToList(),
        };
        return Judge
            .Of(any)
            .Findings.Zip(Judge.Of(other).Findings)
            .All(f => f.First.Outcome == f.Second.Outcome && f.First.Governing.Consumed == f.Second.Governing.Consumed);

        static Length Turned(Length length) => length.In(length.IsInchNamed ? LengthUnit.Millimetre : LengthUnit.Inch);
    }

    [Property]
    public bool Nothing_unanswered_is_ever_fit(Case any)
    {
        var verdict = Judge.Of(any);
        return verdict.Missing.Count == 0 || verdict.Kind is not (VerdictKind.Fit or VerdictKind.Watch);
    }

    [Property]
    public bool The_verdict_is_as_bad_as_the_worst_book_of_the_worst_finding(Case any)
    {
        var verdict = Judge.Of(any);
        var worst = verdict.Findings.SelectMany(f => f.Books).Max(b => b.Outcome) ?? Outcome.Clear;
        return verdict.Kind switch
        {
            VerdictKind.Remove => worst == Outcome.Remove,
            VerdictKind.Hold => worst == Outcome.Hold,
            _ => worst <= Outcome.Watch,
        };
    }

    [Property]
    public bool A_case_written_and_read_back_is_judged_the_same(Case any)
    {
        var again = Formats.CaseReader.Read(Formats.CaseWriter.Write(any));
        return again.Value is { } read
            && Formats.VerdictWriter.Write(Judge.Of(any)) == Formats.VerdictWriter.Write(Judge.Of(read));
    }

    [Fact]
    public void Sizes_and_texts_never_decide_what_is_asked()
    {
        foreach (var family in GearFamilies.All)
        {
            var bare = Catalogue.PlacementOf(new(family, []), RuleBookShelf.All);
            var sized = Catalogue.PlacementOf(
                new(
                    family,
                    GearAttributes
                        .All.Where(a =>
                            a is { BringsQuestion: false, Kind: AttributeKind.Length or AttributeKind.Text }
                        )
                        .Select(a =>
                            KeyValuePair.Create<string, AttributeValue>(
                                a.Name,
                                a.Kind == AttributeKind.Length
                                    ? new LengthValue(Length.FromMillimetres(10))
                                    : new TextValue("80")
                            )
                        )
                ),
                RuleBookShelf.All
            );

            // Compared by what is asked: where very many make-ups were placed before, they need not be the same instance.
            Assert.Equal(
                bare.Questions.Select(q => (q.Part, q.Criterion.Id)),
                sized.Questions.Select(q => (q.Part, q.Criterion.Id))
            );
        }
    }

    /// <summary>
    /// Cases of any family: any choices and flags, one to seven books, and a handful of answers. Chain has a size every
    /// table knows.
    /// </summary>
    public static class AnyCase
    {
        public static Arbitrary<Case> Cases() =>
            Arb.From(
                from family in Gen.Elements(GearFamilies.All.AsEnumerable())
                from values in Gen.CollectToList(
                    GearAttributes.All.Where(a =>
                        a.Kind is AttributeKind.Choice or AttributeKind.Flag
                        || a.Name is "legs" or "strands" or "wiresPerStrand"
                    ),
                    Value
                )
                from rostered in Gen.Elements(true, false)
                from inches in Gen.Elements(true, false)
                from books in Gen.SubListOf(RuleBookShelf.All.AsEnumerable()).Where(b => b.Count > 0)
                let stated = values
                    .OfType<KeyValuePair<string, AttributeValue>>()
                    .Append(new("size", new LengthValue(Length.Parse(inches ? "3/8 in" : "10 mm"))))
                    .Concat(rostered ? [new("roster", new RosterValue(8, 9, 12))] : [])
                let empty = new Case([.. books], InspectionKind.Initial, new(family, stated), [], [])
                from chosen in Gen.SubListOf(empty.Placement.Questions.AsEnumerable())
                from order in Gen.Shuffle(chosen.Take(12).ToArray())
                from answers in Gen.CollectToList(order, AnswerTo)
                select empty with
                {
                    Answers = [.. answers],
                }
            );

        private static Gen<KeyValuePair<string, AttributeValue>?> Value(AttributeDefinition attribute) =>
            attribute.Kind switch
            {
                AttributeKind.Flag => Gen.Elements<KeyValuePair<string, AttributeValue>?>(
                    null,
                    new(attribute.Name, new FlagValue(true)),
                    new(attribute.Name, new FlagValue(false))
                ),
                AttributeKind.Choice => Gen.Elements<KeyValuePair<string, AttributeValue>?>([
                    null,
                    .. attribute.Choices.Select(c =>
                        (KeyValuePair<string, AttributeValue>?)new(attribute.Name, new TextValue(c))
                    ),
                ]),
                _ => Gen.Choose(1, attribute.Name == "legs" ? 4 : 37)
                    .Select(n => (KeyValuePair<string, AttributeValue>?)new(attribute.Name, new WholeValue(n))),
            };

        private static Gen<Answer> AnswerTo(PlacedCriterion question) =>
            question.Criterion switch
            {
                { IsAnswerChosen: true } => Gen.Elements(Enum.GetValues<Found>())
                    .Select(f => new Answer(question.Criterion, question.Part, new Chosen(f))),
                { Kind: CriterionKind.Count } => Gen.Choose(0, 45)
                    .Select(n => new Answer(question.Criterion, question.Part, new Counted(n))),
                { IsAngle: true } => Gen.Choose(0, 20)
                    .Select(n => new Answer(question.Criterion, question.Part, new MeasuredAngle(new(n)))),
                _ => from share in Gen.Choose(question.Criterion.IsPair ? 1000 : 800, 1200)
                from inches in Gen.Elements(true, false)
                from known in Gen.Elements(true, true, false)
                from basis in Gen.Elements(Enum.GetValues<BaselineBasis>())
                from u in Gen.Elements(0, 0, 1)
                let baseline = inches ? Length.FromInches(0.5m) : Length.FromMillimetres(12)
                select new Answer(
                    question.Criterion,
                    question.Part,
                    new Measured(
                        baseline * (share / 1000m),
                        known ? baseline : null,
                        known ? basis : BaselineBasis.New,
                        Length.FromMillimetres(u / 10m)
                    )
                ),
            };
    }
}
