using Keralith.Core.Formats;
using Keralith.Core.Gear;
using Keralith.Core.Lifts;
using Keralith.Core.Tags;
using Microsoft.OpenApi;
using static Keralith.Web.Api.ApiDocument;

namespace Keralith.Web.Api;

/// <summary>The schemas of <c>keralith.lift/1</c> and its result, drawn from the values of Core.</summary>
internal static class LiftSchema
{
    public static OpenApiSchema Lift() =>
        Object(
            ["format", "load"],
            ("format", Only(LiftReader.Format)),
            ("ruleBooks", List(OneOf(RuleBookShelf.All.Select(b => b.Id), "Default asme."))),
            (
                "fourLegs",
                OneOf(
                    Enum.GetValues<FourLegs>().Select(Code.Of),
                    "Default three-share where legs are symmetric, two-carry on a geometry."
                )
            ),
            (
                "load",
                Object(
                    ["weight"],
                    ("weight", Text("With its unit, over 0.")),
                    ("basis", OneOf(Enum.GetValues<LoadBasis>().Select(Code.Of))),
                    ("temperature", Text("At the load end of the slings, such as 620 F."))
                )
            ),
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
                    ["hook", "centreOfGravity", "legs"],
                    ("hook", Point()),
                    ("centreOfGravity", Point()),
                    ("legs", List(Object(["pick", "hitch", "sling"], [("pick", Point()), .. Rigging()])))
                )
            ),
            ("above", List(Component(LiftReader.AboveKinds))),
            ("rigging", Object(["weight"], ("weight", Text("Of what hangs between the load and what is above."))))
        );

    public static OpenApiSchema Result() =>
        Object(
            ["format", "outcome", "legs", "above", "weakest", "capacityKg", "remarks"],
            ("format", Only(LiftWriter.Format)),
            ("outcome", Outcome()),
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
            (
                "weakest",
                new()
                {
                    Type = JsonSchemaType.Object | JsonSchemaType.Null,
                    Description = "leg (null above the legs) and kind of the piece that governs.",
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
        ];

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
            (
                "utilisation",
                new() { Type = JsonSchemaType.Number | JsonSchemaType.Null, Description = "Demand over allowed." }
            ),
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

    private static OpenApiSchema Outcome() => OneOf(Enum.GetValues<LiftOutcome>().Select(Code.Of));

    private static OpenApiSchema Point() => List(Text("x, y, z with units, z up."));

    private static OpenApiSchema Flag() => new() { Type = JsonSchemaType.Boolean };
}
