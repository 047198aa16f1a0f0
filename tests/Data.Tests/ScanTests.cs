using Keralith.Core.Gear;
using Keralith.Testing;
using Xunit;

namespace Keralith.Data.Tests;

/// <summary>
/// What is asked at a counter, with somebody waiting, is found by an index: it never goes through the pieces, or what was
/// handed out, one by one, however many there are.
/// </summary>
public class ScanTests
{
    private const int Many = 4000;

    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    [Fact]
    public async Task What_is_asked_at_the_counter_never_goes_through_all_pieces()
    {
        await using var yard = await Yard.OpenAsync();
        var kit = EveryFamily.Form(GearFamilies.Find("sling-kit")!, "HK-00000");
        kit["members"] = "2; hook; 3 t; bears; HM-00007\n1; apex; 5 t; common; HM-00008";
        kit["serial"] = "Q-0";
        await yard.RegisterAsync(kit);
        var shackle = EveryFamily.Form(GearFamilies.Find("shackle")!, "HM-00000");
        shackle["serial"] = "K-0";
        var first = await yard.RegisterAsync(shackle);
        Yard.Must(await new CodeStore(yard.Database).BindAsync(first.Id, "04A2B9", yard.Stamp("stores"), Cancel));
        await using (var owner = new Database(await TestDatabases.OwnerOfAsync(yard.Database.ConnectionString)))
            await Seed.MultiplyAsync(owner, Many);
        await yard.AsOwnerAsync("analyze");

        Assert.Equal(
            "HM-00123",
            await ReadAsync(async d => (await new PieceStore(d).FindAsync("hm-00123", Cancel))?.Mark)
        );
        Assert.Equal(
            "HM-00123",
            await ReadAsync(async d => (await new PieceStore(d).FindAsync("HM00123", Cancel))?.Mark)
        );
        Assert.Equal(
            "HM-00123",
            await ReadAsync(async d => (await new PieceStore(d).FindAsync("k-123", Cancel))?.Mark)
        );
        Assert.Equal(
            "HM-00000",
            await ReadAsync(async d => (await new PieceStore(d).FindAsync("04a2b9", Cancel))?.Mark)
        );
        Assert.Equal(
            ["HM-00007", "HM-00008"],
            await ReadAsync(async d =>
                (await new PieceStore(d).FindAsync("HK-00123", Cancel))!.Members.Select(m => m.Mark)
            )
        );
        Assert.Equal(
            ["HM-00001", "HM-00002"],
            await ReadAsync(async d =>
                (await new PieceStore(d).OfMarksAsync(["HM-00002", "HM-00001"], Cancel)).Select(p => p.Mark)
            )
        );
        Assert.Empty(await ReadAsync(d => new DueStore(d).ElseAsync(null, new(2026, 4, 1), Cancel)));

        Task<T> ReadAsync<T>(Func<Database, Task<T>> ask) => ScanTests.ReadAsync(yard, "piece", ask);
    }

    /// <summary>
    /// Looking back from a piece names what was out beside it, with the same people for the same job however written, while it
    /// was: back the moment it went out, or out the moment it came back, is beside; a moment earlier or later is not.
    /// </summary>
    [Fact]
    public async Task Looking_back_and_the_desk_never_go_through_all_hand_outs_there_ever_were()
    {
        await using var yard = await Yard.OpenAsync();
        var failed = yard.Now;
        yard.Now = failed.AddDays(-70);
        var piece = await yard.InServiceAsync(Seed.Shackle("HM-00001"));
        for (var i = 2; i <= 9; i++)
            await yard.RegisterAsync(Seed.Shackle($"HM-{i:00000}"));
        await yard.AsOwnerAsync(
            $"""
            insert into issue (id, piece_id, holder, job, at, by_person)
            select gen_random_uuid(), p.id, f.holder, f.job, f.at::timestamptz, (select id from person where username = 'stores')
            from (values
              ('HM-00001', 'North crew', 'Lock 9', '2026-01-10 08:00Z'),
              ('HM-00002', 'NORTH-CREW', 'lock 9.', '2026-01-05 08:00Z'),
              ('HM-00003', 'North crew', 'Lock 9', '2026-01-05 08:00Z'),
              ('HM-00004', 'North crew', 'Lock 9', '2026-01-20 08:00Z'),
              ('HM-00005', 'North crew', 'Lock 9', '2026-01-20 08:00:01Z'),
              ('HM-00006', 'North crew', 'Lock 8', '2026-01-12 08:00Z'),
              ('HM-00007', 'South crew', 'Lock 9', '2026-01-12 08:00Z'),
              ('HM-00008', 'north crew', 'LOCK 9', '2025-01-12 08:00Z')) f (mark, holder, job, at)
            join piece p using (mark);
            insert into give_back (issue_id, at, by_person)
            select i.id, b.at::timestamptz, i.by_person
            from (values
              ('HM-00001', '2026-01-20 08:00Z'),
              ('HM-00002', '2026-01-10 08:00Z'),
              ('HM-00003', '2026-01-10 07:59:59Z')) b (mark, at)
            join piece p using (mark) join issue i on i.piece_id = p.id;
            insert into issue (id, piece_id, holder, job, at, by_person)
            select gen_random_uuid(), (select id from piece where mark = 'HM-00009'), 'Crew ' || n, 'Job ' || n,
              timestamptz '2020-01-01Z' + n * interval '1 hour', (select id from person where username = 'stores')
            from generate_series(1, {Many}) n;
            """
        );
        await yard.AsOwnerAsync("analyze issue, give_back, piece");
        var back = await ReadAsync(yard, "issue", d =>
            new LookBackStore(d).OfAsync(piece.Id, "HM-00001", failed, Cancel)
        );
        Assert.Equal(["HM-00002", "HM-00004", "HM-00008"], back.Gear.Select(g => g.Mark).Order());
        var (people, jobs) = await ReadAsync(yard, "issue", d => new IssueStore(d).KnownAsync(Cancel));
        Assert.DoesNotContain("Crew 1", people);
        Assert.DoesNotContain("Job 1", jobs);
    }

    /// <summary>Asks on connections of its own, whose counts are told when they close: few rows of a table are read.</summary>
    private static async Task<T> ReadAsync<T>(Yard yard, string table, Func<Database, Task<T>> ask)
    {
        var (before, _) = await ReadsAsync(yard, table);
        T answer;
        await using (var own = new Database(yard.Database.ConnectionString + ";Application Name=scan"))
            answer = await ask(own);
        var (after, open) = await ReadsAsync(yard, table);
        while (open > 0)
            (after, open) = await ReadsAsync(yard, table);
        Assert.InRange(after - before, 0, Many / 10);
        return answer;
    }

    /// <summary>Rows of a table read so far, one after the other or by an index, and connections that have not told theirs.</summary>
    private static async Task<(long Read, long Open)> ReadsAsync(Yard yard, string table)
    {
        await using var command = yard.Database.Command(
            $"""
            select (select seq_tup_read + idx_tup_fetch from pg_stat_user_tables where relname = '{table}'),
              (select count(*) from pg_stat_activity where application_name = 'scan' and datname = current_database())
            """
        );
        await using var reader = await command.ExecuteReaderAsync(Cancel);
        await reader.ReadAsync(Cancel);
        return (reader.GetInt64(0), reader.GetInt64(1));
    }
}
