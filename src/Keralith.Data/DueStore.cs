using System.Security.Cryptography;
using System.Text;
using Npgsql;

namespace Keralith.Data;

/// <summary>What of the due list is looked at; every filter is optional.</summary>
/// <param name="Store">A store's number.</param>
/// <param name="Family">A family's code.</param>
/// <param name="By">The name of who inspected it last.</param>
/// <param name="Week">Only what runs out in the week that begins on this Monday; null: all that is due within the notice.</param>
public sealed record DueQuery(int? Store = null, string? Family = null, string? By = null, DateOnly? Week = null);

/// <summary>A piece due, and who inspected it last.</summary>
public sealed record DuePiece(PieceRow Piece, string? LastBy);

/// <summary>How many pieces are due of a store, a family or an inspector, and how many of them overdue.</summary>
public sealed record DueCount(string Group, string Value, int Due, int Overdue);

/// <summary>How many inspections run out in a week.</summary>
/// <param name="Week">Its Monday.</param>
public sealed record WeekLoad(DateOnly Week, int Count);

/// <summary>The due list with its counts and the weeks to come.</summary>
public sealed record DueList(IReadOnlyList<DuePiece> Pieces, IReadOnlyList<DueCount> Counts, IReadOnlyList<WeekLoad> Weeks);

/// <summary>What runs out when: the list to work by, the load of the weeks to come, and the address calendars read it from.</summary>
public sealed class DueStore(Database database)
{
    /// <summary>Weeks looked ahead.</summary>
    public const int WeeksAhead = 26;

    /// <summary>Most pieces listed at once.</summary>
    public const int Most = 300;

    private const string Due = "least(p.periodic_due, p.frequent_due)";
    private const string Kept = "p.state in ('in-service', 'held')";
    private const string LastBy = "left join person last on last.id = p.last_by";

    /// <summary>The Monday of a day's week.</summary>
    public static DateOnly MondayOf(DateOnly day) => day.AddDays(-(((int)day.DayOfWeek + 6) % 7));

    public async Task<DueList> ListAsync(DueQuery query, DateOnly today, int notice, CancellationToken cancel)
    {
        var until = today.AddDays(notice);
        var asked = new Conditions();
        asked.Add(query.Week is { } week ? $"{Due} >= {asked.Bind(week)} and {Due} <= {asked.Bind(week.AddDays(6))}" : $"{Due} <= {asked.Bind(until)}");
        asked.Add(Kept);
        if (query.Store is { } store) asked.Add($"p.store_id = {asked.Bind(store)}");
        if (query.Family is { } family) asked.Add($"p.family = {asked.Bind(family)}");
        if (query.By is { } by) asked.Add($"last.name = {asked.Bind(by)}");

        // Who inspected last is looked up for those listed alone, unless it is asked for.
        await using var connection = await database.OpenAsync(cancel).ConfigureAwait(false);
        await using var batch = new NpgsqlBatch(connection)
        {
            BatchCommands =
            {
                new NpgsqlBatchCommand($"""
                    select {PieceRow.Columns}, last.name as last_by
                    from (select p.id from piece p join store s on s.id = p.store_id {(query.By is null ? string.Empty : LastBy)} where {asked} order by {Due}, s.position, p.peg, p.mark limit {asked.Bind(Most)}) page
                    join piece p on p.id = page.id join store s on s.id = p.store_id {LastBy} order by {Due}, s.position, p.peg, p.mark
                    """).Positional(asked.Values),
                new NpgsqlBatchCommand($"""
                    with d as materialized (select s.name as store, p.family, coalesce(last.name, 'nobody yet') as last_by, {Due} < $1 as overdue from piece p join store s on s.id = p.store_id {LastBy} where {Due} <= $2 and {Kept})
                    select 'store' as facet, store as value, count(*)::int as due, (count(*) filter (where overdue))::int as overdue from d group by store
                    union all select 'family', family, count(*)::int, (count(*) filter (where overdue))::int from d group by family
                    union all select 'by', last_by, count(*)::int, (count(*) filter (where overdue))::int from d group by last_by
                    order by 1, 4 desc, 3 desc, 2
                    """).Positional(today, until),
                new NpgsqlBatchCommand($"select date_trunc('week', {Due})::date as week, count(*)::int as n from piece p where {Due} >= $1 and {Due} < $2 and {Kept} group by 1 order by 1")
                    .Positional(MondayOf(today), MondayOf(today).AddDays(7 * WeeksAhead)),
            },
        };
        await using var reader = await batch.ExecuteReaderAsync(cancel).ConfigureAwait(false);
        var pieces = new List<DuePiece>();
        while (await reader.ReadAsync(cancel).ConfigureAwait(false)) pieces.Add(new(PieceRow.From(reader), reader.TextOrNull("last_by")));
        await reader.NextResultAsync(cancel).ConfigureAwait(false);
        var counts = new List<DueCount>();
        while (await reader.ReadAsync(cancel).ConfigureAwait(false)) counts.Add(new(reader.Get<string>("facet"), reader.Get<string>("value"), reader.Get<int>("due"), reader.Get<int>("overdue")));
        await reader.NextResultAsync(cancel).ConfigureAwait(false);
        var found = new Dictionary<DateOnly, int>();
        while (await reader.ReadAsync(cancel).ConfigureAwait(false)) found[reader.Get<DateOnly>("week")] = reader.Get<int>("n");
        var weeks = Enumerable.Range(0, WeeksAhead).Select(i => MondayOf(today).AddDays(7 * i)).Select(w => new WeekLoad(w, found.GetValueOrDefault(w))).ToList();
        return new(pieces, counts, weeks);
    }

    /// <summary>A new private address for a person's calendar; the one before ends.</summary>
    public async Task<string> NewFeedAsync(Guid person, DateTimeOffset at, CancellationToken cancel)
    {
        var token = Convert.ToHexStringLower(RandomNumberGenerator.GetBytes(24));
        await database.Command("insert into due_feed (person_id, hash, made_at) values ($1, $2, $3) on conflict (person_id) do update set hash = excluded.hash, made_at = excluded.made_at")
            .Positional(person, Hash(token), at).RunAsync(cancel).ConfigureAwait(false);
        return token;
    }

    /// <summary>Whether a feed's address counts.</summary>
    public async Task<bool> KnowsFeedAsync(string token, CancellationToken cancel) =>
        (await database.Command("select 1 from due_feed where hash = $1").Positional(Hash(token)).ListAsync(r => r.GetInt32(0), cancel).ConfigureAwait(false)).Count > 0;

    /// <summary>How many pieces of each store run out on each day up to a day, overdue ones with them.</summary>
    public Task<List<(DateOnly Day, string Store, List<string> Marks)>> DaysAsync(DateOnly until, CancellationToken cancel) => database.Command($"""
        select {Due} as day, s.name, array_agg(p.mark order by p.mark) as marks from piece p join store s on s.id = p.store_id where {Due} <= $1 and {Kept} group by 1, 2 order by 1, 2 limit 2000
        """).Positional(until).ListAsync(r => (r.GetFieldValue<DateOnly>(0), r.GetString(1), r.GetFieldValue<string[]>(2).ToList()), cancel);

    private static byte[] Hash(string token) => SHA256.HashData(Encoding.UTF8.GetBytes(token));
}
