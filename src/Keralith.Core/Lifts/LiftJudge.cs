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

    /// <summary>Works out a lift.</summary>
    public static LiftResult Of(Lift lift)
    {
        var remarks = new List<Remark> { new(LiftOutcome.Ok, Caution) };
        Weight(lift.Load, remarks);
        var below = lift.Arrangement is UnderBeam under ? new BeamJudge(lift, under, remarks) : null;
        var tandem = lift.Arrangement is BetweenCranes two ? new TwoCranesJudge(lift, two, remarks) : null;
        var legs = lift.Arrangement switch
        {
            SymmetricLegs symmetric => LegsJudge.Symmetric(lift, symmetric, remarks),
            LegsToPoints points => LegsJudge.ToPoints(lift, points, remarks),
            BetweenHoists between => Between(lift, between, remarks),
            UnderBeam => below!.Drops(),
            BetweenCranes => tandem!.Hooks(),
            _ => throw new System.Diagnostics.UnreachableException(),
        };
        if (Collecting.Against(lift) is { } collected)
            remarks.Add(collected);
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
                            c is HoistOnLift hoist ? hoist with { OffPlumb = OffPlumb(hoist, off) } : c,
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

    /// <summary>How far off plumb a hoist pulls: said or drawn, the wider counts.</summary>
    private static Angle OffPlumb(HoistOnLift hoist, Angle drawn) =>
        hoist.OffPlumb is { } said
            ? new[]
            {
                new Sourced<Angle>(said, FigureSource.Typed, $"said {said}"),
                new(drawn, FigureSource.Drawn, $"drawn {drawn}"),
            }
                .Harsher(a => a.Degrees)
                .Figure
            : drawn;

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

    /// <summary>What a tilt or turn makes of a lift.</summary>
    internal static void Tilts(string what, double by, string otherwise, List<Remark> remarks)
    {
        if (by > MostTilt)
            remarks.Add(new(LiftOutcome.NotPermitted, $"{what} by {by:0.0} deg, over {MostTilt:0} deg: {otherwise}."));
        else if (by > CautionTilt)
            remarks.Add(new(LiftOutcome.Caution, $"{what} by {by:0.0} deg before it hangs."));
    }

    /// <summary>What one leg alone brings with it.</summary>
    internal static void OneLeg(Lift lift, LegRigging rigging, List<Remark> remarks)
    {
        remarks.Add(new(LiftOutcome.Ok, "One leg lets the load turn: a tag line."));
        if (rigging.Hitch != Hitch.Basket && lift.Books.Any(b => b.AsksOfOneLeg))
            remarks.Add(new(LiftOutcome.Ask, "One leg: two as a rule, or the sling doubled (Japan)."));
        if (rigging.Hitch == Hitch.Choker)
            remarks.Add(new(LiftOutcome.Ok, "One choker only on short, simple loads."));
        if (rigging.Hitch == Hitch.Basket)
            remarks.Add(new(LiftOutcome.Ok, "One basket only where the load can't slide in it."));
    }
}
