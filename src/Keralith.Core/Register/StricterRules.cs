using Keralith.Core.Custody;
using Keralith.Core.Judgement;
using Keralith.Core.Ledger;
using Keralith.Core.People;
using Keralith.Core.Sites;

namespace Keralith.Core.Register;

/// <summary>A standing inspection that rules are judged by.</summary>
/// <param name="State">The state of its piece.</param>
/// <param name="Inspection">The last full inspection that counts.</param>
/// <param name="SignedAs">What it was signed as.</param>
/// <param name="Case">As it was signed; null: this version can't judge it.</param>
/// <param name="Maker">Whose limits are asked.</param>
/// <param name="Model">For which model.</param>
public sealed record StandingInspection(
    PieceState State,
    Guid Inspection,
    VerdictKind SignedAs,
    Case? Case,
    string? Maker,
    string? Model
)
{
    /// <summary>The number of the site its piece belongs to.</summary>
    public int Site { get; init; } = Sites.Site.First;
}

/// <summary>
/// Rules made stricter stop gear at once: a standing inspection that comes out against its piece by the rules of now
/// holds it. Nothing ever becomes milder by a rule alone; what a rule held goes when the rule does.
/// </summary>
public static class StricterRules
{
    /// <summary>The hold that the rules of now put on a piece; null: none.</summary>
    /// <param name="standing">Its standing inspection.</param>
    /// <param name="site">The site as it is from now on.</param>
    /// <param name="rule">What was changed, in words.</param>
    public static RulesOutcome? Of(StandingInspection standing, Site site, string rule)
    {
        // What stopped it when it was signed holds it already; retired and missing gear is used by nobody.
        if (standing.SignedAs.Stops() || !PieceLife.AfterHold(standing.State).Ok)
            return null;
        var (now, because) = standing.Case is { } then
            ? Judged(Rejudgement.Of(then, site, standing.Maker, standing.Model))
            : ("unknown", "this version can't judge its record any more");
        return now is null
            ? null
            : new(
                PieceLife.AfterHold(standing.State).Value,
                new(
                    HoldCause.RulesChanged,
                    $"{rule}: its last full inspection, {Code.Of(standing.SignedAs)} then, comes out {now}. {because}"
                ),
                new(rule, standing.Inspection, Code.Of(standing.SignedAs), now, because)
            );
    }

    /// <summary>
    /// The hold that another site's rules put on a piece that is moved there; null: none. What it is held for at the
    /// site it leaves, it stays held for.
    /// </summary>
    /// <param name="standing">Its standing inspection; null: it has none.</param>
    /// <param name="to">The site it is moved to.</param>
    public static RulesOutcome? Moved(StandingInspection? standing, Site to) =>
        standing is null ? null : Of(standing, to, $"Moved to {to.Name}");

    /// <summary>Why a rule can't be set yet; null when it can: whoever sets it has seen how much it stops.</summary>
    /// <param name="stops">The pieces it stops.</param>
    /// <param name="seen">How many of them whoever sets it was shown.</param>
    public static Refusal? RefusalUnseen(IReadOnlyList<string> stops, int? seen)
    {
        if (stops.Count == (seen ?? 0))
            return null;
        var named = string.Join(", ", stops.Take(10)) + (stops.Count > 10 ? " and others" : string.Empty);
        return Refusal.Conflict(
            $"This stops {stops.Count} {(stops.Count == 1 ? "piece" : "pieces")} at once: {named}. Look at them, then sign it."
        );
    }

    /// <summary>Lets a piece go that only a rule held, which is no more.</summary>
    /// <param name="standing">Its standing inspection now.</param>
    /// <param name="judged">The inspection that was judged when it was held.</param>
    /// <param name="hold">The hold.</param>
    /// <param name="stillOpen">Its other open holds.</param>
    /// <param name="site">The site as it is.</param>
    /// <param name="reason">Why.</param>
    /// <param name="by">Who.</param>
    /// <param name="locked">Why it is kept as evidence; null: it is not.</param>
    public static Checked<PieceOutcome> LetGo(
        StandingInspection standing,
        Guid? judged,
        Guid hold,
        int stillOpen,
        Site site,
        string? reason,
        Signer by,
        string? locked = null
    )
    {
        if (RefusalToLetGo(reason, by) is { } refusal)
            return refusal;
        if (EvidenceLock.Refuses(locked) is { } kept)
            return kept;
        if (judged != standing.Inspection)
            return new Refusal("It was inspected since: close this hold by that inspection.");
        if (Of(standing, site, string.Empty) is not null)
            return new Refusal("The rules as they stand still hold it.");
        var state = PieceLife.AfterRelease(standing.State, stillOpen, everAccepted: true);
        return state.Ok ? new PieceOutcome(state.Value, new RulesReleased(hold, reason!.Trim())) : state.Refusal!;
    }

    /// <summary>Why somebody may not let go what a rule held; null when they may.</summary>
    public static Refusal? RefusalToLetGo(string? reason, Signer by) =>
        by.Without(Right.CloseVerdict, "Only a qualified person lets go what a rule held.")
        ?? (string.IsNullOrWhiteSpace(reason) ? new Refusal("Write why it may go back into use.") : null);

    /// <summary>Why one press let nothing go; null when it did.</summary>
    public static Refusal? RefusalOfNone(int gone) =>
        gone == 0 ? new Refusal("The rules as they stand still hold every piece they held.") : null;

    private static (string? Now, string Because) Judged(Rejudged judged) =>
        judged.Verdict.Kind.Stops() ? (Code.Of(judged.Verdict.Kind), judged.Because) : (null, string.Empty);
}
