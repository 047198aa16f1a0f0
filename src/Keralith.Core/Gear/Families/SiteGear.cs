namespace Keralith.Core.Gear;

/// <summary>Cargo nets, sling kits, and restraints that are registered only to be told apart.</summary>
internal static class SiteGear
{
    public static GearFamily CargoNet { get; } =
        new()
        {
            Code = "cargo-net",
            Kind = GearKind.Net,
            Name = "Cargo net",
            Standard = "Site rule",
            Group = FamilyGroup.Sling,
            Asks = ["fiber", "mesh", "width", "reach"],
            Requires = ["fiber"],
            Parts =
            [
                new("body", "Mesh", ["net.cut", "net.knot"]),
                new("edge-rope", "Edge rope and loops", ["net.edge"]),
            ],
            TagEntries = [TagEntries.Maker, TagEntries.RatedLoad],
        };

    public static GearFamily Kit { get; } =
        new()
        {
            Code = "sling-kit",
            Kind = GearKind.Kit,
            Name = "Sling kit",
            Standard = "Site rule",
            Group = FamilyGroup.Sling,
            HasAttachments = true,
            Asks = ["legs", "roster"],
            Requires = ["legs"],
            Parts = [new("members", "Members", SiteGearCriteria.Of("kit"))],
            TagEntries = [TagEntries.Identification, TagEntries.RatedLoad],
        };

    public static GearFamily Restraint { get; } =
        new()
        {
            Code = "restraint",
            Kind = GearKind.Restraint,
            Name = "Restraint (not for lifting)",
            Standard = "Not for lifting",
            Group = FamilyGroup.Site,
            NotForLifting = true,
            Asks = ["size", "reach"],
            Requires = [],
            Parts = [new("body", "Body", [])],
            TagEntries = [TagEntries.Maker, TagEntries.RatedLoad],
        };
}
