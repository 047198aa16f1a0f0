using Keralith.Data;

namespace Keralith.Web;

/// <summary>By which clock records are dated.</summary>
/// <param name="ByDatabase">By the database's, one for all nodes; else by this machine's.</param>
public sealed record Dating(bool ByDatabase);

/// <summary>The one clock: the moment from the machine, the day from the site's time zone as it was last read.</summary>
/// <param name="time">The machine's clock.</param>
/// <param name="sites">Where the site is read.</param>
/// <param name="dating">By which clock records are dated.</param>
public sealed class SiteClock(TimeProvider time, SiteStore sites, Dating dating)
{
    private TimeZoneInfo? _zone;

    public DateTimeOffset Now => time.GetUtcNow();

    /// <summary>Whether records are dated by the database's clock, one for all nodes.</summary>
    public bool ByDatabase => dating.ByDatabase;

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
