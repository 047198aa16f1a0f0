using Keralith.Core.Custody;
using Keralith.Core.Gear;
using Keralith.Core.Judgement;
using Keralith.Core.People;
using Keralith.Core.Quantities;
using Keralith.Core.Schedule;
using Keralith.Core.Tags;

namespace Keralith.Core.Register;

/// <summary>Which measure on which part a baseline belongs to.</summary>
/// <param name="Part">The part's path.</param>
/// <param name="Criterion">The criterion's id.</param>
public readonly record struct BaselineKey(string Part, string Criterion);

/// <summary>The last periodic inspection of gear taken over, as its report says.</summary>
/// <param name="LastPeriodic">The day it was made.</param>
/// <param name="Inspector">Who made it.</param>
/// <param name="Evidence">The report's name or number; its file is attached to the piece.</param>
public sealed record CarriedOver(DateOnly LastPeriodic, string Inspector, string Evidence);

/// <summary>What is kept of a piece beside what lists and rules look for in the database.</summary>
public sealed record PieceDetails
{
    /// <summary>Nothing.</summary>
    public static PieceDetails None { get; } = new();

    /// <summary>What its marking says beyond load and factor.</summary>
    public TagWords Tag { get; init; } = TagWords.Plain;

    /// <summary>Sizes that decide what seats in what.</summary>
    public FitSizes Fit { get; init; } = FitSizes.None;

    /// <summary>A kit's roster, line by line.</summary>
    public IReadOnlyList<KitMember> Members { get; init; } = [];

    /// <summary>The maker's paper that states a rated load above what its size usually carries; null where none is on record.</summary>
    public string? RatingPaper { get; init; }

    /// <summary>Of a hung hoist: how far off plumb its maker states it may pull, and where; null where it states nothing.</summary>
    public MakersAngle? MakersAngle { get; init; }

    /// <summary>Of a lifting point: the calculation it was made by, by name or number; null where none is on record.</summary>
    public string? Calculation { get; init; }

    /// <summary>
    /// Why a person may not enter what frees a piece from a rule; null when they may: a qualified person, by the maker's
    /// paper or the calculation.
    /// </summary>
    /// <param name="before">What stood before.</param>
    public string? RefusalToFree(PieceDetails before, Roles roles) =>
        roles.May(Right.ChangeFigures) ? null
        : MakersAngle?.Angle > (before.MakersAngle?.Angle ?? default)
            ? "The angle off plumb a maker states is entered by a qualified person, by the maker's paper."
        : RatingPaper is not null && RatingPaper != before.RatingPaper
            ? "The paper that states a rating above the usual one is entered by a qualified person."
        : Calculation is not null && Calculation != before.Calculation
            ? "The calculation a lifting point was made by is entered by a qualified person."
        : null;

    /// <summary>Anything else; null when nothing.</summary>
    public string? Notes { get; init; }

    /// <summary>The last day its maker lets it be used (synthetics); null where none is set.</summary>
    public DateOnly? DiscardOn { get; init; }

    /// <summary>The last day its proof test holds good, as entered by hand; null where none is.</summary>
    public DateOnly? ProofTestDue { get; init; }
}

/// <summary>What is entered of a piece: who it is, what its tag says, its sizes, its figures when new, where it hangs.</summary>
public sealed record PieceEntry
{
    public required Mark Mark { get; init; }

    public required GearPiece Gear { get; init; }

    public string? Serial { get; init; }

    public string? Maker { get; init; }

    public string? Model { get; init; }

    /// <summary>As marked, with its unit; null when not known: the piece can't be used then.</summary>
    public Mass? RatedLoad { get; init; }

    /// <summary>As marked; null when the marking names none.</summary>
    public decimal? DesignFactor { get; init; }

    /// <summary>The hitch and angle the marking gives the rated load for, in its own words.</summary>
    public string? RatedFor { get; init; }

    /// <summary>Codes of the entries the marking carries.</summary>
    public required IReadOnlyList<string> TagEntries { get; init; }

