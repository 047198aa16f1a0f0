using Keralith.Core.Custody;
using Keralith.Core.Ledger;
using Keralith.Core.People;

namespace Keralith.Core.Register;

/// <summary>
/// A further code a piece carries beside its label: a maker's bar code, a radio tag's number. Scanned, it leads to the piece.
/// It identifies nothing to the rules: the mark and the tag do.
/// </summary>
public static class PieceCode
{
    /// <summary>Letters a code may have.</summary>
    public const int Longest = 80;

    /// <summary>Codes one piece may carry.</summary>
    public const int Most = 6;

    private const int Shortest = 3;
    private const int LongestReason = 200;

    /// <summary>Reads a code as it was scanned: case and blanks around it don't matter.</summary>
    public static Checked<string> Read(string? scanned)
    {
        var code = (scanned ?? string.Empty).Trim().ToUpperInvariant();
        return code.Length is < Shortest or > Longest || code.Any(c => char.IsControl(c) || char.IsWhiteSpace(c))
            ? new Refusal($"A code is {Shortest} to {Longest} letters and digits without blanks: scan it once more.")
            : code;
    }

    /// <summary>Binds a code to a piece.</summary>
    /// <param name="mark">The piece's mark.</param>
    /// <param name="scanned">As <see cref="Read"/> gave it.</param>
    /// <param name="carries">How many codes it carries already.</param>
    /// <param name="taken">The mark of the piece that it leads to already, as a code, mark or serial; null: to none.</param>
    public static Checked<PieceOutcome> Bind(
        string mark,
        PieceState state,
        Checked<string> scanned,
        int carries,
        string? taken,
        Signer by
    )
    {
        if (by.Without(Right.Register) is { } forbidden)
            return forbidden;
        if (!scanned.Ok)
            return scanned.Refusal!;
        var code = scanned.Value;
        if (state.IsRetired())
            return new Refusal($"{mark} is retired; no code leads to it any more.");
        if (taken == mark)
            return new Refusal($"{code} leads to {mark} already.");
        if (taken is not null)
            return Refusal.Conflict($"{code} leads to {taken}: a code belongs to one piece.");
        return carries >= Most
            ? new Refusal($"{mark} carries {Most} codes: take one off that is gone.")
            : new PieceOutcome(state, new CodeBound(code));
    }

    /// <summary>Takes a code off a piece: it is gone from it, or was another's.</summary>
    /// <param name="carried">Whether the piece carries it.</param>
    public static Checked<PieceOutcome> TakeOff(PieceState state, string code, bool carried, string? reason, Signer by)
    {
        if (by.Without(Right.Register) is { } forbidden)
            return forbidden;
        if (!carried)
            return Refusal.NotFound("It carries no such code.");
        return string.IsNullOrWhiteSpace(reason) || reason.Length > LongestReason
            ? new Refusal($"Write why it comes off, in up to {LongestReason} letters.")
            : new PieceOutcome(state, new CodeTakenOff(code, reason.Trim()));
    }
}
