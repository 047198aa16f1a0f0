using System.Net;
using Keralith.Core.Gear;
using Keralith.Data;
using Keralith.Testing;
using Keralith.Web.Drawings;
using Keralith.Web.Pages.Rules;
using Xunit;

namespace Keralith.Web.Tests;

/// <summary>The rules place, the settings and what today's rules make of the register, as pages.</summary>
public class RulesPageTests
{
    [Fact]
    public async Task Every_criterion_has_its_drawn_place_and_stands_on_the_sheet_to_print()
    {
        await using var yard = await WebYard.OpenAsync();
        var auditor = await yard.SignedInAsync("auditor");
        var (shown, printed) = (new HashSet<string>(), new HashSet<string>());
        foreach (var family in GearFamilies.All)
        {
            Assert.True(GearDrawings.Has(family.Code), $"{family.Code} has no drawing");
            foreach (
                var id in (await auditor.PageAsync($"/rules/sheet?family={family.Code}")).QuerySelectorAll("td .mono")
            )
                printed.Add(id.TextContent);
            foreach (var stated in GearOf(family))
            {
                foreach (
                    var place in Catalogue
                        .PlacementOf(RuleExample.Of(family, stated), RuleBookShelf.All)
                        .Questions.Where(q =>
                            !q.Part.StartsWith("leg-2", StringComparison.Ordinal) && shown.Add(q.Criterion.Id)
                        )
                )
                {
                    var (criterion, more) = (place.Criterion, string.Concat(stated.Select(s => $"&{s.Key}={s.Value}")));
                    var page = await auditor.PageAsync(
                        $"/rules?family={family.Code}&part={place.Part}&criterion={criterion.Id}{more}"
                    );
                    Assert.Equal(criterion.Id, page.QuerySelector("#rule .mono")!.TextContent);
                    Assert.Single(page.QuerySelectorAll(".map g.is-active"));
                    Assert.Equal(RuleBookShelf.All.Count, page.QuerySelectorAll(".books tbody tr").Length);
                    Assert.Contains(
                        criterion.Source.Topic,
                        page.QuerySelector("#rule")!.TextContent,
                        StringComparison.Ordinal
                    );
                }
            }
        }

        // Policies are asked only where the site has them.
        Assert.Equal(["policy.latch", "policy.thimble"], Catalogue.All.Select(c => c.Id).Except(shown));
        Assert.True(printed.Count > 150);
    }

    [Theory]
    [InlineData("/rules?family=wire-rope-sling&termination=clips&part=leg-1&criterion=rope.clips")]
    [InlineData("/rules?family=powered-hoist&suspension=trolley&part=trolley&criterion=hoist.drift")]
    [InlineData("/rules?family=powered-hoist&medium=rope&part=load-rope&criterion=hoistrope.diameter")]
    [InlineData("/rules?family=lifting-clamp&kind=beam&part=body&criterion=clamp.screw")]
    public async Task Other_gear_of_a_family_shows_its_other_rules(string path)
    {
        await using var yard = await WebYard.OpenAsync();
        Assert.EndsWith(
            (await (await yard.SignedInAsync("crew")).PageAsync(path)).QuerySelector("#rule .mono")!.TextContent,
            path,
            StringComparison.Ordinal
        );
    }

    /// <summary>
    /// What the address may state of a family: nothing, then each choice of each attribute that changes its rules.
    /// </summary>
    private static IEnumerable<Dictionary<string, string>> GearOf(GearFamily family) =>
        family
            .Asks.Select(n => GearAttributes.Find(n)!)
            .SelectMany(a => family.ChoicesOf(a).Select(c => new Dictionary<string, string> { [a.Name] = c }))
            .Prepend([]);

    [Theory]
    [InlineData("/rules?family=anvil")]
    [InlineData("/rules?family=hook&part=tail")]
    [InlineData("/rules?family=hook&criterion=chain.crack")]
    public async Task What_is_not_there_is_not_found(string path)
    {
        await using var yard = await WebYard.OpenAsync();
        Assert.Equal(HttpStatusCode.NotFound, (await (await yard.SignedInAsync("crew")).GetAsync(path)).StatusCode);
    }

