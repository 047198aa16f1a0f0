namespace Keralith.Core.Criteria.RuleBooks;

/// <summary>Europe: the stricter of the national practices.</summary>
internal static class EuropeBook
{
    public static RuleBook Book { get; } = new()
    {
        Id = "europe",
        Name = "Europe",
        Covers = "EN 818, EN 1677",
        DesignFactor = f => f.Code == "alloy-chain-sling" ? 4 : null,
        PeriodicMonths = f => f.Group is Gear.FamilyGroup.Sling || (f.Group is Gear.FamilyGroup.Hardware && f.Code != "hook") ? 6 : null,
        Rules = new Dictionary<string, BookRule>
        {
            ["hook.throat"] = new(new GrowthLimit(0.1m, Comparator.Above)),
            ["hook.twist"] = new(null, Outcome.Remove),
            ["hook.wear"] = new(new LossLimit(1, 10, Comparator.Below)),
            ["chain.link-thickness"] = new(new NominalThicknessLoss(0.1m)),
            ["chain.gauge-growth"] = new(new GrowthLimit(0.05m, Comparator.Above)) { BesideAsme = true },
        },
    };
}
