using Keralith.Core.Judgement;
using Keralith.Core.People;
using Keralith.Core.Sites;
using Keralith.Testing;
using Xunit;

namespace Keralith.Data.Tests;

/// <summary>A page works by the sites as they are now, though they are read anew only where something changed.</summary>
public class KeptSitesTests
{
    private static readonly EnteredQuestion Label = new()
    {
        Family = "shackle",
        Part = "body",
        Kind = "see",
        AskedIn = "frequent",
        OnFault = "hold",
        Title = "Yard stamp",
        Question = "The yard's stamp can't be read.",
        Look = "On the bow.",
        Source = "Works policy 4",
        Reason = "Told from others' gear",
    };

    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    public static TheoryData<string> Changes => [.. Acts.Keys];

    /// <summary>Whatever makes the sites another, each after what it needs.</summary>
    private static readonly Dictionary<string, Func<Yard, Task<Checked<Recorded>>>[]> Acts = new()
    {
        ["a site's settings"] = [y => SettingsAsync(y, 0.6m)],
        ["a limit of the site"] = [y => LimitAsync(y, "4 %")],
        ["a limit withdrawn"] = [y => LimitAsync(y, "4 %"), y => LimitAsync(y, string.Empty)],
        ["a proof test asked"] = [y => ProofAsync(y, 12)],
        ["a proof test asked no more"] = [y => ProofAsync(y, 12), y => ProofAsync(y, null)],
        ["a question of the site"] = [AskAsync],
        ["a question withdrawn"] = [AskAsync, WithdrawAsync],
        ["another site"] = [NorthAsync],
        ["the name of who set a limit"] = [y => LimitAsync(y, "4 %"), RenameAsync],
    };

    private static Task<Checked<Recorded>> WithdrawAsync(Yard yard) =>
        new QuestionStore(yard.Database).WithdrawAsync(
            Site.First,
            "own.1",
            "Painted on now",
            yard.Stamp("qualified"),
            Cancel
        );

    private static Task<Checked<Recorded>> NorthAsync(Yard yard) =>
        new StoreKeeping(yard.Database).AddSiteAsync(
            StoreActs.ReadSite("North Quay", ["ontario"], "UTC").Value,
            yard.Stamp("admin"),
            Cancel
        );

    private static Task<Checked<Recorded>> RenameAsync(Yard yard) =>
        new AccountStore(yard.Database).ChangeAsync(
            "qualified",
            "Test renamed",
            Roles.Of([Role.Qualified]),
            string.Empty,
            yard.Stamp("admin"),
            Cancel
        );

    [Theory]
    [MemberData(nameof(Changes))]
    public async Task Whatever_changes_the_sites_is_seen_by_the_next_question_on_every_node(string what)
    {
        await using var yard = await Yard.OpenAsync();
        KeptSites here = new(yard.Database),
            there = new(yard.Database);
        var before = Told(await NowAsync(yard, here));
        Assert.Equal(before, Told(await NowAsync(yard, there)));
        foreach (var act in Acts[what])
        {
            Yard.Must(await act(yard));
            var fresh = Told((await yard.Sites.SitesAsync(Cancel))!);
            Assert.NotEqual(before, fresh);
            Assert.Equal(fresh, Told(await NowAsync(yard, here)));
            Assert.Equal(fresh, Told(await NowAsync(yard, there)));
            before = fresh;
        }
    }

    [Fact]
    public async Task Sites_are_not_read_anew_for_what_they_are_not_made_of()
    {
        await using var yard = await Yard.OpenAsync();
        var kept = new KeptSites(yard.Database);
        var first = await NowAsync(yard, kept);
        await yard.InServiceAsync(Seed.Sling("HM-0001"));
        Yard.Must(await yard.InspectAsync("HM-0001", InspectionKind.Periodic));
        Assert.Same(first, await NowAsync(yard, kept));
    }

    /// <summary>As a node meets it whose server failed over without the last act, or was restored under it.</summary>
    [Fact]
    public async Task A_limit_lost_with_its_server_and_another_set_since_is_not_taken_for_the_same()
    {
        await using var yard = await Yard.OpenAsync();
        var kept = new KeptSites(yard.Database);
        Yard.Must(await LimitAsync(yard, "4 %"));
        Assert.Equal("4 %", Assert.Single((await NowAsync(yard, kept)).Home.Limits).Figure);
        await yard.AsOwnerAsync("alter table own_limit disable trigger user; delete from own_limit");
        yard.Now = yard.Now.AddMinutes(1);
        Yard.Must(await LimitAsync(yard, "3 %"));
        Assert.Equal("3 %", Assert.Single((await NowAsync(yard, kept)).Home.Limits).Figure);
    }

    [Fact]
    public async Task What_changes_while_the_sites_are_read_is_seen_by_the_question_after()
    {
        await using var yard = await Yard.OpenAsync();
        var kept = new KeptSites(yard.Database);
        using var over = CancellationTokenSource.CreateLinkedTokenSource(Cancel);
        var readers = Enumerable
            .Range(0, 3)
            .Select(_ =>
                Task.Run(
                    async () =>
                    {
                        while (!over.IsCancellationRequested)
                            await NowAsync(yard, kept);
                    },
                    Cancel
                )
            )
            .ToList();
        for (var i = 1; i <= 25; i++)
        {
            Yard.Must(await SettingsAsync(yard, 0.5m + (i * 0.01m)));
            Assert.Equal(0.5m + (i * 0.01m), (await NowAsync(yard, kept)).Home.WatchShare);
        }

        await over.CancelAsync();
        await Task.WhenAll(readers);
        Assert.Equal(0.75m, (await NowAsync(yard, kept)).Home.WatchShare);
    }

