using Keralith.Core.Quantities;

namespace Keralith.Core.Register;

/// <summary>Reads typed fields one by one, and keeps each fault with its field; the first of a field stands.</summary>
/// <param name="fields">What was typed, by field name.</param>
internal sealed class FieldReader(IReadOnlyDictionary<string, string> fields)
{
    /// <summary>The most letters of a line.</summary>
    public const int LongestText = 120;

    private static readonly Length LargestSize = Length.FromMillimetres(2000);
    private static readonly Length LongestReach = Length.FromMillimetres(1_000_000);

    private readonly Dictionary<string, string> _faults = [];

    /// <summary>What could not be read, by field name.</summary>
    public IReadOnlyDictionary<string, string> Faults => _faults;

    public bool HasFault(string field) => _faults.ContainsKey(field);

    public void Refuse(string field, string fault) =>
        _faults.TryAdd(field, char.ToUpperInvariant(fault[0]) + fault[1..]);

    public bool Ticked(string name) => Typed(name) is "true" or "on" or "yes";

    /// <summary>What was typed, trimmed; null where nothing was.</summary>
    public string? Typed(string name)
    {
        if (!fields.TryGetValue(name, out var text) || string.IsNullOrWhiteSpace(text))
            return null;
        if (FreeText.FaultOf(text) is not { } fault)
            return text.Trim();
        Refuse(name, $"{fault}; write it again.");
        return null;
    }

    public string? Text(string name, int most = LongestText)
    {
        var text = Typed(name);
        if (text is not null && FreeText.Letters(text) is var letters && letters > most)
            Refuse(name, $"At most {most} letters; this has {letters}.");
        return text;
    }

    public T? Value<T>(string name, Func<string, Checked<T>> read)
        where T : struct
    {
        if (Typed(name) is not { } typed)
            return null;
        var value = read(typed);
        if (value.Ok)
            return value.Value;
        Refuse(name, $"{value.Fault}.");
        return null;
    }

    /// <summary>Something stated with what says so; null where nothing was typed.</summary>
    public T? Stated<T>(string name, Func<string, Checked<T>> read)
        where T : class
    {
        if (Typed(name) is not { } typed)
            return null;
        var value = read(typed);
        if (value.Ok)
            return value.Value;
        Refuse(name, value.Fault!);
        return null;
    }

    public DateOnly? Day(string name)
    {
        var day = DayReader.Read(Typed(name));
        if (!day.Ok)
            Refuse(name, day.Fault!);
        return day.Ok ? day.Value : null;
    }

    /// <summary>One of an enum's codes; the usual one where nothing was typed.</summary>
    public T Choice<T>(string field, T usual)
        where T : struct, Enum => ChoiceOrNone<T>(field) ?? usual;

    /// <summary>One of an enum's codes; null where nothing was typed.</summary>
    public T? ChoiceOrNone<T>(string field)
        where T : struct, Enum
    {
        if (Typed(field) is not { } typed)
            return null;
        if (Code.Find<T>(typed) is { } chosen)
            return chosen;
        Refuse(field, $"\"{typed}\" should be one of {string.Join(", ", Enum.GetValues<T>().Select(Code.Of))}.");
        return null;
    }

    public List<T> Lines<T>(string field, int most, Func<string, Checked<T>> read)
    {
        var lines = (Typed(field) ?? string.Empty).Split(
            '\n',
            StringSplitOptions.RemoveEmptyEntries | StringSplitOptions.TrimEntries
        );
        if (lines.Length > most)
            Refuse(field, $"At most {most} lines.");
        var values = new List<T>();
        foreach (var line in lines.Take(most))
        {
            var value = read(line);
            if (value.Ok)
                values.Add(value.Value);
            else
                Refuse(field, $"{value.Fault}.");
        }

        return values;
    }

    /// <summary>A length that a piece may have.</summary>
    public Length? Size(string field) => Value(field, Length.Read) is { } size ? Sized(field, size) : null;

    /// <summary>Sizes no rigging gear has are a slip of the unit.</summary>
    public Length? Sized(string field, Length size)
    {
        var most = field is "reach" or "width" or "lift" or "circumference" or "span" ? LongestReach : LargestSize;
        if (size.Millimetres > 0 && size <= most)
            return size;
        Refuse(
            field,
            size.Millimetres <= 0
                ? "A size is over 0."
                : $"{size} is larger than any gear of this kind; check the figure and its unit."
        );
        return null;
    }
}
