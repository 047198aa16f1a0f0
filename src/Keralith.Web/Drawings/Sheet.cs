using System.Net;
using System.Text;

namespace Keralith.Web.Drawings;

/// <summary>How a piece is drawn.</summary>
public sealed record DrawingOptions
{
    /// <summary>The part in question, inked while the rest is pale; null: all inked.</summary>
    public string? Active { get; init; }

    /// <summary>Parts answered for, ticked.</summary>
    public IReadOnlySet<string> Done { get; init; } = new HashSet<string>();

    /// <summary>Parts with something found on them, by part: the code of the worst outcome.</summary>
    public IReadOnlyDictionary<string, string> Found { get; init; } = new Dictionary<string, string>();

    /// <summary>Where a press on a part leads; null: nowhere.</summary>
    public Func<string, string>? LinkTo { get; init; }

    /// <summary>Figures written on dimension lines, by <c>part criterion</c> or by attribute name.</summary>
    public IReadOnlyDictionary<string, string> Figures { get; init; } = new Dictionary<string, string>();

    /// <summary>Where findings were pinned, in the drawing's units, and what each is.</summary>
    public IReadOnlyList<(decimal X, decimal Y, string What)> Pins { get; init; } = [];

    /// <summary>Few links and no dimensions: for the wall.</summary>
    public bool Silhouette { get; init; }
}

/// <summary>Collects the lines of one drawing. Line weights come from classes: outline, hidden, dimension.</summary>
internal sealed class Sheet(DrawingOptions options)
{
    private readonly StringBuilder _svg = new();

    public DrawingOptions Options { get; } = options;

    /// <summary>What was drawn so far, for a drawing with a frame of its own.</summary>
    public string Lines => _svg.ToString();

    /// <summary>
    /// A part of the piece, as one group: named, inked when it is in question, a link where parts lead somewhere.
    /// </summary>
    public void Part(string path, string name, Action draw)
    {
        var state =
            Options.Active is null ? string.Empty
            : Options.Active == path ? " is-active"
            : " is-pale";
        var done = Options.Done.Contains(path) ? " is-done" : string.Empty;
        var found = Options.Found.TryGetValue(path, out var worst) ? $" is-{worst}" : string.Empty;
        if (Options.LinkTo is { } to)
            Add($"<a href=\"{Html(to(path))}\" aria-label=\"{Html(name)}\" data-part=\"{Html(path)}\">");
        Add($"<g class=\"part{state}{done}{found}\"><title>{Html(name)}</title>");
        draw();
        Add("</g>");
        if (Options.LinkTo is not null)
            Add("</a>");
    }

    public void Add(string svg) => _svg.Append(svg);

    public void Path(string d, string style = "outline") => Add($"<path class=\"{style}\" d=\"{d}\"/>");

    public void Rect(double x, double y, double width, double height, double radius, string style = "outline") =>
        Add(
            F(
                $"<rect class=\"{style}\" x=\"{x:0.##}\" y=\"{y:0.##}\" width=\"{width:0.##}\" height=\"{height:0.##}\" rx=\"{radius:0.##}\"/>"
            )
        );

    public void Circle(double x, double y, double radius, string style = "outline") =>
        Add(F($"<circle class=\"{style}\" cx=\"{x:0.##}\" cy=\"{y:0.##}\" r=\"{radius:0.##}\"/>"));

    public void Line(double x1, double y1, double x2, double y2, string style = "dimension") =>
        Add(F($"<path class=\"{style}\" d=\"M{x1:0.##} {y1:0.##}L{x2:0.##} {y2:0.##}\"/>"));

    public void Text(double x, double y, string text, string style = "figure", string anchor = "middle") =>
        Add(F($"<text class=\"{style}\" x=\"{x:0.##}\" y=\"{y:0.##}\" text-anchor=\"{anchor}\">{Html(text)}</text>"));

    /// <summary>A vertical dimension line with its figure beside it.</summary>
    public void DimensionDown(double x, double top, double bottom, string text)
    {
        Line(x - 5, top, x + 5, top);
        Line(x - 5, bottom, x + 5, bottom);
        Add(
            F(
                $"<path class=\"dimension\" d=\"M{x:0.##} {top:0.##}V{bottom:0.##}m-2.4 -5 2.4 5 2.4 -5M{x - 2.4:0.##} {top + 5:0.##}l2.4 -5 2.4 5\"/>"
            )
        );
        var middle = (top + bottom) / 2;
        Add(
            F(
                $"<text class=\"figure\" x=\"{x - 4:0.##}\" y=\"{middle:0.##}\" text-anchor=\"middle\" transform=\"rotate(-90 {x - 4:0.##} {middle:0.##})\">{Html(text)}</text>"
            )
        );
    }

    /// <summary>A leader from a point to a figure at its side.</summary>
    public void Leader(double x, double y, double toX, double toY, string text)
    {
        var right = toX >= x;
        Add(F($"<path class=\"dimension\" d=\"M{x:0.##} {y:0.##}L{toX:0.##} {toY:0.##}h{(right ? 6 : -6)}\"/>"));
        Circle(x, y, 1.3, "dot");
        Text(toX + (right ? 9 : -9), toY + 3.6, text, "figure", right ? "start" : "end");
    }

    /// <summary>Runs drawing code moved and turned.</summary>
    public void At(double x, double y, double degrees, double scale, Action draw)
    {
        Add(F($"<g transform=\"translate({x:0.##} {y:0.##}) rotate({degrees:0.##}) scale({scale:0.###})\">"));
        draw();
        Add("</g>");
    }

    public string Svg(
        double x,
        double y,
        double width,
        double height,
        string label,
        string style = "drawing",
        bool grips = false
    )
    {
        foreach (var (atX, atY, what) in Options.Pins)
            Add(
                F(
                    $"<g class=\"pin\" transform=\"translate({atX:0.##} {atY:0.##})\"><title>{Html(what)}</title><path d=\"M0 0l-3.4 -8.4a3.7 3.7 0 1 1 6.8 0Z\"/></g>"
                )
            );
        return F(
            $"<svg class=\"{style}\" viewBox=\"{x:0.##} {y:0.##} {width:0.##} {height:0.##}\" role=\"{(Options.LinkTo is null && !grips ? "img" : "group")}\" aria-label=\"{Html(label)}\" preserveAspectRatio=\"xMidYMid meet\">{_svg}</svg>"
        );
    }

    public static string F(ref SvgText text) => text.ToStringAndClear();

    public static string Html(string text) => WebUtility.HtmlEncode(text);
}
