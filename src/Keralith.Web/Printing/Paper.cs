using SkiaSharp;

namespace Keralith.Web.Printing;

/// <summary>Makes PDF documents.</summary>
public static class Paper
{
    /// <summary>A document of pages of one size.</summary>
    /// <param name="title">Its title.</param>
    /// <param name="size">Width and height of a page, in millimetres.</param>
    /// <param name="pages">How many.</param>
    /// <param name="draw">Draws a page, counted from 0.</param>
    public static byte[] Pdf(string title, (double Width, double Height) size, int pages, Action<Ink, int> draw)
    {
        using var bytes = new MemoryStream();
        using (
            var document = SKDocument.CreatePdf(
                bytes,
                new SKDocumentPdfMetadata
                {
                    Title = title,
                    Creator = "Keralith",
                    Producer = "Keralith",
                    RasterDpi = 300,
                    EncodingQuality = 90,
                }
            )
        )
        {
            for (var page = 0; page < pages; page++)
            {
                using var canvas = document.BeginPage(
                    (float)(size.Width * 72 / 25.4),
                    (float)(size.Height * 72 / 25.4)
                );
                draw(new PdfInk(canvas), page);
                document.EndPage();
            }

            document.Close();
        }

        return bytes.ToArray();
    }
}
