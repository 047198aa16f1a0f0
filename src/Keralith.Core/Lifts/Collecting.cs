using Keralith.Core.Quantities;

namespace Keralith.Core.Lifts;

/// <summary>
/// Which legs are one sling, and what collects them. A plan with registered gear knows; a document tells at most how
/// many legs each sling has.
/// </summary>
/// <param name="Of">The sling of each leg, by any number of its own; of a spreader, of each leg above it.</param>
/// <param name="Lowest">The lowest piece above the legs; null: the plan names none.</param>
/// <param name="Name">What that piece is called; null where there is none.</param>
public sealed record LegSlings(IReadOnlyList<int> Of, LiftComponent? Lowest, string? Name)
{
    /// <summary>How many slings there are.</summary>
    public int Count => Of.Distinct().Count();
}

/// <summary>
/// Who collects legs that are separate slings: a hook takes them up to 90 degrees included, a ring, link or shackle up
/// to 120 (ASME B30.10, B30.26), at the widest angle between any two of them, whatever is said of it. A sling of several
/// legs with its own top link is one connection.
/// </summary>
internal static class Collecting
{
    /// <summary>A hook takes up to this much, included, in degrees (ASME B30.10).</summary>
    public const decimal MostInHook = 90;

    /// <summary>A ring, link or shackle takes up to this much, included, in degrees (ASME B30.26).</summary>
    public const decimal MostInRing = 120;

    /// <summary>What legs that meet at a wide angle have against them; null where nothing, or nothing meets.</summary>
    public static Remark? Against(Lift lift)
    {
        if (Included(lift) is not { } included)
            return null;
        var said = $"{QuantityFormat.Number(QuantityFormat.Round(included.Degrees, 1))} deg";
        return lift.LegSlings is { } known ? Known(known, included, said) : ByItsLegs(lift, included, said);
    }

    /// <summary>The widest angle between two legs that are not one sling; null where no two meet.</summary>
    public static Angle? Included(Lift lift)
    {
        if (lift.LegSlings is { Count: < 2 })
            return null;
        return lift.Arrangement switch
        {
            SymmetricLegs { Rigging.Count: > 1 } alike => new(180 - (2 * alike.Angle.Degrees)),
            LegsToPoints { Rigging.Count: > 1 } points => Widest(points.Geometry, lift.LegSlings?.Of),
            UnderBeam { Beam: { Kind: BeamKind.Spreader, TopAngle: { } top } } => new(180 - (2 * top.Degrees)),
            _ => null,
        };
    }

    /// <summary>What a piece collects at most, included, in degrees; null: it collects nothing.</summary>
    private static decimal? MostOf(LiftComponent piece) =>
        piece switch
        {
            HookOnLift or HoistOnLift => MostInHook,
            ShackleOnLift or LinkOnLift => MostInRing,
            _ => null,
        };

    /// <summary>Where the slings are known, the lowest piece above collects them.</summary>
    private static Remark? Known(LegSlings slings, Angle included, string said) =>
        slings.Lowest switch
        {
            null when included.Degrees > MostInHook => new(
                LiftOutcome.Ask,
                $"The legs meet at {said} included and the plan names nothing that collects them: a hook takes up to 90 deg, a ring, link or shackle up to 120."
            ),
            HoistOnLift when included.Degrees > MostInHook => new(
                LiftOutcome.NotPermitted,
                $"The legs meet in the hook of {slings.Name} at {said} included: a hook collects up to 90 deg. Gather them in a ring or link."
            ),
            HookOnLift or HoistOnLift when slings.Count > 2 => new(
                LiftOutcome.Caution,
                $"{slings.Name} collects {slings.Count} eyes in its hook: gather them in a link."
            ),
            _ => null,
        };

    /// <summary>Where a document names the gear, the best that collects must reach the angle, unless one sling has it all.</summary>
    private static Remark? ByItsLegs(Lift lift, Angle included, string said)
    {
        var most = lift.Above.Max(MostOf);
        if (most is not { } reach || included.Degrees <= reach)
            return null;
        var slings = Slings(lift);
        var stated = slings.Select(s => s.Gear.Whole("legs")).ToList();
        if (stated.All(legs => legs >= slings.Count))
            return null;
        return stated.All(legs => legs == 1)
            ? new(
                LiftOutcome.NotPermitted,
                $"The legs are slings of their own and meet at {said} included: what is above collects up to {reach:0} deg. Gather them in a ring or link."
            )
            : new(
                LiftOutcome.Ask,
                $"The legs meet at {said} included, and what is above collects up to {reach:0} deg: are they one sling with a ring of its own?"
            );
    }

    /// <summary>The sling of each leg that meets another: below, or above a spreader.</summary>
    private static IReadOnlyList<LiftSling> Slings(Lift lift) =>
        lift.Arrangement switch
        {
            SymmetricLegs alike => [.. alike.Rigging.Select(r => r.Sling)],
            LegsToPoints points => [.. points.Rigging.Select(r => r.Sling)],
            UnderBeam { Beam.Top: { } top } => [top.Sling, top.Sling],
            _ => [],
        };

    private static Angle Widest(LegGeometry geometry, IReadOnlyList<int>? slings)
    {
        var widest = 0.0;
        for (var one = 0; one < geometry.Picks.Count; one++)
        {
            for (var other = one + 1; other < geometry.Picks.Count; other++)
            {
                if (slings is null || slings[one] != slings[other])
                    widest = Math.Max(widest, geometry.Between(one, other));
            }
        }

        return new(QuantityFormat.Round(Figures.Of(widest), 6));
    }
}
