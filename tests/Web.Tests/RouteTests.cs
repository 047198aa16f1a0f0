using System.Net;
using Keralith.Core.People;
using Keralith.Testing;
using Microsoft.AspNetCore.Http;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Microsoft.AspNetCore.Mvc.RazorPages.Infrastructure;
using Microsoft.AspNetCore.Routing;
using Microsoft.Extensions.DependencyInjection;
using Xunit;

namespace Keralith.Web.Tests;

/// <summary>Who may open what: one table, every route, every role and nobody.</summary>
public class RouteTests
{
    private const string Anyone = "*";

    /// <summary>Signed in by a token, never by a browser; only sent to.</summary>
    private const string Programs = "programs";

    /// <summary>The same, read and changed.</summary>
    private const string ProgramsRead = "programs read";

    /// <summary>The same, only read.</summary>
    private const string ProgramsAsk = "programs ask";

    private static readonly Dictionary<string, string> WhoMayOpen = new()
    {
        ["/sign-in"] = Anyone,
        ["/set-up"] = Anyone,
        ["/sign-in/directory"] = Anyone,
        ["/password"] = Anyone,
        ["/begin"] = "admin",
        ["/account/factor"] = "crew stores trainee inspector qualified admin auditor",
        ["/settings/person/{username}"] = "admin",
        ["/settings/stores"] = "admin",
        ["/settings/running"] = "admin",
        ["/error"] = Anyone,
        ["/health/live"] = Anyone,
        ["/health/ready"] = Anyone,
        ["/"] = "crew stores trainee inspector qualified admin auditor",
        ["/account"] = "crew stores trainee inspector qualified admin auditor",
        ["/scan"] = "crew stores trainee inspector qualified admin auditor",
        ["/register"] = "crew stores trainee inspector qualified admin auditor",
        ["/due"] = "crew stores trainee inspector qualified admin auditor",
        ["/season"] = "crew stores trainee inspector qualified admin auditor",
        ["/season/poster.{extension:regex(^(pdf|svg)$)}"] = "crew stores trainee inspector qualified admin auditor",
        ["/event"] = "crew stores trainee inspector qualified admin",
        ["/due/outbox"] = "crew stores trainee inspector qualified admin auditor",
        ["/due/outbox/{name}.eml"] = "crew stores trainee inspector qualified admin auditor",
        ["/due/hoists"] = "crew stores trainee inspector qualified admin auditor",
        ["/due/{token:regex(^[0-9a-f]{{48}}$)}.ics"] = Anyone,
        ["/cage"] = "crew stores trainee inspector qualified admin auditor",
        ["/recall"] = "crew stores trainee inspector qualified admin auditor",
        ["/recall/{id:guid}"] = "crew stores trainee inspector qualified admin auditor",
        ["/retired"] = "crew stores trainee inspector qualified admin auditor",
        ["/piece/{mark}/incident.pdf"] = "crew stores trainee inspector qualified admin auditor",
        ["/piece/{mark}/records"] = "crew stores trainee inspector qualified admin auditor",
        ["/piece/{mark}/look-back"] = "crew stores trainee inspector qualified admin auditor",
        ["/rules"] = "crew stores trainee inspector qualified admin auditor",
        ["/piece/{mark}"] = "crew stores trainee inspector qualified admin auditor",
        ["/cage/{mark}"] = "crew stores trainee inspector qualified admin auditor",
        ["/inspection/{id:guid}"] = "crew stores trainee inspector qualified admin auditor",
        ["/ledger/pack"] = "inspector qualified admin auditor",
        ["/ledger/pack.zip"] = "inspector qualified admin auditor",
        ["/teaches"] = "inspector qualified admin auditor",
        ["/teaches/records"] = "inspector qualified admin auditor",
        ["/teaches/prices"] = "inspector qualified admin auditor",
        ["/heads"] = Anyone,
        ["/inspection/{id:guid}/certificate.json"] = "crew stores trainee inspector qualified admin auditor",
        ["/inspection/{id:guid}/certificate.pdf"] = "crew stores trainee inspector qualified admin auditor",
        ["/piece/{mark}/hold"] = "crew stores trainee inspector qualified admin",
        ["/piece/{mark}/check"] = "crew stores inspector qualified",
        ["/register/new"] = "stores inspector qualified admin",
        ["/piece/{mark}/edit"] = "stores inspector qualified admin",
        ["/piece/{mark}/yard"] = "crew stores trainee inspector qualified admin",
        ["/piece/{mark}/files"] = "crew stores trainee inspector qualified admin auditor",
        ["/register/look"] = "crew stores trainee inspector qualified admin auditor",
        ["/register/import"] = "stores inspector qualified admin",
        ["/register/import/{id:guid}"] = "stores inspector qualified admin",
        ["/register/import/{id:guid}/errors.csv"] = "stores inspector qualified admin",
        ["/register/move"] = "crew stores inspector qualified admin",
        ["/round"] = "crew stores trainee inspector qualified admin auditor",
        ["/round/{id:guid}"] = "crew stores trainee inspector qualified admin auditor",
        ["/register/take-over"] = "stores inspector qualified admin",
        ["/register/export.csv"] = "crew stores trainee inspector qualified admin auditor",
        ["/register/export.xlsx"] = "crew stores trainee inspector qualified admin auditor",
        ["/register/export.pdf"] = "crew stores trainee inspector qualified admin auditor",
        ["/file/{id:guid}"] = "crew stores trainee inspector qualified admin auditor",
        ["/file/{id:guid}/small"] = "crew stores trainee inspector qualified admin auditor",
        ["/labels/{kind:regex(^sheet\\.(pdf|svg)$)?}"] = "crew stores trainee inspector qualified admin auditor",
        ["/labels/printer"] = "crew stores trainee inspector qualified admin auditor",
        ["/labels/printer/{name}.{extension}"] = "crew stores trainee inspector qualified admin auditor",
        ["/desk"] = "crew stores trainee inspector qualified admin auditor",
        ["/drafts"] = "trainee inspector qualified",
        ["/inspect/{id:guid}"] = "trainee inspector qualified",
        ["/inspect/{id:guid}/sign"] = "trainee inspector qualified",
        ["/ledger"] = "inspector qualified admin auditor",
        ["/rules/sheet"] = "crew stores trainee inspector qualified admin auditor",
        ["/settings"] = "inspector qualified admin auditor",
        ["/settings/questions"] = "inspector qualified admin auditor",
        ["/settings/proof-tests"] = "inspector qualified admin auditor",
        ["/settings/again"] = "inspector qualified admin auditor",
        ["/settings/tokens"] = "crew stores trainee inspector qualified admin auditor",
        ["/settings/people"] = "inspector qualified admin auditor",
        ["/instruments"] = "trainee inspector qualified",
        ["/lift"] = "crew stores trainee inspector qualified admin auditor",
        ["/lift/{id:guid}"] = "crew stores trainee inspector qualified admin auditor",
        ["/lift/{id:guid}/gear"] = "crew stores trainee inspector qualified admin auditor",
        ["/lift/{id:guid}/ready"] = "crew stores trainee inspector qualified admin auditor",
        ["/lift/{id:guid}/plan"] = "crew stores trainee inspector qualified admin auditor",
        ["/lift/{id:guid}/document.json"] = "crew stores trainee inspector qualified admin auditor",
        ["/lift/kinds"] = "crew stores trainee inspector qualified admin auditor",
        ["/lift/cell"] = "crew stores trainee inspector qualified admin auditor",
        ["/api/{documentName}/openapi.json"] = Anyone,
        ["/api/v1/criteria"] = ProgramsAsk,
        ["/api/v1/judge"] = Programs,
        ["/api/v1/lift"] = Programs,
        ["/api/v1/pieces"] = Programs,
        ["/api/v1/pieces/{mark}"] = ProgramsRead,
    };

