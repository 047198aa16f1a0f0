namespace Keralith.Core.Gear;

/// <summary>Links and rings on their own (ASME B30.26, chapter 26-4).</summary>
internal static class LinkOrRing
{
    public static GearFamily Family { get; } =
        new()
        {
            Code = "link-or-ring",
            Kind = GearKind.Link,
            Name = "Link or ring",
            Standard = "ASME B30.26, links, rings and swivels",
            Group = FamilyGroup.Hardware,
            Asks = ["size", "grade"],
            Requires = ["size"],
            Parts = [new("body", "Body", LinkCriteria.OnAnyLink)],
            TagEntries = [TagEntries.Maker, new("ratedLoad", "size or rated load"), TagEntries.GradeIfAlloy],
        };
}
