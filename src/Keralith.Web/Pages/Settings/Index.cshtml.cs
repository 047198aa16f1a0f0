using Keralith.Core.Gear;
using Keralith.Core.Judgement;
using Keralith.Core.People;
using Keralith.Core.Quantities;
using Keralith.Core.Sites;
using Keralith.Data;
using Keralith.Web.Security;
using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Mvc;

namespace Keralith.Web.Pages.Settings;

/// <summary>The rules the site works to: books and editions, policies, the watch share, its own limits and makers'.</summary>
[Authorize(Policy = nameof(Right.ReadSettings))]
public sealed class IndexModel(Here here, SettingsStore settings, JudgeAgain again) : SitePage(here)
{
    /// <summary>Pieces shown of those a change stops; the count is of all.</summary>
    public const int MostShown = 50;

    /// <summary>What the change that was just asked for would stop; null: nothing was asked, or it stops nothing.</summary>
    public IReadOnlyList<RejudgedRow>? Rehearsal { get; private set; }

    /// <summary>What was typed, by field name: kept when it is refused.</summary>
    public IReadOnlyDictionary<string, string> Typed { get; private set; } = new Dictionary<string, string>();

    public bool MaySetBooks => Here.May(Right.SetBooks);

    public bool MaySetLimits => Here.May(Right.SetLimits);

    /// <summary>Measures and counts that take a limit, by the standard they come from.</summary>
    public static IEnumerable<IGrouping<string, Criterion>> Criteria =>
        OwnLimitReader.Criteria.GroupBy(c => c.Source.Standard);

    /// <summary>Whether a change was just signed.</summary>
    [BindProperty(SupportsGet = true, Name = "signed")]
    public bool IsSigned { get; set; }

    public Task OnGetAsync() => ChooseAsync();

    [Takes(Right.SetBooks)]
    public async Task<IActionResult> OnPostBooksAsync(
        int version,
        string[] book,
        bool latches,
        bool thimbles,
        bool noChainHoisting,
        bool backUpSling,
        bool capacityColours,
        bool seasonEnforced,
        string? watchShare,
        string? criticalShare,
        string? timeZone,
        string? reason,
        int? stops
    )
    {
        await ChooseAsync();
        var share = QuantityPercent(watchShare);
        if (!share.Ok)
            return await AgainAsync(share.Fault!);
        var critical = string.IsNullOrWhiteSpace(criticalShare)
            ? Site.Policies.CriticalShare
            : QuantityPercent(criticalShare);
        if (!critical.Ok)
            return await AgainAsync(critical.Fault!);
        var editions = new Dictionary<string, int>();
        foreach (var known in RuleBookShelf.All)
        {
            var typed = Request.Form[$"edition:{known.Id}"].ToString().Trim();
            if (typed.Length == 0)
                continue;
            if (!int.TryParse(typed, System.Globalization.NumberStyles.None, null, out var year))
                return await AgainAsync($"{known.Name}: an edition is a year, such as 2021.");
            editions[known.Id] = year;
        }

        var change = new SiteChange(
            version,
            RuleBookShelf.All.Where(b => book.Contains(b.Id)).ToList(),
            editions,
            share.Value,
            new(latches, thimbles, noChainHoisting, backUpSling, capacityColours) { CriticalShare = critical.Value },
            reason ?? string.Empty
        )
        {
            Site = Site.Id,
            EnforceSeason = seasonEnforced,
            TimeZone = string.IsNullOrWhiteSpace(timeZone) ? null : timeZone.Trim(),
            Stops = stops,
        };
        var result = await settings.ChangeSiteAsync(change, Here.Stamp(Submission), Cancel);
        return await AfterAsync(result, At("/settings?signed=true"), () =>
            RehearseAsync(result, sites => sites.With(change.Of(Site)), Site.Id)
        );
    }

    [Takes(Right.SetLimits)]
    public async Task<IActionResult> OnPostLimitAsync(
        string? owner,
        string? maker,
        string? model,
        string? criterion,
        string? figure,
        string? reason,
        int? stops
    )
    {
        if (string.IsNullOrWhiteSpace(figure))
            return await AgainAsync("Write the figure: a share such as 3 %, an amount such as 0.5 mm, or a count.");
        return await SetAsync(owner, maker, model, criterion, figure, reason, stops);
    }

    [Takes(Right.SetLimits)]
    public async Task<IActionResult> OnPostWithdrawAsync(
        string? owner,
        string? maker,
        string? model,
        string? criterion,
        string? reason,
        int? stops
    ) => await SetAsync(owner, maker, model, criterion, string.Empty, reason, stops);

    private async Task<IActionResult> SetAsync(
        string? owner,
        string? maker,
        string? model,
        string? criterion,
        string figure,
        string? reason,
        int? stops
    )
    {
        await ChooseAsync();
        var by = owner == "maker" ? LimitOwner.Maker : LimitOwner.Site;
        var limit = new EnteredLimit(
            by,
            by == LimitOwner.Maker ? maker ?? string.Empty : string.Empty,
            by == LimitOwner.Maker ? model ?? string.Empty : string.Empty,
            criterion ?? string.Empty,
            figure,
            reason ?? string.Empty
        )
        {
            Site = Site.Id,
            Stops = stops,
        };
        var result = await settings.SetLimitAsync(limit, Here.Stamp(Submission), Cancel);
        return await AfterAsync(result, $"{At("/settings?signed=true")}#limits", () =>
            RehearseAsync(result, sites => sites.With(limit), by == LimitOwner.Site ? Site.Id : null)
        );
    }

    /// <summary>Shows which pieces a change would stop, where that is why it was not made.</summary>
    private async Task RehearseAsync(Checked<Recorded> result, Func<SiteSet, SiteSet> after, int? only)
    {
        await LoadAsync();
        if (result.Refusal!.Kind == RefusalKind.Conflict)
            Rehearsal = (await again.RunAsync(after(Sites), only, Cancel)).Held;

        // To be shown what a rule stops is no refusal.
        if (Rehearsal is { Count: > 0 })
            Response.StatusCode = StatusCodes.Status200OK;
    }

    private async Task<IActionResult> AgainAsync(string words)
    {
        Refuse(words);
        await LoadAsync();
        return Page();
    }

    private async Task LoadAsync()
    {
        Submission = Guid.CreateVersion7();
        await ChooseAsync();
        Typed = Request.Form.ToDictionary(f => f.Key, f => f.Value.ToString());
    }

    private static Checked<decimal> QuantityPercent(string? text)
    {
        var bare = (text ?? string.Empty).Trim().TrimEnd('%').Trim();
        return
            decimal.TryParse(
                bare,
                System.Globalization.NumberStyles.AllowDecimalPoint,
                System.Globalization.CultureInfo.InvariantCulture,
                out var percent
            ) && percent is > 0 and <= 100
            ? percent / 100
            : new Refusal(
                $"The watch share is a percentage, such as {QuantityFormat.Number(Judge.DefaultWatchShare * 100)}."
            );
    }
}
