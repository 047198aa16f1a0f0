using Keralith.Core.Gear;
using Keralith.Core.Judgement;
using Keralith.Core.People;

namespace Keralith.Core.Custody;

/// <summary>Why a piece is on hold. The cause decides who may close it and on what proof.</summary>
public enum HoldCause
{
    /// <summary>Somebody had a doubt.</summary>
    [Code("doubt")]
    Doubt,

    /// <summary>The tag or marking is missing or can't be read.</summary>
    [Code("marking")]
    Marking,

    /// <summary>An inspection's verdict was hold.</summary>
    [Code("verdict-hold")]
    VerdictHold,

    /// <summary>An inspection's verdict was remove.</summary>
    [Code("verdict-remove")]
    VerdictRemove,

    /// <summary>Overload, shock load, fire, chemicals or collision.</summary>
    [Code("event")]
    Event,
}

/// <summary>An open hold, as the rules see it.</summary>
/// <param name="Cause">Why.</param>
/// <param name="PlacedAt">When.</param>
public sealed record OpenHold(HoldCause Cause, DateTimeOffset PlacedAt);

/// <summary>A signed inspection, as the rules of release see it.</summary>
/// <param name="Kind">Its kind.</param>
/// <param name="Verdict">Its verdict.</param>
/// <param name="SignedAt">When it was signed.</param>
/// <param name="SignedBy">Who signed.</param>
public sealed record SignedInspection(InspectionKind Kind, VerdictKind Verdict, DateTimeOffset SignedAt, Guid SignedBy)
{
    /// <summary>Whether it stands in the place of a wrong record: it tells what was seen then, and closes no hold.</summary>
    public bool IsCorrection { get; init; }

    public bool IsClean => Verdict is VerdictKind.Fit or VerdictKind.Watch;

    /// <summary>Every part seen and measured.</summary>
    public bool IsFull => Kind is InspectionKind.Periodic or InspectionKind.Initial or InspectionKind.AfterEvent;
}

/// <summary>What a piece's inspections say of it as a whole.</summary>
public static class Standing
{
    /// <summary>
    /// The verdict a piece stands under: that of its last full inspection, or a worse one found since. A clean look before use
    /// never makes a watch milder.
    /// </summary>
    /// <param name="inspections">Signed inspections, oldest first.</param>
    public static VerdictKind? Of(IEnumerable<SignedInspection> inspections)
    {
        VerdictKind? standing = null;
        foreach (var inspection in inspections)
        {
            if (inspection.IsFull || standing is null || inspection.Verdict > standing)
                standing = inspection.Verdict;
        }

        return standing;
    }
}

/// <summary>Who wants to close a hold.</summary>
public sealed record Closer(Guid Person, Role Role);

/// <summary>Anyone can stop; few can release. A release needs a name, a reason and a clean inspection made after the hold.</summary>
public static class HoldRules
{
    /// <summary>The hold that a verdict puts on; null where it puts on none. A missing marking, and nothing worse, closes by a new tag.</summary>
    /// <param name="verdict">What the rules came to.</param>
    /// <param name="signedAs">What was signed: that, or stricter.</param>
    public static HoldCause? CauseOf(Verdict verdict, VerdictKind signedAs)
    {
        var cause = signedAs switch
        {
            VerdictKind.Fit or VerdictKind.Watch or VerdictKind.Incomplete => (HoldCause?)null,
            VerdictKind.Hold => HoldCause.VerdictHold,
            VerdictKind.Remove => HoldCause.VerdictRemove,
        };
        var against = verdict.Findings.Where(f => f.Outcome >= Outcome.Hold).ToList();
        return
            cause is not null
            && signedAs == verdict.Kind
            && against.Count > 0
            && against.All(f => f.Criterion.Id == "id.marking")
            ? HoldCause.Marking
            : cause;
    }

    /// <summary>A hold's cause as people say it.</summary>
    public static string Said(HoldCause cause) =>
        cause switch
        {
            HoldCause.Doubt => "a doubt",
            HoldCause.Marking => "marking missing",
            HoldCause.VerdictHold => "verdict hold",
            HoldCause.VerdictRemove => "verdict remove",
            HoldCause.Event => "overload or accident",
        };

