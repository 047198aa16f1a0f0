using Keralith.Core.Quantities;
using Keralith.Core.Tags;

namespace Keralith.Core.Lifts;

/// <summary>
/// Works out a load on legs from one hook: alike at one angle by the textbook's share, or to known points by the statics of
/// each (ASME B30.9; statics).
/// </summary>
internal static class LegsJudge
{
    /// <summary>
    /// How far a typed centre of gravity may lie from the load's own figures before it is asked about, and at most: a share
    /// of the widest distance of two picks; with one pick, in millimetres.
    /// </summary>
    private const double CentreSlackOfPicks = 0.05,
        CentreSlack = 10,
        MostCentreOfPicks = 0.20,
        MostCentre = 40,
        CentreRounding = 1e-6;

    /// <summary>Flatter than this a leg has no pull worth a figure, in degrees.</summary>
    private const decimal Level = 0.0001m;

    /// <summary>Legs alike at one angle.</summary>
    public static List<LegOnLift> Symmetric(Lift lift, SymmetricLegs legs, List<Remark> remarks)
    {
        var (angle, count) = (legs.Angle, legs.Rigging.Count);
        if (angle.Degrees < Level)
        {
            remarks.Add(new(LiftOutcome.NotPermitted, "Level legs lift nothing: the pull in them has no end."));
            return [];
        }

        var four = lift.FourLegs ?? FourLegs.ThreeShare;
        Counted(count, four, remarks);
        Standing(lift, count, [(1, angle.Degrees)], legs.Rigging, remarks);
        var share = HitchFactors.Share(count, four);
        var sine = HitchFactors.Sine(angle);
        var weight = lift.Load.Weight.Kilograms;
        var basket = legs.Rigging[0].Hitch == Hitch.Basket;
        var tension = Figures.Ratio(weight, basket ? share : share * sine);
        var part = basket ? Figures.Ratio(weight, share * 2 * sine) : tension;
        var stand = new LegStand(count, angle, share);
        var inward = part * HitchFactors.Cosine(angle);
        if (inward > 0)
            remarks.Add(
                new(
                    LiftOutcome.Ok,
                    $"Each leg pulls inward on the load with {Round(inward)} kg: will it buckle, or the eye bolts bend? Lift slowly and watch."
                )
            );
        return
        [
            .. legs.Rigging.Select(
                (rigging, i) =>
                    new LegOnLift(
                        i + 1,
                        angle.Degrees,
                        tension,
                        inward,
                        LiftJudge.LegPieces(lift, rigging, tension, stand)
                    )
            ),
        ];
    }

    /// <summary>Legs from one hook to points that are known.</summary>
    public static List<LegOnLift> ToPoints(Lift lift, LegsToPoints points, List<Remark> remarks)
    {
        var (geometry, count) = (points.Geometry, points.Rigging.Count);
        var four = lift.FourLegs ?? FourLegs.TwoCarry;
        if (count == 4)
            Counted(count, four, remarks);
        if (count == 4 && four == FourLegs.ThreeShare)
            remarks.Add(
                new(LiftOutcome.Caution, "Four legs share only on a load that gives, or with legs adjusted to it.")
            );
        if (lift.Load.Centre is { } own && !points.OwnIsSetAside)
            Centred(points, own, remarks);
        Hanging(geometry, remarks);
        Standing(
            lift,
            count,
            [.. geometry.LeastAngles.Select((a, i) => (i + 1, Figures.Of(a)))],
            points.Rigging,
            remarks
        );
        if (count > 1 && lift.Books.Any(b => b.HasBands))
            remarks.Add(
                new(
                    LiftOutcome.Ok,
                    "Europe's bands are for legs alike at one angle: here each leg's own pull is worked out."
                )
            );
        var pulls = geometry.Pulls(four);
        if (pulls is null)
            remarks.Add(
                new(
                    LiftOutcome.NotPermitted,
                    "A leg would have to push: the centre of gravity lies outside the picks. Move the picks or the hook."
                )
            );
        var legs = new List<LegOnLift>();
        for (var i = 0; i < count; i++)
        {
            var angle = Figures.Of(geometry.Angles[i]);
            decimal? tension = pulls is null ? null : Figures.Of(pulls[i] * (double)lift.Load.Weight.Kilograms);
            var inward = pulls is null
                ? (decimal?)null
                : Figures.Of(
                    pulls[i] * (double)lift.Load.Weight.Kilograms * Math.Cos(geometry.Angles[i] * Math.PI / 180)
                );
            legs.Add(
                new(
                    i + 1,
                    angle,
                    tension,
                    inward,
                    LiftJudge.LegPieces(lift, points.Rigging[i], tension, new(count, new(angle), null))
                )
            );
        }

        return legs;
    }

    private static void Counted(int legs, FourLegs four, List<Remark> remarks)
    {
        if (legs < 3)
            return;
        if (four == FourLegs.TwoCarry)
            remarks.Add(new(LiftOutcome.Ok, "Taken as a rigid load: it can rock on two of its legs."));
        else if (legs == 4)
            remarks.Add(new(LiftOutcome.Ok, "Four legs are counted as three: four seldom share."));
    }

