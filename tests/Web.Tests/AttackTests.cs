using System.Net;
using Keralith.Core.Custody;
using Keralith.Data;
using Keralith.Testing;
using Keralith.Web.Security;
using Microsoft.Extensions.DependencyInjection;
using Microsoft.Extensions.Time.Testing;
using Xunit;

namespace Keralith.Web.Tests;

/// <summary>
/// What was tried against the running application by people with less right than it takes, one by one. A list to read:
/// each line failed once.
/// </summary>
public class AttackTests
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    // What a verdict stands on.

    [Fact]
    public async Task The_storekeeper_can_not_raise_a_shackle_to_ninety_tonnes()
    {
        await using var yard = await WebYard.OpenAsync();
        await yard.AcceptedAsync(Seed.Shackle("HM-0002"), DateTimeOffset.UtcNow.AddDays(-9));
        var stores = await yard.SignedInAsync("stores");
        var answer = await stores.SubmitAsync(
            "/piece/HM-0002/edit",
            "main form",
            new() { ["ratedLoad"] = "90 t", ["changeWhy"] = "It says so" }
        );
        Assert.Equal(HttpStatusCode.Forbidden, answer.StatusCode);
        var piece = await yard.App.Services.GetRequiredService<PieceStore>().FindAsync("HM-0002", Cancel);
        Assert.Equal("6.5 short ton", piece!.RatedLoad.ToString());
    }

    [Fact]
    public async Task An_inspector_who_changes_what_is_read_from_the_piece_says_why()
    {
        await using var yard = await WebYard.OpenAsync();
        await yard.AcceptedAsync(Seed.Shackle("HM-0002"), DateTimeOffset.UtcNow.AddDays(-9));
        var inspector = await yard.SignedInAsync("inspector");
        var silent = await inspector.SubmitAsync("/piece/HM-0002/edit", "main form", new() { ["size"] = "1 in" });
        Assert.Equal(HttpStatusCode.UnprocessableEntity, silent.StatusCode);
        var said = await inspector.SubmitAsync(
            "/piece/HM-0002/edit",
            "main form",
            new() { ["size"] = "1 in", ["changeWhy"] = "Misread: it is forged in" }
        );
        Assert.Equal(HttpStatusCode.Redirect, said.StatusCode);
    }

    [Fact]
    public async Task A_limit_that_would_stop_gear_is_shown_before_it_is_signed()
    {
        await using var yard = await WebYard.OpenAsync();
        await yard.AcceptedAsync(Seed.Shackle("HM-0002"), DateTimeOffset.UtcNow.AddDays(-9), bow: "0.83 in");
        var qualified = await yard.SignedInAsync("qualified");
        Dictionary<string, string> limit = new()
        {
            ["owner"] = "site",
            ["criterion"] = "shackle.wear-body",
            ["figure"] = "2 %",
            ["reason"] = "After last winter",
        };
        var shown = await qualified.PostAsync("/settings?handler=Limit", limit, "/settings");
        Assert.Equal(HttpStatusCode.OK, shown.StatusCode);
        var rehearsal = await Visitor.ReadAsync(shown);
        Assert.Contains(
            "HM-0002",
            rehearsal.QuerySelector("#stops")!.ParentElement!.TextContent,
            StringComparison.Ordinal
        );
        Assert.Equal("Sign it, and hold this piece", rehearsal.QuerySelector("main button")!.TextContent);
        Assert.Single(rehearsal.QuerySelectorAll("main form"));
        limit["stops"] = "1";
        var signed = await qualified.PostAsync("/settings?handler=Limit", limit, "/settings");
        Assert.Equal(HttpStatusCode.Redirect, signed.StatusCode);
        var after = await qualified.PageAsync(signed.Headers.Location!.ToString().Split('#')[0]);
        Assert.Contains(
            "Signed into the ledger",
            after.QuerySelector("[role=status]")!.TextContent,
            StringComparison.Ordinal
        );
        var piece = await yard.App.Services.GetRequiredService<PieceStore>().FindAsync("HM-0002", Cancel);
        Assert.Equal(PieceState.Held, piece!.State);
    }

    // What is signed is what is recorded.

    [Fact]
    public async Task One_submission_id_on_two_hold_forms_never_leaves_the_second_piece_in_use_unsaid()
    {
        await using var yard = await WebYard.OpenAsync();
        await yard.AcceptedAsync(Seed.Shackle("HM-0002"), DateTimeOffset.UtcNow.AddDays(-9));
        await yard.AcceptedAsync(Seed.Shackle("HM-0003"), DateTimeOffset.UtcNow.AddDays(-9));
        var crew = await yard.SignedInAsync("crew");
        Dictionary<string, string> form = new()
        {
            ["reason"] = "Bent",
            ["cause"] = "doubt",
            ["Submission"] = Guid.NewGuid().ToString(),
        };
        Assert.Equal(HttpStatusCode.Redirect, (await crew.PostAsync("/piece/HM-0002/hold", form)).StatusCode);
        var second = await crew.PostAsync("/piece/HM-0003/hold", form);
        Assert.Equal(HttpStatusCode.Conflict, second.StatusCode);
        Assert.Contains("another record", await second.Content.ReadAsStringAsync(Cancel), StringComparison.Ordinal);
    }

    [Fact]
    public async Task A_signed_remove_is_never_acknowledged_under_an_id_that_recorded_something_else()
    {
        await using var yard = await WebYard.OpenAsync();
        var piece = await yard.AcceptedAsync(Seed.Shackle("HM-0002"), DateTimeOffset.UtcNow.AddDays(-9));
        var (draft, version, _) = await yard.DraftAsync(
            piece,
            "inspector",
            DateTimeOffset.UtcNow.AddMinutes(-1),
            Core.Judgement.InspectionKind.Periodic,
            "0.5 in"
        );
        var inspector = await yard.SignedInAsync("inspector");
        var id = Guid.NewGuid().ToString();
        await inspector.PostAsync("/piece/HM-0002/check", new() { ["Submission"] = id });
        Dictionary<string, string> signing = new()
        {
            ["version"] = version.ToString(),
            ["inspectedOn"] = DateTime.UtcNow.ToString("yyyy-MM-dd"),
            ["password"] = WebYard.Password,
            ["Submission"] = id,
        };
        var burned = await inspector.PostAsync($"/inspect/{draft}/sign", signing);
        Assert.Equal(HttpStatusCode.Conflict, burned.StatusCode);
        signing["Submission"] = Guid.NewGuid().ToString();
        Assert.Equal(
            HttpStatusCode.Redirect,
            (await inspector.PostAsync($"/inspect/{draft}/sign", signing)).StatusCode
        );
        var stands = await yard.App.Services.GetRequiredService<PieceStore>().FindAsync("HM-0002", Cancel);
        Assert.Equal(PieceState.Held, stands!.State);
    }

    [Theory]
    [InlineData("03/04/2026")]
    [InlineData("yesterday")]
    [InlineData("9999-12-31")]
    [InlineData("0001-01-01")]
    [InlineData("2026-02-30")]
    public async Task A_day_that_can_not_be_read_is_refused_and_never_taken_for_today(string day)
    {
        await using var yard = await WebYard.OpenAsync();
        var piece = await yard.RegisterAsync(Seed.Shackle("HM-0002"));
        var (draft, version, _) = await yard.DraftAsync(piece, "inspector", DateTimeOffset.UtcNow);
        var inspector = await yard.SignedInAsync("inspector");
        foreach (var field in new[] { "inspectedOn", "nextBy" })
        {
            Dictionary<string, string> form = new()
            {
                ["version"] = version.ToString(),
                ["inspectedOn"] = DateTime.UtcNow.ToString("yyyy-MM-dd"),
                ["password"] = WebYard.Password,
                [field] = day,
            };
            var answer = await inspector.PostAsync($"/inspect/{draft}/sign", form);
            Assert.Equal(HttpStatusCode.UnprocessableEntity, answer.StatusCode);
        }

        var crew = await yard.SignedInAsync("crew");
        Dictionary<string, string> fell = new()
        {
            ["marks"] = "HM-0002",
            ["kind"] = "overload",
            ["happened"] = day,
            ["what"] = "Fell",
        };
        Assert.Equal(HttpStatusCode.UnprocessableEntity, (await crew.PostAsync("/event", fell)).StatusCode);
        var qualified = await yard.SignedInAsync("qualified");
        var lent = await qualified.PostAsync(
            "/piece/HM-0002/yard?handler=Issue",
            new() { ["holder"] = "Maud", ["back"] = day },
            "/piece/HM-0002/yard"
        );
        Assert.Equal(HttpStatusCode.UnprocessableEntity, lent.StatusCode);
    }

    [Fact]
    public async Task A_destruction_wants_the_witnesss_own_sign_in()
    {
        await using var yard = await WebYard.OpenAsync();
        var piece = await yard.AcceptedAsync(Seed.Shackle("HM-0002"), DateTimeOffset.UtcNow.AddDays(-9));
        var condemned = await yard
            .App.Services.GetRequiredService<CustodyStore>()
            .CondemnAsync(
                piece.Id,
                (await yard.App.Services.GetRequiredService<PieceStore>().GetAsync(piece.Id, Cancel))!.Version,
                "Worn",
                new(Seed.People["qualified"], DateTimeOffset.UtcNow, Guid.NewGuid()),
                Cancel
            );
        Assert.True(condemned.Ok, condemned.Fault);
        var stores = await yard.SignedInAsync("stores");
        foreach (
            var (witness, password, done) in new[]
            {
                ("crew", "", false),
                ("crew", "guessed", false),
                ("stores", WebYard.Password, false),
                ("crew", WebYard.Password, true),
            }
        )
        {
            var answer = await stores.SubmitAsync(
                "/cage/HM-0002",
                "form[action*=Destroy]",
                new()
                {
                    ["method"] = "Cut",
                    ["witness"] = witness,
                    ["witnessPassword"] = password,
                }
            );
            Assert.Equal(done ? HttpStatusCode.Redirect : HttpStatusCode.UnprocessableEntity, answer.StatusCode);
        }
    }

    [Fact]
    public async Task What_is_no_text_is_refused_everywhere_but_where_a_piece_is_held()
    {
        const string text = "Bent \u0007";
        await using var yard = await WebYard.OpenAsync();
        var piece = await yard.AcceptedAsync(Seed.Shackle("HM-0002"), DateTimeOffset.UtcNow.AddDays(-9));
        var crew = await yard.SignedInAsync("crew");
        var lost = await crew.PostAsync(
            "/piece/HM-0002/yard?handler=Lost",
            new() { ["reason"] = text },
            "/piece/HM-0002/yard"
        );
        Assert.Equal(HttpStatusCode.UnprocessableEntity, lost.StatusCode);
        Assert.Contains("control character", await lost.Content.ReadAsStringAsync(Cancel), StringComparison.Ordinal);
        Assert.Equal(
            HttpStatusCode.Redirect,
            (await crew.PostAsync("/piece/HM-0002/hold", new() { ["reason"] = text, ["cause"] = "doubt" })).StatusCode
        );
        var hold = Assert.Single(
            await yard.App.Services.GetRequiredService<CustodyStore>().HoldsAsync(piece.Id, Cancel)
        );
        Assert.StartsWith("Bent", hold.Reason, StringComparison.Ordinal);
        var nul = await crew.PostAsync("/piece/HM-0002/hold", new() { ["reason"] = "Be\0nt", ["cause"] = "doubt" });
        Assert.Equal(HttpStatusCode.BadRequest, nul.StatusCode);
        Assert.Equal(HttpStatusCode.BadRequest, (await crew.GetAsync("/piece/HM%000002")).StatusCode);
        Assert.Equal(HttpStatusCode.BadRequest, (await crew.GetAsync("/register?q=%00")).StatusCode);
    }

    [Fact]
    public async Task A_text_over_its_limit_is_refused_with_its_count_and_a_hold_keeps_all_of_it()
    {
        await using var yard = await WebYard.OpenAsync();
        var piece = await yard.AcceptedAsync(Seed.Shackle("HM-0002"), DateTimeOffset.UtcNow.AddDays(-9));
        var crew = await yard.SignedInAsync("crew");
        var long501 = new string('x', 501);
        var lost = await crew.PostAsync(
            "/piece/HM-0002/yard?handler=Lost",
            new() { ["reason"] = long501 },
            "/piece/HM-0002/yard"
        );
        Assert.Equal(HttpStatusCode.UnprocessableEntity, lost.StatusCode);
        Assert.Contains("501 letters", await lost.Content.ReadAsStringAsync(Cancel), StringComparison.Ordinal);
        await crew.PostAsync("/piece/HM-0002/hold", new() { ["reason"] = long501, ["cause"] = "doubt" });
        Assert.Equal(
            long501,
            Assert
                .Single(await yard.App.Services.GetRequiredService<CustodyStore>().HoldsAsync(piece.Id, Cancel))
                .Reason
        );
    }

    // Nothing hostile takes the machine.

    [Fact]
    public async Task A_picture_is_bounded_before_it_is_decoded_and_a_torn_one_is_refused()
    {
        await using var yard = await WebYard.OpenAsync();
        await yard.RegisterAsync(Seed.Shackle("HM-0002"));
        var stores = await yard.SignedInAsync("stores");
        Dictionary<string, string> form = new() { ["kind"] = "photo", ["title"] = "Bow" };
        var whole = Visitor.Picture(800, 600);
        foreach (
            var (bytes, words) in new[]
            {
                (whole[..(whole.Length / 2)], "torn"),
                (Visitor.Picture(6000, 4001, SkiaSharp.SKEncodedImageFormat.Png), "more than a camera makes"),
            }
        )
        {
            var answer = await stores.SendFileAsync("/piece/HM-0002/files", "file", "bow.jpg", bytes, form);
            Assert.Equal(HttpStatusCode.UnprocessableEntity, answer.StatusCode);
            Assert.Contains(words, await answer.Content.ReadAsStringAsync(Cancel), StringComparison.Ordinal);
        }

        var kept = await stores.SendFileAsync("/piece/HM-0002/files", "file", "bow.jpg", whole, form);
        Assert.Equal(HttpStatusCode.Redirect, kept.StatusCode);
    }

    [Fact]
    public async Task A_report_is_a_file_that_can_be_opened()
    {
        await using var yard = await WebYard.OpenAsync();
        await yard.RegisterAsync(Seed.Shackle("HM-0002"));
        var stores = await yard.SignedInAsync("stores");
        var answer = await stores.SendFileAsync(
            "/piece/HM-0002/files",
            "file",
            "report.pdf",
            "%PDF-1.7 and nothing more"u8.ToArray(),
            new() { ["kind"] = "report", ["title"] = "Survey" }
        );
        Assert.Equal(HttpStatusCode.UnprocessableEntity, answer.StatusCode);
    }

    [Fact]
    public async Task What_the_address_names_is_acted_on_whatever_the_form_says()
    {
        await using var yard = await WebYard.OpenAsync();
        await yard.AcceptedAsync(Seed.Shackle("HM-0002"), DateTimeOffset.UtcNow.AddDays(-9));
        await yard.AcceptedAsync(Seed.Shackle("HM-0003"), DateTimeOffset.UtcNow.AddDays(-9));
        var crew = await yard.SignedInAsync("crew");
        await crew.PostAsync(
            "/piece/HM-0002/hold",
            new()
            {
                ["reason"] = "Bent",
                ["cause"] = "doubt",
                ["mark"] = "HM-0003",
            }
        );
        var pieces = yard.App.Services.GetRequiredService<PieceStore>();
        Assert.Equal(PieceState.Held, (await pieces.FindAsync("HM-0002", Cancel))!.State);
        Assert.Equal(PieceState.InService, (await pieces.FindAsync("HM-0003", Cancel))!.State);
    }

    // Who is there.

    [Fact]
    public async Task Signed_out_a_copied_cookie_opens_nothing()
    {
        await using var yard = await WebYard.OpenAsync();
        var crew = await yard.SignedInAsync("crew");
        var copy = crew.Copy();
        Assert.Equal(HttpStatusCode.OK, (await copy.GetAsync("/account")).StatusCode);
        await crew.PostAsync("/account", []);
        Assert.Equal(HttpStatusCode.Redirect, (await copy.GetAsync("/account")).StatusCode);
    }

    [Theory]
    [InlineData("update person set roles = array['auditor'] where username = 'qualified'", HttpStatusCode.Forbidden)]
    [InlineData("update person set disabled_at = now() where username = 'qualified'", HttpStatusCode.Redirect)]
    [InlineData("update person set password_hash = 'another' where username = 'qualified'", HttpStatusCode.Redirect)]
    [InlineData("update sign_in set begun_at = now() - interval '12 hours 1 minute'", HttpStatusCode.Redirect)]
    [InlineData("update sign_in set seen_at = now() - interval '3 hours 1 minute'", HttpStatusCode.Redirect)]
    public async Task What_changes_about_a_person_holds_on_the_next_request_on_every_node(
        string sql,
        HttpStatusCode then
    )
    {
        await using var yard = await WebYard.OpenAsync();
        await using var other = WebHost.Build([], yard.ConnectionString, "http://127.0.0.1:0", quiet: true);
        await other.StartAsync(Cancel);
        var qualified = await yard.SignedInAsync("qualified");
        var elsewhere = qualified.Copy(new Uri(other.Urls.First()));
        Assert.Equal(HttpStatusCode.OK, (await elsewhere.GetAsync("/register/new")).StatusCode);
        await using var changed = yard.Database.Command(sql);
        await changed.ExecuteNonQueryAsync(Cancel);
        Assert.Equal(then, (await qualified.GetAsync("/register/new")).StatusCode);
        Assert.Equal(then, (await elsewhere.GetAsync("/register/new")).StatusCode);
    }

    /// <summary>
    /// A node a day ahead let a hold be closed by a look from before it: what came after what is the ledger's number, and
    /// the day is the database's.
    /// </summary>
    [Theory]
    [InlineData(1)]
    [InlineData(-1)]
    public async Task Two_nodes_whose_clocks_are_a_day_apart_agree_on_what_came_first(int days)
    {
        await using var yard = await WebYard.OpenAsync();
        var off = new FakeTimeProvider(DateTimeOffset.UtcNow.AddDays(days));
        await using var other = WebHost.Build(
            [],
            yard.ConnectionString,
            "http://127.0.0.1:0",
            quiet: true,
            off,
            dating: new(ByDatabase: true)
        );
        await other.StartAsync(Cancel);
        Assert.Equal(HttpStatusCode.OK, (await yard.Visitor().GetAsync("/health/ready")).StatusCode);
        var there = new Visitor(new Uri(other.Urls.First()));
        Assert.Equal(HttpStatusCode.ServiceUnavailable, (await there.GetAsync("/health/ready")).StatusCode);

        var piece = await yard.AcceptedAsync(Seed.Shackle("HM-0001"), DateTimeOffset.UtcNow.AddDays(-9));
        await there.PostAsync("/sign-in", new() { ["username"] = "crew", ["password"] = WebYard.Password });
        var held = await there.PostAsync("/piece/HM-0001/hold", new() { ["cause"] = "doubt", ["reason"] = "Bent" });
        Assert.Equal(HttpStatusCode.Redirect, held.StatusCode);
        await using var dated = yard.Database.Command(
            "select extract(epoch from clock_timestamp() - placed_at)::int from hold"
        );
        Assert.InRange((int)(await dated.ExecuteScalarAsync(Cancel))!, 0, 60);

        // Before the next look the hold stands, whatever either clock says; after it, it can be closed.
        var hold = await HoldOfAsync(yard, piece.Id);
        Assert.False((await ReleaseAsync(yard, piece.Id, hold)).Ok);
        await yard.InspectAsync(piece, DateTimeOffset.UtcNow, Core.Judgement.InspectionKind.Periodic, "7/8 in");
        Assert.True((await ReleaseAsync(yard, piece.Id, hold)).Ok);
    }

    private static async Task<Guid> HoldOfAsync(WebYard yard, Guid piece) =>
        (await yard.App.Services.GetRequiredService<CustodyStore>().HoldsAsync(piece, Cancel)).Single(h => h.IsOpen).Id;

    private static async Task<Core.Kernel.Checked<Recorded>> ReleaseAsync(WebYard yard, Guid piece, Guid hold)
    {
        var now = (await yard.App.Services.GetRequiredService<PieceStore>().GetAsync(piece, Cancel))!;
        var stamp = new Stamp(Seed.People["qualified"], DateTimeOffset.UtcNow, Guid.NewGuid()) { ByDatabase = true };
        return await yard
            .App.Services.GetRequiredService<CustodyStore>()
            .ReleaseAsync(piece, now.Version, hold, "Straight after all", stamp, Cancel);
    }

    [Fact]
    public async Task Tries_at_the_same_moment_are_counted_one_by_one()
    {
        await using var yard = await WebYard.OpenAsync();
        var sent = await Task.WhenAll(Enumerable.Range(0, 24).Select(i => TryAsync(yard, "crew", $"guess {i}")));
        Assert.All(sent, r => Assert.NotEqual(HttpStatusCode.Redirect, r));
        Assert.NotEqual(HttpStatusCode.Redirect, await TryAsync(yard, "crew", WebYard.Password));
        await using var counted = yard.Database.Command("select tries from attempt where key like 'crew %'");
        Assert.Equal(25, await counted.ExecuteScalarAsync(Cancel));
    }

    [Fact]
    public async Task Wrong_tries_by_somebody_else_never_keep_a_person_from_signing_in_a_running_sign_in()
    {
        await using var yard = await WebYard.OpenAsync();
        var piece = await yard.RegisterAsync(Seed.Shackle("HM-0002"));
        var (draft, version, _) = await yard.DraftAsync(piece, "inspector", DateTimeOffset.UtcNow);
        var inspector = await yard.SignedInAsync("inspector");
        for (var i = 0; i < Passwords.MostOfOne + 2; i++)
            await TryAsync(yard, "inspector", $"guess {i}");
        Dictionary<string, string> signing = new()
        {
            ["version"] = version.ToString(),
            ["inspectedOn"] = DateTime.UtcNow.ToString("yyyy-MM-dd"),
            ["password"] = WebYard.Password,
        };
        var signed = await inspector.PostAsync($"/inspect/{draft}/sign", signing);
        Assert.Equal(HttpStatusCode.Redirect, signed.StatusCode);
    }

    [Fact]
    public async Task After_five_minutes_a_person_may_try_again()
    {
        var clock = new FakeTimeProvider(DateTimeOffset.UtcNow);
        await using var yard = await WebYard.OpenAsync(clock);
        for (var i = 0; i < Passwords.MostOfOne; i++)
            await TryAsync(yard, "crew", "guess");
        Assert.NotEqual(HttpStatusCode.Redirect, await TryAsync(yard, "crew", WebYard.Password));
        clock.Advance(SignInStore.Window + TimeSpan.FromSeconds(1));
        Assert.Equal(HttpStatusCode.Redirect, await TryAsync(yard, "crew", WebYard.Password));
    }

    [Fact]
    public async Task A_strange_host_name_is_not_answered()
    {
        await using var yard = await WebYard.OpenAsync();
        using var http = new HttpClient();
        var request = new HttpRequestMessage(HttpMethod.Get, new Uri(yard.Address, "/sign-in"));
        request.Headers.Host = "gear.elsewhere.example";
        Assert.Equal(HttpStatusCode.BadRequest, (await http.SendAsync(request, Cancel)).StatusCode);
    }

    [Theory]
    [InlineData(null, false, "localhost")]
    [InlineData("https://gear.works.example", true, "gear.works.example")]
    [InlineData("http://gear.works.example:8080", false, "gear.works.example")]
    public void Where_it_is_served_comes_from_configuration(string? address, bool secure, string host)
    {
        var served = Served.Read(name => name == "KERALITH_ADDRESS" ? address : null);
        Assert.Equal(secure, served.IsSecure);
        Assert.Contains(host, served.Hosts);
        Assert.Throws<FormatException>(() => Served.Read(n => n == "KERALITH_ADDRESS" ? "gear" : null));
    }

    [Fact]
    public async Task The_keys_in_the_database_are_sealed_by_a_key_that_is_not_in_it()
    {
        var connection = await TestDatabases.CreateAsync();
        var file = Path.Combine(Path.GetTempPath(), $"keralith-{Guid.NewGuid():N}", "master.key");
        var served = Served.Read(name => name == "KERALITH_KEY_FILE" ? file : null);
        try
        {
            await using var app = WebHost.Build([], connection, "http://127.0.0.1:0", quiet: true, served: served);
            await app.StartAsync(Cancel);
            using var http = new HttpClient { BaseAddress = new(app.Urls.First()) };
            Assert.Equal(HttpStatusCode.OK, (await http.GetAsync("/sign-in", Cancel)).StatusCode);
            await using var kept = app
                .Services.GetRequiredService<Database>()
                .Command("select xml from protection_key");
            var xml = (string)(await kept.ExecuteScalarAsync(Cancel))!;
            Assert.DoesNotContain("<masterKey", xml, StringComparison.OrdinalIgnoreCase);
            Assert.Contains("<sealed", xml, StringComparison.Ordinal);
            Assert.Equal(32, (await File.ReadAllBytesAsync(file, Cancel)).Length);
        }
        finally
        {
            Directory.Delete(Path.GetDirectoryName(file)!, recursive: true);
        }
    }

    private static async Task<HttpStatusCode> TryAsync(WebYard yard, string who, string password) =>
        (await yard.Visitor().PostAsync("/sign-in", new() { ["username"] = who, ["password"] = password })).StatusCode;
}