    /// <summary>What a person may press, beyond opening the page: the handler and who it is not refused to.</summary>
    /// <summary>One's own affairs, and what changes nothing of the works.</summary>
    private const string Everybody = "crew stores trainee inspector qualified admin auditor";

    /// <summary>What is sent by whom, handler by handler: one without a row fails.</summary>
    private static readonly Dictionary<string, string> WhoMayPress = new()
    {
        ["/account/factor"] = Everybody,
        ["/account/factor?handler=Off"] = Everybody,
        ["/account"] = Everybody,
        ["/account?handler=Password"] = Everybody,
        ["/account?handler=End"] = Everybody,
        ["/account?handler=Mails"] = Everybody,
        ["/account?handler=Explain"] = Everybody,
        ["/account?handler=Steps"] = Everybody,
        ["/account?handler=Unit"] = Everybody,
        ["/event"] = "crew stores trainee inspector qualified admin",
        ["/cage/{mark}?handler=Release"] = "inspector qualified admin",
        ["/cage/{mark}?handler=Retag"] = "qualified",
        ["/cage/{mark}?handler=Send"] = "stores inspector qualified",
        ["/cage/{mark}?handler=Back"] = "stores inspector qualified",
        ["/cage/{mark}?handler=Proof"] = "inspector qualified",
        ["/cage/{mark}?handler=Condemn"] = "qualified",
        ["/cage/{mark}?handler=Destroy"] = "stores qualified admin",
        ["/desk"] = "stores inspector qualified",
        ["/desk?handler=Return"] = "stores inspector qualified",
        ["/desk?handler=Over"] = "crew stores inspector qualified",
        ["/due?handler=Feed"] = Everybody,
        ["/due?handler=Send"] = "inspector qualified admin",
        ["/due/outbox"] = "inspector qualified admin",
        ["/heads?handler=Sign"] = "admin",
        ["/inspect/{id:guid}?handler=New"] = "trainee inspector qualified",
        ["/inspect/{id:guid}?handler=Answer"] = "trainee inspector qualified",
        ["/inspect/{id:guid}?handler=Part"] = "trainee inspector qualified",
        ["/inspect/{id:guid}?handler=Photo"] = "trainee inspector qualified",
        ["/inspect/{id:guid}/sign"] = "inspector qualified",
        ["/inspect/{id:guid}/sign?handler=Offer"] = "trainee inspector qualified",
        ["/inspect/{id:guid}/sign?handler=HandBack"] = "inspector qualified",
        ["/inspect/{id:guid}/sign?handler=Discard"] = "trainee inspector qualified",
        ["/inspection/{id:guid}?handler=Correct"] = "trainee inspector qualified",
        ["/inspection/{id:guid}?handler=Withdraw"] = "trainee inspector qualified",
        ["/labels/{kind:regex(^sheet\\.(pdf|svg)$)?}"] = Everybody,
        ["/ledger"] = "inspector qualified admin auditor",
        ["/lift/{id:guid}?handler=Centre"] = "crew stores inspector qualified admin",
        ["/lift/{id:guid}?handler=Work"] = "crew stores inspector qualified admin",
        ["/lift/{id:guid}?handler=Save"] = "crew stores inspector qualified admin",
        ["/lift/{id:guid}?handler=Add"] = "crew stores inspector qualified admin",
        ["/lift/{id:guid}?handler=Off"] = "crew stores inspector qualified admin",
        ["/lift/{id:guid}?handler=Weigh"] = "crew stores inspector qualified admin",
        ["/lift/{id:guid}?handler=Record"] = "crew stores inspector qualified admin",
        ["/lift/{id:guid}?handler=Aside"] = "qualified",
        ["/lift/{id:guid}?handler=Chart"] = "crew stores inspector qualified admin",
        ["/lift/{id:guid}?handler=Figure"] = "crew stores inspector qualified admin",
        ["/lift/{id:guid}?handler=Template"] = "crew stores inspector qualified admin",
        ["/lift/cell"] = "crew stores inspector qualified admin",
        ["/lift/{id:guid}/gear"] = "crew stores inspector qualified admin",
        ["/lift?handler=Begin"] = "crew stores inspector qualified admin",
        ["/lift?handler=Seen"] = Everybody,
        ["/lift/{id:guid}/ready?handler=Check"] = "crew stores inspector qualified admin",
        ["/lift/{id:guid}/ready?handler=Sign"] = "qualified",
        ["/lift/{id:guid}/ready?handler=Issue"] = "stores inspector qualified",
        ["/lift/{id:guid}/ready?handler=Trial"] = "crew stores inspector qualified admin",
        ["/lift/{id:guid}/ready?handler=End"] = "crew stores inspector qualified admin",
        ["/lift/{id:guid}/ready?handler=CallOff"] = "crew stores inspector qualified admin",
        ["/piece/{mark}/check"] = "crew stores inspector qualified",
        ["/piece/{mark}/files"] = "stores trainee inspector qualified admin",
        ["/piece/{mark}/hold"] = "crew stores trainee inspector qualified admin",
        ["/piece/{mark}?handler=Inspect"] = "trainee inspector qualified",
        ["/piece/{mark}/look-back"] = "inspector qualified",
        ["/piece/{mark}/look-back?handler=Lift"] = "qualified",
        ["/piece/{mark}/look-back?handler=Witness"] = "inspector qualified",
        ["/piece/{mark}/records"] = "crew stores trainee inspector qualified admin",
        ["/piece/{mark}/yard?handler=Move"] = "crew stores inspector qualified admin",
        ["/piece/{mark}/yard?handler=Issue"] = "stores inspector qualified",
        ["/piece/{mark}/yard?handler=Return"] = "stores inspector qualified",
        ["/piece/{mark}/yard?handler=Lost"] = "crew stores trainee inspector qualified admin",
        ["/piece/{mark}/yard?handler=Found"] = "crew stores trainee inspector qualified admin",
        ["/piece/{mark}/yard?handler=Code"] = "stores inspector qualified admin",
        ["/piece/{mark}/yard?handler=CodeOff"] = "stores inspector qualified admin",
        ["/piece/{mark}/yard?handler=Season"] = "inspector qualified",
        ["/piece/{mark}/yard?handler=Count"] = "stores inspector qualified admin",
        ["/piece/{mark}/yard?handler=Split"] = "stores inspector qualified admin",
        ["/piece/{mark}/yard?handler=Part"] = "qualified",
        ["/recall"] = "qualified admin",
        ["/recall/{id:guid}"] = "qualified admin",
        ["/recall/{id:guid}?handler=Missed"] = "qualified admin",
        ["/piece/{mark}/edit?handler=Ask"] = "stores inspector qualified admin",
        ["/piece/{mark}/edit"] = "stores inspector qualified admin",
        ["/register/import"] = "stores inspector qualified admin",
        ["/register/import/{id:guid}?handler=Map"] = "stores inspector qualified admin",
        ["/register/import/{id:guid}?handler=Land"] = "stores inspector qualified admin",
        ["/register?handler=Columns"] = Everybody,
        ["/register?handler=Keep"] = Everybody,
        ["/register?handler=Drop"] = Everybody,
        ["/register/move"] = "crew stores inspector qualified admin",
        ["/register/new?handler=Ask"] = "stores inspector qualified admin",
        ["/register/new"] = "stores inspector qualified admin",
        ["/register/take-over?handler=File"] = "stores inspector qualified admin",
        ["/register/take-over?handler=Accept"] = "inspector qualified",
        ["/register/take-over?handler=Fill"] = "stores inspector qualified admin",
        ["/round"] = "crew stores inspector qualified admin",
        ["/round?handler=Search"] = "crew stores inspector qualified admin",
        ["/round/{id:guid}"] = "crew stores inspector qualified admin",
        ["/round/{id:guid}?handler=Close"] = "crew stores inspector qualified admin",
        ["/season?handler=Paint"] = "inspector qualified",
        ["/season?handler=Scheme"] = "qualified admin",
        ["/settings/again"] = "qualified",
        ["/settings?handler=Books"] = "admin",
        ["/settings?handler=Limit"] = "qualified",
        ["/settings?handler=Withdraw"] = "qualified",
        ["/instruments?handler=Take"] = "trainee inspector qualified",
        ["/instruments?handler=Enter"] = "inspector qualified",
        ["/settings/people"] = "admin",
        ["/settings/people?handler=Invite"] = "admin",
        ["/settings/people?handler=Factor"] = "admin",
        ["/settings/person/{username}"] = "admin",
        ["/settings/person/{username}?handler=Reset"] = "admin",
        ["/settings/person/{username}?handler=End"] = "admin",
        ["/settings/person/{username}?handler=Factor"] = "admin",
        ["/settings/person/{username}?handler=Disable"] = "admin",
        ["/settings/person/{username}?handler=Enable"] = "admin",
        ["/settings/proof-tests"] = "qualified",
        ["/settings/proof-tests?handler=Withdraw"] = "qualified",
        ["/settings/questions"] = "qualified",
        ["/settings/questions?handler=Withdraw"] = "qualified",
        ["/settings/running"] = "admin",
        ["/settings/stores"] = "admin",
        ["/settings/stores?handler=Site"] = "admin",
        ["/settings/stores?handler=Name"] = "admin",
        ["/settings/stores?handler=Close"] = "admin",
        ["/settings/stores?handler=Shift"] = "admin",
        ["/settings/tokens?handler=Make"] = Everybody,
        ["/settings/tokens?handler=Revoke"] = Everybody,
        ["/teaches/prices"] = "inspector qualified admin",
    };

