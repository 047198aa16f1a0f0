using Keralith.Core.Gear;
using Keralith.Core.Judgement;
using Keralith.Core.People;
using Keralith.Core.Sites;
using Keralith.Testing;
using Xunit;

namespace Keralith.Data.Tests;

/// <summary>What a site adds to the books, and what it makes of its records when the rules change.</summary>
public class SettingsTests
{
    private static readonly (string Part, string Criterion, AnswerEntry Entry) OpenedThroat = (
        "leg-1/hook",
        "hook.throat",
        new(Value: "1.437 in")
    );

    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    [Fact]
    public async Task A_site_limit_governs_the_next_inspection_and_stands_in_its_record()
    {
        await using var yard = await Yard.OpenAsync();
        await yard.InServiceAsync(Seed.Sling("HM-0001"));
        Yard.Must(await LimitAsync(yard, "qualified", LimitOwner.Site, "hook.throat", "4 %"));
        Yard.Must(await LimitAsync(yard, "qualified", LimitOwner.Site, "rope.broken-in-lay", "3"));
        Yard.Must(await yard.InspectAsync("HM-0001", InspectionKind.Periodic, OpenedThroat));
        var piece = await yard.FindAsync("HM-0001");
        var record = (await yard.Inspections.SignedAsync(piece.Id, Cancel))[0];
        Assert.Equal(VerdictKind.Remove, record.Verdict);
        Assert.Contains(
            "\"limits\":[{\"source\":\"site\",\"criterion\":\"hook.throat\",\"percent\":4}]",
            record.CaseDocument,
            StringComparison.Ordinal
        );
        Assert.Contains(
            "\"book\":\"site\"",
            (await yard.Inspections.FindSignedAsync(record.Id, Cancel))!.VerdictDocument,
            StringComparison.Ordinal
        );
    }

    [Theory]
    [InlineData("qualified", LimitOwner.Site, "hook.throat", "4 %", null)]
    [InlineData("qualified", LimitOwner.Site, "hook.throat", "5 %", "not stricter")]
    [InlineData("qualified", LimitOwner.Site, "hook.throat", "20 %", "not stricter")]
    [InlineData("qualified", LimitOwner.Site, "rope.broken-in-lay", "9", null)]
    [InlineData("qualified", LimitOwner.Site, "rope.broken-in-lay", "10", "not stricter")]
    [InlineData("qualified", LimitOwner.Site, "hook.throat", "3", "no unit")]
    [InlineData("qualified", LimitOwner.Site, "hook.crack", "3 %", "Choose a measure")]
    [InlineData("qualified", LimitOwner.Site, "kit.complete", "3", "Choose a measure")]
    [InlineData("inspector", LimitOwner.Site, "hook.throat", "4 %", "Only a qualified person")]
    [InlineData("admin", LimitOwner.Site, "hook.throat", "4 %", "Only a qualified person")]
    [InlineData("qualified", LimitOwner.Maker, "hook.throat", "4 %", "Name the maker")]
    [InlineData("qualified", LimitOwner.Maker, "hook.throat", "4 %", "Name the maker", "-")]
    public async Task A_limit_is_stricter_well_written_and_set_by_a_qualified_person(
        string who,
        LimitOwner owner,
        string criterion,
        string figure,
        string? refusal,
        string maker = ""
    )
    {
        await using var yard = await Yard.OpenAsync();
        var result = await LimitAsync(yard, who, owner, criterion, figure, maker);
        if (refusal is null)
            Assert.True(result.Ok, result.Fault);
        else
            Assert.Contains(refusal, result.Fault ?? "taken", StringComparison.Ordinal);
    }

    [Fact]
    public async Task A_makers_limit_counts_for_its_model_alone_and_the_models_own_comes_first()
    {
        await using var yard = await Yard.OpenAsync();
        Yard.Must(await LimitAsync(yard, "qualified", LimitOwner.Maker, "hoistchain.growth", "2 %", "Quillon Hoists"));
        Yard.Must(
            await LimitAsync(yard, "qualified", LimitOwner.Maker, "hoistchain.growth", "1 %", "Quillon Hoists", "QH-2")
        );
        var site = await yard.Sites.GetAsync(Cancel);
        Assert.Equal(1, Assert.Single(site.LimitsFor("quillon hoists", "qh-2")).Percent);
        Assert.Equal(2, Assert.Single(site.LimitsFor("Quillon Hoists", "QH-3")).Percent);
        Assert.Equal([1m, 2m], site.LimitsFor("Quillon Hoists", null).Select(l => l.Percent!.Value).Order());
        Assert.Empty(site.LimitsFor("Pellow Forge", "QH-2"));
        Assert.Empty(site.LimitsFor(null, null));
    }

