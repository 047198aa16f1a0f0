using Keralith.Core.Custody;
using Keralith.Core.Gear;
using Keralith.Core.Ledger;
using Keralith.Core.People;

namespace Keralith.Core.Signing;

/// <summary>A signed record to be corrected or withdrawn.</summary>
/// <param name="Id">Its id.</param>
/// <param name="Facts">What was signed.</param>
/// <param name="InspectedOn">The day it names.</param>
/// <param name="IsSuperseded">Whether it was corrected or withdrawn already.</param>
public sealed record RecordToWithdraw(Guid Id, WrongRecord Facts, DateOnly InspectedOn, bool IsSuperseded)
{
    /// <summary>Who made it and who signed it.</summary>
    public required IReadOnlyList<Guid> Hands { get; init; }
}

/// <summary>
/// Records that were never made, or made of another piece: withdrawn, they count for nothing and stay readable.
/// </summary>
public static class Withdrawal
{
    /// <summary>Begins the correction of a record: who may, and why it is wrong.</summary>
    public static Checked<string> Correct(bool counts, PieceState state, string? why, Signer by)
    {
        if (by.Without(Right.Draft) is { } forbidden)
            return forbidden;
        if (Correction.RefusalOf(why) is { } refused)
            return new Refusal(refused);
        if (state.IsRetired())
            return new Refusal("This piece is retired; its record stands as it is.");
        return counts ? why!.Trim() : Refusals.CorrectedAlready;
    }

    /// <summary>Withdraws a record. A full inspection withdrawn puts the piece on hold: nobody knows what it is like.</summary>
    public static Checked<PieceOutcome> Of(
        RecordToWithdraw record,
        GearFamily family,
        PieceState state,
        string? why,
        IEnumerable<Authorisation> authorisations,
        Signer by
    )
    {
        if (Correction.RefusalOf(why) is { } unsaid)
            return new Refusal(unsaid);
        if (record.IsSuperseded)
            return Refusals.CorrectedAlready;
        if (state.IsRetired())
            return new Refusal("This piece is retired; its record stands as it is.");
        if (Correction.RefusalToWithdraw(record.Facts, by.Roles, record.Hands.Contains(by.Person)) is { } refused)
            return Refusal.Forbidden(refused);
        if (
            Correction.Signs(record.Facts.Kind) == Right.SignInspection
            && Authorisation.RefusalToSign(authorisations, family, by.Day) is { } unauthorised
        )
            return Refusal.Forbidden(unauthorised);
        var reason = why!.Trim();
        var said = new InspectionWithdrawn(record.Id, record.InspectedOn, Code.Of(record.Facts.Verdict), reason);
        if (!Correction.Holds(record.Facts.Kind))
            return new PieceOutcome(state, said);
        var kind = Code.Of(record.Facts.Kind);
        return Cage.On(
            state,
            new NewHold(
                HoldCause.Doubt,
                $"Its {kind} inspection of {record.InspectedOn:yyyy-MM-dd} was withdrawn: {reason}"
            ),
            said
        );
    }
}
