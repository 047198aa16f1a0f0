using Keralith.Core.Gear;
using Keralith.Core.Quantities;
using Keralith.Core.Tags;

namespace Keralith.Core.Lifts;

/// <summary>One step from what is asked of a piece back to what must be marked on it.</summary>
/// <param name="What">What takes its share.</param>
/// <param name="Factor">The share it leaves.</param>
/// <param name="Needed">What must be there before it takes it, in kilograms.</param>
public sealed record NeedStep(string What, decimal Factor, decimal Needed);

/// <summary>The least rated load a piece must have for its place.</summary>
/// <param name="Family">The kind it was worked out for.</param>
/// <param name="Demand">What is asked of it, in kilograms.</param>
/// <param name="Steps">Back through each reduction.</param>
/// <param name="RatedLoad">What must be marked on it at least, in kilograms.</param>
public sealed record LeastRating(GearFamily Family, decimal Demand, IReadOnlyList<NeedStep> Steps, decimal RatedLoad);

/// <summary>A piece that was tried in a place.</summary>
/// <param name="Gear">The piece.</param>
/// <param name="Piece">What it comes to there.</param>
/// <param name="Needed">How many of it the place wants.</param>
/// <param name="WhyNot">Why it is not offered; empty where it is.</param>
public sealed record TriedGear(LiftGear Gear, PieceOnLift Piece, int Needed, IReadOnlyList<string> WhyNot)
{
    public bool IsOffered => WhyNot.Count == 0;
}

