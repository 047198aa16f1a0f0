using System.Globalization;
using System.Text.RegularExpressions;
using System.Xml.Linq;
using SkiaSharp;

namespace Keralith.Web.Printing;

/// <summary>
/// Puts a drawing of the application's own on paper: the few shapes and line weights those drawings are made of.
/// </summary>
internal static partial class DrawnOnPaper
{
    private static readonly Dictionary<string, (float Width, float[]? Dash)> Lines = new()
    {
        ["outline"] = (1.5f, null),
        ["faint"] = (0.8f, [3.2f, 2]),
        ["centre"] = (0.7f, [9, 2.5f, 2, 2.5f]),
        ["thin"] = (0.6f, null),
        ["dimension"] = (0.7f, null),
    };

    /// <summary>Draws an SVG within a box, whole and not distorted.</summary>
    public static void Draw(SKCanvas page, string svg, SKRect box)
    {
        var root = XElement.Parse(svg);
        var view = Numbers(root.Attribute("viewBox")!.Value);
        var scale = Math.Min(box.Width / view[2], box.Height / view[3]);
        page.Save();
        page.Translate(
            box.Left + ((box.Width - (view[2] * scale)) / 2),
            box.Top + ((box.Height - (view[3] * scale)) / 2)
        );
        page.Scale(scale);
        page.Translate(-view[0], -view[1]);
        foreach (var child in root.Elements())
            Shape(page, child);
        page.Restore();
    }

    private static void Shape(SKCanvas page, XElement shape)
    {
        page.Save();
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
                using (
                    var font = new SKFont(
                        Fonts.Of(new(8.6, Mono: true)),
                        style.Contains("small", StringComparison.Ordinal) ? 7.2f : 8.6f
                    )
                )
                using (var ink = new SKPaint { Color = SKColors.Black, IsAntialias = true })
                {
                    var align = (string?)shape.Attribute("text-anchor") switch
                    {
                        "end" => SKTextAlign.Right,
                        "middle" => SKTextAlign.Center,
                        _ => SKTextAlign.Left,
                    };
                    page.DrawText(shape.Value, Number(shape, "x"), Number(shape, "y"), align, font, ink);
                }

                break;
            default:
                using (var path = PathOf(shape))
                {
                    if (path is not null)
                        Stroke(page, path, style);
                }

                break;
        }

        page.Restore();
    }

    private static void Stroke(SKCanvas page, SKPath path, string style)
    {
        var kind = style.Split(' ')[0];
        using var ink = new SKPaint { Color = SKColors.Black, IsAntialias = true };
        if (kind == "dot")
        {
            page.DrawPath(path, ink);
            return;
        }

        var (width, dash) = Lines.GetValueOrDefault(kind, (0.7f, null));
        if (kind == "outline")
        {
            using var ground = new SKPaint { Color = SKColors.White };
            path.FillType = SKPathFillType.EvenOdd;
            page.DrawPath(path, ground);
        }

        (ink.IsStroke, ink.StrokeWidth, ink.StrokeJoin, ink.StrokeCap) = (
            true,
            width,
            SKStrokeJoin.Round,
            SKStrokeCap.Round
        );
        if (dash is not null)
            ink.PathEffect = SKPathEffect.CreateDash(dash, 0);
        page.DrawPath(path, ink);
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

    private static void Move(SKCanvas page, string transform)
    {
        foreach (Match step in Step().Matches(transform))
        {
            var n = Numbers(step.Groups[2].Value);
            switch (step.Groups[1].Value)
            {
                case "translate":
                    page.Translate(n[0], n.Length > 1 ? n[1] : 0);
                    break;
                case "scale":
                    page.Scale(n[0], n.Length > 1 ? n[1] : n[0]);
                    break;
                case "rotate" when n.Length == 3:
                    page.RotateDegrees(n[0], n[1], n[2]);
                    break;
                case "rotate":
                    page.RotateDegrees(n[0]);
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
