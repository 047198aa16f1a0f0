using Keralith.Core.Gear;
using Keralith.Core.Quantities;
using Keralith.Core.Tags;

namespace Keralith.Core.Lifts;

/// <summary>Where a component hangs.</summary>
/// <param name="LegAngle">Its leg's angle from the horizontal; null: above the legs.</param>
/// <param name="Sling">The sling of its leg, where the component is the next piece to it.</param>
/// <param name="Before">The component before it in the leg.</param>
internal sealed record ComponentStand(Angle? LegAngle, GearPiece? Sling, LiftComponent? Before);

/// <summary>What hardware may carry (ASME B30.26, B30.10, B30.16): its rated load, less what angle and bend take.</summary>
internal static class ComponentOnLift
{
    /// <summary>Off the axis up to this counts as in line.</summary>
    public const decimal InLine = 5;

    /// <summary>A pull said to be nearer to a bolt's axis than drawn by more than this is asked about, in degrees.</summary>
    private const decimal TypedNearer = 1;

    /// <summary>How far off plumb a hung hoist may pull: a site default.</summary>
    public const decimal MostOffPlumb = 2;

    private static readonly Dictionary<string, GearPiece> Kinds = new[]
    {
        ("shackle", "shackle"),
        ("hook", "hook"),
        ("eye-bolt", "eye-bolt"),
        ("swivel-hoist-ring", "swivel-hoist-ring"),
        ("turnbuckle", "turnbuckle"),
        ("link", "link-or-ring"),
        ("load-indicator", "load-indicator"),
    }.ToDictionary(
        k => k.Item1,
        k => new GearPiece(
            GearFamilies.Find(k.Item2)!,
            k.Item1 == "eye-bolt" ? [new("material", new TextValue("carbon"))] : []
        )
    );

    /// <param name="component">The component.</param>
    /// <param name="demand">What is asked of it, in kilograms; null where a leg would have to push.</param>
    /// <param name="stand">Where it hangs.</param>
    /// <param name="temperature">Of the load, for pieces of the legs; null: ordinary.</param>
    /// <param name="books">The books worked to.</param>
    public static PieceOnLift Judge(
        LiftComponent component,
        decimal? demand,
        ComponentStand stand,
        Temperature? temperature,
        IReadOnlyList<RuleBook> books
    )
    {
        var piece = new PieceJudgement(component.Kind, demand);
        piece.Rated(component.RatedLoad);
        switch (component)
        {
            case ShackleOnLift shackle:
                Shackle(piece, shackle);
                break;
            case HookOnLift { Collects.Degrees: > 90 }:
                piece.Forbid("a hook collects up to 90 deg included: use a ring or shackle");
                break;
            case HookOnLift:
                piece.Note(LiftOutcome.Ok, "the hook is loaded in its bowl, never at its tip");
                break;
            case EyeBoltOnLift bolt:
                EyeBolt(piece, bolt, stand);
                break;
            case HoistRingOnLift:
                piece.Note(LiftOutcome.Ok, "the hoist ring is torqued as marked and free to swing");
                break;
            case TurnbuckleOnLift:
                piece.Note(
                    LiftOutcome.Caution,
                    "a turnbuckle pulls in line only, locked against turning; not for routine lifts"
                );
                break;
            case LinkOnLift { Collects.Degrees: > 120 }:
                piece.Forbid("a ring collects up to 120 deg included");
                break;
            case LinkOnLift or LoadIndicatorOnLift:
                break;
            case ClipEyeOnLift:
                ClipEye(piece, books);
                break;
            case HoistOnLift hoist:
                Hoist(piece, hoist);
                break;
            case LiftingPointOnLift point:
                if (!point.Documented)
                    piece.Note(LiftOutcome.Ask, "the lifting point has no calculation on file: ask a qualified person");
                break;
            case OtherOnLift:
                piece.Note(
                    LiftOutcome.Ask,
                    "how it may be loaded stands in its maker's instructions: a qualified person reads them first"
                );
                break;
            default:
                throw new InvalidOperationException($"No such component: {component.Kind}.");
        }

        if (
            component is EyeBoltOnLift or HoistRingOnLift
            && stand.Sling is { Family.Code: "wire-rope-sling", EndFitting: null }
        )
            piece.Forbid("a wire rope sling straight through an eye or ring is bent over its edge: a shackle between");
        if (component is EyeBoltOnLift && (stand.Before is HookOnLift || stand.Sling?.EndFitting == "hook"))
            piece.Note(LiftOutcome.Ask, "a hook straight in an eye bolt may not seat: a shackle between");
        if (temperature is { } degrees && stand.LegAngle is not null)
        {
            if (Kinds.TryGetValue(component.Kind, out var gear))
                Works(piece, gear, degrees, "the load's", books);
            else
                piece.Note(
                    LiftOutcome.Ask,
                    $"no table says how hot or cold it may be: the load is at {degrees}, ask the maker"
                );
        }

        return piece.Done();
    }

