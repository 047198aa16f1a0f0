namespace Keralith.Core.Wear;

/// <summary>How often somebody found a fault where they looked for it.</summary>
/// <param name="Who">Who inspected.</param>
/// <param name="Criterion">What was looked at: a criterion's id.</param>
/// <param name="Found">In how many of their inspections it held or removed, 0 and over.</param>
/// <param name="Looked">In how many it was answered, <paramref name="Found"/> and over.</param>
public sealed record FindingShare(string Who, string Criterion, int Found, int Looked)
{
    /// <summary>Under so many looks a share says nothing of a person: a site default.</summary>
    public const int LeastLooks = 20;

    private const double NineteenOfTwenty = 1.96;

    /// <summary>The share, 0 to 1; 0 where nobody looked.</summary>
    public double Share => Looked == 0 ? 0 : (double)Found / Looked;

    /// <summary>Between which shares the true one lies nineteen times of twenty (Wilson's interval), each 0 to 1.</summary>
    public (double Least, double Most) Range
    {
        get
        {
            if (Looked == 0)
                return (0, 1);
            const double square = NineteenOfTwenty * NineteenOfTwenty;
            var middle = (Found + (square / 2)) / (Looked + square);
            var half =
                NineteenOfTwenty
                / (Looked + square)
                * Math.Sqrt(((double)Found * (Looked - Found) / Looked) + (square / 4));
            return (Math.Max(0, middle - half), Math.Min(1, middle + half));
        }
    }

    /// <summary>Whether there are enough looks to say anything.</summary>
    public bool IsKnown => Looked >= LeastLooks;
}

/// <summary>What one inspector finds otherwise than all others, by more than chance.</summary>
/// <param name="Own">Theirs.</param>
/// <param name="Others">All others' together.</param>
public sealed record FindingDifference(FindingShare Own, FindingShare Others)
{
    /// <summary>Whether it is found more often than by the others.</summary>
    public bool IsMore => Own.Share > Others.Share;

    /// <summary>
    /// Where an inspector's share and all others' lie apart: their ranges do not meet, and both looked often enough. The widest
    /// apart first. It says that they differ, never who is right.
    /// </summary>
    public static IReadOnlyList<FindingDifference> Of(IEnumerable<FindingShare> shares) =>
        [
            .. shares
                .GroupBy(s => s.Criterion)
                .SelectMany(g =>
                    g.Select(own => new FindingDifference(own, Together([.. g.Where(o => o != own)], own)))
                )
                .Where(d => d.Own.IsKnown && d.Others.IsKnown && d.AreApart)
                .OrderByDescending(d => Math.Abs(d.Own.Share - d.Others.Share))
                .ThenBy(d => d.Own.Who, StringComparer.Ordinal),
        ];

    private bool AreApart => Own.Range.Least > Others.Range.Most || Own.Range.Most < Others.Range.Least;

    private static FindingShare Together(IReadOnlyCollection<FindingShare> others, FindingShare own) =>
        new(string.Empty, own.Criterion, others.Sum(o => o.Found), others.Sum(o => o.Looked));
}