    [Fact]
    public async Task A_figure_tried_falls_differently_by_the_books_and_the_worst_of_the_sites_governs()
    {
        await using var yard = await WebYard.OpenAsync();
        var page = await (await yard.SignedInAsync("crew")).PageAsync(
            "/rules?family=hook&criterion=hook.throat&figure=1.45+in&baseline=1-3/8+in"
        );
        var outcomes = page.QuerySelectorAll(".books tbody tr")
            .ToDictionary(r => r.QuerySelector("b")!.TextContent, r => r.QuerySelector(".outcome")!.TextContent.Trim());
        Assert.Equal(
            ("remove", "clear", "remove", "remove", "clear"),
            (
                outcomes["ASME"],
                outcomes["OSHA general industry"],
                outcomes["Ontario construction"],
                outcomes["Australia"],
                outcomes["Europe"]
            )
        );
        Assert.Contains("ASME governs", page.QuerySelector("#rule")!.TextContent, StringComparison.Ordinal);
        Assert.Equal(RuleBookShelf.All.Count, page.QuerySelectorAll(".scale-limit").Length);
        Assert.Equal(RuleBookShelf.All.Count, page.QuerySelectorAll(".scale-tried").Length);
        Assert.Equal("The books differ", page.QuerySelector("caption")!.TextContent[..16]);
    }

    [Theory]
    [InlineData("figure=x")]
    [InlineData("figure=5")]
    [InlineData("figure=-1+in")]
    [InlineData("figure=1+in&baseline=0+in")]
    [InlineData("figure=1+in&baseline=%3Cscript%3E")]
    [InlineData("figure=1e9999+in")]
    [InlineData("size=99999999999999999999999+in&figure=1+in")]
    public async Task A_figure_that_is_none_is_refused_in_words_and_the_rules_still_stand(string query)
    {
        await using var yard = await WebYard.OpenAsync();
        var response = await (await yard.SignedInAsync("crew")).GetAsync(
            $"/rules?family=hook&criterion=hook.throat&{query}"
        );
        Assert.Equal(HttpStatusCode.OK, response.StatusCode);
        var page = await Visitor.ReadAsync(response);
        if (!query.StartsWith("size", StringComparison.Ordinal))
            Assert.NotEmpty(page.QuerySelectorAll(".fault"));
        Assert.Equal(RuleBookShelf.All.Count, page.QuerySelectorAll(".books tbody tr").Length);
        Assert.Empty(page.QuerySelectorAll("#rule script"));
    }

    [Fact]
    public async Task Settings_changed_on_the_page_show_in_the_rules_and_the_ledger()
    {
        await using var yard = await WebYard.OpenAsync();
        var admin = await yard.SignedInAsync("admin");
        var qualified = await yard.SignedInAsync("qualified");
        var books = await admin.SubmitAsync(
            "/settings",
            "form[action*=Books]",
            new()
            {
                ["book"] = "ontario",
                ["edition:ontario"] = "2024",
                ["reason"] = "A contract over there",
            }
        );
        Assert.Equal(HttpStatusCode.Redirect, books.StatusCode);
        Assert.Contains(
            "Ontario construction, edition 2024",
            (await admin.PageAsync("/rules?family=hook")).QuerySelector("main")!.TextContent,
            StringComparison.Ordinal
        );

        var laxer = await qualified.SubmitAsync(
            "/settings",
            "form[action*=Limit]",
            new()
            {
                ["criterion"] = "rope.broken-in-lay",
                ["figure"] = "7",
                ["reason"] = "Habit",
            }
        );
        Assert.Equal(HttpStatusCode.UnprocessableEntity, laxer.StatusCode);
        Assert.Contains(
            "not stricter",
            (await Visitor.ReadAsync(laxer)).QuerySelector("[role=alert]")!.TextContent,
            StringComparison.Ordinal
        );
        Assert.Equal(
            HttpStatusCode.Redirect,
            (
                await qualified.SubmitAsync(
                    "/settings",
                    "form[action*=Limit]",
                    new()
                    {
                        ["criterion"] = "rope.broken-in-lay",
                        ["figure"] = "3",
                        ["reason"] = "Ropes run over sharp copings here",
                    }
                )
            ).StatusCode
        );
        var rule = await qualified.PageAsync(
            "/rules?family=wire-rope-sling&part=leg-1&criterion=rope.broken-in-lay&figure=4"
        );
        Assert.Equal("This site", rule.QuerySelectorAll(".books tbody tr b").Last().TextContent);
        Assert.Contains(
            "This site",
            rule.QuerySelectorAll(".books tbody tr").Last().TextContent,
            StringComparison.Ordinal
        );
        Assert.Contains(
            "limit set",
            (await admin.PageAsync("/ledger")).QuerySelector("main")!.TextContent,
            StringComparison.Ordinal
        );
    }

