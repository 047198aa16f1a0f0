using Keralith.Core.Gear;
using Keralith.Core.Quantities;

namespace Keralith.Core.Judgement;

/// <summary>A baseline on record for one measure on one part.</summary>
/// <param name="Length">The figure when new, over 0.</param>
/// <param name="Basis">Where it comes from.</param>
/// <param name="Links">For a gauge length: over how many links; null otherwise.</param>
public sealed record BaselineFigure(Length Length, BaselineBasis Basis, int? Links = null);

/// <summary>An answer as typed or pressed, before it is known to be one.</summary>
/// <param name="Answer">For faults and tests: the code of <see cref="Found"/>.</param>
/// <param name="Value">For measures: the figure with its unit; for counts: the count. Several stand one after another
/// with semicolons between.</param>
/// <param name="Shortest">For a pair measured today: the smallest found.</param>
/// <param name="Uncertainty">Of the instrument; empty when not stated.</param>
public sealed record AnswerEntry(
    string? Answer = null,
    string? Value = null,
    string? Shortest = null,
    string? Uncertainty = null
)
{
    /// <summary>Most readings of one measure on one part.</summary>
    public const int MostReadings = 12;

    /// <summary>The readings typed, each as it stands; empty where there is none.</summary>
    public IReadOnlyList<string> Readings => Split(Value);

    /// <summary>The readings in a text: semicolons part them.</summary>
    public static IReadOnlyList<string> Split(string? value) =>
        (value ?? string.Empty).Split(';', StringSplitOptions.RemoveEmptyEntries | StringSplitOptions.TrimEntries);

    /// <summary>
    /// Reads the entry as answers to a criterion: one, or one for each reading taken. All are judged, and the worst
    /// counts.
    /// </summary>
    /// <param name="criterion">The question.</param>
    /// <param name="baseline">The baseline on record, or null.</param>
    public Checked<List<Response>> ReadAll(Criterion criterion, BaselineFigure? baseline)
    {
        if (criterion.IsAnswerChosen || Readings.Count < 2 || IsOfPlaces(criterion))
        {
            var one = (this with { Value = Readings.Count == 1 ? Readings[0] : Value }).Read(criterion, baseline);
            return one.Ok ? new List<Response> { one.Value } : new Refusal(one.Fault!);
        }

        if (Readings.Count > MostReadings)
            return new Refusal($"At most {MostReadings} readings: keep the worst of them.");
        var all = new List<Response>();
        foreach (var (reading, at) in Readings.Select((r, i) => (r, i + 1)))
        {
            var read = (this with { Value = reading }).Read(criterion, baseline);
            if (!read.Ok)
                return new Refusal($"Reading {at}: {read.Fault}");
            all.Add(read.Value);
        }

        return all;
    }

    /// <summary>Whether a pair was measured place by place: <c>top: 12 in; middle: 12.02 in</c>.</summary>
    public bool IsOfPlaces(Criterion criterion) =>
        criterion.IsPair && string.IsNullOrWhiteSpace(Shortest) && Readings.Count > 1;

    /// <summary>The figure of a reading that names its place before a colon.</summary>
    public static string FigureOf(string reading) => reading[(reading.LastIndexOf(':') + 1)..].Trim();

    /// <summary>The place a reading names; null where it names none.</summary>
    public static string? PlaceOf(string reading) =>
        reading.LastIndexOf(':') is > 0 and var at ? reading[..at].Trim() : null;

    /// <summary>The longest against the shortest of all places.</summary>
    private Checked<Response> OfPlaces()
    {
        if (Readings.Count > MostReadings)
            return new Refusal($"At most {MostReadings} places.");
        var lengths = new List<Length>();
        foreach (var reading in Readings)
        {
            var read = Length.Read(FigureOf(reading));
            if (!read.Ok)
                return new Refusal($"{PlaceOf(reading) ?? "A place"}: {read.Fault}");
            if (read.Value.Millimetres <= 0)
                return new Refusal($"{PlaceOf(reading) ?? "A place"}: a measured figure is over 0.");
            lengths.Add(read.Value);
        }

        var about = string.IsNullOrWhiteSpace(Uncertainty) ? default(Length) : Length.Read(Uncertainty);
        return !about.Ok ? new Refusal($"Uncertainty: {about.Fault}")
            : about.Value.Millimetres < 0 ? new Refusal("An uncertainty is 0 or over.")
            : new Measured(
                lengths.MaxBy(l => l.Millimetres),
                lengths.MinBy(l => l.Millimetres),
                BaselineBasis.New,
                about.Value
            );
    }

    /// <summary>The entry that was read as these answers to one criterion on one part.</summary>
    /// <param name="responses">At least one.</param>
    public static AnswerEntry Of(Criterion criterion, IReadOnlyCollection<Response> responses)
    {
        var values = responses
            .Select(r =>
                r switch
                {
                    Measured m => m.Value.ToString(),
                    MeasuredAngle a => a.Value.ToString(),
                    MeasuredForce f => f.Value.ToString(),
                    MeasuredMoment m => m.Value.ToString(),
                    Counted c => QuantityFormat.Number(c.Count),
                    Chosen => null,
                    _ => throw new System.Diagnostics.UnreachableException(),
                }
            )
            .OfType<string>()
            .ToList();
        var uncertainty = responses.Last() switch
        {
            Measured { Uncertainty.Millimetres: > 0 } m => m.Uncertainty.ToString(),
            MeasuredAngle { Uncertainty.Degrees: > 0 } a => a.Uncertainty.ToString(),
            MeasuredForce { Uncertainty.Newtons: > 0 } f => f.Uncertainty.ToString(),
            MeasuredMoment { Uncertainty.NewtonMetres: > 0 } m => m.Uncertainty.ToString(),
            _ => null,
        };
        return new(
            responses.Last() is Chosen chosen ? Code.Of(chosen.Found) : null,
            values.Count == 0 ? null : string.Join("; ", values),
            criterion.IsPair && responses.Last() is Measured { Baseline: { } shortest } ? shortest.ToString() : null,
            uncertainty
        );
    }

    /// <summary>Reads the entry as one answer to a criterion.</summary>
    /// <param name="criterion">The question.</param>
    /// <param name="baseline">The baseline on record, or null.</param>
    public Checked<Response> Read(Criterion criterion, BaselineFigure? baseline)
    {
        if (criterion.IsAnswerChosen)
        {
            return Code.Find<Found>(Answer) is { } found
                ? new Chosen(found)
                : new Refusal("Choose no fault, fault, can't tell or can't reach.");
        }

        if (criterion.Kind == CriterionKind.Count)
        {
            return
                int.TryParse(Value?.Trim(), System.Globalization.NumberStyles.None, null, out var count)
                && count <= 10_000
                ? new Counted(count)
                : new Refusal("Write a whole number from 0 up.");
        }

        if (criterion.InsteadOfFigure.Count > 0 && string.IsNullOrWhiteSpace(Value) && Answer is not null)
        {
            return Code.Find<Found>(Answer) is { } instead && criterion.InsteadOfFigure.Contains(instead)
                ? new Chosen(instead)
                : new Refusal("Write the figure, or say why there is none.");
        }

        if (IsOfPlaces(criterion))
            return OfPlaces();
        if (criterion.IsPair && Readings is [var alone] && PlaceOf(alone) is not null)
            return new Refusal("Measure at two places at least: the longest is held against the shortest.");
        switch (criterion.Measures)
        {
            case Dimension.Angle:
                return Figure(Angle.Read, a => a.Degrees, "An angle is 0 or over.", (a, u) => new MeasuredAngle(a, u));
            case Dimension.Force:
                return Figure(Force.Read, f => f.Newtons, "A pull is 0 or over.", (f, u) => new MeasuredForce(f, u));
            case Dimension.Moment:
                return Figure(
                    Moment.Read,
                    m => m.NewtonMetres,
                    "A torque is 0 or over.",
                    (m, u) => new MeasuredMoment(m, u)
                );
            case Dimension.Length:
                return OfLength(criterion, baseline);
            default:
                throw new System.Diagnostics.UnreachableException();
        }
    }

    private Checked<Response> OfLength(Criterion criterion, BaselineFigure? baseline)
    {
        var value = Length.Read(Value);
        if (!value.Ok)
            return new Refusal(value.Fault!);
        if (value.Value.Millimetres <= 0)
            return new Refusal("A measured figure is over 0.");
        var uncertainty = string.IsNullOrWhiteSpace(Uncertainty) ? default(Length) : Length.Read(Uncertainty);
        if (!uncertainty.Ok)
            return new Refusal($"Uncertainty: {uncertainty.Fault}");
        if (uncertainty.Value.Millimetres < 0)
            return new Refusal("An uncertainty is 0 or over.");
        if (!criterion.IsPair)
            return new Measured(value.Value, baseline?.Length, baseline?.Basis ?? BaselineBasis.New, uncertainty.Value);

        var shortest = Length.Read(Shortest);
        return !shortest.Ok ? new Refusal($"{Capital(criterion.BaselineName!)}: {shortest.Fault}")
            : shortest.Value.Millimetres <= 0 || value.Value < shortest.Value
                ? new Refusal($"The longest can't be under the {criterion.BaselineName}.")
            : new Measured(value.Value, shortest.Value, BaselineBasis.New, uncertainty.Value);
    }

    /// <summary>Reads a figure of another dimension than length, 0 and over, with its uncertainty.</summary>
    private Checked<Response> Figure<T>(
        Func<string?, Checked<T>> read,
        Func<T, decimal> amount,
        string under,
        Func<T, T, Response> answer
    )
        where T : struct
    {
        var value = read(Value);
        var about = string.IsNullOrWhiteSpace(Uncertainty) ? default(T) : read(Uncertainty);
        return !value.Ok ? new Refusal(value.Fault!)
            : !about.Ok ? new Refusal($"Uncertainty: {about.Fault}")
            : amount(value.Value) < 0 || amount(about.Value) < 0 ? new Refusal(under)
            : answer(value.Value, about.Value);
    }

    private static string Capital(string words) => char.ToUpperInvariant(words[0]) + words[1..];
}
