using System.Security.Cryptography;
using System.Text;

namespace Keralith.Web.Printing;

/// <summary>A column of a report's table.</summary>
/// <param name="Head">Its heading, repeated on every page.</param>
/// <param name="Share">Its part of the width, over 0, beside the others'.</param>
/// <param name="Mono">Whether it holds marks or figures.</param>
public sealed record ReportColumn(string Head, double Share, bool Mono = false);

/// <summary>
/// A document that flows over as many pages as it takes: text wraps and is never made smaller, headings of tables are
/// repeated, pages are numbered. It is tagged (ISO 32000-1, 14.8), with title and language, so that it can be read aloud.
/// </summary>
/// <param name="title">Its title, on every page.</param>
/// <param name="about">What it is of: the site, the day; on every page.</param>
/// <param name="wide">Whether it lies on its side.</param>
public sealed class Report(string title, string about, bool wide = false)
{
    private readonly List<Action<ReportPress>> _blocks = [];

    /// <summary>A heading; it stays with what follows it.</summary>
    /// <param name="text">Its words.</param>
    /// <param name="level">1 for the document's own, 2 for its parts, 3 within them.</param>
    public Report Heading(string text, int level = 2) => With(p => p.Heading(text, level));

    /// <summary>A paragraph.</summary>
    public Report Paragraph(string text, bool bold = false, bool small = false) =>
        With(p => p.Paragraph(text, bold, small));

    /// <summary>Facts by their names; those without a value are left out.</summary>
    public Report Facts(IEnumerable<(string Name, string? Value)> facts)
    {
        var told = facts.Where(f => f.Value is { Length: > 0 }).Select(f => (f.Name, f.Value!)).ToList();
        return With(p => p.Facts(told));
    }

    /// <summary>A table; with no rows it says so.</summary>
    /// <param name="columns">Its columns.</param>
    /// <param name="rows">Its rows, a cell for each column.</param>
    /// <param name="none">What stands there where there are none.</param>
    public Report Table(
        IReadOnlyList<ReportColumn> columns,
        IEnumerable<IReadOnlyList<string>> rows,
        string none = "None."
    )
    {
        var all = rows.ToList();
        return all.Count == 0 ? Paragraph(none) : With(p => p.Table(columns, all));
    }

    /// <summary>A drawing on the left, facts beside it.</summary>
    /// <param name="alt">What the drawing shows, in words.</param>
    /// <param name="svg">A drawing of the application's own.</param>
    /// <param name="height">In millimetres.</param>
    /// <param name="facts">Beside it.</param>
    public Report Drawing(string alt, string svg, double height, IEnumerable<(string Name, string? Value)> facts)
    {
        var told = facts.Where(f => f.Value is { Length: > 0 }).Select(f => (f.Name, f.Value!)).ToList();
        var side = height * 0.8;
        return With(p => p.Figure(alt, (side, height), (ink, x, y) => ink.Drawing(x, y, side, height, svg), told));
    }

    /// <summary>A picture, no larger than a third of a page, with its words under it.</summary>
    /// <param name="words">What it shows.</param>
    /// <param name="jpeg">The picture.</param>
    public Report Picture(string words, byte[] jpeg) => With(p => p.Picture(words, jpeg));

    /// <summary>A code that leads back to where the document is from, with words beside it.</summary>
    public Report CodeOf(string address, IEnumerable<(string Name, string? Value)> facts)
    {
        const double Side = 26;
        var told = facts.Where(f => f.Value is { Length: > 0 }).Select(f => (f.Name, f.Value!)).ToList();
        return With(p =>
            p.Figure(
                $"Code of {address}",
                (Side, Side),
                (ink, x, y) => ink.Modules(x, y, Side, QrCode.Of(address), address),
                told
            )
        );
    }

    /// <summary>The document; the same words at the same time make the same bytes.</summary>
    /// <param name="made">When it is made.</param>
    public byte[] Pdf(DateTimeOffset made)
    {
        // Once to count its pages, once with their number on them.
        var pages = Set(made, 0).Pages;
        return Set(made, pages).Bytes;
    }

    private Report With(Action<ReportPress> block)
    {
        _blocks.Add(block);
        return this;
    }

    private (int Pages, byte[] Bytes) Set(DateTimeOffset made, int pages)
    {
        using var press = new ReportPress(title, about, wide, pages);
        foreach (var block in _blocks)
            block(press);
        return (press.Pages, press.Done(made, Identity(made)));
    }

    private Guid Identity(DateTimeOffset made) =>
        new(SHA256.HashData(Encoding.UTF8.GetBytes($"{title}\n{about}\n{made.UtcTicks}")).AsSpan(0, 16));
}
