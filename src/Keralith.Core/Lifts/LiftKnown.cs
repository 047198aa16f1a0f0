using System.Globalization;
using Keralith.Core.Quantities;

namespace Keralith.Core.Lifts;

/// <summary>Something done with a lift, as it is on record.</summary>
/// <param name="Id">Its own id.</param>
/// <param name="Kind">The step's code.</param>
/// <param name="Version">The version of the plan it was done on.</param>
/// <param name="Data">What was said, by name.</param>
/// <param name="At">When.</param>
/// <param name="By">Who.</param>
public sealed record LiftRecord(
    Guid Id,
    string Kind,
    int Version,
    IReadOnlyDictionary<string, string> Data,
    DateTimeOffset At,
    string By
);

/// <summary>A weighing of a load on record.</summary>
/// <param name="Id">The record it stands in.</param>
/// <param name="Weight">All together, over 0.</param>
/// <param name="With">The instrument.</param>
/// <param name="By">Who weighed.</param>
/// <param name="At">When.</param>
public sealed record RecordedWeighing(Guid Id, Mass Weight, string With, string By, DateTimeOffset At)
{
    /// <summary>What each support read and where it stood; null where it hung on one cell.</summary>
    public LoadWeighings? Supports { get; init; }

    /// <summary>Its name where it is set aside.</summary>
    public string Code => $"weighing {Id}";

    /// <summary>In words, such as <c>weighed 9002 kg (load cell, Maud, 2026-04-08)</c>.</summary>
    public override string ToString() =>
        string.Create(CultureInfo.InvariantCulture, $"weighed {Weight} ({With}, {By}, {At:yyyy-MM-dd})");
}

/// <summary>
/// What is on record of a lift beside what is typed of its plan, and what its site asks of every plan. A plan never says
/// less than this.
/// </summary>
public sealed record LiftKnown
{
    /// <summary>The name of the load's own centre of gravity, from parts, weighings or the trial lift, where it is set aside.</summary>
    public const string Centre = "centre of gravity";

    /// <summary>Nothing is on record.</summary>
    public static LiftKnown Nothing { get; } = new();

    /// <summary>The weighings of its load, the first made first.</summary>
    public IReadOnlyList<RecordedWeighing> Weighings { get; init; } = [];

    /// <summary>Where the last trial lift put the centre of gravity; null where it hung level, or there was none.</summary>
    public Point3? TrialCentre { get; init; }

    /// <summary>What a qualified person set aside on this version of the plan, by name.</summary>
    public IReadOnlySet<string> SetAside { get; init; } = new HashSet<string>();

    /// <summary>Over this share of a crane a lift is critical: the site's policy, over 0 and at most 0.75.</summary>
    public decimal CriticalShare { get; init; } = Crane.UsualCriticalShare;

    /// <summary>The weighings that count on this version.</summary>
    public IEnumerable<RecordedWeighing> Counting => Weighings.Where(w => !SetAside.Contains(w.Code));

    /// <summary>What the records of a lift tell.</summary>
    /// <param name="records">What was done with it, in any order.</param>
    /// <param name="version">The version of its plan.</param>
    /// <param name="criticalShare">The site's policy.</param>
    public static LiftKnown Of(IEnumerable<LiftRecord> records, int version, decimal criticalShare)
    {
        var done = records.OrderBy(r => r.At).ThenBy(r => r.Id).ToList();
        return new()
        {
            Weighings =
            [
                .. done.Where(r => r.Kind == WeighLift.Kind).Select(WeighLift.Read).OfType<RecordedWeighing>(),
            ],
            TrialCentre = done.LastOrDefault(r => r.Kind == TryLift.Kind) is { } trial ? TryLift.CentreOf(trial) : null,
            SetAside = done.Where(r => r.Kind == SetSourceAside.Kind && r.Version == version)
                .Select(r => r.Data.GetValueOrDefault(SetSourceAside.Named, string.Empty))
                .ToHashSet(),
            CriticalShare = criticalShare,
        };
    }
}
