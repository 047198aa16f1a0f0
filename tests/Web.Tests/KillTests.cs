using System.Diagnostics;
using System.Net;
using System.Security.Cryptography;
using Keralith.Core.Custody;
using Keralith.Core.Judgement;
using Keralith.Core.Ledger;
using Keralith.Core.Register;
using Keralith.Core.Signing;
using Keralith.Data;
using Keralith.Data.Exchange;
using Keralith.Data.Local;
using Keralith.Testing;
using Microsoft.AspNetCore.Identity;
using Npgsql;
using Xunit;

namespace Keralith.Web.Tests;

/// <summary>
/// The application and PostgreSQL killed (-9) in the middle of signing: nothing acknowledged is lost, nothing stands
/// twice, the ledger is whole.
/// </summary>
public class KillTests
{
    private const int Pieces = 24;

    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    [Fact]
    public async Task The_application_killed_while_signing_keeps_every_acknowledged_record_once()
    {
        var connection = await TestDatabases.CreateAsync();
        await FillAsync(connection);
        var acknowledged = new List<Guid>();
        var sent = new List<Guid>();
        for (var run = 0; run < 2; run++)
        {
            var (process, address) = await ServeAsync(connection);
            try
            {
                await SignUntilAsync(address, sent, acknowledged, enough: 6 + run, () =>
                    process.Kill(entireProcessTree: true)
                );
            }
            finally
            {
                if (!process.HasExited)
                    process.Kill(entireProcessTree: true);
                await process.WaitForExitAsync(Cancel);
            }
        }

        await EachOnceAsync(connection, sent, acknowledged);
    }

    [Fact]
    public async Task PostgreSQL_killed_while_signing_keeps_every_acknowledged_record_once_and_the_application_recovers()
    {
        var folder = Path.Combine(Path.GetTempPath(), $"keralith-kill-{Guid.NewGuid():N}");
        var cluster = LocalCluster.Start(folder);
        try
        {
            await cluster.EnsureDatabaseAsync("killed", async c =>
            {
                await using (var database = new Database(c))
                {
                    database.Migrate();
                    await Seed.FillAsync(database);
                }

                await FillAsync(c);
            });
            var connection = cluster.AppConnectionString("killed");
            var acknowledged = new List<Guid>();
            var sent = new List<Guid>();
            await using (var app = WebHost.Build([], connection, "http://127.0.0.1:0", quiet: true))
            {
                await app.StartAsync(Cancel);
                await SignUntilAsync(new(app.Urls.First()), sent, acknowledged, enough: 6, () => KillServer(folder));
                await app.StopAsync(Cancel);
            }

            NpgsqlConnection.ClearAllPools();
            cluster = LocalCluster.Start(folder);
            await EachOnceAsync(cluster.ConnectionString("killed"), sent, acknowledged);
        }
        finally
        {
            cluster.Stop();
            Directory.Delete(folder, recursive: true);
        }
    }

