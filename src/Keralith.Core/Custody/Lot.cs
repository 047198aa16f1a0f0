using Keralith.Core.Ledger;
using Keralith.Core.People;

namespace Keralith.Core.Custody;

/// <summary>Small identical hardware under one mark: a bin with a count.</summary>
public static class Lot
{
    /// <summary>
    /// How many are left after a count. What was not seen is not there; what was rejected is scrapped by count.
    /// </summary>
    /// <param name="state">The lot's state: one that is retired or missing is not counted.</param>
    /// <param name="count">How many there were; null: it is no lot.</param>
    /// <param name="seen">How many were found in the bin, the rejected ones among them.</param>
    /// <param name="rejected">How many of them were rejected.</param>
    /// <param name="reason">What was wrong with the rejected, or where others came from or went.</param>
    public static Checked<int> AfterCount(PieceState state, int? count, int seen, int rejected, string? reason)
    {
        if (IsGone(state))
            return Gone(state);
        if (count is not { } there)
            return new Refusal("This is a single piece, not a lot.");
        if (seen < 0 || rejected < 0 || rejected > seen)
            return new Refusal("Seen and rejected are whole numbers, rejected at most as many as were seen.");
        if (seen > there)
            return new Refusal(
                $"{seen} were seen where the lot has {there}: gear nobody registered is among them. Register those under a mark of their own."
            );
        if ((rejected > 0 || seen < there) && string.IsNullOrWhiteSpace(reason))
            return new Refusal(
                rejected > 0
                    ? "Write what was wrong with the rejected ones."
                    : "Write what became of those that were not seen."
            );
        return seen - rejected;
    }

    /// <summary>How many are left after one was taken out under a mark of its own.</summary>
    public static Checked<int> AfterSplit(PieceState state, int? count, string? reason) =>
        IsGone(state) ? Gone(state)
        : count is not { } there ? new Refusal("This is a single piece, not a lot.")
        : there == 0 ? new Refusal("The lot is empty.")
        : string.IsNullOrWhiteSpace(reason) ? new Refusal("Write what was found on it.")
        : there - 1;

    /// <summary>
    /// Why a piece taken out of a lot is held: a doubt, or, out of a lot that is held itself, for a qualified person to
    /// decide.
    /// </summary>
    public static HoldCause CauseOfSplit(PieceState state) =>
        state == PieceState.Held ? HoldCause.Event : HoldCause.Doubt;

    /// <summary>Counts a lot; the rejected are scrapped by count.</summary>
    public static Checked<PieceOutcome> Count(
        PieceState state,
        int? count,
        int seen,
        int rejected,
        string? reason,
        Signer by
    )
    {
        if (by.Without(Right.Register) is { } forbidden)
            return forbidden;
        var left = AfterCount(state, count, seen, rejected, reason);
        return left.Ok
            ? new PieceOutcome(state, new LotCounted(seen, rejected, left.Value, reason ?? string.Empty))
            : left.Refusal!;
    }

    /// <summary>Takes one piece out of a lot under a mark of its own.</summary>
    /// <param name="mark">The mark it gets.</param>
    /// <returns>What becomes of the lot; the piece taken out is held by <see cref="CauseOfSplit"/>.</returns>
    public static Checked<PieceOutcome> Split(PieceState state, int? count, string? mark, string? reason, Signer by)
    {
        if (by.Without(Right.Register) is { } forbidden)
            return forbidden;
        var left = AfterSplit(state, count, reason);
        if (!left.Ok)
            return left.Refusal!;
        var own = Mark.Read(mark);
        return own.Ok
            ? new PieceOutcome(state, new LotSplit(own.Value.Text, left.Value, reason!.Trim()))
            : own.Refusal!;
    }

    private static bool IsGone(PieceState state) => state.IsRetired() || state.IsAway() || state == PieceState.Missing;

    private static Refusal Gone(PieceState state) =>
        new(
            state.IsAway() ? "The lot is away; take it back first."
            : state == PieceState.Missing ? "The lot is missing; say that it is found first."
            : "The lot is retired; nothing comes out of it again."
        );
}
