using Keralith.Core.Quantities;

namespace Keralith.Core.Gear;

/// <summary>The outcome of one finding, mildest first: the order is the order of severity.</summary>
public enum Outcome
{
    /// <summary>Nothing against it.</summary>
    [Code("clear")]
    Clear,

    /// <summary>Clear, but most of the allowance is used.</summary>
    [Code("watch")]
    Watch,

    /// <summary>Can't be decided here: out of use until somebody who may decides.</summary>
    [Code("hold")]
    Hold,

    /// <summary>Taken out of service.</summary>
    [Code("remove")]
    Remove,
}

/// <summary>How a criterion is found out.</summary>
public enum CriterionKind
{
    /// <summary>A fault looked for.</summary>
    [Code("see")]
    See,

    /// <summary>A function tried.</summary>
    [Code("test")]
    Test,

    /// <summary>Something counted.</summary>
    [Code("count")]
    Count,

    /// <summary>Something measured.</summary>
    [Code("measure")]
    Measure,
}

/// <summary>What was found when looking or trying.</summary>
public enum Found
{
    /// <summary>No fault.</summary>
    [Code("no")]
    No,

    /// <summary>The fault is there.</summary>
    [Code("yes")]
    Yes,

    /// <summary>Can't tell.</summary>
    [Code("unsure")]
    Unsure,

    /// <summary>Can't reach or see.</summary>
    [Code("not-accessible")]
    NotAccessible,
}

/// <summary>What a measure measures.</summary>
public enum Dimension
{
    Length,
    Angle,
    Force,
    Moment,
}

/// <summary>From which kind of inspection on a criterion is asked.</summary>
public enum AskedIn
{
    /// <summary>In frequent and periodic inspections.</summary>
    [Code("frequent")]
    Frequent,

    /// <summary>In periodic and initial inspections.</summary>
    [Code("periodic")]
    Periodic,

    /// <summary>In the initial inspection only.</summary>
    [Code("initial")]
    Initial,
}

/// <summary>Where a rule comes from. Paragraph numbers move between editions, so chapter and topic are named.</summary>
public sealed record Source
{
    private readonly string _words;

    /// <param name="standard">Such as "ASME B30.10".</param>
    /// <param name="topic">Such as "throat opening".</param>
    public Source(string standard, string topic) =>
        (Standard, Topic, _words) = (standard, topic, $"{standard}, {topic}");

    public string Standard { get; }

    public string Topic { get; }

    public override string ToString() => _words;
}

/// <summary>One removal criterion, as data. The page, the judgement and the rule texts are all drawn from it.</summary>
public sealed record Criterion
{
    /// <summary>The fixed id, such as <c>hook.throat</c>.</summary>
    public required string Id { get; init; }

    public required CriterionKind Kind { get; init; }

    public required AskedIn AskedIn { get; init; }

    public required Source Source { get; init; }

    /// <summary>A few words for lists.</summary>
    public required string Title { get; init; }

    /// <summary>What is looked for, tried, counted or measured, in plain words. A fault: what counts as one.</summary>
    public required string Question { get; init; }

    /// <summary>How to look or measure.</summary>
    public required string Look { get; init; }

    /// <summary>Why it matters.</summary>
    public string? Why { get; init; }

    /// <summary>Where what is taught differs from the books: the figures people argue about; null where they don't.</summary>
    public string? Taught { get; init; }

    /// <summary>For a fault seen or a test failed: what the ASME book makes of it.</summary>
    public Outcome OnFault { get; init; } = Outcome.Remove;

    /// <summary>
    /// The mildest outcome any answer can come to here, even "no fault": clear, unless the thing itself gives doubt.
    /// </summary>
    public Outcome AtLeast { get; init; }

    /// <summary>The mildest outcome under a book: its own, where that is worse.</summary>
    /// <param name="own">What the book says of it; null where it is silent.</param>
    public Outcome AtLeastUnder(BookRule? own) => own?.AtLeast > AtLeast ? own.AtLeast : AtLeast;

    /// <summary>Why, in words; null where <see cref="AtLeast"/> is clear.</summary>
    public string? AtLeastBecause { get; init; }

    /// <summary>For a measure or count: the ASME book's limit; null where only other books have one.</summary>
    public LimitRule? Limit { get; init; }

    /// <summary>For a measure: what the figure is held against, such as "throat when new".</summary>
    public string? BaselineName { get; init; }

    /// <summary>For a measure: whether it is a length over a number of links, named with the baseline.</summary>
    public bool OverLinks { get; init; }

    /// <summary>For a measure: whether the stated size stands in where no baseline is given.</summary>
    public bool BaselineFromSize { get; init; }

    /// <summary>The measurement that decides a fault of this kind when taken on the same part.</summary>
    public string? DecidedBy { get; init; }

    /// <summary>
    /// What its figure when new may be as a share of the stated size, of one link where it stands over links; null: nothing
    /// is known of it.
    /// </summary>
    public (decimal Least, decimal Most)? LikelyOfSize { get; init; }

