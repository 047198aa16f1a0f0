using Keralith.Core.Gear;

namespace Keralith.Web.Drawings;

/// <summary>Hand-chain, powered, lever and rope-grip hoists.</summary>
internal static class HoistDrawings
{
    public static string HandChain(GearPiece gear, DrawingOptions o)
    {
        var c = new PieceSheet(gear, o);
        TopHook(c);
        c.Part("hand-chain", () =>
            c.S.Path(
                "M32 92V226A12 12 0 0 0 56 226V92M36 92V226A8 8 0 0 0 52 226V92M34 110h20M34 150h20M34 190h20",
                "outline loop"
            )
        );
        Medium(c, 130);
        c.Part("frame", () =>
        {
            c.S.Path("M-34 52H34Q44 52 44 64V100Q44 112 34 112H-34Q-44 112 -44 100V64Q-44 52 -34 52Z");
            c.S.Circle(30, 82, 22);
            c.S.Circle(30, 82, 16, "thin");
        });
        c.Part("brake", () =>
        {
            c.S.Circle(-18, 82, 13);
            c.S.Path("M-18 73V91M-27 82H-9", "thin");
        });
        return Finish(c, -48, 108, 276);
    }

    public static string Powered(GearPiece gear, DrawingOptions o)
    {
        var c = new PieceSheet(gear, o);
        TopHook(c);
        c.Part("top-lug", () =>
        {
            c.S.Path("M-14 52V22Q-14 12 0 12 14 12 14 22V52Z");
            c.S.Circle(0, 28, 7);
        });
        c.Part("trolley", () =>
        {
            c.S.Path("M-60 6H60", "faint");
            c.S.Path("M-34 52V24H34V52H24V34H-24V52Z");
            c.S.Circle(-24, 14, 9);
            c.S.Circle(24, 14, 9);
        });
        Medium(c, 130);
        c.Part("frame", () =>
        {
            c.S.Rect(-52, 52, 104, 58, 8);
            c.S.Path("M-40 62V100M-34 62V100M-28 62V100", "thin");
        });
        c.Part("brake", () =>
        {
            c.S.Circle(34, 81, 13);
            c.S.Path("M34 72V90M25 81H43", "thin");
        });
        c.Part("limits", () =>
        {
            c.S.Rect(-9, 112, 18, 9, 2);
            c.S.Path("M-4 121v5M4 121v5", "thin");
        });
        c.Part("controls", () =>
        {
            c.S.Path("M46 110C58 130 58 150 58 170", "faint");
            c.S.Rect(49, 170, 18, 40, 4);
            c.S.Circle(58, 179, 4);
            c.S.Circle(58, 191, 4, "thin");
            c.S.Circle(58, 202, 4, "thin");
        });
        return Finish(c, -56, 128, 276);
    }

    public static string Lever(GearPiece gear, DrawingOptions o)
    {
        var c = new PieceSheet(gear, o);
        TopHook(c);
        Medium(c, 120);
        c.Part("handle", () =>
        {
            c.S.Path("M20 76 74 128Q80 134 75 140 69 144 63 138L10 88Z");
            c.S.Path("M60 114 68 122", "thin");
        });
        c.Part("frame", () =>
        {
            c.S.Path("M-26 52H26L34 66V94L26 106H-26L-34 94V66Z");
            c.S.Circle(12, 80, 15);
        });
        c.Part("brake", () =>
        {
            c.S.Circle(-16, 80, 11);
            c.S.Path("M-16 72V88M-24 80H-8", "thin");
        });
        return Finish(c, -40, 122, 266);
    }

    public static string RopeGrip(GearPiece gear, DrawingOptions o)
    {
        var c = new PieceSheet(gear, o);
        c.Part("load-rope", () =>
        {
            c.S.At(0, 0, 0, 1, () => SlingDrawings.Rope(c.S, 5, 44));
            c.S.At(0, 136, 0, 1, () => SlingDrawings.Rope(c.S, 5, 74));
        });
        c.Part("anchor", () =>
        {
            c.S.Path("M-40 60A12 12 0 1 1 -40 84L-30 78V66Z");
            c.S.Circle(-44, 72, 5);
        });
        c.Part("handle", () => c.S.Path("M20 74 70 34Q76 30 80 35 83 41 77 46L28 86Z"));
        c.Part("shear-pins", () =>
        {
            c.S.Circle(26, 80, 5);
            c.S.Circle(26, 94, 3.4);
        });
        c.Part("frame", () =>
        {
            c.S.Path("M-30 44H14L22 60V120L14 136H-22L-30 120Z");
            c.S.Path("M-12 70H12V84H-12ZM-12 96H12V110H-12Z", "thin");
        });
        c.S.At(0, 222, 0, 1, () => c.Part("bottom-hook", () => Shapes.Hook(c.S, 8, gear.HookLatch)));
        return Finish(c, -58, 140, 280);
    }

    private static void TopHook(PieceSheet c) =>
        c.S.At(0, 44, 180, 0.86, () => c.Part("top-hook", () => Shapes.Hook(c.S, 8, c.Gear.HookLatch)));

    private static void Medium(PieceSheet c, double top)
    {
        c.S.At(0, 108, 0, 1, () =>
        {
            c.Part("load-chain", () => Shapes.Chain(c.S, 9));
            c.Part("load-rope", () => SlingDrawings.Rope(c.S, 6, 110));
            c.Part("load-web", () =>
            {
                c.S.Rect(-9, 0, 18, 110, 0);
                c.S.Path("M-5 0V110M0 0V110M5 0V110", "thin");
            });
        });
        c.S.At(0, top + 98, 0, 0.86, () => c.Part("bottom-hook", () => Shapes.Hook(c.S, 8, c.Gear.HookLatch)));
    }

    private static string Finish(PieceSheet c, double left, double width, double height)
    {
        c.Figure("load-chain hoistchain.wear", -4, 160, -30, 170, "link ");
        c.Figure("load-rope hoistrope.diameter", -3, 160, -30, 170, "rope ");
        return c.Close(left, -8, width, height + 8);
    }
}
