namespace Keralith.Core.Gear;

/// <summary>Hooks on their own (ASME B30.10).</summary>
internal static class Hook
{
    public static GearFamily Family { get; } =
        new()
        {
            Code = "hook",
            Kind = GearKind.Hook,
            Name = "Hook",
            Standard = "ASME B30.10, hooks",
            Group = FamilyGroup.Hardware,
            Asks = ["size", "grade", "hookLatch", "hookSwivels", "selfLocking"],
            Requires = ["size"],
            Parts = [new("hook", "Hook", HookCriteria.Alone)],
            TagEntries = [TagEntries.Maker, TagEntries.RatedLoad],
        };
}
