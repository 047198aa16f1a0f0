using Keralith.Core.Gear;

namespace Keralith.Core.Criteria;

/// <summary>Policies a site adds to the books: stricter only.</summary>
/// <param name="Latches">A latch on every hook.</param>
/// <param name="Thimbles">A thimble in every eye of wire rope.</param>
public sealed record SitePolicies(bool Latches, bool Thimbles)
{
    /// <summary>None.</summary>
    public static SitePolicies None { get; } = new(false, false);

    /// <summary>The gear as it is judged at this site: its policies stated with it.</summary>
    public GearPiece Applied(GearPiece gear)
    {
        if (Latches) gear = gear.With("latchPolicy", new FlagValue(true));
        return Thimbles ? gear.With("thimblePolicy", new FlagValue(true)) : gear;
    }
}
