using Keralith.Core.Custody;
using Keralith.Core.Judgement;
using Keralith.Core.People;
using Xunit;

namespace Keralith.Core.Tests;

/// <summary>Every state of a piece and every act on it: what it becomes, or that it is refused.</summary>
public class PieceLifeTableTests
{
    private const string Refused = "refused";

    private static readonly Signer Qualified = GivenPeople.Signer(Role.Qualified);

    /// <summary>The acts, each by somebody who may, with everything said that is wanted.</summary>
    private static readonly Dictionary<string, Func<PieceState, Checked<PieceState>>> Acts = new()
    {
        ["hold"] = s => State(Cage.Hold(s, HoldCause.Doubt, "Bent", Qualified)),
        ["condemn"] = s => State(Cage.Condemn(s, "Worn out", Qualified)),
        ["destroy"] = s => State(Cage.Destroy(s, "Cut", Guid.NewGuid(), "stores", "", Qualified)),
        ["retag"] = s => State(Cage.Retag(s, "By its serial", "The maker", Qualified)),
        ["move"] = s => State(InTheYard.Move("HM-1", s, new("Basin Yard", "A1"), new("Basin Yard", "A2"), Qualified)),
        ["lose"] = s => State(InTheYard.Lose(s, "Last seen at lock 9", Qualified)),
        ["find"] = s => State(InTheYard.FindAgain(s, "Under the bench", Qualified)),
        ["event"] = s =>
            State(GearEvents.Record(Guid.NewGuid(), GearEventKind.Shock, Qualified.Day, "Fell", "HM-1", s, Qualified)),
        ["count"] = s => State(Lot.Count(s, 10, 10, 0, null, Qualified)),
        ["return"] = s =>
            State(Issuing.TakeBack("HM-0001", s, new("Maud", "Lock 9", null, Qualified.Day), "", Qualified)),
        ["return in doubt"] = s =>
            State(Issuing.TakeBack("HM-0001", s, new("Maud", "", null, Qualified.Day), "Bent", Qualified)),
        ["send to repair"] = s => State(Send(s, AwayFor.Repair)),
        ["send to test"] = s => State(Send(s, AwayFor.Test)),
        ["take back"] = s =>
            State(
                Away.TakeBack(
                    "HM-1",
                    s,
                    new(AwayFor.Repair, "The maker", "Pin", null, Qualified.Day),
                    "New pin",
                    true,
                    Qualified
                )
            ),
        ["proof test, passed"] = s => State(Test(s, passed: true)),
        ["proof test, failed"] = s => State(Test(s, passed: false)),
        ["keep as evidence"] = s => State(EvidenceLock.Put(s, null, "It failed", Qualified)),
        ["let evidence go"] = s => State(EvidenceLock.Lift(s, "It failed", "Done with", Qualified)),
        ["take down a witness"] = s => State(Witness.Take(s, "The driver", Qualified.Day, "It creaked", Qualified)),
        ["put right, hand-out"] = s => State(Right(RecordKind.HandOut, s)),
        ["put right, release"] = s => State(Right(RecordKind.Release, s)),
        ["put right, tag"] = s => State(Right(RecordKind.Tag, s)),
        ["put right, destruction"] = s => State(Right(RecordKind.Destruction, s)),
        ["recall"] = s =>
            Recalls.Stop(s, Guid.NewGuid(), "Cracks") is { } stopped ? stopped.State : new Refusal("nothing"),
        ["initial, fit"] = s => PieceLife.AfterInspection(s, InspectionKind.Initial, VerdictKind.Fit, 0),
        ["periodic, fit"] = s => PieceLife.AfterInspection(s, InspectionKind.Periodic, VerdictKind.Fit, 0),
        ["periodic, watch"] = s => PieceLife.AfterInspection(s, InspectionKind.Periodic, VerdictKind.Watch, 0),
        ["periodic, hold"] = s => PieceLife.AfterInspection(s, InspectionKind.Periodic, VerdictKind.Hold, 0),
        ["periodic, remove"] = s => PieceLife.AfterInspection(s, InspectionKind.Periodic, VerdictKind.Remove, 0),
        ["periodic, incomplete"] = s =>
            PieceLife.AfterInspection(s, InspectionKind.Periodic, VerdictKind.Incomplete, 0),
        ["periodic, fit, with a hold open"] = s =>
            PieceLife.AfterInspection(s, InspectionKind.Periodic, VerdictKind.Fit, 1),
        ["release, the last hold"] = s => PieceLife.AfterRelease(s, 0, everAccepted: true),
        ["release, another hold open"] = s => PieceLife.AfterRelease(s, 1, everAccepted: true),
        ["release, never accepted"] = s => PieceLife.AfterRelease(s, 0, everAccepted: false),
        ["take over"] = s => PieceLife.AfterTakeOver(s, hasReport: true, hasFile: true),
        ["correction, fit"] = s => Correction.After(s, VerdictKind.Fit),
        ["correction, remove"] = s => Correction.After(s, VerdictKind.Remove),
    };

