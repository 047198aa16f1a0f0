using Keralith.Core.Judgement;
using Keralith.Core.People;

namespace Keralith.Core.Custody;

/// <summary>A signed record that is wrong, as the rules of correcting see it.</summary>
/// <param name="Kind">Its kind.</param>
/// <param name="Verdict">What was signed.</param>
/// <param name="SignedOn">The day it was signed.</param>
public sealed record WrongRecord(InspectionKind Kind, VerdictKind Verdict, DateOnly SignedOn)
{
    /// <summary>Whether it took the piece out of use.</summary>
    public bool StoppedIt => Verdict.Stops();
}

/// <summary>
/// A wrong record is never altered: another stands in its place and says why, or it is withdrawn and counts for
/// nothing; both stay readable. What takes its
/// place speaks of the piece as it was seen then, so it counts from when the wrong one was signed: it closes no hold
/// put on since.
/// </summary>
public static class Correction
{
    /// <summary>Letters a reason may have.</summary>
    public const int LongestReason = 500;

    /// <summary>The right a record of this kind is signed, and so corrected, with.</summary>
    public static Right Signs(InspectionKind kind) => kind.IsFull() ? Right.SignInspection : Right.CheckFrequent;

    /// <summary>Why a reason does not do; null when it does.</summary>
    public static string? RefusalOf(string? why) =>
        string.IsNullOrWhiteSpace(why) ? "Write what is wrong with the record."
        : why.Length > LongestReason ? $"Say it in at most {LongestReason} letters."
        : null;

    /// <summary>Why a record may not stand in the place of a wrong one; null when it may.</summary>
    /// <param name="wrong">The wrong record.</param>
    /// <param name="verdict">What would be signed in its place.</param>
    /// <param name="inspectedOn">The day it would name.</param>
    /// <param name="roles">Who signs.</param>
    public static string? Refusal(WrongRecord wrong, VerdictKind verdict, DateOnly inspectedOn, Roles roles) =>
        inspectedOn > wrong.SignedOn
            ? $"The record was signed on {wrong.SignedOn:yyyy-MM-dd}: what it tells was seen by then, not later. A later look is an inspection of its own."
        : wrong.StoppedIt && verdict < wrong.Verdict && !roles.May(Right.CloseVerdict)
            ? $"It was signed as {Code.Of(wrong.Verdict)}: only a qualified person makes it milder."
        : null;

    /// <summary>
    /// The earlier day for the next full inspection: one set with the wrong record is kept, unless the correction sets
    /// a still earlier one.
    /// </summary>
    /// <param name="wrong">As set with the wrong record; null: none.</param>
    /// <param name="now">As set now; null: none.</param>
    public static DateOnly? NextBy(DateOnly? wrong, DateOnly? now) => wrong is null || now < wrong ? now : wrong;

    /// <summary>
    /// The state after a correction: what it finds against the piece stops it; nothing it finds puts it into use.
    /// </summary>
    public static Checked<PieceState> After(PieceState state, VerdictKind verdict) =>
        state.IsRetired() ? new Refusal("This piece is retired; its record stands as it is.")
        : verdict.Stops() ? PieceLife.AfterHold(state)
        : verdict == VerdictKind.Incomplete ? PieceLife.AfterInspection(state, InspectionKind.Periodic, verdict, 0)
        : state;

    /// <summary>Why a record may not be withdrawn; null when it may.</summary>
    /// <param name="wrong">The wrong record.</param>
    /// <param name="roles">Who withdraws it.</param>
    /// <param name="isOwn">Whether they made or signed it themselves.</param>
    public static string? RefusalToWithdraw(WrongRecord wrong, Roles roles, bool isOwn) =>
        !roles.May(Signs(wrong.Kind)) ? "Your role does not allow this."
        : !isOwn && !roles.May(wrong.Kind.IsFull() ? Right.CloseVerdict : Right.SignInspection)
            ? wrong.Kind.IsFull() ? "Somebody else signed it: they or a qualified person withdraw it."
                : "Somebody else signed it: they or an inspector withdraw it."
        : wrong.StoppedIt && !roles.May(Right.CloseVerdict)
            ? $"It was signed as {Code.Of(wrong.Verdict)}: only a qualified person withdraws it."
        : null;

    /// <summary>
    /// Whether withdrawing puts the piece on hold: it does where it was a full inspection, for then nobody knows what
    /// the piece is like.
    /// </summary>
    public static bool Holds(InspectionKind kind) => kind.IsFull();
}
