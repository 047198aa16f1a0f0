using Keralith.Core.Register;
using Npgsql;

namespace Keralith.Data;

/// <summary>What is looked for in the register. Every filter is optional; all must hold.</summary>
public sealed record RegisterQuery
{
    /// <summary>Fragments of mark, serial, maker, model, family, peg or store: each must be found somewhere.</summary>
    public string? Text { get; init; }

    /// <summary>
    /// Chosen values by facet: <c>family</c>, <c>store</c> (its name), <c>state</c>, <c>verdict</c>, <c>due</c>,
    /// <c>service</c>, <c>maker</c>, <c>colour</c>, <c>rated</c>, <c>season</c>.
    /// </summary>
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
public sealed record RegisterPage(
    IReadOnlyList<Piece> Pieces,
    int Total,
    IReadOnlyList<FacetCount> Facets,
    bool IsNearest
);

/// <summary>What a search goes by.</summary>
/// <param name="Ledger">How far the ledger has come: counts kept hold until it grows.</param>
/// <param name="Stores">The stores by number and name, in the order they are walked.</param>
public sealed record SearchStanding(long Ledger, IReadOnlyList<(string Id, string Name)> Stores);

/// <summary>A search put on a trip before it was known what it goes by.</summary>
public sealed class SearchAhead
{
    internal SearchAhead(Asked<SearchStanding> standing, Search? guess) => (Standing, Guess) = (standing, guess);

    internal Asked<SearchStanding> Standing { get; }

    internal Search? Guess { get; }
}

/// <summary>Finds pieces by fragments, by nearest spelling, and by facets with counts.</summary>
public sealed class RegisterSearch(Database database)
{
    private readonly KeptCounts<List<FacetCount>> _kept = new();
    private Last? _last;

    /// <summary>What the last search went by.</summary>
    private sealed record Last(SearchStanding Standing, int Notice);

    /// <summary>The names of the facets, in the order they are shown.</summary>
    public static IEnumerable<string> Facets => Facet.Names;

    /// <summary>
    /// Puts a search on a trip that is made anyway. What it goes by is asked on the same trip and guessed to be as it was
    /// last time; where it is not, <see cref="FindAsync"/> asks again.
    /// </summary>
    /// <param name="query">What is looked for; its notice is guessed too.</param>
    public SearchAhead Ask(Trip trip, RegisterQuery query)
    {
        var standing = Standing(trip);
        if (_last is not { } last)
            return new(standing, null);
        var guess = new Search(
            query with
            {
                Notice = last.Notice,
            },
            Search.Words(query.Text),
            nearest: null,
            last.Standing,
            _kept
        );
        guess.Ask(trip);
        trip.All(Search.PlannedBy("auto"), r => r.GetString(0));
        return new(standing, guess);
    }

    /// <param name="ahead">The same search put on a trip before, and the trip made; null: it is asked for now.</param>
    public async Task<RegisterPage> FindAsync(RegisterQuery query, CancellationToken cancel, SearchAhead? ahead = null)
    {
        var words = Search.Words(query.Text);
        var standing = ahead is null
            ? await database.AskAsync(Standing, cancel).ConfigureAwait(false)
            : ahead.Standing.Value;
        _last = new(standing, query.Notice);
        var page =
            ahead?.Guess is { } guess && guess.HoldsFor(query, standing)
                ? await ShowAsync(guess, standing.Ledger, cancel).ConfigureAwait(false)
                : await RunAsync(new(query, words, nearest: null, standing, _kept), cancel).ConfigureAwait(false);
        return page.Total > 0 || words.Length == 0 || page.Facets.Count > 0
            ? page
            : await RunAsync(new(query, [], string.Join(' ', words), standing, _kept), cancel).ConfigureAwait(false);
    }

    private async Task<RegisterPage> RunAsync(Search search, CancellationToken cancel)
    {
        var trip = new Trip();
        search.Ask(trip);
        await database.MakeAsync(trip, cancel).ConfigureAwait(false);
        return await ShowAsync(search, search.Standing.Ledger, cancel).ConfigureAwait(false);
    }

    private async Task<RegisterPage> ShowAsync(Search search, long ledger, CancellationToken cancel)
    {
        var trip = new Trip();
        search.Show(trip);
        await database.MakeAsync(trip, cancel).ConfigureAwait(false);
        return search.Page(ledger);
    }

    /// <summary>Pieces by mark from one mark on, for programs that read page by page.</summary>
    public Task<List<Piece>> AfterAsync(string text, string? after, int most, CancellationToken cancel)
    {
        var asked = new Conditions();
        foreach (var word in Search.Words(text))
            asked.Add(Search.Written(word, asked));
        if (after is not null)
            asked.Add($"p.mark > {asked.Bind(after)}");
        return database
            .Command(
                $"select {PieceRows.Columns} from piece p join store s on s.id = p.store_id where {asked} order by p.mark limit {asked.Bind(most)}"
            )
            .Positional(asked.Values)
            .ListAsync(PieceRows.From, cancel);
    }

    /// <summary>Asks how far the ledger has come, and for the stores.</summary>
    public static Asked<SearchStanding> Standing(Trip trip) =>
        trip.Ask(
            new NpgsqlBatchCommand(
                "select coalesce(max(number), 0) as number, null::integer as id, '' as name, 0 as position from ledger union all select 0, id, name, position from store order by 4, 3"
            ),
            r => (Number: r.GetInt64(0), Id: r.ValueOrNull<int>("id"), Name: r.GetString(2)),
            rows => new SearchStanding(
                rows.First(r => r.Id is null).Number,
                rows.Where(r => r.Id is not null).Select(r => ($"{r.Id}", r.Name)).ToList()
            )
        );
}
