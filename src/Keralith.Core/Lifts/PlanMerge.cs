namespace Keralith.Core.Lifts;

/// <summary>A field two people changed at once, to different things.</summary>
/// <param name="Field">Its name.</param>
/// <param name="Theirs">What stands; empty: they emptied it.</param>
/// <param name="Mine">What was typed over it; empty: it was emptied.</param>
public sealed record PlanClash(string Field, string Theirs, string Mine);

/// <summary>
/// A plan two people work on, brought together field by field: each change stands, and where both changed one field what
/// is on record stays and the other is told.
/// </summary>
/// <param name="Fields">The plan with both their changes.</param>
/// <param name="Clashes">Fields both changed differently.</param>
public sealed record PlanMerge(IReadOnlyDictionary<string, string> Fields, IReadOnlyList<PlanClash> Clashes)
{
    /// <summary>Brings a plan as typed together with the one on record.</summary>
    /// <param name="seen">The plan both began from.</param>
    /// <param name="mine">As typed.</param>
    /// <param name="theirs">On record now.</param>
    public static PlanMerge Of(
        IReadOnlyDictionary<string, string> seen,
        IReadOnlyDictionary<string, string> mine,
        IReadOnlyDictionary<string, string> theirs
    )
    {
        var merged = new Dictionary<string, string>();
        var clashes = new List<PlanClash>();
        foreach (var field in seen.Keys.Union(mine.Keys).Union(theirs.Keys))
        {
            var (was, typed, now) = (Value(seen), Value(mine), Value(theirs));
            if (typed != was && now != was && typed != now)
                clashes.Add(new(field, now, typed));
            var stands = now != was ? now : typed;
            if (stands.Length > 0)
                merged[field] = stands;

            string Value(IReadOnlyDictionary<string, string> fields) => fields.GetValueOrDefault(field) ?? string.Empty;
        }

        return new(merged, clashes);
    }
}