    /// <summary>A wire rope eye made with clips.</summary>
    public static void ClipEye(PieceJudgement piece, IReadOnlyList<RuleBook> books)
    {
        if (books.FirstOrDefault(b => b.ForbidsClipEyes) is { } book)
            piece.Forbid($"an eye made with clips is not permitted ({book.Name})");
        else
            piece.Note(LiftOutcome.Ask, "an eye made with clips is a qualified person's documented design, or none");
    }

    /// <summary>Whether gear stands a temperature.</summary>
    /// <param name="piece">What the remark goes on.</param>
    /// <param name="gear">The gear.</param>
    /// <param name="degrees">The temperature.</param>
    /// <param name="whose">Whose it is, for the remark.</param>
    /// <param name="books">The books worked to.</param>
    public static void Works(
        PieceJudgement piece,
        GearPiece gear,
        Temperature degrees,
        string whose,
        IReadOnlyList<RuleBook> books
    )
    {
        if (OperatingTemperatures.Of(gear, books) is not { } limits)
            piece.Note(
                LiftOutcome.Ask,
                $"no table says how hot or cold it may be as stated ({whose} {degrees}): ask the maker"
            );
        else if (limits.Exceeded(degrees))
            piece.Note(LiftOutcome.Ask, $"{whose} {degrees} is outside {limits}: ask the maker or a qualified person");
    }

    private static void Shackle(PieceJudgement piece, ShackleOnLift shackle)
    {
        if (shackle.Collects is { Degrees: > 120 })
            piece.Forbid("a bow collects up to 120 deg included");
        else if (shackle.Collects is not null)
            piece.Note(
                LiftOutcome.Ok,
                "legs spread in the bow count as in line; pin on the hook, slings in the bow, spacers to centre"
            );
        if (shackle.Pull is null && shackle.Collects is null)
            piece.Note(LiftOutcome.Ask, "how the shackle is pulled is not said: taken as in line");
        var pull = shackle.Pull?.Degrees ?? 0;
        if (pull > 90)
        {
            piece.Forbid("pulled back over its own bow");
            return;
        }

        if (pull <= InLine)
            return;
        if (shackle.Pin == PinKind.Round)
        {
            piece.Forbid("a round pin takes no pull to the side");
            return;
        }

        if (shackle.Pin is null)
            piece.Note(LiftOutcome.Ask, "what pin it has is not said: a round one takes no pull to the side");
        piece.Reduce("side pull", pull <= 45 ? 0.70m : 0.50m);
    }

