using Keralith.Core.Custody;
using Keralith.Core.People;
using Keralith.Core.Register;
using Keralith.Data;
using Keralith.Web.Security;
using Microsoft.AspNetCore.Mvc;

namespace Keralith.Web.Pages.Pieces;

/// <summary>Records of a piece, other than inspections, that were made wrongly: what is right stands in their place.</summary>
public sealed class RecordsModel(Here here, PieceStore pieces, PutRightStore store) : YardPage(here)
{
    public Piece Piece { get; private set; } = null!;

    /// <summary>Hand-outs, releases, tags, moves, proof tests, destructions; the last first.</summary>
    public IReadOnlyList<StandingRecord> Records { get; private set; } = [];

    public async Task<IActionResult> OnGetAsync(string mark) => await LoadAsync(mark) ? Page() : NotFound();

    /// <summary>Puts one right.</summary>
    [Takes(Right.Hold)]
    public async Task<IActionResult> OnPostAsync(string mark, Guid record, string? why, string? holder, string? job)
    {
        if (!await LoadAsync(mark))
            return NotFound();
        return await AfterAsync(
            await store.PutAsync(
                Piece.Id,
                record,
                new(why) { Holder = holder, Job = job },
                Here.Stamp(Submission),
                Cancel
            ),
            $"/piece/{Piece.Mark}/records",
            () => LoadAsync(mark)
        );
    }

    /// <summary>What a kind of record is called.</summary>
    public static string Words(RecordKind kind) =>
        kind switch
        {
            RecordKind.HandOut => "Hand-out",
            RecordKind.Release => "End of a hold",
            RecordKind.Tag => "New tag",
            RecordKind.Move => "Move",
            RecordKind.ProofTest => "Proof test",
            RecordKind.Destruction => "Destruction",
        };

    /// <summary>What putting it right comes to.</summary>
    public static string Comes(StandingRecord record) =>
        record.Kind switch
        {
            RecordKind.HandOut when record.IsOut => "It stays out, with whom you write.",
            RecordKind.HandOut => "The hand-out counts for nothing.",
            RecordKind.Release => "The piece is on hold again, as it was.",
            RecordKind.Tag => "The piece is on hold until its identity is proved and a tag fitted.",
            RecordKind.Move => "The move counts for nothing; move it to where it hangs after.",
            RecordKind.ProofTest when record.Passed => "The test counts for nothing, and the piece is on hold.",
            RecordKind.ProofTest => "The test counts for nothing; the hold it put on stays.",
            RecordKind.Destruction => "The piece is condemned, as it was. It never comes back into use.",
        };

    private async Task<bool> LoadAsync(string mark)
    {
        if (await pieces.FindAsync(mark, Cancel) is not { } piece)
            return false;
        Piece = piece;
        Records = await store.OfAsync(piece.Id, Cancel);
        return true;
    }
}
