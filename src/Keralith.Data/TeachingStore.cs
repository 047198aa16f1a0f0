using Keralith.Core.Gear;
using Keralith.Core.Wear;

namespace Keralith.Data;

/// <summary>One line of what the record teaches.</summary>
/// <param name="Name">What it is of.</param>
/// <param name="Count">How many.</param>
/// <param name="Of">Of how many.</param>
/// <param name="Link">Where its records are; null: nowhere by themselves.</param>
public sealed record TaughtLine(string Name, int Count, int Of, string? Link);

/// <summary>How old gear of a family was when it left, in years.</summary>
public sealed record AgeLine(string Family, int Count, double Youngest, double Middle, double Oldest);

/// <summary>What will leave of a family in the next twelve months.</summary>
public sealed record ExpectedLine(GearFamily Family, RemovalRate Rate);

/// <summary>What the record teaches, from the register's own facts.</summary>
public sealed record Taught(
    IReadOnlyList<TaughtLine> Why,
    IReadOnlyList<TaughtLine> ByMake,
    IReadOnlyList<TaughtLine> ByStore,
    IReadOnlyList<AgeLine> Ages,
    IReadOnlyList<TaughtLine> Findings,
    IReadOnlyList<TaughtLine> FoundAt,
    IReadOnlyList<TaughtLine> ByInspector,
    IReadOnlyList<ExpectedLine> Expected
);

/// <summary>Reads what the record teaches.</summary>
public sealed class TeachingStore(Database database)
{
    /// <summary>Findings that stopped a piece, of inspections that count: the criterion and the kind of inspection.</summary>
    private const string Findings = """
        select i.id, i.piece_id, i.kind, i.signed_by, f->>'criterion' as criterion, f->>'outcome' as outcome
        from standing_inspection i, jsonb_array_elements(i.verdict_document::jsonb->'findings') f
        where f->>'outcome' in ('hold', 'remove')
        """;

    private const string WhySql = $"""
        select coalesce(f.criterion, 'not by an inspection') as name, count(distinct d.piece_id)::int as n,
          (select count(*)::int from disposal where step = 'condemned') as of, '/retired' as link
        from disposal d
        left join ({Findings}) f on f.piece_id = d.piece_id and f.outcome = 'remove'
        where d.step = 'condemned'
        group by 1 order by 2 desc, 1 limit 30
        """;

    private const string MakeSql = """
        select concat_ws(' ', p.maker, p.model) as name, count(d.piece_id)::int as n, count(*)::int as of,
          '/retired?q=' || coalesce(p.maker, '') as link
        from piece p left join disposal d on d.piece_id = p.id and d.step = 'condemned'
        group by p.maker, p.model having count(d.piece_id) > 0
        order by 2 desc, 1 limit 30
        """;

    private const string StoreSql = """
        select s.name, count(d.piece_id)::int as n, count(*)::int as of, null as link
        from piece p join store s on s.id = p.store_id left join disposal d on d.piece_id = p.id and d.step = 'condemned'
        group by s.name, s.position order by s.position
        """;

    private const string FindingsSql = $"""
        select f.criterion as name, count(distinct f.id)::int as n, (select count(*)::int from standing_inspection) as of, null as link
        from ({Findings}) f group by 1 order by 2 desc, 1 limit 30
        """;

    private const string FoundAtSql = $"""
        select i.kind as name, count(distinct f.id)::int as n, count(distinct i.id)::int as of, null as link
        from standing_inspection i left join ({Findings}) f on f.id = i.id
        group by 1 order by 1
        """;

    private const string InspectorSql = """
        select w.name, count(*) filter (where i.verdict in ('hold', 'remove'))::int as n, count(*)::int as of, null as link
        from standing_inspection i join person w on w.id = coalesce(i.made_by, i.signed_by)
        group by w.name order by 3 desc, 1
        """;

    /// <summary>All of it.</summary>
    public async Task<Taught> AsOfAsync(DateOnly today, CancellationToken cancel)
    {
        return new(
            await LinesAsync(WhySql, cancel),
            await LinesAsync(MakeSql, cancel),
            await LinesAsync(StoreSql, cancel),
            await AgesAsync(cancel),
            await LinesAsync(FindingsSql, cancel),
            await LinesAsync(FoundAtSql, cancel),
            await LinesAsync(InspectorSql, cancel),
            await ExpectedAsync(today, cancel)
        );
    }

    private Task<List<TaughtLine>> LinesAsync(string sql, CancellationToken cancel) =>
        database
            .Command(sql)
            .ListAsync(
                r => new TaughtLine(r.Get<string>("name"), r.Get<int>("n"), r.Get<int>("of"), r.TextOrNull("link")),
                cancel
            );

    private Task<List<AgeLine>> AgesAsync(CancellationToken cancel) =>
        database
            .Command(
                """
                select p.family, count(*)::int as n, min(d.at::date - p.in_service_since) / 365.25 as least,
                  percentile_cont(0.5) within group (order by d.at::date - p.in_service_since) / 365.25 as middle,
                  max(d.at::date - p.in_service_since) / 365.25 as most
                from disposal d join piece p on p.id = d.piece_id
                where d.step = 'condemned' and p.in_service_since <= d.at::date
                group by p.family order by 2 desc, 1
                """
            )
            .ListAsync(
                r => new AgeLine(
                    GearFamilies.Find(r.Get<string>("family"))?.Name ?? r.Get<string>("family"),
                    r.Get<int>("n"),
                    (double)r.Get<decimal>("least"),
                    r.Get<double>("middle"),
                    (double)r.Get<decimal>("most")
                ),
                cancel
            );

    /// <summary>Of each family what left, and how long pieces were in service, in the two years before today.</summary>
    private Task<List<ExpectedLine>> ExpectedAsync(DateOnly today, CancellationToken cancel) =>
        database
            .Command(
                $"""
                select p.family, count(d.piece_id) filter (where d.at::date > $1::date - 730)::int as removed,
                  sum(greatest(0, least(coalesce(d.at::date, $1), $1)
                    - greatest(coalesce(p.in_service_since, p.registered_at::date), $1::date - 730)))::float8 / 365.25 as years,
                  count(*) filter (where p.state not in {Fragments.Retired})::int as pieces
                from piece p left join disposal d on d.piece_id = p.id and d.step = 'condemned'
                group by p.family order by 2 desc, 4 desc
                """
            )
            .Positional(today)
            .ListAsync(
                r => new ExpectedLine(
                    GearFamilies.Find(r.Get<string>("family")) ?? GearFamilies.Unknown(r.Get<string>("family")),
                    new(r.Get<int>("removed"), r.Get<double>("years"), r.Get<int>("pieces"))
                ),
                cancel
            );
}
