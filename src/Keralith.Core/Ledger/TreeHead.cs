using System.Globalization;
using System.Security.Cryptography;
using System.Text;
using System.Text.Json;

namespace Keralith.Core.Ledger;

/// <summary>
/// One signed line for the whole ledger at a moment (ECDSA on P-256 with SHA-256): kept outside, it shows later whether
/// anything of it was cut off, changed or told otherwise to somebody else.
/// </summary>
/// <param name="Works">Whose ledger, by name.</param>
/// <param name="Size">How many entries it had.</param>
/// <param name="Root">Their Merkle root.</param>
/// <param name="At">When.</param>
/// <param name="Key">The signing key's fingerprint: SHA-256 of its public half, in hexadecimal.</param>
/// <param name="Signature">DER, as most tools read it; empty while it is not signed.</param>
public sealed record TreeHead(string Works, long Size, byte[] Root, DateTimeOffset At, string Key, byte[] Signature)
{
    /// <summary>The document's format.</summary>
    public const string Format = "keralith.head/1";

    /// <summary>What is signed: the head as canonical JSON (RFC 8785) without its signature.</summary>
    public byte[] Sealed => Encoding.UTF8.GetBytes(CanonicalJson.Of(JsonSerializer.Serialize(Fields())));

    /// <summary>Signs it.</summary>
    public TreeHead SignedBy(ECDsa key) =>
        this with
        {
            Signature = key.SignData(Sealed, HashAlgorithmName.SHA256, DSASignatureFormat.Rfc3279DerSequence),
        };

    /// <summary>Whether a key signed it.</summary>
    public bool IsSignedBy(ECDsa key) =>
        key.VerifyData(Sealed, Signature, HashAlgorithmName.SHA256, DSASignatureFormat.Rfc3279DerSequence);

    /// <summary>The fingerprint of a key's public half.</summary>
    public static string FingerprintOf(ECDsa key) =>
        Convert.ToHexStringLower(SHA256.HashData(key.ExportSubjectPublicKeyInfo()));

    /// <summary>The head as a document.</summary>
    public string Json() =>
        CanonicalJson.Of(
            JsonSerializer.Serialize(
                Fields().Append(new("signature", Convert.ToBase64String(Signature))).ToDictionary()
            )
        );

    /// <summary>Reads a head.</summary>
    /// <returns>The head, or what is wrong with the document.</returns>
    public static Checked<TreeHead> Read(string json)
    {
        try
        {
            using var document = JsonDocument.Parse(json);
            return Read(document.RootElement);
        }
        catch (JsonException)
        {
            return new Refusal("The head is not JSON.");
        }
    }

    /// <summary>Reads a head from a document's element.</summary>
    public static Checked<TreeHead> Read(JsonElement e)
    {
        string Text(string name) =>
            e.ValueKind == JsonValueKind.Object
            && e.TryGetProperty(name, out var value)
            && value.ValueKind == JsonValueKind.String
                ? value.GetString()!
                : string.Empty;
        if (Text("format") != Format)
            return new Refusal($"The head is not a {Format} object.");
        var signature = new byte[256];
        if (
            !e.TryGetProperty("size", out var size)
            || !size.TryGetInt64(out var entries)
            || entries < 1
            || !DateTimeOffset.TryParse(
                Text("at"),
                CultureInfo.InvariantCulture,
                DateTimeStyles.AssumeUniversal,
                out var at
            )
            || Text("root") is not { Length: 64 } root
            || !root.All(char.IsAsciiHexDigit)
            || !Convert.TryFromBase64String(Text("signature"), signature, out var length)
        )
            return new Refusal("The head lacks its size, its moment, its root or its signature.");
        return new TreeHead(Text("works"), entries, Convert.FromHexString(root), at, Text("key"), signature[..length]);
    }

    /// <summary>What a ledger has against this head, in words; null when it meets it.</summary>
    /// <param name="leaves">The leaves of the ledger as it stands, in their order.</param>
    /// <param name="key">The public key it should be signed by; null: not asked.</param>
    public string? Against(ReadOnlySpan<byte[]> leaves, ECDsa? key)
    {
        if (key is not null && !IsSignedBy(key))
            return "the head is not signed by this key";
        if (leaves.Length < Size)
            return $"the ledger had {Size} entries on {At:yyyy-MM-dd HH:mm} and has {leaves.Length} now: its end was cut off";
        return MerkleLog.Root(leaves[..(int)Size]).AsSpan().SequenceEqual(Root)
            ? null
            : $"the first {Size} entries are others than on {At:yyyy-MM-dd HH:mm}: one was changed, or this is another copy";
    }

    private Dictionary<string, object> Fields() =>
        new()
        {
            ["format"] = Format,
            ["works"] = Works,
            ["size"] = Size,
            ["root"] = Convert.ToHexStringLower(Root),
            ["at"] = At.UtcDateTime.ToString("yyyy-MM-dd'T'HH:mm:ss'Z'", CultureInfo.InvariantCulture),
            ["key"] = Key,
        };
}
