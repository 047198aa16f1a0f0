using System.Text;
using System.Text.Json;
using Keralith.Core.Gear;
using Keralith.Core.Judgement;
using Keralith.Core.Quantities;

namespace Keralith.Core.Formats;

/// <summary>Reads <c>keralith.case/1</c>. Every fault is listed; a case with any is not judged.</summary>
public static class CaseReader
{
    public const string Format = "keralith.case/1";

    private static readonly string[] LimitForms = ["percent", "absolute", "count"];
    private static readonly string[] AnswerForms =
    [
        "answer",
        "value",
        "count",
        "baseline",
        "baselineBasis",
        "uncertainty",
    ];
    private static readonly Dictionary<string, InspectionKind> Kinds = Enum.GetValues<InspectionKind>()
        .ToDictionary(Code.Of);
    private static readonly Dictionary<string, Found> Answers = Enum.GetValues<Found>().ToDictionary(Code.Of);
    private static readonly Dictionary<string, BaselineBasis> Bases = Enum.GetValues<BaselineBasis>()
        .ToDictionary(Code.Of);
    private static readonly Dictionary<string, LimitOwner> Owners = Enum.GetValues<LimitOwner>().ToDictionary(Code.Of);

    /// <summary>Reads a case from JSON text.</summary>
    public static ReadResult<Case> Read(string json) => Read(Encoding.UTF8.GetBytes(json));

    /// <summary>Reads a case from UTF-8 JSON.</summary>
    public static ReadResult<Case> Read(ReadOnlyMemory<byte> utf8) => JsonText.Read(utf8, Format, Read);

    /// <summary>Reads a case from a parsed document.</summary>
    public static ReadResult<Case> Read(JsonElement root)
    {
        var faults = new List<Fault>();
        var fields = new JsonFields(root, faults);
        if (!fields.IsObject)
            return new(null, faults);
        if (fields.RequiredText("format") is { } format && format != Format)
            fields.Refuse("format", $"found \"{format}\", expected \"{Format}\"");
        var books = fields.RuleBooks("ruleBooks");
        var kind = fields.OneOf("kind", Kinds) ?? InspectionKind.Periodic;
        var gear = Gear(fields);
        var limits = Limits(fields, gear);
        var answers = gear is null ? [] : AnswerList(fields, gear.Family, Catalogue.PlacementOf(gear, books));
        if (gear is null)
            fields.Take("answers");
        fields.RefuseUnread("format, ruleBooks, kind, gear, limits, answers");
        return faults.Count > 0 ? new(null, faults) : new(new Case(books, kind, gear!, limits, answers), faults);
    }

    private static GearPiece? Gear(JsonFields fields)
    {
        if (fields.Take("gear") is not { } element)
        {
            fields.Refuse("gear", "missing, expected an object with the gear's family and attributes");
            return null;
        }

        var gear = new JsonFields(element, fields.PlaceOf("gear"));
        return gear.IsObject ? GearReader.Read(gear) : null;
    }

    private static List<OwnLimit> Limits(JsonFields fields, GearPiece? gear)
    {
        var limits = new List<OwnLimit>();
        foreach (var (element, place) in fields.Array("limits"))
        {
            var limit = new JsonFields(element, place);
            if (!limit.IsObject)
                continue;
            var owner = limit.RequiredOneOf("source", Owners);
            var criterion = KnownCriterion(limit);
            var percent = limit.Number("percent");
            var count = limit.Whole("count", 1);
            var absolute = criterion is { IsAngle: true }
                ? limit.Parsed("absolute", Angle.Read)?.Degrees
                : limit.Parsed("absolute", Length.Read)?.Millimetres;
            if (percent < 0)
                limit.Refuse("percent", "found a figure under 0, expected 0 or over");
            if (percent > 1000)
                limit.Refuse("percent", "found a figure over 1000, expected a share of change");
            if (absolute < 0)
                limit.Refuse("absolute", "found a figure under 0, expected 0 or over");
            var given = LimitForms.Where(n => limit.Has(n)).ToList();
            if (given.Count != 1)
                limit.Refuse(
                    given.Count == 0 ? "percent" : given[1],
                    $"found {given.Count} figures, expected one of percent, absolute or count"
                );
            else if (criterion is { IsAnswerChosen: true })
                limit.Refuse("criterion", $"{criterion.Id} is a fault looked for and takes no limit");
            else if (criterion is { Kind: CriterionKind.Count } != (given[0] == "count") && criterion is not null)
                limit.Refuse(
                    given[0],
                    $"{criterion.Id} takes {(criterion.Kind == CriterionKind.Count ? "a count" : "percent or absolute")}"
                );
            else if (criterion?.Limit is { IsOnRecord: true })
                limit.Refuse(
                    "criterion",
                    $"{criterion.Id} is held against what is on record of the gear and takes no limit"
                );
            else if (criterion is { IsAngle: true } && given[0] == "percent")
                limit.Refuse("percent", $"{criterion.Id} is an angle and takes absolute");
            limit.RefuseUnread("source, criterion, percent, absolute, count");
            if (owner is not { } o || criterion is null)
                continue;
            var own = new OwnLimit(o, criterion)
            {
                Percent = percent,
                Absolute = absolute,
                Count = count,
            };
            if (gear is not null && own.FaultOn(gear) is { } fault)
                limit.Refuse("percent", fault);
            limits.Add(own);
        }

        return limits;
    }

