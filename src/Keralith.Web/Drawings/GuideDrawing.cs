using Keralith.Core.Gear;
using Microsoft.AspNetCore.Html;

namespace Keralith.Web.Drawings;

/// <summary>
/// How a measurement is taken, as a small drawing beside its question: what is spanned, and where the jaws or the tape
/// go.
/// </summary>
public static class GuideDrawing
{
    private const double Width = 150;
    private const double Height = 84;

    /// <summary>The guide of a criterion; empty where looking needs none.</summary>
    public static IHtmlContent Of(Criterion criterion)
    {
        if (Guides.GetValueOrDefault(criterion.Id) is not { } guide)
            return HtmlString.Empty;
        var s = new Sheet(new DrawingOptions());
        guide.Draw(s);
        return new HtmlString(
            $"<svg class=\"drawing guide-drawing\" viewBox=\"0 0 {Width} {Height}\" role=\"img\" aria-label=\"{System.Net.WebUtility.HtmlEncode(guide.Said)}\">{s.Lines}</svg>"
        );
    }

    private sealed record Guide(string Said, Action<Sheet> Draw);

    private static readonly Guide Section = new("Jaws across the thinnest place of the section, both ways.", s =>
    {
        s.Path("M52 42C52 28 62 20 75 20S98 28 98 42 88 64 75 64 52 56 52 42Z");
        s.Path("M56 30C64 36 86 36 94 30", "faint");
        Across(s, 52, 98, 42, "1");
        s.Path("M75 8V20M75 64V78M70 14l5 6 5-6M70 70l5-6 5 6", "dimension");
        s.Text(84, 14, "2", "figure", "start");
    });

    private static readonly Guide Bearing = new(
        "Push the links apart; jaws across the worn face where link bears on link.",
        s =>
        {
            Ring(s, 18, 30, 62, 24);
            s.Rect(68, 34, 62, 16, 8);
            s.Path("M68 16v20M78 16v20", "dimension");
            s.Path("M58 18h9M88 18h-9M63 15l4 3-4 3M83 15l-4 3 4 3", "dimension");
            s.Circle(73, 42, 7, "faint");
        }
    );

    private static readonly Guide OverLinks = new(
        "The chain hanging or drawn taut: from the first link's inside to the last one's, over the same count as when new.",
        s =>
        {
            for (var i = 0; i < 5; i++)
            {
                if (i % 2 == 0)
                    Ring(s, 14 + (i * 24), 22, 28, 20);
                else
                    s.Rect(10 + (i * 24), 28, 36, 8, 4);
            }

            s.Path("M16 48V66M132 48V66", "dimension");
            s.Path("M16 60H132M22 57l-6 3 6 3M126 57l6 3-6 3", "dimension");
            s.Text(74, 76, "1 to n links", "figure");
        }
    );

    private static readonly Guide AlongTheLeg = new(
        "The same count of links at the top, the middle and the foot of the leg: the longest against the shortest.",
        s =>
        {
            for (var i = 0; i < 11; i++)
            {
                if (i % 2 == 0)
                    Ring(s, 8 + (i * 12), 20, 16, 12);
                else
                    s.Rect(6 + (i * 12), 24, 20, 4, 2);
            }

            foreach (var at in new[] { 10, 56, 102 })
                s.Path(Sheet.F($"M{at} 38v12M{at + 36} 38v12M{at} 46h36"), "dimension");
            s.Text(75, 66, "same count, three places", "figure");
        }
    );

    private static readonly Guide LegsTogether = new(
        "Legs hung together from one point, unloaded: the difference of their reach.",
        s =>
        {
            s.Rect(60, 4, 30, 14, 7);
            s.Path("M66 18V60M84 18V68");
            s.Path("M60 60h12M78 68h12", "dimension");
            s.Path("M96 60h24M96 68h24M110 52v8M110 76v-8M107 55l3 5 3-5M107 73l3-5 3 5", "dimension");
            s.Circle(66, 60, 4);
            s.Circle(84, 68, 4);
        }
    );

    private static readonly Guide Throat = new(
        "The narrowest way in, from the tip across to the shank, the latch pressed clear.",
        s =>
        {
            s.Path(
                "M78 4h14v22c0 10 18 14 18 30a26 26 0 0 1-52 0l-6-12c3-6 12-5 15 1l3 9a12 12 0 0 0 24 0c0-9-16-14-16-28Z"
            );
            s.Path("M59 42 80 28", "dimension");
            s.Path("M61 36l-2 6 6 0M74 29l6-1-3 6", "dimension");
            s.Path("M78 16 60 34", "faint");
        }
    );

