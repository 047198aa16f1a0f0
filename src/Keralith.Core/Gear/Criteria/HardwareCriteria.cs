namespace Keralith.Core.Gear;

/// <summary>Swivels, rope clips, wedge sockets, rigging blocks, load indicators (ASME B30.26, chapters 26-3 to 26-6).</summary>
internal static class HardwareCriteria
{
    private static readonly Chapter Swivels = new("ASME B30.26, links, rings and swivels");
    private static readonly Chapter Compression = new("ASME B30.26, compression hardware");
    private static readonly Chapter Blocks = new("ASME B30.26, rigging blocks");
    private static readonly Chapter Indicators = new("ASME B30.26, load-indicating devices");

    public static IReadOnlyList<Criterion> All { get; } =
    [
        Swivels.Test(
            "swivel.rotate",
            "articulation",
            "Turns freely",
            "It does not turn freely, unloaded.",
            "Turn it by hand all the way round, both ways."
        ),
        Swivels.Fault(
            "swivel.fasteners",
            "Nut, pin, cotter",
            "A nut, pin or cotter is loose or missing.",
            "Try each by hand; look at the end of the pin."
        ),
        Wear(Compression, "wedge.wear", "wedge and socket", "wedge or socket when new"),
        Wear(Indicators, "cell.wear", "body of the indicator", "section when new"),
        Compression.Fault(
            "clip.fit",
            "Clips right and tight",
            "Wrong size, a damaged saddle or U-bolt, loose nuts, mixed parts, or the rope has slipped.",
            "Read the size on each saddle; try each nut; look for a paint mark that has moved.",
            "Clips work loose after the first load and must be torqued again."
        ),
        Wear(Compression, "clip.wear", "saddle and U-bolt", "section when new"),
        Compression.Fault(
            "wedge.fit",
            "Wedge",
            "The wedge is wrong, loose or cracked, or the dead end is not secured.",
            "Read the size on both; look where the live line leaves: it runs straight to the pin."
        ),
        Blocks.Fault(
            "block.sheave",
            "Sheave",
            "The sheave wobbles, is out of line, or its groove is corrugated or worn.",
            "Rock it on its pin; lay a gauge in the groove."
        ),
        Blocks.Fault(
            "block.fasteners",
            "Fasteners",
            "A nut, bolt, cotter, snap ring or keeper is loose or missing.",
            "Try each by hand."
        ),
        Wear(Blocks, "block.wear", "cheek, pin or strap", "section when new"),
        Indicators.Test(
            "cell.function",
            "function",
            "Works and zeroes",
            "It does not work, or does not come to zero.",
            "Switch it on unloaded; hang a known weight where there is one.",
            "A wrong reading is worse than none."
        ),
        Indicators
            .Fault(
                "cell.calibration",
                "Calibration",
                "The calibration is out of date.",
                "Read the date on the sticker and the certificate.",
                topic: "calibration"
            )
            .Periodic()
            .Holding(),
        .. Faults(Compression, "clip"),
        .. Faults(Compression, "wedge"),
        .. Faults(Blocks, "block"),
        .. Faults(Indicators, "cell"),
    ];

    /// <summary>The criteria of one prefix: <c>clip</c>, <c>wedge</c>, <c>block</c>, <c>cell</c> or <c>swivel</c>.</summary>
    public static string[] Of(string prefix) =>
        All.Ids().Where(id => id.StartsWith($"{prefix}.", StringComparison.Ordinal)).ToArray();

    private static Criterion Wear(Chapter book, string id, string what, string baseline) =>
        book.Wear(
            id,
            "Wear",
            $"The thinnest point of the {what} now.",
            "Measure at the bearing places, both ways across; keep the worst.",
            baseline
        );

    private static IEnumerable<Criterion> Faults(Chapter book, string prefix) =>
        [
            book.Fault(
                $"{prefix}.deformed",
                "Deformed or cracked",
                "Bent, twisted, distorted, stretched, elongated, cracked or broken.",
                "Compare with a new one; look at corners and holes."
            ),
            book.Fault(
                $"{prefix}.heat",
                "Heat, spatter, arc",
                "Heat damage, weld spatter or an arc strike.",
                "Blue or straw colours, beads, small craters."
            ),
            book.Fault(
                $"{prefix}.corrosion",
                "Corrosion",
                "Excessive pitting or corrosion.",
                "Brush it; feel for pits."
            ),
            book.Fault(
                $"{prefix}.nick-gouge",
                "Nicks and gouges",
                "Nicks or gouges.",
                "A thumbnail along the edges that bear."
            ),
        ];
}