    [Theory]
    [InlineData("Quillon Hoists", "QUILLON-HOISTS")]
    [InlineData("Quillon-Hoists", "quillon  hoists")]
    [InlineData("Ατλας", "ΑΤΛΑΣ")]
    public async Task A_makers_limit_set_anew_takes_the_place_of_the_last_however_the_maker_is_spelled(
        string one,
        string other
    )
    {
        await using var yard = await Yard.OpenAsync();
        const string Growth = "hoistchain.growth";
        Yard.Must(await LimitAsync(yard, "qualified", LimitOwner.Maker, Growth, "2 %", one, "QH-2"));
        Yard.Must(await LimitAsync(yard, "qualified", LimitOwner.Maker, Growth, "1 %", other, "qh 2"));
        foreach (var name in new[] { one, other })
            Assert.Equal(1, Assert.Single((await yard.Sites.GetAsync(Cancel)).LimitsFor(name, "QH2")).Percent);
        Assert.Single((await yard.Sites.GetAsync(Cancel)).Limits);
        Yard.Must(await LimitAsync(yard, "qualified", LimitOwner.Maker, Growth, "1.5 %", one, "QH-2"));
        Assert.Equal("1.5 %", Assert.Single((await yard.Sites.GetAsync(Cancel)).Limits).Figure);

        // Another maker's, another measure's and the whole maker's stand beside it.
        Yard.Must(await LimitAsync(yard, "qualified", LimitOwner.Maker, Growth, "1 %", one + "2", "QH-2"));
        Yard.Must(await LimitAsync(yard, "qualified", LimitOwner.Maker, Growth, "1 %", one));
        Yard.Must(await LimitAsync(yard, "qualified", LimitOwner.Maker, "hook.throat", "3 %", one, "QH-2"));
        Assert.Equal(4, (await yard.Sites.GetAsync(Cancel)).Limits.Count);
        Yard.Must(await LimitAsync(yard, "qualified", LimitOwner.Maker, Growth, "", other, "QH/2"));
        Assert.Equal(3, (await yard.Sites.GetAsync(Cancel)).Limits.Count);
    }

    [Fact]
    public async Task A_limit_withdrawn_counts_no_more_and_both_stand_in_the_ledger()
    {
        await using var yard = await Yard.OpenAsync();
        Yard.Must(await LimitAsync(yard, "qualified", LimitOwner.Site, "hook.throat", "4 %"));
        Yard.Must(await LimitAsync(yard, "qualified", LimitOwner.Site, "hook.throat", ""));
        Assert.Empty((await yard.Sites.GetAsync(Cancel)).Limits);
        Assert.Equal(
            ["rules.limit-withdrawn", "rules.limit-set"],
            (await yard.Ledger.NewestAsync("site", null, 5, Cancel)).Select(e => e.Kind)
        );
        Assert.Null((await yard.Ledger.VerifyAsync(Cancel)).Broken);
    }

    [Fact]
    public async Task Limits_on_record_are_never_changed()
    {
        await using var yard = await Yard.OpenAsync();
        Yard.Must(await LimitAsync(yard, "qualified", LimitOwner.Site, "hook.throat", "4 %"));
        await using var command = yard.Database.Command("update own_limit set figure = '9 %'");
        await Assert.ThrowsAsync<Npgsql.PostgresException>(() => command.ExecuteNonQueryAsync(Cancel));
    }

    [Fact]
    public async Task Another_book_moves_due_dates_at_once_and_is_signed_into_the_ledger()
    {
        await using var yard = await Yard.OpenAsync();
        var before = await yard.InServiceAsync(Seed.Sling("HM-0001"));
        await yard.RegisterAsync(Seed.Shackle("HM-0002"));
        var site = await yard.Sites.GetAsync(Cancel);
        Yard.Must(await ChangeAsync(yard, "admin", site, [.. site.Books, RuleBookShelf.Find("europe")!]));
        var after = await yard.FindAsync("HM-0001");
        Assert.Equal(before.PeriodicDue!.Value.AddMonths(-6), after.PeriodicDue);
        Assert.Null((await yard.FindAsync("HM-0002")).PeriodicDue);
        Assert.NotEqual(before.Version, after.Version);
        Assert.Equal("rules.site", (await yard.Ledger.NewestAsync("site", null, 1, Cancel))[0].Kind);
    }

