using Keralith.Testing;
using Npgsql;
using Xunit;

namespace Keralith.Data.Tests;

/// <summary>
/// What takes long at a large works is carried out all the same: an act or a migration cut off for its length could never be
/// done. A page's question is cut off.
/// </summary>
public class PatienceTests
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    [Fact]
    public async Task An_act_takes_longer_than_a_page_may()
    {
        await using var yard = await Yard.OpenAsync(longest: 1);
        await yard.InServiceAsync(Seed.Shackle("HM-0001"));
        await yard.AsOwnerAsync(
            """
            create function slowly() returns trigger language plpgsql as $$ begin perform pg_sleep(1.5); return new; end $$;
            create trigger slowly before insert on hold for each row execute function slowly();
            """
        );
        Yard.Must(await yard.HoldAsync("crew", "HM-0001"));
        await Assert.ThrowsAsync<NpgsqlException>(async () =>
        {
            await using var asked = yard.Database.Command("select pg_sleep(1.5)");
            await asked.ExecuteNonQueryAsync(Cancel);
        });
    }

    [Fact]
    public async Task A_migration_waits_for_who_works_and_takes_as_long_as_it_takes()
    {
        var at = new NpgsqlConnectionStringBuilder(await TestDatabases.CreateEmptyAsync()) { CommandTimeout = 1 };
        await using var database = new Database(at.ConnectionString);
        database.Migrate(upTo: 28);
        await using var other = new NpgsqlConnection(at.ConnectionString);
        await other.OpenAsync(Cancel);
        await using var working = await other.BeginTransactionAsync(Cancel);
        await using var holds = new NpgsqlCommand("lock table piece in access exclusive mode", other, working);
        await holds.ExecuteNonQueryAsync(Cancel);
        var migration = Task.Run(() => database.Migrate(), Cancel);
        // Longer than a question may take: the wait itself is what is tried.
        await Task.Delay(TimeSpan.FromSeconds(1.5), Cancel);
        Assert.False(migration.IsCompleted);
        await working.CommitAsync(Cancel);
        await migration;
        Assert.Null(await database.FaultOfVersionAsync(Cancel));
    }
}
