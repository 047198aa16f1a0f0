using System.Diagnostics;
using Keralith.Core.Gear;
using Keralith.Core.People;
using Keralith.Core.Sites;
using Keralith.Data;
using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Mvc;

namespace Keralith.Web.Pages.Settings;

/// <summary>What today's rules would make of the register. Records are not altered.</summary>
[Authorize(Policy = nameof(Right.ReadSettings))]
public sealed class AgainModel(Here here, JudgeAgain again) : SitePage(here)
{
    /// <summary>Rows shown; the counts are of all.</summary>
    public const int Most = 500;

    public RegisterRejudged Result { get; private set; } = null!;

    public TimeSpan Took { get; private set; }

    /// <summary>Whether other books than the site's were asked for, to see what they would change.</summary>
    public bool IsTrial { get; private set; }

    /// <summary>Whether there is anything to let go, and the person may.</summary>
    public bool MayLetGo { get; private set; }

    /// <summary>Lets go what a rule held that is no more.</summary>
    public async Task<IActionResult> OnPostAsync(string? reason) =>
        await AfterAsync(
            await again.LetGoAsync(reason ?? string.Empty, Here.Stamp(Submission), Cancel),
            At("/settings/again"),
            async () =>
            {
                Submission = Guid.CreateVersion7();
                await OnGetAsync([]);
            }
        );

    public async Task OnGetAsync(string[] book)
    {
        await ChooseAsync();
        var tried = RuleBookShelf.All.Where(b => book.Contains(b.Id)).ToList();
        IsTrial = tried.Count > 0 && !tried.SequenceEqual(Site.Books);
        if (IsTrial)
            Site = Site with { Books = tried };
        var clock = Stopwatch.StartNew();
        Result = await again.RunAsync(Sites.With(Site), Site.Id, Cancel);
        Took = clock.Elapsed;
        MayLetGo = Here.May(Right.CloseVerdict) && await again.HeldAsync(Cancel) > 0;
    }
}
