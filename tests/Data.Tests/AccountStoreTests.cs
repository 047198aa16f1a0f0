using Keralith.Core.People;
using Keralith.Core.Sites;
using Keralith.Testing;
using Xunit;

namespace Keralith.Data.Tests;

/// <summary>People who come, change and go, through the store: what is decided holds there, and stands in the ledger.</summary>
public class AccountStoreTests
{
    private static readonly NewPerson Bo = Accounts.Read("bo", "Bo Reed", ["stores", "inspector"], "").Value;

    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    [Fact]
    public async Task Somebody_invited_signs_in_once_they_chose_a_password_and_their_address_works_once()
    {
        await using var yard = await Yard.OpenAsync();
        var accounts = new AccountStore(yard.Database);
        var secret = AccountStore.NewSecret();
        Yard.Must(await accounts.InviteAsync(Bo, secret, yard.Stamp("admin"), Cancel));
        var people = new PeopleStore(yard.Database);
        Assert.Null(await people.FindAsync("bo", Cancel));
        Assert.True((await accounts.FindAsync("bo", yard.Now, Cancel))!.IsInvited);
        Assert.False((await accounts.ChooseAsync("another", "hash", yard.Now, Cancel)).Ok);
        Assert.True((await accounts.ChooseAsync(secret, "hash", yard.Now, Cancel)).Ok);
        Assert.Equal(Bo.Roles, (await people.FindAsync("bo", Cancel))!.Actor.Roles);
        Assert.False((await accounts.ChooseAsync(secret, "another hash", yard.Now, Cancel)).Ok);
        Assert.Equal(
            ["person.invited", "person.password-chosen"],
            (await yard.Ledger.NewestAsync("bo", null, 9, Cancel)).Select(e => e.Kind).Reverse()
        );
    }

    [Fact]
    public async Task An_address_ends_with_the_next_one_and_with_its_time()
    {
        await using var yard = await Yard.OpenAsync();
        var accounts = new AccountStore(yard.Database);
        var (first, second) = (AccountStore.NewSecret(), AccountStore.NewSecret());
        Yard.Must(await accounts.InviteAsync(Bo, first, yard.Stamp("admin"), Cancel));
        Yard.Must(await accounts.ResetAsync("bo", second, yard.Stamp("admin"), Cancel));
        Assert.False((await accounts.OfLinkAsync(first, yard.Now, Cancel)).Ok);
        Assert.Equal(LinkPurpose.Invitation, (await accounts.OfLinkAsync(second, yard.Now, Cancel)).Value.Purpose);
        Assert.False((await accounts.OfLinkAsync(second, yard.Now + Accounts.InvitationLasts, Cancel)).Ok);
        Yard.Must(await accounts.DisableAsync("bo", yard.Stamp("admin"), Cancel));
        Assert.False((await accounts.OfLinkAsync(second, yard.Now, Cancel)).Ok);
    }

    [Fact]
    public async Task Two_who_choose_by_one_address_at_once_are_one()
    {
        await using var yard = await Yard.OpenAsync();
        var accounts = new AccountStore(yard.Database);
        var secret = AccountStore.NewSecret();
        Yard.Must(await accounts.InviteAsync(Bo, secret, yard.Stamp("admin"), Cancel));
        var now = yard.Now;
        var chosen = await Task.WhenAll(
            Enumerable.Range(0, 8).Select(i => accounts.ChooseAsync(secret, $"hash {i}", now, Cancel))
        );
        Assert.Single(chosen, c => c.Ok);
    }

    [Fact]
    public async Task Of_two_administrators_who_disable_each_other_at_once_one_stays()
    {
        await using var yard = await Yard.OpenAsync();
        var accounts = new AccountStore(yard.Database);
        var admin = Seed.People["admin"];
        Yard.Must(
            await accounts.ChangeAsync(
                "qualified",
                "Test qualified",
                Roles.Of([Role.Qualified, Role.Admin]),
                "",
                yard.Stamp("admin"),
                Cancel
            )
        );
        var other = Seed.People["qualified"] with { Roles = Roles.Of([Role.Qualified, Role.Admin]) };
        var both = await Task.WhenAll(
            accounts.DisableAsync("qualified", new(admin, yard.Now, Guid.NewGuid()), Cancel),
            accounts.DisableAsync("admin", new(other, yard.Now, Guid.NewGuid()), Cancel)
        );
        Assert.Single(both, d => d.Ok);
        var people = await new PeopleStore(yard.Database).AllAsync(Cancel);
        Assert.Single(people, p => p.Roles.Has(Role.Admin));
    }

