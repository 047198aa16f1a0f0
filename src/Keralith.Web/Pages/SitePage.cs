using Keralith.Core.Sites;
using Microsoft.AspNetCore.Mvc;

namespace Keralith.Web.Pages;

/// <summary>A page on one of the sites of the works: the first, where no other is chosen.</summary>
public abstract class SitePage(Here here) : YardPage(here)
{
    /// <summary>The number of the chosen site; null: the first.</summary>
    [BindProperty(SupportsGet = true, Name = "site")]
    public int? Chosen { get; set; }

    public SiteSet Sites { get; private set; } = null!;

    /// <summary>The site the page is on.</summary>
    public Site Site { get; protected set; } = null!;

    /// <summary>The same page on another site; what else its address says is kept.</summary>
    public string On(Site site)
    {
        var query = Request.Query.Where(q => q.Key is not ("site" or "signed" or "store")).ToList();
        if (site.Id != Core.Sites.Site.First)
            query.Add(new("site", $"{site.Id}"));
        return Request.Path + QueryString.Create(query);
    }

    /// <summary>An address of the chosen site: the first needs no word.</summary>
    public string At(string address) =>
        Chosen is null or Core.Sites.Site.First
            ? address
            : $"{address}{(address.Contains('?') ? '&' : '?')}site={Chosen}";

    /// <summary>Reads the sites, and goes to the chosen one.</summary>
    protected async Task ChooseAsync() =>
        (Sites, Site) = (await Here.SitesAsync(Cancel), await Here.SiteAsync(Chosen, Cancel));
}
