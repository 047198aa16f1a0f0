using System.Globalization;
using Microsoft.AspNetCore.Mvc;

namespace Keralith.Web.Pages.Teaches;

/// <summary>A page whose tables are had as CSV too.</summary>
public abstract class TablePage(Here here) : YardPage(here)
{
    /// <summary>A table as CSV.</summary>
    protected async Task<IActionResult> CsvAsync(string name, string[] headings, IEnumerable<object?[]> rows)
    {
        using var text = new StringWriter();
        await using (var writer = new CsvHelper.CsvWriter(text, CultureInfo.InvariantCulture))
        {
            foreach (var row in rows.Prepend(headings))
            {
                foreach (var cell in row)
                    writer.WriteField(cell);
                await writer.NextRecordAsync();
            }
        }

        return File(System.Text.Encoding.UTF8.GetBytes(text.ToString()), "text/csv; charset=utf-8", $"{name}.csv");
    }
}
