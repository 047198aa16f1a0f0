using Keralith.Core.Criteria;
using Keralith.Core.Gear;

namespace Keralith.Core.Judgement;

/// <summary>Facts stated of the gear that rule it out by themselves, whatever was answered.</summary>
internal static class GearFacts
{
    /// <summary>Alloy chain for overhead lifting starts at this grade.</summary>
    private const int LeastChainGrade = 80;

    public static IEnumerable<Finding> Findings(GearPiece gear, IReadOnlyList<RuleBook> books)
    {
        if (gear.Family.Code == "alloy-chain-sling" && gear.GradeNumber is { } grade && grade < LeastChainGrade)
        {
            var reason = $"Grade {gear.Text("grade")} chain is not for overhead lifting; grade {LeastChainGrade} is the least.";
            for (var leg = 1; leg <= gear.Legs; leg++) yield return Fact("chain.grade-mark", $"leg-{leg}", reason, books);
        }
    }

    private static Finding Fact(string criterion, string part, string reason, IReadOnlyList<RuleBook> books)
    {
        var entries = books
            .Select(b => new BookFinding(b.Id, Outcome.Remove, null, null, reason) { From = b == RuleBookShelf.Asme ? null : RuleBookShelf.Asme.Id })
            .ToList();
        return new(Catalogue.Get(criterion), part, entries[0], entries, reason) { FromGear = true };
    }
}
