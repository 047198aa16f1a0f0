using Keralith.Core.Quantities;
using Keralith.Core.Tags;

namespace Keralith.Core.Lifts;

/// <summary>Where a planned piece hangs.</summary>
/// <param name="Leg">The leg, from 1; 0: in every leg; null: above the legs.</param>
public readonly record struct PlannedPlace(int? Leg)
{
    public static PlannedPlace Above => new((int?)null);

    public static PlannedPlace EveryLeg => new(0);

    /// <summary>Whether it hangs in a leg.</summary>
    public bool IsIn(int leg) => Leg == 0 || Leg == leg;

    /// <summary>The beam the load hangs under.</summary>
    public static PlannedPlace Beam => new(-1);

    /// <summary>Above a beam: the legs it hangs by.</summary>
    public static PlannedPlace Top => new(-2);

    /// <summary>Whether it hangs in the legs that hold the load: none above, no beam.</summary>
    public bool IsLeg => Leg >= 0;

    /// <summary>The fixed word: <c>above</c>, <c>top</c>, <c>beam</c>, <c>legs</c> or <c>leg-2</c>.</summary>
    public override string ToString() =>
        Leg switch
        {
            null => "above",
            -1 => "beam",
            -2 => "top",
            0 => "legs",
            { } n => $"leg-{n}",
        };

    /// <summary>Reads a place.</summary>
    public static PlannedPlace? Read(string? text) =>
        text switch
        {
            "above" => Above,
            "legs" => EveryLeg,
            "beam" => Beam,
            "top" => Top,
            ['l', 'e', 'g', '-', >= '1' and <= '6' and var n] => new(n - '0'),
            _ => null,
        };
}

/// <summary>A registered piece on a plan.</summary>
/// <param name="Mark">Its mark.</param>
/// <param name="Place">Where it hangs.</param>
/// <param name="Facts">How it is rigged.</param>
public sealed record PlannedPiece(string Mark, PlannedPlace Place, RigFacts Facts);

/// <summary>How the legs of a plan stand.</summary>
public abstract record PlannedStand
{
    private protected PlannedStand() { }

    /// <summary>How many legs there are to fill.</summary>
    public abstract int Legs { get; }
}

/// <summary>Alike at one angle.</summary>
public sealed record StandAlike(int Count, Angle Angle) : PlannedStand
{
    public override int Legs => Count;
}

/// <summary>To known points.</summary>
public sealed record StandPoints(LegGeometry Geometry) : PlannedStand
{
    /// <summary>Whether somebody said where the centre of gravity lies; else the load's own figures say it.</summary>
    public bool CentreIsTyped { get; init; } = true;

    /// <summary>Whether a qualified person set the load's own figures for it aside.</summary>
    public bool OwnIsSetAside { get; init; }

    public override int Legs => Geometry.Picks.Count;
}

/// <summary>Along a row of hoists, from each to the next.</summary>
/// <param name="Steps">At least one.</param>
public sealed record StandDrift(IReadOnlyList<Drift> Steps) : PlannedStand
{
    public override int Legs => Steps.Count + 1;
}

/// <summary>Below a beam.</summary>
/// <param name="Kind">How the beam carries.</param>
/// <param name="Span">Between the top picks of a spreader; 0 for the others.</param>
/// <param name="Drops">One or two.</param>
public sealed record StandBeam(BeamKind Kind, Length Span, IReadOnlyList<PlannedDrop> Drops) : PlannedStand
{
    /// <summary>Horizontal angle of the legs above a spreader; null for the others.</summary>
    public Angle? TopAngle { get; init; }

    /// <summary>The flattest the beam's plate lets them stand.</summary>
    public Angle LeastTopAngle { get; init; } = LiftingBeam.UsualLeastTopAngle;

    /// <summary>Where the load's centre of gravity lies along the beam from its middle; null where nobody says.</summary>
    public Length? Centre { get; init; }

    public override int Legs => Drops.Count;
}

/// <summary>A place below a beam where the load hangs.</summary>
/// <param name="At">Along the beam from its middle, signed.</param>
/// <param name="AboveCentre">How far its pick stands above the centre of gravity; null where not known.</param>
public sealed record PlannedDrop(Length At, Length? AboveCentre);

/// <summary>How a plan's slings hold the load.</summary>
public sealed record PlannedHitch(Hitch Hitch)
{
    public Angle? ChokeAngle { get; init; }

    /// <summary>What the slings are bent round; null where nobody has measured it.</summary>
    public Length? BentRound { get; init; }

    public bool DoubleWrap { get; init; }

    public Contact Contact { get; init; }

    public bool Reeved { get; init; }

    public bool Crossed { get; init; }

    /// <summary>The edge of the load the slings bear on; null: on none.</summary>
    public Edge? Edge { get; init; }

    /// <summary>Of webs, loaded roundslings or mesh; null where nobody has measured it.</summary>
    public Length? Thickness { get; init; }
}
