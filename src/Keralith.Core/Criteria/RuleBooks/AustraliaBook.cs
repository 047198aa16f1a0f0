namespace Keralith.Core.Criteria.RuleBooks;

/// <summary>Australia: shares of the original dimension.</summary>
internal static class AustraliaBook
{
    public static RuleBook Book { get; } = new()
    {
        Id = "australia",
        Name = "Australia",
        Covers = "AS 3775, AS 3776",
        DesignFactor = f => f.Code == "alloy-chain-sling" ? 4 : null,
        Rules = new Dictionary<string, BookRule>
        {
            ["hook.throat"] = new(new GrowthLimit(0.05m, Comparator.Above)),
            ["hook.wear"] = new(new LossLimit(1, 10, Comparator.Below)),
            ["chain.link-thickness"] = new(new NominalThicknessLoss(0.1m)),
        },
    };
}
