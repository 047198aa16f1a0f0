using Keralith.Core.Custody;
using Keralith.Core.People;
using Keralith.Core.Register;
using Keralith.Data;
using Microsoft.AspNetCore.Mvc;

namespace Keralith.Web.Pages.Pieces;

/// <summary>What a piece that failed may have touched since it was last known to be good; and keeping it as evidence.</summary>
public sealed class LookBackModel(Here here, PieceStore pieces, LookBackStore store, AwayStore away) : YardPage(here)
{
    public Piece Piece { get; private set; } = null!;

    public LookBack Back { get; private set; } = null!;

    /// <summary>When it failed, or was found.</summary>
    public DateTimeOffset Failed { get; private set; }

    public async Task<IActionResult> OnGetAsync(string mark, string? failed) =>
        await LoadAsync(mark, failed) ? Page() : NotFound();

    /// <summary>Keeps it as evidence.</summary>
    public Task<IActionResult> OnPostAsync(string mark, string? reason) => LockAsync(mark, true, reason);

    /// <summary>Lets it go again.</summary>
    public Task<IActionResult> OnPostLiftAsync(string mark, string? reason) => LockAsync(mark, false, reason);

    private async Task<IActionResult> LockAsync(string mark, bool locks, string? reason)
    {
        if (!Here.May(locks ? Right.LockEvidence : Right.CloseVerdict))
            return Forbid();
        if (!await LoadAsync(mark, null))
            return NotFound();
        return await AfterAsync(
            await away.LockAsync(Piece.Id, locks, reason, Here.Stamp(Submission), Cancel),
            $"/piece/{Piece.Mark}/look-back",
            () => LoadAsync(mark, null)
        );
    }

    private async Task<bool> LoadAsync(string mark, string? failed)
    {
        if (await pieces.FindAsync(mark, Cancel) is not { } piece)
            return false;
        Piece = piece;
        Failed = Here.Now;
        if (IsDay(failed, "Failed on", out var day) && day is { } on && on < Here.Today && on.Year > 2000)
            Failed = new(on.AddDays(1).ToDateTime(TimeOnly.MinValue), TimeSpan.Zero);
        Back = await store.OfAsync(piece.Id, piece.Mark, Failed, Cancel);
        return true;
    }
}
