using Keralith.Core.Custody;
using Keralith.Core.Gear;
using Keralith.Core.Judgement;
using Keralith.Core.People;
using Keralith.Core.Register;
using Keralith.Data;
using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Mvc;

namespace Keralith.Web.Pages.Pieces;

/// <summary>The look before use: the whole piece, one press when it is clean.</summary>
[Authorize(Policy = nameof(Right.CheckFrequent))]
public sealed class CheckModel(Here here, PieceStore pieces, SigningStore signing) : YardPage(here)
{
    public Piece Piece { get; private set; } = null!;

    public IReadOnlyList<Part> Parts { get; private set; } = [];

    public async Task<IActionResult> OnGetAsync(string mark) => await LoadAsync(mark) ? Page() : NotFound();

    public async Task<IActionResult> OnPostAsync(string mark)
    {
        if (!await LoadAsync(mark))
            return NotFound();
        var result = await signing.SignCleanCheckAsync(Piece, Here.Today, Here.Stamp(Submission), Cancel);
        return await AfterAsync(result, $"/piece/{Piece.Mark}?done=check", () => Task.CompletedTask);
    }

    private async Task<bool> LoadAsync(string mark)
    {
        if (
            await pieces.FindAsync(mark, Cancel) is not { } piece
            || piece.State.IsRetired()
            || piece.State == PieceState.New
        )
            return false;
        Piece = piece;
        var site = await Here.SiteOfAsync(piece, Cancel);
        Parts = new Case(site.Books, InspectionKind.Frequent, piece.GearAt(site), [], [])
        {
            Own = site.QuestionsFor(piece.Gear.Family, piece.Maker, piece.Model),
        }
            .Parts.Select(p =>
                p with
                {
                    Criteria = p.Criteria.Where(c => Judge.IsAsked(c, InspectionKind.Frequent)).ToList(),
                }
            )
            .Where(p => p.Criteria.Count > 0)
            .ToList();
        return true;
    }
}
