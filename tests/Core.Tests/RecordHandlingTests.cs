using Keralith.Core.Custody;
using Keralith.Core.Gear;
using Keralith.Core.Judgement;
using Keralith.Core.People;
using Keralith.Core.Register;
using Keralith.Core.Signing;
using Xunit;

namespace Keralith.Core.Tests;

/// <summary>Records withdrawn, drafts thrown away, answers that lay too long, files and people beside them.</summary>
public class RecordHandlingTests
{
    private static readonly DateOnly Day = new(2026, 3, 2);
    private static readonly Guid Signer = Guid.NewGuid();
    private static readonly GearFamily Shackle = GearFamilies.Find("shackle")!;

    private static Checked<PieceOutcome> Withdrawn(
        InspectionKind kind = InspectionKind.Periodic,
        PieceState state = PieceState.InService,
        bool superseded = false,
        string? why = "It was of the piece beside it",
        Role role = Role.Inspector,
        int authorised = 0
    ) =>
        Withdrawal.Of(
            new(Guid.NewGuid(), new(kind, VerdictKind.Fit, Day), Day, superseded) { Hands = [Signer] },
            Shackle,
            state,
            why,
            [new(FamilyGroup.Hardware, Day.AddDays(authorised))],
            GivenPeople.Signer(role, Signer, Day)
        );

    [Theory]
    [InlineData(InspectionKind.Initial, PieceState.Held)]
    [InlineData(InspectionKind.Periodic, PieceState.Held)]
    [InlineData(InspectionKind.AfterEvent, PieceState.Held)]
    [InlineData(InspectionKind.Frequent, PieceState.InService)]
    [InlineData(InspectionKind.Return, PieceState.InService)]
    public void Nobody_knows_a_piece_whose_full_inspection_is_withdrawn(InspectionKind kind, PieceState becomes)
    {
        var done = Withdrawn(kind).Value!;
        Assert.Equal(becomes, done.State);
        Assert.Equal(becomes == PieceState.Held ? HoldCause.Doubt : null, done.Hold?.Cause);
    }

    [Theory]
    [InlineData(PieceState.Condemned)]
    [InlineData(PieceState.Destroyed)]
    public void The_record_of_a_retired_piece_stands(PieceState state)
    {
        Assert.Contains("stands as it is", Withdrawn(state: state).Fault, StringComparison.Ordinal);
        Assert.Contains(
            "stands as it is",
            Withdrawal.Correct(true, state, "Wrong leg", GivenPeople.Signer(Role.Inspector)).Fault,
            StringComparison.Ordinal
        );
    }

    [Theory]
    [InlineData(0, true)]
    [InlineData(1, true)]
    [InlineData(-1, false)]
    public void It_is_withdrawn_by_who_may_sign_such_a_record_today(int authorised, bool may)
    {
        Assert.Equal(may, Withdrawn(authorised: authorised).Ok);
        Assert.True(Withdrawn(InspectionKind.Frequent, authorised: authorised).Ok);
    }

    [Fact]
    public void It_is_withdrawn_once_and_for_a_reason()
    {
        Assert.Equal(Refusals.CorrectedAlready, Withdrawn(superseded: true).Refusal);
        Assert.Contains("what is wrong", Withdrawn(why: " ").Fault, StringComparison.Ordinal);
        Assert.Equal(RefusalKind.Forbidden, Withdrawn(role: Role.Stores).Refusal?.Kind);
    }

    [Theory]
    [InlineData(Role.Inspector, true, "Wrong leg", null)]
    [InlineData(Role.Trainee, true, "Wrong leg", null)]
    [InlineData(Role.Crew, true, "Wrong leg", "does not allow")]
    [InlineData(Role.Inspector, true, "", "what is wrong")]
    [InlineData(Role.Inspector, false, "Wrong leg", "already")]
    public void A_correction_is_begun_of_a_record_that_counts(Role role, bool counts, string why, string? refused)
    {
        var begun = Withdrawal.Correct(counts, PieceState.InService, why, GivenPeople.Signer(role));
        if (refused is null)
            Assert.Equal(why, begun.Value);
        else
            Assert.Contains(refused, begun.Fault, StringComparison.Ordinal);
    }

