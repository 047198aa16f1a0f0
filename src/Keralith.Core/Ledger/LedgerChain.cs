using System.Globalization;
using System.Security.Cryptography;
using System.Text;
using System.Text.Json;

namespace Keralith.Core.Ledger;

/// <summary>One entry of the ledger of signed records.</summary>
/// <param name="Number">From 1, without gaps.</param>
/// <param name="At">When, UTC, to the microsecond.</param>
/// <param name="Actor">Who: the sign-in name.</param>
/// <param name="Kind">What kind of record, such as <c>inspection.signed</c>.</param>
/// <param name="Subject">The mark of the piece, or empty.</param>
/// <param name="Data">The record as canonical JSON.</param>
/// <param name="Previous">Hash of the entry before; 32 zero bytes for the first.</param>
/// <param name="Hash">SHA-256 of <paramref name="Previous"/> followed by the entry's bytes.</param>
public sealed record LedgerEntry(
    long Number,
    DateTimeOffset At,
    string Actor,
    string Kind,
    string Subject,
    string Data,
    byte[] Previous,
    byte[] Hash
)
{
    /// <summary>By which form head and data were brought to one text.</summary>
    public CanonicalForm Form { get; init; } = CanonicalForm.Rfc8785;
}

/// <summary>The hash chain: each entry seals the one before, so none can be changed unseen.</summary>
public static class LedgerChain
{
    /// <summary>What the first entry follows: 32 zero bytes.</summary>
    public static byte[] Beginning => new byte[SHA256.HashSizeInBytes];

    /// <summary>Makes the entry that follows another.</summary>
    /// <param name="number">Its number.</param>
    /// <param name="at">When; kept to the microsecond.</param>
    /// <param name="actor">Who.</param>
    /// <param name="record">What it keeps.</param>
    /// <param name="subject">The mark of the piece, or what else it is about.</param>
    /// <param name="previous">Hash of the entry before.</param>
    /// <param name="rows">Digest of the rows it tells, as lower-case hex; null: it tells none.</param>
    public static LedgerEntry Seal(
        long number,
        DateTimeOffset at,
        string actor,
        LedgerRecord record,
        string subject,
        byte[] previous,
        string? rows = null
    )
    {
        var entry = new LedgerEntry(
            number,
            ToMicroseconds(at),
            actor,
            record.Kind,
            subject,
            CanonicalJson.Of(record.Json(rows)),
            previous,
            []
        );
        return entry with { Hash = HashOf(entry) };
    }

    /// <summary>Checks one entry against the one before.</summary>
    /// <returns>What is wrong in words, or null when it is whole.</returns>
    public static string? Check(LedgerEntry? before, LedgerEntry entry)
    {
        if (entry.Number != (before?.Number ?? 0) + 1)
            return $"entry {(before?.Number ?? 0) + 1} is missing: {entry.Number} follows {before?.Number ?? 0}";
        if (!entry.Previous.AsSpan().SequenceEqual(before?.Hash ?? Beginning))
            return $"entry {entry.Number} does not follow the one before it";
        return IsWhole(entry) ? null : $"entry {entry.Number} was changed after it was written";
    }

    private static byte[] HashOf(LedgerEntry entry)
    {
        var head = CanonicalJson.Of(
            entry.Form switch
            {
                // The form is part of what is hashed: an entry can't be passed off as one of another form.
                CanonicalForm.Rfc8785 => JsonSerializer.Serialize(
                    new
                    {
                        number = entry.Number,
                        at = Moment(entry),
                        actor = entry.Actor,
                        kind = entry.Kind,
                        subject = entry.Subject,
                        form = "rfc8785",
                    }
                ),
                CanonicalForm.First => JsonSerializer.Serialize(
                    new
                    {
                        number = entry.Number,
                        at = Moment(entry),
                        actor = entry.Actor,
                        kind = entry.Kind,
                        subject = entry.Subject,
                    }
                ),
            },
            entry.Form
        );
        using var hash = IncrementalHash.CreateHash(HashAlgorithmName.SHA256);
        hash.AppendData(entry.Previous);
        hash.AppendData(Encoding.UTF8.GetBytes(head));
        hash.AppendData("\n"u8);
        hash.AppendData(Encoding.UTF8.GetBytes(entry.Data));
        return hash.GetHashAndReset();
    }

    /// <summary>Whether an entry's hash is that of its words and of the entry before it.</summary>
    public static bool IsWhole(LedgerEntry entry) => entry.Hash.AsSpan().SequenceEqual(HashOf(entry));

    /// <summary>An entry's moment, as it is sealed.</summary>
    internal static string Moment(LedgerEntry entry) =>
        entry.At.UtcDateTime.ToString("yyyy-MM-dd'T'HH:mm:ss.ffffff'Z'", CultureInfo.InvariantCulture);

    private static DateTimeOffset ToMicroseconds(DateTimeOffset at) =>
        new(at.UtcTicks - (at.UtcTicks % TimeSpan.TicksPerMicrosecond), TimeSpan.Zero);
}
