using Keralith.Core.Custody;
using Keralith.Core.Gear;
using Keralith.Core.Judgement;
using Keralith.Core.People;
using Keralith.Core.Register;
using Keralith.Core.Schedule;
using Keralith.Core.Sites;

namespace Keralith.Core.Signing;

/// <summary>The wrong record that a draft takes the place of, and what of it still stands.</summary>
/// <param name="Facts">What was signed.</param>
/// <param name="NextBy">The earlier next inspection set with it; null: none.</param>
/// <param name="IsSuperseded">Whether it was corrected or withdrawn already.</param>
/// <param name="OpenHold">The cause of the hold it put on, where that is open still; null: none.</param>
public sealed record Corrects(WrongRecord Facts, DateOnly? NextBy, bool IsSuperseded, HoldCause? OpenHold);

/// <summary>What the rules of signing look at.</summary>
public sealed record SigningFacts
{
    public required Piece Piece { get; init; }

    public required Site Site { get; init; }

    public required InspectionKind Kind { get; init; }

    /// <summary>Its answers as kept.</summary>
    public required IReadOnlyList<DraftAnswer> Answers { get; init; }

    /// <summary>Figures when new, as they stood from when the inspection counts.</summary>
    public required IReadOnlyDictionary<BaselineKey, BaselineFigure> Baselines { get; init; }

    /// <summary>What was read last at the same places, by part and criterion.</summary>
    public IReadOnlyDictionary<(string Part, string Criterion), LastReading> Last { get; init; } = NothingRead;

    /// <summary>Nothing was read before.</summary>
    public static IReadOnlyDictionary<(string Part, string Criterion), LastReading> NothingRead { get; } =
        new Dictionary<(string, string), LastReading>();

    /// <summary>Where among the facts the newest open hold was put on, or a new tag fitted since; null: not on hold.</summary>
    public FactOrder? Held { get; init; }

    /// <summary>What the signer is authorised to sign for.</summary>
    public IReadOnlyList<Authorisation> Authorisations { get; init; } = [];

    /// <summary>The trainee who made it and offered it; null: whoever signs made it.</summary>
    public Guid? OfferedBy { get; init; }

    /// <summary>The day the trainee inspected it.</summary>
    public DateOnly? OfferedFor { get; init; }

    /// <summary>The record it corrects; null: an inspection of its own.</summary>
    public Corrects? Corrects { get; init; }

    /// <summary>Its answers that say something.</summary>
    public IEnumerable<DraftAnswer> Given => Answers.Where(a => a.IsGiven);

    /// <summary>
    /// The notes of its answers, by part and criterion; where the marking's transcription is against an answer and
    /// nobody wrote why, what it has against it.
    /// </summary>
    public IReadOnlyDictionary<string, string> Notes
    {
        get
        {
            var against = Piece.TagAt(Site).Remarks.Where(r => r.Outcome > Outcome.Watch).ToLookup(r => r.Criterion);
            return Answers
                .Select(a =>
                    (
                        Key: $"{a.Part} {a.Criterion}",
                        Note: string.Join(
                            ' ',
                            new[]
                            {
                                string.IsNullOrWhiteSpace(a.Note)
                                    ? string.Join(' ', against[a.Criterion].Select(r => r.Words))
                                    : a.Note,
                                Catalogue.Find(a.Criterion) is { } asked && a.Entry.IsOfPlaces(asked)
                                    ? $"Measured at {string.Join(", ", a.Entry.Readings)}."
                                    : string.Empty,
                            }.Where(n => n.Length > 0)
                        )
                    )
                )
                .Where(n => n.Note.Length > 0)
                .ToDictionary(n => n.Key, n => n.Note);
        }
    }

    /// <summary>The case they make.</summary>
    public Case ToCase() => DraftCase.Of(Piece, Kind, Site, Answers, Baselines, Last);

    /// <summary>What others than whoever made it answered: by person, each part and criterion.</summary>
    public IReadOnlyDictionary<Guid, IReadOnlyList<string>> OtherHands(Guid inspector) =>
        Given
            .Where(a => a.Hand is { } hand && hand != inspector)
            .GroupBy(a => a.Hand!.Value)
            .ToDictionary(
                h => h.Key,
                IReadOnlyList<string> (h) => [.. h.Select(a => $"{a.Part} {a.Criterion}").Order(StringComparer.Ordinal)]
            );
}

/// <summary>What is signed, as it was read.</summary>
/// <param name="Version">The version of the draft that was read before signing.</param>
/// <param name="InspectedOn">The day it was made; taken from the trainee's signature when it is countersigned.</param>
public sealed record SignatureRead(int Version, DateOnly? InspectedOn)
{
    /// <summary>What the signer adds: a stricter verdict, a reason.</summary>
    public Signature With { get; init; } = Signature.Plain;

