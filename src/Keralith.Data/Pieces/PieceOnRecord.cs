using Keralith.Core.Register;

namespace Keralith.Data;

/// <summary>All that is kept of one piece beside the piece itself, asked on one trip.</summary>
public sealed class PieceOnRecord(Trip trip, Guid piece)
{
    public Guid Piece { get; } = piece;

    public Asked<List<string>> Codes { get; } = CodeStore.Of(trip, piece);

    public Asked<(string? Replaces, string? By)> Places { get; } = ReplacementStore.Places(trip, piece);

    public Asked<List<TagRecord>> Tags { get; } = PieceStore.Tags(trip, piece);

    public Asked<List<FileRow>> Files { get; } = FileStore.Of(trip, piece);

    public Asked<IReadOnlyDictionary<BaselineKey, BaselineRow>> Baselines { get; } = PieceStore.Baselines(trip, piece);

    public Asked<List<InspectionRow>> Inspections { get; } = InspectionStore.OfPiece(trip, piece);

    public Asked<List<string>> SerialTwins { get; } = PieceStore.TwinsOfSerial(trip, piece);

    public Asked<List<Draft>> Drafts { get; } = InspectionStore.Drafts(trip, null, piece);

    public Asked<List<LiftRow>> Lifts { get; } = LiftStore.Naming(trip, piece);

    public Asked<List<EventRow>> Events { get; } = EventStore.Of(trip, piece);

    public Asked<List<HoldRow>> Holds { get; } = CustodyStore.Holds(trip, piece);

    public Asked<List<DisposalRow>> Disposals { get; } = CustodyStore.Disposals(trip, piece);

    public Asked<List<YardEvent>> Moves { get; } = YardStore.Events(trip, piece);
}

/// <summary>
/// Which piece a text led to last. A page asks all of that one together with who it is; it is a guess, held against what
/// is found each time, and asked again where it was another.
/// </summary>
public sealed class PieceGuesses
{
    private const int Most = 50_000;

    private readonly System.Collections.Concurrent.ConcurrentDictionary<string, Guid> _found = new();

    /// <summary>The piece it led to; null where nobody asked yet.</summary>
    public Guid? Of(string text) => _found.TryGetValue(text, out var piece) ? piece : null;

    public void Keep(string text, Guid piece)
    {
        if (_found.Count >= Most)
            _found.Clear();
        _found[text] = piece;
    }
}
