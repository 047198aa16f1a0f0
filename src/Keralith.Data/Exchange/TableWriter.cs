using System.Globalization;
using System.Text;
using CsvHelper;
using CsvHelper.Configuration;
using MiniExcelLibs;

namespace Keralith.Data.Exchange;

/// <summary>Writes rows as CSV (RFC 4180, UTF-8) or XLSX. A cell a spreadsheet would take for a formula is defused.</summary>
public static class TableWriter
{
    /// <summary>Whether a cell that starts so would be reckoned instead of read.</summary>
    public static bool LooksLikeFormula(char first) => first is '=' or '+' or '-' or '@' or '\t' or '\r';

    public static async Task CsvAsync(
        Stream to,
        IReadOnlyList<string> headings,
        IAsyncEnumerable<IReadOnlyList<string>> rows,
        CancellationToken cancel
    )
    {
        await using var text = new StreamWriter(to, new UTF8Encoding(false), leaveOpen: true);
        await using var csv = new CsvWriter(
            text,
            new CsvConfiguration(CultureInfo.InvariantCulture) { NewLine = "\r\n" }
        );
        foreach (var heading in headings)
            csv.WriteField(heading);
        await csv.NextRecordAsync().ConfigureAwait(false);
        await foreach (var row in rows.WithCancellation(cancel).ConfigureAwait(false))
        {
            foreach (var cell in row)
                csv.WriteField(Guarded(cell));
            await csv.NextRecordAsync().ConfigureAwait(false);
        }
    }

    public static async Task XlsxAsync(
        Stream to,
        IReadOnlyList<string> headings,
        IAsyncEnumerable<IReadOnlyList<string>> rows,
        CancellationToken cancel
    )
    {
        // Cells go in as text, which a spreadsheet never reckons; the guard would only be in the way.
        var all = new List<Dictionary<string, object>>();
        await foreach (var row in rows.WithCancellation(cancel).ConfigureAwait(false))
            all.Add(headings.Zip(row).ToDictionary(c => c.First, object (c) => c.Second));
        if (all.Count == 0)
            all.Add(headings.ToDictionary(h => h, object (_) => string.Empty));
        await to.SaveAsAsync(all, sheetName: "Register", cancellationToken: cancel).ConfigureAwait(false);
    }

    private static string Guarded(string cell) => cell.Length > 0 && LooksLikeFormula(cell[0]) ? $"'{cell}" : cell;
}
