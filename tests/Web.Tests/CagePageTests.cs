using System.Net;
using AngleSharp.Html.Dom;
using Keralith.Core.Judgement;
using Keralith.Core.Register;
using Keralith.Data;
using Keralith.Testing;
using Microsoft.Extensions.DependencyInjection;
using Xunit;

namespace Keralith.Web.Tests;

/// <summary>The pages on which gear is stopped, changed, checked and retired.</summary>
public class CagePageTests
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    [Fact]
    public async Task A_hold_needs_a_reason_and_shows_at_once_on_the_piece_the_wall_and_in_the_cage()
    {
        await using var yard = await WebYard.OpenAsync();
        await InServiceAsync(yard);
        var crew = await yard.SignedInAsync("crew");
        var empty = await crew.SubmitAsync("/piece/HM-0002/hold", "main form", new() { ["reason"] = "  " });
        Assert.Equal(HttpStatusCode.UnprocessableEntity, empty.StatusCode);
        Assert.Contains(
            "Write what is the matter",
            await empty.Content.ReadAsStringAsync(Cancel),
            StringComparison.Ordinal
        );
        Assert.Equal(
            HttpStatusCode.Redirect,
            (
                await crew.SubmitAsync("/piece/HM-0002/hold", "main form", new() { ["reason"] = "Ear looks <bent>" })
            ).StatusCode
        );
        Assert.Contains(
            "Ear looks <bent>",
            (await crew.PageAsync("/piece/HM-0002")).QuerySelector(".answer")!.TextContent,
            StringComparison.Ordinal
        );
        Assert.Contains(
            "hold",
            (await crew.PageAsync("/?store=1")).QuerySelector("a[href='/piece/HM-0002']")!.TextContent,
            StringComparison.Ordinal
        );
        var cage = (await crew.PageAsync("/cage")).QuerySelector("a[href='/cage/HM-0002']")!.TextContent;
        Assert.Contains("Since today", cage, StringComparison.Ordinal);
        Assert.Contains("Inspector's move", cage, StringComparison.Ordinal);
    }

    [Fact]
    public async Task A_new_tag_fitted_leads_on_to_reading_it_and_the_old_ones_words_stay()
    {
        await using var yard = await WebYard.OpenAsync();
        await InServiceAsync(yard);
        var qualified = await yard.SignedInAsync("qualified");
        Assert.Equal(
            HttpStatusCode.Redirect,
            (
                await qualified.SubmitAsync(
                    "/piece/HM-0002/hold",
                    "main form",
                    new() { ["reason"] = "Stamp worn off", ["cause"] = "marking" }
                )
            ).StatusCode
        );
        var fitted = await qualified.SubmitAsync(
            "/cage/HM-0002",
            "form[action*=Retag]",
            new() { ["proof"] = "Serial on the pin", ["fittedBy"] = "Pellow Forge" }
        );
        Assert.Equal("/piece/HM-0002/edit?retagged=true#tag", fitted.Headers.Location!.ToString());
        Assert.Contains(
            "Read it: change below",
            (await qualified.PageAsync("/piece/HM-0002/edit?retagged=true")).Body!.TextContent,
            StringComparison.Ordinal
        );
        Assert.Contains(
            "new tag fitted",
            (await qualified.PageAsync("/piece/HM-0002")).Body!.TextContent,
            StringComparison.Ordinal
        );
    }

    [Fact]
    public async Task The_same_hold_form_sent_five_times_is_one_hold()
    {
        await using var yard = await WebYard.OpenAsync();
        var piece = await InServiceAsync(yard);
        var crew = await yard.SignedInAsync("crew");
        var submission = Guid.NewGuid().ToString();
        var sent = await Task.WhenAll(
            Enumerable
                .Range(0, 5)
                .Select(_ =>
                    crew.PostAsync(
                        "/piece/HM-0002/hold",
                        new()
                        {
                            ["reason"] = "Bent",
                            ["cause"] = "doubt",
                            ["Submission"] = submission,
                        }
                    )
                )
        );
        Assert.All(sent, r => Assert.Equal(HttpStatusCode.Redirect, r.StatusCode));
        Assert.Single(await yard.App.Services.GetRequiredService<CustodyStore>().HoldsAsync(piece.Id, Cancel));
    }

    [Fact]
    public async Task Of_two_who_change_one_piece_the_second_keeps_what_was_typed_and_sees_what_stands_now()
    {
        await using var yard = await WebYard.OpenAsync();
        await yard.RegisterAsync(Seed.Shackle("HM-0002"));
        var first = await yard.SignedInAsync("stores");
        var second = await yard.SignedInAsync("inspector");
        var seen = (
            (IHtmlInputElement)(await second.PageAsync("/piece/HM-0002/edit")).QuerySelector("[name=version]")!
        ).Value;
        Assert.Equal(
            HttpStatusCode.Redirect,
            (await first.SubmitAsync("/piece/HM-0002/edit", "main form", new() { ["peg"] = "C3" })).StatusCode
        );
        var refused = await second.SubmitAsync(
            "/piece/HM-0002/edit",
            "main form",
            new() { ["peg"] = "D4", ["version"] = seen }
        );
        Assert.Equal(HttpStatusCode.Conflict, refused.StatusCode);
        var page = await Visitor.ReadAsync(refused);
        Assert.Equal("D4", ((IHtmlInputElement)page.QuerySelector("[name=peg]")!).Value);
        Assert.Contains("On record now: C3", page.QuerySelector("#fault-peg")!.TextContent, StringComparison.Ordinal);
        var knowingly = await second.PostAsync("/piece/HM-0002/edit", Fields(page), "/piece/HM-0002/edit");
        Assert.Equal(HttpStatusCode.Redirect, knowingly.StatusCode);
        Assert.Contains(
            "D4",
            (await second.PageAsync("/piece/HM-0002")).QuerySelector("main")!.TextContent,
            StringComparison.Ordinal
        );
    }

    [Fact]
    public async Task A_trainee_signs_for_countersignature_and_an_inspector_hands_back_or_countersigns()
    {
        await using var yard = await WebYard.OpenAsync();
        var piece = await yard.RegisterAsync(Seed.Shackle("HM-0002"));
        var trainee = await yard.SignedInAsync("trainee");
        var inspector = await yard.SignedInAsync("inspector");
        var draft = (await yard.DraftAsync(piece, "trainee", DateTimeOffset.UtcNow.AddMinutes(-5))).Draft;
        Assert.Equal(
            HttpStatusCode.Forbidden,
            (
                await trainee.PostAsync(
                    $"/inspect/{draft}/sign",
                    new() { ["version"] = "2", ["password"] = WebYard.Password },
                    $"/inspect/{draft}"
                )
            ).StatusCode
        );
        Assert.Equal(
            HttpStatusCode.UnprocessableEntity,
            (
                await trainee.SubmitAsync(
                    $"/inspect/{draft}/sign",
                    "form[action*=Offer]",
                    new() { ["password"] = "wrong" }
                )
            ).StatusCode
        );
        Assert.Equal(
            "/drafts",
            (
                await trainee.SubmitAsync(
                    $"/inspect/{draft}/sign",
                    "form[action*=Offer]",
                    new() { ["password"] = WebYard.Password }
                )
            ).Headers.Location!.ToString()
        );
        Assert.Contains(
            "New: not inspected yet",
            (await trainee.PageAsync("/piece/HM-0002")).Body!.TextContent,
            StringComparison.Ordinal
        );
        Assert.Contains(
            "signed by Test trainee, waits for countersignature",
            (await inspector.PageAsync("/drafts")).Body!.TextContent,
            StringComparison.Ordinal
        );

        await inspector.SubmitAsync(
            $"/inspect/{draft}/sign",
            "form[action*=HandBack]",
            new() { ["remark"] = "Measure the pin again" }
        );
        Assert.Contains(
            "Measure the pin again",
            (await trainee.PageAsync($"/inspect/{draft}/sign")).Body!.TextContent,
            StringComparison.Ordinal
        );
        await trainee.SubmitAsync(
            $"/inspect/{draft}/sign",
            "form[action*=Offer]",
            new() { ["password"] = WebYard.Password }
        );
        var signed = await inspector.SubmitAsync(
            $"/inspect/{draft}/sign",
            "main form",
            new() { ["password"] = WebYard.Password }
        );
        Assert.Equal($"/inspection/{draft}", signed.Headers.Location!.ToString());
        Assert.Contains(
            "Inspected by Test trainee",
            (await inspector.PageAsync($"/inspection/{draft}")).Body!.TextContent,
            StringComparison.Ordinal
        );
        Assert.Contains(
            "May be used",
            (await trainee.PageAsync("/piece/HM-0002")).QuerySelector(".answer")!.TextContent,
            StringComparison.Ordinal
        );
    }

    [Fact]
    public async Task A_clean_frequent_check_is_one_press_and_one_record_however_often_it_is_sent()
    {
        await using var yard = await WebYard.OpenAsync();
        var piece = await InServiceAsync(yard);
        var crew = await yard.SignedInAsync("crew");
        var id = Guid.NewGuid().ToString();
        for (var i = 0; i < 3; i++)
            Assert.Equal(
                HttpStatusCode.Redirect,
                (await crew.PostAsync("/piece/HM-0002/check", new() { ["Submission"] = id })).StatusCode
            );
        var signed = await yard.App.Services.GetRequiredService<InspectionStore>().SignedAsync(piece.Id, Cancel);
        Assert.Equal([InspectionKind.Frequent, InspectionKind.Initial], signed.Select(i => i.Kind));
    }

    [Fact]
    public async Task The_register_finds_by_a_fragment_and_by_state_and_says_so_when_nothing_matches()
    {
        await using var yard = await WebYard.OpenAsync();
        await InServiceAsync(yard);
        await yard.RegisterAsync(Seed.Sling("HM-0001"));
        var auditor = await yard.SignedInAsync("auditor");
        async Task<IEnumerable<string>> Marks(string query) =>
            (await auditor.PageAsync($"/register?{query}"))
                .QuerySelectorAll("tbody td.mark")
                .Select(c => c.TextContent);
        Assert.Equal(["HM-0001", "HM-0002"], (await Marks("q=hm-00")).Order());
        Assert.Equal(["HM-0001"], await Marks("q=orrery"));
        Assert.Equal(["HM-0001"], await Marks("state=new"));
        Assert.Equal(["HM-0002"], await Marks("family=shackle"));
        Assert.Empty(await Marks("q=%25"));
        Assert.Equal(["HM-0001"], await Marks("q=orery"));
        Assert.Contains(
            "The nearest spellings",
            (await auditor.PageAsync("/register?q=orery")).QuerySelector("[role=status]")!.TextContent,
            StringComparison.Ordinal
        );
        var narrowed = await auditor.PageAsync("/register?family=shackle");
        Assert.Equal("/register", narrowed.QuerySelector(".found aside a")!.GetAttribute("href"));
        Assert.Contains(
            "state=in-service",
            narrowed
                .QuerySelectorAll(".found aside a")
                .Select(a => a.GetAttribute("href"))
                .Single(h => h!.Contains("state=", StringComparison.Ordinal)),
            StringComparison.Ordinal
        );
        Assert.Contains(
            "Nothing in the register matches",
            (await auditor.PageAsync("/register?q=zzz")).QuerySelector("main")!.TextContent,
            StringComparison.Ordinal
        );
    }

    [Fact]
    public async Task A_serial_its_maker_used_before_is_warned_about()
    {
        await using var yard = await WebYard.OpenAsync();
        await yard.RegisterAsync(Seed.Sling("HM-0001"));
        var twin = Seed.Sling("HM-0003");
        twin["serial"] = "o-hm-0001";
        await yard.RegisterAsync(twin, by: "qualified");
        Assert.Contains(
            "HM-0001",
            (await (await yard.SignedInAsync("crew")).PageAsync("/piece/HM-0003"))
                .QuerySelector(".notice")!
                .TextContent,
            StringComparison.Ordinal
        );
    }

    [Fact]
    public async Task The_answer_to_may_I_use_it_names_the_rated_load_as_it_counts_here()
    {
        await using var yard = await WebYard.OpenAsync();
        await using (var books = yard.Database.Command("update site set rule_books = '{asme,ontario}'"))
            await books.ExecuteNonQueryAsync(Cancel);
        await yard.RegisterAsync(Seed.Sling("HM-0001"));
        await using (
            var accepted = yard.Database.Command(
                "update piece set state = 'in-service', verdict = 'fit', periodic_due = current_date + 30"
            )
        )
            await accepted.ExecuteNonQueryAsync(Cancel);
        var answer = (await (await yard.SignedInAsync("crew")).PageAsync("/piece/HM-0001"))
            .QuerySelector(".answer")!
            .TextContent.Replace('\u202F', ' ');
        Assert.Contains("9 760 lb (re-rated here)", answer, StringComparison.Ordinal);
        Assert.DoesNotContain("12200 lb", answer, StringComparison.Ordinal);
    }

    [Fact]
    public async Task The_ledger_is_checked_on_its_page()
    {
        await using var yard = await WebYard.OpenAsync();
        var ledger = new LedgerStore(yard.Database);
        var (begun, _) = await ledger.VerifyAsync(TestContext.Current.CancellationToken);
        await InServiceAsync(yard);
        var page = await Visitor.ReadAsync(
            await (await yard.SignedInAsync("auditor")).SubmitAsync("/ledger", "main form", [])
        );
        Assert.Contains(
            $"The chain is whole: {begun + 2} records",
            page.QuerySelector("[role=status]")!.TextContent,
            StringComparison.Ordinal
        );
    }

    private static Task<Piece> InServiceAsync(WebYard yard) =>
        yard.AcceptedAsync(Seed.Shackle("HM-0002"), DateTimeOffset.UtcNow.AddMinutes(-5));

    private static Dictionary<string, string> Fields(IHtmlDocument page)
    {
        var fields = new Dictionary<string, string>();
        foreach (var element in ((IHtmlFormElement)page.QuerySelector("main form")!).Elements)
        {
            if (
                element is IHtmlInputElement { Type: not ("checkbox" or "radio"), Name: { } name } input
                && name != "__RequestVerificationToken"
            )
                fields[name] = input.Value;
            else if (element is IHtmlInputElement { Type: "checkbox", IsChecked: true, Name: { } tick })
                fields[tick] = "true";
            else if (element is IHtmlSelectElement { Name: { } choice } select)
                fields[choice] = select.Value ?? string.Empty;
        }

        return fields;
    }
}
