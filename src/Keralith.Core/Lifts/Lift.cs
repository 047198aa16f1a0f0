using Keralith.Core.Gear;
using Keralith.Core.Quantities;
using Keralith.Core.Tags;

namespace Keralith.Core.Lifts;

/// <summary>How the weight of a load is known.</summary>
public enum LoadBasis
{
    /// <summary>From papers somebody answers for.</summary>
    [Code("known")]
    Known,

    /// <summary>Marked on the load.</summary>
    [Code("marked")]
    Marked,

    /// <summary>By a load cell.</summary>
    [Code("weighed")]
    Weighed,

    /// <summary>From its volume and density.</summary>
    [Code("estimated")]
    Estimated,
}

/// <summary>In which edition of the document a lift is told, and answered.</summary>
public enum LiftEdition
{
    First,

    /// <summary>With loads in parts and weighed, edges, beams and cranes.</summary>
    Second,
}

/// <summary>What a choke lies on.</summary>
public enum Contact
{
    [Code("round")]
    Round,

    [Code("square")]
    Square,
}

/// <summary>How many of four legs are counted on.</summary>
public enum FourLegs
{
    /// <summary>Three: the legs are adjusted or the load gives.</summary>
    [Code("three-share")]
    ThreeShare,

    /// <summary>Two: a rigid load rocks on two of them.</summary>
    [Code("two-carry")]
    TwoCarry,
}

/// <summary>The load.</summary>
/// <param name="Weight">Over 0, everything in and on it.</param>
/// <param name="Basis">How it is known; null where nobody says.</param>
/// <param name="Temperature">At the load end of the slings; null: ordinary.</param>
public sealed record LiftLoad(Mass Weight, LoadBasis? Basis, Temperature? Temperature = null)
{
    /// <summary>The share that was added for what is not known, and is in the weight; null: none.</summary>
    public decimal? Contingency { get; init; }

    /// <summary>Before anything was added to it.</summary>
    public Mass Bare { get; init; } = Weight;

    /// <summary>The parts the weight was worked out from; null: it was not.</summary>
    public LoadParts? Parts { get; init; }

    /// <summary>The weighings it was put together from; null: it was not.</summary>
    public LoadWeighings? Weighings { get; init; }

    /// <summary>Whether a document of it tells where its centre of gravity lies: by its parts, or by weighings that are on record.</summary>
    internal bool TellsItsCentre => Parts is not null || (Weighings is not null && Basis == LoadBasis.Weighed);

    /// <summary>Where its own figures put its centre of gravity; null where they don't.</summary>
    public LoadCentre? Centre =>
        Parts?.Centre is { } balance ? new(balance, InPlanOnly: false)
        : Weighings is { } weighed ? new(weighed.Centre, InPlanOnly: true)
        : null;
}

/// <summary>A rating a tag gives the whole sling for a hitch, from an angle up.</summary>
/// <param name="Hitch">The hitch.</param>
/// <param name="Angle">The least horizontal angle it is for, over 0 to 90 degrees.</param>
/// <param name="Load">The whole sling's rated load, over 0.</param>
public sealed record TagTableRow(Hitch Hitch, Angle Angle, Mass Load);

/// <summary>A sling on a lift, one leg of it.</summary>
/// <param name="Gear">What is stated of it.</param>
/// <param name="RatedLoad">One leg straight, as marked, over 0; null where it is not known.</param>
public sealed record LiftSling(GearPiece Gear, Mass? RatedLoad)
{
    /// <summary>As marked; null: the family's usual one is taken, and said.</summary>
    public decimal? DesignFactor { get; init; }

    /// <summary>What the tag gives one leg choked; null where it says nothing.</summary>
    public Mass? ChokerRating { get; init; }

    /// <summary>What the tag gives one leg in a basket; null where it says nothing.</summary>
    public Mass? BasketRating { get; init; }

    /// <summary>What the tag gives the whole sling by hitch and angle; empty where it has no table.</summary>
    public IReadOnlyList<TagTableRow> TagTable { get; init; } = [];

    /// <summary>Of a kit: its maker's own table by legs used; empty where it has none.</summary>
    public IReadOnlyList<LegTableRow> LegTable { get; init; } = [];

    /// <summary>
    /// What the tag gives the whole sling at its own angle: a ceiling where its legs stand as steep or steeper; null
    /// where it names none.
    /// </summary>
    public TagTableRow? Ceiling { get; init; }

    /// <summary>Why its rated load can't be worked out, in words; null: it is simply not known.</summary>
    public string? WhyUnrated { get; init; }

    /// <summary>The maker's paper on record that states a rated load above the usual one; null: none.</summary>
    public string? RatingPaper { get; init; }

    /// <summary>The hottest it has ever met, as recorded.</summary>
    public Temperature? Hottest { get; init; }

