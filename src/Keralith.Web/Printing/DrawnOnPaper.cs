using System.Globalization;
using System.Text.RegularExpressions;
using System.Xml.Linq;
using PdfSharp.Drawing;
using SkiaSharp;

namespace Keralith.Web.Printing;

/// <summary>
/// Puts a drawing of the application's own on paper: the few shapes and line weights those drawings are made of.
/// </summary>
internal static partial class DrawnOnPaper
{
    private static readonly Dictionary<string, (double Width, double[]? Dash)> Lines = new()
    {
        ["outline"] = (1.5, null),
        ["faint"] = (0.8, [3.2, 2]),
        ["centre"] = (0.7, [9, 2.5, 2, 2.5]),
        ["thin"] = (0.6, null),
        ["dimension"] = (0.7, null),
    };

    /// <summary>Draws an SVG within a box, whole and not distorted.</summary>
    public static void Draw(XGraphics page, string svg, XRect box)
    {
        var root = XElement.Parse(svg);
        var view = Numbers(root.Attribute("viewBox")!.Value);
        var scale = Math.Min(box.Width / view[2], box.Height / view[3]);
        var before = page.Save();
        page.TranslateTransform(
            box.Left + ((box.Width - (view[2] * scale)) / 2),
            box.Top + ((box.Height - (view[3] * scale)) / 2)
        );
        page.ScaleTransform(scale, scale);
        page.TranslateTransform(-view[0], -view[1]);
        foreach (var child in root.Elements())
            Shape(page, child);
        page.Restore(before);
    }

    /// <summary>A path as the library has it; filled, what lies within twice is left free.</summary>
    public static XGraphicsPath Outline(SKPath path)
    {
        var outline = new XGraphicsPath { FillMode = XFillMode.Alternate };
        var points = new SKPoint[4];
        using var steps = path.CreateRawIterator();
        for (var verb = steps.Next(points); verb != SKPathVerb.Done; verb = steps.Next(points))
        {
            switch (verb)
            {
                case SKPathVerb.Move:
                    outline.StartFigure();
                    break;
                case SKPathVerb.Line:
                    outline.AddLine(At(points[0]), At(points[1]));
                    break;
                case SKPathVerb.Quad:
                    Curve(outline, points[0], points[1], points[2]);
                    break;
                case SKPathVerb.Conic:
                    var quads = SKPath.ConvertConicToQuads(points[0], points[1], points[2], steps.ConicWeight(), 2);
                    for (var i = 0; i + 2 < quads.Length; i += 2)
                        Curve(outline, quads[i], quads[i + 1], quads[i + 2]);
                    break;
                case SKPathVerb.Cubic:
                    outline.AddBezier(At(points[0]), At(points[1]), At(points[2]), At(points[3]));
                    break;
                case SKPathVerb.Close:
                    outline.CloseFigure();
                    break;
                default:
                    throw new InvalidOperationException($"No such step of a path: {verb}.");
            }
        }

        return outline;
    }

    /// <summary>A curve of one control point, as the cubic it is.</summary>
    private static void Curve(XGraphicsPath path, SKPoint from, SKPoint by, SKPoint to) =>
        path.AddBezier(At(from), Between(from, by), Between(to, by), At(to));

    private static XPoint Between(SKPoint end, SKPoint by) =>
        new(end.X + (2.0 / 3 * (by.X - end.X)), end.Y + (2.0 / 3 * (by.Y - end.Y)));

    private static XPoint At(SKPoint point) => new(point.X, point.Y);

