using System.Runtime.CompilerServices;
using Keralith.Core.Register;

namespace Keralith.Data.Exchange;

/// <summary>The register as rows, in the columns files have.</summary>
public sealed class RegisterExport(Database database, SiteStore sites)
{
    private const int AtATime = 1000;

    /// <summary>The columns an export has: the fixed ones, or every one and those figures that stand on one part alone.</summary>
    public async Task<IReadOnlyList<string>> HeadingsAsync(bool everything, CancellationToken cancel)
    {
        if (!everything)
            return RegisterColumns.Fixed;
        var single = new SortedSet<string>(StringComparer.Ordinal);
        await foreach (var (_, cells) in CellsAsync(null, cancel).ConfigureAwait(false))
            single.UnionWith(cells.Keys);
        return [.. RegisterColumns.All, .. single.Except(RegisterColumns.All)];
    }

    /// <summary>Rows under the headings, by mark.</summary>
    /// <param name="marks">Only these; null: all.</param>
    public async IAsyncEnumerable<IReadOnlyList<string>> RowsAsync(
        IReadOnlyList<string> headings,
        IReadOnlyCollection<string>? marks,
        [EnumeratorCancellation] CancellationToken cancel
    )
    {
        await foreach (var (_, cells) in CellsAsync(marks, cancel).ConfigureAwait(false))
            yield return headings.Select(h => cells.GetValueOrDefault(h, string.Empty)).ToList();
    }

    /// <summary>Pieces as cells by column, read some at a time.</summary>
    public async IAsyncEnumerable<(string Mark, Dictionary<string, string> Cells)> CellsAsync(
        IReadOnlyCollection<string>? marks,
        [EnumeratorCancellation] CancellationToken cancel
    )
    {
        var stores = await StoresAsync(sites, cancel).ConfigureAwait(false);
        string? after = null;
        while (true)
        {
            var some = await database
                .Command(
                    $"""
                    select {PieceRows.Columns} from piece p join store s on s.id = p.store_id
                    where ($1::text[] is null or p.mark = any($1)) and ($2::text is null or p.mark > $2)
                    order by p.mark
                    limit {AtATime}
                    """
                )
                .Positional(marks?.ToArray(), after)
                .ListAsync(PieceRows.From, cancel)
                .ConfigureAwait(false);
            var figures = await PieceStore.FiguresAsync(database, some.Select(r => r.Id), cancel).ConfigureAwait(false);
            foreach (var row in some)
                yield return (row.Mark, RegisterColumns.Write(row.Entry(figures[row.Id]), stores));
            if (some.Count < AtATime)
                yield break;
            after = some[^1].Mark;
        }
    }

    /// <summary>The stores by number and name.</summary>
    public static async Task<StoreNames> StoresAsync(SiteStore sites, CancellationToken cancel) =>
        new((await sites.StoresAsync(cancel).ConfigureAwait(false)).Select(s => (s.Id, s.Name)));
}
