using System.Text.Json;
using Keralith.Core.Criteria;
using Keralith.Core.Custody;
using Keralith.Core.Formats;
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

    /// <summary>Where findings were pinned on the drawing.</summary>
    public IReadOnlyList<(decimal X, decimal Y, string What)> Pins { get; private set; } = [];

    /// <summary>The books it was judged by, with the editions the site named then, and the limits beside them.</summary>
    public string WorkedTo { get; private set; } = string.Empty;

    public async Task<IActionResult> OnGetAsync(Guid id)
    {
        if (await inspections.FindSignedAsync(id, Cancel) is not { } inspection) return NotFound();
        Inspection = inspection;
        Piece = (await pieces.GetAsync(inspection.Piece, Cancel))!;
        Use = Piece.UseOn(Here.Today, await Here.SiteAsync(Cancel));
        var names = Catalogue.Parts(Piece.Gear, RuleBookShelf.All).ToDictionary(p => p.Path, p => p.Name);
        WorkedTo = Worked(inspection);
        (Findings, _) = FindingLine.Of(inspection.VerdictDocument, names);
        Pins = inspection.Pins.Select(p => (p.Value.X, p.Value.Y, p.Key.Split(' ') is [var part, var criterion] ? $"{Catalogue.Find(criterion)?.Title}, {names.GetValueOrDefault(part, part)}" : p.Key)).ToList();
        Notes = JsonSerializer.Deserialize<Dictionary<string, string>>(inspection.Notes)!
            .Select(n => (n.Key.Split(' ') is [var part, var criterion] ? $"{names.GetValueOrDefault(part, part)}, {Catalogue.Find(criterion)?.Title}" : n.Key, n.Value)).ToList();
        return Page();
    }

    /// <summary>What a record was judged by, in words.</summary>
    internal static string Worked(InspectionRow inspection)
    {
        var @case = CaseReader.Read(inspection.CaseDocument).Value;
        if (@case is null) return "the books named in its case";
        var books = @case.Books.Select(b => inspection.WorkedTo.Editions?.GetValueOrDefault(b.Id) is { } year and > 0 ? $"{b.Name} ({year})" : b.Name);
        var limits = @case.Limits.Count == 0 ? string.Empty : $", with {@case.Limits.Count} of the site's and the maker's own limits";
        var share = inspection.WorkedTo.WatchShare is { } watch ? $", watched from {watch * 100:0.#} % of an allowance" : string.Empty;
        return $"{string.Join(" and ", books)}{limits}{share}";
    }
}
