using System.Buffers;
using System.Globalization;
using System.Text;
using System.Text.Encodings.Web;
using System.Text.Json;

namespace Keralith.Core.Ledger;

/// <summary>By which form an entry's text was brought to one before it was hashed.</summary>
public enum CanonicalForm
{
    /// <summary>The first entries': keys by code unit, numbers and escapes as the writer gave them.</summary>
    First = 1,

    /// <summary>JSON Canonicalization Scheme (RFC 8785).</summary>
    Rfc8785 = 2,
}

/// <summary>One way to write a JSON value, so that the same record has the same hash wherever it is computed.</summary>
public static class CanonicalJson
{
    private static readonly JsonWriterOptions FirstOptions = new()
    {
        Encoder = JavaScriptEncoder.UnsafeRelaxedJsonEscaping,
    };

    /// <summary>The canonical form of a JSON text.</summary>
    /// <exception cref="JsonException">The text is not JSON.</exception>
    public static string Of(string json, CanonicalForm form = CanonicalForm.Rfc8785)
    {
        using var document = JsonDocument.Parse(json);
        return form switch
        {
            CanonicalForm.Rfc8785 => Rfc8785(document.RootElement),
            CanonicalForm.First => First(document.RootElement, json.Length),
        };
    }

    /// <summary>
    /// A number as RFC 8785 writes it: the shortest digits that read back the same, laid out as ECMAScript does.
    /// </summary>
    /// <exception cref="ArgumentOutOfRangeException">It is not finite: JSON has no such number.</exception>
    public static string Number(double value)
    {
        if (!double.IsFinite(value))
            throw new ArgumentOutOfRangeException(nameof(value), value, "JSON has no such number.");
        if (value == 0)
            return "0";
        var (digits, point) = DigitsOf(Math.Abs(value).ToString("R", CultureInfo.InvariantCulture));
        var text = point is > 0 and <= 21
            ? digits.Length <= point
                ? digits.PadRight(point, '0')
                : $"{digits[..point]}.{digits[point..]}"
            : point is > -6 and <= 0
                ? $"0.{new string('0', -point)}{digits}"
                : Exponential(digits, point - 1);
        return value < 0 ? $"-{text}" : text;
    }

    private static string Exponential(string digits, int exponent)
    {
        var mantissa = digits.Length == 1 ? digits : $"{digits[0]}.{digits[1..]}";
        return $"{mantissa}e{(exponent < 0 ? "-" : "+")}{Math.Abs(exponent)}";
    }

    /// <summary>The significant digits, and how many of them stand before the decimal point.</summary>
    private static (string Digits, int Point) DigitsOf(string text)
    {
        var exponent = 0;
        if (text.IndexOf('E', StringComparison.Ordinal) is > 0 and var at)
        {
            exponent = int.Parse(text[(at + 1)..], NumberStyles.AllowLeadingSign, CultureInfo.InvariantCulture);
            text = text[..at];
        }

        var dot = text.IndexOf('.', StringComparison.Ordinal);
        var whole = dot < 0 ? text.Length : dot;
        var all = dot < 0 ? text : text.Remove(dot, 1);
        var leading = all.Length - all.TrimStart('0').Length;
        return (all.Trim('0'), whole - leading + exponent);
    }

    private static string Rfc8785(JsonElement element)
    {
        var text = new StringBuilder();
        Write(text, element);
        return text.ToString();
    }

    private static void Write(StringBuilder text, JsonElement element)
    {
        switch (element.ValueKind)
        {
            case JsonValueKind.Object:
                var members = element.EnumerateObject().OrderBy(p => p.Name, StringComparer.Ordinal);
                Write(text, '{', members, '}', p =>
                {
                    Write(text, p.Name);
                    text.Append(':');
                    Write(text, p.Value);
                });
                break;
            case JsonValueKind.Array:
                Write(text, '[', element.EnumerateArray(), ']', item => Write(text, item));
                break;
            case JsonValueKind.Number:
                text.Append(Number(element.GetDouble()));
                break;
            case JsonValueKind.String:
                Write(text, element.GetString()!);
                break;
            case JsonValueKind.True:
            case JsonValueKind.False:
            case JsonValueKind.Null:
            case JsonValueKind.Undefined:
                text.Append(element.GetRawText());
                break;
        }
    }

    private static void Write<T>(StringBuilder text, char open, IEnumerable<T> items, char close, Action<T> each)
    {
        text.Append(open);
        var first = true;
        foreach (var item in items)
        {
            if (!first)
                text.Append(',');
            first = false;
            each(item);
        }

        text.Append(close);
    }

    private static void Write(StringBuilder text, string value)
    {
        text.Append('"');
        foreach (var letter in value)
        {
            _ = letter switch
            {
                '"' => text.Append("\\\""),
                '\\' => text.Append("\\\\"),
                '\b' => text.Append("\\b"),
                '\t' => text.Append("\\t"),
                '\n' => text.Append("\\n"),
                '\f' => text.Append("\\f"),
                '\r' => text.Append("\\r"),
                < ' ' => text.Append(CultureInfo.InvariantCulture, $"\\u{(int)letter:x4}"),
                _ => text.Append(letter),
            };
        }

        text.Append('"');
    }

    private static string First(JsonElement element, int length)
    {
        var buffer = new ArrayBufferWriter<byte>(length);
        using (var writer = new Utf8JsonWriter(buffer, FirstOptions))
            WriteFirst(writer, element);
        return Encoding.UTF8.GetString(buffer.WrittenSpan);
    }

    private static void WriteFirst(Utf8JsonWriter writer, JsonElement element)
    {
        switch (element.ValueKind)
        {
            case JsonValueKind.Object:
                writer.WriteStartObject();
                foreach (var property in element.EnumerateObject().OrderBy(p => p.Name, StringComparer.Ordinal))
                {
                    writer.WritePropertyName(property.Name);
                    WriteFirst(writer, property.Value);
                }

                writer.WriteEndObject();
                break;
            case JsonValueKind.Array:
                writer.WriteStartArray();
                foreach (var item in element.EnumerateArray())
                    WriteFirst(writer, item);
                writer.WriteEndArray();
                break;
            case JsonValueKind.Number:
                writer.WriteRawValue(element.GetRawText(), skipInputValidation: true);
                break;
            default:
                element.WriteTo(writer);
                break;
        }
    }
}
