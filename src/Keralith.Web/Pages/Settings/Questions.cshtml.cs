using Keralith.Core.Gear;
using Keralith.Core.People;
using Keralith.Core.Sites;
using Keralith.Data;
using Keralith.Web.Security;
using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Mvc;

namespace Keralith.Web.Pages.Settings;

/// <summary>What the site asks beside the books: in force, withdrawn, and another.</summary>
[Authorize(Policy = nameof(Right.ReadSettings))]
public sealed class QuestionsModel(Here here, QuestionStore questions) : SitePage(here)
{
    public IReadOnlyList<QuestionRow> Asked { get; private set; } = [];

    public IReadOnlyList<QuestionRow> Withdrawn { get; private set; } = [];

    public bool MaySet => Here.May(Right.SetLimits);

    /// <summary>The family another question is set for; null: none is chosen yet.</summary>
    public GearFamily? Family { get; private set; }

    /// <summary>What was typed: kept when it is refused.</summary>
    public EnteredQuestion Typed { get; private set; } = new();

    public async Task OnGetAsync(string? family)
    {
        Family = GearFamilies.Find(family ?? string.Empty);
        await LoadAsync();
    }

    [Takes(Right.SetLimits)]
    public async Task<IActionResult> OnPostAsync(EnteredQuestion entered)
    {
        await ChooseAsync();
        Typed = entered with { Site = Site.Id };
        Family = GearFamilies.Find(entered.Family ?? string.Empty);
        return await AfterAsync(
            await questions.SetAsync(Typed, Here.Stamp(Submission), Cancel),
            At("/settings/questions"),
            LoadAsync
        );
    }

    [Takes(Right.SetLimits)]
    public async Task<IActionResult> OnPostWithdrawAsync(string? question, string? reason)
    {
        await ChooseAsync();
        return await AfterAsync(
            await questions.WithdrawAsync(Site.Id, question ?? string.Empty, reason, Here.Stamp(Submission), Cancel),
            At("/settings/questions"),
            LoadAsync
        );
    }

    private async Task LoadAsync()
    {
        await ChooseAsync();
        var all = await questions.AllAsync(Site.Id, Cancel);
        Asked = [.. all.Where(q => q.Withdrawn is null)];
        Withdrawn = [.. all.Where(q => q.Withdrawn is not null)];
    }
}
