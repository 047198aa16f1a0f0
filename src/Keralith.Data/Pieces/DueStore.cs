using System.Security.Cryptography;
using System.Text;
using Keralith.Core.Register;
using Npgsql;

namespace Keralith.Data;

/// <summary>What of the due list is looked at; every filter is optional.</summary>
/// <param name="Store">A store's number.</param>
/// <param name="Family">A family's code.</param>
/// <param name="By">The name of who inspected it last.</param>
/// <param name="Week">Only what runs out in the week that begins on this Monday; null: all that is due within the notice.</param>
public sealed record DueQuery(int? Store = null, string? Family = null, string? By = null, DateOnly? Week = null);

/// <summary>A piece due, and who inspected it last.</summary>
public sealed record DuePiece(Piece Piece, string? LastBy);

/// <summary>Something else of a piece that runs out: a proof test, its calibration, its life.</summary>
/// <param name="What">As people say it.</param>
/// <param name="On">The last day it holds; null: it is asked, and none is on record.</param>
public sealed record DueElse(string Mark, string Family, string Store, string Peg, string What, DateOnly? On);

/// <summary>How many pieces are due of a store, a family or an inspector, and how many of them overdue.</summary>
public sealed record DueCount(string Group, string Value, int Due, int Overdue);

/// <summary>How many inspections run out in a week.</summary>
/// <param name="Week">Its Monday.</param>
public sealed record WeekLoad(DateOnly Week, int Count);

/// <summary>The due list with its counts and the weeks to come.</summary>
public sealed record DueList(
    IReadOnlyList<DuePiece> Pieces,
    IReadOnlyList<DueCount> Counts,
    IReadOnlyList<WeekLoad> Weeks
);

/// <summary>
/// What runs out when: the list to work by, the load of the weeks to come, and the address calendars read it from.
/// </summary>
public sealed class DueStore(Database database)
{
    /// <summary>Weeks looked ahead.</summary>
    public const int WeeksAhead = 26;

    /// <summary>Most pieces listed at once.</summary>
    public const int Most = 300;

    private const string Kept = "p.state in ('in-service', 'held')";
    private const string LastBy = "left join person last on last.id = p.last_by";

    private readonly KeptCounts<DueList> _kept = new();

    /// <summary>The Monday of a day's week.</summary>
    public static DateOnly MondayOf(DateOnly day) => day.AddDays(-(((int)day.DayOfWeek + 6) % 7));

    /// <param name="query">What of it is looked at.</param>
    /// <param name="today">The day it is seen from.</param>
    /// <param name="notice">Days of notice.</param>
    /// <param name="ledger">How far the ledger has come, where that is known; null: it is asked for.</param>
    public async Task<DueList> ListAsync(
        DueQuery query,
        DateOnly today,
        int notice,
        CancellationToken cancel,
        long? ledger = null
    )
    {
        var height = ledger ?? await database.AskAsync(LedgerStore.Height, cancel).ConfigureAwait(false);
        var trip = new Trip();
        var pieces = Listed(trip, query, today, today.AddDays(notice));
        var asked = $"{today:yyyy-MM-dd} {notice}";
        var kept = _kept.Find(asked, height);
        var counts = kept is null ? Counts(trip, today, today.AddDays(notice)) : null;
        var weeks = kept is null ? Weeks(trip, MondayOf(today)) : null;
        await database.MakeAsync(trip, cancel).ConfigureAwait(false);
        if (kept is null)
            _kept.Keep(asked, height, kept = new([], counts!.Value, weeks!.Value));
        return kept with { Pieces = pieces.Value };
    }

    /// <summary>Proof tests, calibrations and lives that run out, where the maker or the site sets a day; the first due first.</summary>
    /// <param name="store">Of one store; null: of all.</param>
    /// <param name="until">The last day looked at.</param>
    public Task<List<DueElse>> ElseAsync(int? store, DateOnly until, CancellationToken cancel) =>
        database
            .Command(
                $"""
                select p.mark, p.family, s.name, p.peg, x.what, x.day
                from (
                  select id, 'proof test' as what, null as day from piece where proof_lacks
                  union all
                  select id, 'proof test', to_char(proof_due, 'YYYY-MM-DD') from piece
                  where proof_due <= $2 and not proof_lacks
                  union all
                  select id, 'life set by its maker', details->>'discardOn' from piece
                  where details ? 'discardOn' and details->>'discardOn' <= $3 and details->>'discardOn' like '____-__-__'
                  union all
                  select id, 'calibration', to_char(calibration_due, 'YYYY-MM-DD') from piece where calibration_due <= $2) x
                join piece p on p.id = x.id
                join store s on s.id = p.store_id
                where {Kept} and ($1::int is null or p.store_id = $1)
                order by x.day nulls first, p.mark
                limit {Most}
                """
            )
            .Positional(store, until, $"{until:yyyy-MM-dd}")
            .ListAsync(
                r => new DueElse(
                    r.GetString(0),
                    r.GetString(1),
                    r.GetString(2),
                    r.GetString(3),
                    r.GetString(4),
                    DayReader.Read(r.TextOrNull("day")) is { Ok: true } day ? day.Value : null
                ),
                cancel
            );

