using Keralith.Core.Quantities;

namespace Keralith.Core.Lifts;

/// <summary>One figure of a crane's chart.</summary>
/// <param name="Configuration">How the crane stands: counterweight, outriggers, quadrant.</param>
/// <param name="BoomLength">Over 0.</param>
/// <param name="Radius">Over 0.</param>
/// <param name="Capacity">Gross, 0 and over.</param>
public sealed record ChartRow(string Configuration, Length BoomLength, Length Radius, Mass Capacity);

/// <summary>A crane's chart, read conservatively (ASME B30.5). Made by <see cref="Of"/>, which refuses what no chart is.</summary>
public sealed class CraneChart
{
    private CraneChart(IReadOnlyList<ChartRow> rows) => Rows = rows;

    /// <summary>As given.</summary>
    public IReadOnlyList<ChartRow> Rows { get; }

    /// <summary>A chart of rows, none for an empty one.</summary>
    /// <returns>The chart, or why it is none: a figure twice, or a capacity that grows with the radius.</returns>
    public static Checked<CraneChart> Of(IReadOnlyList<ChartRow> rows)
    {
        foreach (var set in rows.GroupBy(r => (r.Configuration, r.BoomLength)))
        {
            var said = $"{set.Key.Configuration}, boom {set.Key.BoomLength}";
            ChartRow? before = null;
            foreach (var row in set.OrderBy(r => r.Radius))
            {
                if (before?.Radius == row.Radius)
                    return new Refusal($"{said}: the radius {row.Radius} stands twice, expected one figure for each");
                if (before?.Capacity < row.Capacity)
                    return new Refusal(
                        $"{said}: {row.Capacity} at {row.Radius} is more than {before.Capacity} at {before.Radius}, expected "
                            + "a capacity that falls with the radius"
                    );
                before = row;
            }
        }

        return new CraneChart(rows);
    }

    /// <summary>
    /// The radius of a boom at an angle: <c>L cos a + offset</c>, to the next millimetre. It grows under load, as the boom
    /// bends.
    /// </summary>
    /// <param name="boom">Its length.</param>
    /// <param name="angle">From the horizontal, 0 to 90 degrees.</param>
    /// <param name="offset">From the centre of rotation to the boom's foot; negative where the foot lies behind it.</param>
    public static Length RadiusAt(Length boom, Angle angle, Length offset) =>
        Length.FromMillimetres(Math.Ceiling((boom.Millimetres * HitchFactors.Cosine(angle)) + offset.Millimetres));

    /// <summary>
    /// The gross capacity: at the next larger radius that stands in the chart, and of two boom lengths beside the asked
    /// one the smaller figure.
    /// </summary>
    /// <returns>The capacity, or why the chart gives none: it is never read beyond its figures.</returns>
    public Checked<Mass> Gross(string configuration, Length boom, Length radius)
    {
        var own = Rows.Where(r => r.Configuration == configuration).ToList();
        if (own.Count == 0)
            return new Refusal($"the chart has no figures for \"{configuration}\"");
        var sets = own.ToLookup(r => r.BoomLength);
        if (sets.Contains(boom))
            return In(sets[boom], radius);
        var (shorter, longer) = (
            sets.Where(s => s.Key < boom).MaxBy(s => s.Key),
            sets.Where(s => s.Key > boom).MinBy(s => s.Key)
        );
        if (shorter is null || longer is null)
            return new Refusal(
                $"the chart has no boom {(shorter is null ? "shorter" : "longer")} than {boom} to read beside it"
            );
        var (one, other) = (In(shorter, radius), In(longer, radius));
        return !one.Ok || (other.Ok && one.Value <= other.Value) ? one : other;
    }

    private static Checked<Mass> In(IEnumerable<ChartRow> set, Length radius)
    {
        var rows = set.OrderBy(r => r.Radius).ToList();
        if (radius < rows[0].Radius || radius > rows[^1].Radius)
            return new Refusal(
                $"a radius of {radius} lies outside the chart, {rows[0].Radius} to {rows[^1].Radius} with a boom of {rows[0].BoomLength}"
            );
        return rows.First(r => r.Radius >= radius).Capacity;
    }
}

