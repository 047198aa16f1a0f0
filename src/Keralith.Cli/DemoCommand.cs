using System.Diagnostics;
using System.Globalization;
using Keralith.Cli.Demo;
using Keralith.Data;
using Keralith.Data.Local;
using Keralith.Web;
using Microsoft.Extensions.Hosting;

namespace Keralith.Cli;

/// <summary>From a fresh machine to the running application with demo data.</summary>
internal static class DemoCommand
{
    public const string DatabaseName = "keralith_demo";

    public const int UsualPort = 5080;

    /// <summary>Where the demo's database lives: under the project's own ignored folder.</summary>
    public static string Folder =>
        Path.Combine(
            Environment.GetEnvironmentVariable("KERALITH_STATE")
                ?? Path.Combine(Directory.GetCurrentDirectory(), ".keralith"),
            "demo"
        );

    /// <param name="port">The wished port; another free one if that is taken.</param>
    public static async Task<int> RunAsync(int port)
    {
        Console.WriteLine("Starting the database on loopback ...");
        var cluster = LocalCluster.Start(Folder);
        Process? cell = null;
        try
        {
            await cluster.EnsureDatabaseAsync(DatabaseName, async fresh =>
            {
                Console.WriteLine("Writing three years of Hollowmere Lock Works ...");
                // What is lost when the machine dies in these few seconds is written again the next time.
                await using var database = new Database($"{fresh};Options=-c synchronous_commit=off");
                database.Migrate();
                await Hollowmere.LoadAsync(database, DateOnly.FromDateTime(DateTime.Now), CancellationToken.None);
            });
            await using (var database = new Database(cluster.ConnectionString(DatabaseName)))
                await Commands.UpgradeAsync(database);
            var connection = cluster.AppConnectionString(DatabaseName);
            if (Environment.GetEnvironmentVariable("KERALITH_SPOOL") is null)
                Environment.SetEnvironmentVariable("KERALITH_SPOOL", Path.Combine(Folder, "spool"));
            // The key that seals the keys in the database lies beside the database, never in it.
            if (Environment.GetEnvironmentVariable("KERALITH_KEY_FILE") is null)
                Environment.SetEnvironmentVariable("KERALITH_KEY_FILE", Path.Combine(Folder, "master.key"));
            var free = LoopbackPorts.Free(port);
            if (free != port)
                Console.WriteLine($"Port {port} is taken.");
            cell = StartCell();
            await using var app = WebHost.Build([], connection, $"http://127.0.0.1:{free}", quiet: true);
            await app.StartAsync();
            Console.WriteLine(
                $"\n  Keralith is at http://127.0.0.1:{free}\n  Sign in as inspector, qualified, stores or crew with the password lockgate-demo.\n  Ctrl-C stops it.\n"
            );
            await app.WaitForShutdownAsync();
            Console.WriteLine("Stopping ...");
        }
        finally
        {
            if (cell is { HasExited: false })
                cell.Kill();
            cell?.Dispose();
            cluster.Stop();
        }

        return 0;
    }

    /// <summary>The load cell's stand-in, a process of its own; null where one is named already.</summary>
    private static Process? StartCell()
    {
        if (Environment.GetEnvironmentVariable("KERALITH_LOAD_CELL") is not null)
            return null;
        var port = LoopbackPorts.Free(UsualPort + 1);
        var cell = Process.Start(
            new ProcessStartInfo(
                "dotnet",
                [
                    Environment.GetCommandLineArgs()[0],
                    "load-cell",
                    "--port",
                    port.ToString(CultureInfo.InvariantCulture),
                    "--hang",
                    "3400 lb",
                ]
            )
            {
                RedirectStandardOutput = true,
            }
        );
        Environment.SetEnvironmentVariable("KERALITH_LOAD_CELL", $"127.0.0.1:{port}");
        return cell;
    }
}
