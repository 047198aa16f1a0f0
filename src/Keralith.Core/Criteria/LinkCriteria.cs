namespace Keralith.Core.Criteria;

/// <summary>Links and rings, alone or as top links, couplings and end links (ASME B30.26, chapter 26-4).</summary>
internal static class LinkCriteria
{
    public static IReadOnlyList<Criterion> All { get; } =
    [
        Fault("link.deformed", "Deformed or cracked", "Bent, twisted, distorted, stretched, elongated, cracked or broken.",
            "A round link gone oval, an oval gone narrow at the waist: compare with a new one.", "A link draws in before it breaks."),
        Fault("link.heat", "Heat, spatter, arc", "Heat damage, weld spatter or an arc strike.", "Blue or straw colours, beads, small craters.", null),
        Fault("link.corrosion", "Corrosion", "Excessive pitting or corrosion.", "Brush it; feel for pits.", null),
        Fault("link.nick-gouge", "Nicks and gouges", "A nick or gouge.", "A thumbnail along the inside of the curve.", null),
        new()
        {
            Id = "link.wear", Kind = CriterionKind.Measure, AskedIn = AskedIn.Periodic, Source = Topic("wear"),
            Title = "Wear", Question = "The thinnest point of the link now.", Look = "Measure at the bearing points, both ways across.",
            Why = "Metal gone from the bearing point is strength gone.",
            Limit = new LossLimit(1, 10, Comparator.AtOrBelow), BaselineName = "link when new",
        },
    ];

    public static string[] OnAnyLink { get; } = All.Select(c => c.Id).ToArray();

    private static Source Topic(string topic) => new("ASME B30.26, links and rings", topic);

    private static Criterion Fault(string id, string title, string question, string look, string? why) =>
        Criterion.Fault(Topic("removal"), id, title, question, look, why);
}
