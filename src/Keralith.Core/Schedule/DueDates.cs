using Keralith.Core.Custody;
using Keralith.Core.Gear;
using Keralith.Core.Judgement;

namespace Keralith.Core.Schedule;

/// <summary>An inspection that counts for due dates: complete and accepted.</summary>
/// <param name="Kind">Its kind.</param>
/// <param name="InspectedOn">The day it was made.</param>
/// <param name="NextBy">An earlier day its inspector set for the next full one, as where wear is seen; null: the
/// interval alone.</param>
public sealed record AcceptedInspection(InspectionKind Kind, DateOnly InspectedOn, DateOnly? NextBy = null)
{
    /// <summary>Whether every part was looked at: it counts as a periodic one.</summary>
    public bool IsFull => Kind.IsFull();

    /// <summary>A signed inspection, as due dates count it.</summary>
    public static AcceptedInspection Of(SignedInspection inspection) =>
        new(inspection.Kind, inspection.InspectedOn, inspection.NextBy);
}

/// <summary>When a piece is due next.</summary>
/// <param name="Periodic">Last day the periodic inspection holds good; null: never passed one.</param>
/// <param name="Frequent">Last day the frequent inspection holds good; null: never passed one, or due each use.</param>
public sealed record DueDates(DateOnly? Periodic, DateOnly? Frequent)
{
    /// <summary>
    /// The last day it may be used without another inspection: the earlier of the two; null where none is kept.
    /// </summary>
    public DateOnly? UsableUntil => Frequent < Periodic ? Frequent : Periodic;

    /// <summary>
    /// Due = the day of the last complete, accepted inspection of that kind + the interval. An initial or after-event inspection
    /// asks all a periodic one asks and counts as one; a periodic counts as a frequent one. The inspector may have set the next
    /// full one earlier, never later. A hoist that stands idle too long is due for a full one however recent its last.
    /// </summary>
    public static DueDates From(
        GearFamily family,
        ServiceClass service,
        IReadOnlyList<RuleBook> books,
        IEnumerable<AcceptedInspection> accepted
    )
    {
        var all = accepted.OrderBy(i => i.InspectedOn).ToList();
        if (all.Count == 0)
            return new(null, null);
        var frequent = Intervals.Frequent(family, service).After(all[^1].InspectedOn);
        if (all.FindLast(i => i.IsFull) is not { } full)
            return new(null, frequent);
        var due = Intervals.Periodic(family, service, books).After(full.InspectedOn);
        foreach (var set in all.Where(i => i.InspectedOn == full.InspectedOn && i.IsFull).Select(i => i.NextBy))
        {
            if (set < due)
                due = set;
        }

        var until = Idle.LastDay(
            family,
            books,
            all.Where(i => i.InspectedOn >= full.InspectedOn).Select(i => i.InspectedOn)
        );
        return new(until < due ? until : due, frequent);
    }
}
