using Keralith.Core.Lifts;
using Keralith.Core.People;
using Keralith.Data;
using Keralith.Web.Lifts;
using Keralith.Web.Security;

namespace Keralith.Web.Pages.Lift;

/// <summary>What the pages of one lift share.</summary>
[Takes(Right.PlanLift)]
public abstract class LiftPage(Here here, LiftStore lifts, PieceStore pieces) : YardPage(here)
{
    protected LiftStore Lifts { get; } = lifts;

    protected PieceStore Register { get; } = pieces;

    public BenchedLift Lift { get; private set; } = null!;

    public LiftRow Row => Lift.Row;

    /// <summary>Puts a lift on the bench, as kept or as typed.</summary>
    protected async Task<bool> LoadAsync(Guid id, IReadOnlyDictionary<string, string>? typed = null)
    {
        if (await Lifts.GetAsync(id, Cancel) is not { } row)
            return false;
        Lift = await BenchedLift.OfAsync(row, typed, Lifts, Register, Here, Cancel);
        return true;
    }

    /// <summary>The piece of a mark or serial as a lift looks at it.</summary>
    protected async Task<LiftGear?> GearAsync(string scanned)
    {
        var piece = await Register.FindAsync(ScanModel.MarkIn(scanned), Cancel);
        return piece?.OnLift(Here.Now, await Here.SitesAsync(Cancel));
    }
}
