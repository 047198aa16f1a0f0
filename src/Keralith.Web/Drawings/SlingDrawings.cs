using Keralith.Core.Gear;

namespace Keralith.Web.Drawings;

/// <summary>Slings of wire rope, mesh, fiber rope and webbing, and roundslings.</summary>
internal static class SlingDrawings
{
    private const double RopeLength = 150;

    /// <summary>Each leg with its eyes, ferrules and the lay of its strands.</summary>
    public static string WireRope(GearPiece gear, DrawingOptions o)
    {
        var c = new PieceSheet(gear, o);
        var top = gear.Legs > 1 ? 46.0 : 0;
        var length = c.Silhouette ? 70 : RopeLength;
        if (gear.Legs > 1)
            c.Part("top-link", () => Shapes.OvalLink(c.S, 40, 52, 5.5));
        var spread = c.Silhouette ? 34.0 : 62.0;
        for (var leg = 1; leg <= gear.Legs; leg++)
        {
            var (n, x) = (leg, (leg - 1 - ((gear.Legs - 1) / 2.0)) * spread);
            var lean = gear.Legs == 1 ? 0 : -Math.Atan2(x - (x / 6), length + 90) * 180 / Math.PI;
            c.S.At(x / 6, top, lean, 1, () =>
            {
                c.Part($"leg-{n}/eye-top", () => Eye(c.S));
                c.S.At(0, 58, 0, 1, () => c.Part($"leg-{n}", () => Rope(c.S, 7, length)));
                c.S.At(0, 58 + length, 0, 1, () =>
                {
                    c.Part($"leg-{n}/eye-bottom", () => c.S.At(0, 58, 180, 1, () => Eye(c.S)));
                    c.S.At(0, 62, -lean, 1, () => c.End($"leg-{n}/"));
                });
            });
        }

        var outermost = (gear.Legs - 1) * spread / 2;
        c.Figure(
            "size",
            3 + (outermost * 0.58),
            top + 58 + (length / 2),
            24 + outermost,
            top + 40 + (length / 2),
            "diameter "
        );
        var half = 24 + ((gear.Legs - 1) * spread / 2);
        c.Tag(-half - 8, top + 20);
        return c.Close(-half, -4, half * 2, top + length + 122 + (gear.EndFitting is null ? 0 : 56));
    }

    public static string FiberRope(GearPiece gear, DrawingOptions o)
    {
        var c = new PieceSheet(gear, o);
        var length = c.Silhouette ? 60 : 110.0;
        for (var leg = 1; leg <= gear.Legs; leg++)
        {
            var n = leg;
            c.S.At((leg - 1 - ((gear.Legs - 1) / 2.0)) * 50, 0, 0, 1, () =>
            {
                c.Part($"leg-{n}", () =>
                {
                    Eye(c.S, ferrule: false);
                    c.S.At(0, 52, 0, 1, () => Rope(c.S, 12, length, slack: true));
                    c.S.At(0, 104 + length, 180, 1, () => Eye(c.S, ferrule: false));
                });
                c.S.At(0, 108 + length, 0, 1, () => c.End($"leg-{n}/"));
            });
        }

        var half = 24 + ((gear.Legs - 1) * 25);
        c.Tag(-half - 8, 30);
        c.Figure("leg-1 fiber.diameter", 6, 90, 40, 80, "diameter ");
        return c.Close(-half, -4, half * 2, length + 116 + (gear.EndFitting is null ? 0 : 56));
    }

    public static string Mesh(GearPiece gear, DrawingOptions o)
    {
        var c = new PieceSheet(gear, o);
        c.Part("fitting-top", () => MeshFitting(c.S));
        c.Part("body", () =>
        {
            c.S.Rect(-30, 44, 60, 130, 0);
            for (var y = 48; y < 172; y += 8)
                c.S.Path(Sheet.F($"M-28 {y}l4 -4 4 4 4 -4 4 4 4 -4 4 4 4 -4 4 4 4 -4 4 4 4 -4 4 4 4 -4 4 4"), "thin");
        });
        c.Part("fitting-bottom", () => c.S.At(0, 218, 180, 1, () => MeshFitting(c.S)));
        c.Tag(-46, 20);
        c.Figure("width", 30, 120, 42, 110, "width ");
        return c.Close(-34, 0, 68, 218);
    }

