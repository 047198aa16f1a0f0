using System.Globalization;
using System.Text;
using Microsoft.AspNetCore.Html;

namespace Keralith.Web.Printing;

/// <summary>A QR code on a page, to be read off the screen.</summary>
public static class QrSquare
{
    private const int Quiet = 4;

    /// <summary>The code of a text as SVG, dark on light whatever the sheet's colours.</summary>
    /// <param name="label">What it is, for who does not see it.</param>
    public static IHtmlContent Of(string text, string label)
    {
        var rows = QrCode.Of(text);
        var side = rows.Count + (2 * Quiet);
        var path = new StringBuilder();
        for (var y = 0; y < rows.Count; y++)
        {
            for (var x = 0; x < rows[y].Count; x++)
            {
                if (rows[y][x])
                    path.Append(CultureInfo.InvariantCulture, $"M{x + Quiet} {y + Quiet}h1v1h-1z");
            }
        }

        return new HtmlString(
            $"<svg class=\"qr\" viewBox=\"0 0 {side} {side}\" role=\"img\" aria-label=\"{System.Net.WebUtility.HtmlEncode(label)}\"><rect width=\"{side}\" height=\"{side}\" fill=\"#fff\"/><path d=\"{path}\" fill=\"#000\"/></svg>"
        );
    }
}
