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

    /// <summary>Puts a scanned piece on a plan, where it belongs; one that may not be used is not put on.</summary>
    /// <param name="fields">The plan; changed where nothing is refused.</param>
    /// <param name="scanned">What was scanned.</param>
    /// <param name="gear">The piece it is; null: there is none.</param>
    /// <param name="chosen">The pieces on it so far.</param>
    /// <returns>Why it is not put on; null when it is.</returns>
    public static Refusal? Add(
        Dictionary<string, string> fields,
        string scanned,
        LiftGear? gear,
        IReadOnlyDictionary<string, LiftGear> chosen
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
        Place(fields, gear, chosen);
        return null;
    }

    /// <summary>
    /// Puts a piece on: a sling where legs have none, hardware in the first leg without its kind, hoists and points
    /// above.
    /// </summary>
    /// <param name="fields">The plan.</param>
    /// <param name="gear">The piece.</param>
    /// <param name="chosen">The pieces on it so far.</param>
    /// <param name="above">Whether it was asked for above the legs; null: where it belongs.</param>
    public static void Place(
        Dictionary<string, string> fields,
        LiftGear gear,
        IReadOnlyDictionary<string, LiftGear> chosen,
        bool? above = null
    )
    {
        var legs = LegsOf(fields);
        var role = LiftGear.RoleOf(gear.Gear.Family);
        if (
            above
            ?? (role == LiftRole.Above && fields.GetValueOrDefault("stand") != "drift")
                || (
                    above is null
                    && gear.Gear.Family.Kind is GearKind.Hook or GearKind.LoadIndicator
                    && fields.GetValueOrDefault("stand") != "drift"
                )
        )
        {
            Put(fields, gear.Mark, PlannedPlace.Above);
            return;
        }

        var isUnderBeam = fields.GetValueOrDefault("stand") == "beam";
        if (isUnderBeam && gear.Gear.Family.Kind == GearKind.Beam)
        {
            Put(fields, gear.Mark, PlannedPlace.Beam);
            return;
        }

        var open = Enumerable
            .Range(1, legs)
            .Where(leg =>
                !Taken(
                    fields,
                    chosen,
                    leg,
                    role == LiftRole.Above ? g => LiftGear.RoleOf(g.Gear.Family) == LiftRole.Above
                        : role == LiftRole.Sling ? g => LiftGear.RoleOf(g.Gear.Family) == LiftRole.Sling
                        : g => g.Gear.Family == gear.Gear.Family
                )
            )
            .Take(gear.MostLegs)
            .ToList();
        if (open.Count == 0 && isUnderBeam && role == LiftRole.Sling)
            Put(fields, gear.Mark, PlannedPlace.Top);
        else if (open.Count == legs && legs > 1)
            Put(fields, gear.Mark, PlannedPlace.EveryLeg);
        else
            foreach (var leg in open.DefaultIfEmpty(1))
                Put(fields, gear.Mark, new(leg));
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

    private static bool Taken(
        Dictionary<string, string> fields,
        IReadOnlyDictionary<string, LiftGear> chosen,
        int leg,
        Func<LiftGear, bool> like
    ) =>
        Rows(fields)
            .Any(row =>
                PlannedPlace.Read(fields.GetValueOrDefault(LiftPlanReader.PieceField(row, "place"))) is { } place
                && place.IsIn(leg)
                && chosen.TryGetValue(fields[LiftPlanReader.PieceField(row, "mark")].ToUpperInvariant(), out var there)
                && like(there)
            );

    private static void Put(Dictionary<string, string> fields, string mark, PlannedPlace place)
    {
        var row = Enumerable
            .Range(1, LiftPlanReader.MostPieces)
            .FirstOrDefault(r => !fields.ContainsKey(LiftPlanReader.PieceField(r, "mark")));
        if (row == 0)
            return;
        fields[LiftPlanReader.PieceField(row, "mark")] = mark;
        fields[LiftPlanReader.PieceField(row, "place")] = place.ToString();
    }
}
