using Keralith.Core.Custody;
using Keralith.Data;

namespace Keralith.Web.Pages.Due;

public sealed class IndexModel(Here here, PieceStore pieces) : YardPage(here)
{
    public int Notice { get; private set; }

    public IReadOnlyList<PieceRow> Pieces { get; private set; } = [];

    public async Task OnGetAsync()
    {
        Notice = (await Here.SiteAsync(Cancel)).DueNotice;
        var due = await pieces.ListAsync(new() { DueBy = Here.Today.AddDays(Notice), Most = 500 }, Cancel);
        var fresh = await pieces.ListAsync(new() { State = PieceState.New, Most = 200 }, Cancel);
        Pieces = [.. due.Concat(fresh).OrderBy(p => p.StoreId).ThenBy(p => p.Peg, StringComparer.Ordinal).ThenBy(p => p.Mark, StringComparer.Ordinal)];
    }
}
