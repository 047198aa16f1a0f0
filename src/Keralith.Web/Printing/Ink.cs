using System.Globalization;
using System.Net;
using System.Text;
using Keralith.Core.Schedule;
using Keralith.Web.Drawings;
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
    public abstract void Modules(double x, double y, double side, IReadOnlyList<System.Collections.BitArray> rows);

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

    public override void Modules(double x, double y, double side, IReadOnlyList<System.Collections.BitArray> rows)
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
public sealed class PdfInk : Ink
{
    private const float Point = 72 / 25.4f;

    private readonly SKCanvas _page;

    /// <param name="page">The page, in points; drawn on in millimetres from here on.</param>
    public PdfInk(SKCanvas page)
    {
        _page = page;
        page.Scale(Point);
    }

    public override void Text(double x, double y, string text, Type type, double most)
    {
        using var font = Fonts.Sized(type with { Size = Fitted(text, type, most) });
        using var paint = new SKPaint { Color = SKColors.Black, IsAntialias = true };
        _page.DrawText(text, (float)x, (float)y, font, paint);
    }

    public override void Box(double x, double y, double width, double height)
    {
        using var paint = new SKPaint
        {
            Color = SKColors.Black,
            IsStroke = true,
            StrokeWidth = 0.25f,
        };
        _page.DrawRect((float)x, (float)y, (float)width, (float)height, paint);
    }

    public override void Modules(double x, double y, double side, IReadOnlyList<System.Collections.BitArray> rows)
    {
        // One path for all: no hairline of paper between modules side by side.
        var step = (float)(side / rows.Count);
        using var path = new SKPath();
        for (var r = 0; r < rows.Count; r++)
        {
            for (var c = 0; c < rows[r].Length; c++)
            {
                if (!rows[r][c])
                    continue;
                var from = c;
                while (c + 1 < rows[r].Length && rows[r][c + 1])
                    c++;
                path.AddRect(
                    SKRect.Create((float)x + (from * step), (float)y + (r * step), (c - from + 1) * step, step + 0.01f)
                );
            }
        }

        using var paint = new SKPaint { Color = SKColors.Black };
        _page.DrawPath(path, paint);
    }

    public override void Drawing(double x, double y, double width, double height, string svg) =>
        DrawnOnPaper.Draw(_page, svg, SKRect.Create((float)x, (float)y, (float)width, (float)height));

    public override void Season(double x, double y, double height, SeasonMark mark)
    {
        _page.Save();
        _page.Translate((float)x, (float)y);
        _page.Scale((float)height / 24);
        using var ground = new SKPaint
        {
            Color = SKColor.Parse(SeasonSwatch.Paints.GetValueOrDefault(mark.Colour, SeasonSwatch.Unknown)),
        };
        _page.DrawRoundRect(0, 0, 44, 24, 2, 2, ground);
        using var ink = new SKPaint { Color = SKColor.Parse(SeasonSwatch.InkOn(mark)), IsAntialias = true };
        var (path, width, filled) = SeasonSwatch.Pattern(mark.Pattern);
        using (var pattern = SKPath.ParseSvgPathData(path))
        {
            (ink.IsStroke, ink.StrokeWidth) = (!filled, width);
            _page.DrawPath(pattern, ink);
        }

        ink.IsStroke = false;
        using var font = new SKFont(Fonts.Of(new(17, Bold: true)), 17);
        _page.DrawText(mark.Letter, 22, 18, SKTextAlign.Center, font, ink);
        _page.Restore();
    }
}
