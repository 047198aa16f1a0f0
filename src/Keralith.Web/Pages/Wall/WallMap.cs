using System.Globalization;
using System.Net;
using System.Text;
using Microsoft.AspNetCore.Html;

namespace Keralith.Web.Pages.Wall;

/// <summary>A bay of a store's wall: the pegs whose names begin alike.</summary>
/// <param name="Name">What its pegs' names begin with.</param>
/// <param name="Pieces">What hangs there, by peg and mark.</param>
public sealed record Bay(string Name, IReadOnlyList<Hanging> Pieces)
{
    /// <summary>What is said of pieces without a peg.</summary>
    public const string None = "no peg";

    /// <summary>The bay of a peg: its name's leading letters, or what stands before a dash.</summary>
    public static string Of(string peg)
    {
        var letters = peg.TakeWhile(c => !char.IsDigit(c) && c is not ('-' or ' ' or '.')).Count();
        return letters > 0 ? peg[..letters].ToUpperInvariant()
            : peg.Length == 0 ? None
            : peg.Split('-', ' ', '.')[0];
    }
}

/// <summary>
/// A whole store from afar: every piece a small mark in its bay, told apart by how it stands, faded where the filter
/// passes it over.
/// </summary>
public static class WallMap
{
    private const int Cell = 9;
    private const int Across = 10;
    private const int Gap = 14;
    private const int Head = 16;
    private const int MostWidth = 960;

    /// <summary>Draws the bays; each leads to itself seen close.</summary>
    public static IHtmlContent Draw(IReadOnlyList<Bay> bays, string? chosen, Func<Bay, string> linkTo)
    {
        var rows = Math.Max(1, (bays.Max(b => b.Pieces.Count) + Across - 1) / Across);
        var width = (Across * Cell) + Gap;
        var height = Head + (rows * Cell) + Gap;
        var perLine = Math.Max(1, MostWidth / width);
        var lines = (bays.Count + perLine - 1) / perLine;
        var svg = new StringBuilder();
        svg.Append(
            CultureInfo.InvariantCulture,
            $"<svg class=\"wall-map\" viewBox=\"0 0 {perLine * width} {lines * height}\" role=\"group\" aria-label=\"The whole wall, bay by bay\">"
        );
        for (var i = 0; i < bays.Count; i++)
        {
            var bay = bays[i];
            svg.Append(
                CultureInfo.InvariantCulture,
                $"<a href=\"{WebUtility.HtmlEncode(linkTo(bay))}\" aria-label=\"Bay {WebUtility.HtmlEncode(bay.Name)}, {bay.Pieces.Count} pieces\"{(bay.Name == chosen ? " aria-current=\"true\"" : string.Empty)}><g transform=\"translate({i % perLine * width} {i / perLine * height})\">"
            );
            svg.Append(
                CultureInfo.InvariantCulture,
                $"<rect class=\"bay\" x=\"2\" y=\"2\" width=\"{width - 4}\" height=\"{height - 4}\"/><text x=\"7\" y=\"14\">{WebUtility.HtmlEncode(bay.Name)}</text><path class=\"rail\" d=\"M6 18H{width - 6}\"/>"
            );

            // One path for all marks of a kind: thousands of pieces stay a few kilobytes.
            foreach (var kind in bay.Pieces.Select((p, at) => (p, at)).GroupBy(p => (p.p.Kind, p.p.Shown)))
            {
                var path = new StringBuilder();
                foreach (var (_, at) in kind)
                    path.Append(
                        CultureInfo.InvariantCulture,
                        $"M{7 + (at % Across * Cell)} {Head + 5 + (at / Across * Cell)}{Shape(kind.Key.Kind)}"
                    );
                svg.Append(
                    CultureInfo.InvariantCulture,
                    $"<path class=\"m-{kind.Key.Kind}{(kind.Key.Shown ? string.Empty : " is-faded")}\" d=\"{path}\"/>"
                );
            }

            svg.Append("</g></a>");
        }

        return new HtmlString(svg.Append("</svg>").ToString());
    }

    /// <summary>Told apart by shape too: filled, thinned, pinned, broken, open, gone.</summary>
    private static string Shape(string kind) =>
        kind switch
        {
            "fit" => "h6v6h-6z",
            "watch" => "h6v6h-3v-6",
            "hold" => "h6v6h-6zm3-2v10",
            "remove" => "l6 6m0-6l-6 6",
            "stopped" => "h6v6h-6z",
            "missing" => "m0 6h6",
            _ => "m3 0l3 3l-3 3l-3-3z",
        };
}
