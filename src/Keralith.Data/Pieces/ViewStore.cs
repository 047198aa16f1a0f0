using Keralith.Core.People;
using Npgsql;

namespace Keralith.Data;

/// <summary>A search somebody keeps under a name.</summary>
public sealed record SavedView(Guid Id, string Name, string Query);

/// <summary>Searches people keep, each their own.</summary>
public sealed class ViewStore(Database database)
{
    public static Asked<List<SavedView>> Of(Trip trip, Guid person) =>
        trip.All(
            new NpgsqlBatchCommand(
                "select id, name, query from saved_view where person_id = $1 order by name"
            ).Positional(person),
            r => new SavedView(r.GetGuid(0), r.GetString(1), r.GetString(2))
        );

    /// <summary>Keeps a search; one of the same name takes its place.</summary>
    public Task<Checked<Recorded>> KeepAsync(string name, string query, Stamp stamp, CancellationToken cancel) =>
        Session.RunAsync(
            database,
            stamp,
            async session =>
            {
                var kept = await session
                    .ReadAsync(
                        "select count(*)::int from saved_view where person_id = $1 and name <> $2",
                        r => r.GetInt32(0),
                        stamp.Actor.Id,
                        (name ?? string.Empty).Trim()
                    )
                    .ConfigureAwait(false);
                if (PeopleActs.RefusalOfView(name, query, kept[0]) is { } refusal)
                    return refusal;
                await session
                    .WriteAsync(
                        """
                        insert into saved_view (id, person_id, name, query) values ($1, $2, $3, $4)
                        on conflict (person_id, name) do update set query = excluded.query
                        """,
                        stamp.Submission,
                        stamp.Actor.Id,
                        name!.Trim(),
                        query
                    )
                    .ConfigureAwait(false);
                return null;
            },
            cancel
        );

    public Task DropAsync(Guid id, Guid person, CancellationToken cancel) =>
        database
            .Command("delete from saved_view where id = $1 and person_id = $2")
            .Positional(id, person)
            .RunAsync(cancel);
}