    [Theory]
    [InlineData("own_limit")]
    [InlineData("proof_ask")]
    [InlineData("own_question")]
    [InlineData("question_withdrawal")]
    public async Task What_is_told_by_its_number_alone_is_only_ever_added_to(string table)
    {
        await using var yard = await Yard.OpenAsync();
        await using var guards = yard.Database.Command(
            $"select tgname::text from pg_trigger where tgrelid = '{table}'::regclass and tgenabled = 'O' and not tgisinternal"
        );
        var names = new List<string>();
        await using var reader = await guards.ExecuteReaderAsync(Cancel);
        while (await reader.ReadAsync(Cancel))
            names.Add(reader.GetString(0));
        Assert.Contains($"{table}_is_append_only", names);
        Assert.Contains($"{table}_is_never_emptied", names);
    }

    [Fact]
    public async Task A_person_is_told_how_many_drafts_they_began_or_went_on_with()
    {
        await using var yard = await Yard.OpenAsync();
        await yard.RegisterAsync(Seed.Sling("HM-0001"));
        await yard.RegisterAsync(Seed.Sling("HM-0002"));
        var first = await yard.FindAsync("HM-0001");
        Assert.True(
            (await yard.Inspections.OpenAsync(first, InspectionKind.Initial, yard.Stamp("inspector"), Cancel)).Ok
        );
        Assert.Equal(1, await DraftsAsync(yard, "inspector"));
        Assert.Equal(0, await DraftsAsync(yard, "qualified"));
        Assert.Equal(0, await DraftsAsync(yard, null));
        var second = await yard.FindAsync("HM-0002");
        Assert.True(
            (await yard.Inspections.OpenAsync(second, InspectionKind.Initial, yard.Stamp("inspector"), Cancel)).Ok
        );
        Assert.Equal(2, await DraftsAsync(yard, "inspector"));

        // Taken over by another it is open for both.
        await using (var on = yard.Database.Command("update draft set saved_by = $1 where piece_id = $2"))
        {
            on.Parameters.Add(new() { Value = Seed.People["qualified"].Id });
            on.Parameters.Add(new() { Value = second.Id });
            await on.ExecuteNonQueryAsync(Cancel);
        }

        Assert.Equal(2, await DraftsAsync(yard, "inspector"));
        Assert.Equal(1, await DraftsAsync(yard, "qualified"));
    }

    private static async Task<int> DraftsAsync(Yard yard, string? who) =>
        (await yard.Database.AskAsync(t => KeptSites.Ask(t, who is null ? null : Seed.People[who].Id), Cancel)).Drafts;

    /// <summary>The sites as a page has them.</summary>
    private static async Task<SiteSet> NowAsync(Yard yard, KeptSites kept) =>
        (
            await kept.OfAsync(
                (await yard.Database.AskAsync(t => KeptSites.Ask(t, null), CancellationToken.None)).SitesMadeOf,
                CancellationToken.None
            )
        )!;

    private static async Task<Checked<Recorded>> SettingsAsync(Yard yard, decimal share)
    {
        var site = (await yard.Sites.SitesAsync(Cancel))!.Home;
        return await new SettingsStore(yard.Database).ChangeSiteAsync(
            new(site.Version, site.Books, site.Editions, share, site.Policies, "Nearer to the limit"),
            yard.Stamp("admin"),
            Cancel
        );
    }

    private static Task<Checked<Recorded>> LimitAsync(Yard yard, string figure) =>
        new SettingsStore(yard.Database).SetLimitAsync(
            new(LimitOwner.Site, string.Empty, string.Empty, "hook.throat", figure, "Works policy 3"),
            yard.Stamp("qualified"),
            Cancel
        );

    private static Task<Checked<Recorded>> ProofAsync(Yard yard, int? months) =>
        new ProofAskStore(yard.Database).SetAsync(
            new(string.Empty, string.Empty, "shackle", months, "Works policy 7"),
            yard.Stamp("qualified"),
            Cancel
        );

    private static Task<Checked<Recorded>> AskAsync(Yard yard) =>
        new QuestionStore(yard.Database).SetAsync(Label, yard.Stamp("qualified"), Cancel);

    /// <summary>All that a page can see of the sites, in words.</summary>
    private static string Told(SiteSet sites) =>
        string.Join(
            '\n',
            sites.All.SelectMany(s =>
                (string[])
                    [
                        $"{s.Id} {s.Name} {s.Version} {s.WatchShare} {s.Zone.Id} {string.Join(',', s.Books.Select(b => b.Id))}",
                        .. s.Limits.Select(l => l.ToString()),
                        .. s.ProofAsks.Select(a => a.ToString()),
                        .. s.Questions.Select(q => q.ToString()),
                    ]
            )
        );
}
