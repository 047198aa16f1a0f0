using Keralith.Core.Quantities;

namespace Keralith.Core.Lifts;

/// <summary>A crane's chart as a plan keeps it: a line for each figure, its four columns apart by tabs.</summary>
public static class ChartText
{
    /// <summary>Figures a chart may have on a plan.</summary>
    public const int MostRows = 800;

    /// <summary>The columns, as a chart file names them.</summary>
    public static IReadOnlyList<string> Columns { get; } = ["configuration", "boom_length", "radius", "capacity"];

    /// <summary>Writes a chart.</summary>
    public static string Write(CraneChart chart) =>
        string.Join('\n', chart.Rows.Select(r => $"{r.Configuration}\t{r.BoomLength}\t{r.Radius}\t{r.Capacity}"));

    /// <summary>Reads a chart as a plan keeps it.</summary>
    public static Checked<CraneChart> Read(string? text) => Of(Lines(text));

    /// <summary>A chart with one figure more; its configuration and boom are found again where they stand.</summary>
    /// <param name="text">As a plan keeps it.</param>
    /// <param name="figure">Four columns, in the order of <see cref="Columns"/>.</param>
    public static Checked<CraneChart> With(string? text, IReadOnlyList<string> figure) => Of([.. Lines(text), figure]);

    /// <summary>A chart without one of its figures; the last one stays, for a chart without figures is none.</summary>
    /// <param name="text">As a plan keeps it.</param>
    /// <param name="row">From 0.</param>
    public static Checked<CraneChart> Without(string? text, int row)
    {
        var lines = Lines(text);
        return row >= 0 && row < lines.Count
            ? Of([.. lines.Where((_, i) => i != row)])
            : new Refusal("that figure is not in the chart any more");
    }

    private static List<IReadOnlyList<string>> Lines(string? text) =>
        [
            .. (text ?? string.Empty)
                .Split(['\n', '\r'], StringSplitOptions.RemoveEmptyEntries)
                .Select(l => (IReadOnlyList<string>)l.Split('\t')),
        ];

    /// <summary>A chart of lines of four columns, in the order of <see cref="Columns"/>.</summary>
    /// <returns>The chart, or the first line that can't be read, counted from 1, and why.</returns>
    public static Checked<CraneChart> Of(IReadOnlyList<IReadOnlyList<string>> lines)
    {
        if (lines.Count == 0)
            return new Refusal("the crane's chart is wanted: without its figures nothing is lifted");
        if (lines.Count > MostRows)
            return new Refusal($"a chart of at most {MostRows} figures is read; take the configuration that is used");
        var rows = new List<ChartRow>();
        foreach (var (n, line) in lines.Index())
        {
            if (line.Count != Columns.Count)
                return new Refusal($"figure {n + 1}: expected {string.Join(", ", Columns)}");
            var (boom, radius, capacity) = (Length.Read(line[1]), Length.Read(line[2]), Mass.Read(line[3]));
            if (line[0].Trim().Length is 0 or > 120)
                return new Refusal($"figure {n + 1}: the configuration is not named");
            if (!boom.Ok || boom.Value.Millimetres <= 0)
                return new Refusal($"figure {n + 1}: boom length {boom.Fault ?? "over 0"}");
            if (!radius.Ok || radius.Value.Millimetres <= 0)
                return new Refusal($"figure {n + 1}: radius {radius.Fault ?? "over 0"}");
            if (!capacity.Ok || capacity.Value.Kilograms < 0)
                return new Refusal($"figure {n + 1}: capacity {capacity.Fault ?? "of 0 or over"}");
            rows.Add(new(line[0].Trim(), boom.Value, radius.Value, capacity.Value));
        }

        return CraneChart.Of(rows);
    }
}