    private static void Shape(XGraphics page, XElement shape)
    {
        var before = page.Save();
        if (shape.Attribute("transform") is { } moved)
            Move(page, moved.Value);
        var style = (string?)shape.Attribute("class") ?? string.Empty;
        switch (shape.Name.LocalName)
        {
            case "g" or "a":
                foreach (var child in shape.Elements())
                    Shape(page, child);
                break;
            case "text":
                var align = (string?)shape.Attribute("text-anchor") switch
                {
                    "end" => XStringFormats.BaseLineRight,
                    "middle" => XStringFormats.BaseLineCenter,
                    _ => XStringFormats.BaseLineLeft,
                };
                var size = style.Contains("small", StringComparison.Ordinal) ? 7.2 : 8.6;
                if (shape.Value.Length > 0)
                    page.DrawString(
                        shape.Value,
                        PdfInk.Font(new(size, Mono: true)),
                        XBrushes.Black,
                        new XPoint(Number(shape, "x"), Number(shape, "y")),
                        align
                    );
                break;
            default:
                using (var path = PathOf(shape))
                {
                    if (path is not null)
                        Stroke(page, Outline(path), style);
                }

                break;
        }

        page.Restore(before);
    }

    private static void Stroke(XGraphics page, XGraphicsPath path, string style)
    {
        var kind = style.Split(' ')[0];
        if (kind == "dot")
        {
            page.DrawPath(XBrushes.Black, path);
            return;
        }

        var (width, dash) = Lines.GetValueOrDefault(kind, (0.7, null));
        var pen = new XPen(XColors.Black, width) { LineJoin = XLineJoin.Round, LineCap = XLineCap.Round };
        if (dash is not null)
            pen.DashPattern = [.. dash.Select(d => d / width)];
        if (kind == "outline")
            page.DrawPath(pen, XBrushes.White, path);
        else
            page.DrawPath(pen, path);
    }

    private static SKPath? PathOf(XElement shape)
    {
        switch (shape.Name.LocalName)
        {
            case "path":
                return SKPath.ParseSvgPathData(shape.Attribute("d")!.Value);
            case "rect":
                var rect = new SKPath();
                var radius = Number(shape, "rx");
                rect.AddRoundRect(
                    SKRect.Create(
                        Number(shape, "x"),
                        Number(shape, "y"),
                        Number(shape, "width"),
                        Number(shape, "height")
                    ),
                    radius,
                    radius
                );
                return rect;
            case "circle":
                var circle = new SKPath();
                circle.AddCircle(Number(shape, "cx"), Number(shape, "cy"), Number(shape, "r"));
                return circle;
            case "ellipse":
                var ellipse = new SKPath();
                ellipse.AddOval(
                    new SKRect(
                        Number(shape, "cx") - Number(shape, "rx"),
                        Number(shape, "cy") - Number(shape, "ry"),
                        Number(shape, "cx") + Number(shape, "rx"),
                        Number(shape, "cy") + Number(shape, "ry")
                    )
                );
                return ellipse;
            default:
                return null;
        }
    }

    private static void Move(XGraphics page, string transform)
    {
        foreach (Match step in Step().Matches(transform))
        {
            var n = Numbers(step.Groups[2].Value);
            switch (step.Groups[1].Value)
            {
                case "translate":
                    page.TranslateTransform(n[0], n.Length > 1 ? n[1] : 0);
                    break;
                case "scale":
                    page.ScaleTransform(n[0], n.Length > 1 ? n[1] : n[0]);
                    break;
                case "rotate" when n.Length == 3:
                    page.RotateAtTransform(n[0], new XPoint(n[1], n[2]));
                    break;
                case "rotate":
                    page.RotateTransform(n[0]);
                    break;
                default:
                    throw new InvalidOperationException($"The drawings know no {step.Value}.");
            }
        }
    }

    private static float Number(XElement shape, string name) =>
        shape.Attribute(name) is { } value ? float.Parse(value.Value, CultureInfo.InvariantCulture) : 0;

    private static float[] Numbers(string text) =>
        text.Split([' ', ','], StringSplitOptions.RemoveEmptyEntries)
            .Select(n => float.Parse(n, CultureInfo.InvariantCulture))
            .ToArray();

    [GeneratedRegex(@"(\w+)\(([^)]*)\)")]
    private static partial Regex Step();
}
