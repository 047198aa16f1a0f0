namespace Keralith.Core.Gear;

/// <summary>Metal mesh, fiber rope and web slings, and roundslings (ASME B30.9, chapters 9-3 to 9-6).</summary>
internal static class SyntheticAndMeshSlings
{
    public static GearFamily Mesh { get; } =
        new()
        {
            Code = "metal-mesh-sling",
            Kind = GearKind.Mesh,
            Name = "Metal mesh sling",
            Standard = "ASME B30.9, metal mesh slings",
            Group = FamilyGroup.Sling,
            CertificateDue = true,
            HasAttachments = true,
            AssumedDesignFactor = 5,
            Asks = ["width", "gauge", "coating", "wireDiameter", "reach"],
            Requires = ["width", "gauge", "coating"],
            Parts =
            [
                new("tag", "Tag", []),
                new("body", "Mesh", MeshCriteria.OnBody),
                new("fitting-top", "Upper end fitting", MeshCriteria.OnFitting),
                new("fitting-bottom", "Lower end fitting", MeshCriteria.OnFitting),
            ],
            TagEntries =
            [
                TagEntries.Maker,
                new("ratedLoad", "rated load, vertical basket"),
                new("chokerLoad", "rated load, choker"),
                TagEntries.Identification,
            ],
        };

    public static GearFamily FiberRope { get; } =
        new()
        {
            Code = "fiber-rope-sling",
            Kind = GearKind.FiberRope,
            Name = "Fiber rope sling",
            Standard = "ASME B30.9, synthetic fiber rope slings",
            Group = FamilyGroup.Sling,
            HasAttachments = true,
            AssumedDesignFactor = 5,
            Asks = ["size", "fiber", "strands", "legs", "reach", .. EndFittings.Asks],
            Requires = ["size", "fiber", "legs"],
            Narrowed = new Dictionary<string, IReadOnlyList<string>> { ["fiber"] = Fibers },
            Parts =
            [
                new("tag", "Tag", []),
                new("leg-{n}", "Leg {n}, rope", FiberRopeCriteria.OnLeg),
                .. EndFittings.On("leg-{n}/", "Leg {n}, "),
            ],
            TagEntries =
            [
                TagEntries.Maker,
                TagEntries.MakersCode,
                TagEntries.RatedLoad,
                TagEntries.Hitch,
                new("fiber", "fiber"),
                TagEntries.Legs,
            ],
        };

    public static GearFamily Web { get; } =
        new()
        {
            Code = "web-sling",
            Kind = GearKind.Web,
            Name = "Web sling",
            Standard = "ASME B30.9, synthetic web slings",
            Group = FamilyGroup.Sling,
            HasAttachments = true,
            AssumedDesignFactor = 5,
            Asks = ["width", "plies", "fiber", "type", "fittingMetal", "reach", "colour", "warningCore"],
            Requires = ["width", "fiber", "type"],
            Narrowed = new Dictionary<string, IReadOnlyList<string>> { ["fiber"] = Fibers },
            Parts =
            [
                new("tag", "Tag", []),
                new("body", "Body", WebCriteria.OnBody),
                new("eye-top", "Upper eye", WebCriteria.OnEye),
                new("eye-bottom", "Lower eye", WebCriteria.OnEye),
                new("fitting-top", "Upper fitting", ["web.fitting"])
                {
                    Present = g => g.Text("type") == "with-fittings",
                },
                new("fitting-bottom", "Lower fitting", ["web.fitting"])
                {
                    Present = g => g.Text("type") == "with-fittings",
                },
            ],
            TagEntries =
            [
                TagEntries.Maker,
                TagEntries.MakersCode,
                TagEntries.RatedLoad,
                TagEntries.Hitch,
                new("fiber", "fiber"),
                TagEntries.Legs,
            ],
        };

    public static GearFamily Roundsling { get; } =
        new()
        {
            Code = "roundsling",
            Kind = GearKind.Roundsling,
            Name = "Roundsling",
            Standard = "ASME B30.9, synthetic roundslings",
            Group = FamilyGroup.Sling,
            HasAttachments = true,
            AssumedDesignFactor = 5,
            Asks = ["circumference", "coreFiber", "coverFiber", "colour", "endFitting"],
            Requires = ["circumference", "coreFiber"],
            Parts =
            [
                new("tag", "Tag", []),
                new("body", "Body", RoundslingCriteria.OnBody),
                new("fitting", "Fitting", ["round.fitting"]) { Present = g => g.EndFitting is not null },
            ],
            TagEntries =
            [
                TagEntries.Maker,
                TagEntries.MakersCode,
                TagEntries.RatedLoad,
                TagEntries.Hitch,
                new("coreFiber", "core fiber"),
                new("coverFiber", "cover fiber")
                {
                    Due = g => g.Text("coverFiber") is { } cover && cover != g.Text("coreFiber"),
                },
                TagEntries.Legs,
            ],
        };

    private static IReadOnlyList<string> Fibers => ["nylon", "polyester", "polypropylene"];
}
