using Keralith.Core.Custody;
using Xunit;

namespace Keralith.Core.Tests;

/// <summary>A bin of small hardware under one mark: counted, and a piece taken out of it.</summary>
public class LotTests
{
    [Theory]
    // Of 10 in the lot: what was seen, less what was rejected, is left.
    [InlineData(10, 0, null, 10, null)]
    [InlineData(10, 3, "Bent", 7, null)]
    [InlineData(10, 10, "All bent", 0, null)]
    [InlineData(8, 8, "Two gone, the rest bent", 0, null)]
    [InlineData(8, 0, "Two went to the boat", 8, null)]
    [InlineData(0, 0, "The bin is gone", 0, null)]
    [InlineData(10, 1, " ", null, "what was wrong")]
    [InlineData(9, 0, null, null, "what became of those")]
    [InlineData(10, 11, "Bent", null, "at most as many")]
    [InlineData(8, 9, "Bent", null, "at most as many")]
    [InlineData(10, -1, "Bent", null, "whole numbers")]
    [InlineData(-1, 0, "Bent", null, "whole numbers")]
    [InlineData(11, 0, "One more", null, "gear nobody registered")]
    public void What_was_seen_and_not_rejected_is_left(int seen, int rejected, string? why, int? left, string? refused)
    {
        var counted = Lot.AfterCount(PieceState.InService, 10, seen, rejected, why);
        Assert.Equal(left, counted.Ok ? counted.Value : null);
        if (refused is not null)
            Assert.Contains(refused, counted.Fault, StringComparison.Ordinal);
    }

    [Theory]
    [InlineData(10, "Bent", 9)]
    [InlineData(1, "Bent", 0)]
    [InlineData(0, "Bent", null)]
    [InlineData(10, " ", null)]
    [InlineData(null, "Bent", null)]
    public void One_taken_out_leaves_one_fewer(int? count, string why, int? left)
    {
        var split = Lot.AfterSplit(PieceState.InService, count, why);
        Assert.Equal(left, split.Ok ? split.Value : null);
    }

    [Theory]
    [InlineData(PieceState.InService, true, HoldCause.Doubt)]
    [InlineData(PieceState.New, true, HoldCause.Doubt)]
    [InlineData(PieceState.Held, true, HoldCause.Event)]
    [InlineData(PieceState.Missing, false, null)]
    [InlineData(PieceState.Condemned, false, null)]
    [InlineData(PieceState.Destroyed, false, null)]
    public void What_is_gone_is_not_counted_and_out_of_a_held_lot_a_qualified_person_decides(
        PieceState state,
        bool there,
        HoldCause? cause
    )
    {
        Assert.Equal(there, Lot.AfterCount(state, 10, 10, 0, null).Ok);
        Assert.Equal(there, Lot.AfterSplit(state, 10, "Bent").Ok);
        Assert.False(Lot.AfterCount(state, null, 1, 0, null).Ok);
        if (cause is not null)
            Assert.Equal(cause, Lot.CauseOfSplit(state));
    }
}
