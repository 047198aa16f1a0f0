using Keralith.Core.Gear;
using Keralith.Core.Wear;

namespace Keralith.Data;

/// <summary>Which figure of what the record teaches its records are wanted of.</summary>
public enum TaughtBy
{
    /// <summary>Condemned, by what was found.</summary>
    [Code("why")]
    Why,

    /// <summary>Condemned, by maker and model.</summary>
    [Code("make")]
    Make,

    /// <summary>Condemned, by store.</summary>
    [Code("store")]
    Store,

    /// <summary>Condemned, by family, and by size where one is said.</summary>
    [Code("family")]
    Family,

    /// <summary>The same of the last two years alone.</summary>
    [Code("left")]
    Left,

    /// <summary>Inspections by what they found.</summary>
    [Code("finding")]
    Finding,

    /// <summary>Inspections that found something, by their kind.</summary>
    [Code("kind")]
    Kind,

    /// <summary>Inspections that stopped a piece, by who made them.</summary>
    [Code("inspector")]
    Inspector,

    /// <summary>Inspections by what they found and by who made them.</summary>
    [Code("inspector-finding")]
    InspectorFinding,

    /// <summary>Measures read twice, by maker and model.</summary>
    [Code("pace-make")]
    PaceOfMake,

    /// <summary>Measures read twice, by store.</summary>
    [Code("pace-store")]
    PaceOfStore,
}

/// <summary>A record behind a figure.</summary>
/// <param name="Mark">The piece's.</param>
/// <param name="On">The day.</param>
/// <param name="Said">What was written; null: what was found says it.</param>
/// <param name="Criteria">What was found, by criterion; empty: nothing is said of it.</param>
/// <param name="Inspection">The inspection; null: it is none.</param>
public sealed record TaughtRecord(
    string Mark,
    string Family,
    DateOnly On,
    string? Said,
    IReadOnlyList<string> Criteria,
    string By,
    Guid? Inspection
);

/// <summary>Reads the records behind the figures of what the record teaches.</summary>
public sealed class TaughtRecords(Database database, TeachingStore teaching)
{
    /// <summary>Most records listed at once.</summary>
    public const int Most = 500;

    private const string Gone = """
        select p.mark, p.family, (d.at at time zone h.time_zone)::date as on_day, d.reason as said,
          array(select distinct f.criterion from found f where f.piece_id = p.id and f.outcome = 'remove') as criteria,
          w.name as by_name, null::uuid as inspection
        from disposal d
        join piece p on p.id = d.piece_id
        join store s on s.id = p.store_id
        join site h on h.id = s.site_id
        join person w on w.id = d.by_person
        where d.step = 'condemned'
        """;

    private const string Inspected = """
        select p.mark, p.family, i.inspected_on as on_day, null as said,
          array(select distinct f.criterion from found f where f.id = i.id) as criteria,
          w.name as by_name, i.id as inspection
        from standing_inspection i
        join piece p on p.id = i.piece_id
        join person w on w.id = coalesce(i.made_by, i.signed_by)
        where true
        """;

    private const string Removed = "select f.criterion from found f where f.piece_id = p.id and f.outcome = 'remove'";

    /// <summary>The newest records of a figure, the first 500.</summary>
    /// <param name="by">What the figure is of.</param>
    /// <param name="value">Of which one: a criterion's id, a name, a family's code.</param>
    /// <param name="and">A size, or who inspected, where it is told apart by that too.</param>
    public async Task<IReadOnlyList<TaughtRecord>> OfAsync(
        TaughtBy by,
        string value,
        string? and,
        DateOnly today,
        CancellationToken cancel
    )
    {
        if (by is TaughtBy.PaceOfMake or TaughtBy.PaceOfStore)
            return Measured(
                (await teaching.PacesAsync(cancel).ConfigureAwait(false)).Where(p =>
                    (by == TaughtBy.PaceOfMake ? p.Make : p.Store) == value
                )
            );
        return await database
            .Command(
                $"""
                with found as materialized ({TeachingStore.Findings})
                {SqlOf(by)}
                order by 3 desc, 1 limit {Most}
                """
            )
            .Positional(value, and, today.AddDays(-TeachingStore.LookedBack))
            .ListAsync(
                r => new TaughtRecord(
                    r.Get<string>("mark"),
                    GearFamilies.Find(r.Get<string>("family"))?.Name ?? r.Get<string>("family"),
                    r.Get<DateOnly>("on_day"),
                    r.TextOrNull("said"),
                    r.Get<string[]>("criteria"),
                    r.Get<string>("by_name"),
                    r.ValueOrNull<Guid>("inspection")
                ),
                cancel
            )
            .ConfigureAwait(false);
    }

    /// <summary>Each asks for the three values, so that the server knows their types.</summary>
    private static string SqlOf(TaughtBy by) =>
        by switch
        {
            TaughtBy.Why =>
                $"{Gone} and ($1::text in ({Removed}) or ($1 = '{TeachingStore.NotFound}' and not exists ({Removed}))) {Rest}",
            TaughtBy.Make => $"{Gone} and concat_ws(' ', p.maker, p.model) = $1::text {Rest}",
            TaughtBy.Store => $"{Gone} and s.name = $1::text {Rest}",
            TaughtBy.Family => $"{Gone} and p.family = $1::text and p.in_service_since <= d.at::date {Rest}",
            TaughtBy.Left =>
                $"{Gone} and p.family = $1::text and ($2::text is null or p.attributes->>'size' = $2) and d.at::date > $3::date",
            TaughtBy.Finding =>
                $"{Inspected} and $1::text in (select f.criterion from found f where f.id = i.id) {Rest}",
            TaughtBy.Kind => $"{Inspected} and i.kind = $1::text and i.id in (select f.id from found f) {Rest}",
            TaughtBy.Inspector => $"{Inspected} and i.verdict in ('hold', 'remove') and w.name = $1::text {Rest}",
            TaughtBy.InspectorFinding =>
                $"{Inspected} and $1::text in (select f.criterion from found f where f.id = i.id) and w.name = $2::text and $3::date is not null",
            TaughtBy.PaceOfMake or TaughtBy.PaceOfStore => throw new ArgumentOutOfRangeException(nameof(by), by, null),
        };

    private const string Rest = "and ($2::text is null or true) and $3::date is not null";

    private static List<TaughtRecord> Measured(IEnumerable<WearPace> paces) =>
        [
            .. paces
                .Where(p => p.IsKnown)
                .OrderByDescending(p => p.PerYear)
                .Take(Most)
                .Select(p => new TaughtRecord(
                    p.Mark,
                    p.Family,
                    p.LastOn,
                    FormattableString.Invariant(
                        $"{p.First:0.#%} of the allowance on {p.FirstOn:yyyy-MM-dd}, {p.Last:0.#%} on {p.LastOn:yyyy-MM-dd}: {p.PerYear:0.#%} a year"
                    ),
                    [p.Criterion],
                    string.Empty,
                    null
                )),
        ];
}
