using Keralith.Core.Criteria;
using Keralith.Core.Quantities;

namespace Keralith.Core.Judgement;

/// <summary>Measures and counts against the limits of every book, the site and the maker.</summary>
internal static class LimitJudgement
{
    public static Finding Of(Case @case, Answer answer, Reading reading, decimal watchShare)
    {
        var limits = LimitSet.For(@case, answer.Criterion, reading.Baseline);
        var books = new List<BookFinding>(limits.Entries.Count);
        foreach (var entry in limits.Entries)
        {
            books.Add(entry.Resolved switch
            {
                Figure figure => Compare(entry, figure, answer.Criterion, reading, watchShare),
                Missing missing => new(entry.Book, Outcome.Hold, null, null, $"Can't be judged: {missing.What} is missing. Held until it is known.") { From = entry.From },
                NoRow noRow when limits.OnlyMissingRows => new(entry.Book, Outcome.Hold, null, null, $"Can't be judged: {noRow.What}. Held until a qualified person decides.") { From = entry.From },
                NoRow noRow => new(entry.Book, null, null, null, $"{Sentence(noRow.What)}.") { From = entry.From },
                _ => throw new InvalidOperationException($"No such resolution: {entry.Resolved}."),
            });
        }

        var governing = Judge.Governing(books);
        return new(answer.Criterion, answer.Part, governing, books, governing.Reason)
        {
            LimitText = governing.Figure is { } limit ? reading.Words(limit.Limit) : null,
        };
    }

    private static BookFinding Compare(LimitEntry entry, Figure figure, Criterion criterion, Reading reading, decimal watchShare)
    {
        var consumed = Consumed(figure, reading.Value);
        var (outcome, reason) = Weigh(figure, criterion, reading, consumed, watchShare);
        return new(entry.Book, outcome, figure, consumed, reason) { From = entry.From };
    }

    private static (Outcome Outcome, string Reason) Weigh(Figure figure, Criterion criterion, Reading reading, decimal? consumed, decimal watchShare)
    {
        var value = reading.Value;
        var limit = reading.Words(figure.Limit);
        var used = consumed is { } share ? $" {Used(share)}" : string.Empty;
        if (figure.Fails(value)) return (Outcome.Remove, $"{reading.Words(value)} {Relation(figure, value)} the limit of {limit}.{used}");
        if (!reading.IsAngle && criterion.Kind == CriterionKind.Measure && !criterion.IsPair && figure.Reference is { } reference && (value * 2 < reference || value > reference * 2))
        {
            return (Outcome.Hold, $"{reading.Words(value)} against {reading.Words(reference)} when new: check the unit. Held until the figure is certain.");
        }

        var u = reading.Uncertainty;
        if (u > 0 && Math.Abs(figure.Limit - value) <= u)
        {
            return (Outcome.Hold, $"{reading.Words(value)} lies within {reading.Words(u)} of the limit of {limit}: too close to call. Measure again with a better instrument, or treat as removed.");
        }

        if (figure.HoldAbove is { } step)
        {
            if (value > step) return (Outcome.Hold, $"{reading.Words(value)} is over {reading.Words(step)}, more than measuring noise; {limit} removes.{used}");
            if (u > 0 && step - value <= u) return (Outcome.Hold, $"{reading.Words(value)} lies within {reading.Words(u)} of {reading.Words(step)}: too close to call. Measure again with a better instrument.");
        }
        else if (consumed >= watchShare)
        {
            return (Outcome.Watch, $"Still within the limit of {limit}.{used}");
        }

        return reading.Provisional
            ? (Outcome.Watch, $"Within the limit of {limit}, but the figure when new is provisional: change before it was taken is unknown.")
            : (Outcome.Clear, $"Within the limit of {limit}.{used}");
    }

    /// <summary>0 as new, 1 at the limit; 0 for a change the harmless way; null where nothing is allowed or the figure when new isn't known.</summary>
    private static decimal? Consumed(Figure figure, decimal value)
    {
        if (figure.Reference is not { } reference || figure.Limit == reference) return null;
        var change = figure.Grows ? value - reference : reference - value;
        return change <= 0 ? 0 : change / Math.Abs(figure.Limit - reference);
    }

    private static string Used(decimal share) => share == 0 ? "Nothing of the allowance is used." : $"Used up {QuantityFormat.Number(Math.Floor(share * 100))} % of what the rule allows.";

    private static string Relation(Figure figure, decimal value) => value == figure.Limit ? "is at" : figure.Grows ? "is over" : "is under";

    private static string Sentence(string words) => char.ToUpperInvariant(words[0]) + words[1..];
}