    /// <summary>What it meets where it works.</summary>
    public Surroundings Surroundings { get; init; } = Surroundings.Ordinary;

    /// <summary>Whether the marking has been read; false for gear entered from a list.</summary>
    public bool TagRead { get; init; } = true;

    /// <summary>What is kept beside all this.</summary>
    public PieceDetails Details { get; init; } = PieceDetails.None;

    public string? Batch { get; init; }

    /// <summary>The last day its calibration holds good; null where it keeps none.</summary>
    public DateOnly? CalibrationDue { get; init; }

    /// <summary>How many pieces hang under this one mark; null for a single piece.</summary>
    public int? LotCount { get; init; }

    /// <summary>Its last periodic inspection elsewhere, when it is taken over.</summary>
    public CarriedOver? CarriedOver { get; init; }

    public required ServiceClass ServiceClass { get; init; }

    public DateOnly? InServiceSince { get; init; }

    public required int Store { get; init; }

    public required string Peg { get; init; }

    public required IReadOnlyDictionary<BaselineKey, BaselineFigure> Baselines { get; init; }

    /// <summary>Whether another entry says something else of the marking.</summary>
    public bool SaysOtherwise(PieceEntry other) =>
        RatedLoad?.ToString() != other.RatedLoad?.ToString()
        || DesignFactor != other.DesignFactor
        || RatedFor != other.RatedFor
        || !Details.Tag.Equals(other.Details.Tag)
        || TagRead != other.TagRead
        || !TagEntries.Order().SequenceEqual(other.TagEntries.Order());

    /// <summary>Why what it says of the past can't be so; null when it can.</summary>
    /// <param name="today">The day it is entered.</param>
    public string? RefusalOn(DateOnly today) =>
        CarriedOver?.LastPeriodic > today
            ? $"The last periodic inspection can't have been on {CarriedOver.LastPeriodic:yyyy-MM-dd}: that day is yet to come."
            : null;

    /// <summary>
    /// Why a marking that was read can't be called unread again; null when it isn't. What is against it would stop
    /// nothing any more.
    /// </summary>
    /// <param name="wasRead">Whether the marking on record was read.</param>
    public string? RefusalToUnread(bool wasRead) =>
        wasRead && !TagRead ? "A marking that was read stays read; enter what it says now." : null;

    /// <summary>
    /// Why a new part can't be recorded with these figures; null when it can. The old part's figures must not judge the
    /// new one: each is wanted anew, and none of another part.
    /// </summary>
    public static string? RefusalOfNewPart(GearPiece gear, string part, IReadOnlyCollection<BaselineKey> given)
    {
        if (given.FirstOrDefault(k => k.Part != part) is { Part: { } other })
            return $"The figures given are of {other}; the part replaced is {part}.";
        var missing = PieceEntryReader
            .BaselinesOf(gear)
            .Where(b => b.Part.Path == part)
            .Select(b => (Key: new BaselineKey(part, b.Criterion.Id), b.Criterion.BaselineName))
            .Where(b => !given.Contains(b.Key))
            .Select(b => b.BaselineName)
            .ToList();
        return missing.Count == 0
            ? null
            : $"The new part is judged by its own figures: give {string.Join(", ", missing)}.";
    }

    /// <summary>
    /// Why a person may not set these baselines; null when they may. Each is over 0, and only a qualified person accepts
    /// today's figure as one.
    /// </summary>
    public static string? RefusalOf(IReadOnlyCollection<BaselineFigure> set, Roles roles) =>
        set.Any(b => b.Length.Millimetres <= 0) ? FigureOverNothing
        : set.Any(b => b.Basis == BaselineBasis.Provisional) && !roles.May(Right.AcceptProvisional)
            ? "Only a qualified person accepts a provisional figure."
        : null;

    /// <summary>Said of a figure when new that is none.</summary>
    public const string FigureOverNothing = "A figure when new is over 0.";
}
