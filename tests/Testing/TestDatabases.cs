using Keralith.Data;
using Keralith.Data.Local;
using Npgsql;

namespace Keralith.Testing;

/// <summary>A fresh, migrated database for each test, copied from one template; they run side by side.</summary>
public static class TestDatabases
{
    private static readonly Lazy<Task<LocalCluster>> Cluster = new(StartAsync);
    private static readonly string Template = $"template_{Environment.ProcessId}";
    private static readonly string Untold = $"template_{Environment.ProcessId}_untold";
    private static readonly SemaphoreSlim Copying = new(1);
    private static int _count;

    /// <summary>A connection string to a new database with a site, its three stores and its people.</summary>
    /// <param name="isTold">
    /// Whether its ledger tells the record from its first entry on, as every works' does; or is that of an earlier program,
    /// which may have written anything.
    /// </param>
    public static async Task<string> CreateAsync(bool isTold = true)
    {
        await Cluster.Value;
        return await CopyOfAsync(isTold ? Template : Untold);
    }

    /// <summary>A connection string to a copy of a database that nobody is connected to.</summary>
    public static Task<string> CopyAsync(string of) => CopyOfAsync(new NpgsqlConnectionStringBuilder(of).Database!);

    private static async Task<string> CopyOfAsync(string template)
    {
        var cluster = await Cluster.Value;
        var name = $"test_{Environment.ProcessId}_{Interlocked.Increment(ref _count)}";
        await Copying.WaitAsync();
        try
        {
            await SayAsync(cluster, $"create database {name} template {template}");
        }
        finally
        {
            Copying.Release();
        }

        return cluster.AppConnectionString(name);
    }

    /// <summary>The same database for whoever may alter and drop: the application may not.</summary>
    public static async Task<string> OwnerOfAsync(string connectionString) =>
        (await Cluster.Value).ConnectionString(new NpgsqlConnectionStringBuilder(connectionString).Database!);

    /// <summary>An empty database without any table.</summary>
    public static async Task<string> CreateEmptyAsync()
    {
        var cluster = await Cluster.Value;
        var name = $"empty_{Environment.ProcessId}_{Interlocked.Increment(ref _count)}";
        await SayAsync(cluster, $"create database {name}");
        return cluster.ConnectionString(name);
    }

    /// <summary>Drops a database under its users: what a lost server looks like to them.</summary>
    public static async Task KickOutAsync(string connectionString)
    {
        var name = new NpgsqlConnectionStringBuilder(connectionString).Database!;
        await SayAsync(
            await Cluster.Value,
            $"select pg_terminate_backend(pid) from pg_stat_activity where datname = '{name}'"
        );
    }

    /// <summary>Refuses or allows new connections to a database.</summary>
    public static async Task AllowConnectionsAsync(string connectionString, bool allow)
    {
        var name = new NpgsqlConnectionStringBuilder(connectionString).Database!;
        await SayAsync(
            await Cluster.Value,
            $"alter database {name} with allow_connections {(allow ? "true" : "false")}"
        );
    }

    private static async Task<LocalCluster> StartAsync()
    {
        var state = Environment.GetEnvironmentVariable("KERALITH_STATE") ?? Path.Combine(Root(), ".keralith");
        var cluster = LocalCluster.Start(
            Path.Combine(state, "tests"),
            // Nothing here outlives the run: what a power cut would lose is tested on clusters of their own.
            "fsync=off",
            "full_page_writes=off",
            "synchronous_commit=off"
        );
        AppDomain.CurrentDomain.ProcessExit += (_, _) => cluster.Stop();
        foreach (var old in await StaleAsync(cluster))
            await SayAsync(cluster, $"drop database if exists \"{old}\" with (force)");
        await SayAsync(cluster, $"create database {Untold}");
        await using (var database = new Database(cluster.ConnectionString(Untold)))
        {
            database.Migrate();
            await Seed.FillAsync(database);
        }

        NpgsqlConnection.ClearAllPools();
        await SayAsync(cluster, $"create database {Template} template {Untold}");
        await using (var database = new Database(cluster.ConnectionString(Template)))
            await new RecordSeal(database).RunAsync(Seed.Begun, CancellationToken.None);
        NpgsqlConnection.ClearAllPools();
        return cluster;
    }

    private static async Task<List<string>> StaleAsync(LocalCluster cluster)
    {
        await using var connection = new NpgsqlConnection(cluster.ConnectionString("postgres"));
        await connection.OpenAsync();
        await using var command = new NpgsqlCommand(
            "select datname from pg_database where datname ~ '^(test|template|empty)_[0-9]+'",
            connection
        );
        await using var reader = await command.ExecuteReaderAsync();
        var names = new List<string>();
        while (await reader.ReadAsync())
        {
            var process = reader.GetString(0).Split('_')[1];
            if (!Directory.Exists($"/proc/{process}"))
                names.Add(reader.GetString(0));
        }

        return names;
    }

    private static async Task SayAsync(LocalCluster cluster, string sql)
    {
        await using var connection = new NpgsqlConnection(cluster.ConnectionString("postgres"));
        await connection.OpenAsync();
        await using var command = new NpgsqlCommand(sql, connection);
        await command.ExecuteNonQueryAsync();
    }

    private static string Root()
    {
        var folder = new DirectoryInfo(AppContext.BaseDirectory);
        while (folder is not null && !File.Exists(Path.Combine(folder.FullName, "keralith")))
            folder = folder.Parent;
        return folder?.FullName ?? Directory.GetCurrentDirectory();
    }
}
