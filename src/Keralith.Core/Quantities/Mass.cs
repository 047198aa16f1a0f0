namespace Keralith.Core.Quantities;

/// <summary>The units a mass, weight or rated load may be written in.</summary>
public enum MassUnit
{
    Kilogram,
    Gram,
    Tonne,
    Pound,
    ShortTon,
}

/// <summary>
/// A mass or rated load, held exactly in decimal kilograms (1 lb = 0.45359237 kg exactly), that remembers the unit it was
/// written in. Equal masses are equal whatever unit they were written in.
/// </summary>
public readonly struct Mass : IEquatable<Mass>, IComparable<Mass>
{
    /// <summary>Exactly 0.45359237.</summary>
    public const decimal KilogramsPerPound = 0.45359237m;

    private const decimal Most = 1_000_000_000m;

    /// <summary>Heavier than this nothing is lifted: a slip of the hand.</summary>
    internal static Mass Heaviest { get; } = new(Most, MassUnit.Kilogram);

    private Mass(decimal kilograms, MassUnit unit, int denominator = 1)
    {
        Kilograms = kilograms;
        Unit = unit;
        Denominator = (ushort)denominator;
    }

    /// <summary>The denominator of the fraction it was written as, where decimals do not hold it; else 0 or 1.</summary>
    internal ushort Denominator { get; }

    /// <summary>The mass in kilograms.</summary>
    public decimal Kilograms { get; }

    /// <summary>The mass in pounds.</summary>
    public decimal Pounds => Kilograms / KilogramsPerPound;

    /// <summary>The unit it was written in.</summary>
    public MassUnit Unit { get; }

    public static Mass FromKilograms(decimal kilograms) => new(kilograms, MassUnit.Kilogram);

    public static Mass FromPounds(decimal pounds) => new(pounds * KilogramsPerPound, MassUnit.Pound);

    /// <summary>The same mass as if written in another unit.</summary>
    public Mass In(MassUnit unit) => new(Kilograms, unit, unit == Unit ? Denominator : 1);

    /// <summary>
    /// Reads a mass such as <c>8000 lb</c>, <c>20 800 lb</c>, <c>3.5 t</c> (tonne), <c>2 short ton</c> (2000 lb each) or <c>1200 kg</c>.
    /// </summary>
    public static Checked<Mass> Read(string? text)
    {
        const string Example = "8800 lb or 3.5 t";
        var split = QuantityText.Split(text, Example, groups: true);
        if (!split.Ok)
            return new Refusal(split.Fault!);
        var figure = split.Value;
        var unit = figure.Unit;
        if (Scale(unit) is not { } known)
        {
            return new Refusal(
                unit.Length == 0 ? $"\"{text!.Trim()}\" has no unit; write {text.Trim()} lb or {text.Trim()} kg"
                : IsAmbiguousTon(unit)
                    ? $"\"{unit}\" may be 2000 lb or 1000 kg; write \"short ton\" (2000 lb) or \"t\" (1000 kg)"
                : $"\"{unit}\" is not a unit of mass; write lb, kg, t or short ton, such as {Example}"
            );
        }

        return Math.Abs(figure.Number) * known.PerUnit > Most
            ? new Refusal($"\"{text!.Trim()}\" is heavier than anything lifted; check the figure and its unit")
            : new Mass(figure.In(known.PerUnit), known.Unit, figure.Denominator);
    }

    /// <summary>Reads a mass.</summary>
    /// <exception cref="FormatException">The text is not a mass with its unit.</exception>
    public static Mass Parse(string text) => Read(text).Value;

    public static Mass operator *(Mass a, decimal factor) => new(a.Kilograms * factor, a.Unit);

    public static bool operator ==(Mass a, Mass b) => a.Equals(b);

    public static bool operator !=(Mass a, Mass b) => !a.Equals(b);

    public static bool operator <(Mass a, Mass b) => a.Kilograms < b.Kilograms;

    public static bool operator >(Mass a, Mass b) => a.Kilograms > b.Kilograms;

    public static bool operator <=(Mass a, Mass b) => a.Kilograms <= b.Kilograms;

    public static bool operator >=(Mass a, Mass b) => a.Kilograms >= b.Kilograms;

    public int CompareTo(Mass other) => Kilograms.CompareTo(other.Kilograms);

    public bool Equals(Mass other) => Kilograms == other.Kilograms;

    public override bool Equals(object? obj) => obj is Mass other && Equals(other);

    public override int GetHashCode() => Kilograms.GetHashCode();

    /// <summary>The exact mass in the unit it was written in.</summary>
    public override string ToString() => QuantityFormat.Exact(this);

    private static bool IsAmbiguousTon(string unit) =>
        unit is "T" || unit.ToLowerInvariant() is "ton" or "tons" or "tn";

    private static (decimal PerUnit, MassUnit Unit)? Scale(string unit) =>
        unit switch
        {
            "t" => (1000m, MassUnit.Tonne),
            "g" => (0.001m, MassUnit.Gram),
            _ => unit.ToLowerInvariant() switch
            {
                "kg" => (1m, MassUnit.Kilogram),
                "tonne" or "tonnes" => (1000m, MassUnit.Tonne),
                "lb" or "lbs" or "lb." => (KilogramsPerPound, MassUnit.Pound),
                "short ton" or "short tons" => (2000 * KilogramsPerPound, MassUnit.ShortTon),
                _ => null,
            },
        };
}
