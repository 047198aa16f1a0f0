using Keralith.Core.Gear;

namespace Keralith.Core.Lifts;

/// <summary>The rows of gear of a plan: what is put on, where, and taken off.</summary>
public static class PlanGear
{
    /// <summary>The rows of gear that are taken.</summary>
    public static IReadOnlyList<int> Rows(IReadOnlyDictionary<string, string> fields) =>
        [
            .. Enumerable
                .Range(1, LiftPlanReader.MostPieces)
                .Where(row => fields.ContainsKey(LiftPlanReader.PieceField(row, "mark"))),
        ];

    /// <summary>
    /// Puts a scanned piece on a plan, where it belongs; one that may not be used is not put on, nor one for which there is no
    /// row left.
    /// </summary>
    /// <param name="fields">The plan; changed where nothing is refused.</param>
    /// <param name="scanned">What was scanned.</param>
    /// <param name="gear">The piece it is; null: there is none.</param>
    /// <param name="chosen">The pieces on it so far, by mark.</param>
    /// <param name="above">Whether it was asked for above the legs; false: where it belongs.</param>
    /// <returns>Why it is not put on; null when it is.</returns>
    public static Refusal? Add(
        Dictionary<string, string> fields,
        string scanned,
        LiftGear? gear,
        IReadOnlyDictionary<string, LiftGear> chosen,
        bool above = false
    )
    {
        if (gear is null)
            return Refusal.NotFound($"There is no piece {scanned.Trim()}.");
        if (LiftGear.RoleOf(gear.Gear.Family) == LiftRole.None)
            return new Refusal($"{gear} belongs on no lift.");
        if (!gear.Use.MayBeUsed)
            return new Refusal($"{gear} can't be put on a lift: {string.Join(" ", gear.Use.Reasons)}");
        if (LiftPlanReader.Marks(fields).Contains(gear.Mark))
            return new Refusal($"{gear.Mark} is on this lift already.");
        var places = above ? [PlannedPlace.Above] : PlacesOf(fields, gear, chosen);
        var free = Enumerable
            .Range(1, LiftPlanReader.MostPieces)
            .Where(row => !fields.ContainsKey(LiftPlanReader.PieceField(row, "mark")))
            .ToList();
        if (free.Count < places.Count)
            return new Refusal($"A plan has room for {LiftPlanReader.MostPieces} rows of gear: take one off first.");
        foreach (var (row, place) in free.Zip(places))
        {
            fields[LiftPlanReader.PieceField(row, "mark")] = gear.Mark;
            fields[LiftPlanReader.PieceField(row, "place")] = place.ToString();
        }

        return null;
    }

    /// <summary>
    /// Where a piece belongs: a sling where legs have none, hardware in the first leg without its kind, hoists and points
    /// above, but where it is they the load drifts between.
    /// </summary>
    private static IReadOnlyList<PlannedPlace> PlacesOf(
        Dictionary<string, string> fields,
        LiftGear gear,
        IReadOnlyDictionary<string, LiftGear> chosen
    )
    {
        var (stand, role, kind) = (
            fields.GetValueOrDefault("stand"),
            LiftGear.RoleOf(gear.Gear.Family),
            gear.Gear.Family.Kind
        );
        if ((role == LiftRole.Above || kind is GearKind.Hook or GearKind.LoadIndicator) && stand != "drift")
            return [PlannedPlace.Above];
        if (stand == "beam" && kind == GearKind.Beam)
            return [PlannedPlace.Beam];
        var legs = LegsOf(fields);
        var open = Wanting(legs, gear.Gear.Family, On(fields), chosen).Take(gear.MostLegs).ToList();
        return open.Count == 0 && stand == "beam" && role == LiftRole.Sling ? [PlannedPlace.Top]
            : open.Count == legs && legs > 1 ? [PlannedPlace.EveryLeg]
            : [.. open.DefaultIfEmpty(1).Select(leg => new PlannedPlace(leg))];
    }

    /// <summary>The legs that want gear of a family: no sling hangs there, no hoist, or no hardware of that family.</summary>
    /// <param name="legs">How many there are.</param>
    /// <param name="on">What hangs where already, by mark.</param>
    /// <param name="chosen">The pieces of those marks, as far as they are known.</param>
    internal static IEnumerable<int> Wanting(
        int legs,
        GearFamily family,
        IEnumerable<(string Mark, PlannedPlace Place)> on,
        IReadOnlyDictionary<string, LiftGear> chosen
    )
    {
        var role = LiftGear.RoleOf(family);
        var like = on.Where(p => chosen.TryGetValue(p.Mark, out var there) && IsLike(there.Gear.Family)).ToList();
        return Enumerable.Range(1, legs).Where(leg => !like.Any(p => p.Place.IsIn(leg)));

        bool IsLike(GearFamily other) => role == LiftRole.Hardware ? other == family : LiftGear.RoleOf(other) == role;
    }

    /// <summary>How many legs, drops or hoists a plan has to fill, as far as it is typed; two where nobody says.</summary>
    private static int LegsOf(Dictionary<string, string> fields)
    {
        var (field, least, most) = fields.GetValueOrDefault("stand") switch
        {
            "drift" => ("hoists", 2, BetweenHoists.Most),
            "beam" => ("drops", 1, 2),
            "cranes" => ("hooks", 2, 2),
            _ => ("legs", 1, 4),
        };
        return int.TryParse(fields.GetValueOrDefault(field), out var n) && n >= least && n <= most ? n : 2;
    }

    /// <summary>Takes a row of gear off.</summary>
    public static void Off(Dictionary<string, string> fields, int row)
    {
        foreach (
            var name in fields
                .Keys.Where(k => k.StartsWith(LiftPlanReader.PieceField(row, string.Empty), StringComparison.Ordinal))
                .ToList()
        )
            fields.Remove(name);
    }

    private static IEnumerable<(string Mark, PlannedPlace Place)> On(Dictionary<string, string> fields)
    {
        foreach (var row in Rows(fields))
        {
            if (PlannedPlace.Read(fields.GetValueOrDefault(LiftPlanReader.PieceField(row, "place"))) is { } place)
                yield return (fields[LiftPlanReader.PieceField(row, "mark")].ToUpperInvariant(), place);
        }
    }
}
