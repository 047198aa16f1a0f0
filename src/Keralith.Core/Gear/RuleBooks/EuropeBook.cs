namespace Keralith.Core.Gear;

/// <summary>Europe: the stricter of the national practices.</summary>
internal static class EuropeBook
{
    public static RuleBook Book { get; } =
        new()
        {
            Id = "europe",
            Name = "Europe",
            Covers = "EN 818, EN 1492, EN 1677, EN 13414",
            DesignFactor = new DesignFactors(Chain: 4, WebAndRound: 7, FiberRope: 7).Of,
            PeriodicMonths = f => f.Group is FamilyGroup.Sling or FamilyGroup.Hardware ? 6 : null,
            Choker = (_, _) => 0.80m,
            HasBands = true,
            HasChainHeat = true,
            HasLowerPolyesterHeat = true,
            Rules = new Dictionary<string, BookRule>
            {
                ["hook.throat"] = new(new GrowthLimit(0.1m, Comparator.Above)),
                ["hook.twist"] = new(null, Outcome.Remove),
                ["hook.wear"] = new(new LossLimit(1, 10, Comparator.Below)),
                ["chain.link-thickness"] = new(new NominalThicknessLoss(0.1m)),
                ["chain.gauge-growth"] = new(new GrowthLimit(0.05m, Comparator.Above)) { BesideAsme = true },
                ["rope.broken-in-lay"] = new(new CountLimit(6)),
                ["rope.broken-in-strand"] = new(new CountLimit(3)),
                ["rope.diameter"] = new(new LossLimit(1, 10, Comparator.AtOrBelow)),
            },
        };
}
