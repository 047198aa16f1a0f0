namespace Keralith.Core.Custody;

/// <summary>What kind of thing happened to a piece.</summary>
public enum LookBackKind
{
    [Code("inspected")]
    Inspected,

    [Code("out")]
    Out,

    [Code("lifted")]
    Lifted,

    [Code("event")]
    Event,

    [Code("held")]
    Held,

    [Code("moved")]
    Moved,

    [Code("away")]
    Away,
}

/// <summary>Something that happened to a piece, since it was last known to be good.</summary>
/// <param name="From">When it began.</param>
/// <param name="Until">When it ended; null: a moment, or not ended.</param>
/// <param name="What">What happened, in words.</param>
/// <param name="Who">Who did it, or had it.</param>
/// <param name="Where">For which job, or where.</param>
/// <param name="With">The marks of what was rigged or out with it.</param>
public sealed record LookBackItem(
    LookBackKind Kind,
    DateTimeOffset From,
    DateTimeOffset? Until,
    string What,
    string Who,
    string Where,
    IReadOnlyList<string> With
)
{
    /// <summary>Whether it is still going on.</summary>
    public bool IsOpen { get; init; }
}

/// <summary>
/// What a piece that failed may have touched: everything since the last full inspection that found it fit, the jobs that may
/// have used it bad, and the gear to look at.
/// </summary>
/// <param name="Since">When it was last known to be good: its last fit full inspection; null: never here.</param>
/// <param name="Items">What happened since, newest first.</param>
public sealed record LookBack(DateTimeOffset? Since, IReadOnlyList<LookBackItem> Items)
{
    /// <summary>Looks back over everything on record of a piece.</summary>
    /// <param name="lastFit">When it was last fully inspected and accepted; null: never here.</param>
    /// <param name="all">Everything on record.</param>
    /// <param name="failed">When it failed, or was found: what came later is left out. That moment itself counts.</param>
    public static LookBack Of(DateTimeOffset? lastFit, IEnumerable<LookBackItem> all, DateTimeOffset failed) =>
        new(
            lastFit,
            [
                .. all.Where(i =>
                        i.From <= failed && (lastFit is null || i.From >= lastFit || i.IsOpen || i.Until >= lastFit)
                    )
                    .OrderByDescending(i => i.From),
            ]
        );

    /// <summary>The jobs that may have used it bad, each once, in the order it came to them.</summary>
    public IReadOnlyList<string> Jobs =>
        [
            .. Items
                .Where(i => i.Kind is LookBackKind.Out or LookBackKind.Lifted && i.Where.Length > 0)
                .Reverse()
                .Select(i => i.Where)
                .Distinct(StringComparer.OrdinalIgnoreCase),
        ];

    /// <summary>Who had it, each once.</summary>
    public IReadOnlyList<string> Holders =>
        [
            .. Items
                .Where(i => i.Kind == LookBackKind.Out)
                .Reverse()
                .Select(i => i.Who)
                .Distinct(StringComparer.OrdinalIgnoreCase),
        ];

    /// <summary>The gear to look at: what shared an event with it, or was on one lift or hand-out with it.</summary>
    public IReadOnlyList<(string Mark, bool Event)> Gear =>
        [
            .. Items
                .SelectMany(i => i.With.Select(m => (Mark: m, Event: i.Kind == LookBackKind.Event)))
                .GroupBy(g => g.Mark)
                .Select(g => (g.Key, g.Any(x => x.Event)))
                .OrderByDescending(g => g.Item2)
                .ThenBy(g => g.Key, StringComparer.Ordinal),
        ];
}
