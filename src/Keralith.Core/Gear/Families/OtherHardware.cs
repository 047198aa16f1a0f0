namespace Keralith.Core.Gear;

/// <summary>Rope clips, wedge sockets, swivels, rigging blocks, load indicators (ASME B30.26, chapters 26-3 to 26-6).</summary>
internal static class OtherHardware
{
    public static GearFamily Clip { get; } =
        new()
        {
            Code = "wire-rope-clip",
            Kind = GearKind.Clip,
            Name = "Wire rope clip",
            Standard = "ASME B30.26, compression hardware",
            Group = FamilyGroup.Hardware,
            Asks = ["ropeSize", "count"],
            Requires = ["ropeSize"],
            Parts = [new("body", "Saddle and U-bolt", HardwareCriteria.Of("clip"))],
            TagEntries = [TagEntries.Maker, new("size", "size, on the saddle")],
        };

    public static GearFamily WedgeSocket { get; } =
        new()
        {
            Code = "wedge-socket",
            Kind = GearKind.WedgeSocket,
            Name = "Wedge socket",
            Standard = "ASME B30.26, compression hardware",
            Group = FamilyGroup.Hardware,
            Asks = ["ropeSize"],
            Requires = ["ropeSize"],
            Parts = [new("body", "Socket and wedge", HardwareCriteria.Of("wedge"))],
            TagEntries = [TagEntries.Maker, new("size", "size"), new("wedge", "matching wedge")],
        };

    public static GearFamily Swivel { get; } =
        new()
        {
            Code = "swivel",
            Kind = GearKind.Swivel,
            Name = "Swivel",
            Standard = "ASME B30.26, links, rings and swivels",
            Group = FamilyGroup.Hardware,
            Asks = ["size", "material", "grade"],
            Requires = ["size"],
            Parts = [new("body", "Body", [.. LinkCriteria.OnAnyLink, .. HardwareCriteria.Of("swivel")])],
            TagEntries = [TagEntries.Maker, new("ratedLoad", "size or rated load"), TagEntries.GradeIfAlloy],
        };

    public static GearFamily Block { get; } =
        new()
        {
            Code = "rigging-block",
            Kind = GearKind.Block,
            Name = "Rigging block",
            Standard = "ASME B30.26, rigging blocks",
            Group = FamilyGroup.Hardware,
            Asks = ["ropeSize", .. EndFittings.Asks],
            Requires = ["ropeSize"],
            Parts =
            [
                new("body", "Cheeks and pin", HardwareCriteria.Of("block").But("block.sheave")),
                new("sheave", "Sheave", ["block.sheave"]),
                .. EndFittings.On("", ""),
            ],
            TagEntries = [TagEntries.Maker, TagEntries.RatedLoad, new("ropeSize", "rope size")],
        };

    public static GearFamily LoadIndicator { get; } =
        new()
        {
            Code = "load-indicator",
            Kind = GearKind.LoadIndicator,
            Name = "Load indicator",
            Standard = "ASME B30.26, load-indicating devices",
            Group = FamilyGroup.Hardware,
            Asks = ["capacity"],
            Requires = ["capacity"],
            Parts =
            [
                new("body", "Body", HardwareCriteria.Of("cell").But("cell.function")),
                new("display", "Display", ["cell.function"]),
            ],
            TagEntries = [TagEntries.Maker, TagEntries.RatedLoad, new("calibration", "calibration date")],
        };
}
