using Keralith.Core.Gear;
using Keralith.Core.Quantities;

namespace Keralith.Core.Judgement;

/// <summary>Why a figure came to its outcome against one limit.</summary>
internal enum Weighed
{
    Within,
    Failed,
    CheckTheUnit,
    BetterThanNew,
    BetterThanLast,
    NewContradicted,
    TooClose,
    OverTheStep,
    TooCloseToTheStep,
    MostlyUsed,
    Provisional,
}

/// <summary>Says why a reading came to its outcome, in the unit it was written in.</summary>
internal sealed class LimitWords(Reading reading)
{
    private Said? _last;

    private string Value => Figure(reading.Value);

    private string Uncertainty => Figure(reading.Uncertainty);

    /// <summary>A figure in words; the last is kept, for a verdict names its limit twice.</summary>
    public string Figure(decimal figure)
    {
        if (_last is { } last && last.Figure == figure)
            return last.Words;
        var words = reading.Words(figure);
        _last = new(figure, words);
        return words;
    }

    public string For(BookFinding finding)
    {
        var figure = finding.Figure!;
        var limit = Figure(figure.Limit);
        var used = finding.Consumed is { } share ? $" {Used(share)}" : string.Empty;
        return finding.Weighed switch
        {
            Weighed.Failed => $"{Value} {Relation(figure)} the limit of {limit}.{used}",
            Weighed.CheckTheUnit =>
                $"{Value} against {Figure(figure.Reference!.Value)} when new: check the unit. Held until the figure is certain.",
            Weighed.BetterThanNew =>
                $"{Value} is better than {Figure(figure.Reference!.Value)} when new. It does not heal: measured elsewhere, another piece, or mended? Held until a second reading, by another instrument or another person, tells.",
            Weighed.BetterThanLast =>
                $"{Value} is better than the {Figure(reading.Last!.Value.Millimetres)} read on {reading.Last.Day:yyyy-MM-dd}. It does not heal: measured elsewhere, another piece, or mended? Held until a second reading, by another instrument or another person, tells.",
            Weighed.NewContradicted =>
                $"It can't have been {Figure(figure.Reference!.Value)} when new: {Figure(reading.Last!.Value.Millimetres)} was read on {reading.Last.Day:yyyy-MM-dd}, and it does not heal. Held: correct the figure when new, or record that the part was replaced.",
            Weighed.TooClose =>
                $"{Value} lies within {Uncertainty} of the limit of {limit}: too close to call. Measure again with a better instrument, or treat as removed.",
            Weighed.OverTheStep =>
                $"{Value} is over {Figure(figure.HoldAbove!.Value)}, more than measuring noise; {limit} removes.{used}",
            Weighed.TooCloseToTheStep =>
                $"{Value} lies within {Uncertainty} of {Figure(figure.HoldAbove!.Value)}: too close to call. Measure again with a better instrument.",
            Weighed.MostlyUsed => $"Still within the limit of {limit}.{used}",
            Weighed.Provisional =>
                $"Within the limit of {limit}, but the figure when new is provisional: change before it was taken is unknown.",
            Weighed.Within => $"Within the limit of {limit}.{used}",
        };
    }

    private sealed record Said(decimal Figure, string Words);

    private string Relation(Figure figure) =>
        reading.Value == figure.Limit ? "is at"
        : figure.Grows ? "is over"
        : "is under";

    private static string Used(decimal share) =>
        share == 0
            ? "Nothing of the allowance is used."
            : $"Used up {QuantityFormat.Number(Math.Floor(share * 100))} % of what the rule allows.";
}
