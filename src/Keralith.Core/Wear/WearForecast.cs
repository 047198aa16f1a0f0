using Keralith.Core.Gear;

namespace Keralith.Core.Wear;

/// <summary>One measured figure of one criterion on one part.</summary>
/// <param name="Day">The day it was measured.</param>
/// <param name="Value">Millimetres, degrees or a count.</param>
public readonly record struct WearPoint(DateOnly Day, decimal Value);

/// <summary>
/// What a series of figures says of the time left. Advice only: it may shorten an interval, never lengthen one.
/// A series begins anew when a part is replaced; the caller hands in one series.
/// </summary>
public abstract record WearForecast
{
    private const int FewestDays = 3;

    /// <summary>No forecast looks further ahead than this many days (a hundred years).</summary>
    private const int FurthestDays = 36_525;

    private protected WearForecast() { }

    /// <summary>
    /// The forecast of a series: the Theil-Sen slope (median of all pairwise slopes) over days, from the latest fitted
    /// value to the limit.
    /// Of several figures of one day the worst counts.
    /// </summary>
    /// <param name="points">In any order.</param>
    /// <param name="limit">The limit that governs.</param>
    /// <param name="uncertainty">Of the instruments the figures were taken with, in their unit; 0: not stated.</param>
    public static WearForecast Of(IEnumerable<WearPoint> points, Figure limit, decimal uncertainty = 0)
    {
        // Turned so that wear always grows: a loss is counted as the negative of what is left.
        var sign = limit.Grows ? 1 : -1;
        var series = points
            .GroupBy(p => p.Day)
            .Select(g => (Day: g.Key.DayNumber, Value: g.Max(p => sign * p.Value)))
            .OrderBy(p => p.Day)
            .ToList();
        if (series.Count < FewestDays)
            return new NotEnoughRecords(series.Count);

        var slopes = new List<decimal>(series.Count * (series.Count - 1) / 2);
        for (var i = 0; i < series.Count; i++)
        {
            for (var j = i + 1; j < series.Count; j++)
                slopes.Add((series[j].Value - series[i].Value) / (series[j].Day - series[i].Day));
        }

        slopes.Sort();
        var slope = Quantile(slopes, 0.5m);
        if (slope <= 0)
            return new NoWearSeen();
        var intercepts = series.Select(p => p.Value - (slope * (p.Day - series[0].Day))).Order().ToList();
        var latest = series[^1].Day;
        var fitted = Quantile(intercepts, 0.5m) + (slope * (latest - series[0].Day));
        var left = (sign * limit.Limit) - fitted;
        return new Wearing(
            DateOnly.FromDayNumber(latest),
            sign * fitted,
            sign * slope,
            sign * Quantile(slopes, 0.25m),
            sign * Quantile(slopes, 0.75m),
            Days(left, slope)!.Value,
            Days(left, Quantile(slopes, 0.75m))!.Value,
            Days(left, Quantile(slopes, 0.25m))
        )
        {
            SpanDays = latest - series[0].Day,
            IsWithinUncertainty = uncertainty > 0 && slope * (latest - series[0].Day) <= uncertainty,
        };
    }

    /// <summary>
    /// Whole days until the limit at a slope, rounded down; 0 when it is reached already; null when the slope never
    /// gets there.
    /// </summary>
    private static int? Days(decimal left, decimal slope) =>
        left <= 0 ? 0
        : slope <= 0 ? null
        : (int)Math.Min(Math.Floor(left / slope), FurthestDays);

    /// <summary>A quantile of sorted values, between two of them in proportion.</summary>
    private static decimal Quantile(List<decimal> sorted, decimal share)
    {
        var at = share * (sorted.Count - 1);
        var below = (int)at;
        var above = Math.Min(below + 1, sorted.Count - 1);
        return sorted[below] + ((sorted[above] - sorted[below]) * (at - below));
    }
}

/// <summary>Fewer than three days with a figure: nothing can be said.</summary>
/// <param name="Days">How many there are.</param>
public sealed record NotEnoughRecords(int Days) : WearForecast;

/// <summary>The figures stand still or change the harmless way.</summary>
public sealed record NoWearSeen : WearForecast;

/// <summary>Wear is seen.</summary>
/// <param name="LastDay">The day of the last figure.</param>
/// <param name="Fitted">The fitted value on that day.</param>
/// <param name="SlopePerDay">Median change a day.</param>
/// <param name="GentleSlope">First quartile of the pairwise slopes: the band's gentler edge; it may even lead the
/// harmless way.</param>
/// <param name="SteepSlope">Third quartile: the band's steeper edge.</param>
/// <param name="DaysToLimit">Days from the last figure to the limit; 0 when the fitted value has reached it.</param>
/// <param name="SoonestDays">The same at the steeper edge.</param>
/// <param name="LatestDays">The same at the gentler edge; null when that never gets there.</param>
public sealed record Wearing(
    DateOnly LastDay,
    decimal Fitted,
    decimal SlopePerDay,
    decimal GentleSlope,
    decimal SteepSlope,
    int DaysToLimit,
    int SoonestDays,
    int? LatestDays
) : WearForecast
{
    /// <summary>Days from the first figure to the last.</summary>
    public int SpanDays { get; init; }

    /// <summary>Whether the change over all of the record is no more than the instruments can tell.</summary>
    public bool IsWithinUncertainty { get; init; }

    /// <summary>
    /// Whether the record carries a day: a forecast that reaches further than twice its span, or whose change the instruments can't
    /// tell from none, names none.
    /// </summary>
    public bool NamesADay => !IsWithinUncertainty && DaysToLimit <= 2 * SpanDays;

    /// <summary>Before this day the limit is not reached as far as the record tells: where no day is named.</summary>
    public DateOnly NotBefore => LastDay.AddDays(Math.Min(SoonestDays, 2 * SpanDays));

    /// <summary>The day the limit is reached as far as the figures tell.</summary>
    public DateOnly LimitDay => LastDay.AddDays(DaysToLimit);

    /// <summary>The next periodic inspection should be no later than half the time to the limit.</summary>
    public DateOnly InspectBy => LastDay.AddDays(DaysToLimit / 2);

    /// <summary>An earlier due date to propose; null where the one in force is early enough. Never a later one.</summary>
    /// <param name="due">The due date in force.</param>
    public DateOnly? EarlierThan(DateOnly due) => InspectBy < due ? InspectBy : null;
}
