using System.Collections.Concurrent;

namespace Keralith.Core.Gear;

/// <summary>The removal criteria, all of them, and where they sit on a piece.</summary>
public static class Catalogue
{
    /// <summary>Raised whenever a rule or limit changes, or how one is read; kept with every signed inspection.</summary>
    public const string Version = "2026.6";

    /// <summary>All criteria, in the order they are asked.</summary>
    public static IReadOnlyList<Criterion> All { get; } =
    [
        .. CommonCriteria.All,
        .. ChainCriteria.All,
        .. RopeCriteria.All,
        .. MeshCriteria.All,
        .. FiberRopeCriteria.All,
        .. WebCriteria.All,
        .. RoundslingCriteria.All,
        .. HookCriteria.All,
        .. ShackleCriteria.All,
        .. AdjustableCriteria.All,
        .. LinkCriteria.All,
        .. HardwareCriteria.All,
        .. HoistCriteria.All,
        .. BelowHookCriteria.All,
        .. SiteGearCriteria.All,
    ];

    private static readonly Dictionary<string, (Criterion Criterion, int Order)> ById = All.Select((c, i) => (c, i))
        .ToDictionary(p => p.c.Id, p => p);

    /// <summary>Make-ups seen so far: there are few in a yard. Beyond this many, new ones are worked out each time.</summary>
    private const int MostKept = 4096;

    private static readonly ConcurrentDictionary<PlacementKey, Placement> Placements = new();

    /// <summary>The criterion of an id, or null when there is none.</summary>
    public static Criterion? Find(string id) => ById.TryGetValue(id, out var found) ? found.Criterion : null;

    /// <summary>The criterion of an id.</summary>
    /// <exception cref="KeyNotFoundException">There is none.</exception>
    public static Criterion Get(string id) => ById[id].Criterion;

    /// <summary>Where a criterion stands among <see cref="All"/>.</summary>
    /// <exception cref="KeyNotFoundException">There is none.</exception>
    public static int OrderOf(string id) => ById[id].Order;

    /// <summary>What sits where on a piece under the books worked to.</summary>
    public static Placement PlacementOf(GearPiece gear, IReadOnlyList<RuleBook> books)
    {
        var chosen = 0;
        for (var i = 0; i < books.Count; i++)
        {
            // A book that does not stand on the shelf is worked out each time.
            if (RuleBookShelf.PlaceOf(books[i]) is not (>= 0 and var place))
                return PlacementBuilder.Build(gear, books);
            chosen |= 1 << place;
        }

        var key = new PlacementKey(gear.Family, gear.MakeUp, chosen);
        if (Placements.TryGetValue(key, out var placement))
            return placement;
        placement = PlacementBuilder.Build(gear, books);
        if (Placements.Count < MostKept)
            Placements.TryAdd(key, placement);
        return placement;
    }

    /// <summary>
    /// The parts of a piece in the order a hand travels, each with the criteria that may be answered on it in catalogue order.
    /// <c>legs</c> and <c>whole</c> come last.
    /// </summary>
    public static IReadOnlyList<Part> Parts(GearPiece gear, IReadOnlyList<RuleBook> books) =>
        PlacementOf(gear, books).Parts;

    private readonly record struct PlacementKey(GearFamily Family, UInt128 MakeUp, int Books);
}
