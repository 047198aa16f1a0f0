using Keralith.Core.Gear;
using Keralith.Core.Quantities;

namespace Keralith.Core.Tags;

/// <summary>A marked rated load as it counts here, under the design factor the chosen books want.</summary>
/// <param name="Marked">As marked.</param>
/// <param name="MarkedFactor">The design factor it is marked at, or the assumed one.</param>
/// <param name="FactorAssumed">Whether the marking names no factor and the family's ASME figure was taken.</param>
/// <param name="RequiredFactor">The largest a chosen book wants; null where none names one.</param>
/// <param name="Book">The book that wants it.</param>
/// <param name="Here">The rated load here: never above the marking.</param>
public sealed record RatedLoadHere(
    Mass Marked,
    decimal? MarkedFactor,
    bool FactorAssumed,
    decimal? RequiredFactor,
    string? Book,
    Mass Here
)
{
    public bool IsReduced => Here < Marked;

    /// <summary>
    /// Re-rates a marking: <c>rated load x marked factor / required factor</c> where a book wants more, else unchanged.
    /// </summary>
    public static RatedLoadHere For(
        GearFamily family,
        Mass marked,
        decimal? markedFactor,
        IReadOnlyList<RuleBook> books
    )
    {
        var factor = markedFactor ?? family.AssumedDesignFactor;
        decimal? required = null;
        string? by = null;
        foreach (var book in books)
        {
            if (book.DesignFactor(family) is { } wanted && (required is null || wanted > required))
                (required, by) = (wanted, book.Id);
        }

        var here =
            factor is { } at && required > at
                ? Mass.FromKilograms(marked.Kilograms * at / required.Value).In(marked.Unit)
                : marked;
        return new(marked, factor, markedFactor is null && factor is not null, required, by, here);
    }
}