    /// <summary>An earlier day for the next full inspection; null: the interval alone.</summary>
    public DateOnly? NextBy { get; init; }

    /// <summary>The codes of what was done for the piece afterwards.</summary>
    public IReadOnlyList<string> Care { get; init; } = [];
}

/// <summary>What a signature comes to.</summary>
/// <param name="Case">The case that was judged.</param>
/// <param name="Verdict">What the rules come to.</param>
/// <param name="SignedAs">What is signed: that, or stricter.</param>
/// <param name="Stricter">Why it is stricter; null where it is not.</param>
/// <param name="InspectedOn">The day it was made.</param>
/// <param name="NextBy">The earlier day for the next full inspection; null: the interval alone.</param>
/// <param name="State">The piece's state from now on.</param>
/// <param name="Hold">The hold it puts on; null: none.</param>
public sealed record SigningOutcome(
    Case Case,
    Verdict Verdict,
    VerdictKind SignedAs,
    string? Stricter,
    DateOnly InspectedOn,
    DateOnly? NextBy,
    PieceState State,
    NewHold? Hold
)
{
    /// <summary>What others than whoever made it answered, by person: none of them closes a hold by this record.</summary>
    public IReadOnlyDictionary<Guid, IReadOnlyList<string>> Hands { get; init; } =
        new Dictionary<Guid, IReadOnlyList<string>>();
}

/// <summary>Signing inspections: alone, for countersignature, or by countersigning; and what a signature does.</summary>
public static class InspectionSigning
{
    private static readonly Refusal InTheFuture = new("The day of the inspection lies in the future.");
    private static readonly Refusal NoDay = new("Say on which day it was inspected.");

    private static readonly Refusal NotComplete = new(
        "The inspection is not complete: every question needs an answer before it can be signed."
    );

    /// <summary>Signs an inspection: judges it as it stands and says what follows for the piece.</summary>
    public static Checked<SigningOutcome> Sign(SigningFacts facts, SignatureRead read, Signer by)
    {
        if (RefusalToSign(facts, by) is { } notBy)
            return notBy;

        // What a trainee signed is dated as the trainee inspected it; it counts from the countersignature.
        if ((facts.OfferedBy is null ? read.InspectedOn : facts.OfferedFor) is not { } inspectedOn)
            return NoDay;
        if (RefusalOfDay(facts, inspectedOn, by) is { } notThen)
            return notThen;
        if (facts.Corrects is { IsSuperseded: true })
            return Refusals.CorrectedAlready;
        var @case = facts.ToCase();
        if (RefusalOfStrangers(@case, facts.Given) is { } strangers)
            return strangers;

        var verdict = Judge.Of(@case, facts.Site.WatchShare);
        var instruments = facts.Given.Select(a => a.Instrument).OfType<Instrument>().Distinct();
        var chosen = read.With.Of(verdict.Kind, facts.Kind.IsFull(), instruments, inspectedOn);
        if (!chosen.Ok)
            return chosen.Refusal!;
        var signedAs = chosen.Value;
        if (
            facts.Corrects is { } wrong
            && Correction.Refusal(wrong.Facts, signedAs, inspectedOn, by.Roles) is { } uncorrected
        )
            return new Refusal(uncorrected);
        if (
            signedAs.IsClean()
            && Freshness.Refusal([.. facts.Given.Select(a => (a.SavedAt, a.Order))], facts.Held, by.At) is { } stale
        )
            return new Refusal(stale);
        var state = facts.Corrects is null
            ? PieceLife.AfterInspection(facts.Piece.State, facts.Kind, signedAs, facts.Piece.OpenHolds.Count)
            : Correction.After(facts.Piece.State, signedAs);
        if (!state.Ok)
            return state.Refusal!;
        if (read.NextBy is { } next && !MayBeNext(facts, inspectedOn, next))
            return new Refusal("The next inspection may be set earlier than the interval allows, never later.");
        var stricter = signedAs == verdict.Kind ? null : read.With.Reasons;
        return new SigningOutcome(
            @case,
            verdict,
            signedAs,
            stricter,
            inspectedOn,
            Correction.NextBy(facts.Corrects?.NextBy, read.NextBy),
            state.Value,
            HoldOf(facts, @case, verdict, signedAs, stricter)
        )
        {
            Hands = facts.OtherHands(facts.OfferedBy ?? by.Person),
        };
    }

