using Keralith.Core.Gear;

namespace Keralith.Core.Schedule;

/// <summary>How hard a piece is used.</summary>
public enum ServiceClass
{
    [Code("normal")]
    Normal,

    [Code("heavy")]
    Heavy,

    [Code("severe")]
    Severe,
}

/// <summary>How long an inspection holds good.</summary>
public abstract record Interval
{
    private protected Interval() { }

    /// <summary>The day it runs out, counted from a day; null where the calendar has no say.</summary>
    public abstract DateOnly? After(DateOnly day);
}

/// <summary>Calendar months: 31 January and one month is the end of February.</summary>
public sealed record Months(int Count) : Interval
{
    public override DateOnly? After(DateOnly day) => day.AddMonths(Count);
}

/// <summary>Days.</summary>
public sealed record Days(int Count) : Interval
{
    public override DateOnly? After(DateOnly day) => day.AddDays(Count);
}

/// <summary>Each shift of use or each use: looked over by whoever takes it, no date to keep.</summary>
public sealed record EachUse : Interval
{
    public override DateOnly? After(DateOnly day) => null;
}

/// <summary>The longest intervals the books allow (ASME B30 volumes; a book's shorter one governs).</summary>
public static class Intervals
{
    /// <summary>How long a periodic inspection holds good.</summary>
    public static Interval Periodic(GearFamily family, ServiceClass service, IReadOnlyList<RuleBook> books)
    {
        var months = ByCalendar(family)
            ? service switch
            {
                ServiceClass.Normal => 12,
                ServiceClass.Heavy => 6,
                ServiceClass.Severe => 3,
                _ => throw NoSuch(service),
            }
            : service switch
            {
                ServiceClass.Normal or ServiceClass.Heavy => 12,
                ServiceClass.Severe => 3,
                _ => throw NoSuch(service),
            };
        foreach (var book in books)
        {
            if (book.PeriodicMonths(family) is { } shorter && shorter < months)
                months = shorter;
        }

        return new Months(months);
    }

    /// <summary>How long a frequent inspection holds good.</summary>
    public static Interval Frequent(GearFamily family, ServiceClass service) =>
        !ByCalendar(family)
            ? new EachUse()
            : service switch
            {
                ServiceClass.Normal => new Months(1),
                ServiceClass.Heavy => new Days(14),
                ServiceClass.Severe => new Days(7),
                _ => throw NoSuch(service),
            };

    /// <summary>
    /// Hooks, hoists and gear below the hook are checked by the calendar; slings and hardware each shift of use.
    /// </summary>
    private static bool ByCalendar(GearFamily family) => family.IsKeptByCalendar;

    private static ArgumentOutOfRangeException NoSuch(ServiceClass service) =>
        new(nameof(service), service, "No such service class.");
}
