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
    public static string Write(LedgerEntry entry, IReadOnlyList<byte[]> path, TreeHead head, string publicKey)
    {
        using var buffer = new MemoryStream();
        using (var json = new Utf8JsonWriter(buffer, new JsonWriterOptions { Indented = true }))
        {
            json.WriteStartObject();
            json.WriteString("format", Format);
            json.WriteString("code", CodeOf(entry.Hash));
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
            json.WritePropertyName("head");
            json.WriteRawValue(head.Json());
            json.WriteString("publicKey", publicKey);
            json.WriteEndObject();
        }

        return System.Text.Encoding.UTF8.GetString(buffer.ToArray());
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
                when (e
                        is KeyNotFoundException
                            or InvalidOperationException
                            or FormatException
                            or CryptographicException
                )
            {
                return [new("It is a certificate", $"it is not a whole {Format} object")];
            }
        }
    }

    private static List<CertificateStep> Steps(JsonElement root, TreeHead? elsewhere, string? publicKey)
    {
        if (root.GetProperty("format").GetString() != Format)
            return [new("It is a certificate", $"it is not a {Format} object")];
        var (entry, own) = (EntryOf(root), TreeHead.Read(root.GetProperty("head")));
        if (!own.Ok)
            return [new("It has a signed head", own.Fault)];
        var head = own.Value;
        using var key = ECDsa.Create();
        key.ImportFromPem(publicKey ?? root.GetProperty("publicKey").GetString());
        var path = root.GetProperty("path")
            .EnumerateArray()
            .Select(p => Convert.FromHexString(p.GetString()!))
            .ToList();
        var steps = new List<CertificateStep>
        {
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
            Convert.FromHexString(e.GetProperty("previous").GetString()!),
            Convert.FromHexString(e.GetProperty("hash").GetString()!)
        )
        {
            Form = (CanonicalForm)e.GetProperty("form").GetInt32(),
        };
    }
}
