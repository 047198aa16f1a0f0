using System.Text.Json;
using Keralith.Core.Gear;
using Keralith.Core.Quantities;

namespace Keralith.Core.Formats;

/// <summary>
/// Reads the fields of one JSON object, collecting every fault with its path: unknown fields, fields twice, wrong types.
/// Paths are put together only for a fault.
/// </summary>
internal sealed class JsonFields
{
    /// <summary>Up to this many fields are found by looking along them.</summary>
    private const int Few = 16;

    private readonly List<Fault> _faults;
    private readonly Place _place;
    private readonly List<string> _names;
    private readonly List<JsonElement> _elements;
    private readonly Dictionary<string, int>? _at;
    private readonly bool[] _read;

    public JsonFields(JsonElement element, Place place, List<Fault> faults)
    {
        _place = place;
        _faults = faults;
        IsObject = element.ValueKind == JsonValueKind.Object;
        if (!IsObject)
        {
            faults.Add(new(place.ToString(), $"found {Kind(element)}, expected an object"));
            (_names, _elements, _read) = ([], [], []);
            return;
        }

        var count = element.GetPropertyCount();
        (_names, _elements) = (new(count), new(count));
        foreach (var property in element.EnumerateObject())
        {
            if (_names.Count == Few)
                _at = _names.Select((n, i) => (n, i)).ToDictionary(p => p.n, p => p.i);
            var name = property.Name;
            if (IndexOf(name) >= 0)
            {
                Refuse(name, "the field stands twice");
                continue;
            }

            _at?.Add(name, _names.Count);
            _names.Add(name);
            _elements.Add(property.Value);
        }

        _read = new bool[_names.Count];
    }

    public bool IsObject { get; }

    /// <summary>The names of the fields, in the order written.</summary>
    public IReadOnlyList<string> Names => _names;

    public bool Has(string name) => IndexOf(name) >= 0;

    public Place PlaceOf(string name) => new(_place, name);

    public void Refuse(string name, string message) => _faults.Add(new(PlaceOf(name).ToString(), message));

    public void Refuse(Place place, string message) => _faults.Add(new(place.ToString(), message));

    public JsonElement? Take(string name)
    {
        var at = IndexOf(name);
        if (at < 0)
            return null;
        _read[at] = true;
        return _elements[at];
    }

    public string? Text(string name)
    {
        if (Take(name) is not { } element)
            return null;
        if (element.ValueKind == JsonValueKind.String)
            return element.GetString();
        Refuse(name, $"found {Kind(element)}, expected text");
        return null;
    }

    public string? RequiredText(string name)
    {
        if (IsObject && !Has(name))
            Refuse(name, "missing, expected text");
        return Text(name);
    }

    public int? Whole(string name, int least)
    {
        if (Take(name) is not { } element)
            return null;
        if (
            element.ValueKind == JsonValueKind.Number
            && element.TryGetInt32(out var whole)
            && whole >= least
            && !element.GetRawText().Contains('.', StringComparison.Ordinal)
        )
            return whole;
        Refuse(name, $"found {Kind(element)}, expected a whole number from {least} up");
        return null;
    }

    public decimal? Number(string name)
    {
        if (Take(name) is not { } element)
            return null;
        if (
            element.ValueKind == JsonValueKind.Number
            && element.TryGetDecimal(out var number)
            && Math.Abs(number) <= 1_000_000_000
        )
            return number;
        Refuse(name, $"found {Kind(element)}, expected a number");
        return null;
    }

    /// <summary>The elements of an array field with their places; nothing when it is absent.</summary>
    public IEnumerable<(JsonElement Element, Place Place)> Array(string name)
    {
        if (Take(name) is not { } element)
            yield break;
        if (element.ValueKind != JsonValueKind.Array)
        {
            Refuse(name, $"found {Kind(element)}, expected a list");
            yield break;
        }

        var place = PlaceOf(name);
        var i = 0;
        foreach (var item in element.EnumerateArray())
            yield return (item, new(place, i++));
    }

    /// <summary>Reads an object field; null where it is absent, is none, or comes to nothing.</summary>
    public T? Object<T>(string name, Func<JsonFields, T?> read)
        where T : class
    {
        if (Take(name) is not { } element)
            return null;
        var inner = new JsonFields(element, PlaceOf(name), _faults);
        return inner.IsObject ? read(inner) : null;
    }

    /// <summary>The same of a field that must be there.</summary>
    public T? RequiredObject<T>(string name, Func<JsonFields, T?> read)
        where T : class
    {
        if (!Has(name))
            Refuse(name, "missing, expected an object");
        return Object(name, read);
    }

    /// <summary>The objects of an array field; what is none has been refused and has no fields.</summary>
    public IEnumerable<JsonFields> Objects(string name) =>
        Array(name).Select(item => new JsonFields(item.Element, item.Place, _faults));

    /// <summary>Where faults go, for readers of what several documents share.</summary>
    public List<Fault> Faults => _faults;

    /// <summary>Reads a quantity or other text by its one parser; the refusal lands on the field.</summary>
    public T? Parsed<T>(string name, Func<string, Checked<T>> read)
        where T : struct
    {
        if (Take(name) is not { } element)
            return null;
        if (element.ValueKind == JsonValueKind.Number)
        {
            Refuse(
                name,
                $"found the bare number {element.GetRawText()}, expected text with a unit, such as \"{element.GetRawText()} mm\""
            );
            return null;
        }

        if (element.ValueKind != JsonValueKind.String)
        {
            Refuse(name, $"found {Kind(element)}, expected text with a unit");
            return null;
        }

        var parsed = read(element.GetString()!);
        if (parsed.Ok)
            return parsed.Value;
        Refuse(name, parsed.Fault!);
        return null;
    }

