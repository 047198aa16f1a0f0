using Keralith.Core.Sites;
using Keralith.Data;

namespace Keralith.Web.Running;

/// <summary>Judges the register again beside the request that asked for it.</summary>
public sealed class Rejudging(JudgeAgain again, TimeProvider time, IHostApplicationLifetime life)
{
    private readonly Beside<RegisterRejudged> _runs = new(time);

    /// <summary>The run of some rules over what stands in the record; comes back when it is done, or after a moment.</summary>
    /// <param name="site">The site, as it is or as it is tried.</param>
    /// <param name="sites">The sites of the works.</param>
    /// <param name="height">The height of the ledger: what was signed since makes it another run.</param>
    public Task<BesideRun<RegisterRejudged>> OfAsync(Site site, SiteSet sites, long height) =>
        _runs.OfAsync($"{site.Id} {height} {string.Join(' ', site.Books.Select(b => b.Id))}", progress =>
            again.RunAsync(sites.With(site), site.Id, life.ApplicationStopping, progress)
        );
}
