using Keralith.Core.People;
using Keralith.Core.Sites;
using Keralith.Data;
using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Mvc;

namespace Keralith.Web.Pages.Settings;

/// <summary>
/// The sites and stores of the works: added and renamed; stores put in order, moved to another site when empty, closed
/// and opened again.
/// </summary>
[Authorize(Policy = nameof(Right.ManageStores))]
public sealed class StoresModel(Here here, StoreKeeping keeping) : YardPage(here)
{
    public IReadOnlyList<KeptStore> Stores { get; private set; } = [];

    public SiteSet Sites { get; private set; } = null!;

    /// <summary>What was typed of a site that was refused.</summary>
    public string? SiteName { get; private set; }

    public Task OnGetAsync() => LoadAsync();

    /// <summary>Adds a store, or changes one.</summary>
    public async Task<IActionResult> OnPostAsync(
        int? id,
        string? name,
        string? about,
        string? kind,
        bool offline,
        int? at
    )
    {
        var store = StoreActs.Read(name, about, kind, offline);
        if (store.Ok)
        {
            return await AfterAsync(
                await keeping.KeepAsync(
                    id,
                    store.Value with
                    {
                        Site = at ?? Site.First,
                    },
                    Here.Stamp(Submission),
                    Cancel
                ),
                "/settings/stores",
                LoadAsync
            );
        }

        Refuse(store.Refusal!);
        await LoadAsync();
        return Page();
    }

    /// <summary>Adds a site.</summary>
    public async Task<IActionResult> OnPostSiteAsync(string? siteName, string[] book, string? timeZone)
    {
        SiteName = siteName;
        var site = StoreActs.ReadSite(siteName, book, timeZone);
        if (site.Ok)
            return await AfterAsync(
                await keeping.AddSiteAsync(site.Value, Here.Stamp(Submission), Cancel),
                "/settings/stores",
                LoadAsync
            );
        Refuse(site.Refusal!);
        await LoadAsync();
        return Page();
    }

    /// <summary>Gives a site another name.</summary>
    public async Task<IActionResult> OnPostNameAsync(int site, string? siteName)
    {
        var name = StoreActs.ReadSiteName(siteName);
        if (name.Ok)
            return await AfterAsync(
                await keeping.RenameSiteAsync(site, name.Value, Here.Stamp(Submission), Cancel),
                "/settings/stores",
                LoadAsync
            );
        Refuse(name.Refusal!);
        await LoadAsync();
        return Page();
    }

    /// <summary>Closes an empty store, or opens it again.</summary>
    public async Task<IActionResult> OnPostCloseAsync(int id, bool close) =>
        await AfterAsync(
            await keeping.CloseAsync(id, close, Here.Stamp(Submission), Cancel),
            "/settings/stores",
            LoadAsync
        );

    /// <summary>Hangs a store one place earlier or later in the order.</summary>
    public async Task<IActionResult> OnPostShiftAsync(int id, int by) =>
        await AfterAsync(
            await keeping.ShiftAsync(id, by, Here.Stamp(Submission), Cancel),
            "/settings/stores",
            LoadAsync
        );

    private async Task LoadAsync() => (Sites, Stores) = (await Here.SitesAsync(Cancel), await keeping.AllAsync(Cancel));
}