/// <summary>What a chart's capacity is used up by before any load hangs: block, ball, stowed jib, rope.</summary>
public sealed record Deduction(string What, Mass Weight);

/// <summary>The crane a lift hangs from.</summary>
/// <param name="Chart">Its chart.</param>
/// <param name="Configuration">How it stands.</param>
/// <param name="BoomLength">Over 0.</param>
/// <param name="Radii">At pick-up, on the way and at landing: at least one.</param>
public sealed record Crane(CraneChart Chart, string Configuration, Length BoomLength, IReadOnlyList<Length> Radii)
{
    /// <summary>Over this share of the net capacity a lift is critical where the site sets none.</summary>
    public const decimal UsualCriticalShare = Gear.SitePolicies.UsualCriticalShare;

    public IReadOnlyList<Deduction> Deductions { get; init; } = [];

    /// <summary>Over this share a lift is critical, 0 to 1.</summary>
    public decimal CriticalShare { get; init; } = UsualCriticalShare;
}

/// <summary>What a crane comes to.</summary>
/// <param name="Piece">The load against what is left of the capacity.</param>
/// <param name="Gross">By the chart, in kilograms; null where it gives none.</param>
/// <param name="Net">Gross less deductions, rigging and beam; null where there is no gross.</param>
/// <param name="Governing">The first of the radii with the least gross; null where there is none.</param>
/// <param name="IsCritical">Whether a qualified person's signature is asked; where nothing can be read, it is.</param>
public sealed record CraneOnLift(PieceOnLift Piece, decimal? Gross, decimal? Net, Length? Governing, bool IsCritical);

/// <summary>Works out what a crane's chart leaves for a load.</summary>
internal static class CraneJudge
{
    public static CraneOnLift Of(Lift lift, Crane crane, List<Remark> remarks)
    {
        Indicator(remarks);
        return Of(lift, crane, "crane", lift.Load.Weight.Kilograms);
    }

    /// <summary>What a rated capacity indicator tells and what it doesn't.</summary>
    public static void Indicator(List<Remark> remarks) =>
        remarks.Add(
            new(
                LiftOutcome.Ok,
                "The rated capacity indicator tells whether the weight may be lifted in that configuration, not whether "
                    + "the lift is right. The radius grows under load as the boom bends."
            )
        );

    /// <param name="lift">What hangs below the hooks counts.</param>
    /// <param name="crane">The crane.</param>
    /// <param name="kind">What it is called among the pieces.</param>
    /// <param name="demand">Its part of the load, in kilograms; null where it has none.</param>
    public static CraneOnLift Of(Lift lift, Crane crane, string kind, decimal? demand)
    {
        var piece = new PieceJudgement(kind, demand);
        Mass? gross = null;
        Length? governing = null;
        foreach (var radius in crane.Radii)
        {
            var read = crane.Chart.Gross(crane.Configuration, crane.BoomLength, radius);
            if (!read.Ok)
            {
                piece.Forbid(read.Fault!);
                return new(piece.Done(), null, null, null, IsCritical: true);
            }

            if (gross is null || read.Value < gross)
                (gross, governing) = (read.Value, radius);
        }

        var net = gross!.Value.Kilograms - crane.Deductions.Sum(d => d.Weight.Kilograms) - lift.Below(lift.Above.Count);
        if (net <= 0)
        {
            piece.Forbid("deductions and rigging use up all the chart gives: no load is lifted so");
            return new(piece.Done(), gross.Value.Kilograms, net, governing, IsCritical: true);
        }

        piece.Rated(Mass.FromKilograms(net));
        var critical = Figures.Ratio(demand ?? net, net) > crane.CriticalShare + PieceJudgement.Tolerance;
        if (critical)
            piece.Note(
                LiftOutcome.Ask,
                $"over {QuantityFormat.Number(crane.CriticalShare * 100)} % of what the chart leaves: "
                    + "a critical lift, signed by a qualified person"
            );
        return new(piece.Done(), gross.Value.Kilograms, net, governing, critical);
    }
}
