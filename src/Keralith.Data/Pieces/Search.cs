using Keralith.Core.Custody;
using Keralith.Core.Register;
using Npgsql;

namespace Keralith.Data;

/// <summary>A search as it is asked, and what came of it once its trips were made.</summary>
internal sealed class Search
{
    /// <summary>Most values counted of one facet; the commonest.</summary>
    private const int MostValues = 200;

    private readonly RegisterQuery _query;
    private readonly KeptCounts<List<FacetCount>> _keeping;
    private readonly IReadOnlyList<Facet> _facets;
    private readonly string _order;
    private readonly string _sought;
    private readonly Dictionary<int, string> _chosen;
    private readonly object?[] _values;
    private readonly string _key;
    private readonly List<FacetCount>? _kept;
    private readonly bool _isNearest;

    // A few matches are counted from their own rows; many by PostgreSQL, with the page where that is known
    // beforehand, else when its rows are read.
    private readonly bool _few;
    private readonly NpgsqlBatchCommand _ids;
    private Asked<List<(Guid Id, string?[] Facets)>>? _onPage;
    private Asked<List<(int Facet, string? Value, int Count)>>? _counted;
    private Asked<List<Piece>>? _rows;

    /// <param name="nearest">What the nearest spellings of are looked for; null: the words must be written.</param>
    public Search(
        RegisterQuery query,
        string[] words,
        string? nearest,
        SearchStanding standing,
        KeptCounts<List<FacetCount>> keeping
    )
    {
        (_query, Standing, _keeping, _isNearest) = (query, standing, keeping, nearest is not null);
        var asked = new Conditions();
        _facets = Facet.All(asked.Bind(query.Today), asked.Bind(query.Today.AddDays(query.Notice)), standing.Stores);
        asked.Add("$1::date <= $2::date");
        _order = nearest is null ? Order(query.Sort) : Nearest(asked, nearest);
        Sought(asked, words, standing.Stores);
        _sought = asked.ToString();
        _chosen = _facets
            .Index()
            .Where(f => query.Chosen.ContainsKey(f.Item.Name))
            .ToDictionary(f => f.Index, f => asked.Bind(f.Item.ValueOf(query.Chosen[f.Item.Name])));
        foreach (var (at, bound) in _chosen)
            asked.Add(_facets[at].Holds(_facets[at].Column, query.Chosen[_facets[at].Name], bound));
        _values = asked.Values;
        _key = string.Join('\n', [_sought, .. _values, .. query.Chosen.Select(c => $"{c.Key}={c.Value}")]);
        _kept = keeping.Find(_key, standing.Ledger);
        var found = asked.ToString();
        var (stores, skip) =
            nearest is null && _kept is not null ? StoresOfPage(query, _kept, standing.Stores) : (null, query.Skip);
        if (stores is not null)
            found = $"{found} and p.store_id = any({asked.Bind(stores)}::int[])";
        var (most, first) = (asked.Bind(query.Most), asked.Bind(skip));
        var whole = words.Length == 0 && _chosen.Count == 0 && nearest is null && stores is null;
        _few = _kept is null && _chosen.Count == 0 && words.Length > 0 && query.Skip == 0;
        var beside = _few ? _facets.Select((f, i) => $", ({f.Column})::text as facet{i}") : [];
        _ids = new NpgsqlBatchCommand(Ids(string.Concat(beside), found, _order, most, first, whole)).Positional(
            asked.Values
        );
    }

    /// <summary>What it goes by.</summary>
    public SearchStanding Standing { get; }

    /// <summary>Whether it answers a query, now that it is known what that goes by.</summary>
    public bool HoldsFor(RegisterQuery query, SearchStanding standing) =>
        _query == query
        && Standing.Stores.SequenceEqual(standing.Stores)
        && (_kept is null || Standing.Ledger == standing.Ledger);

    /// <summary>Asks which pieces are on the page, and the counts where they are known to be wanted.</summary>
    public void Ask(Trip trip)
    {
        trip.All(Settings(), r => r.GetString(0));
        _onPage = trip.All(_ids, r =>
            (r.GetGuid(0), _few ? _facets.Select((_, i) => r.TextOrNull($"facet{i}")).ToArray() : [])
        );
        if (_kept is null && !_few)
            Count(trip);
    }

