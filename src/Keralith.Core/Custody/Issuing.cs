namespace Keralith.Core.Custody;

/// <summary>Handing gear out: only what may be used, to a named person, once.</summary>
public static class Issuing
{
    private const int LongestName = 80;

    /// <summary>Why a piece can't be handed out; null when it can.</summary>
    /// <param name="use">May it be used.</param>
    /// <param name="with">Who has it; null: it is in store.</param>
    /// <param name="holder">Who is to have it.</param>
    /// <param name="back">When it is wanted back; null: nobody said.</param>
    /// <param name="today">The day.</param>
    public static string? RefusalOf(Usability use, string? with, string holder, DateOnly? back, DateOnly today) =>
        !use.MayBeUsed ? $"it may not be used. {string.Join(" ", use.Reasons)}"
        : with is not null ? $"it is out with {with}."
        : holder.Trim().Length is 0 or > LongestName ? $"name who takes it, in at most {LongestName} letters."
        : back < today ? "the day it is wanted back is past."
        : null;
}