/// <summary>Which gear will do for a place of a plan: each piece is tried there by the one judgement.</summary>
/// <param name="Least">What must be marked at least; null where no rating would do.</param>
/// <param name="Offers">Usable pieces that will do, the tightest fit first.</param>
/// <param name="NearMisses">Pieces that nearly would, and why not.</param>
public sealed record GearSearch(
    LeastRating? Least,
    IReadOnlyList<TriedGear> Offers,
    IReadOnlyList<TriedGear> NearMisses
)
{
    /// <summary>
    /// The one place it was tried in, from 1: of a row of hoists, each stands its own way, and the next is the first without one;
    /// null: in all there are.
    /// </summary>
    public int? Place { get; private init; }

    /// <summary>Pieces asked for more than this share are no near misses.</summary>
    private const decimal Near = 2;

    /// <summary>Most near misses named.</summary>
    private const int MostMisses = 12;

    private static readonly Mass Nominal = Mass.FromKilograms(1000);

    /// <summary>Searches for a place.</summary>
    /// <param name="plan">The plan.</param>
    /// <param name="family">The kind of piece wanted.</param>
    /// <param name="above">Whether it hangs above the legs; hardware only.</param>
    /// <param name="candidates">The pieces to try.</param>
    /// <param name="books">The rule books worked to.</param>
    /// <param name="facts">How it would be rigged, where that is known; null: shackles in line, everything else as
    /// nobody has said.</param>
    /// <param name="chosen">The pieces on the plan so far, by mark; null: none.</param>
    public static GearSearch Of(
        LiftPlan plan,
        GearFamily family,
        bool above,
        IEnumerable<LiftGear> candidates,
        IReadOnlyList<RuleBook> books,
        RigFacts? facts = null,
        IReadOnlyDictionary<string, LiftGear>? chosen = null
    )
    {
        int? place = plan.Stand is StandDrift drift
            ? PlanGear
                .Wanting(
                    drift.Legs,
                    family,
                    plan.Pieces.Select(p => (p.Mark, p.Place)),
                    chosen ?? new Dictionary<string, LiftGear>()
                )
                .Cast<int?>()
                .FirstOrDefault()
            : null;
        facts ??= new() { Pull = family.Kind == GearKind.Shackle ? new(0) : null };
        var tried = new List<TriedGear>();
        foreach (var gear in candidates.Where(c => c.Gear.Family == family && plan.Pieces.All(p => p.Mark != c.Mark)))
        {
            if (Tried(plan, gear, above, place, facts, books) is not [_, ..] places)
                continue;
            var piece = Deciding(places);
            var why = gear.Use.MayBeUsed ? new List<string>() : [.. gear.Use.Reasons];
            if (piece.Outcome > LiftOutcome.Caution)
                why.AddRange(
                    piece.Outcome == LiftOutcome.Overloaded
                        ?
                        [
                            $"{QuantityFormat.Rounded(Mass.FromKilograms(piece.Allowed!.Value), (gear.RatedLoad ?? Nominal).Unit)} allowed here, {Percent(piece.Utilisation!.Value)} would be used.",
                        ]
                        : piece
                            .Remarks.Where(r => r.Outcome > LiftOutcome.Caution)
                            .Select(r => $"{char.ToUpperInvariant(r.Text[0])}{r.Text[1..]}.")
                );
            var needed =
                above || place is not null ? 1 : (plan.Stand.Legs + gear.MostLegs - 1) / Math.Max(1, gear.MostLegs);
            tried.Add(new(gear, piece, needed, why));
        }

        var nominal = new LiftGear(
            string.Empty,
            Bare(family, plan),
            Nominal,
            family.AssumedDesignFactor,
            TagWords.Plain with
            {
                Hitch = Hitch.Vertical,
            },
            new([])
        );
        return new(
            Worked(family, Tried(plan, nominal, above, place, facts, books)),
            [
                .. tried
                    .Where(t => t.IsOffered)
                    .OrderByDescending(t => t.Piece.Utilisation)
                    .ThenBy(t => t.Gear.Mark, StringComparer.Ordinal),
            ],
            [
                .. tried
                    .Where(t => !t.IsOffered && t.Piece.Utilisation is null or < Near)
                    .OrderBy(t => t.Piece.Utilisation > 1)
                    .ThenByDescending(t => t.Piece.Utilisation)
                    .ThenBy(t => t.Gear.Mark, StringComparer.Ordinal)
                    .Take(MostMisses),
            ]
        )
        {
            Place = place,
        };
    }

    /// <summary>
    /// The place that decides whether a piece will do: where it does not, the worst; where it does everywhere, the one that asks
    /// most of it.
    /// </summary>
    private static PieceOnLift Deciding(IReadOnlyList<PieceOnLift> places)
    {
        var worst = places.Max(p => p.Outcome);
        return Hardest(worst > LiftOutcome.Caution ? [.. places.Where(p => p.Outcome == worst)] : places)!;
    }

    /// <summary>The place that asks most of a piece; one where no figure is allowed asks more than any.</summary>
    private static PieceOnLift? Hardest(IReadOnlyList<PieceOnLift> places) =>
        places.MaxBy(p => p.Utilisation ?? decimal.MaxValue);

    /// <summary>
    /// A piece in every place it would have in the plan, everything else left as a sling that is not yet chosen; none where such
    /// a plan has no place for it.
    /// </summary>
    private static IReadOnlyList<PieceOnLift> Tried(
        LiftPlan plan,
        LiftGear gear,
        bool above,
        int? place,
        RigFacts facts,
        IReadOnlyList<RuleBook> books
    )
    {
        if (plan.Stand is StandDrift drift)
        {
            if (LiftGear.RoleOf(gear.Gear.Family) == LiftRole.Sling)
                return [];
            var component = gear.Component(facts);
            var between = new BetweenHoists(
                drift.Steps,
                [.. Enumerable.Repeat<IReadOnlyList<LiftComponent>>([component], drift.Legs)]
            );
            var hoists = LiftJudge.Of(new(books, plan.Load, between)).Legs.Select(l => l.Pieces[0]).ToList();
            return place is { } only ? [hoists[only - 1]] : hoists;
        }

        var isSling = LiftGear.RoleOf(gear.Gear.Family) == LiftRole.Sling;
        var stand = new LiftSling(new GearPiece(GearFamilies.Find("roundsling")!, []), null);
        IReadOnlyList<LiftComponent> hardware = isSling ? [] : [gear.Component(facts)];
        var rigging = isSling ? plan.RiggingOf(gear, []) : plan.Rigged(stand, above ? [] : hardware);
        Arrangement arrangement = plan.Stand switch
        {
            StandAlike alike => new SymmetricLegs(alike.Count, alike.Angle, rigging),
            StandBeam under => new UnderBeam(
                new(under.Kind, null, null, under.Span) { TopAngle = under.TopAngle, Top = rigging },
                [.. under.Drops.Select(d => new Drop(d.At, rigging) { AboveCentre = d.AboveCentre })],
                under.Centre
            ),
            StandCranes cranes => new BetweenCranes(
                [.. cranes.Hooks.Select(h => new Drop(h.At, rigging) { AboveCentre = h.AboveCentre })],
                cranes.Centre,
                cranes.Second
            ),
            StandPoints points => new LegsToPoints(points.Geometry, [.. Enumerable.Repeat(rigging, points.Legs)]),
            _ => throw new System.Diagnostics.UnreachableException(),
        };
        var result = LiftJudge.Of(
            new(books, plan.Load, arrangement)
            {
                FourLegs = plan.FourLegs,
                Above = above && !isSling ? hardware : [],
                Rigging = plan.Rigging,
            }
        );
        return above && !isSling ? [result.Above[0]] : [.. result.Legs.Select(l => l.Pieces[isSling ? 0 : 1])];
    }

    /// <summary>A piece of a family of which nothing is stated but the size the plan's bend is measured by.</summary>
    private static GearPiece Bare(GearFamily family, LiftPlan plan)
    {
        var chosen = new List<KeyValuePair<string, AttributeValue>>();
        if (LiftGear.RoleOf(family) == LiftRole.Sling && plan.Stand.Legs > 1)
            chosen.Add(new("legs", new WholeValue(1)));
        if (family.Kind == GearKind.EyeBolt)
            chosen.Add(new("shoulder", new FlagValue(true)));
        return new(family, chosen);
    }

    private static LeastRating? Worked(GearFamily family, IReadOnlyList<PieceOnLift> places)
    {
        if (Hardest(places) is not { Demand: { } demand, Utilisation: { } used } piece)
            return null;
        var steps = new List<NeedStep>();
        var needed = demand;
        foreach (var reduction in piece.Reductions.Reverse())
        {
            needed = Figures.Ratio(needed, reduction.Factor);
            steps.Add(new(reduction.What, reduction.Factor, needed));
        }

        return new(family, demand, steps, used * Nominal.Kilograms);
    }

    private static string Percent(decimal share) => $"{QuantityFormat.Number(QuantityFormat.Round(share * 100, 0))} %";
}
