using Keralith.Core.People;
using Keralith.Data;
using Keralith.Web.Security;
using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Mvc;

namespace Keralith.Web.Pages.Settings;

/// <summary>Calipers and gauges: their calibration, and which one a person has in hand today.</summary>
[Authorize(Policy = nameof(Right.Draft))]
public sealed class InstrumentsModel(Here here, InstrumentStore instruments) : YardPage(here)
{
    public IReadOnlyList<InstrumentRow> Instruments { get; private set; } = [];

    public Guid? InHand { get; private set; }

    public Task OnGetAsync() => LoadAsync();

    public async Task<IActionResult> OnPostTakeAsync(Guid? instrument)
    {
        await instruments.TakeAsync(Here.Actor.Id, Here.Today, instrument, Cancel);
        return Redirect("/instruments");
    }

    [Takes(Right.KeepInstruments)]
    public async Task<IActionResult> OnPostEnterAsync(string? name, string? uncertainty, string? due)
    {
        if (!IsDay(due, "Calibrated to", out var until))
        {
            await LoadAsync();
            return Page();
        }

        return await AfterAsync(
            await instruments.EnterAsync(
                name ?? string.Empty,
                uncertainty ?? string.Empty,
                until,
                Here.Stamp(Submission),
                Cancel
            ),
            "/instruments",
            LoadAsync
        );
    }

    private async Task LoadAsync()
    {
        Instruments = await instruments.ListAsync(Cancel);
        InHand = (await instruments.InHandAsync(Here.Actor.Id, Here.Today, Cancel))?.Id;
    }
}
