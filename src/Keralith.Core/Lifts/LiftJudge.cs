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

    /// <summary>
    /// How far a typed centre of gravity may lie from the load's own figures: a share of the widest distance of two
    /// picks; with one pick, in millimetres.
    /// </summary>
    private const double CentreSlackOfPicks = 0.05,
        CentreSlack = 10,
        CentreRounding = 1e-6;

    /// <summary>Flatter than this a leg has no pull worth a figure, in degrees.</summary>
    private const decimal Level = 0.0001m;

    /// <summary>Works out a lift.</summary>
    public static LiftResult Of(Lift lift)
    {
        var remarks = new List<Remark> { new(LiftOutcome.Ok, Caution) };
        Weight(lift.Load, remarks);
        var below = lift.Arrangement is UnderBeam under ? new BeamJudge(lift, under, remarks) : null;
        var tandem = lift.Arrangement is BetweenCranes two ? new TwoCranesJudge(lift, two, remarks) : null;
        var legs = lift.Arrangement switch
        {
            SymmetricLegs symmetric => Symmetric(lift, symmetric, remarks),
            LegsToPoints points => ToPoints(lift, points, remarks),
            BetweenHoists between => Between(lift, between, remarks),
            UnderBeam => below!.Drops(),
            BetweenCranes => tandem!.Hooks(),
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
        var beam = below?.Of();
        var cranes =
            tandem is not null ? tandem.Cranes()
            : lift.Crane is { } machine ? (CraneJudge.Of(lift, machine, remarks), null)
            : (null, null);
        var carriers = Carriers.Of(lift, legs, above, beam, cranes);
        foreach (var carrier in carriers)
        {
            var which = carrier.Words(lift);
            foreach (var remark in carrier.Piece.Remarks)
            {
                var said = remark with { Text = $"{which}: {remark.Text}." };
                if (!remarks.Contains(said))
                    remarks.Add(said);
            }
        }

        var outcome = LiftOutcome.Ok;
        foreach (var remark in remarks)
            outcome = Worse(outcome, remark.Outcome);
        foreach (var carrier in carriers)
            outcome = Worse(outcome, carrier.Piece.Outcome);
        return new()
        {
            Edition = lift.Edition,
            Load = lift.Load,
            Outcome = outcome,
            Legs = legs,
            Above = above,
            Beam = beam,
            Crane = cranes.First,
            SecondCrane = cranes.Second,
            Weakest = Carriers.Weakest(carriers),
            Capacity = outcome == LiftOutcome.NotPermitted ? null : Carriers.Capacity(lift, carriers),
            Geometry = (lift.Arrangement as LegsToPoints)?.Geometry,
            Remarks = remarks,
        };
    }

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

    private static void Weight(LiftLoad load, List<Remark> remarks)
    {
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
                        : $"The load's {Said(load)} are an estimate: no contingency is added here; weigh it at the trial lift."
                ),
                null => new(
                    LiftOutcome.Ask,
                    "How the weight is known is not said: weigh it, or work it out from volume and density."
                ),
            }
        );
        if (load.Contingency is { } part && load.Basis != LoadBasis.Estimated)
            remarks.Add(
                new(LiftOutcome.Ok, $"{QuantityFormat.Number(part * 100)} % of it are for what is not known, as asked.")
            );
    }

    /// <summary>A weight as it was written; one worked out from parts to so many places, never understated.</summary>
    private static string Said(LiftLoad load) =>
        load.Parts is null ? load.Weight.ToString() : QuantityFormat.RoundedUp(load.Weight, load.Weight.Unit);

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
                "The load hangs on two hoists until one is slack: two people, one leader, small steps by turns."
            )
        );
        if (between.Steps.Count > 1)
            remarks.Add(
                new(
                    LiftOutcome.Ok,
                    $"Along {between.Hoists.Count} hoists: one step at a time, the load plumb under a hoist before the next begins."
                )
            );
        return
        [
            .. between.Hoists.Select(
                (pieces, i) =>
                {
                    var (pull, offPlumb) = between.Worst(i);
                    return Hoist(i + 1, pieces, pull, offPlumb);
                }
            ),
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
        if (lift.Load.Centre is { } own)
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
                    LegPieces(lift, points.Rigging[i], tension, new(count, new(angle), null))
                )
            );
        }

        return legs;
    }

    /// <summary>The pieces of a leg: its sling, then what hangs in it.</summary>
    internal static List<PieceOnLift> LegPieces(Lift lift, LegRigging rigging, decimal? tension, LegStand stand)
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

    /// <summary>What a tilt or turn makes of a lift.</summary>
    internal static void Tilts(string what, double by, string otherwise, List<Remark> remarks)
    {
        if (by > MostTilt)
            remarks.Add(new(LiftOutcome.NotPermitted, $"{what} by {by:0.0} deg, over {MostTilt:0} deg: {otherwise}."));
        else if (by > CautionTilt)
            remarks.Add(new(LiftOutcome.Caution, $"{what} by {by:0.0} deg before it hangs."));
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

        var (geometry, off) = (points.Geometry, points.Geometry.Centre - own.At);
        var apart = (own.InPlanOnly ? off with { Z = 0 } : off).Norm;
        var widest = geometry.WidestPicks;
        var most = widest > 0 ? widest * CentreSlackOfPicks : CentreSlack;
        if (apart > most + CentreRounding)
            remarks.Add(
                new(
                    LiftOutcome.Caution,
                    $"The centre of gravity as typed lies {apart:0} mm from where the load's own figures put it: which is right?"
                )
            );
    }

    /// <summary>What the load does when it hangs free.</summary>
    private static void Hanging(LegGeometry geometry, List<Remark> remarks)
    {
        foreach (var (what, degrees) in new[] { ("tilts", geometry.Tilt), ("turns", geometry.Turn) })
        {
            if (degrees is { } by)
                Tilts($"The load {what}", by, "rig again with the hook over the centre of gravity", remarks);
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
            OneLeg(lift, rigging[0], remarks);
    }

    /// <summary>What one leg alone brings with it.</summary>
    internal static void OneLeg(Lift lift, LegRigging rigging, List<Remark> remarks)
    {
        remarks.Add(new(LiftOutcome.Ok, "One leg lets the load turn: a tag line."));
        if (rigging.Hitch == Hitch.Vertical && lift.Books.Any(b => b.AsksOfOneStraightLeg))
            remarks.Add(new(LiftOutcome.Ask, "One straight leg: two as a rule, or the sling doubled (Japan)."));
        if (rigging.Hitch == Hitch.Choker)
            remarks.Add(new(LiftOutcome.Ok, "One choker only on short, simple loads."));
        if (rigging.Hitch == Hitch.Basket)
            remarks.Add(new(LiftOutcome.Ok, "One basket only where the load can't slide in it."));
    }

    private static decimal Round(decimal figure) => QuantityFormat.Round(figure, 2);
}
