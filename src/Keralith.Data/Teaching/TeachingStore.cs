using Keralith.Core.Gear;
using Keralith.Core.Wear;
using Npgsql;

namespace Keralith.Data;

/// <summary>One line of what the record teaches.</summary>
/// <param name="Name">What it is of.</param>
/// <param name="Count">How many.</param>
/// <param name="Of">Of how many.</param>
/// <param name="By">Which figure it is: its records are found by it.</param>
public sealed record TaughtLine(string Name, int Count, int Of, TaughtBy By);

/// <summary>How old gear of a family was when it left, in years.</summary>
/// <param name="Each">Of each that left, the youngest first.</param>
public sealed record AgeLine(
    GearFamily Family,
    int Count,
    double Youngest,
    double Middle,
    double Oldest,
    IReadOnlyList<double> Each
);

/// <summary>Inspections of a quarter of a year.</summary>
/// <param name="From">Its first day.</param>
/// <param name="Found">How many stopped a piece.</param>
/// <param name="Of">How many were made.</param>
public sealed record TaughtQuarter(DateOnly From, int Found, int Of)
{
    /// <summary>How many of a thousand stopped a piece; 0 where none was made.</summary>
    public double InThousand => Of == 0 ? 0 : 1000.0 * Found / Of;
}

/// <summary>What will leave of a family in the next twelve months.</summary>
/// <param name="Size">Of one size; null: of all.</param>
public sealed record ExpectedLine(GearFamily Family, RemovalRate Rate, string? Size = null)
{
    /// <summary>What one costs; null: nobody entered it.</summary>
    public Price? One { get; init; }

    /// <summary>What it is expected to cost in the next twelve months; null where no price is known.</summary>
    public Price? Cost => Rate.IsKnown ? One?.Times(Rate.Expected) : null;

    /// <summary>Of a family what its sizes are expected to cost, currency by currency, as far as prices are known.</summary>
    public IReadOnlyList<Price> Costs { get; init; } = [];
}

/// <summary>How fast gear of one make, or of one store, wears.</summary>
/// <param name="Measures">How many measures it is of.</param>
/// <param name="PerYear">Of what the rules allow, the middle share used up in a year.</param>
public sealed record PaceLine(string Name, int Measures, double PerYear);

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
)
{
    /// <summary>The same, size by size, where any left.</summary>
    public IReadOnlyList<ExpectedLine> BySize { get; init; } = [];

    /// <summary>Three years of inspections, quarter by quarter, the oldest first.</summary>
    public IReadOnlyList<TaughtQuarter> Quarters { get; init; } = [];

    /// <summary>What is expected to leave costs to buy again, as far as prices are known.</summary>
    public IReadOnlyList<Price> Costs { get; init; } = [];

    /// <summary>What left in the last two years cost to buy again, as far as prices are known.</summary>
    public IReadOnlyList<Price> LeftCosts { get; init; } = [];

    /// <summary>Where inspectors find otherwise than the others, by more than chance.</summary>
    public IReadOnlyList<FindingDifference> Differences { get; init; } = [];

    /// <summary>How fast each make wears, the fastest first.</summary>
    public IReadOnlyList<PaceLine> PaceByMake { get; init; } = [];

    /// <summary>How fast gear of each store wears, the fastest first.</summary>
    public IReadOnlyList<PaceLine> PaceByStore { get; init; } = [];

    /// <summary>The marks of what reaches a limit within twelve months, going on as it did.</summary>
    public IReadOnlyList<string> WearingOut { get; init; } = [];
}

/// <summary>Reads what the record teaches.</summary>
public sealed class TeachingStore(Database database)
{
    /// <summary>Findings that stopped a piece, of inspections that count: the criterion and the kind of inspection.</summary>
    internal const string Findings = """
        select i.id, i.piece_id, i.kind, i.signed_by, f->>'criterion' as criterion, f->>'outcome' as outcome
        from standing_inspection i, jsonb_array_elements(i.verdict_document::jsonb->'findings') f
        where i.verdict in ('hold', 'remove') and f->>'outcome' in ('hold', 'remove')
        """;

