using System.Buffers;
using Keralith.Core.Lifts;

namespace Keralith.Core.Formats;

/// <summary>Works out lifts given one a line: one result line for each, in the same order.</summary>
public static class LiftLines
{
    /// <summary>Works out one line and writes its result, or <c>{"error": "..."}</c> with every fault, and a line end.</summary>
    /// <returns>Whether the line was a lift.</returns>
    public static bool Judge(ReadOnlyMemory<byte> line, IBufferWriter<byte> output) =>
        JsonText.Line(LiftReader.Read(line), output, l => LiftWriter.Write(output, LiftJudge.Of(l)));
}
