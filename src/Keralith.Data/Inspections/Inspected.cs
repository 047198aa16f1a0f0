using Keralith.Core.Formats;
using Keralith.Core.Gear;
using Keralith.Core.Judgement;
using Keralith.Core.Signing;

namespace Keralith.Data;

/// <summary>An inspection under way.</summary>
public sealed record Draft(
    Guid Id,
    Guid Piece,
    string Mark,
    InspectionKind Kind,
    string StartedBy,
    DateTimeOffset StartedAt,
    string SavedBy,
    DateTimeOffset SavedAt,
    int Version,
    int Answers
)
{
    /// <summary>The trainee who signed it for countersignature; null where nobody did.</summary>
    public string? OfferedBy { get; init; }

    public DateTimeOffset? OfferedAt { get; init; }

    /// <summary>The day it was inspected, as the trainee signed.</summary>
    public DateOnly? InspectedOn { get; init; }

    /// <summary>What the countersigner said when handing it back; null where it was not.</summary>
    public string? Remark { get; init; }

    public string? RemarkBy { get; init; }

    /// <summary>The record it corrects, and why; null: an inspection of its own.</summary>
    public Corrected? Corrects { get; init; }
}

/// <summary>The record a draft corrects.</summary>
/// <param name="Record">Its id.</param>
/// <param name="Why">What is wrong with it.</param>
/// <param name="Seen">Where among the facts the first of the records it stands for was signed.</param>
public sealed record Corrected(
    Guid Record,
    string Why,
    VerdictKind Verdict,
    DateOnly InspectedOn,
    FactOrder Seen,
    string SignedBy
);

/// <summary>What became of a wrong record.</summary>
/// <param name="Became">The record in its place; null: withdrawn.</param>
public sealed record Superseded(Guid? Became, string Why, DateTimeOffset At, string By);

/// <summary>A signed inspection.</summary>
/// <param name="VerdictDocument">The judgement in full; null where many are listed.</param>
public sealed record InspectionRow(
    Guid Id,
    Guid Piece,
    InspectionKind Kind,
    DateOnly InspectedOn,
    DateTimeOffset SignedAt,
    string SignedBy,
    VerdictKind Verdict,
    bool Complete,
    string CatalogueVersion,
    string CaseDocument,
    string? VerdictDocument,
    string Notes,
    WorkedTo WorkedTo
)
{
    /// <summary>What the site asked of its own, as it was asked.</summary>
    public IReadOnlyList<OwnAsked> Own { get; init; } = [];

    /// <summary>What a criterion was called, the site's own among them.</summary>
    public string TitleOf(string criterion) =>
        Catalogue.Find(criterion)?.Title ?? Own.FirstOrDefault(o => o.Question == criterion)?.Title ?? criterion;

    /// <summary>What was written beside its findings: of which part and question, or of the whole.</summary>
    /// <param name="partNames">Names of parts by their paths.</param>
    public IReadOnlyList<(string Where, string Note)> NotesTold(IReadOnlyDictionary<string, string> partNames) =>
        [
            .. System
                .Text.Json.JsonSerializer.Deserialize<Dictionary<string, string>>(Notes)!
                .Select(n =>
                    (
                        n.Key.Split(' ') is [var part, var criterion]
                            ? $"{partNames.GetValueOrDefault(part, part)}, {TitleOf(criterion)}"
                            : n.Key,
                        n.Value
                    )
                ),
        ];

    /// <summary>Who inspected, where somebody else countersigned.</summary>
    public string? MadeBy { get; init; }

    /// <summary>The people who made it and signed it.</summary>
    public IReadOnlyList<Guid> Hands { get; init; } = [];

    /// <summary>What others than whoever made it answered: by name, each part and criterion.</summary>
    public IReadOnlyDictionary<string, string[]> OtherHands { get; init; } = new Dictionary<string, string[]>();

    /// <summary>Why the verdict is stricter than the rules; null where it is not.</summary>
    public string? Stricter { get; init; }

    /// <summary>The earlier day set for the next full inspection.</summary>
    public DateOnly? NextBy { get; init; }

    public int? Minutes { get; init; }

    public int? PartsTouched { get; init; }

    /// <summary>What readings were taken with, in words.</summary>
    public IReadOnlyList<string> Instruments { get; init; } = [];

    /// <summary>Where on the drawing findings were pinned, by part and criterion.</summary>
    public IReadOnlyDictionary<string, Pin> Pins { get; init; } = new Dictionary<string, Pin>();

    /// <summary>From when it counts: its signature, or for a correction that of the record it corrects.</summary>
    public DateTimeOffset CountsFrom { get; init; }

    /// <summary>The record it corrects; null: none.</summary>
    public Guid? Corrects { get; init; }

    public string? CorrectsWhy { get; init; }

    /// <summary>What took its place, or that it was withdrawn; null: it counts.</summary>
    public Superseded? Superseded { get; init; }

    public bool Counts => Superseded is null;
}

/// <summary>What an inspection was judged by beside its case.</summary>
/// <param name="WatchShare">The share of an allowance from which a piece was watched; null in the oldest records.</param>
/// <param name="Editions">Edition years of the books, where the site said one; null in the oldest records.</param>
public sealed record WorkedTo(decimal? WatchShare, IReadOnlyDictionary<string, int>? Editions);

/// <summary>That a piece was inspected on a day.</summary>
public sealed record InspectionDay(Guid Piece, Guid Id, DateOnly Day, string By);
