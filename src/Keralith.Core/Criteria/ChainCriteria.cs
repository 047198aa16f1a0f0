namespace Keralith.Core.Criteria;

/// <summary>Alloy chain, per leg (ASME B30.9, chapter 9-1).</summary>
internal static class ChainCriteria
{
    public static IReadOnlyList<Criterion> All { get; } =
    [
        Fault("chain.crack", "Cracks", "A cracked or broken link or component.",
            "Clean it, turn each link to the light, look hardest at the weld and the bearing points.", "A crack grows under load and gives no warning."),
        Fault("chain.nick-gouge", "Nicks and gouges", "A nick or gouge.",
            "Run a thumbnail along the link: what catches it counts. Then measure the metal left at that very place.",
            "A sharp notch starts a crack; the depth decides, so the place must be measured.") with { OnFault = Outcome.Hold, DecidedBy = "chain.link-thickness" },
        Fault("chain.deformed", "Bent or twisted", "A bent, twisted or otherwise deformed link or component.",
            "Let the leg hang and sight along it: every second link lies in one plane.", "Alloy links bend only when loaded over an edge or too heavily."),
        Fault("chain.stretch", "Stretched", "A stretched link or component: links bind, thin at the bearing points, or the legs hang at unequal heights.",
            "Push links together and look where link bears on link; hang the legs side by side.", "Stretch is the mark of overload."),
        Fault("chain.heat", "Heat", "Heat damage, discoloration or an arc strike.",
            "Straw to blue colours, scale, small bright craters.", "Heat takes the strength out of alloy chain for good."),
        Fault("chain.corrosion", "Corrosion", "Excessive pitting or corrosion.",
            "Brush it. Light rust is no fault; pits you can feel are.", null),
        new()
        {
            Id = "chain.hinge", Kind = CriterionKind.Test, AskedIn = AskedIn.Frequent, Source = Topic("removal, articulation"),
            Title = "Hinges freely", Question = "Links or components do not hinge freely.",
            Look = "Run the leg through your hands, flexing each link both ways.",
            Why = "Links that bind are stretched, bent or corroded where you can't see.",
        },
        Fault("chain.weld-splatter", "Weld spatter", "Weld spatter on the chain.", "Small hard beads that do not brush off.", "Each bead is a spot of hardened, cracked metal."),
        Fault("chain.foreign-link", "Foreign link", "A bolt, repair link or component of a lesser grade in the leg.",
            "Compare each link with its neighbours; read the grade on every coupling.", "One link of a lesser grade governs the whole sling."),
        Fault("chain.grade-mark", "Grade mark", "No alloy grade mark is found along the chain.",
            "Look along the chain for 8, 80, 800, 10, 100, 1000 or an A-type mark.", "Chain for overhead lifting is alloy, grade 80 or higher, marked along its length.") with { AskedIn = AskedIn.Periodic },
        new()
        {
            Id = "chain.link-thickness", Kind = CriterionKind.Measure, AskedIn = AskedIn.Periodic, Source = Topic("least thickness at any point"),
            Title = "Link thickness", Question = "The thinnest metal at any point of any link: the worst you found.",
            Look = "Push links together to bare the bearing points and measure across the worn face with calipers. Measure the worst link, not the nearest.",
            Why = "Chain looks sound outside while it wears where link bears on link.",
            Limit = ChainThickness.Asme,
        },
        new()
        {
            Id = "chain.gauge-growth", Kind = CriterionKind.Measure, AskedIn = AskedIn.Periodic, Source = Topic("stretch"),
            Title = "Growth over the gauge length", Question = "The length over the same number of links as when new.",
            Look = "Hang the leg, or pull it straight by hand, and measure over the links named with the baseline.",
            Why = "Any stretch removes; the first half percent is measuring noise.",
            Limit = new TwoStepGrowth(0.005m, 0.015m), BaselineName = "gauge length when new",
        },
        new()
        {
            Id = "chain.gauge-difference", Kind = CriterionKind.Measure, AskedIn = AskedIn.Periodic, Source = Topic("stretch"),
            Title = "Difference along the leg", Question = "The longest of several lengths over the same number of links, against the shortest.",
            Look = "Measure the same number of links at the top, middle and bottom of the leg.",
            Why = "Shows a stretched place even when nobody knows the length when new.",
            Limit = new TwoStepGrowth(0.005m, 0.015m), BaselineName = "shortest found", IsPair = true,
        },
        new()
        {
            Id = "chain.leg-difference", Kind = CriterionKind.Measure, AskedIn = AskedIn.Periodic, Source = Topic("stretch"),
            Title = "Legs against each other", Question = "The reach of the longest leg, against the shortest.",
            Look = "Hang the top link on a hook and compare where the lower ends come to.",
            Why = "A leg that hangs lower has been overloaded.",
            Limit = new TwoStepGrowth(0.005m, 0.015m), BaselineName = "shortest leg", IsPair = true,
        },
        new()
        {
            Id = "coupling.free", Kind = CriterionKind.Test, AskedIn = AskedIn.Frequent, Source = Topic("removal, components"),
            Title = "Coupling moves", Question = "The coupling or shortener does not move freely, or its pin is bent, loose or not secured.",
            Look = "Work it through its whole travel; try the load pin and its lock with a fingertip.",
            Why = "A load pin that walks out drops the leg.",
        },
    ];

    public static string[] OnLeg { get; } = All.Select(c => c.Id).Where(id => id.StartsWith("chain.", StringComparison.Ordinal) && id != "chain.leg-difference").ToArray();

    private static Source Topic(string topic) => new("ASME B30.9, alloy chain slings", topic);

    private static Criterion Fault(string id, string title, string question, string look, string? why) =>
        Criterion.Fault(Topic("removal"), id, title, question, look, why);
}
