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

    /// <summary>
    /// Reads an angle from the horizontal, also where a tag gives it otherwise: <c>30 deg from the vertical</c> and
    /// <c>60 deg included</c> are 60 deg.
    /// </summary>
    public static Checked<Angle> ReadHorizontal(string? text)
    {
        var plain = text?.Trim().ToLowerInvariant() ?? string.Empty;
        var from =
            plain.EndsWith("vertical", StringComparison.Ordinal) ? "vertical"
            : plain.EndsWith("included", StringComparison.Ordinal) ? "included"
            : plain.EndsWith("horizontal", StringComparison.Ordinal) ? "horizontal"
            : string.Empty;
        if (from.Length == 0)
            return Read(text);
        var bare = plain[..^from.Length].TrimEnd();
        foreach (var word in new[] { "the", "from", "off", "to" })
        {
            if (bare.EndsWith($" {word}", StringComparison.Ordinal))
                bare = bare[..^word.Length].TrimEnd();
        }

        var read = Read(bare);
        if (!read.Ok)
            return read;
        return from switch
        {
            "vertical" => new Angle(90 - read.Value.Degrees),
            "included" => new Angle(90 - (read.Value.Degrees / 2)),
            _ => read,
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
