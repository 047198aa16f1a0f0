using Keralith.Core.People;
using Keralith.Core.Register;
using Keralith.Data;
using Keralith.Web.Files;
using Keralith.Web.Security;
using Microsoft.AspNetCore.Mvc;

namespace Keralith.Web.Pages.Pieces;

/// <summary>Certificates, reports and pictures of a piece.</summary>
[RequestSizeLimit(Upload.MostRequest)]
[RequestFormLimits(MultipartBodyLengthLimit = Upload.MostRequest)]
public sealed class FilesModel(Here here, PieceStore pieces, FileStore files) : YardPage(here)
{
    public Piece Piece { get; private set; } = null!;

    public IReadOnlyList<FileRow> Attached { get; private set; } = [];

    public string Kind { get; private set; } = Code.Of(FileKind.Photo);

    public string? FileTitle { get; private set; }

    public string? Dated { get; private set; }

    public async Task<IActionResult> OnGetAsync(string mark) => await LoadAsync(mark) ? Page() : NotFound();

    [Takes(Right.Attach)]
    public async Task<IActionResult> OnPostAsync(
        string mark,
        IFormFile? file,
        string? kind,
        string? title,
        string? dated
    )
    {
        if (!await LoadAsync(mark))
            return NotFound();
        (Kind, FileTitle, Dated) = (kind ?? Kind, title, dated);
        var read = await Upload.ReadAsync(Here.Actor.Id, file, kind, title, dated, Cancel);
        if (!read.Ok)
        {
            Refuse(read.Fault!);
            return Page();
        }

        return await AfterAsync(
            await files.AttachAsync([Piece.Id], read.Value, Here.Stamp(Submission), Cancel),
            $"/piece/{Piece.Mark}/files",
            () => Task.CompletedTask
        );
    }

    private async Task<bool> LoadAsync(string mark)
    {
        if (await pieces.FindAsync(mark, Cancel) is not { } piece)
            return false;
        (Piece, Attached) = (piece, await files.OfAsync(piece.Id, Cancel));
        return true;
    }
}
