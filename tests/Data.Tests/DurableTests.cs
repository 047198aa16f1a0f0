using Keralith.Core.Custody;
using Keralith.Testing;
using Xunit;

namespace Keralith.Data.Tests;

/// <summary>What no second server has is not acknowledged, where the server was told that one must have it.</summary>
public class DurableTests
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    [Fact]
    public async Task What_no_follower_confirms_is_not_acknowledged_until_one_does()
    {
        await using var yard = await Yard.OpenAsync(longest: 1);
        var piece = await yard.InServiceAsync(Seed.Shackle("HM-0001"));
        var hold = yard.Stamp("crew");
        await yard.AsOwnerAsync(
            """
            do $$ begin execute format('alter database %I set synchronous_commit = on', current_database()); end $$;
            """
        );
        try
        {
            // The other databases of the tests' server wait for nobody.
            await FollowerAsync("'away'");
            await using var waits = new Database(yard.Database.ConnectionString + ";Application Name=waits");
            await Assert.ThrowsAsync<TimeoutException>(() => HoldAsync(new(waits)));
            await Assert.ThrowsAsync<TimeoutException>(() => HoldAsync(new(waits)));
        }
        finally
        {
            await FollowerAsync("''");
        }

        Assert.True((await HoldAsync(yard.Custody)).Value.Repeated);
        Assert.Single(await yard.Custody.HoldsAsync(piece.Id, Cancel));

        Task<Checked<Recorded>> HoldAsync(CustodyStore custody) =>
            custody.HoldAsync(piece.Id, HoldCause.Doubt, "Something looks wrong", hold, Cancel);

        async Task FollowerAsync(string named)
        {
            await yard.AsOwnerAsync($"alter system set synchronous_standby_names = {named}");
            await yard.AsOwnerAsync("select pg_reload_conf()");
        }
    }
}
