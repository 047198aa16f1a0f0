using Keralith.Core.Gear;
using Keralith.Core.Quantities;
using Keralith.Core.Register;

namespace Keralith.Core.Lifts;

/// <summary>A lift being put together: the load, how it hangs, and the gear chosen so far.</summary>
public sealed record LiftPlan
{
    public required string Name { get; init; }

    public string? Job { get; init; }

    /// <summary>A critical lift asks a qualified person's signature.</summary>
    public bool Critical { get; init; }

    public required LiftLoad Load { get; init; }

    /// <summary>Where its weight comes from, and what else is known of it.</summary>
    public required LoadWeight Weight { get; init; }

    /// <summary>How the weight was worked out; null where it was not.</summary>
    public LoadEstimate? Estimate { get; init; }

    public required PlannedStand Stand { get; init; }

    public required PlannedHitch Hitch { get; init; }

    public FourLegs? FourLegs { get; init; }

    public Mass? Rigging { get; init; }

    /// <summary>The crane it hangs from; null: from what is named above.</summary>
    public Crane? Crane { get; init; }

    /// <summary>The room above it and its way; null where nobody asks.</summary>
    public Headroom? Headroom { get; init; }

    public IReadOnlyList<PlannedPiece> Pieces { get; init; } = [];

    /// <summary>The lift these pieces make.</summary>
    /// <param name="gear">The pieces by mark.</param>
    /// <param name="books">The rule books worked to.</param>
    /// <returns>The lift with the marks of its legs' pieces and of those above; where a leg has no sling yet, what is
    /// still wanted.</returns>
    public PlannedLift With(IReadOnlyDictionary<string, LiftGear> gear, IReadOnlyList<RuleBook> books)
    {
        var known = Pieces.Where(p => gear.ContainsKey(p.Mark)).Select(p => (Piece: p, Gear: gear[p.Mark])).ToList();
        var wanted = Crowded(known).Concat(Misplaced(known)).ToList();
        var tops = known
            .Where(k => k.Piece.Place == PlannedPlace.Top && LiftGear.RoleOf(k.Gear.Gear.Family) == LiftRole.Sling)
            .SelectMany(k =>
                Enumerable.Repeat<IReadOnlyList<string>>([k.Piece.Mark], Math.Min(TopLegs, k.Gear.MostLegs))
            )
            .ToList();
        var above = known
            .Where(k =>
                k.Piece.Place.Leg is null && LiftGear.RoleOf(k.Gear.Gear.Family) is LiftRole.Hardware or LiftRole.Above
            )
            .ToList();
        var legs = Enumerable
            .Range(1, Stand.Legs)
            .Select(n => known.Where(k => k.Piece.Place.IsIn(n)).ToList())
            .ToList();
        var marks = new List<IReadOnlyList<string>>();
        Arrangement? arrangement;
        if (Stand is StandDrift drift)
        {
            marks.AddRange(legs.Select(l => l.Select(k => k.Piece.Mark).ToList()));
            for (var i = 0; i < legs.Count; i++)
            {
                if (!legs[i].Any(k => k.Gear.Gear.Family.Group == Gear.FamilyGroup.Hoist))
                    wanted.Add($"hoist {i + 1} has no hoist yet");
            }

            arrangement =
                wanted.Count > 0
                    ? null
                    : new BetweenHoists(
                        drift.Steps,
                        [.. legs.Select(l => (IReadOnlyList<LiftComponent>)[.. l.Select(Component)])]
                    );
        }
        else
        {
            var riggings = Riggings(legs, marks, wanted);
            var under = Stand is StandBeam beam ? Under(beam, known, riggings, wanted) : null;
            if (Stand is StandCranes && above.Count > 0)
                wanted.Add("on two cranes each piece hangs at one of the hooks: nothing is above both");
            arrangement =
                wanted.Count > 0
                    ? null
                    : Stand switch
                    {
                        StandAlike alike => new SymmetricLegs(alike.Angle, riggings),
                        StandPoints points => new LegsToPoints(points.Geometry, riggings)
                        {
                            CentreIsTyped = points.CentreIsTyped,
                            OwnIsSetAside = points.OwnIsSetAside,
                        },
                        StandBeam => under,
                        StandCranes cranes => new BetweenCranes(
                            [
                                .. cranes.Hooks.Zip(riggings, (h, rigging) =>
                                    new Drop(h.At, rigging) { AboveCentre = h.AboveCentre }
                                ),
                            ],
                            cranes.Centre,
                            cranes.Second
                        ),
                        _ => throw new System.Diagnostics.UnreachableException(),
                    };
        }

        var components = above.Select(Component).ToList();
        var kits = arrangement is null ? [] : Kits(legs);
        var weights = OwnWeights.Of(
            known
                .Where(k => k.Piece.Place.Leg is not null && k.Piece.Place != PlannedPlace.Beam)
                .GroupBy(k => k.Gear)
                .Select(g => (g.Key, g.Key.LotCount is null ? 1 : g.Sum(k => Times(k.Piece.Place, k.Gear)))),
            [.. above.Select(a => a.Gear)],
            Rigging
        );
        var lift = arrangement is null
            ? null
            : new Lift(books, Load, arrangement)
            {
                Edition = IsOfFirst ? LiftEdition.First : LiftEdition.Second,
                Crane = Crane,
                FourLegs = FourLegs,
                Rigging = weights.Rigging,
                AboveWeights = weights.Above,
                Unweighed = weights.Unknown,
                LegSlings = SlingsOf(Stand is StandBeam ? tops : marks, above.LastOrDefault().Gear, components),
            };
        if (lift is not null && Collecting.Included(lift) is { } included && components.Count > 0)
            components[^1] = Collects(components[^1], included);
        return new(
            this,
            lift is null ? null : lift with { Above = [.. components, .. kits.Select(k => k.Common)] },
            marks,
            [.. above.Select(a => a.Piece.Mark), .. kits.Select(k => k.Mark)],
            wanted
        )
        {
            BeamMark = known.FirstOrDefault(k => k.Piece.Place == PlannedPlace.Beam).Piece?.Mark,
            TopMarks = tops,
        };
    }

