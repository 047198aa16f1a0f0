using Keralith.Core.Lifts;
using Keralith.Core.Quantities;
using Keralith.Web.Lifts;

namespace Keralith.Web.Showing;

/// <summary>What a lift comes to, in words: the same on the bench, on the plan and at the lift.</summary>
public static class LiftWords
{
    /// <summary>A share of what is allowed, never rounded to look smaller; empty where there is none.</summary>
    public static string Share(decimal? used) =>
        used is not { } share ? string.Empty
        : share > 9.99m ? "over 999\u00A0%"
        : $"{Math.Ceiling(Math.Round(share * 100, 6)):0}\u00A0%";

    /// <summary>How the load's weight is known.</summary>
    public static string Basis(BenchedLift lift, LoadBasis? basis) =>
        basis switch
        {
            LoadBasis.Weighed => "weighed",
            LoadBasis.Marked => "as marked",
            LoadBasis.Known => lift.Fields.TryGetValue("weightBy", out var by) ? $"known, by {by}" : "known",
            LoadBasis.Estimated => "worked out from its shapes",
            null => "nobody says how it is known",
        };

    /// <summary>What lies between an edge and the sling.</summary>
    public static string Protection(Edge edge) =>
        edge.Protection switch
        {
            EdgeProtection.None => "bare",
            EdgeProtection.Softener => "a softener on it",
            EdgeProtection.CutProtector => "a cut protector on it",
        } + (edge.ProtectedRadius is { } rounded ? $" of radius {rounded}" : string.Empty);

    /// <summary>A beam and what presses it.</summary>
    public static string Beam(BenchedLift lift, StandBeam beam) =>
        Code.Of(beam.Kind)
        + (beam.Kind == BeamKind.Spreader ? $", span {beam.Span}, legs above at {beam.TopAngle}" : string.Empty)
        + (lift.Result?.Beam?.Compression is { } pressed ? $", pressed with {lift.Asked(pressed)}" : string.Empty);

    /// <summary>What a crane's chart gives, and what is left of it.</summary>
    public static string Chart(BenchedLift lift, CraneOnLift crane) =>
        $"gross {(crane.Gross is { } gross ? lift.May(gross) : "none")}, "
        + $"{(crane.Net is { } net ? lift.May(Math.Max(0, net)) : "nothing")} left"
        + (crane.Piece.Utilisation is { } used ? $", {Share(used)} used" : string.Empty)
        + (crane.IsCritical ? ", critical" : string.Empty);

    /// <summary>The same as a sentence of the bench, its part of the load where there are two.</summary>
    public static string Crane(BenchedLift lift, CraneOnLift crane, bool ofTwo)
    {
        var left = crane.Net is { } net ? $"{lift.May(Math.Max(0, net))} left for a load" : "nothing left";
        return (
                crane.Gross is { } gross
                    ? $"gross {lift.May(gross)} at {crane.Governing}, {left}"
                    : "its chart gives no figure here"
            )
            + (ofTwo && crane.Piece.Demand is { } part ? $", its part {lift.Asked(part)}" : string.Empty)
            + (crane.Piece.Utilisation is { } used ? $", {Share(used)} used" : string.Empty)
            + (crane.IsCritical ? "; critical: a qualified person signs it" : string.Empty)
            + ".";
    }

    /// <summary>A leg's angle and pulls.</summary>
    public static string Leg(BenchedLift lift, LegOnLift leg) =>
        $"{QuantityFormat.Number(Math.Round(leg.Angle, 1))} deg"
        + (leg.Tension is { } pull ? $", pull {lift.Asked(pull)}" : string.Empty)
        + (leg.Inward is > 0 and var inward ? $", inward {lift.Asked(inward)}" : string.Empty);

    /// <summary>Where the weakest piece stands, to be set after it.</summary>
    public static string At(BenchedLift lift, WeakestPiece weakest) =>
        weakest.Place switch
        {
            CarrierPlace.Crane or CarrierPlace.Beam => string.Empty,
            CarrierPlace.TopLeg => ", above the beam",
            CarrierPlace.Above => ", above",
            CarrierPlace.Leg => $", {lift.Leg(weakest.Leg ?? 1)}",
        };

    /// <summary>The most an arrangement carries.</summary>
    public static string Most(BenchedLift lift) =>
        lift.Result?.Capacity is { } most && lift.Verdict!.Outcome != LiftOutcome.NotPermitted
            ? $"This arrangement carries at most {lift.May(most)}; the load is {lift.Asked(lift.Plan!.Load.Weight.Kilograms)}."
            : "No largest load can be named.";

    /// <summary>How it will hang.</summary>
    public static string Hangs(LegGeometry geometry) =>
        (geometry.Tilt is { } tilt ? FormattableString.Invariant($"Tilts {tilt:0.0} deg. ") : string.Empty)
        + (geometry.Turn is { } turn ? FormattableString.Invariant($"Turns {turn:0.0} deg. ") : string.Empty)
        + FormattableString.Invariant($"Hook {geometry.Offset:0} mm off the centre of gravity as drawn.");

    /// <summary>What a leg is changed by to hang level.</summary>
    public static string Level(BenchedLift lift, LevelledLeg leg) =>
        $"reach {lift.Reach(leg.Needed)}"
        + (leg.Links is { } links ? $", take up {links} links" : string.Empty)
        + (leg.Turned?.ToString() is { Length: > 0 } turned ? $", {turned}" : string.Empty);

    /// <summary>Whether a kind of sling fits a load.</summary>
    public static string Fits(KindFits fits) =>
        fits switch
        {
            KindFits.Fits => "fits",
            KindFits.WithCare => "with care",
            KindFits.No => "no",
        };

    /// <summary>The glyph beside it.</summary>
    public static string Glyph(KindFits fits) =>
        fits switch
        {
            KindFits.Fits => "fit",
            KindFits.WithCare => "watch",
            KindFits.No => "remove",
        };
}
