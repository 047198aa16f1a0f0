using System.Diagnostics;
using System.Net;
using Keralith.Data;
using Keralith.Testing;
using Keralith.Web.Security;
using Microsoft.AspNetCore.Builder;
using Microsoft.Extensions.DependencyInjection;
using Xunit;

namespace Keralith.Web.Tests;

/// <summary>How a works is served: behind a proxy or not, watched or not, and what is refused for what it would give away.</summary>
public class ServedTests
{
    private const string Token = "watching-from-afar";

    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    [Theory]
    [InlineData(null, "Bearer watching-from-afar", HttpStatusCode.NotFound)]
    [InlineData(Token, null, HttpStatusCode.NotFound)]
    [InlineData(Token, "Bearer watching-from-afa", HttpStatusCode.NotFound)]
    [InlineData(Token, "Bearer watching-from-afar", HttpStatusCode.OK)]
    public async Task Metrics_are_there_for_who_brings_the_token_and_for_nobody_else(
        string? configured,
        string? brought,
        HttpStatusCode status
    )
    {
        await using var app = await ServeAsync(("KERALITH_METRICS_TOKEN", configured));
        var request = new HttpRequestMessage(HttpMethod.Get, "/metrics");
        if (brought is not null)
            request.Headers.Add("Authorization", brought);
        var response = await new Visitor(new(app.Urls.First())).SendAsync(request);
        Assert.Equal(status, response.StatusCode);
        if (status != HttpStatusCode.OK)
            return;
        var text = await response.Content.ReadAsStringAsync(Cancel);
        foreach (
            var name in new[]
            {
                "keralith_ledger_height",
                "keralith_backup_seconds_since_last",
                "keralith_mails_waiting",
                "keralith_pieces_unverified",
            }
        )
            Assert.Contains($"\n{name}", text, StringComparison.Ordinal);
        Assert.DoesNotContain("inspector", text, StringComparison.Ordinal);
    }

    [Theory]
    [InlineData(null, "127.0.0.1")]
    [InlineData("10.0.0.0/8", "127.0.0.1")]
    [InlineData("127.0.0.1", "203.0.113.9")]
    [InlineData("127.0.0.0/8;::1", "203.0.113.9")]
    public async Task Where_a_request_comes_from_is_what_a_configured_proxy_says_and_nobody_else(
        string? proxies,
        string seen
    )
    {
        await using var app = await ServeAsync(("KERALITH_PROXIES", proxies));
        var visitor = new Visitor(new(app.Urls.First()));
        var request = new HttpRequestMessage(HttpMethod.Post, "/sign-in")
        {
            Content = new FormUrlEncodedContent([
                new("username", "crew"),
                new("password", WebYard.Password),
                new("__RequestVerificationToken", await visitor.TokenAsync("/sign-in")),
            ]),
        };
        request.Headers.Add("X-Forwarded-For", "203.0.113.9");
        request.Headers.Add("X-Forwarded-Proto", "https");
        Assert.Equal(HttpStatusCode.Redirect, (await visitor.SendAsync(request)).StatusCode);
        await using var at = app.Services.GetRequiredService<Database>().Command("select address from sign_in");
        Assert.Equal(seen, await at.ExecuteScalarAsync(Cancel));
    }

    [Fact]
    public async Task Behind_a_proxy_that_speaks_HTTPS_cookies_and_browsers_keep_to_it()
    {
        await using var app = await ServeAsync(
            ("KERALITH_PROXIES", "127.0.0.1"),
            ("KERALITH_ADDRESS", "https://gear.works.example")
        );
        var request = new HttpRequestMessage(HttpMethod.Get, "/sign-in");
        request.Headers.Add("X-Forwarded-Proto", "https");
        request.Headers.Host = "gear.works.example";
        var response = await new Visitor(new(app.Urls.First())).SendAsync(request);
        Assert.Equal("max-age=31536000", response.Headers.GetValues("Strict-Transport-Security").Single());
        var cookie = response.Headers.GetValues("Set-Cookie").Single();
        Assert.StartsWith("__Host-", cookie, StringComparison.Ordinal);
        Assert.Contains("secure", cookie, StringComparison.OrdinalIgnoreCase);
    }

    [Theory]
    [InlineData("http://0.0.0.0:5080", null, null, false)]
    [InlineData("http://127.0.0.1:0;http://192.0.2.1:80", null, null, false)]
    [InlineData("http://*:5080", null, null, false)]
    [InlineData("http://127.0.0.1:0", null, null, true)]
    [InlineData("http://[::1]:0", null, null, true)]
    [InlineData("http://localhost:5080", null, null, true)]
    [InlineData("https://0.0.0.0:5081", null, null, true)]
    [InlineData("http://0.0.0.0:5080", "https://gear.works.example", null, true)]
    [InlineData("http://0.0.0.0:5080", null, "allow", true)]
    public void Passwords_go_in_the_clear_beyond_this_machine_only_where_somebody_says_so(
        string urls,
        string? address,
        string? plain,
        bool may
    )
    {
        var served = Served.Read(n => n == "KERALITH_ADDRESS" ? address : null);
        Assert.Equal(may, served.RefusalOfUrls(urls, plain) is null);
    }

    [Theory]
    [InlineData("10.0.0.0/33")]
    [InlineData("proxy.works.example")]
    public void A_proxy_is_named_by_its_address_or_network(string text) =>
        Assert.Throws<FormatException>(() => Served.Read(n => n == "KERALITH_PROXIES" ? text : null));

