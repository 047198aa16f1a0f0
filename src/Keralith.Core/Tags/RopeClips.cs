using Keralith.Core.Gear;
using Keralith.Core.Quantities;

namespace Keralith.Core.Tags;

/// <summary>Forged U-bolt clips: how many a rope takes, and how far apart (the usual table of the trade).</summary>
public static class RopeClips
{
    private static readonly IReadOnlyList<(Length Rope, int Least, Length Spacing)> Table =
    [
        Row("1/2 in", 3, "3 in"),
        Row("5/8 in", 3, "3-3/4 in"),
        Row("3/4 in", 4, "4-1/2 in"),
        Row("7/8 in", 4, "5-1/4 in"),
        Row("1 in", 5, "6 in"),
        Row("1-1/8 in", 6, "6-3/4 in"),
        Row("1-1/4 in", 7, "7-1/2 in"),
        Row("1-3/8 in", 7, "8-1/4 in"),
        Row("1-1/2 in", 8, "9 in"),
    ];

    /// <summary>The least count and the spacing for a rope: of the row that is not smaller; null beyond the table.</summary>
    public static (int Least, Length Spacing)? Of(Length rope)
    {
        if (rope < Table[0].Rope)
            return null;
        foreach (var (size, least, spacing) in Table)
        {
            if (rope <= size)
                return (least, spacing);
        }

        return null;
    }

    /// <summary>What a set of clips has against it, in words; null when nothing.</summary>
    public static string? Against(GearPiece gear) =>
        gear.Family.Kind == GearKind.Clip
        && gear.Whole("count") is { } count
        && gear.Length("ropeSize") is { } rope
        && Of(rope) is { } row
        && count < row.Least
            ? $"A set of {count} clips, where {rope} rope takes {row.Least} at the least, {row.Spacing} apart."
            : null;

    private static (Length, int, Length) Row(string rope, int least, string spacing) =>
        (Length.Parse(rope), least, Length.Parse(spacing));
}
