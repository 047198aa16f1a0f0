using Keralith.Core.Gear;

namespace Keralith.Core.Judgement;

/// <summary>Facts stated of the gear that rule it out, or hold it, by themselves, whatever was answered.</summary>
internal static class GearFacts
{
    private static readonly Criterion[] Ruling = [.. Catalogue.All.Where(c => c.RuledOut is not null)];

    /// <summary>
    /// Adds what the facts of a piece come to, on every part the criterion sits on; on the whole piece where it sits on
    /// none.
    /// </summary>
    public static void Add(Case @case, List<Finding> findings)
    {
        foreach (var criterion in Ruling)
        {
            if (criterion.RuledOut!(@case.Gear) is not var (outcome, reason))
                continue;
            BookFinding[] books =
            [
                .. @case.Books.Select(b => new BookFinding(b.Id, outcome)
                {
                    Said = reason,
                    From = b == RuleBookShelf.Asme ? null : RuleBookShelf.Asme.Id,
                }),
            ];
            var parts = @case.Parts.Where(p => p.Criteria.Contains(criterion)).Select(p => p.Path);
            foreach (var part in parts.DefaultIfEmpty("whole"))
                findings.Add(new(criterion, part, books[0], books) { FromGear = true });
        }
    }
}
