using Keralith.Core.Quantities;

namespace Keralith.Core.Judgement;

/// <summary>What was read last at the same place, on record.</summary>
/// <param name="Value">The worst reading of that record.</param>
/// <param name="Uncertainty">Of its instrument, 0 and over.</param>
/// <param name="Day">When it was read.</param>
public sealed record LastReading(Length Value, Length Uncertainty, DateOnly Day)
{
    /// <summary>By how large a share of it a later reading may be better: what a rule and a caliper differ by.</summary>
    public const decimal MostBetter = 0.02m;

    /// <summary>Whether it was better than a figure when new says the part ever was, by more than a share and its uncertainty.</summary>
    /// <param name="whenNew">The figure when new, in millimetres.</param>
    /// <param name="share">By how large a share of it a reading may be better.</param>
    /// <param name="grows">Whether larger is worse.</param>
    public bool Contradicts(decimal whenNew, decimal share, bool grows) =>
        (grows ? whenNew - Value.Millimetres : Value.Millimetres - whenNew)
        > (whenNew * share) + Uncertainty.Millimetres;

    /// <summary>Whether a later reading is better than it by more than both uncertainties and more than its share.</summary>
    /// <param name="value">The later reading, in millimetres.</param>
    /// <param name="uncertainty">Of its instrument, in millimetres.</param>
    /// <param name="grows">Whether larger is worse.</param>
    public bool IsBeaten(decimal value, decimal uncertainty, bool grows)
    {
        var better = grows ? Value.Millimetres - value : value - Value.Millimetres;
        return better > Math.Max(uncertainty + Uncertainty.Millimetres, Value.Millimetres * MostBetter);
    }
}
