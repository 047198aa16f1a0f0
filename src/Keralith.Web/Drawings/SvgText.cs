using System.Globalization;
using System.Runtime.CompilerServices;

namespace Keralith.Web.Drawings;

/// <summary>
/// Puts a line of a drawing together from its words and figures. A drawing is made of hundreds of places to a hundredth
/// of a unit, and each was an object and a format read anew.
/// </summary>
[InterpolatedStringHandler]
public ref struct SvgText
{
    /// <summary>Beyond it a place is on no drawing, and hundredths of it are left to the platform.</summary>
    private const double Far = 1e9;

    private DefaultInterpolatedStringHandler _text;

    public SvgText(int literalLength, int formattedCount) =>
        _text = new(literalLength, formattedCount, CultureInfo.InvariantCulture);

    public void AppendLiteral(string value) => _text.AppendLiteral(value);

    /// <summary>Writes a place: <c>0.##</c> and <c>0.#</c> by whole hundredths, any other format as the platform does.</summary>
    public void AppendFormatted(double value, string format)
    {
        if (format is not ("0.##" or "0.#") || !(Math.Abs(value) < Far))
        {
            _text.AppendFormatted(value, format);
            return;
        }

        // By way of a decimal, which takes the fifteen digits a place is written by: halves go the way they went before.
        var unit = format.Length == 4 ? 100 : 10;
        var parts = (long)decimal.Round((decimal)value * unit, MidpointRounding.AwayFromZero);
        if (parts < 0)
            _text.AppendLiteral("-");
        var (whole, rest) = Math.DivRem(Math.Abs(parts), unit);
        _text.AppendFormatted(whole);
        if (rest == 0)
            return;
        _text.AppendLiteral(".");
        if (unit == 100 && rest % 10 == 0)
            rest /= 10;
        else if (rest < 10 && unit == 100)
            _text.AppendLiteral("0");
        _text.AppendFormatted(rest);
    }

    public void AppendFormatted<T>(T value) => _text.AppendFormatted(value);

    public void AppendFormatted<T>(T value, string format) => _text.AppendFormatted(value, format);

    public string ToStringAndClear() => _text.ToStringAndClear();
}
