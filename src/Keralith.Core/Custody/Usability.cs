namespace Keralith.Core.Custody;

/// <summary>Everything that decides whether a piece may be used.</summary>
public sealed record UseFacts
{
    public required PieceState State { get; init; }

    /// <summary>Open holds, oldest first, each in words ("verdict remove since 2026-03-01").</summary>
    public required IReadOnlyList<string> OpenHolds { get; init; }

    /// <summary>When the periodic inspection runs out; null: never passed one.</summary>
    public required DateOnly? PeriodicDue { get; init; }

    /// <summary>When the frequent inspection runs out; null where it is due each use and the calendar has no say.</summary>
    public required DateOnly? FrequentDue { get; init; }

    /// <summary>Whether the frequent inspection is kept by the calendar: hooks, hoists, below the hook.</summary>
    public required bool FrequentByCalendar { get; init; }

    public required bool RatedLoadKnown { get; init; }

    /// <summary>What its marking has against it, in words; empty when nothing.</summary>
    public IReadOnlyList<string> AgainstMarking { get; init; } = [];

    /// <summary>What the site's own policies have against it, in words.</summary>
    public IReadOnlyList<string> AgainstPolicy { get; init; } = [];

    /// <summary>What the members of a kit have against it, in words.</summary>
    public IReadOnlyList<string> AgainstMembers { get; init; } = [];

    /// <summary>Why it is kept as evidence; null: it is not.</summary>
    public string? Locked { get; init; }

    /// <summary>Whether it is a lot with nothing left in the bin.</summary>
    public bool IsEmptyLot { get; init; }

    /// <summary>Whether it is made for lifting at all; tie-downs and binders are not.</summary>
    public bool ForLifting { get; init; } = true;

    /// <summary>Why its record can't be read in full; null: it can.</summary>
    public string? Unreadable { get; init; }

    /// <summary>Why its records do not verify; null: they do.</summary>
    public string? Distrust { get; init; }

    /// <summary>Whether the site wants the season's colour on it and it does not carry it.</summary>
    public bool LacksSeasonColour { get; init; }

    /// <summary>The last day its maker lets it be used; null where none is set.</summary>
    public DateOnly? DiscardOn { get; init; }

    /// <summary>The last day its proof test holds good; null where none is asked.</summary>
    public DateOnly? ProofTestDue { get; init; }

    /// <summary>Whether a proof test is asked of it and none is on record.</summary>
    public bool LacksProofTest { get; init; }

    /// <summary>When its calibration runs out; null where it has none to keep.</summary>
    public DateOnly? CalibrationDue { get; init; }
}

/// <summary>May it be used, and if not, why: every reason, the gravest first.</summary>
/// <param name="Reasons">Empty when it may be used.</param>
public sealed record Usability(IReadOnlyList<string> Reasons)
{
    public bool MayBeUsed => Reasons.Count == 0;

    /// <summary>The one answer used by the scan, the lists and the desk.</summary>
    public static Usability On(UseFacts facts, DateOnly today)
    {
        var reasons = new List<string>();
        switch (facts.State)
        {
            case PieceState.Destroyed:
                reasons.Add("Destroyed: it will never lift again.");
                return new(reasons);
            case PieceState.Condemned:
                reasons.Add("Condemned: it will never lift again.");
                return new(reasons);
            case PieceState.New:
                reasons.Add("New: not inspected yet.");
                break;
            case PieceState.Held:
                reasons.AddRange(facts.OpenHolds.Select(h => $"On hold: {h}."));
                if (facts.OpenHolds.Count == 0)
                    reasons.Add("On hold.");
                break;
            case PieceState.AtRepair:
                reasons.Add("Away at repair.");
                reasons.AddRange(facts.OpenHolds.Select(h => $"On hold: {h}."));
                break;
            case PieceState.AtTest:
                reasons.Add("Away on a test bed.");
                reasons.AddRange(facts.OpenHolds.Select(h => $"On hold: {h}."));
                break;
            case PieceState.Missing:
                reasons.Add("Missing: nobody knows where it is.");
                break;
            case PieceState.InService:
                reasons.AddRange(facts.OpenHolds.Select(h => $"On hold: {h}."));
                break;
            default:
                throw new InvalidOperationException($"No such state: {facts.State}.");
        }

        if (facts.Unreadable is { } why)
            reasons.Add($"Its record can't be read in full: {why}");
        if (facts.Distrust is { } not)
            reasons.Add($"Its records do not verify: {not}");
        if (facts.Locked is { } kept)
            reasons.Add($"Kept as evidence: {kept}.");
        if (facts.IsEmptyLot)
            reasons.Add("The lot is empty.");
        if (!facts.ForLifting)
            reasons.Add("Not for lifting.");
        reasons.AddRange(Overdue(facts, today));
        if (!facts.RatedLoadKnown)
            reasons.Add("Its rated load is not known.");
        reasons.AddRange(facts.AgainstMarking);
        reasons.AddRange(facts.AgainstPolicy);
        reasons.AddRange(facts.AgainstMembers);
        if (facts.LacksSeasonColour)
            reasons.Add("It does not carry the season's colour.");
        reasons.AddRange(RanOut(facts, today));
        return new(reasons);
    }

    /// <summary>The inspections that are missing or late; a piece that is new says so already.</summary>
    private static IEnumerable<string> Overdue(UseFacts facts, DateOnly today)
    {
        if (facts.State == PieceState.New)
            yield break;
        if (facts.PeriodicDue is not { } periodic)
            yield return "No periodic inspection on record.";
        else if (periodic < today)
            yield return $"Periodic inspection overdue since {periodic:yyyy-MM-dd}.";
        if (facts.FrequentByCalendar && facts.FrequentDue is null)
            yield return "No frequent inspection on record.";
        else if (facts.FrequentByCalendar && facts.FrequentDue < today)
            yield return $"Frequent inspection overdue since {facts.FrequentDue:yyyy-MM-dd}.";
    }

    /// <summary>The days the piece itself carries; each is the last day it may be used.</summary>
    private static IEnumerable<string> RanOut(UseFacts facts, DateOnly today)
    {
        if (facts.DiscardOn is { } discard && discard < today)
            yield return $"Past its discard date of {discard:yyyy-MM-dd}: it is not used any more.";
        if (facts.LacksProofTest)
            yield return "No proof test is on record, and one is asked.";
        if (facts.ProofTestDue is { } proof && proof < today)
            yield return $"Its proof test ran out on {proof:yyyy-MM-dd}.";
        if (facts.CalibrationDue is { } calibration && calibration < today)
            yield return $"Calibration out of date since {calibration:yyyy-MM-dd}.";
    }
}
