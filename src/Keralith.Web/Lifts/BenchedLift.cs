using Keralith.Core.Lifts;
using Keralith.Core.Quantities;
using Keralith.Core.Register;
using Keralith.Core.Sites;
using Keralith.Data;

namespace Keralith.Web.Lifts;

/// <summary>A lift on the bench: what is typed of it, the gear it names, and what it comes to.</summary>
public sealed class BenchedLift
{
    public required LiftRow Row { get; init; }

    /// <summary>What is typed, by field.</summary>
    public required IReadOnlyDictionary<string, string> Fields { get; init; }

    /// <summary>By whose rules it is lifted: those of the sites its gear belongs to, together.</summary>
    public required Site Site { get; init; }

    public required DateOnly Today { get; init; }

    /// <summary>The plan; null while something typed is at fault.</summary>
    public LiftPlan? Plan { get; init; }

    /// <summary>What is at fault, by field.</summary>
    public required IReadOnlyDictionary<string, string> Faults { get; init; }

    /// <summary>Whether nothing is wrong but that the load is not said yet.</summary>
    public bool IsJustBegun => Faults.Count > 0 && Faults.Values.All(f => f == LiftPlanReader.WeightWanted);

    /// <summary>What is at fault with what was typed, by field: what is only wanted still is no fault of a field.</summary>
    public IReadOnlyDictionary<string, string> TypedFaults =>
        Faults.Where(f => f.Value != LiftPlanReader.WeightWanted).ToDictionary();

    /// <summary>The pieces named, by mark.</summary>
    public required IReadOnlyDictionary<string, LiftGear> Gear { get; init; }

    /// <summary>The same pieces as the register has them.</summary>
    public required IReadOnlyDictionary<string, Piece> Pieces { get; init; }

    /// <summary>What the plan comes to; null while something typed is at fault.</summary>
    public PlanVerdict? Verdict { get; init; }

    public LiftResult? Result => Verdict?.Result;

    /// <summary>The unit loads are shown in.</summary>
    public MassUnit MassUnit =>
        Fields.GetValueOrDefault("massUnit") switch
        {
            "lb" => MassUnit.Pound,
            "t" => MassUnit.Tonne,
            "short ton" => MassUnit.ShortTon,
            _ => MassUnit.Kilogram,
        };

    /// <summary>A length of the plan, in its unit.</summary>
    public string Reach(double millimetres) =>
        Fields.GetValueOrDefault("unit") switch
        {
            "mm" => FormattableString.Invariant($"{millimetres:0.#} mm"),
            "m" => FormattableString.Invariant($"{millimetres / 1000:0.###} m"),
            "in" => FormattableString.Invariant($"{millimetres / 25.4:0.##} in"),
            _ => FormattableString.Invariant($"{millimetres / 304.8:0.###} ft"),
        };

    /// <summary>What is asked of something, in words; never understated.</summary>
    public string Asked(decimal kilograms) => QuantityFormat.RoundedUp(Mass.FromKilograms(kilograms), MassUnit);

    /// <summary>What something may carry, in words; never overstated.</summary>
    public string May(decimal kilograms) => QuantityFormat.Rounded(Mass.FromKilograms(kilograms), MassUnit);

    /// <summary>What a leg is called here, from 1.</summary>
    public string Leg(int number) =>
        Plan?.Stand switch
        {
            StandDrift => $"hoist {number}",
            StandBeam => $"drop {number}",
            StandCranes => $"hook {number}",
            _ => $"leg {number}",
        };

    /// <summary>Every piece above the legs, from the top down, with where it is and its mark.</summary>
    public IEnumerable<(string Where, string? Mark, PieceOnLift Piece)> Above =>
        Result is not { } result || Verdict is not { } verdict
            ? []
            :
            [
                .. result.Above.Select((p, i) => ("above", verdict.Planned.MarkAt(null, i), p)),
                .. (result.Beam?.Top ?? []).SelectMany(
                    (t, end) =>
                        t.Pieces.Select(
                            (p, i) =>
                                (
                                    $"above the beam{(result.Beam!.Top.Count == 1 ? string.Empty : end == 0 ? ", + end" : ", - end")}",
                                    i == 0 ? verdict.Planned.TopMarks.ElementAtOrDefault(end)?[0] : null,
                                    p
                                )
                        )
                ),
                .. result.Beam is { } beam
                    ? [("beam", verdict.Planned.BeamMark, beam.Piece)]
                    : Array.Empty<(string, string?, PieceOnLift)>(),
            ];

    /// <summary>Every piece of the legs, with where it is and its mark.</summary>
    public IEnumerable<(string Where, string? Mark, PieceOnLift Piece)> InLegs =>
        (Result?.Legs ?? []).SelectMany(l =>
            l.Pieces.Select((p, i) => (Leg(l.Number), Verdict!.Planned.MarkAt(l.Number, i), p))
        );

