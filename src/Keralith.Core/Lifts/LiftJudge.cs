using Keralith.Core.Quantities;
using Keralith.Core.Tags;

namespace Keralith.Core.Lifts;

/// <summary>
/// Works out what an arrangement may carry: the pull of each leg, what is asked of each piece and what it may carry so,
/// the weakest piece
/// and the largest load. Planning help for competent people; every figure is for the arrangement as given.
/// </summary>
public static class LiftJudge
{
    /// <summary>Said first, whatever comes out.</summary>
    public const string Caution =
        "Planning help for competent people: the maker's instructions, local code and a qualified person come first.";

    /// <summary>Over this a tilt or turn wants watching, in degrees: a site default.</summary>
    public const double CautionTilt = 2;

    /// <summary>Over this a load is rigged again, in degrees: a site default.</summary>
    public const double MostTilt = 5;

    /// <summary>Over this share of a piece above, what it carries of weights nobody knows is asked about: a site default.</summary>
    private const decimal UsedWithoutWeights = 0.9m;

    /// <summary>Flatter than this a leg has no pull worth a figure, in degrees.</summary>
    private const decimal Level = 0.0001m;

    /// <summary>Works out a lift.</summary>
    public static LiftResult Of(Lift lift)
    {
        var remarks = new List<Remark> { new(LiftOutcome.Ok, Caution) };
        Weight(lift.Load, remarks);
        var legs = lift.Arrangement switch
        {
            SymmetricLegs symmetric => Symmetric(lift, symmetric, remarks),
            LegsToPoints points => ToPoints(lift, points, remarks),
            BetweenHoists between => Between(lift, between, remarks),
            _ => throw new System.Diagnostics.UnreachableException(),
        };
        var above = lift
            .Above.Select(
                (c, i) =>
                    ComponentOnLift.Judge(
                        c,
                        lift.Load.Weight.Kilograms + lift.Below(i),
                        new(null, null, i == 0 ? null : lift.Above[i - 1]),
                        null,
                        lift.Books
                    )
            )
            .ToList();
        if (above.Count > 0)
            OwnWeights(lift, above, remarks);
        foreach (var (leg, piece) in Pieces(legs, above))
        {
            foreach (var remark in piece.Remarks)
            {
                var which =
                    leg is { } number
                    && legs.Count > 1
                    && !(
                        lift.Arrangement is SymmetricLegs alike
                        && alike.Rigging.All(r => ReferenceEquals(r, alike.Rigging[0]))
                    )
                        ? $"{(lift.Arrangement is BetweenHoists ? "Hoist" : "Leg")} {number}, {Name(piece)}"
                    : leg is null ? $"Above, {Name(piece)}"
                    : char.ToUpperInvariant(Name(piece)[0]) + Name(piece)[1..];
                var said = remark with { Text = $"{which}: {remark.Text}." };
                if (!remarks.Contains(said))
                    remarks.Add(said);
            }
        }

        var outcome = LiftOutcome.Ok;
        foreach (var remark in remarks)
            outcome = Worse(outcome, remark.Outcome);
        foreach (var (_, piece) in Pieces(legs, above))
            outcome = Worse(outcome, piece.Outcome);
        return new()
        {
            Outcome = outcome,
            Legs = legs,
            Above = above,
            Weakest = Weakest(legs, above),
            Capacity = Capacity(lift, legs, above, outcome),
            Geometry = (lift.Arrangement as LegsToPoints)?.Geometry,
            Remarks = remarks,
        };
    }

    /// <summary>The pieces above, then the legs from 1 up, each from the top down.</summary>
    private static IEnumerable<(int? Leg, PieceOnLift Piece)> Pieces(
        IEnumerable<LegOnLift> legs,
        IEnumerable<PieceOnLift> above
    ) => above.Select(p => ((int?)null, p)).Concat(legs.SelectMany(l => l.Pieces.Select(p => ((int?)l.Number, p))));

