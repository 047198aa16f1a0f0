namespace Keralith.Core.Gear;

/// <summary>Hoists: hand-chain and powered (ASME B30.16), lever and rope-grip (ASME B30.21).</summary>
internal static class HoistCriteria
{
    private static readonly Chapter Book = new("ASME B30.16 and B30.21, hoists");
    private static readonly Chapter OnRecord = new(
        "The maker's figure on record; site default beside ASME B30.16, B30.21"
    );

    public static IReadOnlyList<Criterion> All { get; } =
    [
        Book.Test(
            "hoist.operation",
            "operation",
            "Runs well",
            "The operating mechanism is stiff, out of adjustment, or sounds unusual.",
            "Run it up and down a little, unloaded, and listen."
        ),
        Book.Test(
            "hoist.brake",
            "brake",
            "Brake holds",
            "The brake slips, or the load drifts after stopping.",
            "Lift a load just clear, stop, and watch it against a mark.",
            "A brake that drifts a little today drops the load one day."
        ),
        Book.Test(
            "hoist.limit",
            "limit devices",
            "Limit devices act",
            "The upper or lower limit device does not act, unloaded.",
            "Creep into each limit, unloaded."
        ),
        Book.Test(
            "hoist.controls",
            "controls",
            "Controls",
            "The pendant, a control, the emergency stop or a label of direction is wrong or missing.",
            "Press each, and the stop, before there is a load."
        ),
        Book.Fault(
            "hoist.supply",
            "Supply lines",
            "An air line, valve, cable or its insulation is damaged or leaks.",
            "Follow it from end to end; listen for air."
        ),
        Book.Fault(
            "hoist.reeving",
            "Reeving",
            "The chain, rope or web is twisted, out of its sheave or wrongly reeved, or the slack end is not secured.",
            "Sight along every fall: a bottom hook turned over puts a twist in the chain.",
            "Twisted chain climbs the pocket and jumps."
        ),
        Book.Test(
            "hoist.hand-effort",
            "operation",
            "Hand pull",
            "The hand chain or lever needs more pull than the maker states.",
            "Pull through a spring balance at the rated load, or against a twin hoist; the figure is on the label.",
            "A hard pull is the mark of overload or of a failing brake."
        ),
        OnRecord
            .Measure(
                "hoist.hand-pull",
                "operation",
                "Hand pull measured",
                "The pull on the hand chain or lever that just raises the load.",
                "A spring balance on the hand chain or at the end of the lever, at the load the maker's figure is stated for; pull slowly and read it while the load rises.",
                "A pull over the maker's figure is the mark of overload, of a dry chain or of a brake that binds.",
                new HandPullOnRecord()
            )
            .If(g => g.Force("handPullLimit") is not null) with
        {
            Measures = Dimension.Force,
            InsteadOfFigure = [Found.Unsure, Found.NotAccessible],
        },
        Book.Fault(
            "hoist.handle",
            "Lever",
            "The lever is bent, cracked, broken or lengthened by a pipe.",
            "Sight along it; look at its end for pipe marks.",
            "A lever bent by a pipe tells of an overload."
        ),
        Book.Fault(
            "hoist.shear-pin",
            "Shear pin",
            "A shear pin is missing, or a bolt or nail stands in its place.",
            "Draw it and look; spares belong in the handle.",
            "The pin is the only thing that gives before the rope does."
        ),
        Book.Fault(
            "hoist.rope-type",
            "Maker's rope",
            "The rope is not the maker's own.",
            "Compare its mark or coloured strand with the maker's book.",
            "The jaws are cut for one rope."
        ),
        Book.Test(
            "hoist.jaws",
            "jaws",
            "Jaws grip",
            "The jaws do not grip and pay out a test rope.",
            "Work a short clean rope through, both ways."
        ),
        Book.Fault(
            "hoist.anchor",
            "Anchor",
            "The anchor pin or hook is bent, worn or substituted.",
            "Draw the pin and roll it on a flat face."
        ),
        Book.Test(
            "hoist.free-chain",
            "operation",
            "Free-chaining",
            "The free-chaining selector does not hold or does not release.",
            "Set it, pull chain both ways, set it back; it must lock."
        ),
        Book.Test(
                "hoist.overload",
                "overload limiter",
                "Overload limiter",
                "The overload limiter does not act by the maker's test.",
                "Only as the maker's book says, and nothing else."
            )
            .Periodic()
            .If(g => g.Flag("overloadLimiter")),
        Book.Fault(
                "hoist.drum",
                "Drum",
                "Fewer than two dead wraps, or a worn anchorage or groove.",
                "Run the hook to its lowest and count the wraps."
            )
            .Periodic(),
        Book.Fault(
                "hoist.frame",
                "Housing and suspension",
                "Housing, suspension, trolley, load wheel or bolts are worn, cracked, bent or loose.",
                "Covers off, as the maker's book says."
            )
            .Periodic(),
        Book.Fault(
                "hoist.gears",
                "Gears, pawl, ratchet",
                "Gears, bearings, shafts, pawl or ratchet are worn, broken or dry.",
                "Covers off, as the maker's book says."
            )
            .Periodic(),
        Book.Fault(
                "hoist.brake-wear",
                "Brake parts",
                "Brake discs are glazed, oily or worn, or a spring is weak or broken.",
                "Measure the discs against the maker's figure; keep oil off them."
            )
            .Periodic(),
        Book.Fault(
                "hoist.electrical",
                "Electrical parts",
                "A contactor, switch or the earth is worn, burnt or loose.",
                "By a person allowed to open it, with the supply locked off."
            )
            .Periodic()
            .If(g => g.Text("power") == "electric"),
        Book.Fault(
                "hoist.warning-label",
                "Warning label",
                "The warning label is missing.",
                "Look where the operator stands.",
                topic: "markings"
            )
            .Periodic()
            .Holding(),
        Book.Fault(
            "hoist.suspension",
            "Suspension",
            "The suspension lug, bolt, trolley wheel or axle is worn, cracked or loose.",
            "From the platform, not from below."
        ),
        Book.Test(
            "hoist.drift",
            "trolley",
            "Stays where it is",
            "The trolley or the load runs away along the beam by itself.",
            "Let go of it, unloaded, at several places along the beam."
        ),
        Book.Fault(
            "hoistchain.damage",
            "Load chain damage",
            "A gouge, nick, weld spatter, corrosion, distorted link or crack.",
            "Every link through the hand, over the whole lift."
        ),
        Book.Fault(
            "hoistchain.lubrication",
            "Load chain dry",
            "The load chain is dry.",
            "Rub it: a film of oil, no grit. Clean and oil it now.",
            "Dry chain wears many times faster."
        ) with
        {
            OnFault = Outcome.Watch,
        },
        Book.Measure(
            "hoistchain.growth",
            "load chain wear",
            "Load chain growth",
            "The length over the same links as of unused chain.",
            "Measure 11 links or 12 in (300 mm) with the chain hanging, where it runs over the load wheel most.",
            "Each worn bearing point adds a little; over many links it shows.",
            new HoistChainGrowth(),
            "unused chain over the same links"
        ) with
        {
            MakerMayBeLaxer = true,
            OverLinks = true,
            MostBetterThanNew = 0.01m,
            LikelyOfSize = (2.5m, 3.6m),
            FileName = "gauge_length",
        },
        Book.Measure(
            "hoistchain.wear",
            "load chain wear",
            "Load chain link",
            "The link's diameter at the bearing point now.",
            "Push the links apart and measure across the worn face.",
            "The tenth taken where the maker names no least diameter is a default of the site: the standard leaves it to the maker.",
            new LossLimit(1, 10, Comparator.AtOrBelow),
            "link when new"
        ) with
        {
            Source = new("Site default; the maker's figure comes first (ASME B30.16, B30.21)", "load chain wear"),
            MakerMayBeLaxer = true,
            LikelyOfSize = (0.8m, 1.25m),
            ThicknessWhenNew = c => c.Baseline,
        },
        Book.Count(
            "hoistrope.broken-in-lay",
            "hoist rope",
            "Broken wires in a lay",
            "Broken wires in the worst rope lay.",
            "Rag along the whole length that runs; count over one lay (rotation-resistant rope: over six diameters).",
            null,
            new HoistRopeBrokenWires(12, 2)
        ),
        Book.Count(
            "hoistrope.broken-in-strand",
            "hoist rope",
            "Broken wires in one strand",
            "Broken wires in one strand within one lay.",
            "Follow the worst strand once round the rope.",
            null,
            new CountLimit(4)
        ),
        Book.Fault(
            "hoistrope.valley-break",
            "Valley break",
            "An outer wire is broken where it touches the core.",
            "Bend the rope: ends that rise between the strands.",
            "One valley break means many inside.",
            "hoist rope"
        ),
        Book.Measure(
            "hoistrope.outer-wire",
            "hoist rope",
            "Outer wires",
            "The thickness left of a worn outer wire, at its flat.",
            "Measure across the worn flat with a small caliper or a lens with a scale.",
            null,
            new LossLimit(1, 3, Comparator.AtOrBelow),
            "outer wire when new"
        ),
        Book.Measure(
            "hoistrope.diameter",
            "hoist rope",
            "Diameter",
            "The least diameter now, measured over the crowns.",
            "Crown to crown, where it runs over the sheave most.",
            null,
            new HoistRopeDiameter(),
            "nominal diameter"
        ) with
        {
            MostBetterThanNew = 0.10m,
            LikelyOfSize = (0.8m, 1.25m),
        },
        Book.Fault(
            "hoistrope.structure",
            "Kinked, crushed, caged",
            "A kink, a crushed place, or strands opened like a cage.",
            "The whole length, and the wraps on the drum.",
            topic: "hoist rope"
        ),
        Book.Fault(
            "hoistrope.heat",
            "Heat",
            "Heat damage or an arc strike.",
            "Blue wires, burnt grease, small craters.",
            topic: "hoist rope"
        ),
        Book.Fault(
            "hoistrope.end",
            "End fitting",
            "An end fitting is cracked, worn, corroded or loose.",
            "Look where the rope enters it.",
            topic: "hoist rope"
        ),
    ];

    public static string[] OnLoadChain { get; } = ["hoist.reeving", .. OfMedium("hoistchain")];

    public static string[] OnLoadRope { get; } = ["hoist.reeving", .. OfMedium("hoistrope")];

    private static string[] OfMedium(string prefix) =>
        All.Ids().Where(id => id.StartsWith($"{prefix}.", StringComparison.Ordinal)).ToArray();
}
