using Keralith.Core.Gear;
using Keralith.Core.Quantities;

namespace Keralith.Core.Register;

/// <summary>How a piece without a label looks: what is sure, and null for the rest.</summary>
/// <param name="Family">Its family's code.</param>
/// <param name="Store">The store it was found in.</param>
/// <param name="Peg">The peg it hung on.</param>
/// <param name="Colour">Its capacity colour.</param>
/// <param name="Size">Its size as measured: within a tenth it may be the one, for gear wears and stretches.</param>
/// <param name="Reach">Its length as measured.</param>
/// <param name="Legs">Its legs.</param>
/// <param name="Serial">Any part of a serial that can be read.</param>
public sealed record Look(
    string? Family,
    int? Store,
    string? Peg,
    string? Colour,
    Length? Size,
    Length? Reach,
    int? Legs,
    string? Serial
)
{
    private const decimal Near = 0.1m;

    private static readonly string[] Sizes = ["size", "ropeSize", "width", "pinSize", "circumference", "span"];

    /// <summary>Nothing is known of it.</summary>
    public static Look Nothing { get; } = new(null, null, null, null, null, null, null, null);

    /// <summary>How like a piece on record it is, and in what.</summary>
    /// <returns>0 where something sure speaks against it; else the more that agrees, the higher.</returns>
    public (int Likeness, string Words) Compare(GearPiece gear, int store, string peg, string? serial)
    {
        var agrees = new List<string>();
        var likeness = 0;
        if (Family is not null && gear.Family.Code != Family)
            return (0, "another family");
        if (Legs is { } legs && gear.Legs != legs)
            return (0, "other legs");
        if (Serial is { } part)
        {
            if (serial?.Contains(part, StringComparison.OrdinalIgnoreCase) != true)
                return (0, "another serial");
            Agree(8, $"serial {serial}");
        }

        if (Family is not null)
            Agree(2, "family");
        if (Legs is not null)
            Agree(2, "legs");
        if (Size is { } size)
        {
            var nearest = Sizes
                .Select(gear.Length)
                .OfType<Length>()
                .Where(l => Off(l, size) <= Near)
                .Select(l => (Length?)l)
                .FirstOrDefault();
            if (nearest is null && Sizes.Select(gear.Length).OfType<Length>().Any())
                return (0, "another size");
            if (nearest is { } known)
                Agree(4, $"size {size} measured, {known} on record");
        }

        if (Reach is { } reach && gear.Length("reach") is { } length)
        {
            if (Off(length, reach) > Near)
                return (0, "another length");
            Agree(4, $"length {reach} measured, {length} on record");
        }

        if (Colour is { } colour && gear.Text("colour") is { } own)
        {
            if (!string.Equals(colour, own, StringComparison.OrdinalIgnoreCase))
                return (0, "another colour");
            Agree(3, $"colour {own}");
        }

        // Gear is hung where it does not belong: store and peg speak for a piece, never against it.
        if (Store == store)
            Agree(1, "store");
        if (Peg is { } hung && string.Equals(hung, peg, StringComparison.OrdinalIgnoreCase))
            Agree(3, $"peg {peg}");
        return (likeness, string.Join(", ", agrees));

        void Agree(int weight, string words)
        {
            likeness += weight;
            agrees.Add(words);
        }
    }

    private static decimal Off(Length known, Length measured) =>
        Math.Abs(known.Millimetres - measured.Millimetres) / known.Millimetres;
}
