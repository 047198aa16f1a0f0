using Keralith.Core.Gear;
using Keralith.Core.Judgement;
using Xunit;

namespace Keralith.Core.Tests;

/// <summary>Broken wires: what each book counts, over which length, and where it is silent.</summary>
public class BrokenWireTests
{
    private const string Rope =
        """{"family":"wire-rope-sling","size":"20 mm","body":"BODY","strands":6,"wiresPerStrand":37,"legs":1,"termination":"swaged"}""";

    private const string Hoist = """{"family":"powered-hoist","power":"air","suspension":"hook","medium":"rope"MORE}""";

    /// <summary>Of 6 x 37 = 222 wires a tenth is 22.2: the 23rd is more than that.</summary>
    [Theory]
    [InlineData(0, Outcome.Clear)]
    [InlineData(22, Outcome.Watch)]
    [InlineData(23, Outcome.Remove)]
    [InlineData(24, Outcome.Remove)]
    public void Osha_construction_counts_over_eight_diameters(int wires, Outcome outcome) =>
        Assert.Equal(outcome, Found("osha-construction", "rope.broken-in-8d", wires).Outcome);

    [Theory]
    [InlineData(9, Outcome.Watch)]
    [InlineData(10, Outcome.Remove)]
    public void Its_count_in_a_lay_is_that_of_Asme(int wires, Outcome outcome)
    {
        var found = Found("osha-construction", "rope.broken-in-lay", wires);
        Assert.Equal((outcome, "asme"), (found.Outcome, found.Governing.From));
    }

    [Theory]
    [InlineData("osha-construction", "strand-laid", true)]
    [InlineData("osha-construction", "cable-laid", false)]
    [InlineData("osha", "strand-laid", false)]
    [InlineData("ontario", "strand-laid", false)]
    public void Eight_diameters_are_asked_of_strand_laid_rope_by_the_book_that_has_them(
        string book,
        string body,
        bool asked
    )
    {
        var gear = Given.Case(Rope.Replace("BODY", body, StringComparison.Ordinal), "", book).Gear;
        var placed = Catalogue.PlacementOf(gear, [RuleBookShelf.Find(book)!]).Questions;
        Assert.Equal(asked, placed.Any(q => q.Criterion.Id == "rope.broken-in-8d"));
    }

    [Theory]
    [InlineData("hoistrope.broken-in-lay", 5, Outcome.Watch)]
    [InlineData("hoistrope.broken-in-lay", 6, Outcome.Remove)]
    [InlineData("hoistrope.broken-in-strand", 2, Outcome.Clear)]
    [InlineData("hoistrope.broken-in-strand", 3, Outcome.Remove)]
    public void Ontario_counts_running_rope_as_it_counts_slings(string criterion, int wires, Outcome outcome)
    {
        var found = OnHoist("", criterion, wires);
        Assert.Equal(outcome, found.Outcome);
        Assert.Equal("ontario", found.Governing.Book);
    }

    [Theory]
    [InlineData(1, Outcome.Clear)]
    [InlineData(2, Outcome.Remove)]
    public void Of_rotation_resistant_rope_it_says_nothing_and_Asme_counts(int wires, Outcome outcome)
    {
        var found = OnHoist(",\"rotationResistant\":true", "hoistrope.broken-in-lay", wires);
        Assert.Equal(outcome, found.Outcome);
    }

    private static Finding Found(string book, string criterion, int wires) =>
        Given
            .Judged(
                Rope.Replace("BODY", "strand-laid", StringComparison.Ordinal),
                $$"""{"criterion":"{{criterion}}","part":"leg-1","count":{{wires}}}""",
                book
            )
            .Findings.Single();

    private static Finding OnHoist(string more, string criterion, int wires) =>
        Given
            .Judged(
                Hoist.Replace("MORE", more, StringComparison.Ordinal),
                $$"""{"criterion":"{{criterion}}","part":"load-rope","count":{{wires}}}""",
                "ontario"
            )
            .Findings.First(f => f.Criterion.Id == criterion);
}
