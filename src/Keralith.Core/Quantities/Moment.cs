namespace Keralith.Core.Quantities;

/// <summary>The units a bolt's torque may be written in.</summary>
public enum MomentUnit
{
    NewtonMetre,
    PoundFoot,
    PoundInch,
}

/// <summary>A moment, held exactly in decimal newton metres (1 ft lbf = 1.3558179483314004 N m exactly).</summary>
public readonly record struct Moment
{
    internal const decimal NewtonMetresPerPoundFoot = 1.3558179483314004m;

    private const decimal Most = 1_000_000_000m;

    private Moment(decimal newtonMetres, MomentUnit unit, int denominator)
    {
        NewtonMetres = newtonMetres;
        Unit = unit;
        Denominator = (ushort)denominator;
    }

    /// <summary>The denominator of the fraction it was written as, where decimals do not hold it; else 0 or 1.</summary>
    internal ushort Denominator { get; }

    /// <summary>The moment in newton metres.</summary>
    public decimal NewtonMetres { get; }

    /// <summary>The unit it was written in.</summary>
    public MomentUnit Unit { get; }

    public bool Equals(Moment other) => NewtonMetres == other.NewtonMetres;

    public override int GetHashCode() => NewtonMetres.GetHashCode();

    /// <summary>Reads a moment such as <c>135 N m</c>, <c>100 ft lbf</c> or <c>1200 in lbf</c>.</summary>
    public static Checked<Moment> Read(string? text)
    {
        const string Example = "135 N m or 100 ft lbf";
        var split = QuantityText.Split(text, Example);
        if (!split.Ok)
            return new Refusal(split.Fault!);
        var figure = split.Value;
        if (Math.Abs(figure.Number) > Most)
            return new Refusal($"\"{text!.Trim()}\" is more than any bolt takes; check the figure and its unit");
        return string.Concat(figure.Unit.Where(c => c is not (' ' or '-' or '.' or '*'))) switch
        {
            "Nm" => new Moment(figure.In(1), MomentUnit.NewtonMetre, figure.Denominator),
            "ftlbf" or "lbfft" or "ftlb" or "lbft" => new Moment(
                figure.In(NewtonMetresPerPoundFoot),
                MomentUnit.PoundFoot,
                figure.Denominator
            ),
            "inlbf" or "lbfin" or "inlb" or "lbin" => new Moment(
                figure.In(NewtonMetresPerPoundFoot / 12),
                MomentUnit.PoundInch,
                figure.Denominator
            ),
            "" => new Refusal($"\"{text!.Trim()}\" has no unit; write {text.Trim()} N m or {text.Trim()} ft lbf"),
            _ => new Refusal(
                $"\"{figure.Unit}\" is not a unit of torque; write N m, ft lbf or in lbf, such as {Example}"
            ),
        };
    }

    /// <summary>The exact moment in the unit it was written in.</summary>
    public override string ToString() => QuantityFormat.Exact(this);
}