    /// <summary>Which legs are one sling, by their marks, and what collects them.</summary>
    private static LegSlings SlingsOf(
        IReadOnlyList<IReadOnlyList<string>> legs,
        LiftGear? lowest,
        IReadOnlyList<LiftComponent> above
    )
    {
        var marks = legs.Select(l => l[0]).ToList();
        return new([.. marks.Select(m => marks.IndexOf(m))], above.LastOrDefault(), lowest?.ToString());
    }

    /// <summary>Whether nothing of it wants the later edition of the document.</summary>
    private bool IsOfFirst =>
        Hitch.Edge is null && Crane is null && Stand is not StandBeam && Load is { Parts: null, Weighings: null };

    /// <summary>How many legs a piece hangs in at a place: above a beam no more than it has.</summary>
    private int Times(PlannedPlace place, LiftGear gear) =>
        place == PlannedPlace.Top ? Math.Min(TopLegs, gear.MostLegs)
        : place == PlannedPlace.EveryLeg ? Stand.Legs
        : place.IsLeg ? 1
        : 0;

    /// <summary>How many legs stand above a beam.</summary>
    private int TopLegs => Stand is StandBeam { Kind: BeamKind.Spreader } ? 2 : 1;

    /// <summary>The rigging of each leg; what a leg lacks is wanted.</summary>
    private List<LegRigging> Riggings(
        IReadOnlyList<List<(PlannedPiece Piece, LiftGear Gear)>> legs,
        List<IReadOnlyList<string>> marks,
        List<string> wanted
    )
    {
        var riggings = new List<LegRigging>();
        var called =
            Stand is StandBeam ? "drop"
            : Stand is StandCranes ? "hook"
            : "leg";
        foreach (var (i, leg) in legs.Index())
        {
            var slings = leg.Where(k => LiftGear.RoleOf(k.Gear.Gear.Family) == LiftRole.Sling).ToList();
            var hardware = leg.Where(k => LiftGear.RoleOf(k.Gear.Gear.Family) == LiftRole.Hardware).ToList();
            if (slings.Count != 1)
            {
                wanted.Add(
                    slings.Count == 0
                        ? $"{called} {i + 1} has no sling yet"
                        : $"{called} {i + 1} has {slings.Count} slings: choose one"
                );
                continue;
            }

            riggings.Add(RiggingOf(slings[0].Gear, [.. hardware.Select(Component)]));
            marks.Add([slings[0].Piece.Mark, .. hardware.Select(h => h.Piece.Mark)]);
        }

        return riggings;
    }