    private static readonly Guide Twist = new(
        "Seen from below: the tip turned out of the plane of the unbent hook.",
        s =>
        {
            s.Circle(75, 44, 20);
            s.Circle(75, 44, 9);
            s.Path("M75 44H140", "faint");
            s.Path("M70 34 126 14l4 10-50 22Z");
            s.Path("M122 44A50 50 0 0 0 118 27M116 33l2-6 5 4", "dimension");
            s.Text(136, 38, "deg", "figure");
        }
    );

    private static readonly Guide OverTheCrowns = new(
        "Over the crowns of the strands, never across the flats; in both directions.",
        s =>
        {
            for (var i = 0; i < 6; i++)
            {
                var angle = (Math.PI / 6) + (i * Math.PI / 3);
                s.Circle(75 + (17 * Math.Cos(angle)), 42 + (17 * Math.Sin(angle)), 9);
            }

            s.Circle(75, 42, 8, "faint");
            s.Path("M60 12V72M90 12V72", "faint");
            Across(s, 49, 101, 42, "1");
            s.Path("M75 4V16M75 68V80M71 10l4 6 4-6M71 74l4-6 4 6", "dimension");
            s.Text(84, 12, "2", "figure", "start");
        }
    );

    private static readonly Guide WireFlat = new(
        "The flat worn on an outer wire: what is left, square to the flat.",
        s =>
        {
            s.Path("M52 28A28 28 0 1 0 98 28Z");
            s.Path("M52 28A28 28 0 0 1 98 28", "faint");
            s.Path("M102 28h20M80 72h42M114 28V72M110 34l4-6 4 6M110 66l4 6 4-6", "dimension");
        }
    );

    private static readonly Guide Tape = new("A tape once round under light tension: the way round by 3.14.", s =>
    {
        s.Path("M20 26H130V58H20Z");
        s.Path("M34 26 24 58M54 26 44 58M114 26 104 58M128 26 118 58", "faint");
        s.Path("M66 22q8-6 16 0V62q-8 6-16 0Z", "dimension");
        s.Path("M82 30h34", "dimension");
    });

    private static readonly Guide Slot = new("From the open face to the bottom of the slot.", s =>
    {
        s.Path("M30 16H120V68H30V52H84a10 10 0 0 0 0-20H30Z");
        s.Path("M30 42H94M36 39l-6 3 6 3M88 39l6 3-6 3", "dimension");
    });

    private static readonly Guide Eye = new("Across the opening at its narrowest.", s =>
    {
        s.Path("M34 14H116V70H34ZM52 42a23 18 0 0 0 46 0 23 18 0 0 0-46 0Z");
        s.Path("M52 42H98M58 39l-6 3 6 3M92 39l6 3-6 3", "dimension");
    });

    private static readonly Guide EyeSection = new(
        "The metal left between the opening and the edge, at the bearing place.",
        s =>
        {
            s.Path("M34 14H116V70H34ZM52 46a23 18 0 0 0 46 0 23 18 0 0 0-46 0Z");
            s.Path("M75 4V14M75 38V28M71 9l4 5 4-5M71 33l4-5 4 5", "dimension");
        }
    );

    private static readonly Guide Hole = new("The widest way across the hole, along the pull.", s =>
    {
        s.Path("M40 10H110V62Q110 76 75 76T40 62ZM75 22a16 19 0 0 0 0 38 16 19 0 0 0 0-38Z");
        s.Path("M75 22V60M71 28l4-6 4 6M71 54l4 6 4-6", "dimension");
    });

    private static readonly Guide Lay = new(
        "One strand once round the rope is one lay: count within it, in the worst place.",
        s =>
        {
            s.Path("M8 24H142V52H8Z");
            for (var x = 14; x < 140; x += 18)
                s.Path(Sheet.F($"M{x} 24 {x - 8} 52"), x is 32 or 122 ? "outline" : "faint");
            s.Path("M28 58v14M118 58v14M28 66H118M34 63l-6 3 6 3M112 63l6 3-6 3", "dimension");
            s.Text(73, 80, "one lay", "figure");
            s.Path("M62 30l4 4M80 40l4 4M92 30l4 4", "dimension");
        }
    );

    private static readonly Guide EightDiameters = new(
        "Eight rope diameters along the rope, at the worst place: count every broken wire within them.",
        s =>
        {
            s.Path("M8 30H142V46H8Z");
            for (var x = 12; x < 140; x += 9)
                s.Path(Sheet.F($"M{x} 30 {x - 4} 46"), "faint");
            s.Path("M11 52v14M139 52v14M11 60H139M17 57l-6 3 6 3M133 57l6 3-6 3M2 30v16M-1 30h6M-1 46h6", "dimension");
            s.Text(75, 76, "8 d", "figure");
            s.Path("M52 34l3 3M78 37l3 3M96 33l3 3", "dimension");
        }
    );

