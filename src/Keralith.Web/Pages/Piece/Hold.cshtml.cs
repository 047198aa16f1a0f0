using Keralith.Core;
using Keralith.Core.Custody;
using Keralith.Core.People;
using Keralith.Data;
using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Mvc;

namespace Keralith.Web.Pages.Piece;

[Authorize(Policy = nameof(Right.Hold))]
public sealed class HoldModel(Here here, PieceStore pieces, CustodyStore custody) : YardPage(here)
{
    /// <summary>The causes a person may give; verdicts put their own holds on.</summary>
    public static IReadOnlyList<(string Code, string Words)> Causes { get; } =
    [
        (Words.Code(HoldCause.Doubt), "a doubt: something looks or feels wrong"),
        (Words.Code(HoldCause.Event), "overload, shock load, fire, chemicals or collision"),
        (Words.Code(HoldCause.Marking), "its tag or marking is missing or can't be read"),
    ];

    public PieceRow Piece { get; private set; } = null!;

    public string Cause { get; private set; } = Words.Code(HoldCause.Doubt);

    public string Reason { get; private set; } = string.Empty;

    /// <param name="cause">The cause to begin with.</param>
    /// <param name="reason">The words to begin with.</param>
    public async Task<IActionResult> OnGetAsync(string mark, string? cause, string? reason)
    {
        if (Causes.Any(c => c.Code == cause)) Cause = cause!;
        if (reason is { Length: <= 400 }) Reason = reason;
        return await LoadAsync(mark) ? Page() : NotFound();
    }

    public async Task<IActionResult> OnPostAsync(string mark, string? reason, string? cause)
    {
        if (!await LoadAsync(mark)) return NotFound();
        Reason = reason is { Length: > 400 } ? reason[..400] : reason ?? string.Empty;
        Cause = cause ?? string.Empty;
        var known = Words.Find<HoldCause>(cause, Words.Code) ?? HoldCause.Doubt;
        var result = await custody.HoldAsync(Piece.Id, known, Reason, Here.Stamp(Submission), Cancel);
        return await AfterAsync(result, $"/piece/{Piece.Mark}", () => Task.CompletedTask);
    }

    private async Task<bool> LoadAsync(string mark)
    {
        if (await pieces.FindAsync(mark, Cancel) is not { } piece) return false;
        Piece = piece;
        return true;
    }
}
