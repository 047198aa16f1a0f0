using Keralith.Core.Judgement;
using Keralith.Core.People;
using Keralith.Core.Register;
using Keralith.Core.Sites;
using Keralith.Data;
using Keralith.Web.Security;
using Microsoft.AspNetCore.Antiforgery;

namespace Keralith.Web;

/// <summary>Who asks, what day it is, and the site: what every page needs to know.</summary>
public sealed class Here(
    IHttpContextAccessor context,
    SiteClock clock,
    Database database,
    KeptSites kept,
    IAntiforgery forms,
    InstrumentStore instruments
)
{
    private SiteSet? _sites;
    private Site? _at;
    private int _drafts;

    /// <summary>The person signed in.</summary>
    /// <exception cref="InvalidOperationException">Nobody is.</exception>
    public Actor Actor => Who ?? throw new InvalidOperationException("Nobody is signed in.");

    /// <summary>The person signed in, or null.</summary>
    public Actor? Who => context.HttpContext?.User.Actor();

    public DateTimeOffset Now => clock.Now;

    /// <summary>The day at the site that is asked about: the first, where none is.</summary>
    public DateOnly Today => DayOf(Now);

    /// <summary>Its day at a moment.</summary>
    public DateOnly DayOf(DateTimeOffset moment) => _at?.DayOf(moment) ?? clock.DayOf(moment);

    /// <summary>The site's day at a moment, as pages write it.</summary>
    public string Day(DateTimeOffset moment) => DayOf(moment).ToString("yyyy-MM-dd");

    /// <summary>Whether a password is that of the person signed in: asked again to sign a record.</summary>
    public Task<bool> ConfirmsAsync(Passwords passwords, string? password, CancellationToken cancel) =>
        passwords.ConfirmAsync(Actor, context.HttpContext!.User.SignIn() ?? string.Empty, password, Now, cancel);

    public bool May(Right right) => Who is { } who && who.Roles.May(right);

    /// <summary>Who acts, now, under an id: with a digest of what was sent, so that the id belongs to that alone.</summary>
    public Stamp Stamp(Guid submission) =>
        new(Actor, Now, submission) { Content = Sent.Digest(context.HttpContext!), ByDatabase = clock.ByDatabase };

    /// <summary>The sites of the works.</summary>
    /// <exception cref="InvalidOperationException">They are not set up.</exception>
    public async Task<SiteSet> SitesAsync(CancellationToken cancel)
    {
        if (_sites is null)
            await MakeAsync(new(), cancel);
        return _sites!;
    }

    /// <summary>The first site: for what belongs to none.</summary>
    /// <exception cref="InvalidOperationException">It is not set up.</exception>
    public async Task<Site> SiteAsync(CancellationToken cancel) => (await SitesAsync(cancel)).Home;

    /// <summary>The site a piece belongs to, by whose rules it is judged: it is the one asked about from here on.</summary>
    public Task<Site> SiteOfAsync(Piece piece, CancellationToken cancel) => SiteAsync(piece.SiteId, cancel);

    /// <summary>The site somebody chose, the first where there is none of that number: the one asked about from here on.</summary>
    public async Task<Site> SiteAsync(int? chosen, CancellationToken cancel)
    {
        var sites = await SitesAsync(cancel);
        return _at = sites.Find(chosen) ?? sites.Home;
    }

    /// <summary>How many drafts the person has open: "where was I".</summary>
    public async Task<int> DraftsAsync(CancellationToken cancel)
    {
        await SitesAsync(cancel);
        return _drafts;
    }

    /// <summary>Makes a page's first trip to the database, what every page needs going with it.</summary>
    /// <param name="hasForm">Whether the page sends forms: their token is made while the database answers.</param>
    public async Task MakeAsync(Trip trip, CancellationToken cancel, bool hasForm = false)
    {
        var asked = _sites is null ? KeptSites.Ask(trip, May(Right.Draft) ? Actor.Id : null) : null;
        var answered = database.MakeAsync(trip, cancel);
        if (hasForm)
            _ = forms.GetAndStoreTokens(context.HttpContext!);
        await answered;
        if (asked is null)
            return;
        _drafts = asked.Value.Drafts;
        _sites = await kept.OfAsync(asked.Value.SitesMadeOf, cancel)
            ?? throw new InvalidOperationException("The site is not set up: run demo, or migrate and set it up.");
        clock.Zone = _sites.Home.Zone;
    }

    /// <summary>What the person measures with today; null where nothing was chosen.</summary>
    public async Task<Instrument?> InHandAsync(CancellationToken cancel) =>
        Who is { } who ? (await instruments.InHandAsync(who.Id, Today, cancel))?.Instrument : null;
}
