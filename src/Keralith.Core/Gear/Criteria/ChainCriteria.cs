namespace Keralith.Core.Gear;

/// <summary>Alloy chain, per leg (ASME B30.9, chapter 9-1).</summary>
internal static class ChainCriteria
{
    private static readonly Chapter Book = new("ASME B30.9, alloy chain slings");

    public static IReadOnlyList<Criterion> All { get; } =
    [
        Book.Fault(
            "chain.crack",
            "Cracks",
            "A cracked or broken link or component.",
            "Clean it, turn each link to the light, look hardest at the weld and the bearing points.",
            "A crack grows under load and gives no warning."
        ),
        Book.Fault(
            "chain.nick-gouge",
            "Nicks and gouges",
            "A nick or gouge.",
            "Run a thumbnail along the link: what catches it counts. Then measure the metal left at that very place.",
            "A sharp notch starts a crack; the depth decides, so the place must be measured."
        ) with
        {
            OnFault = Outcome.Hold,
            DecidedBy = "chain.link-thickness",
        },
        Book.Fault(
            "chain.deformed",
            "Bent or twisted",
            "A bent, twisted or otherwise deformed link or component.",
            "Let the leg hang and sight along it: every second link lies in one plane.",
            "Alloy links bend only when loaded over an edge or too heavily."
        ),
        Book.Fault(
            "chain.stretch",
            "Stretched",
            "A stretched link or component: links bind, thin at the bearing points, or the legs hang at unequal heights.",
            "Push links together and look where link bears on link; hang the legs side by side.",
            "Stretch is the mark of overload."
        ),
        Book.Fault(
            "chain.heat",
            "Heat",
            "Heat damage, discoloration or an arc strike.",
            "Straw to blue colours, scale, small bright craters.",
            "Heat takes the strength out of alloy chain for good."
        ),
        Book.Fault(
            "chain.corrosion",
            "Corrosion",
            "Excessive pitting or corrosion.",
            "Brush it. Light rust is no fault; pits you can feel are."
        ),
        Book.Test(
            "chain.hinge",
            "removal, articulation",
            "Hinges freely",
            "Links or components do not hinge freely.",
            "Run the leg through your hands, flexing each link both ways.",
            "Links that bind are stretched, bent or corroded where you can't see."
        ),
        Book.Fault(
            "chain.weld-splatter",
            "Weld spatter",
            "Weld spatter on the chain.",
            "Small hard beads that do not brush off.",
            "Each bead is a spot of hardened, cracked metal."
        ),
        Book.Fault(
            "chain.foreign-link",
            "Foreign link",
            "A bolt, repair link or component of a lesser grade in the leg.",
            "Compare each link with its neighbours; read the grade on every coupling.",
            "One link of a lesser grade governs the whole sling."
        ),
        Book.Fault(
                "chain.grade-mark",
                "Grade mark",
                "No alloy grade mark is found along the chain.",
                "Look along the chain for 8, 80, 800, 10, 100, 1000 or an A-type mark.",
                "Chain for overhead lifting is alloy, grade 80 or higher, marked along its length."
            )
            .Periodic() with
        {
            RuledOut = gear =>
                gear.ChainGrade?.Kind switch
                {
                    ChainKind.NotForLifting => (
                        Outcome.Remove,
                        $"The mark {gear.Text("grade")} is of chain that is not for overhead lifting; grade {ChainGrade.Least} is the least."
                    ),
                    ChainKind.Unreadable => (Outcome.Hold, $"{ChainGrade.FaultOf(gear.Text("grade")!)}."),
                    _ => null,
                },
        },
        Book.Measure(
            "chain.link-thickness",
            "least thickness at any point",
            "Link thickness",
            "The thinnest metal at any point of any link: the worst you found.",
            "Push links together to bare the bearing points and measure across the worn face with calipers. Measure the worst link, not the nearest.",
            "Chain looks sound outside while it wears where link bears on link.",
            ChainThickness.Asme
        ) with
        {
            ThicknessWhenNew = c => c.Gear.Size is { } size ? ChainThickness.Nominal(size) : null,
            MostBetterThanNew = 0.10m,
        },
        Book.Measure(
            "chain.gauge-growth",
            "stretch",
            "Growth over the gauge length",
            "The length over the same number of links as when new.",
            "Hang the leg, or pull it straight by hand, and measure over the links named with the baseline.",
            "Any stretch removes; the first half percent is measuring noise.",
            new TwoStepGrowth(0.005m, 0.015m),
            "gauge length when new"
        ) with
        {
            OverLinks = true,
            LikelyOfSize = (2.5m, 3.6m),
            MostBetterThanNew = 0.01m,
            FileName = "gauge_length",
        },
        Book.Measure(
            "chain.gauge-difference",
            "stretch",
            "Difference along the leg",
            "The longest of several lengths over the same number of links, against the shortest.",
            "Measure the same number of links at the top, middle and bottom of the leg.",
            "Shows a stretched place even when nobody knows the length when new.",
            new TwoStepGrowth(0.005m, 0.015m),
            "shortest found"
        ) with
        {
            IsPair = true,
            Places = _ => ["top", "middle", "foot"],
        },
        Book.Measure(
            "chain.leg-difference",
            "stretch",
            "Legs against each other",
            "The reach of the longest leg, against the shortest.",
            "Hang the top link on a hook and compare where the lower ends come to.",
            "A leg that hangs lower has been overloaded.",
            new TwoStepGrowth(0.005m, 0.015m),
            "shortest leg"
        ) with
        {
            IsPair = true,
            Places = legs => [.. Enumerable.Range(1, legs).Select(n => $"leg {n}")],
        },
        Book.Test(
            "coupling.free",
            "removal, components",
            "Coupling moves",
            "The coupling or shortener does not move freely, or its pin is bent, loose or not secured.",
            "Work it through its whole travel; try the load pin and its lock with a fingertip.",
            "A load pin that walks out drops the leg."
        ),
    ];

    public static string[] OnLeg { get; } =
        All.Ids()
            .Where(id => id.StartsWith("chain.", StringComparison.Ordinal) && id != "chain.leg-difference")
            .ToArray();
}
