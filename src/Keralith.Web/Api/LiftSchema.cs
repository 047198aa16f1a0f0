using Keralith.Core.Formats;
using Keralith.Core.Gear;
using Keralith.Core.Lifts;
using Keralith.Core.Tags;
using Microsoft.OpenApi;
using static Keralith.Web.Api.ApiDocument;

namespace Keralith.Web.Api;

/// <summary>
/// The schemas of <c>keralith.lift/1</c> and <c>/2</c> and their results, drawn from the values of Core; what only the
/// second has says so.
/// </summary>
internal static class LiftSchema
{
    private static readonly string[] Sizes = ["length", "width", "height", "thickness", "diameter", "outside", "wall"];

    public static OpenApiSchema Lift() =>
        Object(
            ["format", "load"],
            ("format", OneOf([LiftReader.Format, LiftReader.SecondFormat])),
            ("ruleBooks", List(OneOf(RuleBookShelf.All.Select(b => b.Id), "Default asme."))),
            (
                "fourLegs",
                OneOf(
                    Enum.GetValues<FourLegs>().Select(Code.Of),
                    "Default three-share where legs are symmetric, two-carry on a geometry."
                )
            ),
            ("load", Load()),
            (
                "symmetric",
                Object(
                    ["legs", "angle", "hitch", "sling"],
                    [("legs", Whole("1 to 4.")), ("angle", Text("From the horizontal, 0 to 90 deg.")), .. Rigging()]
                )
            ),
            (
                "geometry",
                Object(
                    ["hook", "legs"],
                    ("hook", Point()),
                    ("centreOfGravity", Point("Left out in /2 where parts or weighings give it.")),
                    ("legs", List(Object(["pick", "hitch", "sling"], [("pick", Point()), .. Rigging()])))
                )
            ),
            ("beam", Beam()),
            (
                "drops",
                List(
                    Object(
                        ["at", "hitch", "sling"],
                        [
                            ("at", Text("/2: along the beam from its middle, signed.")),
                            ("above", Text("How far its pick stands above the centre of gravity, negative below.")),
                            .. Rigging(),
                        ]
                    )
                )
            ),
            ("centreOfGravity", Text("/2, with a beam: along it from its middle, signed.")),
            ("above", List(Component(LiftReader.AboveKinds))),
            ("rigging", Object(["weight"], ("weight", Text("Of what hangs between the load and what is above.")))),
            ("crane", Crane())
        );

    public static OpenApiSchema Result() =>
        Object(
            ["format", "outcome", "legs", "above", "weakest", "capacityKg", "remarks"],
            ("format", OneOf([LiftWriter.Format, LiftWriter.SecondFormat])),
            ("outcome", Outcome()),
            ("loadKg", Kilograms("/2: what is lifted, contingency in")),
            (
                "centreOfGravityMm",
                new()
                {
                    Type = JsonSchemaType.Array | JsonSchemaType.Null,
                    Items = Number("x, y, z."),
                    Description = "/2: in the load's frame.",
                }
            ),
            (
                "legs",
                List(
                    Object(
                        ["leg", "angle", "pieces"],
                        ("leg", Whole("From 1.")),
                        ("angle", Number("From the horizontal, degrees.")),
                        ("tensionKg", Kilograms("The pull in the leg")),
                        ("inwardKg", Kilograms("What it pulls inward on the load")),
                        ("pieces", List(Piece()))
                    )
                )
            ),
            ("above", List(Piece())),
            ("beam", BeamResult()),
            ("crane", CraneResult()),
            (
                "weakest",
                new()
                {
                    Type = JsonSchemaType.Object | JsonSchemaType.Null,
                    Description = "leg (above the legs null, in /2 0) and kind of the piece that governs.",
                }
            ),
            ("capacityKg", Kilograms("The largest load this arrangement carries")),
            ("tiltDeg", Number("On a geometry.")),
            ("turnDeg", Number("On a geometry.")),
            ("offsetMm", Number("On a geometry: hook to centre of gravity as drawn.")),
            ("remarks", List(Object(["outcome", "text"], ("outcome", Outcome()), ("text", Text("In words.")))))
        );

