using System.Net;
using Keralith.Core.Judgement;
using Keralith.Data;
using Keralith.Testing;
using Microsoft.Extensions.DependencyInjection;
using Xunit;

namespace Keralith.Web.Tests;

/// <summary>The pages of the day's work: due, season, events, people, instruments, certificates.</summary>
public class WorkPageTests
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    [Fact]
    public async Task What_is_due_stands_on_its_page_and_in_the_calendar_of_whoever_has_the_address()
    {
        await using var yard = await WebYard.OpenAsync();
        await yard.AcceptedAsync(Seed.Shackle("HM-0002"), DateTimeOffset.UtcNow.AddDays(-355));
        var inspector = await yard.SignedInAsync("inspector");
        var page = await inspector.PageAsync("/due");
        Assert.Contains("HM-0002", page.Body!.TextContent, StringComparison.Ordinal);
        Assert.Contains("Test inspector", page.QuerySelector("aside")!.TextContent, StringComparison.Ordinal);
        Assert.DoesNotContain(
            "HM-0002",
            (await inspector.PageAsync("/due?family=hook")).QuerySelector("main")!.TextContent,
            StringComparison.Ordinal
        );

        var made = await Visitor.ReadAsync(await inspector.SubmitAsync("/due", "form[action*=Feed]", []));
        var feed = new Uri(made.QuerySelector("#feed")!.TextContent).AbsolutePath;
        var calendar = await yard.Visitor().GetAsync(feed);
        Assert.Equal("text/calendar", calendar.Content.Headers.ContentType!.MediaType);
        var text = await calendar.Content.ReadAsStringAsync(Cancel);
        Assert.Contains("BEGIN:VEVENT", text, StringComparison.Ordinal);
        Assert.Contains("HM-0002", text, StringComparison.Ordinal);
        Assert.Equal(
            HttpStatusCode.NotFound,
            (await yard.Visitor().GetAsync($"/due/{new string('a', 48)}.ics")).StatusCode
        );

        // A new address ends the old one.
        await inspector.SubmitAsync("/due", "form[action*=Feed]", []);
        Assert.Equal(HttpStatusCode.NotFound, (await yard.Visitor().GetAsync(feed)).StatusCode);
    }

    [Fact]
    public async Task Who_signs_is_reminded_of_what_is_due_by_a_mail_that_can_be_opened()
    {
        await using var yard = await WebYard.OpenAsync();
        await yard.AcceptedAsync(Seed.Shackle("HM-0002"), DateTimeOffset.UtcNow.AddDays(-355));
        var inspector = await yard.SignedInAsync("inspector");
        var before = (await inspector.PageAsync("/due/outbox"))
            .QuerySelectorAll("a[href$='.eml']")
            .Select(a => a.GetAttribute("href")!)
            .ToHashSet();
        Assert.Equal(HttpStatusCode.Redirect, (await inspector.SubmitAsync("/due/outbox", "main form", [])).StatusCode);
        var mails = (await inspector.PageAsync("/due/outbox"))
            .QuerySelectorAll("a[href$='.eml']")
            .Select(a => a.GetAttribute("href")!)
            .ToList();
        var mail = await inspector.GetAsync(mails.First(m => !before.Contains(m)));
        var text = await mail.Content.ReadAsStringAsync(Cancel);
        Assert.Contains("Subject:", text, StringComparison.Ordinal);
        Assert.Contains("@hollowmere.invalid", text, StringComparison.Ordinal);
        Assert.Equal(
            HttpStatusCode.NotFound,
            (await inspector.GetAsync("/due/outbox/..%2f..%2fsecret.eml")).StatusCode
        );
    }

    [Fact]
    public async Task A_season_is_set_painted_and_printed()
    {
        await using var yard = await WebYard.OpenAsync();
        await yard.AcceptedAsync(Seed.Shackle("HM-0002"), DateTimeOffset.UtcNow.AddDays(-10));
        await yard.RegisterAsync(Seed.Shackle("HM-0003"));
        var qualified = await yard.SignedInAsync("qualified");
        var scheme = new Dictionary<string, string>
        {
            ["lines"] = "V heather ring\nM moss dots",
            ["months"] = "12",
            ["first"] = $"{DateTime.UtcNow.Year - 1}-01-01",
            ["overlap"] = "14",
            ["reason"] = "New scheme",
        };
        var refused = await qualified.SubmitAsync(
            "/season",
            "form[action*=Scheme]",
            new(scheme) { ["lines"] = "V tartan ring\nM moss dots" }
        );
        Assert.Equal(HttpStatusCode.UnprocessableEntity, refused.StatusCode);
        Assert.Contains(
            "no paint tartan",
            (await Visitor.ReadAsync(refused)).Body!.TextContent,
            StringComparison.Ordinal
        );
        Assert.Equal(
            HttpStatusCode.Redirect,
            (await qualified.SubmitAsync("/season", "form[action*=Scheme]", scheme)).StatusCode
        );
        Assert.Contains("0 of 1", (await qualified.PageAsync("/season")).Body!.TextContent, StringComparison.Ordinal);

        var tooEarly = await qualified.SubmitAsync(
            "/season",
            "form[action*=Paint]",
            new() { ["marks"] = "HM-0002\nHM-0003" }
        );
        Assert.Equal(HttpStatusCode.UnprocessableEntity, tooEarly.StatusCode);
        Assert.Contains(
            "inspect it first",
            (await Visitor.ReadAsync(tooEarly)).Body!.TextContent,
            StringComparison.Ordinal
        );
        Assert.Equal(
            "/season?painted=1",
            (
                await qualified.SubmitAsync("/season", "form[action*=Paint]", new() { ["marks"] = "hm-0002" })
            ).Headers.Location!.ToString()
        );
        Assert.Contains("1 of 1", (await qualified.PageAsync("/season")).Body!.TextContent, StringComparison.Ordinal);
        foreach (var (poster, start) in new[] { ("pdf", "%PDF-"), ("svg", "<svg") })
            Assert.StartsWith(
                start,
                await (await qualified.GetAsync($"/season/poster.{poster}")).Content.ReadAsStringAsync(Cancel),
                StringComparison.Ordinal
            );
    }

    [Fact]
    public async Task An_event_told_by_anybody_holds_all_of_it_and_its_page_says_what_to_look_at()
    {
        await using var yard = await WebYard.OpenAsync();
        await yard.AcceptedAsync(Seed.Shackle("HM-0002"), DateTimeOffset.UtcNow.AddDays(-10));
        await yard.AcceptedAsync(Seed.Shackle("HM-0003"), DateTimeOffset.UtcNow.AddDays(-10));
        var crew = await yard.SignedInAsync("crew");
        var told = new Dictionary<string, string>
        {
            ["kind"] = "shock",
            ["marks"] = "HM-0002 HM-0003",
            ["happened"] = DateTime.UtcNow.ToString("yyyy-MM-dd"),
            ["what"] = "The gate slipped",
        };
        Assert.Contains(
            "No such piece: HM-9",
            (
                await Visitor.ReadAsync(
                    await crew.SubmitAsync("/event", "main form", new(told) { ["marks"] = "HM-0002 HM-9" })
                )
            )
                .Body!
                .TextContent,
            StringComparison.Ordinal
        );
        Assert.Contains(
            "Write what happened",
            (await Visitor.ReadAsync(await crew.SubmitAsync("/event", "main form", new(told) { ["what"] = " " })))
                .Body!
                .TextContent,
            StringComparison.Ordinal
        );
        Assert.Contains(
            "May be used",
            (await crew.PageAsync("/piece/HM-0002")).QuerySelector(".answer")!.TextContent,
            StringComparison.Ordinal
        );
        Assert.Equal(
            "/event?held=2",
            (await crew.SubmitAsync("/event", "main form", told)).Headers.Location!.ToString()
        );
        var inspector = await yard.SignedInAsync("inspector");
        var shown = await inspector.PageAsync("/piece/HM-0002");
        var page = shown.QuerySelector("main")!.TextContent;
        Assert.NotNull(shown.QuerySelector(".notice a[href='/piece/HM-0003']"));
        Assert.Contains("Do not use", page, StringComparison.Ordinal);
        Assert.Contains("Inspection after the event", page, StringComparison.Ordinal);
        Assert.Contains("Cracks where link bears on link", page, StringComparison.Ordinal);
    }

    [Fact]
    public async Task A_certificate_is_a_PDF_and_a_piece_inspected_more_than_once_shows_its_wear()
    {
        await using var yard = await WebYard.OpenAsync();
        var piece = await yard.AcceptedAsync(
            Seed.Shackle("HM-0002"),
            DateTimeOffset.UtcNow.AddDays(-300),
            InspectionKind.Initial,
            "7/8 in"
        );
        await yard.InspectAsync(piece, DateTimeOffset.UtcNow.AddDays(-150), InspectionKind.Periodic, "0.85 in");
        await yard.InspectAsync(piece, DateTimeOffset.UtcNow.AddDays(-1), InspectionKind.Periodic, "0.83 in");
        var crew = await yard.SignedInAsync("crew");
        var page = await crew.PageAsync("/piece/HM-0002");
        Assert.Contains(page.QuerySelectorAll("svg.wear"), w =>
            w.GetAttribute("aria-label")!.Contains("3 readings", StringComparison.Ordinal)
            && w.GetAttribute("aria-label")!.Contains("the limit is reached about", StringComparison.Ordinal)
        );
        var record = page.QuerySelector("ol a[href^='/inspection/']")!.GetAttribute("href");
        var pdf = await crew.GetAsync($"{record}/certificate.pdf");
        Assert.Equal("application/pdf", pdf.Content.Headers.ContentType!.MediaType);
        Assert.StartsWith(
            "%PDF-",
            System.Text.Encoding.Latin1.GetString(await pdf.Content.ReadAsByteArrayAsync(Cancel)),
            StringComparison.Ordinal
        );
        Assert.Equal(
            HttpStatusCode.NotFound,
            (await crew.GetAsync($"/inspection/{Guid.NewGuid()}/certificate.pdf")).StatusCode
        );
    }

    [Fact]
    public async Task Leave_to_sign_is_said_on_the_people_page_and_missing_leave_is_told_before_signing()
    {
        await using var yard = await WebYard.OpenAsync();
        await yard.RegisterAsync(Seed.Shackle("HM-0002"));
        var admin = await yard.SignedInAsync("admin");
        var ended = new Dictionary<string, string>
        {
            ["person"] = $"{Seed.People["inspector"].Id}",
            ["group"] = "hardware",
            ["until"] = "2020-01-01",
        };
        Assert.Equal(
            HttpStatusCode.Redirect,
            (await admin.SubmitAsync("/settings/people", "main form", ended)).StatusCode
        );
        Assert.Equal(
            HttpStatusCode.UnprocessableEntity,
            (await admin.SubmitAsync("/settings/people", "main form", new(ended) { ["group"] = "boats" })).StatusCode
        );
        var inspector = await yard.SignedInAsync("inspector");
        var inspect = (
            await inspector.SubmitAsync("/piece/HM-0002", "form[action*=Inspect]", [])
        ).Headers.Location!.ToString();
        var sign = await inspector.PageAsync($"{inspect}/sign");
        Assert.Contains("ran out on 2020-01-01", sign.QuerySelector("main")!.TextContent, StringComparison.Ordinal);
        Assert.Null(sign.QuerySelector("[name=password]"));
    }

    [Fact]
    public async Task An_instrument_in_hand_brings_its_uncertainty_to_what_is_measured()
    {
        await using var yard = await WebYard.OpenAsync();
        await yard.RegisterAsync(Seed.Shackle("HM-0002"));
        var inspector = await yard.SignedInAsync("inspector");
        Assert.Equal(
            HttpStatusCode.UnprocessableEntity,
            (
                await inspector.SubmitAsync(
                    "/instruments",
                    "form[action*=Enter]",
                    new()
                    {
                        ["name"] = "Caliper 7",
                        ["uncertainty"] = "a bit",
                        ["due"] = "2099-01-01",
                    }
                )
            ).StatusCode
        );
        await inspector.SubmitAsync(
            "/instruments",
            "form[action*=Enter]",
            new()
            {
                ["name"] = "Caliper 7",
                ["uncertainty"] = "0.02 mm",
                ["due"] = "2099-01-01",
            }
        );
        await inspector.SubmitAsync("/instruments", "form[action*=Take]", []);
        Assert.Contains(
            "in your hand",
            (await inspector.PageAsync("/instruments")).Body!.TextContent,
            StringComparison.Ordinal
        );
        var inspect = (
            await inspector.SubmitAsync("/piece/HM-0002", "form[action*=Inspect]", [])
        ).Headers.Location!.ToString();
        await inspector.SubmitAsync(
            $"{inspect}?part=pin",
            "form[data-draft]",
            new() { ["shackle.wear-pin:value"] = "0.98 in" }
        );
        Assert.Equal(
            "0.02 mm",
            (await inspector.PageAsync($"{inspect}?part=pin"))
                .QuerySelector("[name='shackle.wear-pin:uncertainty']")!
                .GetAttribute("value")
        );
        Assert.Contains(
            "Caliper 7",
            (await inspector.PageAsync($"{inspect}?part=pin")).QuerySelector("main")!.TextContent,
            StringComparison.Ordinal
        );
    }

    [Fact]
    public async Task Several_are_handed_out_by_scanning_one_stays_with_its_reason_and_all_come_back_by_ticking()
    {
        await using var yard = await WebYard.OpenAsync();
        await yard.AcceptedAsync(Seed.Shackle("HM-0001"), DateTimeOffset.UtcNow.AddDays(-2));
        await yard.AcceptedAsync(Seed.Shackle("HM-0002"), DateTimeOffset.UtcNow.AddDays(-2));
        await yard.RegisterAsync(Seed.Shackle("HM-0003"));
        var stores = await yard.SignedInAsync("stores");
        var refused = await stores.SubmitAsync(
            "/desk",
            "form:has([name=holder])",
            new() { ["marks"] = "HM-0003", ["holder"] = "Maud" }
        );
        Assert.Equal(HttpStatusCode.UnprocessableEntity, refused.StatusCode);
        Assert.Equal("HM-0003", (await Visitor.ReadAsync(refused)).QuerySelector("[name=marks]")!.TextContent.Trim());
        var handed = await Visitor.ReadAsync(
            await stores.SubmitAsync(
                "/desk",
                "form:has([name=holder])",
                new()
                {
                    ["marks"] = "HM-0001\nHM-0002\nHM-0003\nHM-0099",
                    ["holder"] = "Maud",
                    ["job"] = "Lock 9",
                }
            )
        );
        Assert.Contains("2 pieces handed out to Maud", handed.QuerySelector("[role=status]")!.TextContent);
        var stayed = handed.QuerySelectorAll("li.fault").Select(l => l.TextContent).ToList();
        Assert.Contains(stayed, s => s.StartsWith("HM-0003: it may not be used", StringComparison.Ordinal));
        Assert.Contains(stayed, s => s.StartsWith("HM-0099: there is no such piece", StringComparison.Ordinal));

        var crew = await (await yard.SignedInAsync("crew")).PageAsync("/desk");
        Assert.Equal(
            ["HM-0001", "HM-0002"],
            crew.QuerySelectorAll("form[aria-label=Maud] td.mark").Select(c => c.TextContent.Trim())
        );

        // The crew hands on what is out, and neither hands out nor takes back.
        Assert.Null(crew.QuerySelector("[name=marks], [name=returned]"));
        Assert.Equal(
            ["Hand them over"],
            crew.QuerySelectorAll("form[aria-label=Maud] button").Select(b => b.TextContent.Trim())
        );

        var token = await stores.PageAsync("/desk");
        var back = await Visitor.ReadAsync(
            await stores.SubmitAsync(
                "/desk",
                "form[aria-label=Maud]",
                token
                    .QuerySelectorAll("form[aria-label=Maud] [name=mark]")
                    .Take(1)
                    .ToDictionary(_ => "mark", m => m.GetAttribute("value")!)
            )
        );
        Assert.Contains("1 piece taken back", back.QuerySelector("[role=status]")!.TextContent);
        var again = await stores.SubmitAsync("/desk", "form:has([name=returned])", new() { ["returned"] = "HM-0001" });
        Assert.Contains("HM-0001 is not out", (await Visitor.ReadAsync(again)).Body!.TextContent);
        var piece = (await yard.App.Services.GetRequiredService<PieceStore>().FindAsync("HM-0002", Cancel))!;
        Assert.Equal(("Maud", "Lock 9"), (piece.Issued!.Holder, piece.Issued.Job));
    }

    [Fact]
    public async Task The_due_list_as_it_is_narrowed_down_is_sent_to_somebody()
    {
        await using var yard = await WebYard.OpenAsync();
        await yard.AcceptedAsync(Seed.Shackle("HM-0002"), DateTimeOffset.UtcNow.AddDays(-355));
        var inspector = await yard.SignedInAsync("inspector");
        var sent = await inspector.SubmitAsync(
            "/due?family=shackle",
            "form[action*=Send]",
            new() { ["to"] = "inspector" }
        );
        Assert.Contains("On its way to", (await Visitor.ReadAsync(sent)).QuerySelector("[role=status]")!.TextContent);
        var mails = (await inspector.PageAsync("/due/outbox")).QuerySelectorAll("a[href$='.eml']");
        var texts = new List<string>();
        foreach (var mail in mails.Select(a => a.GetAttribute("href")!))
            texts.Add(await (await inspector.GetAsync(mail)).Content.ReadAsStringAsync(Cancel));
        Assert.Contains(texts, t => t.Contains("HM-0002", StringComparison.Ordinal));
        var nobody = await inspector.SubmitAsync("/due", "form[action*=Send]", new() { ["to"] = "nobody" });
        Assert.Equal(HttpStatusCode.UnprocessableEntity, nobody.StatusCode);
        Assert.Null((await (await yard.SignedInAsync("crew")).PageAsync("/due")).QuerySelector("form[action*=Send]"));
    }

    [Fact]
    public async Task The_ledger_is_read_by_piece_person_kind_and_day()
    {
        await using var yard = await WebYard.OpenAsync();
        await yard.AcceptedAsync(Seed.Shackle("HM-0001"), DateTimeOffset.UtcNow.AddDays(-2));
        await yard.RegisterAsync(Seed.Shackle("HM-0002"));
        var inspector = await yard.SignedInAsync("inspector");
        Assert.Equal(["inspection signed", "registered"], await WhatAsync("?piece=hm-0001"));
        Assert.Equal(["inspection signed"], await WhatAsync("?who=inspector&kind=inspection.signed"));
        Assert.Equal(["registered"], await WhatAsync($"?day={DateTime.UtcNow:yyyy-MM-dd}"));
        Assert.Empty(await WhatAsync("?day=2001-01-01"));
        var history = (await inspector.PageAsync("/piece/HM-0001")).Body!.TextContent;
        Assert.Contains("Registered", history, StringComparison.Ordinal);

        async Task<IEnumerable<string>> WhatAsync(string query) =>
            (await inspector.PageAsync($"/ledger{query}"))
                .QuerySelectorAll("table.ledger tbody tr")
                .Select(r => r.Children[3].TextContent.Trim())
                .ToList();
    }
}
