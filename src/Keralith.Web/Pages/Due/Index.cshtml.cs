using System.Globalization;
using Keralith.Core.Custody;
using Keralith.Core.Gear;
using Keralith.Core.Register;
using Keralith.Data;
using Keralith.Web.Security;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.WebUtilities;

namespace Keralith.Web.Pages.Due;

/// <summary>What is due and overdue, the load of the weeks to come, and the address calendars read it from.</summary>
public sealed class IndexModel(Here here, DueStore due, PieceStore pieces, PublicAddress at) : YardPage(here)
{
    private const int MostNew = 100;

    public int Notice { get; private set; }

    public DueQuery Query { get; private set; } = new();

    public DueList List { get; private set; } = null!;

    public IReadOnlyList<Piece> Fresh { get; private set; } = [];

    public IReadOnlyList<Store> Stores { get; private set; } = [];

    /// <summary>The calendar's address just made; shown this once.</summary>
    public string? Feed { get; private set; }

    public Task OnGetAsync(int? store, string? family, string? by, string? week) => LoadAsync(store, family, by, week);

    public async Task<IActionResult> OnPostFeedAsync()
    {
        Feed = at.Of($"/due/{await due.NewFeedAsync(Here.Actor.Id, Here.Now, Cancel)}.ics").ToString();
        Response.Headers.CacheControl = "no-store";
        await LoadAsync(null, null, null, null);
        return Page();
    }

    /// <summary>The address of this list with one thing changed.</summary>
    public string With(string name, string? value)
    {
        var query = new Dictionary<string, string?>
        {
            ["store"] = Query.Store?.ToString(CultureInfo.InvariantCulture),
            ["family"] = Query.Family,
            ["by"] = Query.By,
            ["week"] = Query.Week?.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture),
        };
        query[name] = value;
        return QueryHelpers.AddQueryString("/due", query.Where(p => !string.IsNullOrEmpty(p.Value)));
    }

    /// <summary>What a count's value is called, and what it is in the address.</summary>
    public (string Said, string? Value, bool Chosen) Facet(DueCount count) =>
        count.Group switch
        {
            "store" => Stores.FirstOrDefault(s => s.Name == count.Value) is { } store
                ? (store.Name, $"{store.Id}", Query.Store == store.Id)
                : (count.Value, null, false),
            "family" => (GearFamilies.Find(count.Value)?.Name ?? count.Value, count.Value, Query.Family == count.Value),
            _ => (count.Value, count.Value, Query.By == count.Value),
        };

    private async Task LoadAsync(int? store, string? family, string? by, string? week)
    {
        var trip = new Trip();
        var (stores, ledger) = (SiteStore.Stores(trip), LedgerStore.Height(trip));
        await Here.MakeAsync(trip, Cancel);
        Notice = (await Here.SiteAsync(Cancel)).DueNotice;
        Stores = stores.Value;
        DateOnly? monday = DateOnly.TryParseExact(
            week,
            "yyyy-MM-dd",
            CultureInfo.InvariantCulture,
            DateTimeStyles.None,
            out var day
        )
            ? DueStore.MondayOf(day)
            : null;
        Query = new(
            store,
            GearFamilies.Find(family ?? string.Empty)?.Code,
            by is { Length: > 0 and <= 120 } ? by : null,
            monday
        );
        List = await due.ListAsync(Query, Here.Today, Notice, Cancel, ledger.Value);
        Fresh = monday is null && Query.By is null ? (
                    await pieces.ListAsync(
                        new()
                        {
                            State = PieceState.New,
                            Store = Query.Store,
                            Most = MostNew,
                        },
                        Cancel
                    )
                ).Where(p => Query.Family is null || p.Gear.Family.Code == Query.Family).ToList() : [];
    }
}