    private static (string, OpenApiSchema)[] Rigging() =>
        [
            ("hitch", OneOf(Enum.GetValues<Hitch>().Select(Code.Of))),
            ("sling", Sling()),
            ("components", List(Component(LiftReader.ComponentKinds))),
            ("chokeAngle", Text("0 to 180 deg.")),
            ("bendRatio", Number("D/d, over 0.")),
            ("doubleWrap", Flag()),
            ("contact", OneOf(Enum.GetValues<Contact>().Select(Code.Of), "Default round.")),
            ("reeved", Flag()),
            ("crossed", Flag()),
            (
                "edge",
                Object(
                    ["radius"],
                    ("radius", Text("/2: of the bare edge, 0 and over.")),
                    ("protection", OneOf(Enum.GetValues<EdgeProtection>().Select(Code.Of), "Default none.")),
                    ("protectedRadius", Text("What the protection rounds it to.")),
                    ("bears", Text("Along how much of the sling it bears."))
                )
            ),
        ];

    private static OpenApiSchema Load() =>
        Object(
            [],
            ("weight", Text("With its unit, over 0; or, in /2, parts or weighings.")),
            ("parts", List(Part())),
            (
                "weighings",
                List(Object(["at", "reading"], ("at", List(Text("x, y."))), ("reading", Text("On that support."))))
            ),
            ("contingency", Number("/2: percent, 0 to 100; default 10 for parts, else 0.")),
            ("basis", OneOf(Enum.GetValues<LoadBasis>().Select(Code.Of))),
            ("temperature", Text("At the load end of the slings, such as 620 F."))
        );

    private static OpenApiSchema BeamResult() =>
        Object(
            ["demandKg", "top"],
            ("demandKg", Kilograms("What hangs below it")),
            ("allowedKg", Kilograms("What it may carry so")),
            ("utilisation", Utilisation()),
            ("compressionKg", Kilograms("What presses a spreader together")),
            (
                "top",
                List(
                    Object(["pieces"], ("tensionKg", Kilograms("The pull in the leg above")), ("pieces", List(Piece())))
                )
            )
        );

    private static OpenApiSchema CraneResult() =>
        Object(
            ["critical"],
            ("grossKg", Kilograms("By the chart, the least over the radii")),
            ("netKg", Kilograms("Less deductions, rigging and beam")),
            ("utilisation", Utilisation()),
            ("governingRadiusMm", Number("The first radius with the least gross.")),
            ("critical", Flag())
        );

    private static OpenApiSchema Part() =>
        Object(
            [],
            [
                ("weight", Text("Known; or a shape with its sizes.")),
                ("shape", OneOf(["box", "cylinder", "pipe", "sphere", "plate", "prism", "linear"])),
                .. Sizes.Select(size => (size, Text("With its unit, over 0."))),
                ("area", Text("Prism: of its section.")),
                ("perLength", Text("Linear: kg/m or lb/ft.")),
                ("of", OneOf(Material.All.Select(m => m.Document))),
                ("density", Text("kg/m3 or lb/ft3.")),
                ("count", Whole("From 1; default 1.")),
                ("at", Point()),
            ]
        );

    private static OpenApiSchema Beam() =>
        Object(
            ["kind"],
            ("kind", OneOf(Enum.GetValues<BeamKind>().Select(Code.Of), "/2.")),
            ("ratedLoad", Text("On its plate.")),
            ("ownWeight", Text("0 and over.")),
            ("span", Text("Spreader: between the top picks.")),
            ("topAngle", Text("Spreader: of both legs above, from the horizontal.")),
            ("leastTopAngle", Text("Spreader: default 45 deg.")),
            ("topSling", Sling()),
            ("topComponents", List(Component(LiftReader.ComponentKinds)))
        );