    /// <summary>
    /// Asks for the rows of the pieces on the page: by their ids, so that the server keeps one plan for all that is
    /// read beside them (holds, reports, members). What turned out to be many is counted with them.
    /// </summary>
    public void Show(Trip trip)
    {
        var ids = _onPage!.Value.Select(p => p.Id).ToArray();
        if (ids.Length == 0)
            return;
        trip.All(PlannedBy("force_generic_plan"), r => r.GetString(0));
        _rows = trip.All(
            new NpgsqlBatchCommand(
                $"select {PieceRows.Columns} from piece p join store s on s.id = p.store_id where p.id = any($1)"
            ).Positional(ids),
            PieceRows.From
        );
        if (!_few || ids.Length < _query.Most)
            return;
        trip.All(Settings(), r => r.GetString(0));
        Count(trip);
    }

    /// <summary>The page.</summary>
    /// <param name="ledger">How far the ledger had come before anything of it was asked.</param>
    public RegisterPage Page(long ledger)
    {
        var counts = _kept;
        if (counts is null)
        {
            counts = (
                _counted?.Value
                ?? _onPage!.Value.SelectMany(p => p.Facets.Select((value, i) => (Facet: i, Value: value, Count: 1)))
            )
                .GroupBy(c => (c.Facet, c.Value))
                .Select(g => (g.Key.Facet, g.Key.Value, Count: g.Sum(c => c.Count)))
                .OrderBy(c => c.Facet)
                .ThenByDescending(c => c.Count)
                .ThenBy(c => c.Value, StringComparer.Ordinal)
                .Select(c => new FacetCount(_facets[c.Facet].Name, _facets[c.Facet].Said(c.Value), c.Count))
                .ToList();
            _keeping.Keep(_key, ledger, counts);
        }

        var rows = _rows?.Value.ToDictionary(p => p.Id);
        var total = counts
            .Where(f => f.Facet == "state" && _query.Chosen.GetValueOrDefault("state", f.Value) == f.Value)
            .Sum(f => f.Count);
        return new([.. _onPage!.Value.Select(p => rows![p.Id])], total, counts, _isNearest && _onPage.Value.Count > 0);
    }

    private void Count(Trip trip) =>
        _counted = trip.All(new NpgsqlBatchCommand(Counts()).Positional(_values), r =>
            (r.Get<int>("facet"), r.TextOrNull("value"), r.Get<int>("count"))
        );

    /// <summary>A fragment is written somewhere on the piece, with its dash or without.</summary>
    public static string Written(string word, Conditions asked) =>
        Mark.Dashed(word) is { } dashed
            ? $"(p.sought like {asked.Bind($"%{Literal(word)}%")} or p.sought like {asked.Bind($"%{Literal(dashed)}%")})"
            : $"p.sought like {asked.Bind($"%{Literal(word)}%")}";

    public static string[] Words(string? text) =>
        (text ?? string.Empty).ToUpperInvariant().Split(' ', StringSplitOptions.RemoveEmptyEntries);

    private static string Literal(string word) =>
        word.Replace("\\", "\\\\", StringComparison.Ordinal)
            .Replace("%", "\\%", StringComparison.Ordinal)
            .Replace("_", "\\_", StringComparison.Ordinal);

    /// <summary>Every word is written on the piece; words that are part of a store's name name the store instead.</summary>
    private static void Sought(Conditions asked, string[] words, IReadOnlyList<(string Id, string Name)> stores)
    {
        var ofStores = words
            .Where(w => w.Length >= 3 && stores.Any(s => s.Name.Contains(w, StringComparison.OrdinalIgnoreCase)))
            .ToArray();
        foreach (var word in words.Except(ofStores))
            asked.Add(Written(word, asked));
        if (ofStores.Length == 0)
            return;
        var named = stores
            .Where(s => Array.TrueForAll(ofStores, w => s.Name.Contains(w, StringComparison.OrdinalIgnoreCase)))
            .Select(s => int.Parse(s.Id))
            .ToArray();
        asked.Add(
            $"(p.store_id = any({asked.Bind(named)}::int[]) or {Conditions.All([.. ofStores.Select(w => Written(w, asked))])})"
        );
    }

    /// <summary>
    /// For its batch alone: one letter left out of a short word is still near; each search is planned for what it looks
    /// for; counting needs room.
    /// </summary>
    private static NpgsqlBatchCommand Settings() =>
        new(
            "select set_config('pg_trgm.word_similarity_threshold', '0.4', true), set_config('plan_cache_mode', 'force_custom_plan', true), set_config('work_mem', '64MB', true)"
        );