    [Theory]
    [InlineData("qualified", 0.75, "asme", "why", "administrator")]
    [InlineData("admin", 0.76, "asme", "why", "watch share")]
    [InlineData("admin", 0, "asme", "why", "watch share")]
    [InlineData("admin", 0.75, "", "why", "one book at least")]
    [InlineData("admin", 0.75, "asme", " ", "why")]
    [InlineData("admin", 0.5, "asme ontario", "why", null)]
    public async Task Settings_are_changed_by_an_administrator_with_a_reason_and_never_to_something_milder(
        string who,
        double share,
        string books,
        string reason,
        string? refusal
    )
    {
        await using var yard = await Yard.OpenAsync();
        var site = await yard.Sites.GetAsync(Cancel) with { WatchShare = (decimal)share };
        var result = await ChangeAsync(
            yard,
            who,
            site,
            books.Split(' ', StringSplitOptions.RemoveEmptyEntries).Select(b => RuleBookShelf.Find(b)!).ToList(),
            reason
        );
        if (refusal is null)
            Assert.True(result.Ok, result.Fault);
        else
            Assert.Contains(refusal, result.Fault ?? "taken", StringComparison.Ordinal);
    }

    [Fact]
    public async Task Two_people_changing_settings_at_once_overwrite_nothing()
    {
        await using var yard = await Yard.OpenAsync();
        var site = await yard.Sites.GetAsync(Cancel);
        Yard.Must(await ChangeAsync(yard, "admin", site, [RuleBookShelf.Asme]));
        Assert.Contains(
            "Somebody else",
            (await ChangeAsync(yard, "admin", site, site.Books)).Fault,
            StringComparison.Ordinal
        );
        Assert.Equal([RuleBookShelf.Asme], (await yard.Sites.GetAsync(Cancel)).Books);
    }

    [Fact]
    public async Task An_inspection_keeps_catalogue_books_editions_and_watch_share_it_was_judged_by()
    {
        await using var yard = await Yard.OpenAsync();
        var site = await yard.Sites.GetAsync(Cancel);
        Yard.Must(
            await new SettingsStore(yard.Database).ChangeSiteAsync(
                new(
                    site.Version,
                    site.Books,
                    new Dictionary<string, int> { ["asme"] = 2021 },
                    0.6m,
                    SitePolicies.None,
                    "Editions"
                ),
                yard.Stamp("admin"),
                Cancel
            )
        );
        var piece = await yard.InServiceAsync(Seed.Sling("HM-0001"));
        Yard.Must(
            await ChangeAsync(
                yard,
                "admin",
                (await yard.Sites.GetAsync(Cancel)) with
                {
                    Editions = new Dictionary<string, int> { ["asme"] = 2026 },
                },
                [RuleBookShelf.Asme]
            )
        );
        var record = (await yard.Inspections.SignedAsync(piece.Id, Cancel))[0];
        Assert.Equal(
            (Catalogue.Version, 0.6m, 2021),
            (record.CatalogueVersion, record.WorkedTo.WatchShare, record.WorkedTo.Editions!["asme"])
        );
        Assert.Contains("\"ruleBooks\":[\"asme\",\"osha\"]", record.CaseDocument, StringComparison.Ordinal);
    }

    [Fact]
    public async Task A_latch_policy_of_the_site_is_asked_on_every_hook()
    {
        await using var yard = await Yard.OpenAsync();
        var site = await yard.Sites.GetAsync(Cancel);
        Yard.Must(await ChangeAsync(yard, "admin", site with { Policies = new(true, false) }, site.Books));
        var piece = await yard.RegisterAsync(Seed.Sling("HM-0001"));
        site = await yard.Sites.GetAsync(Cancel);
        var @case = InspectionStore.CaseOf(
            piece,
            InspectionKind.Periodic,
            site,
            [],
            new Dictionary<Core.Register.BaselineKey, BaselineRow>()
        );
        Assert.Equal(
            ["leg-1/hook", "leg-2/hook"],
            Judge.MissingAnswers(@case).Where(m => m.Criterion.Id == "policy.latch").Select(m => m.Part)
        );
    }

