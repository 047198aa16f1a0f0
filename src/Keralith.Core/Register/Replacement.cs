using Keralith.Core.Custody;
using Keralith.Core.Ledger;
using Keralith.Core.People;

namespace Keralith.Core.Register;

/// <summary>A piece that takes the place of another which left, or can't be found.</summary>
public static class Replacement
{
    /// <summary>What the ledger keeps when a new piece takes the place of another.</summary>
    /// <param name="mark">The new piece's mark.</param>
    /// <param name="replaced">The other's; null: there is no such piece.</param>
    /// <param name="state">The other's state.</param>
    /// <param name="by">What took its place already; null: nothing.</param>
    /// <param name="signer">Who registers it.</param>
    public static Checked<PieceReplaces> Of(string mark, string? replaced, PieceState state, string? by, Signer signer)
    {
        if (signer.Without(Right.Register) is { } forbidden)
            return forbidden;
        if (replaced is null)
            return Refusal.NotFound("There is no piece whose place it could take.");
        if (by is not null)
            return new Refusal($"{by} took the place of {replaced} already.");
        return state.IsRetired() || state == PieceState.Missing
            ? new PieceReplaces(replaced)
            : new Refusal(
                $"{replaced} is here still: a piece takes the place of one that is condemned, destroyed or missing."
            );
    }

    /// <summary>A kit's roster with one mark in another's place; null where it does not name it.</summary>
    public static IReadOnlyList<KitMember>? On(IReadOnlyList<KitMember> roster, string replaced, Mark mark) =>
        roster.Any(m => m.Mark?.Text == replaced)
            ? [.. roster.Select(m => m.Mark?.Text == replaced ? m with { Mark = mark } : m)]
            : null;
}
