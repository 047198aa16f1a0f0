using Keralith.Core.Gear;

namespace Keralith.Core.Judgement;

/// <summary>Facts stated of the gear that rule it out by themselves, whatever was answered.</summary>
internal static class GearFacts
{
    /// <summary>Alloy chain for overhead lifting starts at this grade.</summary>
    private const int LeastChainGrade = 80;

    public static void Add(GearPiece gear, IReadOnlyList<RuleBook> books, List<Finding> findings)
    {
        switch (gear.Family.Code)
        {
            case "alloy-chain-sling" when gear.GradeNumber is { } grade && grade < LeastChainGrade:
                OnEachLeg(
                    "chain.grade-mark",
                    $"Grade {gear.Text("grade")} chain is not for overhead lifting; grade {LeastChainGrade} is the least.",
                    gear,
                    books,
                    findings
                );
                break;
            case "wire-rope-sling" when gear.Text("lay") == "lang":
                OnEachLeg("rope.lang", "Lang-lay rope is not for slings.", gear, books, findings);
                break;
        }
    }

    private static void OnEachLeg(
        string criterion,
        string reason,
        GearPiece gear,
        IReadOnlyList<RuleBook> books,
        List<Finding> findings
    )
    {
        var entries = books
            .Select(b => new BookFinding(b.Id, Outcome.Remove)
            {
                Said = reason,
                From = b == RuleBookShelf.Asme ? null : RuleBookShelf.Asme.Id,
            })
            .ToList();
        for (var leg = 1; leg <= gear.Legs; leg++)
            findings.Add(new(Catalogue.Get(criterion), $"leg-{leg}", entries[0], entries) { FromGear = true });
    }
}
