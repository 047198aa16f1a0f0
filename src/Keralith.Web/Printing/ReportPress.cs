using PdfSharp.Drawing;
using PdfSharp.UniversalAccessibility;

namespace Keralith.Web.Printing;

/// <summary>Sets a report, page by page. All lengths are points unless they say millimetres.</summary>
internal sealed partial class ReportPress : IDisposable
{
    private const double Edge = 28;
    private const double Inner = 12;
    private const double Left = Edge + Inner;
    private const double Foot = 34;
    private const double Size = 9.2;
    private const double Small = 8;
    private const double Leading = 1.3;
    private const double Gutter = 8;

    /// <summary>No line of a page holds more signs.</summary>
    private const int LongestLine = 600;

    /// <summary>From one line of a table to the next.</summary>
    private const double Step = Small * Leading;

    private static readonly double[] Headings = [16, 12, 10];

    private readonly PaperFile _file;
    private readonly Dictionary<(string, double, bool), XFont> _fonts = [];
    private readonly Dictionary<(XFont, string), double> _widths = [];
    private readonly XGraphics _measure = XGraphics.CreateMeasureContext(
        new XSize(1000, 1000),
        XGraphicsUnit.Point,
        XPageDirection.Downwards
    );
    private readonly string _title;
    private readonly string _about;
    private readonly bool _wide;
    private readonly int _total;
    private double _y;

    /// <param name="title">On every page.</param>
    /// <param name="about">On every page.</param>
    /// <param name="wide">Whether the pages lie on their side.</param>
    /// <param name="total">How many pages there will be; 0 where it is not known yet.</param>
    public ReportPress(string title, string about, bool wide, int total)
    {
        (_title, _about, _wide, _total) = (title, about, wide, total);
        _file = new(title, about);
        NewPage();
    }

    /// <summary>Pages so far.</summary>
    public int Pages => _file.Pages;

    private double Width => _wide ? 841.89 : 595.28;

    private double Height => _wide ? 595.28 : 841.89;

    private double Room => Width - (2 * Left);

    private double Bottom => Height - Edge - Foot - 6;

    private XGraphics Page => _file.Page;

    /// <summary>The document's bytes.</summary>
    public byte[] Done(DateTimeOffset made, Guid identity) => _file.Done(made, identity);

    public void Heading(string text, int level)
    {
        var size = Headings[level - 1];
        var font = Font(size, bold: true);
        var lines = Wrap(text, font, Room);
        _y += _y > Edge + Inner ? size * 0.6 : 0;

        // It does not stand alone at a page's foot.
        Keep((lines.Count * size * Leading) + (3 * Size * Leading));
        Element(
            level switch
            {
                1 => PdfBlockLevelElementTag.Heading1,
                2 => PdfBlockLevelElementTag.Heading2,
                _ => PdfBlockLevelElementTag.Heading3,
            },
            () => Lines(lines, font, Left)
        );
        _y += 2;
    }

    public void Paragraph(string text, bool bold, bool small)
    {
        var font = Font(small ? Small : Size, bold);
        Element(PdfBlockLevelElementTag.Paragraph, () =>
        {
            foreach (var part in text.Split('\n'))
                Lines(Wrap(part, font, Room), font, Left);
        });
        _y += 3;
    }

    public void Facts(IReadOnlyList<(string Name, string Value)> facts) => Facts(facts, Left, Room);

    /// <param name="draw">Draws it, its upper left corner where it is told, in millimetres.</param>
    public void Figure(
        string alt,
        (double Width, double Height) millimetres,
        Action<Ink, double, double> draw,
        IReadOnlyList<(string Name, string Value)> facts
    )
    {
        var (width, height) = (millimetres.Width * Paper.Point, millimetres.Height * Paper.Point);
        Keep(height + 4);
        var (top, page) = (_y, Pages);
        _file.Tags.BeginElement(PdfIllustrationElementTag.Figure, alt, new XRect(Left, top, width, height));
        draw(new PdfInk(Page, null), Left / Paper.Point, top / Paper.Point);
        _file.Tags.End();
        Facts(facts, Left + width + Gutter, Room - width - Gutter);
        if (Pages == page)
            _y = Math.Max(_y, top + height) + 4;
    }

    public void Picture(string words, byte[] jpeg)
    {
        using var image = XImage.FromStream(new MemoryStream(jpeg));
        var scale = Math.Min(Room * 0.7 / image.PointWidth, (Bottom - Edge - Inner) * 0.38 / image.PointHeight);
        var (width, height) = (image.PointWidth * scale, image.PointHeight * scale);
        Keep(height + (2 * Small * Leading));
        var box = new XRect(Left, _y, width, height);
        _file.Tags.BeginElement(PdfIllustrationElementTag.Figure, words, box);
        Page.DrawImage(image, box);
        _file.Tags.End();
        _y += height + 2;
        Paragraph(words, bold: false, small: true);
        _y += 4;
    }

