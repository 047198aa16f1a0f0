using Keralith.Core.Gear;
using Keralith.Core.Quantities;

namespace Keralith.Core.Tags;

/// <summary>
/// What gear of a size usually carries: the order of magnitude of the tables in ASME B30.9 and B30.26 and of the
/// federal specifications they rest on. It asks about a marking that lies far above; it never replaces one.
/// </summary>
public static class UsualRating
{
    /// <summary>Above this many times the usual figure a rating is no rating: it is refused, not asked.</summary>
    public const decimal Never = 3;

    /// <summary>A rule for a kind of gear.</summary>
    /// <param name="Size">Its size, in inches; null where it is not stated.</param>
    /// <param name="PoundsOfOne">Usual pounds for a size; of slings, one leg straight.</param>
    /// <param name="Asks">Above so many times that somebody looks at the marking again.</param>
    private sealed record Rule(
        Func<GearPiece, decimal?> Size,
        Func<GearPiece, decimal, decimal> PoundsOfOne,
        decimal Asks
    );

    private static Rule? Of(GearKind kind) =>
        kind switch
        {
            // Improved plow steel and better, steel core, mechanical splice: about ten short tons an inch squared.
            GearKind.WireRope => new(Inches("size"), (_, d) => 20_000 * d * d, 1.5m),
            // 1600 lb an inch of width and ply, one leg vertical.
            GearKind.Web => new(Inches("width"), (g, w) => 1_600 * w * (g.Whole("plies") ?? 2), 2),
            // Carbon 8-1/2 t at 1 in; alloy half as much again.
            GearKind.Shackle => new(Inches("size"), (_, d) => 18_700 * d * d, 2),
            // Shoulder eye bolts of forged carbon steel in line: about 13 000 lb at 1 in.
            GearKind.EyeBolt or GearKind.EyeNut => new(Inches("size"), (_, d) => 13_000 * d * d, 2),
            // Forged turnbuckles: about 10 000 lb at 1 in.
            GearKind.Turnbuckle => new(Inches("size"), (_, d) => 10_000 * d * d, 2.5m),
            _ => null,
        };

    /// <summary>What one leg, straight, of gear of a size usually carries.</summary>
    /// <param name="Load">The usual figure.</param>
    /// <param name="AsksOver">Above so many times it somebody is asked.</param>
    public sealed record Usual(Mass Load, decimal AsksOver)
    {
        public bool Asks(Mass marked) => marked.Kilograms > Load.Kilograms * AsksOver;

        public bool Refuses(Mass marked) => marked.Kilograms > Load.Kilograms * Never;
    }

    /// <summary>What one leg of chain or of wire rope usually carries; null of other gear, and where size or grade tell nothing.</summary>
    public static Usual? OneLeg(GearPiece gear) =>
        gear.Family.Kind switch
        {
            GearKind.Chain when gear.Size is { } size && ChainSizeGuide.Of(size, gear.ChainGrade) is { } one => new(
                one,
                ChainSizeGuide.Tolerance
            ),
            GearKind.WireRope when gear.Size is { } rope && Of(GearKind.WireRope) is { } rule => new(
                Mass.FromPounds(rule.PoundsOfOne(gear, rope.Inches)),
                rule.Asks
            ),
            _ => null,
        };

    /// <summary>What a marking lies above, in words; null where it does not, or nothing is known to compare it with.</summary>
    /// <param name="gear">The gear.</param>
    /// <param name="marked">As marked.</param>
    /// <returns>The words, and whether no gear of the size carries that: it is refused then.</returns>
    public static (string Words, bool Refused)? Above(GearPiece gear, Mass marked)
    {
        if (gear.Family.Kind == GearKind.Chain)
            return Chain(gear, marked);
        if (Of(gear.Family.Kind) is not { } rule || rule.Size(gear) is not { } size)
            return null;
        var legs = gear.Family.Group == FamilyGroup.Sling ? Legs(gear) : 1;
        var usual = Mass.FromPounds(rule.PoundsOfOne(gear, size) * legs);
        return marked.Kilograms > usual.Kilograms * rule.Asks
            ? (Words(marked, usual, gear), marked.Kilograms > usual.Kilograms * Never)
            : null;
    }

    /// <summary>Chain has a guide of its own for one leg; several never carry more than as many legs hanging plumb.</summary>
    private static (string, bool)? Chain(GearPiece gear, Mass marked)
    {
        if (gear.Size is not { } size || ChainSizeGuide.Of(size, gear.ChainGrade) is not { } one)
            return null;
        var usual = Mass.FromKilograms(one.Kilograms * Legs(gear));
        return gear.Legs > 1 && ChainSizeGuide.IsOver(marked, usual)
                ? (Words(marked, usual, gear), marked.Kilograms > usual.Kilograms * Never)
            : marked.Kilograms > usual.Kilograms * Never ? (Words(marked, usual, gear), true)
            : null;
    }

    private static string Words(Mass marked, Mass usual, GearPiece gear) =>
        $"marked {marked}, where {gear.Family.Name.ToLowerInvariant()} of this size usually carries about {QuantityFormat.Rounded(usual, marked.Unit)}: tag, size or unit misread?";

    private static Func<GearPiece, decimal?> Inches(string attribute) => gear => gear.Length(attribute)?.Inches;

    private static decimal Legs(GearPiece gear) => Math.Min(gear.Legs, 3);
}