    public static string Web(GearPiece gear, DrawingOptions o)
    {
        var c = new PieceSheet(gear, o);
        var fitted = gear.Text("type") == "with-fittings";
        var top = fitted ? 34.0 : 0;
        c.Part("fitting-top", () => WebFitting(c.S));
        c.Part("eye-top", () => c.S.At(0, top, 0, 1, () => WebEye(c.S)));
        c.Part("body", () => c.S.At(0, top + 56, 0, 1, () =>
            {
                c.S.Rect(-13, 0, 26, 110, 0);
                c.S.Path("M-8.7 0V110M-4.3 0V110M0 0V110M4.3 0V110M8.7 0V110", "thin");
                for (var y = 4; y <= 86; y += 82)
                    c.S.Path(Sheet.F($"M-11 {y}L11 {y + 20}M11 {y}L-11 {y + 20}M-11 {y}H11V{y + 20}H-11Z"), "faint");
            }));
        c.Part("eye-bottom", () => c.S.At(0, top + 222, 180, 1, () => WebEye(c.S)));
        c.Part("fitting-bottom", () => c.S.At(0, top + 256, 180, 1, () => WebFitting(c.S)));
        c.Tag(-30, top + 66);
        c.Figure("width", 13, top + 110, 30, top + 100, "width ");
        return c.Close(-20, 0, 40, (top * 2) + 222);
    }

    public static string Roundsling(GearPiece gear, DrawingOptions o)
    {
        var c = new PieceSheet(gear, o);
        c.Part("body", () =>
        {
            c.S.Path(
                "M-22 24V150A22 22 0 0 0 22 150V24A22 22 0 0 0 -22 24ZM-8 28A8 8 0 0 1 8 28V146A8 8 0 0 1 -8 146Z"
            );
            c.S.Path("M-15 24V150A15 15 0 0 0 15 150V24A15 15 0 0 0 -15 24", "thin");
            for (var y = 40; y < 140; y += 12)
                c.S.Path(Sheet.F($"M-21 {y}l12 5M9 {y + 5}l12 -5"), "faint");
        });
        c.Part("fitting", () => c.S.At(0, 158, 0, 1, () => Shapes.OvalLink(c.S, 26, 40, 5)));
        c.Tag(-36, 70);
        c.Figure("circumference", 22, 90, 34, 80, "around ");
        return c.Close(-24, 0, 48, gear.EndFitting is null ? 174 : 200);
    }

    /// <summary>Rope hanging from the origin, its lay drawn.</summary>
    /// <param name="slack">Fiber rope: fewer, longer strands.</param>
    internal static void Rope(Sheet s, double width, double length, bool slack = false)
    {
        s.Rect(-width / 2, 0, width, length, 1);
        var step = slack ? 10 : 6;
        for (var y = 0.0; y + step <= length; y += step)
            s.Path(
                Sheet.F(
                    $"M{-width / 2:0.##} {y + step:0.##}C{-width / 6:0.##} {y + step:0.##} {width / 6:0.##} {y:0.##} {width / 2:0.##} {y:0.##}"
                ),
                "thin"
            );
    }

    /// <summary>A soft eye bearing at the origin, closed by a ferrule at 44 to 58.</summary>
    private static void Eye(Sheet s, bool ferrule = true)
    {
        s.Path(
            "M-3.5 48C-3.5 34 -17 30 -17 15A17 17 0 0 1 17 15C17 30 3.5 34 3.5 48M-0 34C-3 30 -10.5 24 -10.5 15A10.5 10.5 0 0 1 10.5 15C10.5 24 3 30 0 34Z"
        );
        if (ferrule)
            s.Rect(-6, 42, 12, 18, 2.5);
        else
            s.Path("M-5 42 5 46M-5 46 5 50M-5 50 5 54", "faint");
    }

    private static void MeshFitting(Sheet s)
    {
        s.Path("M-18 6Q0 -6 18 6L32 44H-32ZM-10 14Q0 8 10 14L14 26Q0 31 -14 26Z");
    }

    private static void WebEye(Sheet s) =>
        s.Path(
            "M-13 58V50C-13 40 -16 34 -16 16A16 16 0 0 1 16 16C16 34 13 40 13 50V58ZM-6 40C-8 32 -9 26 -9 16A9 9 0 0 1 9 16C9 26 8 32 6 40Q0 44 -6 40Z"
        );

    private static void WebFitting(Sheet s) => s.Path("M0 0 22 40H-22ZM0 14 10 33H-10Z");
}
