using Keralith.Core.Custody;
using Keralith.Core.People;
using Keralith.Data;
using Keralith.Web.Security;
using Microsoft.AspNetCore.Mvc;

namespace Keralith.Web.Pages.Rounds;

/// <summary>One round: what is scanned, and what that leaves to be done.</summary>
public sealed class RoundModel(Here here, PieceStore pieces, RoundStore rounds) : YardPage(here)
{
    public RoundRow Round { get; private set; } = null!;

    /// <summary>The peg one stands at, kept from scan to scan.</summary>
    [BindProperty(SupportsGet = true)]
    public string? Peg { get; set; }

    /// <summary>What was just scanned, as it came out.</summary>
    public RoundLine? Just { get; private set; }

    /// <summary>Whether more may be scanned.</summary>
    public bool IsOpen => Round.ClosedAt is null && Here.May(Right.Move);

    public int Seen => Round.Standing.Count(l => l.Finding == RoundFinding.Seen);

    public int Expected =>
        Round.Standing.Count(l => l.Finding is RoundFinding.Seen or RoundFinding.WrongPeg or RoundFinding.NotSeen);

    public async Task<IActionResult> OnGetAsync(Guid id, string? seen) =>
        await LoadAsync(id, seen) ? Page() : NotFound();

    [Takes(Right.Move)]
    public async Task<IActionResult> OnPostAsync(Guid id, string? marks)
    {
        if (!await LoadAsync(id, null))
            return NotFound();
        var scanned = new List<(string, Guid?)>();
        foreach (var mark in ScanModel.MarksIn(marks ?? string.Empty))
            scanned.Add((mark, (await pieces.FindAsync(mark, Cancel))?.Id));
        return await AfterAsync(
            await rounds.SeeAsync(id, scanned, Peg, Here.Stamp(Submission), Cancel),
            $"/round/{id}?peg={Uri.EscapeDataString(Peg ?? string.Empty)}&seen={Uri.EscapeDataString(scanned.LastOrDefault().Item1 ?? string.Empty)}",
            () => LoadAsync(id, null)
        );
    }

    [Takes(Right.Move)]
    public async Task<IActionResult> OnPostCloseAsync(Guid id)
    {
        if (!await LoadAsync(id, null))
            return NotFound();
        return await AfterAsync(await rounds.CloseAsync(id, Here.Stamp(Submission), Cancel), $"/round/{id}", () =>
            LoadAsync(id, null)
        );
    }

    private async Task<bool> LoadAsync(Guid id, string? seen)
    {
        if (await rounds.FindAsync(id, Cancel) is not { } round)
            return false;
        Round = round;
        if (seen is not null && await pieces.FindAsync(seen, Cancel) is { } piece)
            seen = piece.Mark;
        Just = round.Standing.FirstOrDefault(l => string.Equals(l.Mark, seen, StringComparison.OrdinalIgnoreCase));
        return true;
    }
}
