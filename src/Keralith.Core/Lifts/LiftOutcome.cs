namespace Keralith.Core.Lifts;

/// <summary>What a lift comes to, mildest first: the order is the order of severity.</summary>
public enum LiftOutcome
{
    /// <summary>Nothing against it in the figures given.</summary>
    [Code("ok")]
    Ok,

    /// <summary>Carried, with something to watch.</summary>
    [Code("caution")]
    Caution,

    /// <summary>A qualified person or the maker is asked first; missing data too.</summary>
    [Code("ask")]
    Ask,

    /// <summary>A piece is asked for more than it may carry.</summary>
    [Code("overloaded")]
    Overloaded,

    /// <summary>No figure makes it right: it is rigged otherwise.</summary>
    [Code("not-permitted")]
    NotPermitted,
}

/// <summary>One thing that bears on a lift.</summary>
/// <param name="Outcome">What it makes of the lift by itself; a fact or an assumption is <see cref="LiftOutcome.Ok"/>.</param>
/// <param name="Text">In words, with what to do about it.</param>
public sealed record Remark(LiftOutcome Outcome, string Text);
