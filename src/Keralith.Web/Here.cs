using Keralith.Core.Judgement;
using Keralith.Core.People;
using Keralith.Core.Sites;
using Keralith.Data;
using Keralith.Web.Security;

namespace Keralith.Web;

/// <summary>Who asks, what day it is, and the site: what every page needs to know.</summary>
public sealed class Here(IHttpContextAccessor context, SiteClock clock, Database database, InstrumentStore instruments)
{
    private Site? _site;
    private IReadOnlyList<Draft>? _drafts;

    /// <summary>The person signed in.</summary>
    /// <exception cref="InvalidOperationException">Nobody is.</exception>
    public Actor Actor => Who ?? throw new InvalidOperationException("Nobody is signed in.");

    /// <summary>The person signed in, or null.</summary>
    public Actor? Who => context.HttpContext?.User.Actor();

    public DateTimeOffset Now => clock.Now;

    /// <summary>The site's day.</summary>
    public DateOnly Today => clock.DayOf(Now);

    /// <summary>The site's day at a moment.</summary>
    public DateOnly DayOf(DateTimeOffset moment) => clock.DayOf(moment);

    /// <summary>The site's day at a moment, as pages write it.</summary>
    public string Day(DateTimeOffset moment) => DayOf(moment).ToString("yyyy-MM-dd");

    /// <summary>Whether a password is that of the person signed in: asked again to sign a record.</summary>
    public Task<bool> ConfirmsAsync(Passwords passwords, string? password, CancellationToken cancel) =>
        passwords.ConfirmAsync(Actor, context.HttpContext!.User.SignIn() ?? string.Empty, password, Now, cancel);

    public bool May(Right right) => Who is { } who && who.Roles.May(right);

    /// <summary>Who acts, now, under an id: with a digest of what was sent, so that the id belongs to that alone.</summary>
    public Stamp Stamp(Guid submission) =>
        new(Actor, Now, submission) { Content = Sent.Digest(context.HttpContext!), ByDatabase = clock.ByDatabase };

    /// <summary>The site.</summary>
    /// <exception cref="InvalidOperationException">It is not set up.</exception>
    public async Task<Site> SiteAsync(CancellationToken cancel)
    {
        if (_site is null)
            await MakeAsync(new(), cancel);
        return _site!;
    }

    /// <summary>The open drafts of the person: "where was I".</summary>
    public async Task<IReadOnlyList<Draft>> DraftsAsync(CancellationToken cancel)
    {
        if (_drafts is null)
            await MakeAsync(new(), cancel);
        return _drafts!;
    }

    /// <summary>Makes a page's first trip to the database, what every page needs going with it.</summary>
    public async Task MakeAsync(Trip trip, CancellationToken cancel)
    {
        var site = _site is null ? SiteStore.Site(trip) : null;
        var drafts =
            _drafts is null && Who is { } who && who.Roles.May(Right.Draft)
                ? InspectionStore.Drafts(trip, who.Id, null)
                : null;
        await database.MakeAsync(trip, cancel);
        _drafts ??= drafts?.Value ?? [];
        _site ??= site!.Value
            ?? throw new InvalidOperationException("The site is not set up: run demo, or migrate and set it up.");
        clock.Zone = _site.Zone;
    }

    /// <summary>What the person measures with today; null where nothing was chosen.</summary>
    public async Task<Instrument?> InHandAsync(CancellationToken cancel) =>
        Who is { } who ? (await instruments.InHandAsync(who.Id, Today, cancel))?.Instrument : null;
}
