using Keralith.Core.Lifts;
using Keralith.Data;
using Microsoft.AspNetCore.Mvc;

namespace Keralith.Web.Pages.Lift;

/// <summary>A lift on one page, to print and take along.</summary>
public sealed class PlanModel(Here here, LiftStore lifts, PieceStore pieces) : LiftPage(here, lifts, pieces)
{
    public IReadOnlyList<LiftRecord> Records => Lift.Records;

    /// <summary>Whether it tells how each piece is cared for when it comes back.</summary>
    [BindProperty(SupportsGet = true)]
    public bool Care { get; set; }

    public async Task<IActionResult> OnGetAsync(Guid id)
    {
        if (!await LoadAsync(id))
            return NotFound();
        return Page();
    }
}
