using Keralith.Core.Quantities;

namespace Keralith.Core.Lifts;

/// <summary>Collects what bears on one piece: what it may carry, what is taken off, and the remarks.</summary>
internal sealed class PieceJudgement(string kind, decimal? demand)
{
    /// <summary>A share used within this of a limit counts as at it.</summary>
    public const decimal Tolerance = 1e-9m;

    /// <summary>Over this share a piece wants watching: a site default.</summary>
    public const decimal CautionShare = 0.8m;

    private readonly List<Reduction> _reductions = [];
    private readonly List<Remark> _remarks = [];
    private bool _forbidden;

    /// <summary>What it may carry so far, in kilograms; null where its rated load is not known.</summary>
    public decimal? Allowed { get; private set; }

    /// <summary>Begins from the rated load as marked.</summary>
    public void Rated(Mass? marked, string? why = null)
    {
        Allowed = marked?.Kilograms;
        if (marked is null)
            Note(LiftOutcome.Ask, why ?? "its rated load is not known: no rated load, no use");
    }

    public void Note(LiftOutcome outcome, string words) => _remarks.Add(new(outcome, words));

    /// <summary>Not so, whatever its rating: no load is allowed.</summary>
    public void Forbid(string words)
    {
        Note(LiftOutcome.NotPermitted, words);
        _forbidden = true;
    }

    /// <summary>Multiplies what is allowed; 1 leaves no trace.</summary>
    public void Reduce(string what, decimal factor)
    {
        if (factor == 1)
            return;
        _reductions.Add(new(what, factor));
        Allowed *= factor;
    }

    /// <summary>Brings what is allowed to a figure.</summary>
    public void Bring(string what, decimal to)
    {
        if (Allowed is not { } from || from == to)
            return;
        _reductions.Add(new(what, Figures.Ratio(to, from)));
        Allowed = to;
    }

    public PieceOnLift Done()
    {
        var allowed = _forbidden ? null : Allowed;
        decimal? used = allowed is { } may && demand is { } asked ? Figures.Ratio(asked, may) : null;
        var outcome =
            used > 1 + Tolerance ? LiftOutcome.Overloaded
            : used > CautionShare + Tolerance ? LiftOutcome.Caution
            : LiftOutcome.Ok;
        foreach (var remark in _remarks)
        {
            if (remark.Outcome > outcome)
                outcome = remark.Outcome;
        }

        return new()
        {
            Kind = kind,
            Demand = demand,
            Allowed = allowed,
            Utilisation = used,
            Reductions = _reductions,
            Outcome = outcome,
            Remarks = _remarks,
        };
    }
}

/// <summary>Decimal arithmetic that stays inside its range.</summary>
internal static class Figures
{
    /// <summary>Beyond any figure of the trade, and small enough to be multiplied on.</summary>
    private const decimal Most = 1e15m;

    /// <summary>A figure from statics.</summary>
    public static decimal Of(double figure) =>
        double.IsNaN(figure) || Math.Abs(figure) >= (double)Most ? Most : (decimal)figure;

    /// <summary>One over another, held to what can be written.</summary>
    /// <param name="over">0 and over.</param>
    /// <param name="under">Over 0.</param>
    public static decimal Ratio(decimal over, decimal under)
    {
        if (under <= 0 || (double)over / (double)under >= (double)Most)
            return Most;
        return over / under;
    }
}
