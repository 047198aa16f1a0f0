using Keralith.Core.People;
using Keralith.Core.Register;
using Keralith.Data;
using Keralith.Web.Security;
using Microsoft.AspNetCore.Mvc;

namespace Keralith.Web.Pages.Recall;

/// <summary>One recall: what it holds and what it missed, where each piece is, and letting it go.</summary>
public sealed class RecallModel(Here here, RecallStore recalls) : YardPage(here)
{
    private const int MostShown = 400;

    public RecallRow Row { get; private set; } = null!;

    public IReadOnlyList<Piece> Held { get; private set; } = [];

    /// <summary>What it means and never held.</summary>
    public IReadOnlyList<Piece> Missed { get; private set; } = [];

    public int AllMissed { get; private set; }

    /// <summary>Whether the person who asks set it.</summary>
    public bool IsOwn => Row.ById == Here.Actor.Id;

    public async Task<IActionResult> OnGetAsync(Guid id) => await LoadAsync(id) ? Page() : NotFound();

    [Takes(Right.Recall)]
    public async Task<IActionResult> OnPostAsync(Guid id, string? reason)
    {
        if (!await LoadAsync(id))
            return NotFound();
        return await AfterAsync(
            await recalls.EndAsync(id, reason, Here.Stamp(Submission), Cancel),
            $"/recall/{id}",
            () => LoadAsync(id)
        );
    }

    [Takes(Right.Recall)]
    public async Task<IActionResult> OnPostMissedAsync(Guid id)
    {
        if (!await LoadAsync(id))
            return NotFound();
        return await AfterAsync(
            await recalls.HoldMissedAsync(id, Here.Stamp(Submission), Cancel),
            $"/recall/{id}",
            () => LoadAsync(id)
        );
    }

    private async Task<bool> LoadAsync(Guid id)
    {
        if (await recalls.FindAsync(id, Cancel) is not { } row)
            return false;
        Row = row;
        Held = await recalls.HeldAsync(id, MostShown, Cancel);
        (Missed, AllMissed) = await recalls.MissedAsync(id, MostShown, Cancel);
        return true;
    }
}
