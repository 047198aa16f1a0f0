using Keralith.Core.Criteria;
using Keralith.Core.Gear;

namespace Keralith.Core.Schedule;

/// <summary>Hoists that stood idle are inspected before they are used again (ASME B30.16, B30.21, idle hoists; 29 CFR 1910.179).</summary>
public static class Idle
{
    /// <summary>What a hoist idle since a day wants before use, in words; null for other gear and within the first month.</summary>
    /// <param name="since">The last day anything was recorded on it.</param>
    public static string? Words(GearFamily family, DateOnly since, DateOnly today, IReadOnlyList<RuleBook> books)
    {
        if (family.Group != FamilyGroup.Hoist || today < since.AddMonths(1)) return null;
        var full = books.Any(b => b.Id is "osha" or "osha-construction") ? 6 : 12;
        return today >= since.AddMonths(full)
            ? $"nothing recorded since {since:yyyy-MM-dd}: a full periodic inspection is wanted before use"
            : $"nothing recorded since {since:yyyy-MM-dd}: a frequent inspection is wanted before use";
    }
}
