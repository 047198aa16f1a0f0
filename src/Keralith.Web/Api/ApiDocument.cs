using System.Text.Json.Nodes;
using Keralith.Core.Formats;
using Keralith.Core.Gear;
using Keralith.Core.Judgement;
using Microsoft.AspNetCore.OpenApi;
using Microsoft.OpenApi;

namespace Keralith.Web.Api;

/// <summary>
/// The OpenAPI document, drawn from the families, attributes, criteria and books themselves: it can't fall behind them.
/// </summary>
internal static class ApiDocument
{
    private const string Json = "application/json";

    public static void Describe(OpenApiOptions options)
    {
        options.AddDocumentTransformer(
            (document, _, _) =>
            {
                document.Info = new()
                {
                    Title = "Keralith",
                    Version = "v1",
                    Description =
                        "Rigging gear: its inspection judged, its register read and kept, and what a lift's arrangement may carry.",
                };
                document.Servers = [];
                document.Components ??= new();
                document.Components.SecuritySchemes = new Dictionary<string, IOpenApiSecurityScheme>
                {
                    ["token"] = new OpenApiSecurityScheme
                    {
                        Type = SecuritySchemeType.Http,
                        Scheme = "bearer",
                        Description = "A token made under Settings.",
                    },
                };
                document.Security = [new() { [new OpenApiSecuritySchemeReference("token", document)] = [] }];
                return Task.CompletedTask;
            }
        );
        options.AddOperationTransformer(
            (operation, context, _) =>
            {
                switch (operation.OperationId)
                {
                    case "judge":
                        operation.RequestBody = Body("A case.", Case());
                        operation.Responses = Answers("200", "The verdict.", Verdict(), "413", "422");
                        break;
                    case "lift":
                        operation.RequestBody = Body("An arrangement.", LiftSchema.Lift());
                        operation.Responses = Answers("200", "What it comes to.", LiftSchema.Result(), "413", "422");
                        break;
                    case "listPieces":
                        operation.Parameters =
                        [
                            Query("q", "Fragments, each written somewhere on the piece."),
                            Query("after", "The last mark of the page before."),
                            Query("most", "How many, 1 to 200; 50 unless stated."),
                        ];
                        operation.Responses = Answers(
                            "200",
                            "A page of pieces.",
                            Object(
                                ["pieces"],
                                ("pieces", List(Piece())),
                                ("next", Text("Where the next page begins: send it as after. Absent on the last page."))
                            )
                        );
                        break;
                    case "readPiece":
                        operation.Parameters = [Mark()];
                        operation.Responses = Answers("200", "The piece.", Piece(), "404");
                        break;
                    case "createPiece":
                        operation.RequestBody = Body("A piece.", Piece());
                        operation.Responses = Answers("201", "As it is now on record.", Piece(), "403", "413", "422");
                        break;
                    case "updatePiece":
                        operation.Parameters = [Mark()];
                        operation.RequestBody = Body(
                            "The piece as it is to be, with the version the change was made on.",
                            Piece()
                        );
                        operation.Responses = Answers(
                            "200",
                            "As it is now on record.",
                            Piece(),
                            "403",
                            "404",
                            "409",
                            "413",
                            "422"
                        );
                        break;
                    default:
                        break;
                }

                return Task.CompletedTask;
            }
        );
    }

    private static readonly Dictionary<string, string> Refusals = new()
    {
        ["401"] = "No token that counts.",
        ["403"] = "The token's person may read, not change.",
        ["404"] = "No piece of this mark.",
        ["409"] = "Changed meanwhile: read it again.",
        ["413"] = "Larger than 1 MiB.",
        ["422"] = "Every fault with its JSON path.",
        ["429"] = "Too many requests in a minute.",
    };

    private static OpenApiRequestBody Body(string description, OpenApiSchema schema) =>
        new()
        {
            Required = true,
            Description = description,
            Content = Content(schema),
        };

    private static OpenApiResponses Answers(
        string status,
        string description,
        OpenApiSchema schema,
        params string[] refusals
    )
    {
        var answers = new OpenApiResponses
        {
            [status] = new OpenApiResponse { Description = description, Content = Content(schema) },
        };
        foreach (var refusal in refusals.Concat(["401", "429"]).Order())
            answers[refusal] = new OpenApiResponse { Description = Refusals[refusal], Content = Content(Errors()) };
        return answers;
    }

    private static OpenApiParameter Query(string name, string description) =>
        new()
        {
            Name = name,
            In = ParameterLocation.Query,
            Description = description,
            Schema = Text(description),
        };

    private static OpenApiParameter Mark() =>
        new()
        {
            Name = "mark",
            In = ParameterLocation.Path,
            Required = true,
            Description = "Such as HM-0042.",
            Schema = Text("Such as HM-0042."),
        };

