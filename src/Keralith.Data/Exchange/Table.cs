using System.Globalization;
using System.Text;
using CsvHelper;
using CsvHelper.Configuration;
using MiniExcelLibs;
using MiniExcelLibs.OpenXml;

namespace Keralith.Data.Exchange;

/// <summary>A file's rows: headings and cells, however it was written.</summary>
/// <param name="Headings">As they stand in the first row.</param>
/// <param name="Rows">The cells of each row under them, with the row's number in the file; rows without anything are
/// left out.</param>
public sealed record Table(
    IReadOnlyList<string> Headings,
    IReadOnlyList<(int Number, IReadOnlyList<string> Cells)> Rows
)
{
    /// <summary>Largest file read, in bytes.</summary>
    public const int MostBytes = 24 * 1024 * 1024;

    /// <summary>Most rows read.</summary>
    public const int MostRows = 100_000;

    /// <summary>Most columns of a register.</summary>
    internal const int MostColumns = 400;

    private const int LongestCell = 4000;

    /// <summary>
    /// Reads CSV (comma or semicolon, CRLF or LF, with or without a byte order mark) or XLSX (its first sheet). Text is
    /// UTF-8.
    /// </summary>
    /// <param name="cancel">Given up with the request that asked.</param>
    public static Checked<Table> Read(byte[] bytes, CancellationToken cancel)
    {
        if (bytes.Length == 0)
            return new Refusal("The file is empty.");
        if (bytes.Length > MostBytes)
            return new Refusal(
                $"The file has {bytes.Length / 1024 / 1024} MB; at most {MostBytes / 1024 / 1024} MB are read at once. Split it."
            );
        return bytes is [0x50, 0x4B, 0x03, 0x04, ..] ? ReadXlsx(bytes, cancel) : ReadCsv(bytes, cancel);
    }

    private static Checked<Table> ReadCsv(byte[] bytes, CancellationToken cancel)
    {
        string text;
        try
        {
            if (bytes is [0xFF, 0xFE, ..] or [0xFE, 0xFF, ..])
                return new Refusal("The file is written in UTF-16. Save it as CSV in UTF-8.");
            text = new UTF8Encoding(false, true).GetString(bytes).TrimStart('\uFEFF');
        }
        catch (DecoderFallbackException)
        {
            return new Refusal("The file is not UTF-8 text. Save it as CSV in UTF-8, or send it as XLSX.");
        }

        if (text.Contains('\0', StringComparison.Ordinal))
            return new Refusal("The file is not text. Save it as CSV in UTF-8, or send it as XLSX.");
        var first = text.Split('\n', 2)[0];
        using var csv = new CsvParser(
            new StringReader(text),
            new CsvConfiguration(CultureInfo.InvariantCulture)
            {
                Delimiter =
                    first.Count(c => c == ';') > first.Count(c => c == ',') ? ";"
                    : first.Contains('\t', StringComparison.Ordinal) && !first.Contains(',', StringComparison.Ordinal)
                        ? "\t"
                    : ",",
                BadDataFound = null,
                MaxFieldSize = LongestCell,
            }
        );
        try
        {
            return Collect(Lines(csv), cancel);
        }
        catch (MaxFieldSizeException)
        {
            return new Refusal(
                $"A cell near row {csv.RawRow} is longer than {LongestCell} letters: is a quotation mark left open?"
            );
        }
    }

    private static IEnumerable<(int Number, string[] Cells)> Lines(CsvParser csv)
    {
        while (csv.Read())
            yield return (csv.Row, csv.Record!);
    }

    private static Checked<Table> ReadXlsx(byte[] bytes, CancellationToken cancel)
    {
        try
        {
            if (XlsxBounds.Of(bytes, cancel) is { } refusal)
                return refusal;

            using var stream = new MemoryStream(bytes);
            var rows = stream
                .Query(
                    useHeaderRow: false,
                    excelType: ExcelType.XLSX,
                    configuration: new OpenXmlConfiguration { FillMergedCells = false }
                )
                .Cast<IDictionary<string, object?>>()
                .Select((row, i) => (i + 1, row.Values.Select(Cell).ToArray()));
            return Collect(rows, cancel);
        }
        catch (Exception e)
            when (e
                    is InvalidDataException
                        or System.Xml.XmlException
                        or KeyNotFoundException
                        or InvalidOperationException
                        or FormatException
                        or NullReferenceException
            )
        {
            return new Refusal("The file is not a spreadsheet that can be read. Save it as XLSX or CSV again.");
        }
    }

    private static string Cell(object? value) =>
        value switch
        {
            null => string.Empty,
            DateTime { TimeOfDay.Ticks: 0 } day => day.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture),
            bool yes => yes ? "yes" : "no",
            double number when number == Math.Floor(number) && Math.Abs(number) < 1e15 => ((long)number).ToString(
                CultureInfo.InvariantCulture
            ),
            IFormattable other => other.ToString(null, CultureInfo.InvariantCulture),
            _ => value.ToString() ?? string.Empty,
        };

    private static Checked<Table> Collect(IEnumerable<(int Number, string[] Cells)> lines, CancellationToken cancel)
    {
        string[]? headings = null;
        var rows = new List<(int, IReadOnlyList<string>)>();
        foreach (var (number, cells) in lines)
        {
            cancel.ThrowIfCancellationRequested();
            if (cells.All(string.IsNullOrWhiteSpace))
                continue;
            if (cells.FirstOrDefault(c => c.Length > LongestCell) is not null)
                return new Refusal($"A cell in row {number} is longer than {LongestCell} letters.");
            if (headings is null)
            {
                headings = cells.Select(c => c.Trim()).ToArray();
                if (headings.Length > MostColumns)
                    return new Refusal(
                        $"The first row has {headings.Length} columns; is it the heading row of a register?"
                    );
                continue;
            }

            if (rows.Count == MostRows)
                return new Refusal($"The file has more than {MostRows} rows. Split it.");
            rows.Add((number, cells.Select(Unguarded).ToList()));
        }

        return headings is null ? new Refusal("The file is empty.") : new Table(headings, rows);
    }

    /// <summary>
    /// Takes the guard off that <see cref="TableWriter"/> put before what a spreadsheet would take for a formula.
    /// </summary>
    private static string Unguarded(string cell) =>
        cell.Length > 1 && cell[0] == '\'' && TableWriter.LooksLikeFormula(cell[1]) ? cell[1..] : cell;
}
