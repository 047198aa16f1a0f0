using System.Text;
using Keralith.Core.Lifts;

namespace Keralith.Data.Exchange;

/// <summary>A crane's chart as a CSV file: a figure a line, with or without its headings.</summary>
public static class ChartFile
{
    /// <summary>Reads a chart.</summary>
    /// <returns>The chart, or why the file is none.</returns>
    public static Checked<CraneChart> Read(byte[] bytes, CancellationToken cancel)
    {
        var headings = string.Join(',', ChartText.Columns);
        var text = Encoding.UTF8.GetString(bytes).TrimStart('\uFEFF').Trim();
        if (text.Length == 0)
            return new Refusal("The chart is empty: a figure a line, configuration, boom length, radius, capacity.");
        if (!text.StartsWith(ChartText.Columns[0], StringComparison.OrdinalIgnoreCase))
            text = $"{headings}\n{text}";
        var table = Table.Read(Encoding.UTF8.GetBytes(text), cancel);
        if (!table.Ok)
            return table.Refusal!;
        var places = ChartText.Columns.Select(c => table.Value.Headings.ToList().FindIndex(h => Same(h, c))).ToList();
        if (places.Contains(-1))
            return new Refusal($"The chart's columns are {headings}; found {string.Join(",", table.Value.Headings)}.");
        return ChartText.Of([
            .. table.Value.Rows.Select(r =>
                (IReadOnlyList<string>)[.. places.Select(p => p < r.Cells.Count ? r.Cells[p] : string.Empty)]
            ),
        ]);
    }

    private static bool Same(string heading, string column) =>
        string.Equals(heading.Trim().Replace(' ', '_'), column, StringComparison.OrdinalIgnoreCase);
}
