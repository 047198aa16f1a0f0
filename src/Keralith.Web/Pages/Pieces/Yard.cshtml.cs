using Keralith.Core.Gear;
using Keralith.Core.People;
using Keralith.Core.Register;
using Keralith.Core.Sites;
using Keralith.Data;
using Keralith.Web.Security;
using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Mvc;

namespace Keralith.Web.Pages.Pieces;

/// <summary>What happens to a piece in the yard: moved, lost and found, painted, counted, split out, mended.</summary>
[Authorize(Policy = nameof(Right.Hold))]
public sealed class YardModel(
    Here here,
    PieceStore pieces,
    SiteStore sites,
    YardStore yard,
    IssueStore issues,
    CodeStore codes,
    Database database
) : YardPage(here)
{
    public Piece Piece { get; private set; } = null!;

    public Site Site { get; private set; } = null!;

    public IReadOnlyList<Store> Stores { get; private set; } = [];

    /// <summary>The further codes it carries.</summary>
    public IReadOnlyList<string> Codes { get; private set; } = [];

    public IEnumerable<Part> Parts =>
        Catalogue.Parts(Piece.Gear, Site.Books).Where(p => p.Path is not ("tag" or "whole" or "legs"));

    /// <summary>The measures with a figure when new.</summary>
    public IReadOnlyList<(Part Part, Criterion Criterion)> Figures => PieceEntryReader.BaselinesOf(Piece.Gear).ToList();

    public async Task<IActionResult> OnGetAsync(string mark) => await LoadAsync(mark) ? Page() : NotFound();

    [Takes(Right.Move)]
    public Task<IActionResult> OnPostMoveAsync(string mark, int store, string? peg) =>
        DoAsync(mark, stamp => yard.MoveAsync([Piece.Id], store, peg ?? string.Empty, stamp, Cancel));

    [Takes(Right.Issue)]
    public Task<IActionResult> OnPostIssueAsync(string mark, string? holder, string? job, string? back) =>
        DoAsync(mark, async stamp =>
            DayReader.Read(back) is { Ok: false } unread
                ? unread.Refusal!
                : await issues.IssueAsync(
                    Piece.Id,
                    Short(holder),
                    Short(job),
                    DayReader.Read(back).Value,
                    stamp,
                    Cancel
                )
        );

    [Takes(Right.Issue)]
    public Task<IActionResult> OnPostReturnAsync(string mark, string? doubt) =>
        DoAsync(mark, stamp => issues.ReturnAsync(Piece.Id, Short(doubt), stamp, Cancel));

    public Task<IActionResult> OnPostLostAsync(string mark, string? reason) =>
        DoAsync(mark, stamp => yard.LoseAsync(Piece.Id, Short(reason), stamp, Cancel));

    public Task<IActionResult> OnPostFoundAsync(string mark, string? reason) =>
        DoAsync(mark, stamp => yard.FindAsync(Piece.Id, Short(reason), stamp, Cancel));

    [Takes(Right.Register)]
    public Task<IActionResult> OnPostCodeAsync(string mark, string? scanned) =>
        DoAsync(mark, stamp => codes.BindAsync(Piece.Id, scanned, stamp, Cancel));

    [Takes(Right.Register)]
    public Task<IActionResult> OnPostCodeOffAsync(string mark, string? code, string? reason) =>
        DoAsync(mark, stamp => codes.TakeOffAsync(Piece.Id, Short(code), reason, stamp, Cancel));

    [Takes(Right.PaintSeason)]
    public Task<IActionResult> OnPostSeasonAsync(string mark) =>
        DoAsync(mark, stamp => yard.PaintAsync([Piece.Id], stamp, Cancel));

    [Takes(Right.Register)]
    public Task<IActionResult> OnPostCountAsync(
        string mark,
        int version,
        string? seen,
        string? rejected,
        string? reason
    ) =>
        DoAsync(mark, async stamp =>
            int.TryParse(seen, out var s) && int.TryParse(rejected, out var r)
                ? await yard.CountLotAsync(Piece.Id, version, s, r, Short(reason), stamp, Cancel)
                : new Refusal("Seen and rejected are whole numbers.")
        );

    [Takes(Right.Register)]
    public Task<IActionResult> OnPostSplitAsync(string mark, int version, string? own, string? reason) =>
        DoAsync(mark, stamp =>
            yard.SplitLotAsync(Piece.Id, version, own ?? string.Empty, Short(reason), stamp, Cancel)
        );

    [Takes(Right.Retag)]
    public Task<IActionResult> OnPostPartAsync(
        string mark,
        int version,
        string? part,
        string? what,
        string? fittedBy,
        string? reason
    ) => DoAsync(mark, async stamp =>
        {
            var typed = Register.EntryForm.Typed(Request.Form).Where(f => f.Value.Trim().Length > 0).ToDictionary();
            var (figures, faults) = PieceEntryReader.Figures(Piece.Gear, typed);
            return faults.Count > 0
                ? new Refusal(string.Join(" ", faults.Values))
                : await yard.ReplacePartAsync(
                    Piece.Id,
                    version,
                    new(part ?? string.Empty, Short(what), Short(fittedBy), Short(reason), figures),
                    stamp,
                    Cancel
                );
        });

    private async Task<IActionResult> DoAsync(string mark, Func<Stamp, Task<Checked<Recorded>>> act)
    {
        if (!await LoadAsync(mark))
            return NotFound();
        return await AfterAsync(
            await act(Here.Stamp(Submission)),
            $"/piece/{Piece.Mark}?done={Request.Query["handler"].ToString().ToLowerInvariant()}",
            async () =>
            {
                Submission = Guid.CreateVersion7();
                await LoadAsync(mark);
            }
        );
    }

    private async Task<bool> LoadAsync(string mark)
    {
        if (await pieces.FindAsync(mark, Cancel) is not { } piece)
            return false;
        Codes = await database.AskAsync(t => CodeStore.Of(t, piece.Id), Cancel);
        (Piece, Site, Stores) = (piece, await Here.SiteOfAsync(piece, Cancel), await sites.StoresAsync(Cancel));
        return true;
    }

    private static string Short(string? text) => text ?? string.Empty;
}
