namespace Keralith.Core.Gear;

/// <summary>Synthetic web slings, and the webbing of lever hoists (ASME B30.9, chapter 9-5).</summary>
internal static class WebCriteria
{
    private static readonly Chapter Book = new("ASME B30.9, synthetic web slings");

    public static IReadOnlyList<Criterion> All { get; } =
    [
        Book.Fault(
            "web.chemical",
            "Chemical burn",
            "An acid or caustic burn.",
            "Stains, bleached or brittle patches, a smell; fibers that come away in powder."
        ),
        Book.Fault(
            "web.melt",
            "Melted or charred",
            "Melted, charred or spattered by welding.",
            "Hard shiny spots, small burnt holes."
        ),
        Book.Fault(
            "web.cut",
            "Holes, cuts, snags",
            "A hole, tear, cut, snag or embedded particles.",
            "Both faces and both edges, laid flat in good light; feel the edges.",
            "A cut edge runs across under load."
        ),
        Book.Fault(
            "web.stitch",
            "Stitching",
            "Broken or worn stitching in a splice that bears load.",
            "Pull the splice a little open; every row must stand."
        ),
        Book.Fault(
            "web.wear",
            "Rubbed",
            "Excessive abrasion.",
            "A furry face where the weave can no longer be made out."
        ),
        Book.Fault(
            "web.knot",
            "Knot",
            "A knot anywhere in it.",
            "Lay it out straight.",
            "A knot cuts the webbing with its own edge."
        ),
        Book.Fault(
            "web.stiff",
            "Stiff or discoloured",
            "Discoloured, brittle or stiff: sunlight or chemicals.",
            "Compare with the webbing under the tag."
        ),
        Book.Fault(
                "web.warning-core",
                "Warning yarn",
                "The warning yarn shows.",
                "Look for threads of another colour in the face and the edges."
            )
            .If(g => g.Flag("warningCore")),
        Book.Fault(
            "web.stretch",
            "Stretched",
            "Stretched, drawn narrow, or longer than its tag says.",
            "Measure length and width against the tag."
        ),
        Book.Fault(
            "web.fitting",
            "End fitting",
            "A fitting is pitted, corroded, cracked, bent, twisted, gouged or broken.",
            "Look where the webbing bears: a rough edge cuts it."
        ),
    ];

    public static string[] OnBody { get; } = All.Ids().But("web.fitting");

    public static string[] OnEye { get; } = OnBody.But("web.stretch");

    /// <summary>The load web of a lever hoist.</summary>
    public static string[] OnLoadWeb { get; } = OnBody.But("web.warning-core");
}
