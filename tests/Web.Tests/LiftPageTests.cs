using System.Net;
using Keralith.Core.Lifts;
using Keralith.Testing;
using Xunit;

namespace Keralith.Web.Tests;

/// <summary>The lift bench and the pages around it.</summary>
public class LiftPageTests
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    [Fact]
    public async Task A_lift_is_put_together_checked_signed_handed_out_and_ended()
    {
        await using var yard = await WebYard.OpenAsync();
        await RoundslingAsync(yard, "HM-0101");
        await RoundslingAsync(yard, "HM-0102");
        var crew = await yard.SignedInAsync("crew");
        var lift = await BegunAsync(crew);
        Assert.Contains(
            "leg 1 has no sling yet",
            (await crew.PageAsync(lift)).Body!.TextContent.ToLowerInvariant(),
            StringComparison.Ordinal
        );
        foreach (var mark in new[] { "hm-0101", "HM-0102" })
            Assert.StartsWith(
                lift,
                (await AddAsync(crew, lift, mark)).Headers.Location!.ToString(),
                StringComparison.Ordinal
            );
        var page = await crew.PageAsync(lift);
        Assert.Contains("carried", page.QuerySelector("section.answer")!.TextContent, StringComparison.Ordinal);
        Assert.Contains("HM-0101", page.QuerySelector("[data-weakest]")!.TextContent, StringComparison.Ordinal);
        Assert.Equal(2, page.QuerySelectorAll(".lift-force").Length / 2);
        Assert.Contains("60 deg", page.Body!.TextContent, StringComparison.Ordinal);

        // Nothing goes out before every item is answered.
        var half = await crew.PostAsync(
            $"{lift}/ready?handler=Check",
            Fields(page, ("done", "weight")),
            $"{lift}/ready"
        );
        Assert.Equal(HttpStatusCode.UnprocessableEntity, half.StatusCode);
        Assert.Contains(
            "Not answered yet",
            (await Visitor.ReadAsync(half)).Body!.TextContent,
            StringComparison.Ordinal
        );
        Assert.Equal(HttpStatusCode.Redirect, (await CheckAsync(crew, lift)).StatusCode);
        Assert.Equal(
            HttpStatusCode.Forbidden,
            (
                await crew.PostAsync($"{lift}/ready?handler=Issue", Fields(page, ("holder", "Maud")), $"{lift}/ready")
            ).StatusCode
        );
        var stores = await yard.SignedInAsync("stores");
        Assert.Equal(
            HttpStatusCode.Redirect,
            (await stores.SubmitAsync($"{lift}/ready", "form[action*=Issue]", new() { ["holder"] = "Maud" })).StatusCode
        );
        Assert.Contains(
            "Out with Maud",
            (await crew.PageAsync("/piece/HM-0101")).Body!.TextContent,
            StringComparison.Ordinal
        );
        Assert.Contains("with Maud", (await crew.PageAsync("/?only=out")).Body!.TextContent, StringComparison.Ordinal);
        var unsaid = await crew.SubmitAsync($"{lift}/ready", "form[action*=Trial]", []);
        Assert.Equal(HttpStatusCode.UnprocessableEntity, unsaid.StatusCode);
        // A trial lift that was not level sends it back: checked again, its gear is out already.
        await StepAsync(crew, lift, "Trial", ("level", "no"), ("links", "leg 2: 3"));
        Assert.Empty(
            (await crew.PageAsync($"{lift}/ready")).QuerySelectorAll("form[action*=Trial], form[action*='=End']")
        );
        Assert.Equal(HttpStatusCode.Redirect, (await CheckAsync(crew, lift)).StatusCode);
        await StepAsync(stores, lift, "Issue", ("holder", "Maud"));
        await StepAsync(crew, lift, "Trial", ("level", "yes"));
        await StepAsync(crew, lift, "End", ("note", "landed"));
        Assert.Contains("leg 2: 3", (await crew.PageAsync(lift)).Body!.TextContent, StringComparison.Ordinal);
        Assert.Equal(
            HttpStatusCode.Redirect,
            (await stores.SubmitAsync("/piece/HM-0101/yard", "form[action*=Return]", [])).StatusCode
        );
    }

    [Theory]
    [InlineData("Add", "add", "HM-9999")]
    [InlineData("Chart?of=crane", "chart-lines", "no chart")]
    public async Task What_was_typed_with_a_refused_press_is_kept(string handler, string field, string value)
    {
        await using var yard = await WebYard.OpenAsync();
        var crew = await yard.SignedInAsync("crew");
        var lift = await BegunAsync(crew, ("legs", "1"), ("angle", "90"));
        var refused = await PressAsync(crew, lift, handler.Replace('?', '&'), (field, value), ("angle", "75"));
        Assert.Equal(HttpStatusCode.UnprocessableEntity, refused.StatusCode);
        var shown = await Visitor.ReadAsync(refused);
        var kept = await crew.PageAsync(lift);
        foreach (var page in new[] { shown, kept })
            Assert.Equal("75", page.QuerySelector("input[name=angle]")!.GetAttribute("value"));

        // The refused page goes on from what was kept: its version is that of the plan.
        Assert.Equal(
            kept.QuerySelector("form.bench-form input[name=version]")!.GetAttribute("value"),
            shown.QuerySelector("form.bench-form input[name=version]")!.GetAttribute("value")
        );
    }

    [Fact]
    public async Task What_may_not_be_used_is_not_put_on_and_what_is_held_later_shows()
    {
        await using var yard = await WebYard.OpenAsync();
        await RoundslingAsync(yard, "HM-0101");
        await yard.RegisterAsync(Seed.Shackle("HM-0200"));
        var crew = await yard.SignedInAsync("crew");
        var lift = await BegunAsync(crew, ("legs", "1"), ("angle", "90"));
        foreach (
            var (mark, said) in new[]
            {
                ("HM-0200", "can\u0027t be put on a lift"),
                ("HM-9999", "There is no piece"),
                ("<script>", "There is no piece"),
            }
        )
        {
            var refused = await AddAsync(crew, lift, mark);
            Assert.Equal(HttpStatusCode.UnprocessableEntity, refused.StatusCode);
            Assert.Contains(
                said,
                (await Visitor.ReadAsync(refused)).QuerySelector("[role=alert]")!.TextContent,
                StringComparison.Ordinal
            );
        }

        await AddAsync(crew, lift, "HM-0101");
        await (await yard.SignedInAsync("stores")).SubmitAsync(
            "/piece/HM-0101/hold",
            "main form",
            new() { ["reason"] = "cover cut" }
        );
        Assert.Contains(
            "not permitted",
            (await crew.PageAsync(lift)).QuerySelector("section.answer")!.TextContent,
            StringComparison.Ordinal
        );
        Assert.Contains(
            "HM-0101 on your lift",
            (await crew.PageAsync("/lift")).Body!.TextContent,
            StringComparison.Ordinal
        );
        Assert.Contains(
            "Gate leaf",
            (await crew.PageAsync("/piece/HM-0101")).Body!.TextContent,
            StringComparison.Ordinal
        );
        Assert.Equal(HttpStatusCode.UnprocessableEntity, (await CheckAsync(crew, lift)).StatusCode);
        await crew.SubmitAsync("/lift", "form[action*=Seen]", []);
        Assert.DoesNotContain(
            "HM-0101 on your lift",
            (await crew.PageAsync("/lift")).Body!.TextContent,
            StringComparison.Ordinal
        );
    }

    [Fact]
    public async Task A_critical_lift_waits_for_a_qualified_persons_signature_and_password()
    {
        await using var yard = await WebYard.OpenAsync();
        await RoundslingAsync(yard, "HM-0101");
        var crew = await yard.SignedInAsync("crew");
        var lift = await BegunAsync(crew, ("legs", "1"), ("angle", "90"), ("critical", "true"));
        await AddAsync(crew, lift, "HM-0101");
        await CheckAsync(crew, lift);
        Assert.Null(
            (await (await yard.SignedInAsync("stores")).PageAsync($"{lift}/ready")).QuerySelector("form[action*=Issue]")
        );
        var qualified = await yard.SignedInAsync("qualified");
        Assert.Equal(
            HttpStatusCode.UnprocessableEntity,
            (
                await qualified.SubmitAsync($"{lift}/ready", "form[action*=Sign]", new() { ["password"] = "wrong" })
            ).StatusCode
        );
        Assert.Equal(
            HttpStatusCode.Redirect,
            (
                await qualified.SubmitAsync(
                    $"{lift}/ready",
                    "form[action*=Sign]",
                    new() { ["password"] = WebYard.Password }
                )
            ).StatusCode
        );
        Assert.NotNull(
            (await (await yard.SignedInAsync("stores")).PageAsync($"{lift}/ready")).QuerySelector("form[action*=Issue]")
        );
    }

    [Fact]
    public async Task Each_change_is_worked_out_and_kept_and_an_old_page_writes_over_nothing()
    {
        await using var yard = await WebYard.OpenAsync();
        await RoundslingAsync(yard, "HM-0101");
        var crew = await yard.SignedInAsync("crew");
        var lift = await BegunAsync(crew, ("legs", "1"), ("angle", "90"));
        await AddAsync(crew, lift, "HM-0101");
        var worked = await crew.SubmitAsync(lift, "form.bench-form", new() { ["weight"] = "3 t" });
        Assert.Equal(HttpStatusCode.Redirect, worked.StatusCode);
        Assert.Contains(
            "overloaded",
            (await crew.PageAsync(lift)).QuerySelector("section.answer")!.TextContent,
            StringComparison.Ordinal
        );
        Assert.Contains("What would help", (await crew.PageAsync(lift)).Body!.TextContent, StringComparison.Ordinal);

        var live = await WorkAsync(crew, lift, ("weight", "1 t"));
        Assert.Contains("carried", await live.Content.ReadAsStringAsync(Cancel), StringComparison.Ordinal);
        Assert.Equal("5", live.Headers.GetValues("X-Lift-Version").Single());
        var old = await crew.PostAsync(
            $"{lift}?handler=Work",
            new()
            {
                ["version"] = "2",
                ["weight"] = "9 t",
                ["basis"] = "known",
            },
            lift
        );
        Assert.Contains(
            "Somebody else has changed this lift",
            await old.Content.ReadAsStringAsync(Cancel),
            StringComparison.Ordinal
        );
        Assert.Contains(
            "1 t",
            (await crew.PageAsync(lift)).QuerySelector("input[name=weight]")!.GetAttribute("value"),
            StringComparison.Ordinal
        );
    }

    [Theory]
    [InlineData("weight", "3 ton")]
    [InlineData("weight", "-1 kg")]
    [InlineData("angle", "NaN")]
    [InlineData("angle", "0")]
    [InlineData("legs", "9")]
    [InlineData("temperature", "=1+1")]
    [InlineData("weight", "99999999999999999999 kg")]
    [InlineData("name", "<script>alert(1)</script>")]
    public async Task Whatever_is_typed_on_the_bench_is_answered_in_words(string field, string typed)
    {
        await using var yard = await WebYard.OpenAsync();
        var crew = await yard.SignedInAsync("crew");
        var lift = await BegunAsync(crew);
        var response = await WorkAsync(crew, lift, (field, typed));
        Assert.Equal(HttpStatusCode.OK, response.StatusCode);
        Assert.DoesNotContain("<script>", await response.Content.ReadAsStringAsync(Cancel), StringComparison.Ordinal);
        Assert.Equal(
            typed,
            (await crew.PageAsync(lift)).QuerySelector($"[name={field}]")?.GetAttribute("value") ?? typed
        );
        Assert.True((await crew.GetAsync($"{lift}/plan")).IsSuccessStatusCode);
    }

    [Fact]
    public async Task The_search_lists_what_will_do_and_puts_it_on()
    {
        await using var yard = await WebYard.OpenAsync();
        await RoundslingAsync(yard, "HM-0101");
        var held = await RoundslingAsync(yard, "HM-0102");
        var crew = await yard.SignedInAsync("crew");
        await (await yard.SignedInAsync("stores")).SubmitAsync(
            $"/piece/{held}/hold",
            "main form",
            new() { ["reason"] = "cover cut" }
        );
        var lift = await BegunAsync(crew, ("legs", "1"), ("angle", "90"));
        var page = await crew.PageAsync($"{lift}/gear?family=roundsling");
        Assert.Contains("HM-0101", page.QuerySelector("table")!.TextContent, StringComparison.Ordinal);
        Assert.DoesNotContain("HM-0102", page.QuerySelector("table")!.TextContent, StringComparison.Ordinal);
        Assert.Contains("On hold", page.Body!.TextContent, StringComparison.Ordinal);
        Assert.Equal(
            HttpStatusCode.Redirect,
            (await crew.SubmitAsync($"{lift}/gear?family=roundsling", "td form", [])).StatusCode
        );
        Assert.Contains(
            "HM-0101",
            (await crew.PageAsync(lift)).QuerySelector("[data-weakest]")!.TextContent,
            StringComparison.Ordinal
        );
        Assert.Equal(HttpStatusCode.NotFound, (await crew.GetAsync($"{lift}/gear?family=restraint")).StatusCode);
        Assert.Equal(HttpStatusCode.NotFound, (await crew.GetAsync($"{lift}/gear?family=anvil")).StatusCode);
        Assert.Contains(
            "\"format\": \"keralith.lift/1\"",
            await (await crew.GetAsync($"{lift}/document.json")).Content.ReadAsStringAsync(Cancel),
            StringComparison.Ordinal
        );
    }

    [Fact]
    public async Task A_template_begins_a_lift_without_its_gear()
    {
        await using var yard = await WebYard.OpenAsync();
        await RoundslingAsync(yard, "HM-0101");
        var crew = await yard.SignedInAsync("crew");
        var lift = await BegunAsync(crew, ("legs", "1"), ("angle", "90"));
        await AddAsync(crew, lift, "HM-0101");
        await crew.SubmitAsync(lift, "form[action*=Template]", []);
        var list = await crew.PageAsync("/lift");
        Assert.Contains(
            "Gate leaf",
            list.QuerySelector("form[action*=Begin] .text-left")!.TextContent,
            StringComparison.Ordinal
        );
        var begun = await crew.SubmitAsync("/lift", "form[action*=Begin]:has(.text-left)", []);
        Assert.DoesNotContain(
            "HM-0101",
            (await crew.PageAsync(begun.Headers.Location!.ToString())).Body!.TextContent,
            StringComparison.Ordinal
        );
    }

    [Fact]
    public async Task Who_only_looks_sees_the_bench_and_changes_nothing()
    {
        await using var yard = await WebYard.OpenAsync();
        var lift = await BegunAsync(await yard.SignedInAsync("crew"));
        var auditor = await yard.SignedInAsync("auditor");
        Assert.NotNull((await auditor.PageAsync(lift)).QuerySelector("form.bench-form fieldset[disabled]"));
        foreach (var handler in new[] { "Work", "Save", "Add", "Weigh", "Template" })
            Assert.Equal(
                HttpStatusCode.Forbidden,
                (await auditor.PostAsync($"{lift}?handler={handler}", [], "/account")).StatusCode
            );
        foreach (var handler in new[] { "Check", "Sign", "Issue", "Trial", "End" })
            Assert.Equal(
                HttpStatusCode.Forbidden,
                (await auditor.PostAsync($"{lift}/ready?handler={handler}", [], "/account")).StatusCode
            );
    }

    [Fact]
    public async Task Without_a_load_cell_the_page_says_so_and_nothing_is_weighed()
    {
        await using var yard = await WebYard.OpenAsync();
        var crew = await yard.SignedInAsync("crew");
        Assert.Contains(
            "No load cell is connected",
            (await crew.PageAsync("/lift/cell")).Body!.TextContent,
            StringComparison.Ordinal
        );
        var lift = await BegunAsync(crew);
        Assert.Equal(
            HttpStatusCode.UnprocessableEntity,
            (await crew.PostAsync($"{lift}?handler=Weigh", new() { ["version"] = "2" }, lift)).StatusCode
        );
    }

    private static async Task<string> RoundslingAsync(WebYard yard, string mark)
    {
        var form = Seed.With(
            mark,
            "roundsling",
            ("coreFiber", "polyester"),
            ("coverFiber", "polyester"),
            ("circumference", "4 m"),
            ("ratedHitch", "vertical"),
            ("ratedLoad", "2 t"),
            ("designFactor", "7")
        );
        await yard.AcceptedAsync(form, DateTimeOffset.UtcNow.AddDays(-10));
        return mark;
    }

    [Fact]
    public async Task A_load_on_two_cranes_is_worked_out_and_a_chart_is_changed_figure_by_figure()
    {
        await using var yard = await WebYard.OpenAsync();
        await RoundslingAsync(yard, "HM-0101");
        await RoundslingAsync(yard, "HM-0102");
        var crew = await yard.SignedInAsync("crew");
        var lift = await BegunAsync(crew, ("unit", "m"));
        var taken = await PressAsync(
            crew,
            lift,
            "Chart",
            ("chart-lines", "main,10 m,4 m,9000 kg\nmain,10 m,8 m,4000 kg")
        );
        Assert.Equal(HttpStatusCode.Redirect, taken.StatusCode);
        (string, string)[] two =
        [
            ("stand", "cranes"),
            ("crane-configuration", "main"),
            ("crane-boom", "10 m"),
            ("crane-pick", "8"),
            ("second-configuration", "main"),
            ("second-boom", "10 m"),
            ("second-pick", "4"),
            ("hook-1-at", "-2"),
            ("hook-2-at", "3"),
            ("hooks-along", "0"),
        ];
        await WorkAsync(crew, lift, two);
        foreach (var mark in new[] { "HM-0101", "HM-0102" })
            await AddAsync(crew, lift, mark);
        var page = await crew.PageAsync(lift);
        Assert.Contains("ask", page.QuerySelector("section.answer")!.TextContent, StringComparison.Ordinal);
        Assert.Matches(@"Crane 2: gross 9\s000\skg at 4 m", page.Body!.TextContent);
        Assert.Equal(3, page.QuerySelectorAll("svg.lift-drawing").Length);

        Assert.Equal(
            HttpStatusCode.UnprocessableEntity,
            (
                await PressAsync(
                    crew,
                    lift,
                    "Figure",
                    ("figure-boom", "10 m"),
                    ("figure-radius", "6 m"),
                    ("figure-capacity", "9500 kg")
                )
            ).StatusCode
        );
        await PressAsync(
            crew,
            lift,
            "Figure",
            ("figure-boom", "10 m"),
            ("figure-radius", "6 m"),
            ("figure-capacity", "6000 kg")
        );
        Assert.Equal(3, (await crew.PageAsync(lift)).QuerySelectorAll("button[name=figure-off]").Length);
        await PressAsync(crew, lift, "Figure", ("figure-off", "0"));
        page = await crew.PageAsync(lift);
        Assert.Equal(2, page.QuerySelectorAll("button[name=figure-off]").Length);
        Assert.Contains("lies outside the chart", page.Body!.TextContent, StringComparison.Ordinal);
    }

    private static async Task<string> BegunAsync(Visitor visitor, params (string Name, string Value)[] typed)
    {
        var lift = (await visitor.SubmitAsync("/lift", "form[action*=Begin]", [])).Headers.Location!.ToString();
        var fields = new Dictionary<string, string>
        {
            ["name"] = "Gate leaf",
            ["basis"] = "known",
            ["weight"] = "1200 kg",
            ["massUnit"] = "kg",
            ["stand"] = "alike",
            ["hitch"] = "vertical",
        };
        foreach (var (name, value) in typed)
            fields[name] = value;
        Assert.Equal(HttpStatusCode.Redirect, (await visitor.SubmitAsync(lift, "form.bench-form", fields)).StatusCode);
        return lift;
    }

    /// <summary>The bench's form as it stands, sent to one of its presses.</summary>
    private static async Task<HttpResponseMessage> PressAsync(
        Visitor visitor,
        string lift,
        string handler,
        params (string Name, string Value)[] typed
    )
    {
        var page = await visitor.PageAsync(lift);
        var fields = page.QuerySelectorAll(
                "form.bench-form input:not([type=radio]):not([type=checkbox]), form.bench-form input:checked"
            )
            .Where(i => i.GetAttribute("name") is not null)
            .Select(i => (Name: i.GetAttribute("name")!, Value: i.GetAttribute("value") ?? string.Empty))
            .Concat(
                page.QuerySelectorAll("form.bench-form select")
                    .Select(s =>
                        (
                            Name: s.GetAttribute("name")!,
                            Value: s.QuerySelector("option[selected]")?.GetAttribute("value") ?? string.Empty
                        )
                    )
            )
            .Where(f => f.Name != "__RequestVerificationToken")
            .ToDictionary(f => f.Name, f => f.Value);
        foreach (var (name, value) in typed)
            fields[name] = value;
        return await visitor.PostAsync($"{lift}?handler={handler}", fields, lift);
    }

    private static Task<HttpResponseMessage> AddAsync(Visitor visitor, string lift, string mark) =>
        PressAsync(visitor, lift, "Add", ("add", mark));

    private static Task<HttpResponseMessage> WorkAsync(
        Visitor visitor,
        string lift,
        params (string Name, string Value)[] typed
    ) => PressAsync(visitor, lift, "Work", typed);

    private static async Task StepAsync(
        Visitor visitor,
        string lift,
        string handler,
        params (string Name, string Value)[] fields
    ) =>
        Assert.Equal(
            HttpStatusCode.Redirect,
            (
                await visitor.SubmitAsync(
                    $"{lift}/ready",
                    $"form[action*='={handler}']",
                    fields.ToDictionary(f => f.Name, f => f.Value)
                )
            ).StatusCode
        );

    private static async Task<HttpResponseMessage> CheckAsync(Visitor visitor, string lift)
    {
        var page = await visitor.PageAsync(lift);
        var request = new HttpRequestMessage(HttpMethod.Post, $"{lift}/ready?handler=Check")
        {
            Content = new FormUrlEncodedContent([
                .. LiftChecklist.Every.Select(i => new KeyValuePair<string, string>("done", i.Code)),
                .. Fields(page),
                new("__RequestVerificationToken", await visitor.TokenAsync($"{lift}/ready")),
            ]),
        };
        return await visitor.SendAsync(request);
    }

    private static Dictionary<string, string> Fields(
        AngleSharp.Html.Dom.IHtmlDocument bench,
        params (string Name, string Value)[] more
    )
    {
        var fields = new Dictionary<string, string>
        {
            ["version"] = bench.QuerySelector("input[name=version]")!.GetAttribute("value")!,
            ["Submission"] = Guid.NewGuid().ToString(),
        };
        foreach (var (name, value) in more)
            fields[name] = value;
        return fields;
    }
}
