using Npgsql;
using NpgsqlTypes;

namespace Keralith.Data;

/// <summary>Short ways to fill parameters and read rows; the SQL itself stands beside the code that uses it.</summary>
internal static class Sql
{
    /// <summary>
    /// Fills $1, $2 and so on. A null goes as text: PostgreSQL finds its type from where it stands. Texts lose NUL,
    /// which it can't hold.
    /// </summary>
    public static NpgsqlCommand Positional(this NpgsqlCommand command, params ReadOnlySpan<object?> values)
    {
        Fill(command.Parameters, values);
        return command;
    }

    /// <summary>Fills $1, $2 and so on of one command of a batch.</summary>
    public static NpgsqlBatchCommand Positional(this NpgsqlBatchCommand command, params ReadOnlySpan<object?> values)
    {
        Fill(command.Parameters, values);
        return command;
    }

    private static void Fill(NpgsqlParameterCollection parameters, ReadOnlySpan<object?> values)
    {
        foreach (var value in values)
        {
            parameters.Add(
                value is null
                    ? new NpgsqlParameter { Value = DBNull.Value, NpgsqlDbType = NpgsqlDbType.Unknown }
                    : new NpgsqlParameter
                    {
                        Value = value is string text
                            ? text.Replace("\0", string.Empty, StringComparison.Ordinal)
                            : value,
                    }
            );
        }
    }

    /// <summary>A command inside a transaction.</summary>
    public static NpgsqlCommand Command(this NpgsqlTransaction transaction, string sql) =>
        new(sql, transaction.Connection, transaction);

    public static async Task<List<T>> ListAsync<T>(
        this NpgsqlCommand command,
        Func<NpgsqlDataReader, T> row,
        CancellationToken cancel
    )
    {
        await using (command.ConfigureAwait(false))
        {
            var list = new List<T>();
            await using var reader = await command.ExecuteReaderAsync(cancel).ConfigureAwait(false);
            while (await reader.ReadAsync(cancel).ConfigureAwait(false))
                list.Add(row(reader));
            return list;
        }
    }

    public static async Task<T?> FirstAsync<T>(
        this NpgsqlCommand command,
        Func<NpgsqlDataReader, T> row,
        CancellationToken cancel
    )
        where T : class
    {
        await using (command.ConfigureAwait(false))
        {
            await using var reader = await command.ExecuteReaderAsync(cancel).ConfigureAwait(false);
            return await reader.ReadAsync(cancel).ConfigureAwait(false) ? row(reader) : null;
        }
    }

    public static async Task<int> RunAsync(this NpgsqlCommand command, CancellationToken cancel)
    {
        await using (command.ConfigureAwait(false))
            return await command.ExecuteNonQueryAsync(cancel).ConfigureAwait(false);
    }

    public static string? TextOrNull(this NpgsqlDataReader reader, string name) =>
        reader.OrNull(name, reader.GetString);

    public static T? OrNull<T>(this NpgsqlDataReader reader, string name, Func<int, T> read)
        where T : class
    {
        var at = reader.GetOrdinal(name);
        return reader.IsDBNull(at) ? null : read(at);
    }

    public static T? ValueOrNull<T>(this NpgsqlDataReader reader, string name)
        where T : struct
    {
        var at = reader.GetOrdinal(name);
        return reader.IsDBNull(at) ? null : reader.GetFieldValue<T>(at);
    }

    public static T Get<T>(this NpgsqlDataReader reader, string name) =>
        reader.GetFieldValue<T>(reader.GetOrdinal(name));
}

/// <summary>
/// Conditions and the values they are bound to, as they are asked for: only what is asked stands in the query, so each
/// shape is planned for itself.
/// </summary>
internal sealed class Conditions
{
    private readonly List<object?> _values = [];
    private readonly List<string> _all = [];

    /// <summary>The values, in the order of their parameters.</summary>
    public object?[] Values => [.. _values];

    /// <summary>The parameter a value is bound to.</summary>
    public string Bind(object? value)
    {
        _values.Add(value);
        return $"${_values.Count}";
    }

    public void Add(string condition) => _all.Add(condition);

    /// <summary>All of them.</summary>
    public override string ToString() => All(_all);

    /// <summary>Conditions that must all hold.</summary>
    public static string All(IReadOnlyCollection<string> conditions) =>
        conditions.Count == 0 ? "true" : string.Join(" and ", conditions);
}
