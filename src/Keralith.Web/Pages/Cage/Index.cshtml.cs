using Keralith.Core.Custody;
using Keralith.Core.Judgement;
using Keralith.Data;

namespace Keralith.Web.Pages.Cage;

public sealed class IndexModel(Here here, PieceStore pieces, CustodyStore custody) : YardPage(here)
{
    public IReadOnlyList<(PieceRow Piece, IReadOnlyList<HoldRow> Holds, string Move)> Held { get; private set; } = [];

    public IReadOnlyList<PieceRow> Condemned { get; private set; } = [];

    public async Task OnGetAsync()
    {
        var held = await pieces.ListAsync(new() { State = PieceState.Held, Most = 300 }, Cancel);
        var holds = (await custody.OpenHoldsAsync(Cancel)).ToLookup(h => h.Piece);
        Held = held.Where(p => holds[p.Id].Any()).Select(p => (p, (IReadOnlyList<HoldRow>)holds[p.Id].ToList(), Move(p, holds[p.Id].First()))).OrderBy(h => h.Item2[0].PlacedAt).ToList();
        Condemned = await pieces.ListAsync(new() { State = PieceState.Condemned, Most = 300 }, Cancel);
    }

    public string Since(IReadOnlyList<HoldRow> holds)
    {
        var days = (Here.Now - holds[0].PlacedAt).Days;
        return days switch { 0 => "Since today:", 1 => "Since yesterday:", _ => $"For {days} days:" };
    }

    private static string Move(PieceRow piece, HoldRow oldest) => oldest.Cause switch
    {
        HoldCause.Doubt => "Inspector's move.",
        HoldCause.Marking => "Qualified person's move: re-tag.",
        HoldCause.VerdictHold or HoldCause.VerdictRemove or HoldCause.Event => piece.Verdict is VerdictKind.Fit or VerdictKind.Watch ? "Inspected clean since: qualified person's move." : "Qualified person's move.",
        _ => throw new InvalidOperationException($"No such cause: {oldest.Cause}."),
    };
}
