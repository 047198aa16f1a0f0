using Keralith.Core.Ledger;
using Keralith.Core.People;

namespace Keralith.Core.Custody;

/// <summary>What somebody who was there says of a piece that failed.</summary>
/// <param name="Who">Who says it.</param>
/// <param name="On">The day it is told.</param>
/// <param name="Words">In their own words.</param>
/// <param name="At">When it was written down.</param>
/// <param name="By">By whom.</param>
public sealed record WitnessWords(string Who, DateOnly On, string Words, DateTimeOffset At, string By);

/// <summary>Takes down what witnesses say, for the incident file.</summary>
public static class Witness
{
    /// <summary>Most letters of a witness's words.</summary>
    public const int MostWords = 4000;

    /// <summary>Takes down a witness's words; they change nothing about the piece.</summary>
    /// <param name="state">The piece's.</param>
    /// <param name="who">Who says it.</param>
    /// <param name="on">The day it was said; null: not stated.</param>
    /// <param name="words">In their own words.</param>
    /// <param name="by">Who writes it down.</param>
    public static Checked<PieceOutcome> Take(PieceState state, string? who, DateOnly? on, string? words, Signer by)
    {
        if (by.Without(Right.LockEvidence) is { } forbidden)
            return forbidden;
        if (string.IsNullOrWhiteSpace(who))
            return new Refusal("Name who says it.");
        if (on is not { } day)
            return new Refusal("State the day it was said.");
        if (day > by.Day)
            return new Refusal($"It can't have been said on {day:yyyy-MM-dd}: that day is still to come.");
        if (string.IsNullOrWhiteSpace(words))
            return new Refusal("Write what was said, in the witness's own words.");
        if (FreeText.RefusalOf("The witness's words", words, MostWords) is { } refusal)
            return refusal;
        return new PieceOutcome(state, new WitnessTaken(who.Trim(), day, words.Trim()));
    }
}
