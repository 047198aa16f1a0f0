using Keralith.Core.Gear;
using Keralith.Core.Quantities;

namespace Keralith.Core.Lifts;

/// <summary>What a plan comes to with the gear it names: the arrangement, and whether that gear may be used and seats.</summary>
/// <param name="Planned">The plan with its gear.</param>
/// <param name="Result">The arrangement; null while something is wanted.</param>
/// <param name="Outcome">The worst of all; null while something is wanted.</param>
/// <param name="Remarks">What bears on the plan beyond the arrangement.</param>
public sealed record PlanVerdict(
    PlannedLift Planned,
    LiftResult? Result,
    LiftOutcome? Outcome,
    IReadOnlyList<Remark> Remarks
)
{
    /// <summary>What each leg wants to hang level, by the reach on record; null where picks or a reach are not known.</summary>
    public Levelling? Levelled { get; init; }

    /// <summary>What is asked before it is lifted, from what is planned.</summary>
    public IReadOnlyList<ChecklistItem> Checklist { get; init; } = LiftChecklist.General;

    /// <summary>Whether it may go to the checklist: nothing wanted, nothing over, nothing forbidden.</summary>
    public bool MayBeLifted => Outcome is { } outcome && outcome < LiftOutcome.Overloaded;

    /// <summary>Whether a qualified person signs before it is lifted: critical lifts, and whatever is to be asked.</summary>
    public bool AsksSignature =>
        Planned.Plan.Critical || Outcome == LiftOutcome.Ask || Result?.Crane is { IsCritical: true };

    /// <summary>Whether the centre of gravity is known to lie elsewhere by another source than the plan's.</summary>
    public bool HasOtherCentre { get; init; }

    /// <summary>How it fits under what it hangs from; null where nobody asks.</summary>
    public HeadroomFit? Fit { get; init; }

    /// <summary>Judges a plan.</summary>
    /// <param name="plan">The plan.</param>
    /// <param name="gear">The pieces it names, by mark.</param>
    /// <param name="books">The rule books worked to.</param>
    /// <param name="known">What is on record of the lift; null: nothing.</param>
    public static PlanVerdict Of(
        LiftPlan plan,
        IReadOnlyDictionary<string, LiftGear> gear,
        IReadOnlyList<RuleBook> books,
        LiftKnown? known = null
    )
    {
        var planned = plan.With(gear, books);
        var result = planned.Lift is { } lift ? LiftJudge.Of(lift) : null;
        var remarks = new List<Remark>(plan.Weight.Remarks);
        var others = Centres(planned, known ?? LiftKnown.Nothing);
        if (known?.SetAside.Contains(LiftKnown.Centre) != true)
            remarks.AddRange(others.SelectMany(o => ByOther(planned, o.Source, o.Centre)));
        foreach (var piece in plan.Pieces.DistinctBy(p => p.Mark))
        {
            if (!gear.TryGetValue(piece.Mark, out var named))
                remarks.Add(new(LiftOutcome.NotPermitted, $"There is no piece {piece.Mark}."));
            else if (LiftGear.RoleOf(named.Gear.Family) == LiftRole.None)
                remarks.Add(new(LiftOutcome.NotPermitted, $"{named} belongs on no lift."));
            else if (!named.Use.MayBeUsed)
                remarks.Add(
                    new(LiftOutcome.NotPermitted, $"{named} may not be used: {string.Join(" ", named.Use.Reasons)}")
                );
        }

        remarks.AddRange(Seats(planned, gear));
        var levelled = Level(planned, gear);
        if (levelled is not null)
            remarks.AddRange(Hangs(levelled));
        remarks.AddRange(OfItsBeam(planned, gear));
        var fit =
            plan.Headroom is { } room && plan.Stand is not StandDrift
                ? HeadroomFit.Of(room, LegHeight(planned, gear))
                : null;
        remarks.AddRange(fit?.Remarks.Where(r => r.Outcome > LiftOutcome.Ok) ?? []);
        LiftOutcome? outcome = result?.Outcome;
        foreach (var remark in remarks)
        {
            if (outcome is { } so && remark.Outcome > so)
                outcome = remark.Outcome;
        }

        return new(planned, result, outcome, remarks)
        {
            Levelled = levelled,
            HasOtherCentre = others.Count > 0,
            Fit = fit,
            Checklist = LiftChecklist.Of(
                plan,
                plan.Pieces.Select(p => gear.GetValueOrDefault(p.Mark)?.Gear).OfType<GearPiece>()
            ),
        };
    }

    /// <summary>Judges a plan as it was typed.</summary>
    /// <param name="fields">What was typed, by field.</param>
    /// <param name="gear">The pieces it names, by mark.</param>
    /// <param name="books">The rule books worked to.</param>
    /// <param name="known">What is on record of the lift; null: nothing.</param>
    /// <returns>The plan and what it comes to, both null while something typed is at fault, and the faults by field.</returns>
    public static (LiftPlan? Plan, PlanVerdict? Verdict, IReadOnlyDictionary<string, string> Faults) OfFields(
        IReadOnlyDictionary<string, string> fields,
        IReadOnlyDictionary<string, LiftGear> gear,
        IReadOnlyList<RuleBook> books,
        LiftKnown? known = null
    )
    {
        var (plan, faults) = LiftPlanReader.Read(fields, known);
        return plan is null ? (null, null, faults) : (plan, Of(plan, gear, books, known), faults);
    }

    /// <summary>Where else the centre of gravity is known to lie: by the load's own figures, weighings on record, the trial lift.</summary>
    private static List<(string Source, LoadCentre Centre)> Centres(PlannedLift planned, LiftKnown known)
    {
        var others = new List<(string, LoadCentre)>();
        if (planned.Lift is not { Arrangement: LegsToPoints points } lift)
            return others;
        if (points.CentreIsTyped && lift.Load.Centre is { } own)
            others.Add(("the load's own figures", own));
        if (
            lift.Load.Parts is null
            && planned.Plan.Estimate is { Added: 0 } estimate
            && new LoadParts(estimate.Parts).Centre is { } parts
        )
            others.Add(("its parts", new(parts, InPlanOnly: false)));
        others.AddRange(
            known
                .Counting.Where(w => w.Supports is not null)
                .Select(w => (w.ToString(), new LoadCentre(w.Supports!.Centre, InPlanOnly: true)))
        );
        if (known.TrialCentre is { } tried)
            others.Add(("the trial lift", new(tried, InPlanOnly: false)));
        return others;
    }

    /// <summary>
    /// Where another source puts the centre of gravity apart from the plan's, that is told, the lift is worked out there
    /// too, and the worse counts.
    /// </summary>
    private static IEnumerable<Remark> ByOther(PlannedLift planned, string source, LoadCentre centre)
    {
        if (
            planned.Lift is not { Arrangement: LegsToPoints points } lift
            || LegsJudge.CentreApart(points.Geometry, centre) is not ({ } apart, var off)
        )
            yield break;
        if (centre != lift.Load.Centre)
            yield return new(
                apart,
                $"By {source} the centre of gravity lies {off:0} mm from where the plan has it: take that, or a qualified person sets it aside."
            );
        var at = centre.InPlanOnly ? centre.At with { Z = points.Geometry.Centre.Z } : centre.At;
        var there = LegGeometry.Read(points.Geometry.Hook, at, points.Geometry.Picks);
        if (!there.Ok)
            yield break;
        var other = LiftJudge.Of(lift with { Arrangement = points with { Geometry = there.Value } });
        if (other.Outcome > LiftOutcome.Caution)
            yield return new(
                other.Outcome,
                $"With the centre of gravity by {source} the lift comes out worse: {Deciding(other)}"
            );
    }

    /// <summary>What decides a result, in words.</summary>
    private static string Deciding(LiftResult result) =>
        result.Remarks.FirstOrDefault(r => r.Outcome == result.Outcome)?.Text
        ?? (
            result.Weakest is { Piece.Utilisation: { } used } weakest
                ? $"{weakest.Piece.Kind.Replace('-', ' ')}, {QuantityFormat.Number(QuantityFormat.Round(used * 100, 0))} % used."
                : Code.Of(result.Outcome)
        );

    private static Levelling? Level(PlannedLift planned, IReadOnlyDictionary<string, LiftGear> gear)
    {
        if (planned.Lift?.Arrangement is not LegsToPoints { Geometry: var geometry } || geometry.Picks.Count == 1)
            return null;
        var legs = planned.LegMarks.Select(leg => LengthOf(planned, gear, leg)).ToList();
        return legs.Any(l => l is null) ? null : Levelling.Of(geometry, [.. legs.Select(l => l!.Value)]);
    }

    /// <summary>A leg's length: its sling's reach and that of a turnbuckle in it; null where one is not on record.</summary>
    private static LegLength? LengthOf(
        PlannedLift planned,
        IReadOnlyDictionary<string, LiftGear> gear,
        IReadOnlyList<string> leg
    )
    {
        var sling = gear[leg[0]].Gear;
        var screws = leg.Where(m => gear[m].Gear.Family.Kind == GearKind.Turnbuckle).ToList();
        if (sling.Length("reach") is not { } reach || screws.Any(m => gear[m].Gear.Length("reach") is null))
            return null;
        var rigged = planned.Plan.Pieces.FirstOrDefault(p => p.Mark == screws.FirstOrDefault());
        return new(
            (double)(reach.Millimetres + screws.Sum(m => gear[m].Gear.Length("reach")!.Value.Millimetres)),
            sling.Shortener ? (double?)sling.Length("pitch")?.Millimetres : null,
            rigged is null ? null : Screw.Of(gear[rigged.Mark].Gear.Length("threadSize"), rigged.Facts)
        );
    }

    /// <summary>What the record says of the beam that the plan says otherwise.</summary>
    private static IEnumerable<Remark> OfItsBeam(PlannedLift planned, IReadOnlyDictionary<string, LiftGear> gear)
    {
        if (planned.Plan.Stand is not StandBeam stand || planned.BeamMark is not { } mark)
            yield break;
        var beam = gear[mark].Gear;
        var kind = beam.Text("kind") == "equalizer" ? BeamKind.Equaliser : Code.Find<BeamKind>(beam.Text("kind"));
        if (kind is { } made && made != stand.Kind)
            yield return new(
                LiftOutcome.NotPermitted,
                $"{mark} is made as {Said(made)} beam and planned as {Said(stand.Kind)}: it carries otherwise."
            );
        if (
            stand.Kind == BeamKind.Spreader
            && beam.Length("span") is { } span
            && span.Millimetres != stand.Span.Millimetres
        )
            yield return new(
                LiftOutcome.Ask,
                $"{mark} is marked for a span of {span} and planned at {stand.Span}: is its rating for this span?"
            );

        static string Said(BeamKind kind) => kind == BeamKind.Equaliser ? "an equaliser" : $"a {Code.Of(kind)}";
    }

    /// <summary>How high the legs stand over the lowest pick, in millimetres; null where a reach is not known.</summary>
    private static double? LegHeight(PlannedLift planned, IReadOnlyDictionary<string, LiftGear> gear)
    {
        if (planned.Plan.Stand is StandPoints { Geometry: var points })
            return points.Hook.Z - points.Picks.Min(p => p.Z);
        var reaches = planned.LegMarks.Select(l => gear[l[0]].Gear.Length("reach")).ToList();
        if (planned.Lift is null || reaches.Count == 0 || reaches.Any(r => r is null))
            return null;
        var longest = (double)reaches.Max(r => r!.Value.Millimetres);
        return planned.Plan.Stand switch
        {
            StandAlike alike => longest * Math.Sin((double)alike.Angle.Degrees * Math.PI / 180),
            StandBeam { TopAngle: { } top } beam => longest
                + ((double)beam.Span.Millimetres / 2 * Math.Tan((double)top.Degrees * Math.PI / 180)),
            StandBeam or StandCranes => longest,
            _ => null,
        };
    }

    /// <summary>The arrangement is worked out as drawn; legs of the lengths on record may not bring the hook there.</summary>
    private static IEnumerable<Remark> Hangs(Levelling levelled)
    {
        if (levelled.Tilt is not { } tilt)
            yield return new(
                LiftOutcome.Ask,
                "By the reach on record the legs do not meet as drawn: longer slings, or picks nearer."
            );
        else if (tilt > LiftJudge.MostTilt)
            yield return new(
                LiftOutcome.Ask,
                $"By the reach on record the load would hang tilted {tilt:0.0} deg: bring the legs to length, as the plan says, and try it."
            );
        else if (tilt > LiftJudge.CautionTilt)
            yield return new(
                LiftOutcome.Caution,
                $"By the reach on record the load would hang tilted {tilt:0.0} deg: bring the legs to length, as the plan says."
            );
    }

    /// <summary>A hook and what hangs in it, wherever both are registered with their sizes.</summary>
    private static IEnumerable<Remark> Seats(PlannedLift planned, IReadOnlyDictionary<string, LiftGear> gear)
    {
        var lines = planned
            .LegMarks.Select(leg => planned.AboveMarks.Concat(leg).ToList())
            .DefaultIfEmpty([.. planned.AboveMarks]);
        foreach (var (hook, eye) in lines.SelectMany(line => line.Zip(line.Skip(1))).Distinct())
        {
            if (
                !gear.TryGetValue(hook, out var upper)
                || !gear.TryGetValue(eye, out var lower)
                || upper.Gear.Family.Kind != GearKind.Hook
                || lower.Fit == FitSizes.None
            )
                continue;
            if (SeatCheck.Of(upper.Fit, lower.Fit) is { Seats: false } seat)
                yield return new(LiftOutcome.Ask, $"{eye} in the hook {hook}: {seat.Words}");
        }
    }
}