    /// <summary>What is sent before anybody is signed in, or shows what was sent.</summary>
    private static readonly string[] WithoutSignIn =
    [
        "/error",
        "/heads",
        "/password",
        "/set-up",
        "/sign-in",
        "/sign-in?handler=Code",
    ];

    [Fact]
    public async Task Every_press_has_a_row()
    {
        await using var yard = await WebYard.OpenAsync();
        var services = yard.App.Services;
        var loader = services.GetRequiredService<PageLoader>();
        var presses = new HashSet<string>();
        foreach (var endpoint in services.GetRequiredService<EndpointDataSource>().Endpoints.OfType<RouteEndpoint>())
        {
            if (endpoint.Metadata.GetMetadata<PageActionDescriptor>() is not { } page)
                continue;
            var route = "/" + endpoint.RoutePattern.RawText!.Trim('/');
            foreach (var handler in (await loader.LoadAsync(page, EndpointMetadataCollection.Empty)).HandlerMethods)
            {
                if (HttpMethods.IsPost(handler.HttpMethod))
                    presses.Add(handler.Name is null ? route : $"{route}?handler={handler.Name}");
            }
        }

        Assert.Equal(
            WhoMayPress.Keys.Concat(WithoutSignIn).Order(StringComparer.Ordinal),
            presses.Order(StringComparer.Ordinal)
        );
    }

