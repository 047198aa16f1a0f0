using Keralith.Core.People;
using Keralith.Core.Register;
using Keralith.Core.Schedule;
using Keralith.Core.Sites;
using Keralith.Data;
using Keralith.Web.Drawings;
using Keralith.Web.Security;
using Microsoft.AspNetCore.Mvc;

namespace Keralith.Web.Pages.Season;

/// <summary>The season's mark: what it is, how far the change-over has come, what lacks it, and the scheme behind it.</summary>
public sealed class IndexModel(Here here, SeasonStore seasons, PieceStore pieces, YardStore yard) : SitePage(here)
{
    public SeasonScheme? Scheme { get; private set; }

    public Core.Schedule.Season? Now { get; private set; }

    public Core.Schedule.Season? Next { get; private set; }

    public int Version { get; private set; }

    public int? Store { get; private set; }

    public IReadOnlyList<SeasonProgress> Progress { get; private set; } = [];

    public IReadOnlyList<Piece> Lacking { get; private set; } = [];

    /// <summary>What was typed, shown again after a refusal.</summary>
    public string? Typed { get; private set; }

    public string? Lines { get; private set; }

    public int Painted { get; private set; }

    public Task OnGetAsync(int? store, int? painted)
    {
        (Store, Painted) = (store, Math.Max(0, painted ?? 0));
        return LoadAsync();
    }

    [Takes(Right.PaintSeason)]
    public async Task<IActionResult> OnPostPaintAsync(string? marks)
    {
        Typed = marks is { Length: <= Register.MoveModel.Longest } ? marks : string.Empty;
        var (found, unknown) = await ScanModel.PiecesAsync(Typed, pieces, Cancel);
        if (unknown.Count > 0)
            Refuse($"No such piece: {string.Join(", ", unknown)}. Nothing was recorded.");
        else if (found.Count == 0)
            Refuse("Scan at least one mark.");
        if (Refused is null)
            return await AfterAsync(
                await yard.PaintAsync(found.Select(p => p.Id).ToList(), Here.Stamp(Submission), Cancel),
                At($"/season?painted={found.Count}"),
                LoadAsync
            );
        await LoadAsync();
        return Page();
    }

    [Takes(Right.SetSeasons)]
    public async Task<IActionResult> OnPostSchemeAsync(
        int version,
        string? lines,
        int? months,
        string? first,
        int? overlap,
        bool enforced,
        string? reason
    )
    {
        Lines = lines;
        if (!IsDay(first, "First day", out var from))
        {
            await LoadAsync();
            return Page();
        }

        var scheme = SeasonSchemeReader.Read(
            lines ?? string.Empty,
            months,
            from,
            overlap,
            enforced,
            SeasonSwatch.Paints.Keys.ToList()
        );
        if (scheme.Ok)
            return await AfterAsync(
                await seasons.SetAsync(
                    Chosen ?? Core.Sites.Site.First,
                    version,
                    scheme.Value,
                    reason ?? string.Empty,
                    Here.Stamp(Submission),
                    Cancel
                ),
                At("/season"),
                LoadAsync
            );
        Refuse(scheme.Fault!);
        await LoadAsync();
        return Page();
    }

    private async Task LoadAsync()
    {
        await ChooseAsync();
        (Scheme, Version) = (Site.Seasons, Site.Version);
        Now = Scheme?.On(Here.Today);
        if (Now is null)
            return;
        Next = Scheme!.On(Now.Until.AddDays(1));
        Progress = await seasons.ProgressAsync(Now.From, Site.Id, Cancel);
        Lacking = await seasons.LackingAsync(Now.From, Site.Id, Store, Cancel);
    }
}
