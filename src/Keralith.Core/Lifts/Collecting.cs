using Keralith.Core.Gear;
using Keralith.Core.Quantities;

namespace Keralith.Core.Lifts;

/// <summary>
/// Who collects legs that are separate slings: the lowest piece above them, at the widest angle between any two of
/// them. A sling of several legs with its own top link is one connection.
/// </summary>
internal static class Collecting
{
    /// <summary>A hook takes up to this much, included, in degrees (ASME B30.10).</summary>
    public const decimal MostInHook = 90;

    /// <summary>The widest angle between any two legs where they meet; null where nothing is collected.</summary>
    /// <param name="stand">How the legs stand.</param>
    /// <param name="slings">The mark of each leg's sling.</param>
    public static Angle? Included(PlannedStand stand, IReadOnlyList<string> slings)
    {
        if (slings.Distinct(StringComparer.Ordinal).Count() < 2)
            return null;
        return stand switch
        {
            StandAlike alike => new(180 - (2 * alike.Angle.Degrees)),
            StandPoints points => Widest(points.Geometry, slings),
            StandBeam { TopAngle: { } top } => new(180 - (2 * top.Degrees)),
            StandBeam or StandDrift or StandCranes => null,
            _ => throw new System.Diagnostics.UnreachableException(),
        };
    }

    /// <summary>What the piece that collects has against it, beyond its own judgement.</summary>
    /// <param name="lowest">The lowest piece above the legs; null: the plan names none.</param>
    /// <param name="included">The widest angle between two legs.</param>
    /// <param name="eyes">How many slings it collects.</param>
    public static Remark? Against(LiftGear? lowest, Angle included, int eyes)
    {
        var said = $"{QuantityFormat.Number(QuantityFormat.Round(included.Degrees, 1))} deg";
        if (lowest is null)
            return included.Degrees > MostInHook
                ? new(
                    LiftOutcome.Ask,
                    $"The legs meet at {said} included and the plan names nothing that collects them: a hook takes up to 90 deg, a ring, link or shackle up to 120."
                )
                : null;
        var isHook = lowest.Gear.Family.Kind == GearKind.Hook || lowest.Gear.Family.Group == FamilyGroup.Hoist;
        if (lowest.Gear.Family.Group == FamilyGroup.Hoist && included.Degrees > MostInHook)
            return new(
                LiftOutcome.NotPermitted,
                $"The legs meet in the hook of {lowest} at {said} included: a hook collects up to 90 deg. Gather them in a ring or link."
            );
        return isHook && eyes > 2
            ? new(LiftOutcome.Caution, $"{lowest} collects {eyes} eyes in its hook: gather them in a link.")
            : null;
    }

    private static Angle Widest(LegGeometry geometry, IReadOnlyList<string> slings)
    {
        var widest = 0.0;
        for (var one = 0; one < geometry.Picks.Count; one++)
        {
            for (var other = one + 1; other < geometry.Picks.Count; other++)
            {
                if (slings[one] != slings[other])
                    widest = Math.Max(widest, geometry.Between(one, other));
            }
        }

        return new(QuantityFormat.Round(Figures.Of(widest), 6));
    }
}