    private static readonly Guide Links = new("From the first whole link to the last.", OverLinks.Draw);

    private static readonly Guide HandPull = new(
        "A spring balance in the hand chain: draw slowly, read while the load moves.",
        s =>
        {
            s.Circle(75, 18, 14);
            s.Circle(75, 18, 5, "faint");
            s.Path("M61 18V54M89 18V74");
            s.Rect(55, 54, 12, 20, 3);
            s.Path("M61 58v10M58 62h6", "faint");
            s.Path("M61 74v8M58 78l3 4 3-4", "dimension");
            s.Text(100, 68, "N, lbf", "figure", "start");
        }
    );

    private static readonly Guide Thread = new("How far the thread goes in, in its own diameters.", s =>
    {
        s.Path("M30 30H120V80H30Z");
        s.Path("M66 8H84V66H66Z");
        for (var y = 34; y < 64; y += 6)
            s.Path(Sheet.F($"M66 {y}l18 3"), "faint");
        s.Path("M98 30V66M94 36l4-6 4 6M94 60l4 6 4-6M84 66h20", "dimension");
    });

    private static readonly Guide Torque = new(
        "A torque wrench on the bolt: turn on slowly, read it as the bolt just moves.",
        s =>
        {
            s.Path("M24 46 36 38 48 46 48 58 36 66 24 58Z");
            s.Circle(36, 52, 20);
            s.Path("M55 46H122V58H55");
            s.Path("M122 42h16v20h-16Z");
            s.Path("M86 46v12M92 46v12M98 46v12", "faint");
            s.Path("M130 36A96 40 0 0 0 104 18M108 24l-5-6 8-1", "dimension");
            s.Text(84, 14, "N m, ft lbf", "figure");
        }
    );

    private static readonly Dictionary<string, Guide> Guides = new()
    {
        ["hook.throat"] = Throat,
        ["hook.twist-angle"] = Twist,
        ["hook.wear"] = Section,
        ["chain.link-thickness"] = Bearing,
        ["hoistchain.wear"] = Bearing,
        ["link.wear"] = Bearing,
        ["chain.gauge-growth"] = OverLinks,
        ["hoistchain.growth"] = OverLinks,
        ["chain.gauge-difference"] = AlongTheLeg,
        ["chain.leg-difference"] = LegsTogether,
        ["rope.diameter"] = OverTheCrowns,
        ["hoistrope.diameter"] = OverTheCrowns,
        ["rope.outer-wire"] = WireFlat,
        ["hoistrope.outer-wire"] = WireFlat,
        ["rope.broken-in-lay"] = Lay,
        ["rope.broken-in-8d"] = EightDiameters,
        ["rope.broken-in-strand"] = Lay,
        ["hoistrope.broken-in-lay"] = Lay,
        ["hoistrope.broken-in-strand"] = Lay,
        ["fiber.diameter"] = Tape,
        ["mesh.abrasion"] = WireFlat,
        ["mesh.corrosion"] = WireFlat,
        ["mesh.choker-slot"] = Slot,
        ["mesh.eye-width"] = Eye,
        ["mesh.eye-section"] = EyeSection,
        ["beam.hole-wear"] = Hole,
        ["kit.link-count"] = Links,
        ["hoist.hand-effort"] = HandPull,
        ["hoist.hand-pull"] = HandPull,
        ["turnbuckle.lock"] = Thread,
        ["turnbuckle.engagement"] = Thread,
        ["eyebolt.engagement"] = Thread,
        ["ring.torque"] = Torque,
        ["shackle.wear-body"] = Section,
        ["shackle.wear-pin"] = Section,
        ["adj.wear"] = Section,
        ["beam.lug-wear"] = Section,
        ["clamp.wear"] = Section,
        ["wedge.wear"] = Section,
        ["cell.wear"] = Section,
        ["clip.wear"] = Section,
        ["block.wear"] = Section,
    };

    /// <summary>A link seen flat.</summary>
    private static void Ring(Sheet s, double x, double y, double width, double height)
    {
        s.Rect(x, y, width, height, height / 2);
        s.Rect(x + (height * 0.28), y + (height * 0.28), width - (height * 0.56), height * 0.44, height * 0.22);
    }

    /// <summary>Jaws from left and right with their number.</summary>
    private static void Across(Sheet s, double left, double right, double y, string number)
    {
        s.Path(
            Sheet.F(
                $"M{left - 22:0.#} {y:0.#}H{left:0.#}M{right:0.#} {y:0.#}H{right + 22:0.#}M{left - 6:0.#} {y - 4:0.#}l6 4-6 4M{right + 6:0.#} {y - 4:0.#}l-6 4 6 4"
            ),
            "dimension"
        );
        s.Text(right + 26, y - 4, number, "figure", "start");
    }
}