    /// <summary>Whether another figure when new judges a reading more mildly: a larger one where growth is worn, a smaller one where loss is.</summary>
    /// <param name="gear">The gear.</param>
    /// <param name="before">The figure as it stood.</param>
    /// <param name="after">The figure as it is to be.</param>
    /// <returns>True also where no rule says which way is milder.</returns>
    public bool IsMilder(GearPiece gear, Length before, Length after) =>
        before != after
        && (Limit?.Resolve(new(gear, before)) is not Figure figure || (figure.Grows ? after > before : after < before));

    /// <summary>How the register's files name its figure when new: <c>throat</c> for the column <c>baseline_throat</c>; null: by its part and id.</summary>
    public string? FileName { get; init; }

    /// <summary>
    /// Whether the book itself says "or as the maker states": a laxer maker's limit replaces the ASME figure here, up to
    /// <see cref="MakersMost"/>.
    /// </summary>
    public bool MakerMayBeLaxer { get; init; }

    /// <summary>For a measure a maker may be laxer on: the largest share of change a maker is believed; null: by the book's own figure.</summary>
    public decimal? MakersMostShare { get; init; }

    /// <summary>
    /// For a measure: by how large a share of the figure when new it may read better than new before somebody asks how; metal
    /// does not heal.
    /// </summary>
    public decimal MostBetterThanNew { get; init; } = 0.05m;

    /// <summary>The largest share of change a maker's limit may allow: one and a half times the book's figure unless stated.</summary>
    /// <param name="gear">The gear it is for.</param>
    /// <returns>A share of the figure when new; null where no maker may be laxer.</returns>
    public decimal? MakersMost(GearPiece gear)
    {
        if (!MakerMayBeLaxer)
            return null;
        if (MakersMostShare is { } share)
            return share;
        var asked = Length.FromMillimetres(1000);
        return Limit?.Resolve(new(gear, asked)) is Figure { Allowance: { } allowed }
            ? allowed / asked.Millimetres * 3 / 2
            : null;
    }

    /// <summary>
    /// For a thickness measured: the thickness when new. A limit of the site or the maker given as a length is then the least
    /// thickness itself; null: it is the change allowed.
    /// </summary>
    public Func<LimitContext, Length?>? ThicknessWhenNew { get; init; }

    /// <summary>
    /// What stated of a piece removes or holds it here by itself, whatever was answered, with why; null where nothing does, as
    /// for most.
    /// </summary>
    public Func<GearPiece, (Outcome Outcome, string Because)?>? RuledOut { get; init; }

    /// <summary>May be answered, never asked for.</summary>
    public bool Optional { get; init; }

    /// <summary>
    /// Whether it applies at all, seen from the books worked to and the make-up of the gear: its family, choices, flags, legs and
    /// whether a figure that brings a question is on record; never its sizes, figures or texts themselves.
    /// </summary>
    public Func<AskContext, bool> Applies { get; init; } = _ => true;

    /// <summary>For a measure: what is measured.</summary>
    public Dimension Measures { get; init; }

    /// <summary>Whether it is a length measured.</summary>
    public bool IsLength => Kind == CriterionKind.Measure && Measures == Dimension.Length;

    /// <summary>Whether it is an angle measured.</summary>
    public bool IsAngle => Kind == CriterionKind.Measure && Measures == Dimension.Angle;

    /// <summary>
    /// For a measure: what may be answered where there is nothing to read a figure from. <see cref="Found.No"/> means
    /// that there is nothing to measure: it is not fitted.
    /// </summary>
    public IReadOnlyList<Found> InsteadOfFigure { get; init; } = [];

    /// <summary>
    /// Whether value and baseline are both measured today, the largest against the smallest: needs no record from when
    /// new.
    /// </summary>
    public bool IsPair { get; init; }

    /// <summary>
    /// For a pair measured today: the places it is measured at, by the legs of the piece; the longest and the shortest found there
    /// are the pair.
    /// </summary>
    public Func<int, IReadOnlyList<string>> Places { get; init; } = _ => [];

    /// <summary>Criteria are compared by identity: there is one of each.</summary>
    public bool Equals(Criterion? other) => ReferenceEquals(this, other);

    public override int GetHashCode() => Id.GetHashCode(StringComparison.Ordinal);

    /// <summary>Whether it is answered by choosing (no fault, fault, can't tell, can't reach).</summary>
    public bool IsAnswerChosen => Kind is CriterionKind.See or CriterionKind.Test;
}

/// <summary>What decides whether a criterion applies.</summary>
/// <param name="Gear">The piece.</param>
/// <param name="Books">The rule books worked to.</param>
public readonly record struct AskContext(Gear.GearPiece Gear, IReadOnlyList<RuleBook> Books)
{
    /// <summary>Whether any chosen book states a figure of its own for a criterion.</summary>
    public bool AnyBookHas(string criterion)
    {
        foreach (var book in Books)
        {
            if (book.Rules.ContainsKey(criterion))
                return true;
        }

        return false;
    }
}
