using Keralith.Core.Gear;
using Keralith.Testing;
using Xunit;

namespace Keralith.Data.Tests;

/// <summary>
/// What is asked at a counter, with somebody waiting, is found by an index: it never goes through the pieces one by one,
/// however many there are.
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

        // Each on connections of its own, whose counts are told when they close.
        async Task<T> ReadAsync<T>(Func<Database, Task<T>> ask)
        {
            var (before, _) = await ReadsAsync();
            T answer;
            await using (var own = new Database(yard.Database.ConnectionString + ";Application Name=scan"))
                answer = await ask(own);
            var (after, open) = await ReadsAsync();
            while (open > 0)
                (after, open) = await ReadsAsync();
            Assert.InRange(after - before, 0, Many / 10);
            return answer;
        }

        // Pieces read one after the other so far, and connections that have not told theirs.
        async Task<(long Read, long Open)> ReadsAsync()
        {
            await using var command = yard.Database.Command(
                """
                select (select seq_tup_read from pg_stat_user_tables where relname = 'piece'),
                  (select count(*) from pg_stat_activity where application_name = 'scan' and datname = current_database())
                """
            );
            await using var reader = await command.ExecuteReaderAsync(Cancel);
            await reader.ReadAsync(Cancel);
            return (reader.GetInt64(0), reader.GetInt64(1));
        }
    }
}
