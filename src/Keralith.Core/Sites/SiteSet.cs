using Keralith.Core.Judgement;

namespace Keralith.Core.Sites;

/// <summary>
/// The sites under one roof. Each works to its own books, policies, limits, season and time zone; people, records and
/// makers' limits are shared.
/// </summary>
public sealed class SiteSet
{
    private readonly IReadOnlyList<Site> _sites;

    /// <param name="sites">At least one, no two of one number.</param>
    /// <exception cref="ArgumentException">There is none.</exception>
    public SiteSet(IEnumerable<Site> sites)
    {
        _sites = [.. sites.OrderBy(s => s.Id)];
        if (_sites.Count == 0)
            throw new ArgumentException("A works has one site at the least.", nameof(sites));
    }

    /// <summary>By number.</summary>
    public IReadOnlyList<Site> All => _sites;

    /// <summary>The first: where what belongs to no site is dated and named.</summary>
    public Site Home => _sites[0];

    /// <summary>Whether there is more than one.</summary>
    public bool AreSeveral => _sites.Count > 1;

    /// <summary>The site of a number; null where there is none.</summary>
    public Site? Find(int? id) => _sites.FirstOrDefault(s => s.Id == id);

    /// <summary>The site of a number.</summary>
    /// <exception cref="InvalidOperationException">There is none.</exception>
    public Site Of(int id) => Find(id) ?? throw new InvalidOperationException($"There is no site {id}.");

    /// <summary>The sites with one of them as it is to be from now on.</summary>
    public SiteSet With(Site changed) => new(_sites.Select(s => s.Id == changed.Id ? changed : s));

    /// <summary>The sites with another limit in force, or one withdrawn: a maker's at each, a site's own at that one.</summary>
    /// <param name="entered">A limit that can be read.</param>
    public SiteSet With(EnteredLimit entered) =>
        new(_sites.Select(s => entered.Owner == LimitOwner.Maker || s.Id == entered.Site ? s.With(entered) : s));

    /// <summary>The sites with another proof test asked, or one withdrawn: a maker's at each, a site's own at that one.</summary>
    public SiteSet With(EnteredProofAsk entered) =>
        new(_sites.Select(s => entered.Maker.Length > 0 || s.Id == entered.Site ? s.With(entered) : s));

    /// <summary>
    /// By whose rules gear of several sites is lifted together: by all their books and policies, so that nothing is
    /// milder than at any one of them. By the first site's where no gear is named.
    /// </summary>
    /// <param name="ids">The numbers of the sites the gear belongs to.</param>
    public Site Together(IEnumerable<int> ids)
    {
        var sites = ids.Distinct().Order().Select(Of).ToList();
        return sites.Count switch
        {
            0 => Home,
            1 => sites[0],
            _ => sites[0] with
            {
                Books = [.. sites.SelectMany(s => s.Books).Distinct()],
                Policies = sites.Select(s => s.Policies).Aggregate((one, other) => one.And(other)),
                Limits = [.. sites.SelectMany(s => s.Limits).Distinct()],
                ProofAsks = [.. sites.SelectMany(s => s.ProofAsks).Distinct()],
            },
        };
    }
}
