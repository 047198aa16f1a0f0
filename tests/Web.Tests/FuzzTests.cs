using System.Net;
using Keralith.Data;
using Keralith.Testing;
using Microsoft.AspNetCore.Http;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Microsoft.AspNetCore.Mvc.RazorPages.Infrastructure;
using Microsoft.AspNetCore.Routing;
using Microsoft.Extensions.DependencyInjection;
using Xunit;

namespace Keralith.Web.Tests;

/// <summary>
/// Whatever is sent to whatever page, field and handler, the answer has words and is none of 500 and over. Seeded and
/// bounded; new pages and fields come under it by themselves. It is slow for it asks every handler many times.
/// </summary>
public class FuzzTests
{
    private const int TriesOfEach = 12;

    private static readonly string[] Values =
    [
        "",
        " ",
        "\u0007",
        "0",
        "-1",
        "1",
        "1e999",
        "NaN",
        "99999999999999999999",
        "0001-01-01",
        "9999-12-31",
        "2026-02-30",
        "HM-0001",
        "HM-9999",
        "1/3 in",
        "1/0 in",
        "5 t",
        "osha",
        "true",
        "[\"\\u0000\"]",
        "{}",
        "null",
        "<script>alert(1)</script>",
        "'; drop table piece; --",
        "%00",
        "../../etc/passwd",
        "00000000-0000-0000-0000-000000000000",
        "\u202Etxt",
        new string('x', 600),
        string.Concat(Enumerable.Repeat("\U0001F468\u200D\U0001F469\u200D\U0001F467", 200)),
    ];

    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    [Fact]
    public async Task No_handler_of_any_page_falls_over_whatever_it_is_sent()
    {
        await using var yard = await WebYard.OpenAsync();
        await yard.AcceptedAsync(Seed.Shackle("HM-0001"), DateTimeOffset.UtcNow.AddDays(-9));
        var piece = await yard.RegisterAsync(Seed.Shackle("HM-0002"));
        var (draft, _, _) = await yard.DraftAsync(piece, "inspector", DateTimeOffset.UtcNow);
        var visitors = new List<Visitor>();
        foreach (var who in new[] { "stores", "qualified", "admin", "trainee" })
            visitors.Add(await yard.SignedInAsync(who));
        var chance = new Random(20260302);
        var fell = new List<string>();
        foreach (var (route, handler, method, fields) in await HandlersAsync(yard))
        {
            for (var i = 0; i < TriesOfEach; i++)
            {
                var visitor = visitors[i % visitors.Count];
                var path = Filled(route, chance, draft) + (handler is null ? "" : $"?handler={handler}");
                var sent = fields
                    .Where(_ => chance.Next(4) > 0)
                    .ToDictionary(f => f, _ => Values[chance.Next(Values.Length)]);
                var answer =
                    method == "Get"
                        ? await visitor.GetAsync(
                            path
                                + (path.Contains('?') ? "&" : "?")
                                + string.Join('&', sent.Select(f => $"{f.Key}={Uri.EscapeDataString(f.Value)}"))
                        )
                        : await visitor.PostAsync(path, sent, "/account");
                if ((int)answer.StatusCode >= 500)
                    fell.Add($"{method} {path}: {string.Join(", ", sent.Select(f => $"{f.Key}={f.Value}"))}");
            }
        }

        Assert.True(fell.Count == 0, string.Join('\n', fell.Select(f => f.Length > 300 ? f[..300] : f)));
    }

    [Theory]
    [InlineData("/piece/HM-0001/hold?handler=Nothing")]
    [InlineData("/settings?handler=Nothing")]
    [InlineData("/cage/HM-0001")]
    [InlineData("/settings")]
    [InlineData("/lift/00000000-0000-0000-0000-000000000001?handler=Nothing")]
    public async Task A_handler_that_is_not_there_is_answered(string path)
    {
        await using var yard = await WebYard.OpenAsync();
        await yard.RegisterAsync(Seed.Shackle("HM-0001"));
        var qualified = await yard.SignedInAsync("qualified");
        var answer = await qualified.PostAsync(path, new() { ["reason"] = "Bent" }, "/account");
        Assert.True((int)answer.StatusCode < 500, $"{answer.StatusCode}");
    }