    /// <summary>Twenty thousand pieces is what a maker's notice may come to; the test takes the time such a recall takes, twice.</summary>
    [Fact]
    public async Task PostgreSQL_killed_in_the_middle_of_a_recall_of_twenty_thousand_holds_none_and_then_all()
    {
        const int Many = 20_000;
        var folder = Path.Combine(Path.GetTempPath(), $"keralith-recall-{Guid.NewGuid():N}");
        var cluster = LocalCluster.Start(folder);
        try
        {
            await cluster.EnsureDatabaseAsync("recalled", async c =>
            {
                await using var database = new Database(c);
                database.Migrate();
                await Seed.FillAsync(database);
                var first = PieceEntryReader.Read(Seed.Shackle("HM-00000")).Entry! with
                {
                    Maker = "Test works",
                    Serial = "K-0",
                };
                var stamp = new Stamp(Seed.People["stores"], DateTimeOffset.UtcNow, Guid.NewGuid());
                Assert.True((await new PieceStore(database).RegisterAsync(first, Guid.NewGuid(), stamp, Cancel)).Ok);
                await Seed.MultiplyAsync(database, Many);
            });
            var match = new RecallMatch("Test works", null, null, null, null, null, null);
            var qualified = Seed.People["qualified"];
            await using (var database = new Database(cluster.AppConnectionString("recalled")))
            {
                var set = new RecallStore(database).SetAsync(
                    match,
                    "Cracks",
                    "Notice 4",
                    new(qualified, DateTimeOffset.UtcNow, Guid.NewGuid()),
                    Cancel
                );
                await using var watch = new NpgsqlConnection(cluster.ConnectionString("recalled"));
                await watch.OpenAsync(Cancel);
                await using var begun = new NpgsqlCommand(
                    "select count(*) from pg_locks where relation = 'hold'::regclass and mode = 'RowExclusiveLock'",
                    watch
                );
                while (!set.IsCompleted && (long)(await begun.ExecuteScalarAsync(Cancel))! == 0)
                    await Task.Yield();
                Assert.False(set.IsCompleted, $"It was over before the blow fell. {set.Exception}");
                KillServer(folder);
                await Assert.ThrowsAnyAsync<Exception>(() => set);
            }

            NpgsqlConnection.ClearAllPools();
            cluster = LocalCluster.Start(folder);
            await using (var database = new Database(cluster.AppConnectionString("recalled")))
            {
                var recalls = new RecallStore(database);
                Assert.Empty(await recalls.AllAsync(Cancel));
                Assert.Equal(0, await CountAsync(database, "select count(*)::int as n from hold"));
                Assert.Equal(
                    Many,
                    await CountAsync(database, "select count(*)::int as n from piece where state = 'new'")
                );
                var clock = Stopwatch.StartNew();
                Assert.True(
                    (
                        await recalls.SetAsync(
                            match,
                            "Cracks",
                            "Notice 4",
                            new(qualified, DateTimeOffset.UtcNow, Guid.NewGuid()),
                            Cancel
                        )
                    ).Ok
                );
                TestContext.Current.SendDiagnosticMessage("{0} pieces recalled in {1}", Many, clock.Elapsed);
                Assert.True(clock.Elapsed < TimeSpan.FromSeconds(60), $"It took {clock.Elapsed}.");
                Assert.Equal(
                    Many,
                    await CountAsync(database, "select count(*)::int as n from piece where state = 'held'")
                );
                var (entries, broken) = await new LedgerStore(database).VerifyAsync(Cancel);
                Assert.Null(broken);
                Assert.Equal(Many + 2, (int)entries);
            }

            await PackKilledAsync(cluster, folder, () => cluster = LocalCluster.Start(folder));
        }
        finally
        {
            cluster.Stop();
            Directory.Delete(folder, recursive: true);
        }
    }

    /// <summary>
    /// A pack is read at one moment and handed over whole: killed in its middle there is none, and the next is as it would have
    /// been. On the register of the recall, for a small one is over before the blow falls.
    /// </summary>
    private static async Task PackKilledAsync(LocalCluster cluster, string folder, Func<LocalCluster> again)
    {
        var today = DateOnly.FromDateTime(DateTime.UtcNow);
        var scope = new PackScope(today.AddDays(-2), today.AddDays(1), null, null, null);
        using var key = ECDsa.Create(ECCurve.NamedCurves.nistP256);
        byte[] whole;
        await using (var database = new Database(cluster.AppConnectionString("recalled")))
        {
            var heads = new TreeHeadStore(database);
            var now = DateTimeOffset.UtcNow;
            await heads.AddKeyAsync(
                new(TreeHead.FingerprintOf(key), key.ExportSubjectPublicKeyInfoPem(), "kept by the test", now),
                Cancel
            );
            Assert.NotNull(await heads.SignAsync("Works", key, now, again: false, Cancel));
            whole = await PackAsync(database, null);
            using var output = new MemoryStream();
            await Assert.ThrowsAnyAsync<Exception>(() =>
                new AuditPack(database).WriteAsync(
                    output,
                    scope,
                    TimeZoneInfo.Utc,
                    _ => [],
                    Cancel,
                    new Blow(10_000, () => KillServer(folder))
                )
            );
            Assert.Equal(0, output.Length);
        }

        NpgsqlConnection.ClearAllPools();
        await using var after = new Database(again().AppConnectionString("recalled"));
        var told = new Blow(int.MaxValue, () => { });
        Assert.Equal(whole, await PackAsync(after, told));
        Assert.True(told.Last > 40_000, $"Told of {told.Last} lines.");

        async Task<byte[]> PackAsync(Database database, IProgress<int>? progress)
        {
            using var output = new MemoryStream();
            Assert.True(
                await new AuditPack(database).WriteAsync(output, scope, TimeZoneInfo.Utc, _ => [], Cancel, progress)
            );
            return output.ToArray();
        }
    }

