using System.Buffers;
using System.Globalization;
using System.Text;
using System.Text.Encodings.Web;
using System.Text.Json;
using Keralith.Core.Gear;
using Keralith.Core.Judgement;

namespace Keralith.Core.Formats;

/// <summary>
/// Writes <c>keralith.case/1</c>, readable back to the same case: how a signed inspection keeps what it was judged by.
/// </summary>
public static class CaseWriter
{
    private static readonly JsonWriterOptions Options = new() { Encoder = JavaScriptEncoder.UnsafeRelaxedJsonEscaping };

    /// <summary>The case as JSON text.</summary>
    public static string Write(Case @case)
    {
        var buffer = new ArrayBufferWriter<byte>(2048);
        using (var json = new Utf8JsonWriter(buffer, Options))
        {
            json.WriteStartObject();
            json.WriteString("format", CaseReader.Format);
            json.WriteStartArray("ruleBooks");
            foreach (var book in @case.Books)
                json.WriteStringValue(book.Id);
            json.WriteEndArray();
            json.WriteString("kind", Code.Of(@case.Kind));
            json.WritePropertyName("gear");
            Write(json, @case.Gear);
            if (@case.Limits.Count > 0)
            {
                json.WriteStartArray("limits");
                foreach (var limit in @case.Limits)
                    Write(json, limit);
                json.WriteEndArray();
            }

            json.WriteStartArray("answers");
            foreach (var answer in @case.Answers.Where(a => !OwnQuestion.IsId(a.Criterion.Id)))
                Write(json, answer);
            json.WriteEndArray();
            json.WriteEndObject();
        }

        return Encoding.UTF8.GetString(buffer.WrittenSpan);
    }

    internal static void Write(Utf8JsonWriter json, GearPiece gear)
    {
        json.WriteStartObject();
        json.WriteString("family", gear.Family.Code);
        WriteValues(json, gear.Values);
        json.WriteEndObject();
    }

    /// <summary>Writes attributes into an open object.</summary>
    internal static void WriteValues(Utf8JsonWriter json, IEnumerable<KeyValuePair<string, AttributeValue>> values)
    {
        foreach (var (name, value) in values)
        {
            json.WritePropertyName(name);
            switch (value)
            {
                case FlagValue flag:
                    json.WriteBooleanValue(flag.Value);
                    break;
                case WholeValue whole:
                    json.WriteNumberValue(whole.Whole);
                    break;
                case NumberValue number:
                    json.WriteNumberValue(number.Number);
                    break;
                case RosterValue roster:
                    json.WriteStartObject();
                    if (roster.Members is { } members)
                        json.WriteNumber("members", members);
                    if (roster is { LeastLinks: { } least, MostLinks: { } most })
                    {
                        json.WriteStartArray("links");
                        json.WriteNumberValue(least);
                        json.WriteNumberValue(most);
                        json.WriteEndArray();
                    }

                    json.WriteEndObject();
                    break;
                default:
                    json.WriteStringValue(value.Text);
                    break;
            }
        }
    }

    private static void Write(Utf8JsonWriter json, OwnLimit limit)
    {
        json.WriteStartObject();
        json.WriteString("source", Code.Of(limit.Owner));
        json.WriteString("criterion", limit.Criterion.Id);
        if (limit.Percent is { } percent)
            json.WriteNumber("percent", percent);
        if (limit.Count is { } count)
            json.WriteNumber("count", count);
        if (limit.Absolute is { } absolute)
            json.WriteString(
                "absolute",
                string.Create(CultureInfo.InvariantCulture, $"{absolute} {(limit.Criterion.IsAngle ? "deg" : "mm")}")
            );
        json.WriteEndObject();
    }

    private static void Write(Utf8JsonWriter json, string value, string? uncertainty)
    {
        json.WriteString("value", value);
        if (uncertainty is not null)
            json.WriteString("uncertainty", uncertainty);
    }

    private static void Write(Utf8JsonWriter json, Answer answer)
    {
        json.WriteStartObject();
        json.WriteString("criterion", answer.Criterion.Id);
        json.WriteString("part", answer.Part);
        switch (answer.Response)
        {
            case Chosen chosen:
                json.WriteString("answer", Code.Of(chosen.Found));
                break;
            case Counted counted:
                json.WriteNumber("count", counted.Count);
                break;
            case Measured measured:
                json.WriteString("value", measured.Value.ToString());
                if (measured.Baseline is { } baseline)
                    json.WriteString("baseline", baseline.ToString());
                if (measured.Baseline is not null && measured.Basis != BaselineBasis.New)
                    json.WriteString("baselineBasis", Code.Of(measured.Basis));
                if (measured.Uncertainty != default)
                    json.WriteString("uncertainty", measured.Uncertainty.ToString());
                break;
            case MeasuredAngle angle:
                Write(json, angle.Value.ToString(), angle.Uncertainty == default ? null : angle.Uncertainty.ToString());
                break;
            case MeasuredForce force:
                Write(json, force.Value.ToString(), force.Uncertainty == default ? null : force.Uncertainty.ToString());
                break;
            case MeasuredMoment moment:
                Write(
                    json,
                    moment.Value.ToString(),
                    moment.Uncertainty == default ? null : moment.Uncertainty.ToString()
                );
                break;
            default:
                throw new InvalidOperationException($"No such response: {answer.Response}.");
        }

        json.WriteEndObject();
    }
}
