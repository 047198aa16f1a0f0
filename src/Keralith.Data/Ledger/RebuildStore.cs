using Keralith.Core.Ledger;
using Npgsql;

namespace Keralith.Data;

/// <summary>How far making a works anew has come.</summary>
/// <param name="Entries">Entries of the ledger taken along.</param>
/// <param name="Rows">Rows of the record made of what they tell.</param>
/// <param name="Pieces">Pieces among them.</param>
public sealed record Rebuilt(long Entries, long Rows, long Pieces);

/// <summary>
/// Makes a works anew from its ledger and its files alone: nothing of any other table of it is read. What the ledger tells only
/// by its digest is not made again: passwords, second factors, addresses of mails and the secret half of the heads' keys.
/// </summary>
/// <param name="from">Where the ledger and the files stand.</param>
/// <param name="into">Where the works is made: an empty database, as its owner.</param>
public sealed class RebuildStore(Database from, Database into)
{
    private static readonly Refusal NotEmpty = new("The database to make it in must be empty.");

    /// <summary>The database a works is made in, made on the same server where there is none of that name.</summary>
    /// <param name="owner">The connection string of whoever may make databases there.</param>
    /// <param name="into">Its name, or a connection string of its own.</param>
    /// <returns>Its connection string; a refusal where it is not empty.</returns>
    public static async Task<Checked<string>> EmptyAsync(string owner, string into, CancellationToken cancel)
    {
        var connection = into;
        if (!into.Contains('=', StringComparison.Ordinal))
        {
            await using var server = new Database(owner);
            var there = await server
                .Command("select 1 from pg_database where datname = $1")
                .Positional(into)
                .ListAsync(r => r.GetInt32(0), cancel)
                .ConfigureAwait(false);
            if (there.Count == 0)
                await server
                    .Command($"create database \"{into.Replace("\"", "\"\"", StringComparison.Ordinal)}\"")
                    .RunAsync(cancel)
                    .ConfigureAwait(false);
            connection = new NpgsqlConnectionStringBuilder(owner) { Database = into }.ConnectionString;
        }

        await using var database = new Database(connection);
        var tables = await database
            .Command("select 1 from pg_tables where schemaname = current_schema() limit 1")
            .ListAsync(r => r.GetInt32(0), cancel)
            .ConfigureAwait(false);
        return tables.Count == 0 ? connection : NotEmpty;
    }

    /// <summary>Makes it.</summary>
    /// <param name="now">When.</param>
    /// <param name="say">Told how far it has come.</param>
    /// <returns>What was made; what can't be made, in words.</returns>
    /// <exception cref="InvalidDataException">The ledger is broken, or does not tell the whole record.</exception>
    public async Task<Rebuilt> RunAsync(DateTimeOffset now, Func<string, Task> say, CancellationToken cancel)
    {
        await CheckAsync(say, cancel).ConfigureAwait(false);
        await say("the tables").ConfigureAwait(false);
        into.Migrate();
        await using var reading = await from.OpenAsync(cancel).ConfigureAwait(false);
        await using var writing = await into.OpenAsync(cancel).ConfigureAwait(false);
        await using var transaction = await writing.BeginTransactionAsync(cancel).ConfigureAwait(false);

        // What is written here is told already, refers to what comes after it, and may not be refused for being signed.
        await RunAsync(transaction, "set local session_replication_role = replica", cancel).ConfigureAwait(false);
        await RunAsync(transaction, RecordRows.Manner, cancel).ConfigureAwait(false);
        foreach (var table in RecordTables.All)
            await RunAsync(transaction, $"alter table {table.Name} disable trigger {table.Name}_is_told", cancel)
                .ConfigureAwait(false);
        await say("the ledger").ConfigureAwait(false);
        var entries = await TakeAsync(reading, transaction, "ledger", LedgerStore.Columns, cancel)
            .ConfigureAwait(false);
        await TakeAsync(reading, transaction, "ledger_row", "number, kind, key, image", cancel).ConfigureAwait(false);
        await say("the files").ConfigureAwait(false);
        await RunAsync(
                transaction,
                "create temporary table told_file (id uuid, sha256 bytea, bytes bytea, small bytea) on commit drop",
                cancel
            )
            .ConfigureAwait(false);
        await CopyAsync(
                reading,
                transaction,
                "copy (select id, sha256(bytes), bytes, small from attachment) to stdout (format binary)",
                "copy told_file from stdin (format binary)",
                cancel
            )
            .ConfigureAwait(false);
        await PrepareAsync(transaction, cancel).ConfigureAwait(false);
        var columns = await ColumnsAsync(transaction, cancel).ConfigureAwait(false);
        var (rows, pieces) = (0L, 0L);
        foreach (var table in RecordTables.All)
        {
            await say($"the table of the record {table.Name}").ConfigureAwait(false);
            await RunAsync(transaction, $"delete from {table.Name}", cancel).ConfigureAwait(false);
            var made = await RunAsync(transaction, Insert(table, columns), cancel).ConfigureAwait(false);
            rows += made;
            pieces += table.Name == "piece" ? made : 0;
        }

        await RunAsync(transaction, Sequences, cancel).ConfigureAwait(false);
        foreach (var table in RecordTables.All)
            await RunAsync(transaction, $"alter table {table.Name} enable always trigger {table.Name}_is_told", cancel)
                .ConfigureAwait(false);
        await say("what is kept on every piece").ConfigureAwait(false);
        await transaction.CommitAsync(cancel).ConfigureAwait(false);
        await Session
            .RunAloneAsync(
                into,
                new(JudgeAgain.Itself, now, Guid.CreateVersion7()),
                async session =>
                {
                    await session.WriteAsync("analyze").ConfigureAwait(false);
                    await session.DeriveAnewAsync().ConfigureAwait(false);
                    await TellSecretsAsync(session).ConfigureAwait(false);
                    await session.LedgerAsync(new WorksRebuilt(entries, rows), "record").ConfigureAwait(false);
                    return null;
                },
                cancel
            )
            .ConfigureAwait(false);
        return new(entries, rows, pieces);
    }

    /// <summary>Secrets are not made again: that they are gone is told, as anything written is.</summary>
    private static async Task TellSecretsAsync(Session session)
    {
        await session.WriteAsync(RecordRows.Manner).ConfigureAwait(false);
        var standing = await session.AskAsync(RecordRows.Of).ConfigureAwait(false);
        foreach (var table in RecordTables.All.Where(t => t.Hashed.Length > 0))
            await session
                .WriteAsync(
                    $"""
                    insert into record_change (kind, key, image)
                    select '{table.Name}', n.key, record_image(n.image, array[]::text[], array[]::text[])
                    from ({standing.Now(table)}) n join ({table.Told}) t using (key)
                    where n.image <> {standing.WithNulls(table, "t.image")}
                    """
                )
                .ConfigureAwait(false);
    }

    /// <summary>Whether the ledger can be built on: whole in itself, its rows those it was sealed with, all of the record told.</summary>
    private async Task CheckAsync(Func<string, Task> say, CancellationToken cancel)
    {
        await say("the chain of the ledger").ConfigureAwait(false);
        await using var all = from.Patient();
        var (_, broken) = await new LedgerStore(all).VerifyAsync(cancel).ConfigureAwait(false);
        if (broken is not null)
            throw new InvalidDataException($"The chain of the ledger is broken: {broken}.");
        await say("the rows that entries tell").ConfigureAwait(false);
        var told = await VerifiedRows.OpenAsync(all, cancel).ConfigureAwait(false);
        if (told.Whole is null)
            throw new InvalidDataException(
                "The ledger does not tell the whole record: start this program on the works once, or run migrate."
            );
        if (await told.DigestsAsync(cancel).ConfigureAwait(false) is [var (_, why), ..])
            throw new InvalidDataException(why);
    }

    private static Task<long> TakeAsync(
        NpgsqlConnection reading,
        NpgsqlTransaction writing,
        string table,
        string columns,
        CancellationToken cancel
    ) =>
        CopyAsync(
            reading,
            writing,
            $"copy {table} ({columns}) to stdout (format binary)",
            $"copy {table} ({columns}) from stdin (format binary)",
            cancel
        );

    /// <summary>Copies what one database gives into what another takes, as it comes.</summary>
    private static async Task<long> CopyAsync(
        NpgsqlConnection reading,
        NpgsqlTransaction writing,
        string give,
        string take,
        CancellationToken cancel
    )
    {
        await using (var giving = await reading.BeginRawBinaryCopyAsync(give, cancel).ConfigureAwait(false))
        await using (var taking = await writing.Connection!.BeginRawBinaryCopyAsync(take, cancel).ConfigureAwait(false))
            await giving.CopyToAsync(taking, cancel).ConfigureAwait(false);
        var table = take.Split(' ')[1];
        return (
            await writing
                .Command($"select count(*) from {table}")
                .ListAsync(r => r.GetInt64(0), cancel)
                .ConfigureAwait(false)
        )[0];
    }

    /// <summary>The documents of inspections, by their ids, as the entries state them; the oldest entries name none, and told them apart.</summary>
    private static Task PrepareAsync(NpgsqlTransaction transaction, CancellationToken cancel) =>
        RunAsync(
            transaction,
            """
            create temporary table said on commit drop as
              select (l.data::jsonb->>'inspection')::uuid as id, l.data::jsonb as said
              from ledger l
              where l.kind = 'inspection.signed' and l.data::jsonb->>'inspection' is not null
              union all
              select r.key::uuid, jsonb_build_object(
                'case', (r.image->>'case_document')::jsonb, 'verdict', (r.image->>'verdict_document')::jsonb,
                'own', (r.image->>'own_document')::jsonb)
              from ledger_row r
              where r.kind = 'inspection' and r.image ? 'case_document';
            create index on said (id);
            create index on told_file (sha256);
            analyze said;
            analyze ledger_row
            """,
            cancel
        );

    private static async Task<RecordRows> ColumnsAsync(NpgsqlTransaction transaction, CancellationToken cancel)
    {
        var trip = new Trip();
        var rows = RecordRows.Of(trip);
        await trip.MakeAsync(transaction.Connection!, cancel).ConfigureAwait(false);
        return rows.Value;
    }

    /// <summary>A table's rows as the ledger tells them; what it does not tell stands as the table has it for a new row.</summary>
    private static string Insert(RecordTable table, RecordRows columns)
    {
        var told = columns.Columns(table).Where(c => !table.Anew.ContainsKey(c)).ToList();
        return $"""
            insert into {table.Name} ({string.Join(", ", told.Concat(table.Anew.Keys))})
            overriding system value
            select {string.Join(", ", told.Select(c => $"r.{c}").Concat(table.Anew.Values))}
            from ({table.Told}) l, jsonb_populate_record(null::{table.Name}, l.image - {RecordRows.Array(
                table.Hashed
            )}) r
            where l.image is not null
            """;
    }

    /// <summary>Every number that is counted up goes on behind the highest there is.</summary>
    private const string Sequences = """
        do $$
        declare
          c record;
          highest bigint;
        begin
          for c in
            select t.relname, a.attname, pg_get_serial_sequence(t.relname, a.attname) as counter
            from pg_attribute a join pg_class t on t.oid = a.attrelid
            where t.relnamespace = current_schema()::regnamespace and t.relkind = 'r' and a.attidentity <> ''
          loop
            execute format('select max(%I) from %I', c.attname, c.relname) into highest;
            if highest is not null then perform setval(c.counter, highest); end if;
          end loop;
          select max(seq) into highest from (
            select max(seq) as seq from inspection union all select max(seq) from hold union all select max(seq) from retag
            union all select max(seq) from baseline union all select max(seq) from fact_change
            union all select max(seq) from away_return union all select max(seq) from proof_test) s;
          if highest is not null then perform setval('fact_order', highest); end if;
        end $$
        """;

    private static Task<int> RunAsync(NpgsqlTransaction transaction, string sql, CancellationToken cancel)
    {
        var command = transaction.Command(sql);
        command.CommandTimeout = 0;
        return command.RunAsync(cancel);
    }
}
