namespace Keralith.Core.Quantities;

/// <summary>
/// A figure as it was written, with the unit behind it: a rational number, so that a third of an inch stays a third.
/// </summary>
/// <param name="Numerator">Over the denominator, the figure.</param>
/// <param name="Denominator">1 where the figure is a decimal; else at most 9999, prime to what decimals can hold.</param>
/// <param name="Unit">What stands behind it.</param>
internal readonly record struct WrittenFigure(decimal Numerator, int Denominator, string Unit)
{
    /// <summary>The figure as a decimal, to its last place.</summary>
    public decimal Number => Denominator == 1 ? Numerator : Numerator / Denominator;

    public void Deconstruct(out decimal number, out string unit) => (number, unit) = (Number, Unit);

    /// <summary>The figure in a base unit.</summary>
    /// <param name="perUnit">The base units in one of the figure's, over 0.</param>
    public decimal In(decimal perUnit) => Denominator == 1 ? Numerator * perUnit : Numerator * perUnit / Denominator;

    /// <summary>
    /// An amount of a base unit as the figure it was read from: reading it gives the same amount again.
    /// </summary>
    /// <param name="amount">The amount, as <see cref="In"/> gave it.</param>
    /// <param name="perUnit">The base units in one of the unit it is written in.</param>
    /// <param name="denominator">The figure's denominator; 0 and 1: a decimal.</param>
    public static string Write(decimal amount, decimal perUnit, int denominator)
    {
        if (denominator > 1)
        {
            var over = Math.Round(amount * denominator / perUnit);
            if (over * perUnit / denominator == amount)
                return Fraction(over, denominator);
        }

        // Division leaves a remainder behind the places that were typed: the shortest figure that reads the same.
        var number = amount / perUnit;
        for (var places = QuantityText.TypedPlaces; places < QuantityText.MostPlaces; places += 4)
        {
            var typed = Math.Round(number, places);
            if (typed * perUnit == amount)
                return QuantityText.Number(typed);
        }

        return QuantityText.Number(number);
    }

    /// <summary>A mixed number: <c>1-1/3</c>, <c>-2/3</c>, or whole.</summary>
    internal static string Fraction(decimal over, int under)
    {
        var sign = over < 0 ? "-" : string.Empty;
        over = Math.Abs(over);
        var whole = Math.Truncate(over / under);
        var rest = over - (whole * under);
        return rest == 0 ? $"{sign}{QuantityText.Number(whole)}"
            : whole == 0 ? $"{sign}{QuantityText.Number(rest)}/{under}"
            : $"{sign}{QuantityText.Number(whole)}-{QuantityText.Number(rest)}/{under}";
    }
}
