using Keralith.Core.Gear;
using Keralith.Core.Lifts;

namespace Keralith.Web.Lifts;

/// <summary>What can be chosen on the bench, by how the legs stand.</summary>
public static class BenchChoices
{
    /// <summary>The ways the legs stand.</summary>
    public static (string Code, string Name)[] Stands { get; } =
    [
        ("alike", "Legs alike"),
        ("points", "To known points"),
        ("beam", "Under a beam"),
        ("drift", "Along hoists"),
        ("cranes", "On two cranes"),
    ];

    /// <summary>The points of an arrangement, in the order they are typed.</summary>
    public static (string Name, string Label)[] Points { get; } =
    [
        ("hook", "Hook"),
        ("g", "Centre of gravity"),
        ("pick-1", "Pick 1"),
        ("pick-2", "Pick 2"),
        ("pick-3", "Pick 3"),
        ("pick-4", "Pick 4"),
    ];

    /// <summary>Towards where a load hung low.</summary>
    public static (string Code, string Word)[] LowEnds { get; } =
    [
        ("x+", "towards + x"),
        ("x-", "towards - x"),
        ("y+", "towards + y"),
        ("y-", "towards - y"),
        ("x+ y+", "+ x and + y"),
        ("x+ y-", "+ x and - y"),
        ("x- y+", "- x and + y"),
        ("x- y-", "- x and - y"),
    ];

    /// <summary>When a point shows: a pick where there are as many legs.</summary>
    public static string WhenPoint(string name) =>
        name.StartsWith("pick-", StringComparison.Ordinal)
            ? $"legs:{string.Join(' ', Enumerable.Range(name[^1] - '0', 5 - (name[^1] - '0')))}"
            : "stand:points";

    /// <summary>When a hoist's hook shows: the first two always, the others where there are as many.</summary>
    /// <param name="hoist">From 0.</param>
    public static string WhenHoist(int hoist) =>
        hoist < 2
            ? "stand:drift"
            : $"hoists:{string.Join(' ', Enumerable.Range(hoist + 1, BetweenHoists.Most - hoist))}";

    /// <summary>Of how many legs the load is taken to hang, where there are four.</summary>
    public static (string Code, string Name)[] FourLegs(string stand) =>
        [
            ("", stand == "points" ? "two, a rigid load" : "three, adjusted legs"),
            ("three-share", "three, adjusted legs"),
            ("two-carry", "two, a rigid load"),
        ];

    /// <summary>Families of gear that are looked for to hang a load with.</summary>
    public static IEnumerable<GearFamily> Sought(string? stand) =>
        GearFamilies.All.Where(f =>
            stand == "drift"
                ? f.Kind is GearKind.LeverHoist or GearKind.HungHandHoist or GearKind.Shackle
                : f.Kind
                    is GearKind.Chain
                        or GearKind.WireRope
                        or GearKind.Mesh
                        or GearKind.Web
                        or GearKind.Roundsling
                        or GearKind.Shackle
                        or GearKind.EyeBolt
                        or GearKind.HoistRing
                        or GearKind.Beam
        );

    /// <summary>Where a piece may hang.</summary>
    /// <param name="legs">How many legs there are.</param>
    public static (string Code, string Name)[] Places(string stand, BenchFields fields, int legs)
    {
        var (each, one, count) = stand switch
        {
            "drift" => ("at every hoist", "at hoist", Hoists(fields["hoists"])),
            "beam" => ("in every drop", "in drop", fields["drops"] == "1" ? 1 : 2),
            "cranes" => ("at both hooks", "at hook", 2),
            _ => ("in every leg", "in leg", legs),
        };
        return
        [
            ("legs", each),
            .. Enumerable.Range(1, count).Select(leg => ($"leg-{leg}", $"{one} {leg}")),
            .. stand == "beam" ? new[] { ("beam", "is the beam"), ("top", "above the beam") } : [],
            .. stand == "cranes" ? [] : new[] { ("above", stand == "beam" ? "above it all" : "above the legs") },
        ];
    }

    private static int Hoists(string typed) =>
        int.TryParse(typed, out var count) ? Math.Clamp(count, 2, BetweenHoists.Most) : 2;
}
