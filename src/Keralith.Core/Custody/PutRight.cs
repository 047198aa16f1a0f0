using Keralith.Core.Ledger;
using Keralith.Core.People;

namespace Keralith.Core.Custody;

/// <summary>A kind of record, other than an inspection, that may have been made wrongly.</summary>
public enum RecordKind
{
    [Code("hand-out")]
    HandOut,

    [Code("release")]
    Release,

    [Code("tag")]
    Tag,

    [Code("move")]
    Move,

    [Code("proof-test")]
    ProofTest,

    [Code("destruction")]
    Destruction,
}

/// <summary>A record as the rules of putting right see it.</summary>
/// <param name="Kind">Its kind.</param>
/// <param name="Id">Its id.</param>
/// <param name="By">Who made it.</param>
public sealed record StandingRecord(RecordKind Kind, Guid Id, Guid By)
{
    /// <summary>When it was made.</summary>
    public DateTimeOffset At { get; init; }

    /// <summary>What it says.</summary>
    public string Words { get; init; } = string.Empty;

    /// <summary>Who made it, by name.</summary>
    public string ByName { get; init; } = string.Empty;

    /// <summary>Why it was found wrong; null: it stands.</summary>
    public string? Wrong { get; init; }

    /// <summary>Of a release: why the hold had been put on.</summary>
    public HoldCause? Cause { get; init; }

    /// <summary>Of a proof test: whether it passed.</summary>
    public bool Passed { get; init; }

    /// <summary>Of a hand-out: whether the piece is out by it still.</summary>
    public bool IsOut { get; init; }

    /// <summary>Of a hand-out: when it is expected back; null: nobody said.</summary>
    public DateOnly? Back { get; init; }

    /// <summary>Of a hand-out: for what.</summary>
    public string Job { get; init; } = string.Empty;

    /// <summary>Of a hand-out: the lift it went to; null: none.</summary>
    public Guid? Lift { get; init; }
}

/// <summary>What stands in the place of a wrong record.</summary>
/// <param name="Why">What is wrong with it.</param>
public sealed record PutRightWith(string? Why)
{
    /// <summary>Of a hand-out: who has it.</summary>
    public string? Holder { get; init; }

    /// <summary>Of a hand-out: for which job.</summary>
    public string? Job { get; init; }

    /// <summary>The id of the hand-out in its place.</summary>
    public Guid Issue { get; init; }
}

/// <summary>
/// A wrong record is never altered: what is right stands in its place, names it and says why; both stay readable. It
/// never makes anything milder: a release, a tag or a proof test that was none holds the piece, and what was not
/// destroyed is still condemned.
/// </summary>
public static class PutRight
{
    /// <summary>The right a record of this kind is made, and so put right, with.</summary>
    public static Right Makes(RecordKind kind) =>
        kind switch
        {
            RecordKind.HandOut => Right.Issue,
            RecordKind.Release => Right.Hold,
            RecordKind.Tag => Right.Retag,
            RecordKind.Move => Right.Move,
            RecordKind.ProofTest => Right.ProofTest,
            RecordKind.Destruction => Right.CloseVerdict,
        };

    /// <summary>Puts a record right.</summary>
    /// <param name="record">The wrong one; null: there is no such record of the piece.</param>
    /// <param name="state">The piece's.</param>
    /// <param name="locked">Why it is kept as evidence; null: it is not.</param>
    /// <param name="with">What is right.</param>
    /// <param name="by">Who puts it right.</param>
    public static Checked<PieceOutcome> Of(
        StandingRecord? record,
        PieceState state,
        string? locked,
        PutRightWith with,
        Signer by
    )
    {
        if (record is null)
            return Refusal.NotFound("There is no such record of this piece.");
        if (by.Without(Makes(record.Kind)) is { } forbidden)
            return forbidden;
        if (EvidenceLock.Refuses(locked) is { } kept)
            return kept;
        if (record.Wrong is not null)
            return new Refusal("This record was put right already.");
        if (Correction.RefusalOf(with.Why) is { } refusal)
            return new Refusal(refusal);
        var isSomebodyElses = record.By != by.Person && !by.Roles.May(Right.CloseVerdict);
        if (isSomebodyElses && record.Kind is not (RecordKind.HandOut or RecordKind.Move))
            return Refusal.Forbidden("Somebody else made it: they or a qualified person put it right.");
        var why = with.Why!.Trim();
        return record.Kind switch
        {
            RecordKind.HandOut => HandOut(record, state, with, why),
            RecordKind.Release => Held(
                record,
                state,
                why,
                new(CauseAgain(record), $"Its hold was let go by a wrong record: {why}")
            ),
            RecordKind.Tag => Held(
                record,
                state,
                why,
                new(HoldCause.Marking, $"Its new tag was recorded wrongly: {why}")
            ),
            RecordKind.Move => new PieceOutcome(
                state,
                Said(record, why, "it was not moved so; where it hangs is told by a move of its own")
            ),
            RecordKind.ProofTest when !record.Passed || state.IsRetired() => new PieceOutcome(
                state,
                Said(record, why, "it counts for nothing")
            ),
            RecordKind.ProofTest => Held(
                record,
                state,
                why,
                new(HoldCause.FactsChanged, $"Its proof test was recorded wrongly: {why}")
            ),
            RecordKind.Destruction => PieceLife.AfterNoDestruction(state) is { Ok: true, Value: var condemned }
                ? new PieceOutcome(condemned, Said(record, why, "not destroyed; condemned as it was"))
                : PieceLife.AfterNoDestruction(state).Refusal!,
        };
    }

    private static Checked<PieceOutcome> Held(StandingRecord record, PieceState state, string why, NewHold hold) =>
        Cage.On(state, hold, Said(record, why, "on hold again"));

    private static Checked<PieceOutcome> HandOut(StandingRecord record, PieceState state, PutRightWith with, string why)
    {
        if (!record.IsOut)
            return new PieceOutcome(state, Said(record, why, "it counts for nothing"));
        if (Issuing.RefusalOfHolder(with.Holder) is { } unnamed)
            return new Refusal($"Say who has it: {unnamed}");
        var (holder, job) = (with.Holder!.Trim(), with.Job?.Trim() ?? string.Empty);
        return new PieceOutcome(
            state,
            Said(record, why, $"out with {holder}{(job.Length == 0 ? string.Empty : $", for {job}")}")
        )
        {
            Beside = [new PieceIssued(with.Issue, holder, job, record.Back, job == record.Job ? record.Lift : null)],
        };
    }

    /// <summary>
    /// What the hold is put on again for: as it was, so that the same people close it after the same; a recall's own hold
    /// can't be made anew, so it is closed as after a change of facts.
    /// </summary>
    private static HoldCause CauseAgain(StandingRecord record) =>
        record.Cause is null or HoldCause.Recall ? HoldCause.FactsChanged : record.Cause.Value;

    private static RecordPutRight Said(StandingRecord record, string why, string right) =>
        new(Code.Of(record.Kind), record.Id, why, right);
}
