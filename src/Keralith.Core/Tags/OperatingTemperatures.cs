using Keralith.Core.Gear;
using Keralith.Core.Quantities;

namespace Keralith.Core.Tags;

/// <summary>
/// Between which temperatures gear may work without asking anybody (ASME B30.9, B30.10, B30.26). Each limit is written on both
/// scales and a temperature is held against the column of its own.
/// </summary>
/// <param name="Lowest">The lowest that may be met.</param>
/// <param name="Highest">The highest that may be met.</param>
/// <param name="HighestItselfAsks">Whether the highest itself is already beyond: alloy chain is unreduced
/// <em>below</em> 400 F.</param>
public sealed record OperatingTemperatures(ScaledLimit Lowest, ScaledLimit Highest, bool HighestItselfAsks = false)
{
    private static readonly OperatingTemperatures Chain = new(new(-40, -40), new(400, 204), HighestItselfAsks: true);
    private static readonly OperatingTemperatures FiberCore = new(new(-40, -40), new(180, 82));
    private static readonly OperatingTemperatures SteelCore = new(new(-40, -40), new(400, 204));
    private static readonly OperatingTemperatures BareMesh = new(new(-20, -29), new(550, 288));
    private static readonly OperatingTemperatures CoatedMesh = new(new(0, -18), new(200, 93));
    private static readonly OperatingTemperatures NylonOrPolyester = new(new(-40, -40), new(194, 90));
    private static readonly OperatingTemperatures NylonOrPolyesterOsha = new(new(-40, -40), new(180, 82));
    private static readonly OperatingTemperatures PolyesterEurope = new(new(-40, -40), new(176, 80));
    private static readonly OperatingTemperatures FiberRope = new(new(-20, -29), new(180, 82));
    private static readonly OperatingTemperatures Polypropylene = new(new(-20, -29), new(150, 66));
    private static readonly OperatingTemperatures Hardware = new(new(-4, -20), new(400, 204));
    private static readonly OperatingTemperatures Hook = new(new(-40, -40), new(400, 204));
    private static readonly OperatingTemperatures CarbonEyeBolt = new(new(30, -1), new(275, 135));
    private static readonly OperatingTemperatures Block = new(new(0, -18), new(150, 66));

    /// <summary>
    /// The limits for a piece under the books worked to, the strictest governing; null where no table has a row: ask.
    /// </summary>
    public static OperatingTemperatures? Of(GearPiece gear, IReadOnlyList<RuleBook> books) =>
        gear.Family.Kind switch
        {
            GearKind.Chain => Chain,
            GearKind.WireRope => gear.Text("core") switch
            {
                "fiber" => FiberCore,
                "iwrc" => SteelCore,
                _ => null,
            },
            GearKind.Mesh => gear.Text("coating") switch
            {
                "none" => BareMesh,
                "elastomer" => CoatedMesh,
                _ => null,
            },
            GearKind.Web => Synthetic(gear.Text("fiber"), books),
            GearKind.Roundsling => Synthetic(gear.Text("coreFiber"), books),
            GearKind.FiberRope => gear.Text("fiber") switch
            {
                "nylon" or "polyester" => FiberRope,
                "polypropylene" => Polypropylene,
                _ => null,
            },
            GearKind.Shackle or GearKind.Link => Hardware,
            GearKind.Hook => Hook,
            GearKind.EyeBolt => gear.Text("material") switch
            {
                "carbon" => CarbonEyeBolt,
                "alloy" => Hardware,
                _ => null,
            },
            GearKind.EyeNut or GearKind.HoistRing or GearKind.Turnbuckle => Hardware,
            GearKind.Block => Block,
            _ => null,
        };

    /// <summary>Whether a temperature lies outside.</summary>
    public bool Exceeded(Temperature temperature)
    {
        var highest = Highest.On(temperature.Scale);
        return temperature.Degrees < Lowest.On(temperature.Scale)
            || temperature.Degrees > highest
            || (HighestItselfAsks && temperature.Degrees == highest);
    }

    /// <summary>Whether a temperature lies below the lowest; false where no table has a row.</summary>
    public static bool IsBelow(GearPiece gear, IReadOnlyList<RuleBook> books, Temperature temperature) =>
        Of(gear, books) is { } limits && temperature.Degrees < limits.Lowest.On(temperature.Scale);

    /// <summary>
    /// Whether wire rope is out for good by the heat it has met (OSHA books): above 200 F with a fiber core, or a core
    /// nobody has stated.
    /// </summary>
    public static bool IsOutForGood(GearPiece gear, Temperature hottest, IReadOnlyList<RuleBook> books) =>
        gear.Family.Kind == GearKind.WireRope
        && gear.Text("core") != "iwrc"
        && books.Any(b => b.RemovesHeatedFiberCore)
        && hottest.Degrees > new ScaledLimit(200, 93).On(hottest.Scale);

    public override string ToString() => $"{Lowest} to {(HighestItselfAsks ? "below " : string.Empty)}{Highest}";

    private static OperatingTemperatures? Synthetic(string? fiber, IReadOnlyList<RuleBook> books) =>
        fiber?.ToLowerInvariant() switch
        {
            "polyester" when books.Any(b => b.HasLowerPolyesterHeat) => PolyesterEurope,
            "nylon" or "polyester" => books.Any(b => b.HasLowerSyntheticHeat) ? NylonOrPolyesterOsha : NylonOrPolyester,
            "polypropylene" => Polypropylene,
            _ => null,
        };
}

/// <summary>A limit of temperature in both columns of its table.</summary>
public readonly record struct ScaledLimit(decimal Fahrenheit, decimal Celsius)
{
    /// <summary>The figure of a scale's column.</summary>
    public decimal On(TemperatureScale scale) => scale == TemperatureScale.Celsius ? Celsius : Fahrenheit;

    public override string ToString() => $"{Fahrenheit} F ({Celsius} C)";
}
