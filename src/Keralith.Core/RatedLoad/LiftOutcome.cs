namespace Keralith.Core.RatedLoad;

/// <summary>What a lift comes to, mildest first: the order is the order of severity.</summary>
public enum LiftOutcome
{
    /// <summary>Nothing against it in the figures given.</summary>
    Ok,

    /// <summary>Carried, with something to watch.</summary>
    Caution,

    /// <summary>A qualified person or the maker is asked first; missing data too.</summary>
    Ask,

    /// <summary>A piece is asked for more than it may carry.</summary>
    Overloaded,

    /// <summary>No figure makes it right: it is rigged otherwise.</summary>
    NotPermitted,
}

/// <summary>One thing that bears on a lift.</summary>
/// <param name="Outcome">What it makes of the lift by itself; a fact or an assumption is <see cref="LiftOutcome.Ok"/>.</param>
/// <param name="Text">In words, with what to do about it.</param>
public sealed record Remark(LiftOutcome Outcome, string Text);
