using Keralith.Core.Lifts;
using Keralith.Web.Lifts;
using Microsoft.AspNetCore.Html;

namespace Keralith.Web.Drawings;

/// <summary>A load on two cranes, in elevation to scale along the load: each hook with its part, and the centre of gravity.</summary>
public static class CranesDrawing
{
    private const double Width = 600;
    private const double High = 250;
    private const double Hook = 46;
    private const double LoadAt = 158;

    /// <summary>Draws it.</summary>
    public static IHtmlContent Draw(BenchedLift lift, StandCranes stand)
    {
        var s = new Sheet(new DrawingOptions());
        var hooks = stand.Hooks.Select(h => (double)h.At.Millimetres).ToList();
        var centre = (double?)stand.Centre?.Millimetres;
        var (least, most) = (Math.Min(hooks.Min(), centre ?? 0), Math.Max(hooks.Max(), centre ?? 0));
        var scale = (Width - 200) / Math.Max(1, most - least);
        double X(double mm) => 100 + ((mm - least) * scale);
        foreach (var (n, at) in hooks.Index())
        {
            var isWeakest = lift.Result?.Weakest is { Place: CarrierPlace.Leg, Leg: { } number } && number == n + 1;
            s.Path(Sheet.F($"M{X(at):0.#} {Hook - 16:0.#}v5a6.5 6.5 0 1 1 -6.5 6.5"), "lift-hook");
            s.Line(X(at), 6, X(at), Hook - 16, "centre");
            s.Line(X(at), Hook + 2, X(at), LoadAt, isWeakest ? "lift-leg is-weakest" : "lift-leg");
            s.Text(X(at) + 12, Hook - 18, $"crane {n + 1}", "gauge-label", "start");
            if (lift.Result?.Legs.ElementAtOrDefault(n)?.Tension is { } pull)
                s.Text(X(at) + 7, (Hook + LoadAt) / 2, lift.Asked(pull), "lift-figure", "start");
        }

        s.Rect(X(least) - 24, LoadAt, X(most) - X(least) + 48, 48, 2, "lift-load");
        var g = X(centre ?? 0);
        s.Circle(g, LoadAt + 24, 8, centre is null ? "faint" : "outline");
        s.Path(
            Sheet.F($"M{g:0.#} {LoadAt + 24:0.#}v-8a8 8 0 0 1 8 8ZM{g:0.#} {LoadAt + 24:0.#}v8a8 8 0 0 1 -8 -8Z"),
            "dot"
        );
        s.Text(
            g,
            LoadAt + 66,
            centre is null ? "centre of gravity not said" : $"centre of gravity at {stand.Centre}",
            "gauge-label"
        );
        var said = (lift.Result?.Legs ?? []).Select(l =>
            $"hook {l.Number}{(l.Tension is { } t ? $" pulled with {lift.Asked(t)}" : string.Empty)}"
        );
        return new HtmlString(
            s.Svg(
                0,
                0,
                Width,
                High,
                $"{lift.Row.Name}: on two cranes, {string.Join("; ", said)}",
                "drawing lift-drawing"
            )
        );
    }
}
