using Keralith.Core.Quantities;

namespace Keralith.Core.Lifts;

/// <summary>How a beam carries.</summary>
public enum BeamKind
{
    /// <summary>In compression, between two legs at an angle.</summary>
    [Code("spreader")]
    Spreader,

    /// <summary>In bending, hung from its middle.</summary>
    [Code("lifting")]
    Lifting,

    /// <summary>Pivoted at its middle: it shares by its arms.</summary>
    [Code("equaliser")]
    Equaliser,
}

/// <summary>A beam between what hangs above and the load (ASME B30.20).</summary>
/// <param name="Kind">How it carries.</param>
/// <param name="RatedLoad">On its plate, over 0: what may hang below it; null where not known.</param>
/// <param name="OwnWeight">0 and over; null where nobody knows.</param>
/// <param name="Span">Between the top picks of a spreader, over 0; 0 for the others.</param>
public sealed record LiftingBeam(BeamKind Kind, Mass? RatedLoad, Mass? OwnWeight, Length Span)
{
    /// <summary>Taken where the plate states none.</summary>
    public static readonly Angle UsualLeastTopAngle = new(45);

    /// <summary>Horizontal angle of both legs above a spreader, between 0 and 90 degrees; null for the others.</summary>
    public Angle? TopAngle { get; init; }

    /// <summary>The flattest the legs above a spreader may stand.</summary>
    public Angle LeastTopAngle { get; init; } = UsualLeastTopAngle;

    /// <summary>Each leg above a spreader; the one plumb leg above another beam, null where it hangs by itself.</summary>
    public LegRigging? Top { get; init; }
}

/// <summary>One place below a beam where the load hangs plumb.</summary>
/// <param name="At">Along the beam from its middle, signed.</param>
/// <param name="Rigging">What hangs there.</param>
public sealed record Drop(Length At, LegRigging Rigging)
{
    /// <summary>How far its pick stands above the load's centre of gravity, negative below; null where not known.</summary>
    public Length? AboveCentre { get; init; }
}

/// <summary>A load hung below a beam.</summary>
/// <param name="Beam">The beam.</param>
/// <param name="Drops">One or two; two for an equaliser, at two places.</param>
/// <param name="Centre">
/// Where the load's centre of gravity lies along the beam from its middle, signed; null where nobody says.
/// </param>
public sealed record UnderBeam(LiftingBeam Beam, IReadOnlyList<Drop> Drops, Length? Centre) : Arrangement;
