using Keralith.Core.Judgement;
using Keralith.Core.People;
using Keralith.Data;
using Keralith.Web.Security;

namespace Keralith.Web;

/// <summary>Who asks, what day it is, and the site: what every page needs to know.</summary>
public sealed class Here(IHttpContextAccessor context, TimeProvider clock, SiteStore sites, InspectionStore inspections, InstrumentStore instruments)
{
    private Site? _site;
    private List<Draft>? _drafts;

    /// <summary>The person signed in.</summary>
    /// <exception cref="InvalidOperationException">Nobody is.</exception>
    public Actor Actor => Who ?? throw new InvalidOperationException("Nobody is signed in.");

    /// <summary>The person signed in, or null.</summary>
    public Actor? Who => context.HttpContext?.User.Actor();

    public DateTimeOffset Now => clock.GetUtcNow();

    public DateOnly Today => DateOnly.FromDateTime(clock.GetLocalNow().DateTime);

    public bool May(Right right) => Who is { } who && who.Role.May(right);

    public Stamp Stamp(Guid submission) => new(Actor, Now, submission);

    public async Task<Site> SiteAsync(CancellationToken cancel) => _site ??= await sites.GetAsync(cancel);

    /// <summary>The open drafts of the person: "where was I".</summary>
    public async Task<IReadOnlyList<Draft>> DraftsAsync(CancellationToken cancel) =>
        _drafts ??= Who is { } who && who.Role.May(Right.Draft) ? await inspections.DraftsAsync(who.Id, null, cancel) : [];

    /// <summary>The day the records count by.</summary>
    public DateOnly RecordDay => DateOnly.FromDateTime(Now.UtcDateTime);

    /// <summary>What the person measures with today; null where nothing was chosen.</summary>
    public async Task<Instrument?> InHandAsync(CancellationToken cancel) => Who is { } who ? (await instruments.InHandAsync(who.Id, RecordDay, cancel))?.Instrument : null;
}
