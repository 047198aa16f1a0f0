using Keralith.Testing;
using Xunit;

namespace Keralith.Data.Tests;

/// <summary>Finding pieces: by fragments, by nearest spelling, by facets that count what choosing them would show.</summary>
public class SearchTests
{
    private static readonly DateOnly Today = new(2026, 3, 2);

    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    [Theory]
    [InlineData("", null)]
    [InlineData("HM-0001 HM-0009", "HM-0010")]
    [InlineData("HM-0001 HM-0009 B-77 B-78 B-99", "B-100")]
    [InlineData("12 07", "13")]
    [InlineData("HM-A HM-B", null)]
    [InlineData("HM-A HM-999999999", "HM-1000000000")]
    [InlineData("HM-1234567890 X-1", "X-2")]
    public async Task The_next_mark_offered_is_after_the_highest_of_the_commonest_series(string marks, string? next)
    {
        await using var yard = await Yard.OpenAsync();
        foreach (var mark in marks.Split(' ', StringSplitOptions.RemoveEmptyEntries))
            await yard.RegisterAsync(Seed.Shackle(mark));
        var offers = await yard.Pieces.OffersAsync(Cancel);
        Assert.Equal(next, offers.NextMark);
        Assert.Equal(marks.Length == 0, offers.Makers.Count == 0);
    }

    [Theory]
    [InlineData("hm-00", "HM-0001 HM-0002 HM-0003 HM-0004")]
    [InlineData("hm0003", "HM-0003")]
    [InlineData("orrery", "HM-0001 HM-0002")]
    [InlineData("0003", "HM-0003")]
    [InlineData("forge shackle", "HM-0003")]
    [InlineData("shackle forge", "HM-0003")]
    [InlineData("chain b2", "")]
    [InlineData("P-HM-0003", "HM-0003")]
    [InlineData("basin shackle", "HM-0003")]
    [InlineData("teasel", "")]
    [InlineData("%", "")]
    [InlineData("_", "")]
    [InlineData("\\", "")]
    [InlineData("", "HM-0001 HM-0002 HM-0003 HM-0004")]
    public async Task Every_fragment_must_be_written_somewhere_on_the_piece(string text, string marks)
    {
        await using var yard = await FilledAsync();
        Assert.Equal(
            marks,
            await MarksAsync(
                yard,
                new()
                {
                    Today = Today,
                    Text = text,
                    Sort = "mark",
                }
            )
        );
    }

    [Theory]
    [InlineData("hm-0003", "HM-0003")]
    [InlineData("HM0003", "HM-0003")]
    [InlineData("hm 0003", "HM-0003")]
    [InlineData("hm-00", null)]
    [InlineData("0003", null)]
    public async Task A_mark_is_found_with_its_dash_or_without(string typed, string? mark)
    {
        await using var yard = await FilledAsync();
        Assert.Equal(mark, (await yard.Pieces.FindAsync(typed, Cancel))?.Mark);
    }

    [Theory]
    [InlineData("orery chanworks", "HM-0001")]
    [InlineData("shakle", "HM-0003")]
    [InlineData("pelow", "HM-0003")]
    public async Task What_is_written_nowhere_finds_the_nearest_spelling_and_says_so(string text, string first)
    {
        await using var yard = await FilledAsync();
        var page = await new RegisterSearch(yard.Database).FindAsync(new() { Today = Today, Text = text }, Cancel);
        Assert.True(page.IsNearest);
        Assert.Equal(first, page.Pieces[0].Mark);
        Assert.Equal(page.Total, page.Facets.Where(f => f.Facet == "state").Sum(f => f.Count));
    }

    [Theory]
    [InlineData(3)]
    [InlineData(4)]
    [InlineData(5)]
    public async Task All_matches_are_counted_whether_a_page_takes_them_just_or_not(int most)
    {
        await using var yard = await FilledAsync();
        var page = await new RegisterSearch(yard.Database).FindAsync(
            new()
            {
                Today = Today,
                Text = "hm-00",
                Most = most,
            },
            Cancel
        );
        Assert.Equal((Math.Min(4, most), 4), (page.Pieces.Count, page.Total));
        Assert.Equal(4, page.Facets.Where(f => f.Facet == "family").Sum(f => f.Count));
    }