    [Fact]
    public async Task Every_route_is_open_to_those_in_the_table_and_to_nobody_else()
    {
        await using var yard = await WebYard.OpenAsync();
        var routes = yard
            .App.Services.GetRequiredService<EndpointDataSource>()
            .Endpoints.OfType<RouteEndpoint>()
            .Select(e => "/" + e.RoutePattern.RawText!.Trim('/'))
            .Distinct()
            .ToList();
        Assert.Equal(WhoMayOpen.Keys.Order(), routes.Order());

        await yard.RegisterAsync(Seed.Sling("HM-0001"));
        var visitors = new Dictionary<string, Visitor>();
        foreach (var role in Enum.GetValues<Role>().Select(Code.Of))
            visitors[role] = await yard.SignedInAsync(role);
        foreach (var (route, who) in WhoMayOpen)
        {
            var path = route
                .Replace("{mark}", "HM-0001", StringComparison.Ordinal)
                .Replace("{id:guid}", Guid.NewGuid().ToString(), StringComparison.Ordinal)
                .Replace("{username}", "crew", StringComparison.Ordinal)
                .Replace("{documentName}", "v1", StringComparison.Ordinal)
                .Replace("{kind:regex(^sheet\\.(pdf|svg)$)?}", "sheet.svg", StringComparison.Ordinal)
                .Replace("{name}.{extension}", "nothing.pdf", StringComparison.Ordinal)
                .Replace("{name}", "nothing", StringComparison.Ordinal)
                .Replace("{token:regex(^[0-9a-f]{{48}}$)}", new string('a', 48), StringComparison.Ordinal)
                .Replace("{extension:regex(^(pdf|svg)$)}", "svg", StringComparison.Ordinal);
            if (who is Programs or ProgramsRead or ProgramsAsk)
            {
                foreach (var visitor in visitors.Values.Append(yard.Visitor()))
                {
                    HttpMethod[] methods = who switch
                    {
                        Programs => [HttpMethod.Post],
                        ProgramsAsk => [HttpMethod.Get],
                        _ => [HttpMethod.Get, HttpMethod.Put],
                    };
                    foreach (var method in methods)
                        Assert.Equal(
                            HttpStatusCode.Unauthorized,
                            (await visitor.SendAsync(new(method, path))).StatusCode
                        );
                }

                continue;
            }

            var nobody = await yard.Visitor().GetAsync(path);
            if (who == Anyone)
                Assert.NotEqual(HttpStatusCode.Redirect, nobody.StatusCode);
            else
                Assert.StartsWith("/sign-in", nobody.Headers.Location!.PathAndQuery, StringComparison.Ordinal);
            foreach (var (role, visitor) in visitors)
            {
                var response = await visitor.GetAsync(path);
                var may = who == Anyone || who.Split(' ').Contains(role);
                Assert.True(
                    response.StatusCode == HttpStatusCode.Forbidden != may,
                    $"{role} at {path}: {response.StatusCode}"
                );
                Assert.True((int)response.StatusCode < 500, $"{role} at {path}: {response.StatusCode}");
            }
        }
    }

