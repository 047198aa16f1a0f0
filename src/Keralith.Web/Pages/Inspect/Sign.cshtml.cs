using Keralith.Core.Formats;
using Keralith.Core.People;
using Keralith.Core.Schedule;
using Keralith.Data;
using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Mvc;

namespace Keralith.Web.Pages.Inspect;

/// <summary>The verdict in full, read before it is signed.</summary>
[Authorize(Policy = nameof(Right.Draft))]
public sealed class SignModel(Here here, InspectionStore inspections, PieceStore pieces) : YardPage(here)
{
    public Walk Walk { get; private set; } = null!;

    public IReadOnlyList<FindingLine> Findings { get; private set; } = [];

    public IReadOnlyDictionary<string, string> PartNames { get; private set; } = new Dictionary<string, string>();

    public DateOnly InspectedOn { get; private set; }

    public DateOnly NextDue { get; private set; }

    public async Task<IActionResult> OnGetAsync(Guid id) =>
        await LoadAsync(id) ? Page() : await inspections.FindSignedAsync(id, Cancel) is not null ? Redirect($"/inspection/{id}") : NotFound();

    public async Task<IActionResult> OnPostAsync(Guid id, int version, DateOnly? inspectedOn)
    {
        if (!Here.May(Right.SignInspection)) return Forbid();
        var result = await inspections.SignAsync(id, version, inspectedOn ?? Here.Today, Here.Stamp(id), Cancel);
        if (result.Ok) return Redirect($"/inspection/{id}");
        if (!await LoadAsync(id)) return NotFound();
        return await AfterAsync(result, string.Empty, () => Task.CompletedTask);
    }

    /// <summary>Throws the draft away; the piece is looked at anew.</summary>
    public async Task<IActionResult> OnPostDiscardAsync(Guid id)
    {
        if (!await LoadAsync(id)) return NotFound();
        await inspections.DiscardAsync(id, Cancel);
        return Redirect($"/piece/{Walk.Piece.Mark}");
    }

    private async Task<bool> LoadAsync(Guid id)
    {
        if (await Walk.LoadAsync(id, inspections, pieces, Here, Cancel) is not { } walk) return false;
        Walk = walk;
        PartNames = walk.Parts.ToDictionary(p => p.Path, p => p.Name);
        (Findings, _) = FindingLine.Of(VerdictWriter.Write(walk.Verdict), PartNames);
        InspectedOn = Here.Today;
        NextDue = Intervals.Periodic(walk.Piece.Gear.Family, walk.Piece.ServiceClass, walk.Site.Books).After(Here.Today)!.Value;
        return true;
    }
}
