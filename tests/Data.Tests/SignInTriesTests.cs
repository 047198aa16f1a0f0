using Xunit;

namespace Keralith.Data.Tests;

/// <summary>Tries to sign in are counted by address; those that were right are given back.</summary>
public class SignInTriesTests
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    [Fact]
    public async Task A_whole_shift_signs_in_at_one_address_and_wrong_tries_there_still_end()
    {
        await using var yard = await Yard.OpenAsync();
        var tries = new SignInStore(yard.Database);
        (string, int)[] address = [("address 10.0.0.1", 3)];
        for (var person = 0; person < 9; person++)
        {
            Assert.True(await tries.MayTryAsync(address, yard.Now, Cancel));
            await tries.GiveBackAsync(["address 10.0.0.1"], Cancel);
        }

        for (var wrong = 1; wrong <= 3; wrong++)
            Assert.True(await tries.MayTryAsync(address, yard.Now, Cancel));
        Assert.False(await tries.MayTryAsync(address, yard.Now, Cancel));
    }
}
