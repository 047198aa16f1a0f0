using Keralith.Core.Ledger;
using Keralith.Core.People;

namespace Keralith.Core.Custody;

/// <summary>
/// A piece kept as evidence after it failed: it is not used, handed out, released, sent away, repaired, destroyed or
/// entered otherwise until somebody qualified lets it.
/// </summary>
public static class EvidenceLock
{
    /// <summary>Why something is refused of a piece kept as evidence; null where it is not.</summary>
    /// <param name="locked">Why it is kept; null: it is not.</param>
    public static Refusal? Refuses(string? locked) =>
        locked is null ? null : new($"It is kept as evidence: {locked}. A qualified person lifts that first.");

    /// <summary>Keeps a piece as evidence.</summary>
    public static Checked<PieceOutcome> Put(PieceState state, string? locked, string? reason, Signer by)
    {
        if (by.Without(Right.LockEvidence) is { } forbidden)
            return forbidden;
        if (locked is not null)
            return new Refusal("It is kept as evidence already.");
        if (state == PieceState.Destroyed)
            return new Refusal("It is destroyed: there is nothing to keep.");
        return string.IsNullOrWhiteSpace(reason)
            ? new Refusal("Write what happened, and for whom it is kept.")
            : new PieceOutcome(state, new EvidenceLocked(reason.Trim()));
    }

    /// <summary>Lets a piece go that was kept as evidence. Its holds stay.</summary>
    public static Checked<PieceOutcome> Lift(PieceState state, string? locked, string? reason, Signer by)
    {
        if (by.Without(Right.CloseVerdict, "A qualified person lets go what is kept as evidence.") is { } forbidden)
            return forbidden;
        if (locked is null)
            return new Refusal("It is not kept as evidence.");
        return string.IsNullOrWhiteSpace(reason)
            ? new Refusal("Write why it is let go.")
            : new PieceOutcome(state, new EvidenceUnlocked(reason.Trim()));
    }
}
