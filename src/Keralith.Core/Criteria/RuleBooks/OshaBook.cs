namespace Keralith.Core.Criteria.RuleBooks;

/// <summary>OSHA general industry (29 CFR 1910.184 slings, .179 hooks and hoists).</summary>
internal static class OshaBook
{
    public static RuleBook Book { get; } = new()
    {
        Id = "osha",
        Name = "OSHA general industry",
        Covers = "29 CFR 1910.184 and 1910.179",
        DesignFactor = f => f.Code == "alloy-chain-sling" ? 4 : null,
        Rules = new Dictionary<string, BookRule>
        {
            ["hook.throat"] = new(new GrowthLimit(0.15m, Comparator.Above)),
            ["hook.twist"] = new(null, Outcome.Hold) { DecidedBy = "hook.twist-angle" },
            ["hook.twist-angle"] = new(new AngleLimit(10)),
            ["chain.link-thickness"] = new(ChainThickness.Osha),
            ["chain.gauge-growth"] = new(new TwoStepGrowth(0.005m, 0.015m)),
        },
    };
}
