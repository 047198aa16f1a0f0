using Npgsql;

namespace Keralith.Data;

/// <summary>How the database stands, for who runs it.</summary>
/// <param name="Server">The server's version.</param>
/// <param name="Bytes">How large the database is.</param>
/// <param name="LedgerHeight">The number of the ledger's last entry.</param>
/// <param name="SealedAt">When its head was last sealed; null: never.</param>
/// <param name="SealedHeight">The number sealed then.</param>
/// <param name="Distrusted">Pieces that may not be used because their records do not verify.</param>
/// <param name="Pieces">Pieces on record, the destroyed counted.</param>
/// <param name="Connections">Connections to it now.</param>
/// <param name="IsStandby">Whether the server only follows another.</param>
public sealed record DatabaseStanding(
    string Server,
    long Bytes,
    long LedgerHeight,
    DateTimeOffset? SealedAt,
    long? SealedHeight,
    int Distrusted,
    int Pieces,
    int Connections,
    bool IsStandby
);

/// <summary>What administrators see of how the works runs.</summary>
public sealed class RunningStore(Database database)
{
    /// <summary>How the database stands now.</summary>
    public async Task<DatabaseStanding> StandingAsync(CancellationToken cancel) =>
        (
            await database
                .Command(
                    """
                    select current_setting('server_version') as server, pg_database_size(current_database()) as bytes,
                      coalesce((select max(number) from ledger), 0) as height,
                      (select max(at) from ledger_head) as sealed_at, (select max(number) from ledger_head) as sealed,
                      (select count(*)::int from distrust) as distrusted, (select count(*)::int from piece) as pieces,
                      (select count(*)::int from pg_stat_activity where datname = current_database()) as connections,
                      pg_is_in_recovery() as standby
                    """
                )
                .ListAsync(From, cancel)
                .ConfigureAwait(false)
        )[0];

    private static DatabaseStanding From(NpgsqlDataReader r) =>
        new(
            r.Get<string>("server"),
            r.Get<long>("bytes"),
            r.Get<long>("height"),
            r.ValueOrNull<DateTimeOffset>("sealed_at"),
            r.ValueOrNull<long>("sealed"),
            r.Get<int>("distrusted"),
            r.Get<int>("pieces"),
            r.Get<int>("connections"),
            r.Get<bool>("standby")
        );
}
