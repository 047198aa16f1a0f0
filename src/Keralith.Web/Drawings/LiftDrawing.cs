using System.Globalization;
using Keralith.Core.Lifts;
using Keralith.Core.Tags;
using Keralith.Web.Lifts;
using Microsoft.AspNetCore.Html;

namespace Keralith.Web.Drawings;

/// <summary>
/// A lift to scale in elevation and plan: hook, legs, picks, centre of gravity, with the pull of each leg drawn along
/// it as long as it is large, and its
/// inward part at the pick. Picks and centre of gravity can be taken hold of where they are known points.
/// </summary>
public static class LiftDrawing
{
    private const double ElevationWide = 390;
    private const double PlanWide = 210;
    private const double High = 380;
    private const double Beside = 62;
    private const double Above = 44;
    private const double Below = 78;

    /// <summary>Draws a lift; an empty frame while nothing can be drawn.</summary>
    /// <param name="lift">The lift.</param>
    /// <param name="handles">Whether points may be taken hold of.</param>
    public static IHtmlContent Draw(BenchedLift lift, bool handles)
    {
        var s = new Sheet(new DrawingOptions());
        if (lift.Plan?.Stand is StandDrift row)
            return Between(s, lift, row);
        if (lift.Plan?.Stand is StandBeam beam)
            return BeamDrawing.Draw(lift, beam);
        if (lift.Plan?.Stand is StandCranes cranes)
            return CranesDrawing.Draw(lift, cranes);
        if (Posed.Of(lift) is not { } posed)
            return new HtmlString(
                s.Svg(0, 0, ElevationWide + PlanWide, High, "Nothing to draw yet", "drawing lift-drawing")
            );
        var points = posed.Picks.Append(posed.Hook).Append(posed.Centre).ToList();
        var elevation = Frame.Of(points.Select(p => (p.X, p.Z)), 0, ElevationWide);
        var plan = Frame.Of(points.Select(p => (p.X, p.Y)), ElevationWide, PlanWide, elevation.Scale);
        s.Text(8, 16, "Elevation", "gauge-label", "start");
        s.Text(ElevationWide + 8, 16, "Plan", "gauge-label", "start");
        s.Line(ElevationWide, 8, ElevationWide, High - 8);
        Load(s, posed, elevation, p => p.Z);
        Load(s, posed, plan, p => p.Y);
        Legs(s, lift, posed, elevation, p => p.Z, figures: true);
        Legs(s, lift, posed, plan, p => p.Y, figures: false);
        Hook(s, elevation.X(posed.Hook.X), elevation.Y(posed.Hook.Z));
        s.Circle(plan.X(posed.Hook.X), plan.Y(posed.Hook.Y), 5);
        Point(s, posed, elevation, p => p.Z, "z", handles);
        Point(s, posed, plan, p => p.Y, "y", handles);
        var label =
            $"{lift.Row.Name}: {posed.Picks.Count} legs{(lift.Result is { } r ? $", {string.Join("; ", r.Legs.Select(l => $"leg {l.Number} at {Number(l.Angle)} deg{(l.Tension is { } t ? $" pulled with {lift.Asked(t)}" : string.Empty)}"))}" : string.Empty)}";
        return new HtmlString(
            s.Svg(0, 0, ElevationWide + PlanWide, High, label, "drawing lift-drawing", handles && posed.IsGeometry)
        );
    }

    /// <summary>The hitches, each by its drawing.</summary>
    public static IHtmlContent Hitch(Hitch hitch)
    {
        var s = new Sheet(new DrawingOptions());
        Hook(s, 40, 16);
        switch (hitch)
        {
            case Core.Tags.Hitch.Vertical:
                s.Line(40, 16, 40, 66, "outline");
                s.Circle(40, 69, 3);
                s.Rect(18, 72, 44, 20, 1);
                break;
            case Core.Tags.Hitch.Choker:
                s.Circle(40, 78, 15);
                s.Path("M40 16V58M40 58C30 60 25 68 24 78a16 16 0 1 0 32 0C55 68 50 60 42 57", "thin");
                s.Line(40, 16, 40, 62, "outline");
                s.Circle(42, 61, 3);
                break;
            case Core.Tags.Hitch.Basket:
                s.Circle(40, 76, 14);
                s.Path("M40 16L26 76a14 14 0 0 0 28 0Z", "lift-leg");
                break;
            default:
                throw new ArgumentOutOfRangeException(nameof(hitch), hitch, null);
        }

        return new HtmlString(s.Svg(0, 0, 80, 100, Words(hitch), "drawing hitch-drawing"));
    }

