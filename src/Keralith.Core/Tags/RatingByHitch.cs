using Keralith.Core.Gear;
using Keralith.Core.Quantities;

namespace Keralith.Core.Tags;

/// <summary>
/// What a marking may give a sling by hitch (ASME B30.9): choked never more than hanging straight, in a basket never
/// more than both its parts hanging straight. A marking that says more is misread.
/// </summary>
public static class RatingByHitch
{
    /// <summary>What a marking has against itself, in words; null where its ratings go together.</summary>
    /// <param name="gear">The sling.</param>
    /// <param name="words">What its marking gives by hitch.</param>
    /// <param name="marked">Its rated load.</param>
    public static string? Against(GearPiece gear, TagWords words, Mass marked)
    {
        if (gear.Family.Group != FamilyGroup.Sling)
            return null;
        var straight = Straight(gear, words, marked);

        // Worked out from a figure at an angle it is as good as the maker rounded that.
        var may = gear.Legs > 1 ? straight * ChainSizeGuide.Tolerance : straight;
        foreach (var rating in words.Ratings.Where(r => r.Legs is null))
        {
            var most = rating.Hitch == Hitch.Basket ? may * 2 : may;
            if (rating.Load > most)
                return $"Its marking gives {rating}, where straight it carries {QuantityFormat.Rounded(straight, marked.Unit)}: {(rating.Hitch == Hitch.Basket ? "a basket carries twice that at most" : "no hitch of one part carries more")}. Tag misread?";
        }

        return null;
    }

    /// <summary>All its legs hanging straight, as its rated load is marked: at an angle, or in a basket.</summary>
    private static Mass Straight(GearPiece gear, TagWords words, Mass marked)
    {
        if (words.Hitch == Hitch.Basket || (words.Hitch is null && gear.Family.Kind == GearKind.Mesh))
            return marked * 0.5m;
        return gear.Legs > 1 && words.Angle is { Degrees: > 0 } angle
            ? marked * (1 / (decimal)Math.Sin((double)angle.Degrees * Math.PI / 180))
            : marked;
    }
}