    [Fact]
    public async Task Page_after_page_is_the_whole_list_in_its_order()
    {
        await using var yard = await Yard.OpenAsync();
        var random = new Random(20261130);
        for (var i = 1; i <= 45; i++)
        {
            var entry = i % 3 == 0 ? Seed.Sling($"HM-{i:0000}") : Seed.Shackle($"HM-{i:0000}");
            entry["store"] = $"{random.Next(1, 4)}";
            entry["peg"] = random.Next(4) == 0 ? string.Empty : $"B{random.Next(1, 5)}";
            await yard.RegisterAsync(entry);
        }

        var paged = new RegisterSearch(yard.Database);
        string[] stores = [.. (await new SiteStore(yard.Database).StoresAsync(Cancel)).Select(s => s.Name)];
        IReadOnlyDictionary<string, string>[] choices =
        [
            new Dictionary<string, string>(),
            new Dictionary<string, string> { ["family"] = "shackle" },
            new Dictionary<string, string> { ["store"] = stores[1] },
            new Dictionary<string, string> { ["state"] = "new", ["store"] = stores[2] },
        ];
        foreach (var sort in new[] { "place", "mark", "due", "rated", "new" })
        foreach (var text in new[] { "", "hm", "forge", "hm-001", stores[0], "pelow" })
        foreach (var chosen in choices)
        {
            var all = new RegisterQuery
            {
                Today = Today,
                Text = text,
                Chosen = chosen,
                Sort = sort,
                Most = 200,
            };
            var whole = await new RegisterSearch(yard.Database).FindAsync(all, Cancel);
            var walked = new List<string>();
            for (var skip = 0; skip < whole.Total + 7; skip += 7)
            {
                var page = await paged.FindAsync(all with { Most = 7, Skip = skip }, Cancel);
                Assert.Equal(whole.Total, page.Total);
                walked.AddRange(page.Pieces.Select(p => p.Mark));
            }

            Assert.Equal(whole.Total, whole.Pieces.Count);
            Assert.Equal(whole.Pieces.Select(p => p.Mark), walked);
        }
    }

    [Fact]
    public async Task Nothing_near_is_nothing_found()
    {
        await using var yard = await FilledAsync();
        var page = await new RegisterSearch(yard.Database).FindAsync(new() { Today = Today, Text = "zzzz" }, Cancel);
        Assert.Equal((0, false, 0), (page.Total, page.IsNearest, page.Facets.Count));
    }

    [Fact]
    public async Task Filters_hold_together_and_each_facet_counts_without_its_own()
    {
        await using var yard = await FilledAsync();
        var page = await new RegisterSearch(yard.Database).FindAsync(
            new()
            {
                Today = Today,
                Chosen = new Dictionary<string, string> { ["family"] = "alloy-chain-sling", ["state"] = "new" },
            },
            Cancel
        );
        Assert.Equal(["HM-0002"], page.Pieces.Select(p => p.Mark));
        Assert.Equal(
            [("new", 1), ("in-service", 1)],
            page.Facets.Where(f => f.Facet == "state").Select(f => (f.Value, f.Count)).OrderByDescending(f => f.Value)
        );
        Assert.Equal(
            [("alloy-chain-sling", 1), ("roundsling", 1), ("shackle", 1)],
            page.Facets.Where(f => f.Facet == "family").Select(f => (f.Value, f.Count)).Order()
        );
        Assert.Equal(
            [("Orrery Chainworks", 1)],
            page.Facets.Where(f => f.Facet == "maker").Select(f => (f.Value, f.Count))
        );
    }

    [Fact]
    public async Task Facets_tell_what_is_due_how_strong_and_of_which_colour()
    {
        await using var yard = await FilledAsync();
        var page = await new RegisterSearch(yard.Database).FindAsync(new() { Today = Today.AddYears(2) }, Cancel);
        Assert.Equal(
            [("never inspected", 3), ("overdue", 1)],
            page.Facets.Where(f => f.Facet == "due").Select(f => (f.Value, f.Count))
        );
        Assert.Equal(
            [("3 to 10 t", 3), ("1 to 3 t", 1)],
            page.Facets.Where(f => f.Facet == "rated").Select(f => (f.Value, f.Count))
        );
        Assert.Equal([("none", 4)], page.Facets.Where(f => f.Facet == "colour").Select(f => (f.Value, f.Count)));
    }

    [Fact]
    public async Task A_page_says_how_many_match_in_all_and_keeps_its_order()
    {
        await using var yard = await FilledAsync();
        var search = new RegisterSearch(yard.Database);
        var second = await search.FindAsync(
            new()
            {
                Today = Today,
                Sort = "mark",
                Most = 2,
                Skip = 2,
            },
            Cancel
        );
        Assert.Equal((4, "HM-0003 HM-0004"), (second.Total, string.Join(' ', second.Pieces.Select(p => p.Mark))));
        Assert.Equal("HM-0001", (await search.FindAsync(new() { Today = Today, Sort = "due" }, Cancel)).Pieces[0].Mark);
        Assert.Equal(
            "HM-0001 HM-0002 HM-0003 HM-0004",
            await MarksAsync(yard, new() { Today = Today, Sort = "nonsense" })
        );
    }