    /// <summary>A hitch as people say it.</summary>
    public static string Words(Hitch hitch) =>
        hitch switch
        {
            Core.Tags.Hitch.Vertical => "Straight",
            Core.Tags.Hitch.Choker => "Choker",
            Core.Tags.Hitch.Basket => "Basket",
        };

    private static void Hook(Sheet s, double x, double y) =>
        s.Path(Sheet.F($"M{x:0.#} {y - 12:0.#}v5a6.5 6.5 0 1 1 -6.5 6.5"), "lift-hook");

    private static double Bottom(Posed posed, Frame frame, Func<Point3, double> up) => Edges(posed, frame, up).Bottom;

    private static (double Top, double Bottom) Edges(Posed posed, Frame frame, Func<Point3, double> up)
    {
        var all = posed.Picks.Append(posed.Centre).ToList();
        var (top, bottom) = (frame.Y(all.Max(up)), frame.Y(all.Min(up)));
        return bottom - top >= 24 ? (top, bottom)
            : up(posed.Hook) > all.Max(up) ? (top, top + 30)
            : (top - 15, bottom + 15);
    }

    private static void Load(Sheet s, Posed posed, Frame frame, Func<Point3, double> up)
    {
        var all = posed.Picks.Append(posed.Centre).ToList();
        var (left, right) = (frame.X(all.Min(p => p.X)) - 10, frame.X(all.Max(p => p.X)) + 10);
        var (top, bottom) = Edges(posed, frame, up);
        s.Rect(left, top, right - left, bottom - top, 2, "lift-load");
    }

    private static void Legs(Sheet s, BenchedLift lift, Posed posed, Frame frame, Func<Point3, double> up, bool figures)
    {
        var result = lift.Result;
        var most = result?.Legs.Max(l => l.Tension ?? 0) ?? 0;
        var taken = new List<double>();
        for (var i = 0; i < posed.Picks.Count; i++)
        {
            var pick = posed.Picks[i];
            var (x, y) = (frame.X(pick.X), frame.Y(up(pick)));
            var (hx, hy) = (frame.X(posed.TopOf(i).X), frame.Y(up(posed.TopOf(i))));
            var leg = result?.Legs.ElementAtOrDefault(i);
            var weakest = result?.Weakest is { Leg: { } number } && number == i + 1;
            s.Line(x, y, hx, hy, weakest ? "lift-leg is-weakest" : "lift-leg");
            if (leg?.Tension is not { } tension || most <= 0)
                continue;
            var share = 0.62 * (double)(tension / most);
            Arrow(
                s,
                x,
                y,
                x + ((hx - x) * share),
                y + ((hy - y) * share),
                weakest ? "lift-force is-weakest" : "lift-force"
            );
            if (!figures)
                continue;
            if (leg.Inward is { } inward && inward > 0 && tension > 0 && Math.Abs(hx - x) > 4)
            {
                var along =
                    Math.Sign(hx - x)
                    * Math.Max(
                        8,
                        0.62 * (double)(inward / most) * Math.Sqrt(((hx - x) * (hx - x)) + ((hy - y) * (hy - y)))
                    );
                Arrow(s, x, y + 8, x + along, y + 8, "lift-inward");
            }

            // Under the load, so that no figure lies on a leg.
            var at = Bottom(posed, frame, up) + 16 + (taken.Count(t => Math.Abs(t - x) < 84) * 25);
            taken.Add(x);
            var right = x >= frame.X(posed.Hook.X);
            var tx = Math.Clamp(x, 78, ElevationWide - 78);
            s.Text(
                right ? tx + 72 : tx - 72,
                at,
                $"{i + 1}: {lift.Asked(tension)}",
                "lift-figure",
                right ? "end" : "start"
            );
            s.Text(
                right ? tx + 72 : tx - 72,
                at + 11,
                $"{Number(leg.Angle)} deg",
                "gauge-label",
                right ? "end" : "start"
            );
        }
    }

