using Keralith.Core.Custody;
using Keralith.Core.Gear;
using Keralith.Core.Judgement;
using Keralith.Core.Register;
using Keralith.Core.Schedule;
using Keralith.Core.Sites;
using Keralith.Testing;
using Xunit;

namespace Keralith.Data.Tests;

/// <summary>Several sites under one roof: each with rules of its own, and what a piece meets that goes from one to another.</summary>
public class SitesTests
{
    private const int Home = Site.First;
    private const int North = 2;

    /// <summary>The throat of a hook opened by 4.5 %: a watch where 5 % removes.</summary>
    private static readonly (string Part, string Criterion, AnswerEntry Entry) Opened = (
        "leg-1/hook",
        "hook.throat",
        new(Value: "1.437 in")
    );

    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    [Fact]
    public async Task A_piece_moved_to_a_stricter_site_is_judged_there_at_once_and_let_go_when_it_is_back()
    {
        await using var yard = await Yard.OpenAsync();
        var quay = await NorthAsync(yard, "ontario");
        await yard.InServiceAsync(Seed.Sling("HM-0001"));
        await yard.InServiceAsync(Seed.Sling("HM-0002"));
        Yard.Must(await yard.InspectAsync("HM-0001", InspectionKind.Periodic, Opened));
        Assert.Equal((PieceState.InService, VerdictKind.Watch), await StandsAsync(yard, "HM-0001"));

        Yard.Must(await MoveAsync(yard, quay, "HM-0001", "HM-0002"));
        Assert.Equal((PieceState.Held, VerdictKind.Watch), await StandsAsync(yard, "HM-0001"));
        Assert.Equal((PieceState.InService, VerdictKind.Fit), await StandsAsync(yard, "HM-0002"));
        var moved = await yard.FindAsync("HM-0001");
        Assert.Equal((North, "Quay Rack"), (moved.SiteId, moved.Store));
        Assert.Contains("Moved to North Quay", Assert.Single(moved.OpenHolds), StringComparison.Ordinal);
        Assert.Equal(
            ["piece.held-by-rules", "piece.moved"],
            (await yard.Ledger.NewestAsync("HM-0001", null, 2, Cancel)).Select(e => e.Kind)
        );

        var again = new JudgeAgain(yard.Database);
        Assert.Contains(
            "still hold",
            (await again.LetGoAsync("Sent back", yard.Stamp("qualified"), Cancel)).Fault,
            StringComparison.Ordinal
        );
        Yard.Must(await MoveAsync(yard, 1, "HM-0001"));
        Assert.Equal(PieceState.Held, (await yard.FindAsync("HM-0001")).State);
        Yard.Must(await again.LetGoAsync("Back where 5 % is the limit", yard.Stamp("qualified"), Cancel));
        Assert.Equal((PieceState.InService, VerdictKind.Watch), await StandsAsync(yard, "HM-0001"));
        Assert.Empty(await new VerifyStore(yard.Database).RunAsync(yard.Now, Cancel));
    }

    [Fact]
    public async Task What_was_never_inspected_or_is_held_already_moves_as_it_is()
    {
        await using var yard = await Yard.OpenAsync();
        var quay = await NorthAsync(yard, "ontario");
        await yard.RegisterAsync(Seed.Sling("HM-0001"));
        await yard.InServiceAsync(Seed.Sling("HM-0002"));
        Yard.Must(await yard.InspectAsync("HM-0002", InspectionKind.Periodic, Opened));
        var held = await yard.FindAsync("HM-0002");
        Yard.Must(
            await yard.Custody.HoldAsync(held.Id, HoldCause.Doubt, "Fell off the lorry", yard.Stamp("crew"), Cancel)
        );
        Yard.Must(await MoveAsync(yard, quay, "HM-0001", "HM-0002"));
        Assert.Equal(PieceState.New, (await yard.FindAsync("HM-0001")).State);
        Assert.Equal(2, (await yard.FindAsync("HM-0002")).OpenHolds.Count);
        Assert.Equal(PieceState.Held, (await yard.FindAsync("HM-0002")).State);
    }

