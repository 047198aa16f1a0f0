using Keralith.Core.Gear;
using Keralith.Core.Quantities;

namespace Keralith.Core.Tags;

/// <summary>
/// The trade's usual rated load of one vertical leg of alloy chain by size and grade, in pounds. It compares a tag with
/// what is usual;
/// it never replaces it.
/// </summary>
public static class ChainSizeGuide
{
    /// <summary>A tag may lie this much above the guide: makers round.</summary>
    public const decimal Tolerance = 1.01m;

    private static readonly (string Size, decimal Grade80, decimal Grade100)[] Rows =
    [
        ("7/32 in", 2100, 2700),
        ("9/32 in", 3500, 4300),
        ("5/16 in", 4500, 5700),
        ("3/8 in", 7100, 8800),
        ("1/2 in", 12000, 15000),
        ("5/8 in", 18100, 22600),
        ("3/4 in", 28300, 35300),
        ("7/8 in", 34200, 42700),
        ("1 in", 47700, 59700),
        ("1-1/4 in", 72300, 90400),
    ];

    /// <summary>The usual rated load; null where the guide has no row for the size or no column for the grade.</summary>
    public static Mass? Of(Length size, ChainGrade? grade)
    {
        foreach (var row in Rows)
        {
            var inches = Length.Parse(row.Size);
            if (inches != size && ChainThickness.Nominal(inches) != size)
                continue;
            return grade?.Number switch
            {
                80 => Mass.FromPounds(row.Grade80),
                100 => Mass.FromPounds(row.Grade100),
                _ => null,
            };
        }

        return null;
    }

    /// <summary>Whether a single-leg rated load is more than the guide and its tolerance allow.</summary>
    public static bool IsOver(Mass marked, Mass usual) => marked.Kilograms > usual.Kilograms * Tolerance;
}
