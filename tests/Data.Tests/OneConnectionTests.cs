using Keralith.Core.Custody;
using Keralith.Core.Register;
using Keralith.Testing;
using Xunit;

namespace Keralith.Data.Tests;

/// <summary>A command asks the pool once: every store on a pool of one connection, and many at once on a small pool.</summary>
public class OneConnectionTests
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    [Fact]
    public async Task Every_command_of_every_store_needs_one_connection_alone()
    {
        await using var yard = await Yard.OpenAsync(connections: 1);
        await EveryAct.DoneAsync(yard);
        Assert.Null((await yard.Ledger.VerifyAsync(Cancel)).Broken);
    }

    [Fact]
    public async Task Thirty_holds_and_hand_outs_at_once_on_a_pool_of_four_all_end()
    {
        await using var yard = await Yard.OpenAsync(connections: 4);
        var pieces = new List<Piece>();
        for (var i = 0; i < 10; i++)
            pieces.Add(await yard.InServiceAsync(Seed.Shackle($"HM-{i:0000}")));
        var issues = new IssueStore(yard.Database);
        var moves = new YardStore(yard.Database);
        var acts = pieces.SelectMany(p =>
            new[]
            {
                yard.Custody.HoldAsync(p.Id, HoldCause.Doubt, "Bent", yard.Stamp("crew"), Cancel),
                issues.IssueAsync(p.Id, "Maud", "", null, yard.Stamp("stores"), Cancel),
                moves.MoveAsync([p.Id, pieces[0].Id], 2, $"P{p.Mark}", yard.Stamp("stores"), Cancel),
            }
        );
        var results = await Task.WhenAll(acts);
        Assert.True(results.Count(r => r.Ok) >= 20);
        Assert.All(pieces, p => Assert.Equal(PieceState.Held, yard.FindAsync(p.Mark).GetAwaiter().GetResult().State));
    }
}
