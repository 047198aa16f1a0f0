using Keralith.Core.Gear;

namespace Keralith.Web.Drawings;

/// <summary>Adjustable hardware, clips, sockets, swivels, blocks and load indicators.</summary>
internal static class HardwareDrawings
{
    public static string EyeBolt(GearPiece gear, DrawingOptions o)
    {
        var c = new PieceSheet(gear, o);
        c.Part("body", () =>
        {
            Ring(c.S);
            if (gear.Flag("shoulder"))
                c.S.Path("M-16 52H16L13 60H-13Z");
            c.S.Rect(-7, gear.Flag("shoulder") ? 60 : 50, 14, 18, 0);
        });
        c.Part("thread", () => Thread(c.S, 7, 78, 46));
        c.Figure("size", 7, 100, 30, 110, "size ");
        c.Figure("body adj.wear", 20, 12, 34, 2);
        return c.Close(-24, 0, 48, 128);
    }

    public static string EyeNut(GearPiece gear, DrawingOptions o)
    {
        var c = new PieceSheet(gear, o);
        c.Part("body", () =>
        {
            Ring(c.S);
            c.S.Path("M-18 50H18L20 58V72H-20V58Z");
        });
        c.Part("thread", () => c.S.Path("M-8 72V58H8V72M-8 61l16 2.5M-8 65l16 2.5M-8 69l16 2.5"));
        c.Figure("body adj.wear", 20, 12, 34, 2);
        return c.Close(-24, 0, 48, 76);
    }

    public static string HoistRing(GearPiece gear, DrawingOptions o)
    {
        var c = new PieceSheet(gear, o);
        c.Part("bail", () => c.S.Path("M-30 56V26A30 30 0 0 1 30 26V56H21V26A21 21 0 0 0 -21 26V56Z"));
        c.Part("body", () =>
        {
            c.S.Path("M-34 50H34V66H-34ZM-24 66H24V76H-24Z");
            c.S.Circle(-27, 58, 3.4);
            c.S.Circle(27, 58, 3.4);
            c.S.Path("M-9 40H9V50H-9Z");
        });
        c.Part("thread", () => Thread(c.S, 8, 76, 44));
        c.Figure("bail adj.wear", 26, 10, 38, 0);
        return c.Close(-36, -6, 72, 132);
    }

    public static string Turnbuckle(GearPiece gear, DrawingOptions o)
    {
        var c = new PieceSheet(gear, o);
        c.Part("thread", () =>
        {
            Thread(c.S, 5, 44, 40);
            Thread(c.S, 5, 128, 40);
        });
        c.Part("body", () =>
        {
            c.S.At(0, 0, 0, 0.8, () => Ring(c.S));
            c.S.Path("M-13 62H13V150H-13ZM-7.5 76V136H7.5V76Z");
            c.S.Path("M-10 66H10M-10 146H10", "faint");
            c.S.At(0, 212, 180, 0.8, () => Ring(c.S));
        });
        c.Figure("body adj.wear", 16, 10, 30, 0);
        return c.Close(-20, 0, 40, 212);
    }

    public static string Clip(GearPiece gear, DrawingOptions o)
    {
        var c = new PieceSheet(gear, o);
        c.Part("body", () =>
        {
            c.S.Path("M-17 8V46A17 17 0 0 0 17 46V8H9V46A9 9 0 0 1 -9 46V8Z");
            c.S.Path("M-25 18H25V34Q16 40 9 34 0 28 -9 34 -16 40 -25 34Z");
            c.S.Path("M-20 10H-6V18H-20ZM6 10H20V18H6Z");
            c.S.Path("M-15 8V4M-11 8V4M11 8V4M15 8V4", "thin");
            c.S.Circle(0, 45, 7.5, "faint");
        });
        c.Figure("ropeSize", 0, 45, 34, 58, "rope ");
        return c.Close(-28, 0, 56, 68);
    }

    public static string WedgeSocket(GearPiece gear, DrawingOptions o)
    {
        var c = new PieceSheet(gear, o);
        c.Part("body", () =>
        {
            c.S.Path(
                "M-20 0H-8V26L-14 40 -22 96Q-22 104 -14 104H14Q22 104 22 96L14 40 8 26V0H20V14L28 30 32 98Q32 116 14 116H-14Q-32 116 -32 98L-28 30 -20 14Z"
            );
            c.S.Circle(-14, 8, 3.4);
            c.S.Circle(14, 8, 3.4);
            c.S.Path("M0 50 12 88A12 12 0 0 1 -12 88Z");
            c.S.Path("M-5 116V88A6 6 0 0 1 6 88L9 116", "faint");
        });
        c.S.Path("M-5 116V150M-1 116V150", "faint");
        c.Figure("ropeSize", -3, 140, -34, 146, "rope ");
        return c.Close(-34, 0, 68, 152);
    }

    public static string Swivel(GearPiece gear, DrawingOptions o)
    {
        var c = new PieceSheet(gear, o);
        c.Part("body", () =>
        {
            Ring(c.S);
            c.S.Path("M-10 48H10V58H-10Z");
            c.S.Rect(-16, 58, 32, 16, 4);
            c.S.At(0, 132, 180, 1, () => Ring(c.S));
            c.S.Path("M-20 66H20", "faint");
        });
        c.Figure("body link.wear", 20, 12, 34, 2);
        return c.Close(-24, 0, 48, 132);
    }

    public static string Block(GearPiece gear, DrawingOptions o)
    {
        var c = new PieceSheet(gear, o);
        c.Part("body", () => c.S.Path("M-12 4H12L34 46A36 36 0 0 1 20 98L0 116 -20 98A36 36 0 0 1 -34 46Z"));
        c.Part("sheave", () =>
        {
            c.S.Circle(0, 66, 27);
            c.S.Circle(0, 66, 21, "thin");
            c.S.Circle(0, 66, 5);
        });
        c.S.At(0, 118, 0, 1, () => c.End(""));
        c.Figure("ropeSize", 24, 54, 46, 44, "rope ");
        return c.Close(-38, 0, 76, gear.EndFitting is null ? 118 : 180);
    }

    public static string LoadIndicator(GearPiece gear, DrawingOptions o)
    {
        var c = new PieceSheet(gear, o);
        c.Part("body", () =>
        {
            c.S.Path(
                "M-16 0H16Q22 0 22 8V26L34 38V94L22 106V124Q22 132 16 132H-16Q-22 132 -22 124V106L-34 94V38L-22 26V8Q-22 0 -16 0Z"
            );
            c.S.Circle(0, 15, 9);
            c.S.Circle(0, 117, 9);
        });
        c.Part("display", () =>
        {
            c.S.Rect(-24, 44, 48, 28, 3);
            c.S.Path("M-16 52V64M-6 52H2V58H-6V64H2M10 52V64H18M18 52V64", "thin");
        });
        c.Figure("capacity", 34, 80, 44, 90, "up to ");
        return c.Close(-36, 0, 72, 132);
    }

    /// <summary>A forged eye hanging from the origin, its root at 50.</summary>
    private static void Ring(Sheet s)
    {
        s.Circle(0, 26, 24);
        s.Circle(0, 26, 14);
        s.Path("M-10 47H10V52H-10Z");
    }

    private static void Thread(Sheet s, double half, double top, double length)
    {
        s.Rect(-half, top, half * 2, length, 1);
        for (var y = top + 4; y < top + length - 1; y += 4)
            s.Path(Sheet.F($"M{-half:0.##} {y:0.##}L{half:0.##} {y + 2:0.##}"), "thin");
    }
}
