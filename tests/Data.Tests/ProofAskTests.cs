using Keralith.Core.Custody;
using Keralith.Core.Schedule;
using Keralith.Core.Sites;
using Keralith.Testing;
using Xunit;

namespace Keralith.Data.Tests;

/// <summary>Proof tests asked again and again: what they stop, and how a test that is recorded moves the day.</summary>
public class ProofAskTests
{
    private static readonly EnteredProofAsk OfShackles = new("", "", "shackle", 12, "Works policy 7");

    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    private static async Task NothingIsFoundAsync(Yard yard) =>
        Assert.Equal(
            [],
            (await new VerifyStore(yard.Database).RunAsync(yard.Now, Cancel)).Select(f => $"{f.Mark}: {f.Why}")
        );

    private static async Task<ProofDue> OfAsync(Yard yard, string mark) => (await yard.FindAsync(mark)).Proof;

    private static async Task TestedAsync(Yard yard, string mark, DateOnly on, bool passed = true)
    {
        var piece = await yard.FindAsync(mark);
        var test = new ProofTest(
            ProofSubject.Leg,
            piece.RatedLoad! * 2,
            on,
            "Test house",
            "Cell 4",
            on.AddYears(1),
            "T-77",
            passed
        );
        Yard.Must(
            await new AwayStore(yard.Database).TestAsync(piece.Id, piece.Version, test, yard.Stamp("inspector"), Cancel)
        );
    }

    private static DateOnly Today(Yard yard) => DateOnly.FromDateTime(yard.Now.UtcDateTime);

    [Fact]
    public async Task Who_asks_one_sees_what_it_stops_and_a_test_recorded_moves_the_day()
    {
        await using var yard = await Yard.OpenAsync();
        var store = new ProofAskStore(yard.Database);
        var today = Today(yard);
        await yard.InServiceAsync(Seed.Shackle("HM-0001"));
        var form = Seed.Shackle("HM-0002");
        form["proofTestDue"] = $"{today.AddMonths(3):yyyy-MM-dd}";
        await yard.InServiceAsync(form);
        await yard.InServiceAsync(Seed.Sling("HM-0003"));
        Assert.Equal(new(today.AddMonths(3), false), await OfAsync(yard, "HM-0002"));

        // The one without a test is stopped: whoever asks has to have seen it.
        var unseen = await store.SetAsync(OfShackles, yard.Stamp("qualified"), Cancel);
        Assert.Contains("HM-0001", unseen.Fault, StringComparison.Ordinal);
        var sites = (await yard.Sites.SitesAsync(Cancel))!;
        var stop = Assert.Single(await store.WouldStopAsync(OfShackles, sites, yard.Now, Cancel));
        Assert.Equal(("HM-0001", (DateOnly?)null), (stop.Mark, stop.Until));
        Assert.Equal(ProofDue.None, await OfAsync(yard, "HM-0001"));
        Yard.Must(await store.SetAsync(OfShackles with { Stops = 1 }, yard.Stamp("qualified"), Cancel));
        Assert.True((await OfAsync(yard, "HM-0001")).Lacks);
        Assert.Equal(ProofDue.None, await OfAsync(yard, "HM-0003"));
        var piece = await yard.FindAsync("HM-0001");
        Assert.Contains(
            "proof test",
            Assert.Single(piece.UseAt(yard.Now, (await yard.Sites.SitesAsync(Cancel))!).Reasons),
            StringComparison.Ordinal
        );
        await NothingIsFoundAsync(yard);

        // A failed test proves nothing; one that passed holds a year from its day.
        await TestedAsync(yard, "HM-0001", today);
        Assert.Equal(new(today.AddMonths(12), false), await OfAsync(yard, "HM-0001"));
        await TestedAsync(yard, "HM-0002", today, passed: false);
        Assert.Equal(new(today.AddMonths(3), false), await OfAsync(yard, "HM-0002"));
        await TestedAsync(yard, "HM-0002", today);
        Assert.Equal(new(today.AddMonths(12), false), await OfAsync(yard, "HM-0002"));
        await NothingIsFoundAsync(yard);

        // Asked no more, the day entered by hand is what counts again.
        Yard.Must(await store.SetAsync(OfShackles with { Months = null }, yard.Stamp("qualified"), Cancel));
        Assert.Equal(ProofDue.None, await OfAsync(yard, "HM-0001"));
        Assert.Equal(new(today.AddMonths(3), false), await OfAsync(yard, "HM-0002"));
        await NothingIsFoundAsync(yard);
    }

