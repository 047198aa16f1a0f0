using System.Globalization;
using System.Net;
using System.Text;
using Keralith.Core.Schedule;
using Keralith.Web.Drawings;
using PdfSharp.Drawing;
using PdfSharp.UniversalAccessibility;
using SkiaSharp;

namespace Keralith.Web.Printing;

/// <summary>How a text is set.</summary>
/// <param name="Size">Height of the letters' body, in millimetres.</param>
public readonly record struct Type(double Size, bool Bold = false, bool Mono = false);

/// <summary>
/// What a printed thing is drawn with, in millimetres from the upper left: once for the screen, once for paper.
/// </summary>
public abstract class Ink
{
    /// <summary>Sets a line of text, its baseline at <paramref name="y"/>; shrunk where it is wider than it may be.</summary>
    public abstract void Text(double x, double y, string text, Type type, double most);

    public abstract void Box(double x, double y, double width, double height);

    /// <summary>A square of dark and light modules.</summary>
    /// <param name="says">What it says, read.</param>
    public abstract void Modules(
        double x,
        double y,
        double side,
        IReadOnlyList<System.Collections.BitArray> rows,
        string says
    );

    /// <summary>A drawing of the application's own, whole within a box.</summary>
    public abstract void Drawing(double x, double y, double width, double height, string svg);

    public abstract void Season(double x, double y, double height, SeasonMark mark);

    /// <summary>The size a text is set in where it may not be wider.</summary>
    protected static double Fitted(string text, Type type, double most) =>
        Math.Min(type.Size, Words.Filling(text, type, most));
}

/// <summary>Draws as SVG.</summary>
public sealed class SvgInk(double width, double height) : Ink
{
    private readonly StringBuilder _svg = new();

    /// <summary>Its width is said with it: a picture is shown in whatever face there is where it is looked at.</summary>
    public override void Text(double x, double y, string text, Type type, double most)
    {
        if (text.Length == 0)
            return;
        type = type with { Size = Fitted(text, type, most) };
        Add(
            $"<text textLength=\"{Words.Width(text, type):0.##}\" lengthAdjust=\"spacingAndGlyphs\" x=\"{x:0.##}\" y=\"{y:0.##}\" font-size=\"{type.Size:0.##}\" font-family=\"{(type.Mono ? "Atkinson Hyperlegible Mono Variable, Atkinson Hyperlegible Mono, monospace" : "Atkinson Hyperlegible Next Variable, Atkinson Hyperlegible Next, sans-serif")}\" font-weight=\"{(type.Bold ? 700 : 400)}\">{WebUtility.HtmlEncode(text)}</text>"
        );
    }

    public override void Box(double x, double y, double width, double height) =>
        Add(
            $"<rect x=\"{x:0.##}\" y=\"{y:0.##}\" width=\"{width:0.##}\" height=\"{height:0.##}\" fill=\"none\" stroke=\"#000\" stroke-width=\"0.25\"/>"
        );

    public override void Modules(
        double x,
        double y,
        double side,
        IReadOnlyList<System.Collections.BitArray> rows,
        string says
    )
    {
        var path = new StringBuilder();
        for (var r = 0; r < rows.Count; r++)
        {
            for (var c = 0; c < rows[r].Length; c++)
            {
                if (rows[r][c])
                    path.Append(CultureInfo.InvariantCulture, $"M{c} {r}h1v1h-1z");
            }
        }

        Add(
            $"<path transform=\"translate({x:0.##} {y:0.##}) scale({side / rows.Count:0.####})\" d=\"{path}\" shape-rendering=\"crispEdges\"/>"
        );
    }

    public override void Drawing(double x, double y, double width, double height, string svg) =>
        Add(
            $"<svg x=\"{x:0.##}\" y=\"{y:0.##}\" width=\"{width:0.##}\" height=\"{height:0.##}\"{svg["<svg".Length..]}"
        );

    public override void Season(double x, double y, double height, SeasonMark mark) =>
        _svg.Append(
            SeasonSwatch.Svg(
                mark,
                FormattableString.Invariant(
                    $"x=\"{x:0.##}\" y=\"{y:0.##}\" width=\"{height * 44 / 24:0.##}\" height=\"{height:0.##}\""
                )
            )
        );

    /// <summary>The whole drawing.</summary>
    public override string ToString() =>
        FormattableString.Invariant(
            $"<svg xmlns=\"http://www.w3.org/2000/svg\" viewBox=\"0 0 {width:0.##} {height:0.##}\" width=\"{width:0.##}mm\" height=\"{height:0.##}mm\"><rect width=\"{width:0.##}\" height=\"{height:0.##}\" fill=\"#fff\"/>{_svg}</svg>"
        );

