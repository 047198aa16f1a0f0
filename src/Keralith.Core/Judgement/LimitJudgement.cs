using Keralith.Core.Gear;

namespace Keralith.Core.Judgement;

/// <summary>Measures and counts against the limits of every book, the site and the maker.</summary>
internal static class LimitJudgement
{
    public static Finding Of(Case @case, Answer answer, in Reading reading, decimal watchShare)
    {
        var limits = LimitSet.For(@case, answer.Criterion, reading.Baseline);
        var onlyMissingRows = limits.OnlyMissingRows;
        var words = new LimitWords(reading);
        var books = new BookFinding[limits.Entries.Count];
        for (var i = 0; i < books.Length; i++)
        {
            var entry = limits.Entries[i];
            books[i] = entry.Resolved switch
            {
                Figure figure => Compare(entry, figure, answer.Criterion, reading, watchShare, words),
                Within range => Ranged(entry, range, reading),
                Missing missing => Held(entry, $"Can't be judged: {missing.What} is missing. Held until it is known."),
                NoRow noRow when onlyMissingRows => Held(
                    entry,
                    $"Can't be judged: {noRow.What}. Held until a qualified person decides."
                ),
                NoRow noRow => new(entry.Book, null) { From = entry.From, Said = $"{Sentence(noRow.What)}." },
                _ => throw new System.Diagnostics.UnreachableException(),
            };
        }

        return new(answer.Criterion, answer.Part, Judge.Governing(books), books);
    }

    private static BookFinding Held(LimitEntry entry, string reason) =>
        new(entry.Book, Outcome.Hold) { From = entry.From, Said = reason };

    private static BookFinding Ranged(LimitEntry entry, Within range, in Reading reading) =>
        range.Holds(reading.Value)
            ? Held(entry, $"{reading.Words(reading.Value)} against {range.What}: held until it is put right.")
        : range.IsTooClose(reading.Value, reading.Uncertainty)
            ? Held(
                entry,
                $"{reading.Words(reading.Value)} lies within {reading.Words(reading.Uncertainty)} of the end of {range.What}: too close to call."
            )
        : new(entry.Book, Outcome.Clear)
        {
            From = entry.From,
            Said = $"{reading.Words(reading.Value)} agrees with {range.What}.",
        };

    private static BookFinding Compare(
        LimitEntry entry,
        Figure figure,
        Criterion criterion,
        in Reading reading,
        decimal watchShare,
        LimitWords words
    )
    {
        var consumed = Consumed(figure, reading.Value);
        var weighed = Weigh(figure, criterion, reading, consumed, watchShare);
        return new(entry.Book, OutcomeOf(weighed))
        {
            Figure = figure,
            Consumed = consumed,
            From = entry.From,
            Weighed = weighed,
            Words = words,
        };
    }

    private static Weighed Weigh(
        Figure figure,
        Criterion criterion,
        in Reading reading,
        decimal? consumed,
        decimal watchShare
    )
    {
        var value = reading.Value;
        if (figure.Fails(value))
            return Weighed.Failed;
        if (
            !reading.IsAngle
            && criterion.Kind == CriterionKind.Measure
            && !criterion.IsPair
            && figure.Reference is { } reference
            && (value * 2 < reference || value > reference * 2)
        )
            return Weighed.CheckTheUnit;
        var u = reading.Uncertainty;
        if (
            criterion.IsLength
            && figure.Reference is { } whenNew
            && (figure.Grows ? whenNew - value : value - whenNew) > (whenNew * criterion.MostBetterThanNew) + u
        )
            return Weighed.BetterThanNew;
        if (
            criterion.IsLength
            && reading.Last is { } before
            && figure.Reference is { } begun
            && before.Contradicts(begun, criterion.MostBetterThanNew, figure.Grows)
        )
            return Weighed.NewContradicted;
        if (criterion.IsLength && reading.Last?.IsBeaten(value, u, figure.Grows) == true)
            return Weighed.BetterThanLast;
        if (u > 0 && Math.Abs(figure.Limit - value) <= u)
            return Weighed.TooClose;
        if (figure.HoldAbove is { } step)
        {
            if (value > step)
                return Weighed.OverTheStep;
            if (u > 0 && step - value <= u)
                return Weighed.TooCloseToTheStep;
        }
        else if (consumed >= watchShare)
        {
            return Weighed.MostlyUsed;
        }

        return reading.Provisional ? Weighed.Provisional : Weighed.Within;
    }

    private static Outcome OutcomeOf(Weighed weighed) =>
        weighed switch
        {
            Weighed.Failed => Outcome.Remove,
            Weighed.CheckTheUnit
            or Weighed.BetterThanNew
            or Weighed.BetterThanLast
            or Weighed.NewContradicted
            or Weighed.TooClose
            or Weighed.OverTheStep
            or Weighed.TooCloseToTheStep => Outcome.Hold,
            Weighed.MostlyUsed or Weighed.Provisional => Outcome.Watch,
            Weighed.Within => Outcome.Clear,
        };

    /// <summary>
    /// 0 as new, 1 at the limit; 0 for a change the harmless way; null where nothing is allowed or the figure when new
    /// isn't known.
    /// </summary>
    private static decimal? Consumed(Figure figure, decimal value)
    {
        if (figure.Reference is not { } reference || figure.Limit == reference)
            return null;
        var change = figure.Grows ? value - reference : reference - value;
        return change <= 0 ? 0 : change / Math.Abs(figure.Limit - reference);
    }

    private static string Sentence(string words) => char.ToUpperInvariant(words[0]) + words[1..];
}
