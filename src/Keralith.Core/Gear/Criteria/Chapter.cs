namespace Keralith.Core.Gear;

/// <summary>One chapter of a standard, from which criteria are written: what is common to its rows stands once.</summary>
/// <param name="Standard">The standard and chapter, such as "ASME B30.9, alloy chain slings".</param>
internal sealed record Chapter(string Standard)
{
    public Source Topic(string topic) => new(Standard, topic);

    /// <summary>
    /// A fault looked for in frequent and periodic inspections that removes: the commonest row of the catalogue.
    /// </summary>
    public Criterion Fault(
        string id,
        string title,
        string question,
        string look,
        string? why = null,
        string topic = "removal"
    ) => Row(id, CriterionKind.See, AskedIn.Frequent, topic, title, question, look, why);

    /// <summary>A function tried in frequent and periodic inspections; failing it removes.</summary>
    public Criterion Test(string id, string topic, string title, string question, string look, string? why = null) =>
        Row(id, CriterionKind.Test, AskedIn.Frequent, topic, title, question, look, why);

    /// <summary>Something measured in periodic inspections.</summary>
    /// <param name="limit">The ASME limit; null where only other books have one.</param>
    /// <param name="baseline">What the figure is held against, such as "throat when new"; null where it needs none.</param>
    public Criterion Measure(
        string id,
        string topic,
        string title,
        string question,
        string look,
        string? why,
        LimitRule? limit,
        string? baseline = null
    ) =>
        Row(id, CriterionKind.Measure, AskedIn.Periodic, topic, title, question, look, why) with
        {
            Limit = limit,
            BaselineName = baseline,
        };

    /// <summary>Metal worn away: a tenth gone of the figure when new removes.</summary>
    public Criterion Wear(string id, string title, string question, string look, string baseline) =>
        Measure(
            id,
            "wear",
            title,
            question,
            look,
            "Metal gone from the bearing point is strength gone.",
            new LossLimit(1, 10, Comparator.AtOrBelow),
            baseline
        );

    /// <summary>Something counted in frequent and periodic inspections.</summary>
    public Criterion Count(
        string id,
        string topic,
        string title,
        string question,
        string look,
        string? why,
        LimitRule limit
    ) => Row(id, CriterionKind.Count, AskedIn.Frequent, topic, title, question, look, why) with { Limit = limit };

    private Criterion Row(
        string id,
        CriterionKind kind,
        AskedIn asked,
        string topic,
        string title,
        string question,
        string look,
        string? why
    ) =>
        new()
        {
            Id = id,
            Kind = kind,
            AskedIn = asked,
            Source = Topic(topic),
            Title = title,
            Question = question,
            Look = look,
            Why = why,
        };
}

/// <summary>The few ways in which a row of a chapter departs from the common one.</summary>
internal static class CriterionDepartures
{
    /// <summary>Asked in periodic and initial inspections only.</summary>
    public static Criterion Periodic(this Criterion criterion) => criterion with { AskedIn = AskedIn.Periodic };

    /// <summary>Asked in the initial inspection only.</summary>
    public static Criterion Initial(this Criterion criterion) => criterion with { AskedIn = AskedIn.Initial };

    /// <summary>The fault holds the piece instead of removing it.</summary>
    public static Criterion Holding(this Criterion criterion) => criterion with { OnFault = Outcome.Hold };

    /// <summary>Asked only of gear of which something is stated.</summary>
    public static Criterion If(this Criterion criterion, Func<GearPiece, bool> stated) =>
        criterion with
        {
            Applies = c => stated(c.Gear),
        };

    /// <summary>The ids of criteria, as a family places them.</summary>
    public static string[] Ids(this IEnumerable<Criterion> criteria) => criteria.Select(c => c.Id).ToArray();

    /// <summary>The ids of criteria but some.</summary>
    public static string[] But(this IEnumerable<string> ids, params string[] left) => ids.Except(left).ToArray();
}
