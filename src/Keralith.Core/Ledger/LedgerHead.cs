using System.Globalization;
using System.Security.Cryptography;
using System.Text;

namespace Keralith.Core.Ledger;

/// <summary>How far the ledger had come at a moment, sealed and kept beside it.</summary>
/// <param name="Number">The number of its last entry.</param>
/// <param name="Hash">That entry's hash.</param>
/// <param name="At">When.</param>
public sealed record LedgerHead(long Number, byte[] Hash, DateTimeOffset At)
{
    /// <summary>Its signature under a key (HMAC-SHA-256); empty without one.</summary>
    public byte[] Sign(byte[]? key) =>
        key is null
            ? []
            : HMACSHA256.HashData(
                key,
                Encoding.UTF8.GetBytes(
                    string.Create(
                        CultureInfo.InvariantCulture,
                        $"keralith ledger head\n{Number}\n{Convert.ToHexString(Hash)}\n{At.UtcTicks / TimeSpan.TicksPerMicrosecond}"
                    )
                )
            );

    /// <summary>What a ledger has against this head, in words; null when it meets it.</summary>
    /// <param name="there">The hash of its entry of that number; null: it has none.</param>
    /// <param name="signature">As kept with the head.</param>
    /// <param name="key">The key heads are signed with; null: signatures are not checked.</param>
    public string? Against(byte[]? there, byte[] signature, byte[]? key) =>
        there is null ? $"the ledger had {Number} entries on {At:yyyy-MM-dd HH:mm} and has fewer now"
        : !there.AsSpan().SequenceEqual(Hash) ? $"entry {Number} is another than on {At:yyyy-MM-dd HH:mm}"
        : key is not null && signature.Length > 0 && !CryptographicOperations.FixedTimeEquals(Sign(key), signature)
            ? $"the head of {At:yyyy-MM-dd HH:mm} is not sealed by this works"
        : null;
}