    [Theory]
    [InlineData("own", Role.Trainee, true)]
    [InlineData("offered", Role.Trainee, true)]
    [InlineData("another's", Role.Trainee, false)]
    [InlineData("another's", Role.Inspector, false)]
    [InlineData("another's", Role.Qualified, true)]
    [InlineData("own", Role.Crew, false)]
    public void A_draft_is_thrown_away_by_its_maker_who_offered_it_or_a_qualified_person(
        string whose,
        Role role,
        bool may
    )
    {
        var by = GivenPeople.Signer(role, Signer);
        var (started, offered) = (whose == "own" ? Signer : Guid.NewGuid(), whose == "offered" ? Signer : (Guid?)null);
        Assert.Equal(may, Discarding.Of(Guid.NewGuid(), started, offered, [], by).Ok);
    }

    [Theory]
    [InlineData("no", null, false)]
    [InlineData("yes", null, true)]
    [InlineData("unsure", null, true)]
    [InlineData("not-accessible", null, true)]
    [InlineData(null, "23 mm", true)]
    [InlineData(null, null, false)]
    public void What_was_found_never_goes_without_a_trace(string? answer, string? value, bool kept)
    {
        var given = new DraftAnswer("pin", "shackle.crack", new(answer, value), "At the eye", "I. N.", At(0));
        var gone = Discarding.Of(Guid.NewGuid(), Signer, null, [given], GivenPeople.Signer(Role.Inspector, Signer));
        Assert.True(gone.Ok);
        Assert.Equal(kept ? 1 : null, gone.Value.Record?.Answers.Count);
    }

    [Theory]
    [InlineData(Role.Trainee, Role.Trainee, "yes", true)]
    [InlineData(Role.Trainee, Role.Inspector, "yes", true)]
    [InlineData(Role.Trainee, Role.Qualified, "yes", false)]
    [InlineData(Role.Inspector, Role.Inspector, "yes", false)]
    [InlineData(Role.Trainee, Role.Trainee, "no", false)]
    [InlineData(Role.Trainee, Role.Trainee, "unsure", true)]
    public void What_a_trainee_found_and_threw_away_stays_a_doubt_for_a_qualified_person(
        Role madeBy,
        Role thrownBy,
        string answer,
        bool held
    )
    {
        var given = new DraftAnswer("pin", "shackle.pin-fit", new(answer), null, "T. R.", At(0));
        var @case = Given.Case(
            Given.ScrewShackle,
            $$"""{"criterion":"shackle.pin-fit","part":"pin","answer":"{{answer}}"}"""
        );
        var gone = Discarding.Of(
            Guid.NewGuid(),
            Signer,
            Signer,
            [given],
            GivenPeople.Signer(thrownBy, Signer),
            TraineesFinding.Of(@case, PieceState.InService, 0.75m, madeBy)
        );
        Assert.Equal(held ? (PieceState?)PieceState.Held : null, gone.Value.State);
        Assert.Equal(held ? (HoldCause?)HoldCause.Doubt : null, gone.Value.Hold?.Cause);
    }

    [Theory]
    [InlineData(0, true)]
    [InlineData(-14 * 24 * 60, true)]
    [InlineData((-14 * 24 * 60) - 1, false)]
    public void An_answer_speaks_for_a_piece_for_14_days(int minutes, bool fresh) =>
        Assert.Equal(fresh, Freshness.Refusal([(At(minutes), new(1)), (At(0), new(2))], null, At(0)) is null);

    [Theory]
    [InlineData(6, false)]
    [InlineData(7, true)]
    [InlineData(8, true)]
    public void An_answer_given_before_the_hold_says_nothing_of_the_piece_since(long order, bool fresh) =>
        Assert.Equal(fresh, Freshness.Refusal([(At(0), new(order)), (At(0), new(9))], new(7), At(0)) is null);

    [Fact]
    public void Where_nothing_was_answered_nothing_is_stale() => Assert.Null(Freshness.Refusal([], new(7), At(0)));

    [Theory]
    // It was last found fit on the 10th, and failed on the 20th.
    [InlineData(1, 5, false, 10, false)]
    [InlineData(1, 10, false, 10, true)]
    [InlineData(1, 11, false, 10, true)]
    [InlineData(1, null, true, 10, true)]
    [InlineData(1, null, false, 10, false)]
    [InlineData(10, null, false, 10, true)]
    [InlineData(20, null, false, 10, true)]
    [InlineData(21, null, false, 10, false)]
    [InlineData(21, null, true, 10, false)]
    // Never found fit here: all there is counts.
    [InlineData(1, 5, false, null, true)]
    [InlineData(1, null, false, null, true)]
    [InlineData(21, null, false, null, false)]
    public void Looking_back_from_what_failed_takes_in_all_since_it_was_last_known_to_be_good(
        int from,
        int? until,
        bool open,
        int? fit,
        bool taken
    )
    {
        static DateTimeOffset On(int day) => new(2026, 3, day, 9, 0, 0, TimeSpan.Zero);
        var item = new LookBackItem(LookBackKind.Moved, On(from), until is { } end ? On(end) : null, "", "", "", [])
        {
            IsOpen = open,
        };
        var back = LookBack.Of(fit is { } day ? On(day) : null, [item], On(20));
        Assert.Equal(taken ? 1 : 0, back.Items.Count);
    }

