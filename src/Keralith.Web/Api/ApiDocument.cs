using System.Text.Json.Nodes;
using Keralith.Core;
using Keralith.Core.Criteria;
using Keralith.Core.Formats;
using Keralith.Core.Gear;
using Keralith.Core.Judgement;
using Microsoft.AspNetCore.OpenApi;
using Microsoft.OpenApi;

namespace Keralith.Web.Api;

/// <summary>The OpenAPI document, drawn from the families, attributes, criteria and books themselves: it can't fall behind them.</summary>
internal static class ApiDocument
{
    private const string Json = "application/json";

    public static void Describe(OpenApiOptions options)
    {
        options.AddDocumentTransformer((document, _, _) =>
        {
            document.Info = new() { Title = "Keralith", Version = "v1", Description = "Rigging gear: its inspection judged." };
            document.Servers = [];
            document.Components ??= new();
            document.Components.SecuritySchemes = new Dictionary<string, IOpenApiSecurityScheme> { ["token"] = new OpenApiSecurityScheme { Type = SecuritySchemeType.Http, Scheme = "bearer", Description = "A token made under Settings." } };
            document.Security = [new() { [new OpenApiSecuritySchemeReference("token", document)] = [] }];
            return Task.CompletedTask;
        });
        options.AddOperationTransformer((operation, context, _) =>
        {
            if (operation.OperationId != "judge") return Task.CompletedTask;
            operation.RequestBody = new OpenApiRequestBody { Required = true, Description = "A case.", Content = Content(Case()) };
            operation.Responses = new()
            {
                ["200"] = new OpenApiResponse { Description = "The verdict.", Content = Content(Verdict()) },
                ["401"] = new OpenApiResponse { Description = "No token that counts.", Content = Content(Errors()) },
                ["413"] = new OpenApiResponse { Description = "Larger than 1 MiB.", Content = Content(Errors()) },
                ["422"] = new OpenApiResponse { Description = "Not a case: every fault with its JSON path.", Content = Content(Errors()) },
                ["429"] = new OpenApiResponse { Description = "Too many requests in a minute.", Content = Content(Errors()) },
            };
            return Task.CompletedTask;
        });
    }

    private static OpenApiSchema Case() => Object(
        ["format", "gear"],
        ("format", Only(CaseReader.Format)),
        ("ruleBooks", List(OneOf(RuleBookShelf.All.Select(b => b.Id), "Default asme."))),
        ("kind", OneOf(Enum.GetValues<InspectionKind>().Select(Words.Code), "Default periodic.")),
        ("gear", Gear()),
        ("limits", List(Object(
            ["source", "criterion"],
            ("source", OneOf(Enum.GetValues<LimitOwner>().Select(Words.Code))),
            ("criterion", OneOf(Core.Register.OwnLimitReader.Criteria.Select(c => c.Id))),
            ("percent", Number("Change allowed, in percent of the baseline, 0 and over.")),
            ("absolute", Text("A quantity with its unit.")),
            ("count", Whole("The first failing count."))))),
        ("answers", List(Object(
            ["criterion", "part"],
            ("criterion", OneOf(Catalogue.All.Select(c => c.Id))),
            ("part", Text("Such as leg-1/hook.")),
            ("answer", OneOf(Enum.GetValues<Found>().Select(Words.Code), "For faults and tests.")),
            ("value", Text("For measures: the figure with its unit, such as 1.43 in.")),
            ("count", Whole("For counts, 0 and over.")),
            ("baseline", Text("The original, catalogue or nominal figure with its unit.")),
            ("baselineBasis", OneOf(Enum.GetValues<BaselineBasis>().Select(Words.Code), "Default new.")),
            ("uncertainty", Text("Of the instrument, with its unit."))))));

    private static OpenApiSchema Gear()
    {
        var fields = new List<(string, OpenApiSchema)> { ("family", OneOf(GearFamilies.All.Select(f => f.Code))) };
        fields.AddRange(GearAttributes.All.Select(a => (a.Name, Attribute(a))));
        return Object(["family"], [.. fields]);
    }

