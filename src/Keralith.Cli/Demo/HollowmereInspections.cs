using Keralith.Core.Custody;
using Keralith.Core.Judgement;
using Keralith.Core.Register;
using Keralith.Core.Signing;
using Keralith.Data;

namespace Keralith.Cli.Demo;

/// <summary>The scenario's inspections: signed, corrected, left as drafts.</summary>
public sealed partial class Hollowmere
{
    private async Task Inspect(
        DemoPiece piece,
        InspectionKind kind,
        decimal years,
        DateTimeOffset at,
        params (string Part, string Criterion)[] faults
    )
    {
        var row = (await _pieces.FindAsync(piece.Mark, _cancel))!;
        if (row.State.IsRetired())
            return;
        var stamp = Stamp("inspector", at);
        var draft = await _inspections.OpenAsync(row, kind, stamp, _cancel);
        var entry = PieceEntryReader.Read(piece.Fields).Entry!;
        var answers = piece
            .Answers(entry, _books, kind, years, faults)
            .Select(a => new DraftAnswer(a.Part, a.Criterion, a.Entry, null, stamp.Actor.Name, at))
            .ToList();
        var version = await _inspections.SaveAsync(draft.Value, answers, stamp.Actor, at, _cancel);
        Must(
            await _signing.SignAsync(draft.Value, new(version.Value, DateOnly.FromDateTime(at.Date)), stamp, _cancel),
            piece
        );
    }

    /// <summary>
    /// Its last record names the day it was written, not the day it was inspected: another stands in its place.
    /// </summary>
    private async Task Correct(DemoPiece piece, DateTimeOffset at)
    {
        var row = (await _pieces.FindAsync(piece.Mark, _cancel))!;
        var stamp = Stamp("inspector", at);
        var wrong = (await _inspections.SignedAsync(row.Id, _cancel)).First(i => i.Kind == InspectionKind.Periodic);
        var draft = await new CorrectionStore(_database).OpenAsync(
            wrong,
            row,
            "It names the day the sheet was written up. The shackle was inspected the day before.",
            stamp,
            _cancel
        );
        Must(await _signing.SignAsync(draft.Value, new(1, wrong.InspectedOn.AddDays(-1)), stamp, _cancel), piece);
    }

    /// <summary>A trainee's initial inspection: left half way, or signed and waiting for its countersignature.</summary>
    private async Task Draft(DemoPiece piece, DateTimeOffset at, bool offered = false)
    {
        var row = (await _pieces.FindAsync(piece.Mark, _cancel))!;
        var stamp = Stamp("trainee", at);
        var draft = await _inspections.OpenAsync(row, InspectionKind.Initial, stamp, _cancel);
        var entry = PieceEntryReader.Read(piece.Fields).Entry!;
        var begun = piece
            .Answers(entry, _books, InspectionKind.Initial, 0)
            .TakeWhile(a => offered || !a.Part.StartsWith("leg-1", StringComparison.Ordinal));
        var version = await _inspections.SaveAsync(
            draft.Value,
            begun.Select(a => new DraftAnswer(a.Part, a.Criterion, a.Entry, null, stamp.Actor.Name, at)).ToList(),
            stamp.Actor,
            at.AddMinutes(14),
            _cancel
        );
        if (offered)
            Must(
                await _signing.OfferAsync(
                    draft.Value,
                    new(version.Value, DateOnly.FromDateTime(at.Date)),
                    Stamp("trainee", at.AddMinutes(16)),
                    _cancel
                ),
                piece
            );
    }
}
