using Keralith.Core.Gear.Families;

namespace Keralith.Core.Gear;

/// <summary>The families the product knows.</summary>
public static class GearFamilies
{
    /// <summary>All families, in the order of the standards.</summary>
    public static IReadOnlyList<GearFamily> All { get; } = [AlloyChainSling.Family, Shackle.Family, LinkOrRing.Family, Hook.Family];

    private static readonly Dictionary<string, GearFamily> ByCode = All.ToDictionary(f => f.Code);

    /// <summary>The family of a code, or null when there is none.</summary>
    public static GearFamily? Find(string code) => ByCode.GetValueOrDefault(code);
}
