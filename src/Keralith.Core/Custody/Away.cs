using Keralith.Core.Ledger;
using Keralith.Core.People;

namespace Keralith.Core.Custody;

/// <summary>What a piece is sent away for.</summary>
public enum AwayFor
{
    /// <summary>By its maker or a qualified shop: there is no repair in the field.</summary>
    [Code("repair")]
    Repair,

    /// <summary>On a test bed, to settle a doubt.</summary>
    [Code("test")]
    Test,
}

/// <summary>A piece that is away.</summary>
/// <param name="For">What for.</param>
/// <param name="To">To whom.</param>
/// <param name="What">What is to be done.</param>
/// <param name="Back">When it is expected; null: nobody said.</param>
/// <param name="Since">Since when.</param>
public sealed record AwayNow(AwayFor For, string To, string What, DateOnly? Back, DateOnly Since)
{
    /// <summary>Whether it should be back by now.</summary>
    public bool IsOverdueOn(DateOnly today) => Back < today;
}

/// <summary>Out of the cage to a shop or a test bed, and back into it.</summary>
public static class Away
{
    /// <summary>Sends a piece away: only what is in the cage goes, and it comes back there.</summary>
    /// <param name="mark">The piece's mark.</param>
    /// <param name="issued">In whose hands it is; null: in its store.</param>
    /// <param name="locked">Why it is kept as evidence; null: it is not.</param>
    public static Checked<PieceOutcome> Send(
        string mark,
        PieceState state,
        IssuedTo? issued,
        string? locked,
        AwayNow away,
        Signer by
    )
    {
        if (by.Without(Right.Issue) is { } forbidden)
            return forbidden;
        if (EvidenceLock.Refuses(locked) is { } kept)
            return kept;
        if (state.IsAway())
            return new Refusal($"{mark} is away already.");
        if (state != PieceState.Held)
            return new Refusal($"Only what is in the cage goes to repair or test: put {mark} on hold first.");
        if (issued is not null)
            return new Refusal($"{mark} is out with {issued.Holder}: take it back first.");
        if (string.IsNullOrWhiteSpace(away.To))
            return new Refusal("Write to whom it goes: its maker, or a qualified shop.");
        if (string.IsNullOrWhiteSpace(away.What))
            return new Refusal("Write what is to be done with it.");
        return away.Back < by.Day
            ? new Refusal("The day it is expected back is past.")
            : new PieceOutcome(
                PieceLife.AfterSending(away.For),
                new PieceSentAway(Code.Of(away.For), away.To.Trim(), away.What.Trim(), away.Back)
            );
    }

    /// <summary>Takes a piece back into the cage, with the shop's note; it is inspected as it came back.</summary>
    /// <param name="loadBearing">Whether parts that bear load were repaired: a proof test is wanted then.</param>
    public static Checked<PieceOutcome> TakeBack(
        string mark,
        PieceState state,
        AwayNow? away,
        string? note,
        bool loadBearing,
        Signer by
    )
    {
        if (by.Without(Right.Issue) is { } forbidden)
            return forbidden;
        if (!state.IsAway() || away is null)
            return new Refusal($"{mark} is not away.");
        if (string.IsNullOrWhiteSpace(note))
            return new Refusal("Write what was done or found, as the shop's paper says.");
        return new PieceOutcome(PieceState.Held, new PieceCameBack(Code.Of(away.For), note.Trim(), loadBearing))
        {
            Hold = new(
                HoldCause.Returned,
                $"Back from {away.To}{(loadBearing ? ", load-bearing parts repaired" : string.Empty)}: {note.Trim()}"
            ),
        };
    }
}
