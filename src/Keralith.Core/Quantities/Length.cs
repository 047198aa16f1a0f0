namespace Keralith.Core.Quantities;

/// <summary>The units a length may be written in.</summary>
public enum LengthUnit
{
    Millimetre,
    Centimetre,
    Metre,
    Inch,
    Foot,
}

/// <summary>
/// A length, held exactly in decimal millimetres (1 in = 25.4 mm exactly), that remembers the unit it was written in.
/// Two lengths are equal when they are equally long, whatever unit they were written in.
/// </summary>
public readonly struct Length : IEquatable<Length>, IComparable<Length>
{
    /// <summary>Exactly 25.4.</summary>
    public const decimal MillimetresPerInch = 25.4m;

    /// <summary>Lengths of gear and readings stay below a hundred kilometres; anything larger is a slip of the hand.</summary>
    private const decimal Most = 100_000_000m;

    private Length(decimal millimetres, LengthUnit unit, int denominator = 1)
    {
        Millimetres = millimetres;
        Unit = unit;
        Denominator = (ushort)denominator;
    }

    /// <summary>The denominator of the fraction it was written as, where decimals do not hold it; else 0 or 1.</summary>
    internal ushort Denominator { get; }

    /// <summary>The length in millimetres.</summary>
    public decimal Millimetres { get; }

    /// <summary>The length in inches.</summary>
    public decimal Inches => Millimetres / MillimetresPerInch;

    /// <summary>The unit it was written in.</summary>
    public LengthUnit Unit { get; }

    /// <summary>
    /// Whether it was written in inches or feet: such a size is <em>inch-named</em> and read in the inch column of a
    /// table.
    /// </summary>
    public bool IsInchNamed => Unit is LengthUnit.Inch or LengthUnit.Foot;

    public static Length FromMillimetres(decimal millimetres) => new(millimetres, LengthUnit.Millimetre);

    public static Length FromInches(decimal inches) => new(inches * MillimetresPerInch, LengthUnit.Inch);

    /// <summary>The same length as if written in another unit.</summary>
    public Length In(LengthUnit unit) => new(Millimetres, unit, unit == Unit ? Denominator : 1);

    /// <summary>Whether a text is a figure that only lacks its unit: <c>3/8</c>, <c>12.5</c>.</summary>
    public static bool WantsUnit(string? text) => QuantityText.Bare(text, "1/2").Ok;

    /// <summary>Reads a length such as <c>3/8 in</c>, <c>1 1/4"</c>, <c>5 ft 3 in</c> or <c>9.5 mm</c>.</summary>
    public static Checked<Length> Read(string? text)
    {
        const string Example = "3/8 in or 9.5 mm";
        var split = QuantityText.Split(text, Example);
        if (!split.Ok)
            return new Refusal(split.Fault!);
        var figure = split.Value;
        var unit = figure.Unit;
        var scale = Scale(unit);
        if (scale is null && FeetAndInches(figure) is { } both)
            return both;
        if (scale is not { } known)
        {
            return new Refusal(
                unit.Length == 0
                    ? $"\"{text!.Trim()}\" has no unit; write {text.Trim()} mm or {text.Trim()} in"
                    : $"\"{unit}\" is not a unit of length; write mm, cm, m, in or ft, such as {Example}"
            );
        }

        return Math.Abs(figure.Number) * known.PerUnit > Most
            ? new Refusal($"\"{text!.Trim()}\" is longer than anything measured here; check the figure and its unit")
            : new Length(figure.In(known.PerUnit), known.Unit, figure.Denominator);
    }

    /// <summary>Reads a length.</summary>
    /// <exception cref="FormatException">The text is not a length with its unit.</exception>
    public static Length Parse(string text) => Read(text).Value;

    public static Length operator +(Length a, Length b) => new(a.Millimetres + b.Millimetres, a.Unit);

    public static Length operator -(Length a, Length b) => new(a.Millimetres - b.Millimetres, a.Unit);

    public static Length operator *(Length a, decimal factor) => new(a.Millimetres * factor, a.Unit);

    public static bool operator ==(Length a, Length b) => a.Equals(b);

    public static bool operator !=(Length a, Length b) => !a.Equals(b);

    public static bool operator <(Length a, Length b) => a.Millimetres < b.Millimetres;

    public static bool operator >(Length a, Length b) => a.Millimetres > b.Millimetres;

    public static bool operator <=(Length a, Length b) => a.Millimetres <= b.Millimetres;

    public static bool operator >=(Length a, Length b) => a.Millimetres >= b.Millimetres;

    public int CompareTo(Length other) => Millimetres.CompareTo(other.Millimetres);

    public bool Equals(Length other) => Millimetres == other.Millimetres;

    public override bool Equals(object? obj) => obj is Length other && Equals(other);

    public override int GetHashCode() => Millimetres.GetHashCode();

    /// <summary>The exact length in the unit it was written in; inches as common fractions where they are.</summary>
    public override string ToString() => QuantityFormat.Exact(this);

    private static Length? FeetAndInches(WrittenFigure feet)
    {
        var rest = feet.Unit;
        var mark =
            rest.StartsWith("ft", StringComparison.OrdinalIgnoreCase) ? 2
            : rest.StartsWith('\'') ? 1
            : 0;
        if (mark == 0 || feet.Denominator != 1)
            return null;
        var split = QuantityText.Split(rest[mark..].TrimStart(' ', '-'), "3 in");
        if (!split.Ok || split.Value.Number is < 0 or >= 12 || Scale(split.Value.Unit) is not { Unit: LengthUnit.Inch })
            return null;
        var inches = split.Value;
        var over = inches.Numerator * (feet.Numerator < 0 ? -1 : 1);
        var all = inches with { Numerator = (feet.Numerator * 12 * inches.Denominator) + over };
        return new(all.In(MillimetresPerInch), LengthUnit.Inch, all.Denominator);
    }

    private static (decimal PerUnit, LengthUnit Unit)? Scale(string unit) =>
        unit switch
        {
            "m" => (1000m, LengthUnit.Metre),
            "\"" => (MillimetresPerInch, LengthUnit.Inch),
            "'" => (12 * MillimetresPerInch, LengthUnit.Foot),
            _ => unit.ToLowerInvariant() switch
            {
                "mm" => (1m, LengthUnit.Millimetre),
                "cm" => (10m, LengthUnit.Centimetre),
                "in" or "in." or "inch" or "inches" => (MillimetresPerInch, LengthUnit.Inch),
                "ft" or "ft." or "foot" or "feet" => (12 * MillimetresPerInch, LengthUnit.Foot),
                _ => null,
            },
        };
}