    [Fact]
    public async Task A_proof_test_is_asked_by_the_site_a_piece_hangs_at()
    {
        await using var yard = await Yard.OpenAsync();
        var quay = await NorthAsync(yard, "ontario");
        await yard.InServiceAsync(Seed.Sling("HM-0001"));
        await yard.InServiceAsync(Seed.Sling("HM-0002"));
        var ask = new EnteredProofAsk("", "", "alloy-chain-sling", 12, "Policy of the quay") { Site = North };
        Yard.Must(await new ProofAskStore(yard.Database).SetAsync(ask, yard.Stamp("qualified"), Cancel));
        Assert.False((await yard.FindAsync("HM-0001")).Proof.Lacks);

        Yard.Must(await MoveAsync(yard, quay, "HM-0001"));
        Assert.True((await yard.FindAsync("HM-0001")).Proof.Lacks);
        Assert.False((await yard.FindAsync("HM-0002")).Proof.Lacks);
        Assert.Empty(await new VerifyStore(yard.Database).RunAsync(yard.Now, Cancel));
        Yard.Must(await MoveAsync(yard, 1, "HM-0001"));
        Assert.False((await yard.FindAsync("HM-0001")).Proof.Lacks);
    }

    [Fact]
    public async Task A_piece_is_due_by_the_books_of_the_site_it_hangs_at()
    {
        await using var yard = await Yard.OpenAsync();
        var quay = await NorthAsync(yard, "australia");
        var web = await yard.InServiceAsync(
            Seed.With("HM-0003", "web-sling", ("width", "50 mm"), ("type", "eye-eye"), ("fiber", "polyester"))
        );
        var day = DateOnly.FromDateTime(yard.Now.Date);
        Assert.Equal(day.AddMonths(12), web.PeriodicDue);
        Yard.Must(await MoveAsync(yard, quay, "HM-0003"));
        Assert.Equal(day.AddMonths(3), (await yard.FindAsync("HM-0003")).PeriodicDue);

        // A change of its old site's rules moves nothing of it.
        Yard.Must(await RulesAsync(yard, Home, "asme"));
        Assert.Equal(day.AddMonths(3), (await yard.FindAsync("HM-0003")).PeriodicDue);
        Yard.Must(await RulesAsync(yard, North, "asme"));
        Assert.Equal(day.AddMonths(12), (await yard.FindAsync("HM-0003")).PeriodicDue);
        Assert.Empty(await new VerifyStore(yard.Database).RunAsync(yard.Now, Cancel));
    }

    [Fact]
    public async Task A_sites_limit_holds_its_own_gear_and_a_makers_holds_it_everywhere()
    {
        await using var yard = await Yard.OpenAsync();
        var quay = await NorthAsync(yard, "asme");
        await yard.InServiceAsync(Seed.Sling("HM-0001"));
        await yard.InServiceAsync(Seed.Sling("HM-0002"));
        Yard.Must(await yard.InspectAsync("HM-0001", InspectionKind.Periodic, Opened));
        Yard.Must(await yard.InspectAsync("HM-0002", InspectionKind.Periodic, Opened));
        Yard.Must(await MoveAsync(yard, quay, "HM-0002"));

        Yard.Must(await LimitAsync(yard, LimitOwner.Site, "", stops: 1));
        Assert.Equal(PieceState.InService, (await yard.FindAsync("HM-0001")).State);
        Assert.Equal(PieceState.Held, (await yard.FindAsync("HM-0002")).State);
        var sites = (await yard.Sites.SitesAsync(Cancel))!;
        Assert.Empty(sites.Home.Limits);
        Assert.Single(sites.Of(North).Limits);

        Yard.Must(await LimitAsync(yard, LimitOwner.Maker, "Orrery Chainworks", stops: 1));
        Assert.Equal(PieceState.Held, (await yard.FindAsync("HM-0001")).State);
        Assert.Equal(
            ["rules.limit-set", "site.added"],
            (await yard.Ledger.NewestAsync("site 2", null, 5, Cancel)).Select(e => e.Kind)
        );
        Assert.Empty(await new VerifyStore(yard.Database).RunAsync(yard.Now, Cancel));
    }