    [Fact]
    public async Task Every_press_is_refused_to_those_who_may_not()
    {
        await using var yard = await WebYard.OpenAsync();
        await yard.RegisterAsync(Seed.Sling("HM-0001"));
        foreach (var role in Enum.GetValues<Role>().Select(Code.Of))
        {
            var visitor = await yard.SignedInAsync(role);
            foreach (
                var (route, who) in WhoMayPress.Where(p => !p.Key.StartsWith("/account", StringComparison.Ordinal))
            )
            {
                // Who may not is told so, and not what is wrong with the form or was changed meanwhile.
                var may = who.Split(' ').Contains(role);
                var form = new Dictionary<string, string> { ["reason"] = "" };
                if (!may)
                    (form["note"], form["version"]) = ("\u0007", "none");
                var path = route
                    .Replace("{mark}", "HM-0001", StringComparison.Ordinal)
                    .Replace("{username}", "nobody-here", StringComparison.Ordinal)
                    .Replace("{id:guid}", Guid.NewGuid().ToString(), StringComparison.Ordinal)
                    .Replace("/{kind:regex(^sheet\\.(pdf|svg)$)?}", "", StringComparison.Ordinal);
                var response = await visitor.PostAsync(path, form, "/account");
                Assert.True(
                    response.StatusCode == HttpStatusCode.Forbidden != may,
                    $"{role} at {path}: {response.StatusCode}"
                );
                Assert.True((int)response.StatusCode < 500, $"{role} at {path}: {response.StatusCode}");
            }
        }
    }

