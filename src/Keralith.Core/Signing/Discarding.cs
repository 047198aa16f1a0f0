using Keralith.Core.Custody;
using Keralith.Core.Gear;
using Keralith.Core.Judgement;
using Keralith.Core.Ledger;
using Keralith.Core.People;

namespace Keralith.Core.Signing;

/// <summary>What somebody who may not sign found against a piece in a draft.</summary>
/// <param name="State">The piece's state.</param>
/// <param name="Words">What, in one line.</param>
public sealed record TraineesFinding(PieceState State, string Words)
{
    /// <summary>What a draft found; null where whoever began it may sign, or nothing stops the piece.</summary>
    /// <param name="case">The draft's case.</param>
    /// <param name="startedBy">The roles of whoever began it.</param>
    public static TraineesFinding? Of(Case @case, PieceState state, decimal watchShare, Roles startedBy)
    {
        if (startedBy.May(Right.SignInspection))
            return null;
        var verdict = Judge.Of(@case, watchShare);
        return verdict.Findings.Any(f => f.Outcome >= Outcome.Hold)
            ? new(state, Findings.InOneLine(@case, verdict))
            : null;
    }
}

/// <summary>What throwing a draft away comes to.</summary>
/// <param name="Record">What the ledger keeps; null: nothing.</param>
/// <param name="State">The piece's state from now on; null: as it was.</param>
/// <param name="Hold">The hold it puts on; null: none.</param>
public sealed record DiscardOutcome(DraftDiscarded? Record, PieceState? State, NewHold? Hold);

/// <summary>Throwing drafts away: by whoever made them, or a qualified person; a finding never goes without a trace.</summary>
public static class Discarding
{
    /// <summary>Throws a draft away.</summary>
    /// <param name="draft">Its id.</param>
    /// <param name="startedBy">Who began it.</param>
    /// <param name="offeredBy">Who signed it for countersignature; null: nobody.</param>
    /// <param name="answers">Its answers.</param>
    /// <param name="finding">What somebody who may not sign found against the piece; null: nothing, or they may sign.</param>
    /// <returns>What the ledger keeps, null where nothing was found against the piece; and the hold that stays as a doubt.</returns>
    public static Checked<DiscardOutcome> Of(
        Guid draft,
        Guid startedBy,
        Guid? offeredBy,
        IEnumerable<DraftAnswer> answers,
        Signer by,
        TraineesFinding? finding = null
    )
    {
        if (by.Without(Right.Draft) is { } forbidden)
            return forbidden;
        if (by.Person != startedBy && by.Person != offeredBy && !by.Roles.May(Right.CloseVerdict))
            return Refusal.Forbidden("Somebody else made this draft: they or a qualified person throw it away.");
        var found = answers
            .Where(a => a.IsGiven && a.Entry.Answer != Code.Of(Found.No))
            .Select(a => new RecordedAnswer(
                a.Part,
                a.Criterion,
                a.Entry.Answer ?? a.Entry.Value ?? string.Empty,
                a.Note
            ))
            .ToList();
        var record = found.Count == 0 ? null : new DraftDiscarded(draft, found);

        // Who may not sign may not unsay either: what they saw stays a doubt until a qualified person has looked.
        if (record is null || finding is null || by.Roles.May(Right.CloseVerdict))
            return new DiscardOutcome(record, null, null);
        var held = PieceLife.AfterHold(finding.State);
        return new DiscardOutcome(
            record,
            held.Ok ? held.Value : null,
            held.Ok
                ? new(HoldCause.Doubt, $"Found in an inspection that was thrown away by {by.Name}: {finding.Words}")
                : null
        );
    }
}
