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
    /// <exception cref="InvalidOperationException">A migration failed; nothing of it was kept.</exception>
    public void Migrate()
    {
        var result = DeployChanges
            .To.PostgresqlDatabase(ConnectionString)
            .WithScriptsEmbeddedInAssembly(Assembly.GetExecutingAssembly())
            .WithTransactionPerScript()
            .LogTo(new NoOpUpgradeLog())
            .Build()
            .PerformUpgrade();
        if (!result.Successful)
            throw new InvalidOperationException(
                $"Migration {result.ErrorScript?.Name} failed: {result.Error.Message}",
                result.Error
            );
    }

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