    private static OpenApiSchema Piece() =>
        Object(
            ["format", "mark", "store", "gear"],
            [
                ("format", Only(PieceDocument.Format)),
                .. PieceDocument.Texts.Select(n =>
                    (n, Text("As its form field: quantities with their unit, days as year-month-day."))
                ),
                ("designFactor", Number("As marked, such as 4.")),
                ("lotCount", Whole("How many hang under this mark; absent for a single piece.")),
                ("store", Text("The store's name.")),
                ("gear", Gear()),
                (
                    "tagRead",
                    new()
                    {
                        Type = JsonSchemaType.Boolean,
                        Description = "Whether the marking has been read; true unless stated.",
                    }
                ),
                ("tagEntries", List(Text("Code of an entry the marking carries."))),
                ("tagRatings", List(Text("Hitch, angle if named, load: basket 60 deg 12200 lb."))),
                ("meets", List(OneOf(Enum.GetValues<Core.Tags.Chemical>().Select(Code.Of)))),
                ("members", List(Text("A kit's roster: count; name; rated load or -; bears or spare; mark."))),
                (
                    "fit",
                    Object([], [.. Core.Register.PieceEntryReader.FitFields.Select(f => (f.Field[4..], Text(f.Label)))])
                ),
                (
                    "baselines",
                    List(
                        Object(
                            ["part", "criterion", "value"],
                            ("part", Text("The part's path.")),
                            ("criterion", Text("The measure's id.")),
                            ("value", Text("The figure when new, with its unit.")),
                            ("basis", OneOf(Enum.GetValues<BaselineBasis>().Select(Code.Of), "Default new.")),
                            ("links", Whole("Over how many links."))
                        )
                    )
                ),
                ("state", OneOf(Enum.GetValues<Core.Custody.PieceState>().Select(Code.Of), "Written only.")),
                ("verdict", Text("The last verdict; written only.")),
                ("mayBeUsed", new() { Type = JsonSchemaType.Boolean, Description = "Written only." }),
                ("reasons", List(Text("Why it may not be used; written only."))),
                ("periodicDue", Text("Written only.")),
                ("frequentDue", Text("Written only.")),
                ("version", Whole("Of the record; asked for in a change.")),
            ]
        );

    private static OpenApiSchema Case() =>
        Object(
            ["format", "gear"],
            ("format", Only(CaseReader.Format)),
            ("ruleBooks", List(OneOf(RuleBookShelf.All.Select(b => b.Id), "Default asme."))),
            ("kind", OneOf(Enum.GetValues<InspectionKind>().Select(Code.Of), "Default periodic.")),
            ("gear", Gear()),
            (
                "limits",
                List(
                    Object(
                        ["source", "criterion"],
                        ("source", OneOf(Enum.GetValues<LimitOwner>().Select(Code.Of))),
                        ("criterion", OneOf(Core.Judgement.OwnLimitReader.Criteria.Select(c => c.Id))),
                        ("percent", Number("Change allowed, in percent of the baseline, 0 and over.")),
                        ("absolute", Text("A quantity with its unit.")),
                        ("count", Whole("The first failing count."))
                    )
                )
            ),
            (
                "answers",
                List(
                    Object(
                        ["criterion", "part"],
                        ("criterion", OneOf(Catalogue.All.Select(c => c.Id))),
                        ("part", Text("Such as leg-1/hook.")),
                        (
                            "answer",
                            OneOf(
                                Enum.GetValues<Found>().Select(Code.Of),
                                "For faults and tests: yes means the fault is there, no that it is not; unsure and not-accessible are never taken as fine. What each asks: GET /api/v1/criteria."
                            )
                        ),
                        ("value", Text("For measures: the figure with its unit, such as 1.43 in.")),
                        ("count", Whole("For counts, 0 and over.")),
                        ("baseline", Text("The original, catalogue or nominal figure with its unit.")),
                        ("baselineBasis", OneOf(Enum.GetValues<BaselineBasis>().Select(Code.Of), "Default new.")),
                        ("uncertainty", Text("Of the instrument, with its unit."))
                    )
                )
            )
        );

    internal static OpenApiSchema Gear()
    {
        var fields = new List<(string, OpenApiSchema)> { ("family", OneOf(GearFamilies.All.Select(f => f.Code))) };
        fields.AddRange(GearAttributes.All.Select(a => (a.Name, Attribute(a))));
        return Object(["family"], [.. fields]);
    }

