using Keralith.Core.Register;
using Keralith.Testing;
using Npgsql;
using Xunit;

namespace Keralith.Data.Tests;

public class LedgerTests
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    [Fact]
    public async Task Every_signed_record_stands_in_the_chain_and_the_chain_is_whole()
    {
        await using var yard = await Yard.OpenAsync();
        await yard.InServiceAsync(Seed.Sling("HM-0001"));
        Yard.Must(await yard.HoldAsync("crew", "HM-0001"));
        var kinds = (await yard.Ledger.NewestAsync("HM-0001", null, 10, Cancel)).Select(e => e.Kind);
        Assert.Equal(["piece.held", "inspection.signed", "piece.registered"], kinds);
        Assert.Equal((3, (string?)null), await yard.Ledger.VerifyAsync(Cancel));
    }

    [Fact]
    public async Task Records_made_at_once_by_many_hands_stand_in_one_unbroken_chain()
    {
        await using var yard = await Yard.OpenAsync();
        var pieces = new List<Piece>();
        for (var i = 0; i < 8; i++)
            pieces.Add(await yard.RegisterAsync(Seed.Shackle($"HM-{i:0000}")));
        var stamps = pieces.Select(_ => yard.Stamp("crew")).ToList();
        await Task.WhenAll(
            pieces.Select(
                (p, i) => yard.Custody.HoldAsync(p.Id, Core.Custody.HoldCause.Doubt, "Rust", stamps[i], Cancel)
            )
        );
        Assert.Equal((16, (string?)null), await yard.Ledger.VerifyAsync(Cancel));
    }

    [Theory]
    [InlineData("ledger")]
    [InlineData("inspection")]
    [InlineData("hold")]
    [InlineData("baseline")]
    public async Task Signed_records_are_refused_every_change(string table)
    {
        await using var yard = await Yard.OpenAsync();
        await yard.InServiceAsync(Seed.Sling("HM-0001"));
        Yard.Must(await yard.HoldAsync("crew", "HM-0001"));
        foreach (
            var sql in new[]
            {
                $"delete from {table}",
                $"truncate {table} cascade",
                table == "ledger" ? "update ledger set actor = 'x'" : $"update {table} set piece_id = piece_id",
            }
        )
        {
            var refused = await Assert.ThrowsAsync<PostgresException>(async () =>
                await yard.Database.Command(sql).ExecuteNonQueryAsync(Cancel)
            );
            Assert.Contains("never changed or deleted", refused.MessageText, StringComparison.Ordinal);
        }
    }

    [Fact]
    public async Task A_record_changed_behind_the_trigger_is_named()
    {
        await using var yard = await Yard.OpenAsync();
        await yard.InServiceAsync(Seed.Sling("HM-0001"));
        Yard.Must(await yard.HoldAsync("crew", "HM-0001"));
        await using (
            var forge = yard.Database.Command(
                "alter table ledger disable trigger user; update ledger set data = replace(data, 'fit', 'fat') where number = 2; alter table ledger enable trigger user"
            )
        )
            await forge.ExecuteNonQueryAsync(Cancel);
        var (good, broken) = await yard.Ledger.VerifyAsync(Cancel);
        Assert.Equal(1, good);
        Assert.Contains("entry 2 was changed", broken, StringComparison.Ordinal);
    }

    [Fact]
    public async Task Migrating_twice_changes_nothing()
    {
        await using var database = new Database(await TestDatabases.CreateEmptyAsync());
        database.Migrate();
        database.Migrate();
        Assert.Null(await new SiteStore(database).FindAsync(Cancel));
    }
}