    public void Table(IReadOnlyList<ReportColumn> columns, IReadOnlyList<IReadOnlyList<string>> rows)
    {
        var all = columns.Sum(c => c.Share);
        var widths = columns.Select(c => (Room * c.Share / all) - Gutter).ToArray();
        var lefts = widths.Select((_, i) => Left + widths.Take(i).Sum(w => w + Gutter)).ToArray();
        var bold = Font(Small, bold: true);
        var heads = columns.Select((c, i) => (IReadOnlyList<string>)Wrap(c.Head, bold, widths[i])).ToList();
        XFont[] headFaces = [.. columns.Select(_ => bold)];
        XFont[] faces = [.. columns.Select(c => Font(Small, family: c.Mono ? PaperFile.Mono : PaperFile.Plain))];
        var headed = (heads.Max(h => h.Count) * Step) + 4;
        Keep(headed + (2 * Step));
        _file.Tags.BeginElement(PdfBlockLevelElementTag.Table);
        Row(PdfBlockLevelElementTag.TableHeaderCell, heads, headFaces, lefts);
        var most = (int)((Bottom - Edge - Inner - headed) / Step) - 1;
        foreach (var row in rows)
        {
            var cells = row.Select((cell, i) => Wrap(cell, faces[i], widths[i])).ToList();

            // A row longer than a page goes on in another.
            for (var from = 0; from < Math.Max(1, cells.Max(c => c.Count)); from += most)
            {
                var part = cells.Select(c => (IReadOnlyList<string>)[.. c.Skip(from).Take(most)]).ToList();
                if (_y + (part.Max(c => c.Count) * Step) + 4 > Bottom)
                {
                    NewPage();
                    Artifact(() => Cells(heads, headFaces, lefts, null));
                    Rule();
                }

                Row(PdfBlockLevelElementTag.TableDataCell, part, faces, lefts);
            }
        }

        _file.Tags.End();
        _y += 4;
    }

    private void Row(
        PdfBlockLevelElementTag tag,
        IReadOnlyList<IReadOnlyList<string>> cells,
        XFont[] faces,
        double[] lefts
    )
    {
        _file.Tags.BeginElement(PdfBlockLevelElementTag.TableRow);
        Cells(cells, faces, lefts, tag);
        _file.Tags.End();
        Rule();
    }

    /// <param name="tag">What each cell is; null: no part of the document's structure.</param>
    private void Cells(
        IReadOnlyList<IReadOnlyList<string>> cells,
        XFont[] faces,
        double[] lefts,
        PdfBlockLevelElementTag? tag
    )
    {
        var top = _y;
        for (var i = 0; i < cells.Count; i++)
        {
            if (tag is { } of)
                _file.Tags.BeginElement(of);
            _y = top;
            Lines(cells[i], faces[i], lefts[i]);
            if (tag is not null)
                _file.Tags.End();
        }

        _y = top + (cells.Max(c => c.Count) * Step) + 2;
    }

    public void Dispose()
    {
        _measure.Dispose();
        _file.Dispose();
    }

    private void Facts(IReadOnlyList<(string Name, string Value)> facts, double left, double width)
    {
        if (facts.Count == 0)
            return;
        var (name, value) = (Font(Small), Font(Size));
        var narrow = Math.Min(120, width * 0.34);
        _file.Tags.BeginElement(PdfBlockLevelElementTag.Table);
        foreach (var (called, said) in facts)
        {
            var names = Wrap(called, name, narrow - Gutter);
            var values = said.Split('\n').SelectMany(l => Wrap(l, value, width - narrow)).ToList();
            Keep(Math.Max(names.Count, Math.Min(values.Count, 40)) * Size * Leading);
            _file.Tags.BeginElement(PdfBlockLevelElementTag.TableRow);
            var (top, page) = (_y, Pages);
            Element(PdfBlockLevelElementTag.TableHeaderCell, () => Lines(names, name, left, Size));
            var below = _y;
            _y = top;
            Element(PdfBlockLevelElementTag.TableDataCell, () => Lines(values, value, left + narrow));
            if (Pages == page)
                _y = Math.Max(_y, below);
            _file.Tags.End();
            _y += 1.5;
        }

        _file.Tags.End();
        _y += 3;
    }

    private void Element(PdfBlockLevelElementTag tag, Action draw)
    {
        _file.Tags.BeginElement(tag);
        draw();
        _file.Tags.End();
    }

