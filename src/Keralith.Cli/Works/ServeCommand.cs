using System.Net;
using Keralith.Data;
using Keralith.Web;
using Keralith.Web.Security;
using Microsoft.Extensions.DependencyInjection;
using Microsoft.Extensions.Hosting;

namespace Keralith.Cli.Works;

/// <summary>Serves a works: on its own cluster, or on the database that is configured.</summary>
internal static class ServeCommand
{
    private const string UsualUrls = "http://127.0.0.1:5080";

    /// <summary>Where it listens, as the environment says.</summary>
    public static string Urls => Environment.GetEnvironmentVariable("KERALITH_URLS") ?? UsualUrls;

    public static async Task<int> RunAsync()
    {
        var served = Served.Read(Environment.GetEnvironmentVariable);
        RefuseOpenHttp(served);
        if (Records.Configured is { } connection)
        {
            await ServeAsync(connection, served);
            return 0;
        }

        Console.WriteLine($"Keeping the works' own database in {Records.WorksFolder} ...");
        await using var records = await Records.OwnAsync();
        await using (var owner = new Database(records.Owner))
            await Commands.UpgradeAsync(owner);
        await ServeAsync(records.App, served with { KeyFile = served.KeyFile ?? records.KeyFile });
        return 0;
    }

    private static async Task ServeAsync(string connection, Served served)
    {
        await using var app = WebHost.Build([], connection, Urls, quiet: false, served: served);
        await app.StartAsync();
        var database = app.Services.GetRequiredService<Database>();
        if (
            await database.FaultOfVersionAsync(CancellationToken.None) is null
            && await app
                .Services.GetRequiredService<SetUpStore>()
                .LinkAsync(DateTimeOffset.UtcNow, CancellationToken.None)
                is { } secret
        )
        {
            var at = app.Services.GetRequiredService<PublicAddress>().Of($"/set-up?token={secret}");
            Console.WriteLine("Nobody administers this works yet. Set it up within the hour at");
            Console.WriteLine(at);
        }

        await app.WaitForShutdownAsync();
    }

    /// <summary>Passwords never go in the clear beyond this machine, unless somebody says that they may.</summary>
    private static void RefuseOpenHttp(Served served)
    {
        if (served.IsSecure || Environment.GetEnvironmentVariable("KERALITH_PLAIN_HTTP") == "allow")
            return;
        foreach (var url in Urls.Split(';', StringSplitOptions.RemoveEmptyEntries | StringSplitOptions.TrimEntries))
        {
            var isHttp = url.StartsWith("http://", StringComparison.OrdinalIgnoreCase);
            var host = url.Split("://").Last().Split('/')[0];
            host = host.StartsWith('[') ? host[..(host.IndexOf(']') + 1)] : host.Split(':')[0];
            var isHere =
                host == "localhost"
                || (IPAddress.TryParse(host.Trim('[', ']'), out var address) && IPAddress.IsLoopback(address));
            if (isHttp && !isHere)
            {
                throw new UsageException(
                    $"{url} would carry passwords in the clear. Serve on loopback behind a proxy that speaks HTTPS and name its address in KERALITH_ADDRESS (https://...), or set KERALITH_PLAIN_HTTP=allow."
                );
            }
        }
    }
}