    /// <summary>The changes that would help.</summary>
    public IReadOnlyList<LiftFix> Fixes =>
        Verdict?.Planned.Lift is { } lift && Result is { } result ? LiftFixes.Of(lift, result) : [];

    /// <summary>What may be said of what a load is like, by field.</summary>
    public static IReadOnlyList<(string Field, string Text)> Natures { get; } =
    [
        ("is-points", "Has points to lift it by"),
        ("is-loose", "A bundle, or loose"),
        ("is-slick", "Slick"),
        ("is-fragile", "Gives when pressed"),
        ("is-tall", "Higher than wide"),
        ("is-long", "Long"),
        ("is-finish", "Polished, painted or soft"),
        ("is-edges", "Sharp edges"),
        ("is-rough", "Rough, rubs"),
        ("is-sunlight", "Long in sunlight"),
        ("is-light", "Light, handled by hand"),
        ("is-shock", "Jerks can't be ruled out"),
        .. Enum.GetValues<Core.Tags.Chemical>()
            .Select(c => ($"is-{Code.Of(c)}", $"{char.ToUpperInvariant(Code.Of(c)[0])}{Code.Of(c)[1..]}")),
    ];

    /// <summary>Whether anything was said of what the load is like.</summary>
    public bool IsDescribed => Natures.Any(n => Is(n.Field));

    /// <summary>What the load is like: as ticked, and as its shape, heat and edges say.</summary>
    public LoadNature Nature
    {
        get
        {
            var sizes = HitchKinds.Sizes(Plan?.Estimate);
            return new()
            {
                HasPoints = Is("is-points"),
                Loose = Is("is-loose"),
                Slick = Is("is-slick"),
                Fragile = Is("is-fragile"),
                Tall = Is("is-tall"),
                IsLong = Is("is-long") || (sizes is { } s && s.Longest > HitchKinds.LongFrom * s.Next),
                Finish = Is("is-finish"),
                SharpEdges = Is("is-edges") || Plan?.Hitch.Edge is { Protection: EdgeProtection.None },
                Rough = Is("is-rough"),
                Sunlight = Is("is-sunlight"),
                Light = Is("is-light"),
                Shock = Is("is-shock"),
                Temperature = Plan?.Load.Temperature,
                Chemicals = [.. Enum.GetValues<Core.Tags.Chemical>().Where(c => Is($"is-{Code.Of(c)}"))],
                NoChain = Site.Policies.NoChainHoisting,
                Books = Site.Books,
            };
        }
    }

    private bool Is(string field) => Fields.GetValueOrDefault(field) == "true";

    /// <summary>What was done with it, the newest first.</summary>
    public IReadOnlyList<LiftRecord> Records { get; init; } = [];

    /// <summary>What is on record of it.</summary>
    public LiftKnown Known { get; init; } = LiftKnown.Nothing;

    /// <summary>Works out a lift with its gear as it stands now.</summary>
    /// <param name="row">The lift.</param>
    /// <param name="fields">What is typed; the lift's own where nothing else was.</param>
    public static async Task<BenchedLift> OfAsync(
        LiftRow row,
        IReadOnlyDictionary<string, string>? fields,
        LiftStore lifts,
        PieceStore pieces,
        Here here,
        CancellationToken cancel
    )
    {
        fields ??= row.Fields;
        var named = LiftPlanReader.Marks(fields);
        var found = named.Count == 0 ? [] : await pieces.OfMarksAsync(named, cancel);
        return Of(
            row,
            fields,
            await lifts.RecordsAsync(row.Id, cancel),
            found,
            here.Now,
            await here.SitesAsync(cancel)
        );
    }

    /// <summary>Works out a lift with its gear at hand.</summary>
    public static BenchedLift Of(
        LiftRow row,
        IReadOnlyDictionary<string, string> fields,
        IEnumerable<LiftRecord> records,
        IEnumerable<Piece> found,
        DateTimeOffset now,
        SiteSet sites
    )
    {
        var pieces = found.DistinctBy(p => p.Mark).ToDictionary(p => p.Mark);
        var site = sites.Together(pieces.Values.Select(p => p.SiteId));
        var gear = pieces.ToDictionary(p => p.Key, p => p.Value.OnLift(now, sites));
        var done = records.ToList();
        var known = LiftKnown.Of(done, row.Version, site.Policies.CriticalShare);
        var (plan, verdict, faults) = PlanVerdict.OfFields(fields, gear, site.Books, known);
        return new()
        {
            Row = row,
            Records = done,
            Known = known,
            Fields = fields,
            Site = site,
            Today = site.DayOf(now),
            Plan = plan,
            Faults = faults,
            Gear = gear,
            Pieces = pieces,
            Verdict = verdict,
        };
    }
}
