using System.Collections.Concurrent;
using System.Net;
using Keralith.Data;
using Keralith.Testing;
using Microsoft.AspNetCore.Identity;
using Npgsql;
using Xunit;

namespace Keralith.Web.Tests;

/// <summary>
/// The machine of the leading database is lost under load: every acknowledged record is on the one that takes its place,
/// once, the ledger is whole, and the pages answer again by themselves. Slow, for the others wait until the word of the
/// lost one is old; nothing else shows that a works survives a machine.
/// </summary>
public class FailoverTests
{
    private const int Hands = 4;
    private const int Enough = 12;

    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    [Fact]
    public async Task The_leading_database_lost_under_load_loses_nothing_that_was_acknowledged()
    {
        await using var cluster = await PatroniCluster.StartAsync(Member());
        var connection = await PrepareAsync(cluster);
        await using var app = WebHost.Build([], connection, "http://127.0.0.1:0", quiet: true);
        await app.StartAsync(Cancel);
        var acknowledged = new ConcurrentDictionary<string, bool>();
        var otherwise = new ConcurrentBag<string>();
        var lost = new TaskCompletionSource();
        using var stop = CancellationTokenSource.CreateLinkedTokenSource(Cancel);
        var hands = Enumerable
            .Range(0, Hands)
            .Select(hand => RegisterAsync(new(app.Urls.First()), hand, lost.Task, acknowledged, otherwise, stop.Token))
            .ToList();

        await cluster.UntilAsync(() => Task.FromResult(acknowledged.Count >= Enough), "nothing was acknowledged");
        var leader = (await cluster.LeaderAsync())!.Value;
        cluster.Kill(leader);
        lost.SetResult();
        await cluster.UntilAsync(
            async () => await cluster.LeaderAsync() is { } next && next != leader,
            "no other member took the lead"
        );
        await cluster.UntilAsync(
            () => Task.FromResult(acknowledged.Values.Count(after => after) >= Enough),
            "nothing was acknowledged after it was lost"
        );
        await stop.CancelAsync();
        await Task.WhenAll(hands);

        var visitor = await SignedInAsync(new(app.Urls.First()));
        Assert.Equal(HttpStatusCode.OK, (await visitor.GetAsync("/register")).StatusCode);
        await using var database = new Database(connection);
        var marks = await MarksAsync(database);
        Assert.Equal(marks.Count, marks.Distinct().Count());
        Assert.Empty(acknowledged.Keys.Except(marks));
        Assert.Empty(otherwise.Distinct());
        Assert.Empty(await new VerifyStore(database).RunAsync(DateTimeOffset.UtcNow, Cancel));
        await app.StopAsync(Cancel);
    }

    /// <summary>Registers one piece after the other; what was not acknowledged is sent again, the same, until it is.</summary>
    private static async Task RegisterAsync(
        Uri address,
        int hand,
        Task lost,
        ConcurrentDictionary<string, bool> acknowledged,
        ConcurrentBag<string> otherwise,
        CancellationToken stop
    )
    {
        var visitor = await SignedInAsync(address);
        for (var number = 0; !stop.IsCancellationRequested; number++)
        {
            var mark = $"HM-{hand}{number:0000}";
            var fields = Seed.Shackle(mark);
            fields["Submission"] = Guid.NewGuid().ToString();
            while (!stop.IsCancellationRequested)
            {
                try
                {
                    var sent = await visitor.PostAsync("/register/new", fields);
                    if (sent.StatusCode == HttpStatusCode.Redirect && sent.Headers.Location!.ToString().Contains(mark))
                    {
                        acknowledged[mark] = lost.IsCompleted;
                        break;
                    }

                    // Without its page there is no form's token to send: refused too, and sent again.
                    if (sent.StatusCode is not (HttpStatusCode.ServiceUnavailable or HttpStatusCode.BadRequest))
                        otherwise.Add($"{sent.StatusCode} {sent.Headers.Location}");
                }
                catch (HttpRequestException)
                {
                    // Not answered: sent again.
                }

                await Task.Delay(200, CancellationToken.None);
            }
        }
    }

    private static async Task<Visitor> SignedInAsync(Uri address)
    {
        var visitor = new Visitor(address);
        await visitor.PostAsync("/sign-in", new() { ["username"] = "stores", ["password"] = WebYard.Password });
        return visitor;
    }

    private static async Task<string> PrepareAsync(PatroniCluster cluster)
    {
        await SayAsync(
            cluster.ConnectionString("postgres", "postgres"),
            $"create role {DatabaseRole.Name} login password '{PatroniCluster.RolePassword}'"
        );
        await SayAsync(cluster.ConnectionString("postgres", "postgres"), "create database keralith");
        await using var owner = new Database(cluster.ConnectionString("keralith", "postgres"));
        owner.Migrate();
        await Seed.FillAsync(owner);
        var hash = new PasswordHasher<Actor>().HashPassword(Seed.People["crew"], WebYard.Password);
        await using var passwords = owner.Command("update person set password_hash = $1 where username = 'stores'");
        passwords.Parameters.Add(new() { Value = hash });
        await passwords.ExecuteNonQueryAsync(Cancel);
        return cluster.ConnectionString("keralith", DatabaseRole.Name);
    }

    private static async Task SayAsync(string connectionString, string sql)
    {
        await using var source = new NpgsqlDataSourceBuilder(connectionString).Build();
        await using var command = source.CreateCommand(sql);
        await command.ExecuteNonQueryAsync(Cancel);
    }

    private static async Task<List<string>> MarksAsync(Database database)
    {
        await using var command = database.Command("select mark from piece");
        await using var reader = await command.ExecuteReaderAsync(Cancel);
        var marks = new List<string>();
        while (await reader.ReadAsync(Cancel))
            marks.Add(reader.GetString(0));
        return marks;
    }

    private static string Member()
    {
        var folder = new DirectoryInfo(AppContext.BaseDirectory);
        while (!File.Exists(Path.Combine(folder.FullName, "packaging", "patroni", "member.yml")))
            folder = folder.Parent!;
        return Path.Combine(folder.FullName, "packaging", "patroni", "member.yml");
    }
}
