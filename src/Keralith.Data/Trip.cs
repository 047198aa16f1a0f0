using Npgsql;

namespace Keralith.Data;

/// <summary>What one question of a <see cref="Trip"/> will have for an answer.</summary>
/// <typeparam name="T">The type of the answer.</typeparam>
public sealed class Asked<T>
{
    private T? _value;
    private bool _answered;

    /// <summary>The answer.</summary>
    /// <exception cref="InvalidOperationException">The trip was not made yet.</exception>
    public T Value
    {
        get => _answered ? _value! : throw new InvalidOperationException("Asked, and the trip not made yet.");
        internal set => (_value, _answered) = (value, true);
    }
}

/// <summary>
/// Questions put to the database in one round trip. Stores add theirs beside the SQL that asks them; whoever makes the
/// trip decides what goes together.
/// </summary>
public sealed class Trip
{
    private readonly List<(NpgsqlBatchCommand Command, Func<NpgsqlDataReader, CancellationToken, Task>? Read)> _asked =
    [];

    /// <summary>Asks for rows.</summary>
    internal Asked<List<T>> All<T>(NpgsqlBatchCommand command, Func<NpgsqlDataReader, T> row) =>
        Ask(command, row, rows => rows);

    /// <summary>Asks for rows, and what is made of them.</summary>
    internal Asked<TMade> Ask<T, TMade>(
        NpgsqlBatchCommand command,
        Func<NpgsqlDataReader, T> row,
        Func<List<T>, TMade> made
    )
    {
        var answer = new Asked<TMade>();
        _asked.Add((command, async (reader, cancel) =>
            {
                var rows = new List<T>();
                while (await reader.ReadAsync(cancel).ConfigureAwait(false))
                    rows.Add(row(reader));
                answer.Value = made(rows);
            }));
        return answer;
    }

    /// <summary>Writes something on the way.</summary>
    internal void Do(NpgsqlBatchCommand command) => _asked.Add((command, null));

    /// <summary>Takes another trip's questions along.</summary>
    internal void Add(Trip other)
    {
        _asked.AddRange(other._asked);
        other._asked.Clear();
    }

    /// <summary>Puts what was asked of a piece by its id to the piece of a mark.</summary>
    /// <exception cref="InvalidOperationException">A question has more to it than the piece it is asked of.</exception>
    internal void OfPieceMarked(string mark)
    {
        foreach (var (command, _) in _asked)
        {
            if (command.Parameters.Count != 1 || command.CommandText.StartsWith("with", StringComparison.Ordinal))
                throw new InvalidOperationException($"Not asked of a piece alone: {command.CommandText}");
            command.CommandText =
                "with asked as materialized (select id from piece where mark = $1)\n"
                + command.CommandText.Replace("$1", "(select id from asked)", StringComparison.Ordinal);
            command.Parameters.Clear();
            command.Positional(mark);
        }
    }

    /// <summary>Makes the trip.</summary>
    /// <param name="longest">How long it may take; null: as long as the connection lets a question take.</param>
    internal async Task MakeAsync(NpgsqlConnection connection, CancellationToken cancel, TimeSpan? longest = null)
    {
        if (_asked.Count == 0)
            return;
        await using var batch = new NpgsqlBatch(connection);
        if (longest is { } most)
            batch.Timeout = (int)most.TotalSeconds;
        foreach (var (command, _) in _asked)
            batch.BatchCommands.Add(command);
        await using var reader = await batch.ExecuteReaderAsync(cancel).ConfigureAwait(false);
        foreach (var (_, read) in _asked)
        {
            // What only writes brings no result of its own.
            if (read is null)
                continue;
            await read(reader, cancel).ConfigureAwait(false);
            await reader.NextResultAsync(cancel).ConfigureAwait(false);
        }

        _asked.Clear();
    }
}
