namespace Keralith.Core.Gear;

/// <summary>Lifting clamps and beams (ASME B30.20).</summary>
internal static class BelowHookCriteria
{
    private static readonly Chapter Book = new("ASME B30.20, below-the-hook lifting devices");

    private static readonly LossLimit ATenth = new(1, 10, Comparator.AtOrBelow);

    public static IReadOnlyList<Criterion> All { get; } =
    [
        Book.Fault("clamp.deformed", "Bent", "The body or jaw is bent.", "Sight across the jaws; they close parallel."),
        Book.Fault("clamp.crack", "Cracks", "The body or jaw is cracked.", "Look at the inner corners of the throat."),
        Book.Fault(
            "clamp.teeth",
            "Teeth",
            "Gripping teeth are worn to the wear mark, damaged or clogged.",
            "Brush them clean first; look for flats on the points.",
            "Blunt teeth hold a light plate and let go of a heavy one."
        ),
        Book.Test(
            "clamp.lock",
            "operation",
            "Lock and spring",
            "The jaw lock, spring or pull chain does not work.",
            "Lock and unlock it by hand; it must snap."
        ),
        Book.Fault("clamp.pivot", "Pins and pivots", "Pins, pivots or the shackle eye are worn.", "Try each for play.")
            .Periodic(),
        Book.Test(
                "clamp.screw",
                "operation",
                "Spindle",
                "The spindle is stiff or bent, or was tightened with a pipe.",
                "Run it through its whole travel by hand."
            )
            .If(g => g.Text("kind") == "beam"),
        Book.Fault(
            "clamp.pads",
            "Pads and ring",
            "Wear pads or the attachment ring are worn or loose.",
            "Try each by hand."
        ),
        Wear("clamp.wear", "Wear", "The thinnest point of jaw or ring now.", "section when new", ATenth),
        Book.Fault(
            "beam.deformed",
            "Bent",
            "A member is bent.",
            "Sight along it; a cord stretched from end to end shows it."
        ),
        Book.Fault(
            "beam.weld-crack",
            "Cracks",
            "A member or weld is cracked.",
            "Clean the welds at the lugs; look across the light."
        ),
        Book.Fault(
            "beam.fasteners",
            "Pins, bolts, labels",
            "Pins, bolts, stops, guards or labels are loose or missing.",
            "Try each by hand."
        ),
        Wear("beam.lug-wear", "Lug", "The thinnest point of the lug now.", "lug when new", ATenth),
        Wear(
            "beam.hole-wear",
            "Hole",
            "The widest point of the hole now.",
            "hole when new",
            new GrowthLimit(0.1m, Comparator.AtOrAbove)
        ) with
        {
            Why = "A hole drawn oval has been overloaded or has lost its pin's support.",
        },
    ];

    private static Criterion Wear(string id, string title, string question, string baseline, LimitRule limit) =>
        Book.Measure(
            id,
            "wear",
            title,
            question,
            "Measure at the bearing place, both ways across; keep the worst.",
            "The tenth is a default of the site: the standard leaves it to the maker or a qualified person.",
            limit,
            baseline
        ) with
        {
            Source = new("Site default; the maker's figure comes first (ASME B30.20)", "wear"),
        };
}
