using System.Buffers;
using System.Text.Encodings.Web;
using System.Text.Json;

namespace Keralith.Core.Formats;

/// <summary>Judges cases given one a line: one result line for each, in the same order.</summary>
public static class CaseLines
{
    private static readonly JsonWriterOptions Options = new() { Encoder = JavaScriptEncoder.UnsafeRelaxedJsonEscaping };

    /// <summary>Judges one line and writes its verdict, or <c>{"error": "..."}</c> with every fault, and a line end.</summary>
    /// <returns>Whether the line was a case.</returns>
    public static bool Judge(ReadOnlyMemory<byte> line, IBufferWriter<byte> output)
    {
        var result = CaseReader.Read(line);
        if (result.Value is { } @case)
        {
            VerdictWriter.Write(output, Judgement.Judge.Of(@case));
        }
        else
        {
            using var json = new Utf8JsonWriter(output, Options);
            json.WriteStartObject();
            json.WriteString("error", string.Join("; ", result.Faults));
            json.WriteEndObject();
        }

        output.Write("\n"u8);
        return result.Value is not null;
    }
}
