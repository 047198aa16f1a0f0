using System.Globalization;
using Keralith.Core.People;
using Keralith.Core.Sites;
using Keralith.Data;
using Keralith.Web.Security;
using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Mvc;

namespace Keralith.Web.Pages.Settings;

/// <summary>The proof tests that makers and the site ask again and again.</summary>
[Authorize(Policy = nameof(Right.ReadSettings))]
public sealed class ProofTestsModel(Here here, ProofAskStore store) : SitePage(here)
{
    public bool MaySet => Here.May(Right.SetLimits);

    /// <summary>What was typed: kept when it is refused.</summary>
    public EnteredProofAsk Typed { get; private set; } =
        new(string.Empty, string.Empty, string.Empty, null, string.Empty);

    /// <summary>What the rule that was just asked for would stop; empty: nothing was asked, or it stops nothing.</summary>
    public IReadOnlyList<ProofStop> Stops { get; private set; } = [];

    public Task OnGetAsync() => ChooseAsync();

    [Takes(Right.SetLimits)]
    public Task<IActionResult> OnPostAsync(
        string? maker,
        string? model,
        string? family,
        string? months,
        string? reason,
        int? stops
    ) =>
        SetAsync(
            new(
                maker ?? string.Empty,
                model ?? string.Empty,
                family ?? string.Empty,
                int.TryParse(months, NumberStyles.None, CultureInfo.InvariantCulture, out var count) ? count : 0,
                reason ?? string.Empty
            )
            {
                Stops = stops,
            }
        );

    [Takes(Right.SetLimits)]
    public Task<IActionResult> OnPostWithdrawAsync(string? maker, string? model, string? family, string? reason) =>
        SetAsync(
            new(maker ?? string.Empty, model ?? string.Empty, family ?? string.Empty, null, reason ?? string.Empty)
        );

    private async Task<IActionResult> SetAsync(EnteredProofAsk asked)
    {
        await ChooseAsync();
        Typed = asked with { Site = Site.Id };
        var result = await store.SetAsync(Typed, Here.Stamp(Submission), Cancel);
        return await AfterAsync(result, At("/settings/proof-tests"), async () =>
        {
            await ChooseAsync();
            if (result.Refusal!.Kind == RefusalKind.Conflict)
                Stops = await store.WouldStopAsync(Typed, Sites, Here.Now, Cancel);

            // To be shown what a rule stops is no refusal.
            if (Stops.Count > 0)
                Response.StatusCode = StatusCodes.Status200OK;
        });
    }
}
