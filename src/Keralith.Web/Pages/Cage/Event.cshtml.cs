using Keralith.Core.Custody;
using Keralith.Core.People;
using Keralith.Data;
using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Mvc;

namespace Keralith.Web.Pages.Cage;

/// <summary>Something happened to gear beyond its use: all of it is held in one go.</summary>
[Authorize(Policy = nameof(Right.Hold))]
public sealed class EventModel(Here here, PieceStore pieces, EventStore events) : YardPage(here)
{
    public string Marks { get; private set; } = string.Empty;

    public string? Kind { get; private set; }

    public DateOnly Happened { get; private set; }

    public string What { get; private set; } = string.Empty;

    public int Held { get; private set; }

    public void OnGet(int? held)
    {
        var marks = ScanModel.Chosen(Request);
        Marks = marks is { Length: <= Register.MoveModel.Longest } ? marks : string.Empty;
        Held = Math.Max(0, held ?? 0);
        Happened = Here.Today;
    }

    public async Task<IActionResult> OnPostAsync(string? marks, string? kind, string? happened, string? what)
    {
        (Marks, Kind, Happened, What) = (
            marks is { Length: <= Register.MoveModel.Longest } ? marks : string.Empty,
            kind,
            Here.Today,
            what ?? string.Empty
        );
        var (found, unknown) = await ScanModel.PiecesAsync(Marks, pieces, Cancel);
        var chosen = Enum.GetValues<GearEventKind>()
            .Where(k => Code.Of(k) == kind)
            .Select(k => (GearEventKind?)k)
            .FirstOrDefault();
        if (!IsDay(happened, "When", out var day))
            return Page();
        Happened = day ?? Happened;
        if (chosen is null)
            Refuse("Choose what happened.");
        else if (unknown.Count > 0)
            Refuse($"No such piece: {string.Join(", ", unknown)}. Nothing was held yet.");
        else if (found.Count == 0)
            Refuse("Scan at least one mark.");
        if (Refused is not null)
            return Page();
        return await AfterAsync(
            await events.RecordAsync(
                found.Select(p => p.Id).ToList(),
                chosen!.Value,
                day,
                What,
                Here.Stamp(Submission),
                Cancel
            ),
            $"/event?held={found.Count}",
            () => Task.CompletedTask
        );
    }
}
