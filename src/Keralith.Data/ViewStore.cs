using Npgsql;

namespace Keralith.Data;

/// <summary>A search somebody keeps under a name.</summary>
public sealed record SavedView(Guid Id, string Name, string Query);

/// <summary>Searches people keep, each their own.</summary>
public sealed class ViewStore(Database database)
{
    private const int Most = 30;

    public static Asked<List<SavedView>> Of(Trip trip, Guid person) =>
        trip.All(
            new NpgsqlBatchCommand(
                "select id, name, query from saved_view where person_id = $1 order by name"
            ).Positional(person),
            r => new SavedView(r.GetGuid(0), r.GetString(1), r.GetString(2))
        );

    /// <summary>Keeps a search; one of the same name takes its place.</summary>
    public async Task<Checked<Recorded>> KeepAsync(string name, string query, Stamp stamp, CancellationToken cancel)
    {
        if (string.IsNullOrWhiteSpace(name) || name.Trim().Length > 60)
            return new Refusal("Name the view in at most 60 letters.");
        if (query.Length > 1000)
            return new Refusal("This search is too long to keep.");
        var kept = await database
            .Command(
                """
                insert into saved_view (id, person_id, name, query) select $1, $2, $3, $4 where (select count(*) from saved_view where person_id = $2) < $5
                on conflict (person_id, name) do update set query = excluded.query
                """
            )
            .Positional(stamp.Submission, stamp.Actor.Id, name.Trim(), query, Most)
            .RunAsync(cancel)
            .ConfigureAwait(false);
        return kept == 0 ? new Refusal($"You keep {Most} views already; let one go first.") : new Recorded(false);
    }

    public Task DropAsync(Guid id, Guid person, CancellationToken cancel) =>
        database
            .Command("delete from saved_view where id = $1 and person_id = $2")
            .Positional(id, person)
            .RunAsync(cancel);
}