    [Fact]
    public async Task A_form_without_its_token_is_refused()
    {
        await using var yard = await WebYard.OpenAsync();
        await yard.RegisterAsync(Seed.Sling("HM-0001"));
        var crew = await yard.SignedInAsync("crew");
        var response = await crew.SendAsync(
            new(HttpMethod.Post, "/piece/HM-0001/hold") { Content = new FormUrlEncodedContent([new("reason", "bent")]) }
        );
        Assert.Equal(HttpStatusCode.BadRequest, response.StatusCode);
    }

    [Fact]
    public async Task Every_answer_carries_the_headers_that_keep_foreign_script_out()
    {
        await using var yard = await WebYard.OpenAsync();
        foreach (var path in new[] { "/sign-in", "/nowhere", "/assets/app.css" })
        {
            var response = await yard.Visitor().GetAsync(path);
            var policy = response.Headers.GetValues("Content-Security-Policy").Single();
            Assert.Contains("default-src 'none'", policy, StringComparison.Ordinal);
            Assert.DoesNotContain("unsafe", policy, StringComparison.Ordinal);
            Assert.Equal("nosniff", response.Headers.GetValues("X-Content-Type-Options").Single());
            Assert.False(response.Headers.Contains("Server"));
        }
    }

    [Fact]
    public async Task Six_wrong_passwords_lock_a_sign_in_and_say_no_more_than_a_wrong_name_does()
    {
        await using var yard = await WebYard.OpenAsync();
        var visitor = yard.Visitor();
        var wrongName = await (
            await visitor.PostAsync("/sign-in", new() { ["username"] = "nobody-here", ["password"] = "x" })
        ).Content.ReadAsStringAsync(TestContext.Current.CancellationToken);
        for (var i = 0; i < 6; i++)
            await visitor.PostAsync("/sign-in", new() { ["username"] = "inspector", ["password"] = "wrong" });
        var locked = await visitor.PostAsync(
            "/sign-in",
            new() { ["username"] = "inspector", ["password"] = WebYard.Password }
        );
        Assert.Equal(HttpStatusCode.UnprocessableEntity, locked.StatusCode);
        Assert.Contains("do not match", wrongName, StringComparison.Ordinal);
        Assert.Contains(
            "do not match",
            await locked.Content.ReadAsStringAsync(TestContext.Current.CancellationToken),
            StringComparison.Ordinal
        );
        Assert.Equal(
            HttpStatusCode.Redirect,
            (
                await visitor.PostAsync(
                    "/sign-in",
                    new() { ["username"] = "qualified", ["password"] = WebYard.Password }
                )
            ).StatusCode
        );
    }

    [Fact]
    public async Task After_signing_in_nobody_is_led_off_the_site()
    {
        await using var yard = await WebYard.OpenAsync();
        var response = await yard.Visitor()
            .PostAsync(
                "/sign-in",
                new()
                {
                    ["username"] = "crew",
                    ["password"] = WebYard.Password,
                    ["next"] = "//elsewhere.invalid/",
                }
            );
        Assert.Equal("/", response.Headers.Location!.ToString());
    }
}