    private static OpenApiSchema Attribute(AttributeDefinition a) =>
        a.Kind switch
        {
            AttributeKind.Length => Text(
                $"{a.Label}: a length with its unit, such as 3/8 in or 10 mm. {a.Hint}".Trim()
            ),
            AttributeKind.Mass => Text($"{a.Label}: a mass with its unit, such as 8800 lb or 3.5 t. {a.Hint}".Trim()),
            AttributeKind.Force => Text($"{a.Label}: a force with its unit. {a.Hint}".Trim()),
            AttributeKind.Moment => Text($"{a.Label}: a torque with its unit. {a.Hint}".Trim()),
            AttributeKind.Whole => Whole(a.Label),
            AttributeKind.Number => Number(a.Label),
            AttributeKind.Choice => OneOf(a.Choices, a.Label),
            AttributeKind.Flag => new() { Type = JsonSchemaType.Boolean, Description = a.Label },
            AttributeKind.Text => Text(a.Hint ?? a.Label),
            AttributeKind.Roster => Object(
                [],
                ("members", Whole("How many belong to it.")),
                ("links", List(Whole("The least, then the most links of a leg.")))
            ),
        };

    private static OpenApiSchema Verdict() =>
        Object(
            ["format", "verdict", "complete", "findings", "missing"],
            ("format", Only(VerdictWriter.Format)),
            ("verdict", OneOf(Enum.GetValues<VerdictKind>().Select(Code.Of))),
            ("complete", new() { Type = JsonSchemaType.Boolean }),
            (
                "findings",
                List(
                    Object(
                        ["criterion", "part", "outcome", "book", "reason", "reference", "books"],
                        ("criterion", Text("The criterion's id.")),
                        ("part", Text("The part's path.")),
                        ("outcome", Outcomes()),
                        (
                            "consumed",
                            new()
                            {
                                Type = JsonSchemaType.Number | JsonSchemaType.Null,
                                Description = "Share of the allowance used, 0 as new, 1 at the limit.",
                            }
                        ),
                        (
                            "limit",
                            new()
                            {
                                Type = JsonSchemaType.Object | JsonSchemaType.Null,
                                Description = "The governing limit: mm, deg or count, its comparator and its text.",
                            }
                        ),
                        ("book", Text("The book that governs.")),
                        ("reason", Text("In words.")),
                        ("reference", Text("Standard and topic.")),
                        ("from", Text("gear, where a fact of the gear alone decides.")),
                        (
                            "books",
                            List(
                                Object(
                                    ["book", "outcome"],
                                    ("book", Text("A book, site or maker.")),
                                    ("outcome", Outcomes()),
                                    ("limitMm", Number("The limit.")),
                                    ("limitDeg", Number("The limit.")),
                                    ("limitN", Number("The limit.")),
                                    ("limitCount", Number("The first failing count.")),
                                    ("from", Text("Who stands in where the book is silent."))
                                )
                            )
                        )
                    )
                )
            ),
            (
                "missing",
                List(
                    Object(
                        ["criterion", "part"],
                        ("criterion", Text("The criterion's id.")),
                        ("part", Text("The part's path."))
                    )
                )
            )
        );

    private static OpenApiSchema Outcomes() => OneOf(Enum.GetValues<Outcome>().Select(Code.Of));

    private static OpenApiSchema Errors() =>
        Object(
            ["errors"],
            (
                "errors",
                List(
                    Object(
                        ["path", "message"],
                        ("path", Text("JSON path of the fault.")),
                        ("message", Text("What was found and what is expected."))
                    )
                )
            )
        );

    private static Dictionary<string, OpenApiMediaType> Content(OpenApiSchema schema) =>
        new() { [Json] = new OpenApiMediaType { Schema = schema } };

    internal static OpenApiSchema Object(string[] required, params (string Name, OpenApiSchema Schema)[] fields) =>
        new()
        {
            Type = JsonSchemaType.Object,
            Required = required.ToHashSet(),
            Properties = fields.ToDictionary(f => f.Name, IOpenApiSchema (f) => f.Schema),
            AdditionalPropertiesAllowed = false,
        };

    internal static OpenApiSchema List(OpenApiSchema items) => new() { Type = JsonSchemaType.Array, Items = items };

    internal static OpenApiSchema Text(string description) =>
        new() { Type = JsonSchemaType.String, Description = description };

    internal static OpenApiSchema Number(string description) =>
        new() { Type = JsonSchemaType.Number, Description = description };

    internal static OpenApiSchema Whole(string description) =>
        new() { Type = JsonSchemaType.Integer, Description = description };

    internal static OpenApiSchema Only(string value) => OneOf([value]);

    internal static OpenApiSchema OneOf(IEnumerable<string> values, string? description = null) =>
        new()
        {
            Type = JsonSchemaType.String,
            Description = description,
            Enum = [.. values.Select(v => (JsonNode)v)],
        };
}