    /// <summary>Does something once, when a work has come so far.</summary>
    private sealed class Blow(int at, Action strike) : IProgress<int>
    {
        public int Last { get; private set; }

        public void Report(int value)
        {
            Last = value;
            if (value == at)
                strike();
        }
    }

    private static async Task<int> CountAsync(Database database, string sql)
    {
        await using var command = database.Command(sql);
        return (int)(await command.ExecuteScalarAsync(Cancel))!;
    }

    private static async Task FillAsync(string connection)
    {
        await using var database = new Database(connection);
        var sites = new SiteStore(database);
        var (pieces, inspections, signing) = (
            new PieceStore(database),
            new InspectionStore(database),
            new SigningStore(database)
        );
        var site = await sites.GetAsync(Cancel);
        var at = DateTimeOffset.UtcNow.AddDays(-1);
        for (var i = 0; i < Pieces; i++)
        {
            var stamp = new Stamp(Seed.People["inspector"], at, Guid.NewGuid());
            Assert.True(
                (
                    await pieces.RegisterAsync(
                        PieceEntryReader.Read(Seed.Shackle($"HM-{i:0000}")).Entry!,
                        Guid.NewGuid(),
                        stamp with
                        {
                            Submission = Guid.NewGuid(),
                        },
                        Cancel
                    )
                ).Ok
            );
            var piece = (await pieces.FindAsync($"HM-{i:0000}", Cancel))!;
            var draft = (await inspections.OpenAsync(piece, InspectionKind.Initial, stamp, Cancel)).Value;
            var answers = Judge
                .MissingAnswers(new(site.Books, InspectionKind.Initial, piece.Gear, [], []))
                .Select(m => new DraftAnswer(
                    m.Part,
                    m.Criterion.Id,
                    m.Criterion.IsAnswerChosen
                        ? new(Answer: "no")
                        : new(Value: m.Criterion.Id == "shackle.wear-pin" ? "1 in" : "7/8 in"),
                    null,
                    "",
                    at
                ))
                .ToList();
            var version = (await inspections.SaveAsync(draft, answers, stamp.Actor, at, Cancel)).Value;
            Assert.True(
                (await signing.SignAsync(draft, new(version, DateOnly.FromDateTime(at.UtcDateTime)), stamp, Cancel)).Ok
            );
        }

        await using var passwords = database.Command("update person set password_hash = $1");
        passwords.Parameters.Add(
            new() { Value = new PasswordHasher<Actor>().HashPassword(Seed.People["crew"], WebYard.Password) }
        );
        await passwords.ExecuteNonQueryAsync(Cancel);
    }

    /// <summary>
    /// Four hands, all signed in, sign clean checks as fast as they can; once enough are acknowledged the blow falls,
    /// once, in the middle of others.
    /// </summary>
    private static async Task SignUntilAsync(
        Uri address,
        List<Guid> sent,
        List<Guid> acknowledged,
        int enough,
        Action blow
    )
    {
        var begun = acknowledged.Count;
        using var struck = new ManualResetEventSlim();
        var visitors = await Task.WhenAll(Enumerable.Range(0, 4).Select(_ => SignedInAsync(address)));
        var hands = visitors
            .Select(
                async (visitor, hand) =>
                {
                    for (var i = 0; i < 500 && !struck.IsSet; i++)
                    {
                        var id = Guid.NewGuid();
                        lock (sent)
                            sent.Add(id);
                        try
                        {
                            var response = await visitor.PostAsync(
                                $"/piece/HM-{((i * 4) + hand) % Pieces:0000}/check",
                                new() { ["Submission"] = id.ToString() }
                            );
                            if (response.StatusCode != HttpStatusCode.Redirect)
                                continue;
                            bool falls;
                            lock (acknowledged)
                            {
                                acknowledged.Add(id);
                                falls = acknowledged.Count - begun >= enough && !struck.IsSet;
                                if (falls)
                                    struck.Set();
                            }

                            if (falls)
                                blow();
                        }
                        catch (Exception e) when (e is HttpRequestException or IOException)
                        {
                            return;
                        }
                    }
                }
            )
            .ToList();
        await Task.WhenAll(hands);
        Assert.True(acknowledged.Count - begun >= enough, "The blow never fell.");
    }