    [Fact]
    public async Task A_correction_of_the_register_carries_no_piece_to_another_site()
    {
        await using var yard = await Yard.OpenAsync();
        var quay = await NorthAsync(yard, "ontario");
        var fields = Seed.Sling("HM-0001");
        var piece = await yard.RegisterAsync(fields);
        fields["store"] = $"{quay}";
        var entry = PieceEntryReader.Read(fields).Entry!;
        var edited = await yard.Pieces.EditAsync(
            piece.Id,
            piece.Version,
            entry,
            Grounds.None,
            yard.Stamp("stores"),
            Cancel
        );
        Assert.Contains("another site", edited.Fault, StringComparison.Ordinal);
        fields["store"] = "2";
        entry = PieceEntryReader.Read(fields).Entry!;
        Yard.Must(
            await yard.Pieces.EditAsync(piece.Id, piece.Version, entry, Grounds.None, yard.Stamp("stores"), Cancel)
        );
    }

    [Fact]
    public async Task Sites_are_added_and_renamed_by_administrators_and_stores_change_site_empty()
    {
        await using var yard = await Yard.OpenAsync();
        var keeping = new StoreKeeping(yard.Database);
        var entry = StoreActs.ReadSite("North Quay", ["europe"], "Europe/Oslo").Value;
        Assert.Equal(
            RefusalKind.Forbidden,
            (await keeping.AddSiteAsync(entry, yard.Stamp("qualified"), Cancel)).Refusal!.Kind
        );
        Yard.Must(await keeping.AddSiteAsync(entry, yard.Stamp("admin"), Cancel));
        Assert.Contains(
            "already",
            (await keeping.AddSiteAsync(entry with { Name = "north quay" }, yard.Stamp("admin"), Cancel)).Fault,
            StringComparison.Ordinal
        );
        Assert.Contains(
            "already",
            (await keeping.RenameSiteAsync(Home, "NORTH QUAY", yard.Stamp("admin"), Cancel)).Fault,
            StringComparison.Ordinal
        );
        Yard.Must(await keeping.RenameSiteAsync(North, "North Pier", yard.Stamp("admin"), Cancel));
        var sites = (await yard.Sites.SitesAsync(Cancel))!;
        Assert.Equal(["Hollowmere Lock Works", "North Pier"], sites.All.Select(s => s.Name));
        Assert.Equal(("europe", "Europe/Oslo"), (sites.Of(North).Books.Single().Id, sites.Of(North).Zone.Id));

        await yard.RegisterAsync(Seed.Sling("HM-0001"));
        var stores = await keeping.AllAsync(Cancel);
        Assert.Contains(
            "empty",
            (await keeping.KeepAsync(1, stores[0].Entry with { Site = North }, yard.Stamp("admin"), Cancel)).Fault,
            StringComparison.Ordinal
        );
        Yard.Must(await keeping.KeepAsync(2, stores[1].Entry with { Site = North }, yard.Stamp("admin"), Cancel));
        Assert.Equal(
            RefusalKind.NotFound,
            (await keeping.KeepAsync(3, stores[2].Entry with { Site = 9 }, yard.Stamp("admin"), Cancel)).Refusal!.Kind
        );
        Assert.Equal([Home, North, Home], (await yard.Sites.StoresAsync(Cancel)).Select(s => s.Site));
    }

    [Fact]
    public async Task Each_site_has_a_season_and_a_mark_of_its_own()
    {
        await using var yard = await Yard.OpenAsync();
        var quay = await NorthAsync(yard, "asme");
        var here = await yard.InServiceAsync(Seed.Shackle("HM-0001"));
        var there = await yard.InServiceAsync(Seed.Shackle("HM-0002"));
        Yard.Must(await MoveAsync(yard, quay, "HM-0002"));
        var seasons = new SeasonStore(yard.Database);
        var scheme = SeasonSchemeReader
            .Read("V heather ring\nM moss dots", 3, new(2026, 1, 1), 14, true, ["heather", "moss"])
            .Value;
        Yard.Must(await seasons.SetAsync(North, 1, scheme, "New", yard.Stamp("qualified"), Cancel));
        Yard.Must(await new YardStore(yard.Database).PaintAsync([there.Id], yard.Stamp("inspector"), Cancel));
        Assert.Contains(
            "no season colours",
            (await new YardStore(yard.Database).PaintAsync([here.Id], yard.Stamp("inspector"), Cancel)).Fault,
            StringComparison.Ordinal
        );
        Yard.Must(await seasons.SetAsync(Home, 1, scheme with { Months = 6 }, "Ours", yard.Stamp("qualified"), Cancel));
        Assert.Equal("Quay Rack", Assert.Single(await seasons.ProgressAsync(new(2026, 1, 1), North, Cancel)).Store);
        Assert.Equal(new(2026, 1, 1), (await yard.FindAsync("HM-0002")).SeasonFor);
        Assert.Equal("HM-0001", Assert.Single(await seasons.LackingAsync(new(2026, 1, 1), Home, null, Cancel)).Mark);

        // What is painted at one site says nothing at another.
        Yard.Must(await MoveAsync(yard, 1, "HM-0002"));
        Assert.Null((await yard.FindAsync("HM-0002")).SeasonFor);
    }