    private static Asked<List<DuePiece>> Listed(Trip trip, DueQuery query, DateOnly today, DateOnly until)
    {
        var asked = new Conditions();
        asked.Add(
            query.Week is { } week
                ? $"p.due_on >= {asked.Bind(week)} and p.due_on <= {asked.Bind(week.AddDays(6))}"
                : $"p.due_on <= {asked.Bind(until)}"
        );
        asked.Add(Kept);
        if (query.Store is { } store)
            asked.Add($"p.store_id = {asked.Bind(store)}");
        if (query.Family is { } family)
            asked.Add($"p.family = {asked.Bind(family)}");
        if (query.By is { } by)
            asked.Add($"last.name = {asked.Bind(by)}");

        // The rows of those listed alone are read in full.
        return trip.All(
            new NpgsqlBatchCommand(
                $"""
                select {PieceRows.Columns}, last.name as last_by
                from (select p.id from piece p join store s on s.id = p.store_id {(
                    query.By is null ? string.Empty : LastBy
                )} where {asked} order by p.due_on, s.position, p.peg, p.mark limit {Most}) page
                join piece p on p.id = page.id
                join store s on s.id = p.store_id {LastBy}
                order by p.due_on, s.position, p.peg, p.mark
                """
            ).Positional(asked.Values),
            r => new DuePiece(PieceRows.From(r), r.TextOrNull("last_by"))
        );
    }

    /// <summary>Counted from the index of what is due; the few groups then get their names.</summary>
    private static Asked<List<DueCount>> Counts(Trip trip, DateOnly today, DateOnly until) =>
        trip.All(
            new NpgsqlBatchCommand(
                $"""
                with d as materialized (
                  select s.name as store, g.family, coalesce(last.name, 'nobody yet') as last_by, g.n, g.overdue
                  from (select p.store_id, p.family, p.last_by, count(*) as n, count(*) filter (where p.due_on < $1) as overdue from piece p where p.due_on <= $2 and {Kept} group by 1, 2, 3) g
                  join store s on s.id = g.store_id left join person last on last.id = g.last_by)
                select 'store' as facet, store as value, sum(n)::int as due, sum(overdue)::int as overdue from d group by store
                union all select 'family', family, sum(n)::int, sum(overdue)::int from d group by family
                union all select 'by', last_by, sum(n)::int, sum(overdue)::int from d group by last_by
                order by 1, 4 desc, 3 desc, 2
                """
            ).Positional(today, until),
            r => new DueCount(r.Get<string>("facet"), r.Get<string>("value"), r.Get<int>("due"), r.Get<int>("overdue"))
        );

    private static Asked<List<WeekLoad>> Weeks(Trip trip, DateOnly first) =>
        trip.Ask(
            new NpgsqlBatchCommand(
                $"select p.due_on, count(*)::int as n from piece p where p.due_on >= $1 and p.due_on < $2 and {Kept} group by p.due_on"
            ).Positional(first, first.AddDays(7 * WeeksAhead)),
            r => (Day: r.GetFieldValue<DateOnly>(0), Count: r.GetInt32(1)),
            days =>
            {
                var found = days.GroupBy(d => MondayOf(d.Day)).ToDictionary(g => g.Key, g => g.Sum(d => d.Count));
                return Enumerable
                    .Range(0, WeeksAhead)
                    .Select(i => first.AddDays(7 * i))
                    .Select(w => new WeekLoad(w, found.GetValueOrDefault(w)))
                    .ToList();
            }
        );

    /// <summary>A new private address for a person's calendar; the one before ends.</summary>
    public async Task<string> NewFeedAsync(Guid person, DateTimeOffset at, CancellationToken cancel)
    {
        var token = Convert.ToHexStringLower(RandomNumberGenerator.GetBytes(24));
        await database
            .Command(
                "insert into due_feed (person_id, hash, made_at) values ($1, $2, $3) on conflict (person_id) do update set hash = excluded.hash, made_at = excluded.made_at"
            )
            .Positional(person, Hash(token), at)
            .RunAsync(cancel)
            .ConfigureAwait(false);
        return token;
    }

    /// <summary>Whether a feed's address counts.</summary>
    public async Task<bool> KnowsFeedAsync(string token, CancellationToken cancel) =>
        (
            await database
                .Command(
                    "select 1 from due_feed f join person p on p.id = f.person_id where f.hash = $1 and p.disabled_at is null"
                )
                .Positional(Hash(token))
                .ListAsync(r => r.GetInt32(0), cancel)
                .ConfigureAwait(false)
        ).Count > 0;

    /// <summary>How many pieces of each store run out on each day up to a day, overdue ones with them.</summary>
    public Task<List<(DateOnly Day, string Store, List<string> Marks)>> DaysAsync(
        DateOnly until,
        CancellationToken cancel
    ) =>
        database
            .Command(
                $"""
                select p.due_on as day, s.name, array_agg(p.mark order by p.mark) as marks
                from piece p
                join store s on s.id = p.store_id
                where p.due_on <= $1 and {Kept}
                group by 1, 2
                order by 1, 2 limit 2000
                """
            )
            .Positional(until)
            .ListAsync(
                r => (r.GetFieldValue<DateOnly>(0), r.GetString(1), r.GetFieldValue<string[]>(2).ToList()),
                cancel
            );

    private static byte[] Hash(string token) => SHA256.HashData(Encoding.UTF8.GetBytes(token));
}
