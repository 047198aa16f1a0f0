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

    /// <summary>A fact that a verdict, a rating or a due date stands on was changed.</summary>
    [Code("facts-changed")]
    FactsChanged,

    /// <summary>The rules became stricter: its standing inspection comes out against it by them.</summary>
    [Code("rules-changed")]
    RulesChanged,

    /// <summary>It came back from a shop or a test bed.</summary>
    [Code("returned")]
    Returned,

    /// <summary>Its maker, or the site, calls gear of its kind back.</summary>
    [Code("recall")]
    Recall,
}

/// <summary>Somebody changed a fact a piece is judged by.</summary>
/// <param name="By">Who.</param>
/// <param name="Order">Where that stands among the facts.</param>
public sealed record FactsMoved(Guid By, FactOrder Order);

/// <summary>An open hold, as the rules see it.</summary>
/// <param name="Id">Its id.</param>
/// <param name="Cause">Why.</param>
/// <param name="Order">Where it stands among the facts.</param>
public sealed record OpenHold(Guid Id, HoldCause Cause, FactOrder Order)
{
    /// <summary>Who put it on.</summary>
    public Guid PlacedBy { get; init; }
}

/// <summary>A signed inspection that counts, as the rules see it.</summary>
/// <param name="Kind">Its kind.</param>
/// <param name="Verdict">Its verdict.</param>
/// <param name="Order">Where it stands among the facts: where it was signed, or what it corrects was.</param>
/// <param name="SignedBy">Who signed.</param>
public sealed record SignedInspection(InspectionKind Kind, VerdictKind Verdict, FactOrder Order, Guid SignedBy)
{
    /// <summary>Whether it stands in the place of a wrong record: it tells what was seen then, and closes no hold.</summary>
    public bool IsCorrection { get; init; }

    /// <summary>The day it was made.</summary>
    public DateOnly InspectedOn { get; init; }

    /// <summary>An earlier day its inspector set for the next full one; null: the interval alone.</summary>
    public DateOnly? NextBy { get; init; }

    /// <summary>Who made it; null: whoever signed it.</summary>
    public Guid? MadeBy { get; init; }

    /// <summary>Who else answered something of it.</summary>
    public IReadOnlyList<Guid> Hands { get; init; } = [];

    /// <summary>Whether somebody signed it, made it or answered anything of it.</summary>
    public bool IsOf(Guid person) => SignedBy == person || Inspector == person || Hands.Contains(person);

    /// <summary>Who made it.</summary>
    public Guid Inspector => MadeBy ?? SignedBy;

    public bool IsClean => Verdict.IsClean();

    /// <summary>Every part seen and measured.</summary>
    public bool IsFull => Kind.IsFull();
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

/// <summary>
/// Anyone can stop; few can release. A release needs a name, a reason and a clean inspection made after the hold.
/// </summary>
public static class HoldRules
{
    /// <summary>
    /// The hold that a verdict puts on; null where it puts on none. A missing marking, and nothing worse, closes by a
    /// new tag.
    /// </summary>
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
            HoldCause.FactsChanged => "facts changed",
            HoldCause.RulesChanged => "rules changed",
            HoldCause.Returned => "back from a shop or test bed",
            HoldCause.Recall => "recall",
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
            HoldCause.FactsChanged =>
                "Wanted: a full inspection by the facts as they stand now, fit or watch, and a qualified person who neither inspected it nor changed them.",
            HoldCause.RulesChanged =>
                "Wanted: a full inspection by the rules as they stand now, fit or watch, and another person, qualified. Where the rule is withdrawn, a qualified person lets it go.",
            HoldCause.Returned =>
                "Wanted: a full inspection made since it came back, fit or watch; a proof test that passed where load-bearing parts were repaired; and another person, qualified.",
            HoldCause.Recall => "Wanted: whoever set the recall lets it go.",
        };

    /// <summary>The right it takes to close a hold of this cause.</summary>
    public static Right Closes(HoldCause cause) =>
        cause switch
        {
            HoldCause.Doubt => Right.CloseDoubt,
            HoldCause.Marking => Right.Retag,
            HoldCause.VerdictHold
            or HoldCause.VerdictRemove
            or HoldCause.Event
            or HoldCause.FactsChanged
            or HoldCause.RulesChanged
            or HoldCause.Returned => Right.CloseVerdict,
            HoldCause.Recall => Right.Recall,
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
            HoldCause.FactsChanged or HoldCause.RulesChanged => "Inspector's move: inspect it as it stands now.",
            HoldCause.Returned => "Inspector's move: inspect it as it came back.",
            HoldCause.Recall => "The move of who set the recall.",
        };