    private static void EyeBolt(PieceJudgement piece, EyeBoltOnLift bolt, ComponentStand stand)
    {
        var angle = bolt.Angle?.Degrees ?? (stand.LegAngle is { } leg ? 90 - leg.Degrees : 0);
        if (bolt.Angle is null)
            piece.Note(
                LiftOutcome.Ok,
                $"pulled {QuantityFormat.Number(Math.Round(angle, 2))} deg off its axis, as in the top face of a level load"
            );
        else if (stand.LegAngle is { } drawn && 90 - drawn.Degrees - angle > TypedNearer + PieceJudgement.Tolerance)
            piece.Note(
                LiftOutcome.Ask,
                $"said to be pulled {bolt.Angle} off its axis where its leg as drawn pulls {QuantityFormat.Number(QuantityFormat.Round(90 - drawn.Degrees, 2))} deg off it in the top face of a level load: in which face does it sit?"
            );
        if (bolt.OutOfPlane is null)
            piece.Note(
                LiftOutcome.Ok,
                "taken as turned so that the pull lies in the plane of its eye: shim with washers"
            );
        if (angle > 90)
        {
            piece.Forbid("pulled away from its seat");
            return;
        }

        if (bolt.OutOfPlane is { Degrees: > InLine })
            piece.Forbid("pulled out of the plane of its eye: shim with washers until it faces the pull");
        if (angle > InLine)
        {
            if (bolt.Shoulder == false || !bolt.Seated)
                piece.Forbid($"{(bolt.Seated ? "without a shoulder" : "not seated")} it is pulled in line only");
            if (bolt.Shoulder is null)
                piece.Note(
                    LiftOutcome.Ask,
                    "whether it has a shoulder is not said: without one it is pulled in line only"
                );
            piece.Reduce("angle off the bolt", angle <= 15 ? 0.55m : 0.25m);
        }

        if (bolt.Hole is { } hole)
            Thread(piece, bolt, hole, angle > InLine);
        else if (bolt.AsksHole)
            piece.Note(LiftOutcome.Ask, "what hole it sits in, and how much thread, nobody has said: look, and say it");
    }

    private static void Thread(PieceJudgement piece, EyeBoltOnLift bolt, BoltHole hole, bool angled)
    {
        var steel = bolt.Metal is null or "steel";
        if (!steel)
            piece.Note(LiftOutcome.Ask, $"a thread in {bolt.Metal}: ask the maker (two diameters is the usual advice)");
        switch (hole)
        {
            case BoltHole.Through:
                piece.Note(
                    LiftOutcome.Caution,
                    "through a plain hole: a nut under it, fully engaged, and a second one on top where the shoulder does not seat"
                );
                break;
            case BoltHole.Blind or BoltHole.ThroughTapped when bolt.Engaged is null:
                piece.Note(LiftOutcome.Ask, "how much thread is in the hole is not said");
                break;
            case BoltHole.Blind when bolt.Engaged < 1.5m:
                piece.Forbid(
                    $"{QuantityFormat.Number(bolt.Engaged.Value)} diameters of thread in a blind hole: at least 1.5"
                );
                break;
            case BoltHole.ThroughTapped when bolt.Engaged < 1:
                piece.Note(LiftOutcome.Caution, "tapped through less than one diameter: a nut under it");
                if (angled)
                    piece.Forbid("tapped through less than one diameter it is pulled in line only");
                break;
            case BoltHole.Blind or BoltHole.ThroughTapped:
                if (bolt.Metal is null)
                    piece.Note(LiftOutcome.Ok, "the hole is taken to be in steel");
                break;
            default:
                throw new ArgumentOutOfRangeException(nameof(hole), hole, "No such hole.");
        }
    }

    private static void Hoist(PieceJudgement piece, HoistOnLift hoist)
    {
        if (!hoist.IsHung)
            piece.Note(LiftOutcome.Ok, "its hooks pull in one straight line");
        else if (hoist.OffPlumb is null)
            piece.Note(LiftOutcome.Ok, "taken as hung plumb: no deliberate side pull");
        else if (hoist.OffPlumb is { Degrees: > MostOffPlumb } && hoist.MakersAngle >= hoist.OffPlumb)
            piece.Note(
                LiftOutcome.Caution,
                $"pulled {QuantityFormat.Number(QuantityFormat.Round(hoist.OffPlumb.Value.Degrees, 2))} deg off plumb, within the {hoist.MakersAngle} its maker states"
            );
        else if (hoist.OffPlumb is { Degrees: > MostOffPlumb })
            piece.Forbid(
                $"pulled {QuantityFormat.Number(QuantityFormat.Round(hoist.OffPlumb.Value.Degrees, 2))} deg off plumb: over {QuantityFormat.Number(MostOffPlumb)} deg only where the maker states it (10 deg is taught in some shops and not used here)"
            );
        piece.Note(LiftOutcome.Ok, "never the hoist's own chain or rope round the load, never run to its stops");
    }
}
