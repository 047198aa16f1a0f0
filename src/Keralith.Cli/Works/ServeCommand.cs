using Keralith.Data;
using Keralith.Web;
using Keralith.Web.Security;
using Microsoft.Extensions.DependencyInjection;
using Microsoft.Extensions.Hosting;
using Npgsql;

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
        if (served.RefusalOfUrls(Urls, Environment.GetEnvironmentVariable("KERALITH_PLAIN_HTTP")) is { } refusal)
            throw new UsageException(refusal);
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
        try
        {
            await SayHowItStandsAsync(app.Services);
        }
        catch (NpgsqlException)
        {
            Console.WriteLine("The database does not answer yet; pages say so until it does.");
        }

        await app.WaitForShutdownAsync();
    }

    /// <summary>Says what keeps it from working, or where the works is set up.</summary>
    private static async Task SayHowItStandsAsync(IServiceProvider services)
    {
        var now = DateTimeOffset.UtcNow;
        if (await services.GetRequiredService<Database>().FaultAsync(now, CancellationToken.None) is { } fault)
        {
            Console.WriteLine(fault);
        }
        else if (await services.GetRequiredService<SetUpStore>().LinkAsync(now, CancellationToken.None) is { } secret)
        {
            Console.WriteLine("Nobody administers this works yet. Set it up within the hour at");
            Console.WriteLine(services.GetRequiredService<PublicAddress>().Of($"/set-up?token={secret}"));
        }
    }
}
