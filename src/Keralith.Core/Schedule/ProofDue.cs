namespace Keralith.Core.Schedule;

/// <summary>A proof test that passed and counts.</summary>
/// <param name="On">The day it was made.</param>
/// <param name="Renews">The day entered by hand that stood when it was recorded; null: none stood.</param>
public sealed record PassedProof(DateOnly On, DateOnly? Renews);

/// <summary>What the next proof test of a piece follows from.</summary>
/// <param name="Entered">The day entered by hand, as on a maker's certificate; null: none.</param>
/// <param name="Last">The last test on record that passed and counts; null: none.</param>
/// <param name="Months">How many months one holds good, by what the site or the maker asks; null: neither asks.</param>
public sealed record ProofFacts(DateOnly? Entered, PassedProof? Last, int? Months)
{
    /// <summary>Nothing asked, nothing known.</summary>
    public static ProofFacts None { get; } = new(null, null, null);
}

/// <summary>How long a piece's proof test holds good.</summary>
/// <param name="Until">The last day it holds; null: none is asked, or none is on record.</param>
/// <param name="Lacks">Whether one is asked and none is known: the piece may not be used.</param>
public sealed record ProofDue(DateOnly? Until, bool Lacks)
{
    /// <summary>None asked.</summary>
    public static ProofDue None { get; } = new(null, false);

    /// <summary>
    /// A test on record holds for the months that are asked, and takes the place of the day entered before it. A day
    /// entered since counts where it is earlier. Without a test on record the entered day stands; without either a piece
    /// of which one is asked lacks it. Where nobody asks, the entered day alone counts.
    /// </summary>
    public static ProofDue Of(ProofFacts facts)
    {
        if (facts.Months is not { } months || facts.Last is not { } last)
            return new(facts.Entered, facts.Months is not null && facts.Entered is null);
        var until = new Months(months).After(last.On);
        return new(facts.Entered != last.Renews && facts.Entered < until ? facts.Entered : until, false);
    }

    /// <summary>Whether it stops a piece on a day.</summary>
    public bool StopsOn(DateOnly day) => Lacks || Until < day;
}
