using Keralith.Core.Lifts;
using Keralith.Core.People;
using Keralith.Data;
using Keralith.Web.Lifts;
using Microsoft.AspNetCore.Mvc.Filters;

namespace Keralith.Web.Pages.Lift;

/// <summary>What the pages of one lift share.</summary>
public abstract class LiftPage(Here here, LiftStore lifts, PieceStore pieces) : YardPage(here)
{
    protected LiftStore Lifts { get; } = lifts;

    protected PieceStore Register { get; } = pieces;

    public BenchedLift Lift { get; private set; } = null!;

    public LiftRow Row => Lift.Row;

    /// <summary>Looking is everybody's; what is sent takes the right to plan.</summary>
    public override Task OnPageHandlerExecutionAsync(
        PageHandlerExecutingContext context,
        PageHandlerExecutionDelegate next
    )
    {
        if (!HttpMethods.IsPost(Request.Method) || Here.May(Right.PlanLift))
            return next();
        context.Result = Forbid();
        return Task.CompletedTask;
    }

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
