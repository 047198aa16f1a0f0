using Keralith.Data;
using Keralith.Data.Local;

namespace Keralith.Cli.Works;

/// <summary>
/// The records a command works on: those of KERALITH_DATABASE; else those of the works' own cluster in the folder
/// <c>works</c> of the state folder; else the demo's. The works' and the demo's never mix.
/// </summary>
internal sealed class Records : IAsyncDisposable
{
    /// <summary>The works' database in its own cluster.</summary>
    public const string WorksDatabase = "keralith";

    private readonly LocalCluster? _cluster;

    private Records(string app, string owner, LocalCluster? cluster, string? folder)
    {
        (App, Owner, _cluster) = (app, owner, cluster);
        KeyFile = Environment.GetEnvironmentVariable("KERALITH_KEY_FILE")
            ?? (folder is null ? null : Path.Combine(folder, "master.key"));
        Database = new(app);
    }

    /// <summary>The connection string of the application's own role.</summary>
    public string App { get; }

    /// <summary>That of whoever sets up, migrates and restores.</summary>
    public string Owner { get; }

    public Database Database { get; }

    /// <summary>Where the key lies that seals what is kept; null: nothing is sealed.</summary>
    public string? KeyFile { get; }

    /// <summary>Where everything of its own is kept.</summary>
    public static string StateFolder =>
        Environment.GetEnvironmentVariable("KERALITH_STATE")
        ?? Path.Combine(Directory.GetCurrentDirectory(), ".keralith");

    /// <summary>Where the works' own cluster is kept.</summary>
    public static string WorksFolder => Path.Combine(StateFolder, "works");

    /// <summary>Opens the records; a cluster is started where it does not run.</summary>
    /// <exception cref="UsageException">There are none.</exception>
    public static Records Open()
    {
        if (Configured is { } connection)
            return new(connection, connection, null, null);
        var (folder, name) = Directory.Exists(WorksFolder)
            ? (WorksFolder, WorksDatabase)
            : (DemoCommand.Folder, DemoCommand.DatabaseName);
        if (!Directory.Exists(folder))
            throw new UsageException("Set KERALITH_DATABASE, or run serve or demo first.");
        return OfCluster(LocalCluster.Start(folder), folder, name);
    }

    /// <summary>The works' own cluster, made where there is none, with its database migrated.</summary>
    public static async Task<Records> OwnAsync()
    {
        var cluster = LocalCluster.Start(WorksFolder);
        await cluster.EnsureDatabaseAsync(WorksDatabase, async fresh =>
        {
            await using var database = new Database(fresh);
            database.Migrate();
        });
        return OfCluster(cluster, WorksFolder, WorksDatabase);
    }

    /// <summary>The connection string the environment names; null: none.</summary>
    public static string? Configured =>
        Environment.GetEnvironmentVariable("KERALITH_DATABASE") is { Length: > 0 } connection ? connection : null;

    /// <summary>Works on the records, and lets go of them.</summary>
    public static async Task<int> OnAsync(Func<Records, Task<int>> work)
    {
        await using var records = Open();
        return await work(records);
    }

    /// <summary>The key that seals what is kept; null: nothing is sealed.</summary>
    public async Task<byte[]?> KeyAsync() => File.Exists(KeyFile) ? await File.ReadAllBytesAsync(KeyFile!) : null;

    public async ValueTask DisposeAsync()
    {
        await Database.DisposeAsync();
        _cluster?.Stop();
    }

    private static Records OfCluster(LocalCluster cluster, string folder, string name) =>
        new(cluster.AppConnectionString(name), cluster.ConnectionString(name), cluster, folder);
}