    /// <summary>How the server plans what comes after in the same batch: <c>auto</c>, or as is forced.</summary>
    public static NpgsqlBatchCommand PlannedBy(string mode) =>
        new($"select set_config('plan_cache_mode', '{mode}', true)");

    /// <summary>
    /// Where a page by place lies when it is known how many matches hang in each store: the stores it runs through, and
    /// how many of their matches stand
    /// before it. The rest need not be read or sorted.
    /// </summary>
    /// <returns>The stores' numbers, or null where the page is not by place or the counts do not tell.</returns>
    private static (int[]? Stores, int Skip) StoresOfPage(
        RegisterQuery query,
        List<FacetCount> kept,
        IReadOnlyList<(string Id, string Name)> stores
    )
    {
        if (query.Sort != "place" || query.Chosen.ContainsKey("store"))
            return (null, query.Skip);
        var counts = kept.Where(f => f.Facet == "store").ToDictionary(f => f.Value, f => f.Count);
        var total = kept.Where(f => f.Facet == "state" && query.Chosen.GetValueOrDefault("state", f.Value) == f.Value)
            .Sum(f => f.Count);
        if (counts.Values.Sum() != total || stores.DistinctBy(s => s.Name).Count() != stores.Count)
            return (null, query.Skip);
        var (on, skip, left) = (new List<int>(), query.Skip, query.Most);
        foreach (var (id, name) in stores)
        {
            var here = counts.GetValueOrDefault(name);
            if (left <= 0)
                break;
            if (here == 0)
                continue;
            if (on.Count == 0 && skip >= here)
            {
                skip -= here;
                continue;
            }

            left -= on.Count == 0 ? here - skip : here;
            on.Add(int.Parse(id, System.Globalization.CultureInfo.InvariantCulture));
        }

        return (on.Count == 0 ? null : [.. on], on.Count == 0 ? query.Skip : skip);
    }

    private static string Nearest(Conditions asked, string words)
    {
        var bound = asked.Bind(words);
        asked.Add($"{bound} <% p.sought");
        return $"word_similarity({bound}, p.sought) desc, p.mark";
    }

    private static string Order(string sort) =>
        sort switch
        {
            "mark" => "p.mark",
            "due" => "p.periodic_due nulls last, p.mark",
            "rated" => "p.rated_kg desc nulls last, p.mark",
            "new" => "p.registered_at desc, p.mark",
            _ => "s.position, p.peg, p.mark",
        };

    /// <summary>
    /// The pieces of a page. The whole register by place is read store by store along its pegs, as far as the page
    /// goes.
    /// </summary>
    /// <param name="beside">What is read of each beside its id, each after a comma; empty for the whole register.</param>
    private static string Ids(string beside, string found, string order, string most, string skip, bool whole) =>
        whole && order == Order(string.Empty)
            ? $"""
                select p.id
                from store s
                cross join lateral (
                  select p.id, p.peg, p.mark from piece p
                  where p.store_id = s.id and {found}
                  order by p.peg, p.mark
                  limit {most}::int + {skip}::int) p
                order by {order}
                limit {most} offset {skip}
                """
            : $"""
                select p.id{beside}
                from piece p
                join store s on s.id = p.store_id
                where {found}
                order by {order}
                limit {most} offset {skip}
                """;

    /// <summary>
    /// Each facet's counts leave its own filter out: what choosing another value would show. One pass over the matches
    /// groups by all facets at once; the few groups are then added up.
    /// </summary>
    private string Counts()
    {
        return $"""
            with f as materialized (
              select {string.Join(", ", _facets.Select((f, i) => $"{f.Column} as c{i}"))}, count(*)::int as n
              from piece p where {_sought}
              group by {string.Join(", ", _facets.Select((_, i) => i + 1))})
            {string.Join("\nunion all ", _facets.Select((_, i) => Of(i)))}
            order by facet, count desc, value
            """;

        string Of(int facet) =>
            $"""
                (select {facet} as facet, c{facet}::text as value, sum(n)::int as count
                from f
                where {Conditions.All([.. _chosen.Keys.Where(o => o != facet).Select(Chosen)])}
                group by c{facet}
                order by 3 desc, 2
                limit {MostValues})
                """;

        string Chosen(int facet) =>
            _facets[facet].Holds($"c{facet}", _query.Chosen[_facets[facet].Name], _chosen[facet]);
    }
}
