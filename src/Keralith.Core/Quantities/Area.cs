namespace Keralith.Core.Quantities;

/// <summary>An area, held exactly in decimal square millimetres.</summary>
/// <param name="SquareMillimetres">The area.</param>
public readonly record struct Area(decimal SquareMillimetres)
{
    /// <summary>Reads an area such as <c>0.12 m2</c>, <c>40 cm2</c> or <c>6 in2</c>.</summary>
    public static Checked<Area> Read(string? text)
    {
        const string Example = "0.12 m2 or 18 in2";
        var split = QuantityText.Split(text, Example);
        if (!split.Ok)
            return new Refusal(split.Fault!);
        var (number, unit) = split.Value;
        decimal? scale = unit.ToLowerInvariant() switch
        {
            "mm2" => 1,
            "cm2" => 100,
            "m2" => 1_000_000,
            "in2" or "sq in" => 645.16m,
            "ft2" or "sq ft" => 92_903.04m,
            _ => null,
        };
        return scale is { } known && number <= 1_000_000
            ? new Area(number * known)
            : new Refusal($"\"{text!.Trim()}\" is not an area; write mm2, cm2, m2, in2 or ft2, such as {Example}");
    }
}

/// <summary>A mass for each length, held in decimal kilograms a metre.</summary>
/// <param name="KilogramsPerMetre">Kilograms a metre.</param>
public readonly record struct LinearMass(decimal KilogramsPerMetre)
{
    /// <summary>Reads a linear mass such as <c>12 kg/m</c> or <c>8 lb/ft</c>.</summary>
    public static Checked<LinearMass> Read(string? text)
    {
        const string Example = "12 kg/m or 8 lb/ft";
        var split = QuantityText.Split(text, Example);
        if (!split.Ok)
            return new Refusal(split.Fault!);
        var (number, unit) = split.Value;
        decimal? scale = unit.ToLowerInvariant() switch
        {
            "kg/m" => 1,
            "lb/ft" => Mass.KilogramsPerPound / (12 * Length.MillimetresPerInch / 1000),
            _ => null,
        };
        return scale is { } known && number <= 1_000_000
            ? new LinearMass(number * known)
            : new Refusal(
                $"\"{text!.Trim()}\" is not a weight for each length; write kg/m or lb/ft, such as {Example}"
            );
    }
}

/// <summary>A density, held in decimal kilograms a cubic metre.</summary>
/// <param name="KilogramsPerCubicMetre">Kilograms a cubic metre.</param>
public readonly record struct Density(decimal KilogramsPerCubicMetre)
{
    /// <summary>Reads a density such as <c>2700 kg/m3</c> or <c>168 lb/ft3</c>.</summary>
    public static Checked<Density> Read(string? text)
    {
        const string Example = "2700 kg/m3 or 168 lb/ft3";
        var split = QuantityText.Split(text, Example);
        if (!split.Ok)
            return new Refusal(split.Fault!);
        var (number, unit) = split.Value;
        const decimal MetresPerFoot = 12 * Length.MillimetresPerInch / 1000;
        decimal? scale = unit.ToLowerInvariant() switch
        {
            "kg/m3" => 1,
            "lb/ft3" => Mass.KilogramsPerPound / (MetresPerFoot * MetresPerFoot * MetresPerFoot),
            _ => null,
        };
        return scale is { } known && number <= 1_000_000
            ? new Density(number * known)
            : new Refusal($"\"{text!.Trim()}\" is not a density; write kg/m3 or lb/ft3, such as {Example}");
    }
}
