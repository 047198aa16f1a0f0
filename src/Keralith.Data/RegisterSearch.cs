using Npgsql;

namespace Keralith.Data;

/// <summary>What is looked for in the register. Every filter is optional; all must hold.</summary>
public sealed record RegisterQuery
{
    /// <summary>Fragments of mark, serial, maker, model, family or peg: each must be found somewhere.</summary>
    public string? Text { get; init; }

    /// <summary>Chosen values by facet: <c>family</c>, <c>store</c> (its name), <c>state</c>, <c>verdict</c>, <c>service</c>, <c>maker</c>.</summary>
    public IReadOnlyDictionary<string, string> Chosen { get; init; } = new Dictionary<string, string>();

    /// <summary><c>place</c> (store, peg, mark), <c>mark</c>, or <c>due</c>.</summary>
    public string Sort { get; init; } = "place";

    public int Most { get; init; } = 50;

    public int Skip { get; init; }
}

/// <summary>One value of a facet and how many pieces have it under all other filters.</summary>
public sealed record FacetCount(string Facet, string Value, int Count);

/// <summary>A page of the register.</summary>
/// <param name="Pieces">Those on this page.</param>
/// <param name="Total">How many match in all.</param>
/// <param name="Facets">The values of each facet with their counts, the commonest first.</param>
/// <param name="IsNearest">Whether nothing is written as looked for and the nearest spellings are shown instead.</param>
public sealed record RegisterPage(IReadOnlyList<PieceRow> Pieces, int Total, IReadOnlyList<FacetCount> Facets, bool IsNearest);

/// <summary>Finds pieces by fragments, by nearest spelling, and by facets with counts.</summary>
public sealed class RegisterSearch(Database database)
{
    /// <summary>The facets, in the order they are shown: their column and what is said where a piece has none.</summary>
    private static readonly (string Name, string Column)[] Columns =
    [
        ("family", "p.family"), ("store", "s.name"), ("state", "p.state"), ("verdict", "coalesce(p.verdict, 'none')"), ("service", "p.service_class"), ("maker", "coalesce(p.maker, 'not known')"),
    ];

    private static readonly string Filters = string.Join(" and ", Columns.Select((c, i) => $"(${i + 2}::text is null or {c.Column} = ${i + 2})"));

    /// <summary>Each facet's counts leave its own filter out: what choosing another value would show.</summary>
    private static readonly string FacetSql = $"""
        with f as materialized (
          select {string.Join(", ", Columns.Select((c, i) => $"{c.Column} as c{i}, (${i + 2}::text is null or {c.Column} = ${i + 2}) as m{i}"))}
          from piece p join store s on s.id = p.store_id where {Marker})
        {string.Join("\nunion all ", Columns.Select((c, i) => $"select '{c.Name}' as facet, c{i} as value, count(*)::int as count from f where {string.Join(" and ", Columns.Select((_, j) => j == i ? null : $"m{j}").OfType<string>())} group by c{i}"))}
        order by facet, count desc, value
        """;

    private const string Marker = "/*text*/";
    private const string Fragments = "p.sought like all ($1)";
    private const string Nearest = "$1 <% p.sought";

    /// <summary>The names of the facets, in the order they are shown.</summary>
    public static IEnumerable<string> Facets => Columns.Select(c => c.Name);

    public async Task<RegisterPage> FindAsync(RegisterQuery query, CancellationToken cancel)
    {
        var words = (query.Text ?? string.Empty).ToUpperInvariant().Split(' ', StringSplitOptions.RemoveEmptyEntries);
        var page = await RunAsync(query, Fragments, Patterns(query.Text), nearest: false, cancel).ConfigureAwait(false);
        return page.Total > 0 || words.Length == 0 || page.Facets.Count > 0 ? page : await RunAsync(query, Nearest, string.Join(' ', words), nearest: true, cancel).ConfigureAwait(false);
    }

    /// <summary>Pieces by mark from one mark on, for programs that read page by page.</summary>
    public Task<List<PieceRow>> AfterAsync(string text, string? after, int most, CancellationToken cancel) => database.Command($"""
        select {PieceRow.Columns} from piece p join store s on s.id = p.store_id
        where {Fragments} and ($2::text is null or p.mark > $2) order by p.mark limit $3
        """).Positional(Patterns(text), after, most).ListAsync(PieceRow.From, cancel);

    private static string[] Patterns(string? text) => (text ?? string.Empty).ToUpperInvariant().Split(' ', StringSplitOptions.RemoveEmptyEntries).Select(w => $"%{Literal(w)}%").ToArray();

    private async Task<RegisterPage> RunAsync(RegisterQuery query, string text, object sought, bool nearest, CancellationToken cancel)
    {
        var order = nearest ? "word_similarity($1, p.sought) desc, p.mark" : query.Sort switch
        {
            "mark" => "p.mark",
            "due" => "p.periodic_due nulls last, p.mark",
            _ => "s.position, p.peg, p.mark",
        };
        var chosen = Columns.Select(c => (object?)query.Chosen.GetValueOrDefault(c.Name)).ToArray();
        await using var connection = await database.OpenAsync(cancel).ConfigureAwait(false);
        await using var batch = new NpgsqlBatch(connection)
        {
            BatchCommands =
            {
                // How near a spelling must be, for this batch alone: one letter left out of a short word is still near.
                new NpgsqlBatchCommand("select set_config('pg_trgm.word_similarity_threshold', '0.4', true)"),
                new NpgsqlBatchCommand($"select {PieceRow.Columns}, count(*) over ()::int as total from piece p join store s on s.id = p.store_id where {text} and {Filters} order by {order} limit $8 offset $9")
                    .Positional([sought, .. chosen, query.Most, query.Skip]),
                new NpgsqlBatchCommand(FacetSql.Replace(Marker, text, StringComparison.Ordinal)).Positional([sought, .. chosen]),
            },
        };
        await using var reader = await batch.ExecuteReaderAsync(cancel).ConfigureAwait(false);
        await reader.NextResultAsync(cancel).ConfigureAwait(false);
        var (pieces, total) = (new List<PieceRow>(), 0);
        while (await reader.ReadAsync(cancel).ConfigureAwait(false))
        {
            total = reader.Get<int>("total");
            pieces.Add(PieceRow.From(reader));
        }

        await reader.NextResultAsync(cancel).ConfigureAwait(false);
        var facets = new List<FacetCount>();
        while (await reader.ReadAsync(cancel).ConfigureAwait(false)) facets.Add(new(reader.Get<string>("facet"), reader.Get<string>("value"), reader.Get<int>("count")));
        return new(pieces, total, facets, nearest && pieces.Count > 0);
    }

    private static string Literal(string word) => word.Replace("\\", "\\\\", StringComparison.Ordinal).Replace("%", "\\%", StringComparison.Ordinal).Replace("_", "\\_", StringComparison.Ordinal);
}
