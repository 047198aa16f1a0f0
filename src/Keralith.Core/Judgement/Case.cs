using Keralith.Core.Gear;
using Keralith.Core.Quantities;

namespace Keralith.Core.Judgement;

/// <summary>The kinds of inspection.</summary>
public enum InspectionKind
{
    /// <summary>Before first use of new, altered or repaired gear.</summary>
    [Code("initial")]
    Initial,

    /// <summary>Before use, or by the calendar for hoists and hooks.</summary>
    [Code("frequent")]
    Frequent,

    /// <summary>Complete, hands on every part, measured.</summary>
    [Code("periodic")]
    Periodic,

    /// <summary>At the counter when gear comes back.</summary>
    [Code("return")]
    Return,

    /// <summary>After a shock load, overload, fire, chemical or collision.</summary>
    [Code("after-event")]
    AfterEvent,
}

/// <summary>What the rules ask of a kind of inspection.</summary>
public static class InspectionKinds
{
    /// <summary>Whether every part is seen and measured: it moves the periodic due date and may close holds.</summary>
    public static bool IsFull(this InspectionKind kind) =>
        kind switch
        {
            InspectionKind.Initial or InspectionKind.Periodic or InspectionKind.AfterEvent => true,
            InspectionKind.Frequent or InspectionKind.Return => false,
        };
}

/// <summary>Where a baseline comes from, best first.</summary>
public enum BaselineBasis
{
    /// <summary>Measured on this piece when new.</summary>
    [Code("new")]
    New,

    /// <summary>The maker's figure for the model.</summary>
    [Code("catalogue")]
    Catalogue,

    /// <summary>A new piece of the same model.</summary>
    [Code("twin")]
    Twin,

    /// <summary>Today's figure accepted when old gear was taken over: watch at best.</summary>
    [Code("provisional")]
    Provisional,
}

/// <summary>What was answered.</summary>
public abstract record Response
{
    private protected Response() { }
}

/// <summary>An answer chosen, for faults and tests.</summary>
public sealed record Chosen(Found Found) : Response;

/// <summary>A count, 0 and over.</summary>
public sealed record Counted(int Count) : Response;

/// <summary>A length measured.</summary>
/// <param name="Value">Over 0.</param>
/// <param name="Baseline">The original, catalogue or nominal figure, over 0; null when there is none.</param>
/// <param name="Basis">Where the baseline comes from.</param>
/// <param name="Uncertainty">Of the instrument, 0 and over.</param>
public sealed record Measured(
    Length Value,
    Length? Baseline = null,
    BaselineBasis Basis = BaselineBasis.New,
    Length Uncertainty = default
) : Response;

/// <summary>An angle measured, 0 and over.</summary>
public sealed record MeasuredAngle(Angle Value, Angle Uncertainty = default) : Response;

/// <summary>A force measured, 0 and over.</summary>
public sealed record MeasuredForce(Force Value, Force Uncertainty = default) : Response;

/// <summary>A moment measured, 0 and over.</summary>
public sealed record MeasuredMoment(Moment Value, Moment Uncertainty = default) : Response;

/// <summary>One answer on one part.</summary>
public sealed record Answer(Criterion Criterion, string Part, Response Response);

/// <summary>Who set a limit beside the books.</summary>
public enum LimitOwner
{
    [Code("site")]
    Site,

    [Code("maker")]
    Maker,
}

/// <summary>A limit of the site or the maker: one of a percentage of change, a figure, or a count.</summary>
public sealed record OwnLimit(LimitOwner Owner, Criterion Criterion)
{
    /// <summary>Change allowed, in percent of the baseline, 0 and over.</summary>
    public decimal? Percent { get; init; }

    /// <summary>
    /// The figure itself for a least thickness, else the amount of change allowed; millimetres, or degrees for an
    /// angle.
    /// </summary>
    public decimal? Absolute { get; init; }

    /// <summary>The first failing count.</summary>
    public int? Count { get; init; }

    /// <summary>Why a maker is not believed who allows such a share of change on a gear; null where it may be so.</summary>
    public string? FaultOn(GearPiece gear) =>
        Owner == LimitOwner.Maker
        && Percent is { } percent
        && Criterion.MakersMost(gear) is { } most
        && percent > most * 100
            ? $"a maker may allow up to {QuantityFormat.Number(most * 100)} % on {Criterion.Id}, found {QuantityFormat.Number(percent)} %"
            : null;
}

/// <summary>Everything a judgement looks at.</summary>
public sealed record Case(
    IReadOnlyList<RuleBook> Books,
    InspectionKind Kind,
    GearPiece Gear,
    IReadOnlyList<OwnLimit> Limits,
    IReadOnlyList<Answer> Answers
)
{
    /// <summary>What the site asks of this gear beside the books.</summary>
    public IReadOnlyList<OwnQuestion> Own { get; init; } = [];

    /// <summary>
    /// What was read last at the same places, by part and criterion; empty where nothing is on record. A case told as a
    /// document has none: what it is held against stands in the register.
    /// </summary>
    public IReadOnlyDictionary<(string Part, string Criterion), LastReading> Last { get; init; } =
        new Dictionary<(string, string), LastReading>();

    /// <summary>What sits where on the gear under these books, and what the site asks there.</summary>
    public Placement Placement => Catalogue.PlacementOf(Gear, Books).With(Own);

    /// <summary>The parts of the gear with what may be answered on them.</summary>
    public IReadOnlyList<Part> Parts => Placement.Parts;
}
