using Keralith.Core.Criteria;
using Keralith.Core.Gear;
using Keralith.Core.Quantities;

namespace Keralith.Core.RatedLoad;

/// <summary>
/// What hitch and angle make of one leg's vertical rated load (ASME B30.9, effect of hitch and angle; the books' own figures where they are smaller).
/// Angles are from the horizontal.
/// </summary>
public static class HitchFactors
{
    /// <summary>Flatter than this no leg may hang.</summary>
    public const decimal LeastAngle = 30;

    /// <summary>Two or more choked legs, or baskets, hang no flatter than this: a cautious site rule.</summary>
    public const decimal LeastAngleOfChokedLegs = 60;

    /// <summary>How many legs count: four legs are rated as three, for four seldom share.</summary>
    public static int Share(int legs) => Math.Min(legs, 3);

    /// <summary>The choker's share of the vertical rated load, angle of choke over 120 degrees; the smallest of the chosen books. Null: the family is not choked.</summary>
    public static decimal? Choker(GearFamily family, IReadOnlyList<RuleBook> books)
    {
        decimal? usual = family.Code switch
        {
            "alloy-chain-sling" or "web-sling" or "roundsling" => 0.80m,
            "wire-rope-sling" => 0.73m,
            "fiber-rope-sling" => 0.75m,
            "metal-mesh-sling" => 1.00m,
            _ => null,
        };
        if (usual is not { } least) return null;
        foreach (var book in books)
        {
            var own = book.Id switch { "australia" => 0.75m, "europe" => 0.80m, _ => least };
            if (own < least) least = own;
        }

        return least;
    }

    /// <summary>What a book of bands allows several legs, as a share of one leg's vertical load: from 45 degrees 1.4 (two legs) or 2.1, from 30 degrees 1.0 or 1.5; null when no chosen book has bands.</summary>
    public static decimal? Band(int legs, decimal angle, IReadOnlyList<RuleBook> books) =>
        legs < 2 || books.All(b => b.Id != "europe") ? null : angle >= 45 ? (legs == 2 ? 1.4m : 2.1m) : legs == 2 ? 1.0m : 1.5m;

    /// <summary>What a book of bands allows one basket: upright 2.0, from 45 degrees 1.4, from 30 degrees 1.0; null when no chosen book has bands.</summary>
    public static decimal? BasketBand(decimal angle, IReadOnlyList<RuleBook> books) =>
        books.All(b => b.Id != "europe") ? null : angle >= 90 ? 2.0m : angle >= 45 ? 1.4m : 1.0m;

    /// <summary>The sine of an angle; exact where it is a plain number.</summary>
    public static decimal Sine(Angle angle) => angle.Degrees switch
    {
        90 => 1m,
        30 => 0.5m,
        var degrees => (decimal)Math.Sin((double)degrees * Math.PI / 180),
    };
}
