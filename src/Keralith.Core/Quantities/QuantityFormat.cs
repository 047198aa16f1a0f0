namespace Keralith.Core.Quantities;

/// <summary>The one writer of quantities: exact, or rounded for reading, always with the unit.</summary>
public static class QuantityFormat
{
    /// <summary>The exact length in its own unit; inches as common fractions down to 1/64 where they are.</summary>
    public static string Exact(Length length) =>
        length.Unit switch
        {
            LengthUnit.Millimetre => $"{Text(length, 1)} mm",
            LengthUnit.Centimetre => $"{Text(length, 10)} cm",
            LengthUnit.Metre => $"{Text(length, 1000)} m",
            LengthUnit.Inch => $"{Inches(length, 1)} in",
            LengthUnit.Foot => $"{Inches(length, 12)} ft",
        };

    /// <summary>The exact mass in its own unit.</summary>
    public static string Exact(Mass mass) =>
        mass.Unit switch
        {
            MassUnit.Kilogram => $"{Text(mass, 1)} kg",
            MassUnit.Gram => $"{Text(mass, 0.001m)} g",
            MassUnit.Tonne => $"{Text(mass, 1000)} t",
            MassUnit.Pound => $"{Text(mass, Mass.KilogramsPerPound)} lb",
            MassUnit.ShortTon => $"{Text(mass, 2000 * Mass.KilogramsPerPound)} short ton",
        };

    /// <summary>The exact force in its own unit.</summary>
    public static string Exact(Force force) =>
        force.Unit switch
        {
            ForceUnit.Newton => $"{Text(force, 1)} N",
            ForceUnit.Kilonewton => $"{Text(force, 1000)} kN",
            ForceUnit.PoundForce => $"{Text(force, Force.NewtonsPerPoundForce)} lbf",
        };

    /// <summary>The exact moment in its own unit.</summary>
    public static string Exact(Moment moment) =>
        moment.Unit switch
        {
            MomentUnit.NewtonMetre => $"{Text(moment, 1)} N m",
            MomentUnit.PoundFoot => $"{Text(moment, Moment.NewtonMetresPerPoundFoot)} ft lbf",
            MomentUnit.PoundInch => $"{Text(moment, Moment.NewtonMetresPerPoundFoot / 12)} in lbf",
        };

    /// <summary>Newtons in another unit of force, rounded to hundredths for reading.</summary>
    public static string Rounded(decimal newtons, ForceUnit unit) =>
        unit switch
        {
            ForceUnit.Newton => $"{Number(Round(newtons, 2))} N",
            ForceUnit.Kilonewton => $"{Number(Round(newtons / 1000, 3))} kN",
            ForceUnit.PoundForce => $"{Number(Round(newtons / Force.NewtonsPerPoundForce, 2))} lbf",
        };

    /// <summary>Newton metres in another unit of moment, rounded to hundredths for reading.</summary>
    public static string Rounded(decimal newtonMetres, MomentUnit unit) =>
        unit switch
        {
            MomentUnit.NewtonMetre => $"{Number(Round(newtonMetres, 2))} N m",
            MomentUnit.PoundFoot => $"{Number(Round(newtonMetres / Moment.NewtonMetresPerPoundFoot, 2))} ft lbf",
            MomentUnit.PoundInch => $"{Number(Round(newtonMetres * 12 / Moment.NewtonMetresPerPoundFoot, 2))} in lbf",
        };

    private static string Text(Length length, decimal perUnit) =>
        WrittenFigure.Write(length.Millimetres, perUnit, length.Denominator);

    private static string Text(Mass mass, decimal perUnit) =>
        WrittenFigure.Write(mass.Kilograms, perUnit, mass.Denominator);

    private static string Text(Force force, decimal perUnit) =>
        WrittenFigure.Write(force.Newtons, perUnit, force.Denominator);

    private static string Text(Moment moment, decimal perUnit) =>
        WrittenFigure.Write(moment.NewtonMetres, perUnit, moment.Denominator);

    private static string Inches(Length length, int perUnit)
    {
        var number = length.Inches / perUnit;
        var sixtyFourths = number * 64;
        return length.Denominator > 1 || sixtyFourths != decimal.Truncate(sixtyFourths) || Math.Abs(number) > 10_000
            ? Text(length, perUnit * Length.MillimetresPerInch)
            : SixtyFourths(number);
    }

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

    private static string SixtyFourths(decimal inches)
    {
        var whole = decimal.ToInt64(decimal.Truncate(inches));
        var over = decimal.ToInt64(Math.Abs(inches * 64)) % 64;
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
