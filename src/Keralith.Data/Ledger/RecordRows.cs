using Npgsql;

namespace Keralith.Data;

/// <summary>The rows of the tables of the record as they stand, in the shape in which the ledger tells them.</summary>
/// <param name="columns">The columns of each table that are told.</param>
internal sealed class RecordRows(ILookup<string, string> columns)
{
    /// <summary>Images tell moments in UTC and bytes in hex, whoever asks: said once in the transaction that asks.</summary>
    public const string Manner = "set local timezone to 'UTC'; set local bytea_output to 'hex'";

    /// <summary>Asks what columns there are.</summary>
    public static Asked<RecordRows> Of(Trip trip) =>
        trip.Ask(
            new NpgsqlBatchCommand(
                """
                select c.relname, a.attname
                from pg_attribute a
                join pg_class c on c.oid = a.attrelid
                where c.relnamespace = current_schema()::regnamespace and c.relkind = 'r' and a.attnum > 0 and not a.attisdropped
                order by a.attnum
                """
            ),
            r => (Table: r.GetString(0), Column: r.GetString(1)),
            rows => new RecordRows(
                rows.Where(r => !LeftOut[r.Table].Contains(r.Column)).ToLookup(r => r.Table, r => r.Column)
            )
        );

    private static readonly ILookup<string, string> LeftOut = RecordTables
        .All.SelectMany(t => t.LeftOut.Select(c => (t.Name, Column: c)))
        .ToLookup(c => c.Name, c => c.Column);

    /// <summary>The columns of a table that are told.</summary>
    public IEnumerable<string> Columns(RecordTable table) => columns[table.Name];

    /// <summary>A table as it stands, in SQL: <c>key</c> and <c>image</c> of each row of the record, nulls and all.</summary>
    public string Now(RecordTable table) =>
        $"""
            select {table.KeyOf("x.image")} as key, x.image
            from (select to_jsonb(t) as image from (
              select {string.Join(", ", Columns(table).Select(c => Told(table, c)))}
              from {table.Name} t{(table.Only is { } only ? $" where {only}" : string.Empty)}) t) x
            """;

    /// <summary>An image as told, in SQL, beside <see cref="Now"/>: what is null is not told, and a column made since stands empty.</summary>
    public string WithNulls(RecordTable table, string image) =>
        $"'{{{string.Join(", ", Columns(table).Select(c => $"\"{c}\": null"))}}}'::jsonb || ({image} - {Array(table.LeftOut)})";

    /// <summary>Names of columns as an array, in SQL.</summary>
    public static string Array(IEnumerable<string> columns) =>
        $"array[{string.Join(", ", columns.Select(c => $"'{c}'"))}]::text[]";

    private static string Told(RecordTable table, string column) =>
        table.Hashed.Contains(column)
            ? $"encode(sha256(convert_to(t.{column}::text, 'UTF8')), 'hex') as {column}"
            : $"t.{column}";
}
