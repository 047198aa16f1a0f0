namespace Keralith.Core.Quantities;

/// <summary>The one writer of quantities: exact, or rounded for reading, always with the unit.</summary>
public static class QuantityFormat
{
    /// <summary>The exact length in its own unit; inches as common fractions down to 1/64 where they are.</summary>
    public static string Exact(Length length) =>
        length.Unit switch
        {
            LengthUnit.Millimetre => $"{QuantityText.Number(length.Millimetres)} mm",
            LengthUnit.Centimetre => $"{QuantityText.Number(length.Millimetres / 10)} cm",
            LengthUnit.Metre => $"{QuantityText.Number(length.Millimetres / 1000)} m",
            LengthUnit.Inch => $"{InchFraction(length.Inches)} in",
            LengthUnit.Foot => $"{InchFraction(length.Inches / 12)} ft",
        };

    /// <summary>The exact mass in its own unit.</summary>
    public static string Exact(Mass mass) =>
        mass.Unit switch
        {
            MassUnit.Kilogram => $"{QuantityText.Number(mass.Kilograms)} kg",
            MassUnit.Gram => $"{QuantityText.Number(mass.Kilograms * 1000)} g",
            MassUnit.Tonne => $"{QuantityText.Number(mass.Kilograms / 1000)} t",
            MassUnit.Pound => $"{QuantityText.Number(mass.Pounds)} lb",
            MassUnit.ShortTon => $"{QuantityText.Number(mass.Pounds / 2000)} short ton",
        };

    /// <summary>The exact force in its own unit.</summary>
    public static string Exact(Force force) =>
        force.Unit switch
        {
            ForceUnit.Newton => $"{QuantityText.Number(force.Newtons)} N",
            ForceUnit.Kilonewton => $"{QuantityText.Number(force.Newtons / 1000)} kN",
            ForceUnit.PoundForce => $"{QuantityText.Number(force.Newtons / 4.4482216152605m)} lbf",
        };

    /// <summary>
    /// A length rounded for reading: thousandths of an inch, or hundredths of a millimetre (half away from zero).
    /// Never used where a limit is compared.
    /// </summary>
    public static string Rounded(Length length) =>
        length.IsInchNamed
            ? $"{QuantityText.Number(Round(length.Inches, 3))} in"
            : $"{QuantityText.Number(Round(length.Millimetres, 2))} mm";

    /// <summary>
    /// A mass for reading, rounded down to whole pounds or kilograms, or hundredths of a tonne (a rated load is never
    /// overstated), thousands set apart by a thin space.
    /// </summary>
    public static string Rounded(Mass mass, MassUnit unit) =>
        unit switch
        {
            MassUnit.Pound => $"{Thousands(Settled(mass.Pounds))} lb",
            MassUnit.ShortTon => $"{QuantityText.Number(Down(Settled(mass.Pounds / 2000)))} short ton",
            MassUnit.Tonne => $"{QuantityText.Number(Down(mass.Kilograms / 1000))} t",
            MassUnit.Kilogram or MassUnit.Gram => $"{Thousands(mass.Kilograms)} kg",
        };

    /// <summary>
    /// A mass somebody must carry, rounded up like <see cref="Rounded(Mass, MassUnit)"/> rounds down: a demand is never
    /// understated.
    /// </summary>
    public static string RoundedUp(Mass mass, MassUnit unit) =>
        Rounded(
            unit switch
            {
                MassUnit.Pound => Mass.FromPounds(Math.Ceiling(Settled(mass.Pounds))),
                MassUnit.ShortTon => Mass.FromPounds(Math.Ceiling(Settled(mass.Pounds / 20)) * 20),
                MassUnit.Tonne => Mass.FromKilograms(Math.Ceiling(Settled(mass.Kilograms / 10)) * 10),
                _ => Mass.FromKilograms(Math.Ceiling(Settled(mass.Kilograms))),
            },
            unit
        );

    /// <summary>A number without trailing zeros.</summary>
    public static string Number(decimal number) => QuantityText.Number(number);

    internal static decimal Round(decimal number, int places) =>
        Math.Round(number, places, MidpointRounding.AwayFromZero);

    /// <summary>Freed of what arithmetic leaves behind the ninth place.</summary>
    private static decimal Settled(decimal number) => Math.Round(number, 9);

    private static decimal Down(decimal number) => Math.Floor(number * 100) / 100;

    private static string Thousands(decimal number) =>
        Math.Floor(number)
            .ToString("#,0", System.Globalization.CultureInfo.InvariantCulture)
            .Replace(",", "\u202F", StringComparison.Ordinal);

    private static string InchFraction(decimal inches)
    {
        var sixtyFourths = inches * 64;
        if (sixtyFourths != decimal.Truncate(sixtyFourths) || Math.Abs(inches) > 10_000)
            return QuantityText.Number(inches);
        var whole = decimal.ToInt64(decimal.Truncate(inches));
        var over = decimal.ToInt64(Math.Abs(sixtyFourths)) % 64;
        if (over == 0)
            return whole.ToString();
        var under = 64L;
        while (over % 2 == 0)
        {
            over /= 2;
            under /= 2;
        }

        var sign = inches < 0 && whole == 0 ? "-" : string.Empty;
        return whole == 0 ? $"{sign}{over}/{under}" : $"{whole}-{over}/{under}";
    }
}
