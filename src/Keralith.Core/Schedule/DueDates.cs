using Keralith.Core.Criteria;
using Keralith.Core.Gear;
using Keralith.Core.Judgement;

namespace Keralith.Core.Schedule;

/// <summary>An inspection that counts for due dates: complete and accepted.</summary>
/// <param name="Kind">Its kind.</param>
/// <param name="InspectedOn">The day it was made.</param>
public sealed record AcceptedInspection(InspectionKind Kind, DateOnly InspectedOn);

/// <summary>When a piece is due next.</summary>
/// <param name="Periodic">Last day the periodic inspection holds good; null: never passed one.</param>
/// <param name="Frequent">Last day the frequent inspection holds good; null: never passed one, or due each use.</param>
public sealed record DueDates(DateOnly? Periodic, DateOnly? Frequent)
{
    /// <summary>The last day it may be used without another inspection: the earlier of the two; null where none is kept.</summary>
    public DateOnly? UsableUntil => Frequent < Periodic ? Frequent : Periodic;

    /// <summary>
    /// Due = the day of the last complete, accepted inspection of that kind + the interval. An initial or after-event inspection
    /// asks all a periodic one asks and counts as one; a periodic counts as a frequent one.
    /// </summary>
    public static DueDates From(GearFamily family, ServiceClass service, IReadOnlyList<RuleBook> books, IEnumerable<AcceptedInspection> accepted)
    {
        DateOnly? full = null;
        DateOnly? any = null;
        foreach (var inspection in accepted)
        {
            if (any is null || inspection.InspectedOn > any) any = inspection.InspectedOn;
            if (inspection.Kind is InspectionKind.Frequent or InspectionKind.Return) continue;
            if (full is null || inspection.InspectedOn > full) full = inspection.InspectedOn;
        }

        return new(
            full is { } f ? Intervals.Periodic(family, service, books).After(f) : null,
            any is { } a ? Intervals.Frequent(family, service).After(a) : null);
    }
}
