using System.Net;
using System.Text;
using System.Text.Json;
using Keralith.Data;
using Keralith.Testing;
using Microsoft.Extensions.DependencyInjection;
using Xunit;

namespace Keralith.Web.Tests;

/// <summary>Wrong records, pictures and guides, on their pages.</summary>
public class CorrectionPageTests
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    [Fact]
    public async Task A_wrong_record_is_corrected_from_its_page_and_both_say_so()
    {
        await using var yard = await WebYard.OpenAsync();
        var piece = await yard.AcceptedAsync(Seed.Shackle("HM-0002"), DateTimeOffset.UtcNow.AddDays(-20));
        var wrong = await LastAsync(yard, piece.Id);
        var crew = await yard.SignedInAsync("crew");
        Assert.Null((await crew.PageAsync($"/inspection/{wrong}")).QuerySelector("form[action*=Correct]"));
        var inspector = await yard.SignedInAsync("inspector");
        Assert.Contains(
            "Write what is wrong",
            (
                await Visitor.ReadAsync(
                    await inspector.PostAsync($"/inspection/{wrong}?handler=Correct", new() { ["why"] = " " })
                )
            )
                .Body!
                .TextContent,
            StringComparison.Ordinal
        );
        var opened = await inspector.PostAsync(
            $"/inspection/{wrong}?handler=Correct",
            new() { ["why"] = "The bow was read in the wrong unit" }
        );
        var draft = opened.Headers.Location!.ToString();
        Assert.StartsWith("/inspect/", draft, StringComparison.Ordinal);
        Assert.Contains(
            "The bow was read in the wrong unit",
            (await inspector.PageAsync(draft)).Body!.TextContent,
            StringComparison.Ordinal
        );
        Assert.Equal(
            HttpStatusCode.Redirect,
            (
                await inspector.SubmitAsync(
                    $"{draft}/sign",
                    "form:has(input[name=version])",
                    new() { ["password"] = WebYard.Password }
                )
            ).StatusCode
        );

        var old = await inspector.PageAsync($"/inspection/{wrong}");
        Assert.Contains("another record stands in its place", old.Body!.TextContent, StringComparison.Ordinal);
        var became = old.QuerySelector("section.answer a")!.GetAttribute("href")!;
        Assert.Contains(
            "In the place of a wrong record",
            (await inspector.PageAsync(became)).Body!.TextContent,
            StringComparison.Ordinal
        );
        Assert.StartsWith(
            "%PDF-",
            await (await inspector.GetAsync($"/inspection/{wrong}/certificate.pdf")).Content.ReadAsStringAsync(Cancel),
            StringComparison.Ordinal
        );
        var history = await inspector.PageAsync("/piece/HM-0002");
        Assert.Single(history.QuerySelectorAll("a.struck"));
        Assert.Contains("Corrected", history.Body!.TextContent, StringComparison.Ordinal);
        Assert.Contains("May be used", history.QuerySelector("section.answer")!.TextContent, StringComparison.Ordinal);
    }

    [Fact]
    public async Task A_record_of_another_piece_is_withdrawn_with_the_password_and_the_piece_is_held()
    {
        await using var yard = await WebYard.OpenAsync();
        var piece = await yard.AcceptedAsync(Seed.Shackle("HM-0002"), DateTimeOffset.UtcNow.AddDays(-20));
        var wrong = await LastAsync(yard, piece.Id);
        var inspector = await yard.SignedInAsync("inspector");
        Assert.Contains(
            "not your password",
            (
                await Visitor.ReadAsync(
                    await inspector.PostAsync(
                        $"/inspection/{wrong}?handler=Withdraw",
                        new() { ["why"] = "It was HM-0003", ["password"] = "guess" }
                    )
                )
            )
                .Body!
                .TextContent,
            StringComparison.Ordinal
        );
        Assert.Equal(
            HttpStatusCode.Redirect,
            (
                await inspector.PostAsync(
                    $"/inspection/{wrong}?handler=Withdraw",
                    new() { ["why"] = "It was HM-0003", ["password"] = WebYard.Password }
                )
            ).StatusCode
        );
        Assert.Contains(
            "counts for nothing",
            (await inspector.PageAsync($"/inspection/{wrong}")).Body!.TextContent,
            StringComparison.Ordinal
        );
        Assert.Contains(
            "Do not use",
            (await inspector.PageAsync("/piece/HM-0002")).QuerySelector("section.answer")!.TextContent,
            StringComparison.Ordinal
        );
    }

    [Fact]
    public async Task A_picture_is_kept_with_the_finding_it_shows_in_the_background_and_without_script()
    {
        await using var yard = await WebYard.OpenAsync();
        var piece = await yard.RegisterAsync(Seed.Shackle("HM-0002"));
        var (draft, _, _) = await yard.DraftAsync(piece, "inspector", DateTimeOffset.UtcNow);
        var inspector = await yard.SignedInAsync("inspector");
        var path = $"/inspect/{draft}?handler=Photo&part=body&of=shackle.wear-body";
        using var kept = JsonDocument.Parse(
            await (
                await inspector.SendFileAsync(
                    path,
                    "photo:shackle.wear-body",
                    "bow.jpg",
                    Visitor.Picture(400, 300),
                    background: true
                )
            ).Content.ReadAsStringAsync(Cancel)
        );
        Assert.Contains("/small", kept.RootElement.GetProperty("html").GetString(), StringComparison.Ordinal);
        using var none = JsonDocument.Parse(
            await (
                await inspector.SendFileAsync(
                    path,
                    "photo:shackle.wear-body",
                    "bow.svg",
                    Encoding.ASCII.GetBytes("<svg/>"),
                    background: true
                )
            ).Content.ReadAsStringAsync(Cancel)
        );
        Assert.Contains("neither", none.RootElement.GetProperty("fault").GetString(), StringComparison.Ordinal);

        // Without script the whole part goes with it, and what was typed stays.
        var page = await Visitor.ReadAsync(
            await inspector.SendFileAsync(
                path,
                "photo:shackle.wear-body",
                "bow.jpg",
                Visitor.Picture(400, 300),
                new() { ["shackle.wear-body:value"] = "0.87 in; 0.86 in", ["shackle.wear-body:note"] = "At the crown" }
            )
        );
        var row = page.QuerySelector("[data-question='shackle.wear-body']")!;
        Assert.Equal(2, row.QuerySelectorAll(".photos img").Length);
        Assert.Contains("The worst of 2", row.TextContent, StringComparison.Ordinal);
        Assert.NotNull(row.QuerySelector(".guide-drawing"));
        var refused = await inspector.SendFileAsync(
            path,
            "photo:shackle.wear-body",
            "bow.svg",
            Encoding.ASCII.GetBytes("<svg/>")
        );
        Assert.Equal(HttpStatusCode.UnprocessableEntity, refused.StatusCode);

        // A part or a question that is none takes nothing.
        Assert.Equal(
            HttpStatusCode.Redirect,
            (
                await inspector.SendFileAsync(
                    $"/inspect/{draft}?handler=Photo&part=body&of=hook.throat",
                    "photo:hook.throat",
                    "x.jpg",
                    Visitor.Picture(4, 4)
                )
            ).StatusCode
        );
        await inspector.SubmitAsync(
            $"/inspect/{draft}?part=body",
            "form[data-part]",
            new() { ["clean"] = "true", ["shackle.wear-body:value"] = "0.87 in; 0.86 in" }
        );
        Assert.Equal(
            HttpStatusCode.Redirect,
            (
                await inspector.SubmitAsync(
                    $"/inspect/{draft}/sign",
                    "form:has(input[name=password])",
                    new() { ["password"] = WebYard.Password }
                )
            ).StatusCode
        );
        Assert.Equal(2, (await inspector.PageAsync($"/inspection/{draft}")).QuerySelectorAll(".photos img").Length);
    }

    [Fact]
    public async Task Whoever_stops_a_piece_may_show_why_and_a_picture_that_is_none_stops_it_all_the_same()
    {
        await using var yard = await WebYard.OpenAsync();
        await yard.RegisterAsync(Seed.Shackle("HM-0001"));
        await yard.RegisterAsync(Seed.Shackle("HM-0002"));
        var crew = await yard.SignedInAsync("crew");
        var doubt = new Dictionary<string, string> { ["reason"] = "The bow is bent", ["cause"] = "doubt" };
        Assert.Equal(
            HttpStatusCode.Redirect,
            (
                await crew.SendFileAsync("/piece/HM-0001/hold", "photo", "bow.jpg", Visitor.Picture(400, 300), doubt)
            ).StatusCode
        );
        Assert.Single((await crew.PageAsync("/cage/HM-0001")).QuerySelectorAll(".photos img"));

        var held = await crew.SendFileAsync(
            "/piece/HM-0002/hold",
            "photo",
            "bow.svg",
            Encoding.ASCII.GetBytes("<svg/>"),
            doubt
        );
        Assert.Equal(HttpStatusCode.UnprocessableEntity, held.StatusCode);
        Assert.Contains(
            "It is on hold and in the cage",
            (await Visitor.ReadAsync(held)).Body!.TextContent,
            StringComparison.Ordinal
        );
        Assert.Contains(
            "The bow is bent",
            (await crew.PageAsync("/cage/HM-0002")).Body!.TextContent,
            StringComparison.Ordinal
        );
    }

    private static async Task<Guid> LastAsync(WebYard yard, Guid piece) =>
        (await yard.App.Services.GetRequiredService<InspectionStore>().SignedAsync(piece, Cancel))[0].Id;
}
