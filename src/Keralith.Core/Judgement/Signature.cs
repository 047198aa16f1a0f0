namespace Keralith.Core.Judgement;

/// <summary>What a person adds to the judgement when signing it.</summary>
/// <param name="Chosen">A verdict stricter than the rules come to; null: as the rules say.</param>
/// <param name="Reason">Why it is stricter.</param>
/// <param name="InstrumentReason">Why readings of an instrument out of calibration are handed in.</param>
public sealed record Signature(VerdictKind? Chosen = null, string? Reason = null, string? InstrumentReason = null)
{
    /// <summary>As the rules say, nothing added.</summary>
    public static Signature Plain { get; } = new();

    /// <summary>Its reasons in one line.</summary>
    public string Reasons =>
        string.Join(
            ' ',
            new[] { Reason, InstrumentReason }.Where(r => !string.IsNullOrWhiteSpace(r)).Select(r => r!.Trim())
        );

    /// <summary>
    /// The verdict that is signed: never milder than the rules, stricter with a reason. Readings of an instrument out
    /// of calibration
    /// may not accept a piece: with them a full inspection comes to hold at least, and says why they were handed in.
    /// </summary>
    /// <param name="rules">What the rules come to.</param>
    /// <param name="isFull">Whether it is an inspection of every part.</param>
    /// <param name="instruments">What its readings were taken with.</param>
    /// <param name="inspectedOn">The day they were taken.</param>
    public Checked<VerdictKind> Of(
        VerdictKind rules,
        bool isFull,
        IEnumerable<Instrument> instruments,
        DateOnly inspectedOn
    )
    {
        if (rules == VerdictKind.Incomplete)
            return new Refusal(
                "The inspection is not complete: every question needs an answer before it can be signed."
            );
        var signed = rules;
        if (isFull && instruments.FirstOrDefault(i => !i.IsInDateOn(inspectedOn)) is { } stale)
        {
            if (string.IsNullOrWhiteSpace(InstrumentReason))
                return new Refusal(
                    $"{stale.Name} was out of calibration since {stale.CalibrationDue:yyyy-MM-dd}. Measure again with one that is in date, or say why its readings are handed in: the piece is then held."
                );
            if (signed < VerdictKind.Hold)
                signed = VerdictKind.Hold;
        }

        if (Chosen is not { } chosen || chosen == rules)
            return signed;
        if (chosen is VerdictKind.Incomplete)
            return new Refusal("Incomplete is no verdict to sign.");
        if (chosen < rules)
            return new Refusal("An inspector may be stricter than the rules, never milder.");
        if (string.IsNullOrWhiteSpace(Reason))
            return new Refusal("Say why you are stricter than the rules.");
        return chosen > signed ? chosen : signed;
    }
}