    [Fact]
    public async Task A_full_disk_is_said_nothing_acknowledged_is_lost_and_work_goes_on_once_there_is_room()
    {
        await using var yard = await WebYard.OpenAsync();
        await yard.RegisterAsync(Seed.Shackle("HM-0001"));
        var crew = await yard.SignedInAsync("crew");
        await using var owner = new Database(await TestDatabases.OwnerOfAsync(yard.ConnectionString));
        await SayAsync(
            owner,
            """
            create function no_room() returns trigger language plpgsql as $$
            begin raise exception 'could not extend file: No space left on device' using errcode = 'disk_full'; end $$;
            create trigger no_room before insert on hold for each row execute function no_room();
            """
        );
        Dictionary<string, string> hold = new() { ["cause"] = "doubt", ["reason"] = "Bent" };
        var refused = await crew.PostAsync("/piece/HM-0001/hold", hold);
        Assert.Equal(HttpStatusCode.ServiceUnavailable, refused.StatusCode);
        Assert.Contains("disk is full", await refused.Content.ReadAsStringAsync(Cancel), StringComparison.Ordinal);
        Assert.Equal(HttpStatusCode.OK, (await crew.GetAsync("/piece/HM-0001")).StatusCode);
        await SayAsync(owner, "drop trigger no_room on hold");
        Assert.Equal(HttpStatusCode.Redirect, (await crew.PostAsync("/piece/HM-0001/hold", hold)).StatusCode);
    }

    [Fact]
    public async Task People_are_kept_and_backups_made_without_a_browser()
    {
        var connection = await TestDatabases.CreateAsync();
        var owner = await TestDatabases.OwnerOfAsync(connection);
        var (code, said) = await RunAsync(
            connection,
            "person",
            "add",
            "bo",
            "--name",
            "Bo Reed",
            "--role",
            "stores",
            "inspector"
        );
        Assert.Equal(0, code);
        Assert.Contains("/password?token=", said, StringComparison.Ordinal);
        Assert.Contains(
            "bo\tBo Reed\tstores, inspector\tinvited",
            (await RunAsync(connection, "person", "list")).Said,
            StringComparison.Ordinal
        );
        Assert.Equal(1, (await RunAsync(connection, "person", "disable", "admin")).Code);
        Assert.Equal(0, (await RunAsync(connection, "person", "disable", "bo")).Code);
        Assert.Equal(1, (await RunAsync(connection, "person", "reset", "bo")).Code);
        Assert.Contains(
            "/password?token=",
            (await RunAsync(connection, "person", "reset", "crew")).Said,
            StringComparison.Ordinal
        );
        Assert.Equal(2, (await RunAsync(connection, "person", "add", "x", "--name", "X", "--role", "foreman")).Code);

        var folder = Directory.CreateTempSubdirectory("keralith-backups");
        try
        {
            Assert.Equal(2, (await RunAsync(connection, "backup")).Code);
            Assert.Equal(0, (await RunAsync(connection, "backup", "--to", folder.FullName)).Code);
            var file = folder.GetFiles().Single().FullName;
            Assert.Equal(1, (await RunAsync(owner, "restore", file)).Code);
            var empty = await TestDatabases.CreateEmptyAsync();
            var restored = await RunAsync(empty, "restore", file);
            Assert.Equal(0, restored.Code);
            Assert.Contains("Everything verifies.", restored.Said, StringComparison.Ordinal);
        }
        finally
        {
            folder.Delete(recursive: true);
        }
    }

    private static async Task<(int Code, string Said)> RunAsync(string connection, params string[] arguments)
    {
        var start = new ProcessStartInfo(
            "dotnet",
            [Path.Combine(AppContext.BaseDirectory, "keralith.dll"), .. arguments]
        )
        {
            RedirectStandardOutput = true,
            RedirectStandardError = true,
        };
        start.Environment["KERALITH_DATABASE"] = connection;
        using var process = Process.Start(start)!;
        var (output, error) = (
            process.StandardOutput.ReadToEndAsync(Cancel),
            process.StandardError.ReadToEndAsync(Cancel)
        );
        await process.WaitForExitAsync(Cancel);
        return (process.ExitCode, await output + await error);
    }

    private static async Task SayAsync(Database database, string sql)
    {
        await using var command = database.Command(sql);
        await command.ExecuteNonQueryAsync(Cancel);
    }

    private static async Task<WebApplication> ServeAsync(params (string Name, string? Value)[] environment)
    {
        var connection = await TestDatabases.CreateAsync();
        await using (var database = new Database(connection))
        {
            var hash = new Microsoft.AspNetCore.Identity.PasswordHasher<Actor>().HashPassword(
                Seed.People["crew"],
                WebYard.Password
            );
            await using var passwords = database.Command(
                "update person set password_hash = $1 where username = 'crew'"
            );
            passwords.Parameters.Add(new() { Value = hash });
            await passwords.ExecuteNonQueryAsync(Cancel);
        }

        var served = Served.Read(n => environment.FirstOrDefault(e => e.Name == n).Value);
        var app = WebHost.Build([], connection, "http://127.0.0.1:0", quiet: true, served: served);
        await app.StartAsync(Cancel);
        return app;
    }
}
