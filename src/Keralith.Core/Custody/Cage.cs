using Keralith.Core.Ledger;
using Keralith.Core.People;

namespace Keralith.Core.Custody;

/// <summary>What the rules of release look at.</summary>
/// <param name="State">The piece's state.</param>
/// <param name="Open">Its open holds.</param>
/// <param name="Inspections">Its signed inspections that count, oldest first.</param>
/// <param name="Retagged">Where among the facts its identity was last proved and a new tag fitted; null: never.</param>
/// <param name="OneMayDoBoth">Whether the site lets one person sign the clean inspection and close the hold.</param>
public sealed record ReleaseFacts(
    PieceState State,
    IReadOnlyList<OpenHold> Open,
    IReadOnlyList<SignedInspection> Inspections,
    FactOrder? Retagged,
    bool OneMayDoBoth
)
{
    /// <summary>Who changed facts it is judged by, and when.</summary>
    public IReadOnlyList<FactsMoved> Movers { get; init; } = [];

    /// <summary>Why it is kept as evidence; null: it is not.</summary>
    public string? Locked { get; init; }

    /// <summary>Whether load-bearing parts were repaired, and no proof test passed since it came back.</summary>
    public bool LacksProof { get; init; }
}

/// <summary>What the cage does: anyone can stop a piece, few can let it go, and what is condemned never comes back.</summary>
public static class Cage
{
    /// <summary>Takes a piece out of use on a doubt, after an event, or because its marking is missing. Anyone may.</summary>
    public static Checked<PieceOutcome> Hold(PieceState state, HoldCause cause, string? reason, Signer by)
    {
        if (by.Without(Right.Hold) is { } forbidden)
            return forbidden;
        if (string.IsNullOrWhiteSpace(reason))
            return new Refusal("Write what is the matter with it.");
        if (!ByHand(cause))
            return new Refusal("Choose why it is held.");
        return On(state, new NewHold(cause, reason.Trim()), new PieceHeld(Code.Of(cause), reason.Trim()));
    }

    /// <summary>Puts a hold on as part of another act, whose record it is.</summary>
    public static Checked<PieceOutcome> On(PieceState state, NewHold hold, LedgerRecord record)
    {
        var held = PieceLife.AfterHold(state);
        return held.Ok ? new PieceOutcome(held.Value, record) { Hold = hold } : held.Refusal!;
    }

    /// <summary>Closes one hold, as its cause allows. The piece goes back into use only when none is left.</summary>
    public static Checked<PieceOutcome> Release(ReleaseFacts facts, Guid hold, string? reason, Signer by)
    {
        if (EvidenceLock.Refuses(facts.Locked) is { } kept)
            return kept;
        if (facts.Open.FirstOrDefault(h => h.Id == hold) is not { } open)
            return new Refusal("This hold is closed already.");
        var may = HoldRules.MayClose(
            open,
            by,
            reason,
            facts.Inspections,
            facts.Retagged,
            facts.OneMayDoBoth,
            facts.Movers
        );
        if (!may.Ok)
            return may.Refusal!;
        if (open.Cause == HoldCause.Returned && facts.LacksProof)
            return new Refusal(
                "Load-bearing parts were repaired: a proof test that passed since it came back is wanted first."
            );
        var state = PieceLife.AfterRelease(
            facts.State,
            facts.Open.Count - 1,
            facts.Inspections.Any(i => i is { IsClean: true, IsFull: true })
        );
        return state.Ok
            ? new PieceOutcome(state.Value, new HoldReleased(hold, Code.Of(open.Cause), reason!.Trim()))
            : state.Refusal!;
    }

    /// <summary>Records that the identity was proved and a new tag fitted.</summary>
    public static Checked<PieceOutcome> Retag(PieceState state, string? proof, string? fittedBy, Signer by)
    {
        if (by.Without(Right.Retag) is { } forbidden)
            return forbidden;
        if (state.IsRetired())
            return new Refusal("This piece is retired.");
        if (state.IsAway())
            return new Refusal("This piece is away; take it back first.");
        if (string.IsNullOrWhiteSpace(proof))
            return new Refusal("Write how its identity was proved.");
        if (string.IsNullOrWhiteSpace(fittedBy))
            return new Refusal("Write who fitted the new tag: the maker or a qualified person.");
        return new PieceOutcome(state, new PieceRetagged(proof.Trim(), fittedBy.Trim()));
    }

    /// <summary>Condemns a piece: it will never lift again.</summary>
    public static Checked<PieceOutcome> Condemn(PieceState state, string? reason, Signer by)
    {
        if (by.Without(Right.Condemn) is { } forbidden)
            return forbidden;
        if (string.IsNullOrWhiteSpace(reason))
            return new Refusal("Write why it is condemned.");
        var after = PieceLife.AfterCondemning(state);
        return after.Ok ? new PieceOutcome(after.Value, new PieceCondemned(reason.Trim())) : after.Refusal!;
    }

    /// <summary>Records the destruction of a condemned piece.</summary>
    /// <param name="witness">Who saw it and confirmed it by their own sign-in; null: nobody did.</param>
    /// <param name="witnessName">The witness's sign-in name.</param>
    /// <param name="locked">Why it is kept as evidence; null: it is not.</param>
    public static Checked<PieceOutcome> Destroy(
        PieceState state,
        string? method,
        Guid? witness,
        string witnessName,
        string? note,
        Signer by,
        string? locked = null
    )
    {
        if (by.Without(Right.Destroy) is { } forbidden)
            return forbidden;
        if (EvidenceLock.Refuses(locked) is { } kept)
            return kept;
        if (string.IsNullOrWhiteSpace(method))
            return new Refusal("Write how it was destroyed, such as cut through every link.");
        if (witness is not { } saw)
            return new Refusal("The witness confirms with their own name and password.");
        if (saw == by.Person)
            return new Refusal("The witness is another person than the one who records it.");
        var after = PieceLife.AfterDestruction(state);
        return after.Ok
            ? new PieceOutcome(
                after.Value,
                new PieceDestroyed(method.Trim(), witnessName, note?.Trim() ?? string.Empty)
            )
            : after.Refusal!;
    }

    /// <summary>Whether people put holds of this cause on by hand; the others follow from a verdict.</summary>
    private static bool ByHand(HoldCause cause) =>
        cause switch
        {
            HoldCause.Doubt or HoldCause.Marking or HoldCause.Event => true,
            HoldCause.VerdictHold
            or HoldCause.VerdictRemove
            or HoldCause.FactsChanged
            or HoldCause.RulesChanged
            or HoldCause.Returned
            or HoldCause.Recall => false,
        };
}