    /// <summary>A column each: new, in service, held, condemned, destroyed, missing, at repair, at test.</summary>
    public static TheoryData<string, string> Table { get; } =
        new()
        {
            { "hold", "held held held refused refused refused at-repair at-test" },
            { "condemn", "condemned condemned condemned refused refused condemned refused refused" },
            { "destroy", "refused refused refused destroyed refused refused refused refused" },
            { "retag", "new in-service held refused refused missing refused refused" },
            { "move", "new in-service held refused refused refused refused refused" },
            { "lose", "missing missing missing refused refused refused refused refused" },
            { "find", "refused refused refused refused refused held refused refused" },
            { "event", "held held held refused refused refused at-repair at-test" },
            { "count", "new in-service held refused refused refused refused refused" },
            { "return", "new in-service held condemned destroyed missing at-repair at-test" },
            { "return in doubt", "held held held refused refused refused at-repair at-test" },
            { "send to repair", "refused refused at-repair refused refused refused refused refused" },
            { "send to test", "refused refused at-test refused refused refused refused refused" },
            { "take back", "refused refused refused refused refused refused held held" },
            { "proof test, passed", "new in-service held refused refused missing at-repair at-test" },
            { "proof test, failed", "held held held refused refused refused at-repair at-test" },
            { "keep as evidence", "new in-service held condemned refused missing at-repair at-test" },
            { "let evidence go", "new in-service held condemned destroyed missing at-repair at-test" },
            { "take down a witness", "new in-service held condemned destroyed missing at-repair at-test" },
            { "put right, hand-out", "new in-service held condemned destroyed missing at-repair at-test" },
            { "put right, release", "held held held refused refused refused at-repair at-test" },
            { "put right, tag", "held held held refused refused refused at-repair at-test" },
            { "put right, destruction", "refused refused refused refused condemned refused refused refused" },
            { "recall", "held held held refused refused missing at-repair at-test" },
            { "initial, fit", "in-service in-service in-service refused refused refused refused refused" },
            { "periodic, fit", "refused in-service in-service refused refused refused refused refused" },
            { "periodic, watch", "refused in-service in-service refused refused refused refused refused" },
            { "periodic, hold", "held held held refused refused refused refused refused" },
            { "periodic, remove", "held held held refused refused refused refused refused" },
            { "periodic, incomplete", "refused refused refused refused refused refused refused refused" },
            { "periodic, fit, with a hold open", "held held held refused refused refused refused refused" },
            { "release, the last hold", "refused refused in-service refused refused refused refused refused" },
            { "release, another hold open", "refused refused held refused refused refused refused refused" },
            { "release, never accepted", "refused refused new refused refused refused refused refused" },
            { "take over", "in-service refused refused refused refused refused refused refused" },
            { "correction, fit", "new in-service held refused refused missing at-repair at-test" },
            { "correction, remove", "held held held refused refused refused at-repair at-test" },
        };