    private void Add(FormattableString svg) => _svg.Append(FormattableString.Invariant(svg));
}

/// <summary>Draws on a page of a PDF.</summary>
/// <param name="page">The page, in points.</param>
/// <param name="tags">What says of each part what it is; null: what is drawn is part of something that says it.</param>
internal sealed class PdfInk(XGraphics page, StructureBuilder? tags) : Ink
{
    public override void Text(double x, double y, string text, Type type, double most)
    {
        if (text.Length == 0)
            return;
        tags?.BeginElement(PdfBlockLevelElementTag.Paragraph);
        page.DrawString(
            text,
            Font(type with { Size = Fitted(text, type, most) * Paper.Point }),
            XBrushes.Black,
            x * Paper.Point,
            y * Paper.Point
        );
        tags?.End();
    }

    public override void Box(double x, double y, double width, double height)
    {
        tags?.BeginArtifact();
        page.DrawRectangle(new XPen(XColors.Black, 0.25 * Paper.Point), Place(x, y, width, height));
        tags?.End();
    }

    public override void Modules(
        double x,
        double y,
        double side,
        IReadOnlyList<System.Collections.BitArray> rows,
        string says
    )
    {
        // One path for all: no hairline of paper between modules side by side.
        var step = side / rows.Count;
        var path = new XGraphicsPath { FillMode = XFillMode.Winding };
        for (var r = 0; r < rows.Count; r++)
        {
            for (var c = 0; c < rows[r].Length; c++)
            {
                if (!rows[r][c])
                    continue;
                var from = c;
                while (c + 1 < rows[r].Length && rows[r][c + 1])
                    c++;
                path.AddRectangle(Place(x + (from * step), y + (r * step), (c - from + 1) * step, step + 0.01));
            }
        }

        tags?.BeginElement(PdfIllustrationElementTag.Figure, $"Code of {says}", Place(x, y, side, side));
        page.DrawPath(XBrushes.Black, path);
        tags?.End();
    }

    public override void Drawing(double x, double y, double width, double height, string svg) =>
        DrawnOnPaper.Draw(page, svg, Place(x, y, width, height));

    public override void Season(double x, double y, double height, SeasonMark mark)
    {
        tags?.BeginElement(
            PdfIllustrationElementTag.Figure,
            $"Season {mark.Letter}, {mark.Colour}, {mark.Pattern}",
            Place(x, y, height * 44 / 24, height)
        );
        var before = page.Save();
        page.TranslateTransform(x * Paper.Point, y * Paper.Point);
        page.ScaleTransform(height * Paper.Point / 24, height * Paper.Point / 24);
        page.DrawRoundedRectangle(
            new XSolidBrush(Colour(SeasonSwatch.Paints.GetValueOrDefault(mark.Colour, SeasonSwatch.Unknown))),
            new XRect(0, 0, 44, 24),
            new XSize(4, 4)
        );
        var ink = Colour(SeasonSwatch.InkOn(mark));
        var (path, width, filled) = SeasonSwatch.Pattern(mark.Pattern);
        using (var pattern = SKPath.ParseSvgPathData(path))
        {
            if (filled)
                page.DrawPath(new XSolidBrush(ink), DrawnOnPaper.Outline(pattern));
            else
                page.DrawPath(new XPen(ink, width), DrawnOnPaper.Outline(pattern));
        }

        page.DrawString(
            mark.Letter,
            Font(new(17, Bold: true)),
            new XSolidBrush(ink),
            new XPoint(22, 18),
            XStringFormats.BaseLineCenter
        );
        page.Restore(before);
        tags?.End();
    }

    /// <summary>A type as the library has it, its size in points.</summary>
    internal static XFont Font(Type type) =>
        new(
            type.Mono ? PaperFile.Mono : PaperFile.Plain,
            type.Size,
            type.Bold ? XFontStyleEx.Bold : XFontStyleEx.Regular
        );

    private static XRect Place(double x, double y, double width, double height) =>
        new(x * Paper.Point, y * Paper.Point, width * Paper.Point, height * Paper.Point);

    private static XColor Colour(string hex) =>
        XColor.FromArgb(
            byte.Parse(hex.AsSpan(1, 2), NumberStyles.HexNumber, CultureInfo.InvariantCulture),
            byte.Parse(hex.AsSpan(3, 2), NumberStyles.HexNumber, CultureInfo.InvariantCulture),
            byte.Parse(hex.AsSpan(5, 2), NumberStyles.HexNumber, CultureInfo.InvariantCulture)
        );
}