    /// <summary>The load under its beam, with what the beam hangs by; what lacks is wanted.</summary>
    private UnderBeam? Under(
        StandBeam stand,
        IReadOnlyList<(PlannedPiece Piece, LiftGear Gear)> known,
        IReadOnlyList<LegRigging> drops,
        List<string> wanted
    )
    {
        var beams = known.Where(k => k.Piece.Place == PlannedPlace.Beam).Select(k => k.Gear).ToList();
        if (beams is not [{ Gear.Family.Kind: Gear.GearKind.Beam } beam])
        {
            wanted.Add(beams.Count > 1 ? "there are several beams: choose one" : "no beam is named yet");
            return null;
        }

        var top = known.Where(k => k.Piece.Place == PlannedPlace.Top).ToList();
        var slings = top.Where(k => LiftGear.RoleOf(k.Gear.Gear.Family) == LiftRole.Sling).ToList();
        var held = slings.Sum(k => k.Gear.MostLegs);
        if (slings.Count > 0 ? held < TopLegs : TopLegs > 1)
            wanted.Add($"the {(TopLegs > 1 ? "two legs above the beam are" : "leg above the beam is")} not named yet");
        if (wanted.Count > 0)
            return null;
        return new(
            new(stand.Kind, beam.RatedLoad, beam.Gear.Mass("ownWeight"), stand.Span)
            {
                TopAngle = stand.TopAngle,
                LeastTopAngle = stand.LeastTopAngle,
                Top =
                    slings.Count == 0
                        ? null
                        : new LegRigging(Tags.Hitch.Vertical, Weaker(slings.Select(s => s.Gear)))
                        {
                            Components =
                            [
                                .. top.Where(k => LiftGear.RoleOf(k.Gear.Gear.Family) == LiftRole.Hardware)
                                    .Select(Component),
                            ],
                        },
            },
            [.. stand.Drops.Zip(drops, (d, rigging) => new Drop(d.At, rigging) { AboveCentre = d.AboveCentre })],
            stand.Centre
        );
    }

    /// <summary>Of slings above a beam both legs are taken as the weaker; one whose rating is not known is the weakest.</summary>
    private static LiftSling Weaker(IEnumerable<LiftGear> slings) =>
        slings.Select(s => s.Sling(Tags.Hitch.Vertical)).MinBy(s => s.RatedLoad?.Kilograms ?? -1)!;

    /// <summary>The piece that collects the legs, with the angle they meet at: never less than the geometry says.</summary>
    private static LiftComponent Collects(LiftComponent lowest, Angle included) =>
        lowest switch
        {
            HookOnLift hook => hook with { Collects = Wider(hook.Collects, included) },
            ShackleOnLift shackle => shackle with { Collects = Wider(shackle.Collects, included) },
            LinkOnLift link => link with { Collects = Wider(link.Collects, included) },
            _ => lowest,
        };

