using Keralith.Core.Gear;
using Keralith.Core.Quantities;

namespace Keralith.Core.Lifts;

/// <summary>What lies between a sling and an edge.</summary>
public enum EdgeProtection
{
    [Code("none")]
    None,

    /// <summary>Rounds the edge; stops no cut.</summary>
    [Code("softener")]
    Softener,

    /// <summary>Made to keep an edge from cutting.</summary>
    [Code("cut-protector")]
    CutProtector,
}

/// <summary>An edge of the load that a sling bears on.</summary>
/// <param name="Radius">Of the bare edge, 0 and over.</param>
public sealed record Edge(Length Radius)
{
    public EdgeProtection Protection { get; init; }

    /// <summary>What the protection rounds it to; null where not known or there is none.</summary>
    public Length? ProtectedRadius { get; init; }

    /// <summary>Along how much of the sling the protection bears; null where not known.</summary>
    public Length? Bears { get; init; }
}

/// <summary>
/// What an edge leaves of a sling (ASME B30.9, protection from edges; D/d of its tables): each limit to its own kind of
/// sling, by the edge's radius against the sling's size or thickness.
/// </summary>
internal static class EdgeOnSling
{
    /// <summary>Chain over more than this many of its sizes loses nothing.</summary>
    private const decimal ChainRound = 2;

    private const decimal ChainOverRound = 0.7m;
    private const decimal ChainOverSharp = 0.5m;

    /// <summary>What bears on wire rope bears along one lay, in diameters where nobody has measured it.</summary>
    private const decimal LayInDiameters = 6.5m;

    /// <summary>Says what the edge brings with it.</summary>
    /// <returns>The share it leaves; null: the sling must not be used over it.</returns>
    public static decimal? Factor(PieceJudgement piece, LiftSling sling, Edge edge)
    {
        var family = sling.Gear.Family;
        var ofThickness = family.Kind is GearKind.Web or GearKind.Roundsling or GearKind.Mesh;
        if (family.Kind is GearKind.Net or GearKind.Kit)
        {
            piece.Note(
                LiftOutcome.Ask,
                "it bears on an edge, and no table says what that takes from this kind: ask the maker"
            );
            return 1;
        }

        if ((ofThickness ? sling.Thickness : sling.Gear.Size) is not { Millimetres: > 0 } size)
        {
            piece.Note(
                LiftOutcome.Ask,
                $"it bears on an edge, and its {(ofThickness ? "thickness" : "size")} is not known: nothing is taken off; measure it"
            );
            return 1;
        }

        var d = size.Millimetres;
        var bare = edge.Protection == EdgeProtection.None;
        var r = (bare ? edge.Radius : edge.ProtectedRadius ?? edge.Radius).Millimetres;
        if (edge.Protection == EdgeProtection.Softener && edge.ProtectedRadius is null)
            piece.Note(LiftOutcome.Ask, "what radius the softener gives is not known: the bare edge counts");
        return family.Kind switch
        {
            GearKind.Chain => Chain(piece, edge, r, d),
            GearKind.WireRope => WireRope(piece, edge, family, r, d),
            GearKind.Web or GearKind.Roundsling or GearKind.FiberRope => Soft(piece, edge, r, size),
            _ => Mesh(piece, edge, r, size),
        };
    }

    private static decimal Chain(PieceJudgement piece, Edge edge, decimal r, decimal d)
    {
        Unsized(piece, edge);
        if (r > ChainRound * d)
            return 1;
        if (r > d)
            return ChainOverRound;
        piece.Note(LiftOutcome.Caution, "its links bend over an edge no rounder than the chain is thick: pad it");
        return ChainOverSharp;
    }

    private static decimal? WireRope(PieceJudgement piece, Edge edge, GearFamily family, decimal r, decimal d)
    {
        Unsized(piece, edge);
        if (edge.Protection != EdgeProtection.None && !(edge.Bears?.Millimetres >= LayInDiameters * d))
            piece.Note(
                LiftOutcome.Ask,
                $"what protects it must bear along one lay, {QuantityFormat.Number(QuantityFormat.Round(LayInDiameters * d, 1))} mm "
                    + "where nobody has measured it: a longer one"
            );

        return SlingOnLeg.Bent(piece, family, 2 * r / d);
    }

    private static decimal? Soft(PieceJudgement piece, Edge edge, decimal r, Length size)
    {
        if (edge is { Protection: EdgeProtection.CutProtector, ProtectedRadius: null })
        {
            piece.Note(
                LiftOutcome.Caution,
                "what radius the cut protector gives is not known: it is taken to be made for this sling, and looked at under load"
            );
            return 1;
        }

        // A softener stops no cut: over an edge sharper than the sling is thick it counts for nothing.
        var sharp = edge.Protection == EdgeProtection.Softener && edge.Radius < size;
        if (r >= size.Millimetres && !sharp)
            return 1;
        piece.Forbid(
            $"over an edge rounded less than its own {size} it is cut: a protector made for cutting edges, of that radius at least"
        );
        return null;
    }

    private static decimal Mesh(PieceJudgement piece, Edge edge, decimal r, Length size)
    {
        Unsized(piece, edge);
        if (r < size.Millimetres)
            piece.Note(LiftOutcome.Ask, $"over an edge rounded less than its own {size}: ask the maker, or pad it");
        return 1;
    }

    private static void Unsized(PieceJudgement piece, Edge edge)
    {
        if (edge is { Protection: EdgeProtection.CutProtector, ProtectedRadius: null })
            piece.Note(LiftOutcome.Ask, "what radius the cut protector gives is not known: the bare edge counts");
    }
}
