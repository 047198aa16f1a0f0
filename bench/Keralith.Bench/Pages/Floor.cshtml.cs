using System.Collections.Concurrent;
using Keralith.Core.Register;
using Keralith.Data;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Npgsql;

namespace Keralith.Bench.Pages;

/// <summary>
/// The least a page can do: the same rows as a place of the product, asked in one round trip and written out as a plain
/// table. Nothing is judged or drawn.
/// </summary>
public sealed class FloorModel(Database database) : PageModel
{
    /// <summary>Pieces looked up before: the floor of a piece asks all its questions at once, and so has to know which it is.</summary>
    private static readonly ConcurrentDictionary<string, Piece> Known = new();

    private const string Shown = "p.mark, p.family, p.serial, p.maker, p.model, p.rated_load, p.peg, p.state";

    public IReadOnlyList<object?[]> Rows { get; private set; } = [];

    public async Task OnGetAsync(string shape, string? q, int? store)
    {
        Rows = shape switch
        {
            "piece" => await PieceAsync(q!),
            "fragment" => await FragmentAsync($"%{q!.ToUpperInvariant()}%"),
            "search" => await AskAsync(
                $"select {Shown}, s.name, count(*) over () from piece p join store s on s.id = p.store_id where p.sought like $1 order by s.position, p.peg, p.mark limit 50",
                $"%{q!.ToUpperInvariant()}%"
            ),
            "wall" => await AskAsync(
                $"select {Shown}, p.periodic_due, p.attributes::text from piece p where p.store_id = $1 order by p.peg, p.mark",
                store!.Value
            ),
            "due" => await AskAsync(
                $"select {Shown}, p.periodic_due, p.frequent_due from piece p join store s on s.id = p.store_id where least(p.periodic_due, p.frequent_due) <= $1 and p.state in ('in-service', 'held') order by s.position, p.peg, p.mark limit 500",
                DateOnly.FromDateTime(DateTime.UtcNow).AddDays(30)
            ),
            _ => throw new ArgumentOutOfRangeException(nameof(shape), shape, null),
        };
    }

    private Task<IReadOnlyList<object?[]>> AskAsync(string sql, object value) => AskAsync([sql], value);

    /// <summary>Asks questions of one value in one round trip.</summary>
    private async Task<IReadOnlyList<object?[]>> AskAsync(IReadOnlyList<string> questions, object value)
    {
        await using var connection = await database.OpenAsync(HttpContext.RequestAborted);
        await using var batch = new NpgsqlBatch(connection);
        foreach (var sql in questions)
            batch.BatchCommands.Add(new(sql) { Parameters = { new() { Value = value } } });
        var rows = new List<object?[]>();
        await using var reader = await batch.ExecuteReaderAsync(HttpContext.RequestAborted);
        do
        {
            while (await reader.ReadAsync(HttpContext.RequestAborted))
            {
                var row = new object[reader.FieldCount];
                reader.GetValues(row);
                rows.Add(row);
            }
        } while (await reader.NextResultAsync(HttpContext.RequestAborted));
        return rows;
    }

    /// <summary>A fragment by the bare trigram query, its matches counted by the same ten facets.</summary>
    private async Task<IReadOnlyList<object?[]>> FragmentAsync(string pattern)
    {
        string[] facets =
        [
            "family",
            "store_id",
            "state",
            "verdict",
            "case when periodic_due < current_date then 1 when periodic_due <= current_date + 30 then 2 when periodic_due is not null then 3 end",
            "service_class",
            "season_for",
            "maker",
            "colour",
            "rated_band",
        ];
        var counted = facets.Select((f, i) => $"select {i}, ({f})::text, count(*)::int from m group by 2");
        return await AskAsync(
            [
                $"select {Shown}, s.name from piece p join store s on s.id = p.store_id where p.sought like $1 order by s.position, p.peg, p.mark limit 50",
                $"with m as materialized (select * from piece p where p.sought like $1) {string.Join(" union all ", counted)}",
            ],
            pattern
        );
    }

    /// <summary>What the page of a piece asks, its thirteen questions with the piece itself in one trip.</summary>
    private async Task<IReadOnlyList<object?[]>> PieceAsync(string mark)
    {
        if (!Known.TryGetValue(mark, out var piece))
            Known[mark] = piece = (await database.AskAsync(t => PieceStore.Find(t, mark), HttpContext.RequestAborted))!;
        var trip = new Trip();
        var (found, kept) = (PieceStore.Find(trip, mark), new PieceOnRecord(trip, piece.Id));
        await database.MakeAsync(trip, HttpContext.RequestAborted);
        return
        [
            [
                found.Value!.Mark,
                found.Value.Serial,
                found.Value.Maker,
                found.Value.Store,
                kept.Codes.Value.Count,
                kept.Places.Value.Replaces,
            ],
            .. kept.Tags.Value.Select(t => new object?[] { t.At, t.By, t.Why, t.RatedLoad }),
            .. kept.Files.Value.Select(f => new object?[] { f.At, f.By, f.Title }),
            .. kept.Baselines.Value.Select(f =>
                new object?[] { f.Key.Part, f.Key.Criterion, f.Value.Figure.Length, f.Value.SetBy }
            ),
            .. kept.Inspections.Value.Select(i =>
                new object?[] { i.InspectedOn, i.SignedBy, i.Kind, i.Verdict, i.CaseDocument }
            ),
            .. kept.SerialTwins.Value.Select(t => new object?[] { t }),
            .. kept.Drafts.Value.Select(d => new object?[] { d.SavedAt, d.SavedBy }),
            .. kept.Lifts.Value.Select(l => new object?[] { l }),
            .. kept.Events.Value.Select(e => new object?[] { e }),
            .. kept.Holds.Value.Select(h => new object?[] { h.PlacedAt, h.PlacedBy, h.Reason, h.ReleasedAt }),
            .. kept.Disposals.Value.Select(d => new object?[] { d.At, d.By, d.Reason }),
            .. kept.Moves.Value.Select(m => new object?[] { m.At, m.By, m.What }),
        ];
    }
}
