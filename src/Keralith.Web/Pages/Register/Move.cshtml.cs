using Keralith.Core.People;
using Keralith.Data;
using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Mvc;

namespace Keralith.Web.Pages.Register;

/// <summary>Many pieces hung on another peg or in another store: their marks scanned one after the other.</summary>
[Authorize(Policy = nameof(Right.Move))]
public sealed class MoveModel(Here here, SiteStore sites, PieceStore pieces, YardStore yard) : YardPage(here)
{
    public const int Longest = 8000;

    public IReadOnlyList<Store> Stores { get; private set; } = [];

    public string Marks { get; private set; } = string.Empty;

    public int? Store { get; private set; }

    public string Peg { get; private set; } = string.Empty;

    public int Moved { get; private set; }

    public async Task OnGetAsync(int? moved)
    {
        var marks = ScanModel.Chosen(Request);
        Stores = await sites.StoresAsync(Cancel);
        Marks = marks is { Length: <= Longest } ? marks : string.Empty;
        Moved = Math.Max(0, moved ?? 0);
    }

    public async Task<IActionResult> OnPostAsync(string? marks, int? store, string? peg)
    {
        Stores = await sites.StoresAsync(Cancel);
        (Marks, Store, Peg) = (marks ?? string.Empty, store, peg ?? string.Empty);
        if (Marks.Length > Longest)
        {
            Refuse("Too many at once: send them in two turns.");
            return Page();
        }

        var (found, unknown) = await ScanModel.PiecesAsync(Marks, pieces, Cancel);
        if (found.Count + unknown.Count == 0)
            Refuse("Scan at least one mark.");
        else if (unknown.Count > 0)
            Refuse($"No such piece: {string.Join(", ", unknown)}. Nothing was moved.");
        else if (store is null)
            Refuse("Choose the store.");
        if (Refused is not null)
            return Page();
        return await AfterAsync(
            await yard.MoveAsync(found.Select(p => p.Id).ToList(), store!.Value, Peg, Here.Stamp(Submission), Cancel),
            $"/register/move?moved={found.Count}",
            () => Task.CompletedTask
        );
    }
}
