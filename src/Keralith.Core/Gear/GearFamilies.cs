namespace Keralith.Core.Gear;

/// <summary>The families the product knows.</summary>
public static class GearFamilies
{
    /// <summary>A family that records name and this version does not know: never for lifting, nothing is asked of it.</summary>
    /// <param name="code">As the records name it.</param>
    public static GearFamily Unknown(string code) =>
        new()
        {
            Code = code,
            Name = $"{code} (not known here)",
            Standard = string.Empty,
            Group = FamilyGroup.Site,
            Kind = GearKind.Restraint,
            Asks = [],
            Requires = [],
            Parts = [],
            TagEntries = [],
            NotForLifting = true,
        };

    /// <summary>All families, in the order of the standards.</summary>
    public static IReadOnlyList<GearFamily> All { get; } =
    [
        AlloyChainSling.Family,
        WireRopeSling.Family,
        SyntheticAndMeshSlings.Mesh,
        SyntheticAndMeshSlings.FiberRope,
        SyntheticAndMeshSlings.Web,
        SyntheticAndMeshSlings.Roundsling,
        Shackle.Family,
        AdjustableHardware.EyeBolt,
        AdjustableHardware.EyeNut,
        AdjustableHardware.SwivelHoistRing,
        AdjustableHardware.Turnbuckle,
        OtherHardware.Clip,
        OtherHardware.WedgeSocket,
        LinkOrRing.Family,
        OtherHardware.Swivel,
        OtherHardware.Block,
        OtherHardware.LoadIndicator,
        Hook.Family,
        Hoists.HandChain,
        Hoists.Powered,
        Hoists.Lever,
        Hoists.RopeGrip,
        BelowHook.LiftingPoint,
        SiteGear.CargoNet,
        BelowHook.Clamp,
        BelowHook.Beam,
        SiteGear.Restraint,
        SiteGear.Kit,
    ];

    private static readonly Dictionary<string, GearFamily> ByCode = All.ToDictionary(f => f.Code);

    /// <summary>The family of a code, or null when there is none.</summary>
    public static GearFamily? Find(string code) => ByCode.GetValueOrDefault(code);
}