    /// <summary>
    /// Whether a hold may be closed now; the refusal says what is still wanted.
    /// </summary>
    /// <param name="hold">The hold.</param>
    /// <param name="closer">Who closes.</param>
    /// <param name="reason">Why it may go back into use.</param>
    /// <param name="inspections">The piece's signed inspections.</param>
    /// <param name="retagged">Where the piece last had its identity proved and a new tag fitted; null: never.</param>
    /// <param name="oneMayDoBoth">Whether the site allows one person to sign the clean inspection and close.</param>
    /// <param name="movers">Who changed facts the piece is judged by, and when.</param>
    public static Checked<OpenHold> MayClose(
        OpenHold hold,
        Signer closer,
        string? reason,
        IEnumerable<SignedInspection> inspections,
        FactOrder? retagged,
        bool oneMayDoBoth,
        IReadOnlyCollection<FactsMoved>? movers = null
    )
    {
        if (string.IsNullOrWhiteSpace(reason))
            return new Refusal("Write why it may go back into use.");
        if (movers?.Any(m => m.By == closer.Person && m.Order >= hold.Order) == true)
            return Refusal.Forbidden(
                "You changed what this piece is judged by while it was held; another person must close this hold."
            );
        var clean = inspections
            .Where(i => i is { IsClean: true, IsFull: true, IsCorrection: false } && i.Order > hold.Order)
            .ToList();
        return hold.Cause switch
        {
            HoldCause.Doubt => OnDoubt(hold, closer, clean),
            HoldCause.Marking => OnMarking(hold, closer, clean, retagged),
            HoldCause.VerdictHold
            or HoldCause.VerdictRemove
            or HoldCause.Event
            or HoldCause.FactsChanged
            or HoldCause.RulesChanged
            or HoldCause.Returned => OnVerdict(hold, closer, clean, oneMayDoBoth),
            HoldCause.Recall => OnRecall(hold, closer),
        };
    }

    private static Checked<OpenHold> OnRecall(OpenHold hold, Signer closer) =>
        closer.Without(Closes(hold.Cause), "Who set the recall lets it go.") is { } no ? no
        : hold.PlacedBy == closer.Person ? hold
        : Refusal.Forbidden("Somebody else set this recall; they let it go.");

    private static Checked<OpenHold> OnDoubt(OpenHold hold, Signer closer, List<SignedInspection> clean)
    {
        if (
            closer.Without(
                Closes(hold.Cause),
                "An inspector or a qualified person closes a hold put on for a doubt."
            ) is
            { } no
        )
            return no;
        return clean.Count > 0
            ? hold
            : new Refusal(
                "Inspect it again first: a full, clean inspection made after the hold is wanted; a look before use is not enough."
            );
    }

    private static Checked<OpenHold> OnMarking(
        OpenHold hold,
        Signer closer,
        List<SignedInspection> clean,
        FactOrder? retagged
    )
    {
        if (closer.Without(Closes(hold.Cause), "A qualified person closes a hold for a missing marking.") is { } no)
            return no;
        if (retagged is not { } tagged || tagged <= hold.Order)
            return new Refusal("Prove its identity and fit a new tag first.");
        return clean.Any(i => i.Order > tagged)
            ? hold
            : new Refusal(
                "Inspect it again first: the new marking must be read in a clean inspection made after it was fitted."
            );
    }

    private static Checked<OpenHold> OnVerdict(
        OpenHold hold,
        Signer closer,
        List<SignedInspection> clean,
        bool oneMayDoBoth
    )
    {
        if (closer.Without(Closes(hold.Cause), "Only a qualified person closes this hold.") is { } no)
            return no;
        if (clean.Count == 0)
            return new Refusal(
                "A full periodic inspection with a fit or watch verdict, made after the hold, is wanted first."
            );
        return oneMayDoBoth || clean.Any(i => !i.IsOf(closer.Person))
            ? hold
            : new Refusal(
                "You signed the clean inspection, made it, or gave an answer of it; another qualified person must close this hold."
            );
    }
}
