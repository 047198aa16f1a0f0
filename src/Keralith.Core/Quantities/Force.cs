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
    private const decimal NewtonsPerPoundForce = 4.4482216152605m;

    private Force(decimal newtons, ForceUnit unit)
    {
        Newtons = newtons;
        Unit = unit;
    }

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
        var (number, unit) = split.Value;
        return unit switch
        {
            "N" => new Force(number, ForceUnit.Newton),
            "kN" => new Force(number * 1000, ForceUnit.Kilonewton),
            "lbf" => new Force(number * NewtonsPerPoundForce, ForceUnit.PoundForce),
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
