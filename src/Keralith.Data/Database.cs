using System.Reflection;
using DbUp;
using DbUp.Engine.Output;
using Npgsql;

namespace Keralith.Data;

/// <summary>Where the records are kept. One data source for the whole program.</summary>
public sealed class Database : IAsyncDisposable
{
    private readonly NpgsqlDataSource _source;

    /// <param name="connectionString">An Npgsql connection string.</param>
    public Database(string connectionString)
    {
        ConnectionString = connectionString;
        var source = new NpgsqlDataSourceBuilder(connectionString);

        // What is asked again and again is parsed and planned once a connection. Nothing is left on a connection that
        // would have to be cleared before
        // the next asks: settings and locks end with their transaction.
        (
            source.ConnectionStringBuilder.MaxAutoPrepare,
            source.ConnectionStringBuilder.AutoPrepareMinUsages,
            source.ConnectionStringBuilder.NoResetOnClose
        ) = (200, 3, true);
        _source = source.Build();
    }

    public string ConnectionString { get; }

    /// <summary>Brings the schema up to date; safe to run twice.</summary>
    /// <param name="upTo">The number of the last migration, as a program of that release made it; null: all.</param>
    /// <exception cref="InvalidOperationException">A migration failed; nothing of it was kept.</exception>
    public void Migrate(int? upTo = null)
    {
        // A migration of a large works takes as long as it takes: cut off it is nothing, and would never be done.
        var patient = new NpgsqlConnectionStringBuilder(ConnectionString) { CommandTimeout = 0 };
        var result = DeployChanges
            .To.PostgresqlDatabase(patient.ConnectionString)
            .WithScriptsEmbeddedInAssembly(Assembly.GetExecutingAssembly(), s => upTo is null || NumberOf(s) <= upTo)
            .WithTransactionPerScript()
            .LogTo(new NoOpUpgradeLog())
            .Build()
            .PerformUpgrade();
        if (!result.Successful)
            throw new InvalidOperationException(
                $"Migration {result.ErrorScript?.Name} failed: {result.Error.Message}",
                result.Error
            );
        DatabaseRole.Grant(ConnectionString);
    }

    /// <summary>The number of the newest migration this program knows.</summary>
    public static int Newest { get; } =
        Assembly
            .GetExecutingAssembly()
            .GetManifestResourceNames()
            .Where(n => n.EndsWith(".sql", StringComparison.Ordinal))
            .Max(NumberOf);

    /// <summary>The number of a migration by its name, such as <c>...Migrations.0001_first_loop.sql</c>.</summary>
    private static int NumberOf(string script) =>
        int.Parse(script.Split('.')[^2].Split('_')[0], System.Globalization.CultureInfo.InvariantCulture);

    /// <summary>How far a node's clock may be off the database's before it takes no work.</summary>
    public static TimeSpan ClockTolerance { get; } = TimeSpan.FromMinutes(1);

    /// <summary>Why this program can't work on the database as it is; null when it can.</summary>
    /// <param name="now">What this machine's clock says.</param>
    /// <exception cref="NpgsqlException">The database does not answer.</exception>
    public async Task<string?> FaultAsync(DateTimeOffset now, CancellationToken cancel)
    {
        var trip = new Trip();
        var applied = trip.All(
            new NpgsqlBatchCommand(
                "select coalesce(to_regclass('public.schemaversions')::text, '') as kept, clock_timestamp() as now"
            ),
            r => (IsKept: r.Get<string>("kept").Length > 0, Now: r.Get<DateTimeOffset>("now"))
        );
        await MakeAsync(trip, cancel).ConfigureAwait(false);
        if (!applied.Value[0].IsKept)
            return "The database is not set up yet: run migrate.";
        var off = now - applied.Value[0].Now;
        if (off.Duration() > ClockTolerance)
            return $"This machine's clock is {off.TotalMinutes:0.#} minutes off the database's: set it right.";
        return await FaultOfVersionAsync(cancel).ConfigureAwait(false) switch
        {
            VersionFault.NotOurs or VersionFault.Older => "The database is older than this program: run migrate.",
            VersionFault.Newer => "The database is newer than this program: run the newer one.",
            null => null,
        };
    }

    /// <summary>What stands between this program and a database.</summary>
    public enum VersionFault
    {
        /// <summary>Keralith never migrated it.</summary>
        NotOurs,

        /// <summary>A newer program migrated it.</summary>
        Newer,

        /// <summary>Migrations of this program are missing in it.</summary>
        Older,
    }

    /// <summary>What stands between this program and the database; null: nothing.</summary>
    public async Task<VersionFault?> FaultOfVersionAsync(CancellationToken cancel)
    {
        var kept = await Command("select to_regclass('public.schemaversions') is not null")
            .ListAsync(r => r.GetBoolean(0), cancel)
            .ConfigureAwait(false);
        if (!kept[0])
            return VersionFault.NotOurs;
        var known = Assembly
            .GetExecutingAssembly()
            .GetManifestResourceNames()
            .Where(n => n.EndsWith(".sql", StringComparison.Ordinal))
            .ToHashSet();
        var there = (
            await Command("select scriptname from schemaversions")
                .ListAsync(r => r.GetString(0), cancel)
                .ConfigureAwait(false)
        ).ToHashSet();
        return there.Except(known).Any() ? VersionFault.Newer
            : known.Except(there).Any() ? VersionFault.Older
            : null;
    }

    /// <summary>The same records for questions that take as long as they take, such as those about every row there is.</summary>
    internal Database Patient() =>
        new(new NpgsqlConnectionStringBuilder(ConnectionString) { CommandTimeout = 0 }.ConnectionString);

    /// <summary>Opens a connection.</summary>
    public ValueTask<NpgsqlConnection> OpenAsync(CancellationToken cancel) => _source.OpenConnectionAsync(cancel);

    /// <summary>A command on a connection of its own, for reads in one round trip.</summary>
    public NpgsqlCommand Command(string sql) => _source.CreateCommand(sql);

    /// <summary>Makes a trip: all its questions are answered in one round trip.</summary>
    public async Task MakeAsync(Trip trip, CancellationToken cancel)
    {
        await using var connection = await OpenAsync(cancel).ConfigureAwait(false);
        await trip.MakeAsync(connection, cancel).ConfigureAwait(false);
    }

    /// <summary>Asks one question on a trip of its own.</summary>
    public async Task<T> AskAsync<T>(Func<Trip, Asked<T>> ask, CancellationToken cancel)
    {
        var trip = new Trip();
        var asked = ask(trip);
        await MakeAsync(trip, cancel).ConfigureAwait(false);
        return asked.Value;
    }

    public ValueTask DisposeAsync() => _source.DisposeAsync();
}
