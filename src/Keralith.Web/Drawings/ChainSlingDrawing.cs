using Keralith.Core.Gear;

namespace Keralith.Web.Drawings;

/// <summary>An alloy chain sling as it hangs: tag, top link, and each leg with coupling, chain and lower end.</summary>
internal static class ChainSlingDrawing
{
    public static string Draw(GearPiece gear, DrawingOptions o)
    {
        var s = new Sheet(o);
        var links = o.Silhouette ? 7 : 15;
        var spread = o.Silhouette ? 26.0 : 60.0;
        var top = gear.Legs > 1 ? 52.0 : 46.0;
        var chainTop = 24.0;
        var shortener = gear.Shortener && !o.Silhouette ? 26.0 : 0;
        var chainEnd = chainTop + shortener + (links * Shapes.ChainPitch) + 3;

        Part(s, "top-link", "Top link", () => Shapes.OvalLink(s, gear.Legs > 2 ? 44 : 36, top, 5.5));
        if (!o.Silhouette)
            Part(s, "tag", "Tag", () => s.At(-40, 12, 0, 1.1, () => Shapes.Tag(s)));
        for (var leg = 1; leg <= gear.Legs; leg++)
        {
            var across = leg - 1 - ((gear.Legs - 1) / 2.0);
            var n = leg;
            var lean = -Math.Atan2(across * (spread - 9), chainEnd) * 180 / Math.PI;
            s.At(across * 9, top - 6, lean, 1, () => Leg(s, gear, n, links, chainTop + shortener, chainEnd, lean));
        }

        var bottom = top + chainEnd + (gear.EndFitting == "hook" ? 62 : 54);
        if (o.Silhouette)
        {
            var wide = 40 + ((gear.Legs - 1) * spread);
            return s.Svg(-wide / 2, -4, wide, bottom, "Chain sling");
        }

        var half = 62 + ((gear.Legs - 1) * spread / 2);
        GearDrawings.Whole(s, half - 14, 14);
        if (o.LinkTo is not null && gear.Legs >= 2)
        {
            s.Part("legs", "Legs hung together", () =>
            {
                s.Path(Sheet.F($"M{-half + 18:0.#} {bottom + 4:0.#}H{half - 18:0.#}"), "outline");
                s.Text(0, bottom + 17, "legs hung together", "figure small");
            });
        }

        if (o.Figures.TryGetValue("reach", out var reach))
            s.DimensionDown(half - 8, 5.5, top + chainEnd + 42, $"reach {reach}");
        if (o.Figures.TryGetValue("size", out var size) && o.Active is null)
            s.Text(
                0,
                bottom + 20,
                $"{size}{(o.Figures.TryGetValue("grade", out var grade) ? $", grade {grade}" : string.Empty)}"
            );
        return s.Svg(
            -half - 62,
            -8,
            (half * 2) + 124,
            bottom + 34,
            $"Chain sling with {gear.Legs} {(gear.Legs == 1 ? "leg" : "legs")}, {gear.Size}"
        );
    }

    private static void Leg(Sheet s, GearPiece gear, int leg, int links, double chainTop, double chainEnd, double lean)
    {
        Part(s, $"leg-{leg}/coupling", $"Leg {leg}, coupling", () => Shapes.Coupling(s));
        if (gear.Shortener && !s.Options.Silhouette)
            Part(s, $"leg-{leg}/shortener", $"Leg {leg}, shortener", () =>
                s.At(0, 22, 0, 1, () => Shapes.Shortener(s))
            );
        Part(s, $"leg-{leg}", $"Leg {leg}, chain", () => s.At(0, chainTop, 0, 1, () => Shapes.Chain(s, links)));
        var (path, name) =
            gear.EndFitting == "hook"
                ? ($"leg-{leg}/hook", $"Leg {leg}, hook")
                : ($"leg-{leg}/fitting", $"Leg {leg}, end {gear.EndFitting}");
        s.At(0, chainEnd + 4, -lean, 1, () =>
        {
            Part(s, path, name, () =>
            {
                switch (gear.EndFitting)
                {
                    case "hook":
                        Shapes.Hook(s, 8, gear.HookLatch);
                        break;
                    case "shackle":
                        s.At(0, -4, 0, 0.62, () =>
                        {
                            Shapes.ShackleBow(s);
                            Shapes.ShacklePin(s, gear.PinType ?? "screw");
                        });
                        break;
                    default:
                        s.At(0, -5, 0, 1, () => Shapes.OvalLink(s, 22, 36, 4.5));
                        break;
                }
            });
            if (gear.EndFitting == "hook" && leg == 1 && s.Options is { Silhouette: false, Active: null })
                GearDrawings.HookFigures(s, path);
        });
    }

    private static void Part(Sheet s, string path, string name, Action draw)
    {
        if (s.Options.Silhouette)
            draw();
        else
            s.Part(path, name, draw);
    }
}