    [Fact]
    public async Task Judged_again_the_register_shows_what_a_new_limit_changes_and_alters_no_record()
    {
        await using var yard = await Yard.OpenAsync();
        await yard.InServiceAsync(Seed.Sling("HM-0001"));
        await yard.InServiceAsync(Seed.Shackle("HM-0002"));
        Yard.Must(await yard.InspectAsync("HM-0001", InspectionKind.Periodic, OpenedThroat));
        var again = new JudgeAgain(yard.Database);
        Assert.Empty((await again.RunAsync((await yard.Sites.SitesAsync(Cancel))!, null, Cancel)).Changed);

        Yard.Must(await LimitAsync(yard, "qualified", LimitOwner.Site, "hook.throat", "4 %", stops: 1));
        var result = await again.RunAsync((await yard.Sites.SitesAsync(Cancel))!, null, Cancel);
        var changed = Assert.Single(result.Changed);
        Assert.Equal(
            (2, "HM-0001", VerdictKind.Watch, VerdictKind.Remove),
            (result.Judged, changed.Mark, changed.Then, changed.Now)
        );
        Assert.Contains("Throat opening", changed.Because, StringComparison.Ordinal);
        var piece = await yard.FindAsync("HM-0001");
        Assert.Equal(
            (Core.Custody.PieceState.Held, VerdictKind.Watch),
            (piece.State, (await yard.Inspections.SignedAsync(piece.Id, Cancel))[0].Verdict)
        );
    }

    [Fact]
    public async Task Judged_again_by_a_book_that_asks_more_a_record_is_incomplete()
    {
        await using var yard = await Yard.OpenAsync();
        await yard.InServiceAsync(
            Seed.With(
                "HM-0003",
                "wire-rope-sling",
                ("size", "20 mm"),
                ("body", "strand-laid"),
                ("core", "iwrc"),
                ("termination", "swaged"),
                ("legs", "1"),
                ("strands", "6"),
                ("wiresPerStrand", "36")
            )
        );
        var site = await yard.Sites.GetAsync(Cancel);
        var again = new JudgeAgain(yard.Database);
        Assert.Empty((await again.RunAsync(new([site with { Books = [RuleBookShelf.Asme] }]), null, Cancel)).Changed);
        var changed = Assert.Single(
            (await again.RunAsync(new([site with { Policies = new(false, true) }]), null, Cancel)).Changed
        );
        Assert.Equal(VerdictKind.Incomplete, changed.Now);
        Assert.Contains("thimble", changed.Because, StringComparison.Ordinal);
    }

    [Fact]
    public async Task A_restraint_may_be_registered_and_inspected_and_never_used_for_lifting()
    {
        await using var yard = await Yard.OpenAsync();
        var piece = await yard.InServiceAsync(Seed.With("HM-0004", "restraint"));
        Assert.Contains(
            "Not for lifting.",
            piece.UseOn(DateOnly.FromDateTime(yard.Now.Date), await yard.Sites.GetAsync(Cancel)).Reasons
        );
    }

    [Fact]
    public async Task What_a_piece_meets_is_kept_and_holds_its_inspection()
    {
        await using var yard = await Yard.OpenAsync();
        var form = Seed.Sling("HM-0005");
        form["meets:acid"] = "true";
        form["hottest"] = "390 F";
        var piece = await yard.RegisterAsync(form);
        Assert.Equal("390 F", piece.Surroundings.Hottest.ToString());
        Yard.Must(await yard.InspectAsync("HM-0005", InspectionKind.Initial));
        var record = (await yard.Inspections.SignedAsync(piece.Id, Cancel))[0];
        Assert.Equal(VerdictKind.Hold, record.Verdict);
        Assert.Contains("acids", record.Notes, StringComparison.Ordinal);
    }

    [Fact]
    public async Task What_a_piece_comes_to_meet_later_stops_it_until_a_qualified_person_enters_the_makers_word()
    {
        await using var yard = await Yard.OpenAsync();
        var today = DateOnly.FromDateTime(yard.Now.Date);
        var site = await yard.Sites.GetAsync(Cancel);
        var form = Seed.Sling("HM-0006");
        Assert.True((await yard.InServiceAsync(form)).UseOn(today, site).MayBeUsed);

        form["hottest"] = "450 F";
        Yard.Must(await EditAsync(yard, "stores", form));
        Assert.Contains(
            "450 F",
            (await yard.FindAsync("HM-0006")).UseOn(today, site).Reasons[1],
            StringComparison.Ordinal
        );

        form["makersWord"] = "Letter of 2 March: may work at 450 F at nine tenths of its rated load";
        Assert.Contains("qualified person", (await EditAsync(yard, "stores", form)).Fault, StringComparison.Ordinal);
        Assert.Contains("paper", (await EditAsync(yard, "qualified", form)).Fault, StringComparison.Ordinal);
        var letter = yard.Stamp("qualified");
        Yard.Must(
            await new FileStore(yard.Database).AttachAsync(
                [(await yard.FindAsync("HM-0006")).Id],
                new(FileKind.Other, "Letter of 2 March", null, "application/pdf", "%PDF-1.7"u8.ToArray(), null),
                letter,
                Cancel
            )
        );
        Yard.Must(await EditAsync(yard, "qualified", form, letter.Submission));
        Assert.Equal("On hold", (await yard.FindAsync("HM-0006")).UseOn(today, site).Reasons[0][..7]);
        Assert.DoesNotContain((await yard.FindAsync("HM-0006")).UseOn(today, site).Reasons, r =>
            r.StartsWith("It works", StringComparison.Ordinal)
        );

        form["hottest"] = "600 F";
        Assert.Contains(
            "anew when they change",
            (await EditAsync(yard, "stores", form)).Fault,
            StringComparison.Ordinal
        );
        form["peg"] = "D4";
        form["hottest"] = "450 F";
        Yard.Must(await EditAsync(yard, "stores", form));
    }

