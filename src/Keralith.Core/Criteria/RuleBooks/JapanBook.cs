namespace Keralith.Core.Criteria.RuleBooks;

/// <summary>Japan: losses as shares of the nominal size.</summary>
internal static class JapanBook
{
    public static RuleBook Book { get; } = new()
    {
        Id = "japan",
        Name = "Japan",
        Covers = "Safety Ordinance for Cranes",
        DesignFactor = f => f.Code == "alloy-chain-sling" ? 5 : null,
        Rules = new Dictionary<string, BookRule>
        {
            ["chain.link-thickness"] = new(new NominalThicknessLoss(0.1m)),
            ["chain.gauge-growth"] = new(new GrowthLimit(0.05m, Comparator.AtOrAbove)) { BesideAsme = true },
        },
    };
}
