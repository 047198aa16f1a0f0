using Keralith.Core.Criteria;

namespace Keralith.Core.Gear.Families;

/// <summary>Alloy chain slings (ASME B30.9, chapter 9-1).</summary>
internal static class AlloyChainSling
{
    private static readonly string[] Coupling = ["coupling.free", .. LinkCriteria.OnAnyLink];

    public static GearFamily Family { get; } = new()
    {
        Code = "alloy-chain-sling",
        Name = "Alloy chain sling",
        Standard = "ASME B30.9, alloy chain slings",
        Group = FamilyGroup.Sling,
        CertificateDue = true,
        HasAttachments = true,
        AssumedDesignFactor = 4,
        Asks = ["size", "grade", "legs", "reach", "endFitting", "hookLatch", "hookSwivels", "shortener", "pinType"],
        Requires = ["size", "grade", "legs", "endFitting"],
        Parts =
        [
            new("tag", "Tag", []),
            new("top-link", "Top link", LinkCriteria.OnAnyLink),
            new("leg-{n}/coupling", "Leg {n}, coupling", Coupling),
            new("leg-{n}/shortener", "Leg {n}, shortener", Coupling) { Present = g => g.Shortener },
            new("leg-{n}", "Leg {n}, chain", ChainCriteria.OnLeg),
            new("leg-{n}/hook", "Leg {n}, hook", HookCriteria.OnAssembly) { Present = g => g.EndFitting == "hook" },
            new("leg-{n}/fitting", "Leg {n}, end link", LinkCriteria.OnAnyLink) { Present = g => g.EndFitting == "link" },
            new("leg-{n}/fitting", "Leg {n}, end shackle", ShackleCriteria.OnFitting) { Present = g => g.EndFitting == "shackle" },
            new("legs", "Legs hung together", ["chain.leg-difference"]) { Present = g => g.Legs >= 2 },
        ],
        TagEntries =
        [
            new("maker", "maker"),
            new("grade", "grade"),
            new("size", "chain size"),
            new("legs", "number of legs") { Due = g => g.Legs > 1 },
            new("ratedLoad", "rated load"),
            new("hitch", "hitch and angle of the rated load"),
            new("reach", "reach"),
            new("identification", "individual identification"),
        ],
    };
}
