namespace Keralith.Core.Gear;

/// <summary>Alloy chain slings (ASME B30.9, chapter 9-1).</summary>
internal static class AlloyChainSling
{
    private static readonly string[] Coupling = ["coupling.free", .. LinkCriteria.OnAnyLink];

    public static GearFamily Family { get; } =
        new()
        {
            Code = "alloy-chain-sling",
            Kind = GearKind.Chain,
            Name = "Alloy chain sling",
            Standard = "ASME B30.9, alloy chain slings",
            Group = FamilyGroup.Sling,
            CertificateDue = true,
            HasAttachments = true,
            AssumedDesignFactor = 4,
            Asks = ["size", "grade", "legs", "reach", "shortener", .. EndFittings.Asks],
            Requires = ["size", "grade", "legs", "endFitting"],
            Parts =
            [
                new("tag", "Tag", []),
                new("top-link", "Top link", LinkCriteria.OnAnyLink),
                new("leg-{n}/coupling", "Leg {n}, coupling", Coupling),
                new("leg-{n}/shortener", "Leg {n}, shortener", Coupling) { Present = g => g.Shortener },
                new("leg-{n}", "Leg {n}, chain", ChainCriteria.OnLeg),
                .. EndFittings.On("leg-{n}/", "Leg {n}, "),
                new("legs", "Legs hung together", ["chain.leg-difference"]) { Present = g => g.Legs >= 2 },
            ],
            TagEntries =
            [
                TagEntries.Maker,
                new("grade", "grade"),
                new("size", "chain size"),
                TagEntries.Legs,
                TagEntries.RatedLoad,
                TagEntries.Hitch,
                new("reach", "reach"),
                TagEntries.Identification,
            ],
        };
}
