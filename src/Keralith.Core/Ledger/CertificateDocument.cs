using System.Security.Cryptography;
using System.Text.Json;

namespace Keralith.Core.Ledger;

/// <summary>One thing looked at when a certificate is checked.</summary>
/// <param name="What">What was looked at.</param>
/// <param name="Fault">What is wrong; null: it is as it should be.</param>
public sealed record CertificateStep(string What, string? Fault);

/// <summary>
/// A certificate an outsider can check alone: the entry of the record, its way to a signed head, and the head. Nothing but
/// SHA-256 and ECDSA is needed to check it.
/// </summary>
public static class CertificateDocument
{
    /// <summary>The document's format.</summary>
    public const string Format = "keralith.certificate/1";

    /// <summary>A certificate's short code, printed on it: the first sixteen figures of its entry's hash.</summary>
    public static string CodeOf(byte[] hash) =>
        string.Join('-', Convert.ToHexStringLower(hash)[..16].Chunk(4).Select(c => new string(c)));

    /// <summary>Writes a certificate.</summary>
    /// <param name="entry">The record's entry.</param>
    /// <param name="path">Its way to the head's root.</param>
    /// <param name="publicKey">The public half of the key the head is signed with, PEM.</param>
    /// <param name="superseded">The entry that corrected or withdrew the record, with its way to the root; null: it stands.</param>
    public static string Write(
        LedgerEntry entry,
        IReadOnlyList<byte[]> path,
        TreeHead head,
        string publicKey,
        (LedgerEntry Entry, IReadOnlyList<byte[]> Path)? superseded = null
    )
    {
        using var buffer = new MemoryStream();
        using (var json = new Utf8JsonWriter(buffer, new JsonWriterOptions { Indented = true }))
        {
            json.WriteStartObject();
            json.WriteString("format", Format);
            json.WriteString("code", CodeOf(entry.Hash));
            Sealed(json, entry, path);
            if (superseded is var (by, itsPath))
            {
                json.WriteStartObject("superseded");
                Sealed(json, by, itsPath);
                json.WriteEndObject();
            }

            json.WritePropertyName("head");
            json.WriteRawValue(head.Json());
            json.WriteString("publicKey", publicKey);
            json.WriteEndObject();
        }

        return System.Text.Encoding.UTF8.GetString(buffer.ToArray());
    }

    /// <summary>An entry with its words and its way to the root.</summary>
    private static void Sealed(Utf8JsonWriter json, LedgerEntry entry, IReadOnlyList<byte[]> path)
    {
        json.WriteStartObject("entry");
        json.WriteNumber("number", entry.Number);
        json.WriteString("at", LedgerChain.Moment(entry));
        json.WriteString("actor", entry.Actor);
        json.WriteString("kind", entry.Kind);
        json.WriteString("subject", entry.Subject);
        json.WriteNumber("form", (int)entry.Form);
        json.WriteString("previous", Convert.ToHexStringLower(entry.Previous));
        json.WriteString("hash", Convert.ToHexStringLower(entry.Hash));
        json.WriteEndObject();
        json.WriteString("data", entry.Data);
        json.WriteStartArray("path");
        foreach (var beside in path)
            json.WriteStringValue(Convert.ToHexStringLower(beside));
        json.WriteEndArray();
    }

    /// <summary>Checks a certificate against its head and a key, step by step; what fails is named.</summary>
    /// <param name="json">The certificate.</param>
    /// <param name="head">A head from elsewhere that must be met too; null: the certificate's own alone.</param>
    /// <param name="publicKey">The works' public key, PEM, from elsewhere; null: the certificate's own, which proves less.</param>
    public static IReadOnlyList<CertificateStep> Check(string json, TreeHead? head = null, string? publicKey = null)
    {
        JsonDocument document;
        try
        {
            document = JsonDocument.Parse(json);
        }
        catch (JsonException)
        {
            return [new("It is a certificate", "it is not JSON")];
        }

        using (document)
        {
            try
            {
                return Steps(document.RootElement, head, publicKey);
            }
            catch (Exception e)
                when (e is KeyNotFoundException or InvalidOperationException or FormatException or JsonException)
            {
                return [new("It is a certificate", $"it is not a whole {Format} object")];
            }
        }
    }

    private static List<CertificateStep> Steps(JsonElement root, TreeHead? elsewhere, string? publicKey)
    {
        if (root.GetProperty("format").GetString() != Format)
            return [new("It is a certificate", $"it is not a {Format} object")];
        if (Stray(root) is { } stray)
            return [new("It is a certificate", stray)];
        var (entry, own) = (EntryOf(root), TreeHead.Read(root.GetProperty("head")));
        if (!own.Ok)
            return [new("It has a signed head", own.Fault)];
        var head = own.Value;
        using var key = ECDsa.Create();
        try
        {
            key.ImportFromPem(publicKey ?? root.GetProperty("publicKey").GetString());
        }
        catch (Exception e) when (e is ArgumentException or CryptographicException)
        {
            return [new("The works' key can be read", "it is no public key in PEM")];
        }

        var path = PathOf(root);
        var steps = new List<CertificateStep>
        {
            new(Told(entry), null),
            new(
                "The record is as it was sealed",
                LedgerChain.IsWhole(entry) ? null : "its words are others than those that were sealed"
            ),
            new(
                "Its code is that of its entry",
                root.GetProperty("code").GetString() == CodeOf(entry.Hash) ? null : "another code stands on it"
            ),
            new(
                "The entry is in the ledger the head stands for",
                MerkleLog.Includes(MerkleLog.Leaf(entry.Hash), entry.Number - 1, head.Size, path, head.Root)
                    ? null
                    : "its path does not lead to the head"
            ),
            new(
                "The head is signed by the works' key",
                head.Key != TreeHead.FingerprintOf(key) ? "it names another key"
                    : head.IsSignedBy(key) ? null
                    : "its signature is not that key's"
            ),
        };
        if (root.TryGetProperty("superseded", out var after))
            steps.Add(new("The record stands", Superseded(entry, after, head)));
        if (elsewhere is not null)
            steps.Add(
                new(
                    "It is the head kept elsewhere",
                    elsewhere.Size == head.Size && elsewhere.Root.AsSpan().SequenceEqual(head.Root) ? null
                        : elsewhere.Size == head.Size ? "of the same size, it is another: there are two ledgers"
                        : $"the other is of {elsewhere.Size} entries, this of {head.Size}: ask for a certificate against that one"
                )
            );
        return steps;
    }

