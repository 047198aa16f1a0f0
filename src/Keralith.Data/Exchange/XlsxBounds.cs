using System.Globalization;
using System.IO.Compression;
using System.Xml;

namespace Keralith.Data.Exchange;

/// <summary>
/// Looks through a spreadsheet as a stream before it is read: how many rows and cells it has, how far they lie apart,
/// how much text there is. A small file can name a million rows, or unpack to more than a machine holds.
/// </summary>
internal static class XlsxBounds
{
    private const long MostUnpacked = Table.MostBytes * 8L;
    private const int MostParts = 2_000;
    private const int MostMerged = 1_000;

    /// <summary>Cells of the whole sheet, the empty ones between among them.</summary>
    private const long MostCells = 4_000_000;

    private static readonly Refusal TooLarge = new("The sheet is larger than anything a register holds. Split it.");

    private static readonly Refusal Gaps = new(
        "The sheet names cells far apart, with nothing between. Copy the rows into a new sheet and save that."
    );

    /// <summary>Why a sheet is not read; null when it can be.</summary>
    /// <exception cref="InvalidDataException">It is no spreadsheet.</exception>
    /// <exception cref="XmlException">A part of it is not XML, or holds what no spreadsheet does.</exception>
    public static Refusal? Of(byte[] bytes, CancellationToken cancel)
    {
        using var zip = new ZipArchive(new MemoryStream(bytes));
        if (zip.Entries.Count > MostParts)
            return TooLarge;
        var left = MostUnpacked;
        foreach (var entry in zip.Entries.Where(e => e.FullName.EndsWith(".xml", StringComparison.OrdinalIgnoreCase)))
        {
            if (OfPart(entry, ref left, cancel) is { } refusal)
                return refusal;
        }

        return null;
    }

    private static Refusal? OfPart(ZipArchiveEntry entry, ref long left, CancellationToken cancel)
    {
        using var unpacked = new Counted(entry.Open(), left);
        try
        {
            using var xml = XmlReader.Create(
                unpacked,
                new XmlReaderSettings
                {
                    DtdProcessing = DtdProcessing.Prohibit,
                    XmlResolver = null,
                    CloseInput = true,
                    IgnoreWhitespace = true,
                }
            );
            return OfSheet(xml, cancel);
        }
        catch (Counted.TooMuchException)
        {
            return TooLarge;
        }
        finally
        {
            left -= unpacked.Taken;
        }
    }

    private static Refusal? OfSheet(XmlReader xml, CancellationToken cancel)
    {
        long rows = 0,
            lastRow = 0,
            lastColumn = 0,
            merged = 0;
        while (xml.Read())
        {
            if (xml.NodeType != XmlNodeType.Element)
                continue;
            switch (xml.LocalName)
            {
                case "row":
                    cancel.ThrowIfCancellationRequested();
                    rows++;
                    lastRow = Math.Max(lastRow, Whole(xml.GetAttribute("r")) ?? rows);
                    break;
                case "c":
                    lastColumn = Math.Max(lastColumn, Column(xml.GetAttribute("r")));
                    break;
                case "dimension":
                    var far = (xml.GetAttribute("ref") ?? string.Empty).Split(':')[^1];
                    lastColumn = Math.Max(lastColumn, Column(far));
                    lastRow = Math.Max(lastRow, Whole(far.TrimStart([.. "ABCDEFGHIJKLMNOPQRSTUVWXYZ$"])) ?? 0);
                    break;
                case "mergeCell":
                    merged++;
                    break;
                default:
                    break;
            }

            if (rows > Table.MostRows + 1 || merged > MostMerged)
                return TooLarge;
            if (lastRow > Table.MostRows * 2 || lastColumn > Table.MostColumns * 2 || lastRow * lastColumn > MostCells)
                return rows * lastColumn > MostCells ? TooLarge : Gaps;
        }

        return null;
    }

    private static long? Whole(string? text) =>
        long.TryParse(text, NumberStyles.None, CultureInfo.InvariantCulture, out var whole) ? whole : null;

    /// <summary>The column's number of a cell's name: 1 for A, 27 for AA; beyond any sheet's where it is none.</summary>
    private static long Column(string? name)
    {
        long column = 0;
        foreach (var letter in (name ?? string.Empty).TrimStart('$'))
        {
            if (letter is < 'A' or > 'Z')
                break;
            column = (column * 26) + (letter - 'A' + 1);
            if (column > 20_000)
                break;
        }

        return column;
    }

    /// <summary>A stream that gives so much and no more.</summary>
    private sealed class Counted(Stream inner, long most) : Stream
    {
        public long Taken { get; private set; }

        public override bool CanRead => true;

        public override bool CanSeek => false;

        public override bool CanWrite => false;

        public override long Length => throw new NotSupportedException();

        public override long Position
        {
            get => throw new NotSupportedException();
            set => throw new NotSupportedException();
        }

        public override int Read(byte[] buffer, int offset, int count)
        {
            var got = inner.Read(buffer, offset, count);
            Taken += got;
            return Taken > most ? throw new TooMuchException() : got;
        }

        public override void Flush() { }

        public override long Seek(long offset, SeekOrigin origin) => throw new NotSupportedException();

        public override void SetLength(long value) => throw new NotSupportedException();

        public override void Write(byte[] buffer, int offset, int count) => throw new NotSupportedException();

        protected override void Dispose(bool disposing)
        {
            if (disposing)
                inner.Dispose();
            base.Dispose(disposing);
        }

        public sealed class TooMuchException : Exception;
    }
}
