using Keralith.Web.Lifts;
using Microsoft.AspNetCore.Html;

namespace Keralith.Web.Drawings;

/// <summary>The way of a lift as an elevation to scale: what is passed, the load over it, and what the hook comes to.</summary>
public static class PathDrawing
{
    private const double Width = 600;
    private const double High = 260;
    private const double Side = 60;
    private const double Top = 26;
    private const double Ground = 26;

    /// <summary>Draws the way; empty where nobody asks.</summary>
    public static IHtmlContent Draw(BenchedLift lift)
    {
        if (lift.Plan?.Headroom is not { } room || lift.Verdict?.Fit is not { } fit)
            return HtmlString.Empty;
        var s = new Sheet(new DrawingOptions());
        var load = (double)room.Load.Millimetres;
        var legs = (double)(fit.Legs ?? 0);
        var above = (double)(room.Above?.Millimetres ?? 0);
        var bottom = (double)fit.Bottom;
        var hook = bottom + load + legs + above;
        var highest = (double?)room.Highest?.Millimetres;
        var length = Math.Max(load * 2, room.Path.Select(p => (double)p.Along.Millimetres).DefaultIfEmpty(0).Max());
        var scale = Math.Max(length / (Width - (2 * Side) - 40), Math.Max(hook, highest ?? 0) / (High - Top - Ground));
        double X(double mm) => Side + (mm / scale);
        double Y(double mm) => High - Ground - (mm / scale);
        s.Line(8, Y(0), Width - 8, Y(0), "outline");
        foreach (var point in room.Path)
        {
            var isGoverning = point == fit.Governing;
            var (x, wide) = (X((double)point.Along.Millimetres), 26);
            s.Rect(
                x - 13,
                Y((double)point.Clear.Millimetres),
                wide,
                Y(0) - Y((double)point.Clear.Millimetres),
                0,
                isGoverning ? "lift-load" : "thin"
            );
            s.Text(x, Y(0) + 12, point.Note.Length > 0 ? point.Note : point.Along.ToString(), "gauge-label");
        }

        var at = X((double)(fit.Governing?.Along.Millimetres ?? 0));
        var half = Math.Max(14, load / scale / 2);
        s.Rect(at - half, Y(bottom + load), 2 * half, Y(bottom) - Y(bottom + load), 2, "lift-load");
        s.Path(
            Sheet.F(
                $"M{at - half:0.#} {Y(bottom + load):0.#}L{at:0.#} {Y(bottom + load + legs):0.#}L{at + half:0.#} {Y(bottom + load):0.#}M{at:0.#} {Y(bottom + load + legs):0.#}V{Y(hook):0.#}"
            ),
            "lift-leg"
        );
        s.Circle(at, Y(hook), 3, "dot");
        if (highest is { } h)
        {
            s.Line(8, Y(h), Width - 8, Y(h), hook > h ? "lift-force is-weakest" : "lift-leg");
            s.Text(Width - 10, Y(h) - 5, $"hook at its highest {room.Highest}", "gauge-label", "end");
        }

        s.Line(8, Y(bottom), at - half - 4, Y(bottom), "dimension");
        s.Text(10, Y(bottom) - 4, "bottom of the load", "gauge-label", "start");
        return new HtmlString(
            s.Svg(
                0,
                0,
                Width,
                High,
                $"The way: {string.Join(" ", fit.Remarks.Select(r => r.Text))}",
                "drawing lift-drawing"
            )
        );
    }
}
