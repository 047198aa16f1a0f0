namespace Keralith.Core.Wear;

/// <summary>How fast one measure of one piece uses up what the rules allow, by its first and its last reading.</summary>
/// <param name="Mark">The piece's.</param>
/// <param name="Make">Its maker and model.</param>
/// <param name="Store">Where it hangs.</param>
/// <param name="First">The share used up at the first reading, 0 and over.</param>
/// <param name="FirstOn">Its day.</param>
/// <param name="Last">The share used up at the last.</param>
/// <param name="LastOn">Its day.</param>
public sealed record WearPace(
    string Mark,
    string Make,
    string Store,
    decimal First,
    DateOnly FirstOn,
    decimal Last,
    DateOnly LastOn
)
{
    /// <summary>The piece's family, by name.</summary>
    public string Family { get; init; } = string.Empty;

    /// <summary>What is measured: a criterion's id.</summary>
    public string Criterion { get; init; } = string.Empty;

    /// <summary>Under so many days between the readings a pace is the instrument's, not the wear's.</summary>
    public const int LeastDays = 90;

    /// <summary>Whether the readings lie far enough apart to say anything.</summary>
    public bool IsKnown => LastOn.DayNumber - FirstOn.DayNumber >= LeastDays;

    /// <summary>The share used up in a year, 0 and over: what grew back was read wrongly once.</summary>
    public double PerYear =>
        IsKnown ? Math.Max(0, (double)(Last - First) / (LastOn.DayNumber - FirstOn.DayNumber) * 365.25) : 0;

    /// <summary>Whether, going on so, the limit is reached by a day; what is at or over it has reached it.</summary>
    public bool ReachesBy(DateOnly day) =>
        Last >= 1 || (IsKnown && (double)Last + (PerYear * (day.DayNumber - LastOn.DayNumber) / 365.25) >= 1);

    /// <summary>The middle one of several paces, in shares a year.</summary>
    /// <param name="paces">At least one.</param>
    public static double Middle(IEnumerable<WearPace> paces)
    {
        var all = paces.Select(p => p.PerYear).Order().ToList();
        return all.Count % 2 == 1 ? all[all.Count / 2] : (all[(all.Count / 2) - 1] + all[all.Count / 2]) / 2;
    }
}
