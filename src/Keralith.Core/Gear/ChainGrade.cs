using System.Text.RegularExpressions;

namespace Keralith.Core.Gear;

/// <summary>What a grade mark makes of chain.</summary>
public enum ChainKind
{
    /// <summary>Alloy chain of a grade that is known.</summary>
    Alloy,

    /// <summary>Alloy chain by a mark that names no grade.</summary>
    AlloyOfUnknownGrade,

    /// <summary>No lifting chain: transport, proof coil, stainless and the like.</summary>
    NotForLifting,

    /// <summary>A mark that is on no list: it says nothing, least of all alloy.</summary>
    Unreadable,
}

/// <summary>
/// The grade a chain sling is marked with, from a closed list of marks: what is not on it is never taken for alloy
/// (ASME B30.9, chapter 9-1).
/// </summary>
/// <param name="Kind">What it makes of the chain.</param>
/// <param name="Number">80, 100 or 120; null where the mark names none of them.</param>
public readonly partial record struct ChainGrade(ChainKind Kind, int? Number)
{
    /// <summary>Alloy chain for overhead lifting starts at this grade.</summary>
    public const int Least = 80;

    private static readonly Dictionary<string, ChainGrade> Marks = new(StringComparer.OrdinalIgnoreCase)
    {
        ["8"] = Alloy(80),
        ["80"] = Alloy(80),
        ["800"] = Alloy(80),
        ["T"] = Alloy(80),
        ["10"] = Alloy(100),
        ["100"] = Alloy(100),
        ["1000"] = Alloy(100),
        ["V"] = Alloy(100),
        ["12"] = Alloy(120),
        ["120"] = Alloy(120),
        ["1200"] = Alloy(120),
        ["A"] = new(ChainKind.AlloyOfUnknownGrade, null),
        ["B"] = new(ChainKind.AlloyOfUnknownGrade, null),
        ["ALLOY"] = new(ChainKind.AlloyOfUnknownGrade, null),
    };

    private static readonly HashSet<string> OtherChain = new(StringComparer.OrdinalIgnoreCase)
    {
        "3",
        "4",
        "5",
        "6",
        "7",
        "28",
        "30",
        "40",
        "43",
        "50",
        "63",
        "70",
        "L",
        "M",
        "P",
        "S",
        "PC",
        "BBB",
        "HT",
    };

    /// <summary>What a mark says; one on no list is <see cref="ChainKind.Unreadable"/>.</summary>
    /// <param name="mark">Such as <c>80</c>, <c>G100</c>, <c>grade 8</c> or <c>Gr. T</c>: at most one blank, ASCII alone.</param>
    public static ChainGrade Of(string mark)
    {
        var bare =
            mark.All(char.IsAscii) && Written().Match(mark) is { Success: true } match ? match.Groups[1].Value : mark;
        return Marks.TryGetValue(bare, out var grade) ? grade
            : OtherChain.Contains(bare) ? new(ChainKind.NotForLifting, null)
            : new(ChainKind.Unreadable, null);
    }

    /// <summary>Why a mark can't be entered as the grade of a chain sling; null when it can.</summary>
    public static string? FaultOf(string mark) =>
        Of(mark).Kind == ChainKind.Unreadable
            ? $"\"{mark}\" is no grade mark of chain: one mark alone, such as 80, 100, 120, T, V or A, never with a size beside it"
            : null;

    private static ChainGrade Alloy(int number) => new(ChainKind.Alloy, number);

    [GeneratedRegex(@"\A(?:(?:grade|gr\.|g) ?)?([0-9a-z]+)\z", RegexOptions.IgnoreCase | RegexOptions.CultureInvariant)]
    private static partial Regex Written();
}
