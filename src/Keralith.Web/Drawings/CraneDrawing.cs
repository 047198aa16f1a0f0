using Keralith.Core.Lifts;
using Keralith.Core.Quantities;
using Keralith.Web.Lifts;
using Microsoft.AspNetCore.Html;

namespace Keralith.Web.Drawings;

/// <summary>
/// A crane's chart as it is read: the figures of the boom lengths looked at as steps, each radius asked as an upright,
/// and the load on it.
/// </summary>
public static class CraneDrawing
{
    private const double Width = 600;
    private const double High = 240;
    private const double Left = 74;
    private const double Right = 16;
    private const double Top = 22;
    private const double Foot = 34;

    /// <summary>Draws the chart of a lift, of two cranes both; empty where it hangs from none.</summary>
    public static IHtmlContent Draw(BenchedLift lift)
    {
        if (lift.Plan is not { Crane: { } first } plan)
            return HtmlString.Empty;
        if (plan.Stand is not StandCranes two)
            return Draw(lift, first, lift.Result?.Crane, plan.Load.Weight.Kilograms);
        var both = new HtmlContentBuilder();
        both.AppendHtml(Draw(lift, first, lift.Result?.Crane, lift.Result?.Crane?.Piece.Demand ?? 0));
        both.AppendHtml(Draw(lift, two.Second, lift.Result?.SecondCrane, lift.Result?.SecondCrane?.Piece.Demand ?? 0));
        return both;
    }

    /// <param name="asked">Its part of the load, in kilograms.</param>
    private static IHtmlContent Draw(BenchedLift lift, Crane crane, CraneOnLift? found, decimal asked)
    {
        var read = Read(crane).ToList();
        if (read.Count == 0)
            return HtmlString.Empty;
        var s = new Sheet(new DrawingOptions());
        var radii = read.SelectMany(r => r.Rows).Select(r => (double)r.Radius.Millimetres).ToList();
        radii.AddRange(crane.Radii.Select(r => (double)r.Millimetres));
        var (least, most) = (radii.Min() * 0.95, radii.Max() * 1.03);
        var tallest = read.SelectMany(r => r.Rows).Max(r => (double)r.Capacity.Kilograms) * 1.08;
        double X(double mm) => Left + ((mm - least) / Math.Max(1, most - least) * (Width - Left - Right));
        double Y(double kg) => High - Foot - (kg / Math.Max(1, tallest) * (High - Top - Foot));
        s.Path(Sheet.F($"M{Left:0.#} {Top:0.#}V{High - Foot:0.#}H{Width - Right:0.#}"), "thin");
        s.Text(Left - 6, Top + 4, lift.May((decimal)tallest), "gauge-label", "end");
        s.Text(Left - 6, High - Foot, "0", "gauge-label", "end");
        foreach (var (n, (boom, rows)) in read.Index())
            Steps(s, boom, rows, X, Y, n == 0 ? "lift-leg" : "faint");
        s.Line(Left, Y((double)asked), Width - Right, Y((double)asked), "lift-inward");
        var governing = found?.Governing;
        foreach (var radius in crane.Radii.Distinct())
        {
            var x = X((double)radius.Millimetres);
            s.Line(x, Top, x, High - Foot, radius == governing ? "lift-force is-weakest" : "thin");
            s.Text(x, High - Foot + 13, radius.ToString(), "gauge-label");
        }

        if (found is { Net: { } net } && net > 0)
        {
            s.Line(Left, Y((double)net), Width - Right, Y((double)net), "lift-force");
            s.Text(Width - Right, Y((double)net) - 4, $"left for a load {lift.May(net)}", "lift-figure", "end");
        }

        // Where both lines run close, the load's figure stands under its own.
        var under = found?.Net is { } left && Math.Abs(Y((double)left) - Y((double)asked)) < 18;
        s.Text(Width - Right, Y((double)asked) + (under ? 14 : -4), $"load {lift.Asked(asked)}", "lift-figure", "end");
        s.Text(Width - Right, High - 6, $"radius; {crane.Configuration}", "gauge-label", "end");
        return new HtmlString(
            s.Svg(
                0,
                0,
                Width,
                High,
                $"The crane's chart, {crane.Configuration}: asked at {string.Join(", ", crane.Radii)}",
                "drawing lift-drawing"
            )
        );
    }

    /// <summary>The figures of one boom length: between two the next larger radius counts, so steps, not slopes.</summary>
    private static void Steps(
        Sheet s,
        Length boom,
        List<ChartRow> rows,
        Func<double, double> x,
        Func<double, double> y,
        string style
    )
    {
        var (left, top) = (x((double)rows[0].Radius.Millimetres), y((double)rows[0].Capacity.Kilograms));
        var path = Sheet.F($"M{left:0.#} {top:0.#}");
        foreach (var row in rows.Skip(1))
            path += Sheet.F($"V{y((double)row.Capacity.Kilograms):0.#}H{x((double)row.Radius.Millimetres):0.#}");
        s.Path(path, style);
        s.Text(left + 4, top - 5, $"boom {boom}", "gauge-label", "start");
    }

    /// <summary>The boom lengths that are read: the asked one, or those beside it.</summary>
    private static IEnumerable<(Length Boom, List<ChartRow> Rows)> Read(Crane crane)
    {
        var sets = crane
            .Chart.Rows.Where(r => r.Configuration == crane.Configuration)
            .GroupBy(r => r.BoomLength)
            .Select(g => (Boom: g.Key, Rows: g.OrderBy(r => r.Radius).ToList()))
            .ToList();
        if (sets.Exists(s => s.Boom == crane.BoomLength))
            return sets.Where(s => s.Boom == crane.BoomLength);
        return sets.Where(s => s.Boom < crane.BoomLength)
            .OrderByDescending(s => s.Boom)
            .Take(1)
            .Concat(sets.Where(s => s.Boom > crane.BoomLength).OrderBy(s => s.Boom).Take(1));
    }
}