    /// <summary>What stands for a criterion where no inspection found one.</summary>
    internal const string NotFound = "not by an inspection";

    /// <summary>Days looked back for what left.</summary>
    internal const int LookedBack = 730;

    private const string WhySql = $"""
        select coalesce(f.criterion, '{NotFound}') as name, count(distinct d.piece_id)::int as n,
          (select count(*)::int from disposal where step = 'condemned') as of
        from disposal d
        left join ({Findings}) f on f.piece_id = d.piece_id and f.outcome = 'remove'
        where d.step = 'condemned'
        group by 1 order by 2 desc, 1 limit 30
        """;

    private const string MakeSql = """
        select concat_ws(' ', p.maker, p.model) as name, count(d.piece_id)::int as n, count(*)::int as of
        from piece p left join disposal d on d.piece_id = p.id and d.step = 'condemned'
        group by p.maker, p.model having count(d.piece_id) > 0
        order by 2 desc, 1 limit 30
        """;

    private const string StoreSql = """
        select s.name, count(d.piece_id)::int as n, count(*)::int as of
        from piece p join store s on s.id = p.store_id left join disposal d on d.piece_id = p.id and d.step = 'condemned'
        group by s.name, s.position order by s.position
        """;

    private const string FindingsSql = $"""
        select f.criterion as name, count(distinct f.id)::int as n, (select count(*)::int from standing_inspection) as of
        from ({Findings}) f group by 1 order by 2 desc, 1 limit 30
        """;

    private const string FoundAtSql = $"""
        select i.kind as name, count(f.id)::int as n, count(*)::int as of
        from standing_inspection i left join (select distinct id from ({Findings}) found) f on f.id = i.id
        group by 1 order by 1
        """;

    private const string InspectorSql = """
        select w.name, count(*) filter (where i.verdict in ('hold', 'remove'))::int as n, count(*)::int as of
        from standing_inspection i join person w on w.id = coalesce(i.made_by, i.signed_by)
        group by w.name order by 3 desc, 1
        """;

    private readonly KeptCounts<Taught> _kept = new();

    /// <summary>All of it, kept until the ledger or a price says otherwise: it goes through every inspection.</summary>
    public async Task<Taught> AsOfAsync(DateOnly today, CancellationToken cancel)
    {
        var trip = new Trip();
        var height = LedgerStore.Height(trip);
        var prices = trip.All(
            new NpgsqlBatchCommand("select md5(coalesce(string_agg(p::text, ';' order by p::text), '')) from price p"),
            r => r.GetString(0)
        );
        await database.MakeAsync(trip, cancel);
        var asked = $"{today:yyyy-MM-dd} {prices.Value[0]}";
        if (_kept.Find(asked, height.Value) is { } kept)
            return kept;
        var taught = await CountedAsync(today, cancel);
        _kept.Keep(asked, height.Value, taught);
        return taught;
    }

