using Keralith.Core.Quantities;

namespace Keralith.Core.Gear;

/// <summary>When a value has failed, seen from the limit.</summary>
public enum Comparator
{
    /// <summary>Fails above the limit; the limit itself passes.</summary>
    [Code(">")]
    Above,

    /// <summary>Fails at the limit and above.</summary>
    [Code(">=")]
    AtOrAbove,

    /// <summary>Fails below the limit; the limit itself passes.</summary>
    [Code("<")]
    Below,

    /// <summary>Fails at the limit and below.</summary>
    [Code("<=")]
    AtOrBelow,
}

/// <summary>What a rule needs to know to name its figure.</summary>
/// <param name="Gear">The piece.</param>
/// <param name="Baseline">The original, catalogue or nominal figure entered with the answer; null when there is none.</param>
public readonly record struct LimitContext(GearPiece Gear, Length? Baseline);

/// <summary>What a rule says of a piece: its figure, or why it has none.</summary>
public abstract record Resolved
{
    private protected Resolved() { }
}

/// <summary>A figure to compare with. Lengths in millimetres, angles in degrees, counts in pieces; exact.</summary>
/// <param name="Limit">The removal limit.</param>
/// <param name="Reference">The figure as new; null when it isn't known, as for a least thickness without a nominal.</param>
/// <param name="Comparator">When a value has failed.</param>
public sealed record Figure(decimal Limit, decimal? Reference, Comparator Comparator) : Resolved
{
    /// <summary>For a two-step rule: above this the piece is held; null for a one-step rule.</summary>
    public decimal? HoldAbove { get; init; }

    /// <summary>The allowance in the unit of the limit; null when the reference isn't known.</summary>
    public decimal? Allowance => Reference is { } reference ? Math.Abs(Limit - reference) : null;

    /// <summary>Whether a value has failed.</summary>
    public bool Fails(decimal value) =>
        Comparator switch
        {
            Comparator.Above => value > Limit,
            Comparator.AtOrAbove => value >= Limit,
            Comparator.Below => value < Limit,
            Comparator.AtOrBelow => value <= Limit,
        };

    /// <summary>Whether larger values are the worse ones.</summary>
    public bool Grows => Comparator is Comparator.Above or Comparator.AtOrAbove;
}

/// <summary>A figure that needs something nobody has stated: the finding is held.</summary>
/// <param name="What">What is missing, in words.</param>
public sealed record Missing(string What) : Resolved;

/// <summary>The rule's table has no row for this size: another book may have one.</summary>
/// <param name="What">The size without a row, in words.</param>
public sealed record NoRow(string What) : Resolved;

/// <summary>A figure that is held outside a range, and never removes: a roster, a torque.</summary>
/// <param name="Least">The least that passes.</param>
/// <param name="Most">The most that passes; null: no end.</param>
/// <param name="What">The range in words.</param>
public sealed record Within(decimal Least, decimal? Most, string What) : Resolved
{
    public bool Holds(decimal value) => value < Least || value > Most;

    /// <summary>Whether a value is nearer to an end of the range than its instrument can tell.</summary>
    /// <param name="uncertainty">0 and over; 0: not stated.</param>
    public bool IsTooClose(decimal value, decimal uncertainty) =>
        uncertainty > 0
        && (Math.Abs(value - Least) <= uncertainty || Math.Abs(value - (Most ?? decimal.MaxValue)) <= uncertainty);
}

/// <summary>How a limit is found. Each kind of rule knows its own arithmetic and nothing else.</summary>
public abstract record LimitRule
{
    private protected LimitRule() { }

    /// <summary>The rule in words, such as "5 % or 1/4 in of growth, whichever is less".</summary>
    public abstract string Words { get; }

    /// <summary>The figure for a piece.</summary>
    public abstract Resolved Resolve(LimitContext context);

    /// <summary>Whether it holds against what is on record of the piece, which takes no limit of a maker or a site beside it.</summary>
    public virtual bool IsOnRecord => false;

