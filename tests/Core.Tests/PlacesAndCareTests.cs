using Keralith.Core.Gear;
using Keralith.Core.Judgement;
using Xunit;

namespace Keralith.Core.Tests;

/// <summary>A pair measured place by place, and what is done for a piece afterwards.</summary>
public class PlacesAndCareTests
{
    private static readonly Criterion Along = Catalogue.Get("chain.gauge-difference");

    [Theory]
    [InlineData("top: 300 mm; middle: 301 mm; foot: 300.5 mm", 301, 300)]
    [InlineData("top: 12 in; foot: 300 mm", 304.8, 300)]
    [InlineData("301 mm; 300 mm; 299 mm", 301, 299)]
    [InlineData("leg 1: 72 in; leg 2: 72 in", 1828.8, 1828.8)]
    public void The_longest_and_the_shortest_are_found_by_the_page(string places, decimal longest, decimal shortest)
    {
        var read = new AnswerEntry(Value: places).ReadAll(Along, null);
        var measured = Assert.IsType<Measured>(Assert.Single(read.Value));
        Assert.Equal((longest, shortest), (measured.Value.Millimetres, measured.Baseline!.Value.Millimetres));
    }

    [Theory]
    [InlineData("top: 300 mm; middle: 300", "middle")]
    [InlineData("top: 300 mm; foot: 0 mm", "over 0")]
    [InlineData("top: 300 mm; foot:", "foot")]
    [InlineData("top: 300 mm", "two places")]
    [InlineData("1 mm;1 mm;1 mm;1 mm;1 mm;1 mm;1 mm;1 mm;1 mm;1 mm;1 mm;1 mm;1 mm", "At most")]
    public void A_place_without_a_figure_says_which(string places, string words) =>
        Assert.Contains(words, new AnswerEntry(Value: places).ReadAll(Along, null).Fault, StringComparison.Ordinal);

    [Theory]
    [InlineData("top: 300 mm; foot: 301.5 mm", Outcome.Clear)] // Half a percent is measuring noise.
    [InlineData("top: 300 mm; foot: 301.51 mm", Outcome.Hold)]
    [InlineData("top: 300 mm; foot: 304.5 mm", Outcome.Hold)]
    [InlineData("top: 300 mm; foot: 304.51 mm", Outcome.Remove)]
    public void What_differs_along_the_leg_is_judged_by_the_worst_two_places(string places, Outcome outcome)
    {
        var gear = new GearPiece(
            GearFamilies.Find("alloy-chain-sling")!,
            [KeyValuePair.Create<string, AttributeValue>("size", new LengthValue(Quantities.Length.Parse("10 mm")))]
        );
        var read = new AnswerEntry(Value: places).ReadAll(Along, null).Value[0];
        var answer = new Answer(Along, "leg-1", read);
        Assert.Equal(
            outcome,
            Judge.Answer(new([RuleBookShelf.Asme], InspectionKind.Periodic, gear, [], [answer]), answer).Outcome
        );
    }

    [Fact]
    public void Places_are_named_by_the_leg_or_along_it()
    {
        Assert.Equal(["top", "middle", "foot"], Along.Places(2));
        Assert.Equal(["leg 1", "leg 2", "leg 3"], Catalogue.Get("chain.leg-difference").Places(3));
        Assert.All(Catalogue.All, c => Assert.Equal(c.IsPair, c.Places(2).Count > 1));
    }

    [Fact]
    public void Every_family_has_care_and_what_is_no_line_of_it_is_passed_over()
    {
        foreach (var family in GearFamilies.All)
        {
            var lines = Care.Of(family);
            Assert.NotEmpty(lines);
            Assert.Equal(lines.Count, lines.DistinctBy(l => l.Code).Count());
            Assert.Null(Care.Words(family, []));
            Assert.Null(Care.Words(family, ["polished"]));
            Assert.Equal($"{lines[0].Text}.", Care.Words(family, ["polished", lines[0].Code]));
        }
    }
}
