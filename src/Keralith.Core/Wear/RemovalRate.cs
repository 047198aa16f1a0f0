namespace Keralith.Core.Wear;

/// <summary>How fast gear of a kind leaves, and so how much will: from what left, by counting.</summary>
/// <param name="Removed">How many left in the time looked at, 0 and over.</param>
/// <param name="PieceYears">How long pieces were in service in that time, all together, in years; 0 and over.</param>
/// <param name="Pieces">How many are in service now, 0 and over.</param>
public sealed record RemovalRate(int Removed, double PieceYears, int Pieces)
{
    /// <summary>Under so many piece-years a rate says nothing: a site default.</summary>
    public const double LeastPieceYears = 2;

    /// <summary>Whether there is enough to say anything.</summary>
    public bool IsKnown => PieceYears >= LeastPieceYears;

    /// <summary>How many are expected to leave in the next twelve months.</summary>
    public double Expected => IsKnown ? Removed / PieceYears * Pieces : 0;

    /// <summary>
    /// The range that count lies in nineteen times of twenty, were it chance alone: the square root of a count, steadied
    /// by 3/8, within one either way.
    /// </summary>
    public (double Least, double Most) Range
    {
        get
        {
            if (!IsKnown)
                return (0, 0);
            var root = Math.Sqrt(Removed + 0.375);
            var (least, most) = (Math.Max(0, root - 1), root + 1);
            var scale = Pieces / PieceYears;
            return (Math.Max(0, (least * least) - 0.375) * scale, ((most * most) - 0.375) * scale);
        }
    }

    /// <summary>In words: <c>3, between 1 and 7</c>; or that there is not enough to say.</summary>
    public override string ToString() =>
        !IsKnown
            ? "not enough on record to say"
            : FormattableString.Invariant(
                $"{Math.Round(Expected)}, between {Math.Floor(Range.Least):0} and {Math.Ceiling(Range.Most):0}"
            );
}
