using Keralith.Core.Gear;
using Keralith.Core.Judgement;
using Keralith.Core.Quantities;
using Xunit;

namespace Keralith.Core.Tests;

/// <summary>
/// Every measure and count of the catalogue under every book, inch-named and mm-named: at its limit, just below and just above.
/// The figures themselves stand in <see cref="LimitTests"/> and <see cref="LimitTableTests"/>; here nothing is left out but what is held against a
/// figure on record of the piece (<see cref="OnRecordTests"/>).
/// </summary>
public class EveryLimitTests
{
    private const decimal Little = 0.0001m;

    public static TheoryData<string> Criteria => new(OwnLimitReader.Criteria.Select(c => c.Id));

    [Theory]
    [MemberData(nameof(Criteria))]
    public void Each_book_removes_from_its_limit_on_and_not_before(string id)
    {
        var criterion = Catalogue.Get(id);
        var judged = 0;
        foreach (var inches in new[] { true, false })
        {
            foreach (var book in RuleBookShelf.All)
            {
                if (Place(criterion, book, inches) is not { } at)
                    continue;
                var figure = Judged(at, criterion, null).Governing.Figure;
                Assert.True(figure is not null, $"{id} under {book} has no figure");
                var little = criterion.Kind == CriterionKind.Count ? 1 : Little;
                var worse = figure.Grows ? little : -little;
                AssertRemoved(figure.Comparator is Comparator.AtOrAbove or Comparator.AtOrBelow, figure.Limit);
                AssertRemoved(true, figure.Limit + worse);
                AssertRemoved(false, figure.Limit - worse);
                if (figure.HoldAbove is { } step)
                {
                    Assert.Equal(Outcome.Clear, Judged(at, criterion, step).Outcome);
                    Assert.Equal(Outcome.Hold, Judged(at, criterion, step + Little).Outcome);
                    Assert.Equal(Outcome.Hold, Judged(at, criterion, figure.Limit).Outcome);
                }

                judged++;

                void AssertRemoved(bool removed, decimal value) =>
                    Assert.True(
                        removed == (Judged(at, criterion, value).Outcome == Outcome.Remove),
                        $"{id} under {book}, {(inches ? "inches" : "millimetres")}: {value} {(removed ? "should remove" : "should not")}"
                    );
            }
        }

        // In inches and in millimetres, by every book that asks it: one at the least.
        Assert.True(judged >= 2, $"{id} was judged {judged} times");
    }

    /// <summary>A case in which a criterion is asked under one book alone; null where that book does not ask it.</summary>
    private static (Case Case, string Part, Length Baseline)? Place(Criterion criterion, RuleBook book, bool inches)
    {
        var size = Length.Parse(inches ? "3/8 in" : "10 mm");
        foreach (var family in GearFamilies.All)
        {
            foreach (var medium in new[] { "chain", "rope" })
            {
                var gear = new GearPiece(
                    family,
                    new Dictionary<string, AttributeValue>
                    {
                        ["size"] = new LengthValue(size),
                        ["legs"] = new WholeValue(2),
                        ["medium"] = new TextValue(medium),
                        ["endFitting"] = new TextValue("hook"),
                        ["strands"] = new WholeValue(6),
                        ["wiresPerStrand"] = new WholeValue(19),
                        ["pinType"] = new TextValue("bolt"),
                    }
                );
                var place = Catalogue.PlacementOf(gear, [book]).Questions.FirstOrDefault(q => q.Criterion == criterion);
                if (place is not null)
                    return (new([book], InspectionKind.Initial, gear, [], []), place.Part, size);
            }
        }

        return null;
    }

    /// <summary>What a value comes to; without one, what the figure when new comes to.</summary>
    private static Finding Judged((Case Case, string Part, Length Baseline) at, Criterion criterion, decimal? value)
    {
        Response response = criterion switch
        {
            { Kind: CriterionKind.Count } => new Counted((int)(value ?? 0)),
            { IsAngle: true } => new MeasuredAngle(new(value ?? 0)),
            _ => new Measured(value is { } v ? Length.FromMillimetres(v) : at.Baseline, at.Baseline),
        };
        return Judge.Answer(at.Case, new(criterion, at.Part, response));
    }
}
