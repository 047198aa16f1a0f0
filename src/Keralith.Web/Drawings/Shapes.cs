namespace Keralith.Web.Drawings;

/// <summary>The shapes gear is made of, drawn around the origin where they hang.</summary>
internal static class Shapes
{
    /// <summary>Length of one link along the chain, in drawing units.</summary>
    public const double ChainPitch = 12;

    /// <summary>
    /// A sling hook hanging from its eye at the origin, opening to the left. The section follows the figures when new.
    /// </summary>
    /// <param name="s">The sheet.</param>
    /// <param name="section">Thickness of the saddle in drawing units, 6 to 11.</param>
    /// <param name="latch">Whether a latch is fitted.</param>
    public static void Hook(Sheet s, double section, bool latch)
    {
        var outer = 11 + section;
        var tip = -11 - (section * 0.55);
        s.Circle(0, 0, 8.5);
        s.Circle(0, 0, 4.2);
        s.Path(
            Sheet.F(
                $"M-4 8V16C-3.5 23 11 24 11 36A11 11 0 0 1 -11 36L{-11.8:0.##} 27.5C-12 24 {tip:0.##} 23.4 {tip - 2:0.##} 27C{-outer:0.##} 30 {-outer:0.##} 32 {-outer:0.##} 36A{outer:0.##} {outer:0.##} 0 0 0 {outer:0.##} 36C{outer:0.##} 23 8 21 4.5 15L4 8"
            )
        );
        if (!latch)
            return;
        s.Path("M-4.6 13.5 -13.2 28.6 -11 29.8 -2.2 15.6Z", "outline latch");
        s.Circle(-3.2, 14.4, 1.5, "dot");
    }

    /// <summary>An oval link hanging from its top at the origin.</summary>
    public static void OvalLink(Sheet s, double width, double height, double stock)
    {
        s.Rect(-width / 2, 0, width, height, width / 2);
        s.Rect((-width / 2) + stock, stock, width - (2 * stock), height - (2 * stock), (width / 2) - stock);
    }

    /// <summary>Chain hanging from the origin: links by turns seen flat and on edge.</summary>
    public static void Chain(Sheet s, int links)
    {
        for (var i = 0; i < links; i++)
        {
            var y = i * ChainPitch;
            if (i % 2 == 0)
            {
                s.Rect(-6, y - 3, 12, 18, 6);
                s.Rect(-2.6, y + 0.4, 5.2, 11.2, 2.6);
            }
            else
            {
                s.Rect(-1.8, y - 3, 3.6, 18, 1.8);
            }
        }
    }

    /// <summary>A coupling: two half links held by a pin, hanging from the origin.</summary>
    public static void Coupling(Sheet s)
    {
        s.Path(
            "M-6.5 11V6a6.5 6.5 0 0 1 13 0v5M-3 11V6.5a3 3 0 0 1 6 0V11M-6.5 13v5a6.5 6.5 0 0 0 13 0v-5M-3 13v4.5a3 3 0 0 0 6 0V13"
        );
        s.Rect(-8.5, 10, 17, 4, 2);
    }

    /// <summary>A shortener: a clutch plate with its slot, hanging from the origin.</summary>
    public static void Shortener(Sheet s)
    {
        s.Path("M-6 0h12l3 12-4 16h-10l-4-16Z");
        s.Path("M0 8v20M-3 14h6", "faint");
    }

    /// <summary>A bow shackle, crown up, its pin below; the crown at the origin.</summary>
    public static void ShackleBow(Sheet s)
    {
        s.Path(
            "M-21 58V40C-21 34-25 30-25 23A25 25 0 0 1 25 23C25 30 21 34 21 40V58A8 8 0 0 1 5 58M-5 58A8 8 0 0 1 -21 58M-9 50V40C-9 34-15 30-15 23A15 15 0 0 1 15 23C15 30 9 34 9 40V50"
        );
        s.Circle(-13, 58, 8.6);
        s.Circle(13, 58, 8.6);
    }

    /// <summary>Its pin, in the bow's place.</summary>
    public static void ShacklePin(Sheet s, string pinType)
    {
        s.Rect(-24, 53.6, 48, 8.8, 1.4);
        switch (pinType)
        {
            case "screw":
                s.Circle(30.5, 58, 6.6);
                s.Circle(30.5, 58, 2.3);
                s.Path("M-23 54l2 8M-20 54l2 8M-17 54l2 8", "faint");
                break;
            case "bolt":
                s.Path("M24 50.5h6v15h-6ZM-24 51.5h-6.5v13h6.5Z");
                s.Path("M-33 54.5v7M-34.6 58h4", "faint");
                break;
            default:
                s.Rect(24, 51.5, 5, 13, 2);
                s.Path("M-26.5 53v10M-28 63.5l1.5-1.5 1.5 1.5", "faint");
                break;
        }
    }

    /// <summary>A tag on its short wire, hanging from the origin.</summary>
    public static void Tag(Sheet s)
    {
        s.Path("M0 0v7", "faint");
        s.Path("M-6 7h12l3 4v17h-18v-17Z");
        s.Circle(0, 11, 1.6);
        s.Path("M-5.5 17h11M-5.5 20.5h11M-5.5 24h7", "faint");
    }
}
