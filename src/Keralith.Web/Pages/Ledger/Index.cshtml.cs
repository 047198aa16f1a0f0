using Keralith.Core.Ledger;
using Keralith.Core.People;
using Keralith.Data;
using Microsoft.AspNetCore.Authorization;

namespace Keralith.Web.Pages.Ledger;

[Authorize(Policy = nameof(Right.ReadLedger))]
public sealed class IndexModel(Here here, LedgerStore ledger) : YardPage(here)
{
    public IReadOnlyList<LedgerEntry> Entries { get; private set; } = [];

    public string? Checked { get; private set; }

    public async Task OnGetAsync(long? before) => Entries = await ledger.NewestAsync(null, before, 60, Cancel);

    /// <summary>Re-computes the whole chain.</summary>
    public async Task OnPostAsync()
    {
        var (entries, broken) = await ledger.VerifyAsync(Cancel);
        Checked = broken is null ? $"The chain is whole: {entries} records." : $"The chain is broken: {broken}.";
        await OnGetAsync(null);
    }
}
