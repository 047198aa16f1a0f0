using System.Runtime.InteropServices;
using System.Text;
using System.Text.Json;

namespace Keralith.Core.Formats;

/// <summary>
/// Names of fields, codes and paths come again in every document. The last read of them are kept, so that reading the next
/// document makes no new texts of them. Whatever is kept, the text read is the text written. A word that stands in the code is that very text, which
/// compares at once.
/// </summary>
internal static class JsonWords
{
    private const int Bits = 12,
        Longest = 40;

    /// <summary>An odd number without a pattern: neighbouring words fall far apart.</summary>
    private const ulong Spread = 0x9E3779B97F4A7C15;

    private static readonly string?[] Kept = new string?[1 << Bits];

    /// <summary>The name of a field.</summary>
    public static string NameOf(JsonProperty property) =>
        Find(JsonMarshal.GetRawUtf8PropertyName(property)) ?? property.Name;

    /// <summary>The text of a JSON string.</summary>
    public static string TextOf(JsonElement text) =>
        Find(JsonMarshal.GetRawUtf8Value(text)[1..^1]) ?? text.GetString()!;

    /// <summary>The word of plain short bytes; null where they are long, escaped or beyond ASCII.</summary>
    private static string? Find(ReadOnlySpan<byte> utf8)
    {
        if (utf8.Length is 0 or > Longest)
            return null;
        var at = SlotOf(utf8);
        if (Kept[at] is { } first && Ascii.Equals(utf8, first))
            return first;
        if (Kept[at ^ 1] is { } second && Ascii.Equals(utf8, second))
            return second;
        if (!Ascii.IsValid(utf8) || utf8.Contains((byte)'\\'))
            return null;
        var word = Encoding.ASCII.GetString(utf8);
        word = string.IsInterned(word) ?? word;
        (Kept[at ^ 1], Kept[at]) = (Kept[at], word);
        return word;
    }

    private static int SlotOf(ReadOnlySpan<byte> utf8)
    {
        var mixed = (ulong)utf8.Length;
        while (utf8.Length >= sizeof(ulong))
        {
            mixed = (mixed * Spread) ^ MemoryMarshal.Read<ulong>(utf8);
            utf8 = utf8[sizeof(ulong)..];
        }

        foreach (var sign in utf8)
            mixed = (mixed * 31) + sign;
        mixed = (mixed ^ (mixed >> 29)) * Spread;
        return (int)(mixed >> (64 - Bits));
    }
}
