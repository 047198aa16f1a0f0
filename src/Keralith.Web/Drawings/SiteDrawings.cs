using Keralith.Core.Gear;

namespace Keralith.Web.Drawings;

/// <summary>Gear below the hook, lifting points, nets, kits and restraints.</summary>
internal static class SiteDrawings
{
    public static string Clamp(GearPiece gear, DrawingOptions o)
    {
        var c = new PieceSheet(gear, o);
        if (gear.Text("kind") == "beam")
        {
            c.Part("body", () =>
            {
                c.S.Path("M-4 20H4V44H30L36 62V84H24V66L18 56H-18L-24 66V84H-36V62L-30 44H-4Z");
                c.S.Rect(-46, 48, 92, 5, 2);
                c.S.Circle(0, 14, 12);
                c.S.Circle(0, 14, 6);
            });
            c.Part("jaw", () => c.S.Path("M24 84H36V98H14V90H24ZM-24 84H-36V98H-14V90H-24Z"));
            c.S.Path("M-14 94H14", "faint");
            return c.Close(-48, 0, 96, 102);
        }

        c.Part("body", () =>
        {
            c.S.Path("M-30 44H14Q34 44 34 64V128H12V84H-4V128H-30Z");
            c.S.Path("M-16 44V26A16 16 0 0 1 16 26V44H8V26A8 8 0 0 0 -8 26V44Z");
            c.S.Circle(-18, 60, 4);
        });
        c.Part("jaw", () =>
        {
            c.S.Path("M-6 86H2V122H-6Z");
            c.S.Path("M2 90l4 3-4 3 4 3-4 3 4 3-4 3 4 3-4 3", "thin");
        });
        c.S.Path("M8 96V150", "faint");
        c.Figure("width", 8, 140, 40, 146, "opens ");
        return c.Close(-34, 8, 68, 142);
    }

    public static string Beam(GearPiece gear, DrawingOptions o)
    {
        var c = new PieceSheet(gear, o);
        c.Part("body", () =>
        {
            c.S.Path("M-90 60H90V66H-90ZM-90 82H90V88H-90ZM-86 66H86V82H-86Z");
            c.S.Path("M-18 60 -10 34Q0 26 10 34L18 60Z");
            c.S.Circle(0, 42, 7);
        });
        c.Part("fittings", () =>
        {
            foreach (var x in new[] { -72, 72 })
                c.S.At(x, 88, 0, 0.7, () =>
                {
                    Shapes.ShackleBow(c.S);
                    Shapes.ShacklePin(c.S, "bolt");
                });
        });
        if (!c.Silhouette && o.Figures.TryGetValue("span", out var span))
            c.S.Text(0, 104, $"span {span}");
        c.Figure("body beam.lug-wear", 6, 36, 30, 26, "lug ");
        return c.Close(-94, 20, 188, 118);
    }

    public static string LiftingPoint(GearPiece gear, DrawingOptions o)
    {
        var c = new PieceSheet(gear, o);
        c.S.Path("M-70 0H70V8H-70ZM-6 8H6V40H-6ZM-70 40H70V48H-70Z", "faint");
        c.Part("body", () =>
        {
            if (gear.Text("kind") == "trolley-beam")
            {
                c.S.Path("M-26 30V56H26V30H20V50H-20V30Z");
                c.S.Circle(-16, 32, 7);
                c.S.Circle(16, 32, 7);
                c.S.Path("M-8 56H8V66H-8Z");
            }

            c.S.At(0, gear.Text("kind") == "trolley-beam" ? 18 : 0, 0, 1, () =>
            {
                c.S.Path("M-30 48H30L14 76A16 16 0 0 1 -14 76Z");
                c.S.Circle(0, 74, 7.5);
                c.S.Path("M-30 48l4 4M-22 48l4 4M-14 48l4 4M-6 48l4 4M2 48l4 4M10 48l4 4M18 48l4 4", "thin");
            });
        });
        return c.Close(-72, -4, 144, 118);
    }

    public static string CargoNet(GearPiece gear, DrawingOptions o)
    {
        var c = new PieceSheet(gear, o);
        c.Part("body", () =>
        {
            c.S.Rect(-60, 24, 120, 110, 4);
            c.S.Path(
                "M-60 46 38 134M-60 68 14 134M-60 90 -10 134M-60 112 -34 134M-60 24 60 132M-36 24 60 110M-12 24 60 88M12 24 60 66M36 24 60 44M60 46 -38 134M60 68 -14 134M60 90 10 134M60 112 34 134M60 24 -60 132M36 24 -60 110M12 24 -60 88M-12 24 -60 66M-36 24 -60 44",
                "thin"
            );
        });
        c.Part("edge-rope", () =>
        {
            c.S.Path("M-66 18H66V140H-66ZM-58 26V132H58V26Z");
            foreach (var (x, y) in new[] { (-62, 22), (62, 22), (-62, 136), (62, 136) })
            {
                c.S.Circle(x, y, 12);
                c.S.Circle(x, y, 6);
            }
        });
        return c.Close(-76, 8, 152, 142);
    }

    public static string Kit(GearPiece gear, DrawingOptions o)
    {
        var c = new PieceSheet(gear, o);
        c.Part("members", () =>
        {
            c.S.Rect(-80, 30, 160, 96, 4);
            c.S.Path("M-80 48H80M-20 48V126M36 48V126", "thin");
            c.S.Path("M-24 30V20Q-24 14 -18 14H18Q24 14 24 20V30");
            c.S.At(-50, 60, 0, 0.9, () => Shapes.Chain(c.S, 5));
            c.S.At(8, 58, 0, 0.62, () =>
            {
                Shapes.ShackleBow(c.S);
                Shapes.ShacklePin(c.S, "screw");
            });
            c.S.At(58, 66, 0, 0.8, () => Shapes.Hook(c.S, 8, true));
        });
        return c.Close(-84, 8, 168, 122);
    }

    public static string Restraint(GearPiece gear, DrawingOptions o)
    {
        var c = new PieceSheet(gear, o);
        c.Part("body", () =>
        {
            c.S.Rect(-70, 40, 44, 12, 0);
            c.S.Rect(26, 40, 44, 12, 0);
            c.S.Path("M-26 30H26V62H-26Z");
            c.S.Path("M-14 30 0 6 20 6 20 14 6 16 8 30");
            c.S.Circle(0, 46, 9);
            c.S.Path(
                "M-70 40C-84 34 -88 46 -82 56L-76 54C-78 48 -76 46 -70 50ZM70 40C84 34 88 46 82 56L76 54C78 48 76 46 70 50Z"
            );
        });
        return c.Close(-88, 2, 176, 66);
    }
}
