namespace Keralith.Core.Custody;

/// <summary>Whether the answers of a draft still speak for the piece as it is when the inspection is signed.</summary>
public static class Freshness
{
    /// <summary>Days an answer may lie in a draft before it has to be given again.</summary>
    public const int MostDays = 14;

    /// <summary>Why the answers can't be signed as a clean inspection; null when they can.</summary>
    /// <param name="answered">When each answer was given, and where that stands among the facts.</param>
    /// <param name="held">Where the newest open hold was put on or a new tag fitted since; null: the piece is not on
    /// hold.</param>
    /// <param name="now">When it is signed.</param>
    public static string? Refusal(
        IReadOnlyCollection<(DateTimeOffset At, FactOrder Order)> answered,
        FactOrder? held,
        DateTimeOffset now
    )
    {
        if (answered.Count == 0)
            return null;
        var oldest = answered.Min(a => a.At);
        if (held is { } since && answered.Any(a => a.Order < since))
            return "Some answers were given before the piece was put on hold or re-tagged: they say nothing of it since. Throw the draft away and look at all of it again.";
        return oldest < now.AddDays(-MostDays)
            ? $"Some answers are older than {MostDays} days. Throw the draft away and look at all of it again."
            : null;
    }
}
