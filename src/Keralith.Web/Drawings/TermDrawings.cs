using Keralith.Core.Gear;
using Microsoft.AspNetCore.Html;

namespace Keralith.Web.Drawings;

/// <summary>What a word of the trade means, as a small drawing: the thing in outline, what is meant in the accent.</summary>
public static class TermDrawings
{
    private const double Width = 120;
    private const double Height = 84;

    private const string Hook =
        "M52 4h16v20c0 9 17 13 17 28a25 25 0 0 1-50 0l-5-10c3-6 11-5 14 1l3 8a11 11 0 0 0 22 0c0-8-17-13-17-27Z";

    private const string Shackle = "M34 18v26a26 26 0 0 0 52 0V18h-10v26a16 16 0 0 1-32 0V18Z";

    private const string Pin = "M22 12h76v11H22Z";

    private const string Links = "M18 8h18a9 9 0 0 1 0 18H18a9 9 0 0 1 0-18ZM20 14a3 3 0 0 0 0 6h14a3 3 0 0 0 0-6Z";

    private const string TwoLegs = "M60 14 24 74M60 14 96 74";

    private const string TopLink = "M60 4a8 10 0 0 1 0 20 8 10 0 0 1 0-20Z";

    private const string Rope = "M8 30H112V54H8Z";

    private const string Strands = "M20 30 12 54M36 30 28 54M52 30 44 54M68 30 60 54M84 30 76 54M100 30 92 54";

    private const string RopeEye = "M112 32H60C30 14 10 26 10 42S30 70 60 52h52V44H60c-24 14-40 8-40-2s16-16 40-2h52Z";

    private const string Web = "M8 26H112V58H8Z";

    private const string Round = "M34 40a26 26 0 0 1 52 0 26 26 0 0 1-52 0Z";

    /// <summary>The thing in outline, what only helps to see it, and what the word means.</summary>
    private sealed record Shape(string Outline, string Faint, string Meant);

