using Keralith.Core.Quantities;

namespace Keralith.Core.Lifts;

/// <summary>On two cranes, each over one pick.</summary>
/// <param name="Hooks">Where the two hooks stand along the load, each over its pick.</param>
/// <param name="Centre">Where the centre of gravity lies along the load, from the same point; null where nobody says.</param>
/// <param name="Second">The crane of the second hook; the first is the plan's.</param>
public sealed record StandCranes(IReadOnlyList<PlannedDrop> Hooks, Length? Centre, Crane Second) : PlannedStand
{
    public override int Legs => Hooks.Count;
}

/// <summary>A load on the hooks of two cranes, plumb under each.</summary>
/// <param name="Hooks">Two, at two places along the load.</param>
/// <param name="Centre">Of gravity, along the load from the same point as the hooks; null where nobody says.</param>
/// <param name="Second">The crane of the second hook; the first is the lift's.</param>
public sealed record BetweenCranes(IReadOnlyList<Drop> Hooks, Length? Centre, Crane Second) : Arrangement;

/// <summary>
/// Works out a load on two cranes: the share of each by the statics of two hooks, and what its chart leaves for it
/// (ASME B30.5, P30.1: always a critical lift).
/// </summary>
internal sealed class TwoCranesJudge(Lift lift, BetweenCranes between, List<Remark> remarks)
{
    private decimal[]? _pulls;

    /// <summary>What hangs at each hook.</summary>
    public List<LegOnLift> Hooks()
    {
        if (between.Centre is null)
            Say(
                LiftOutcome.Ask,
                "Where the centre of gravity lies between the hooks is not said: taken at the point they are measured from."
            );
        Say(
            LiftOutcome.Ask,
            "Two cranes carry it: a critical lift, planned and signed by a qualified person, one leading both."
        );
        Say(
            LiftOutcome.Ok,
            "Both hooks stay plumb and rise level: as the load tilts or a hook lags, weight passes to the other crane."
        );
        var centre = between.Centre?.Millimetres ?? 0;
        DropStatics.TurnsOver(between.Hooks, centre, remarks);
        _pulls = DropStatics.Pulls(lift.Load.Weight.Kilograms, between.Hooks, centre, "the hooks", remarks);
        return
        [
            .. between.Hooks.Select(
                (hook, i) =>
                    new LegOnLift(
                        i + 1,
                        90,
                        _pulls?[i],
                        _pulls is null ? null : 0,
                        LiftJudge.LegPieces(lift, hook.Rigging, _pulls?[i], new(1, new(90), 1, Banded: false))
                    )
            ),
        ];
    }

    /// <summary>Both cranes; all rigging is counted at each, for which hook holds what is not told.</summary>
    public (CraneOnLift? First, CraneOnLift? Second) Cranes()
    {
        CraneJudge.Indicator(remarks);
        return (Of(lift.Crane, 0), Of(between.Second, 1));
    }

    private CraneOnLift Of(Crane? crane, int hook)
    {
        var kind = $"crane-{hook + 1}";
        if (crane is not null)
            return CraneJudge.Of(lift, crane, kind, _pulls?[hook]) with { IsCritical = true };
        var none = new PieceJudgement(kind, _pulls?[hook]);
        none.Forbid("no crane and chart is named for this hook");
        return new(none.Done(), null, null, null, IsCritical: true);
    }

    private void Say(LiftOutcome outcome, string text) => remarks.Add(new(outcome, text));
}