    [Fact]
    public async Task The_register_is_judged_again_by_the_sites_books_or_by_others_on_trial()
    {
        await using var yard = await WebYard.OpenAsync();
        await yard.RegisterAsync(Seed.Sling("HM-0001"));
        var auditor = await yard.SignedInAsync("auditor");
        Assert.Contains(
            "Nothing would come out otherwise",
            (await auditor.PageAsync("/settings/again")).QuerySelector("main")!.TextContent,
            StringComparison.Ordinal
        );
        Assert.Contains(
            "A trial",
            (await auditor.PageAsync("/settings/again?book=ontario&book=nonsense")).QuerySelector("main")!.TextContent,
            StringComparison.Ordinal
        );
    }

    [Fact]
    public async Task A_piece_that_would_come_out_worse_today_says_so_on_its_page()
    {
        await using var yard = await WebYard.OpenAsync();
        await yard.RegisterAsync(Seed.With("HM-0008", "restraint"));
        var inspector = await yard.SignedInAsync("inspector");
        var draft = (
            await inspector.SubmitAsync("/piece/HM-0008", "form[action*=Inspect]", [])
        ).Headers.Location!.ToString();
        foreach (var part in new[] { "body", "whole" })
        {
            var questions = (await inspector.PageAsync($"{draft}?part={part}"))
                .QuerySelectorAll("[data-question]")
                .Select(q => q.GetAttribute("data-question")!);
            await inspector.SubmitAsync(
                $"{draft}?part={part}",
                "form[data-part]",
                questions.ToDictionary(q => $"{q}:answer", _ => "no")
            );
        }

        Assert.Equal(
            HttpStatusCode.Redirect,
            (
                await inspector.SubmitAsync($"{draft}/sign", "main form", new() { ["password"] = WebYard.Password })
            ).StatusCode
        );
        Assert.Empty((await inspector.PageAsync("/piece/HM-0008")).QuerySelectorAll("[role=note]"));

        // The record stands as signed; its case now reads as one that today is held.
        await using var owner = new Database(await TestDatabases.OwnerOfAsync(yard.ConnectionString));
        await using var less = owner.Command(
            "alter table inspection disable trigger user; update inspection set case_document = replace(case_document, 'any.doubt\",\"part\":\"whole\",\"answer\":\"no', 'any.doubt\",\"part\":\"whole\",\"answer\":\"unsure'); alter table inspection enable trigger user"
        );
        await less.ExecuteNonQueryAsync(TestContext.Current.CancellationToken);
        var note = (await inspector.PageAsync("/piece/HM-0008")).QuerySelector("[role=note]")!.TextContent;
        Assert.Contains("signed as fit, would come out hold", note, StringComparison.Ordinal);
    }

    [Fact]
    public async Task A_piece_page_says_what_its_marking_comes_to()
    {
        await using var yard = await WebYard.OpenAsync();
        var form = Seed.With(
            "HM-0009",
            "roundsling",
            ("circumference", "4 m"),
            ("coreFiber", "polyester"),
            ("colour", "violet")
        );
        await yard.RegisterAsync(form);
        var page = await (await yard.SignedInAsync("crew")).PageAsync("/piece/HM-0009");
        Assert.Contains(
            "The colour violet stands for 1 t; the tag says 2 t",
            page.QuerySelector(".remarks")!.TextContent,
            StringComparison.Ordinal
        );
        Assert.NotEmpty(page.QuerySelectorAll(".remarks .outcome-hold"));
    }
}
