using System.Globalization;
using Keralith.Data;
using Microsoft.AspNetCore.Html;

namespace Keralith.Web.Drawings;

/// <summary>
/// The weeks to come as columns of links with their counts, one link a piece or, where that would not fit, for several
/// alike: a heavy week is seen before it comes.
/// </summary>
public static class WeeksDrawing
{
    private const double Step = 34;
    private const double Floor = 92;
    private const double Tallest = 70;
    private const int MostLinks = 20;

    /// <param name="weeks">The weeks in order.</param>
    /// <param name="chosen">The week looked at.</param>
    /// <param name="linkTo">Where a week leads; given null, where all lead.</param>
    public static IHtmlContent Draw(IReadOnlyList<WeekLoad> weeks, DateOnly? chosen, Func<string?, string> linkTo)
    {
        var most = Math.Max(1, weeks.Max(w => w.Count));
        var each = (most + MostLinks - 1) / MostLinks;
        var link = Math.Min(7, Tallest / ((most + each - 1) / each));
        var s = new Sheet(new DrawingOptions { LinkTo = _ => string.Empty });
        s.Line(0, Floor, weeks.Count * Step, Floor, "weeks-floor");
        for (var i = 0; i < weeks.Count; i++)
        {
            var (week, count) = weeks[i];
            var day = week.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture);
            var isChosen = week == chosen;
            var x = i * Step;
            s.Add(
                $"<a href=\"{Sheet.Html(linkTo(isChosen ? null : day))}\" aria-label=\"{(count > 0 ? $"{count} " : string.Empty)}in the week from {day}\"{(isChosen ? " aria-current=\"true\"" : string.Empty)}>"
            );
            s.Rect(x + 1, 4, Step - 2, 112, 0, "weeks-hit");
            var links = (count + each - 1) / each;
            for (var n = 0; n < links; n++)
                s.Rect(
                    x + 11 + (n % 2 * 2),
                    Floor - ((n + 1) * link),
                    n % 2 == 0 ? 12 : 8,
                    Math.Max(1.5, link - 1),
                    Math.Min(3, link / 2),
                    "weeks-link"
                );
            if (count > 0)
                s.Text(
                    x + (Step / 2),
                    Floor - (links * link) - 5,
                    count.ToString(CultureInfo.InvariantCulture),
                    "gauge-figure"
                );
            s.Add("</a>");
            if (i % 2 == 0)
                s.Text(x + (Step / 2), Floor + 15, week.ToString("MM-dd", CultureInfo.InvariantCulture), "weeks-day");
        }

        var legend = each == 1 ? string.Empty : $"<p class=\"fine quiet\">A link stands for {each} inspections.</p>";
        return new HtmlString(
            $"<div class=\"scroll\">{s.Svg(0, 0, weeks.Count * Step, 118, "Inspections that run out, week by week", "weeks")}</div>{legend}"
        );
    }
}
