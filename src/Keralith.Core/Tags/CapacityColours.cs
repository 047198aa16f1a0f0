using Keralith.Core.Quantities;

namespace Keralith.Core.Tags;

/// <summary>
/// Capacity colours of web slings and roundslings: a hint, never the authority. The tag governs; many slings follow no
/// code at all.
/// </summary>
public static class CapacityColours
{
    /// <summary>A tag in pounds rounds; within this share of the colour's figure it agrees.</summary>
    public const decimal Tolerance = 0.01m;

    private const decimal OrangeFrom = 10;

    private static readonly Dictionary<string, decimal> Tonnes = new()
    {
        ["violet"] = 1,
        ["green"] = 2,
        ["yellow"] = 3,
        ["grey"] = 4,
        ["red"] = 5,
        ["brown"] = 6,
        ["blue"] = 8,
        ["orange"] = OrangeFrom,
    };

    /// <summary>
    /// The rated load a colour stands for, in tonnes; null for a colour that stands for none. Orange: that or over.
    /// </summary>
    public static decimal? TonnesOf(string colour) => Tonnes.TryGetValue(Plain(colour), out var tonnes) ? tonnes : null;

    /// <summary>Whether a colour agrees with a marked rated load; null where the colour stands for none.</summary>
    public static bool? Agrees(string colour, Mass marked)
    {
        if (TonnesOf(colour) is not { } tonnes)
            return null;
        var kilograms = tonnes * 1000;
        if (tonnes == OrangeFrom && marked.Kilograms > kilograms)
            return true;
        return Math.Abs(marked.Kilograms - kilograms) <= kilograms * Tolerance;
    }

    private static string Plain(string colour) =>
        colour.Trim().ToLowerInvariant() switch
        {
            "purple" => "violet",
            "gray" => "grey",
            var other => other,
        };
}
