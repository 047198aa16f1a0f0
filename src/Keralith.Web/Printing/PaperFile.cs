using System.Text;
using PdfSharp.Drawing;
using PdfSharp.Fonts;
using PdfSharp.Pdf;
using PdfSharp.UniversalAccessibility;

namespace Keralith.Web.Printing;

/// <summary>A PDF as everything here is printed: tagged, with title and language; the same contents are the same bytes.</summary>
internal sealed partial class PaperFile : IDisposable
{
    /// <summary>The family words are set in.</summary>
    public const string Plain = "Keralith";

    /// <summary>The family marks and figures are set in.</summary>
    public const string Mono = "Keralith Mono";

    private readonly PdfDocument _document = new();
    private XGraphics? _page;

    static PaperFile() => GlobalFontSettings.FontResolver ??= new PaperFonts();

    public PaperFile(string title, string about)
    {
        var tagged = UAManager.ForDocument(_document);
        tagged.SetDocumentLanguage("en");
        Tags = tagged.StructureBuilder;
        _document.Info.Title = title;
        _document.Info.Subject = about;
        _document.Info.Creator = "Keralith";
        _document.ViewerPreferences.DisplayDocTitle = true;
    }

    /// <summary>What each part of it is.</summary>
    public StructureBuilder Tags { get; }

    /// <summary>Pages so far.</summary>
    public int Pages => _document.PageCount;

    /// <summary>The page drawn on now.</summary>
    /// <exception cref="InvalidOperationException">There is none yet.</exception>
    public XGraphics Page => _page ?? throw new InvalidOperationException("No page was begun.");

    /// <summary>Begins the next page, its size in points.</summary>
    public void NewPage(double width, double height)
    {
        // The library ends what is open on the old page while it adds the new one.
        var page = _document.AddPage();
        _page?.Dispose();
        (page.Width, page.Height) = (XUnit.FromPoint(width), XUnit.FromPoint(height));
        _page = XGraphics.FromPdfPage(page);
    }

    /// <summary>The document's bytes.</summary>
    /// <param name="made">When it is made.</param>
    /// <param name="identity">What tells it from others.</param>
    public byte[] Done(DateTimeOffset made, Guid identity)
    {
        _page?.Dispose();
        _page = null;
        _document.Info.CreationDate = made.UtcDateTime;
        _document.Info.ModificationDate = made.UtcDateTime;
        var id = Encoding.Latin1.GetString(identity.ToByteArray());
        (_document.Internals.FirstDocumentID, _document.Internals.SecondDocumentID) = (id, id);
        using var bytes = new MemoryStream();
        _document.Save(bytes, false);
        return Named(bytes.ToArray(), identity);
    }

    public void Dispose()
    {
        _page?.Dispose();
        _document.Dispose();
    }

    /// <summary>
    /// The library names its parts of a face, and the document, by chance; named in their order and by what it is, the same
    /// document is the same bytes. The names are of one length, so nothing moves.
    /// </summary>
    private static byte[] Named(byte[] pdf, Guid identity)
    {
        var names = new Dictionary<string, string>();
        var text = DocumentName().Replace(Encoding.Latin1.GetString(pdf), $"uuid:{identity}");
        return Encoding.Latin1.GetBytes(FaceName().Replace(text, Again));

        string Again(System.Text.RegularExpressions.Match face)
        {
            if (!names.TryGetValue(face.Groups[1].Value, out var name))
                names[face.Groups[1].Value] = name = $"AAAAA{(char)('A' + names.Count)}";
            return $"/{name}+Atkinson";
        }
    }

    [System.Text.RegularExpressions.GeneratedRegex("uuid:[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}")]
    private static partial System.Text.RegularExpressions.Regex DocumentName();

    [System.Text.RegularExpressions.GeneratedRegex("/([A-Z]{6})\\+Atkinson")]
    private static partial System.Text.RegularExpressions.Regex FaceName();

    /// <summary>The application's own faces, for the library.</summary>
    private sealed class PaperFonts : IFontResolver
    {
        public FontResolverInfo? ResolveTypeface(string familyName, bool isBold, bool isItalic) =>
            new(Fonts.FileOf(new(1, isBold, familyName == Mono)));

        public byte[]? GetFont(string faceName) => File.ReadAllBytes(Fonts.PathOf(faceName));
    }
}