    /// <summary>What is above sees all that hangs below it, as far as it is known.</summary>
    private static void OwnWeights(Lift lift, IReadOnlyList<PieceOnLift> above, List<Remark> remarks)
    {
        if (lift.Unweighed is not { } unweighed)
        {
            if (lift.Rigging is null)
                remarks.Add(
                    new(LiftOutcome.Ok, "The weight of the rigging is not given: what is above sees the load alone.")
                );
            return;
        }

        if (unweighed.Count > 0)
            remarks.Add(
                new(
                    above.Any(p => p.Utilisation > UsedWithoutWeights) ? LiftOutcome.Ask : LiftOutcome.Caution,
                    $"Own weight not known: {string.Join(", ", unweighed)}. What hangs above sees more than is worked out here."
                )
            );
    }

    private static LiftOutcome Worse(LiftOutcome a, LiftOutcome b) => a > b ? a : b;

    private static string Name(PieceOnLift piece) => piece.Kind.Replace('-', ' ');

    private static void Weight(LiftLoad load, List<Remark> remarks) =>
        remarks.Add(
            load.Basis switch
            {
                LoadBasis.Weighed => new(LiftOutcome.Ok, $"The load weighs {load.Weight}, by a load cell."),
                LoadBasis.Known => new(
                    LiftOutcome.Ok,
                    $"The load's {load.Weight} are known: by whom is kept with the lift."
                ),
                LoadBasis.Marked => new(
                    LiftOutcome.Ok,
                    $"The load is marked {load.Weight}: is it empty, dry and whole as when marked?"
                ),
                LoadBasis.Estimated => new(
                    LiftOutcome.Ok,
                    load.Contingency is { } added
                        ? $"The load's {QuantityFormat.RoundedUp(load.Weight, load.Weight.Unit)} are an estimate, {QuantityFormat.Number(added * 100)} % for what is not known among them: weigh it at the trial lift."
                        : $"The load's {load.Weight} are an estimate: no contingency is added here; weigh it at the trial lift."
                ),
                null => new(
                    LiftOutcome.Ask,
                    "How the weight is known is not said: weigh it, or work it out from volume and density."
                ),
            }
        );