    private static readonly Dictionary<string, Shape> Shapes = new()
    {
        ["throat"] = new(Hook, "", "M36 44 54 30M38 38l-2 6 6 0M49 30l5 0-1 5"),
        ["saddle"] = new(Hook, "", "M44 58a16 16 0 0 0 32 0M60 74v-8"),
        ["tip"] = new(Hook, "", "M28 44a8 8 0 1 1 14 0"),
        ["latch"] = new(Hook, "", "M56 30 38 46l4 3 17-14Z"),
        ["shank"] = new(Hook, "", "M50 4h20v20H50Z"),
        ["swivel"] = new(
            "M48 30h24v10H48ZM54 40h12v12c0 8 12 10 12 22",
            "",
            "M40 26A20 8 0 1 1 80 26M80 26l2-7M80 26l-7-3M54 8h12v22H54Z"
        ),
        ["bow"] = new(Pin + Shackle, "", "M34 40v4a26 26 0 0 0 52 0v-4"),
        ["pin"] = new(Shackle, "", Pin),
        ["ear"] = new(Shackle + Pin, "", "M30 8h18v18H30ZM72 8h18v18H72Z"),
        ["master-link"] = new(TwoLegs, "", TopLink),
        ["leg"] = new(TopLink + "M60 24 96 74", "", "M58 24 24 74"),
        ["reach"] = new(
            "M60 4a7 8 0 0 1 0 16 7 8 0 0 1 0-16ZM60 20V62M60 62a7 8 0 0 1 0 16 7 8 0 0 1 0-16Z",
            "M60 8h34M60 74h34",
            "M88 8V74M85 14l3-6 3 6M85 68l3 6 3-6"
        ),
        ["bearing"] = new(
            Links + "M34 12h46v10H34Z",
            "",
            "M30 17a7 7 0 1 1 14 0 7 7 0 0 1-14 0M37 30v14M34 34l3-6 3 6"
        ),
        ["gauge"] = new(
            Links + "M34 12h26v10H34ZM58 8h18a9 9 0 0 1 0 18H58a9 9 0 0 1 0-18ZM74 12h26v10H74Z",
            "",
            "M16 34v16M98 34v16M16 42H98M22 39l-6 3 6 3M92 39l6 3-6 3"
        ),
        ["lay"] = new(Rope, Strands, "M20 62v12M92 62v12M20 68H92M26 65l-6 3 6 3M86 65l6 3-6 3"),
        ["strand"] = new(Rope, Strands, "M52 30 44 54h16l8-24Z"),
        ["core"] = new(
            "M60 12a30 30 0 0 1 0 60 30 30 0 0 1 0-60Z",
            "M60 14v56M34 27 86 57M34 57 86 27",
            "M60 33a9 9 0 0 1 0 18 9 9 0 0 1 0-18Z"
        ),
        ["valley"] = new(
            "M20 54a16 16 0 0 1 32 0M52 54a16 16 0 0 1 32 0M20 54V70H84V54",
            "",
            "M52 26v22M48 42l4 7 4-7"
        ),
        ["kink"] = new("M6 30H44C70 30 74 62 56 62S42 38 66 34l48-4", "", "M40 24a26 24 0 1 1 8 44"),
        ["birdcage"] = new(
            "M6 38H34C48 14 72 14 86 38h28M6 46H34C48 70 72 70 86 46h28M34 42C50 34 70 34 86 42",
            "",
            "M34 20v44M86 20v44"
        ),
        ["crush"] = new(
            "M6 30H40C50 40 70 40 80 30h34V54H80C70 46 50 46 40 54H6Z",
            "",
            "M60 12v18M56 24l4 8 4-8M60 74V56M56 62l4-8 4 8"
        ),
        ["diameter"] = new(
            "M60 16a10 10 0 0 1 0 20 10 10 0 0 1 0-20ZM60 48a10 10 0 0 1 0 20 10 10 0 0 1 0-20ZM46 24a10 10 0 0 1 0 20M74 24a10 10 0 0 0 0 20M46 40a10 10 0 0 1 0 20M74 40a10 10 0 0 0 0 20",
            "",
            "M14 16h44M14 68h44M22 16V68M19 22l3-6 3 6M19 62l3 6 3-6"
        ),
        ["splice"] = new(RopeEye, "", "M60 32l8 20M70 32l8 20M80 32l8 20M90 32l8 20"),
        ["sleeve"] = new(RopeEye, "", "M66 28h34v28H66Z"),
        ["clip"] = new(
            "M6 34H114V42H6ZM6 46H84V54H6Z",
            "",
            "M50 26h24v8H50ZM54 34V60a8 8 0 0 0 16 0V34M54 26v-8M70 26v-8"
        ),
        ["turnback"] = new(
            "M112 36H44a14 14 0 0 0 0 28h44",
            "",
            "M44 70v12M88 70v12M44 76H88M50 73l-6 3 6 3M82 73l6 3-6 3"
        ),
        ["live-end"] = new("M112 56H44a14 14 0 0 1 0-28h44", "", "M52 56H112M106 52l6 4-6 4"),
        ["eye"] = new(RopeEye, "", "M22 42a12 9 0 0 1 26-4 12 9 0 0 1-4 12 12 9 0 0 1-22-8Z"),
        ["stitching"] = new(Web + "M64 26V58", "", "M70 30l6 6 6-6 6 6 6-6 6 6M70 42l6 6 6-6 6 6 6-6 6 6"),
        ["warning-yarn"] = new(Web, "M8 42H112", "M44 34c6 0 8 8 16 8s8-8 16-8M44 46c6 0 8 6 16 6s8-6 16-6"),
        ["cover"] = new(
            "M34 40a26 26 0 0 1 52 0 26 26 0 0 1-52 0Z",
            "M44 40a16 16 0 0 1 32 0 16 16 0 0 1-32 0Z",
            "M60 14a26 26 0 0 1 26 26h-10a16 16 0 0 0-16-16Z"
        ),
        ["mesh"] = new(
            "M14 20H106V64H14Z",
            "M30 20V64M46 20V64M62 20V64M78 20V64M94 20V64",
            "M30 20l16 11-16 11 16 11-16 11"
        ),
        ["gouge"] = new("M8 30H112V58H8Z", "", "M44 30l12 14 4-14M60 14v10M56 20l4 6 4-6"),
        ["twist"] = new("M8 30 60 36 112 54M8 54 60 48 112 30", "", "M52 16A16 8 0 0 1 74 22M74 22l1-7M74 22l-7-1"),
        ["hitch"] = new(
            "M20 4V44M12 44h16v20H12ZM100 4 84 62M100 4l16 58M84 62h32V74H84ZM60 4V34M48 34h24v24H48Z",
            "",
            "M60 34a16 16 0 1 1-1 0"
        ),
        ["choker"] = new(Round, "", "M60 4V14M60 10a30 30 0 1 0 6 1"),
        ["angle-of-choke"] = new(Round, "", "M66 4 60 14 34 30M58 6A10 10 0 0 0 50 22"),
        ["basket"] = new("M40 52h40v18H40Z", "", "M44 4 36 52v22h48V52L76 4"),
        ["horizontal"] = new(TopLink + TwoLegs, "M14 74H106", "M40 74A18 18 0 0 0 33 59"),
        ["included"] = new(TopLink + TwoLegs, "", "M45 39A26 26 0 0 0 75 39"),
        ["dd"] = new(
            "M38 34a22 22 0 0 1 44 0 22 22 0 0 1-44 0Z",
            "M38 34H82",
            "M34 74V34a26 26 0 0 1 52 0V74M30 74V34a30 30 0 0 1 60 0V74"
        ),
        ["gravity"] = new(
            "M20 40H100V74H20ZM60 4V40",
            "M60 40V74",
            "M60 50a8 8 0 0 1 0 16 8 8 0 0 1 0-16ZM60 50v16M52 58h16"
        ),
        ["rated"] = new(
            "M30 12H90V72H30ZM60 16a3 3 0 0 1 0 6 3 3 0 0 1 0-6Z",
            "M40 60H80M40 52H80",
            "M40 34H80M40 42H70"
        ),
        ["factor"] = new(
            "M16 70V14M16 70H108M30 70V50H46V70",
            "",
            "M62 70V22H78V70M88 22v28M84 28l4-6 4 6M84 44l4 6 4-6"
        ),
        ["proof"] = new("M16 70V14M16 70H108M30 70V50H46V70", "M16 50H108", "M62 70V30H78V70M58 30h24"),
        ["spreader"] = new("M60 6 20 44M60 6 100 44M24 52V76M96 52V76", "", "M16 44H104V52H16Z"),
        ["headroom"] = new(
            "M8 8H112M8 74H112M60 8V24M40 46h40V62H40ZM60 24 44 46M60 24 76 46",
            "",
            "M98 8V46M95 14l3-6 3 6M95 40l3 6 3-6"
        ),
    };

    /// <summary>The drawing of a word; empty where words say it all.</summary>
    public static IHtmlContent Of(Term term)
    {
        if (Shapes.GetValueOrDefault(term.Code) is not { } shape)
            return HtmlString.Empty;
        var s = new Sheet(new DrawingOptions());
        s.Path(shape.Outline);
        if (shape.Faint.Length > 0)
            s.Path(shape.Faint, "faint");
        s.Path(shape.Meant, "dimension");
        return new HtmlString(
            $"<svg class=\"drawing guide-drawing\" viewBox=\"0 0 {Width} {Height}\" role=\"img\" aria-label=\"{Sheet.Html(term.Name)}\">{s.Lines}</svg>"
        );
    }
}
