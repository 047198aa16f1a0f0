namespace Keralith.Core.Gear;

/// <summary>Synthetic roundslings (ASME B30.9, chapter 9-6).</summary>
internal static class RoundslingCriteria
{
    private static readonly Chapter Book = new("ASME B30.9, synthetic roundslings");

    public static IReadOnlyList<Criterion> All { get; } =
    [
        Book.Fault("round.chemical", "Chemical burn", "An acid or caustic burn.", "Stains, brittle patches, a smell."),
        Book.Fault("round.heat", "Heat", "Heat damage or melting.", "Hard shiny spots; a cover stuck to its core."),
        Book.Fault(
            "round.core-exposed",
            "Core shows",
            "A hole, tear, cut, snag or wear that shows the core, or weld spatter that does.",
            "Turn the whole sling round once in good light.",
            "The core carries the load; the cover only keeps it clean."
        ),
        Book.Fault(
            "round.core-broken",
            "Core broken",
            "Core yarn is broken or damaged.",
            "Feel through the cover all the way round for lumps and thin places.",
            "A broken yarn balls up where it can be felt and nowhere seen."
        ),
        Book.Fault("round.knot", "Knot", "A knot anywhere in it.", "Lay it out straight."),
        Book.Fault(
                "round.cover",
                "Cover worn",
                "The cover is cut or worn, the core not showing.",
                "Press the edges of the place apart: is the core still covered?",
                "The next rub lays the core bare."
            )
            .Holding(),
        Book.Fault(
            "round.stiff",
            "Stiff or discoloured",
            "Discoloured, brittle or stiff.",
            "Compare with the cover under the tag."
        ),
        Book.Fault(
            "round.fitting",
            "Fitting",
            "A fitting is stretched, pitted, corroded, cracked, bent or gouged.",
            "Look where the sling bears on it."
        ),
    ];

    public static string[] OnBody { get; } = All.Ids().But("round.fitting");
}
