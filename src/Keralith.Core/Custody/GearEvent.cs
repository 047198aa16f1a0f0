using Keralith.Core.Ledger;
using Keralith.Core.People;

namespace Keralith.Core.Custody;

/// <summary>Something that happens to gear beyond its use.</summary>
public enum GearEventKind
{
    /// <summary>It carried more than its rated load.</summary>
    [Code("overload")]
    Overload,

    /// <summary>A load fell into it or was snatched.</summary>
    [Code("shock")]
    Shock,

    [Code("fire")]
    Fire,

    [Code("chemical")]
    Chemical,

    [Code("collision")]
    Collision,

    [Code("lightning")]
    Lightning,
}

/// <summary>
/// What is known of each kind of event: everything that was on the hook is held, and looked at for what it leaves
/// behind (ASME B30.9, B30.10, B30.16, B30.26: removal after such an event until inspected).
/// </summary>
public static class GearEvents
{
    /// <summary>The kind's name as people read it.</summary>
    public static string Name(GearEventKind kind) =>
        kind switch
        {
            GearEventKind.Overload => "overload",
            GearEventKind.Shock => "shock load",
            GearEventKind.Fire => "fire or heat",
            GearEventKind.Chemical => "chemicals",
            GearEventKind.Collision => "collision or fall",
            GearEventKind.Lightning => "lightning or current",
        };

    /// <summary>What to look at, beside every question of the inspection.</summary>
    public static IReadOnlyList<string> LookAt(GearEventKind kind) =>
        kind switch
        {
            GearEventKind.Overload =>
            [
                "Length over the same links or along each leg against when it was new: legs hung together show a stretched one at once.",
                "Hooks: throat against when new, twist, a latch that no longer meets the tip. Links and shackles: spread bows, pins that no longer run in freely.",
                "Ropes and webs: broken wires or stitches at the ends, a core that stands out, ends that have slipped in their ferrules.",
                "Hoists: bent handles and hooks, brake lining, load chain over its whole length, what holds the hoist up.",
            ],
            GearEventKind.Shock =>
            [
                "Cracks where link bears on link and at the roots of threads; doubt about a crack is settled by a test for cracks, not by eye.",
                "Hooks, latches and pins as after an overload; rope strands that stand out, birdcages.",
                "What was above the hook too: trolley, beam, lifting point and their bolts.",
            ],
            GearEventKind.Fire =>
            [
                "Colours of heat on steel, scale, spatter. Chain that met more than 204 C loses rated load, over 538 C for good: ask how hot it was.",
                "Melted, hard or glazed fibre; burnt covers: a roundsling's core is not seen.",
                "Lubricant cooked away in ropes, bearings and hoists; burnt insulation.",
            ],
            GearEventKind.Chemical =>
            [
                "Which chemical, how strong, how warm, how long: the fibre and the grade decide. Keep its name with the piece.",
                "Pits and brittle surfaces on steel and aluminium; fibre that has stiffened, bleached or powders.",
                "Wash hands and gear before it is handled; doubt that can't be seen is held for the maker's word.",
            ],
            GearEventKind.Collision =>
            [
                "Bends, nicks and gouges on edges and corners; frames and beams out of line.",
                "Cracks beside welds; pins and covers that have moved; hooks knocked open.",
            ],
            GearEventKind.Lightning =>
            [
                "Arc marks, melted spots and welded wires, mostly at the bearing points and in hooks and swivels.",
                "Bearings and brakes that current went through; controls and limiters of powered hoists.",
            ],
        };

    /// <summary>Letters that tell what happened.</summary>
    public const int LongestTold = 500;

    /// <summary>Records that something happened to a piece: it is held at once. Anybody may.</summary>
    /// <param name="id">The event's id: everything that was there shares it.</param>
    /// <param name="mark">The piece's mark.</param>
    /// <param name="happened">The day.</param>
    /// <param name="what">What happened, in words.</param>
    public static Checked<PieceOutcome> Record(
        Guid id,
        GearEventKind kind,
        DateOnly? happened,
        string? what,
        string mark,
        PieceState state,
        Signer by
    )
    {
        if (by.Without(Right.Hold) is { } forbidden)
            return forbidden;
        if (happened is not { } day)
            return new Refusal("When did it happen? Write the day.");
        if (day > by.Day)
            return new Refusal("The day it happened lies in the future.");
        if (string.IsNullOrWhiteSpace(what))
            return new Refusal("Write what happened, where, and who saw it.");
        if (what.Length > LongestTold)
            return new Refusal($"That is too long: {LongestTold} letters at most.");
        var told = what.Trim();
        var held = Cage.On(
            state,
            new NewHold(HoldCause.Event, $"{Name(kind)} on {day:yyyy-MM-dd}: {told}"),
            new GearEventRecorded(id, Code.Of(kind), day, told)
        );
        return held.Ok ? held : held.Refusal! with { Words = $"{mark}: {held.Fault}" };
    }
}
