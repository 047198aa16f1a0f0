using System.Text.Json;
using Keralith.Core.Criteria;
using Keralith.Core.Custody;
using Keralith.Data;
using Microsoft.AspNetCore.Mvc;

namespace Keralith.Web.Pages.Inspect;

/// <summary>A signed inspection, read as it was judged.</summary>
public sealed class SignedModel(Here here, InspectionStore inspections, PieceStore pieces) : YardPage(here)
{
    public InspectionRow Inspection { get; private set; } = null!;

    public PieceRow Piece { get; private set; } = null!;

    public Usability Use { get; private set; } = null!;

    public IReadOnlyList<FindingLine> Findings { get; private set; } = [];

    public IReadOnlyList<(string Where, string Note)> Notes { get; private set; } = [];

    public async Task<IActionResult> OnGetAsync(Guid id)
    {
        if (await inspections.FindSignedAsync(id, Cancel) is not { } inspection) return NotFound();
        Inspection = inspection;
        Piece = (await pieces.GetAsync(inspection.Piece, Cancel))!;
        Use = Piece.UseOn(Here.Today);
        var names = Catalogue.Parts(Piece.Gear, (await Here.SiteAsync(Cancel)).Books).ToDictionary(p => p.Path, p => p.Name);
        (Findings, _) = FindingLine.Of(inspection.VerdictDocument, names);
        Notes = JsonSerializer.Deserialize<Dictionary<string, string>>(inspection.Notes)!
            .Select(n => (n.Key.Split(' ') is [var part, var criterion] ? $"{names.GetValueOrDefault(part, part)}, {Catalogue.Find(criterion)?.Title}" : n.Key, n.Value)).ToList();
        return Page();
    }
}
