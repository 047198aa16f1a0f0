using Keralith.Core.Quantities;

namespace Keralith.Core.Lifts;

/// <summary>Reads what was typed of a plan field by field; every fault is kept with its field.</summary>
/// <param name="fields">What was typed, by field name.</param>
internal sealed class PlanFields(IReadOnlyDictionary<string, string> fields)
{
    private const int LongestText = 120;

    public Dictionary<string, string> Faults { get; } = [];

    /// <summary>The unit of a bare length.</summary>
    public string Unit => Raw("unit") ?? "mm";

    public string? Raw(string name) => fields.GetValueOrDefault(name)?.Trim() is { Length: > 0 } text ? text : null;

    public void Refuse(string name, string words) => Faults.TryAdd(name, words);

    public string? Text(string name)
    {
        if (Raw(name) is not { Length: > LongestText })
            return Raw(name);
        Refuse(name, $"at most {LongestText} letters");
        return null;
    }

    public bool Flag(string name) => Raw(name) == "true";

    public T? Choice<T>(string name)
        where T : struct, Enum
    {
        if (Raw(name) is not { } text)
            return null;
        if (Code.Find<T>(text) is { } value)
            return value;
        Refuse(name, "choose one of the list");
        return null;
    }

    /// <summary>A length; bare figures are in the plan's unit.</summary>
    public Length? Length(string name, bool positive = true)
    {
        if (Raw(name) is not { } text)
            return null;
        var read = Quantities.Length.Read(IsBare(text) ? $"{text} {Unit}" : text);
        if (!read.Ok)
            return Refused<Length>(name, read.Fault!);
        return positive && read.Value.Millimetres <= 0 ? Refused<Length>(name, "a length over 0") : read.Value;
    }

    public Length? RequiredLength(string name)
    {
        if (Raw(name) is null)
            Refuse(name, "a length is wanted here");
        return Length(name);
    }

    /// <summary>A co-ordinate in millimetres; nothing typed is 0.</summary>
    public double Coordinate(string name) => (double)(Length(name, positive: false)?.Millimetres ?? 0);

    public Mass? Mass(string name, bool orNothing = false)
    {
        var mass = Parsed(name, Quantities.Mass.Read);
        return mass?.Kilograms < 0 || (!orNothing && mass?.Kilograms <= 0)
            ? Refused<Mass>(name, "a weight over 0")
            : mass;
    }

    /// <summary>An angle; a bare figure is in degrees.</summary>
    public Angle? Angle(string name, decimal least, decimal most)
    {
        if (Raw(name) is not { } text)
            return null;
        var read = Quantities.Angle.Read(IsBare(text) ? $"{text} deg" : text);
        if (!read.Ok)
            return Refused<Angle>(name, read.Fault!);
        return read.Value.Degrees < least || read.Value.Degrees > most
            ? Refused<Angle>(name, $"an angle from {QuantityFormat.Number(least)} to {QuantityFormat.Number(most)} deg")
            : read.Value;
    }

    public decimal? Number(string name, decimal least, decimal most)
    {
        if (Raw(name) is not { } text)
            return null;
        var read = QuantityText.Bare(text, QuantityFormat.Number(most));
        if (!read.Ok)
            return Refused<decimal>(name, read.Fault!);
        return read.Value < least || read.Value > most
            ? Refused<decimal>(name, $"a figure from {QuantityFormat.Number(least)} to {QuantityFormat.Number(most)}")
            : read.Value;
    }

    public T? Parsed<T>(string name, Func<string, Checked<T>> read)
        where T : struct
    {
        if (Raw(name) is not { } text)
            return null;
        var parsed = read(text);
        return parsed.Ok ? parsed.Value : Refused<T>(name, parsed.Fault!);
    }

    private static bool IsBare(string text) => QuantityText.Bare(text, "1").Ok;

    private T? Refused<T>(string name, string words)
        where T : struct
    {
        Refuse(name, words);
        return null;
    }
}
