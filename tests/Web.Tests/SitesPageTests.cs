using System.Net;
using Keralith.Core.Judgement;
using Keralith.Data;
using Keralith.Testing;
using Keralith.Web.Mailing;
using Microsoft.Extensions.DependencyInjection;
using Xunit;

namespace Keralith.Web.Tests;

/// <summary>Several sites, and people's own ways, over HTTP.</summary>
public class SitesPageTests
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    [Fact]
    public async Task A_site_is_added_given_rules_and_a_store_and_what_is_moved_there_stops_by_them()
    {
        await using var yard = await WebYard.OpenAsync();
        var admin = await yard.SignedInAsync("admin");
        Assert.Null((await admin.PageAsync("/settings")).QuerySelector("nav[aria-label=Sites]"));
        var refused = await admin.SubmitAsync(
            "/settings/stores",
            "form:has([name=timeZone])",
            new() { ["siteName"] = "North Quay", ["timeZone"] = "Nowhere" }
        );
        Assert.Equal(HttpStatusCode.UnprocessableEntity, refused.StatusCode);
        Assert.Equal(
            "North Quay",
            (await Visitor.ReadAsync(refused)).QuerySelector("details[open] [name=siteName]")!.GetAttribute("value")
        );
        var added = await admin.SubmitAsync(
            "/settings/stores",
            "form:has([name=timeZone])",
            new() { ["siteName"] = "North Quay", ["book"] = "asme" }
        );
        Assert.Equal(HttpStatusCode.Redirect, added.StatusCode);
        Assert.Equal(
            HttpStatusCode.Redirect,
            (
                await admin.SubmitAsync(
                    "/settings/stores",
                    "section form",
                    new() { ["name"] = "Quay Rack", ["at"] = "2" }
                )
            ).StatusCode
        );

        // Its rules are its own: another share, and a limit by a qualified person.
        var settings = await admin.PageAsync("/settings?site=2");
        Assert.Contains("North Quay", settings.QuerySelector("h1")!.TextContent, StringComparison.Ordinal);
        Assert.Equal("North Quay", settings.QuerySelector("nav[aria-label=Sites] [aria-current]")!.TextContent);
        await admin.SubmitAsync(
            "/settings?site=2",
            "form[action*=Books]",
            new() { ["watchShare"] = "50", ["reason"] = "Ours" }
        );
        var qualified = await yard.SignedInAsync("qualified");
        var limit = await qualified.SubmitAsync(
            "/settings?site=2",
            "form[action*=Limit]",
            new()
            {
                ["owner"] = "site",
                ["criterion"] = "shackle.wear-body",
                ["figure"] = "2 %",
                ["reason"] = "Salt",
            }
        );
        Assert.Equal("/settings?signed=true&site=2#limits", limit.Headers.Location?.ToString());
        var sites = (await yard.App.Services.GetRequiredService<SiteStore>().SitesAsync(Cancel))!;
        Assert.Equal((0.75m, 0.50m), (sites.Home.WatchShare, sites.Of(2).WatchShare));
        Assert.Equal((0, 1), (sites.Home.Limits.Count, sites.Of(2).Limits.Count));

        // A bow worn by 4 %: a watch here, out there.
        var at = DateTimeOffset.UtcNow.AddDays(-1);
        var shackle = await yard.AcceptedAsync(Seed.Shackle("HM-0001"), at, bow: "0.84 in");
        Assert.Equal(VerdictKind.Fit, shackle.Verdict ?? VerdictKind.Fit);
        var stores = await yard.SignedInAsync("stores");
        var rack = (await yard.App.Services.GetRequiredService<SiteStore>().StoresAsync(Cancel)).Single(s =>
            s.Site == 2
        );
        var moved = await stores.PostAsync(
            "/register/move",
            new()
            {
                ["marks"] = "HM-0001",
                ["store"] = $"{rack.Id}",
                ["peg"] = "N1",
                ["Submission"] = $"{Guid.NewGuid()}",
            }
        );
        Assert.Equal(HttpStatusCode.Redirect, moved.StatusCode);
        var page = (await stores.PageAsync("/piece/HM-0001")).QuerySelector("main")!.TextContent;
        Assert.Contains("Moved to North Quay", page, StringComparison.Ordinal);
        foreach (
            var path in new[]
            {
                "/rules?site=2",
                "/rules/sheet?site=2",
                "/season?site=2",
                "/settings/again?site=2",
                $"/?store={rack.Id}",
                "/register",
            }
        )
            Assert.Equal(HttpStatusCode.OK, (await qualified.GetAsync(path)).StatusCode);
    }

    [Fact]
    public async Task People_choose_their_mails_and_the_unit_of_a_bare_figure()
    {
        await using var yard = await WebYard.OpenAsync();
        var inspector = await yard.SignedInAsync("inspector");
        var reminders = yard.App.Services.GetRequiredService<Reminders>();
        Assert.Equal(4, await reminders.SendAsync(Guid.NewGuid(), Cancel));
        Assert.Equal(
            HttpStatusCode.Redirect,
            (await inspector.PostAsync("/account?handler=Mails", new() { ["mail"] = "notices" })).StatusCode
        );
        Assert.Equal(3, await reminders.SendAsync(Guid.NewGuid(), Cancel));
        var account = await inspector.PageAsync("/account");
        Assert.Equal(
            ["notices"],
            account.QuerySelectorAll("[name=mail][checked]").Select(i => i.GetAttribute("value"))
        );
        Assert.Equal(
            HttpStatusCode.BadRequest,
            (await inspector.PostAsync("/account?handler=Mails", new() { ["mail"] = "adverts" })).StatusCode
        );

        // Where neither a figure when new nor a size says it, the unit is the site's, then the person's.
        var fields = Seed.With(
            "HM-0001",
            "metal-mesh-sling",
            ("width", "100 mm"),
            ("gauge", "medium"),
            ("coating", "none")
        );
        foreach (var name in fields.Keys.Where(k => k.Contains("baseline", StringComparison.Ordinal)).ToList())
            fields.Remove(name);
        var piece = await yard.RegisterAsync(fields);
        Assert.Equal("mm", await UnitAsync());
        await inspector.PostAsync("/account?handler=Unit", new() { ["unit"] = "in" });
        Assert.Equal("in", await UnitAsync());
        await inspector.PostAsync("/account?handler=Unit", new() { ["unit"] = "" });
        Assert.Equal("mm", await UnitAsync());
        Assert.Equal(
            HttpStatusCode.BadRequest,
            (await inspector.PostAsync("/account?handler=Unit", new() { ["unit"] = "span" })).StatusCode
        );

        async Task<string?> UnitAsync()
        {
            var begun = await inspector.PostAsync(
                $"/piece/{piece.Mark}?handler=Inspect",
                new() { ["kind"] = "initial", ["Submission"] = $"{Guid.NewGuid()}" },
                $"/piece/{piece.Mark}"
            );
            var first = begun.Headers.Location!.ToString();
            var parts = (await inspector.PageAsync(first))
                .QuerySelectorAll("main a[href*='part=']")
                .Select(a => a.GetAttribute("href")!)
                .Distinct();
            foreach (var part in parts.Prepend(first))
            {
                if ((await inspector.PageAsync(part)).QuerySelector("[data-field=unit][checked]") is { } chosen)
                    return chosen.GetAttribute("value");
            }

            return null;
        }
    }

    [Fact]
    public async Task A_question_of_the_sites_own_is_set_asked_shown_with_the_rules_and_withdrawn()
    {
        await using var yard = await WebYard.OpenAsync();
        await yard.RegisterAsync(Seed.Sling("HM-0001"));
        var qualified = await yard.SignedInAsync("qualified");
        var form = new Dictionary<string, string>
        {
            ["part"] = "tag",
            ["kind"] = "see",
            ["askedIn"] = "periodic",
            ["onFault"] = "hold",
            ["title"] = "Repair label",
            ["question"] = "The repair label is missing.",
            ["look"] = "On the master link.",
            ["source"] = "Works policy 4",
            ["reason"] = "",
        };
        const string Page = "/settings/questions?family=alloy-chain-sling";
        var refused = await qualified.SubmitAsync(Page, "form:has([name=title])", form);
        Assert.Equal(HttpStatusCode.UnprocessableEntity, refused.StatusCode);
        var shown = await Visitor.ReadAsync(refused);
        Assert.Contains("why it is asked", shown.QuerySelector("[role=alert]")!.TextContent, StringComparison.Ordinal);
        Assert.Equal("Repair label", shown.QuerySelector("[name=title]")!.GetAttribute("value"));
        form["reason"] = "Repairs must be told";
        Assert.Equal(
            HttpStatusCode.Redirect,
            (await qualified.SubmitAsync(Page, "form:has([name=title])", form)).StatusCode
        );
        var inspector = await yard.SignedInAsync("inspector");
        Assert.Contains("Repair label", (await inspector.PageAsync("/settings/questions")).Body!.TextContent);
        Assert.Null((await inspector.PageAsync("/settings/questions")).QuerySelector("[name=title]"));
        Assert.Contains(
            "Repair label",
            (await inspector.PageAsync("/rules?family=alloy-chain-sling&part=tag")).Body!.TextContent
        );
        Assert.Contains(
            "Works policy 4",
            (await inspector.PageAsync("/rules/sheet?family=alloy-chain-sling")).Body!.TextContent
        );
        Assert.Equal(
            HttpStatusCode.Redirect,
            (
                await qualified.SubmitAsync(
                    "/settings/questions",
                    "form:has([name=question])",
                    new() { ["reason"] = "Closed" }
                )
            ).StatusCode
        );
        Assert.Contains("Closed", (await inspector.PageAsync("/settings/questions")).Body!.TextContent);
    }
}
