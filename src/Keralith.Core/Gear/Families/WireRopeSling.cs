namespace Keralith.Core.Gear;

/// <summary>Wire rope slings (ASME B30.9, chapter 9-2).</summary>
internal static class WireRopeSling
{
    public static GearFamily Family { get; } =
        new()
        {
            Code = "wire-rope-sling",
            Kind = GearKind.WireRope,
            Name = "Wire rope sling",
            Standard = "ASME B30.9, wire rope slings",
            Group = FamilyGroup.Sling,
            HasAttachments = true,
            AssumedDesignFactor = 5,
            Asks =
            [
                "size",
                "construction",
                "body",
                "core",
                "strands",
                "wiresPerStrand",
                "lay",
                "grade",
                "termination",
                "legs",
                "reach",
                "use",
                .. EndFittings.Asks,
            ],
            Requires = ["size", "body", "core", "termination", "legs"],
            Parts =
            [
                new("tag", "Tag", []),
                new("top-link", "Top link", LinkCriteria.OnAnyLink) { Present = g => g.Legs >= 2 },
                new("leg-{n}", "Leg {n}, rope", RopeCriteria.OnLeg),
                new("leg-{n}/eye-top", "Leg {n}, upper eye", RopeCriteria.OnEye),
                new("leg-{n}/eye-bottom", "Leg {n}, lower eye", RopeCriteria.OnEye),
                .. EndFittings.On("leg-{n}/", "Leg {n}, "),
            ],
            TagEntries =
            [
                TagEntries.Maker,
                TagEntries.RatedLoad,
                TagEntries.Hitch,
                new("size", "rope diameter"),
                TagEntries.Legs,
            ],
        };
}