    private async Task<Taught> CountedAsync(DateOnly today, CancellationToken cancel)
    {
        var (expected, paces) = (await ExpectedAsync(today, cancel), await PacesAsync(cancel));
        return new(
            await LinesAsync(WhySql, TaughtBy.Why, cancel),
            await LinesAsync(MakeSql, TaughtBy.Make, cancel),
            await LinesAsync(StoreSql, TaughtBy.Store, cancel),
            await AgesAsync(cancel),
            await LinesAsync(FindingsSql, TaughtBy.Finding, cancel),
            await LinesAsync(FoundAtSql, TaughtBy.Kind, cancel),
            await LinesAsync(InspectorSql, TaughtBy.Inspector, cancel),
            [
                .. expected
                    .GroupBy(e => e.Family)
                    .Select(g => new ExpectedLine(
                        g.Key,
                        new(g.Sum(e => e.Rate.Removed), g.Sum(e => e.Rate.PieceYears), g.Sum(e => e.Rate.Pieces))
                    )
                    {
                        Costs = Price.Sum(g.Select(e => e.Cost).OfType<Price>()),
                    })
                    .OrderByDescending(e => e.Rate.Removed)
                    .ThenByDescending(e => e.Rate.Pieces),
            ]
        )
        {
            Quarters = await QuartersAsync(today, cancel),
            Costs = Price.Sum(expected.Select(e => e.Cost).OfType<Price>()),
            LeftCosts = Price.Sum(expected.Select(e => e.One?.Times(e.Rate.Removed)).OfType<Price>()),
            Differences = FindingDifference.Of(await SharesAsync(cancel)),
            BySize = [.. expected.Where(e => e is { Size: not null, Rate.Removed: > 0 })],
            PaceByMake = Lines(paces, p => p.Make),
            PaceByStore = Lines(paces, p => p.Store),
            WearingOut =
            [
                .. paces
                    .Where(p => p.ReachesBy(today.AddYears(1)))
                    .Select(p => p.Mark)
                    .Distinct()
                    .Order(StringComparer.Ordinal),
            ],
        };
    }

    private static List<PaceLine> Lines(IEnumerable<WearPace> paces, Func<WearPace, string> by) =>
        [
            .. paces
                .Where(p => p.IsKnown)
                .GroupBy(by)
                .Select(g => new PaceLine(g.Key, g.Count(), WearPace.Middle(g)))
                .OrderByDescending(l => l.PerYear)
                .Take(30),
        ];

    /// <summary>The first and the last reading of every measure of gear that is not retired, in full inspections that count.</summary>
    internal Task<List<WearPace>> PacesAsync(CancellationToken cancel) =>
        database
            .Command(
                $"""
                select p.mark, p.family, x.criterion, concat_ws(' ', p.maker, p.model) as make, s.name as store,
                  (array_agg(x.used order by x.on_day))[1] as first, min(x.on_day) as first_on,
                  (array_agg(x.used order by x.on_day desc))[1] as last, max(x.on_day) as last_on
                from (
                  select i.piece_id, i.inspected_on as on_day, f->>'part' as part, f->>'criterion' as criterion,
                    max((f->>'consumed')::numeric) as used
                  from standing_inspection i, jsonb_array_elements(i.verdict_document::jsonb->'findings') f
                  where i.kind in {Fragments.Full} and f->>'consumed' is not null
                  group by i.id, i.piece_id, i.inspected_on, f->>'part', f->>'criterion') x
                join piece p on p.id = x.piece_id join store s on s.id = p.store_id
                where p.state not in {Fragments.Retired}
                group by p.mark, p.family, p.maker, p.model, s.name, x.part, x.criterion
                having count(*) > 1
                """
            )
            .ListAsync(
                r => new WearPace(
                    r.Get<string>("mark"),
                    r.Get<string>("make"),
                    r.Get<string>("store"),
                    r.Get<decimal>("first"),
                    r.Get<DateOnly>("first_on"),
                    r.Get<decimal>("last"),
                    r.Get<DateOnly>("last_on")
                )
                {
                    Family = GearFamilies.Find(r.Get<string>("family"))?.Name ?? r.Get<string>("family"),
                    Criterion = r.Get<string>("criterion"),
                },
                cancel
            );

    private Task<List<TaughtLine>> LinesAsync(string sql, TaughtBy by, CancellationToken cancel) =>
        database
            .Command(sql)
            .ListAsync(r => new TaughtLine(r.Get<string>("name"), r.Get<int>("n"), r.Get<int>("of"), by), cancel);

    /// <summary>How often each inspector found what they looked for.</summary>
    private Task<List<FindingShare>> SharesAsync(CancellationToken cancel) =>
        database
            .Command(
                """
                select w.name, f->>'criterion' as criterion, count(distinct i.id)::int as looked,
                  count(distinct i.id) filter (where f->>'outcome' in ('hold', 'remove'))::int as found
                from standing_inspection i
                join person w on w.id = coalesce(i.made_by, i.signed_by)
                cross join jsonb_array_elements(i.verdict_document::jsonb->'findings') f
                group by 1, 2
                """
            )
            .ListAsync(
                r => new FindingShare(
                    r.Get<string>("name"),
                    r.Get<string>("criterion"),
                    r.Get<int>("found"),
                    r.Get<int>("looked")
                ),
                cancel
            );

