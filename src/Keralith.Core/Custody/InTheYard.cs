using Keralith.Core.Ledger;
using Keralith.Core.People;

namespace Keralith.Core.Custody;

/// <summary>Where a piece hangs.</summary>
/// <param name="Store">The store's name.</param>
/// <param name="Peg">The peg's name; empty: nobody said.</param>
public sealed record HangingPlace(string Store, string Peg)
{
    /// <summary>Letters a peg's name may have.</summary>
    public const int LongestPeg = 40;

    public override string ToString() => Peg.Length == 0 ? Store : $"{Store}, {Peg}";
}

/// <summary>What happens to a piece in the yard: moved, lost, found.</summary>
public static class InTheYard
{
    /// <summary>Hangs a piece on another peg or in another store.</summary>
    /// <param name="mark">The piece's mark.</param>
    /// <param name="to">Where to; null where there is no such store.</param>
    /// <param name="stopped">What the rules of another site it is moved to stop it for; null: nothing.</param>
    public static Checked<PieceOutcome> Move(
        string mark,
        PieceState state,
        HangingPlace from,
        HangingPlace? to,
        Signer by,
        RulesOutcome? stopped = null
    )
    {
        if (by.Without(Right.Move) is { } forbidden)
            return forbidden;
        if (state.IsRetired())
            return new Refusal($"{mark} is retired; it hangs nowhere.");
        if (state == PieceState.Missing)
            return new Refusal($"{mark} is missing; say that it is found first.");
        if (state.IsAway())
            return new Refusal($"{mark} is away; take it back first.");
        if (to is null)
            return new Refusal("Choose the store.");
        if (to.Peg.Length > HangingPlace.LongestPeg)
            return new Refusal($"A peg's name has at most {HangingPlace.LongestPeg} letters.");
        if (from == to)
            return new Refusal($"{mark} hangs there already.");
        return new PieceOutcome(stopped?.State ?? state, new PieceMoved(from.ToString(), to.ToString()))
        {
            Hold = stopped?.Hold,
            Judged = stopped?.Record.Inspection,
            Beside = stopped is null ? [] : [stopped.Record],
        };
    }

    /// <summary>Says that a piece can't be found. Anybody may.</summary>
    public static Checked<PieceOutcome> Lose(PieceState state, string? reason, Signer by)
    {
        if (by.Without(Right.Hold) is { } forbidden)
            return forbidden;
        if (string.IsNullOrWhiteSpace(reason))
            return new Refusal("Write where it was last seen, and by whom.");
        var after = PieceLife.AfterLoss(state);
        return after.Ok ? new PieceOutcome(after.Value, new PieceMissing(reason.Trim())) : after.Refusal!;
    }

    /// <summary>Says that a missing piece was found: it goes to the cage, for nobody knows where it has been.</summary>
    public static Checked<PieceOutcome> FindAgain(PieceState state, string? where, Signer by)
    {
        if (by.Without(Right.Hold) is { } forbidden)
            return forbidden;
        if (string.IsNullOrWhiteSpace(where))
            return new Refusal("Write where it was found.");
        var after = PieceLife.AfterFinding(state);
        return after.Ok
            ? new PieceOutcome(after.Value, new PieceFound(where.Trim()))
            {
                Hold = new(HoldCause.Doubt, $"Found after it was missing: {where.Trim()}"),
            }
            : after.Refusal!;
    }
}
