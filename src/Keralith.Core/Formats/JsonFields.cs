using System.Text.Json;

namespace Keralith.Core.Formats;

/// <summary>
/// Reads the fields of one JSON object, collecting every fault with its path: unknown fields, fields twice, wrong types.
/// </summary>
internal sealed class JsonFields
{
    private readonly Dictionary<string, JsonElement> _fields = [];
    private readonly HashSet<string> _read = [];
    private readonly List<Fault> _faults;

    public JsonFields(JsonElement element, string path, List<Fault> faults)
    {
        Path = path;
        _faults = faults;
        if (element.ValueKind != JsonValueKind.Object)
        {
            faults.Add(new(path, $"found {Kind(element)}, expected an object"));
            return;
        }

        IsObject = true;
        foreach (var property in element.EnumerateObject())
        {
            if (!_fields.TryAdd(property.Name, property.Value)) faults.Add(new(PathOf(property.Name), "the field stands twice"));
        }
    }

    public string Path { get; }

    public bool IsObject { get; }

    /// <summary>The names of the fields, in the order written.</summary>
    public IEnumerable<string> Names => _fields.Keys;

    public string PathOf(string name) => $"{Path}.{name}";

    public void Refuse(string name, string message) => _faults.Add(new(PathOf(name), message));

    public JsonElement? Take(string name)
    {
        _read.Add(name);
        return _fields.TryGetValue(name, out var element) ? element : null;
    }

    public string? Text(string name)
    {
        if (Take(name) is not { } element) return null;
        if (element.ValueKind == JsonValueKind.String) return element.GetString();
        Refuse(name, $"found {Kind(element)}, expected text");
        return null;
    }

    public string? RequiredText(string name)
    {
        if (!_fields.ContainsKey(name) && IsObject) Refuse(name, "missing, expected text");
        return Text(name);
    }

    public int? Whole(string name, int least)
    {
        if (Take(name) is not { } element) return null;
        if (element.ValueKind == JsonValueKind.Number && element.TryGetInt32(out var whole) && whole >= least && !element.GetRawText().Contains('.', StringComparison.Ordinal)) return whole;
        Refuse(name, $"found {Kind(element)}, expected a whole number from {least} up");
        return null;
    }

    public decimal? Number(string name)
    {
        if (Take(name) is not { } element) return null;
        if (element.ValueKind == JsonValueKind.Number && element.TryGetDecimal(out var number) && Math.Abs(number) <= 1_000_000_000) return number;
        Refuse(name, $"found {Kind(element)}, expected a number");
        return null;
    }

    /// <summary>The elements of an array field with their paths; nothing when it is absent.</summary>
    public IEnumerable<(JsonElement Element, string Path)> Array(string name)
    {
        if (Take(name) is not { } element) yield break;
        if (element.ValueKind != JsonValueKind.Array)
        {
            Refuse(name, $"found {Kind(element)}, expected a list");
            yield break;
        }

        var i = 0;
        foreach (var item in element.EnumerateArray()) yield return (item, $"{PathOf(name)}[{i++}]");
    }

    /// <summary>Reads a quantity or other text by its one parser; the refusal lands on the field.</summary>
    public T? Parsed<T>(string name, Func<string, Checked<T>> read)
        where T : struct
    {
        if (Take(name) is not { } element) return null;
        if (element.ValueKind == JsonValueKind.Number)
        {
            Refuse(name, $"found the bare number {element.GetRawText()}, expected text with a unit, such as \"{element.GetRawText()} mm\"");
            return null;
        }

        if (element.ValueKind != JsonValueKind.String)
        {
            Refuse(name, $"found {Kind(element)}, expected text with a unit");
            return null;
        }

        var parsed = read(element.GetString()!);
        if (parsed.Ok) return parsed.Value;
        Refuse(name, parsed.Fault!);
        return null;
    }

    /// <summary>Calls unknown whatever was not read.</summary>
    public void RefuseUnread(string expected)
    {
        foreach (var name in _fields.Keys)
        {
            if (!_read.Contains(name)) Refuse(name, $"unknown field, expected {expected}");
        }
    }

    public static string Kind(JsonElement element) => element.ValueKind switch
    {
        JsonValueKind.Object => "an object",
        JsonValueKind.Array => "a list",
        JsonValueKind.String => $"\"{Short(element.GetString()!)}\"",
        JsonValueKind.Null => "null",
        _ => Short(element.GetRawText()),
    };

    private static string Short(string text) => text.Length <= 40 ? text : $"{text[..40]}...";
}
