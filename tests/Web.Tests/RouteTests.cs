using System.Net;
using Keralith.Core.People;
using Keralith.Testing;
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
    private static readonly Dictionary<string, string> WhoMayPress = new()
    {
        ["/piece/HM-0001?handler=Inspect"] = "trainee inspector qualified",
        ["/piece/HM-0001/hold"] = "crew stores trainee inspector qualified admin",
        ["/piece/HM-0001/check"] = "crew stores inspector qualified",
        ["/register/new"] = "stores inspector qualified admin",
        ["/piece/HM-0001/edit"] = "stores inspector qualified admin",
        ["/desk"] = "stores inspector qualified",
        ["/desk?handler=Return"] = "stores inspector qualified",
        ["/piece/HM-0001/yard?handler=Move"] = "crew stores inspector qualified admin",
        ["/piece/HM-0001/yard?handler=Code"] = "stores inspector qualified admin",
        ["/piece/HM-0001/yard?handler=CodeOff"] = "stores inspector qualified admin",
        ["/piece/HM-0001/yard?handler=Lost"] = "crew stores trainee inspector qualified admin",
        ["/piece/HM-0001/files"] = "stores trainee inspector qualified admin",
        ["/register/import"] = "stores inspector qualified admin",
        ["/register/move"] = "crew stores inspector qualified admin",
        ["/heads?handler=Sign"] = "admin",
        ["/recall"] = "qualified admin",
        ["/recall/8a1f6a52-8d4f-4a7e-9c55-1e0a3b1c7d20?handler=Missed"] = "qualified admin",
        ["/piece/HM-0001/look-back"] = "inspector qualified",
        ["/piece/HM-0001/look-back?handler=Lift"] = "qualified",
        ["/piece/HM-0001/look-back?handler=Witness"] = "inspector qualified",
        ["/round"] = "crew stores inspector qualified admin",
        ["/round?handler=Search"] = "crew stores inspector qualified admin",
        ["/register/take-over?handler=Accept"] = "inspector qualified",
        ["/register/take-over?handler=File"] = "stores inspector qualified admin",
        ["/register/take-over?handler=Fill"] = "stores inspector qualified admin",
        ["/ledger"] = "inspector qualified admin auditor",
        ["/settings?handler=Books"] = "admin",
        ["/settings?handler=Limit"] = "qualified",
        ["/settings?handler=Withdraw"] = "qualified",
        ["/settings/questions"] = "qualified",
        ["/settings/questions?handler=Withdraw"] = "qualified",
        ["/teaches/prices"] = "inspector qualified admin",
        ["/settings/proof-tests"] = "qualified",
        ["/settings/proof-tests?handler=Withdraw"] = "qualified",
        ["/event"] = "crew stores trainee inspector qualified admin",
        ["/season?handler=Scheme"] = "qualified admin",
        ["/settings/people"] = "admin",
        ["/settings/people?handler=Invite"] = "admin",
        ["/settings/people?handler=Factor"] = "admin",
        ["/settings/person/crew"] = "admin",
        ["/settings/person/crew?handler=Reset"] = "admin",
        ["/settings/person/crew?handler=Factor"] = "admin",
        ["/settings/stores"] = "admin",
        ["/settings/stores?handler=Close"] = "admin",
        ["/settings/running"] = "admin",
        ["/instruments?handler=Enter"] = "inspector qualified",
        ["/due/outbox"] = "inspector qualified admin",
        ["/lift?handler=Begin"] = "crew stores inspector qualified admin",
        ["/lift/cell"] = "crew stores inspector qualified admin",
        ["/settings/tokens?handler=Make"] = "crew stores trainee inspector qualified admin auditor",
        ["/settings/tokens?handler=Revoke"] = "crew stores trainee inspector qualified admin auditor",
    };

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
            foreach (var (path, who) in WhoMayPress)
            {
                var response = await visitor.PostAsync(path, new() { ["reason"] = "" }, "/account");
                Assert.True(
                    response.StatusCode == HttpStatusCode.Forbidden != who.Split(' ').Contains(role),
                    $"{role} at {path}: {response.StatusCode}"
                );
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
