namespace Keralith.Core.Formats;

/// <summary>One fault in a document somebody handed in.</summary>
/// <param name="Path">Where, as a JSON path such as <c>$.answers[0].value</c>.</param>
/// <param name="Message">What was found and what is expected.</param>
public sealed record Fault(string Path, string Message)
{
    public override string ToString() => $"{Path}: {Message}";
}

/// <summary>A document read, or all its faults.</summary>
/// <param name="Value">The document; null when there are faults.</param>
/// <param name="Faults">All of them, in the order of the document.</param>
public sealed record ReadResult<T>(T? Value, IReadOnlyList<Fault> Faults)
    where T : class;
