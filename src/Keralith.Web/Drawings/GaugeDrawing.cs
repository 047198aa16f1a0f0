using Keralith.Core.Gear;
using Keralith.Core.Judgement;
using Keralith.Core.Quantities;
using Microsoft.AspNetCore.Html;

namespace Keralith.Web.Drawings;

/// <summary>
/// A drawn scale: the figure when new at one end, each book's limit as a labelled tick, the reading as a pointer,
/// earlier readings as faint pointers behind.
/// </summary>
public static class GaugeDrawing
{
    private const double Left = 40;
    private const double Right = 500;
    private const double Axis = 50;

    /// <summary>Ticks nearer than this would write over each other.</summary>
    private const double Near = 96;

    /// <summary>Draws the gauge of a length; empty where no figure is known to draw.</summary>
    /// <param name="limits">The limits of the books.</param>
    /// <param name="value">The reading; null: none yet.</param>
    /// <param name="earlier">Earlier readings, oldest first.</param>
    /// <param name="unit">The unit figures are written in.</param>
    public static IHtmlContent Draw(LimitSet limits, Length? value, IReadOnlyList<Length> earlier, LengthUnit unit)
    {
        var ticks = limits
            .Entries.Where(e => e.Resolved is Figure { Reference: not null })
            .Select(e => (e.Book, Figure: (Figure)e.Resolved))
            .GroupBy(e => (e.Figure.Limit, e.Figure.HoldAbove))
            .Select(g => (Books: string.Join(", ", g.Select(e => e.Book)), g.First().Figure))
            .ToList();
        if (ticks.Count == 0)
            return HtmlString.Empty;
        var reference = ticks[0].Figure.Reference!.Value;
        var grows = ticks[0].Figure.Grows;
        var most = ticks.Max(t => Math.Abs(t.Figure.Limit - reference));
        var step = ticks.Select(t => t.Figure.HoldAbove).FirstOrDefault(h => h is not null);
        if (value is { } reading)
            most = Math.Max(most, Math.Min(Change(reading.Millimetres), most * 2));
        var span = (double)most * 1.18;
        if (span <= 0)
            span = 1;

        var s = new Sheet(new DrawingOptions());
        s.Line(Left, Axis, Right, Axis, "gauge-axis");
        for (var i = 0; i <= 20; i++)
            s.Line(
                Left + (i * (Right - Left) / 20),
                Axis,
                Left + (i * (Right - Left) / 20),
                Axis - (i % 5 == 0 ? 8 : 4),
                "gauge-scale"
            );
        s.Line(Left, Axis - 16, Left, Axis + 6, "gauge-new");
        s.Text(Left, Axis + 20, "as new", "gauge-label", "middle");
        s.Text(Left, Axis + 34, Words(reference), "gauge-figure", "middle");
        var row = 0;
        var before = double.NegativeInfinity;
        var ordered = ticks.OrderBy(t => Math.Abs(t.Figure.Limit - reference)).ToList();
        for (var i = 0; i < ordered.Count; i++)
        {
            var (books, figure) = ordered[i];
            var x = At(figure.Limit);
            row = x - before < Near ? row + 1 : 0;
            before = x;
            var y = 14 - (row * 26);

            // The line of a near neighbour comes down at the right: the words step aside.
            var anchor = i + 1 < ordered.Count && At(ordered[i + 1].Figure.Limit) - x < Near ? "end" : Anchor(x);
            s.Line(x, y + 14, x, Axis + 6, "gauge-limit");
            s.Text(x, y, books, "gauge-label", anchor);
            s.Text(x, y + 12, Words(figure.Limit), "gauge-figure", anchor);
        }

        if (step is { } hold)
        {
            s.Line(At(hold), Axis - 14, At(hold), Axis + 6, "gauge-hold");
            s.Text(At(hold), Axis + 20, "hold above", "gauge-label", "start");
            s.Text(At(hold), Axis + 34, Words(hold), "gauge-figure", "start");
        }

        foreach (var old in earlier)
            s.Path(Pointer(At(old.Millimetres)), "gauge-earlier");
        if (value is { } now)
        {
            var x = At(now.Millimetres);
            s.Path(Pointer(x), "gauge-pointer");
            if (x - Left > 60)
                s.Text(x, Axis + 34, Words(now.Millimetres), "gauge-figure gauge-now", Anchor(x));
        }

        var rows = ticks.Count > 1 ? (ticks.Count - 1) * 26 : 0;
        return new HtmlString(
            s.Svg(
                0,
                -rows,
                540,
                92 + rows,
                $"Gauge: as new {Words(reference)}; {string.Join("; ", ticks.Select(t => $"{t.Books} limit {Words(t.Figure.Limit)}"))}{(value is { } v ? $"; reading {Words(v.Millimetres)}" : string.Empty)}",
                "gauge"
            )
        );

        decimal Change(decimal mm) => Math.Max(0, grows ? mm - reference : reference - mm);
        double At(decimal mm) => Left + (Math.Min((double)Change(mm) / span, 1.03) * (Right - Left));
        string Words(decimal mm) => QuantityFormat.Rounded(Length.FromMillimetres(mm).In(unit));
        static string Anchor(double x) => x > Right - 40 ? "end" : "middle";
        static string Pointer(double x) => Sheet.F($"M{x:0.#} {Axis + 1:0.#}l-5 11h10Z");
    }
}
