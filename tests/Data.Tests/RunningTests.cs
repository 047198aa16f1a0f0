using Keralith.Core.Sites;
using Keralith.Data.Local;
using Keralith.Testing;
using Npgsql;
using Xunit;

namespace Keralith.Data.Tests;

/// <summary>What keeps a works running: its stores, scheduled work done once, mails that arrive, backups that restore.</summary>
public class RunningTests
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    [Fact]
    public async Task A_store_takes_gear_while_it_is_open_and_is_closed_when_it_is_empty()
    {
        await using var yard = await Yard.OpenAsync();
        var keeping = new StoreKeeping(yard.Database);
        var boat = StoreActs.Read("Second boat", "", "boat", oftenOffline: true).Value;
        Yard.Must(await keeping.KeepAsync(null, boat, yard.Stamp("admin"), Cancel));
        Assert.False(
            (await keeping.KeepAsync(null, boat with { Name = "second BOAT" }, yard.Stamp("admin"), Cancel)).Ok
        );
        Assert.False((await keeping.KeepAsync(null, boat with { Name = "Third" }, yard.Stamp("qualified"), Cancel)).Ok);
        var made = (await keeping.AllAsync(Cancel)).Single(s => s.Entry.Name == "Second boat");
        Assert.Equal(boat, made.Entry);

        var fields = Seed.Shackle("HM-0001");
        fields["store"] = made.Id.ToString();
        var piece = await yard.RegisterAsync(fields);
        Assert.False((await keeping.CloseAsync(made.Id, close: true, yard.Stamp("admin"), Cancel)).Ok);
        var moves = new YardStore(yard.Database);
        var first = (await yard.Sites.StoresAsync(Cancel))[0].Id;
        Yard.Must(await moves.MoveAsync([piece.Id], first, "A1", yard.Stamp("stores"), Cancel));
        Yard.Must(await keeping.CloseAsync(made.Id, close: true, yard.Stamp("admin"), Cancel));
        Assert.DoesNotContain(await yard.Sites.StoresAsync(Cancel), s => s.Id == made.Id);

        Assert.False((await moves.MoveAsync([piece.Id], made.Id, "A1", yard.Stamp("stores"), Cancel)).Ok);
        var elsewhere = Core.Register.PieceEntryReader.Read(fields).Entry!;
        var now = await yard.FindAsync("HM-0001");
        var edited = await yard.Pieces.EditAsync(
            now.Id,
            now.Version,
            elsewhere,
            new(null, null),
            yard.Stamp("stores"),
            Cancel
        );
        Assert.Equal(Core.Kernel.Refusals.NoSuchStore, edited.Refusal);
        (fields["mark"], fields["serial"]) = ("HM-0002", "OC-2");
        var entry = Core.Register.PieceEntryReader.Read(fields).Entry!;
        Assert.False((await yard.Pieces.RegisterAsync(entry, Guid.NewGuid(), yard.Stamp("stores"), Cancel)).Ok);
        Yard.Must(await keeping.CloseAsync(made.Id, close: false, yard.Stamp("admin"), Cancel));
        Assert.True((await yard.Pieces.RegisterAsync(entry, Guid.NewGuid(), yard.Stamp("stores"), Cancel)).Ok);
    }

    [Fact]
    public async Task Stores_hang_in_the_order_they_are_put_in()
    {
        await using var yard = await Yard.OpenAsync();
        var keeping = new StoreKeeping(yard.Database);
        async Task<string> OrderAsync() =>
            string.Join(", ", (await yard.Sites.StoresAsync(Cancel)).Select(s => s.Name));
        var last = (await yard.Sites.StoresAsync(Cancel))[^1].Id;
        Yard.Must(await keeping.ShiftAsync(last, -1, yard.Stamp("admin"), Cancel));
        Assert.Equal("Basin Yard, Upper Flight, Workboat Teasel", await OrderAsync());
        Yard.Must(await keeping.ShiftAsync(last, -1, yard.Stamp("admin"), Cancel));
        Yard.Must(await keeping.ShiftAsync(last, -1, yard.Stamp("admin"), Cancel));
        Assert.Equal("Upper Flight, Basin Yard, Workboat Teasel", await OrderAsync());
        Assert.False((await keeping.ShiftAsync(last, 1, yard.Stamp("qualified"), Cancel)).Ok);
        Assert.False((await keeping.ShiftAsync(99, 1, yard.Stamp("admin"), Cancel)).Ok);
    }

    [Fact]
    public async Task Scheduled_work_is_done_once_however_many_nodes_look()
    {
        await using var yard = await Yard.OpenAsync();
        var chores = new ChoreStore(yard.Database);
        var done = 0;
        Task<Exception?> Node() =>
            chores.RunIfDueAsync(
                "count",
                TimeSpan.FromHours(1),
                async (say, c) =>
                {
                    await say("Counting ...");
                    Interlocked.Increment(ref done);
                    return "Counted.";
                },
                Cancel
            );
        await Task.WhenAll(Enumerable.Range(0, 6).Select(_ => Node()));
        await Node();
        Assert.Equal(1, done);
        Assert.Equal(
            ("Counted.", false),
            ((await chores.AllAsync(Cancel))["count"].Said, (await chores.AllAsync(Cancel))["count"].Failed)
        );
        await chores.AskAsync("count", Cancel);
        Assert.True((await chores.AllAsync(Cancel))["count"].IsAsked);
        await Node();
        Assert.Equal(2, done);
    }

    [Theory]
    [InlineData("started_at = clock_timestamp() - interval '59 minutes'", false)]
    [InlineData("started_at = clock_timestamp() - interval '61 minutes'", true)]
    [InlineData("started_at = clock_timestamp() + interval '3 days'", true)]
    public async Task Work_is_due_by_the_databases_clock_and_a_beginning_that_lies_ahead_is_none(string set, bool due)
    {
        await using var yard = await Yard.OpenAsync();
        var chores = new ChoreStore(yard.Database);
        await chores.RecordAsync("count", "Before.", Cancel);
        await yard.AsOwnerAsync($"update chore set {set}");
        var done = false;
        await chores.RunIfDueAsync("count", TimeSpan.FromHours(1), (_, _) => Task.FromResult($"{done = true}"), Cancel);
        Assert.Equal(due, done);
    }

    [Fact]
    public async Task Work_that_ends_by_a_fault_says_so_and_is_done_again_when_it_is_due()
    {
        await using var yard = await Yard.OpenAsync();
        var chores = new ChoreStore(yard.Database);
        var fault = await chores.RunIfDueAsync(
            "verify",
            TimeSpan.Zero,
            (_, _) => throw new InvalidDataException("A row is torn."),
            Cancel
        );
        Assert.IsType<InvalidDataException>(fault);
        var row = (await chores.AllAsync(Cancel))["verify"];
        Assert.True(row is { Failed: true, Said: "A row is torn.", EndedAt: not null });
        Assert.Null(await chores.RunIfDueAsync("verify", TimeSpan.Zero, (_, _) => Task.FromResult("Whole."), Cancel));
        Assert.False((await chores.AllAsync(Cancel))["verify"].Failed);
    }

    [Fact]
    public async Task A_mail_is_tried_again_until_it_arrives_and_arrives_once()
    {
        await using var yard = await Yard.OpenAsync();
        var mails = new MailStore(yard.Database);
        var mail = new Mail(Guid.NewGuid(), "crew", "Test crew", "crew@works.example", "Due", "HM-0001");
        await mails.AddAsync(mail, Cancel);
        await mails.AddAsync(mail, Cancel);
        Assert.Equal((0, 1), await mails.DeliverAsync((_, _) => throw new IOException("No route."), Cancel));
        Assert.Equal((0, 0), await mails.DeliverAsync((_, _) => throw new IOException("Not yet."), Cancel));
        Assert.Equal((1, 0), await mails.CountAsync(Cancel));
        await yard.AsOwnerAsync("update mail set next_try = clock_timestamp()");
        var got = new List<Mail>();
        Task Take(Mail m, CancellationToken _)
        {
            got.Add(m);
            return Task.CompletedTask;
        }
        Assert.Equal((1, 0), await mails.DeliverAsync(Take, Cancel));
        Assert.Equal((0, 0), await mails.DeliverAsync(Take, Cancel));
        Assert.Equal([mail], got);
        Assert.Equal((0, 0), await mails.CountAsync(Cancel));
    }

    [Fact]
    public async Task A_backup_restores_to_the_same_records_and_everything_verifies()
    {
        await using var yard = await Yard.OpenAsync();
        await yard.InServiceAsync(Seed.Sling("HM-0001"));
        await yard.InServiceAsync(Seed.Shackle("HM-0002"));
        Yard.Must(await yard.HoldAsync("crew", "HM-0002"));
        var folder = Directory.CreateTempSubdirectory("keralith-backups");
        try
        {
            var file = Path.Combine(folder.FullName, "b.keralith");
            Assert.True((await new Dump(yard.Database.ConnectionString).WriteAsync(file, Cancel)).Value > 10_000);
            Assert.False((await new Dump(yard.Database.ConnectionString).WriteAsync(file, Cancel)).Ok);

            var target = await TestDatabases.CreateEmptyAsync();
            var restored = await RestoreAsync(target, file, over: false);
            Assert.Equal(string.Empty, restored.Value);
            await using var back = new Database(target);
            Assert.Empty(await new VerifyStore(back).RunAsync(yard.Now, Cancel));
            Assert.Equal(await HeadAsync(yard.Database), await HeadAsync(back));
            var piece = await new PieceStore(back).FindAsync("HM-0002", Cancel);
            Assert.Equal(Core.Custody.PieceState.Held, piece!.State);
        }
        finally
        {
            folder.Delete(recursive: true);
        }
    }

    [Fact]
    public async Task A_backup_takes_the_place_of_records_only_when_it_is_said_and_puts_them_aside()
    {
        await using var yard = await Yard.OpenAsync();
        await yard.RegisterAsync(Seed.Shackle("HM-0001"));
        var folder = Directory.CreateTempSubdirectory("keralith-backups");
        try
        {
            var file = Path.Combine(folder.FullName, "b.keralith");
            Assert.True((await new Dump(yard.Database.ConnectionString).WriteAsync(file, Cancel)).Ok);
            var target = await TestDatabases.OwnerOfAsync(await TestDatabases.CreateAsync());
            Assert.Contains("--over", (await RestoreAsync(target, file, over: false)).Fault, StringComparison.Ordinal);
            var aside = await RestoreAsync(target, file, over: true);
            Assert.True(aside.Ok, aside.Fault);
            await using var back = new Database(target);
            Assert.NotNull(await new PieceStore(back).FindAsync("HM-0001", Cancel));
            await using var before = new Database(
                new NpgsqlConnectionStringBuilder(target) { Database = aside.Value }.ConnectionString
            );
            Assert.Null(await new PieceStore(before).FindAsync("HM-0001", Cancel));
            await using var user = await back.OpenAsync(Cancel);
            Assert.Contains("in use", (await RestoreAsync(target, file, over: true)).Fault, StringComparison.Ordinal);
        }
        finally
        {
            folder.Delete(recursive: true);
        }
    }

    [Theory]
    [InlineData("cut", "no whole backup")]
    [InlineData("text", "no whole backup")]
    [InlineData("newer", "newer version")]
    [InlineData("others", "no backup of Keralith")]
    [InlineData("none", "There is no file")]
    public async Task What_is_half_written_foreign_or_newer_is_refused_and_nothing_is_changed(string what, string why)
    {
        var folder = Directory.CreateTempSubdirectory("keralith-backups");
        try
        {
            var file = Path.Combine(folder.FullName, "b.keralith");
            await using (var source = new Database(await TestDatabases.OwnerOfAsync(await TestDatabases.CreateAsync())))
            {
                if (what == "newer")
                    await SayAsync(
                        source,
                        "insert into schemaversions (scriptname, applied) values ('Keralith.Data.Migrations.9999_later.sql', now())"
                    );
                if (what == "others")
                    await SayAsync(source, "drop table schemaversions");
                Assert.True((await new Dump(source.ConnectionString).WriteAsync(file, Cancel)).Ok);
            }

            var bytes = await File.ReadAllBytesAsync(file, Cancel);
            if (what == "cut")
                await File.WriteAllBytesAsync(file, bytes[..(bytes.Length * 2 / 3)], Cancel);
            if (what == "text")
                await File.WriteAllTextAsync(file, "Not a backup", Cancel);
            if (what == "none")
                File.Delete(file);
            var target = await TestDatabases.OwnerOfAsync(await TestDatabases.CreateAsync());
            Assert.Contains(why, (await RestoreAsync(target, file, over: true)).Fault, StringComparison.Ordinal);
            await using var still = new Database(target);
            Assert.Equal("Hollowmere Lock Works", (await new SiteStore(still).GetAsync(Cancel)).Name);
        }
        finally
        {
            folder.Delete(recursive: true);
        }
    }

    [Fact]
    public async Task A_folder_keeps_so_many_backups_and_none_is_thrown_away_for_one_that_failed()
    {
        await using var yard = await Yard.OpenAsync();
        var folder = Directory.CreateTempSubdirectory("keralith-backups");
        try
        {
            var dump = new Dump(yard.Database.ConnectionString);
            for (var day = 1; day <= 3; day++)
                Assert.True((await dump.WriteToAsync(folder.FullName, 2, yard.Now.AddDays(day), Cancel)).Ok);
            string[] kept = [.. folder.GetFiles().Select(f => f.Name).Order(StringComparer.Ordinal)];
            Assert.Equal(["keralith-20260304-090000.keralith", "keralith-20260305-090000.keralith"], kept);
            var gone = new Dump(
                new NpgsqlConnectionStringBuilder(yard.Database.ConnectionString)
                {
                    Database = "nowhere",
                }.ConnectionString
            );
            Assert.False((await gone.WriteToAsync(folder.FullName, 1, yard.Now.AddDays(9), Cancel)).Ok);
            Assert.Equal(kept, folder.GetFiles().Select(f => f.Name).Order(StringComparer.Ordinal));
        }
        finally
        {
            folder.Delete(recursive: true);
        }
    }

    private static Task<Core.Kernel.Checked<string>> RestoreAsync(string target, string file, bool over) =>
        new Dump(target).RestoreAsync(
            file,
            over,
            new DateTimeOffset(2026, 3, 9, 9, 0, 0, TimeSpan.Zero),
            database =>
            {
                database.Migrate();
                return Task.CompletedTask;
            },
            Cancel
        );

    private static async Task SayAsync(Database database, string sql)
    {
        await using var command = database.Command(sql);
        await command.ExecuteNonQueryAsync(Cancel);
    }

    private static async Task<string> HeadAsync(Database database)
    {
        await using var command = database.Command(
            "select number || ' ' || encode(hash, 'hex') from ledger order by number desc limit 1"
        );
        return (string)(await command.ExecuteScalarAsync(Cancel))!;
    }
}
