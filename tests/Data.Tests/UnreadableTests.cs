using Keralith.Core.Custody;
using Keralith.Testing;
using Xunit;

namespace Keralith.Data.Tests;

/// <summary>A row that can't be read hides no other, may not be used, and can always be held.</summary>
public class UnreadableTests
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    [Theory]
    [InlineData("update piece set rated_load = 'about two' where mark = 'HM-0002'")]
    [InlineData("update piece set attributes = '{\"size\": \"so\"}' where mark = 'HM-0002'")]
    [InlineData("update piece set attributes = '{\"sizes\": \"1 in\"}' where mark = 'HM-0002'")]
    [InlineData("update piece set surroundings = '{\"hottest\": \"warm\"}' where mark = 'HM-0002'")]
    [InlineData("update piece set surroundings = '{\"chemicals\": \"broth\"}' where mark = 'HM-0002'")]
    [InlineData("update piece set details = '{\"members\": {}}' where mark = 'HM-0002'")]
    [InlineData("update piece set family = 'lug' where mark = 'HM-0002'")]
    public async Task A_piece_whose_row_can_not_be_read_is_shown_as_such_beside_the_others(string broken)
    {
        await using var yard = await Yard.OpenAsync();
        await yard.InServiceAsync(Seed.Shackle("HM-0001"));
        await yard.InServiceAsync(Seed.Shackle("HM-0002"));
        await using var command = yard.Database.Command(broken);
        await command.ExecuteNonQueryAsync(Cancel);

        var site = await yard.Sites.GetAsync(Cancel);
        var today = DateOnly.FromDateTime(yard.Now.Date);
        var all = await yard.Pieces.ListAsync(new() { Store = 1 }, Cancel);
        Assert.Equal(["HM-0001", "HM-0002"], all.Select(p => p.Mark));
        Assert.True(all[0].UseOn(today, site).MayBeUsed);
        Assert.Contains("can't be read", all[1].UseOn(today, site).Reasons[0], StringComparison.Ordinal);
        var wall = await new WallStore(yard.Database).HangingAsync(1, site, today, Cancel);
        Assert.Equal([true, false], wall.Select(w => w.Use.MayBeUsed));

        Yard.Must(await yard.HoldAsync("crew", "HM-0002"));
        var held = await yard.FindAsync("HM-0002");
        Assert.Equal(PieceState.Held, held.State);
        Assert.Single(await yard.Custody.HoldsAsync(held.Id, Cancel), h => h.IsOpen);
    }

    [Fact]
    public async Task An_inspection_that_can_not_be_read_keeps_nobody_from_holding()
    {
        await using var yard = await Yard.OpenAsync();
        var piece = await yard.InServiceAsync(Seed.Shackle("HM-0002"));
        await yard.AsOwnerAsync(
            """
            alter table inspection disable trigger user;
            alter table inspection drop constraint inspection_kind_check;
            update inspection set kind = 'glance'
            """
        );
        Yard.Must(await yard.HoldAsync("crew", "HM-0002"));
        Assert.Single(await yard.Custody.HoldsAsync(piece.Id, Cancel), h => h.IsOpen);
    }
}
