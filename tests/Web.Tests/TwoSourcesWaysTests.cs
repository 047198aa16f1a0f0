using System.Net;
using System.Net.Http.Headers;
using System.Text;
using System.Text.Json.Nodes;
using Keralith.Data;
using Keralith.Testing;
using Microsoft.Extensions.DependencyInjection;
using Xunit;

namespace Keralith.Web.Tests;

/// <summary>Of two sources of one figure the harsher counts, whichever way the milder one comes in: page, program or document.</summary>
public class TwoSourcesWaysTests
{
    private const string Case = """{"format":"keralith.case/1","ruleBooks":["asme"],"kind":"periodic",""";
    private const string Web = """{"family":"web-sling","width":"2 in","ratedLoad":"2 t","designFactor":5}""";

    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    /// <summary>By a program: what was said, and what it comes to; a milder word beside never makes it more.</summary>
    [Theory]
    [InlineData(
        "a gauge length far better than new",
        "judge",
        Case
            + """
                "gear":{"family":"alloy-chain-sling","size":"10 mm","grade":"80","legs":1},"answers":[{"criterion":"chain.gauge-growth","part":"leg-1","value":"168 mm","baseline":"300 mm"}]}
                """,
        "\"verdict\":\"hold\""
    )]
    [InlineData(
        "a throat far better than new",
        "judge",
        Case
            + """
                "gear":{"family":"hook"},"answers":[{"criterion":"hook.throat","part":"hook","value":"19.6 mm","baseline":"35 mm"}]}
                """,
        "\"verdict\":\"hold\""
    )]
    [InlineData(
        "a grade read by running digits together",
        "judge",
        Case + """ "gear":{"family":"alloy-chain-sling","size":"10 mm","grade":"43 (9/32)","legs":1},"answers":[]}""",
        "grade"
    )]
    [InlineData(
        "a maker's percent without bound",
        "judge",
        Case
            + """
                "gear":{"family":"hook"},"makerLimits":[{"criterion":"hook.throat","figure":"1000 %"}],"answers":[]}
                """,
        "makerLimits"
    )]
    [InlineData(
        "a basket of 100 t on a web sling of 2 t",
        "lift",
        """
            {"format":"keralith.lift/1","load":{"weight":"30 t","basis":"known"},"symmetric":{"legs":1,"angle":"90 deg","hitch":"basket","sling":{"family":"web-sling","width":"2 in","ratedLoad":"2 t","designFactor":5,"tagRatings":{"basket":"100 t"}}}}
            """,
        "\"outcome\":\"overloaded\""
    )]
    [InlineData(
        "two slings under one hook at 40 deg, and nothing said of who collects them",
        "lift",
        """{"format":"keralith.lift/1","load":{"weight":"100 kg","basis":"known"},"above":[{"kind":"hook","ratedLoad":"20 t"}],"symmetric":{"legs":2,"angle":"40 deg","hitch":"vertical","sling":"""
            + Web
            + "}}",
        "\"outcome\":\"ask\""
    )]
    [InlineData(
        "a wire rope rated far above its size",
        "lift",
        """
            {"format":"keralith.lift/1","load":{"weight":"10 kg","basis":"known"},"symmetric":{"legs":1,"angle":"90 deg","hitch":"vertical","sling":{"family":"wire-rope-sling","size":"1/2 in","ratedLoad":"15001 lb","designFactor":5}}}
            """,
        "\"outcome\":\"not-permitted\""
    )]
    public async Task A_program_is_told_the_harsher(string said, string where, string document, string expected)
    {
        await using var yard = await WebYard.OpenAsync();
        var answer = await AskAsync(yard, await TokenAsync(yard), HttpMethod.Post, $"/api/v1/{where}", document);
        Assert.True(answer.Contains(expected, StringComparison.Ordinal), $"{said}: {answer}");
    }

    /// <summary>By a form and by a program alike: the register takes no statement that frees gear of what is known.</summary>
    [Theory]
    [InlineData("43 (9/32)")]
    [InlineData("G43 0.28")]
    [InlineData("80/43")]
    public async Task A_grade_nobody_can_read_is_refused_by_page_and_program(string grade)
    {
        await using var yard = await WebYard.OpenAsync();
        var form = Seed.Sling("HM-0001");
        form["grade"] = grade;
        var stores = await yard.SignedInAsync("stores");
        var page = await stores.PostAsync("/register/new", form, "/register/new?family=alloy-chain-sling");
        Assert.Equal(HttpStatusCode.UnprocessableEntity, page.StatusCode);

        // The document of a piece that stands, but for what is milder in it.
        await yard.RegisterAsync(Seed.Sling("HM-0002"));
        var token = await TokenAsync(yard);
        var copy = JsonNode
            .Parse(await AskAsync(yard, token, HttpMethod.Get, "/api/v1/pieces/HM-0002", null))!
            .AsObject();
        (copy["mark"], copy["serial"]) = ("HM-0001", "another");
        foreach (
            var standing in new[]
            {
                "state",
                "verdict",
                "mayBeUsed",
                "reasons",
                "periodicDue",
                "frequentDue",
                "version",
            }
        )
            copy.Remove(standing);
        copy["gear"]!["grade"] = grade;
        var answer = await AskAsync(yard, token, HttpMethod.Post, "/api/v1/pieces", copy.ToJsonString());
        Assert.Contains("$.gear.grade", answer, StringComparison.Ordinal);
        Assert.Null(await yard.App.Services.GetRequiredService<PieceStore>().FindAsync("HM-0001", Cancel));
    }

    private static async Task<string> AskAsync(WebYard yard, string token, HttpMethod how, string path, string? body)
    {
        using var request = new HttpRequestMessage(how, path);
        if (body is not null)
            request.Content = new StringContent(body, Encoding.UTF8, "application/json");
        request.Headers.Authorization = new AuthenticationHeaderValue("Bearer", token);
        return await (await yard.Visitor().SendAsync(request)).Content.ReadAsStringAsync(Cancel);
    }

    private static async Task<string> TokenAsync(WebYard yard)
    {
        var token = TokenStore.Make();
        var stamp = new Stamp(Seed.People["admin"], DateTimeOffset.UtcNow, Guid.NewGuid());
        var ends = DateOnly.FromDateTime(DateTime.UtcNow.AddDays(30));
        var made = await yard
            .App.Services.GetRequiredService<TokenStore>()
            .AddAsync("Test", token, ends, Seed.People["admin"].Roles, stamp, Cancel);
        Assert.True(made.Ok, made.Fault);
        return token;
    }
}
