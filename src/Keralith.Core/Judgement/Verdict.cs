using Keralith.Core.Criteria;

namespace Keralith.Core.Judgement;

/// <summary>The verdict of an inspection.</summary>
public enum VerdictKind
{
    Fit,
    Watch,

    /// <summary>Something required was not answered, and nothing is worse than watch.</summary>
    Incomplete,
    Hold,
    Remove,
}

/// <summary>What one book, or the site or maker, makes of an answer.</summary>
/// <param name="Book">The book's id, or <c>site</c> or <c>maker</c>.</param>
/// <param name="Outcome">Null where the book has no figure for this size and another chosen book has.</param>
/// <param name="Figure">The limit; null for faults and where data is missing.</param>
/// <param name="Consumed">Share of the allowance used, exact; null where there is none.</param>
/// <param name="Reason">In words.</param>
public sealed record BookFinding(string Book, Outcome? Outcome, Figure? Figure, decimal? Consumed, string Reason)
{
    /// <summary>Who stands in where the book itself is silent: <c>asme</c>, or <c>maker</c> where the book lets the maker say.</summary>
    public string? From { get; init; }
}

/// <summary>What came of one answer: the worst of the books.</summary>
/// <param name="Criterion">The criterion.</param>
/// <param name="Part">The part's path.</param>
/// <param name="Governing">The book that governs.</param>
/// <param name="Books">Every chosen book, then the site and maker limits that applied.</param>
/// <param name="Reason">In words.</param>
public sealed record Finding(Criterion Criterion, string Part, BookFinding Governing, IReadOnlyList<BookFinding> Books, string Reason)
{
    public Outcome Outcome => Governing.Outcome!.Value;

    /// <summary>Whether it follows from what is stated of the gear, whatever was answered.</summary>
    public bool FromGear { get; init; }

    /// <summary>The limit in words with its unit; null where there is none.</summary>
    public string? LimitText { get; init; }

    /// <summary>Whether the chosen books come to different outcomes.</summary>
    public bool BooksDiffer => Books.Where(b => b.Outcome is not null).Select(b => b.Outcome).Distinct().Skip(1).Any();
}

/// <summary>A required question without an answer.</summary>
public sealed record Unanswered(Criterion Criterion, string Part);

/// <summary>The judgement of a case.</summary>
public sealed record Verdict(VerdictKind Kind, IReadOnlyList<Finding> Findings, IReadOnlyList<Unanswered> Missing)
{
    public bool Complete => Missing.Count == 0;
}
