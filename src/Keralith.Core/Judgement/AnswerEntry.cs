using Keralith.Core.Criteria;
using Keralith.Core.Quantities;

namespace Keralith.Core.Judgement;

/// <summary>A baseline on record for one measure on one part.</summary>
/// <param name="Length">The figure when new, over 0.</param>
/// <param name="Basis">Where it comes from.</param>
/// <param name="Links">For a gauge length: over how many links; null otherwise.</param>
public sealed record BaselineFigure(Length Length, BaselineBasis Basis, int? Links = null);

/// <summary>An answer as typed or pressed, before it is known to be one.</summary>
/// <param name="Answer">For faults and tests: the code of <see cref="Found"/>.</param>
/// <param name="Value">For measures: the figure with its unit; for counts: the count.</param>
/// <param name="Shortest">For a pair measured today: the smallest found.</param>
/// <param name="Uncertainty">Of the instrument; empty when not stated.</param>
public sealed record AnswerEntry(string? Answer = null, string? Value = null, string? Shortest = null, string? Uncertainty = null)
{
    /// <summary>Reads the entry as an answer to a criterion.</summary>
    /// <param name="criterion">The question.</param>
    /// <param name="baseline">The baseline on record, or null.</param>
    public Checked<Response> Read(Criterion criterion, BaselineFigure? baseline)
    {
        if (criterion.IsAnswerChosen)
        {
            return Words.Find<Found>(Answer, Words.Code) is { } found ? new Chosen(found) : new Refusal("Choose no fault, fault, can't tell or can't reach.");
        }

        if (criterion.Kind == CriterionKind.Count)
        {
            return int.TryParse(Value?.Trim(), System.Globalization.NumberStyles.None, null, out var count) && count <= 10_000
                ? new Counted(count)
                : new Refusal("Write a whole number from 0 up.");
        }

        if (criterion.IsAngle)
        {
            var angle = Angle.Read(Value);
            var about = string.IsNullOrWhiteSpace(Uncertainty) ? default(Angle) : Angle.Read(Uncertainty);
            return !angle.Ok ? new Refusal(angle.Fault!)
                : !about.Ok ? new Refusal($"Uncertainty: {about.Fault}")
                : angle.Value.Degrees < 0 || about.Value.Degrees < 0 ? new Refusal("An angle is 0 or over.")
                : new MeasuredAngle(angle.Value, about.Value);
        }

        var value = Length.Read(Value);
        if (!value.Ok) return new Refusal(value.Fault!);
        if (value.Value.Millimetres <= 0) return new Refusal("A measured figure is over 0.");
        var uncertainty = string.IsNullOrWhiteSpace(Uncertainty) ? default(Length) : Length.Read(Uncertainty);
        if (!uncertainty.Ok) return new Refusal($"Uncertainty: {uncertainty.Fault}");
        if (uncertainty.Value.Millimetres < 0) return new Refusal("An uncertainty is 0 or over.");
        if (!criterion.IsPair) return new Measured(value.Value, baseline?.Length, baseline?.Basis ?? BaselineBasis.New, uncertainty.Value);

        var shortest = Length.Read(Shortest);
        return !shortest.Ok ? new Refusal($"{Capital(criterion.BaselineName!)}: {shortest.Fault}")
            : shortest.Value.Millimetres <= 0 || value.Value < shortest.Value ? new Refusal($"The longest can't be under the {criterion.BaselineName}.")
            : new Measured(value.Value, shortest.Value, BaselineBasis.New, uncertainty.Value);
    }

    private static string Capital(string words) => char.ToUpperInvariant(words[0]) + words[1..];
}
