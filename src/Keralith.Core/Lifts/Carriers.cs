namespace Keralith.Core.Lifts;

/// <summary>Where a piece stands in a lift, in the order in which equals govern.</summary>
public enum CarrierPlace
{
    Crane,
    Above,
    TopLeg,
    Beam,
    Leg,
}

/// <summary>One piece that carries part of a lift, and how what is asked of it goes with the load.</summary>
/// <param name="Place">Where it stands.</param>
/// <param name="Leg">Its leg below, from 1; null: it is of none.</param>
/// <param name="At">Its place there, from 0.</param>
/// <param name="Piece">What it comes to.</param>
/// <param name="Else">What of its demand is no load: it stays when the load grows. In kilograms.</param>
internal sealed record Carrier(CarrierPlace Place, int? Leg, int At, PieceOnLift Piece, decimal Else = 0)
{
    /// <summary>How remarks name it.</summary>
    public string Words(Lift lift)
    {
        var name = Piece.Kind.Replace('-', ' ');
        var alone = char.ToUpperInvariant(name[0]) + name[1..];
        return Place switch
        {
            CarrierPlace.Crane or CarrierPlace.Beam => alone,
            CarrierPlace.Above => $"Above, {name}",
            CarrierPlace.TopLeg => $"Above the beam, {name}",
            _ when lift.Arrangement is UnderBeam { Drops.Count: > 1 } => $"Drop {Leg}, {name}",
            _ when lift.Arrangement is BetweenHoists => $"Hoist {Leg}, {name}",
            _ when lift.Arrangement is BetweenCranes => $"Hook {Leg}, {name}",
            _ when Apart(lift) => $"Leg {Leg}, {name}",
            _ => alone,
        };
    }

    private static bool Apart(Lift lift) =>
        lift.Arrangement switch
        {
            SymmetricLegs { Rigging: { Count: > 1 } each } => !each.All(r => ReferenceEquals(r, each[0])),
            LegsToPoints points => points.Rigging.Count > 1,
            _ => false,
        };
}

/// <summary>Everything that carries a lift: which of it governs, and the largest load it all bears.</summary>
internal static class Carriers
{
    /// <summary>In the order in which equals govern: from the crane down to the legs from 1 up.</summary>
    public static List<Carrier> Of(
        Lift lift,
        IReadOnlyList<LegOnLift> legs,
        IReadOnlyList<PieceOnLift> above,
        BeamOnLift? beam,
        (CraneOnLift? First, CraneOnLift? Second) cranes
    )
    {
        var carriers = new List<Carrier>();
        foreach (var crane in new[] { cranes.First, cranes.Second }.OfType<CraneOnLift>())
            carriers.Add(new(CarrierPlace.Crane, null, 0, crane.Piece));
        carriers.AddRange(above.Select((p, i) => new Carrier(CarrierPlace.Above, null, i, p, lift.Below(i))));
        if (beam is not null && lift.Arrangement is UnderBeam under)
        {
            var others = lift.Below(lift.Above.Count);
            if (under.Beam is { Kind: BeamKind.Spreader, TopAngle: { } angle })
                others = Figures.Ratio(others / 2, HitchFactors.Sine(angle));
            carriers.AddRange(
                beam.Top.SelectMany(t =>
                    t.Pieces.Select((p, i) => new Carrier(CarrierPlace.TopLeg, null, i, p, others))
                )
            );
            carriers.Add(new(CarrierPlace.Beam, null, 0, beam.Piece, lift.Rigging?.Kilograms ?? 0));
        }

        carriers.AddRange(
            legs.SelectMany(l => l.Pieces.Select((p, i) => new Carrier(CarrierPlace.Leg, l.Number, i, p)))
        );
        return carriers;
    }

    /// <summary>A forbidden piece before any other, else the most used; among equals the first.</summary>
    public static WeakestPiece? Weakest(IReadOnlyList<Carrier> carriers)
    {
        Carrier? weakest = null;
        foreach (var carrier in carriers)
        {
            if (carrier.Piece.Outcome == LiftOutcome.NotPermitted)
            {
                weakest = carrier;
                break;
            }

            if (
                carrier.Piece.Utilisation is { } used
                && (weakest is null || used > weakest.Piece.Utilisation + PieceJudgement.Tolerance)
            )
                weakest = carrier;
        }

        return weakest is null ? null : new(weakest.Leg, weakest.At, weakest.Piece) { Place = weakest.Place };
    }

    /// <summary>The largest load with every piece used up at most, in kilograms; null where one has no figure.</summary>
    public static decimal? Capacity(Lift lift, IReadOnlyList<Carrier> carriers)
    {
        if (carriers.Any(c => c.Piece.Allowed is null))
            return null;
        var weight = lift.Load.Weight.Kilograms;
        var least = carriers
            .Where(c => c.Piece.Demand > c.Else)
            .Select(c =>
                weight * Figures.Ratio(Math.Max(0, c.Piece.Allowed!.Value - c.Else), c.Piece.Demand!.Value - c.Else)
            )
            .DefaultIfEmpty(decimal.MaxValue)
            .Min();
        return least == decimal.MaxValue ? null : least;
    }
}
