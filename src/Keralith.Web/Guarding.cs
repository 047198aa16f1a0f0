using Keralith.Data;
using Npgsql;

namespace Keralith.Web;

/// <summary>
/// Guards the record while the application runs: the ledger's head is kept beside it daily and at stop, and everything
/// is verified daily. What does not verify is logged, and its pieces may not be used.
/// </summary>
internal sealed partial class Guarding(VerifyStore verify, TimeProvider time, ILogger<Guarding> log) : BackgroundService
{
    /// <summary>After the start, so that it does not stand in the way of the first requests.</summary>
    private static readonly TimeSpan First = TimeSpan.FromMinutes(10);

    private static readonly TimeSpan Daily = TimeSpan.FromDays(1);

    public override async Task StopAsync(CancellationToken cancellationToken)
    {
        await base.StopAsync(cancellationToken);
        await TryAsync(() => verify.SealAsync(time.GetUtcNow(), cancellationToken));
    }

    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        try
        {
            await Task.Delay(First, time, stoppingToken);
            while (true)
            {
                await TryAsync(async () =>
                {
                    foreach (var (mark, why) in await verify.RunAsync(time.GetUtcNow(), stoppingToken))
                        Unverified(mark ?? "the ledger", why);
                    await verify.SealAsync(time.GetUtcNow(), stoppingToken);
                });
                await Task.Delay(Daily, time, stoppingToken);
            }
        }
        catch (OperationCanceledException)
        {
            // The application stops.
        }
    }

    private async Task TryAsync(Func<Task> work)
    {
        try
        {
            await work();
        }
        catch (Exception e) when (e is NpgsqlException or InvalidOperationException or TimeoutException)
        {
            // The database is away or not set up: the next time.
            NotNow(e);
        }
    }

    [LoggerMessage(Level = LogLevel.Error, Message = "verify: {Subject}: {Why}")]
    private partial void Unverified(string subject, string why);

    [LoggerMessage(Level = LogLevel.Warning, Message = "verify: not now")]
    private partial void NotNow(Exception e);
}