    /// <summary>True or false; null when it is absent.</summary>
    public bool? Flag(string name)
    {
        if (Take(name) is not { } element)
            return null;
        if (element.ValueKind is JsonValueKind.True or JsonValueKind.False)
            return element.GetBoolean();
        Refuse(name, $"found {Kind(element)}, expected true or false");
        return null;
    }

    /// <summary>One of the known words; null when it is absent or another.</summary>
    public T? OneOf<T>(string name, Dictionary<string, T> known)
        where T : struct
    {
        if (Text(name) is not { } text)
            return null;
        if (known.TryGetValue(text, out var value))
            return value;
        Refuse(name, $"found \"{text}\", expected one of {string.Join(", ", known.Keys)}");
        return null;
    }

    public T? RequiredOneOf<T>(string name, Dictionary<string, T> known)
        where T : struct
    {
        if (!Has(name))
            Refuse(name, $"missing, expected one of {string.Join(", ", known.Keys)}");
        return OneOf(name, known);
    }

    /// <summary>A length over 0.</summary>
    public Length? PositiveLength(string name)
    {
        var length = Parsed(name, Length.Read);
        if (length?.Millimetres <= 0)
            Refuse(name, $"found {length}, expected a length over 0");
        return length;
    }

    /// <summary>A length of 0 or over.</summary>
    public Length? LengthFromZero(string name)
    {
        var length = Parsed(name, Length.Read);
        if (!(length?.Millimetres < 0))
            return length;
        Refuse(name, $"found {length}, expected 0 or over");
        return null;
    }

    /// <summary>A mass of 0 or over.</summary>
    public Mass? MassFromZero(string name)
    {
        var mass = Parsed(name, Mass.Read);
        if (!(mass?.Kilograms < 0))
            return mass;
        Refuse(name, $"found {mass}, expected 0 or over");
        return null;
    }

    /// <summary>A percentage, 0 to 100.</summary>
    public decimal? Percent(string name)
    {
        var percent = Number(name);
        if (percent is null or (>= 0 and <= 100))
            return percent;
        Refuse(name, $"found {percent}, expected percent, 0 to 100");
        return null;
    }

    /// <summary>Refuses fields that must be there and are not.</summary>
    /// <param name="expected">What was expected, in words.</param>
    /// <param name="names">The fields.</param>
    public void Require(string expected, params ReadOnlySpan<string> names)
    {
        foreach (var name in names)
        {
            if (IsObject && !Has(name))
                Refuse(name, $"missing, expected {expected}");
        }
    }

    /// <summary>A mass over 0.</summary>
    public Mass? PositiveMass(string name)
    {
        var mass = Parsed(name, Mass.Read);
        if (!(mass?.Kilograms <= 0))
            return mass;
        Refuse(name, $"found {mass}, expected more than 0");
        return null;
    }

    /// <summary>An angle within bounds.</summary>
    public Angle? AngleBetween(string name, decimal least, decimal most)
    {
        var angle = Parsed(name, Angle.Read);
        if (angle is not { } a || (a.Degrees >= least && a.Degrees <= most))
            return angle;
        Refuse(name, $"found {a}, expected {least} to {most} deg");
        return null;
    }

    /// <summary>The rule books named; asme when the field is absent.</summary>
    public List<RuleBook> RuleBooks(string name)
    {
        if (Take(name) is null)
            return [RuleBookShelf.Asme];
        var books = new List<RuleBook>();
        var count = 0;
        foreach (var (element, place) in Array(name))
        {
            count++;
            if (element.ValueKind != JsonValueKind.String || RuleBookShelf.Find(element.GetString()!) is not { } book)
            {
                Refuse(place, $"found {Kind(element)}, expected one of {string.Join(", ", RuleBookShelf.All)}");
            }
            else if (books.Contains(book))
                Refuse(place, $"the book {book} stands twice");
            else
                books.Add(book);
        }

        if (count == 0)
            Refuse(name, "found no book, expected at least one");
        return books;
    }

    /// <summary>Calls unknown whatever was not read.</summary>
    public void RefuseUnread(string expected)
    {
        for (var i = 0; i < _read.Length; i++)
        {
            if (!_read[i])
                Refuse(_names[i], $"unknown field, expected {expected}");
        }
    }

    public static string Kind(JsonElement element) =>
        element.ValueKind switch
        {
            JsonValueKind.Object => "an object",
            JsonValueKind.Array => "a list",
            JsonValueKind.String => $"\"{Short(element.GetString()!)}\"",
            JsonValueKind.Null => "null",
            _ => Short(element.GetRawText()),
        };

    private int IndexOf(string name)
    {
        if (_at is not null)
            return _at.TryGetValue(name, out var at) ? at : -1;
        for (var i = 0; i < _names.Count; i++)
        {
            if (_names[i] == name)
                return i;
        }

        return -1;
    }

    private static string Short(string text) => text.Length <= 40 ? text : $"{text[..40]}...";
}

/// <summary>A place in a document, written as a JSON path such as <c>$.answers[0].value</c>.</summary>
internal sealed class Place
{
    private readonly Place? _outer;
    private readonly string? _name;
    private readonly int _index;

    public Place(Place outer, string name) => (_outer, _name) = (outer, name);

    public Place(Place outer, int index) => (_outer, _index) = (outer, index);

    private Place() { }

    /// <summary>The whole document.</summary>
    public static Place Root { get; } = new();

    public override string ToString() =>
        _outer is null ? "$"
        : _name is not null ? $"{_outer}.{_name}"
        : $"{_outer}[{_index}]";
}
