using Keralith.Core.Register;

namespace Keralith.Data;

/// <summary>All that is kept of one piece beside the piece itself, asked on one trip.</summary>
public sealed class PieceOnRecord(Trip trip, Guid piece)
{
    /// <summary>
    /// The same of the piece of a mark, before anybody knows which that is: one trip finds the piece and all of it. A mark
    /// never goes to another piece. Where no piece is marked so, nothing is on record.
    /// </summary>
    public static PieceOnRecord Marked(Trip trip, string mark)
    {
        var own = new Trip();
        var kept = new PieceOnRecord(own, Guid.Empty);
        own.OfPieceMarked(mark);
        trip.Add(own);
        return kept;
    }

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
