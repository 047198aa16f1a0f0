using System.Diagnostics;
using Keralith.Core.People;
using Keralith.Data;
using Microsoft.AspNetCore.Authorization;

namespace Keralith.Web.Pages.Settings;

/// <summary>What today's rules would make of the register. Records are not altered.</summary>
[Authorize(Policy = nameof(Right.ReadSettings))]
public sealed class AgainModel(Here here, JudgeAgain again) : YardPage(here)
{
    /// <summary>Rows shown; the counts are of all.</summary>
    public const int Most = 500;

    public Site Site { get; private set; } = null!;

    public RegisterRejudged Result { get; private set; } = null!;

    public TimeSpan Took { get; private set; }

    public async Task OnGetAsync()
    {
        Site = await Here.SiteAsync(Cancel);
        var clock = Stopwatch.StartNew();
        Result = await again.RunAsync(Site, Cancel);
        Took = clock.Elapsed;
    }
}
