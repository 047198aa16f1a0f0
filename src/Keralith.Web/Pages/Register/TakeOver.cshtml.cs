using Keralith.Core.Judgement;
using Keralith.Core.People;
using Keralith.Core.Quantities;
using Keralith.Data;
using Keralith.Web.Files;
using Keralith.Web.Security;
using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Mvc;

namespace Keralith.Web.Pages.Register;

/// <summary>
/// What gear taken over still needs: its report, its marking read, its figures when new, its first inspection here.
/// </summary>
[Authorize(Policy = nameof(Right.Register))]
[RequestSizeLimit(MostRequest)]
[RequestFormLimits(MultipartBodyLengthLimit = MostRequest)]
public sealed class TakeOverModel(Here here, TakeOverStore takeOver, FileStore files) : YardPage(here)
{
    public const int MostAtOnce = 400;
    private const long MostRequest = Received.MostBytes + (256 * 1024);

    public IReadOnlyList<TakenOver> All { get; private set; } = [];

    public IReadOnlyList<MissingFigure> Figures { get; private set; } = [];

    public IReadOnlyList<TakenOver> Unread => All.Where(p => !p.TagRead).ToList();

    public IReadOnlyList<TakenOver> ToAccept =>
        All.Where(p => p is { Evidence: not null, HasFile: true, Accepted: false, State: Core.Custody.PieceState.New })
            .ToList();

    public IReadOnlyList<IGrouping<string, TakenOver>> WithoutFile =>
        All.Where(p => p is { Evidence: not null, HasFile: false, Accepted: false, State: Core.Custody.PieceState.New })
            .GroupBy(p => p.Evidence!)
            .Take(60)
            .ToList();

    public IEnumerable<(string What, int Done, int Left)> Progress
    {
        get
        {
            var reported = All.Where(p => p.Evidence is not null).ToList();
            yield return ("Report's file attached", reported.Count(p => p.HasFile), reported.Count(p => !p.HasFile));
            yield return (
                "Report read and accepted",
                reported.Count(p => p.Accepted),
                reported.Count(p => !p.Accepted)
            );
            yield return ("Marking read", All.Count(p => p.TagRead), All.Count(p => !p.TagRead));
            yield return (
                "Every figure when new known",
                All.Count(p => p.Missing.Count == 0),
                All.Count(p => p.Missing.Count > 0)
            );
            yield return ("First inspection here", All.Count(p => p.Inspected), All.Count(p => !p.Inspected));
        }
    }

    public Task OnGetAsync() => LoadAsync();

    [Takes(Right.Attach)]
    public async Task<IActionResult> OnPostFileAsync(Guid[] piece, IFormFile? file, string? title, string? dated)
    {
        var read = await Upload.ReadAsync(Here.Actor.Id, file, Code.Of(FileKind.Report), title, dated, Cancel);
        return await DoneAsync(
            read.Ok
                ? await files.AttachAsync(piece, read.Value, Here.Stamp(Submission), Cancel)
                : new Refusal(read.Fault!)
        );
    }

    [Takes(Right.AcceptReport)]
    public async Task<IActionResult> OnPostAcceptAsync(Guid[] piece)
    {
        return await DoneAsync(
            piece.Length == 0
                ? new Refusal("Tick the pieces.")
                : await files.AcceptReportsAsync(piece, Here.Stamp(Submission), Cancel)
        );
    }

    public async Task<IActionResult> OnPostFillAsync(
        Guid[] piece,
        string? criterion,
        string? kind,
        string? basis,
        string? figure,
        string? links,
        string? twinFigure,
        string? twinLinks
    )
    {
        var from = Code.Find<BaselineBasis>(basis);
        if (piece.Length == 0)
            return await DoneAsync(new Refusal("Tick the pieces."));
        if (from is not (BaselineBasis.Catalogue or BaselineBasis.Twin or BaselineBasis.Provisional))
            return await DoneAsync(new Refusal("Choose where the figure comes from."));
        BaselineFigure? given = null;
        if (from != BaselineBasis.Provisional)
        {
            var length = Length.Read(from == BaselineBasis.Twin ? twinFigure : figure);
            if (!length.Ok)
                return await DoneAsync(new Refusal($"{length.Fault}."));
            given = new(
                length.Value,
                from.Value,
                int.TryParse(from == BaselineBasis.Twin ? twinLinks : links, out var n) && n is >= 1 and <= 1000
                    ? n
                    : null
            );
        }

        return await DoneAsync(
            await takeOver.FillAsync(
                piece,
                criterion ?? string.Empty,
                kind ?? string.Empty,
                given,
                Here.Stamp(Submission),
                Cancel
            )
        );
    }

    private Task<IActionResult> DoneAsync(Checked<Recorded> result) => AfterAsync(result, "/register/take-over", () =>
        {
            Submission = Guid.CreateVersion7();
            return LoadAsync();
        });

    private async Task LoadAsync()
    {
        All = await takeOver.ListAsync(Cancel);
        Figures = await takeOver.MissingAsync(All, Cancel);
    }
}
