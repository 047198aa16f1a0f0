using Keralith.Core.Criteria;
using Keralith.Core.Gear;
using Keralith.Data;
using Microsoft.AspNetCore.Mvc;

namespace Keralith.Web.Pages.Rules;

/// <summary>Every criterion of a family, worded and sourced, with what each chosen book says.</summary>
public sealed class IndexModel(Here here) : YardPage(here)
{
    public GearFamily Family { get; private set; } = GearFamilies.All[0];

    public Site Site { get; private set; } = null!;

    public IReadOnlyList<Part> Parts { get; private set; } = [];

    public async Task<IActionResult> OnGetAsync(string? family)
    {
        if (family is not null)
        {
            if (GearFamilies.Find(family) is not { } known) return NotFound();
            Family = known;
        }

        Site = await Here.SiteAsync(Cancel);
        Parts = Catalogue.Parts(Example(Family), Site.Books).Where(p => !p.Path.StartsWith("leg-2", StringComparison.Ordinal)).ToList();
        return Page();
    }

    /// <summary>What each chosen book says of a criterion.</summary>
    public static IEnumerable<(string Book, string Says)> Says(Criterion criterion, Site site)
    {
        foreach (var book in site.Books)
        {
            var own = book.Rules.GetValueOrDefault(criterion.Id);
            var limit = own?.Limit ?? criterion.Limit;
            var decidedBy = own?.DecidedBy ?? criterion.DecidedBy;
            var until = decidedBy is null ? string.Empty : $" until the {Catalogue.Get(decidedBy).Title.ToLowerInvariant()} is measured there";
            var words = criterion.IsAnswerChosen ? $"{Core.Words.Code(own?.OnFault ?? criterion.OnFault)}{until}" : limit?.Words;
            if (words is not null) yield return (book.Name, words);
        }
    }

    /// <summary>A piece with everything fitted that a family may have, so that every question shows; its legs are alike and one is shown.</summary>
    private static GearPiece Example(GearFamily family) => new(family, new Dictionary<string, AttributeValue>
    {
        ["legs"] = new WholeValue(2),
        ["endFitting"] = new TextValue("hook"),
        ["hookSwivels"] = new FlagValue(true),
        ["pinType"] = new TextValue("bolt"),
    });
}