    [Theory]
    [InlineData(1, "Certificate 12", 0, Role.Stores, null)]
    [InlineData(1, "Certificate 12", 1, Role.Stores, "yet to come")]
    [InlineData(1, " ", 0, Role.Stores, "Name the file")]
    [InlineData(0, "Certificate 12", 0, Role.Stores, "belongs to")]
    [InlineData(1, "Certificate 12", 0, Role.Crew, "does not allow")]
    public void A_file_belongs_to_a_piece_has_a_name_and_a_day_that_was(
        int pieces,
        string title,
        int days,
        Role role,
        string? refused
    ) => Said(refused, AttachedFile.RefusalOf(pieces, title, Day.AddDays(days), GivenPeople.Signer(role, Day)));

    [Theory]
    [InlineData(39, true)]
    [InlineData(40, false)]
    public void An_inspection_keeps_40_pictures(int kept, bool may) =>
        Assert.Equal(may, AttachedFile.RefusalOfPhoto(kept, GivenPeople.Signer(Role.Trainee)) is null);

    [Fact]
    public void What_is_sent_in_has_an_end()
    {
        Assert.Null(AttachedFile.RefusalOfWaiting(AttachedFile.MostWaiting));
        Said("of 128", AttachedFile.RefusalOfWaiting(AttachedFile.MostWaiting + 1));
        Assert.Null(AttachedFile.RefusalOfQuota(AttachedFile.MostADay));
        Said("go on tomorrow", AttachedFile.RefusalOfQuota(AttachedFile.MostADay + 1));
    }

    [Theory]
    [InlineData(FamilyGroup.Sling, Role.Inspector, Role.Admin, null)]
    [InlineData(FamilyGroup.Sling, Role.Qualified, Role.Admin, null)]
    [InlineData(FamilyGroup.Site, Role.Inspector, Role.Admin, "Choose the group")]
    [InlineData(FamilyGroup.Sling, Role.Trainee, Role.Admin, "signs no inspections")]
    [InlineData(FamilyGroup.Sling, Role.Crew, Role.Admin, "signs no inspections")]
    [InlineData(FamilyGroup.Sling, null, Role.Admin, "no such person")]
    [InlineData(FamilyGroup.Sling, Role.Inspector, Role.Qualified, "Only an administrator")]
    public void Who_signs_is_authorised_by_an_administrator(FamilyGroup group, Role? whose, Role by, string? refused) =>
        Said(
            refused,
            PeopleActs.RefusalToAuthorise(group, whose is { } role ? (Roles)role : null, GivenPeople.Signer(by))
        );

    [Theory]
    [InlineData("Gauge 4", null, true, Role.Inspector, null)]
    [InlineData(" ", null, true, Role.Inspector, "engraved on it")]
    [InlineData("Gauge 4", "no unit", true, Role.Inspector, "Uncertainty: no unit")]
    [InlineData("Gauge 4", null, false, Role.Inspector, "its calibration runs out")]
    [InlineData("Gauge 4", null, true, Role.Crew, "does not allow")]
    public void An_instrument_has_a_name_an_uncertainty_and_a_day_until_which_it_holds(
        string name,
        string? uncertainty,
        bool calibrated,
        Role role,
        string? refused
    ) =>
        Said(
            refused,
            PeopleActs.RefusalOfInstrument(name, uncertainty, calibrated ? Day : null, GivenPeople.Signer(role))
        );

    private static DateTimeOffset At(int minutes) =>
        new DateTimeOffset(Day.ToDateTime(new(9, 0)), TimeSpan.Zero).AddMinutes(minutes);

    private static void Said(string? part, Refusal? refusal)
    {
        if (part is null)
            Assert.Null(refusal);
        else
            Assert.Contains(part, refusal?.Words ?? "it was let through", StringComparison.Ordinal);
    }
}
