using Keralith.Core.Gear;

namespace Keralith.Core.Schedule;

/// <summary>
/// Hoists that stood idle are inspected before they are used again (ASME B30.16, B30.21, idle hoists; 29 CFR 1910.179).
/// </summary>
public static class Idle
{
    /// <summary>Months of standing idle after which a hoist wants a full inspection; null for other gear.</summary>
    public static int? Months(GearFamily family, IReadOnlyList<RuleBook> books) =>
        family.Group != FamilyGroup.Hoist ? null : books.Select(b => b.IdleMonths ?? Usual).DefaultIfEmpty(Usual).Min();

    private const int Usual = 12;

    /// <summary>The last day a hoist may be used before it counts as idle too long; null for other gear.</summary>
    /// <param name="recorded">The days it was inspected, from its last full inspection on, in order. A look after it
    /// stood idle too long does not end that: only a full one does.</param>
    public static DateOnly? LastDay(GearFamily family, IReadOnlyList<RuleBook> books, IEnumerable<DateOnly> recorded)
    {
        if (Months(family, books) is not { } months)
            return null;
        DateOnly? until = null;
        foreach (var day in recorded)
        {
            if (until is not null && day > until)
                break;
            until = day.AddMonths(months).AddDays(-1);
        }

        return until;
    }

    /// <summary>
    /// What a hoist idle since a day wants before use, in words; null for other gear and within the first month.
    /// </summary>
    /// <param name="since">The last day it was inspected.</param>
    public static string? Words(GearFamily family, DateOnly since, DateOnly today, IReadOnlyList<RuleBook> books)
    {
        if (Months(family, books) is not { } full || today < since.AddMonths(1))
            return null;
        return today >= since.AddMonths(full)
            ? $"not inspected since {since:yyyy-MM-dd}: a full periodic inspection is wanted before use"
            : $"not inspected since {since:yyyy-MM-dd}: a frequent inspection is wanted before use";
    }
}
