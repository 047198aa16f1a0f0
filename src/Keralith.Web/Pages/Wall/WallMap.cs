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
    private const int Margin = 7;
    private const int Head = 16;

    /// <summary>Draws the bays, each a drawing of its own that leads to itself seen close.</summary>
    public static IHtmlContent Draw(IReadOnlyList<Bay> bays, string? chosen, Func<Bay, string> linkTo)
    {
        var rows = Math.Max(1, (bays.Max(b => b.Pieces.Count) + Across - 1) / Across);
        var width = (Across * Cell) + (2 * Margin);
        var height = Head + (rows * Cell) + (2 * Margin);
        var html = new StringBuilder();
        html.Append("<div class=\"wall-map\" role=\"group\" aria-label=\"The whole wall, bay by bay\" tabindex=\"0\">");
        foreach (var bay in bays)
        {
            var name = WebUtility.HtmlEncode(bay.Name);
            html.Append(
                CultureInfo.InvariantCulture,
                $"<a href=\"{WebUtility.HtmlEncode(linkTo(bay))}\" aria-label=\"Bay {name}, {bay.Pieces.Count} pieces\"{(bay.Name == chosen ? " aria-current=\"true\"" : string.Empty)}><svg viewBox=\"0 0 {width} {height}\" aria-hidden=\"true\"><text x=\"{Margin}\" y=\"14\">{name}</text><path class=\"rail\" d=\"M{Margin - 1} 18H{width - Margin + 1}\"/>"
            );

            // One path for all marks of a kind: thousands of pieces stay a few kilobytes.
            foreach (var kind in bay.Pieces.Select((p, at) => (p, at)).GroupBy(p => (p.p.Kind, p.p.Shown)))
            {
                var path = new StringBuilder();
                foreach (var (_, at) in kind)
                    path.Append(
                        CultureInfo.InvariantCulture,
                        $"M{Margin + (at % Across * Cell)} {Head + 5 + (at / Across * Cell)}{Shape(kind.Key.Kind)}"
                    );
                html.Append(
                    CultureInfo.InvariantCulture,
                    $"<path class=\"m-{kind.Key.Kind}{(kind.Key.Shown ? string.Empty : " is-faded")}\" d=\"{path}\"/>"
                );
            }

            html.Append("</svg></a>");
        }

        return new HtmlString(html.Append("</div>").ToString());
    }

    /// <summary>A mark of a kind by itself, for the words beside it.</summary>
    public static IHtmlContent Sign(string kind) =>
        new HtmlString(
            $"<svg class=\"wall-sign\" viewBox=\"0 0 12 12\" aria-hidden=\"true\"><path class=\"m-{kind}\" d=\"M3 3{Shape(kind)}\"/></svg>"
        );

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
