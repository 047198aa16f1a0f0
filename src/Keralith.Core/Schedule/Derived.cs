using Keralith.Core.Custody;
using Keralith.Core.Gear;
using Keralith.Core.Judgement;

namespace Keralith.Core.Schedule;

/// <summary>The facts that what is kept on a piece follows from.</summary>
/// <param name="Family">Its family.</param>
/// <param name="Service">How hard it is used.</param>
/// <param name="Inspections">Its signed inspections that count, oldest first.</param>
/// <param name="Report">The day of the last periodic inspection elsewhere, where its report was accepted; null: none.</param>
/// <param name="LastOut">The day it was last handed out; null: never.</param>
/// <param name="Registered">The day it was registered.</param>
public sealed record DerivedFacts(
    GearFamily Family,
    ServiceClass Service,
    IReadOnlyList<SignedInspection> Inspections,
    DateOnly? Report,
    DateOnly? LastOut,
    DateOnly? Registered
)
{
    /// <summary>What its next proof test follows from.</summary>
    public ProofFacts Proof { get; init; } = ProofFacts.None;
}

/// <summary>
/// What is kept on a piece so that lists need not read its records: Core's answers, made anew from the facts with every
/// act, for one piece or for many.
/// </summary>
/// <param name="Verdict">The verdict it stands under; null before the first.</param>
/// <param name="Due">When its inspections run out.</param>
/// <param name="IsCarried">Whether it is in service on the report it was taken over with alone.</param>
/// <param name="LastBy">Who inspected it last; null: nobody yet.</param>
/// <param name="Touched">The last day it was inspected or handed out, or was registered.</param>
/// <param name="Proof">How long its proof test holds good.</param>
public sealed record Derived(
    VerdictKind? Verdict,
    DueDates Due,
    bool IsCarried,
    Guid? LastBy,
    DateOnly? Touched,
    ProofDue Proof
)
{
    public static Derived Of(DerivedFacts facts, IReadOnlyList<RuleBook> books)
    {
        var inspections = facts.Inspections;
        var accepted = inspections.Where(i => i.IsClean).Select(AcceptedInspection.Of);
        if (facts.Report is { } report)
            accepted = accepted.Append(new AcceptedInspection(InspectionKind.Periodic, report));
        return new(
            Standing.Of(inspections),
            DueDates.From(facts.Family, facts.Service, books, accepted),
            facts.Report is not null && !inspections.Any(i => i.IsFull),
            inspections.Count == 0 ? null : inspections[^1].Inspector,
            Latest(facts.LastOut, inspections.Count == 0 ? facts.Registered : inspections.Max(i => i.InspectedOn)),
            ProofDue.Of(facts.Proof)
        );
    }

    private static DateOnly? Latest(DateOnly? one, DateOnly? other) => one is null || other > one ? other : one;
}
