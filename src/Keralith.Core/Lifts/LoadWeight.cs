using Keralith.Core.Quantities;

namespace Keralith.Core.Lifts;

/// <summary>
/// The weight of a planned load by every source there is: each weighing on record, marked, known, worked out and typed.
/// The largest counts, and the others are told; a plan that says less than a weighing is not lifted until a qualified
/// person sets the weighing aside.
/// </summary>
/// <param name="Counts">The source that counts.</param>
/// <param name="Basis">How its weight is known; null where it is typed with nothing behind it.</param>
/// <param name="Remarks">What is told beside the result.</param>
public sealed record LoadWeight(Sourced<Mass> Counts, LoadBasis? Basis, IReadOnlyList<Remark> Remarks)
{
    /// <summary>What the lift is worked out with.</summary>
    public Mass Weight => Counts.Figure;

    /// <summary>The weight by its sources; null where there is none.</summary>
    /// <param name="basis">How the plan says that it is known.</param>
    /// <param name="estimate">What it was worked out from; null: it was not.</param>
    /// <param name="given">As marked, or known from papers; null: neither.</param>
    /// <param name="typed">What somebody says that an instrument showed; null: nothing.</param>
    /// <param name="known">What is on record of the lift.</param>
    internal static LoadWeight? Of(LoadBasis basis, LoadEstimate? estimate, Mass? given, Mass? typed, LiftKnown known)
    {
        var weighed = known
            .Counting.Select(w => new Sourced<Mass>(w.Weight, FigureSource.Weighed, w.ToString()))
            .ToList();
        var said = Said(basis, estimate, given, typed, weighed);
        if (said.Count == 0 && weighed.Count == 0)
            return null;

        // What the plan itself goes by is wanted: a marking left over from before says no more than that it is larger.
        var own = said.FirstOrDefault(s => s.Basis == basis).Source;
        if (own is null && weighed.Count == 0)
            return null;
        var all = weighed.Concat(said.Select(s => s.Source)).ToList();
        var counts = all.Harsher(m => m.Kilograms);
        var remarks = new List<Remark>();
        if (Sources.Told("the weight", all, counts) is { } told)
            remarks.Add(new(LiftOutcome.Ok, told));
        if (weighed.Count > 0 && basis != LoadBasis.Weighed && own is not null)
        {
            var cell = weighed.Harsher(m => m.Kilograms);
            if (own.Figure < cell.Figure)
                remarks.Add(
                    new(
                        LiftOutcome.NotPermitted,
                        $"It was {cell.Words} and the plan says {own.Words}: plan by the weighing, or a qualified person sets it aside."
                    )
                );
        }

        if (counts.From == FigureSource.Typed)
            remarks.Add(
                new(
                    LiftOutcome.Ask,
                    "What an instrument showed is typed, and no such weighing is on record: record it with its instrument."
                )
            );
        if (weighed.Count > 0 && estimate?.Against(weighed.Harsher(m => m.Kilograms).Figure) is { } surprise)
            remarks.Add(new(LiftOutcome.Caution, surprise));
        return new(counts, BasisOf(counts.From, said), remarks);
    }

    /// <summary>
    /// What the plan says itself. A contingency is for what is not known: it is left out where another source says at
    /// least what is worked out without it. One that says less takes nothing off.
    /// </summary>
    private static List<(LoadBasis Basis, Sourced<Mass> Source)> Said(
        LoadBasis basis,
        LoadEstimate? estimate,
        Mass? given,
        Mass? typed,
        IReadOnlyCollection<Sourced<Mass>> weighed
    )
    {
        var said = new List<(LoadBasis, Sourced<Mass>)>();
        if (typed is { } shown)
            said.Add((LoadBasis.Weighed, new(shown, FigureSource.Typed, $"typed {shown}")));
        if (given is { } marked)
            said.Add(
                basis == LoadBasis.Known
                    ? (LoadBasis.Known, new(marked, FigureSource.Known, $"known {marked}"))
                    : (LoadBasis.Marked, new(marked, FigureSource.Marked, $"marked {marked}"))
            );
        if (estimate is { } made)
        {
            var bare = made.WithoutContingency;
            var bornOut = said.Select(s => s.Item2).Concat(weighed).Any(s => s.Figure.Kilograms >= bare.Kilograms);
            var whole = basis != LoadBasis.Estimated && bornOut ? bare : made.Weight;
            said.Add(
                (
                    LoadBasis.Estimated,
                    new(
                        whole,
                        FigureSource.WorkedOut,
                        $"worked out {QuantityFormat.RoundedUp(whole, MassUnit.Kilogram)}"
                    )
                )
            );
        }

        return said;
    }

    private static LoadBasis? BasisOf(FigureSource from, List<(LoadBasis Basis, Sourced<Mass> Source)> said) =>
        from switch
        {
            FigureSource.Weighed => LoadBasis.Weighed,
            FigureSource.Typed => null,
            _ => said.First(s => s.Source.From == from).Basis,
        };
}
