using Npgsql;

namespace Keralith.Data;

/// <summary>What is looked for in the register. Every filter is optional; all must hold.</summary>
public sealed record RegisterQuery
{
    /// <summary>Fragments of mark, serial, maker, model, family, peg or store: each must be found somewhere.</summary>
    public string? Text { get; init; }

    /// <summary>Chosen values by facet: <c>family</c>, <c>store</c> (its name), <c>state</c>, <c>verdict</c>, <c>due</c>, <c>service</c>, <c>maker</c>, <c>colour</c>, <c>rated</c>, <c>season</c>.</summary>
    public IReadOnlyDictionary<string, string> Chosen { get; init; } = new Dictionary<string, string>();

    /// <summary><c>place</c> (store, peg, mark), <c>mark</c>, <c>due</c>, <c>rated</c>, or <c>new</c> (newest first).</summary>
    public string Sort { get; init; } = "place";

    /// <summary>The day due dates are seen from.</summary>
    public required DateOnly Today { get; init; }

    /// <summary>Days of notice before something is due.</summary>
    public int Notice { get; init; } = Core.Schedule.DueDate.DefaultNotice;

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
    /// <summary>The facets, in the order they are shown: what they group by. $11 is the day, $12 the last day of notice.</summary>
    private static readonly (string Name, string Column)[] Columns =
    [
        ("family", "p.family"),
        ("store", "s.name"),
        ("state", "p.state"),
        ("verdict", "coalesce(p.verdict, 'none')"),
        ("due", "case when p.periodic_due is null then 'never inspected' when p.periodic_due < $11::date then 'overdue' when p.periodic_due <= $12::date then 'soon' else 'later' end"),
        ("service", "p.service_class"),
        ("maker", "coalesce(p.maker, 'not known')"),
        ("colour", "coalesce(p.attributes->>'colour', 'none')"),
        ("rated", "case when p.rated_kg is null then 'not known' when p.rated_kg < 1000 then 'under 1 t' when p.rated_kg < 3000 then '1 to 3 t' when p.rated_kg < 10000 then '3 to 10 t' else '10 t and over' end"),
    ];

    private const int FirstFacet = 2;

    private static readonly string Filters = string.Join(" and ", Columns.Select((c, i) => $"(${i + FirstFacet}::text is null or {c.Column} = ${i + FirstFacet})"));

    /// <summary>Each facet's counts leave its own filter out: what choosing another value would show. One pass over the matches groups by all facets at once; the few groups are then added up.</summary>
    private static readonly string FacetSql = $"""
        with f as materialized (
          select {string.Join(", ", Columns.Select((c, i) => $"{c.Column} as c{i}"))}, count(*)::int as n
          from piece p join store s on s.id = p.store_id where {Marker}
          group by {string.Join(", ", Columns.Select((_, i) => i + 1))})
        {string.Join("\nunion all ", Columns.Select((c, i) => $"(select '{c.Name}' as facet, c{i} as value, sum(n)::int as count from f where {Others(i)} group by c{i} order by 3 desc, 2 limit {MostValues})"))}
        order by facet, count desc, value
        """;

    private const int MostValues = 40;
    private const string Marker = "/*text*/";
    private const string Nearest = "$1 <% p.sought";

    /// <summary>The names of the facets, in the order they are shown.</summary>
    public static IEnumerable<string> Facets => Columns.Select(c => c.Name);

    public async Task<RegisterPage> FindAsync(RegisterQuery query, CancellationToken cancel)
    {
        var words = Words(query.Text);
        var (ofStores, stores) = await InStoresAsync(words, cancel).ConfigureAwait(false);
        var page = await RunAsync(query, Fragments, Patterns(words.Except(ofStores)), ofStores, stores, nearest: false, cancel).ConfigureAwait(false);
        return page.Total > 0 || words.Length == 0 || page.Facets.Count > 0 ? page : await RunAsync(query, Nearest, string.Join(' ', words), [], [], nearest: true, cancel).ConfigureAwait(false);
    }

    /// <summary>Pieces by mark from one mark on, for programs that read page by page.</summary>
    public Task<List<PieceRow>> AfterAsync(string text, string? after, int most, CancellationToken cancel) => database.Command($"""
        select {PieceRow.Columns} from piece p join store s on s.id = p.store_id
        where {Fragments} and ($2::text is null or p.mark > $2) order by p.mark limit $3
        """).Positional(Patterns(Words(text)), after, most).ListAsync(PieceRow.From, cancel);

    /// <summary>Each fragment is written on the piece.</summary>
    private const string Fragments = "p.sought like all ($1)";

