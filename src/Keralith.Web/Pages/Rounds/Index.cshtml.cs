using Keralith.Core.People;
using Keralith.Data;
using Keralith.Web.Security;
using Microsoft.AspNetCore.Mvc;

namespace Keralith.Web.Pages.Rounds;

/// <summary>Rounds under way and closed; where the next one begins.</summary>
public sealed class IndexModel(Here here, SiteStore sites, PieceStore pieces, RoundStore rounds) : YardPage(here)
{
    public IReadOnlyList<Store> Stores { get; private set; } = [];

    public IReadOnlyList<RoundRow> Rounds { get; private set; } = [];

    /// <summary>Pieces chosen to be looked for, by their marks.</summary>
    public string Marks { get; private set; } = string.Empty;

    public async Task OnGetAsync()
    {
        Marks = ScanModel.Chosen(Request);
        await LoadAsync();
    }

    /// <summary>Walks a store.</summary>
    [Takes(Right.Move)]
    public async Task<IActionResult> OnPostAsync(int store)
    {
        return await AfterAsync(
            await rounds.WalkAsync(Submission, store, Here.Stamp(Submission), Cancel),
            $"/round/{Submission}",
            LoadAsync
        );
    }

    /// <summary>Looks for chosen pieces.</summary>
    [Takes(Right.Move)]
    public async Task<IActionResult> OnPostSearchAsync(string? marks)
    {
        Marks = marks ?? string.Empty;
        var (found, _) = await ScanModel.PiecesAsync(Marks, pieces, Cancel);
        return await AfterAsync(
            await rounds.SearchAsync(Submission, found.Select(p => p.Id).ToList(), Here.Stamp(Submission), Cancel),
            $"/round/{Submission}",
            LoadAsync
        );
    }

    private async Task LoadAsync()
    {
        Stores = await sites.StoresAsync(Cancel);
        Rounds = await rounds.AllAsync(Cancel);
    }
}