    [Fact]
    public async Task Pieces_alike_are_registered_all_or_none()
    {
        await using var yard = await FilledAsync();
        var form = Seed.Sling("HM-0010");
        form["alike"] = "HM-0011 O-11\nHM-0003 O-12";
        Assert.Contains(
            "HM-0003 is registered already",
            (await RegisterAlikeAsync(yard, form)).Fault,
            StringComparison.Ordinal
        );
        Assert.Equal(string.Empty, await MarksAsync(yard, new() { Today = Today, Text = "HM-001" }));
        form["alike"] = "HM-0011 O-11\nHM-0012 O-12";
        Yard.Must(await RegisterAlikeAsync(yard, form));
        Assert.Equal(
            "HM-0010 HM-0011 HM-0012",
            await MarksAsync(
                yard,
                new()
                {
                    Today = Today,
                    Text = "HM-001",
                    Sort = "mark",
                }
            )
        );
        Assert.Null((await yard.Ledger.VerifyAsync(Cancel)).Broken);
    }

    private static Task<Checked<Recorded>> RegisterAlikeAsync(Yard yard, Dictionary<string, string> form) =>
        yard.Pieces.RegisterAsync(
            Core.Register.PieceEntryReader.ReadAlike(form).Entries.Select(e => (Guid.NewGuid(), e)).ToList(),
            yard.Stamp("stores"),
            Cancel
        );

    [Theory]
    [InlineData("nothing")]
    [InlineData("a store's name")]
    [InlineData("a piece more")]
    [InlineData("the notice")]
    [InlineData("the day")]
    public async Task A_search_asked_before_it_is_known_what_it_goes_by_answers_as_one_asked_after(string changed)
    {
        await using var yard = await FilledAsync();
        var search = new RegisterSearch(yard.Database);
        var queries = new[] { "", "hm-00", "basin", "orrery chain", "orery", "quay", "HM-0005" }
            .Select(text => new RegisterQuery { Today = Today, Text = text })
            .Append(
                new()
                {
                    Today = Today,
                    Chosen = new Dictionary<string, string> { ["due"] = "soon" },
                }
            )
            .ToList();
        foreach (var query in queries)
            await AheadAsync(yard, search, query, query);
        if (changed == "a store's name")
        {
            var keeping = new StoreKeeping(yard.Database);
            var entry = (await keeping.AllAsync(Cancel))[0].Entry with { Name = "Quay rack" };
            Yard.Must(await keeping.KeepAsync(1, entry, yard.Stamp("admin"), Cancel));

            // First one that was never asked: nothing is kept of it that would tell by its age that something has changed.
            queries.Insert(0, new() { Today = Today, Text = "hm-000" });
        }

        if (changed == "a piece more")
            await yard.RegisterAsync(Seed.Shackle("HM-0005"));
        foreach (var guessed in queries)
        {
            var query = changed switch
            {
                "the notice" => guessed with { Notice = 800 },
                "the day" => guessed with { Today = Today.AddYears(2) },
                _ => guessed,
            };
            var ahead = await AheadAsync(yard, search, guessed, query);
            var after = await new RegisterSearch(yard.Database).FindAsync(query, Cancel);
            Assert.Equal(after.Pieces.Select(p => p.Mark), ahead.Pieces.Select(p => p.Mark));
            Assert.Equal(after.Facets, ahead.Facets);
            Assert.Equal((after.Total, after.IsNearest), (ahead.Total, ahead.IsNearest));
        }
    }

    private static async Task<RegisterPage> AheadAsync(
        Yard yard,
        RegisterSearch search,
        RegisterQuery guessed,
        RegisterQuery query
    )
    {
        var trip = new Trip();
        var ahead = search.Ask(trip, guessed);
        await yard.Database.MakeAsync(trip, Cancel);
        return await search.FindAsync(query, Cancel, ahead);
    }

    /// <summary>The marks found as written; nearest spellings are not what was looked for.</summary>
    private static async Task<string> MarksAsync(Yard yard, RegisterQuery query)
    {
        var page = await new RegisterSearch(yard.Database).FindAsync(query, Cancel);
        return page.IsNearest ? string.Empty : string.Join(' ', page.Pieces.Select(p => p.Mark));
    }

    private static async Task<Yard> FilledAsync()
    {
        var yard = await Yard.OpenAsync();
        await yard.InServiceAsync(Seed.Sling("HM-0001"));
        await yard.RegisterAsync(Seed.Sling("HM-0002"));
        await yard.RegisterAsync(Seed.Shackle("HM-0003"));
        var round = Seed.With("HM-0004", "roundsling", ("circumference", "4 m"), ("coreFiber", "polyester"));
        round["maker"] = "Bellwether Slings";
        round["serial"] = "B-7";
        await yard.RegisterAsync(round);
        return yard;
    }
}
