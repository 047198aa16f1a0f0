using Keralith.Testing;
using Npgsql;
using Xunit;

namespace Keralith.Data.Tests;

/// <summary>Hands that write into the record with every guard off, and eyes that compare two works.</summary>
internal static class Tampering
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    /// <summary>Takes a row of each table of the record by chance and changes a column of it, puts it in once more, or takes it out, unseen.</summary>
    /// <returns>What was done, table by table; those that hold nothing are left out.</returns>
    public static async Task<List<(string Table, string How)>> ByChanceAsync(Yard yard, Random chance)
    {
        var changed = new List<(string Table, string How)>();
        foreach (var table in await TablesAsync(yard.Database, isOfRecord: true))
        {
            // A row by chance, the same for one seed whatever the order they were written in.
            var any =
                $"(select ctid from {table} t where {Standing(table)} order by md5(t::text || '{chance.Next()}') limit 1)";
            if (chance.Next(4) == 0 && await UnseenAsync(yard, $"delete from {table} where ctid = {any}"))
            {
                changed.Add((table, "taken out"));
                continue;
            }

            if (chance.Next(4) == 0 && await UnseenAsync(yard, await AgainAsync(yard, table, any)))
            {
                changed.Add((table, "put in once more"));
                continue;
            }

            foreach (var column in (await ToldAsync(yard, table)).OrderBy(_ => chance.Next()))
            {
                if (!await ChangedAsync(yard, table, column))
                    continue;
                changed.Add((table, $"{column} changed"));
                break;
            }
        }

        return changed;
    }

    /// <summary>The row once more under another id, in SQL.</summary>
    private static async Task<string> AgainAsync(Yard yard, string table, string row)
    {
        var columns = await TextsAsync(
            yard.Database,
            $"select column_name from information_schema.columns where table_name = '{table}' and is_generated = 'NEVER' order by ordinal_position"
        );
        var id = (
            await TextsAsync(
                yard.Database,
                $"select data_type from information_schema.columns where table_name = '{table}' and column_name = 'id'"
            )
        ).SingleOrDefault();
        var values = columns.Select(c =>
            c != "id" ? c
            : id == "uuid" ? "gen_random_uuid()"
            : $"(select max(id) + 1 from {table})"
        );
        return $"insert into {table} ({string.Join(", ", columns)}) overriding system value select {string.Join(", ", values)} from {table} where ctid = {row}";
    }

    private static string Standing(string table) => table == "lift" ? "state <> 'planned' and not is_template" : "true";

    /// <summary>The columns of a table that the ledger tells.</summary>
    public static Task<List<string>> ToldAsync(Yard yard, string table) =>
        TextsAsync(
            yard.Database,
            $"select distinct jsonb_object_keys(image) from ledger_row where kind = '{table}' and image is not null order by 1"
        );

    /// <summary>
    /// Row for row, column for column, what two works hold in the tables of the record: but for secrets, versions, documents
    /// written in another order of their members, and the days of retired gear, which stay as its books had them then.
    /// </summary>
    public static async Task EqualAsync(Database one, Database other)
    {
        foreach (var table in await TablesAsync(one, isOfRecord: true))
        {
            var sql = $"""
                select (to_jsonb(t) - array['version', 'password_hash', 'factor', 'mail', 'sealed', 'last_step',
                  'mails', 'mail_kinds', 'explain', 'unit', 'shows_steps', 'case_document', 'verdict_document', 'own_document', 'sought']
                  {(
                    table == "piece"
                        ? "- case when state in ('condemned', 'destroyed') then array['periodic_due', 'frequent_due', 'due_on', 'proof_due', 'proof_lacks'] else '{}' end"
                        : string.Empty
                )})::text
                  {(
                    table == "inspection"
                        ? "|| case_document::jsonb::text || verdict_document::jsonb::text || coalesce(own_document::jsonb::text, '')"
                        : string.Empty
                )}
                from {table} t
                {(table == "lift" ? "where state <> 'planned' and not is_template" : string.Empty)}
                order by 1
                """;
            Assert.Equal(await TextsAsync(one, sql), await TextsAsync(other, sql));
        }
    }

    /// <summary>Tries to change one column of one row unseen; whether there was one to change.</summary>
    public static async Task<bool> ChangedAsync(Yard yard, string table, string column)
    {
        var type = (
            await TextsAsync(
                yard.Database,
                $"select data_type from information_schema.columns where table_name = '{table}' and column_name = '{column}'"
            )
        ).Single();
        var to = type switch
        {
            "date" => $"{column} + 1",
            "timestamp with time zone" => $"{column} + interval '1 day'",
            "integer" or "bigint" or "smallint" or "numeric" => $"{column} + 1",
            "boolean" => $"not {column}",
            "uuid" => "gen_random_uuid()",
            "jsonb" => $"jsonb_build_object('other', {column})",
            "ARRAY" => $"array_append({column}, 'other')",
            "bytea" => $"sha256({column})",
            _ => $"{column} || 'x'",
        };
        return await UnseenAsync(
            yard,
            $"update {table} set {column} = {to} where ctid = (select ctid from {table} where {column} is not null and {Standing(table)} order by random() limit 1)"
        );
    }

    /// <summary>Carries SQL out with every guard off; whether it was let and touched something.</summary>
    public static async Task<bool> UnseenAsync(Yard yard, string sql)
    {
        await using var owner = new NpgsqlConnection(await TestDatabases.OwnerOfAsync(yard.Database.ConnectionString));
        await owner.OpenAsync(Cancel);
        await using var transaction = await owner.BeginTransactionAsync(Cancel);
        async Task<int> SayAsync(string what)
        {
            await using var command = new NpgsqlCommand(what, owner, transaction);
            return await command.ExecuteNonQueryAsync(Cancel);
        }

        var tables = await TablesAsync(yard.Database, isOfRecord: true);
        await SayAsync("set local session_replication_role = replica");
        await SayAsync(string.Join(';', tables.Select(t => $"alter table {t} disable trigger {t}_is_told")));
        try
        {
            // What is no writing says -1.
            if (await SayAsync(sql) == 0)
                return false;
        }
        catch (PostgresException e) when (e.SqlState[..2] is "23" or "42")
        {
            // A column only takes words of its own: another is tried.
            return false;
        }

        // A guard that was taken off stays off.
        foreach (var table in tables.Where(t => !sql.Contains($"{t}_is_told", StringComparison.Ordinal)))
            await SayAsync($"alter table {table} enable always trigger {table}_is_told");
        await transaction.CommitAsync(Cancel);
        return true;
    }

    public static Task<List<string>> TablesAsync(Database database, bool isOfRecord) =>
        TextsAsync(
            database,
            $"""
            select c.relname from pg_class c
            where c.relkind = 'r' and c.relnamespace = 'public'::regnamespace
              and {(
                isOfRecord ? "" : "not "
            )}exists (select from pg_trigger g where g.tgrelid = c.oid and g.tgname = c.relname || '_is_told')
            """
        );

    public static async Task<long> CountAsync(Database database, string table)
    {
        await using var command = database.Command($"select count(*) from {table}");
        return (long)(await command.ExecuteScalarAsync(Cancel))!;
    }

    public static async Task<List<string>> TextsAsync(Database database, string sql)
    {
        await using var command = database.Command(sql);
        await using var reader = await command.ExecuteReaderAsync(Cancel);
        var texts = new List<string>();
        while (await reader.ReadAsync(Cancel))
            texts.Add(reader.GetString(0));
        return texts;
    }
}
