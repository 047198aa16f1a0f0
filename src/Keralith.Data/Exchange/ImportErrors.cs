namespace Keralith.Data.Exchange;

/// <summary>What is wrong with a file's rows, as a file itself.</summary>
public static class ImportErrors
{
    /// <summary>Writes row, column and reason of every fault, as CSV.</summary>
    public static Task WriteAsync(Stream to, ImportPlan plan, CancellationToken cancel) =>
        TableWriter.CsvAsync(to, ["row", "column", "reason"], Rows(plan), cancel);

    private static async IAsyncEnumerable<IReadOnlyList<string>> Rows(ImportPlan plan)
    {
        foreach (var row in plan.Rows)
        {
            foreach (var (column, reason) in row.Faults)
                yield return [row.Number.ToString(), column, reason];
        }

        await Task.CompletedTask;
    }
}
