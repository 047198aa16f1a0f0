using Keralith.Core.Custody;
using Keralith.Core.Register;
using Keralith.Data;

namespace Keralith.Web.Pages.Cage;

public sealed class IndexModel(Here here, PieceStore pieces, CustodyStore custody, AwayStore away) : YardPage(here)
{
    public IReadOnlyList<(Piece Piece, IReadOnlyList<HoldRow> Holds, string Move)> Held { get; private set; } = [];

    /// <summary>What is at a shop or on a test bed.</summary>
    public IReadOnlyList<AwayRow> Away { get; private set; } = [];

    public IReadOnlyList<Piece> Condemned { get; private set; } = [];

    public async Task OnGetAsync()
    {
        Away = await away.AllAsync(pieces, Cancel);
        var held = await pieces.ListAsync(new() { State = PieceState.Held, Most = 300 }, Cancel);
        var holds = (await custody.OpenHoldsAsync(Cancel)).ToLookup(h => h.Piece);
        Held = held.Where(p => holds[p.Id].Any())
            .Select(p =>
                (
                    p,
                    (IReadOnlyList<HoldRow>)holds[p.Id].ToList(),
                    HoldRules.NextMove(holds[p.Id].First().Cause, p.Verdict)
                )
            )
            .OrderBy(h => h.Item2[0].PlacedAt)
            .ToList();
        Condemned = await pieces.ListAsync(new() { State = PieceState.Condemned, Most = 300 }, Cancel);
    }

    public string Since(IReadOnlyList<HoldRow> holds)
    {
        var days = (Here.Now - holds[0].PlacedAt).Days;
        return days switch
        {
            0 => "Since today:",
            1 => "Since yesterday:",
            _ => $"For {days} days:",
        };
    }
}
