using System.Net;
using Keralith.Data;
using Keralith.Testing;
using Microsoft.Extensions.DependencyInjection;
using Xunit;

namespace Keralith.Web.Tests;

/// <summary>What comes after a hold, through its pages: records put right, places taken, what the record teaches.</summary>
public class AfterPagesTests
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    [Fact]
    public async Task A_hand_out_to_the_wrong_person_is_put_right_on_its_page_and_both_stand()
    {
        await using var yard = await WebYard.OpenAsync();
        await yard.AcceptedAsync(Seed.Shackle("HM-0002"), DateTimeOffset.UtcNow.AddDays(-20));
        var stores = await yard.SignedInAsync("stores");
        await stores.SubmitAsync("/piece/HM-0002/yard", "form[action*=Issue]", new() { ["holder"] = "Maud" });
        const string Records = "/piece/HM-0002/records";
        var unnamed = await stores.SubmitAsync(Records, "main form", new() { ["why"] = "Not her" });
        Assert.Equal(HttpStatusCode.UnprocessableEntity, unnamed.StatusCode);
        Assert.Equal(
            HttpStatusCode.Redirect,
            (
                await stores.SubmitAsync(Records, "main form", new() { ["why"] = "Not her", ["holder"] = "South crew" })
            ).StatusCode
        );
        var page = await stores.PageAsync(Records);
        Assert.Contains("Maud", page.QuerySelector(".struck")!.TextContent, StringComparison.Ordinal);
        Assert.Contains("Put right: Not her", page.Body!.TextContent, StringComparison.Ordinal);
        Assert.Contains(
            "Out with South crew",
            (await stores.PageAsync("/piece/HM-0002")).Body!.TextContent,
            StringComparison.Ordinal
        );
        var crew = await yard.SignedInAsync("crew");
        Assert.Null((await crew.PageAsync(Records)).QuerySelector("main form"));
        Assert.Equal(HttpStatusCode.NotFound, (await crew.GetAsync("/piece/HM-0999/records")).StatusCode);
    }

    [Fact]
    public async Task What_a_standing_recall_missed_is_shown_to_all_and_held_by_who_may_recall()
    {
        await using var yard = await WebYard.OpenAsync();
        var made = Seed.Shackle("HM-0002");
        (made["maker"], made["model"]) = ("Pellow-Forge", "X-2");
        await yard.RegisterAsync(made);
        var recall = Guid.NewGuid();
        await using (var owner = new Database(await TestDatabases.OwnerOfAsync(yard.ConnectionString)))
            await owner
                .Command(
                    $"""
                    insert into recall (id, maker, model, reason, source, at, by_person)
                    select '{recall}', 'PELLOW FORGE', 'x2', 'Cracks', 'Notice 4', now(), id
                    from person where username = 'admin'
                    """
                )
                .ExecuteNonQueryAsync(Cancel);
        var (page, button) = ($"/recall/{recall}", "form[action*=Missed]");
        var inspector = await yard.SignedInAsync("inspector");
        var seen = await inspector.PageAsync(page);
        Assert.Contains("One piece is meant and not held", seen.Body!.TextContent, StringComparison.Ordinal);
        Assert.Contains("HM-0002", seen.Body!.TextContent, StringComparison.Ordinal);
        Assert.Null(seen.QuerySelector(button));
        var qualified = await yard.SignedInAsync("qualified");
        Assert.Contains(
            "1 meant, not held",
            (await qualified.PageAsync("/recall")).Body!.TextContent,
            StringComparison.Ordinal
        );
        Assert.Equal(HttpStatusCode.Redirect, (await qualified.SubmitAsync(page, button, [])).StatusCode);
        var after = await qualified.PageAsync(page);
        Assert.Null(after.QuerySelector(button));
        Assert.Contains("1 held still", after.Body!.TextContent, StringComparison.Ordinal);
    }

    [Fact]
    public async Task What_takes_the_place_of_a_condemned_piece_begins_as_its_twin_on_its_peg()
    {
        await using var yard = await WebYard.OpenAsync();
        await yard.AcceptedAsync(Seed.Shackle("HM-0002"), DateTimeOffset.UtcNow.AddDays(-20));
        var old = (await yard.App.Services.GetRequiredService<PieceStore>().FindAsync("HM-0002", Cancel))!;
        Assert.True(
            (
                await yard
                    .App.Services.GetRequiredService<CustodyStore>()
                    .CondemnAsync(
                        old.Id,
                        old.Version,
                        "Bent",
                        new(Seed.People["qualified"], DateTimeOffset.UtcNow, Guid.NewGuid()),
                        Cancel
                    )
            ).Ok
        );
        var stores = await yard.SignedInAsync("stores");
        var link = (await stores.PageAsync("/piece/HM-0002"))
            .QuerySelector("a[href*='replaces=HM-0002']")!
            .GetAttribute("href")!;
        Assert.Equal(
            HttpStatusCode.Redirect,
            (
                await stores.SubmitAsync(
                    link,
                    "form[action='/register/new'][method=post]",
                    new() { ["mark"] = "HM-0003", ["serial"] = "another" }
                )
            ).StatusCode
        );
        var page = await stores.PageAsync("/piece/HM-0002");
        Assert.Contains("HM-0003 took its place", page.Body!.TextContent, StringComparison.Ordinal);
        Assert.Null(page.QuerySelector("a[href*='replaces=HM-0002']"));
        Assert.Contains(
            "It took the place of HM-0002",
            (await stores.PageAsync("/piece/HM-0003")).Body!.TextContent,
            StringComparison.Ordinal
        );
    }

    [Theory]
    [InlineData("why", "name,count,of")]
    [InlineData("expected", "family,size,pieces,left,expected,least,most,cost")]
    [InlineData("pace", "of,name,measures,share_a_year")]
    [InlineData("differences", "inspector,criterion,found,looked,others_found,others_looked")]
    [InlineData("quarters", "from,found,of")]
    [InlineData("ages", "family,left,youngest,middle,oldest")]
    public async Task Each_thing_the_record_teaches_is_a_file_too(string name, string headings)
    {
        await using var yard = await WebYard.OpenAsync();
        var piece = await yard.AcceptedAsync(Seed.Shackle("HM-0002"), DateTimeOffset.UtcNow.AddDays(-400));
        await yard.InspectAsync(
            piece,
            DateTimeOffset.UtcNow.AddDays(-1),
            Core.Judgement.InspectionKind.Periodic,
            "0.83 in"
        );
        var auditor = await yard.SignedInAsync("auditor");
        Assert.Contains(
            "How fast it wears",
            (await auditor.PageAsync("/teaches")).Body!.TextContent,
            StringComparison.Ordinal
        );
        var lines = (await (await auditor.GetAsync($"/teaches?csv={name}")).Content.ReadAsStringAsync(Cancel)).Split(
            "\r\n"
        );
        Assert.Equal(headings, lines[0]);
        if (name is "expected" or "pace")
            Assert.True(lines.Length > 2);
    }

    [Fact]
    public async Task A_figure_leads_to_its_records_and_a_price_is_kept_or_refused_where_it_was_typed()
    {
        await using var yard = await WebYard.OpenAsync();
        var piece = await yard.AcceptedAsync(Seed.Shackle("HM-0002"), DateTimeOffset.UtcNow.AddDays(-400));
        await yard.InspectAsync(
            piece,
            DateTimeOffset.UtcNow.AddDays(-1),
            Core.Judgement.InspectionKind.Periodic,
            "0.7 in"
        );
        var inspector = await yard.SignedInAsync("inspector");
        var link = (await inspector.PageAsync("/teaches"))
            .QuerySelector("a[href*='of=finding&']")!
            .GetAttribute("href")!;
        var records = await inspector.PageAsync(link);
        Assert.Contains("HM-0002", records.QuerySelector("tbody")!.TextContent, StringComparison.Ordinal);
        Assert.NotNull(records.QuerySelector("tbody a[href^='/inspection/']"));
        var csv = await (await inspector.GetAsync($"{link}&csv=true")).Content.ReadAsStringAsync(Cancel);
        Assert.StartsWith("mark,family,day,what,by\r\nHM-0002,", csv, StringComparison.Ordinal);
        Assert.Equal(
            HttpStatusCode.NotFound,
            (await inspector.GetAsync("/teaches/records?of=weather&is=x")).StatusCode
        );

        var refused = await inspector.SubmitAsync("/teaches/prices", "main form", new() { ["price"] = "cheap" });
        Assert.Equal(HttpStatusCode.UnprocessableEntity, refused.StatusCode);
        Assert.Equal("cheap", (await Visitor.ReadAsync(refused)).QuerySelector("[name=price]")!.GetAttribute("value"));
        Assert.Equal(
            HttpStatusCode.Redirect,
            (await inspector.SubmitAsync("/teaches/prices", "main form", new() { ["price"] = "45.50 EUR" })).StatusCode
        );
        Assert.Equal(
            "45.5 EUR",
            (await inspector.PageAsync("/teaches/prices")).QuerySelector("[name=price]")!.GetAttribute("value")
        );
    }

    [Fact]
    public async Task Asking_a_proof_test_shows_what_it_stops_before_it_is_signed()
    {
        await using var yard = await WebYard.OpenAsync();
        await yard.AcceptedAsync(Seed.Shackle("HM-0002"), DateTimeOffset.UtcNow.AddDays(-20));
        var qualified = await yard.SignedInAsync("qualified");
        var asked = new Dictionary<string, string>
        {
            ["family"] = "shackle",
            ["months"] = "12",
            ["reason"] = "Works policy 7",
        };
        var shown = await qualified.SubmitAsync("/settings/proof-tests", "section form", asked);
        Assert.Equal(HttpStatusCode.OK, shown.StatusCode);
        var page = await Visitor.ReadAsync(shown);
        Assert.Contains("HM-0002", page.QuerySelector("tbody")!.TextContent, StringComparison.Ordinal);
        asked["stops"] = page.QuerySelector("[name=stops]")!.GetAttribute("value")!;
        Assert.Equal(
            HttpStatusCode.Redirect,
            (await qualified.SubmitAsync("/settings/proof-tests", "section form", asked)).StatusCode
        );
        Assert.Contains(
            "No proof test is on record",
            (await qualified.PageAsync("/piece/HM-0002")).Body!.TextContent,
            StringComparison.Ordinal
        );
        Assert.Contains(
            "one is asked every 12 months",
            (await qualified.PageAsync("/cage/HM-0002")).Body!.TextContent,
            StringComparison.Ordinal
        );
        Assert.Contains(
            "none on record: do not use",
            (await qualified.PageAsync("/due")).QuerySelector("[data-else]")!.TextContent,
            StringComparison.Ordinal
        );

        // Nought months is no rule; asked no more, it may be used again.
        asked["months"] = "none";
        Assert.Equal(
            HttpStatusCode.UnprocessableEntity,
            (await qualified.SubmitAsync("/settings/proof-tests", "section form", asked)).StatusCode
        );
        Assert.Equal(
            HttpStatusCode.Redirect,
            (
                await qualified.SubmitAsync(
                    "/settings/proof-tests",
                    "form[action*=Withdraw]",
                    new() { ["reason"] = "Asked no more" }
                )
            ).StatusCode
        );
        Assert.DoesNotContain(
            "No proof test",
            (await qualified.PageAsync("/piece/HM-0002")).Body!.TextContent,
            StringComparison.Ordinal
        );
    }

    [Fact]
    public async Task A_signed_head_is_mailed_to_who_keeps_it_elsewhere_once()
    {
        await using var yard = await WebYard.OpenAsync();
        await yard.AcceptedAsync(Seed.Shackle("HM-0002"), DateTimeOffset.UtcNow.AddDays(-20));
        const string Keeper = "keeper@elsewhere.example";
        Environment.SetEnvironmentVariable("KERALITH_HEADS_MAIL", Keeper);
        try
        {
            var key = yard.App.Services.GetRequiredService<Security.WorksKey>();
            var head = await key.SignAsync(false, Cancel);
            await key.SignAsync(false, Cancel);
            await using var command = yard.Database.Command("select subject, body from mail where address = $1");
            command.Parameters.Add(new() { Value = Keeper });
            await using var reader = await command.ExecuteReaderAsync(Cancel);
            Assert.True(await reader.ReadAsync(Cancel));
            var (subject, body) = (reader.GetString(0), reader.GetString(1));
            Assert.False(await reader.ReadAsync(Cancel));
            Assert.Contains($"{head!.Size} entries", subject, StringComparison.Ordinal);
            Assert.Contains(head.Json(), body, StringComparison.Ordinal);
        }
        finally
        {
            Environment.SetEnvironmentVariable("KERALITH_HEADS_MAIL", null);
        }
    }
}
