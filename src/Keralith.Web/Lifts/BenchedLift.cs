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

    /// <summary>What is asked of something, in words; never understated.</summary>
    public string Asked(decimal kilograms) => QuantityFormat.RoundedUp(Mass.FromKilograms(kilograms), MassUnit);

    /// <summary>What something may carry, in words; never overstated.</summary>
    public string May(decimal kilograms) => QuantityFormat.Rounded(Mass.FromKilograms(kilograms), MassUnit);

    /// <summary>The changes that would help.</summary>
    public IReadOnlyList<LiftFix> Fixes =>
        Verdict?.Planned.Lift is { } lift && Result is { } result ? LiftFixes.Of(lift, result) : [];

    /// <summary>Works out a lift with its gear as it stands now.</summary>
    /// <param name="row">The lift.</param>
    /// <param name="fields">What is typed; the lift's own where nothing else was.</param>
    public static async Task<BenchedLift> OfAsync(
        LiftRow row,
        IReadOnlyDictionary<string, string>? fields,
        PieceStore pieces,
        Here here,
        CancellationToken cancel
    )
    {
        fields ??= row.Fields;
        var named = LiftPlanReader.Marks(fields);
        var found = named.Count == 0 ? [] : await pieces.OfMarksAsync(named, cancel);
        return Of(row, fields, found, here.Now, await here.SitesAsync(cancel));
    }

    /// <summary>Works out a lift with its gear at hand.</summary>
    public static BenchedLift Of(
        LiftRow row,
        IReadOnlyDictionary<string, string> fields,
        IEnumerable<Piece> found,
        DateTimeOffset now,
        SiteSet sites
    )
    {
        var pieces = found.DistinctBy(p => p.Mark).ToDictionary(p => p.Mark);
        var site = sites.Together(pieces.Values.Select(p => p.SiteId));
        var gear = pieces.ToDictionary(p => p.Key, p => p.Value.OnLift(now, sites));
        var (plan, verdict, faults) = PlanVerdict.OfFields(fields, gear, site.Books);
        return new()
        {
            Row = row,
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
