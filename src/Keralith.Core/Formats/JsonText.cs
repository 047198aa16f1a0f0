using System.Buffers;
using System.Text;
using System.Text.Encodings.Web;
using System.Text.Json;
using System.Text.Unicode;
using Keralith.Core.Quantities;

namespace Keralith.Core.Formats;

/// <summary>
/// What the readers and writers of every document share: how bytes become JSON, and how lines of documents are
/// answered.
/// </summary>
internal static class JsonText
{
    /// <summary>As results are written: one line. That writers nest rightly is for their tests to see.</summary>
    public static readonly JsonWriterOptions Compact = new()
    {
        Encoder = JavaScriptEncoder.UnsafeRelaxedJsonEscaping,
        SkipValidation = true,
    };

    /// <summary>As results are written for people.</summary>
    public static readonly JsonWriterOptions Indented = new()
    {
        Encoder = JavaScriptEncoder.UnsafeRelaxedJsonEscaping,
        Indented = true,
        NewLine = "\n",
    };

    private static readonly JsonDocumentOptions Options = new() { MaxDepth = 16 };

    /// <summary>Reads UTF-8 JSON; text that is none is a fault of the whole document.</summary>
    public static ReadResult<T> Read<T>(ReadOnlyMemory<byte> utf8, string format, Func<JsonElement, ReadResult<T>> read)
        where T : class
    {
        if (!Utf8.IsValid(utf8.Span))
            return new(null, [new("$", "the text is not UTF-8, expected one object in UTF-8")]);
        try
        {
            using var document = JsonDocument.Parse(utf8, Options);
            return read(document.RootElement);
        }
        catch (JsonException e)
        {
            return new(
                null,
                [
                    new(
                        "$",
                        $"not JSON (line {e.LineNumber + 1}, byte {e.BytePositionInLine + 1}), expected one {format} object"
                    ),
                ]
            );
        }
        catch (InvalidOperationException e)
            when (e.Source?.StartsWith(typeof(JsonDocument).Assembly.GetName().Name!, StringComparison.Ordinal) == true)
        {
            return new(null, [new("$", "a text escapes half a character, expected Unicode text")]);
        }
    }

    /// <summary>Answers one line: its result, or <c>{"error": "..."}</c> with every fault, and a line end.</summary>
    /// <returns>Whether the line was a document.</returns>
    public static bool Line<T>(ReadResult<T> read, IBufferWriter<byte> output, Action<T> write)
        where T : class
    {
        if (read.Value is { } document)
            write(document);
        else
        {
            using var json = new Utf8JsonWriter(output, Compact);
            json.WriteStartObject();
            json.WriteString("error", string.Join("; ", read.Faults));
            json.WriteEndObject();
        }

        output.Write("\n"u8);
        return read.Value is not null;
    }

    /// <summary>Writes a document as text.</summary>
    public static string Text(Action<IBufferWriter<byte>> write)
    {
        var buffer = new ArrayBufferWriter<byte>(2048);
        write(buffer);
        return Encoding.UTF8.GetString(buffer.WrittenSpan);
    }

    /// <summary>Writes a number to so many places, half away from zero, without trailing zeros.</summary>
    public static void WriteFigure(this Utf8JsonWriter json, string name, decimal? number, int places)
    {
        json.WritePropertyName(name);
        json.WriteFigure(number, places);
    }

    /// <summary>The same by a name encoded before.</summary>
    public static void WriteFigure(this Utf8JsonWriter json, JsonEncodedText name, decimal? number, int places)
    {
        json.WritePropertyName(name);
        json.WriteFigure(number, places);
    }

    /// <summary>The same as a value of a list.</summary>
    public static void WriteFigure(this Utf8JsonWriter json, decimal? number, int places)
    {
        if (number is not { } n)
        {
            json.WriteNullValue();
            return;
        }

        Span<byte> figure = stackalloc byte[QuantityText.LongestNumber];
        json.WriteRawValue(QuantityText.Write(QuantityFormat.Round(n, places), figure), skipInputValidation: true);
    }
}
