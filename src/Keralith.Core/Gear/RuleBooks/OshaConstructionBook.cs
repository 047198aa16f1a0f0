namespace Keralith.Core.Gear;

/// <summary>OSHA construction (29 CFR 1926.251). Hooks, chain and twist as in general industry.</summary>
internal static class OshaConstructionBook
{
    public static RuleBook Book { get; } =
        new()
        {
            Id = "osha-construction",
            Name = "OSHA construction",
            Covers = "29 CFR 1926.251",
            DesignFactor = new DesignFactors(Chain: 4).Of,
            IdleMonths = 6,
            HasLowerSyntheticHeat = true,
            RemovesHeatedFiberCore = true,
            KeepsPolypropyleneFromCaustics = true,
            ForbidsClipEyes = true,
            Rules = new Dictionary<string, BookRule>(OshaBook.Common)
            {
                ["rope.broken-in-8d"] = new(new ShareOfWires(10, AtShare: false, "in eight diameters")),
                ["rope.clips"] = new(null, Outcome.Remove) { AtLeast = Outcome.Remove },
            },
        };
}
