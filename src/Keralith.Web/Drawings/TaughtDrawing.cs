using System.Globalization;
using Keralith.Core.Wear;
using Keralith.Data;
using Microsoft.AspNetCore.Html;

namespace Keralith.Web.Drawings;

/// <summary>What the record teaches as quiet strips and a line: where counts lie, and how sure they are.</summary>
public static class TaughtDrawing
{
    private const double Wide = 160;
    private const double High = 14;
    private const double Edge = 4;
    private const double Step = 56;
    private const double Floor = 92;
    private const double Tallest = 62;

    /// <summary>What will leave: a bar over the range it lies in, a mark where it is expected.</summary>
    /// <param name="most">Where the strip ends: the largest count of all that stand under one another.</param>
    public static IHtmlContent Range(RemovalRate rate, double most)
    {
        if (!rate.IsKnown)
            return HtmlString.Empty;
        var (from, to) = rate.Range;
        return Strip(
            rate.ToString(),
            $"<path class=\"part\" d=\"M{At(from, most)} 7H{At(to, most)}\"/><path class=\"tick\" d=\"M{At(rate.Expected, most)} 1V13\"/>"
        );
    }

    /// <summary>How old each was when it left: a tick for each, on one scale from new.</summary>
    /// <param name="most">Where the strip ends, in years.</param>
    public static IHtmlContent Ages(IEnumerable<double> years, double most)
    {
        var all = years.ToList();
        return Strip(
            string.Join(", ", all.Select(y => $"{Round(y)} years")),
            string.Concat(all.Select(y => $"<path class=\"tick\" d=\"M{At(y, most)} 2V12\"/>"))
        );
    }

    /// <summary>Of a thousand inspections how many stopped a piece, quarter by quarter.</summary>
    /// <param name="quarters">In order, one after the other.</param>
    public static IHtmlContent Through(IReadOnlyList<TaughtQuarter> quarters)
    {
        var most = Math.Max(1, quarters.Max(q => q.InThousand));
        var s = new Sheet(new DrawingOptions { LinkTo = _ => string.Empty });
        s.Line(0, Floor, quarters.Count * Step, Floor, "weeks-floor");
        var looked = quarters.Select((q, i) => (q, X: (i + 0.5) * Step)).Where(p => p.q.Of > 0).ToList();
        if (looked.Count > 1)
            s.Path(
                "M" + string.Join("L", looked.Select(p => FormattableString.Invariant($"{p.X:0.#} {Y(p.q):0.#}"))),
                "taught-line"
            );
        foreach (var (q, x) in looked)
        {
            s.Circle(x, Y(q), 3, "dot");
            s.Text(x, Y(q) - 8, Round(q.InThousand), "gauge-figure taught-figure");
        }

        foreach (var (q, i) in quarters.Select((q, i) => (q, i)))
            s.Text((i + 0.5) * Step, Floor + 15, q.From.ToString("yyyy-MM", CultureInfo.InvariantCulture), "weeks-day");
        var told = looked.Select(p => $"from {p.q.From:yyyy-MM-dd} {p.q.Found} of {p.q.Of}");
        return new HtmlString(
            s.Svg(
                0,
                0,
                quarters.Count * Step,
                114,
                $"Inspections that stopped a piece, quarter by quarter: {string.Join("; ", told)}",
                "drawing weeks"
            )
        );

        double Y(TaughtQuarter quarter) => Floor - 4 - (quarter.InThousand / most * Tallest);
    }

    private static HtmlString Strip(string says, string drawn) =>
        new(
            FormattableString.Invariant(
                $"<svg viewBox=\"0 0 {Wide} {High}\" class=\"taught-strip\" role=\"img\" aria-label=\"{says}\"><path d=\"M{Edge} 7H{Wide - Edge}\"/>{drawn}</svg>"
            )
        );

    private static string At(double value, double most) =>
        (Edge + (Math.Min(1, most <= 0 ? 0 : value / most) * (Wide - (2 * Edge)))).ToString(
            "0.##",
            CultureInfo.InvariantCulture
        );

    private static string Round(double value) => value.ToString("0.#", CultureInfo.InvariantCulture);
}
