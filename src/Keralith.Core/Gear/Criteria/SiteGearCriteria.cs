namespace Keralith.Core.Gear;

/// <summary>Kits, cargo nets and lifting points: gear a site answers for itself.</summary>
internal static class SiteGearCriteria
{
    private static readonly Chapter Kits = new("Site rule, kits");
    private static readonly Chapter Nets = new("Site rule, cargo nets");
    private static readonly Chapter Points = new("Site rule and ASME B30.20, lifting points");

    public static IReadOnlyList<Criterion> All { get; } =
    [
        Kits.Count(
            "kit.complete",
            "roster",
            "All members there",
            "Members present.",
            "Lay them out against the roster.",
            "A kit short of a member gets one borrowed from somewhere.",
            new RosterMembers()
        ),
        Kits.Fault(
            "kit.member",
            "Right members",
            "A member is damaged, substituted, or an unapproved substitute.",
            "Read each member's mark against the roster, which names approved substitutes and mixes that are forbidden.",
            topic: "roster"
        ),
        Kits.Fault(
                "kit.match",
                "Members match",
                "Members of different sets or ratings are mixed.",
                "Read the rating on each.",
                topic: "roster"
            )
            .Periodic(),
        Kits.Count(
                "kit.link-count",
                "roster",
                "Links in a leg",
                "Links in a leg's chain.",
                "Count from coupling to coupling; all legs alike.",
                null,
                new RosterLinks()
            )
            .Periodic(),
        Nets.Fault("net.cut", "Mesh", "A cut or worn mesh.", "Spread it out; look at every crossing."),
        Nets.Fault("net.knot", "Knots and splices", "A knot or splice has slipped.", "Pull each crossing by hand."),
        Nets.Fault(
            "net.edge",
            "Edge rope and loops",
            "The edge rope or a lifting loop is cut, worn or loose.",
            "Run the whole edge through the hands.",
            "The edge rope carries everything."
        ),
        Points.Fault(
            "point.crack",
            "Cracks",
            "A crack in the point, its weld or what it is fixed to.",
            "Clean the weld; look across the light."
        ),
        Points.Fault(
            "point.deformed",
            "Deformed",
            "Bent, twisted, or its hole drawn oval.",
            "Compare with its neighbours."
        ),
        Points.Fault(
            "point.fasteners",
            "Fasteners",
            "A bolt, nut or anchor is loose, corroded or missing.",
            "Tap each; look for rust stains and cracked paint."
        ),
        Points
            .Fault(
                "point.document",
                "Rated and calculated",
                "There is no rating plate, or no calculation on file.",
                "Read the plate; ask for the calculation by its number.",
                "A beam is not a lifting point because it is there."
            )
            .Periodic()
            .Holding(),
    ];

    /// <summary>The criteria of one prefix: <c>kit</c>, <c>net</c> or <c>point</c>.</summary>
    public static string[] Of(string prefix) =>
        All.Ids().Where(id => id.StartsWith($"{prefix}.", StringComparison.Ordinal)).ToArray();
}
