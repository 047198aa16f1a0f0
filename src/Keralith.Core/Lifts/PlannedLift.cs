namespace Keralith.Core.Lifts;

/// <summary>A plan with its gear in place.</summary>
/// <param name="Plan">The plan.</param>
/// <param name="Lift">What is worked out; null while something is wanted.</param>
/// <param name="LegMarks">The marks in each leg, in the order of its pieces.</param>
/// <param name="AboveMarks">The marks above.</param>
/// <param name="Wanted">What is still wanted, in words.</param>
public sealed record PlannedLift(
    LiftPlan Plan,
    Lift? Lift,
    IReadOnlyList<IReadOnlyList<string>> LegMarks,
    IReadOnlyList<string> AboveMarks,
    IReadOnlyList<string> Wanted
)
{
    /// <summary>The mark of the beam the load hangs under; null: under none.</summary>
    public string? BeamMark { get; init; }

    /// <summary>The marks of the slings of each leg above a beam.</summary>
    public IReadOnlyList<IReadOnlyList<string>> TopMarks { get; init; } = [];

    /// <summary>The mark of the piece that governs; null for a crane.</summary>
    public string? MarkOf(WeakestPiece weakest) =>
        weakest.Place switch
        {
            CarrierPlace.Crane => null,
            CarrierPlace.Beam => BeamMark,
            CarrierPlace.TopLeg => TopMarks.FirstOrDefault()?.FirstOrDefault(),
            CarrierPlace.Above or CarrierPlace.Leg => MarkAt(weakest.Leg, weakest.At),
        };

    /// <summary>The mark of the piece at a place of the result.</summary>
    public string? MarkAt(int? leg, int at) =>
        leg is { } n ? LegMarks.ElementAtOrDefault(n - 1)?.ElementAtOrDefault(at) : AboveMarks.ElementAtOrDefault(at);
}