    private static OpenApiSchema Attribute(AttributeDefinition a) => a.Kind switch
    {
        AttributeKind.Length => Text($"{a.Label}: a length with its unit, such as 3/8 in or 10 mm. {a.Hint}".Trim()),
        AttributeKind.Mass => Text($"{a.Label}: a mass with its unit, such as 8800 lb or 3.5 t. {a.Hint}".Trim()),
        AttributeKind.Whole => Whole(a.Label),
        AttributeKind.Number => Number(a.Label),
        AttributeKind.Choice => OneOf(a.Choices, a.Label),
        AttributeKind.Flag => new() { Type = JsonSchemaType.Boolean, Description = a.Label },
        AttributeKind.Text => Text(a.Hint ?? a.Label),
        AttributeKind.Roster => Object([], ("members", Whole("How many belong to it.")), ("links", List(Whole("The least, then the most links of a leg.")))),
        _ => throw new InvalidOperationException($"No such attribute kind: {a.Kind}."),
    };

    private static OpenApiSchema Verdict() => Object(
        ["format", "verdict", "complete", "findings", "missing"],
        ("format", Only(VerdictWriter.Format)),
        ("verdict", OneOf(Enum.GetValues<VerdictKind>().Select(Words.Code))),
        ("complete", new() { Type = JsonSchemaType.Boolean }),
        ("findings", List(Object(
            ["criterion", "part", "outcome", "book", "reason", "reference", "books"],
            ("criterion", Text("The criterion's id.")),
            ("part", Text("The part's path.")),
            ("outcome", Outcomes()),
            ("consumed", new() { Type = JsonSchemaType.Number | JsonSchemaType.Null, Description = "Share of the allowance used, 0 as new, 1 at the limit." }),
            ("limit", new() { Type = JsonSchemaType.Object | JsonSchemaType.Null, Description = "The governing limit: mm, deg or count, its comparator and its text." }),
            ("book", Text("The book that governs.")),
            ("reason", Text("In words.")),
            ("reference", Text("Standard and topic.")),
            ("from", Text("gear, where a fact of the gear alone decides.")),
            ("books", List(Object(["book", "outcome"], ("book", Text("A book, site or maker.")), ("outcome", Outcomes()), ("limitMm", Number("The limit.")), ("limitDeg", Number("The limit.")), ("limitCount", Number("The first failing count.")), ("from", Text("Who stands in where the book is silent.")))))))),
        ("missing", List(Object(["criterion", "part"], ("criterion", Text("The criterion's id.")), ("part", Text("The part's path."))))));

    private static OpenApiSchema Outcomes() => OneOf(Enum.GetValues<Outcome>().Select(Words.Code));

    private static OpenApiSchema Errors() => Object(["errors"], ("errors", List(Object(["path", "message"], ("path", Text("JSON path of the fault.")), ("message", Text("What was found and what is expected."))))));

    private static Dictionary<string, OpenApiMediaType> Content(OpenApiSchema schema) => new() { [Json] = new OpenApiMediaType { Schema = schema } };

    private static OpenApiSchema Object(string[] required, params (string Name, OpenApiSchema Schema)[] fields) => new()
    {
        Type = JsonSchemaType.Object,
        Required = required.ToHashSet(),
        Properties = fields.ToDictionary(f => f.Name, IOpenApiSchema (f) => f.Schema),
        AdditionalPropertiesAllowed = false,
    };

    private static OpenApiSchema List(OpenApiSchema items) => new() { Type = JsonSchemaType.Array, Items = items };

    private static OpenApiSchema Text(string description) => new() { Type = JsonSchemaType.String, Description = description };

    private static OpenApiSchema Number(string description) => new() { Type = JsonSchemaType.Number, Description = description };

    private static OpenApiSchema Whole(string description) => new() { Type = JsonSchemaType.Integer, Description = description };

    private static OpenApiSchema Only(string value) => OneOf([value]);

    private static OpenApiSchema OneOf(IEnumerable<string> values, string? description = null) => new() { Type = JsonSchemaType.String, Description = description, Enum = [.. values.Select(v => (JsonNode)v)] };
}
