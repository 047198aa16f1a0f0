namespace Keralith.Core.Criteria;

/// <summary>Shackles (ASME B30.26, chapter 26-1).</summary>
internal static class ShackleCriteria
{
    public static IReadOnlyList<Criterion> All { get; } =
    [
        Fault("shackle.deformed", "Deformed or cracked", "Bent, twisted, spread, stretched, elongated, cracked or broken.",
            "Lay it on a flat face: bow and pin lie true. Compare the ears with each other.", "A spread bow has been loaded sideways or too heavily."),
        new()
        {
            Id = "shackle.pin-fit", Kind = CriterionKind.Test, AskedIn = AskedIn.Frequent, Source = Topic("pin"),
            Title = "Pin runs in", Question = "The pin does not run in freely by hand and seat fully.",
            Look = "Turn it in by hand to the shoulder; it neither binds nor wobbles.", Why = "A pin that will not run in means a spread bow or a bent pin.",
        },
        Fault("shackle.pin-original", "Right pin", "The pin is not the original or a matching one in grade, rating and diameter, or a bolt stands in its place.",
            "Read the mark on the pin's head and compare it with the bow's.", "A plain bolt of the same size carries a fraction of the load."),
        Fault("shackle.pin-secured", "Pin secured", "The nut or the cotter is missing.", "Look for both; a wire or nail is not a cotter.", null) with
        {
            Applies = c => c.Gear.PinType is "bolt" or "round",
        },
        Wear("shackle.wear-body", "Wear of the bow", "The thinnest point of the bow now.", "Turn it to find the bearing point at the crown; measure both ways across.", "bow when new"),
        Wear("shackle.wear-pin", "Wear of the pin", "The thinnest point of the pin now.", "Measure at the middle and at the ears, both ways across.", "pin when new"),
        Fault("shackle.thread", "Thread", "Damaged thread.", "Look at pin and ear; run the pin out and in.", null),
        Fault("shackle.nick-gouge", "Nicks and gouges", "Excessive nicks or gouges.", "A thumbnail across the crown and the pin's middle.", "A notch where it bears starts a crack."),
        Fault("shackle.heat", "Heat, spatter, arc", "Heat damage, weld spatter or an arc strike.", "Blue or straw colours, beads, small craters.", null),
        Fault("shackle.corrosion", "Corrosion", "Excessive pitting or corrosion.", "Brush it; feel for pits.", null),
    ];

    public static string[] OnBody { get; } = ["shackle.deformed", "shackle.wear-body", "shackle.nick-gouge", "shackle.heat", "shackle.corrosion"];

    public static string[] OnPin { get; } =
    [
        "shackle.deformed", "shackle.pin-fit", "shackle.pin-original", "shackle.pin-secured", "shackle.wear-pin",
        "shackle.thread", "shackle.nick-gouge", "shackle.heat", "shackle.corrosion",
    ];

    /// <summary>As the end of something else, all sit on the one part.</summary>
    public static string[] OnFitting { get; } = All.Select(c => c.Id).ToArray();

    private static Source Topic(string topic) => new("ASME B30.26, shackles", topic);

    private static Criterion Wear(string id, string title, string question, string look, string baseline) => new()
    {
        Id = id,
        Kind = CriterionKind.Measure,
        AskedIn = AskedIn.Periodic,
        Source = Topic("wear"),
        Title = title,
        Question = question,
        Look = look,
        Why = "Metal gone from the bearing point is strength gone.",
        Limit = new LossLimit(1, 10, Comparator.AtOrBelow),
        BaselineName = baseline,
    };

    private static Criterion Fault(string id, string title, string question, string look, string? why) =>
        Criterion.Fault(Topic("removal"), id, title, question, look, why);
}