    private static List<LegOnLift> Symmetric(Lift lift, SymmetricLegs legs, List<Remark> remarks)
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
                    new LegOnLift(i + 1, angle.Degrees, tension, inward, LegPieces(lift, rigging, tension, stand))
            ),
        ];
    }

    /// <summary>Each hoist sees the worst of the way.</summary>
    private static List<LegOnLift> Between(Lift lift, BetweenHoists between, List<Remark> remarks)
    {
        remarks.Add(
            new(
                LiftOutcome.Ok,
                "The load hangs on both hoists until one is slack: two people, one leader, small steps by turns."
            )
        );
        var way = between.Drift.Way;
        return
        [
            Hoist(1, between.First, way.MaxBy(s => s.First)!.First, way.Max(s => s.FirstOffPlumb)),
            Hoist(2, between.Second, way.MaxBy(s => s.Second)!.Second, way.Max(s => s.SecondOffPlumb)),
        ];

        LegOnLift Hoist(int number, IReadOnlyList<LiftComponent> components, double pull, double offPlumb)
        {
            var tension = Figures.Of(pull * (double)lift.Load.Weight.Kilograms);
            var off = new Angle(QuantityFormat.Round(Figures.Of(offPlumb), 6));
            var angle = new Angle(90 - off.Degrees);
            var pieces = components
                .Select(
                    (c, i) =>
                        ComponentOnLift.Judge(
                            c is HoistOnLift hoist ? hoist with { OffPlumb = off } : c,
                            tension,
                            new(angle, null, i == 0 ? null : components[i - 1]),
                            lift.Load.Temperature,
                            lift.Books
                        )
                )
                .ToList();
            return new(number, angle.Degrees, tension, tension * HitchFactors.Cosine(angle), pieces);
        }
    }

    private static List<LegOnLift> ToPoints(Lift lift, LegsToPoints points, List<Remark> remarks)
    {
        var (geometry, count) = (points.Geometry, points.Rigging.Count);
        var four = lift.FourLegs ?? FourLegs.TwoCarry;
        if (count == 4)
            Counted(count, four, remarks);
        if (count == 4 && four == FourLegs.ThreeShare)
            remarks.Add(
                new(LiftOutcome.Caution, "Four legs share only on a load that gives, or with legs adjusted to it.")
            );
        Hanging(geometry, count, remarks);
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
                    LegPieces(lift, points.Rigging[i], tension, new(count, new(angle), null))
                )
            );
        }

        return legs;
    }

    private static List<PieceOnLift> LegPieces(Lift lift, LegRigging rigging, decimal? tension, LegStand stand)
    {
        var pieces = new List<PieceOnLift>
        {
            SlingOnLeg.Judge(rigging, tension, stand, lift.Load.Temperature, lift.Books),
        };
        for (var i = 0; i < rigging.Components.Count; i++)
        {
            var at = new ComponentStand(
                stand.Angle,
                i == 0 ? rigging.Sling.Gear : null,
                i == 0 ? null : rigging.Components[i - 1]
            );
            pieces.Add(ComponentOnLift.Judge(rigging.Components[i], tension, at, lift.Load.Temperature, lift.Books));
        }

        return pieces;
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

    /// <summary>What the load does when it hangs free.</summary>
    private static void Hanging(LegGeometry geometry, int legs, List<Remark> remarks)
    {
        foreach (var (what, degrees) in new[] { ("tilts", geometry.Tilt), ("turns", geometry.Turn) })
        {
            if (degrees is not { } by)
                continue;
            if (by > MostTilt)
                remarks.Add(
                    new(
                        LiftOutcome.NotPermitted,
                        $"The load {what} by {by:0.0} deg, over {MostTilt:0} deg: rig again with the hook over the centre of gravity."
                    )
                );
            else if (by > CautionTilt)
                remarks.Add(new(LiftOutcome.Caution, $"The load {what} by {by:0.0} deg before it hangs."));
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
        if (legs > 1)
            return;
        remarks.Add(new(LiftOutcome.Ok, "One leg lets the load turn: a tag line."));
        if (rigging[0].Hitch == Hitch.Vertical && lift.Books.Any(b => b.AsksOfOneStraightLeg))
            remarks.Add(new(LiftOutcome.Ask, "One straight leg: two as a rule, or the sling doubled (Japan)."));
        if (rigging[0].Hitch == Hitch.Choker)
            remarks.Add(new(LiftOutcome.Ok, "One choker only on short, simple loads."));
        if (rigging[0].Hitch == Hitch.Basket)
            remarks.Add(new(LiftOutcome.Ok, "One basket only where the load can't slide in it."));
    }

    /// <summary>A forbidden piece before any other, else the most used; among equals the first from above down.</summary>
    private static WeakestPiece? Weakest(IReadOnlyList<LegOnLift> legs, IReadOnlyList<PieceOnLift> above)
    {
        WeakestPiece? weakest = null;
        foreach (
            var piece in above
                .Select((p, i) => new WeakestPiece(null, i, p))
                .Concat(legs.SelectMany(l => l.Pieces.Select((p, i) => new WeakestPiece(l.Number, i, p))))
        )
        {
            if (piece.Piece.Outcome == LiftOutcome.NotPermitted)
                return piece;
            if (
                piece.Piece.Utilisation is { } used
                && (weakest is null || used > weakest.Piece.Utilisation + PieceJudgement.Tolerance)
            )
                weakest = piece;
        }

        return weakest;
    }

    private static decimal? Capacity(
        Lift lift,
        IReadOnlyList<LegOnLift> legs,
        IReadOnlyList<PieceOnLift> above,
        LiftOutcome outcome
    )
    {
        if (outcome == LiftOutcome.NotPermitted || Pieces(legs, above).Any(p => p.Piece.Allowed is null))
            return null;
        var weight = lift.Load.Weight.Kilograms;
        var least = above
            .Select((p, i) => p.Allowed!.Value - lift.Below(i))
            .Concat(
                legs.SelectMany(l => l.Pieces)
                    .Where(p => p.Demand > 0)
                    .Select(p => weight * Figures.Ratio(p.Allowed!.Value, p.Demand!.Value))
            )
            .DefaultIfEmpty(decimal.MaxValue)
            .Min();
        return least == decimal.MaxValue ? null : Math.Max(0, least);
    }

    private static decimal Round(decimal figure) => QuantityFormat.Round(figure, 2);
}
