namespace Keralith.Core.Gear;

/// <summary>What a book says of one criterion where it differs from the ASME book.</summary>
/// <param name="Limit">Its own limit for a measure or count; null for a fault.</param>
/// <param name="OnFault">What it makes of a fault; null for a measure or count.</param>
public sealed record BookRule(LimitRule? Limit, Outcome? OnFault = null)
{
    /// <summary>
    /// What counts as the fault in this book, where it is stricter than the common wording; null where it is the same.
    /// </summary>
    public string? Says { get; init; }

    /// <summary>The mildest outcome any answer can come to in this book.</summary>
    public Outcome AtLeast { get; init; }

    /// <summary>The measurement that decides a fault instead of the fault itself, when taken on the same part.</summary>
    public string? DecidedBy { get; init; }

    /// <summary>Whether the ASME limit stands beside this one rather than being replaced by it.</summary>
    public bool BesideAsme { get; init; }
}

/// <summary>A rule book: the ASME figures with what this school says otherwise. Where it is silent, ASME stands in.</summary>
public sealed record RuleBook
{
    /// <summary>The fixed id, such as <c>osha</c>.</summary>
    public required string Id { get; init; }

    /// <summary>The name people read, such as "OSHA general industry".</summary>
    public required string Name { get; init; }

    /// <summary>What it covers, such as "29 CFR 1910.184 and .179".</summary>
    public required string Covers { get; init; }

    /// <summary>Its own rules, by criterion.</summary>
    public required IReadOnlyDictionary<string, BookRule> Rules { get; init; }

    /// <summary>The design factor it wants of a family; null where it names none.</summary>
    public Func<Gear.GearFamily, decimal?> DesignFactor { get; init; } = _ => null;

    /// <summary>The longest periodic interval it allows a family, in months; null where it follows ASME.</summary>
    public Func<Gear.GearFamily, int?> PeriodicMonths { get; init; } = _ => null;

    /// <summary>Months a hoist may stand idle before it wants a full inspection; null: a year.</summary>
    public int? IdleMonths { get; init; }

    /// <summary>The choker's share of the vertical rated load of a family, on something round or not; null where it follows the usual one.</summary>
    public Func<GearFamily, bool, decimal?> Choker { get; init; } = (_, _) => null;

    /// <summary>Whether legs alike at one angle, and baskets, carry by bands of angles of its own.</summary>
    public bool HasBands { get; init; }

    /// <summary>Whether hot chain loses by rows of its own for the heat of the day.</summary>
    public bool HasChainHeat { get; init; }

    /// <summary>Flatter than this several legs want watching, in degrees from the horizontal; null: as usual.</summary>
    public decimal? WatchedBelow { get; init; }

    /// <summary>Whether a load on one leg, straight or choked, is to be asked about.</summary>
    public bool AsksOfOneLeg { get; init; }

    /// <summary>Whether it forbids lifting by an eye made with clips.</summary>
    public bool ForbidsClipEyes { get; init; }

    /// <summary>Whether polyester stops at a lower heat still: what is taught there, stricter than the standard's text.</summary>
    public bool HasLowerPolyesterHeat { get; init; }

    /// <summary>Whether nylon and polyester stop at a lower heat than usual.</summary>
    public bool HasLowerSyntheticHeat { get; init; }

    /// <summary>Whether wire rope with a fiber core is out for good once it was over 200 F.</summary>
    public bool RemovesHeatedFiberCore { get; init; }

    /// <summary>Whether polypropylene may meet no caustics.</summary>
    public bool KeepsPolypropyleneFromCaustics { get; init; }

    /// <summary>Said wherever the book's figures are shown.</summary>
    public static string Note => "A working summary. Read the original; licensed practice decides.";

    /// <summary>Books are compared by identity: there is one of each.</summary>
    public bool Equals(RuleBook? other) => ReferenceEquals(this, other);

    public override int GetHashCode() => Id.GetHashCode(StringComparison.Ordinal);

    public override string ToString() => Id;
}
