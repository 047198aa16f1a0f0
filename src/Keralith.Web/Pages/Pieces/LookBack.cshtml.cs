using Keralith.Core.Custody;
using Keralith.Core.People;
using Keralith.Core.Register;
using Keralith.Data;
using Keralith.Web.Files;
using Keralith.Web.Security;
using Microsoft.AspNetCore.Mvc;

namespace Keralith.Web.Pages.Pieces;

/// <summary>What a piece that failed may have touched since it was last known to be good; and keeping it as evidence.</summary>
public sealed class LookBackModel(Here here, PieceStore pieces, LookBackStore store, AwayStore away) : YardPage(here)
{
    public Piece Piece { get; private set; } = null!;

    public LookBack Back { get; private set; } = null!;

    /// <summary>What witnesses said of it.</summary>
    public IReadOnlyList<WitnessWords> Witnesses { get; private set; } = [];

    /// <summary>What was typed of a witness, where it was not taken.</summary>
    public string? Who { get; private set; }

    /// <inheritdoc cref="Who"/>
    public string? Words { get; private set; }

    /// <summary>When it failed, or was found.</summary>
    public DateTimeOffset Failed { get; private set; }

    public async Task<IActionResult> OnGetAsync(string mark, string? failed) =>
        await LoadAsync(mark, failed) ? Page() : NotFound();

    /// <summary>Keeps it as evidence.</summary>
    [Takes(Right.LockEvidence)]
    public Task<IActionResult> OnPostAsync(string mark, string? reason) => LockAsync(mark, true, reason);

    /// <summary>Lets it go again.</summary>
    [Takes(Right.CloseVerdict)]
    public Task<IActionResult> OnPostLiftAsync(string mark, string? reason) => LockAsync(mark, false, reason);

    /// <summary>Takes down a witness's words.</summary>
    [Takes(Right.LockEvidence)]
    public async Task<IActionResult> OnPostWitnessAsync(string mark, string? who, string? on, string? words)
    {
        (Who, Words) = (who, words);
        if (!await LoadAsync(mark, null))
            return NotFound();
        if (!IsDay(on, "Said on", out var day))
            return Page();
        return await AfterAsync(
            await store.TakeAsync(Piece.Id, who, day, words, Here.Stamp(Submission), Cancel),
            $"/piece/{Piece.Mark}/look-back",
            () => LoadAsync(mark, null)
        );
    }

    private async Task<IActionResult> LockAsync(string mark, bool locks, string? reason)
    {
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
        Failed = LookBackDay.Of(failed, Here);
        Back = await store.OfAsync(piece.Id, piece.Mark, Failed, Cancel);
        Witnesses = await store.WitnessesAsync(piece.Id, Cancel);
        return true;
    }
}
