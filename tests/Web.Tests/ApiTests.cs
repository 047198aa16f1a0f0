using System.Net;
using System.Net.Http.Headers;
using System.Net.Http.Json;
using System.Text;
using System.Text.Json;
using Keralith.Core.Formats;
using Keralith.Core.Gear;
using Keralith.Core.Judgement;
using Keralith.Core.Lifts;
using Keralith.Data;
using Keralith.Testing;
using Microsoft.Extensions.DependencyInjection;
using Xunit;

namespace Keralith.Web.Tests;

/// <summary>
/// The interface for programs: judging by token, every refusal with its reason, and the document that describes it.
/// </summary>
public class ApiTests
{
    private const string Case =
        """{"format":"keralith.case/1","ruleBooks":["asme","osha"],"gear":{"family":"hook"},"answers":[{"criterion":"hook.throat","part":"hook","value":"1.43 in","baseline":"1.375 in"}]}""";

    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    [Fact]
    public async Task A_case_sent_with_a_token_comes_back_as_the_verdict_the_command_line_gives()
    {
        await using var yard = await WebYard.OpenAsync();
        var response = await PostAsync(yard, Case, await TokenAsync(yard));
        Assert.Equal(HttpStatusCode.OK, response.StatusCode);
        Assert.Equal("application/json", response.Content.Headers.ContentType!.MediaType);
        Assert.Equal(
            VerdictWriter.Write(Judge.Of(CaseReader.Read(Case).Value!)),
            await response.Content.ReadAsStringAsync(Cancel)
        );
    }

    [Fact]
    public async Task A_lift_sent_with_a_token_comes_back_as_the_command_line_gives_it_and_a_bad_one_with_its_paths()
    {
        const string Lift =
            """{"format":"keralith.lift/1","load":{"weight":"1200 lb","basis":"weighed"},"symmetric":{"legs":2,"angle":"60 deg","hitch":"vertical","sling":{"family":"web-sling","ratedLoad":"3 t","designFactor":5}}}""";
        await using var yard = await WebYard.OpenAsync();
        var token = await TokenAsync(yard);
        var response = await PostAsync(
            yard,
            new StringContent(Lift, Encoding.UTF8, "application/json"),
            token,
            "/api/v1/lift"
        );
        Assert.Equal(
            LiftWriter.Write(LiftJudge.Of(LiftReader.Read(Lift).Value!)),
            await response.Content.ReadAsStringAsync(Cancel)
        );
        var refused = await PostAsync(
            yard,
            new StringContent(
                Lift.Replace("1200 lb", "3 ton", StringComparison.Ordinal),
                Encoding.UTF8,
                "application/json"
            ),
            token,
            "/api/v1/lift"
        );
        Assert.Equal(HttpStatusCode.UnprocessableEntity, refused.StatusCode);
        Assert.Contains("$.load.weight", await refused.Content.ReadAsStringAsync(Cancel), StringComparison.Ordinal);
        using var document = JsonDocument.Parse(
            await (await yard.Visitor().GetAsync("/api/v1/openapi.json")).Content.ReadAsStringAsync(Cancel)
        );
        var sling = document
            .RootElement.GetProperty("paths")
            .GetProperty("/api/v1/lift")
            .GetProperty("post")
            .GetProperty("requestBody")
            .GetProperty("content")
            .GetProperty("application/json")
            .GetProperty("schema")
            .GetProperty("properties")
            .GetProperty("symmetric")
            .GetProperty("properties")
            .GetProperty("sling");
        Assert.Equal(
            LiftReader.SlingFamilies,
            sling
                .GetProperty("properties")
                .GetProperty("family")
                .GetProperty("enum")
                .EnumerateArray()
                .Select(e => e.GetString())
        );
    }

    [Theory]
    [InlineData(null)]
    [InlineData("kl_not-a-token")]
    [InlineData("something else")]
    public async Task Without_a_token_that_counts_nothing_is_judged(string? token)
    {
        await using var yard = await WebYard.OpenAsync();
        var response = await PostAsync(yard, Case, token);
        Assert.Equal(HttpStatusCode.Unauthorized, response.StatusCode);
        Assert.Contains("Bearer", response.Headers.WwwAuthenticate.ToString(), StringComparison.Ordinal);
        Assert.Contains(
            "no token that counts",
            await response.Content.ReadAsStringAsync(Cancel),
            StringComparison.Ordinal
        );
    }

    [Fact]
    public async Task A_signed_in_browser_is_no_program()
    {
        await using var yard = await WebYard.OpenAsync();
        var admin = await yard.SignedInAsync("admin");
        Assert.Equal(
            HttpStatusCode.Unauthorized,
            (
                await admin.SendAsync(
                    new(HttpMethod.Post, "/api/v1/judge")
                    {
                        Content = new StringContent(Case, Encoding.UTF8, "application/json"),
                    }
                )
            ).StatusCode
        );
    }

