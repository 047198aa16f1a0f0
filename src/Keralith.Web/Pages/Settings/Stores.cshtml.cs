using Keralith.Core.People;
using Keralith.Core.Sites;
using Keralith.Data;
using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Mvc;

namespace Keralith.Web.Pages.Settings;

/// <summary>The stores of the works: added, renamed, put in order, closed and opened again.</summary>
[Authorize(Policy = nameof(Right.ManageStores))]
public sealed class StoresModel(Here here, StoreKeeping keeping) : YardPage(here)
{
    public IReadOnlyList<KeptStore> Stores { get; private set; } = [];

    public Task OnGetAsync() => LoadAsync();

    /// <summary>Adds a store, or changes one.</summary>
    public async Task<IActionResult> OnPostAsync(int? id, string? name, string? about, string? kind, bool offline)
    {
        var store = StoreActs.Read(name, about, kind, offline);
        if (store.Ok)
        {
            return await AfterAsync(
                await keeping.KeepAsync(id, store.Value, Here.Stamp(Submission), Cancel),
                "/settings/stores",
                LoadAsync
            );
        }

        Refuse(store.Refusal!);
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

    private async Task LoadAsync() => Stores = await keeping.AllAsync(Cancel);
}
