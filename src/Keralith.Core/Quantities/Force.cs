namespace Keralith.Core.Quantities;

/// <summary>The units a hand pull or line pull may be written in.</summary>
public enum ForceUnit
{
    Newton,
    Kilonewton,
    PoundForce,
}

/// <summary>A force, held exactly in decimal newtons (1 lbf = 4.4482216152605 N exactly).</summary>
public readonly record struct Force
{
    internal const decimal NewtonsPerPoundForce = 4.4482216152605m;

    private const decimal Most = 1_000_000_000m;

    private Force(decimal newtons, ForceUnit unit, int denominator)
    {
        Newtons = newtons;
        Unit = unit;
        Denominator = (ushort)denominator;
    }

    /// <summary>The denominator of the fraction it was written as, where decimals do not hold it; else 0 or 1.</summary>
    internal ushort Denominator { get; }

    /// <summary>The force in newtons.</summary>
    public decimal Newtons { get; }

    /// <summary>The unit it was written in.</summary>
    public ForceUnit Unit { get; }

    public bool Equals(Force other) => Newtons == other.Newtons;

    public override int GetHashCode() => Newtons.GetHashCode();

    /// <summary>Reads a force such as <c>260 N</c>, <c>1.2 kN</c> or <c>58 lbf</c>.</summary>
    public static Checked<Force> Read(string? text)
    {
        const string Example = "260 N or 58 lbf";
        var split = QuantityText.Split(text, Example);
        if (!split.Ok)
            return new Refusal(split.Fault!);
        var figure = split.Value;
        var unit = figure.Unit;
        if (Math.Abs(figure.Number) > Most)
            return new Refusal($"\"{text!.Trim()}\" is more than anything pulls; check the figure and its unit");
        return unit switch
        {
            "N" => new Force(figure.In(1), ForceUnit.Newton, figure.Denominator),
            "kN" => new Force(figure.In(1000), ForceUnit.Kilonewton, figure.Denominator),
            "lbf" => new Force(figure.In(NewtonsPerPoundForce), ForceUnit.PoundForce, figure.Denominator),
            _ => new Refusal(
                unit.Length == 0
                    ? $"\"{text!.Trim()}\" has no unit; write {text.Trim()} N or {text.Trim()} lbf"
                    : $"\"{unit}\" is not a unit of force; write N, kN or lbf, such as {Example}"
            ),
        };
    }

    /// <summary>The exact force in the unit it was written in.</summary>
    public override string ToString() => QuantityFormat.Exact(this);
}