    /// <summary>Fragments that are part of a store's name name the store, or are written on the piece.</summary>
    private const string InStore = "(cardinality($15::text[]) = 0 or p.store_id = any($16::int[]) or p.sought like all ($15))";

    /// <summary>The words that are part of a store's name, and the stores whose names hold them all.</summary>
    private async Task<(string[] Words, int[] Stores)> InStoresAsync(string[] words, CancellationToken cancel)
    {
        var written = words.Where(w => w.Length >= 3).ToArray();
        if (written.Length == 0) return ([], []);
        var names = await database.Command("select id, upper(name) from store").ListAsync(r => (Id: r.GetInt32(0), Name: r.GetString(1)), cancel).ConfigureAwait(false);
        var found = written.Where(w => names.Exists(n => n.Name.Contains(w, StringComparison.Ordinal))).ToArray();
        return found.Length == 0 ? ([], []) : (found, names.Where(n => Array.TrueForAll(found, w => n.Name.Contains(w, StringComparison.Ordinal))).Select(n => n.Id).ToArray());
    }

    private static string Others(int facet) => string.Join(" and ", Columns.Select((_, j) => j == facet ? null : $"(${j + FirstFacet}::text is null or c{j} = ${j + FirstFacet})").OfType<string>());

    private static string[] Words(string? text) => (text ?? string.Empty).ToUpperInvariant().Split(' ', StringSplitOptions.RemoveEmptyEntries);

    private static string[] Patterns(IEnumerable<string> words) => words.Select(w => $"%{Literal(w)}%").ToArray();

    private async Task<RegisterPage> RunAsync(RegisterQuery query, string text, object sought, string[] ofStores, int[] stores, bool nearest, CancellationToken cancel)
    {
        var order = nearest ? "word_similarity($1, p.sought) desc, p.mark" : query.Sort switch
        {
            "mark" => "p.mark",
            "due" => "p.periodic_due nulls last, p.mark",
            "rated" => "p.rated_kg desc nulls last, p.mark",
            "new" => "p.registered_at desc, p.mark",
            _ => "s.position, p.peg, p.mark",
        };
        var chosen = Columns.Select(c => (object?)query.Chosen.GetValueOrDefault(c.Name)).ToArray();
        object?[] common = [sought, .. chosen, query.Today, query.Today.AddDays(query.Notice), query.Most, query.Skip, Patterns(ofStores), stores];
        await using var connection = await database.OpenAsync(cancel).ConfigureAwait(false);
        await using var batch = new NpgsqlBatch(connection)
        {
            BatchCommands =
            {
                // How near a spelling must be, for this batch alone: one letter left out of a short word is still near.
                new NpgsqlBatchCommand("select set_config('pg_trgm.word_similarity_threshold', '0.4', true)"),

                // The page's marks first, then their rows: holds and reports are looked up for those shown alone.
                new NpgsqlBatchCommand($"""
                    select {PieceRow.Columns} from (select p.id from piece p join store s on s.id = p.store_id where {text} and {InStore} and {Filters} order by {order} limit $13::int offset $14::int) page
                    join piece p on p.id = page.id join store s on s.id = p.store_id order by {order}
                    """).Positional(common),
                new NpgsqlBatchCommand(FacetSql.Replace(Marker, $"{text} and {InStore} and $13::int + $14::int >= 0", StringComparison.Ordinal)).Positional(common),
            },
        };
        await using var reader = await batch.ExecuteReaderAsync(cancel).ConfigureAwait(false);
        await reader.NextResultAsync(cancel).ConfigureAwait(false);
        var pieces = new List<PieceRow>();
        while (await reader.ReadAsync(cancel).ConfigureAwait(false)) pieces.Add(PieceRow.From(reader));
        await reader.NextResultAsync(cancel).ConfigureAwait(false);
        var facets = new List<FacetCount>();
        while (await reader.ReadAsync(cancel).ConfigureAwait(false)) facets.Add(new(reader.Get<string>("facet"), reader.Get<string>("value"), reader.Get<int>("count")));
        var total = facets.Where(f => f.Facet == "state" && query.Chosen.GetValueOrDefault("state", f.Value) == f.Value).Sum(f => f.Count);
        return new(pieces, total, facets, nearest && pieces.Count > 0);
    }

    private static string Literal(string word) => word.Replace("\\", "\\\\", StringComparison.Ordinal).Replace("%", "\\%", StringComparison.Ordinal).Replace("_", "\\_", StringComparison.Ordinal);
}