    private const int QuartersBack = 12;

    private Task<List<TaughtQuarter>> QuartersAsync(DateOnly today, CancellationToken cancel) =>
        database
            .Command(
                """
                select q::date as first, coalesce(i.found, 0) as found, coalesce(i.looked, 0) as of
                from generate_series(
                  date_trunc('quarter', $1::date::timestamp) - make_interval(months => 3 * ($2::int - 1)),
                  date_trunc('quarter', $1::date::timestamp), interval '3 months') q
                left join (
                  select date_trunc('quarter', inspected_on::timestamp) as quarter, count(*)::int as looked,
                    count(*) filter (where verdict in ('hold', 'remove'))::int as found
                  from standing_inspection group by 1) i on i.quarter = q
                order by q
                """
            )
            .Positional(today, QuartersBack)
            .ListAsync(r => new TaughtQuarter(r.Get<DateOnly>("first"), r.Get<int>("found"), r.Get<int>("of")), cancel);

    private Task<List<AgeLine>> AgesAsync(CancellationToken cancel) =>
        database
            .Command(
                """
                select p.family, count(*)::int as n, min(d.at::date - p.in_service_since) / 365.25 as least,
                  percentile_cont(0.5) within group (order by d.at::date - p.in_service_since) / 365.25 as middle,
                  max(d.at::date - p.in_service_since) / 365.25 as most,
                  array_agg(((d.at::date - p.in_service_since) / 365.25)::float8 order by d.at::date - p.in_service_since) as each
                from disposal d join piece p on p.id = d.piece_id
                where d.step = 'condemned' and p.in_service_since <= d.at::date
                group by p.family order by 2 desc, 1
                """
            )
            .ListAsync(
                r => new AgeLine(
                    GearFamilies.Find(r.Get<string>("family")) ?? GearFamilies.Unknown(r.Get<string>("family")),
                    r.Get<int>("n"),
                    (double)r.Get<decimal>("least"),
                    r.Get<double>("middle"),
                    (double)r.Get<decimal>("most"),
                    r.Get<double[]>("each")
                ),
                cancel
            );

    /// <summary>Of each family and size what left, and how long pieces were in service, in the two years before today.</summary>
    private Task<List<ExpectedLine>> ExpectedAsync(DateOnly today, CancellationToken cancel) =>
        database
            .Command(
                $"""
                select p.family, p.attributes->>'size' as size, c.amount, c.currency, count(d.piece_id) filter (where d.at::date > $1::date - {LookedBack})::int as removed,
                  sum(greatest(0, least(coalesce(d.at::date, $1), $1)
                    - greatest(coalesce(p.in_service_since, p.registered_at::date), $1::date - {LookedBack})))::float8 / 365.25 as years,
                  count(*) filter (where p.state not in {Fragments.Retired})::int as pieces
                from piece p
                left join disposal d on d.piece_id = p.id and d.step = 'condemned'
                left join price c on c.family = p.family and c.size = coalesce(p.attributes->>'size', '')
                group by p.family, p.attributes->>'size', c.amount, c.currency
                order by removed desc, pieces desc
                """
            )
            .Positional(today)
            .ListAsync(
                r => new ExpectedLine(
                    GearFamilies.Find(r.Get<string>("family")) ?? GearFamilies.Unknown(r.Get<string>("family")),
                    new(r.Get<int>("removed"), r.Get<double>("years"), r.Get<int>("pieces")),
                    r.TextOrNull("size")
                )
                {
                    One = r.ValueOrNull<decimal>("amount") is { } amount
                        ? new(amount, r.Get<string>("currency"))
                        : null,
                },
                cancel
            );
}
