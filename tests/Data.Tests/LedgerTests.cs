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
        var (begun, _) = await yard.Ledger.VerifyAsync(Cancel);
        await yard.InServiceAsync(Seed.Sling("HM-0001"));
        Yard.Must(await yard.HoldAsync("crew", "HM-0001"));
        var kinds = (await yard.Ledger.NewestAsync("HM-0001", null, 10, Cancel)).Select(e => e.Kind);
        Assert.Equal(["piece.held", "inspection.signed", "piece.registered"], kinds);
        Assert.Equal((begun + 3, (string?)null), await yard.Ledger.VerifyAsync(Cancel));
    }

    [Fact]
    public async Task Records_made_at_once_by_many_hands_stand_in_one_unbroken_chain()
    {
        await using var yard = await Yard.OpenAsync();
        var (begun, _) = await yard.Ledger.VerifyAsync(Cancel);
        var pieces = new List<Piece>();
        for (var i = 0; i < 8; i++)
            pieces.Add(await yard.RegisterAsync(Seed.Shackle($"HM-{i:0000}")));
        var stamps = pieces.Select(_ => yard.Stamp("crew")).ToList();
        await Task.WhenAll(
            pieces.Select(
                (p, i) => yard.Custody.HoldAsync(p.Id, Core.Custody.HoldCause.Doubt, "Rust", stamps[i], Cancel)
            )
        );
        Assert.Equal((begun + 16, (string?)null), await yard.Ledger.VerifyAsync(Cancel));
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
            // The application's role has not the right; whoever has it is stopped by the table itself.
            var refused = await Assert.ThrowsAsync<PostgresException>(async () =>
                await yard.Database.Command(sql).ExecuteNonQueryAsync(Cancel)
            );
            Assert.Equal(PostgresErrorCodes.InsufficientPrivilege, refused.SqlState);
            refused = await Assert.ThrowsAsync<PostgresException>(() => yard.AsOwnerAsync(sql));
            Assert.Contains("never changed or deleted", refused.MessageText, StringComparison.Ordinal);
        }
    }

    [Fact]
    public async Task A_record_changed_behind_the_trigger_is_named()
    {
        await using var yard = await Yard.OpenAsync();
        var (begun, _) = await yard.Ledger.VerifyAsync(Cancel);
        await yard.InServiceAsync(Seed.Sling("HM-0001"));
        Yard.Must(await yard.HoldAsync("crew", "HM-0001"));
        await yard.AsOwnerAsync(
            $"alter table ledger disable trigger user; update ledger set data = replace(data, 'fit', 'fat') where number = {begun + 2}; alter table ledger enable trigger user"
        );
        var (good, broken) = await yard.Ledger.VerifyAsync(Cancel);
        Assert.Equal(begun + 1, good);
        Assert.Contains($"entry {begun + 2} was changed", broken, StringComparison.Ordinal);
    }

    [Theory]
    [InlineData("alter table ledger disable trigger user")]
    [InlineData("drop table hold cascade")]
    [InlineData("drop trigger piece_stays_retired on piece")]
    [InlineData("alter table piece add column fine boolean")]
    [InlineData("create table aside (id int)")]
    [InlineData("set session_replication_role = replica")]
    [InlineData("delete from ledger_head")]
    public async Task The_applications_own_role_alters_drops_and_disables_nothing(string sql)
    {
        await using var yard = await Yard.OpenAsync();
        var refused = await Assert.ThrowsAsync<PostgresException>(async () =>
            await yard.Database.Command(sql).ExecuteNonQueryAsync(Cancel)
        );
        Assert.Equal(PostgresErrorCodes.InsufficientPrivilege, refused.SqlState);
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