    [Fact]
    public async Task A_token_is_kept_as_a_hash_acts_for_its_maker_and_ends_when_revoked()
    {
        await using var yard = await Yard.OpenAsync();
        var tokens = new TokenStore(yard.Database);
        var token = TokenStore.Make();
        var stamp = yard.Stamp("admin");
        var today = DateOnly.FromDateTime(yard.Now.UtcDateTime);
        var ends = today.AddDays(30);
        var larger = await tokens.AddAsync("Sync", token, ends, Role.Admin, yard.Stamp("inspector"), Cancel);
        Assert.Equal(RefusalKind.Forbidden, larger.Refusal!.Kind);
        Yard.Must(await tokens.AddAsync("Register sync", token, ends, Role.Admin, stamp, Cancel));
        Assert.Equal(Seed.People["admin"], await tokens.FindAsync(token, ends, Cancel));
        Assert.Null(await tokens.FindAsync(token, ends.AddDays(1), Cancel));
        Assert.Null(await tokens.FindAsync(token + "x", today, Cancel));
        Assert.False((await tokens.RevokeAsync(stamp.Submission, yard.Stamp("inspector"), Cancel)).Ok);
        await using (var asked = yard.Database.Command("update site set second_factor = true"))
            await asked.ExecuteNonQueryAsync(Cancel);
        Assert.Null(await tokens.FindAsync(token, today, Cancel));
        await using (var asked = yard.Database.Command("update site set second_factor = false"))
            await asked.ExecuteNonQueryAsync(Cancel);
        await using var kept = yard.Database.Command(
            "select count(*) from api_token where position($1 in encode(hash, 'escape')) > 0"
        );
        kept.Parameters.Add(new() { Value = token });
        Assert.Equal(0L, await kept.ExecuteScalarAsync(Cancel));
        Yard.Must(await tokens.RevokeAsync(stamp.Submission, yard.Stamp("admin"), Cancel));
        Assert.Null(await tokens.FindAsync(token, today, Cancel));
        Assert.False((await tokens.RevokeAsync(stamp.Submission, yard.Stamp("admin"), Cancel)).Ok);
        Assert.NotNull(Assert.Single(await tokens.ListAsync(null, Cancel)).RevokedAt);
    }

    private static async Task<Checked<Recorded>> EditAsync(
        Yard yard,
        string who,
        Dictionary<string, string> form,
        Guid? paper = null
    )
    {
        var piece = await yard.FindAsync(form["mark"]);
        return await yard.Pieces.EditAsync(
            piece.Id,
            piece.Version,
            Core.Register.PieceEntryReader.Read(form).Entry!,
            new("Read again", paper),
            yard.Stamp(who),
            Cancel
        );
    }

    private static Task<Checked<Recorded>> LimitAsync(
        Yard yard,
        string who,
        LimitOwner owner,
        string criterion,
        string figure,
        string maker = "",
        string model = "",
        int? stops = null
    ) =>
        new SettingsStore(yard.Database).SetLimitAsync(
            new(owner, maker, model, criterion, figure, "Service sheet") { Stops = stops },
            yard.Stamp(who),
            Cancel
        );

    private static Task<Checked<Recorded>> ChangeAsync(
        Yard yard,
        string who,
        Site site,
        IReadOnlyList<RuleBook> books,
        string reason = "The office decided"
    ) =>
        new SettingsStore(yard.Database).ChangeSiteAsync(
            new(site.Version, books, site.Editions, site.WatchShare, site.Policies, reason),
            yard.Stamp(who),
            Cancel
        );
}
