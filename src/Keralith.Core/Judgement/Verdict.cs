using Keralith.Core.Gear;

namespace Keralith.Core.Judgement;

/// <summary>The verdict of an inspection.</summary>
public enum VerdictKind
{
    [Code("fit")]
    Fit,

    [Code("watch")]
    Watch,

    /// <summary>Something required was not answered, and nothing is worse than watch.</summary>
    [Code("incomplete")]
    Incomplete,

    [Code("hold")]
    Hold,

    [Code("remove")]
    Remove,
}

/// <summary>What one book, or the site or maker, makes of an answer.</summary>
/// <param name="Book">The book's id, or <c>site</c> or <c>maker</c>.</param>
/// <param name="Outcome">Null where the book has no figure for this size and another chosen book has.</param>
public sealed record BookFinding(string Book, Outcome? Outcome)
{
    /// <summary>The limit; null for faults and where data is missing.</summary>
    public Figure? Figure { get; init; }

    /// <summary>Share of the allowance used, exact; null where there is none.</summary>
    public decimal? Consumed { get; init; }

    /// <summary>
    /// Who stands in where the book itself is silent: <c>asme</c>, or <c>maker</c> where the book lets the maker say.
    /// </summary>
    public string? From { get; init; }

    /// <summary>Whose figure it is, as people say it: never one book's name on another's figure.</summary>
    public string Governs => GovernsWords(Book, From);

    /// <summary>The same of a book's id, as a verdict document keeps them.</summary>
    /// <param name="book">The book's id, <c>site</c> or <c>maker</c>.</param>
    /// <param name="from">Who stands in for it; null: nobody.</param>
    public static string GovernsWords(string book, string? from) =>
        from is not null
            ? $"{RuleBookShelf.NameOf(from)} governs, under {RuleBookShelf.NameOf(book)}"
            : $"{RuleBookShelf.NameOf(book)} governs";

    /// <summary>What each of several books comes to, as people say it.</summary>
    /// <param name="books">Each book's id with the outcome's code.</param>
    public static string DifferWords(IEnumerable<(string Book, string Outcome)> books) =>
        $"The books differ: {string.Join(", ", books.Select(b => $"{RuleBookShelf.NameOf(b.Book)} {b.Outcome}"))}.";

    /// <summary>In words. Put together when read: most judgements are never read aloud.</summary>
    public string Reason => Words?.For(this) ?? Said;

    internal LimitWords? Words { get; init; }

    internal Weighed Weighed { get; init; }

    internal string Said { get; init; } = string.Empty;
}

/// <summary>What came of one answer: the worst of the books.</summary>
/// <param name="Criterion">The criterion.</param>
/// <param name="Part">The part's path.</param>
/// <param name="Governing">The book that governs.</param>
/// <param name="Books">Every chosen book, then the site and maker limits that applied.</param>
public sealed record Finding(Criterion Criterion, string Part, BookFinding Governing, IReadOnlyList<BookFinding> Books)
{
    public Outcome Outcome => Governing.Outcome!.Value;

    /// <summary>In words.</summary>
    public string Reason => Governing.Reason;

    /// <summary>Whether it follows from what is stated of the gear, whatever was answered.</summary>
    public bool FromGear { get; init; }

    /// <summary>The limit in words with its unit; null where there is none.</summary>
    public string? LimitText =>
        Governing is { Figure: { } figure, Words: { } words } ? words.Figure(figure.Limit) : null;

    /// <summary>Whether the chosen books come to different outcomes.</summary>
    public bool BooksDiffer => Books.Where(b => b.Outcome is not null).Select(b => b.Outcome).Distinct().Skip(1).Any();
}

/// <summary>The judgement of a case.</summary>
/// <param name="Kind">The verdict.</param>
/// <param name="Findings">In the order of the answers, then what the gear itself brings.</param>
/// <param name="Missing">Required questions without an answer, by part and then in catalogue order.</param>
public sealed record Verdict(VerdictKind Kind, IReadOnlyList<Finding> Findings, IReadOnlyList<PlacedCriterion> Missing)
{
    public bool Complete => Missing.Count == 0;
}

/// <summary>What the rules ask of a verdict as a whole.</summary>
public static class VerdictKinds
{
    /// <summary>Whether it accepts the piece: fit, or fit and watched.</summary>
    public static bool IsClean(this VerdictKind verdict) =>
        verdict switch
        {
            VerdictKind.Fit or VerdictKind.Watch => true,
            VerdictKind.Incomplete or VerdictKind.Hold or VerdictKind.Remove => false,
        };

    /// <summary>Whether it takes the piece out of use.</summary>
    public static bool Stops(this VerdictKind verdict) =>
        verdict switch
        {
            VerdictKind.Hold or VerdictKind.Remove => true,
            VerdictKind.Fit or VerdictKind.Watch or VerdictKind.Incomplete => false,
        };
}
