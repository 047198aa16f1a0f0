using System.Net;
using System.Net.Http.Json;
using System.Text.Json;
using AngleSharp.Html.Dom;
using Keralith.Data;
using Keralith.Testing;
using Microsoft.Extensions.DependencyInjection;
using Xunit;

namespace Keralith.Web.Tests;

public class PageTests
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    [Fact]
    public async Task A_piece_is_shown_alike_by_its_mark_its_serial_and_a_code_it_carries()
    {
        await using var yard = await WebYard.OpenAsync();
        await yard.RegisterAsync(Seed.Shackle("HM-0002"));
        var piece = (await yard.App.Services.GetRequiredService<PieceStore>().FindAsync("HM-0002", Cancel))!;
        var bound = await yard
            .App.Services.GetRequiredService<CodeStore>()
            .BindAsync(piece.Id, "04A2B9", new(Seed.People["stores"], DateTimeOffset.UtcNow, Guid.NewGuid()), Cancel);
        Assert.True(bound.Ok, bound.Fault);
        var inspector = await yard.SignedInAsync("inspector");
        var whole = (await inspector.PageAsync("/piece/HM-0002")).QuerySelector("main")!.TextContent;
        Assert.Contains("Further code bound: 04A2B9", whole, StringComparison.Ordinal);
        foreach (var text in (string[])["hm-0002", "HM0002", piece.Serial!, "04a2b9"])
        {
            Assert.Equal(
                whole,
                (await inspector.PageAsync($"/piece/{Uri.EscapeDataString(text)}")).QuerySelector("main")!.TextContent
            );
        }
    }

    [Fact]
    public async Task A_scan_of_a_mark_or_serial_leads_to_the_piece_and_anything_else_to_the_search()
    {
        await using var yard = await WebYard.OpenAsync();
        await yard.RegisterAsync(Seed.Sling("HM-0001"));
        var crew = await yard.SignedInAsync("crew");
        Assert.Equal("/piece/HM-0001", (await crew.GetAsync("/scan?q=hm-0001")).Headers.Location!.ToString());
        Assert.Equal("/piece/HM-0001", (await crew.GetAsync("/scan?q=O-HM-0001")).Headers.Location!.ToString());
        Assert.Equal("/register?q=HM-00", (await crew.GetAsync("/scan?q=HM-00")).Headers.Location!.ToString());
        var page = await crew.PageAsync("/piece/HM-0001");
        Assert.Contains("Do not use", page.QuerySelector(".answer")!.TextContent, StringComparison.Ordinal);
        Assert.Contains("not inspected yet", page.QuerySelector(".answer")!.TextContent, StringComparison.Ordinal);
    }

    [Fact]
    public async Task What_was_typed_stays_when_a_field_is_refused_and_nothing_is_saved()
    {
        await using var yard = await WebYard.OpenAsync();
        var stores = await yard.SignedInAsync("stores");
        var fields = Seed.Sling("HM-0009");
        fields["ratedLoad"] = "5 ton";
        fields["baseline:leg-1/hook:hook.throat"] = "1,375 in";
        var response = await stores.PostAsync("/register/new", fields);
        Assert.Equal(HttpStatusCode.UnprocessableEntity, response.StatusCode);
        var page = await Visitor.ReadAsync(response);
        Assert.Equal("5 ton", ((IHtmlInputElement)page.QuerySelector("[name=ratedLoad]")!).Value);
        Assert.Equal("Orrery Chainworks", ((IHtmlInputElement)page.QuerySelector("[name=maker]")!).Value);
        var faults = page.QuerySelectorAll(".fault").Select(f => f.TextContent).ToList();
        Assert.Contains(faults, f => f.Contains("short ton", StringComparison.Ordinal));
        Assert.Contains(faults, f => f.Contains("comma", StringComparison.Ordinal));
        Assert.Null(await yard.App.Services.GetRequiredService<PieceStore>().FindAsync("HM-0009", Cancel));
    }

    [Fact]
    public async Task The_form_asks_only_what_the_family_needs()
    {
        await using var yard = await WebYard.OpenAsync();
        var stores = await yard.SignedInAsync("stores");
        var shackle = await stores.PageAsync("/register/new?family=shackle");
        Assert.NotNull(shackle.QuerySelector("[name=pinSize]"));
        Assert.Null(shackle.QuerySelector("[name=legs]"));
        Assert.NotNull(shackle.QuerySelector("[name='baseline:pin:shackle.wear-pin']"));
        var sling = Visitor.ReadAsync(
            await stores.PostAsync(
                "/register/new?handler=Ask",
                new()
                {
                    ["family"] = "alloy-chain-sling",
                    ["legs"] = "2",
                    ["endFitting"] = "hook",
                },
                "/register/new"
            )
        );
        Assert.NotNull((await sling).QuerySelector("[name='baseline:leg-2/hook:hook.throat']"));
    }

    [Fact]
    public async Task A_whole_inspection_can_be_made_and_signed_without_script()
    {
        await using var yard = await WebYard.OpenAsync();
        await yard.RegisterAsync(Seed.Shackle("HM-0002"));
        var inspector = await yard.SignedInAsync("inspector");
        var inspect = (
            await inspector.SubmitAsync("/piece/HM-0002", "form[action*=Inspect]", [])
        ).Headers.Location!.ToString();
        var next = inspect;
        for (var step = 0; step < 10 && !next.EndsWith("/sign", StringComparison.Ordinal); step++)
        {
            var page = await inspector.PageAsync(next);
            var answers = page.QuerySelectorAll("[data-question]")
                .ToDictionary(
                    q =>
                        $"{q.GetAttribute("data-question")}:{(q.QuerySelector("[data-field=answer]") is null ? "value" : "answer")}",
                    q => q.QuerySelector("[data-field=answer]") is null ? "22.2 mm" : "no"
                );
            if (answers.ContainsKey("shackle.wear-pin:value"))
                answers["shackle.wear-pin:value"] = "0.98";
            var response = await inspector.SubmitAsync(next, "form[data-draft]", answers);
            Assert.Equal(HttpStatusCode.Redirect, response.StatusCode);
            next = response.Headers.Location!.ToString();
        }

        Assert.Contains(
            "fit",
            (await inspector.PageAsync(next)).QuerySelector("main header")!.TextContent,
            StringComparison.Ordinal
        );
        var refused = await inspector.SubmitAsync(next, "main form", new() { ["password"] = "not mine" });
        Assert.Equal(HttpStatusCode.UnprocessableEntity, refused.StatusCode);
        Assert.Contains(
            "not your password",
            (await Visitor.ReadAsync(refused)).Body!.TextContent,
            StringComparison.Ordinal
        );
        var signed = await inspector.SubmitAsync(next, "main form", new() { ["password"] = WebYard.Password });
        Assert.StartsWith("/inspection/", signed.Headers.Location!.ToString(), StringComparison.Ordinal);
        Assert.Contains(
            "May be used",
            (await inspector.PageAsync("/piece/HM-0002")).QuerySelector(".answer")!.TextContent,
            StringComparison.Ordinal
        );
    }

    [Fact]
    public async Task An_answer_sent_in_the_background_comes_back_judged_by_every_book_and_stays_in_the_draft()
    {
        await using var yard = await WebYard.OpenAsync();
        await yard.RegisterAsync(Seed.Sling("HM-0001"));
        var inspector = await yard.SignedInAsync("inspector");
        var inspect = (
            await inspector.SubmitAsync("/piece/HM-0001", "form[action*=Inspect]", [])
        ).Headers.Location!.ToString();
        var (_, good) = await AnswerAsync(
            inspector,
            inspect,
            new
            {
                part = "leg-1/hook",
                criterion = "hook.throat",
                value = "1.45",
                unit = "in",
            }
        );
        Assert.True(good.GetProperty("kept").GetBoolean());
        var html = good.GetProperty("html").GetString()!;
        Assert.Contains("remove", html, StringComparison.Ordinal);
        Assert.Contains("ASME remove, OSHA general industry clear", html, StringComparison.Ordinal);
        Assert.Contains("1.444 in", html, StringComparison.Ordinal);
        Assert.Contains("1.581 in", html, StringComparison.Ordinal);
        var (_, bad) = await AnswerAsync(
            inspector,
            inspect,
            new
            {
                part = "leg-1/hook",
                criterion = "hook.throat",
                value = "1,45 in",
                unit = "in",
            }
        );
        Assert.False(bad.GetProperty("kept").GetBoolean());
        var page = await inspector.PageAsync($"{inspect}?part=leg-1/hook");
        Assert.Equal("1.45 in", ((IHtmlInputElement)page.QuerySelector("[name='hook.throat:value']")!).Value);
    }

    [Fact]
    public async Task The_database_may_go_away_while_someone_types_and_come_back()
    {
        await using var yard = await WebYard.OpenAsync();
        await yard.RegisterAsync(Seed.Sling("HM-0001"));
        var inspector = await yard.SignedInAsync("inspector");
        var inspect = (
            await inspector.SubmitAsync("/piece/HM-0001", "form[action*=Inspect]", [])
        ).Headers.Location!.ToString();
        await TestDatabases.AllowConnectionsAsync(yard.ConnectionString, false);
        await TestDatabases.KickOutAsync(yard.ConnectionString);
        for (var i = 0; i < 3; i++)
        {
            var away = await inspector.GetAsync("/");
            Assert.Equal(HttpStatusCode.ServiceUnavailable, away.StatusCode);
            Assert.Contains(
                "can't be reached just now",
                WebUtility.HtmlDecode(await away.Content.ReadAsStringAsync(Cancel)),
                StringComparison.Ordinal
            );
        }

        await TestDatabases.AllowConnectionsAsync(yard.ConnectionString, true);
        var (status, kept) = await AnswerAsync(
            inspector,
            inspect,
            new
            {
                part = "leg-1",
                criterion = "chain.crack",
                answer = "no",
            }
        );
        Assert.Equal(HttpStatusCode.OK, status);
        Assert.True(kept.GetProperty("kept").GetBoolean());
    }

    [Fact]
    public async Task Two_devices_on_one_draft_keep_the_later_answer_and_show_the_other()
    {
        await using var yard = await WebYard.OpenAsync();
        await yard.RegisterAsync(Seed.Sling("HM-0001"));
        var (one, two) = (await yard.SignedInAsync("inspector"), await yard.SignedInAsync("inspector2"));
        var inspect = (
            await one.SubmitAsync("/piece/HM-0001", "form[action*=Inspect]", [])
        ).Headers.Location!.ToString();
        var (_, first) = await AnswerAsync(
            one,
            inspect,
            new
            {
                part = "leg-1",
                criterion = "chain.crack",
                answer = "no",
                seen = "",
            }
        );
        Assert.DoesNotContain(
            "after this page was opened",
            first.GetProperty("html").GetString(),
            StringComparison.Ordinal
        );
        var (_, later) = await AnswerAsync(
            two,
            inspect,
            new
            {
                part = "leg-1",
                criterion = "chain.crack",
                answer = "yes",
                seen = "",
            }
        );
        Assert.Contains(
            "Test inspector entered No fault",
            later.GetProperty("html").GetString(),
            StringComparison.Ordinal
        );
        var (_, again) = await AnswerAsync(
            two,
            inspect,
            new
            {
                part = "leg-1",
                criterion = "chain.crack",
                answer = "no",
                seen = later.GetProperty("seen").GetString(),
            }
        );
        Assert.DoesNotContain(
            "after this page was opened",
            again.GetProperty("html").GetString(),
            StringComparison.Ordinal
        );
        Assert.Equal(
            "no",
            (await two.PageAsync($"{inspect}?part=leg-1"))
                .QuerySelector("[data-question='chain.crack'] [data-field=answer][checked]")!
                .GetAttribute("value")
        );
    }

    public static TheoryData<string, string> Hostile =>
        new()
        {
            { "/scan?q=%00", "" },
            { "/scan?q=" + new string('A', 3000), "" },
            { "/register?q=%25_%27%3B--&store=999999&state=bogus&page=-4", "" },
            { "/register?page=99999999999999", "" },
            { "/piece/%3Cscript%3E", "" },
            { "/piece/..%2f..%2fetc", "" },
            { "/inspect/00000000-0000-0000-0000-000000000000", "" },
            { "/rules?family=%3Cscript%3E", "" },
            { "/?store=-1", "" },
            { "/ledger?before=-9223372036854775808", "" },
        };

    [Theory]
    [MemberData(nameof(Hostile))]
    public async Task Hostile_addresses_meet_words_not_faults(string path, string _)
    {
        await using var yard = await WebYard.OpenAsync();
        var response = await (await yard.SignedInAsync("inspector")).GetAsync(path);
        Assert.True((int)response.StatusCode < 500, $"{response.StatusCode}");
        Assert.DoesNotContain(
            "<script>",
            await response.Content.ReadAsStringAsync(Cancel),
            StringComparison.OrdinalIgnoreCase
        );
    }

    [Theory]
    [InlineData("<script>alert(1)</script>")]
    [InlineData("'; drop table piece; --")]
    [InlineData("\0")]
    [InlineData("NaN")]
    [InlineData("-1 in")]
    [InlineData("1e400 mm")]
    public async Task Hostile_words_in_every_field_of_the_register_are_kept_or_refused_never_run(string evil)
    {
        await using var yard = await WebYard.OpenAsync();
        var stores = await yard.SignedInAsync("stores");
        foreach (var field in Seed.Sling("HM-0001").Keys)
        {
            var fields = Seed.Sling($"HM-{Guid.NewGuid().ToString("N")[..8]}");
            fields[field] = evil;
            var response = await stores.PostAsync("/register/new", fields);
            Assert.True((int)response.StatusCode < 500, $"{field}: {response.StatusCode}");
            var page =
                response.StatusCode == HttpStatusCode.Redirect
                    ? await stores.GetAsync(response.Headers.Location!.ToString())
                    : response;
            Assert.DoesNotContain(
                "<script>alert",
                await page.Content.ReadAsStringAsync(Cancel),
                StringComparison.Ordinal
            );
        }
    }

    [Fact]
    public async Task Ten_alike_are_registered_by_one_form_and_a_slip_keeps_all_that_was_typed()
    {
        await using var yard = await WebYard.OpenAsync();
        var stores = await yard.SignedInAsync("stores");
        var form = Seed.Sling("HM-0100");
        form["alike"] = string.Join('\n', Enumerable.Range(101, 9).Select(i => $"HM-0{i} O-{i}").Append("HM-0101 O-1"));
        var slip = await stores.PostAsync("/register/new", form);
        Assert.Equal(HttpStatusCode.UnprocessableEntity, slip.StatusCode);
        var page = await Visitor.ReadAsync(slip);
        Assert.Contains("HM-0101 stands twice", page.QuerySelector("main")!.TextContent, StringComparison.Ordinal);
        Assert.Contains(
            "HM-0109 O-109",
            page.QuerySelector("textarea[name=alike]")!.TextContent,
            StringComparison.Ordinal
        );

        form["alike"] = string.Join('\n', Enumerable.Range(101, 9).Select(i => $"HM-0{i} O-{i}"));
        var done = await stores.PostAsync("/register/new", form);
        Assert.Equal("/register?q=HM-010&state=new", done.Headers.Location!.ToString());
        Assert.Equal(
            10,
            (await stores.PageAsync(done.Headers.Location.ToString())).QuerySelectorAll("tbody tr").Length
        );
    }

    [Fact]
    public async Task A_first_visit_fits_into_150_kilobytes()
    {
        await using var yard = await WebYard.OpenAsync();
        var total = 0L;
        foreach (
            var path in new[]
            {
                "/sign-in",
                "/assets/app.css",
                "/assets/app.js",
                "/assets/atkinson-hyperlegible-next-latin-wght-normal.woff2",
                "/assets/atkinson-hyperlegible-mono-latin-wght-normal.woff2",
                "/sign.svg",
            }
        )
        {
            var request = new HttpRequestMessage(HttpMethod.Get, path);
            request.Headers.AcceptEncoding.ParseAdd("br");
            var response = await yard.Visitor().SendAsync(request);
            Assert.Equal(HttpStatusCode.OK, response.StatusCode);
            total += (await response.Content.ReadAsByteArrayAsync(Cancel)).Length;
        }

        Assert.InRange(total, 1, 150_000);
    }

    private static async Task<(HttpStatusCode Status, JsonElement Body)> AnswerAsync(
        Visitor visitor,
        string inspect,
        object answer
    )
    {
        var page = await (await visitor.GetAsync(inspect)).Content.ReadAsStringAsync(Cancel);
        var request = new HttpRequestMessage(HttpMethod.Post, $"{inspect.Split('?')[0]}?handler=Answer")
        {
            Content = JsonContent.Create(answer),
        };
        request.Headers.Add("X-Form-Token", page.Split("data-token=\"")[1].Split('"')[0]);
        request.Headers.Accept.ParseAdd("application/json");
        var response = await visitor.SendAsync(request);
        return (
            response.StatusCode,
            response.IsSuccessStatusCode ? await response.Content.ReadFromJsonAsync<JsonElement>(Cancel) : default
        );
    }
}
