using System.Text.Json;
using Keralith.Core.Register;
using Keralith.Core.Tags;

namespace Keralith.Core.Formats;

/// <summary>
/// Reads and writes <c>keralith.piece/1</c>: a piece of the register as programs send and read it. What it says goes through
/// <see cref="PieceEntryReader"/>, as a form and a file do.
/// </summary>
public static class PieceDocument
{
    public const string Format = "keralith.piece/1";

    /// <summary>The fields written as text, under the names forms know them by.</summary>
    public static IReadOnlyList<string> Texts { get; } =
    [.. PieceFields.All.Where(f => f.Form is FieldForm.Text or FieldForm.Day).Select(f => f.Name)];

    /// <summary>The fields written as lists of text.</summary>
    public static IReadOnlyList<string> Lists { get; } =
    ["tagEntries", PieceEntryReader.Ratings, "meets", PieceEntryReader.Members];

    private static readonly JsonDocumentOptions Options = new() { MaxDepth = 16 };

    /// <summary>Reads a piece.</summary>
    /// <param name="utf8">The document.</param>
    /// <param name="stores">The stores there are.</param>
    /// <returns>The piece and the version it was made on (null where none is named), or every fault with its path.</returns>
    public static (ReadResult<PieceEntry> Piece, int? Version) Read(ReadOnlyMemory<byte> utf8, StoreNames stores)
    {
        try
        {
            using var document = JsonDocument.Parse(utf8, Options);
            return Read(document.RootElement, stores);
        }
        catch (JsonException)
        {
            return (new(null, [new("$", $"not JSON in UTF-8, expected one {Format} object")]), null);
        }
        catch (InvalidOperationException e)
            when (e.Source?.StartsWith(typeof(JsonDocument).Assembly.GetName().Name!, StringComparison.Ordinal) == true)
        {
            return (new(null, [new("$", "a text escapes half a character, expected Unicode text")]), null);
        }
    }

    /// <summary>Writes a piece.</summary>
    /// <param name="json">Where to.</param>
    /// <param name="entry">The piece.</param>
    /// <param name="stores">The stores there are.</param>
    /// <param name="standing">Writes what the records add: state, due dates, version.</param>
    public static void Write(Utf8JsonWriter json, PieceEntry entry, StoreNames stores, Action<Utf8JsonWriter> standing)
    {
        var fields = PieceEntryFields.Of(entry);
        json.WriteStartObject();
        json.WriteString("format", Format);
        foreach (var name in Texts)
        {
            if (fields.GetValueOrDefault(name) is { Length: > 0 } text)
                json.WriteString(name, text);
        }

        if (entry.DesignFactor is { } factor)
            json.WriteNumber("designFactor", factor);
        if (entry.LotCount is { } lot)
            json.WriteNumber("lotCount", lot);
        json.WriteString("store", stores.NameOf(entry.Store));
        json.WritePropertyName("gear");
        CaseWriter.Write(json, entry.Gear);
        json.WriteBoolean("tagRead", entry.TagRead);
        List("tagEntries", entry.TagEntries);
        List(PieceEntryReader.Ratings, entry.Details.Tag.Ratings.Select(r => r.ToString()));
        List("meets", entry.Surroundings.Chemicals.Select(Code.Of));
        List(PieceEntryReader.Members, entry.Details.Members.Select(m => m.ToString()));
        json.WriteStartObject("fit");
        foreach (var (field, _) in PieceEntryReader.FitFields)
        {
            if (fields[field].Length > 0)
                json.WriteString(field[4..], fields[field]);
        }

        json.WriteEndObject();
        json.WriteStartArray("baselines");
        foreach (
            var (key, figure) in entry
                .Baselines.OrderBy(b => b.Key.Part, StringComparer.Ordinal)
                .ThenBy(b => b.Key.Criterion, StringComparer.Ordinal)
        )
        {
            json.WriteStartObject();
            json.WriteString("part", key.Part);
            json.WriteString("criterion", key.Criterion);
            json.WriteString("value", figure.Length.ToString());
            json.WriteString("basis", Code.Of(figure.Basis));
            if (figure.Links is { } links)
                json.WriteNumber("links", links);
            json.WriteEndObject();
        }

        json.WriteEndArray();
        standing(json);
        json.WriteEndObject();

        void List(string name, IEnumerable<string> items)
        {
            json.WriteStartArray(name);
            foreach (var item in items)
                json.WriteStringValue(item);
            json.WriteEndArray();
        }
    }

