using Keralith.Core.Gear;
using Keralith.Core.Sites;
using Microsoft.AspNetCore.Mvc;

namespace Keralith.Web.Pages.Rules;

/// <summary>
/// Every criterion, drawn and sourced: by family and part, the books side by side, and where a figure would fall.
/// </summary>
public sealed class IndexModel(Here here) : SitePage(here)
{
    public GearFamily Family { get; private set; } = GearFamilies.All[0];

    public GearPiece Gear { get; private set; } = null!;

    /// <summary>The parts with criteria on them; legs are alike and the first is shown.</summary>
    public IReadOnlyList<Part> Parts { get; private set; } = [];

    public Part Part { get; private set; } = null!;

    public Criterion Criterion { get; private set; } = null!;

    public RuleRows Rows { get; private set; } = null!;

    /// <summary>What the site asks of its own on the part.</summary>
    public IReadOnlyList<OwnQuestion> Own =>
        [.. Site.Questions.Select(q => q.Question).Where(q => q.Family == Family && q.SitsOn(Part.Path))];

    /// <summary>What the address states of the gear, to be kept by every link.</summary>
    public IReadOnlyDictionary<string, string> Stated { get; private set; } = new Dictionary<string, string>();

    public string? Figure { get; private set; }

    public async Task<IActionResult> OnGetAsync(
        string? family,
        string? part,
        string? criterion,
        string? figure,
        string? baseline
    )
    {
        if (family is not null)
        {
            if (GearFamilies.Find(family) is not { } known)
                return NotFound();
            Family = known;
        }

        await ChooseAsync();
        Stated = Request
            .Query.Where(q => Family.Asks.Contains(q.Key) && q.Value[0] is { Length: > 0 and <= 60 })
            .ToDictionary(q => q.Key, q => q.Value[0]!);
        Gear = RuleExample.Of(Family, Stated);
        Parts = Catalogue
            .Parts(Gear, RuleBookShelf.All)
            .Where(p => p.Criteria.Count > 0 && !IsLaterLeg(p.Path))
            .ToList();
        var chosen = part is null
            ? Telling()
            : Parts.FirstOrDefault(p => p.Path == (IsLaterLeg(part) ? $"leg-1{part[5..]}" : part));
        if (chosen is null)
            return NotFound();
        Part = chosen;
        var asked = criterion is null
            ? Part.Criteria.FirstOrDefault(c => !c.IsAnswerChosen && !c.Optional) ?? Part.Criteria[0]
            : Part.Criteria.FirstOrDefault(c => c.Id == criterion);
        if (asked is null)
            return NotFound();
        Criterion = asked;
        Figure = figure is null ? null : FreeText.Start(figure, FreeText.MostAsked);
        Rows = RuleRows.Of(
            Criterion,
            Part.Path,
            Gear,
            Site,
            Figure,
            baseline is null ? null : FreeText.Start(baseline, FreeText.MostAsked)
        );
        return Page();
    }

    /// <summary>The address of a part or a criterion of the gear shown.</summary>
    public string Link(string part, string? criterion = null)
    {
        var query = new List<KeyValuePair<string, string?>> { new("family", Family.Code), new("part", part) };
        if (criterion is not null)
            query.Add(new("criterion", criterion));
        query.AddRange(Stated.Select(s => new KeyValuePair<string, string?>(s.Key, s.Value)));
        return At("/rules" + QueryString.Create(query)) + (criterion is null ? string.Empty : "#rule");
    }

    /// <summary>The books whose edition the site has named, with its year.</summary>
    public string Edition(string book) =>
        Site.Editions.TryGetValue(book, out var year) ? $", edition {year}" : string.Empty;

    private static bool IsLaterLeg(string path) => path.StartsWith("leg-", StringComparison.Ordinal) && path[4] > '1';

    /// <summary>The part to begin with: the first where the books part ways over a figure, else the first.</summary>
    private Part Telling() =>
        Parts.FirstOrDefault(p =>
            p.Criteria.Any(c =>
                c is { IsAnswerChosen: false, Optional: false } && RuleBookShelf.All.Any(b => b.Rules.ContainsKey(c.Id))
            )
        ) ?? Parts[0];
}
