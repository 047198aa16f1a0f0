using Keralith.Data;
using Keralith.Data.Exchange;
using Keralith.Web.Printing;
using Keralith.Web.Security;

namespace Keralith.Web.Running;

/// <summary>Makes auditor's packs beside the request that asked for one.</summary>
public sealed class Packing(
    AuditPack packs,
    WorksKey works,
    Database database,
    TimeProvider time,
    IHostApplicationLifetime life
)
{
    private readonly Beside<byte[]?> _runs = new(time);

    /// <summary>The run of a pack; comes back when it is done, or after a moment. Null bytes: the ledger is empty.</summary>
    /// <param name="scope">What it is about.</param>
    /// <param name="zone">Whose days the period is of.</param>
    public async Task<BesideRun<byte[]?>> OfAsync(PackScope scope, TimeZoneInfo zone, CancellationToken cancel)
    {
        var height = await database.AskAsync(LedgerStore.Height, cancel);
        return await _runs.OfAsync($"{scope} {zone.Id} {height}", async progress =>
        {
            // A head that holds what is asked for, where the last one does not yet.
            await works.SignAsync(rotate: false, life.ApplicationStopping);
            using var pack = new MemoryStream();
            return await packs.WriteAsync(pack, scope, zone, PackSummary.Pdf, life.ApplicationStopping, progress)
                ? pack.ToArray()
                : null;
        });
    }
}