    [Theory]
    [InlineData("")]
    [InlineData("null")]
    [InlineData("[]")]
    [InlineData("{")]
    [InlineData("\"\\ud800\"")]
    [InlineData("""{"format":"keralith.case/1","gear":{"family":"hook","maker":"\ud800"}}""")]
    [InlineData("""{"format":"keralith.case/1","gear":{"family":"anvil"}}""")]
    [InlineData(
        """{"format":"keralith.case/1","gear":{"family":"hook"},"answers":[{"criterion":"hook.throat","part":"hook","value":"NaN"}]}"""
    )]
    [InlineData(
        """{"format":"keralith.case/1","gear":{"family":"hook"},"answers":[{"criterion":"hook.throat","part":"hook","value":"1,5 in"}]}"""
    )]
    [InlineData("""{"format":"keralith.case/1","gear":{"family":"hook"},"ruleBooks":[]}""")]
    public async Task What_is_no_case_is_refused_with_every_fault_and_its_path(string body)
    {
        await using var yard = await WebYard.OpenAsync();
        var response = await PostAsync(yard, body, await TokenAsync(yard));
        Assert.Equal(HttpStatusCode.UnprocessableEntity, response.StatusCode);
        var errors = (await response.Content.ReadFromJsonAsync<JsonElement>(Cancel)).GetProperty("errors");
        Assert.NotEqual(0, errors.GetArrayLength());
        Assert.All(errors.EnumerateArray(), e =>
            Assert.StartsWith("$", e.GetProperty("path").GetString(), StringComparison.Ordinal)
        );
    }

    [Fact]
    public async Task Bytes_that_are_no_text_and_a_body_too_large_are_refused()
    {
        await using var yard = await WebYard.OpenAsync();
        var token = await TokenAsync(yard);
        Assert.Equal(
            HttpStatusCode.UnprocessableEntity,
            (await PostAsync(yard, new ByteArrayContent([0x22, 0xC3, 0x28, 0x22]), token)).StatusCode
        );
        Assert.Equal(
            HttpStatusCode.RequestEntityTooLarge,
            (await PostAsync(yard, new ByteArrayContent(new byte[1_100_000]), token)).StatusCode
        );
    }

    [Fact]
    public async Task A_revoked_token_ends_at_once()
    {
        await using var yard = await WebYard.OpenAsync();
        var admin = await yard.SignedInAsync("admin");
        var made = await Visitor.ReadAsync(
            await admin.SubmitAsync("/settings/tokens", "main form", new() { ["name"] = "Register sync" })
        );
        var token = made.QuerySelector("#token")!.TextContent;
        Assert.Equal(HttpStatusCode.OK, (await PostAsync(yard, Case, token)).StatusCode);
        Assert.DoesNotContain(
            token,
            (await admin.PageAsync("/settings/tokens")).DocumentElement.OuterHtml,
            StringComparison.Ordinal
        );
        Assert.Equal(HttpStatusCode.Redirect, (await admin.SubmitAsync("/settings/tokens", "td form", [])).StatusCode);
        Assert.Equal(HttpStatusCode.Unauthorized, (await PostAsync(yard, Case, token)).StatusCode);
    }

    [Fact]
    public async Task The_document_names_every_family_attribute_criterion_and_book()
    {
        await using var yard = await WebYard.OpenAsync();
        var text = await (await yard.Visitor().GetAsync("/api/v1/openapi.json")).Content.ReadAsStringAsync(Cancel);
        using var document = JsonDocument.Parse(text);
        var judge = document.RootElement.GetProperty("paths").GetProperty("/api/v1/judge").GetProperty("post");
        var schema = judge
            .GetProperty("requestBody")
            .GetProperty("content")
            .GetProperty("application/json")
            .GetProperty("schema")
            .GetProperty("properties");
        var gear = schema.GetProperty("gear").GetProperty("properties");
        Assert.All(GearAttributes.All, a => Assert.True(gear.TryGetProperty(a.Name, out _), a.Name));
        Assert.Equal(
            GearFamilies.All.Select(f => f.Code),
            gear.GetProperty("family").GetProperty("enum").EnumerateArray().Select(e => e.GetString())
        );
        Assert.Equal(
            Core.Gear.Catalogue.All.Select(c => c.Id),
            schema
                .GetProperty("answers")
                .GetProperty("items")
                .GetProperty("properties")
                .GetProperty("criterion")
                .GetProperty("enum")
                .EnumerateArray()
                .Select(e => e.GetString())
        );
        Assert.Equal(
            Core.Gear.RuleBookShelf.All.Select(b => b.Id),
            schema
                .GetProperty("ruleBooks")
                .GetProperty("items")
                .GetProperty("enum")
                .EnumerateArray()
                .Select(e => e.GetString())
        );
        Assert.Equal(
            ["200", "401", "413", "422", "429"],
            judge.GetProperty("responses").EnumerateObject().Select(r => r.Name).Order()
        );
        Assert.Equal(
            "bearer",
            document
                .RootElement.GetProperty("components")
                .GetProperty("securitySchemes")
                .GetProperty("token")
                .GetProperty("scheme")
                .GetString()
        );
    }

    private static async Task<string> TokenAsync(WebYard yard)
    {
        var token = TokenStore.Make();
        Assert.True(
            (
                await yard
                    .App.Services.GetRequiredService<TokenStore>()
                    .AddAsync(
                        "Test",
                        token,
                        DateOnly.FromDateTime(DateTime.UtcNow.AddDays(30)),
                        Seed.People["admin"].Roles,
                        new(Seed.People["admin"], DateTimeOffset.UtcNow, Guid.NewGuid()),
                        Cancel
                    )
            ).Ok
        );
        return token;
    }

    private static Task<HttpResponseMessage> PostAsync(WebYard yard, string body, string? token) =>
        PostAsync(yard, new StringContent(body, Encoding.UTF8, "application/json"), token);

    private static Task<HttpResponseMessage> PostAsync(
        WebYard yard,
        HttpContent body,
        string? token,
        string path = "/api/v1/judge"
    )
    {
        var request = new HttpRequestMessage(HttpMethod.Post, path) { Content = body };
        if (token is not null)
            request.Headers.Authorization = new AuthenticationHeaderValue("Bearer", token);
        return yard.Visitor().SendAsync(request);
    }
}
