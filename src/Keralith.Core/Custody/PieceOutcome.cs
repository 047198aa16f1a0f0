using Keralith.Core.Ledger;

namespace Keralith.Core.Custody;

/// <summary>A hold to be put on.</summary>
/// <param name="Cause">Why: it decides who may close it.</param>
/// <param name="Reason">In words.</param>
public sealed record NewHold(HoldCause Cause, string Reason);

/// <summary>What an act makes of a piece. A store writes it and nothing else.</summary>
/// <param name="State">The piece's state from now on.</param>
/// <param name="Record">What the ledger keeps.</param>
public sealed record PieceOutcome(PieceState State, LedgerRecord Record)
{
    /// <summary>The hold it puts on; null: none.</summary>
    public NewHold? Hold { get; init; }

    /// <summary>The inspection whose verdict put the hold on; null: none did.</summary>
    public Guid? Judged { get; init; }

    /// <summary>What the ledger keeps beside the record.</summary>
    public IReadOnlyList<LedgerRecord> Beside { get; init; } = [];
}

/// <summary>What a stricter rule does to a piece.</summary>
/// <param name="State">Its state from now on.</param>
/// <param name="Hold">The hold it puts on.</param>
/// <param name="Record">For the ledger.</param>
public sealed record RulesOutcome(PieceState State, NewHold Hold, RulesHeld Record);