    [Theory]
    [InlineData("""{"format":"keralith.piece/1","mark":"HM-1","tagEntries":["\u0000"]}""")]
    [InlineData("""{"format":"keralith.piece/1","mark":"HM-1","family":"shackle","store":"Nowhere"}""")]
    [InlineData("""{"format":"keralith.piece/1","mark":"HM\u0000","meets":["\ud800"]}""")]
    [InlineData("""{"format":"keralith.piece/1","inServiceSince":"9999-12-31","calibrationDue":"0001-01-01"}""")]
    [InlineData("[]")]
    [InlineData("")]
    public async Task A_program_that_sends_nonsense_is_told_so(string body)
    {
        await using var yard = await WebYard.OpenAsync();
        var token = TokenStore.Make();
        var made = await yard
            .App.Services.GetRequiredService<TokenStore>()
            .AddAsync(
                "Fuzz",
                token,
                DateOnly.FromDateTime(DateTime.UtcNow.AddDays(30)),
                Seed.People["admin"].Roles,
                new(Seed.People["admin"], DateTimeOffset.UtcNow, Guid.NewGuid()),
                Cancel
            );
        Assert.True(made.Ok, made.Fault);
        using var http = new HttpClient { BaseAddress = yard.Address };
        http.DefaultRequestHeaders.Authorization = new("Bearer", token);
        foreach (var charset in new[] { "utf-8", "utf-16", "iso-8859-1", "nonsense" })
        {
            foreach (var path in new[] { "/api/v1/pieces", "/api/v1/judge", "/api/v1/lift" })
            {
                var content = new ByteArrayContent(System.Text.Encoding.UTF8.GetBytes(body));
                content.Headers.TryAddWithoutValidation("Content-Type", $"application/json; charset={charset}");
                var answer = await http.PostAsync(path, content, Cancel);
                Assert.True((int)answer.StatusCode is >= 400 and < 500, $"{path} {charset}: {answer.StatusCode}");
            }
        }
    }

    [Fact]
    public async Task What_is_larger_than_a_page_takes_is_too_large()
    {
        await using var yard = await WebYard.OpenAsync();
        var stores = await yard.SignedInAsync("stores");
        var answer = await stores.PostAsync(
            "/register/new",
            new() { ["notes"] = new string('x', 3_000_000) },
            "/account"
        );
        Assert.Equal(HttpStatusCode.RequestEntityTooLarge, answer.StatusCode);
    }

    private static string Filled(string route, Random chance, Guid draft) =>
        string.Join(
            '/',
            route
                .Split('/')
                .Select(part =>
                    part switch
                    {
                        "{mark}" => chance.Next(4) switch
                        {
                            0 => "HM-0001",
                            1 => "HM-0002",
                            2 => "nobody",
                            _ => Uri.EscapeDataString("\u0007<x>"),
                        },
                        "{id:guid}" => (chance.Next(2) == 0 ? draft : Guid.NewGuid()).ToString(),
                        _ when part.StartsWith('{') => "nothing",
                        _ => part,
                    }
                )
        );

    /// <summary>Every page's handlers with the names of what they take.</summary>
    private static async Task<
        List<(string Route, string? Handler, string Method, IReadOnlyList<string> Fields)>
    > HandlersAsync(WebYard yard)
    {
        var found = new List<(string, string?, string, IReadOnlyList<string>)>();
        var loader = yard.App.Services.GetRequiredService<PageLoader>();
        var pages = yard
            .App.Services.GetRequiredService<EndpointDataSource>()
            .Endpoints.OfType<RouteEndpoint>()
            .Select(e =>
                (Route: "/" + e.RoutePattern.RawText!.Trim('/'), Page: e.Metadata.GetMetadata<PageActionDescriptor>())
            )
            .Where(e => e.Page is not null)
            .DistinctBy(e => e.Route);
        foreach (var (route, page) in pages)
        {
            // Signing out would end what the others need; the error page is where all end.
            if (route is "/account" or "/error")
                continue;
            var compiled = await loader.LoadAsync(page!, EndpointMetadataCollection.Empty);
            var bound = compiled.BoundProperties.Select(p => p.Name).ToList();
            foreach (var handler in compiled.HandlerMethods)
                found.Add(
                    (route, handler.Name, handler.HttpMethod, [.. handler.Parameters.Select(p => p.Name), .. bound])
                );
        }

        return found;
    }
}
