using System.Text.Json;
using Keralith.Core.Ledger;

namespace Keralith.Core.Register;

/// <summary>What a piece is kept as, held against what was last entered of it in the ledger.</summary>
public static class Stated
{
    /// <summary>What acts of their own change afterwards, each with an entry of its own.</summary>
    private static readonly HashSet<string> KeptApart = [.. PieceFields.All.Where(f => f.IsApart).Select(f => f.Name)];

    /// <summary>The fields an entry of the ledger states.</summary>
    /// <param name="json">A JSON object; what is no text in it is taken as it is written.</param>
    /// <exception cref="JsonException">It is no JSON object.</exception>
    public static IReadOnlyDictionary<string, string> Read(string json)
    {
        using var document = JsonDocument.Parse(json);
        return document.RootElement.ValueKind == JsonValueKind.Object
            ? document
                .RootElement.EnumerateObject()
                .Where(f => f.Name != LedgerRecord.Rows)
                .ToDictionary(f => f.Name, f => f.Value.ToString())
            : throw new JsonException("What was entered is no object.");
    }

    /// <summary>
    /// The fields kept otherwise than they were entered, by their names. Another spelling of the same value, such as an
    /// earlier version's, is no difference; a value that can't be read any more is one.
    /// </summary>
    /// <param name="entered">The fields of the last entry that states the piece.</param>
    /// <param name="kept">The piece as it is kept.</param>
    public static IReadOnlyList<string> Differences(IReadOnlyDictionary<string, string> entered, PieceEntry kept)
    {
        var now = PieceEntryFields.Of(kept);
        var differing = Differing(entered, now);
        if (differing.Count == 0)
            return differing;
        var (read, _) = PieceEntryReader.Read(new Dictionary<string, string>(entered) { ["mark"] = kept.Mark.Text });
        return read is null ? differing : Differing(PieceEntryFields.Of(read), now);
    }

    private static List<string> Differing(
        IReadOnlyDictionary<string, string> entered,
        IReadOnlyDictionary<string, string> kept
    ) =>
        [
            .. entered
                .Keys.Union(kept.Keys)
                .Where(f => !KeptApart.Contains(f) && !IsFigure(f))
                .Where(f => entered.GetValueOrDefault(f, string.Empty) != kept.GetValueOrDefault(f, string.Empty))
                .Order(StringComparer.Ordinal),
        ];

    /// <summary>Figures when new are rows of their own, each with its own entry.</summary>
    private static bool IsFigure(string field) =>
        field.StartsWith("baseline:", StringComparison.Ordinal)
        || field.StartsWith("basis:", StringComparison.Ordinal)
        || field.StartsWith("links:", StringComparison.Ordinal);
}
