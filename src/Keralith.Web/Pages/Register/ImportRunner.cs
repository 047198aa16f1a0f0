using Keralith.Data;
using Keralith.Data.Exchange;

namespace Keralith.Web.Pages.Register;

/// <summary>Lands files beside the requests that began them, so that a long one shows its progress.</summary>
public sealed partial class ImportRunner(ImportFiles files, IHostApplicationLifetime life, ILogger<ImportRunner> log)
{
    /// <summary>How long the request waits: a short file has landed by then.</summary>
    private static readonly TimeSpan Patience = TimeSpan.FromSeconds(1.5);

    /// <summary>Begins to land a file; comes back when it has landed, or after a moment.</summary>
    public async Task LandAsync(ImportFile file, bool partial, Stamp stamp)
    {
        var landing = Task.Run(async () =>
        {
            try
            {
                await files.LandAsync(file, partial, stamp, life.ApplicationStopping);
            }
            catch (Exception e) when (e is Npgsql.NpgsqlException or OperationCanceledException or TimeoutException)
            {
                // Nothing landed: the transaction is gone. The file waits and may be landed again after a minute.
                BrokeOff(log, file.Id, e);
            }
        });
        await Task.WhenAny(landing, Task.Delay(Patience));
    }

    [LoggerMessage(LogLevel.Warning, "Landing of {File} broke off")]
    private static partial void BrokeOff(ILogger log, Guid file, Exception e);
}
