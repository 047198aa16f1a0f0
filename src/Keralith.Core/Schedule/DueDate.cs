namespace Keralith.Core.Schedule;

/// <summary>How a due date stands to today.</summary>
public enum DueState
{
    /// <summary>Never inspected: nothing to count from.</summary>
    Never,

    /// <summary>More than the notice away.</summary>
    Later,

    /// <summary>Within the notice, today included.</summary>
    Soon,

    /// <summary>Its day has passed.</summary>
    Overdue,
}

/// <summary>Due dates seen from a day. A piece may still be used on its due day; from the next it is overdue.</summary>
public static class DueDate
{
    /// <summary>Days of notice a site is given unless it sets another.</summary>
    public const int DefaultNotice = 30;

    public static DueState StateOn(DateOnly? due, DateOnly today, int notice = DefaultNotice) =>
        due switch
        {
            null => DueState.Never,
            { } day when day < today => DueState.Overdue,
            { } day when day <= today.AddDays(notice) => DueState.Soon,
            _ => DueState.Later,
        };
}