    private static (ReadResult<PieceEntry> Piece, int? Version) Read(JsonElement root, StoreNames stores)
    {
        var faults = new List<Fault>();
        var json = new JsonFields(root, faults);
        if (!json.IsObject)
            return (new(null, faults), null);
        if (json.RequiredText("format") is { } format && format != Format)
            json.Refuse("format", $"found \"{format}\", expected \"{Format}\"");
        var fields = new Dictionary<string, string>();
        var paths = new Dictionary<string, string>();
        foreach (var name in Texts)
        {
            if (json.Text(name) is { } text)
                fields[name] = text;
        }

        if (json.Number("designFactor") is { } factor)
            fields["designFactor"] = Quantities.QuantityFormat.Number(factor);
        if (json.Whole("lotCount", 1) is { } lot)
            fields["lotCount"] = lot.ToString();
        if (json.RequiredText("store") is { } store)
        {
            if (stores.IdOf(store) is { } id)
                fields["store"] = id.ToString();
            else
                json.Refuse("store", $"found \"{store}\", expected one of {stores}");
        }

        Gear(json, fields, paths, faults);
        if (json.Take("tagRead") is { } read)
        {
            if (read.ValueKind == JsonValueKind.False)
                fields[PieceEntryReader.TagUnread] = "true";
            else if (read.ValueKind != JsonValueKind.True)
                json.Refuse("tagRead", $"found {JsonFields.Kind(read)}, expected true or false");
        }

        foreach (var code in Strings(json, "tagEntries"))
            fields[PieceEntryReader.TagField(code)] = "true";
        foreach (var code in Strings(json, "meets"))
            fields[$"meets:{code}"] = "true";
        foreach (var name in new[] { PieceEntryReader.Ratings, PieceEntryReader.Members })
            fields[name] = string.Join('\n', Strings(json, name));
        if (json.Take("fit") is { } fit)
        {
            var sizes = new JsonFields(fit, json.PlaceOf("fit"));
            foreach (var (field, _) in PieceEntryReader.FitFields)
            {
                if (sizes.Text(field[4..]) is not { } size)
                    continue;
                fields[field] = size;
                paths[field] = sizes.PlaceOf(field[4..]).ToString();
            }

            sizes.RefuseUnread(string.Join(", ", PieceEntryReader.FitFields.Select(f => f.Field[4..])));
        }

        foreach (var (element, place) in json.Array("baselines"))
        {
            var figure = new JsonFields(element, place);
            if (!figure.IsObject)
                continue;
            if (
                figure.RequiredText("part") is not { } part
                || figure.RequiredText("criterion") is not { } criterion
                || figure.RequiredText("value") is not { } value
            )
                continue;
            var (valueField, basisField, linksField) = PieceEntryReader.Fields(new(part, criterion));
            fields[valueField] = value;
            (paths[valueField], paths[basisField], paths[linksField]) = (
                figure.PlaceOf("value").ToString(),
                figure.PlaceOf("basis").ToString(),
                figure.PlaceOf("links").ToString()
            );
            if (figure.Text("basis") is { } basis)
                fields[basisField] = basis;
            if (figure.Whole("links", 1) is { } links)
                fields[linksField] = links.ToString();
            figure.RefuseUnread("part, criterion, value, basis, links");
        }

        var version = json.Whole("version", 1);
        foreach (var name in Standing)
            json.Take(name);
        json.RefuseUnread(
            $"{string.Join(", ", Texts)}, designFactor, lotCount, store, gear, tagRead, {string.Join(", ", Lists)}, fit, baselines, version"
        );
        if (faults.Count > 0)
            return (new(null, faults), version);
        var (entry, found) = PieceEntryReader.Read(fields);
        faults.AddRange(found.Select(f => new Fault(paths.GetValueOrDefault(f.Key, $"$.{f.Key}"), f.Value)));
        if (entry is not null)
        {
            var unknown = fields
                .Keys.Where(f => f.StartsWith("baseline:", StringComparison.Ordinal))
                .Where(f => !entry.Baselines.Keys.Any(k => PieceEntryReader.Fields(k).Value == f))
                .ToList();
            faults.AddRange(
                unknown.Select(f => new Fault(paths[f], $"this piece has no figure {f[9..].Replace(':', ' ')}"))
            );
            var carries = entry.Gear.Family.TagEntries.Select(t => t.Code).ToList();
            faults.AddRange(
                fields
                    .Keys.Where(f => f.StartsWith("tag:", StringComparison.Ordinal) && !carries.Contains(f[4..]))
                    .Select(f => new Fault(
                        "$.tagEntries",
                        $"found \"{f[4..]}\", expected some of {string.Join(", ", carries)}"
                    ))
            );
            faults.AddRange(
                fields
                    .Keys.Where(f =>
                        f.StartsWith("meets:", StringComparison.Ordinal) && Code.Find<Chemical>(f[6..]) is null
                    )
                    .Select(f => new Fault(
                        "$.meets",
                        $"found \"{f[6..]}\", expected some of {string.Join(", ", Enum.GetValues<Chemical>().Select(Code.Of))}"
                    ))
            );
        }

        return (new(faults.Count == 0 ? entry : null, faults), version);
    }

    /// <summary>What the records say of a piece, beside what is entered: written, and passed over when it comes back.</summary>
    public static IReadOnlyList<string> Standing { get; } =
    ["state", "verdict", "mayBeUsed", "reasons", "periodicDue", "frequentDue"];

    private static void Gear(
        JsonFields json,
        Dictionary<string, string> fields,
        Dictionary<string, string> paths,
        List<Fault> faults
    )
    {
        if (json.Take("gear") is not { } element)
        {
            json.Refuse("gear", "missing, expected an object with family and attributes");
            return;
        }

        var stated = new JsonFields(element, json.PlaceOf("gear"));
        if (!stated.IsObject || GearReader.Read(stated) is not { } gear)
            return;
        fields["family"] = gear.Family.Code;
        foreach (var (name, value) in gear.Values)
        {
            if (!gear.Family.Asks.Contains(name) && !PieceEntryReader.OfEveryFamily.Contains(name))
                json.Refuse(
                    stated.PlaceOf(name),
                    $"not asked of {gear.Family.Code}, expected some of {string.Join(", ", gear.Family.Asks.Union(PieceEntryReader.OfEveryFamily))}"
                );
            fields[name] = value.Text;
            paths[name] = $"$.gear.{name}";
        }

        foreach (var name in gear.Family.Requires)
            paths.TryAdd(name, $"$.gear.{name}");
    }

    private static List<string> Strings(JsonFields json, string name)
    {
        var texts = new List<string>();
        foreach (var (element, place) in json.Array(name))
        {
            if (element.ValueKind == JsonValueKind.String)
                texts.Add(element.GetString()!);
            else
                json.Refuse(place, $"found {JsonFields.Kind(element)}, expected text");
        }

        return texts;
    }
}