    private static Checked<PieceOutcome> Send(PieceState state, AwayFor sentFor) =>
        Away.Send("HM-1", state, null, null, new(sentFor, "The maker", "Pin", null, Qualified.Day), Qualified);

    private static Checked<PieceOutcome> Test(PieceState state, bool passed) =>
        ProofTests.Record(
            "HM-1",
            state,
            new(Gear.GearFamilies.Find("shackle")!, []),
            Quantities.Mass.Parse("1 t"),
            Quantities.Mass.Parse("1 t"),
            new(
                ProofSubject.Leg,
                Quantities.Mass.Parse("2 t"),
                Qualified.Day,
                "Test house",
                "Cell 4",
                Qualified.Day,
                "T-77",
                passed
            ),
            Qualified
        );

    [Theory]
    [MemberData(nameof(Table))]
    public void A_piece_becomes(string act, string row)
    {
        var becomes = Enum.GetValues<PieceState>()
            .Select(state => Acts[act](state) is { Ok: true } after ? Code.Of(after.Value) : Refused);
        Assert.Equal(row, string.Join(' ', becomes));
    }

    [Fact]
    public void Every_act_has_a_row() => Assert.Equal(Acts.Keys.Order(), Table.Select(r => r.Data.Item1).Order());

    [Theory]
    [InlineData(false, false, false, 0, false, "new")]
    [InlineData(false, false, false, 0, true, "in-service")]
    [InlineData(false, false, false, 1, true, "held")]
    [InlineData(false, false, false, 1, false, "held")]
    [InlineData(false, false, true, 1, true, "missing")]
    [InlineData(true, false, true, 1, true, "condemned")]
    [InlineData(true, true, false, 2, true, "destroyed")]
    public void The_records_of_a_piece_come_to_one_state(
        bool condemned,
        bool destroyed,
        bool missing,
        int holds,
        bool accepted,
        string state
    ) => Assert.Equal(state, Code.Of(PieceLife.Of(condemned, destroyed, missing, null, holds, accepted)));

    [Fact]
    public void What_is_retired_is_retired_and_nothing_else_is() =>
        Assert.Equal(
            [PieceState.Condemned, PieceState.Destroyed],
            Enum.GetValues<PieceState>().Where(s => s.IsRetired())
        );

