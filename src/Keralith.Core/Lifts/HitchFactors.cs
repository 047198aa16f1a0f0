using Keralith.Core.Gear;
using Keralith.Core.Quantities;

namespace Keralith.Core.Lifts;

/// <summary>
/// What hitch and angle make of one leg's vertical rated load (ASME B30.9, effect of hitch and angle; the books' own
/// figures where they are smaller).
/// Angles are from the horizontal.
/// </summary>
public static class HitchFactors
{
    /// <summary>Flatter than this no leg may hang.</summary>
    public const decimal LeastAngle = 30;

    /// <summary>Two or more choked legs, or baskets, hang no flatter than this: a cautious site rule.</summary>
    public const decimal LeastAngleOfChokedLegs = 60;

    /// <summary>Twice wrapped and then choked, two or more legs hang no flatter than this.</summary>
    public const decimal LeastAngleOfDoubleWraps = 45;

    /// <summary>Flatter than this a leg wants watching.</summary>
    public const decimal CautionAngle = 45;

    private static readonly (decimal From, decimal Factor)[] SteelBends =
    [
        (25, 1.00m),
        (20, 0.92m),
        (15, 0.89m),
        (10, 0.86m),
        (8, 0.83m),
        (6, 0.79m),
        (5, 0.77m),
        (4, 0.75m),
        (3, 0.70m),
        (2, 0.65m),
        (1, 0.50m),
    ];

    private static readonly (decimal From, decimal Factor)[] ChainBends =
    [
        (6, 1.00m),
        (5, 0.90m),
        (4, 0.80m),
        (3, 0.70m),
        (2, 0.60m),
    ];

    /// <summary>How many legs count: four legs are rated as three, for four seldom share.</summary>
    public static int Share(int legs) => Math.Min(legs, 3);

    /// <summary>How many legs of a lift count: of three and four legs two where a rigid load rocks on two.</summary>
    public static int Share(int legs, FourLegs four) => legs >= 3 && four == FourLegs.TwoCarry ? 2 : Share(legs);

    /// <summary>Flatter than this several legs want watching under the chosen books (Japan: 60 degrees as a rule).</summary>
    public static decimal CautionBelow(int legs, IReadOnlyList<RuleBook> books) =>
        legs > 1 ? books.Max(b => b.WatchedBelow) ?? CautionAngle : CautionAngle;

    /// <summary>What a tight angle of choke leaves (ASME B30.9, angle of choke). It bends the sling whatever the book.</summary>
    /// <param name="family">The sling's family.</param>
    /// <param name="angle">0 to 180 degrees; null: not known, the lowest row.</param>
    /// <returns>The factor; null where the family has no table and the angle is not over 120 degrees.</returns>
    public static decimal? AngleOfChoke(GearFamily family, Angle? angle)
    {
        var degrees = angle?.Degrees ?? 0;
        if (degrees > 120)
            return 1;
        return family.Kind switch
        {
            GearKind.Web or GearKind.Roundsling => degrees switch
            {
                >= 105 => 0.82m,
                >= 90 => 0.71m,
                >= 60 => 0.58m,
                _ => 0.50m,
            },
            GearKind.Mesh => null,
            _ => degrees switch
            {
                >= 90 => 0.87m,
                >= 60 => 0.74m,
                >= 30 => 0.62m,
                _ => 0.49m,
            },
        };
    }

    /// <summary>What a bend leaves of a basket (ASME B30.9, D/d): the next lower row of the table.</summary>
    /// <param name="family">The sling's family.</param>
    /// <param name="ratio">What it is bent round over its own diameter, over 0.</param>
    /// <returns>The factor, 1 where bends take nothing; null where it is bent too sharply to be used.</returns>
    public static decimal? Bend(GearFamily family, decimal ratio)
    {
        var rows = family.Kind switch
        {
            GearKind.WireRope => SteelBends,
            GearKind.Chain => ChainBends,
            _ => null,
        };
        if (rows is null)
            return 1;
        foreach (var (from, factor) in rows)
        {
            if (ratio >= from)
                return factor;
        }

        return null;
    }

    /// <summary>
    /// Whether a basket's bend must be known: rope and chain lose over a sharp one, fiber rope wants one of eight
    /// diameters.
    /// </summary>
    public static bool AsksBend(GearFamily family) =>
        family.Kind is GearKind.WireRope or GearKind.Chain or GearKind.FiberRope;

    /// <summary>
    /// The choker's share of the vertical rated load, angle of choke over 120 degrees; the smallest of the chosen
    /// books. Null: the family is not choked.
    /// </summary>
    /// <param name="family">The sling's family.</param>
    /// <param name="books">The books worked to.</param>
    /// <param name="contact">What the choke lies on.</param>
    public static decimal? Choker(GearFamily family, IReadOnlyList<RuleBook> books, Contact contact = Contact.Round) =>
        UsualChoker(family) is { } usual ? books.Min(b => OwnChoker(b, family, contact) ?? usual) : null;

    /// <summary>
    /// The choker's share where a book has its own figure, whatever the family; null where it follows the usual one.
    /// </summary>
    public static decimal? OwnChoker(RuleBook book, GearFamily family, Contact contact) =>
        book.Choker(family, contact == Contact.Round);

    private static decimal? UsualChoker(GearFamily family) =>
        family.Kind switch
        {
            GearKind.Chain or GearKind.Web or GearKind.Roundsling => 0.80m,
            GearKind.WireRope => 0.73m,
            GearKind.FiberRope => 0.75m,
            GearKind.Mesh => 1.00m,
            _ => null,
        };

    /// <summary>
    /// What a book of bands allows several legs, as a share of one leg's vertical load: from 45 degrees 1.4 (two legs)
    /// or 2.1, from 30 degrees 1.0 or 1.5; null when no chosen book has bands.
    /// </summary>
    public static decimal? Band(int legs, decimal angle, IReadOnlyList<RuleBook> books) =>
        legs < 2 || !books.Any(b => b.HasBands) ? null
        : angle >= 45 ? (legs == 2 ? 1.4m : 2.1m)
        : legs == 2 ? 1.0m
        : 1.5m;

    /// <summary>
    /// What a book of bands allows one basket: upright 2.0, from 45 degrees 1.4, from 30 degrees 1.0; null when no
    /// chosen book has bands.
    /// </summary>
    public static decimal? BasketBand(decimal angle, IReadOnlyList<RuleBook> books) =>
        !books.Any(b => b.HasBands) ? null
        : angle >= 90 ? 2.0m
        : angle >= 45 ? 1.4m
        : 1.0m;

    /// <summary>The sine of an angle; exact where it is a plain number.</summary>
    public static decimal Sine(Angle angle) =>
        angle.Degrees switch
        {
            90 => 1m,
            30 => 0.5m,
            var degrees => (decimal)Math.Sin((double)degrees * Math.PI / 180),
        };

    /// <summary>The cosine of an angle; exact where it is a plain number.</summary>
    public static decimal Cosine(Angle angle) =>
        angle.Degrees switch
        {
            90 => 0m,
            60 => 0.5m,
            var degrees => (decimal)Math.Cos((double)degrees * Math.PI / 180),
        };
}