    private static async Task<Visitor> SignedInAsync(Uri address)
    {
        var visitor = new Visitor(address);
        var response = await visitor.PostAsync(
            "/sign-in",
            new() { ["username"] = "crew", ["password"] = WebYard.Password }
        );
        Assert.Equal(HttpStatusCode.Redirect, response.StatusCode);
        return visitor;
    }

    private static async Task EachOnceAsync(string connection, List<Guid> sent, List<Guid> acknowledged)
    {
        await using var database = new Database(connection);
        await using var command = database.Command(
            "select id, (select count(*) from ledger l where l.kind = 'inspection.signed' and l.data::json->>'inspection' = i.id::text) from inspection i where kind = 'frequent'"
        );
        var kept = new Dictionary<Guid, long>();
        await using (var reader = await command.ExecuteReaderAsync(Cancel))
        {
            while (await reader.ReadAsync(Cancel))
                kept.Add(reader.GetGuid(0), reader.GetInt64(1));
        }

        Assert.All(acknowledged, id => Assert.Equal(1, kept.GetValueOrDefault(id)));
        Assert.All(kept, k => Assert.True(sent.Contains(k.Key) && k.Value == 1));
        var (entries, broken) = await new LedgerStore(database).VerifyAsync(Cancel);
        Assert.Null(broken);
        await using var begun = database.Command(
            "select coalesce(max(number), 0) from ledger where kind = 'record.sealed-whole'"
        );
        Assert.Equal((long)(await begun.ExecuteScalarAsync(Cancel))! + (2 * Pieces) + kept.Count, entries);
    }

    private static async Task<(Process Process, Uri Address)> ServeAsync(string connection)
    {
        var port = LoopbackPorts.Free();
        var start = new ProcessStartInfo("dotnet") { RedirectStandardOutput = true, RedirectStandardError = true };
        start.ArgumentList.Add(Path.Combine(AppContext.BaseDirectory, "keralith.dll"));
        start.ArgumentList.Add("serve");
        start.Environment["KERALITH_DATABASE"] = connection;
        start.Environment["KERALITH_URLS"] = $"http://127.0.0.1:{port}";
        var process = Process.Start(start)!;
        process.BeginOutputReadLine();
        process.BeginErrorReadLine();
        using var http = new HttpClient();
        for (var i = 0; i < 600; i++)
        {
            try
            {
                if ((await http.GetAsync($"http://127.0.0.1:{port}/health/ready", Cancel)).IsSuccessStatusCode)
                    break;
            }
            catch (HttpRequestException)
            {
                // Not up yet.
            }

            await Task.Delay(50, Cancel);
        }

        return (process, new($"http://127.0.0.1:{port}"));
    }

    /// <summary>Kills the postmaster, as a power cut would: its children end with it, nothing is shut down.</summary>
    private static void KillServer(string folder)
    {
        var postmaster = int.Parse(File.ReadAllLines(Path.Combine(folder, "data", "postmaster.pid"))[0]);
        var children = Directory
            .GetDirectories("/proc")
            .Select(d => int.TryParse(Path.GetFileName(d), out var id) ? id : 0)
            .Where(id =>
                id > 0
                && File.Exists($"/proc/{id}/stat")
                && File.ReadAllText($"/proc/{id}/stat") is var stat
                && stat[(stat.LastIndexOf(')') + 2)..].Split(' ')[1] == $"{postmaster}"
            )
            .ToList();
        foreach (var id in children.Prepend(postmaster))
        {
            try
            {
                Process.GetProcessById(id).Kill();
            }
            catch (ArgumentException)
            {
                // Gone already.
            }
        }
    }
}
