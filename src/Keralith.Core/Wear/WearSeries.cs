using Keralith.Core.Gear;
using Keralith.Core.Judgement;
using Keralith.Core.Quantities;
using Keralith.Core.Register;

namespace Keralith.Core.Wear;

/// <summary>One record a series is read from.</summary>
/// <param name="Day">The day it was inspected.</param>
/// <param name="SignedAt">From when it counts: figures from before a part was replaced are not this part's.</param>
/// <param name="Case">What was answered.</param>
public sealed record WearRecord(DateOnly Day, DateTimeOffset SignedAt, Case Case);

/// <summary>The figures of one measure on one part over time, its limits, and what they say of the time left.</summary>
/// <param name="Points">In order of their days.</param>
/// <param name="Limits">Every book's limit as it stands today.</param>
/// <param name="Governing">The limit reached first.</param>
public sealed record WearSeries(
    string Part,
    Criterion Criterion,
    IReadOnlyList<WearPoint> Points,
    LimitSet Limits,
    Figure Governing,
    WearForecast Forecast
)
{
    /// <summary>The series of a piece: every length that is compared with a figure when new, and every count.</summary>
    /// <param name="now">Its gear, with books and limits as they stand.</param>
    /// <param name="baselines">Its figures when new, and since when they count.</param>
    /// <param name="records">Its signed inspections, in any order.</param>
    public static IReadOnlyList<WearSeries> Of(
        Case now,
        IReadOnlyDictionary<BaselineKey, (Length Figure, DateTimeOffset Since)> baselines,
        IEnumerable<WearRecord> records
    )
    {
        var points = Readings(baselines, records);
        var placement = Catalogue.PlacementOf(now.Gear, now.Books);
        var all = new List<WearSeries>();
        foreach (var (key, series) in points)
        {
            if (Catalogue.Find(key.Criterion) is not { } criterion || placement.IndexOf(criterion, key.Part) < 0)
                continue;
            var limits = LimitSet.For(
                now,
                criterion,
                baselines.TryGetValue(key, out var baseline) ? baseline.Figure : null
            );
            var figures = limits.Entries.Select(e => e.Resolved).OfType<Figure>().ToList();
            if (figures.Count == 0)
                continue;
            var governing = figures[0].Grows ? figures.MinBy(f => f.Limit)! : figures.MaxBy(f => f.Limit)!;

            // Of several readings in one record the worst counts.
            var worst = series
                .Select(s => new WearPoint(s.Record.Day, governing.Grows ? s.Readings.Max() : s.Readings.Min()))
                .ToList();
            all.Add(
                new(
                    key.Part,
                    criterion,
                    worst,
                    limits,
                    governing,
                    WearForecast.Of(worst, governing, series.Max(s => s.Uncertainty))
                )
            );
        }

        return all;
    }

    /// <summary>What was measured and counted of each part, record by record, from when its figure when new counts.</summary>
    private static Dictionary<
        BaselineKey,
        List<(WearRecord Record, List<decimal> Readings, decimal Uncertainty)>
    > Readings(
        IReadOnlyDictionary<BaselineKey, (Length Figure, DateTimeOffset Since)> baselines,
        IEnumerable<WearRecord> records
    )
    {
        var points =
            new Dictionary<BaselineKey, List<(WearRecord Record, List<decimal> Readings, decimal Uncertainty)>>();
        foreach (var record in records.OrderBy(r => r.Day))
        {
            foreach (var answer in record.Case.Answers)
            {
                var key = new BaselineKey(answer.Part, answer.Criterion.Id);
                decimal? value = answer.Response switch
                {
                    Measured measured when !answer.Criterion.IsPair => measured.Value.Millimetres,
                    Counted counted => counted.Count,
                    _ => null,
                };
                if (value is null || (baselines.TryGetValue(key, out var baseline) && record.SignedAt < baseline.Since))
                    continue;
                if (!points.TryGetValue(key, out var series))
                    points[key] = series = [];
                if (series.Count == 0 || !ReferenceEquals(series[^1].Record, record))
                    series.Add((record, [], (answer.Response as Measured)?.Uncertainty.Millimetres ?? 0));
                series[^1].Readings.Add(value.Value);
            }
        }

        return points;
    }

    /// <summary>
    /// The earliest next inspection the series advise, and the one that does; null where the due date is early enough
    /// for all.
    /// </summary>
    public static (DateOnly Day, WearSeries Series)? Earlier(IEnumerable<WearSeries> series, DateOnly due)
    {
        (DateOnly Day, WearSeries Series)? earliest = null;
        foreach (var one in series)
        {
            if (one.Forecast is Wearing wearing && wearing.EarlierThan(earliest?.Day ?? due) is { } day)
                earliest = (day, one);
        }

        return earliest;
    }
}
