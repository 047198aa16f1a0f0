using Keralith.Core.Schedule;
using Microsoft.AspNetCore.Html;

namespace Keralith.Web.Drawings;

/// <summary>A season's mark drawn: its colour, its pattern and its letter, any one of which is enough to tell it.</summary>
public static class SeasonSwatch
{
    /// <summary>Paints a scheme may name, as they are drawn.</summary>
    public static IReadOnlyDictionary<string, string> Paints { get; } =
        new Dictionary<string, string>
        {
            ["madder"] = "#A8324A",
            ["ochre"] = "#C98A1B",
            ["teal"] = "#0F7C80",
            ["heather"] = "#7A4E9C",
            ["moss"] = "#5F7A1F",
            ["slate"] = "#4A5B73",
            ["white"] = "#F4F1EA",
            ["black"] = "#1A1A1A",
        };

    /// <summary>How a paint is drawn that has no name here.</summary>
    public const string Unknown = "#8A8F98";

    /// <summary>The drawing, 44 by 24, with its words for those who can't see it.</summary>
    public static IHtmlContent Draw(SeasonMark mark) => new HtmlString(Svg(mark));

    /// <summary>What pattern and letter are drawn in on a paint.</summary>
    public static string InkOn(SeasonMark mark) => mark.Colour is "white" or "ochre" ? "#1A1A1A" : "#FFFFFF";

    /// <summary>
    /// A pattern as one path in a box of 44 by 24: its data, the width of its line, and whether it is filled instead.
    /// </summary>
    public static (string Path, float Width, bool Filled) Pattern(SeasonPattern pattern) =>
        pattern switch
        {
            SeasonPattern.Plain => ("M0 0", 1, false),
            SeasonPattern.TwoBands => ("M6 0V24M38 0V24", 4, false),
            SeasonPattern.Dots => (
                "M3.6 6a2.4 2.4 0 1 0 4.8 0a2.4 2.4 0 1 0 -4.8 0zM3.6 18a2.4 2.4 0 1 0 4.8 0a2.4 2.4 0 1 0 -4.8 0zM35.6 6a2.4 2.4 0 1 0 4.8 0a2.4 2.4 0 1 0 -4.8 0zM35.6 18a2.4 2.4 0 1 0 4.8 0a2.4 2.4 0 1 0 -4.8 0z",
                1,
                true
            ),
            SeasonPattern.Slant => ("M2 24L12 0M32 24L42 0", 3.4f, false),
            SeasonPattern.Checks => (
                "M0 0h6v6h-6zM6 6h6v6h-6zM0 12h6v6h-6zM6 18h6v6h-6zM32 0h6v6h-6zM38 6h6v6h-6zM32 12h6v6h-6zM38 18h6v6h-6z",
                1,
                true
            ),
            SeasonPattern.Ring => ("M12 2.5H32a9.5 9.5 0 0 1 0 19H12a9.5 9.5 0 0 1 0 -19z", 2.6f, false),
        };

    /// <summary>The same, as text of SVG.</summary>
    public static string Svg(SeasonMark mark, string place = "width=\"44\" height=\"24\"")
    {
        var ink = InkOn(mark);
        var (path, width, filled) = Pattern(mark.Pattern);
        var drawn = filled
            ? $"<path d=\"{path}\" fill=\"{ink}\"/>"
            : FormattableString.Invariant(
                $"<path d=\"{path}\" fill=\"none\" stroke=\"{ink}\" stroke-width=\"{width}\"/>"
            );
        return $"<svg class=\"swatch\" {place} viewBox=\"0 0 44 24\" role=\"img\" aria-label=\"season {mark.Letter}, {mark.Colour}\"><rect width=\"44\" height=\"24\" rx=\"2\" fill=\"{Paints.GetValueOrDefault(mark.Colour, Unknown)}\"/>{drawn}<text x=\"22\" y=\"18\" text-anchor=\"middle\" font-weight=\"700\" font-size=\"17\" fill=\"{ink}\">{mark.Letter}</text></svg>";
    }
}
