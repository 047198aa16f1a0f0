using Keralith.Core.Gear;
using Keralith.Core.People;
using Keralith.Core.Sites;
using Keralith.Data;
using Keralith.Web.Running;
using Keralith.Web.Security;
using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Mvc;

namespace Keralith.Web.Pages.Settings;

/// <summary>What today's rules would make of the register. Records are not altered.</summary>
[Authorize(Policy = nameof(Right.ReadSettings))]
public sealed class AgainModel(Here here, JudgeAgain again, Rejudging rejudging) : SitePage(here)
{
    /// <summary>Rows shown; the counts are of all.</summary>
    public const int Most = 500;

    /// <summary>The judging, under way or done.</summary>
    public BesideRun<RegisterRejudged> Run { get; private set; } = null!;

    /// <summary>What came of it; null while it is under way.</summary>
    public RegisterRejudged? Result { get; private set; }

    /// <summary>Whether other books than the site's were asked for, to see what they would change.</summary>
    public bool IsTrial { get; private set; }

    /// <summary>Whether there is anything to let go, and the person may.</summary>
    public bool MayLetGo { get; private set; }

    /// <summary>Lets go what a rule held that is no more.</summary>
    [Takes(Right.CloseVerdict)]
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
        var trip = new Trip();
        var height = LedgerStore.Height(trip);
        await Here.MakeAsync(trip, Cancel);
        await ChooseAsync();
        var tried = RuleBookShelf.All.Where(b => book.Contains(b.Id)).ToList();
        IsTrial = tried.Count > 0 && !tried.SequenceEqual(Site.Books);
        if (IsTrial)
            Site = Site with { Books = tried };
        Run = await rejudging.OfAsync(Site, Sites, height.Value);
        Result = Run.Result.IsCompleted ? await Run.Result : null;
        MayLetGo = Here.May(Right.CloseVerdict) && await again.HeldAsync(Cancel) > 0;
    }
}
