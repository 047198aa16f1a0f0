using System.Buffers;

namespace Keralith.Core.Formats;

/// <summary>Judges cases given one a line: one result line for each, in the same order.</summary>
public static class CaseLines
{
    /// <summary>Judges one line and writes its verdict, or <c>{"error": "..."}</c> with every fault, and a line end.</summary>
    /// <returns>Whether the line was a case.</returns>
    public static bool Judge(ReadOnlyMemory<byte> line, IBufferWriter<byte> output) =>
        JsonText.Line(CaseReader.Read(line), output, c => VerdictWriter.Write(output, Judgement.Judge.Of(c)));
}
