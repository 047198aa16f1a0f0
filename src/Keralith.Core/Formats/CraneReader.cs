using Keralith.Core.Lifts;
using Keralith.Core.Quantities;

namespace Keralith.Core.Formats;

/// <summary>Reads the crane above a lift: its chart, how it stands, and what its chart does not count.</summary>
internal static class CraneReader
{
    /// <summary>The crane; null where it can't be read.</summary>
    public static Crane? Crane(JsonFields fields)
    {
        var before = fields.Faults.Count;
        fields.Require("the chart's rows", "chart");
        var rows = fields.Objects("chart").Where(r => r.IsObject).Select(Row).ToList();
        var configuration = fields.RequiredText("configuration");
        fields.Require("the boom's length", "boomLength");
        var boom = fields.PositiveLength("boomLength");
        fields.Require("the radii at pick-up, on the way and at landing", "radii");
        var radii = new List<Length>();
        foreach (var (element, place) in fields.Array("radii"))
        {
            var read = Length.Read(
                element.ValueKind == System.Text.Json.JsonValueKind.String ? element.GetString() : null
            );
            if (!read.Ok)
                fields.Refuse(place, read.Fault!);
            else if (read.Value.Millimetres <= 0)
                fields.Refuse(place, $"found {read.Value}, expected a radius over 0");
            else
                radii.Add(read.Value);
        }

        if (radii.Count == 0 && fields.Faults.Count == before)
            fields.Refuse("radii", "found none, expected at least one");
        var deductions = fields.Objects("deductions").Where(d => d.IsObject).Select(Deduction).ToList();
        var share = fields.Percent("criticalShare") / 100;
        fields.RefuseUnread("chart, configuration, boomLength, radii, deductions, criticalShare");
        if (fields.Faults.Count > before)
            return null;
        var chart = CraneChart.Of(rows.OfType<ChartRow>().ToList());
        if (!chart.Ok)
        {
            fields.Refuse("chart", chart.Fault!);
            return null;
        }

        return new(chart.Value, configuration!, boom!.Value, radii)
        {
            Deductions = deductions.OfType<Deduction>().ToList(),
            CriticalShare = share ?? Lifts.Crane.UsualCriticalShare,
        };
    }

    private static ChartRow? Row(JsonFields row)
    {
        var configuration = row.RequiredText("configuration");
        row.Require("a figure of the chart with its unit", "boomLength", "radius", "capacity");
        var (boom, radius) = (row.PositiveLength("boomLength"), row.PositiveLength("radius"));
        var capacity = row.MassFromZero("capacity");
        row.RefuseUnread("configuration, boomLength, radius, capacity");
        return configuration is not null && boom is { } b && radius is { } r && capacity is { } c
            ? new(configuration, b, r, c)
            : null;
    }

    private static Deduction? Deduction(JsonFields deduction)
    {
        var what = deduction.RequiredText("what");
        deduction.Require("the weight with its unit", "weight");
        var weight = deduction.MassFromZero("weight");
        deduction.RefuseUnread("what, weight");
        return what is not null && weight is { } w ? new(what, w) : null;
    }
}
