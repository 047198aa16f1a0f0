using Keralith.Core.Custody;
using Keralith.Core.People;
using Keralith.Core.Register;
using Keralith.Data;
using Keralith.Web.Files;
using Keralith.Web.Security;
using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Mvc;

namespace Keralith.Web.Pages.Pieces;

[Authorize(Policy = nameof(Right.Hold))]
[RequestSizeLimit(Upload.MostRequest)]
[RequestFormLimits(MultipartBodyLengthLimit = Upload.MostRequest)]
[TakesAnyText]
public sealed class HoldModel(Here here, PieceStore pieces, CustodyStore custody) : YardPage(here)
{
    /// <summary>The causes a person may give; verdicts put their own holds on.</summary>
    public static IReadOnlyList<(string Code, string Words)> Causes { get; } =
    [
        (Code.Of(HoldCause.Doubt), "a doubt: something looks or feels wrong"),
        (Code.Of(HoldCause.Event), "overload, shock load, fire, chemicals or collision"),
        (Code.Of(HoldCause.Marking), "its tag or marking is missing or can't be read"),
    ];

    public Piece Piece { get; private set; } = null!;

    public string Cause { get; private set; } = Code.Of(HoldCause.Doubt);

    public string Reason { get; private set; } = string.Empty;

    /// <summary>Whether it was held and only the picture refused.</summary>
    public bool Stopped { get; private set; }

    /// <param name="cause">The cause to begin with.</param>
    /// <param name="reason">The words to begin with.</param>
    public async Task<IActionResult> OnGetAsync(string mark, string? cause, string? reason)
    {
        if (Causes.Any(c => c.Code == cause))
            Cause = cause!;
        if (reason is { Length: <= 400 })
            Reason = reason;
        return await LoadAsync(mark) ? Page() : NotFound();
    }

    /// <summary>Holds the piece; a picture that is none stops nothing.</summary>
    public async Task<IActionResult> OnPostAsync(string mark, string? reason, string? cause, IFormFile? photo)
    {
        if (!await LoadAsync(mark))
            return NotFound();
        Reason = FreeText.Cleaned(reason ?? string.Empty);
        Cause = cause ?? string.Empty;
        var known = Code.Find<HoldCause>(cause) ?? HoldCause.Doubt;
        var picture = photo is null
            ? (Checked<NewFile>?)null
            : await Upload.PhotoAsync(Here.Actor.Id, photo, $"On hold {Here.Today:yyyy-MM-dd}", Cancel);
        var result = await custody.HoldAsync(
            Piece.Id,
            known,
            Reason,
            Here.Stamp(Submission),
            Cancel,
            picture is { Ok: true } kept ? kept.Value : null
        );
        if (result.Ok && picture is { Ok: false } none)
        {
            Stopped = true;
            Refuse(none.Fault!);
            return Page();
        }

        return await AfterAsync(result, $"/piece/{Piece.Mark}?done=hold", () => Task.CompletedTask);
    }

    private async Task<bool> LoadAsync(string mark)
    {
        if (await pieces.FindAsync(mark, Cancel) is not { } piece)
            return false;
        Piece = piece;
        return true;
    }
}
