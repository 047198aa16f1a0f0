using Keralith.Core.Ledger;
using Keralith.Core.People;

namespace Keralith.Core.Custody;

/// <summary>Gear in somebody's hands.</summary>
/// <param name="Holder">Who has it.</param>
/// <param name="Job">For what.</param>
/// <param name="ExpectedBack">When it is wanted back; null where nobody said.</param>
/// <param name="Since">Since when.</param>
public sealed record IssuedTo(string Holder, string Job, DateOnly? ExpectedBack, DateOnly Since);

/// <summary>Handing gear out: only what may be used, to a named person, once.</summary>
public static class Issuing
{
    private const int LongestName = 80;

    private static string? RefusalOf(Usability use, IssuedTo? now, string holder, DateOnly? back, DateOnly today) =>
        WhyNotNow(use, now) is { } why ? why
        : RefusalOfHolder(holder) is { } unnamed ? unnamed
        : back < today ? "the day it is wanted back is past."
        : null;

    /// <summary>Why nobody is named by a holder's name; null where somebody is.</summary>
    public static string? RefusalOfHolder(string? holder) =>
        holder?.Trim().Length is > 0 and <= LongestName
            ? null
            : $"name who takes it, in at most {LongestName} letters.";

    /// <summary>Why a piece can't be handed out now, to whomever; null when it can.</summary>
    public static string? WhyNotNow(Usability use, IssuedTo? now) =>
        !use.MayBeUsed ? $"it may not be used. {string.Join(" ", use.Reasons)}"
        : now is not null ? $"it is out with {now.Holder}."
        : null;

    /// <summary>Hands a piece out to a job.</summary>
    /// <param name="id">The hand-out's id.</param>
    /// <param name="mark">The piece's mark.</param>
    /// <param name="lift">The lift it goes to; null: none.</param>
    public static Checked<PieceOutcome> HandOut(
        Guid id,
        string mark,
        PieceState state,
        Usability use,
        IssuedTo? now,
        string? holder,
        string? job,
        DateOnly? back,
        Guid? lift,
        Signer by
    )
    {
        if (by.Without(Right.Issue) is { } forbidden)
            return forbidden;
        return RefusalOf(use, now, holder ?? string.Empty, back, by.Day) is { } refusal
            ? new Refusal($"{mark}: {refusal}")
            : new PieceOutcome(state, new PieceIssued(id, holder!.Trim(), job?.Trim() ?? string.Empty, back, lift));
    }

    /// <summary>Hands a piece from who has it to the next, without the store: only what may be used.</summary>
    /// <param name="id">The hand-over's id.</param>
    /// <param name="mark">The piece's mark.</param>
    /// <param name="job">For what; empty: for the same.</param>
    /// <param name="back">When it is wanted back; null: when it was.</param>
    public static Checked<PieceOutcome> HandOver(
        Guid id,
        string mark,
        PieceState state,
        Usability use,
        IssuedTo? now,
        string? holder,
        string? job,
        DateOnly? back,
        Signer by
    )
    {
        if (by.Without(Right.HandOver) is { } forbidden)
            return forbidden;
        if (now is null)
            return new Refusal($"{mark} is not out: the store hands it out.");
        var next = holder?.Trim() ?? string.Empty;
        if (string.Equals(next, now.Holder, StringComparison.OrdinalIgnoreCase))
            return new Refusal($"{mark}: {now.Holder} has it already.");
        if (RefusalOf(use, null, next, back, by.Day) is { } refusal)
            return new Refusal($"{mark}: {refusal}");
        var work = string.IsNullOrWhiteSpace(job) ? now.Job : job.Trim();
        return new PieceOutcome(state, new PieceHandedOver(id, now.Holder, next, work, back ?? now.ExpectedBack));
    }

    /// <summary>Takes a piece back after a quick look; on a doubt it goes to the cage.</summary>
    /// <param name="mark">The piece's mark.</param>
    /// <param name="doubt">What is the matter with it; empty when nothing was seen.</param>
    public static Checked<PieceOutcome> TakeBack(string mark, PieceState state, IssuedTo? now, string? doubt, Signer by)
    {
        if (by.Without(Right.Issue) is { } forbidden)
            return forbidden;
        if (now is null)
            return new Refusal($"{mark} is not out.");
        var seen = doubt?.Trim() ?? string.Empty;
        var record = new PieceReturned(now.Holder, seen);
        return seen.Length == 0
            ? new PieceOutcome(state, record)
            : Cage.On(state, new NewHold(HoldCause.Doubt, $"At return from {now.Holder}: {seen}"), record);
    }
}
