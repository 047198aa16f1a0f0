using Keralith.Core.Quantities;
using Keralith.Core.Tags;

namespace Keralith.Core.Lifts;

/// <summary>One change that would help, tried by the same judgement.</summary>
/// <param name="Text">What to change.</param>
/// <param name="Outcome">What the lift would come to then.</param>
/// <param name="Utilisation">The largest share used then; null where no piece has a figure.</param>
public sealed record LiftFix(string Text, LiftOutcome Outcome, decimal? Utilisation);

/// <summary>What would make a lift better: each change is tried, and named only where it helps.</summary>
public static class LiftFixes
{
    private static readonly Angle Sixty = new(60);

    /// <summary>Changes that bring a lift to a milder outcome or a smaller share used, the best first.</summary>
    public static IReadOnlyList<LiftFix> Of(Lift lift, LiftResult now)
    {
        if (
            now.Outcome <= LiftOutcome.Caution
            && now.Weakest?.Piece.Utilisation is null or <= PieceJudgement.CautionShare
        )
            return [];
        var fixes = new List<LiftFix>();
        foreach (var (text, changed) in Changes(lift, now))
        {
            var then = LiftJudge.Of(changed);
            var used = then.Weakest?.Piece.Utilisation;
            if (then.Outcome < now.Outcome || (then.Outcome == now.Outcome && used < now.Weakest?.Piece.Utilisation))
                fixes.Add(new(text, then.Outcome, used));
        }

        if (
            now.Weakest is { Piece: { Utilisation: > PieceJudgement.CautionShare, Allowed: > 0 } piece }
            && Marked(lift, now.Weakest) is { } marked
        )
        {
            // Over its rating it wants as much as is asked of it; under it, as much as leaves room.
            var share = piece.Utilisation!.Value > 1 ? 1 : PieceJudgement.CautionShare;
            var least = Mass.FromKilograms(marked.Kilograms * piece.Utilisation!.Value / share).In(marked.Unit);
            fixes.Add(
                new(
                    $"A {piece.Kind.Replace('-', ' ')} marked at least {QuantityFormat.Rounded(Mass.FromKilograms(least.Kilograms + 0.999m * Unit(marked.Unit)), marked.Unit)}, everything else as it is.",
                    share == 1 ? LiftOutcome.Caution : LiftOutcome.Ok,
                    share
                )
            );
        }

        return [.. fixes.OrderBy(f => f.Outcome).ThenBy(f => f.Utilisation)];
    }

    private static IEnumerable<(string Text, Lift Lift)> Changes(Lift lift, LiftResult now)
    {
        if (lift.Arrangement is SymmetricLegs legs)
        {
            if (legs.Angle < Sixty)
                yield return (
                    "Longer slings, so that the legs stand at 60 deg.",
                    lift with
                    {
                        Arrangement = legs with { Angle = Sixty },
                    }
                );
            if (legs.Angle.Degrees < 90 && legs.Rigging.Count > 1)
                yield return (
                    "A lifting beam over the load, so that the legs hang straight.",
                    lift with
                    {
                        Arrangement = legs with { Angle = new(90) },
                    }
                );
            if (legs.Rigging.Count is 1 or 2)
                yield return (
                    $"One leg more, {legs.Rigging.Count + 1} in all{(legs.Rigging.Count == 1 ? ", at 60 deg" : string.Empty)}.",
                    lift with
                    {
                        Arrangement = new SymmetricLegs(
                            legs.Rigging.Count == 1 ? Sixty : legs.Angle,
                            [.. legs.Rigging, legs.Rigging[0]]
                        ),
                    }
                );
            if (legs.Rigging[0].Hitch == Hitch.Choker)
                yield return (
                    "A basket instead of a choker, where the load can't slide in it.",
                    Each(lift, r => r with { Hitch = Hitch.Basket })
                );
            if (legs.Rigging[0] is { Hitch: Hitch.Choker, DoubleWrap: false })
                yield return ("Wrapped twice before it is choked.", Each(lift, r => r with { DoubleWrap = true }));
        }

        if (Has<EyeBoltOnLift>(lift))
            yield return (
                "Swivel hoist rings of the same rating in place of the eye bolts.",
                Components(lift, c => c is EyeBoltOnLift bolt ? new HoistRingOnLift(bolt.RatedLoad) : c)
            );
        if (Has<ShackleOnLift>(lift))
            yield return (
                "The shackles turned in line with their legs.",
                Components(lift, c =>
                    c is ShackleOnLift { Pull: not null } shackle ? shackle with { Pull = new(0) } : c
                )
            );
    }

    private static bool Has<T>(Lift lift) => Riggings(lift).Any(r => r.Components.Any(c => c is T));

    private static IReadOnlyList<LegRigging> Riggings(Lift lift) =>
        lift.Arrangement switch
        {
            SymmetricLegs legs => legs.Rigging,
            LegsToPoints points => points.Rigging,
            _ => [],
        };

    private static Lift Components(Lift lift, Func<LiftComponent, LiftComponent> change) =>
        Each(lift, r => r with { Components = [.. r.Components.Select(change)] });

    private static Lift Each(Lift lift, Func<LegRigging, LegRigging> change) =>
        lift with
        {
            Arrangement = lift.Arrangement switch
            {
                SymmetricLegs legs => legs with { Rigging = [.. legs.Rigging.Select(change)] },
                LegsToPoints points => points with { Rigging = [.. points.Rigging.Select(change)] },
                var other => other,
            },
        };

    private static Mass? Marked(Lift lift, WeakestPiece weakest) =>
        weakest.Leg is { } leg
            ? Riggings(lift).ElementAtOrDefault(leg - 1) is { } rigging
                ? weakest.At == 0
                    ? rigging.Sling.RatedLoad
                    : rigging.Components[weakest.At - 1].RatedLoad
                : null
            : lift.Above[weakest.At].RatedLoad;

    private static decimal Unit(MassUnit unit) =>
        unit switch
        {
            MassUnit.Pound => Mass.KilogramsPerPound,
            MassUnit.Tonne => 10,
            MassUnit.ShortTon => 20 * Mass.KilogramsPerPound,
            _ => 1,
        };
}
