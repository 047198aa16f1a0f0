namespace Keralith.Core.Gear;

/// <summary>Wire rope slings, per leg (ASME B30.9, chapter 9-2).</summary>
internal static class RopeCriteria
{
    private static readonly Chapter Book = new("ASME B30.9, wire rope slings");

    public static IReadOnlyList<Criterion> All { get; } =
    [
        Book.Count(
            "rope.broken-in-lay",
            "broken wires",
            "Broken wires in a lay",
            "Broken wires in the worst rope lay, wherever they sit around it.",
            "Bend the rope a little so that broken ends stand out, wipe it with a rag, and count over one lay at the worst place.",
            "Broken wires come before a broken strand: they tell how much life is gone.",
            new BrokenWiresByBody(10, 20, 20, 40)
        ) with
        {
            Taught =
                "3, 5, 6 and 10 in a lay are all taught. The books set 6 or 10 for strand-laid rope, or a tenth of its wires.",
        },
        Book.Count(
                "rope.broken-in-strand",
                "broken wires",
                "Broken wires in one strand",
                "Broken wires in one strand within one lay.",
                "Follow the worst strand once round the rope.",
                "Breaks crowded into one strand mean that strand carries more than its share.",
                new CountLimit(5)
            )
            .If(g => g.IsStrandLaid),
        Book.Count(
            "rope.broken-in-8d",
            "broken wires",
            "Broken wires in eight diameters",
            "Broken wires in the worst length of eight rope diameters, wherever they sit around it.",
            "Mark eight diameters off on a paper strip, lay it along the rope, and count at the worst place.",
            "Counted over a length of its own: a lay is shorter or longer than eight diameters.",
            new ShareOfWires(10, AtShare: false, "in eight diameters")
        ) with
        {
            Limit = null,
            AskedIn = AskedIn.Periodic,
            Source = new("29 CFR 1926.251", "broken wires"),
            Applies = c => c.Gear.IsStrandLaid && c.AnyBookHas("rope.broken-in-8d"),
        },
        Book.Measure(
            "rope.diameter",
            "reduction of diameter",
            "Diameter",
            "The least diameter now, measured over the crowns.",
            "Turn the caliper until it spans crown to crown, never flat to flat; try several places and both ways across.",
            "A rope grows thin when its core has gone or its outer wires are worn.",
            new LossLimit(1, 20, Comparator.Below),
            "nominal diameter"
        ) with
        {
            BaselineFromSize = true,
            LikelyOfSize = (0.8m, 1.25m),
            MostBetterThanNew = 0.10m,
        },
        Book.Measure(
            "rope.outer-wire",
            "wear of outer wires",
            "Outer wires",
            "The thickness left of a worn outer wire, at its flat.",
            "Measure across the worn flat of the worst outer wire with a small caliper or a lens with a scale.",
            null,
            null,
            "outer wire when new"
        ) with
        {
            Source = new("29 CFR 1910.184 and national practice", "wear of outer wires"),
            Applies = c => c.AnyBookHas("rope.outer-wire"),
        },
        Book.Fault(
            "rope.abrasion",
            "Scrubbed wires",
            "Scrubbed or abraded outer wires.",
            "Bright flats along the crowns. Then measure the diameter at that very place.",
            "Scrubbed rope is left hanging because nobody measures it between periodic inspections."
        ) with
        {
            OnFault = Outcome.Hold,
            DecidedBy = "rope.diameter",
        },
        Book.Fault(
                "rope.lang",
                "Lang lay",
                "The rope is lang lay: wires and strands turn the same way.",
                "In regular lay the outer wires run along the rope; in lang lay they slant across it.",
                "Lang-lay rope untwists under load and its splices draw."
            )
            .Initial() with
        {
            RuledOut = gear => gear.IsLangLay ? (Outcome.Remove, "Lang-lay rope is not for slings.") : null,
        },
        Book.Fault(
                "rope.short",
                "Clear rope between ends",
                "Less clear rope between the ends than ten diameters (braided: forty; a grommet: less than ninety-six around).",
                "Measure from ferrule to ferrule and divide by the diameter.",
                "A short sling can't bend without working its splices loose."
            )
            .Initial()
            .Holding(),
        Book.Fault(
            "rope.kink",
            "Kink or dog-leg",
            "A kink or dog-leg, also one pulled straight again.",
            "Run it through the hands; sight along it.",
            "The wires were bent past mending; straightening hides it."
        ),
        Book.Fault("rope.crush", "Crushed", "Crushed or flattened.", "Look for flats and for strands spread apart."),
        Book.Fault(
            "rope.birdcage",
            "Bird cage",
            "Strands opened like a cage.",
            "Look where the rope was let go suddenly or run backwards.",
            "The core carries what the strands no longer do."
        ),
        Book.Fault(
            "rope.core",
            "Core out, high strand",
            "The core is pushed out or shows, or a strand stands proud.",
            "Look between the strands, and for one that stands above its neighbours."
        ),
        Book.Fault(
            "rope.heat",
            "Heat or arc",
            "Heat damage or an arc strike.",
            "Blue wires, burnt grease, small craters."
        ),
        Book.Fault(
            "rope.corrosion",
            "Corrosion",
            "Severe corrosion of the rope, its fittings or an end.",
            "Open the lay a little and look inside; feel for pits and stiffness.",
            "Rope rusts from the inside, where grease has gone."
        ),
        Book.Fault(
            "rope.end-attachment",
            "End attachment",
            "A ferrule, splice or socket is cracked, deformed, loose or badly worn.",
            "Look where the rope enters it for broken wires and for movement."
        ),
        Book.Fault(
            "rope.eye",
            "Eye",
            "The eye is pinched, or its thimble is damaged or missing where one was fitted when new.",
            "Look inside the eye at the bearing place.",
            "A pinched eye has been pulled over something too thin."
        ),
        Book.Fault(
                "rope.stretch",
                "Stretched",
                "The rope is stretched: its lay has opened out and its diameter drawn down.",
                "Compare the length of a lay with that at an end that carries little."
            )
            .Periodic(),
        Book.Fault(
                "rope.clips",
                "Clips",
                "Too few clips, a saddle on the wrong side, or nuts loose.",
                "Saddles sit on the live side; count them and try each nut.",
                "A sling eye made with clips is a qualified person's documented design and nothing else."
            )
            .If(g => g.Text("termination") == "clips") with
        {
            AtLeast = Outcome.Hold,
            AtLeastBecause =
                "A sling eye made with clips is at best a qualified person's documented design; some books take it out altogether.",
        },
    ];

    /// <summary>On the rope of a leg.</summary>
    public static string[] OnLeg { get; } = All.Ids().But("rope.end-attachment", "rope.eye");

    /// <summary>On each of its eyes.</summary>
    public static string[] OnEye { get; } = ["rope.end-attachment", "rope.eye", "policy.thimble"];
}