    [Fact]
    public async Task What_lacks_its_test_stands_among_what_runs_out_the_first()
    {
        await using var yard = await Yard.OpenAsync();
        var today = Today(yard);
        await yard.InServiceAsync(Seed.Shackle("HM-0001"));
        var form = Seed.Shackle("HM-0002");
        form["proofTestDue"] = $"{today.AddDays(5):yyyy-MM-dd}";
        await yard.InServiceAsync(form);
        Yard.Must(
            await new ProofAskStore(yard.Database).SetAsync(
                OfShackles with
                {
                    Stops = 1,
                },
                yard.Stamp("qualified"),
                Cancel
            )
        );
        var due = await new DueStore(yard.Database).ElseAsync(null, today.AddDays(30), Cancel);
        Assert.Equal([("HM-0001", null), ("HM-0002", (DateOnly?)today.AddDays(5))], due.Select(d => (d.Mark, d.On)));
    }

    [Theory]
    [InlineData("Brackenfell Chain", "BRACKENFELL-CHAIN")]
    [InlineData("Ατλας", "ΑΤΛΑΣ")]
    public async Task What_a_maker_asks_anew_takes_the_place_of_the_last_however_it_is_spelled(string one, string other)
    {
        await using var yard = await Yard.OpenAsync();
        var store = new ProofAskStore(yard.Database);
        var form = Seed.Shackle("HM-0001");
        form["maker"] = one;
        await yard.InServiceAsync(form);
        await TestedAsync(yard, "HM-0001", Today(yard));
        var tested = Today(yard);
        foreach (var (name, months) in new[] { (one, 6), (other, 12), (one, 9) })
        {
            Yard.Must(
                await store.SetAsync(new(name, "", "", months, "Maker's sheet 4"), yard.Stamp("qualified"), Cancel)
            );
            Assert.Equal(new(tested.AddMonths(months), false), await OfAsync(yard, "HM-0001"));
            await NothingIsFoundAsync(yard);
        }

        Yard.Must(await store.SetAsync(new(other, "", "", null, "No more"), yard.Stamp("qualified"), Cancel));
        Assert.Empty((await yard.Sites.GetAsync(Cancel)).ProofAsks);
        Assert.Equal(ProofDue.None, await OfAsync(yard, "HM-0001"));
        await NothingIsFoundAsync(yard);
    }

    [Fact]
    public async Task What_is_registered_later_comes_under_what_is_asked()
    {
        await using var yard = await Yard.OpenAsync();
        var ask = new EnteredProofAsk("Brackenfell Chain", "", "", 6, "Maker's sheet 4");
        Yard.Must(await new ProofAskStore(yard.Database).SetAsync(ask, yard.Stamp("qualified"), Cancel));
        var form = Seed.Shackle("HM-0001");
        form["maker"] = "BRACKENFELL chain";
        await yard.InServiceAsync(form);
        Assert.True((await OfAsync(yard, "HM-0001")).Lacks);
        await yard.RegisterAsync(Seed.Shackle("HM-0002"));
        await NothingIsFoundAsync(yard);
    }

    [Fact]
    public async Task A_piece_registered_while_one_is_asked_lacks_it_from_the_start()
    {
        await using var yard = await Yard.OpenAsync();
        Yard.Must(await new ProofAskStore(yard.Database).SetAsync(OfShackles, yard.Stamp("qualified"), Cancel));
        await yard.RegisterAsync(Seed.Shackle("HM-0001"));
        await yard.RegisterAsync(Seed.Sling("HM-0002"));
        Assert.True((await OfAsync(yard, "HM-0001")).Lacks);
        Assert.Equal(ProofDue.None, await OfAsync(yard, "HM-0002"));
        await NothingIsFoundAsync(yard);
    }

    [Theory]
    [InlineData("Pellow Forge", true)]
    [InlineData("", false)]
    public async Task What_a_maker_asks_counts_at_every_site_and_what_a_site_asks_at_that_one(
        string maker,
        bool everywhere
    )
    {
        await using var yard = await Yard.OpenAsync();
        var keeping = new StoreKeeping(yard.Database);
        Yard.Must(
            await keeping.AddSiteAsync(
                StoreActs.ReadSite("North Quay", ["asme"], "UTC").Value,
                yard.Stamp("admin"),
                Cancel
            )
        );
        var sites = (await yard.Sites.SitesAsync(Cancel))!;
        var ask = OfShackles with { Maker = maker, Family = maker.Length > 0 ? "" : "shackle", Site = sites.Home.Id };
        Yard.Must(await new ProofAskStore(yard.Database).SetAsync(ask, yard.Stamp("qualified"), Cancel));
        Assert.Equal(
            [1, everywhere ? 1 : 0],
            (await yard.Sites.SitesAsync(Cancel))!.All.Select(s => s.ProofAsks.Count)
        );
    }

    [Fact]
    public async Task A_day_kept_otherwise_than_the_records_say_is_found()
    {
        await using var yard = await Yard.OpenAsync();
        await yard.InServiceAsync(Seed.Shackle("HM-0001"));
        await yard.Database.Command("update piece set proof_due = '2030-01-01'").ExecuteNonQueryAsync(Cancel);
        var found = Assert.Single(await new VerifyStore(yard.Database).RunAsync(yard.Now, Cancel));
        Assert.Contains("proof test is kept as holding until 2030-01-01", found.Why, StringComparison.Ordinal);
    }
}
