namespace Keralith.Core.Gear;

/// <summary>Shackles (ASME B30.26, chapter 26-1).</summary>
internal static class ShackleCriteria
{
    private static readonly Chapter Book = new("ASME B30.26, shackles");

    public static IReadOnlyList<Criterion> All { get; } =
    [
        Book.Fault(
            "shackle.deformed",
            "Deformed or cracked",
            "Bent, twisted, spread, stretched, elongated, cracked or broken.",
            "Lay it on a flat face: bow and pin lie true. Compare the ears with each other.",
            "A spread bow has been loaded sideways or too heavily."
        ),
        Book.Test(
            "shackle.pin-fit",
            "pin",
            "Pin runs in",
            "The pin does not run in freely by hand and seat fully.",
            "Turn it in by hand to the shoulder; it neither binds nor wobbles.",
            "A pin that will not run in means a spread bow or a bent pin."
        ),
        Book.Fault(
            "shackle.pin-original",
            "Right pin",
            "The pin is not the original or a matching one in grade, rating and diameter, or a bolt stands in its place.",
            "Read the mark on the pin's head and compare it with the bow's.",
            "A plain bolt of the same size carries a fraction of the load."
        ),
        Book.Fault(
                "shackle.pin-secured",
                "Pin secured",
                "The nut or the cotter is missing.",
                "Look for both; a wire or nail is not a cotter."
            )
            .If(g => g.PinType is "bolt" or "round"),
        Book.Wear(
            "shackle.wear-body",
            "Wear of the bow",
            "The thinnest point of the bow now.",
            "Turn it to find the bearing point at the crown; measure both ways across.",
            "bow when new"
        ) with
        {
            LikelyOfSize = (0.5m, 2),
            FileName = "body",
        },
        Book.Wear(
            "shackle.wear-pin",
            "Wear of the pin",
            "The thinnest point of the pin now.",
            "Measure at the middle and at the ears, both ways across.",
            "pin when new"
        ) with
        {
            LikelyOfSize = (0.6m, 2.5m),
            FileName = "pin",
        },
        Book.Fault("shackle.thread", "Thread", "Damaged thread.", "Look at pin and ear; run the pin out and in."),
        Book.Fault(
            "shackle.nick-gouge",
            "Nicks and gouges",
            "Excessive nicks or gouges.",
            "A thumbnail across the crown and the pin's middle.",
            "A notch where it bears starts a crack."
        ),
        Book.Fault(
            "shackle.heat",
            "Heat, spatter, arc",
            "Heat damage, weld spatter or an arc strike.",
            "Blue or straw colours, beads, small craters."
        ),
        Book.Fault("shackle.corrosion", "Corrosion", "Excessive pitting or corrosion.", "Brush it; feel for pits."),
    ];

    public static string[] OnBody { get; } =
    ["shackle.deformed", "shackle.wear-body", "shackle.nick-gouge", "shackle.heat", "shackle.corrosion"];

    public static string[] OnPin { get; } =
    [
        "shackle.deformed",
        "shackle.pin-fit",
        "shackle.pin-original",
        "shackle.pin-secured",
        "shackle.wear-pin",
        "shackle.thread",
        "shackle.nick-gouge",
        "shackle.heat",
        "shackle.corrosion",
    ];

    /// <summary>As the end of something else, all sit on the one part.</summary>
    public static string[] OnFitting { get; } = All.Ids();
}
