using Keralith.Data;
using Microsoft.AspNetCore.Mvc.RazorPages;

namespace Keralith.Bench.Pages;

/// <summary>
/// The least a page can do: one query of the same shape as a place of the product, written out as a plain table.
/// Nothing is judged or drawn.
/// </summary>
public sealed class FloorModel(Database database) : PageModel
{
    public IReadOnlyList<object[]> Rows { get; private set; } = [];

    public async Task OnGetAsync(string shape, string? q, int? store)
    {
        var sql = shape switch
        {
            "search" =>
                "select p.mark, p.family, p.serial, p.maker, p.model, p.rated_load, p.peg, p.state, s.name, count(*) over () from piece p join store s on s.id = p.store_id where p.sought like $1 order by s.position, p.peg, p.mark limit 50",
            "wall" =>
                "select p.mark, p.family, p.serial, p.maker, p.model, p.rated_load, p.peg, p.state, p.periodic_due, p.attributes::text from piece p where p.store_id = $1 order by p.peg, p.mark",
            "piece" =>
                "select p.mark, p.family, p.serial, p.maker, p.model, p.rated_load, p.peg, p.state, i.inspected_on, i.kind, i.verdict, i.case_document from piece p left join inspection i on i.piece_id = p.id where p.mark = $1 order by i.signed_at desc",
            "due" =>
                "select p.mark, p.family, p.serial, p.maker, p.model, p.rated_load, p.peg, p.state, p.periodic_due, p.frequent_due from piece p join store s on s.id = p.store_id where least(p.periodic_due, p.frequent_due) <= $1 and p.state in ('in-service', 'held') order by s.position, p.peg, p.mark limit 500",
            _ => throw new ArgumentOutOfRangeException(nameof(shape), shape, null),
        };
        await using var command = database.Command(sql);
        command.Parameters.Add(
            new()
            {
                Value = shape switch
                {
                    "search" => $"%{q!.ToUpperInvariant()}%",
                    "wall" => store!.Value,
                    "due" => DateOnly.FromDateTime(DateTime.UtcNow).AddDays(30),
                    _ => q!,
                },
            }
        );
        var rows = new List<object[]>();
        await using var reader = await command.ExecuteReaderAsync(HttpContext.RequestAborted);
        while (await reader.ReadAsync(HttpContext.RequestAborted))
        {
            var row = new object[reader.FieldCount];
            reader.GetValues(row);
            rows.Add(row);
        }

        Rows = rows;
    }
}