    private static void Point(Sheet s, Posed posed, Frame frame, Func<Point3, double> up, string axis, bool handles)
    {
        if (handles && posed.IsGeometry)
            Handle("hook", "Hook", posed.Hook, () => s.Circle(0, 0, 3.4, "dot"));
        for (var i = 0; i < posed.Picks.Count; i++)
            Handle($"pick-{i + 1}", $"Pick {i + 1}", posed.Picks[i], () => s.Circle(0, 0, 4.5, "outline"));
        Handle("g", "Centre of gravity", posed.Centre, () =>
        {
            s.Circle(0, 0, 7, "outline");
            s.Path("M0 0V-7A7 7 0 0 1 7 0ZM0 0V7A7 7 0 0 1 -7 0Z", "dot");
        });

        void Handle(string name, string said, Point3 point, Action draw)
        {
            var at = Sheet.F($"translate({frame.X(point.X):0.##} {frame.Y(up(point)):0.##})");
            if (handles && posed.IsGeometry)
            {
                s.Add(
                    Sheet.F(
                        $"<g class=\"handle\" transform=\"{at}\" tabindex=\"0\" role=\"slider\" aria-label=\"{said}, {(axis == "z" ? "elevation" : "plan")}: arrows move it\" aria-valuenow=\"{point.X:0}\" aria-valuetext=\"x {point.X:0} mm, {axis} {up(point):0} mm\" data-point=\"{name}\" data-axis=\"{axis}\" data-scale=\"{frame.Scale:0.######}\">"
                    )
                );
                s.Circle(0, 0, 14, "weeks-hit");
            }
            else
            {
                s.Add($"<g transform=\"{at}\">");
            }

            draw();
            s.Add("</g>");
        }
    }

    private static void Arrow(Sheet s, double x, double y, double toX, double toY, string style)
    {
        var (dx, dy) = (toX - x, toY - y);
        var length = Math.Sqrt((dx * dx) + (dy * dy));
        if (length < 3)
            return;
        var (ux, uy) = (dx / length, dy / length);
        s.Add(
            Sheet.F(
                $"<path class=\"{style}\" d=\"M{x:0.#} {y:0.#}L{toX:0.#} {toY:0.#}M{toX - (ux * 8) + (uy * 3.6):0.#} {toY - (uy * 8) - (ux * 3.6):0.#}L{toX:0.#} {toY:0.#}L{toX - (ux * 8) - (uy * 3.6):0.#} {toY - (uy * 8) + (ux * 3.6):0.#}\"/>"
            )
        );
    }

    private static HtmlString Between(Sheet s, BenchedLift lift, StandDrift row)
    {
        var hooks = row.Steps.Select(d => d.First).Append(row.Steps[^1].Second).ToList();
        var frame = Frame.Of(
            hooks
                .Select(h => (h.X, h.Z))
                .Concat(row.Steps.SelectMany(d => new[] { (d.From, d.Height), (d.To, d.Height) })),
            0,
            ElevationWide + PlanWide
        );
        s.Line(
            10,
            frame.Y(hooks.Max(h => h.Z)) - 10,
            ElevationWide + PlanWide - 10,
            frame.Y(hooks.Max(h => h.Z)) - 10,
            "outline"
        );
        foreach (var (n, drift) in row.Steps.Index())
            Step(s, lift, drift, frame, n, row.Steps.Count == 1);
        foreach (var (n, hook) in hooks.Index())
        {
            Hook(s, frame.X(hook.X), frame.Y(hook.Z));
            s.Text(frame.X(hook.X), frame.Y(hook.Z) - 22, $"hoist {n + 1}", "gauge-label");
            if (row.Steps.Count > 1 && lift.Result?.Legs.ElementAtOrDefault(n)?.Tension is { } worst)
                s.Text(
                    frame.X(hook.X),
                    frame.Y(row.Steps[0].Height) + 30,
                    $"{n + 1}: {lift.Asked(worst)}",
                    "lift-figure"
                );
        }

        return new(
            s.Svg(
                0,
                0,
                ElevationWide + PlanWide,
                High,
                $"{lift.Row.Name}: the load on its way along {hooks.Count} hoists, the pull of each under it",
                "drawing lift-drawing"
            )
        );
    }

