using Keralith.Core.People;
using Keralith.Core.Register;
using Keralith.Data.Exchange;
using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Mvc;

namespace Keralith.Web.Pages.Register;

/// <summary>A file before it lands: each row's fate; while it lands: how far; after: what came of it.</summary>
[Authorize(Policy = nameof(Right.Register))]
public sealed class ImportingModel(Here here, ImportFiles files, ImportRunner runner) : YardPage(here)
{
    private const int MostShown = 200;

    public ImportFile Sent { get; private set; } = null!;

    public ImportPlan? Plan { get; private set; }

    /// <summary>Why the file can't be read with these headings; null when it can.</summary>
    public string? Fault { get; private set; }

    public bool IsLanding => Sent.State == "landing";

    /// <summary>Refused rows first: they want a look.</summary>
    public IReadOnlyList<ImportRow> Shown =>
        Plan!
            .Rows.OrderBy(r =>
                r.Fate switch
                {
                    RowFate.Refused => 0,
                    RowFate.New => r.Remarks.Count > 0 ? 1 : 2,
                    _ => 3,
                }
            )
            .ThenBy(r => r.Number)
            .Take(MostShown)
            .ToList();

    public async Task<IActionResult> OnGetAsync(Guid id)
    {
        if (await files.FindAsync(id, Here.Actor.Id, Cancel) is not { } file)
            return NotFound();
        Sent = file;
        if (file.State is "landing" or "landed")
            return Page();
        var plan = await files.PlanAsync(file, Here.Actor.Roles, Cancel);
        if (plan.Ok)
            Plan = plan.Value;
        else
            Fault = plan.Fault;
        return Page();
    }

    public async Task<IActionResult> OnPostMapAsync(Guid id)
    {
        if (await files.FindAsync(id, Here.Actor.Id, Cancel) is not { } file)
            return NotFound();
        var mapping = file.Mapping.Keys.ToDictionary(
            h => h,
            h =>
                Request.Form[$"map:{h}"].ToString() is { Length: > 0 } column && RegisterColumns.Knows(column)
                    ? column
                    : string.Empty
        );
        await files.MapAsync(id, mapping, Cancel);
        return Redirect($"/register/import/{id}");
    }

    public async Task<IActionResult> OnPostLandAsync(Guid id, bool partial)
    {
        if (await files.FindAsync(id, Here.Actor.Id, Cancel) is not { } file)
            return NotFound();
        if (await files.BeginAsync(id, partial, Here.Now, Cancel))
            await runner.LandAsync(file, partial, Here.Stamp(Submission));
        return Redirect($"/register/import/{id}");
    }
}