    /// <summary>Acts with something left out, or by somebody who may not.</summary>
    public static TheoryData<string, Checked<PieceOutcome>, RefusalKind> Wanting { get; } =
        new()
        {
            {
                "a hold without words",
                Cage.Hold(PieceState.InService, HoldCause.Doubt, " ", Qualified),
                RefusalKind.Invalid
            },
            {
                "a hold for a verdict, by hand",
                Cage.Hold(PieceState.InService, HoldCause.VerdictRemove, "Bent", Qualified),
                RefusalKind.Invalid
            },
            {
                "a hold by an auditor",
                Cage.Hold(PieceState.InService, HoldCause.Doubt, "Bent", By(Role.Auditor)),
                RefusalKind.Forbidden
            },
            { "condemning without words", Cage.Condemn(PieceState.Held, "", Qualified), RefusalKind.Invalid },
            {
                "condemning by an inspector",
                Cage.Condemn(PieceState.Held, "Worn", By(Role.Inspector)),
                RefusalKind.Forbidden
            },
            {
                "destroying without a method",
                Cage.Destroy(PieceState.Condemned, "", Guid.NewGuid(), "x", "", Qualified),
                RefusalKind.Invalid
            },
            {
                "destroying without a witness",
                Cage.Destroy(PieceState.Condemned, "Cut", null, "x", "", Qualified),
                RefusalKind.Invalid
            },
            {
                "destroying with oneself for a witness",
                Cage.Destroy(PieceState.Condemned, "Cut", Qualified.Person, "x", "", Qualified),
                RefusalKind.Invalid
            },
            {
                "destroying by crew",
                Cage.Destroy(PieceState.Condemned, "Cut", Guid.NewGuid(), "x", "", By(Role.Crew)),
                RefusalKind.Forbidden
            },
            { "a tag without proof", Cage.Retag(PieceState.Held, " ", "The maker", Qualified), RefusalKind.Invalid },
            { "a tag fitted by nobody", Cage.Retag(PieceState.Held, "Serial", "", Qualified), RefusalKind.Invalid },
            {
                "a tag by stores",
                Cage.Retag(PieceState.Held, "Serial", "The maker", By(Role.Stores)),
                RefusalKind.Forbidden
            },
            {
                "a move to no store",
                InTheYard.Move("HM-1", PieceState.New, new("Yard", ""), null, Qualified),
                RefusalKind.Invalid
            },
            {
                "a move to where it hangs",
                InTheYard.Move("HM-1", PieceState.New, new("Yard", "A"), new("Yard", "A"), Qualified),
                RefusalKind.Invalid
            },
            {
                "a move to a peg of 41 letters",
                InTheYard.Move("HM-1", PieceState.New, new("Yard", ""), new("Yard", new('a', 41)), Qualified),
                RefusalKind.Invalid
            },
            {
                "a move by a trainee",
                InTheYard.Move("HM-1", PieceState.New, new("Yard", ""), new("Yard", "B"), By(Role.Trainee)),
                RefusalKind.Forbidden
            },
            { "lost without words", InTheYard.Lose(PieceState.New, null, Qualified), RefusalKind.Invalid },
            { "found nowhere", InTheYard.FindAgain(PieceState.Missing, "", Qualified), RefusalKind.Invalid },
            {
                "an event told in 501 letters",
                GearEvents.Record(
                    Guid.NewGuid(),
                    GearEventKind.Fire,
                    Qualified.Day,
                    new('a', 501),
                    "HM-1",
                    PieceState.New,
                    Qualified
                ),
                RefusalKind.Invalid
            },
            {
                "an event of tomorrow",
                GearEvents.Record(
                    Guid.NewGuid(),
                    GearEventKind.Fire,
                    Qualified.Day.AddDays(1),
                    "Fire",
                    "HM-1",
                    PieceState.New,
                    Qualified
                ),
                RefusalKind.Invalid
            },
            {
                "a return of what is not out",
                Issuing.TakeBack("HM-0001", PieceState.InService, null, "", Qualified),
                RefusalKind.Invalid
            },
            {
                "a return by crew",
                Issuing.TakeBack(
                    "HM-0001",
                    PieceState.InService,
                    new("Maud", "", null, Qualified.Day),
                    "",
                    By(Role.Crew)
                ),
                RefusalKind.Forbidden
            },
            {
                "a lot counted by crew",
                Lot.Count(PieceState.InService, 10, 10, 0, null, By(Role.Crew)),
                RefusalKind.Forbidden
            },
            {
                "a lot with more than it has",
                Lot.Count(PieceState.InService, 10, 11, 0, "Found", Qualified),
                RefusalKind.Invalid
            },
            {
                "a lot split without words",
                Lot.Split(PieceState.InService, 10, "HM-2", " ", Qualified),
                RefusalKind.Invalid
            },
            {
                "a lot split under no mark",
                Lot.Split(PieceState.InService, 10, "?", "Bent", Qualified),
                RefusalKind.Invalid
            },
        };

    [Theory]
    [MemberData(nameof(Wanting))]
    public void It_is_refused(string act, Checked<PieceOutcome> outcome, RefusalKind kind)
    {
        Assert.False(outcome.Ok, act);
        Assert.Equal(kind, outcome.Refusal!.Kind);
    }

    private static Signer By(Role role) => GivenPeople.Signer(role);

    private static Checked<PieceState> State(Checked<PieceOutcome> outcome) =>
        outcome.Ok ? outcome.Value.State : outcome.Refusal!;

    private static Checked<PieceOutcome> Right(RecordKind kind, PieceState state) =>
        PutRight.Of(
            new(kind, Guid.NewGuid(), Qualified.Person) { Cause = HoldCause.Doubt },
            state,
            null,
            new("Another piece"),
            Qualified
        );
}
