namespace Keralith.Core.Gear;

/// <summary>Shackles (ASME B30.26, chapter 26-1).</summary>
internal static class Shackle
{
    public static GearFamily Family { get; } =
        new()
        {
            Code = "shackle",
            Kind = GearKind.Shackle,
            Name = "Shackle",
            Standard = "ASME B30.26, shackles",
            Group = FamilyGroup.Hardware,
            Asks = ["size", "pinType", "pinSize", "grade"],
            Requires = ["size", "pinType"],
            Parts = [new("body", "Bow", ShackleCriteria.OnBody), new("pin", "Pin", ShackleCriteria.OnPin)],
            TagEntries =
            [
                TagEntries.Maker,
                TagEntries.RatedLoad,
                new("size", "size, on the bow"),
                new("pinMaker", "maker, on the pin"),
                new("pinGrade", "grade or rating, on the pin"),
            ],
        };
}
