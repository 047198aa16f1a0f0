using System.Net;
using Keralith.Core.People;
using Keralith.Data;
using Keralith.Testing;
using Keralith.Web.Security;
using Microsoft.AspNetCore.Builder;
using Microsoft.Extensions.DependencyInjection;
using Xunit;

namespace Keralith.Web.Tests;

/// <summary>Signing in by the works' own directory, against a stand-in: it says who somebody is and which roles they hold.</summary>
public class DirectoryTests
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    [Fact]
    public async Task Who_the_directory_signs_in_holds_the_roles_it_gives_and_has_no_other_way_in()
    {
        await using var works = await OpenAsync();
        works.Directory.Who = Somebody("stores", "inspector", "pilot");
        var bo = await works.SignInAsync("/register/new");
        Assert.Equal("/register/new", bo.Response.Headers.Location?.ToString());
        Assert.Equal(HttpStatusCode.OK, (await bo.Visitor.GetAsync("/register/new")).StatusCode);
        Assert.Equal(HttpStatusCode.OK, (await bo.Visitor.GetAsync("/drafts")).StatusCode);
        Assert.Equal(HttpStatusCode.Forbidden, (await bo.Visitor.GetAsync("/settings/stores")).StatusCode);

        // They choose a password to sign records with, and it opens no door.
        Dictionary<string, string> own = new()
        {
            ["password"] = "three wet ropes hang",
            ["again"] = "three wet ropes hang",
        };
        var chosen = await bo.Visitor.SubmitAsync("/account", "form[action*=Password]", own);
        Assert.Equal(HttpStatusCode.Redirect, chosen.StatusCode);
        var byPassword = await works
            .Visitor()
            .PostAsync("/sign-in", new() { ["username"] = "bo", ["password"] = own["password"] });
        Assert.Equal(HttpStatusCode.UnprocessableEntity, byPassword.StatusCode);
    }

    [Fact]
    public async Task Roles_follow_the_directory_with_the_next_sign_in_and_an_administrator_disables_whoever_it_knows()
    {
        await using var works = await OpenAsync();
        works.Directory.Who = Somebody("qualified");
        await works.SignInAsync();
        works.Directory.Who = Somebody("crew");
        var less = await works.SignInAsync();
        Assert.Equal(HttpStatusCode.Forbidden, (await less.Visitor.GetAsync("/register/new")).StatusCode);
        var accounts = works.App.Services.GetRequiredService<AccountStore>();
        var admin = new Stamp(Seed.People["admin"], DateTimeOffset.UtcNow, Guid.NewGuid());
        Assert.True((await accounts.DisableAsync("bo", admin, Cancel)).Ok);
        Assert.Equal(HttpStatusCode.Redirect, (await less.Visitor.GetAsync("/")).StatusCode);
        Assert.Contains(
            "directory=",
            (await works.SignInAsync()).Response.Headers.Location!.ToString(),
            StringComparison.Ordinal
        );
        Assert.Equal(
            ["person.invited", "person.changed", "person.disabled"],
            (await works.App.Services.GetRequiredService<LedgerStore>().NewestAsync("bo", null, 9, Cancel))
                .Select(e => e.Kind)
                .Reverse()
        );
        Assert.Empty(
            await works.App.Services.GetRequiredService<VerifyStore>().RunAsync(DateTimeOffset.UtcNow, Cancel)
        );
    }

    [Theory]
    [InlineData("no role", "directory=roles", "no role of this works")]
    [InlineData("a name that is taken", "directory=name", "belongs to somebody here")]
    [InlineData("a name that is none", "directory=failed", "did not sign you in")]
    [InlineData("a forged signature", "directory=failed", "did not sign you in")]
    public async Task Who_the_directory_does_not_vouch_for_is_refused_with_words(
        string what,
        string where,
        string words
    )
    {
        await using var works = await OpenAsync();
        works.Directory.Who = what == "no role" ? Somebody("pilot") : Somebody("admin");
        works.Directory.IsForged = what == "a forged signature";
        if (what == "a name that is taken")
            works.Directory.Who["preferred_username"] = "admin";
        if (what == "a name that is none")
            works.Directory.Who["preferred_username"] = "<script>";
        var refused = await works.SignInAsync();
        var to = refused.Response.Headers.Location!.ToString();
        Assert.Contains(where, to, StringComparison.Ordinal);
        var page = await (await refused.Visitor.GetAsync(to)).Content.ReadAsStringAsync(Cancel);
        Assert.Contains(words, page, StringComparison.Ordinal);
        Assert.Equal(HttpStatusCode.Redirect, (await refused.Visitor.GetAsync("/register")).StatusCode);
    }

    [Fact]
    public async Task Nobody_is_led_off_the_site_by_the_directory_and_an_answer_nobody_asked_for_signs_nobody_in()
    {
        await using var works = await OpenAsync();
        works.Directory.Who = Somebody("crew");
        foreach (var next in new[] { "//elsewhere.invalid/", "https://elsewhere.invalid/", "/\\elsewhere.invalid" })
            Assert.Equal("/", (await works.SignInAsync(next)).Response.Headers.Location?.ToString());
        var unasked = await works.Visitor().GetAsync("/sign-in/directory/back?code=made-up&state=made-up");
        Assert.Contains("directory=failed", unasked.Headers.Location!.ToString(), StringComparison.Ordinal);
    }

    [Fact]
    public void A_directory_is_named_whole_or_not_at_all()
    {
        Assert.Null(DirectoryServer.Read(_ => null));
        Assert.Throws<FormatException>(() =>
            DirectoryServer.Read(n =>
                n.EndsWith("AUTHORITY", StringComparison.Ordinal) ? "https://id.works.example" : null
            )
        );
        Assert.Throws<FormatException>(() =>
            DirectoryServer.Read(n =>
                n.EndsWith("AUTHORITY", StringComparison.Ordinal) ? "http://id.works.example" : "x"
            )
        );
        Assert.Equal(
            "roles",
            DirectoryServer
                .Read(n =>
                    n.EndsWith("AUTHORITY", StringComparison.Ordinal) ? "https://id.works.example"
                    : n.EndsWith("ROLES", StringComparison.Ordinal) ? null
                    : "x"
                )!
                .RolesClaim
        );
    }

    [Fact]
    public void The_last_administrator_stays_one_whatever_the_directory_says()
    {
        var last = new PersonStanding("bo", Role.Admin, false, 0);
        Assert.Equal(Roles.Of([Role.Crew, Role.Admin]), Accounts.RolesByDirectory(last, Role.Crew));
        Assert.Equal((Roles)Role.Crew, Accounts.RolesByDirectory(last with { OtherAdministrators = 1 }, Role.Crew));
    }

    private static Dictionary<string, object> Somebody(params string[] roles) =>
        new()
        {
            ["sub"] = "7f3a",
            ["preferred_username"] = "bo",
            ["name"] = "Bo Reed",
            ["email"] = "bo@works.example",
            ["roles"] = roles,
        };

    private static async Task<Works> OpenAsync()
    {
        var directory = await DirectoryStandIn.StartAsync();
        var served = Served.Read(n =>
            n switch
            {
                "KERALITH_OIDC_AUTHORITY" => directory.Address,
                "KERALITH_OIDC_CLIENT" => DirectoryStandIn.Client,
                "KERALITH_OIDC_SECRET" => DirectoryStandIn.Secret,
                _ => null,
            }
        );
        var app = WebHost.Build(
            [],
            await TestDatabases.CreateAsync(),
            "http://127.0.0.1:0",
            quiet: true,
            served: served
        );
        await app.StartAsync(Cancel);
        return new(app, directory);
    }

    private sealed record Works(WebApplication App, DirectoryStandIn Directory) : IAsyncDisposable
    {
        public Visitor Visitor() => new(new(App.Urls.First()));

        /// <summary>Goes to the directory and back, as a browser does.</summary>
        public async Task<(Visitor Visitor, HttpResponseMessage Response)> SignInAsync(string next = "/")
        {
            var visitor = Visitor();
            var there = await visitor.GetAsync($"/sign-in/directory?next={Uri.EscapeDataString(next)}");
            Assert.StartsWith(Directory.Address, there.Headers.Location!.ToString(), StringComparison.Ordinal);
            using var outside = new HttpClient(new HttpClientHandler { AllowAutoRedirect = false });
            var back = await outside.GetAsync(there.Headers.Location, Cancel);
            return (visitor, await visitor.GetAsync(back.Headers.Location!.PathAndQuery));
        }

        public async ValueTask DisposeAsync()
        {
            await App.DisposeAsync();
            await Directory.DisposeAsync();
        }
    }
}
