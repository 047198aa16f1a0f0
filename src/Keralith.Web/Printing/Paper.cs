using System.Security.Cryptography;
using System.Text;

namespace Keralith.Web.Printing;

/// <summary>Puts what is drawn, and not set as a report, on pages: labels, posters.</summary>
public static class Paper
{
    /// <summary>Points in a millimetre.</summary>
    internal const double Point = 72 / 25.4;

    /// <summary>A document of pages of one size.</summary>
    /// <param name="title">Its title.</param>
    /// <param name="size">Width and height of a page, in millimetres.</param>
    /// <param name="pages">How many.</param>
    /// <param name="made">When it is made.</param>
    /// <param name="draw">Draws a page, counted from 0.</param>
    public static byte[] Pdf(
        string title,
        (double Width, double Height) size,
        int pages,
        DateTimeOffset made,
        Action<Ink, int> draw
    )
    {
        using var file = new PaperFile(title, title);
        for (var page = 0; page < pages; page++)
        {
            file.NewPage(size.Width * Point, size.Height * Point);
            draw(new PdfInk(file.Page, file.Tags), page);
        }

        var identity = SHA256.HashData(Encoding.UTF8.GetBytes($"{title}\n{pages}\n{made.UtcTicks}"));
        return file.Done(made, new(identity.AsSpan(0, 16)));
    }
}