    [Fact]
    public async Task A_sign_in_name_belongs_to_one_person_for_good_and_nobody_but_an_administrator_gives_it()
    {
        await using var yard = await Yard.OpenAsync();
        var accounts = new AccountStore(yard.Database);
        Assert.False((await accounts.InviteAsync(Bo, "s", yard.Stamp("qualified"), Cancel)).Ok);
        var now = yard.Now;
        var tries = await Task.WhenAll(
            Enumerable
                .Range(0, 6)
                .Select(i =>
                    accounts.InviteAsync(Bo, $"secret {i}", new(Seed.People["admin"], now, Guid.NewGuid()), Cancel)
                )
        );
        Assert.Single(tries, t => t.Ok);
        Yard.Must(await accounts.DisableAsync("bo", yard.Stamp("admin"), Cancel));
        Assert.False((await accounts.InviteAsync(Bo, "again", yard.Stamp("admin"), Cancel)).Ok);
    }

    [Fact]
    public async Task What_an_administrator_changes_ends_or_counts_on_the_next_request()
    {
        await using var yard = await Yard.OpenAsync();
        var (accounts, signIns) = (new AccountStore(yard.Database), new SignInStore(yard.Database));
        var crew = Seed.People["crew"];
        var here = await signIns.BeginAsync(crew.Id, "10.0.0.1", "A phone", yard.Now, Cancel);
        var there = await signIns.BeginAsync(crew.Id, "10.0.0.2", "", yard.Now, Cancel);
        Assert.Equal(2, (await signIns.OpenAsync(crew.Id, here, yard.Now, Cancel)).Count);
        Yard.Must(
            await accounts.ChangeAsync("crew", "C", Roles.Of([Role.Crew, Role.Stores]), "", yard.Stamp("admin"), Cancel)
        );
        Assert.True((await signIns.FindAsync(here, yard.Now, Cancel))!.Actor.Roles.May(Right.Issue));
        Yard.Must(await accounts.ChangeOwnAsync("new hash", here, new(crew, yard.Now, Guid.NewGuid()), Cancel));
        Assert.NotNull(await signIns.FindAsync(here, yard.Now, Cancel));
        Assert.Null(await signIns.FindAsync(there, yard.Now, Cancel));
        Yard.Must(await accounts.EndSignInsAsync("crew", yard.Stamp("admin"), Cancel));
        Assert.Null(await signIns.FindAsync(here, yard.Now, Cancel));
        var again = await signIns.BeginAsync(crew.Id, "10.0.0.1", "", yard.Now, Cancel);
        Yard.Must(await accounts.DisableAsync("crew", yard.Stamp("admin"), Cancel));
        Assert.Null(await signIns.FindAsync(again, yard.Now, Cancel));
        Yard.Must(await accounts.EnableAsync("crew", yard.Stamp("admin"), Cancel));
        Assert.Null(await signIns.FindAsync(again, yard.Now, Cancel));
    }

    [Fact]
    public async Task Nobody_ends_a_sign_in_of_somebody_else()
    {
        await using var yard = await Yard.OpenAsync();
        var signIns = new SignInStore(yard.Database);
        var secret = await signIns.BeginAsync(Seed.People["crew"].Id, "10.0.0.1", "", yard.Now, Cancel);
        var id = (await signIns.OpenAsync(Seed.People["crew"].Id, secret, yard.Now, Cancel))[0].Id;
        await signIns.EndOwnAsync(Seed.People["stores"].Id, id, Cancel);
        Assert.NotNull(await signIns.FindAsync(secret, yard.Now, Cancel));
        await signIns.EndOwnAsync(Seed.People["crew"].Id, id, Cancel);
        Assert.Null(await signIns.FindAsync(secret, yard.Now, Cancel));
    }

