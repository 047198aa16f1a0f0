using System.Net;
using Keralith.Testing;
using Microsoft.Extensions.Time.Testing;
using Xunit;

namespace Keralith.Web.Tests;

/// <summary>A works turns its day at its own midnight, wherever the machine stands.</summary>
public class DayTests
{
    [Theory]
    [InlineData("Pacific/Kiritimati", "2026-03-02T09:59:59Z", "2026-03-02", "2026-03-03")]
    [InlineData("Pacific/Pago_Pago", "2026-03-02T10:59:59Z", "2026-03-01", "2026-03-02")]
    public async Task The_day_of_a_sheet_its_forms_and_its_records_turns_at_the_works_midnight(
        string zone,
        string before,
        string today,
        string tomorrow
    )
    {
        var clock = new FakeTimeProvider(
            DateTimeOffset.Parse(before, System.Globalization.CultureInfo.InvariantCulture)
        );
        await using var yard = await WebYard.OpenAsync(clock);
        await yard.AcceptedAsync(Seed.Shackle("HM-0001"), clock.GetUtcNow().AddDays(-30));
        var admin = await yard.SignedInAsync("admin");
        var set = await admin.SubmitAsync(
            "/settings",
            "form[action*=Books]",
            new() { ["timeZone"] = zone, ["reason"] = "Where we are" }
        );
        Assert.Equal(HttpStatusCode.Redirect, set.StatusCode);

        var crew = await yard.SignedInAsync("crew");
        var sheet = await crew.PageAsync("/piece/HM-0001/hold");
        Assert.Contains(today, sheet.Body!.TextContent, StringComparison.Ordinal);
        Assert.Equal(
            today,
            (await crew.PageAsync("/event")).QuerySelector("input[name=happened]")!.GetAttribute("max")
        );
        Assert.Equal(HttpStatusCode.UnprocessableEntity, (await FellAsync(crew, tomorrow)).StatusCode);

        clock.Advance(TimeSpan.FromSeconds(1));
        sheet = await crew.PageAsync("/piece/HM-0001/hold");
        Assert.Contains(tomorrow, sheet.Body!.TextContent, StringComparison.Ordinal);
        Assert.Equal(HttpStatusCode.Redirect, (await FellAsync(crew, tomorrow)).StatusCode);
        var piece = await crew.PageAsync("/piece/HM-0001");
        Assert.Contains($"since {tomorrow}", piece.Body!.TextContent, StringComparison.Ordinal);
    }

    [Fact]
    public async Task A_time_zone_nobody_knows_is_refused_and_what_was_typed_is_kept()
    {
        await using var yard = await WebYard.OpenAsync();
        var admin = await yard.SignedInAsync("admin");
        var set = await admin.SubmitAsync(
            "/settings",
            "form[action*=Books]",
            new() { ["timeZone"] = "Atlantis/Centre", ["reason"] = "Where we are" }
        );
        Assert.Equal(HttpStatusCode.UnprocessableEntity, set.StatusCode);
        var page = await Visitor.ReadAsync(set);
        Assert.Equal("Atlantis/Centre", page.QuerySelector("input[name=timeZone]")!.GetAttribute("value"));
        Assert.Contains("time zone database", page.QuerySelector(".notice")!.TextContent, StringComparison.Ordinal);
    }

    private static Task<HttpResponseMessage> FellAsync(Visitor visitor, string on) =>
        visitor.PostAsync(
            "/event",
            new()
            {
                ["Submission"] = Guid.NewGuid().ToString(),
                ["kind"] = "shock",
                ["happened"] = on,
                ["what"] = "The stop plank fell",
                ["marks"] = "HM-0001",
            },
            "/event"
        );
}
