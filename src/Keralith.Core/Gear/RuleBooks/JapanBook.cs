namespace Keralith.Core.Gear;

/// <summary>Japan: losses as shares of the nominal size.</summary>
internal static class JapanBook
{
    public static RuleBook Book { get; } =
        new()
        {
            Id = "japan",
            Name = "Japan",
            Covers = "Safety Ordinance for Cranes",
            DesignFactor = new DesignFactors(Chain: 5, WireRope: 6, WebAndRound: 6, Mesh: 5, FiberRope: 6).Of,
            WatchedBelow = 60,
            AsksOfOneLeg = true,
            Rules = new Dictionary<string, BookRule>
            {
                ["chain.link-thickness"] = new(new NominalThicknessLoss(0.1m)),
                ["chain.gauge-growth"] = new(new GrowthLimit(0.05m, Comparator.AtOrAbove)) { BesideAsme = true },
                ["rope.broken-in-lay"] = new(new ShareOfWires(10, AtShare: true)),
                ["rope.broken-in-strand"] = new(new ShareOfStrand(10, 5)),
                ["rope.diameter"] = new(new LossLimit(7, 100, Comparator.AtOrBelow)),
            },
        };
}
