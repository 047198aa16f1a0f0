using System.Net;
using System.Net.Http.Headers;
using System.Text;
using System.Text.Json.Nodes;
using Keralith.Core.Gear;
using Keralith.Data;
using Keralith.Testing;
using Microsoft.Extensions.DependencyInjection;
using Xunit;

namespace Keralith.Web.Tests;

/// <summary>A piece is the same whichever way it came in: by form, by file or by program.</summary>
public class OneGateTests
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    [Fact]
    public async Task Every_family_registered_by_form_by_file_and_by_program_is_the_same_piece()
    {
        await using var yard = await WebYard.OpenAsync();
        var qualified = await yard.SignedInAsync("qualified");
        var token = TokenStore.Make();
        Assert.True(
            (
                await yard
                    .App.Services.GetRequiredService<TokenStore>()
                    .AddAsync(
                        "Test",
                        token,
                        DateOnly.FromDateTime(DateTime.UtcNow.AddDays(30)),
                        Seed.People["qualified"].Roles,
                        new(Seed.People["qualified"], DateTimeOffset.UtcNow, Guid.NewGuid()),
                        Cancel
                    )
            ).Ok
        );
        var differing = new List<string>();
        foreach (var (family, i) in GearFamilies.All.Select((f, i) => (f, i)))
        {
            var (byForm, byFile, byProgram) = ($"F-{i}", $"C-{i}", $"A-{i}");
            var sent = await qualified.PostAsync(
                "/register/new",
                new(EveryFamily.Form(family, byForm)) { ["Submission"] = Guid.NewGuid().ToString() }
            );
            Assert.True(
                sent.StatusCode == HttpStatusCode.Redirect,
                $"{family.Code}: {sent.StatusCode} {string.Join(" ", (await Visitor.ReadAsync(sent)).QuerySelectorAll("[role=alert], .fault, .refused, [id$=fault]").Select(e => e.TextContent))}"
            );

            var document = JsonNode
                .Parse(await AskAsync(yard, token, HttpMethod.Get, $"/api/v1/pieces/{byForm}", null))!
                .AsObject();
            var copy = JsonNode.Parse(document.ToJsonString())!.AsObject();
            copy["mark"] = byProgram;
            foreach (var standing in Standing)
                copy.Remove(standing);
            await AskAsync(yard, token, HttpMethod.Post, "/api/v1/pieces", copy.ToJsonString());

            var export = (
                await (await qualified.GetAsync("/register/export.csv?all=true")).Content.ReadAsStringAsync(Cancel)
            ).Replace($"\n{byForm},", $"\n{byFile},", StringComparison.Ordinal);
            await LandAsync(qualified, Only(export, byFile));

            foreach (var mark in new[] { byFile, byProgram })
            {
                var other = JsonNode
                    .Parse(await AskAsync(yard, token, HttpMethod.Get, $"/api/v1/pieces/{mark}", null))!
                    .AsObject();
                if (Told(other) != Told(document))
                    differing.Add($"{family.Code} {mark}: {Told(document)} / {Told(other)}");
            }
        }

        Assert.Empty(differing);
    }

    private static readonly string[] Standing =
    [
        "state",
        "verdict",
        "mayBeUsed",
        "reasons",
        "periodicDue",
        "frequentDue",
        "version",
    ];

    private static string Told(JsonObject piece)
    {
        var told = JsonNode.Parse(piece.ToJsonString())!.AsObject();
        foreach (var own in Standing.Append("mark"))
            told.Remove(own);
        return told.ToJsonString();
    }

    /// <summary>The heading row and the row of one mark, notes of several lines with it.</summary>
    private static string Only(string csv, string mark)
    {
        var headings = csv[..(csv.IndexOf('\n', StringComparison.Ordinal) + 1)];
        var from = csv.IndexOf($"\n{mark},", StringComparison.Ordinal) + 1;
        Assert.True(from > 0, $"{mark} is not in the file");
        var inQuotes = false;
        var to = from;
        for (; to < csv.Length && (inQuotes || csv[to] != '\n'); to++)
            inQuotes ^= csv[to] == '"';
        return headings + csv[from..to] + "\n";
    }

    private static async Task LandAsync(Visitor visitor, string csv)
    {
        var content = new MultipartFormDataContent
        {
            { new StringContent(await visitor.TokenAsync("/register/import")), "__RequestVerificationToken" },
            { new StringContent(Guid.NewGuid().ToString()), "Submission" },
            { new ByteArrayContent(Encoding.UTF8.GetBytes(csv)), "file", "one.csv" },
        };
        var page = (
            await visitor.SendAsync(new(HttpMethod.Post, "/register/import") { Content = content })
        ).Headers.Location!.ToString();
        var preview = (await visitor.PageAsync(page)).Body!.TextContent;
        Assert.True(preview.Contains("1 would land", StringComparison.Ordinal), preview);
        await visitor.SubmitAsync(page, "form[action*=Land]", []);
        for (
            var i = 0;
            i < 100 && !(await visitor.PageAsync(page)).Body!.TextContent.Contains("landed", StringComparison.Ordinal);
            i++
        )
            await Task.Delay(100, Cancel);
    }

    private static async Task<string> AskAsync(WebYard yard, string token, HttpMethod method, string path, string? body)
    {
        var request = new HttpRequestMessage(method, path)
        {
            Headers = { Authorization = new AuthenticationHeaderValue("Bearer", token) },
        };
        if (body is not null)
            request.Content = new StringContent(body, Encoding.UTF8, "application/json");
        var response = await yard.Visitor().SendAsync(request);
        var text = await response.Content.ReadAsStringAsync(Cancel);
        Assert.True(response.IsSuccessStatusCode, $"{path}: {text}\n{body}");
        return text;
    }
}
