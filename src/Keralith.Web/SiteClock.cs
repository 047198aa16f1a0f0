using Keralith.Data;

namespace Keralith.Web;

/// <summary>The one clock: the moment from the machine, the day from the site's time zone as it was last read.</summary>
public sealed class SiteClock(TimeProvider time, SiteStore sites)
{
    private TimeZoneInfo? _zone;

    public DateTimeOffset Now => time.GetUtcNow();

    /// <summary>Whether it is the machine's own: records are dated by the database's clock then, one for all nodes.</summary>
    public bool IsTheMachines => time == TimeProvider.System;

    /// <summary>Where the site lies in time; kept whenever the site is read.</summary>
    public TimeZoneInfo Zone
    {
        get => _zone ?? TimeZoneInfo.Utc;
        set => _zone = value;
    }

    /// <summary>The site's day at a moment.</summary>
    public DateOnly DayOf(DateTimeOffset moment) =>
        DateOnly.FromDateTime(TimeZoneInfo.ConvertTime(moment, Zone).DateTime);

    /// <summary>Reads where the site lies before the first request is answered.</summary>
    public async Task BeginAsync(CancellationToken cancel)
    {
        if (_zone is null && await sites.FindAsync(cancel) is { } site)
            Zone = site.Zone;
    }
}
