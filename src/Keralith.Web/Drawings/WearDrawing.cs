using System.Globalization;
using Keralith.Core.Gear;
using Keralith.Core.Quantities;
using Keralith.Core.Wear;
using Microsoft.AspNetCore.Html;

namespace Keralith.Web.Drawings;

/// <summary>
/// A measure over time on squared paper: each reading a cross on its day, each book's limit a line with its name, the
/// rate seen as a line to
/// the limit and the middle half of all rates as a band about it.
/// </summary>
public static class WearDrawing
{
    private const double Left = 84;
    private const double Right = 470;
    private const double Top = 26;
    private const double Bottom = 150;
    private const double Near = 13;

    /// <param name="series">The measure.</param>
    /// <param name="part">The part's name, for those who hear the page.</param>
    /// <param name="unit">The unit lengths are written in.</param>
    public static IHtmlContent Draw(WearSeries series, string part, LengthUnit unit)
    {
        var limits = series
            .Limits.Entries.Where(e => e.Resolved is Figure)
            .Select(e => (e.Book, Figure: (Figure)e.Resolved))
            .GroupBy(e => e.Figure.Limit)
            .Select(g => (Value: g.Key, Books: string.Join(", ", g.Select(e => e.Book))))
            .OrderBy(l => l.Value)
            .ToList();
        var wearing = series.Forecast as Wearing;
        var first = series.Points[0].Day;
        var last = series.Points[^1].Day;
        var shown = Math.Max(60, last.DayNumber - first.DayNumber);
        var until = wearing is null
            ? last.AddDays(shown / 6)
            : last.AddDays(Math.Clamp(wearing.DaysToLimit, shown / 6, shown * 2));
        var values = series
            .Points.Select(p => p.Value)
            .Concat(limits.Select(l => l.Value))
            .Concat(series.Governing.Reference is { } r ? [r] : [])
            .ToList();
        var (low, high) = (values.Min(), values.Max());
        if (low == high)
            (low, high) = (low - 1, high + 1);

        var s = new Sheet(new DrawingOptions());
        for (var i = 0; i <= 12; i++)
            s.Line(Left + (i * (Right - Left) / 12), Top, Left + (i * (Right - Left) / 12), Bottom, "wear-grid");
        for (var i = 0; i <= 6; i++)
            s.Line(Left, Top + (i * (Bottom - Top) / 6), Right, Top + (i * (Bottom - Top) / 6), "wear-grid");
        if (series.Governing.Reference is { } asNew)
        {
            s.Line(Left, Y(asNew), Right, Y(asNew), "wear-new");
            s.Text(Left - 5, Y(asNew) + 4, Words(asNew), "gauge-figure", "end");
            s.Text(Left - 5, Y(asNew) + (series.Governing.Grows ? -8 : 16), "new", "gauge-label", "end");
        }

        var above = double.NegativeInfinity;
        foreach (var (value, books) in limits.OrderBy(l => Y(l.Value)))
        {
            s.Line(Left, Y(value), Right, Y(value), "gauge-limit");
            var at = Math.Max(Y(value) + 4, above + Near);
            s.Text(Right + 6, at, $"{Words(value)} {books}", "gauge-label", "start");
            above = at;
        }

        if (wearing is { NamesADay: true })
        {
            var from = (double)wearing.Fitted;
            double AtEnd(decimal slope) =>
                Y(
                    (decimal)
                        Math.Clamp(
                            from + ((double)slope * (until.DayNumber - last.DayNumber)),
                            (double)low - ((double)(high - low) * 0.05),
                            (double)high + ((double)(high - low) * 0.05)
                        )
                );
            s.Path(
                Sheet.F(
                    $"M{X(last):0.#} {Y(wearing.Fitted):0.#}L{X(until):0.#} {AtEnd(wearing.GentleSlope):0.#}V{AtEnd(wearing.SteepSlope):0.#}Z"
                ),
                "wear-band"
            );
            var back = (double)wearing.SlopePerDay * (last.DayNumber - first.DayNumber);
            s.Line(X(first), Y((decimal)(from - back)), X(last), Y(wearing.Fitted), "wear-line");
            s.Line(X(last), Y(wearing.Fitted), X(until), AtEnd(wearing.SlopePerDay), "wear-ahead");
        }

        foreach (var point in series.Points)
            s.Path(Sheet.F($"M{X(point.Day) - 4:0.#} {Y(point.Value) - 4:0.#}l8 8m0 -8l-8 8"), "wear-point");
        s.Text(Left, Bottom + 16, Day(first), "gauge-label", "start");
        s.Text(X(last), Bottom + 16, Day(last), "gauge-label", X(last) > Right - 60 ? "end" : "middle");
        if (X(until) - X(last) > 130)
            s.Text(Right, Bottom + 16, Day(until), "gauge-label", "end");
        return new HtmlString(
            s.Svg(
                0,
                0,
                640,
                Bottom + 24,
                $"{series.Criterion.Title}, {part}: {series.Points.Count} readings from {Day(first)} to {Day(last)}, last {Words(series.Points[^1].Value)}; {string.Join("; ", limits.Select(l => $"{l.Books} limit {Words(l.Value)}"))}. {Said(series)}",
                "wear"
            )
        );

        double X(DateOnly day) =>
            Left
            + (
                (Right - Left)
                * Math.Clamp(
                    (day.DayNumber - first.DayNumber) / (double)Math.Max(1, until.DayNumber - first.DayNumber),
                    0,
                    1
                )
            );
        double Y(decimal value) => Bottom - 6 - ((Bottom - Top - 12) * (double)((value - low) / (high - low)));
        string Words(decimal value) =>
            series.Criterion.Kind == CriterionKind.Count
                ? value.ToString("0", CultureInfo.InvariantCulture)
                : QuantityFormat.Rounded(Length.FromMillimetres(value).In(unit));
        static string Day(DateOnly day) => day.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture);
    }

    /// <summary>What the figures say of the time left, in words.</summary>
    public static string Said(WearSeries series) =>
        series.Forecast switch
        {
            NotEnoughRecords => "Not enough records to tell a rate: three days are needed.",
            NoWearSeen => "No wear seen.",
            Wearing { DaysToLimit: 0 } => "At the limit by the rate seen.",
            Wearing { NamesADay: false } w =>
                $"The limit is not reached before {w.NotBefore:yyyy-MM}: {(w.IsWithinUncertainty ? "the change seen is no more than the instrument can tell" : "the record is too short to say when")}.",
            Wearing w =>
                $"At the rate seen the limit is reached about {w.LimitDay:yyyy-MM-dd}; between {w.LastDay.AddDays(w.SoonestDays):yyyy-MM-dd} and {(w.LatestDays is { } latest ? w.LastDay.AddDays(latest).ToString("yyyy-MM-dd", CultureInfo.InvariantCulture) : "never")} by the middle half of the rates.",
            _ => throw new System.Diagnostics.UnreachableException(),
        };
}