    private static Angle Wider(Angle? said, Angle worked) => said is { } angle && angle > worked ? angle : worked;

    /// <summary>
    /// What the legs of a kit have in common sees the whole load, at the angle they meet: it caps the kit.
    /// </summary>
    private List<(string Mark, LiftComponent Common)> Kits(
        IReadOnlyList<List<(PlannedPiece Piece, LiftGear Gear)>> legs
    ) =>
        [
            .. legs.SelectMany(l => l)
                .Where(k => k.Gear.Gear.Family.Kind == Gear.GearKind.Kit)
                .Select(k => k.Gear)
                .Distinct()
                .Where(k => k.Members.Any(m => m.Bears == KitShare.Common))
                .Select(k =>
                    (
                        k.Mark,
                        (LiftComponent)
                            new LinkOnLift(
                                KitMember.Common(k.Members),
                                Stand is StandAlike alike ? new(180 - (2 * alike.Angle.Degrees)) : null
                            )
                    )
                ),
        ];

    /// <summary>One leg rigged as planned with a sling and what hangs in it.</summary>
    internal LegRigging RiggingOf(LiftGear sling, IReadOnlyList<LiftComponent> components) =>
        Rigged(sling.Sling(Hitch.Hitch), components);

    internal LegRigging Rigged(LiftSling sling, IReadOnlyList<LiftComponent> components) =>
        new(Hitch.Hitch, sling with { Thickness = sling.Thickness ?? Hitch.Thickness })
        {
            Components = components,
            ChokeAngle = Hitch.ChokeAngle,
            BendRatio =
                Hitch.BentRound is { } round
                && (sling.Gear.Size ?? sling.Gear.Length("ropeSize")) is { } size
                && size.Millimetres > 0
                    ? round.Millimetres / size.Millimetres
                    : null,
            DoubleWrap = Hitch.DoubleWrap,
            Contact = Hitch.Contact,
            Reeved = Hitch.Reeved,
            Crossed = Hitch.Crossed,
            Edge = Hitch.Edge,
        };

    /// <summary>Pieces in more legs than they have: one sling counted twice carries nothing twice.</summary>
    private IEnumerable<string> Crowded(IReadOnlyList<(PlannedPiece Piece, LiftGear Gear)> known) =>
        from k in known
        group k by k.Gear into one
        let legs = one.Sum(k => Times(k.Piece.Place, k.Gear))
        where
            legs > one.Key.MostLegs
            || one.Count(k => k.Piece.Place.Leg is null) > 1
            || (legs > 0 && one.Any(k => k.Piece.Place.Leg is null))
        select $"{one.Key} is put in {legs} legs and serves {one.Key.MostLegs}";

    /// <summary>
    /// Pieces put where the arithmetic has no place for them: left out in silence, their rating would be checked by
    /// nobody.
    /// </summary>
    private IEnumerable<string> Misplaced(IEnumerable<(PlannedPiece Piece, LiftGear Gear)> known) =>
        from k in known
        let role = LiftGear.RoleOf(k.Gear.Gear.Family)
        where
            (role == LiftRole.Sling && k.Piece.Place.Leg is null or -1)
            || (role == LiftRole.Above && k.Piece.Place.Leg is not null && Stand is not StandDrift)
            || (k.Piece.Place.Leg < 0 && Stand is not StandBeam)
            || (k.Piece.Place == PlannedPlace.Beam && k.Gear.Gear.Family.Kind != Gear.GearKind.Beam)
            || (
                Stand is StandBeam
                && k.Gear.Gear.Family.Kind == Gear.GearKind.Beam
                && k.Piece.Place != PlannedPlace.Beam
            )
        select $"{k.Gear} hangs where it has no place: slings hang in the legs, hoists and lifting points above them";

    private static LiftComponent Component((PlannedPiece Piece, LiftGear Gear) planned) =>
        planned.Gear.Component(planned.Piece.Facts);
}
