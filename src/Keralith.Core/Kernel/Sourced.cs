namespace Keralith.Core.Kernel;

/// <summary>Where a figure comes from.</summary>
public enum FigureSource
{
    /// <summary>A weighing on record: by what instrument, by whom and when. Nobody types it.</summary>
    [Code("weighed")]
    Weighed,

    /// <summary>Marked on the thing itself.</summary>
    [Code("marked")]
    Marked,

    /// <summary>From papers somebody answers for.</summary>
    [Code("known")]
    Known,

    /// <summary>As the arrangement is drawn.</summary>
    [Code("drawn")]
    Drawn,

    /// <summary>Worked out from other figures.</summary>
    [Code("worked-out")]
    WorkedOut,

    /// <summary>Measured with an instrument, on record.</summary>
    [Code("measured")]
    Measured,

    /// <summary>What somebody typed, with nothing behind it.</summary>
    [Code("typed")]
    Typed,
}

/// <summary>A figure that carries where it comes from.</summary>
/// <param name="Figure">The figure.</param>
/// <param name="From">Where it comes from.</param>
/// <param name="Words">The figure and its source in words, such as <c>marked 1000 kg</c>.</param>
public sealed record Sourced<T>(T Figure, FigureSource From, string Words);

/// <summary>Of several sources of one figure the harsher counts, and the difference is told.</summary>
public static class Sources
{
    /// <summary>The source that counts: the harshest; among equals the first named.</summary>
    /// <param name="sources">At least one.</param>
    /// <param name="harshness">More is harsher.</param>
    /// <exception cref="InvalidOperationException">There is none.</exception>
    public static Sourced<T> Harsher<T>(this IReadOnlyCollection<Sourced<T>> sources, Func<T, decimal> harshness) =>
        sources.MaxBy(s => harshness(s.Figure)) ?? throw new InvalidOperationException("There is no source.");

    /// <summary>What is told beside the result where another source says otherwise; null where none does.</summary>
    /// <param name="what">What the figure is of, such as <c>the weight</c>.</param>
    /// <param name="sources">All of them.</param>
    /// <param name="counts">The one that counts.</param>
    public static string? Told<T>(string what, IReadOnlyCollection<Sourced<T>> sources, Sourced<T> counts)
    {
        var others = sources.Where(s => !Equals(s.Figure, counts.Figure)).Select(s => s.Words).Distinct().ToList();
        return others.Count == 0 ? null : $"Of {what}, {counts.Words} counts; milder: {string.Join("; ", others)}.";
    }
}
