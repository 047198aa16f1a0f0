namespace Keralith.Data;

/// <summary>How a piece of scheduled work stands.</summary>
/// <param name="StartedAt">When it last began; null: never.</param>
/// <param name="EndedAt">When it last ended; null: it runs, or never ran, or its node was lost.</param>
/// <param name="Failed">Whether it ended by a fault.</param>
/// <param name="Said">What came of it.</param>
/// <param name="IsAsked">Whether somebody asked for it now.</param>
public sealed record ChoreRow(
    string Name,
    DateTimeOffset? StartedAt,
    DateTimeOffset? EndedAt,
    bool Failed,
    string Said,
    bool IsAsked
);

/// <summary>
/// Scheduled work that must be done once, however many nodes run: whoever holds its lock does it. What is due is said by
/// the database's clock alone, so that a node whose clock jumps does nothing twice and leaves nothing out.
/// </summary>
public sealed class ChoreStore(Database database)
{
    private const int LockClass = 0x63686F72;

    /// <summary>All that ever ran, by name.</summary>
    public async Task<Dictionary<string, ChoreRow>> AllAsync(CancellationToken cancel) =>
        (
            await database
                .Command("select name, started_at, ended_at, failed, said, asked_at is not null as asked from chore")
                .ListAsync(
                    r => new ChoreRow(
                        r.GetString(0),
                        r.ValueOrNull<DateTimeOffset>("started_at"),
                        r.ValueOrNull<DateTimeOffset>("ended_at"),
                        r.Get<bool>("failed"),
                        r.Get<string>("said"),
                        r.Get<bool>("asked")
                    ),
                    cancel
                )
                .ConfigureAwait(false)
        ).ToDictionary(c => c.Name);

    /// <summary>Asks for work to be done now; whichever node looks next does it.</summary>
    public Task AskAsync(string name, CancellationToken cancel) =>
        database
            .Command(
                "insert into chore (name, asked_at) values ($1, clock_timestamp()) on conflict (name) do update set asked_at = clock_timestamp()"
            )
            .Positional(name)
            .RunAsync(cancel);

    /// <summary>Does work, if it is due or asked for and no other node does it.</summary>
    /// <param name="every">How long after it last began it is due again; a beginning that lies ahead is none.</param>
    /// <param name="work">The work; says what came of it. Told how to say how far it has come.</param>
    /// <returns>The fault it ended by; null where it went well, or was not done here.</returns>
    public async Task<Exception?> RunIfDueAsync(
        string name,
        TimeSpan every,
        Func<Func<string, Task>, CancellationToken, Task<string>> work,
        CancellationToken cancel
    )
    {
        // A lock of the session: it falls with the node that held it.
        await using var connection = await database.OpenAsync(cancel).ConfigureAwait(false);
        var mine = await Sql.ListAsync(
                new("select pg_try_advisory_lock($1, hashtext($2))", connection)
                {
                    Parameters =
                    {
                        new() { Value = LockClass },
                        new() { Value = name },
                    },
                },
                r => r.GetBoolean(0),
                cancel
            )
            .ConfigureAwait(false);
        if (!mine[0])
            return null;
        try
        {
            return await BeginAsync(name, every, cancel).ConfigureAwait(false)
                ? await EndAsync(name, work, cancel).ConfigureAwait(false)
                : null;
        }
        finally
        {
            await Sql.ListAsync(
                    new("select pg_advisory_unlock($1, hashtext($2))", connection)
                    {
                        Parameters =
                        {
                            new() { Value = LockClass },
                            new() { Value = name },
                        },
                    },
                    r => r.GetBoolean(0),
                    CancellationToken.None
                )
                .ConfigureAwait(false);
        }
    }

    /// <summary>Records work that was done by command.</summary>
    public Task RecordAsync(string name, string said, CancellationToken cancel) =>
        database
            .Command(
                """
                insert into chore (name, started_at, ended_at, said) values ($1, clock_timestamp(), clock_timestamp(), $2)
                on conflict (name) do update
                set started_at = clock_timestamp(), ended_at = clock_timestamp(), failed = false, said = $2
                """
            )
            .Positional(name, said)
            .RunAsync(cancel);

    private async Task<bool> BeginAsync(string name, TimeSpan every, CancellationToken cancel) =>
        (
            await database
                .Command(
                    """
                    insert into chore as c (name, started_at) values ($1, clock_timestamp())
                    on conflict (name) do update
                    set started_at = clock_timestamp(), ended_at = null, failed = false, said = '', asked_at = null
                    where c.asked_at is not null or c.started_at is null
                      or c.started_at <= clock_timestamp() - $2 or c.started_at > clock_timestamp()
                    returning 1
                    """
                )
                .Positional(name, every)
                .ListAsync(r => r.GetInt32(0), cancel)
                .ConfigureAwait(false)
        ).Count > 0;

    private async Task<Exception?> EndAsync(
        string name,
        Func<Func<string, Task>, CancellationToken, Task<string>> work,
        CancellationToken cancel
    )
    {
        try
        {
            var said = await work(s => SayAsync(name, s, cancel), cancel).ConfigureAwait(false);
            await FinishAsync(name, failed: false, said).ConfigureAwait(false);
            return null;
        }
        catch (Exception e) when (e is not OperationCanceledException)
        {
            // Whatever it ended by, it is told where administrators see it.
            await FinishAsync(name, failed: true, e.Message).ConfigureAwait(false);
            return e;
        }
    }

    /// <summary>Says how far work has come.</summary>
    private Task SayAsync(string name, string said, CancellationToken cancel) =>
        database.Command("update chore set said = $2 where name = $1").Positional(name, said).RunAsync(cancel);

    private Task FinishAsync(string name, bool failed, string said) =>
        database
            .Command("update chore set ended_at = clock_timestamp(), failed = $2, said = $3 where name = $1")
            .Positional(name, failed, said)
            .RunAsync(CancellationToken.None);
}
