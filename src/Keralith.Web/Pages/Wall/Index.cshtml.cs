using Keralith.Core.Custody;
using Keralith.Core.Schedule;
using Keralith.Data;
using Microsoft.AspNetCore.Mvc;

namespace Keralith.Web.Pages.Wall;

/// <summary>A store drawn as its rack wall, and what wants doing today.</summary>
public sealed class WallModel(Here here, SiteStore sites, PieceStore pieces) : YardPage(here)
{
    public IReadOnlyList<Store> Stores { get; private set; } = [];

    public Store? Store { get; private set; }

    public int Notice { get; private set; }

    public IReadOnlyList<PieceRow> Pieces { get; private set; } = [];

    public IReadOnlyList<PieceRow> Overdue { get; private set; } = [];

    public IReadOnlyList<PieceRow> Soon { get; private set; } = [];

    public IReadOnlyList<PieceRow> Held { get; private set; } = [];

    public Site Site { get; private set; } = null!;

    public IReadOnlyList<PieceRow> Fresh { get; private set; } = [];

    public IReadOnlyList<(PieceRow Piece, string Why)> Next { get; private set; } = [];

    public async Task<IActionResult> OnGetAsync(int? store)
    {
        Stores = await sites.StoresAsync(Cancel);
        Store = store is null ? Stores.FirstOrDefault() : Stores.FirstOrDefault(s => s.Id == store);
        if (store is not null && Store is null) return NotFound();
        if (Store is null) return Page();
        Site = await Here.SiteAsync(Cancel);
        Notice = Site.DueNotice;
        Pieces = await pieces.ListAsync(new() { Store = Store.Id, WithoutRetired = true, Most = 500 }, Cancel);
        Held = Pieces.Where(p => p.State == PieceState.Held).ToList();
        Fresh = Pieces.Where(p => p.State == PieceState.New).ToList();
        var inUse = Pieces.Where(p => p.State == PieceState.InService).ToList();
        Overdue = inUse.Where(p => DueDate.StateOn(p.PeriodicDue, Here.Today, Notice) is DueState.Overdue).ToList();
        Soon = inUse.Where(p => DueDate.StateOn(p.PeriodicDue, Here.Today, Notice) is DueState.Soon).ToList();
        Next = Overdue.OrderBy(p => p.PeriodicDue).Select(p => (p, $"overdue since {p.PeriodicDue:yyyy-MM-dd}"))
            .Concat(Fresh.Select(p => (p, "new: initial inspection")))
            .Concat(Soon.OrderBy(p => p.PeriodicDue).Select(p => (p, $"due {Say.Date(p.PeriodicDue!.Value, Here.Today)}")))
            .Take(9).ToList();
        return Page();
    }
}
