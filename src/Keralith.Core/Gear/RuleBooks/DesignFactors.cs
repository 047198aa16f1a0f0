namespace Keralith.Core.Gear;

/// <summary>The design factors a book wants of slings: breaking strength over rated load.</summary>
internal sealed record DesignFactors(
    decimal Chain,
    decimal WireRope = 5,
    decimal WebAndRound = 5,
    decimal Mesh = 5,
    decimal FiberRope = 5
)
{
    /// <summary>The factor of a family; null where the books name none.</summary>
    public decimal? Of(GearFamily family) =>
        family.Kind switch
        {
            GearKind.Chain => Chain,
            GearKind.WireRope => WireRope,
            GearKind.Web or GearKind.Roundsling => WebAndRound,
            GearKind.Mesh => Mesh,
            GearKind.FiberRope => FiberRope,
            _ => null,
        };
}