    /// <summary>A centre of gravity somebody typed against the one the load's own figures give.</summary>
    private static void Centred(LegsToPoints points, LoadCentre own, List<Remark> remarks)
    {
        if (!points.CentreIsTyped)
        {
            remarks.Add(
                own.InPlanOnly
                    ? new(
                        LiftOutcome.Ask,
                        "The centre of gravity is weighed in plan; its height is not known and taken as 0: "
                            + "a tilt or the trial lift tells it."
                    )
                    : new(LiftOutcome.Ok, "The centre of gravity is worked out from the parts.")
            );
            return;
        }

        if (CentreApart(points.Geometry, own) is ({ } outcome, var apart))
            remarks.Add(
                new(
                    outcome,
                    $"The centre of gravity as typed lies {apart:0} mm from where the load's own figures put it: which is right?"
                )
            );
    }

    /// <summary>What a centre of gravity as drawn comes to beside another source of it, and how far they lie apart.</summary>
    /// <returns>No outcome where they are near enough; the distance in millimetres.</returns>
    internal static (LiftOutcome? Outcome, double Apart) CentreApart(LegGeometry geometry, LoadCentre other)
    {
        var off = geometry.Centre - other.At;
        var apart = (other.InPlanOnly ? off with { Z = 0 } : off).Norm;
        var widest = geometry.WidestPicks;
        var (asks, most) =
            widest > 0 ? (widest * CentreSlackOfPicks, widest * MostCentreOfPicks) : (CentreSlack, MostCentre);
        return (
            apart > most + CentreRounding ? LiftOutcome.NotPermitted
            : apart > asks + CentreRounding ? LiftOutcome.Ask
            : null,
            apart
        );
    }

    /// <summary>What the load does when it hangs free.</summary>
    private static void Hanging(LegGeometry geometry, List<Remark> remarks)
    {
        foreach (var (what, degrees) in new[] { ("tilts", geometry.Tilt), ("turns", geometry.Turn) })
        {
            if (degrees is { } by)
                LiftJudge.Tilts($"The load {what}", by, "rig again with the hook over the centre of gravity", remarks);
        }

        if (geometry.Offset >= 1)
            remarks.Add(
                new(
                    LiftOutcome.Ok,
                    $"The hook is drawn {geometry.Offset:0} mm off the centre of gravity: the load swings there as it lifts."
                )
            );
        switch (geometry.Stability)
        {
            case LiftOutcome.NotPermitted:
                remarks.Add(
                    new(
                        LiftOutcome.NotPermitted,
                        "Slung at or below its centre of gravity the load turns over: take hold above it."
                    )
                );
                break;
            case LiftOutcome.Ask:
                remarks.Add(
                    new(
                        LiftOutcome.Ask,
                        "All picks are at or below the centre of gravity: the load may turn over. Ask a qualified person."
                    )
                );
                break;
            case LiftOutcome.Caution:
                remarks.Add(
                    new(LiftOutcome.Caution, "Some picks are at or below the centre of gravity: watch how it hangs.")
                );
                break;
            case LiftOutcome.Ok or LiftOutcome.Overloaded:
                break;
            default:
                throw new InvalidOperationException("No such outcome.");
        }
    }

    /// <summary>How flat legs may stand, and what one leg or hitch alone brings with it.</summary>
    private static void Standing(
        Lift lift,
        int legs,
        IReadOnlyList<(int Leg, decimal Angle)> angles,
        IReadOnlyList<LegRigging> rigging,
        List<Remark> remarks
    )
    {
        var (leg, least) = angles.MinBy(a => a.Angle);
        var which =
            angles.Count > 1 ? $"Leg {leg} stands"
            : legs > 1 ? "The legs stand"
            : "The leg stands";
        var said = $"{QuantityFormat.Number(Round(least))} deg from the horizontal";
        var choked = rigging.Where(r => r.Hitch == Hitch.Choker).ToList();
        var single = choked.Any(r => !r.DoubleWrap);
        var baskets = rigging.Count(r => r.Hitch == Hitch.Basket);
        var flattest =
            baskets > 1 || (choked.Count > 1 && single) ? HitchFactors.LeastAngleOfChokedLegs
            : choked.Count > 1 ? HitchFactors.LeastAngleOfDoubleWraps
            : HitchFactors.LeastAngle;
        if (least < HitchFactors.LeastAngle)
            remarks.Add(
                new(
                    LiftOutcome.NotPermitted,
                    $"{which} {said}: under {HitchFactors.LeastAngle:0} deg nothing is lifted. Longer slings, or a beam."
                )
            );
        else if (least < flattest)
            remarks.Add(
                new(
                    LiftOutcome.NotPermitted,
                    $"{which} {said}: two or more {(baskets > 1 ? "baskets" : "choked legs")} under {flattest:0} deg slide together (a cautious site rule)."
                )
            );
        else if (HitchFactors.CautionBelow(legs, lift.Books) is var watched && least < watched)
            remarks.Add(
                new(
                    LiftOutcome.Caution,
                    $"{which} {said}, under {watched:0}: the pull rises fast. Longer slings bring it to 60."
                )
            );
        if (legs == 1)
            LiftJudge.OneLeg(lift, rigging[0], remarks);
    }

    private static decimal Round(decimal figure) => QuantityFormat.Round(figure, 2);
}
