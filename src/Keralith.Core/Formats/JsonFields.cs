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
    private readonly Dictionary<string, int>? _at;
    private readonly Field[] _fields;
    private readonly int _count;

    /// <summary>The fields of the document itself.</summary>
    public JsonFields(JsonElement root, List<Fault> faults)
        : this(root, Place.Root, faults) { }

    /// <summary>The fields of an object in another, whose faults go where that one's go.</summary>
    public JsonFields(JsonElement element, Place place)
        : this(element, place, place.In!._faults) { }

    private JsonFields(JsonElement element, Place place, List<Fault> faults)
    {
        (_place, _faults) = (place, faults);
        IsObject = element.ValueKind == JsonValueKind.Object;
        if (!IsObject)
        {
            Refuse(place, $"found {Kind(element)}, expected an object");
            _fields = [];
            return;
        }

        _fields = new Field[element.GetPropertyCount()];
        foreach (var property in element.EnumerateObject())
        {
            if (_count == Few)
                _at = Enumerable.Range(0, Few).ToDictionary(NameAt);
            var name = JsonWords.NameOf(property);
            if (IndexOf(name) >= 0)
            {
                Refuse(name, "the field stands twice");
                continue;
            }

            _at?.Add(name, _count);
            _fields[_count++] = new(name, property.Value);
        }
    }

    public bool IsObject { get; }

    /// <summary>How many fields there are.</summary>
    public int Count => _count;

    /// <summary>The name of a field, by the order written.</summary>
    public string NameAt(int index) => _fields[index].Name;

    public bool Has(string name) => IndexOf(name) >= 0;

    /// <summary>Where the object stands.</summary>
    public Place Place => _place;

    public Place PlaceOf(string name) => new(this, name);

    public void Refuse(string name, string message) => _faults.Add(new(PlaceOf(name).ToString(), message));

    public void Refuse(Place place, string message) => _faults.Add(new(place.ToString(), message));

    public JsonElement? Take(string name)
    {
        var at = IndexOf(name);
        if (at < 0)
            return null;
        _fields[at].IsRead = true;
        return _fields[at].Value;
    }

    public string? Text(string name) => Take(name) is { } element ? TextOf(element, name) : null;

    public string? RequiredText(string name)
    {
        if (Take(name) is { } element)
            return TextOf(element, name);
        if (IsObject)
            Refuse(name, "missing, expected text");
        return null;
    }

    private string? TextOf(JsonElement element, string name)
    {
        if (element.ValueKind == JsonValueKind.String)
            return JsonWords.TextOf(element);
        Refuse(name, $"found {Kind(element)}, expected text");
        return null;
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
    public Items Array(string name)
    {
        if (Take(name) is not { } element)
            return default;
        if (element.ValueKind == JsonValueKind.Array)
            return new(element, PlaceOf(name));
        Refuse(name, $"found {Kind(element)}, expected a list");
        return default;
    }

    /// <summary>Reads an object field; null where it is absent, is none, or comes to nothing.</summary>
    public T? Object<T>(string name, Func<JsonFields, T?> read)
        where T : class
    {
        if (Take(name) is not { } element)
            return null;
        var inner = new JsonFields(element, PlaceOf(name));
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
    public IEnumerable<JsonFields> Objects(string name)
    {
        foreach (var (element, place) in Array(name))
            yield return new(element, place);
    }

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

        var parsed = read(JsonWords.TextOf(element));
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
        return Take(name) is { } element ? OneOf(element, name, known) : null;
    }

    private T? OneOf<T>(JsonElement element, string name, Dictionary<string, T> known)
        where T : struct
    {
        if (TextOf(element, name) is not { } text)
            return null;
        if (known.TryGetValue(text, out var value))
            return value;
        Refuse(name, $"found \"{text}\", expected one of {string.Join(", ", known.Keys)}");
        return null;
    }

    public T? RequiredOneOf<T>(string name, Dictionary<string, T> known)
        where T : struct
    {
        if (Take(name) is { } element)
            return OneOf(element, name, known);
        Refuse(name, $"missing, expected one of {string.Join(", ", known.Keys)}");
        return null;
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
            if (
                element.ValueKind != JsonValueKind.String
                || RuleBookShelf.Find(JsonWords.TextOf(element)) is not { } book
            )
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
        for (var i = 0; i < _count; i++)
        {
            if (!_fields[i].IsRead)
                Refuse(_fields[i].Name, $"unknown field, expected {expected}");
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
        for (var i = 0; i < _count; i++)
        {
            if (_fields[i].Name == name)
                return i;
        }

        return -1;
    }

    private static string Short(string text) => text.Length <= 40 ? text : $"{text[..40]}...";

    /// <summary>The elements of a list with their places.</summary>
    public struct Items
    {
        private readonly Place _list;
        private JsonElement.ArrayEnumerator _elements;
        private int _index;

        internal Items(JsonElement list, Place place)
        {
            (_list, _elements, _index) = (place, list.EnumerateArray(), -1);
        }

        public readonly (JsonElement Element, Place Place) Current =>
            (_elements.Current, _list with { Index = _index });

        public readonly Items GetEnumerator() => this;

        public bool MoveNext()
        {
            _index++;
            return _list.In is not null && _elements.MoveNext();
        }
    }

    private struct Field(string name, JsonElement value)
    {
        public readonly string Name = name;
        public readonly JsonElement Value = value;
        public bool IsRead;
    }
}

/// <summary>A place in a document, written as a JSON path such as <c>$.answers[0].value</c>.</summary>
/// <param name="In">The object it lies in; null: the place is the whole document.</param>
/// <param name="Name">The object's field.</param>
/// <param name="Index">Which element of the field's list; under 0: the field itself.</param>
internal readonly record struct Place(JsonFields? In, string? Name, int Index = -1)
{
    /// <summary>The whole document.</summary>
    public static Place Root => default;

    public override string ToString() =>
        In is null ? "$"
        : Index < 0 ? $"{In.Place}.{Name}"
        : $"{In.Place}.{Name}[{Index}]";
}
