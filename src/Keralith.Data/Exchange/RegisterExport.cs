using System.Runtime.CompilerServices;
using Keralith.Core;
using Keralith.Core.Judgement;
using Keralith.Core.Quantities;
using Keralith.Core.Register;

namespace Keralith.Data.Exchange;

/// <summary>The register as rows, in the columns files have.</summary>
public sealed class RegisterExport(Database database, SiteStore sites)
{
    /// <summary>The columns an export has: the fixed ones, or every one and those figures that stand on one part alone.</summary>
    public async Task<IReadOnlyList<string>> HeadingsAsync(bool everything, CancellationToken cancel)
    {
        if (!everything) return RegisterColumns.Fixed;
        var single = new SortedSet<string>(StringComparer.Ordinal);
        await foreach (var (_, cells) in CellsAsync(null, cancel).ConfigureAwait(false)) single.UnionWith(cells.Keys);
        return [.. RegisterColumns.All, .. single.Except(RegisterColumns.All)];
    }

    /// <summary>Rows under the headings, by mark.</summary>
    /// <param name="marks">Only these; null: all.</param>
    public async IAsyncEnumerable<IReadOnlyList<string>> RowsAsync(IReadOnlyList<string> headings, IReadOnlyCollection<string>? marks, [EnumeratorCancellation] CancellationToken cancel)
    {
        await foreach (var (_, cells) in CellsAsync(marks, cancel).ConfigureAwait(false)) yield return headings.Select(h => cells.GetValueOrDefault(h, string.Empty)).ToList();
    }

    /// <summary>Pieces as cells by column.</summary>
    public async IAsyncEnumerable<(string Mark, Dictionary<string, string> Cells)> CellsAsync(IReadOnlyCollection<string>? marks, [EnumeratorCancellation] CancellationToken cancel)
    {
        var stores = await StoresAsync(sites, cancel).ConfigureAwait(false);
        await using var connection = await database.OpenAsync(cancel).ConfigureAwait(false);
        var baselines = new Dictionary<Guid, Dictionary<BaselineKey, BaselineFigure>>();
        await using (var command = connection.CreateCommand())
        {
            command.CommandText = """
                select distinct on (piece_id, part, criterion) piece_id, part, criterion, value, basis, links
                from baseline where $1::text[] is null or piece_id in (select id from piece where mark = any($1)) order by piece_id, part, criterion, id desc
                """;
            await using var reader = await command.Positional([marks?.ToArray()]).ExecuteReaderAsync(cancel).ConfigureAwait(false);
            while (await reader.ReadAsync(cancel).ConfigureAwait(false))
            {
                var piece = reader.GetGuid(0);
                if (!baselines.TryGetValue(piece, out var figures)) baselines[piece] = figures = [];
                figures[new(reader.GetString(1), reader.GetString(2))] = new(Length.Parse(reader.GetString(3)), Words.Parse<BaselineBasis>(reader.GetString(4), Words.Code), reader.ValueOrNull<int>("links"));
            }
        }

        await using var pieces = connection.CreateCommand();
        pieces.CommandText = $"select {PieceRow.Columns} from piece p join store s on s.id = p.store_id where $1::text[] is null or p.mark = any($1) order by p.mark";
        await using var rows = await pieces.Positional([marks?.ToArray()]).ExecuteReaderAsync(cancel).ConfigureAwait(false);
        while (await rows.ReadAsync(cancel).ConfigureAwait(false))
        {
            var row = PieceRow.From(rows);
            yield return (row.Mark, RegisterColumns.Write(row.Entry(baselines.GetValueOrDefault(row.Id, [])), stores));
        }
    }

    /// <summary>The stores by number and name.</summary>
    public static async Task<StoreNames> StoresAsync(SiteStore sites, CancellationToken cancel) => new((await sites.StoresAsync(cancel).ConfigureAwait(false)).Select(s => (s.Id, s.Name)));
}
