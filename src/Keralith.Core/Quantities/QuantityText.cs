using System.Globalization;
using System.Text;

namespace Keralith.Core.Quantities;

/// <summary>
/// The one reader of numbers with units: decimals, fractions and mixed numbers as written in the trade
/// (<c>0.375in</c>, <c>3/8 in</c>, <c>1-1/4 in</c>, <c>1 1/4"</c>). Exact in decimal arithmetic.
/// </summary>
internal static class QuantityText
{
    private const int MostDigits = 12;

    /// <summary>Places behind the point that people type, and the most that are read: what a decimal holds.</summary>
    internal const int TypedPlaces = 12,
        MostPlaces = 28;

    /// <summary>The most signs a number is written with: sign, digits and point.</summary>
    internal const int LongestNumber = 48;

    private const string ManyPlaces = "0.############################";

    private static readonly (string From, string To)[] Spellings =
    [
        ("\u00BD", " 1/2"),
        ("\u00BC", " 1/4"),
        ("\u00BE", " 3/4"),
        ("\u215B", " 1/8"),
        ("\u215C", " 3/8"),
        ("\u215D", " 5/8"),
        ("\u215E", " 7/8"),
        ("\u2044", "/"),
        ("\u2033", "\""),
        ("\u201D", "\""),
        ("\u2032", "'"),
        ("\u2019", "'"),
        ("\u2212", "-"),
        ("\u00A0", " "),
        ("\u202F", " "),
        ("\u2009", " "),
        ("\u00B0", "deg "),
    ];

    /// <summary>Splits a text into its exact number and the unit written behind it.</summary>
    /// <param name="text">What was typed.</param>
    /// <param name="example">A good value, named in refusals.</param>
    /// <param name="groups">
    /// Whether thousands may stand apart, as loads are printed: <c>20 800 lb</c>. Not in lengths, where a point left out
    /// would be read as a figure a thousand times as large.
    /// </param>
    public static Checked<WrittenFigure> Split(string? text, string example, bool groups = false)
    {
        if (string.IsNullOrWhiteSpace(text))
            return new Refusal($"nothing was written; write a figure with its unit, such as {example}");
        if (text.Length > 60)
            return new Refusal($"the figure is too long to be one; write something such as {example}");
        var plain = Plain(text);
        if (plain.Contains(','))
            return new Refusal(
                $"\"{plain}\" has a comma; write a point for decimals and nothing between thousands, such as {example}"
            );

        var at = 0;
        var negative = false;
        if (plain[0] is '-' or '+')
        {
            negative = plain[0] == '-';
            at = 1;
        }

        if (groups)
            plain = plain[..at] + Joined(plain[at..]);
        var from = at;
        var whole = Digits(plain, ref at);
        if (whole.Length == 0 && !(at < plain.Length && plain[at] == '.'))
            return new Refusal($"\"{plain}\" does not begin with a figure; write something such as {example}");
        decimal number;
        var under = 1;
        if (at < plain.Length && plain[at] == '.')
        {
            at++;
            var part = Digits(plain, ref at);
            if (part.Length == 0 || whole.Length > MostDigits || part.Length > MostPlaces)
                return new Refusal($"\"{plain}\" is not a figure that can be read; write something such as {example}");
            number = DecimalOf(plain.AsSpan(from, at - from), part.Length);
        }
        else
        {
            if (whole.Length > MostDigits)
                return new Refusal($"\"{plain}\" has too many digits; write something such as {example}");
            number = DecimalOf(whole, 0);
            if (Fraction(plain, ref at, ref number, ref under) is { } fault)
                return new Refusal($"\"{plain}\": {fault}, such as {example}");
        }

        return new WrittenFigure(negative ? -number : number, under, UnitOf(plain.AsSpan(at).Trim()));
    }

    /// <summary>A unit as it was written; the usual ones make no new text.</summary>
    private static string UnitOf(ReadOnlySpan<char> written) =>
        written switch
        {
            "mm" => "mm",
            "m" => "m",
            "in" => "in",
            "kg" => "kg",
            "t" => "t",
            "lb" => "lb",
            "deg" => "deg",
            _ => written.ToString(),
        };

    /// <summary>Digits with so many places as a decimal, trailing zeros kept. Most figures are short: those are put together.</summary>
    private static decimal DecimalOf(ReadOnlySpan<char> digits, int places)
    {
        if (digits.Length > 18)
            return decimal.Parse(digits, NumberStyles.AllowDecimalPoint, CultureInfo.InvariantCulture);
        var number = 0L;
        foreach (var sign in digits)
        {
            if (sign != '.')
                number = (number * 10) + (sign - '0');
        }

        return new((int)number, (int)(number >> 32), 0, isNegative: false, (byte)places);
    }