    private static List<Answer> AnswerList(JsonFields fields, GearFamily family, Placement placement)
    {
        var faults = fields.Faults;
        var answers = new List<Answer>();
        foreach (var (element, place) in fields.Array("answers"))
        {
            var answer = new JsonFields(element, place);
            if (!answer.IsObject)
                continue;
            var criterion = KnownCriterion(answer);
            var part = answer.RequiredText("part");
            if (part is not null && (criterion is null || placement.IndexOf(criterion, part) < 0))
                RefusePlace(answer, criterion, part, family, placement);
            var before = faults.Count;
            var response = criterion is null ? null : Response(answer, criterion);
            if (criterion is null)
            {
                foreach (var name in AnswerForms)
                    answer.Take(name);
            }

            answer.RefuseUnread(criterion is null ? "criterion, part and an answer" : Expected(criterion));
            if (response is not null && faults.Count == before && part is not null)
                answers.Add(new(criterion!, part, response));
        }

        return answers;
    }

    /// <summary>Says why a criterion does not sit on a part, where it does not.</summary>
    private static void RefusePlace(
        JsonFields answer,
        Criterion? criterion,
        string part,
        GearFamily family,
        Placement placement
    )
    {
        if (placement.Find(part) is null)
            answer.Refuse(
                "part",
                $"found \"{part}\", expected a part of this {family}: {string.Join(", ", placement.Parts.Select(p => p.Path))}"
            );
        else if (criterion is not null)
            answer.Refuse("criterion", $"{criterion.Id} is not asked on {part} of this {family}");
    }

    private static string Expected(Criterion criterion) =>
        criterion switch
        {
            { IsAnswerChosen: true } => "criterion, part, answer",
            { Kind: CriterionKind.Count } => "criterion, part, count",
            { InsteadOfFigure.Count: > 0 } => "criterion, part, value, uncertainty, answer",
            { IsLength: false } => "criterion, part, value, uncertainty",
            _ => "criterion, part, value, baseline, baselineBasis, uncertainty",
        };

    private static Response? Response(JsonFields answer, Criterion criterion)
    {
        if (criterion.IsAnswerChosen)
            return answer.RequiredOneOf("answer", Answers) is { } found ? new Chosen(found) : null;
        if (criterion.Kind == CriterionKind.Count)
        {
            if (!answer.Has("count"))
                answer.Refuse("count", "missing, expected a whole number from 0 up");
            return answer.Whole("count", 0) is { } count ? new Counted(count) : null;
        }

        if (criterion.InsteadOfFigure.Count > 0 && answer.Has("answer"))
        {
            if (answer.Has("value"))
                answer.Refuse("value", "found beside an answer, expected one or the other");
            answer.Take("value");
            answer.Take("uncertainty");
            return answer.RequiredOneOf("answer", Answers) is not { } instead ? null
                : criterion.InsteadOfFigure.Contains(instead) ? new Chosen(instead)
                : Refused(
                    answer,
                    "answer",
                    $"{criterion.Id} takes a value, or {string.Join(", ", criterion.InsteadOfFigure.Select(Code.Of))}"
                );
        }

        if (!answer.Has("value"))
            answer.Refuse("value", $"missing, expected {Wanted(criterion.Measures)} with its unit");
        switch (criterion.Measures)
        {
            case Dimension.Angle:
                return Figure(answer, Angle.Read, a => a.Degrees, (a, u) => new MeasuredAngle(a, u));
            case Dimension.Force:
                return Figure(answer, Force.Read, f => f.Newtons, (f, u) => new MeasuredForce(f, u));
            case Dimension.Moment:
                return Figure(answer, Moment.Read, m => m.NewtonMetres, (m, u) => new MeasuredMoment(m, u));
            case Dimension.Length:
                break;
        }

        var value = answer.PositiveLength("value");
        var baseline = answer.PositiveLength("baseline");
        var basis = answer.OneOf("baselineBasis", Bases) ?? BaselineBasis.New;
        var uncertainty = answer.Parsed("uncertainty", Length.Read) ?? default;
        if (uncertainty.Millimetres < 0)
            answer.Refuse("uncertainty", "found a figure under 0, expected 0 or over");
        if (criterion.IsPair && value < baseline)
            answer.Refuse("value", $"found {value}, expected the longest: not under the shortest, {baseline}");
        return value is { } v ? new Measured(v, baseline, basis, uncertainty) : null;
    }

    private static string Wanted(Dimension dimension) =>
        dimension switch
        {
            Dimension.Length => "a length",
            Dimension.Angle => "an angle",
            Dimension.Force => "a force",
            Dimension.Moment => "a torque",
        };

    /// <summary>A figure of another dimension than length, 0 and over, with its uncertainty.</summary>
    private static Response? Figure<T>(
        JsonFields answer,
        Func<string?, Checked<T>> read,
        Func<T, decimal> amount,
        Func<T, T, Response> response
    )
        where T : struct
    {
        var value = answer.Parsed("value", read);
        var about = answer.Parsed("uncertainty", read) ?? default;
        if (value is { } below && amount(below) < 0)
            answer.Refuse("value", "found a figure under 0, expected 0 or over");
        if (amount(about) < 0)
            answer.Refuse("uncertainty", "found a figure under 0, expected 0 or over");
        return value is { } v ? response(v, about) : null;
    }

    private static Response? Refused(JsonFields answer, string field, string words)
    {
        answer.Refuse(field, words);
        return null;
    }

    private static Criterion? KnownCriterion(JsonFields fields)
    {
        if (fields.RequiredText("criterion") is not { } id)
            return null;
        var criterion = Catalogue.Find(id);
        if (criterion is null)
            fields.Refuse("criterion", $"found \"{id}\", expected the id of a criterion, such as \"hook.throat\"");
        return criterion;
    }
}
