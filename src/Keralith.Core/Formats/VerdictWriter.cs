using System.Buffers;
using System.Text.Json;
using Keralith.Core.Gear;
using Keralith.Core.Judgement;

namespace Keralith.Core.Formats;

/// <summary>Writes <c>keralith.verdict/1</c>: the same verdict, the same bytes.</summary>
public static class VerdictWriter
{
    public const string Format = "keralith.verdict/1";

    /// <summary>Room for a missing question, its comma too.</summary>
    private const int UsualLength = 64;

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
        json.WriteString(Names.Format, Format);
        json.WriteString(Names.Verdict, Code.Json(verdict.Kind));
        json.WriteBoolean(Names.Complete, verdict.Complete);
        json.WriteStartArray(Names.Findings);
        for (var i = 0; i < verdict.Findings.Count; i++)
        {
            if (!OwnQuestion.IsId(verdict.Findings[i].Criterion.Id))
                Write(json, verdict.Findings[i]);
        }

        json.WriteEndArray();
        json.WritePropertyName(Names.Missing);
        if (json.Options.Indented)
            WriteEach(json, verdict.Missing);
        else
            WriteAtOnce(json, verdict.Missing);
        json.WriteEndObject();
    }

    private static byte[] Longer(byte[] list, int used, int more)
    {
        var longer = ArrayPool<byte>.Shared.Rent((list.Length * 2) + more);
        list.AsSpan(0, used).CopyTo(longer);
        ArrayPool<byte>.Shared.Return(list);
        return longer;
    }

    private static void WriteEach(Utf8JsonWriter json, IReadOnlyList<PlacedCriterion> missing)
    {
        json.WriteStartArray();
        foreach (var question in missing)
        {
            if (OwnQuestion.IsId(question.Criterion.Id))
                continue;
            json.WriteStartObject();
            json.WriteString(Names.Criterion, question.Criterion.Id);
            json.WriteString(Names.Part, question.Part);
            json.WriteEndObject();
        }

        json.WriteEndArray();
    }

    /// <summary>The same from the compact forms kept with the questions.</summary>
    private static void WriteAtOnce(Utf8JsonWriter json, IReadOnlyList<PlacedCriterion> missing)
    {
        var list = ArrayPool<byte>.Shared.Rent(2 + (missing.Count * UsualLength));
        list[0] = (byte)'[';
        var at = 1;
        for (var i = 0; i < missing.Count; i++)
        {
            var question = missing[i].Written;
            if (question.IsEmpty)
                continue;
            if (at + question.Length + 2 > list.Length)
                list = Longer(list, at, question.Length);
            if (at > 1)
                list[at++] = (byte)',';
            question.CopyTo(list.AsSpan(at));
            at += question.Length;
        }

        list[at++] = (byte)']';
        json.WriteRawValue(list.AsSpan(0, at), skipInputValidation: true);
        ArrayPool<byte>.Shared.Return(list);
    }

    private static void Write(Utf8JsonWriter json, Finding finding)
    {
        json.WriteStartObject();
        json.WriteString(Names.Criterion, finding.Criterion.Id);
        json.WriteString(Names.Part, finding.Part);
        json.WriteString(Names.Outcome, Code.Json(finding.Outcome));
        Number(json, Names.Consumed, finding.Governing.Consumed);
        if (finding.Governing.Figure is { } figure)
        {
            json.WriteStartObject(Names.Limit);
            Number(json, Unit(finding.Criterion), figure.Limit);
            json.WriteString(Names.Comparator, Code.Json(figure.Comparator));
            json.WriteString(Names.Text, finding.LimitText);
            json.WriteEndObject();
        }
        else
        {
            json.WriteNull(Names.Limit);
        }

        json.WriteString(Names.Book, finding.Governing.Book);
        json.WriteString(Names.Reason, finding.Reason);
        json.WriteString(Names.Reference, finding.Criterion.Source.ToString());
        if (finding.FromGear)
            json.WriteString(Names.From, "gear");
        json.WriteStartArray(Names.Books);
        for (var i = 0; i < finding.Books.Count; i++)
        {
            var book = finding.Books[i];
            json.WriteStartObject();
            json.WriteString(Names.Book, book.Book);
            if (book.Outcome is { } outcome)
                json.WriteString(Names.Outcome, Code.Json(outcome));
            else
                json.WriteNull(Names.Outcome);
            if (book.Figure is { } limit)
                Number(json, LimitName(finding.Criterion), limit.Limit);
            if (book.From is not null)
                json.WriteString(Names.From, book.From);
            json.WriteEndObject();
        }

        json.WriteEndArray();
        json.WriteEndObject();
    }

    private static JsonEncodedText Unit(Criterion criterion) => Figures(criterion).Unit;

    private static JsonEncodedText LimitName(Criterion criterion) => Figures(criterion).Limit;

    private static (JsonEncodedText Unit, JsonEncodedText Limit) Figures(Criterion criterion) =>
        criterion.Kind == CriterionKind.Count
            ? Names.Counts
            : criterion.Measures switch
            {
                Dimension.Length => Names.Lengths,
                Dimension.Angle => Names.Angles,
                Dimension.Force => Names.Forces,
                Dimension.Moment => Names.Moments,
            };

    /// <summary>Four decimals, half away from zero, no trailing zeros.</summary>
    private static void Number(Utf8JsonWriter json, JsonEncodedText name, decimal? number) =>
        json.WriteFigure(name, number, 4);

    /// <summary>The names of the fields, as they are written.</summary>
    private static class Names
    {
        public static readonly JsonEncodedText Format = JsonEncodedText.Encode("format"),
            Verdict = JsonEncodedText.Encode("verdict"),
            Complete = JsonEncodedText.Encode("complete"),
            Findings = JsonEncodedText.Encode("findings"),
            Criterion = JsonEncodedText.Encode("criterion"),
            Part = JsonEncodedText.Encode("part"),
            Outcome = JsonEncodedText.Encode("outcome"),
            Limit = JsonEncodedText.Encode("limit"),
            Comparator = JsonEncodedText.Encode("comparator"),
            Text = JsonEncodedText.Encode("text"),
            Book = JsonEncodedText.Encode("book"),
            Reason = JsonEncodedText.Encode("reason"),
            Reference = JsonEncodedText.Encode("reference"),
            From = JsonEncodedText.Encode("from"),
            Books = JsonEncodedText.Encode("books"),
            Consumed = JsonEncodedText.Encode("consumed"),
            Missing = JsonEncodedText.Encode("missing");

        public static readonly (JsonEncodedText Unit, JsonEncodedText Limit) Counts = Pair("count", "limitCount"),
            Lengths = Pair("mm", "limitMm"),
            Angles = Pair("deg", "limitDeg"),
            Forces = Pair("n", "limitN"),
            Moments = Pair("nm", "limitNm");

        private static (JsonEncodedText Unit, JsonEncodedText Limit) Pair(string unit, string limit) =>
            (JsonEncodedText.Encode(unit), JsonEncodedText.Encode(limit));
    }
}
