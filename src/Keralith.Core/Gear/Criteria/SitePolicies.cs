namespace Keralith.Core.Gear;

/// <summary>Policies a site adds to the books: stricter only.</summary>
/// <param name="Latches">A latch on every hook, foundry hooks excepted by name.</param>
/// <param name="Thimbles">A thimble in every eye of wire rope.</param>
/// <param name="NoChainHoisting">Chain slings are not used for hoisting.</param>
/// <param name="BackUpSling">A second sling beside chain whose length is adjusted under load.</param>
/// <param name="CapacityColours">Web slings and roundslings carry their capacity colour.</param>
public sealed record SitePolicies(
    bool Latches,
    bool Thimbles,
    bool NoChainHoisting = false,
    bool BackUpSling = false,
    bool CapacityColours = false
)
{
    /// <summary>Over this share of what a crane's chart leaves a lift is critical; over 0 and at most the usual one.</summary>
    public decimal CriticalShare { get; init; } = UsualCriticalShare;

    /// <summary>The usual share, 75 %: a site may only be stricter, and a plan only stricter than its site.</summary>
    public const decimal UsualCriticalShare = 0.75m;

    /// <summary>None.</summary>
    public static SitePolicies None { get; } = new(false, false);

    /// <summary>The policies of two sites together: what either asks.</summary>
    public SitePolicies And(SitePolicies other) =>
        new(
            Latches || other.Latches,
            Thimbles || other.Thimbles,
            NoChainHoisting || other.NoChainHoisting,
            BackUpSling || other.BackUpSling,
            CapacityColours || other.CapacityColours
        )
        {
            CriticalShare = Math.Min(CriticalShare, other.CriticalShare),
        };

    /// <summary>The gear as it is judged at this site: its policies stated with it.</summary>
    /// <param name="gear">The gear.</param>
    /// <param name="model">The maker's model; a foundry hook is known by it and is not asked for a latch by policy.</param>
    public GearPiece Applied(GearPiece gear, string? model = null)
    {
        if (Latches && model?.Contains("foundry", StringComparison.OrdinalIgnoreCase) != true)
            gear = gear.With("latchPolicy", new FlagValue(true));
        return Thimbles ? gear.With("thimblePolicy", new FlagValue(true)) : gear;
    }

    /// <summary>What the policies have against using a piece, in words.</summary>
    public IEnumerable<string> Against(GearPiece gear)
    {
        if (NoChainHoisting && gear.Family.Kind == GearKind.Chain)
            yield return "Site policy: chain slings are not used for hoisting.";
        if (CapacityColours && gear.Family.Kind is GearKind.Web or GearKind.Roundsling && gear.Text("colour") is null)
            yield return "Site policy: its capacity colour is not on record.";
    }

    /// <summary>What the policies ask of whoever uses a piece, in words.</summary>
    public IEnumerable<string> Asked(GearPiece gear)
    {
        if (BackUpSling && gear.Shortener)
            yield return "Site policy: when chain adjusts a load, a second sling stands by to take it.";
    }
}
