namespace Keralith.Core.Gear;

/// <summary>Ontario construction: a hook is as made or out, and chain works at five to one.</summary>
internal static class OntarioBook
{
    public static RuleBook Book { get; } =
        new()
        {
            Id = "ontario",
            Name = "Ontario construction",
            Covers = "O. Reg. 213/91",
            DesignFactor = new DesignFactors(Chain: 5).Of,
            ForbidsClipEyes = true,
            Rules = new Dictionary<string, BookRule>
            {
                ["hook.throat"] = new(new GrowthLimit(0, Comparator.Above)),
                ["hook.twist"] = new(null, Outcome.Remove),
                ["rope.broken-in-lay"] = new(new CountLimit(6)),
                ["rope.broken-in-strand"] = new(new CountLimit(3)),
                ["hoistrope.broken-in-lay"] = new(new RunningRopeCount(6)),
                ["hoistrope.broken-in-strand"] = new(new RunningRopeCount(3)),
                ["hoistrope.diameter"] = new(new HoistRopeBandLoss()),
                ["rope.diameter"] = new(new ShareOrBandLoss(0.05m)),
                ["rope.outer-wire"] = new(new LossLimit(1, 3, Comparator.Below)),
                ["rope.clips"] = new(null, Outcome.Remove) { AtLeast = Outcome.Remove },
            },
        };
}
