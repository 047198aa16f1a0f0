using System.Net;
using Keralith.Data;
using Keralith.Testing;
using Npgsql;
using Xunit;

namespace Keralith.Web.Tests;

/// <summary>
/// The line to the database is cut in the middle of an act, after each of its answers in turn: whoever sent it is told that
/// the records can't be reached, never that the fault is ours, and what is on record is all of the act or nothing.
/// </summary>
public class CutLineTests
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    [Fact]
    public async Task Wherever_the_line_is_cut_a_piece_is_registered_or_not_and_the_page_says_so()
    {
        await using var yard = await WebYard.OpenAsync();
        var there = new NpgsqlConnectionStringBuilder(yard.ConnectionString);
        await using var line = CutLine.To(there.Port);
        (there.Host, there.Port, there.Timeout) = ("127.0.0.1", line.Port, 5);
        await using var app = WebHost.Build([], there.ConnectionString, "http://127.0.0.1:0", quiet: true);
        await app.StartAsync(Cancel);
        var stores = new Visitor(new(app.Urls.First()));
        await stores.PostAsync("/sign-in", new() { ["username"] = "stores", ["password"] = WebYard.Password });
        var answers = 0;
        for (var whole = false; !whole; answers++)
        {
            var mark = $"HM-{answers:0000}";
            var token = await TokenAsync(stores);
            line.CutAfter(answers);
            var sent = await SendAsync(stores, mark, token);
            whole = !line.IsCut;
            line.Mend();
            if (sent.StatusCode != HttpStatusCode.ServiceUnavailable)
                Assert.Equal(
                    (HttpStatusCode.Redirect, $"/piece/{mark}"),
                    (sent.StatusCode, $"{sent.Headers.Location}")
                );
            else
                Assert.False(whole);
        }

        Assert.True(answers > 8, $"an act of {answers} answers");
        Assert.Empty(await new VerifyStore(yard.Database).RunAsync(DateTimeOffset.UtcNow, Cancel));
    }

    [Fact]
    public async Task What_was_given_up_at_the_server_is_no_fault_of_the_page()
    {
        await using var yard = await WebYard.OpenAsync();
        var crew = await yard.SignedInAsync("crew");
        var page = await GivenUpAsync(yard, "piece", () => crew.GetAsync("/register"));
        Assert.Equal(HttpStatusCode.ServiceUnavailable, page.StatusCode);
    }

    /// <summary>
    /// The database is back for the act itself, and knows that the sign-in was ended: its word was not heard, so the cookie's
    /// counts for nothing.
    /// </summary>
    [Fact]
    public async Task By_a_sign_in_that_nobody_can_ask_about_nothing_is_shown_or_done()
    {
        await using var yard = await WebYard.OpenAsync();
        await yard.RegisterAsync(Seed.Shackle("HM-0001"));
        var crew = await yard.SignedInAsync("crew");
        var token = await crew.TokenAsync("/piece/HM-0001/hold");
        await using (var owner = new Database(await TestDatabases.OwnerOfAsync(yard.ConnectionString)))
            await owner.Command("update sign_in set ended_at = now()").ExecuteNonQueryAsync(Cancel);
        var held = await GivenUpAsync(yard, "sign_in", () =>
            crew.SendAsync(
                new(HttpMethod.Post, "/piece/HM-0001/hold")
                {
                    Content = new FormUrlEncodedContent([
                        new("reason", "Bent"),
                        new("Submission", Guid.NewGuid().ToString()),
                        new("__RequestVerificationToken", token),
                    ]),
                }
            )
        );
        Assert.Equal(HttpStatusCode.ServiceUnavailable, held.StatusCode);
        Assert.Equal(TimeSpan.FromSeconds(5), held.Headers.RetryAfter?.Delta);
        var shown = await GivenUpAsync(yard, "sign_in", () => crew.GetAsync("/piece/HM-0001"));
        Assert.Equal(HttpStatusCode.ServiceUnavailable, shown.StatusCode);
        var piece = (await new PieceStore(yard.Database).FindAsync("HM-0001", Cancel))!;
        Assert.Empty(await new CustodyStore(yard.Database).HoldsAsync(piece.Id, Cancel));

        // Heard, it leads to the sign-in.
        Assert.Equal(HttpStatusCode.Redirect, (await crew.GetAsync("/piece/HM-0001")).StatusCode);
    }

    /// <summary>Asks while a table is locked, and has the server give up the first question that waits for it.</summary>
    private static async Task<HttpResponseMessage> GivenUpAsync(
        WebYard yard,
        string table,
        Func<Task<HttpResponseMessage>> ask
    )
    {
        await using var owner = new Database(await TestDatabases.OwnerOfAsync(yard.ConnectionString));
        await using var connection = await owner.OpenAsync(Cancel);
        await using var holds = await connection.BeginTransactionAsync(Cancel);
        await using var locks = new NpgsqlCommand($"lock table {table} in access exclusive mode", connection, holds);
        await locks.ExecuteNonQueryAsync(Cancel);
        var asked = ask();
        await using var give = new NpgsqlCommand(
            """
            select count(pg_cancel_backend(pid)) from pg_stat_activity
            where datname = current_database() and wait_event_type = 'Lock'
            """,
            connection
        );
        while (!asked.IsCompleted && (long)(await give.ExecuteScalarAsync(Cancel))! == 0)
            await Task.Delay(20, Cancel);
        return await asked;
    }

    /// <summary>A token of the form, asked for until those connections are gone that were cut.</summary>
    private static async Task<string> TokenAsync(Visitor visitor)
    {
        for (var tries = 0; tries < 50; tries++)
        {
            if (await visitor.TokenAsync("/register/new?family=shackle") is { Length: > 0 } token)
                return token;
        }

        throw new TimeoutException("the form did not come back");
    }

    private static Task<HttpResponseMessage> SendAsync(Visitor visitor, string mark, string token) =>
        visitor.SendAsync(
            new(HttpMethod.Post, "/register/new")
            {
                Content = new FormUrlEncodedContent([
                    .. Seed.Shackle(mark),
                    new("Submission", Guid.NewGuid().ToString()),
                    new("__RequestVerificationToken", token),
                ]),
            }
        );
}