    [Fact]
    public async Task What_ended_long_ago_is_thrown_away_and_where_somebody_was_seen_is_kept()
    {
        await using var yard = await Yard.OpenAsync();
        var signIns = new SignInStore(yard.Database);
        var crew = Seed.People["crew"];
        foreach (var days in new[] { 90, 80, 40, 1 })
            await signIns.BeginAsync(crew.Id, days > 50 ? "10.0.0.9" : "10.0.0.1", "", yard.Now.AddDays(-days), Cancel);
        Assert.Equal(2, await signIns.ThinAsync(yard.Now, Cancel));
        Assert.True(await signIns.HasBeenAsync("crew", "10.0.0.9", Cancel));
        Assert.True(await signIns.HasBeenAsync("crew", "10.0.0.1", Cancel));
    }

    [Fact]
    public async Task A_code_of_the_second_factor_and_one_on_paper_count_once_each()
    {
        await using var yard = await Yard.OpenAsync();
        var factors = new FactorStore(yard.Database);
        var crew = Seed.People["crew"];
        Assert.Null(await factors.FindAsync(crew.Id, Cancel));
        Yard.Must(await factors.SetAsync([1, 2, 3], 100, ["paper-1", "paper-2"], yard.Stamp("crew"), Cancel));
        Assert.Equal(100, (await factors.FindAsync(crew.Id, Cancel))!.LastStep);
        Assert.False(await factors.TakeStepAsync(crew.Id, 100, Cancel));
        var takes = await Task.WhenAll(Enumerable.Range(0, 8).Select(_ => factors.TakeStepAsync(crew.Id, 101, Cancel)));
        Assert.Single(takes, t => t);
        Assert.True(await factors.TakeRecoveryAsync(crew.Id, "paper-1", yard.Now, Cancel));
        Assert.False(await factors.TakeRecoveryAsync(crew.Id, "paper-1", yard.Now, Cancel));
        Assert.False(await factors.TakeRecoveryAsync(Seed.People["stores"].Id, "paper-2", yard.Now, Cancel));
        Assert.Equal(1, await factors.RecoveryLeftAsync(crew.Id, Cancel));
        Yard.Must(await factors.SetAsync(null, null, [], yard.Stamp("crew"), Cancel));
        Assert.Null(await factors.FindAsync(crew.Id, Cancel));
        Assert.False(await factors.TakeRecoveryAsync(crew.Id, "paper-2", yard.Now, Cancel));
    }

    [Fact]
    public async Task A_works_is_set_up_once_though_two_set_it_up_at_once()
    {
        await using var database = new Database(await TestDatabases.CreateEmptyAsync());
        database.Migrate();
        var (setUp, now) = (new SetUpStore(database), new DateTimeOffset(2026, 3, 2, 9, 0, 0, TimeSpan.Zero));
        Assert.False(await setUp.IsDoneAsync(Cancel));
        var (late, first, second) = (
            (await setUp.LinkAsync(now.AddHours(-2), Cancel))!,
            (await setUp.LinkAsync(now, Cancel))!,
            (await setUp.LinkAsync(now, Cancel))!
        );
        NewWorks Works(string who) =>
            SetUp
                .Read("Test Works", "mm", "Yard", ["asme"], "Europe/Paris", Accounts.Read(who, who, ["admin"], ""))
                .Value;
        Assert.False((await setUp.SetUpAsync(Works("eve"), "hash", late, now, Cancel)).Ok);
        Assert.False((await setUp.SetUpAsync(Works("eve"), "hash", "made-up", now, Cancel)).Ok);
        var both = await Task.WhenAll(
            setUp.SetUpAsync(Works("ada"), "hash", first, now, Cancel),
            setUp.SetUpAsync(Works("bea"), "hash", second, now, Cancel)
        );
        Assert.Single(both, b => b.Ok);
        Assert.True(await setUp.IsDoneAsync(Cancel));
        Assert.Null(await setUp.LinkAsync(now, Cancel));
        Assert.False((await setUp.SetUpAsync(Works("eve"), "hash", second, now, Cancel)).Ok);
        var site = await new SiteStore(database).GetAsync(Cancel);
        Assert.Equal(("Test Works", "mm", "Europe/Paris"), (site.Name, site.Unit, site.Zone.Id));
        Assert.Single(await new PeopleStore(database).AllAsync(Cancel));
        Assert.Empty(await new VerifyStore(database).RunAsync(now, Cancel));
    }
}
