using Keralith.Core.Gear;
using Keralith.Core.Register;
using Microsoft.AspNetCore.Html;

namespace Keralith.Web.Drawings;

/// <summary>The drawing of each family: silhouette on the wall, map of an inspection, sheet of a piece.</summary>
public static class GearDrawings
{
    private static readonly Dictionary<string, Func<GearPiece, DrawingOptions, string>> Drawings = new()
    {
        ["alloy-chain-sling"] = ChainSlingDrawing.Draw,
        ["shackle"] = Shackle,
        ["hook"] = Hook,
        ["link-or-ring"] = Link,
        ["wire-rope-sling"] = SlingDrawings.WireRope,
        ["metal-mesh-sling"] = SlingDrawings.Mesh,
        ["fiber-rope-sling"] = SlingDrawings.FiberRope,
        ["web-sling"] = SlingDrawings.Web,
        ["roundsling"] = SlingDrawings.Roundsling,
        ["eye-bolt"] = HardwareDrawings.EyeBolt,
        ["eye-nut"] = HardwareDrawings.EyeNut,
        ["swivel-hoist-ring"] = HardwareDrawings.HoistRing,
        ["turnbuckle"] = HardwareDrawings.Turnbuckle,
        ["wire-rope-clip"] = HardwareDrawings.Clip,
        ["wedge-socket"] = HardwareDrawings.WedgeSocket,
        ["swivel"] = HardwareDrawings.Swivel,
        ["rigging-block"] = HardwareDrawings.Block,
        ["load-indicator"] = HardwareDrawings.LoadIndicator,
        ["hand-chain-hoist"] = HoistDrawings.HandChain,
        ["powered-hoist"] = HoistDrawings.Powered,
        ["lever-hoist"] = HoistDrawings.Lever,
        ["rope-grip-hoist"] = HoistDrawings.RopeGrip,
        ["lifting-clamp"] = SiteDrawings.Clamp,
        ["lifting-beam"] = SiteDrawings.Beam,
        ["lifting-point"] = SiteDrawings.LiftingPoint,
        ["cargo-net"] = SiteDrawings.CargoNet,
        ["sling-kit"] = SiteDrawings.Kit,
        ["restraint"] = SiteDrawings.Restraint,
    };

    /// <summary>Draws a piece.</summary>
    public static IHtmlContent Draw(GearPiece gear, DrawingOptions options) =>
        new HtmlString(Drawings[gear.Family.Code](gear, options));

    /// <summary>Whether a family has its drawing: every family must.</summary>
    public static bool Has(string family) => Drawings.ContainsKey(family);

    /// <summary>The figures a piece's drawing carries, from its sizes and its baselines.</summary>
    public static IReadOnlyDictionary<string, string> Figures(
        GearPiece gear,
        IReadOnlyDictionary<BaselineKey, Core.Judgement.BaselineFigure> baselines
    )
    {
        var figures = new Dictionary<string, string>();
        foreach (var (name, value) in gear.Values)
            figures[name] = value.Text;
        foreach (var (key, figure) in baselines)
            figures[$"{key.Part} {key.Criterion}"] = figure.Length.ToString();
        return figures;
    }

    private static string Shackle(GearPiece gear, DrawingOptions o)
    {
        var s = new Sheet(o);
        if (o.Silhouette)
        {
            Shapes.ShackleBow(s);
            Shapes.ShacklePin(s, gear.PinType ?? "screw");
            // Larger shackles hang larger.
            var view = 2300 / Math.Clamp((double)(gear.Size?.Millimetres ?? 19), 12, 38);
            return s.Svg(-view / 2, -4, view, view, "Shackle");
        }

        s.Part("body", "Bow", () => Shapes.ShackleBow(s));
        s.Part("pin", "Pin", () => Shapes.ShacklePin(s, gear.PinType ?? "screw"));
        Whole(s, 62, 86);
        s.Line(0, -14, 0, 84, "centre");
        if (o.Figures.TryGetValue("body shackle.wear-body", out var bow))
            s.Leader(18, 6, 34, -6, $"bow {bow}");
        else if (gear.Size is { } size)
            s.Leader(18, 6, 34, -6, $"size {size}");
        if (o.Figures.TryGetValue("pin shackle.wear-pin", out var pin))
            s.Leader(0, 62.4, -34, 80, $"pin {pin}");
        return s.Svg(-112, -20, 224, 124, $"Shackle, {gear.Size}");
    }

    private static string Hook(GearPiece gear, DrawingOptions o)
    {
        var s = new Sheet(o);
        if (o.Silhouette)
        {
            Shapes.Hook(s, 8, gear.HookLatch);
            return s.Svg(-24, -12, 48, 72, "Hook");
        }

        s.Part("hook", "Hook", () => Shapes.Hook(s, 8, gear.HookLatch));
        Whole(s, 40, 58);
        HookFigures(s, "hook");
        return s.Svg(-92, -18, 184, 92, "Hook");
    }

    private static string Link(GearPiece gear, DrawingOptions o)
    {
        var s = new Sheet(o);
        if (o.Silhouette)
        {
            Shapes.OvalLink(s, 34, 56, 7);
            return s.Svg(-24, -4, 48, 64, "Link");
        }

        s.Part("body", "Body", () => Shapes.OvalLink(s, 34, 56, 7));
        Whole(s, 40, 54);
        if (o.Figures.TryGetValue("body link.wear", out var wear))
            s.Leader(13, 5, 26, -4, wear);
        return s.Svg(-84, -14, 168, 84, "Link");
    }

    /// <summary>Throat and section, written where they are measured.</summary>
    internal static void HookFigures(Sheet s, string part)
    {
        if (s.Options.Figures.TryGetValue($"{part} hook.throat", out var throat))
            s.Leader(-8, 20, -26, 12, $"throat {throat}");
        if (s.Options.Figures.TryGetValue($"{part} hook.wear", out var section))
            s.Leader(3, 51, 22, 62, $"section {section}");
    }

    /// <summary>The piece as a whole: what is asked of no single part. Drawn as a small stamp to press.</summary>
    internal static void Whole(Sheet s, double x, double y)
    {
        if (s.Options.LinkTo is null)
            return;
        s.Part("whole", "The whole piece", () =>
        {
            s.Circle(x, y, 13);
            s.Text(x, y + 2.5, "whole", "figure small");
        });
    }
}
