namespace Keralith.Core.Gear;

/// <summary>Synthetic fiber rope slings (ASME B30.9, chapter 9-4).</summary>
internal static class FiberRopeCriteria
{
    private static readonly Chapter Book = new("ASME B30.9, synthetic fiber rope slings");

    public static IReadOnlyList<Criterion> All { get; } =
    [
        Book.Fault(
            "fiber.cut",
            "Cuts and worn spots",
            "Cuts, gouges, badly worn spots or broken fibers along the length.",
            "Run it through bare hands, turning it; stop at every snag."
        ),
        Book.Measure(
            "fiber.diameter",
            "reduction of diameter",
            "Diameter",
            "The effective diameter now.",
            "Wrap a tape once round under light tension and divide by 3.14, or span it with a wide caliper.",
            "Rope wastes before it parts.",
            new LossLimit(1, 10, Comparator.Below),
            "diameter when new"
        ),
        Book.Fault(
                "fiber.fuzz",
                "Fuzz all over",
                "The whole rope is covered with fuzz or whiskers.",
                "Compare with a stretch near the splice that never rubs."
            )
            .Periodic(),
        Book.Fault(
                "fiber.inside",
                "Inside the strands",
                "Broken or melted fibers, powder, grit or foreign matter between the strands.",
                "Open the strands by twisting against the lay, at three places.",
                "Grit saws from the inside; a sound outside tells nothing."
            )
            .Periodic(),
        Book.Fault(
            "fiber.stiff",
            "Stiff or discoloured",
            "Discoloured, brittle or stiff: chemical, sunlight or heat.",
            "Bend it sharply; brittle fibers crackle."
        ),
        Book.Fault(
            "fiber.melt",
            "Melted",
            "Melted, hard or charred areas.",
            "Shiny hard patches, where it has slipped under load."
        ),
        Book.Fault(
            "fiber.kink",
            "Kinks and knots",
            "Kinks, hockles or knots.",
            "Lay it out straight.",
            "A knot halves a rope."
        ),
        Book.Fault(
            "fiber.splice",
            "Splice and fittings",
            "A splice that draws, or a damaged thimble or fitting.",
            "Count the tucks; look for a thimble that turns in its eye."
        ),
    ];

    public static string[] OnLeg { get; } = All.Ids();
}
