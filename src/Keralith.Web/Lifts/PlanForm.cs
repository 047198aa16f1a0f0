using Keralith.Core.Lifts;

namespace Keralith.Web.Lifts;

/// <summary>The fields of a plan as a form sends them, and what is done to its rows of gear.</summary>
public static class PlanForm
{
    private const int MostFields = 900;
    private const int LongestValue = 200;

    private static readonly HashSet<string> NotOfThePlan = ["Submission", "version", "add", "off", "id"];

    /// <summary>What was typed, by field; empty fields are left out.</summary>
    public static Dictionary<string, string> Typed(IFormCollection form)
    {
        var typed = new Dictionary<string, string>();
        foreach (var (name, values) in form)
        {
            if (typed.Count >= MostFields || name.Length > 40 || name.StartsWith('_') || NotOfThePlan.Contains(name))
                continue;
            if (values.FirstOrDefault() is { Length: > 0 } value)
                typed[name] = value[..Math.Min(value.Length, LongestValue)];
        }

        return typed;
    }

    /// <summary>The rows of gear that are taken.</summary>
    public static IReadOnlyList<int> Rows(IReadOnlyDictionary<string, string> fields) =>
        [
            .. Enumerable
                .Range(1, LiftPlanReader.MostPieces)
                .Where(row => fields.ContainsKey(LiftPlanReader.PieceField(row, "mark"))),
        ];

    /// <summary>Puts a piece on: a sling where legs have none, hardware in the first leg without its kind, hoists and points above.</summary>
    /// <param name="fields">The plan.</param>
    /// <param name="gear">The piece.</param>
    /// <param name="chosen">The pieces on it so far.</param>
    /// <param name="above">Whether it was asked for above the legs; null: where it belongs.</param>
    public static void Add(
        Dictionary<string, string> fields,
        LiftGear gear,
        IReadOnlyDictionary<string, LiftGear> chosen,
        bool? above = null
    )
    {
        var legs =
            fields.GetValueOrDefault("stand") == "drift" ? 2
            : int.TryParse(fields.GetValueOrDefault("legs"), out var n) && n is >= 1 and <= 4 ? n
            : 2;
        var role = LiftGear.RoleOf(gear.Gear.Family);
        if (
            above
            ?? (role == LiftRole.Above && fields.GetValueOrDefault("stand") != "drift")
                || (
                    above is null
                    && gear.Gear.Family.Code is "hook" or "load-indicator"
                    && fields.GetValueOrDefault("stand") != "drift"
                )
        )
        {
            Put(fields, gear.Mark, PlannedPlace.Above);
            return;
        }

        var open = Enumerable
            .Range(1, legs)
            .Where(leg =>
                !Taken(
                    fields,
                    chosen,
                    leg,
                    role == LiftRole.Sling
                        ? g => LiftGear.RoleOf(g.Gear.Family) == LiftRole.Sling
                        : g => g.Gear.Family == gear.Gear.Family
                )
            )
            .Take(gear.MostLegs)
            .ToList();
        if (open.Count == legs && legs > 1)
            Put(fields, gear.Mark, PlannedPlace.EveryLeg);
        else
            foreach (var leg in open.DefaultIfEmpty(1))
                Put(fields, gear.Mark, new(leg));
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
