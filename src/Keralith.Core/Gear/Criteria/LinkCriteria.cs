namespace Keralith.Core.Gear;

/// <summary>Links and rings, alone or as top links, couplings and end links (ASME B30.26, chapter 26-4).</summary>
internal static class LinkCriteria
{
    private static readonly Chapter Book = new("ASME B30.26, links and rings");

    public static IReadOnlyList<Criterion> All { get; } =
    [
        Book.Fault(
            "link.deformed",
            "Deformed or cracked",
            "Bent, twisted, distorted, stretched, elongated, cracked or broken.",
            "A round link gone oval, an oval gone narrow at the waist: compare with a new one.",
            "A link draws in before it breaks."
        ),
        Book.Fault(
            "link.heat",
            "Heat, spatter, arc",
            "Heat damage, weld spatter or an arc strike.",
            "Blue or straw colours, beads, small craters."
        ),
        Book.Fault("link.corrosion", "Corrosion", "Excessive pitting or corrosion.", "Brush it; feel for pits."),
        Book.Fault(
            "link.nick-gouge",
            "Nicks and gouges",
            "A nick or gouge.",
            "A thumbnail along the inside of the curve."
        ),
        Book.Wear(
            "link.wear",
            "Wear",
            "The thinnest point of the link now.",
            "Measure at the bearing points, both ways across.",
            "link when new"
        ) with
        {
            LikelyOfSize = (0.5m, 4),
        },
    ];

    public static string[] OnAnyLink { get; } = All.Ids();
}