    /// <summary>What is wanted before a hold of this cause is closed, in words.</summary>
    public static string Wants(HoldCause cause) =>
        cause switch
        {
            HoldCause.Doubt =>
                "Wanted: an inspector or qualified person, and a full, clean inspection made after the hold.",
            HoldCause.Marking =>
                "Wanted: a new tag fitted after its identity was proved, then a full, clean inspection of it.",
            HoldCause.VerdictHold or HoldCause.VerdictRemove or HoldCause.Event =>
                "Wanted: a qualified person, and a full periodic inspection with a fit or watch verdict made after the hold and signed by somebody else.",
        };

    /// <summary>Whose move it is, in words.</summary>
    /// <param name="cause">Why it is held.</param>
    /// <param name="standing">The verdict the piece stands under now.</param>
    public static string NextMove(HoldCause cause, VerdictKind? standing) =>
        cause switch
        {
            HoldCause.Doubt => "Inspector's move.",
            HoldCause.Marking => "Qualified person's move: re-tag.",
            HoldCause.VerdictHold or HoldCause.VerdictRemove when standing is VerdictKind.Fit or VerdictKind.Watch =>
                "Inspected clean since: qualified person's move.",
            HoldCause.VerdictHold or HoldCause.VerdictRemove or HoldCause.Event => "Qualified person's move.",
        };

    /// <summary>
    /// Whether a hold may be closed now; the refusal says what is still wanted.
    /// </summary>
    /// <param name="hold">The hold.</param>
    /// <param name="closer">Who closes.</param>
    /// <param name="reason">Why it may go back into use.</param>
    /// <param name="inspections">The piece's signed inspections.</param>
    /// <param name="retaggedAt">When the piece last had its identity proved and a new tag fitted; null: never.</param>
    /// <param name="oneMayDoBoth">Whether the site allows one person to sign the clean inspection and close.</param>
    public static Checked<OpenHold> MayClose(
        OpenHold hold,
        Closer closer,
        string reason,
        IEnumerable<SignedInspection> inspections,
        DateTimeOffset? retaggedAt,
        bool oneMayDoBoth
    )
    {
        if (string.IsNullOrWhiteSpace(reason))
            return new Refusal("Write why it may go back into use.");
        var clean = inspections
            .Where(i => i is { IsClean: true, IsFull: true, IsCorrection: false } && i.SignedAt > hold.PlacedAt)
            .ToList();
        switch (hold.Cause)
        {
            case HoldCause.Doubt:
                if (!closer.Role.May(Right.CloseDoubt))
                    return new Refusal("An inspector or a qualified person closes a hold put on for a doubt.");
                return clean.Count > 0
                    ? hold
                    : new Refusal(
                        "Inspect it again first: a full, clean inspection made after the hold is wanted; a look before use is not enough."
                    );
            case HoldCause.Marking:
                if (!closer.Role.May(Right.Retag))
                    return new Refusal("A qualified person closes a hold for a missing marking.");
                if (retaggedAt is not { } tagged || tagged <= hold.PlacedAt)
                    return new Refusal("Prove its identity and fit a new tag first.");
                return clean.Any(i => i.SignedAt > tagged)
                    ? hold
                    : new Refusal(
                        "Inspect it again first: the new marking must be read in a clean inspection made after it was fitted."
                    );
            case HoldCause.VerdictHold:
            case HoldCause.VerdictRemove:
            case HoldCause.Event:
                if (!closer.Role.May(Right.CloseVerdict))
                    return new Refusal("Only a qualified person closes this hold.");
                if (clean.Count == 0)
                    return new Refusal(
                        "A full periodic inspection with a fit or watch verdict, made after the hold, is wanted first."
                    );
                return oneMayDoBoth || clean.Any(i => i.SignedBy != closer.Person)
                    ? hold
                    : new Refusal(
                        "You signed the clean inspection yourself; another qualified person must close this hold."
                    );
            default:
                throw new InvalidOperationException($"No such cause: {hold.Cause}.");
        }
    }
}
