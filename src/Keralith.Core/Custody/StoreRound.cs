using Keralith.Core.Ledger;
using Keralith.Core.People;

namespace Keralith.Core.Custody;

/// <summary>What a round finds of a piece.</summary>
public enum RoundFinding
{
    /// <summary>Expected, and not seen so far.</summary>
    [Code("not-seen")]
    NotSeen,

    /// <summary>Nothing on record carries what was scanned.</summary>
    [Code("unknown")]
    Unknown,

    /// <summary>On record it is somewhere else: out with somebody, of another store, missing, condemned.</summary>
    [Code("extra")]
    Extra,

    /// <summary>It hangs on another peg than on record.</summary>
    [Code("wrong-peg")]
    WrongPeg,

    /// <summary>It hangs where it should.</summary>
    [Code("seen")]
    Seen,
}

/// <summary>A piece as a round knows it from the record.</summary>
/// <param name="Holder">Who has it; null where it is in its store.</param>
/// <param name="IsExpected">Whether the round is about it.</param>
public sealed record RoundPiece(string Mark, HangingPlace Place, PieceState State, string? Holder, bool IsExpected);

/// <summary>What was scanned on a round.</summary>
/// <param name="Scanned">As it was scanned.</param>
/// <param name="Piece">The piece it leads to; null: none.</param>
/// <param name="Peg">The peg it hung on; empty: nobody said.</param>
public sealed record RoundSight(string Scanned, RoundPiece? Piece, string Peg);

/// <summary>One line of a round.</summary>
/// <param name="Mark">The piece's mark, or what was scanned where it is none's.</param>
/// <param name="Words">Where it hangs, or what to do about it.</param>
public sealed record RoundLine(RoundFinding Finding, string Mark, string Words);

/// <summary>
/// A round of a store, or a search for chosen pieces: what hangs there against what should. It changes nothing by
/// itself; its list says what to do.
/// </summary>
public static class StoreRound
{
    /// <summary>Pieces chosen for one round at most.</summary>
    public const int MostChosen = 600;

    /// <summary>Letters of what was scanned at most.</summary>
    public const int LongestScan = 60;

    /// <summary>Whether a round of its store looks for a piece: everything that should hang there, the cage with it.</summary>
    public static bool Expects(PieceState state, bool isOut) =>
        !isOut && !state.IsRetired() && !state.IsAway() && state != PieceState.Missing;

    /// <summary>How a round stands: first what is not in order, then what is.</summary>
    /// <param name="expected">The pieces it is about.</param>
    /// <param name="sights">What was scanned, the earliest first; of one piece the last counts.</param>
    public static IReadOnlyList<RoundLine> Standing(
        IReadOnlyList<RoundPiece> expected,
        IReadOnlyList<RoundSight> sights
    )
    {
        var seen = sights
            .Where(s => s.Piece is not null)
            .GroupBy(s => s.Piece!.Mark)
            .Select(g => Of(g.Last()))
            .ToList();
        var marks = seen.Select(l => l.Mark).ToHashSet(StringComparer.Ordinal);
        return
        [
            .. expected
                .Where(p => !marks.Contains(p.Mark))
                .Select(p => new RoundLine(RoundFinding.NotSeen, p.Mark, $"should hang at {p.Place}"))
                .Concat(
                    sights
                        .Where(s => s.Piece is null)
                        .Select(s => s.Scanned)
                        .Distinct(StringComparer.OrdinalIgnoreCase)
                        .Select(s => new RoundLine(RoundFinding.Unknown, s, "set it aside"))
                )
                .Concat(seen)
                .OrderBy(l => l.Finding),
        ];
    }

    /// <summary>Begins a round of a store, or a search for chosen pieces.</summary>
    /// <param name="name">The store's name; null: there is no such store.</param>
    /// <param name="expected">How many pieces it is about.</param>
    /// <param name="isUnderWay">Whether a round of the same store is not closed yet.</param>
    public static Checked<RoundBegun> Begin(string? name, int expected, bool isUnderWay, Signer by)
    {
        if (by.Without(Right.Move) is { } forbidden)
            return forbidden;
        if (name is null)
            return Refusals.NoSuchStore;
        if (isUnderWay)
            return new Refusal($"A round of {name} is under way: go on with it.", RefusalKind.Conflict);
        if (expected == 0)
            return new Refusal("Nothing is on record there; there is nothing to look for.");
        return expected > MostChosen && name.Length == 0
            ? new Refusal($"At most {MostChosen} pieces are chosen at once; walk their store instead.")
            : new RoundBegun(name, expected);
    }

    /// <summary>Whether something may be scanned on a round.</summary>
    public static Refusal? RefusalToSee(bool isOpen, int scanned, Signer by)
    {
        if (by.Without(Right.Move) is { } forbidden)
            return forbidden;
        if (!isOpen)
            return Closed;
        return scanned == 0 ? new("Scan at least one mark.") : null;
    }

    /// <summary>Closes a round with its list.</summary>
    public static Checked<RoundClosed> Close(string name, bool isOpen, IReadOnlyList<RoundLine> standing, Signer by)
    {
        if (by.Without(Right.Move) is { } forbidden)
            return forbidden;
        if (!isOpen)
            return Closed;
        return standing.All(l => l.Finding == RoundFinding.NotSeen)
            ? new Refusal("Nothing was seen on it; scan what hangs there first.")
            : new RoundClosed(
                name,
                standing.Count(l => l.Finding == RoundFinding.Seen),
                Marks(RoundFinding.NotSeen),
                Marks(RoundFinding.WrongPeg),
                Marks(RoundFinding.Extra),
                Marks(RoundFinding.Unknown)
            );

        IReadOnlyList<string> Marks(RoundFinding finding) =>
            [.. standing.Where(l => l.Finding == finding).Select(l => l.Mark)];
    }

    private static Refusal Closed => new("That round is closed; begin another.", RefusalKind.Conflict);

    private static RoundLine Of(RoundSight sight)
    {
        var piece = sight.Piece!;
        return piece switch
        {
            { Holder: { } holder } => Line(RoundFinding.Extra, $"out with {holder} on record: take it back"),
            { State: PieceState.Missing } => Line(RoundFinding.Extra, "missing on record: say that it is found"),
            _ when piece.State.IsAway() => Line(RoundFinding.Extra, "away on record: take it back"),
            _ when piece.State.IsRetired() => Line(
                RoundFinding.Extra,
                "never to be used again on record: take it off the peg"
            ),
            { IsExpected: false } => Line(RoundFinding.Extra, $"belongs to {piece.Place}"),
            _ when sight.Peg.Length > 0
                    && piece.Place.Peg.Length > 0
                    && !string.Equals(sight.Peg, piece.Place.Peg, StringComparison.OrdinalIgnoreCase) => Line(
                RoundFinding.WrongPeg,
                $"hangs on {sight.Peg}, belongs on {piece.Place.Peg}"
            ),
            _ => Line(RoundFinding.Seen, piece.Place.ToString()),
        };

        RoundLine Line(RoundFinding finding, string words) => new(finding, piece.Mark, words);
    }
}
