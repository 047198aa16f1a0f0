using System.Buffers;
using System.Runtime.CompilerServices;
using System.Text.Json;
using Keralith.Core.Gear;
using Keralith.Core.Judgement;

namespace Keralith.Core.Formats;

/// <summary>Writes <c>keralith.verdict/1</c>: the same verdict, the same bytes.</summary>
public static class VerdictWriter
{
    public const string Format = "keralith.verdict/1";

    private static readonly ConditionalWeakTable<PlacedCriterion, byte[]> Kept = [];

    /// <summary>The verdict as JSON text.</summary>
    public static string Write(Verdict verdict, bool indented = false) =>
        JsonText.Text(buffer => Write(buffer, verdict, indented));

    /// <summary>Writes the verdict as UTF-8 JSON.</summary>
    public static void Write(IBufferWriter<byte> buffer, Verdict verdict, bool indented = false)
    {
        using var json = new Utf8JsonWriter(buffer, indented ? JsonText.Indented : JsonText.Compact);
        Write(json, verdict);
    }

    /// <summary>Writes the verdict into a document.</summary>
    public static void Write(Utf8JsonWriter json, Verdict verdict)
    {
        json.WriteStartObject();
        json.WriteString("format", Format);
        json.WriteString("verdict", Code.Of(verdict.Kind));
        json.WriteBoolean("complete", verdict.Complete);
        json.WriteStartArray("findings");
        foreach (var finding in verdict.Findings)
        {
            if (!OwnQuestion.IsId(finding.Criterion.Id))
                Write(json, finding);
        }

        json.WriteEndArray();
        json.WriteStartArray("missing");
        foreach (var missing in verdict.Missing)
        {
            if (!OwnQuestion.IsId(missing.Criterion.Id))
                Write(json, missing);
        }

        json.WriteEndArray();
        json.WriteEndObject();
    }

    /// <summary>A missing question is written the same for every case of a make-up, so its compact form is kept.</summary>
    private static void Write(Utf8JsonWriter json, PlacedCriterion missing)
    {
        if (!json.Options.Indented)
        {
            json.WriteRawValue(
                Kept.GetValue(missing, static m =>
                    JsonSerializer.SerializeToUtf8Bytes(new { criterion = m.Criterion.Id, part = m.Part })
                ),
                skipInputValidation: true
            );
            return;
        }

        json.WriteStartObject();
        json.WriteString("criterion", missing.Criterion.Id);
        json.WriteString("part", missing.Part);
        json.WriteEndObject();
    }

    private static void Write(Utf8JsonWriter json, Finding finding)
    {
        json.WriteStartObject();
        json.WriteString("criterion", finding.Criterion.Id);
        json.WriteString("part", finding.Part);
        json.WriteString("outcome", Code.Of(finding.Outcome));
        Number(json, "consumed", finding.Governing.Consumed);
        if (finding.Governing.Figure is { } figure)
        {
            json.WriteStartObject("limit");
            Number(json, Unit(finding.Criterion), figure.Limit);
            json.WriteString("comparator", Code.Of(figure.Comparator));
            json.WriteString("text", finding.LimitText);
            json.WriteEndObject();
        }
        else
        {
            json.WriteNull("limit");
        }

        json.WriteString("book", finding.Governing.Book);
        json.WriteString("reason", finding.Reason);
        json.WriteString("reference", finding.Criterion.Source.ToString());
        if (finding.FromGear)
            json.WriteString("from", "gear");
        json.WriteStartArray("books");
        foreach (var book in finding.Books)
        {
            json.WriteStartObject();
            json.WriteString("book", book.Book);
            if (book.Outcome is { } outcome)
                json.WriteString("outcome", Code.Of(outcome));
            else
                json.WriteNull("outcome");
            if (book.Figure is { } limit)
                Number(json, LimitName(finding.Criterion), limit.Limit);
            if (book.From is not null)
                json.WriteString("from", book.From);
            json.WriteEndObject();
        }

        json.WriteEndArray();
        json.WriteEndObject();
    }

    private static string Unit(Criterion criterion) => Names(criterion).Unit;

    private static string LimitName(Criterion criterion) => Names(criterion).Limit;

    private static (string Unit, string Limit) Names(Criterion criterion) =>
        criterion.Kind == CriterionKind.Count
            ? ("count", "limitCount")
            : criterion.Measures switch
            {
                Dimension.Length => ("mm", "limitMm"),
                Dimension.Angle => ("deg", "limitDeg"),
                Dimension.Force => ("n", "limitN"),
                Dimension.Moment => ("nm", "limitNm"),
            };

    /// <summary>Four decimals, half away from zero, no trailing zeros.</summary>
    private static void Number(Utf8JsonWriter json, string name, decimal? number) => json.WriteFigure(name, number, 4);
}
