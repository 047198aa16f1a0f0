using Keralith.Core.Gear;

namespace Keralith.Core.People;

/// <summary>That a person may sign inspections of a group of families, up to a day.</summary>
/// <param name="Group">Slings, hardware, hoists, or gear below the hook.</param>
/// <param name="Until">The last day it counts.</param>
public sealed record Authorisation(FamilyGroup Group, DateOnly Until)
{
    /// <summary>The groups people are authorised for. What belongs to the site itself counts as hardware.</summary>
    public static IReadOnlyList<FamilyGroup> Groups { get; } =
    [FamilyGroup.Sling, FamilyGroup.Hardware, FamilyGroup.Hoist, FamilyGroup.BelowHook];

    /// <summary>The group a family is signed under.</summary>
    public static FamilyGroup GroupOf(GearFamily family) =>
        family.Group == FamilyGroup.Site ? FamilyGroup.Hardware : family.Group;

    /// <summary>A group's name as people read it.</summary>
    public static string Name(FamilyGroup group) =>
        group switch
        {
            FamilyGroup.Sling => "slings",
            FamilyGroup.Hardware or FamilyGroup.Site => "hardware",
            FamilyGroup.Hoist => "hoists",
            FamilyGroup.BelowHook => "gear below the hook",
        };

    /// <summary>
    /// Why somebody may not sign an inspection of a family on a day; null when they may. Without one, or past its day,
    /// they may draft.
    /// </summary>
    public static string? RefusalToSign(IEnumerable<Authorisation> held, GearFamily family, DateOnly today)
    {
        var group = GroupOf(family);
        return held.Where(a => a.Group == group).Select(a => (DateOnly?)a.Until).Max() switch
        {
            null =>
                $"You are not authorised to sign for {Name(group)}. The draft stays in the tray: pass it to somebody who is.",
            { } until when until < today =>
                $"Your authorisation for {Name(group)} ran out on {until:yyyy-MM-dd}. The draft stays in the tray: pass it to somebody whose counts.",
            _ => null,
        };
    }
}