    /// <summary>The load on its way from one hoist to the next.</summary>
    private static void Step(Sheet s, BenchedLift lift, Drift drift, Frame frame, int number, bool figures)
    {
        var kilograms = (double)(lift.Plan?.Load.Weight.Kilograms ?? 0);
        var way = drift.Way;
        for (var i = 0; i < way.Count; i += 5)
        {
            var (x, y) = (frame.X(way[i].X), frame.Y(drift.Height));
            s.Line(x, y, frame.X(drift.First.X), frame.Y(drift.First.Z), i == 0 ? "lift-leg" : "thin");
            s.Line(x, y, frame.X(drift.Second.X), frame.Y(drift.Second.Z), i == way.Count - 1 ? "lift-leg" : "thin");
            s.Circle(x, y, 4);
            if (i % 10 != 0 || !figures)
                continue;

            // Its ends to the sides and its middle below, so that none lies on another.
            var (anchor, aside, down) =
                i == 0 ? ("end", 10, 18)
                : i == way.Count - 1 ? ("start", -10, 18)
                : ("middle", 0, 46);
            if (drift.From > drift.To && anchor != "middle")
                (anchor, aside) = (anchor == "end" ? "start" : "end", -aside);
            foreach (
                var (line, (hoist, pull)) in new[] { (number + 1, way[i].First), (number + 2, way[i].Second) }.Index()
            )
                s.Text(
                    x + aside,
                    y + down + (13 * line),
                    $"{hoist}: {lift.Asked((decimal)(pull * kilograms))}",
                    "lift-figure",
                    anchor
                );
        }
    }

    private static string Number(decimal number) => number.ToString("0.#", CultureInfo.InvariantCulture);

    /// <summary>Millimetres to the drawing, one scale both ways.</summary>
    private sealed record Frame(double Scale, double OffsetX, double OffsetY)
    {
        public double X(double mm) => OffsetX + (mm / Scale);

        public double Y(double mm) => OffsetY - (mm / Scale);

        public static Frame Of(
            IEnumerable<(double X, double Up)> points,
            double left,
            double wide,
            double? scale = null
        )
        {
            var all = points.ToList();
            var (x0, x1, y0, y1) = (all.Min(p => p.X), all.Max(p => p.X), all.Min(p => p.Up), all.Max(p => p.Up));
            var fits = Math.Max(Math.Max((x1 - x0) / (wide - (2 * Beside)), (y1 - y0) / (High - Above - Below)), 0.001);
            var used = Math.Max(fits, scale is { } given && given < fits * 4 ? given : fits);
            return new(
                used,
                left + (wide / 2) - ((x0 + x1) / 2 / used),
                ((High + Above - Below) / 2) + ((y0 + y1) / 2 / used)
            );
        }
    }

    /// <summary>Where everything is, in millimetres: as given, or as legs alike would stand.</summary>
    private sealed record Posed(Point3 Hook, Point3 Centre, IReadOnlyList<Point3> Picks, bool IsGeometry, bool Plumb)
    {
        /// <summary>Where a leg ends above: the hook, or straight over its pick under a beam.</summary>
        public Point3 TopOf(int leg) => Plumb ? new(Picks[leg].X, Picks[leg].Y, Hook.Z) : Hook;

        public static Posed? Of(BenchedLift lift)
        {
            switch (lift.Plan?.Stand)
            {
                case StandPoints { Geometry: var g }:
                    return new(g.Hook, g.Centre, g.Picks, true, false);
                case StandAlike alike:
                    const double Spread = 1000;
                    var plumb = alike.Angle.Degrees >= 89.5m;
                    var high = plumb
                        ? 1500
                        : Math.Min(4000, Math.Max(60, Spread * Math.Tan((double)alike.Angle.Degrees * Math.PI / 180)));
                    IReadOnlyList<Point3> picks = alike.Count switch
                    {
                        1 => [new(0, 0, 0)],
                        2 => [new(-Spread, 0, 0), new(Spread, 0, 0)],
                        3 =>
                        [
                            new(-Spread * 0.866, -Spread / 2, 0),
                            new(Spread * 0.866, -Spread / 2, 0),
                            new(0, Spread, 0),
                        ],
                        _ =>
                        [
                            new(-Spread * 0.8, -Spread * 0.6, 0),
                            new(Spread * 0.8, -Spread * 0.6, 0),
                            new(Spread * 0.8, Spread * 0.6, 0),
                            new(-Spread * 0.8, Spread * 0.6, 0),
                        ],
                    };
                    return new(
                        alike.Count == 1 && !plumb ? new(Spread, 0, high) : new(0, 0, high),
                        new(0, 0, -300),
                        picks,
                        false,
                        plumb && alike.Count > 1
                    );
                default:
                    return null;
            }
        }
    }
}
