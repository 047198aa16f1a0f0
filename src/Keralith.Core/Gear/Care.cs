namespace Keralith.Core.Gear;

/// <summary>Something done for a piece once it has been looked at: it keeps gear well and never decides anything.</summary>
/// <param name="Code">Short fixed name.</param>
/// <param name="Text">What is done.</param>
public sealed record CareLine(string Code, string Text);

/// <summary>Care at the end of a full inspection, by what gear is like. Ours; the maker's instructions come first.</summary>
public static class Care
{
    private static readonly CareLine Clean = new("clean", "Cleaned");
    private static readonly CareLine Oil = new("oil", "Oiled for storage; wiped again before it is handed out");
    private static readonly CareLine Dry = new("dry", "Dry before it hangs");
    private static readonly CareLine Hang = new("hang", "Hung up, off the floor");
    private static readonly CareLine Shade = new("shade", "Out of the sun, away from heat and chemicals");
    private static readonly CareLine Lubricate = new("lubricate", "Load chain or rope lubricated as the maker says");
    private static readonly CareLine Shift = new("shift", "Wear point shifted: turned, or the other end up");
    private static readonly CareLine Thread = new("thread", "Thread cleaned and greased");
    private static readonly CareLine Reeved = new("stowed", "Hooks stowed, chain or rope not twisted");

    /// <summary>The lines of a family, in the order they are done.</summary>
    public static IReadOnlyList<CareLine> Of(GearFamily family) =>
        family.Kind switch
        {
            GearKind.Chain => [Clean, Oil, Hang],
            GearKind.WireRope => [Clean, Lubricate, Shift, Hang],
            GearKind.Mesh => [Clean, Dry, Hang],
            GearKind.FiberRope or GearKind.Web or GearKind.Roundsling or GearKind.Net =>
            [
                Clean,
                Dry,
                Shift,
                Hang,
                Shade,
            ],
            GearKind.Kit => [Clean, Hang],
            GearKind.Shackle
            or GearKind.EyeBolt
            or GearKind.EyeNut
            or GearKind.HoistRing
            or GearKind.Turnbuckle
            or GearKind.Clip => [Clean, Thread],
            GearKind.HungHandHoist or GearKind.PoweredHoist or GearKind.LeverHoist or GearKind.RopeGripHoist =>
            [
                Clean,
                Lubricate,
                Reeved,
            ],
            GearKind.Hook
            or GearKind.Link
            or GearKind.Swivel
            or GearKind.Block
            or GearKind.Clamp
            or GearKind.Beam
            or GearKind.WedgeSocket => [Clean, Dry],
            GearKind.LoadIndicator => [Clean, Shade],
            GearKind.LiftingPoint or GearKind.Restraint => [Clean],
        };

    /// <summary>What was done, in words; null where nothing of it was.</summary>
    /// <param name="codes">What was ticked; what is no line of the family is passed over.</param>
    public static string? Words(GearFamily family, IReadOnlyCollection<string> codes)
    {
        var done = Of(family).Where(l => codes.Contains(l.Code)).Select(l => l.Text).ToList();
        return done.Count == 0 ? null : string.Join(". ", done) + ".";
    }
}
