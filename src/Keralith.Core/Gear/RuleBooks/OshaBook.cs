namespace Keralith.Core.Gear;

/// <summary>OSHA general industry (29 CFR 1910.184 slings, .179 hooks and hoists).</summary>
internal static class OshaBook
{
    public static RuleBook Book { get; } =
        new()
        {
            Id = "osha",
            Name = "OSHA general industry",
            Covers = "29 CFR 1910.184 and 1910.179",
            DesignFactor = new DesignFactors(Chain: 4).Of,
            IdleMonths = 6,
            HasLowerSyntheticHeat = true,
            RemovesHeatedFiberCore = true,
            KeepsPolypropyleneFromCaustics = true,
            Rules = new Dictionary<string, BookRule>(Common)
            {
                ["rope.broken-in-lay"] = new(new StrandLaidCount(10)),
                ["rope.broken-in-strand"] = new(new CountLimit(5)),
                ["rope.clips"] = new(null, Outcome.Remove) { AtLeast = Outcome.Hold },
            },
        };

    /// <summary>What general industry and construction share.</summary>
    internal static IReadOnlyDictionary<string, BookRule> Common =>
        new Dictionary<string, BookRule>
        {
            ["hook.throat"] = new(new GrowthLimit(0.15m, Comparator.Above)),
            ["hook.twist"] = new(null, Outcome.Hold) { DecidedBy = "hook.twist-angle" },
            ["hook.twist-angle"] = new(new AngleLimit(10)),
            ["chain.link-thickness"] = new(ChainThickness.Osha),
            ["chain.gauge-growth"] = new(new TwoStepGrowth(0.005m, 0.015m)),
            ["rope.outer-wire"] = new(new LossLimit(1, 3, Comparator.AtOrBelow)),
            ["rope.corrosion"] = new(null, Outcome.Remove) { Says = "Any corrosion of the rope or its ends." },
        };
}
