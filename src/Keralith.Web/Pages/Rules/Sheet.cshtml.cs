using Keralith.Core.Gear;
using Microsoft.AspNetCore.Mvc;

namespace Keralith.Web.Pages.Rules;

/// <summary>Every criterion of a family on one sheet, to print and pin up.</summary>
public sealed class SheetModel(Here here) : SitePage(here)
{
    public GearFamily Family { get; private set; } = GearFamilies.All[0];

    public GearPiece Gear { get; private set; } = null!;

    public IReadOnlyList<Part> Parts { get; private set; } = [];

    public async Task<IActionResult> OnGetAsync(string? family)
    {
        if (family is not null)
        {
            if (GearFamilies.Find(family) is not { } known)
                return NotFound();
            Family = known;
        }

        await ChooseAsync();
        Gear = RuleExample.Of(Family, new Dictionary<string, string>());
        Parts = Catalogue
            .Parts(Gear, RuleBookShelf.All)
            .Where(p => p.Criteria.Count > 0 && !p.Path.StartsWith("leg-2", StringComparison.Ordinal))
            .ToList();
        return Page();
    }

    /// <summary>What the books worked to here say of a criterion, those of one mind together.</summary>
    public IEnumerable<(string Books, string Says)> Says(Criterion criterion, Part part) =>
        RuleRows
            .Of(criterion, part.Path, Gear, Site, null, null)
            .Rows.Where(r => r.Here)
            .GroupBy(r => r.Says)
            .Select(g => (string.Join(", ", g.Select(r => r.Name)), g.Key));
}
