namespace Keralith.Core.Quantities;

/// <summary>The two scales tables of the trade are written in.</summary>
public enum TemperatureScale
{
    Celsius,
    Fahrenheit,
}

/// <summary>
/// A temperature on the scale it was written on. Tables have a column for each scale and the figure is held against its own,
/// so two temperatures are equal only on the same scale.
/// </summary>
/// <param name="Degrees">Degrees on <paramref name="Scale"/>.</param>
/// <param name="Scale">The scale it was written on.</param>
public readonly record struct Temperature(decimal Degrees, TemperatureScale Scale)
{
    /// <summary>The degrees on the Celsius scale.</summary>
    public decimal Celsius => Scale == TemperatureScale.Celsius ? Degrees : (Degrees - 32) * 5 / 9;

    /// <summary>Reads a temperature such as <c>400 F</c> or <c>-40 C</c>.</summary>
    public static Checked<Temperature> Read(string? text)
    {
        const string Example = "400 F or -40 C";
        var split = QuantityText.Split(text, Example);
        if (!split.Ok)
            return new Refusal(split.Fault!);
        var (number, unit) = split.Value;
        TemperatureScale? scale = unit.Replace("deg", string.Empty, StringComparison.Ordinal).Trim() switch
        {
            "C" => TemperatureScale.Celsius,
            "F" => TemperatureScale.Fahrenheit,
            _ => null,
        };
        if (scale is not { } known)
        {
            return new Refusal(
                unit.Length == 0
                    ? $"\"{text!.Trim()}\" has no unit; write {text.Trim()} F or {text.Trim()} C"
                    : $"\"{unit}\" is not a temperature scale; write F or C, such as {Example}"
            );
        }

        var coldest = known == TemperatureScale.Celsius ? -273.15m : -459.67m;
        return number < coldest || number > 10_000
            ? new Refusal($"\"{text!.Trim()}\" is not a temperature gear can have; check the figure and its scale")
            : new Temperature(number, known);
    }

    /// <summary>The exact temperature, such as <c>400 F</c>.</summary>
    public override string ToString() =>
        $"{QuantityText.Number(Degrees)} {(Scale == TemperatureScale.Celsius ? "C" : "F")}";
}