    /// <summary>A figure whose thousands stand apart, written together; anything else as it is.</summary>
    private static string Joined(string text)
    {
        var at = 0;
        var first = Digits(text, ref at);
        if (first.Length is 0 or > 3 || first[0] == '0')
            return text;
        var joined = first.ToString();
        while (at + 3 < text.Length && text[at] == ' ')
        {
            var next = at + 1;
            var group = Digits(text, ref next);
            if (group.Length != 3 || (next < text.Length && text[next] == '/'))
                break;
            joined += group.ToString();
            at = next;
        }

        return joined + text[at..];
    }

    /// <summary>Reads a bare number (no unit), exactly.</summary>
    public static Checked<decimal> Bare(string? text, string example)
    {
        var split = Split(text, example);
        if (!split.Ok)
            return new Refusal(split.Fault!);
        return split.Value.Unit.Length == 0
            ? split.Value.Number
            : new Refusal($"\"{text}\" should be a figure alone, such as {example}");
    }

    /// <summary>Text with typographic signs brought to the plain ones.</summary>
    public static string Plain(string text)
    {
        if (System.Text.Ascii.IsValid(text))
            return text.Trim();
        foreach (var (from, to) in Spellings)
            text = text.Replace(from, to, StringComparison.Ordinal);
        return text.Trim();
    }

    /// <summary>Writes a number without trailing zeros and never with an exponent.</summary>
    public static string Number(decimal number)
    {
        Span<byte> room = stackalloc byte[LongestNumber];
        return Encoding.ASCII.GetString(Write(number, room));
    }

    /// <summary>The same as UTF-8.</summary>
    /// <param name="room">At least <see cref="LongestNumber"/> bytes, which the result lies in.</param>
    public static ReadOnlySpan<byte> Write(decimal number, Span<byte> room)
    {
        Span<int> parts = stackalloc int[4];
        decimal.GetBits(number, parts);
        var digits = new UInt128((uint)parts[2], ((ulong)(uint)parts[1] << 32) | (uint)parts[0]);
        return digits <= ulong.MaxValue
            ? Write((ulong)digits, number.Scale, number < 0, room)
            : Encoding.ASCII.GetBytes(number.ToString(ManyPlaces, CultureInfo.InvariantCulture));
    }

    private static ReadOnlySpan<byte> Write(ulong digits, int places, bool negative, Span<byte> room)
    {
        while (places > 0 && digits % 10 == 0)
            (digits, places) = (digits / 10, places - 1);
        var at = room.Length;
        for (var place = 0; digits > 0 || place <= places; place++)
        {
            if (place == places && places > 0)
                room[--at] = (byte)'.';
            room[--at] = (byte)('0' + (digits % 10));
            digits /= 10;
        }

        if (negative)
            room[--at] = (byte)'-';
        return room[at..];
    }

    /// <summary>Reads a fraction behind a whole number, or makes a fraction of it.</summary>
    /// <param name="number">The whole number; becomes the numerator.</param>
    /// <param name="under">Becomes the denominator: 1 where decimals hold the fraction exactly.</param>
    private static string? Fraction(string text, ref int at, ref decimal number, ref int under)
    {
        if (at < text.Length && text[at] == '/')
        {
            at++;
            return Divide(text, ref at, ref number, ref under, 0);
        }

        var ahead = at;
        if (ahead < text.Length && text[ahead] == '-')
            ahead++;
        else
            while (ahead < text.Length && text[ahead] == ' ')
                ahead++;
        if (ahead == at)
            return null;
        var over = Digits(text, ref ahead);
        if (over.Length == 0)
            return null;
        if (ahead >= text.Length || text[ahead] != '/')
            return "two figures stand side by side; write one figure and its unit";
        if (over.Length > 4)
            return "the fraction cannot be read; write a common fraction";
        var whole = number;
        number = decimal.Parse(over, NumberStyles.None, CultureInfo.InvariantCulture);
        at = ahead + 1;
        return Divide(text, ref at, ref number, ref under, whole);
    }

    private static string? Divide(string text, ref int at, ref decimal number, ref int under, decimal whole)
    {
        var digits = Digits(text, ref at);
        if (digits.Length is 0 or > 4 || number > 9999)
            return "the fraction cannot be read; write a common fraction";
        var denominator = int.Parse(digits, NumberStyles.None, CultureInfo.InvariantCulture);
        if (denominator == 0)
            return "a fraction over zero means nothing; write a common fraction";
        if (IsDecimal(denominator) || number % denominator == 0)
        {
            number = whole + (number / denominator);
            return null;
        }

        (number, under) = ((whole * denominator) + number, denominator);
        return null;
    }

    /// <summary>Whether decimals hold every fraction of a denominator exactly: it is made of twos and fives.</summary>
    private static bool IsDecimal(int denominator)
    {
        while (denominator % 2 == 0)
            denominator /= 2;
        while (denominator % 5 == 0)
            denominator /= 5;
        return denominator == 1;
    }

    private static ReadOnlySpan<char> Digits(string text, ref int at)
    {
        var from = at;
        while (at < text.Length && char.IsAsciiDigit(text[at]))
            at++;
        return text.AsSpan(from, at - from);
    }
}
