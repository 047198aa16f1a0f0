namespace Keralith.Core.Gear;

/// <summary>Lifting clamps and beams (ASME B30.20), and fixed lifting points.</summary>
internal static class BelowHook
{
    private static readonly TagEntry[] Entries =
    [
        TagEntries.Maker,
        TagEntries.Serial,
        new("ownWeight", "own weight") { Due = g => g.Mass("ownWeight") is { Kilograms: > 45 } },
        TagEntries.RatedLoad,
        new("category", "design category and service class"),
    ];

    public static GearFamily Clamp { get; } =
        new()
        {
            Code = "lifting-clamp",
            Kind = GearKind.Clamp,
            Name = "Lifting clamp",
            Standard = "ASME B30.20, below-the-hook lifting devices",
            Group = FamilyGroup.BelowHook,
            CertificateDue = true,
            Asks = ["kind", "width", "ownWeight"],
            Requires = ["kind"],
            Narrowed = new Dictionary<string, IReadOnlyList<string>> { ["kind"] = ["plate", "beam"] },
            Parts =
            [
                new("body", "Body", ["clamp.deformed", "clamp.crack", "clamp.pivot", "clamp.pads", "clamp.screw"]),
                new("jaw", "Jaw", ["clamp.teeth", "clamp.lock", "clamp.wear"]),
            ],
            TagEntries = Entries,
        };

    public static GearFamily Beam { get; } =
        new()
        {
            Code = "lifting-beam",
            Kind = GearKind.Beam,
            Name = "Lifting beam",
            Standard = "ASME B30.20, below-the-hook lifting devices",
            Group = FamilyGroup.BelowHook,
            CertificateDue = true,
            HasAttachments = true,
            Asks = ["kind", "span", "ownWeight"],
            Requires = ["kind"],
            Narrowed = new Dictionary<string, IReadOnlyList<string>>
            {
                ["kind"] = ["spreader", "equalizer", "lifting"],
            },
            Parts =
            [
                new("body", "Beam", ["beam.deformed", "beam.weld-crack", "beam.lug-wear", "beam.hole-wear"]),
                new("fittings", "Fittings", ["beam.fasteners"]),
            ],
            TagEntries = Entries,
        };

    public static GearFamily LiftingPoint { get; } =
        new()
        {
            Code = "lifting-point",
            Kind = GearKind.LiftingPoint,
            Name = "Lifting point",
            Standard = "Site rule and ASME B30.20",
            Group = FamilyGroup.BelowHook,
            Asks = ["kind"],
            Requires = ["kind"],
            Narrowed = new Dictionary<string, IReadOnlyList<string>> { ["kind"] = ["beam", "padeye", "trolley-beam"] },
            Parts = [new("body", "Point", SiteGearCriteria.Of("point"))],
            TagEntries = [TagEntries.RatedLoad, TagEntries.Identification],
        };
}
