using Keralith.Core.Quantities;

namespace Keralith.Core.Gear;

/// <summary>The least thickness of chain at any point of a link, by nominal size (ASME B30.9 and OSHA 1910.184 tables).</summary>
public static class ChainThickness
{
    private static readonly (string Inch, decimal? Metric, decimal LeastInch, decimal LeastMetric)[] AsmeRows =
    [
        ("7/32 in", 5.5m, 0.189m, 4.80m),
        ("9/32 in", 7m, 0.239m, 6.07m),
        ("5/16 in", 8m, 0.273m, 6.93m),
        ("3/8 in", 10m, 0.342m, 8.69m),
        ("1/2 in", 13m, 0.443m, 11.26m),
        ("5/8 in", 16m, 0.546m, 13.87m),
        ("3/4 in", 20m, 0.687m, 17.45m),
        ("7/8 in", 22m, 0.750m, 19.05m),
        ("1 in", 26m, 0.887m, 22.53m),
        ("1-1/4 in", 32m, 1.091m, 27.71m),
    ];

    private static readonly (string Inch, decimal? Metric, string Least)[] OshaRows =
    [
        ("1/4 in", null, "13/64 in"),
        ("3/8 in", 10m, "19/64 in"),
        ("1/2 in", 13m, "25/64 in"),
        ("5/8 in", 16m, "31/64 in"),
        ("3/4 in", 20m, "19/32 in"),
        ("7/8 in", 22m, "45/64 in"),
        ("1 in", 26m, "13/16 in"),
        ("1-1/8 in", null, "29/32 in"),
        ("1-1/4 in", 32m, "1 in"),
        ("1-3/8 in", null, "1-3/32 in"),
        ("1-1/2 in", null, "1-3/16 in"),
        ("1-3/4 in", null, "1-13/32 in"),
    ];

    /// <summary>Millimetre and inch names of the same chain sizes.</summary>
    private static readonly Dictionary<decimal, decimal> MetricNameOfInchSize = AsmeRows.ToDictionary(
        r => Length.Parse(r.Inch).Millimetres,
        r => r.Metric!.Value
    );

    /// <summary>The ASME table.</summary>
    public static LeastThicknessTable Asme { get; } =
        new(
            "ASME",
            AsmeRows
                .SelectMany(r =>
                    new[]
                    {
                        new ThicknessRow(Length.Parse(r.Inch), Length.FromInches(r.LeastInch)),
                        new ThicknessRow(
                            Length.FromMillimetres(r.Metric!.Value),
                            Length.FromMillimetres(r.LeastMetric)
                        ),
                    }
                )
                .ToList()
        );

    /// <summary>The OSHA table; millimetre-named chain uses the same rows.</summary>
    public static LeastThicknessTable Osha { get; } =
        new(
            "OSHA",
            OshaRows
                .SelectMany(r =>
                    r.Metric is { } metric
                        ? new[]
                        {
                            new ThicknessRow(Length.Parse(r.Inch), Length.Parse(r.Least)),
                            new ThicknessRow(Length.FromMillimetres(metric), Length.Parse(r.Least)),
                        }
                        : [new ThicknessRow(Length.Parse(r.Inch), Length.Parse(r.Least))]
                )
                .ToList()
        );

    /// <summary>
    /// The nominal thickness a share is taken of: the millimetre name of the size where it has one, else the size
    /// itself.
    /// </summary>
    public static Length Nominal(Length size) =>
        size.IsInchNamed && MetricNameOfInchSize.TryGetValue(size.Millimetres, out var metric)
            ? Length.FromMillimetres(metric)
            : size;
}

/// <summary>One row of a table of least thicknesses. An inch-named and a millimetre-named size are different rows.</summary>
/// <param name="Size">Nominal size.</param>
/// <param name="Least">The least thickness that passes.</param>
public sealed record ThicknessRow(Length Size, Length Least);

/// <summary>A least thickness looked up by the nominal size of the chain; thinner removes.</summary>
/// <param name="Name">Whose table.</param>
/// <param name="Rows">The rows.</param>
public sealed record LeastThicknessTable(string Name, IReadOnlyList<ThicknessRow> Rows) : LimitRule
{
    public override string Words => $"thinner than the {Name} table's figure for the size removes";

    public override Resolved Resolve(LimitContext context)
    {
        if (context.Gear.Size is not { } size)
            return new Missing("the chain's nominal size");
        foreach (var row in Rows)
        {
            if (row.Size == size && row.Size.IsInchNamed == size.IsInchNamed)
            {
                return new Figure(row.Least.Millimetres, ChainThickness.Nominal(size).Millimetres, Comparator.Below);
            }
        }

        return new NoRow($"the {Name} table has no row for {size} chain");
    }
}

/// <summary>A share of the nominal chain thickness that may be lost; more removes. Needs no table row.</summary>
/// <param name="Share">The share, such as 0.1.</param>
public sealed record NominalThicknessLoss(decimal Share) : LimitRule
{
    public override string Words => $"loss of {Percent(Share)} of the nominal size is the most allowed";

    public override Resolved Resolve(LimitContext context)
    {
        if (context.Gear.Size is not { } size)
            return new Missing("the chain's nominal size");
        var nominal = ChainThickness.Nominal(size).Millimetres;
        return new Figure(nominal * (1 - Share), nominal, Comparator.Below);
    }
}