    /// <summary>What it is about, as it is checked: the mark, the day, the verdict.</summary>
    private static string Told(LedgerEntry entry)
    {
        using var data = JsonDocument.Parse(entry.Data);
        string? Text(string name) =>
            data.RootElement.ValueKind == JsonValueKind.Object
            && data.RootElement.TryGetProperty(name, out var value)
            && value.ValueKind == JsonValueKind.String
                ? value.GetString()
                : null;
        return entry.Kind == "inspection.signed"
            ? $"It is of {entry.Subject}, inspected on {Text("inspectedOn")}, verdict {Text("signedAs")}"
            : $"It is of {entry.Subject}, {entry.Kind}";
    }

    /// <summary>What supersedes a record, in words: it is authentic, and nobody goes by it any more.</summary>
    private static string Superseded(LedgerEntry entry, JsonElement after, TreeHead head)
    {
        var by = EntryOf(after);
        using var data = JsonDocument.Parse(by.Data);
        using var record = JsonDocument.Parse(entry.Data);
        var names =
            data.RootElement.TryGetProperty("corrects", out var id) && id.ValueKind == JsonValueKind.String
                ? id
                : data.RootElement.GetProperty("inspection");
        if (
            !LedgerChain.IsWhole(by)
            || by.Subject != entry.Subject
            || by.Number <= entry.Number
            || names.GetString() != record.RootElement.GetProperty("inspection").GetString()
        )
            return "it is said to be superseded, by an entry that says nothing of it";
        var done = by.Kind == "inspection.withdrawn" ? "withdrawn" : "superseded by a corrected record";
        var held = MerkleLog.Includes(MerkleLog.Leaf(by.Hash), by.Number - 1, head.Size, PathOf(after), head.Root);
        return $"it was {done} on {by.At:yyyy-MM-dd} by {by.Actor}{(held ? string.Empty : ", which this head does not hold yet")}: nobody goes by it any more";
    }

    private static List<byte[]> PathOf(JsonElement sealedEntry) =>
        [.. sealedEntry.GetProperty("path").EnumerateArray().Select(p => Hex(p))];

    /// <summary>Bytes as they are written here: in small letters.</summary>
    /// <exception cref="FormatException">They are written otherwise.</exception>
    private static byte[] Hex(JsonElement text) =>
        text.GetString() is { } hex && !hex.Any(char.IsAsciiLetterUpper)
            ? Convert.FromHexString(hex)
            : throw new FormatException();

    private static readonly string[] Whole =
    [
        "format",
        "code",
        "entry",
        "data",
        "path",
        "superseded",
        "head",
        "publicKey",
    ];

    private static readonly string[] OfEntry = ["number", "at", "actor", "kind", "subject", "form", "previous", "hash"];

    private static readonly string[] OfHead = ["format", "works", "size", "root", "at", "key", "signature"];

    /// <summary>The first field that does not belong there, or stands twice; null: none. What nothing seals proves nothing.</summary>
    private static string? Stray(JsonElement root) =>
        Stray(root, Whole)
        ?? Stray(root.GetProperty("entry"), OfEntry)
        ?? Stray(root.GetProperty("head"), OfHead)
        ?? (
            root.TryGetProperty("superseded", out var after)
                ? Stray(after, ["entry", "data", "path"]) ?? Stray(after.GetProperty("entry"), OfEntry)
                : null
        );

    private static string? Stray(JsonElement element, IReadOnlyCollection<string> known)
    {
        var seen = new HashSet<string>(StringComparer.Ordinal);
        foreach (var field in element.EnumerateObject())
        {
            if (!known.Contains(field.Name))
                return $"\"{field.Name}\" does not belong there: nothing seals it";
            if (!seen.Add(field.Name))
                return $"\"{field.Name}\" stands twice";
        }

        return null;
    }

    private static LedgerEntry EntryOf(JsonElement root)
    {
        var e = root.GetProperty("entry");
        return new(
            e.GetProperty("number").GetInt64(),
            DateTimeOffset.Parse(
                e.GetProperty("at").GetString()!,
                System.Globalization.CultureInfo.InvariantCulture,
                System.Globalization.DateTimeStyles.AssumeUniversal
            ),
            e.GetProperty("actor").GetString()!,
            e.GetProperty("kind").GetString()!,
            e.GetProperty("subject").GetString()!,
            root.GetProperty("data").GetString()!,
            Hex(e.GetProperty("previous")),
            Hex(e.GetProperty("hash"))
        )
        {
            Form = (CanonicalForm)e.GetProperty("form").GetInt32(),
        };
    }
}