    [Fact]
    public async Task The_day_of_a_record_is_the_day_at_its_pieces_site()
    {
        await using var yard = await Yard.OpenAsync();
        var quay = await NorthAsync(yard, "asme", "Pacific/Kiritimati");
        await yard.InServiceAsync(Seed.Sling("HM-0001"));
        await yard.InServiceAsync(Seed.Sling("HM-0002"));
        Yard.Must(await MoveAsync(yard, quay, "HM-0002"));
        yard.Now = new(2026, 3, 3, 20, 0, 0, TimeSpan.Zero);
        var tomorrow = new DateOnly(2026, 3, 4);
        Assert.Contains(
            "future",
            (await SignAsync(yard, "HM-0001", tomorrow)).Fault ?? "signed",
            StringComparison.Ordinal
        );
        Yard.Must(await SignAsync(yard, "HM-0002", tomorrow));
        var look = await yard.FindAsync("HM-0002");
        Yard.Must(await yard.Signing.SignCleanCheckAsync(look, null, yard.Stamp("inspector"), Cancel));
        Assert.Equal(tomorrow, (await yard.Inspections.SignedAsync(look.Id, Cancel))[0].InspectedOn);
    }

    /// <summary>A second site with a store of its own; returns the store.</summary>
    private static async Task<int> NorthAsync(Yard yard, string book, string zone = "UTC")
    {
        var keeping = new StoreKeeping(yard.Database);
        var site = StoreActs.ReadSite("North Quay", [book], zone).Value;
        Yard.Must(await keeping.AddSiteAsync(site, yard.Stamp("admin"), Cancel));
        var rack = new StoreEntry("Quay Rack", string.Empty, StoreKind.Rack, false) { Site = North };
        Yard.Must(await keeping.KeepAsync(null, rack, yard.Stamp("admin"), Cancel));
        return (await keeping.AllAsync(Cancel)).Single(s => s.Entry.Name == "Quay Rack").Id;
    }

    private static async Task<Checked<Recorded>> MoveAsync(Yard yard, int store, params string[] marks)
    {
        var pieces = new List<Guid>();
        foreach (var mark in marks)
            pieces.Add((await yard.FindAsync(mark)).Id);
        return await new YardStore(yard.Database).MoveAsync(pieces, store, "N1", yard.Stamp("stores"), Cancel);
    }

    private static async Task<(PieceState, VerdictKind?)> StandsAsync(Yard yard, string mark)
    {
        var piece = await yard.FindAsync(mark);
        return (piece.State, piece.Verdict);
    }

    private static async Task<Checked<Recorded>> RulesAsync(Yard yard, int site, string book)
    {
        var now = (await yard.Sites.SitesAsync(Cancel))!.Of(site);
        var change = new SiteChange(
            now.Version,
            [RuleBookShelf.Find(book)!],
            now.Editions,
            now.WatchShare,
            SitePolicies.None,
            "Another book"
        )
        {
            Site = site,
        };
        return await new SettingsStore(yard.Database).ChangeSiteAsync(change, yard.Stamp("admin"), Cancel);
    }

    private static Task<Checked<Recorded>> LimitAsync(Yard yard, LimitOwner owner, string maker, int stops) =>
        new SettingsStore(yard.Database).SetLimitAsync(
            new(owner, maker, "", "hook.throat", "4 %", "Policy") { Site = North, Stops = stops },
            yard.Stamp("qualified"),
            Cancel
        );

    private static async Task<Checked<Recorded>> SignAsync(Yard yard, string mark, DateOnly day)
    {
        var (draft, version) = await yard.DraftAsync(mark, InspectionKind.Periodic);
        return await yard.Signing.SignAsync(draft, new(version, day), yard.Stamp("inspector"), Cancel);
    }
}