    /// <summary>Of a web, a loaded roundsling or mesh, over 0; null where not known.</summary>
    public Length? Thickness { get; init; }
}

/// <summary>How one leg is rigged: its sling, how it holds, and what hangs in it from the top down.</summary>
/// <param name="Hitch">The hitch.</param>
/// <param name="Sling">The sling, the first piece of the leg.</param>
public sealed record LegRigging(Hitch Hitch, LiftSling Sling)
{
    /// <summary>The other pieces of the leg, in order.</summary>
    public IReadOnlyList<LiftComponent> Components { get; init; } = [];

    /// <summary>The angle of choke, 0 to 180 degrees; null where nobody has measured it.</summary>
    public Angle? ChokeAngle { get; init; }

    /// <summary>D/d: what the sling is bent round over its own diameter, over 0; null where not known.</summary>
    public decimal? BendRatio { get; init; }

    /// <summary>Twice round the load before it is choked.</summary>
    public bool DoubleWrap { get; init; }

    public Contact Contact { get; init; }

    /// <summary>One sling passed through two points.</summary>
    public bool Reeved { get; init; }

    /// <summary>Slings cross under the load.</summary>
    public bool Crossed { get; init; }

    /// <summary>The edge it bears on; null: on none.</summary>
    public Edge? Edge { get; init; }
}

/// <summary>Where the legs stand.</summary>
public abstract record Arrangement
{
    private protected Arrangement() { }
}

/// <summary>Legs standing alike at one angle, the load centred.</summary>
/// <param name="Angle">From the horizontal, 0 to 90 degrees.</param>
/// <param name="Rigging">Of each leg, 1 to 4; all in one hitch.</param>
public sealed record SymmetricLegs(Angle Angle, IReadOnlyList<LegRigging> Rigging) : Arrangement
{
    /// <summary>Legs rigged alike.</summary>
    public SymmetricLegs(int legs, Angle angle, LegRigging each)
        : this(angle, [.. Enumerable.Repeat(each, legs)]) { }
}

/// <summary>Legs to known points. Made by <see cref="LegGeometry.Read"/>, which refuses what has no answer.</summary>
/// <param name="Geometry">Hook, centre of gravity and picks, and the pull of each leg.</param>
/// <param name="Rigging">Of each leg, in the order of the picks.</param>
public sealed record LegsToPoints(LegGeometry Geometry, IReadOnlyList<LegRigging> Rigging) : Arrangement
{
    /// <summary>Whether somebody said where the centre of gravity lies; else the load's own figures say it.</summary>
    public bool CentreIsTyped { get; init; } = true;

    /// <summary>Whether a qualified person set the load's own figures for it aside, and the typed one counts alone.</summary>
    public bool OwnIsSetAside { get; init; }
}

/// <summary>A lift as planned.</summary>
/// <param name="Books">The rule books worked to, at least one.</param>
/// <param name="Load">What is lifted.</param>
/// <param name="Arrangement">How the legs stand.</param>
public sealed record Lift(IReadOnlyList<RuleBook> Books, LiftLoad Load, Arrangement Arrangement)
{
    public LiftEdition Edition { get; init; }

    /// <summary>The crane it hangs from; null: none is named.</summary>
    public Crane? Crane { get; init; }

    /// <summary>How four legs count; null: three where they are symmetric, two on a geometry.</summary>
    public FourLegs? FourLegs { get; init; }

    /// <summary>What hangs above the legs: it sees the whole load and the rigging.</summary>
    public IReadOnlyList<LiftComponent> Above { get; init; } = [];

    /// <summary>Weight of the rigging below what is above; null where nobody gave it.</summary>
    public Mass? Rigging { get; init; }

    /// <summary>
    /// Own weights of the pieces above, in their order: what hangs above one of them sees it too. Empty: not asked.
    /// </summary>
    public IReadOnlyList<Mass?> AboveWeights { get; init; } = [];

    /// <summary>Which legs are one sling, and what collects them; null: it is not known.</summary>
    public LegSlings? LegSlings { get; init; }

    /// <summary>Pieces of the lift whose own weight nobody knows; null: it is not asked.</summary>
    public IReadOnlyList<string>? Unweighed { get; init; }

    /// <summary>What a beam weighs that the load hangs under; 0 where there is none, or nobody knows.</summary>
    internal decimal BeamWeight => (Arrangement as UnderBeam)?.Beam.OwnWeight?.Kilograms ?? 0;

    /// <summary>What a piece above sees beside the load: the rigging, a beam and every piece above the legs below it.</summary>
    /// <param name="at">Its place from the top.</param>
    internal decimal Below(int at) =>
        (Rigging?.Kilograms ?? 0) + BeamWeight + AboveWeights.Skip(at + 1).Sum(w => w?.Kilograms ?? 0);
}
