using Keralith.Core;
using Keralith.Core.Custody;
using Keralith.Core.Gear;
using Keralith.Data;
using Microsoft.AspNetCore.WebUtilities;

namespace Keralith.Web.Pages.Register;

public sealed class IndexModel(Here here, SiteStore sites, PieceStore pieces) : YardPage(here)
{
    private const int PerPage = 50;

    public string? Q { get; private set; }

    public string? Family { get; private set; }

    public int? Store { get; private set; }

    public string? State { get; private set; }

    public int PageNumber { get; private set; } = 1;

    public Site Site { get; private set; } = null!;

    public bool HasMore { get; private set; }

    public IReadOnlyList<Store> Stores { get; private set; } = [];

    public IReadOnlyList<PieceRow> Pieces { get; private set; } = [];

    public async Task OnGetAsync(string? q, string? family, int? store, string? state, int? page)
    {
        Q = q?.Length > 60 ? q[..60] : q;
        Family = family is not null && GearFamilies.Find(family) is not null ? family : null;
        Store = store;
        State = Words.Find<PieceState>(state, Words.Code) is { } known ? Words.Code(known) : null;
        PageNumber = Math.Clamp(page ?? 1, 1, 100_000);
        Site = await Here.SiteAsync(Cancel);
        Stores = await sites.StoresAsync(Cancel);
        var found = await pieces.ListAsync(
            new() { Text = Q, Family = Family, Store = Store, State = Words.Find<PieceState>(State, Words.Code), Most = PerPage + 1, Skip = (PageNumber - 1) * PerPage },
            Cancel);
        HasMore = found.Count > PerPage;
        Pieces = found.Take(PerPage).ToList();
    }

    public string To(int page) => QueryHelpers.AddQueryString("/register", new Dictionary<string, string?>
    {
        ["q"] = Q,
        ["family"] = Family,
        ["store"] = Store?.ToString(),
        ["state"] = State,
        ["page"] = page.ToString(),
    }.Where(p => !string.IsNullOrEmpty(p.Value)));
}
