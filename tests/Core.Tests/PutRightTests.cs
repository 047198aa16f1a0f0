using Keralith.Core.Custody;
using Keralith.Core.Ledger;
using Keralith.Core.People;
using Keralith.Core.Register;
using Xunit;

namespace Keralith.Core.Tests;

/// <summary>A wrong record is put right by another; it never makes anything milder.</summary>
public class PutRightTests
{
    private static readonly Signer Qualified = GivenPeople.Signer(Role.Qualified);
    private static readonly Signer Inspector = GivenPeople.Signer(Role.Inspector);
    private static readonly Signer Stores = GivenPeople.Signer(Role.Stores);
    private static readonly Signer Crew = GivenPeople.Signer(Role.Crew);

    public static TheoryData<RecordKind, PieceState, PieceState?, HoldCause?> Table { get; } =
        new()
        {
            { RecordKind.HandOut, PieceState.InService, PieceState.InService, null },
            { RecordKind.HandOut, PieceState.Held, PieceState.Held, null },
            { RecordKind.HandOut, PieceState.Destroyed, PieceState.Destroyed, null },
            { RecordKind.Move, PieceState.InService, PieceState.InService, null },
            { RecordKind.Release, PieceState.InService, PieceState.Held, HoldCause.Doubt },
            { RecordKind.Release, PieceState.New, PieceState.Held, HoldCause.Doubt },
            { RecordKind.Release, PieceState.AtRepair, PieceState.AtRepair, HoldCause.Doubt },
            { RecordKind.Release, PieceState.Condemned, null, null },
            { RecordKind.Release, PieceState.Missing, null, null },
            { RecordKind.Tag, PieceState.InService, PieceState.Held, HoldCause.Marking },
            { RecordKind.Tag, PieceState.Destroyed, null, null },
            { RecordKind.ProofTest, PieceState.InService, PieceState.Held, HoldCause.FactsChanged },
            { RecordKind.ProofTest, PieceState.Held, PieceState.Held, HoldCause.FactsChanged },
            { RecordKind.ProofTest, PieceState.Condemned, PieceState.Condemned, null },
            { RecordKind.Destruction, PieceState.Destroyed, PieceState.Condemned, null },
            { RecordKind.Destruction, PieceState.Condemned, null, null },
            { RecordKind.Destruction, PieceState.InService, null, null },
        };

    [Theory]
    [MemberData(nameof(Table))]
    public void What_it_makes_of_a_piece(RecordKind kind, PieceState state, PieceState? after, HoldCause? hold)
    {
        var outcome = Put(Record(kind, Qualified) with { Passed = true }, state, Qualified);
        Assert.Equal(after is not null, outcome.Ok);
        if (after is null)
            return;
        Assert.Equal((after.Value, hold), (outcome.Value.State, outcome.Value.Hold?.Cause));
        Assert.IsType<RecordPutRight>(outcome.Value.Record);
        if (hold is not null)
            Assert.Contains("Another piece", outcome.Value.Hold!.Reason, StringComparison.Ordinal);
    }

    [Theory]
    [InlineData(RecordKind.HandOut, true)]
    [InlineData(RecordKind.Move, true)]
    [InlineData(RecordKind.Release, false)]
    [InlineData(RecordKind.ProofTest, false)]
    public void Somebody_elses_record_is_put_right_by_a_qualified_person_save_where_gear_hangs_or_is(
        RecordKind kind,
        bool anybody
    )
    {
        var theirs = Record(kind, Qualified);
        Assert.Equal(anybody, Put(theirs, PieceState.InService, Inspector).Ok);
        Assert.True(Put(Record(kind, Inspector), PieceState.InService, Inspector).Ok);
        Assert.True(Put(Record(kind, Inspector), PieceState.InService, Qualified).Ok);
    }

    [Fact]
    public void It_takes_the_right_the_record_is_made_with()
    {
        Assert.False(Put(Record(RecordKind.Tag, Crew), PieceState.InService, Crew).Ok);
        Assert.False(Put(Record(RecordKind.ProofTest, Stores), PieceState.InService, Stores).Ok);
        Assert.False(Put(Record(RecordKind.Destruction, Inspector), PieceState.Destroyed, Inspector).Ok);
        Assert.True(Put(Record(RecordKind.HandOut, Stores), PieceState.InService, Stores).Ok);
        Assert.False(Put(Record(RecordKind.HandOut, Crew), PieceState.InService, Crew).Ok);
    }

    [Theory]
    [InlineData(null)]
    [InlineData(" ")]
    public void Why_is_wanted(string? why) =>
        Assert.False(
            PutRight.Of(Record(RecordKind.Move, Qualified), PieceState.InService, null, new(why), Qualified).Ok
        );

