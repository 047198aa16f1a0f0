using System.Diagnostics.Metrics;
using System.Security.Cryptography;
using System.Text;
using Keralith.Data;
using Keralith.Web.Security;
using OpenTelemetry.Metrics;

namespace Keralith.Web.Running;

/// <summary>
/// What a monitoring program reads at <c>/metrics</c> (OpenTelemetry, in Prometheus' text format): requests and their
/// times, the pool of connections, and of the works itself signings, judgements, the ledger's height, when its head was
/// sealed, a backup written, and what waits. There only with the token KERALITH_METRICS_TOKEN.
/// </summary>
internal static class Metrics
{
    private const string Path = "/metrics";

    public static void AddServices(IServiceCollection services)
    {
        services.AddSingleton<WorksGauges>();
        services
            .AddOpenTelemetry()
            .WithMetrics(m =>
                m.AddAspNetCoreInstrumentation()
                    .AddMeter("Npgsql", "Microsoft.AspNetCore.Server.Kestrel", "System.Runtime", WorksMeter.Name)
                    .AddPrometheusExporter()
            );
    }

    /// <summary>Answers whoever brings the token; to all others the address is none.</summary>
    public static void Use(WebApplication app, Served served)
    {
        var expected = Encoding.UTF8.GetBytes($"Bearer {served.MetricsToken}");
        app.UseWhen(
            c => c.Request.Path == Path,
            branch =>
            {
                branch.Use(
                    async (context, next) =>
                    {
                        var said = Encoding.UTF8.GetBytes(context.Request.Headers.Authorization.ToString());
                        if (served.MetricsToken is null || !CryptographicOperations.FixedTimeEquals(said, expected))
                        {
                            context.Response.StatusCode = StatusCodes.Status404NotFound;
                            return;
                        }

                        await context
                            .RequestServices.GetRequiredService<WorksGauges>()
                            .LookAsync(context.RequestAborted);
                        await next(context);
                    }
                );
                branch.UseOpenTelemetryPrometheusScrapingEndpoint();
            }
        );
    }
}

/// <summary>How the works stands, as it was when it was last asked.</summary>
internal sealed class WorksGauges(RunningStore running, MailStore mails, ChoreStore chores, TimeProvider time)
{
    private static readonly Meter Works = new(WorksMeter.Name);

    private readonly Dictionary<string, double> _values = [];
    private bool _made;

    /// <summary>Asks how the works stands.</summary>
    public async Task LookAsync(CancellationToken cancel)
    {
        var standing = await running.StandingAsync(cancel);
        var (waiting, givenUp) = await mails.CountAsync(cancel);
        var rows = await chores.AllAsync(cancel);
        lock (_values)
        {
            _values["keralith.ledger.height"] = standing.LedgerHeight;
            _values["keralith.ledger.seconds_since_seal"] = Since(standing.SealedAt);
            _values["keralith.backup.seconds_since_last"] = Since(
                rows.GetValueOrDefault("backup") is { Failed: false } backup ? backup.EndedAt : null
            );
            _values["keralith.verify.seconds_since_last"] = Since(
                rows.GetValueOrDefault("verify") is { Failed: false } verify ? verify.EndedAt : null
            );
            _values["keralith.pieces.unverified"] = standing.Distrusted;
            _values["keralith.chores.failed"] = rows.Values.Count(r => r.Failed);
            _values["keralith.mails.waiting"] = waiting;
            _values["keralith.mails.given_up"] = givenUp;
            _values["keralith.database.bytes"] = standing.Bytes;
            Make();
        }
    }

    /// <summary>Seconds since a moment; -1: never.</summary>
    private double Since(DateTimeOffset? at) => at is { } moment ? (time.GetUtcNow() - moment).TotalSeconds : -1;

    private void Make()
    {
        if (_made)
            return;
        _made = true;
        foreach (var name in _values.Keys.ToList())
            Works.CreateObservableGauge(name, () => Value(name));
    }

    private double Value(string name)
    {
        lock (_values)
            return _values[name];
    }
}
