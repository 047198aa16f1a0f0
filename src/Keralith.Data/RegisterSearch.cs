using System.Collections.Concurrent;
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
    private const int MostValues = 40;
    private const int MostKept = 200;

    /// <summary>Counts by what was asked. They hold for as long as the ledger has not grown: whatever changes a piece is written there in the same transaction.</summary>
    private readonly ConcurrentDictionary<string, (long Ledger, List<FacetCount> Counts)> _kept = new();

    /// <summary>The names of the facets, in the order they are shown.</summary>
    public static IEnumerable<string> Facets => Facet.Names;

    public async Task<RegisterPage> FindAsync(RegisterQuery query, CancellationToken cancel)
    {
        var words = Words(query.Text);
        var (ledger, stores) = await StandingAsync(cancel).ConfigureAwait(false);
        var page = await RunAsync(query, words, nearest: null, ledger, stores, cancel).ConfigureAwait(false);
        return page.Total > 0 || words.Length == 0 || page.Facets.Count > 0 ? page : await RunAsync(query, [], string.Join(' ', words), ledger, stores, cancel).ConfigureAwait(false);
    }

    /// <summary>Pieces by mark from one mark on, for programs that read page by page.</summary>
    public Task<List<PieceRow>> AfterAsync(string text, string? after, int most, CancellationToken cancel)
    {
        var asked = new Conditions();
        foreach (var word in Words(text)) asked.Add(Written(word, asked));
        if (after is not null) asked.Add($"p.mark > {asked.Bind(after)}");
        return database.Command($"select {PieceRow.Columns} from piece p join store s on s.id = p.store_id where {asked} order by p.mark limit {asked.Bind(most)}")
            .Positional(asked.Values).ListAsync(PieceRow.From, cancel);
    }

    /// <summary>A fragment is written somewhere on the piece.</summary>
    private static string Written(string word, Conditions asked) => $"p.sought like {asked.Bind($"%{Literal(word)}%")}";

    private static string[] Words(string? text) => (text ?? string.Empty).ToUpperInvariant().Split(' ', StringSplitOptions.RemoveEmptyEntries);

    private static string Literal(string word) => word.Replace("\\", "\\\\", StringComparison.Ordinal).Replace("%", "\\%", StringComparison.Ordinal).Replace("_", "\\_", StringComparison.Ordinal);

    /// <summary>How far the ledger has come, and the stores by number and name.</summary>
    private async Task<(long Ledger, List<(string Id, string Name)> Stores)> StandingAsync(CancellationToken cancel)
    {
        var rows = await database.Command("select coalesce(max(number), 0) as number, null::integer as id, '' as name from ledger union all select 0, id, name from store")
            .ListAsync(r => (Number: r.GetInt64(0), Id: r.ValueOrNull<int>("id"), Name: r.GetString(2)), cancel).ConfigureAwait(false);
        return (rows.First(r => r.Id is null).Number, rows.Where(r => r.Id is not null).Select(r => ($"{r.Id}", r.Name)).ToList());
    }

    /// <param name="nearest">What the nearest spellings of are looked for; null: the words must be written.</param>
    private async Task<RegisterPage> RunAsync(RegisterQuery query, string[] words, string? nearest, long ledger, List<(string Id, string Name)> stores, CancellationToken cancel)
    {
        var asked = new Conditions();
        var facets = Facet.All(asked.Bind(query.Today), asked.Bind(query.Today.AddDays(query.Notice)), stores);
        asked.Add("$1::date <= $2::date");
        var order = nearest is null ? Order(query.Sort) : Nearest(asked, nearest);
        Sought(asked, words, stores);
        var sought = asked.ToString();
        var chosen = facets.Index().Where(f => query.Chosen.ContainsKey(f.Item.Name))
            .ToDictionary(f => f.Index, f => asked.Bind(f.Item.ValueOf(query.Chosen[f.Item.Name])));
        foreach (var (at, bound) in chosen) asked.Add(facets[at].Holds(facets[at].Column, query.Chosen[facets[at].Name], bound));
        var values = asked.Values;
        var key = string.Join('\n', [sought, .. values, .. query.Chosen.Select(c => $"{c.Key}={c.Value}")]);
        var kept = _kept.TryGetValue(key, out var known) && known.Ledger == ledger ? known.Counts : null;
        var found = asked.ToString();
        var page = $"limit {asked.Bind(query.Most)} offset {asked.Bind(query.Skip)}";
        await using var connection = await database.OpenAsync(cancel).ConfigureAwait(false);
        await using var batch = new NpgsqlBatch(connection)
        {
            BatchCommands =
            {
                // For this batch alone: one letter left out of a short word is still near; each search is planned for what it looks for; counting needs room.
                new NpgsqlBatchCommand("select set_config('pg_trgm.word_similarity_threshold', '0.4', true), set_config('plan_cache_mode', 'force_custom_plan', true), set_config('work_mem', '64MB', true)"),

                // The page's marks first, then their rows: holds and reports are looked up for those shown alone.
                new NpgsqlBatchCommand($"""
                    select {PieceRow.Columns} from ({Ids(found, order, page, words.Length == 0 && chosen.Count == 0 && nearest is null)}) page
                    join piece p on p.id = page.id join store s on s.id = p.store_id order by {order}
                    """).Positional(asked.Values),
            },
        };
        if (kept is null) batch.BatchCommands.Add(new NpgsqlBatchCommand(FacetSql(facets, sought, chosen.ToDictionary(c => c.Key, c => (Words: query.Chosen[facets[c.Key].Name], Bound: c.Value)))).Positional(values));
        await using var reader = await batch.ExecuteReaderAsync(cancel).ConfigureAwait(false);
        await reader.NextResultAsync(cancel).ConfigureAwait(false);
        var pieces = new List<PieceRow>();
        while (await reader.ReadAsync(cancel).ConfigureAwait(false)) pieces.Add(PieceRow.From(reader));
        if (kept is null)
        {
            kept = [];
            await reader.NextResultAsync(cancel).ConfigureAwait(false);
            var counts = new List<(int Facet, string? Value, int Count)>();
            while (await reader.ReadAsync(cancel).ConfigureAwait(false)) counts.Add((reader.Get<int>("facet"), reader.TextOrNull("value"), reader.Get<int>("count")));
            kept.AddRange(counts.Select(c => new FacetCount(facets[c.Facet].Name, facets[c.Facet].Said(c.Value), c.Count)));
            if (_kept.Count >= MostKept) _kept.Clear();
            _kept[key] = (ledger, kept);
        }

        var total = kept.Where(f => f.Facet == "state" && query.Chosen.GetValueOrDefault("state", f.Value) == f.Value).Sum(f => f.Count);
        return new(pieces, total, kept, nearest is not null && pieces.Count > 0);
    }

    /// <summary>Every word is written on the piece; words that are part of a store's name name the store instead.</summary>
    private static void Sought(Conditions asked, string[] words, List<(string Id, string Name)> stores)
    {
        var ofStores = words.Where(w => w.Length >= 3 && stores.Exists(s => s.Name.Contains(w, StringComparison.OrdinalIgnoreCase))).ToArray();
        foreach (var word in words.Except(ofStores)) asked.Add(Written(word, asked));
        if (ofStores.Length == 0) return;
        var named = stores.Where(s => Array.TrueForAll(ofStores, w => s.Name.Contains(w, StringComparison.OrdinalIgnoreCase))).Select(s => int.Parse(s.Id)).ToArray();
        asked.Add($"(p.store_id = any({asked.Bind(named)}::int[]) or {Conditions.All([.. ofStores.Select(w => Written(w, asked))])})");
    }

    private static string Nearest(Conditions asked, string words)
    {
        var bound = asked.Bind(words);
        asked.Add($"{bound} <% p.sought");
        return $"word_similarity({bound}, p.sought) desc, p.mark";
    }

    private static string Order(string sort) => sort switch
    {
        "mark" => "p.mark",
        "due" => "p.periodic_due nulls last, p.mark",
        "rated" => "p.rated_kg desc nulls last, p.mark",
        "new" => "p.registered_at desc, p.mark",
        _ => "s.position, p.peg, p.mark",
    };

    /// <summary>The pieces of a page. The whole register by place is read store by store along its pegs, as far as the page goes.</summary>
    private static string Ids(string found, string order, string page, bool everything) => everything && order == Order(string.Empty)
        ? $"select p.id from store s cross join lateral (select p.id, p.peg, p.mark from piece p where p.store_id = s.id and {found} order by p.peg, p.mark limit {page.Split(' ')[1]}::int + {page.Split(' ')[3]}::int) p order by {order} {page}"
        : $"select p.id from piece p join store s on s.id = p.store_id where {found} order by {order} {page}";

    /// <summary>Each facet's counts leave its own filter out: what choosing another value would show. One pass over the matches groups by all facets at once; the few groups are then added up.</summary>
    /// <param name="chosen">The facets with a value chosen, and the parameter it is bound to.</param>
    private static string FacetSql(IReadOnlyList<Facet> facets, string sought, Dictionary<int, (string Words, string Bound)> chosen) => $"""
        with f as materialized (
          select {string.Join(", ", facets.Select((f, i) => $"{f.Column} as c{i}"))}, count(*)::int as n
          from piece p where {sought}
          group by {string.Join(", ", facets.Select((_, i) => i + 1))})
        {string.Join("\nunion all ", facets.Select((f, i) => $"(select {i} as facet, c{i}::text as value, sum(n)::int as count from f where {Conditions.All([.. chosen.Where(o => o.Key != i).Select(o => facets[o.Key].Holds($"c{o.Key}", o.Value.Words, o.Value.Bound))])} group by c{i} order by 3 desc, 2 limit {MostValues})"))}
        order by facet, count desc, value
        """;
}