    private protected static Missing NoBaseline { get; } = new("the figure when new (baseline)");

    private protected static string Percent(decimal share) => $"{QuantityFormat.Number(share * 100)} %";
}

/// <summary>May grow by a share of the baseline, or by a fixed amount where that is less.</summary>
/// <param name="Share">The share of the baseline, such as 0.05; 0: no growth at all.</param>
/// <param name="Comparator"><see cref="Comparator.Above"/> or <see cref="Comparator.AtOrAbove"/>.</param>
public sealed record GrowthLimit(decimal Share, Comparator Comparator) : LimitRule
{
    /// <summary>The most it may grow when the baseline is inch-named.</summary>
    public Length? MostInch { get; init; }

    /// <summary>The most it may grow when the baseline is mm-named.</summary>
    public Length? MostMetric { get; init; }

    public override string Words
    {
        get
        {
            var share = Share == 0 ? "any growth" : $"{Percent(Share)} of growth";
            var cap = MostInch is { } inch ? $", or {inch} ({MostMetric}) where that is less," : string.Empty;
            return $"{share}{cap}{(Comparator == Comparator.AtOrAbove ? " removes" : Share == 0 ? " removes" : " is the most allowed")}";
        }
    }

    public override Resolved Resolve(LimitContext context)
    {
        if (context.Baseline is not { } baseline)
            return NoBaseline;
        var growth = baseline.Millimetres * Share;
        var most = baseline.IsInchNamed ? MostInch : MostMetric;
        if (most is { } cap && cap.Millimetres < growth)
            growth = cap.Millimetres;
        return new Figure(baseline.Millimetres + growth, baseline.Millimetres, Comparator);
    }
}

/// <summary>May lose a share of the baseline.</summary>
/// <param name="Parts">Numerator of the share.</param>
/// <param name="Of">Denominator of the share: a third is 1 of 3, exactly.</param>
/// <param name="Comparator"><see cref="Comparator.Below"/> where the share itself may be lost, <see
/// cref="Comparator.AtOrBelow"/> where it may not.</param>
public sealed record LossLimit(int Parts, int Of, Comparator Comparator) : LimitRule
{
    public override string Words =>
        $"loss of {Share} {(Comparator == Comparator.AtOrBelow ? "removes" : "is the most allowed")}";

    private string Share => 100 % Of == 0 ? $"{Parts * 100 / Of} %" : $"{Parts}/{Of} of it";

    public override Resolved Resolve(LimitContext context) =>
        context.Baseline is { } baseline
            ? new Figure(baseline.Millimetres * (Of - Parts) / Of, baseline.Millimetres, Comparator)
            : NoBaseline;
}

/// <summary>Growth in two steps: held beyond the first, removed beyond the second.</summary>
/// <param name="HoldShare">Growth beyond which the piece is held.</param>
/// <param name="RemoveShare">Growth beyond which it is removed.</param>
public sealed record TwoStepGrowth(decimal HoldShare, decimal RemoveShare) : LimitRule
{
    public override string Words => $"more than {Percent(HoldShare)} holds, more than {Percent(RemoveShare)} removes";

    public override Resolved Resolve(LimitContext context) =>
        context.Baseline is { } baseline
            ? new Figure(baseline.Millimetres * (1 + RemoveShare), baseline.Millimetres, Comparator.Above)
            {
                HoldAbove = baseline.Millimetres * (1 + HoldShare),
            }
            : NoBaseline;
}

/// <summary>An angle that may not be exceeded.</summary>
/// <param name="Degrees">The largest angle that passes.</param>
public sealed record AngleLimit(decimal Degrees) : LimitRule
{
    public override string Words => $"more than {QuantityFormat.Number(Degrees)} degrees removes";

    public override Resolved Resolve(LimitContext context) => new Figure(Degrees, 0, Comparator.Above);
}
