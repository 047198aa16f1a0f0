namespace Keralith.Core.Lifts;

/// <summary>What took something off a rated load.</summary>
/// <param name="What">Its name.</param>
/// <param name="Factor">What is multiplied by; a basket's goes over 1.</param>
public sealed record Reduction(string What, decimal Factor);

/// <summary>What is asked of one piece and what it may carry.</summary>
public sealed record PieceOnLift
{
    /// <summary>The sling's family or the component's kind.</summary>
    public required string Kind { get; init; }

    /// <summary>What it is asked to carry, in kilograms; null where a leg would have to push.</summary>
    public required decimal? Demand { get; init; }

    /// <summary>What it may carry so, in kilograms; null where that is not known or it is forbidden.</summary>
    public required decimal? Allowed { get; init; }

    /// <summary>Demand over allowed; null where either is not there.</summary>
    public decimal? Utilisation { get; init; }

    public required IReadOnlyList<Reduction> Reductions { get; init; }

    /// <summary>The worst of its remarks and its share used.</summary>
    public required LiftOutcome Outcome { get; init; }

    /// <summary>What bears on it.</summary>
    public required IReadOnlyList<Remark> Remarks { get; init; }
}

/// <summary>One leg.</summary>
/// <param name="Number">From 1.</param>
/// <param name="Angle">From the horizontal, as drawn, in degrees.</param>
/// <param name="Tension">The pull in it, in kilograms; of a basket both its parts together; null where a leg would have
/// to push.</param>
/// <param name="Inward">What it pulls inward on the load, in kilograms; of a basket one part.</param>
/// <param name="Pieces">The sling first, then from the top down.</param>
public sealed record LegOnLift(
    int Number,
    decimal Angle,
    decimal? Tension,
    decimal? Inward,
    IReadOnlyList<PieceOnLift> Pieces
);

/// <summary>The piece that governs.</summary>
/// <param name="Leg">Its leg; null: above the legs, a beam or the crane.</param>
/// <param name="At">Its place in the leg or above, from 0.</param>
/// <param name="Piece">The piece.</param>
public sealed record WeakestPiece(int? Leg, int At, PieceOnLift Piece)
{
    /// <summary>Where it stands.</summary>
    public required CarrierPlace Place { get; init; }
}

/// <summary>What an arrangement comes to.</summary>
public sealed record LiftResult
{
    /// <summary>In which edition it was asked.</summary>
    public required LiftEdition Edition { get; init; }

    public required LiftLoad Load { get; init; }

    public required LiftOutcome Outcome { get; init; }

    public required IReadOnlyList<LegOnLift> Legs { get; init; }

    public required IReadOnlyList<PieceOnLift> Above { get; init; }

    /// <summary>Null where the load hangs under none.</summary>
    public BeamOnLift? Beam { get; init; }

    /// <summary>Null where none is named.</summary>
    public CraneOnLift? Crane { get; init; }

    /// <summary>The crane of the second hook, where two carry it.</summary>
    public CraneOnLift? SecondCrane { get; init; }

    /// <summary>Where the centre of gravity lies in the load's frame; null where nothing says it.</summary>
    public Point3? Centre => Geometry?.Centre ?? Load.Centre?.At;

    /// <summary>Null where no piece has a figure.</summary>
    public WeakestPiece? Weakest { get; init; }

    /// <summary>
    /// The largest load this arrangement carries, in kilograms; null where it is not permitted or a rated load is
    /// missing.
    /// </summary>
    public decimal? Capacity { get; init; }

    /// <summary>What the hanging load does; null for symmetric legs.</summary>
    public LegGeometry? Geometry { get; init; }

    /// <summary>Everything that bears on it; the standing caution first.</summary>
    public required IReadOnlyList<Remark> Remarks { get; init; }
}