    /// <summary>
    /// A trainee signs for countersignature: the draft waits, and what it finds against the piece stops it at once.
    /// </summary>
    public static Checked<SigningOutcome> Offer(SigningFacts facts, SignatureRead read, Signer by)
    {
        if (by.Without(Right.Draft) is { } forbidden)
            return forbidden;
        if (facts.OfferedBy is not null)
            return new Refusal("It waits for countersignature already.");
        if (read.InspectedOn is not { } day)
            return NoDay;
        if (RefusalOfDay(facts, day, by) is { } notThen)
            return notThen;
        if (facts.Piece.State.IsRetired())
            return new Refusal("This piece is retired; nothing more can be recorded on it.");
        var @case = facts.ToCase();
        var verdict = Judge.Of(@case, facts.Site.WatchShare);
        if (verdict.Kind == VerdictKind.Incomplete)
            return NotComplete;
        if (!verdict.Kind.Stops())
            return new SigningOutcome(@case, verdict, verdict.Kind, null, day, null, facts.Piece.State, null);
        var held = PieceLife.AfterHold(facts.Piece.State);
        return held.Ok
            ? new SigningOutcome(
                @case,
                verdict,
                verdict.Kind,
                null,
                day,
                null,
                held.Value,
                new(HoldCause.Doubt, $"Found by {by.Name}, not countersigned yet: {Findings.InOneLine(@case, verdict)}")
            )
            : held.Refusal!;
    }

    /// <summary>Letters a remark to a trainee may have.</summary>
    public const int LongestRemark = 500;

    /// <summary>Hands a trainee's draft back with a remark.</summary>
    public static Checked<string> HandBack(Guid? offeredBy, string? remark, Signer by)
    {
        if (by.Without(Right.SignInspection) is { } forbidden)
            return forbidden;
        if (offeredBy is null)
            return new Refusal("Nobody signed it for countersignature.");
        return string.IsNullOrWhiteSpace(remark) || remark.Length > LongestRemark
            ? new Refusal($"Say what is to be looked at again, in up to {LongestRemark} letters.")
            : remark.Trim();
    }

    /// <summary>Why somebody may not sign at all; null when they may.</summary>
    private static Refusal? RefusalToSign(SigningFacts facts, Signer by)
    {
        if (facts.OfferedBy == by.Person)
            return Refusal.Forbidden("Nobody countersigns their own inspection.");
        var right = Correction.Signs(facts.Kind);
        if (
            by.Without(
                right,
                "Your role may draft this inspection, not sign it. Pass the draft to an inspector: it stays in the tray."
            ) is
            { } forbidden
        )
            return forbidden;
        return
            right == Right.SignInspection
            && Authorisation.RefusalToSign(facts.Authorisations, facts.Piece.Gear.Family, by.Day) is { } unauthorised
            ? Refusal.Forbidden(unauthorised)
            : null;
    }

    /// <summary>Why it can't have been made on a day; null when it can.</summary>
    private static Refusal? RefusalOfDay(SigningFacts facts, DateOnly day, Signer by)
    {
        if (day > by.Day)
            return InTheFuture;
        return facts.Site.RefusalBefore(facts.Piece.RegisteredAt, day);
    }

    /// <summary>
    /// Answers to parts or questions the piece no longer has: it was changed since. Where the site no longer asks a question of its
    /// own, "no fault" to it is passed over.
    /// </summary>
    private static Refusal? RefusalOfStrangers(Case @case, IEnumerable<DraftAnswer> given)
    {
        var read = @case.Answers.Select(a => (a.Part, a.Criterion.Id)).ToHashSet();
        return given.All(a => read.Contains((a.Part, a.Criterion)) || IsPassedOver(a))
            ? null
            : new Refusal(
                "Some answers belong to parts or questions this piece no longer has: it was changed since. Throw the draft away and look at all of it again."
            );

        static bool IsPassedOver(DraftAnswer answer) =>
            OwnQuestion.IsId(answer.Criterion) && answer.Entry.Answer == Code.Of(Found.No);
    }

    private static bool MayBeNext(SigningFacts facts, DateOnly inspectedOn, DateOnly next) =>
        facts.Kind.IsFull()
        && next > inspectedOn
        && next
            <= Intervals
                .Periodic(facts.Piece.Gear.Family, facts.Piece.ServiceClass, facts.Site.Books)
                .After(inspectedOn);

    /// <summary>The hold a signature puts on. One that the corrected record put on for the same cause holds still.</summary>
    private static NewHold? HoldOf(
        SigningFacts facts,
        Case @case,
        Verdict verdict,
        VerdictKind signedAs,
        string? stricter
    ) =>
        HoldRules.CauseOf(verdict, signedAs) is { } cause && facts.Corrects?.OpenHold != cause
            ? new(cause, stricter ?? Findings.InOneLine(@case, verdict))
            : null;
}
