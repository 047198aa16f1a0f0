namespace Keralith.Core.Gear;

/// <summary>Australia: shares of the original dimension.</summary>
internal static class AustraliaBook
{
    public static RuleBook Book { get; } =
        new()
        {
            Id = "australia",
            Name = "Australia",
            Covers = "AS 1353, AS 1666, AS 3775, AS 3776, AS 4497",
            DesignFactor = new DesignFactors(Chain: 4, WebAndRound: 7, FiberRope: 7).Of,
            PeriodicMonths = f => f.Group is FamilyGroup.Sling && f.Code != "alloy-chain-sling" ? 3 : null,
            Choker = (family, round) => family.Kind == GearKind.Chain || round ? 0.75m : 0.50m,
            Rules = new Dictionary<string, BookRule>
            {
                ["hook.throat"] = new(new GrowthLimit(0.05m, Comparator.Above)),
                ["hook.wear"] = new(new LossLimit(1, 10, Comparator.Below)),
                ["chain.link-thickness"] = new(new NominalThicknessLoss(0.1m)),
                ["rope.broken-in-lay"] = new(new ShareOfWires(10, AtShare: false)),
            },
        };
}
