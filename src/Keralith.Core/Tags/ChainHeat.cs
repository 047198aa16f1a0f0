using Keralith.Core.Gear;
using Keralith.Core.Quantities;

namespace Keralith.Core.Tags;

/// <summary>
/// What heat takes from the rated load of alloy chain: while it is hot, and for good after (ASME B30.9, alloy chain).
/// </summary>
/// <param name="WhileHot">Share lost while hot, 0 to 1.</param>
/// <param name="Lasting">Share lost for good, 0 to 1.</param>
public sealed record ChainHeat(decimal WhileHot, decimal Lasting)
{
    private static readonly (ScaledLimit At, ChainHeat Grade80, ChainHeat Grade100)[] Rows =
    [
        (new(400, 204), new(0.10m, 0), new(0.15m, 0)),
        (new(500, 260), new(0.15m, 0), new(0.25m, 0.05m)),
        (new(600, 316), new(0.20m, 0.05m), new(0.30m, 0.15m)),
        (new(700, 371), new(0.30m, 0.10m), new(0.40m, 0.20m)),
        (new(800, 427), new(0.40m, 0.15m), new(0.50m, 0.25m)),
        (new(900, 482), new(0.50m, 0.20m), new(0.60m, 0.30m)),
        (new(1000, 538), new(0.60m, 0.25m), new(0.70m, 0.35m)),
    ];

    /// <summary>No heat, no loss.</summary>
    public static ChainHeat None { get; } = new(0, 0);

    /// <summary>The loss at a temperature: between rows the next hotter one.</summary>
    /// <param name="gear">The chain. Grade 80 has its own column; any other grade is taken as 100, the heavier loss.</param>
    /// <param name="temperature">What it meets or has met.</param>
    /// <returns>The loss; null beyond the last row: the chain is removed.</returns>
    public static ChainHeat? At(GearPiece gear, Temperature temperature)
    {
        if (temperature.Degrees < Rows[0].At.On(temperature.Scale))
            return None;
        foreach (var row in Rows)
        {
            if (temperature.Degrees <= row.At.On(temperature.Scale))
                return gear.ChainGrade?.Number == 80 ? row.Grade80 : row.Grade100;
        }

        return null;
    }

    /// <summary>
    /// The share heat takes under the chosen books: while hot, or for good from the hottest ever met, whichever is
    /// more; of several books the larger.
    /// </summary>
    /// <param name="gear">The chain.</param>
    /// <param name="now">At the load end; null: ordinary.</param>
    /// <param name="hottest">The hottest it has met; null: not recorded.</param>
    /// <param name="books">The books worked to. Europe has rows of its own for the heat of the day and none for what
    /// lasts.</param>
    /// <returns>The share, 0 to 1; null where chain carries nothing.</returns>
    public static decimal? Loss(GearPiece gear, Temperature? now, Temperature? hottest, IReadOnlyList<RuleBook> books)
    {
        var lasting = hottest is { } met ? At(gear, met) : None;
        if (lasting is null)
            return null;
        var loss = lasting.Lasting;
        if (now is not { } heat)
            return loss;
        foreach (var europe in books.Select(b => b.HasChainHeat).Distinct())
        {
            if ((europe ? Europe(heat) : At(gear, heat)?.WhileHot) is not { } share)
                return null;
            loss = Math.Max(loss, share);
        }

        return loss;
    }

    /// <summary>
    /// Whether heat this high is outside what the table was made for: a grade without a column is computed as 100 and
    /// asked about.
    /// </summary>
    public static bool AsksGrade(GearPiece gear, Temperature temperature) =>
        temperature.Degrees >= Rows[0].At.On(temperature.Scale) && gear.ChainGrade?.Number is not (80 or 100);

    /// <summary>The share chain loses while hot in Europe (EN 818); null over 400 C.</summary>
    private static decimal? Europe(Temperature temperature) =>
        temperature.Celsius switch
        {
            <= 200 => 0,
            <= 300 => 0.10m,
            <= 400 => 0.25m,
            _ => null,
        };
}
