using Keralith.Core.Lifts;
using Keralith.Web.Lifts;
using Microsoft.AspNetCore.Html;

namespace Keralith.Web.Drawings;

/// <summary>A load under its beam, in elevation to scale along the beam: what hangs above, the drops with their pulls,
/// and where the centre of gravity lies.</summary>
public static class BeamDrawing
{
    private const double Width = 600;
    private const double High = 320;
    private const double Middle = Width / 2;
    private const double BeamAt = 128;
    private const double LoadAt = 232;

    /// <summary>Draws it.</summary>
    public static IHtmlContent Draw(BenchedLift lift, StandBeam stand)
    {
        var s = new Sheet(new DrawingOptions());
        var drops = stand.Drops.Select(d => (double)d.At.Millimetres).ToList();
        var centre = (double?)stand.Centre?.Millimetres;
        var half = new[] { (double)stand.Span.Millimetres / 2, drops.Max(Math.Abs), Math.Abs(centre ?? 0), 100 }.Max();
        double X(double mm) => Middle + (mm / half * 205);
        var ends = half * 1.06;
        s.Rect(X(-ends), BeamAt, X(ends) - X(-ends), 12, 2);
        Above(s, lift, stand, X);
        var result = lift.Result;
        foreach (var (n, at) in drops.Index())
        {
            var leg = result?.Legs.ElementAtOrDefault(n);
            var isWeakest = result?.Weakest is { Place: CarrierPlace.Leg, Leg: { } number } && number == n + 1;
            s.Line(X(at), BeamAt + 12, X(at), LoadAt, isWeakest ? "lift-leg is-weakest" : "lift-leg");
            s.Circle(X(at), BeamAt + 12, 3, "dot");
            if (leg?.Tension is { } pull)
                s.Text(X(at) + 7, (BeamAt + LoadAt) / 2, $"{n + 1}: {lift.Asked(pull)}", "lift-figure", "start");
        }

        var (left, right) = (
            Math.Min(drops.Min(), centre ?? 0) - (half * 0.1),
            Math.Max(drops.Max(), centre ?? 0) + (half * 0.1)
        );
        s.Rect(X(left), LoadAt, X(right) - X(left), 52, 2, "lift-load");
        var g = X(centre ?? 0);
        s.Circle(g, LoadAt + 26, 8, centre is null ? "faint" : "outline");
        s.Path(
            Sheet.F($"M{g:0.#} {LoadAt + 26:0.#}v-8a8 8 0 0 1 8 8ZM{g:0.#} {LoadAt + 26:0.#}v8a8 8 0 0 1 -8 -8Z"),
            "dot"
        );
        s.Line(Middle, BeamAt + 12, Middle, LoadAt + 60, "centre");
        s.Text(
            g,
            LoadAt + 68,
            centre is null ? "centre of gravity not said" : $"centre of gravity {stand.Centre} off the middle",
            "gauge-label"
        );
        if (result?.Beam is { } beam && beam.Piece.Utilisation is { } used)
            s.Text(X(ends) + 6, BeamAt + 10, $"{Math.Ceiling(used * 100):0} %", "lift-figure", "start");
        return new HtmlString(
            s.Svg(
                0,
                0,
                Width,
                High,
                $"{lift.Row.Name}: under a beam{(result is null ? string.Empty : $", {string.Join("; ", result.Legs.Select(l => $"drop {l.Number}{(l.Tension is { } t ? $" pulled with {lift.Asked(t)}" : string.Empty)}"))}")}",
                "drawing lift-drawing"
            )
        );
    }

    private static void Above(Sheet s, BenchedLift lift, StandBeam stand, Func<double, double> x)
    {
        const double Hook = 34;
        s.Path(Sheet.F($"M{Middle:0.#} {Hook - 16:0.#}v5a6.5 6.5 0 1 1 -6.5 6.5"), "lift-hook");
        var isWeakest = lift.Result?.Weakest is { Place: CarrierPlace.TopLeg };
        var style = isWeakest ? "lift-leg is-weakest" : "lift-leg";
        if (stand.Kind != BeamKind.Spreader)
        {
            s.Line(Middle, Hook, Middle, BeamAt, style);
            s.Circle(Middle, BeamAt, stand.Kind == BeamKind.Equaliser ? 5 : 3, "outline");
            return;
        }

        foreach (var (n, end) in new[] { 1, -1 }.Index())
        {
            var at = x(end * (double)stand.Span.Millimetres / 2);
            s.Line(at, BeamAt, Middle, Hook, style);
            s.Circle(at, BeamAt, 3, "dot");
            if (lift.Result?.Beam?.Top.ElementAtOrDefault(n)?.Tension is { } pull)
                s.Text(at + (end * 6), BeamAt - 12, lift.Asked(pull), "lift-figure", end > 0 ? "start" : "end");
        }

        s.Text(Middle + 12, Hook + 20, $"{stand.TopAngle}", "gauge-label", "start");
        if (lift.Result?.Beam?.Compression is { } pressed)
            s.Text(Middle, BeamAt - 6, $"pressed with {lift.Asked(pressed)}", "gauge-label");
    }
}