    private static OpenApiSchema Crane() =>
        Object(
            ["chart", "configuration", "boomLength", "radii"],
            (
                "chart",
                List(
                    Object(
                        ["configuration", "boomLength", "radius", "capacity"],
                        ("configuration", Text("How the crane stands.")),
                        ("boomLength", Text("With its unit.")),
                        ("radius", Text("With its unit.")),
                        ("capacity", Text("Gross."))
                    )
                )
            ),
            ("configuration", Text("/2: as named in the chart.")),
            ("boomLength", Text("With its unit.")),
            ("radii", List(Text("At pick-up, on the way, at landing."))),
            (
                "deductions",
                List(Object(["what", "weight"], ("what", Text("Such as the block.")), ("weight", Text("Its weight."))))
            ),
            ("criticalShare", Number("Percent of the net capacity, default 75."))
        );

    private static OpenApiSchema Sling()
    {
        var sling = Gear();
        sling.Properties!["family"] = OneOf(LiftReader.SlingFamilies);
        sling.Properties["ratedLoad"] = Text("One leg, straight, as marked.");
        sling.Properties["tagRatings"] = Object(
            [],
            ("choker", Text("One leg, choked.")),
            ("basket", Text("One leg, in a basket."))
        );
        sling.Properties["tagTable"] = List(
            Object(
                ["hitch", "angle", "ratedLoad"],
                ("hitch", OneOf(Enum.GetValues<Hitch>().Select(Code.Of))),
                ("angle", Text("Least angle from the horizontal.")),
                ("ratedLoad", Text("The whole sling's."))
            )
        );
        sling.Properties["thickness"] = Text("/2: of a web, a loaded roundsling or mesh.");
        sling.Properties["hottest"] = Text("The hottest it has ever met.");
        return sling;
    }

    private static OpenApiSchema Component(IEnumerable<string> kinds) =>
        Object(
            ["kind"],
            ("kind", OneOf(kinds)),
            ("ratedLoad", Text("As marked.")),
            ("designFactor", Number("Has no effect.")),
            ("pull", Text("Shackle: off the bow's axis.")),
            ("collects", Text("Shackle, hook, link: included angle.")),
            ("pin", OneOf(Enum.GetValues<PinKind>().Select(Code.Of), "Shackle.")),
            ("shoulder", Flag()),
            ("seated", Flag()),
            ("angle", Text("Eye bolt: off its axis.")),
            ("outOfPlane", Text("Eye bolt.")),
            ("hole", OneOf(Enum.GetValues<BoltHole>().Select(Code.Of), "Eye bolt.")),
            ("engaged", Number("Eye bolt: diameters of thread.")),
            ("metal", Text("Eye bolt: what the hole is in.")),
            ("offPlumb", Text("Hoist.")),
            ("documented", Flag())
        );

    private static OpenApiSchema Piece() =>
        Object(
            ["kind", "reductions", "outcome"],
            ("kind", Text("The sling's family or the component's kind.")),
            ("demandKg", Kilograms("What is asked of it")),
            ("allowedKg", Kilograms("What it may carry so")),
            ("utilisation", Utilisation()),
            (
                "reductions",
                List(
                    Object(
                        ["what", "factor"],
                        ("what", Text("What takes its share.")),
                        ("factor", Number("What is multiplied by."))
                    )
                )
            ),
            ("outcome", Outcome())
        );

    private static OpenApiSchema Kilograms(string what) =>
        new() { Type = JsonSchemaType.Number | JsonSchemaType.Null, Description = $"{what}, in kilograms." };

    private static OpenApiSchema Utilisation() =>
        new() { Type = JsonSchemaType.Number | JsonSchemaType.Null, Description = "Demand over allowed." };

    private static OpenApiSchema Outcome() => OneOf(Enum.GetValues<LiftOutcome>().Select(Code.Of));

    private static OpenApiSchema Point(string more = "") => List(Text($"x, y, z with units, z up. {more}".Trim()));

    private static OpenApiSchema Flag() => new() { Type = JsonSchemaType.Boolean };
}
