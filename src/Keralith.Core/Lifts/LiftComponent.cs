using Keralith.Core.Gear;
using Keralith.Core.Quantities;

namespace Keralith.Core.Lifts;

/// <summary>How a shackle's pin is held.</summary>
public enum PinKind
{
    [Code("screw")]
    Screw,

    [Code("bolt")]
    Bolt,

    [Code("round")]
    Round,
}

/// <summary>The hole an eye bolt goes into.</summary>
public enum BoltHole
{
    /// <summary>Tapped, with a bottom.</summary>
    [Code("blind")]
    Blind,

    /// <summary>Tapped, open at both ends.</summary>
    [Code("through-tapped")]
    ThroughTapped,

    /// <summary>Plain, open at both ends: held by a nut.</summary>
    [Code("through")]
    Through,
}

/// <summary>A piece of hardware on a lift, in a leg or above the legs.</summary>
/// <param name="RatedLoad">As marked, over 0; null where it is not known.</param>
public abstract record LiftComponent(Mass? RatedLoad)
{
    /// <summary>The fixed kind of the file formats, such as <c>shackle</c>.</summary>
    public abstract string Kind { get; }
}

/// <summary>A shackle.</summary>
/// <param name="RatedLoad">In line.</param>
/// <param name="Pull">Off the bow's axis, 0 to 180 degrees; null where not known.</param>
/// <param name="Collects">Included angle of the legs in its bow, 0 to 180 degrees; null where it collects none.</param>
/// <param name="Pin">How its pin is held; null where not known.</param>
public sealed record ShackleOnLift(Mass? RatedLoad, Angle? Pull, Angle? Collects, PinKind? Pin)
    : LiftComponent(RatedLoad)
{
    public override string Kind => "shackle";
}

/// <summary>A hook.</summary>
/// <param name="RatedLoad">In its bowl.</param>
/// <param name="Collects">Included angle of the legs in it, 0 to 180 degrees; null where it collects none.</param>
public sealed record HookOnLift(Mass? RatedLoad, Angle? Collects) : LiftComponent(RatedLoad)
{
    public override string Kind => "hook";
}

/// <summary>An eye bolt.</summary>
/// <param name="RatedLoad">In line with its shank.</param>
public sealed record EyeBoltOnLift(Mass? RatedLoad) : LiftComponent(RatedLoad)
{
    public override string Kind => "eye-bolt";

    /// <summary>Whether it has a shoulder; null where not known.</summary>
    public bool? Shoulder { get; init; }

    /// <summary>Whether it is turned down on its seat.</summary>
    public bool Seated { get; init; } = true;

    /// <summary>The pull off its axis, 0 to 180 degrees; null: taken from the leg, as in the top face of a level load.</summary>
    public Angle? Angle { get; init; }

    /// <summary>The pull out of the plane of its eye, 0 to 180 degrees; null where not known.</summary>
    public Angle? OutOfPlane { get; init; }

    /// <summary>What it is turned into; null: not asked.</summary>
    public BoltHole? Hole { get; init; }

    /// <summary>Thread in the hole, in bolt diameters, 0 and over; null where not known.</summary>
    public decimal? Engaged { get; init; }

    /// <summary>Whether a hole nobody has stated is asked about: of registered gear it is, somebody can look.</summary>
    public bool AsksHole { get; init; }

    /// <summary>What the hole is in; null: taken as steel.</summary>
    public string? Metal { get; init; }
}

/// <summary>A swivel hoist ring.</summary>
public sealed record HoistRingOnLift(Mass? RatedLoad) : LiftComponent(RatedLoad)
{
    public override string Kind => "swivel-hoist-ring";
}

/// <summary>A turnbuckle.</summary>
public sealed record TurnbuckleOnLift(Mass? RatedLoad) : LiftComponent(RatedLoad)
{
    public override string Kind => "turnbuckle";
}

/// <summary>A link, ring or swivel.</summary>
/// <param name="RatedLoad">In line.</param>
/// <param name="Collects">Included angle of the legs in it, 0 to 180 degrees; null where it collects none.</param>
public sealed record LinkOnLift(Mass? RatedLoad, Angle? Collects) : LiftComponent(RatedLoad)
{
    public override string Kind => "link";
}

/// <summary>A wire rope eye made with clips.</summary>
public sealed record ClipEyeOnLift(Mass? RatedLoad) : LiftComponent(RatedLoad)
{
    public override string Kind => "clip-eye";
}

/// <summary>A load cell.</summary>
public sealed record LoadIndicatorOnLift(Mass? RatedLoad) : LiftComponent(RatedLoad)
{
    public override string Kind => "load-indicator";
}

/// <summary>A hoist above the legs.</summary>
/// <param name="Family">Its family.</param>
/// <param name="RatedLoad">As marked.</param>
/// <param name="OffPlumb">How far off plumb it pulls, 0 to 180 degrees; null where not known.</param>
public sealed record HoistOnLift(GearFamily Family, Mass? RatedLoad, Angle? OffPlumb) : LiftComponent(RatedLoad)
{
    public override string Kind => Family.Code;

    /// <summary>The angle off plumb the maker states it may pull at; null where the maker states none.</summary>
    public Angle? MakersAngle { get; init; }

    /// <summary>Hung hoists pull plumb; lever and rope-grip hoists pull in any direction.</summary>
    public bool IsHung => Family.Kind is GearKind.HungHandHoist or GearKind.PoweredHoist;
}

/// <summary>A fixed lifting point above the legs.</summary>
/// <param name="RatedLoad">On its plate.</param>
/// <param name="Documented">Whether a calculation is on file.</param>
public sealed record LiftingPointOnLift(Mass? RatedLoad, bool Documented) : LiftComponent(RatedLoad)
{
    public override string Kind => "lifting-point";
}

/// <summary>Gear whose own instructions decide: beams, clamps, blocks.</summary>
/// <param name="Family">Its family.</param>
/// <param name="RatedLoad">As marked.</param>
public sealed record OtherOnLift(GearFamily Family, Mass? RatedLoad) : LiftComponent(RatedLoad)
{
    public override string Kind => Family.Code;
}