    [Fact]
    public void Once_put_right_kept_as_evidence_or_not_there_it_is_refused()
    {
        var record = Record(RecordKind.Move, Qualified);
        PutRightWith with = new("Another piece");
        Assert.False(PutRight.Of(record with { Wrong = "x" }, PieceState.InService, null, with, Qualified).Ok);
        Assert.False(PutRight.Of(record, PieceState.InService, "It failed", with, Qualified).Ok);
        Assert.Equal(
            RefusalKind.NotFound,
            PutRight.Of(null, PieceState.InService, null, with, Qualified).Refusal!.Kind
        );
    }

    [Fact]
    public void A_hand_out_that_still_is_names_who_has_it_and_keeps_its_lift_for_the_same_job_alone()
    {
        var lift = Guid.NewGuid();
        var record = Record(RecordKind.HandOut, Stores) with { IsOut = true, Job = "Lock 9", Lift = lift };
        PutRightWith with = new("Another crew") { Issue = Guid.NewGuid() };
        Assert.False(PutRight.Of(record, PieceState.InService, null, with, Stores).Ok);
        foreach (var (job, kept) in new[] { ("Lock 9", (Guid?)lift), ("Lock 3", null), ("", null) })
        {
            var outcome = PutRight.Of(
                record,
                PieceState.InService,
                null,
                with with
                {
                    Holder = " South crew ",
                    Job = job,
                },
                Stores
            );
            var issued = Assert.IsType<PieceIssued>(Assert.Single(outcome.Value.Beside));
            Assert.Equal((with.Issue, "South crew", job, kept), (issued.Issue, issued.Holder, issued.Job, issued.Lift));
        }
    }

    [Theory]
    [InlineData(HoldCause.VerdictRemove, HoldCause.VerdictRemove)]
    [InlineData(HoldCause.Marking, HoldCause.Marking)]
    [InlineData(HoldCause.Recall, HoldCause.FactsChanged)]
    public void A_release_that_was_none_holds_it_as_it_was_held(HoldCause was, HoldCause again) =>
        Assert.Equal(
            again,
            Put(
                Record(RecordKind.Release, Qualified) with
                {
                    Cause = was,
                },
                PieceState.InService,
                Qualified
            ).Value.Hold!.Cause
        );

    [Fact]
    public void A_failed_test_that_was_none_leaves_the_hold_it_put_on() =>
        Assert.Null(
            Put(Record(RecordKind.ProofTest, Qualified) with { Passed = false }, PieceState.Held, Qualified).Value.Hold
        );

    [Theory]
    [InlineData(PieceState.Condemned, true)]
    [InlineData(PieceState.Destroyed, true)]
    [InlineData(PieceState.Missing, true)]
    [InlineData(PieceState.New, false)]
    [InlineData(PieceState.InService, false)]
    [InlineData(PieceState.Held, false)]
    [InlineData(PieceState.AtRepair, false)]
    [InlineData(PieceState.AtTest, false)]
    public void A_piece_takes_the_place_of_one_that_left_or_is_missing_and_of_it_alone(PieceState state, bool takes)
    {
        Assert.Equal(takes, Replacement.Of("HM-2", "HM-1", state, null, Stores).Ok);
        Assert.False(Replacement.Of("HM-2", "HM-1", state, "HM-3", Stores).Ok);
        Assert.False(Replacement.Of("HM-2", null, state, null, Stores).Ok);
        Assert.False(Replacement.Of("HM-2", "HM-1", state, null, Crew).Ok);
    }

    [Fact]
    public void On_a_roster_the_new_mark_stands_where_the_old_one_stood()
    {
        KitMember[] roster =
        [
            KitMember.Read("2; hook; 3 t; bears; HM-0001").Value,
            KitMember.Read("1; pin; -; spare").Value,
        ];
        var (now, mark) = (Replacement.On(roster, "HM-0001", Mark.Read("HM-0009").Value)!, Mark.Read("HM-0009").Value);
        Assert.Equal(roster[0] with { Mark = mark }, now[0]);
        Assert.Equal(roster[1], now[1]);
        Assert.Null(Replacement.On(roster, "HM-0002", mark));
    }

    private static StandingRecord Record(RecordKind kind, Signer by) =>
        new(kind, Guid.NewGuid(), by.Person) { Cause = HoldCause.Doubt };

    private static Checked<PieceOutcome> Put(StandingRecord record, PieceState state, Signer by) =>
        PutRight.Of(record, state, null, new("Another piece"), by);
}