    private void Artifact(Action draw)
    {
        _file.Tags.BeginArtifact();
        draw();
        _file.Tags.End();
    }

    private void Rule()
    {
        Artifact(() => Page.DrawLine(new XPen(XColors.Gray, 0.3), Left, _y, Left + Room, _y));
        _y += 2;
    }

    private void Lines(IReadOnlyList<string> lines, XFont font, double left, double? body = null)
    {
        var step = (body ?? font.Size) * Leading;
        foreach (var line in lines)
        {
            Keep(step);
            Page.DrawString(line, font, XBrushes.Black, left, _y + (step * 0.78));
            _y += step;
        }
    }

    private void Keep(double height)
    {
        if (_y + height > Bottom)
            NewPage();
    }

    private void NewPage()
    {
        _file.NewPage(Width, Height);
        _y = Edge + Inner;
        Artifact(Frame);
    }

    /// <summary>The sheet's frame, and at its foot what it is and which page.</summary>
    private void Frame()
    {
        var pen = new XPen(XColors.Black, 0.7);
        var foot = Height - Edge - Foot;
        Page.DrawRectangle(pen, Edge, Edge, Width - (2 * Edge), Height - (2 * Edge));
        Page.DrawLine(pen, Edge, foot, Width - Edge, foot);
        Page.DrawLine(pen, Width - Edge - 84, foot, Width - Edge - 84, Height - Edge);
        var (bold, plain) = (Font(Small, bold: true), Font(7));
        Page.DrawString(First($"{_title}. {_about}", bold, Room - 96), bold, XBrushes.Black, Left, foot + 14);
        Page.DrawString(
            "Read as it was recorded. The maker's instructions, local code and a qualified person come first.",
            plain,
            XBrushes.Black,
            Left,
            foot + 26
        );
        Page.DrawString("Sheet", plain, XBrushes.Black, Width - Edge - 78, foot + 12);
        Page.DrawString(
            _total == 0 ? $"{Pages}" : $"{Pages} of {_total}",
            Font(Size, bold: true),
            XBrushes.Black,
            Width - Edge - 78,
            foot + 26
        );
    }

    private string First(string text, XFont font, double width)
    {
        var lines = Wrap(text, font, width);
        return lines.Count == 1 ? lines[0] : $"{lines[0]} ...";
    }

    /// <summary>A text in lines no wider than a width, broken between words; a word wider than that is broken within.</summary>
    private List<string> Wrap(string text, XFont font, double width)
    {
        var lines = new List<string>();
        var line = string.Empty;
        foreach (var word in text.Split(' ', StringSplitOptions.RemoveEmptyEntries))
        {
            var rest = word;
            var joined = line.Length == 0 ? rest : $"{line} {rest}";
            if (Measure(joined, font) <= width)
            {
                line = joined;
                continue;
            }

            if (line.Length > 0)
                lines.Add(line);
            while (rest.Length > 1 && Fitting(rest, font, width) is var take && take < rest.Length)
            {
                lines.Add(rest[..take]);
                rest = rest[take..];
            }

            line = rest;
        }

        if (line.Length > 0 || lines.Count == 0)
            lines.Add(line);
        return lines;
    }

    /// <summary>How many signs of a word are no wider than a width, never half a character; at least one.</summary>
    private int Fitting(string word, XFont font, double width)
    {
        var (least, most) = (1, Math.Min(word.Length, LongestLine));
        if (most == word.Length && One(word, font) <= width)
            return word.Length;
        while (least < most)
        {
            var middle = (least + most + 1) / 2;
            if (One(word[..middle], font) <= width)
                least = middle;
            else
                most = middle - 1;
        }

        return char.IsHighSurrogate(word[least - 1])
            ? least == 1
                ? 2
                : least - 1
            : least;
    }

    /// <summary>The width of a text: of its words, each measured once.</summary>
    private double Measure(string text, XFont font)
    {
        var words = text.Split(' ');
        return words.Sum(w => One(w, font)) + ((words.Length - 1) * One("\u00a0", font));
    }

    private double One(string word, XFont font)
    {
        // What is longer than any line is told to be wider than it.
        if (word.Length > LongestLine)
            return double.MaxValue;
        if (!_widths.TryGetValue((font, word), out var width))
            _widths[(font, word)] = width = _measure.MeasureString(word, font).Width;
        return width;
    }

    private XFont Font(double size, bool bold = false, string family = PaperFile.Plain)
    {
        if (!_fonts.TryGetValue((family, size, bold), out var font))
            _fonts[(family, size, bold)] = font = new XFont(
                family,
                size,
                bold ? XFontStyleEx.Bold : XFontStyleEx.Regular
            );
        return font;
    }
}
