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
        family.Code switch
        {
            "alloy-chain-sling" => Chain,
            "wire-rope-sling" => WireRope,
            "web-sling" or "roundsling" => WebAndRound,
            "metal-mesh-sling" => Mesh,
            "fiber-rope-sling" => FiberRope,
            _ => null,
        };
}
