using Keralith.Core.Custody;
using Microsoft.AspNetCore.Html;

namespace Keralith.Web.Drawings;

/// <summary>What happened to a piece since it was last known to be good, as a strip of time: a row for each kind of thing.</summary>
public static class LookBackDrawing
{
    private const double Width = 860;
    private const double Left = 92;
    private const double Row = 24;

    /// <summary>Draws it.</summary>
    /// <param name="until">The end of the strip.</param>
    public static IHtmlContent Draw(LookBack back, DateTimeOffset until)
    {
        if (back.Items.Count == 0)
            return HtmlString.Empty;
        var s = new Sheet(new DrawingOptions());
        var kinds = back.Items.Select(i => i.Kind).Distinct().Order().ToList();
        var from = back.Since ?? back.Items.Min(i => i.From);
        var span = Math.Max(1, (until - from).TotalHours);
        double X(DateTimeOffset at) => Left + (Math.Clamp((at - from).TotalHours / span, 0, 1) * (Width - Left - 14));
        var high = (kinds.Count * Row) + 34;
        foreach (var (n, kind) in kinds.Index())
        {
            var y = 12 + (n * Row);
            s.Text(Left - 8, y + 13, Code.Of(kind), "gauge-label", "end");
            s.Line(Left, y + 9, Width - 14, y + 9, "thin");
            foreach (var item in back.Items.Where(i => i.Kind == kind))
            {
                var (begins, ends) = (X(item.From), X(item.Until ?? (item.IsOpen ? until : item.From)));
                s.Add($"<g><title>{Sheet.Html($"{item.From:yyyy-MM-dd} {item.What}, {item.Who}")}</title>");
                if (ends - begins > 3)
                    s.Rect(begins, y + 3, ends - begins, 12, 2, kind == LookBackKind.Held ? "lift-load" : "outline");
                else if (kind == LookBackKind.Event)
                    s.Path(Sheet.F($"M{begins:0.#} {y + 2:0.#}l6 12h-12Z"), "lift-force is-weakest");
                else
                    s.Circle(begins, y + 9, 4, kind == LookBackKind.Inspected ? "outline" : "dot");
                s.Add("</g>");
            }
        }

        s.Text(Left, high - 8, $"{from:yyyy-MM-dd}", "gauge-label", "start");
        s.Text(Width - 14, high - 8, $"{until:yyyy-MM-dd}", "gauge-label", "end");
        return new HtmlString(
            s.Svg(
                0,
                0,
                Width,
                high,
                $"{back.Items.Count} things since {from:yyyy-MM-dd}, by kind and day",
                "drawing look-back"
            )
        );
    }
}
