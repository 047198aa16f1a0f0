namespace Keralith.Core.Quantities;

/// <summary>An angle in decimal degrees. Which angle (horizontal, vertical, included) is named where it is used.</summary>
/// <param name="Degrees">The angle in degrees.</param>
public readonly record struct Angle(decimal Degrees) : IComparable<Angle>
{
    /// <summary>Reads an angle such as <c>45 deg</c>.</summary>
    public static Checked<Angle> Read(string? text)
    {
        const string Example = "45 deg";
        var split = QuantityText.Split(text, Example);
        if (!split.Ok)
            return new Refusal(split.Fault!);
        var (number, unit) = split.Value;
        return unit.ToLowerInvariant() switch
        {
            "deg" or "degree" or "degrees" when Math.Abs(number) <= 360 => new Angle(number),
            "deg" or "degree" or "degrees" => new Refusal($"\"{text!.Trim()}\" is more than a full turn"),
            "" => new Refusal($"\"{text!.Trim()}\" has no unit; write {text.Trim()} deg"),
            _ => new Refusal($"\"{unit}\" is not a unit of angle; write degrees, such as {Example}"),
        };
    }

    public int CompareTo(Angle other) => Degrees.CompareTo(other.Degrees);

    public static bool operator <(Angle a, Angle b) => a.Degrees < b.Degrees;

    public static bool operator >(Angle a, Angle b) => a.Degrees > b.Degrees;

    public static bool operator <=(Angle a, Angle b) => a.Degrees <= b.Degrees;

    public static bool operator >=(Angle a, Angle b) => a.Degrees >= b.Degrees;

    /// <summary>The exact angle, such as <c>9.5 deg</c>.</summary>
    public override string ToString() => $"{QuantityText.Number(Degrees)} deg";
}
