using Keralith.Core.Custody;
using Keralith.Core.Gear;
using Keralith.Core.Judgement;
using Keralith.Core.People;
using Keralith.Core.Signing;
using Keralith.Core.Sites;
using Xunit;

namespace Keralith.Core.Tests;

/// <summary>What a signature wants, and what it does.</summary>
public class SigningTests
{
    private static readonly DateOnly Day = new(2026, 3, 2);

    private static readonly Guid Me = Guid.NewGuid();

    private static readonly Signer Inspector = GivenPeople.Signer(Role.Inspector, Me, Day);

    [Fact]
    public void A_clean_periodic_inspection_is_signed_as_fit_and_holds_nothing()
    {
        var signed = InspectionSigning.Sign(Clean(), Read(), Inspector).Value;
        Assert.Equal((VerdictKind.Fit, PieceState.InService, null), (signed.SignedAs, signed.State, signed.Hold));
    }

    [Theory]
    [InlineData(-400, true)]
    [InlineData(-1, true)]
    [InlineData(0, true)]
    [InlineData(1, false)]
    [InlineData(2, false)]
    [InlineData(3650, false)]
    public void An_inspection_is_of_today_or_before_never_of_tomorrow(int days, bool may)
    {
        var on = Read() with { InspectedOn = Day.AddDays(days) };
        Assert.Equal(may, InspectionSigning.Sign(Clean(), on, Inspector).Ok);
        Assert.Equal(may, InspectionSigning.Offer(Clean(), on, GivenPeople.Signer(Role.Trainee, Day)).Ok);
    }

    [Fact]
    public void It_says_on_which_day() =>
        Assert.Contains(
            "which day",
            InspectionSigning.Sign(Clean(), new(1, null), Inspector).Fault,
            StringComparison.Ordinal
        );

    [Theory]
    [InlineData(Role.Crew, false)]
    [InlineData(Role.Stores, false)]
    [InlineData(Role.Trainee, false)]
    [InlineData(Role.Inspector, true)]
    [InlineData(Role.Qualified, true)]
    [InlineData(Role.Admin, false)]
    [InlineData(Role.Auditor, false)]
    public void A_full_inspection_is_signed_by_an_inspector_or_a_qualified_person(Role role, bool may)
    {
        var signed = InspectionSigning.Sign(Clean(), Read(), GivenPeople.Signer(role, Day));
        Assert.Equal(may ? null : RefusalKind.Forbidden, signed.Refusal?.Kind);
    }

    [Theory]
    [InlineData(-1, false)]
    [InlineData(0, true)]
    [InlineData(1, true)]
    public void An_authorisation_counts_up_to_its_last_day(int until, bool may)
    {
        var facts = Clean() with { Authorisations = [new(FamilyGroup.Hardware, Day.AddDays(until))] };
        Assert.Equal(may, InspectionSigning.Sign(facts, Read(), Inspector).Ok);
        var other = Clean() with { Authorisations = [new(FamilyGroup.Sling, Day.AddDays(until))] };
        Assert.Equal(RefusalKind.Forbidden, InspectionSigning.Sign(other, Read(), Inspector).Refusal!.Kind);
    }

    [Fact]
    public void Nobody_countersigns_their_own_and_the_trainees_day_is_the_day()
    {
        Assert.False(InspectionSigning.Sign(Clean() with { OfferedBy = Me, OfferedFor = Day }, Read(), Inspector).Ok);
        var trainees = Clean() with { OfferedBy = Guid.NewGuid(), OfferedFor = Day.AddDays(-3) };
        Assert.Equal(Day.AddDays(-3), InspectionSigning.Sign(trainees, Read(), Inspector).Value.InspectedOn);
    }

    [Fact]
    public void A_question_left_out_is_not_signed_and_a_remove_is_signed_all_the_same()
    {
        var short1 = Clean() with { Answers = [.. Clean().Answers.Skip(1)] };
        Assert.Contains(
            "not complete",
            InspectionSigning.Sign(short1, Read(), Inspector).Fault,
            StringComparison.Ordinal
        );
        var against = short1 with { Answers = With(short1.Answers, "shackle.wear-pin", new(Value: "0.5 in")) };
        var signed = InspectionSigning.Sign(against, Read(), Inspector).Value;
        Assert.Equal(
            (VerdictKind.Remove, PieceState.Held, HoldCause.VerdictRemove),
            (signed.SignedAs, signed.State, signed.Hold!.Cause)
        );
        Assert.Contains("pin", signed.Hold.Reason, StringComparison.OrdinalIgnoreCase);
    }

    [Fact]
    public void A_missing_piece_is_found_before_it_is_inspected_and_a_retired_one_never_is()
    {
        foreach (var state in new[] { PieceState.Missing, PieceState.Condemned, PieceState.Destroyed })
            Assert.False(InspectionSigning.Sign(Clean(state), Read(), Inspector).Ok, $"{state}");
        Assert.False(InspectionSigning.Sign(Clean(PieceState.New), Read(), Inspector).Ok);
        var initial = Clean(PieceState.New, kind: InspectionKind.Initial);
        Assert.Equal(PieceState.InService, InspectionSigning.Sign(initial, Read(), Inspector).Value.State);
    }

    [Fact]
    public void A_clean_inspection_of_a_held_piece_lets_it_go_no_further_than_its_holds()
    {
        var held = Clean(PieceState.Held, ["a doubt since 2026-03-01, bent"]) with { Held = At(-90).Order() };
        Assert.Equal(PieceState.Held, InspectionSigning.Sign(held, Read(), Inspector).Value.State);
    }

    [Theory]
    [InlineData(-1, true)]
    [InlineData(0, true)]
    [InlineData(1, false)]
    public void Answers_given_before_a_hold_say_nothing_of_the_piece_since(int minutes, bool speaks)
    {
        var held = Clean(PieceState.Held, ["a doubt"]) with { Held = At(-60).AddMinutes(minutes).Order() };
        Assert.Equal(speaks, InspectionSigning.Sign(held, Read(), Inspector).Ok);
    }

    [Fact]
    public void Answers_to_what_the_piece_no_longer_has_are_not_signed()
    {
        var stranger = new DraftAnswer("leg-9/hook", "hook.throat", new(Value: "1 in"), null, "", At(-60));
        var facts = Clean() with { Answers = [.. Clean().Answers, stranger] };
        Assert.Contains(
            "no longer has",
            InspectionSigning.Sign(facts, Read(), Inspector).Fault,
            StringComparison.Ordinal
        );
    }

    [Theory]
    [InlineData(-1, false)]
    [InlineData(0, false)]
    [InlineData(1, true)]
    [InlineData(365, true)]
    [InlineData(366, false)]
    public void The_next_inspection_may_be_set_earlier_never_later_nor_past(int days, bool may) =>
        Assert.Equal(may, InspectionSigning.Sign(Clean(), Read() with { NextBy = Day.AddDays(days) }, Inspector).Ok);

    [Fact]
    public void A_look_before_use_sets_no_next_inspection()
    {
        var look = Clean() with { Kind = InspectionKind.Frequent };
        look = look with { Answers = DraftCase.Clean(look.Piece, look.Site, "Crew", At(-1)) };
        Assert.True(InspectionSigning.Sign(look, Read(), GivenPeople.Signer(Role.Crew, Day)).Ok);
        Assert.False(
            InspectionSigning.Sign(look, Read() with { NextBy = Day.AddDays(9) }, GivenPeople.Signer(Role.Crew, Day)).Ok
        );
    }

    [Fact]
    public void Stricter_than_the_rules_says_why_and_milder_is_never_signed()
    {
        var hold = Read() with { With = new(VerdictKind.Hold) };
        Assert.False(InspectionSigning.Sign(Clean(), hold, Inspector).Ok);
        var signed = InspectionSigning
            .Sign(Clean(), hold with { With = new(VerdictKind.Hold, "It squeals") }, Inspector)
            .Value;
        Assert.Equal(
            ("It squeals", HoldCause.VerdictHold, "It squeals"),
            (signed.Stricter, signed.Hold!.Cause, signed.Hold.Reason)
        );
        var worn = Clean() with { Answers = With(Clean().Answers, "shackle.wear-pin", new(Value: "0.5 in")) };
        Assert.False(InspectionSigning.Sign(worn, Read() with { With = new(VerdictKind.Fit, "Fine") }, Inspector).Ok);
    }

    [Fact]
    public void A_trainees_finding_stops_the_piece_before_it_is_countersigned()
    {
        var trainee = GivenPeople.Signer(Role.Trainee, Day);
        var worn = Clean() with { Answers = With(Clean().Answers, "shackle.wear-pin", new(Value: "0.5 in")) };
        var offered = InspectionSigning.Offer(worn, Read(), trainee).Value;
        Assert.Equal((PieceState.Held, HoldCause.Doubt), (offered.State, offered.Hold!.Cause));
        Assert.Null(InspectionSigning.Offer(Clean(), Read(), trainee).Value.Hold);
        Assert.False(InspectionSigning.Offer(Clean() with { OfferedBy = trainee.Person }, Read(), trainee).Ok);
        Assert.False(InspectionSigning.Offer(Clean(), Read(), GivenPeople.Signer(Role.Crew, Day)).Ok);
    }

    [Theory]
    [InlineData("Measure the pin again", true, true)]
    [InlineData(" ", true, false)]
    [InlineData("Measure", false, false)]
    public void A_draft_is_handed_back_with_a_remark_when_it_was_offered(string remark, bool offered, bool may) =>
        Assert.Equal(may, InspectionSigning.HandBack(offered ? Guid.NewGuid() : null, remark, Inspector).Ok);

    [Fact]
    public void A_correction_puts_no_second_hold_on_for_what_is_held_already()
    {
        var worn = Clean(PieceState.Held, ["verdict remove"]) with
        {
            Answers = With(Clean().Answers, "shackle.wear-pin", new(Value: "0.5 in")),
            Corrects = new(new(InspectionKind.Periodic, VerdictKind.Remove, Day), null, false, HoldCause.VerdictRemove),
        };
        Assert.Null(InspectionSigning.Sign(worn, Read(), Inspector).Value.Hold);
        var let = worn with { Corrects = worn.Corrects! with { OpenHold = null } };
        Assert.Equal(HoldCause.VerdictRemove, InspectionSigning.Sign(let, Read(), Inspector).Value.Hold!.Cause);
        var late = worn with { Corrects = worn.Corrects! with { IsSuperseded = true } };
        Assert.Equal(RefusalKind.Conflict, InspectionSigning.Sign(late, Read(), Inspector).Refusal!.Kind);
    }

    [Fact]
    public void A_fault_is_not_decided_by_a_measure_taken_on_another_part()
    {
        const string Faults =
            """{"criterion":"chain.nick","part":"leg-1","answer":"yes"},{"criterion":"chain.link-thickness","part":"PART","value":"0.37 in"}""";
        var nick = Catalogue.All.First(c => c.DecidedBy == "chain.link-thickness").Id;
        Outcome On(string part) =>
            Given
                .Judged(
                    Given.TwoLegChain,
                    Faults
                        .Replace("chain.nick", nick, StringComparison.Ordinal)
                        .Replace("PART", part, StringComparison.Ordinal)
                )
                .Findings.First(f => f.Criterion.Id == nick)
                .Outcome;
        Assert.Equal(Outcome.Clear, On("leg-1"));
        Assert.True(On("leg-2") >= Outcome.Hold);
    }

    [Fact]
    public void A_sites_policies_and_the_day_its_calibration_runs_out_decide_whether_a_piece_may_be_used()
    {
        var piece = GivenPiece.Shackle() with
        {
            Gear = new(GearFamilies.Find("alloy-chain-sling")!, []),
            PeriodicDue = Day.AddDays(9),
            CalibrationDue = Day,
        };
        var strict = Site with { Policies = SitePolicies.None with { NoChainHoisting = true } };
        Assert.DoesNotContain(piece.UseOn(Day, Site).Reasons, r => r.Contains("policy", StringComparison.Ordinal));
        Assert.Contains(piece.UseOn(Day, strict).Reasons, r => r.Contains("policy", StringComparison.Ordinal));
        Assert.DoesNotContain(piece.UseOn(Day, Site).Reasons, r => r.Contains("alibration", StringComparison.Ordinal));
        Assert.Contains(piece.UseOn(Day.AddDays(1), Site).Reasons, r =>
            r.Contains("alibration", StringComparison.Ordinal)
        );
    }

    [Fact]
    public void What_is_against_its_marking_is_against_its_use()
    {
        var piece = GivenPiece.Shackle() with { PeriodicDue = Day.AddDays(9) };
        Assert.True(piece.UseOn(Day, Site).MayBeUsed);
        Assert.False((piece with { TagEntries = [] }).UseOn(Day, Site).MayBeUsed);
    }

    [Theory]
    [InlineData("UTC", "2026-03-02T23:59:59Z", "2026-03-02")]
    [InlineData("UTC", "2026-03-03T00:00:00Z", "2026-03-03")]
    [InlineData("Pacific/Kiritimati", "2026-03-02T09:59:59Z", "2026-03-02")]
    [InlineData("Pacific/Kiritimati", "2026-03-02T10:00:00Z", "2026-03-03")]
    [InlineData("Pacific/Pago_Pago", "2026-03-02T10:59:59Z", "2026-03-01")]
    [InlineData("Pacific/Pago_Pago", "2026-03-02T11:00:00Z", "2026-03-02")]
    public void A_site_turns_its_day_at_its_own_midnight(string zone, string moment, string day)
    {
        var site = Site with { Zone = Core.Sites.Site.ZoneOf(zone).Value };
        var at = DateTimeOffset.Parse(moment, System.Globalization.CultureInfo.InvariantCulture);
        Assert.Equal(day, site.DayOf(at).ToString("yyyy-MM-dd"));
    }

    [Theory]
    [InlineData("own.7", "no", true)]
    [InlineData("own.7", "yes", false)]
    [InlineData("own.7", "unsure", false)]
    [InlineData("chain.crack", "no", false)]
    public void An_answer_to_what_is_asked_no_more_is_passed_over_only_where_it_found_nothing(
        string criterion,
        string answer,
        bool may
    )
    {
        var clean = Clean();
        var stranger = clean.Answers[0] with { Criterion = criterion, Entry = new(Answer: answer) };
        var signed = InspectionSigning.Sign(clean with { Answers = [.. clean.Answers, stranger] }, Read(), Inspector);
        Assert.Equal(may, signed.Ok);
        if (!may)
            Assert.Contains("no longer has", signed.Fault, StringComparison.Ordinal);
    }

    [Theory]
    [InlineData("")]
    [InlineData("Local")]
    [InlineData("Here/Nowhere")]
    [InlineData("../etc/passwd")]
    [InlineData("EST5EDT")]
    public void A_time_zone_is_one_of_the_time_zone_database(string name) =>
        Assert.False(Core.Sites.Site.ZoneOf(name).Ok);

    private static readonly Site Site = new(
        "Hollowmere Lock Works",
        [RuleBookShelf.Asme],
        Judge.DefaultWatchShare,
        30,
        false,
        false
    );

    private static DateTimeOffset At(int minutes) => Inspector.At.AddMinutes(minutes);

    private static SignatureRead Read() => new(1, Day);

    private static SigningFacts Clean(
        PieceState state = PieceState.InService,
        IReadOnlyList<string>? holds = null,
        InspectionKind kind = InspectionKind.Periodic
    )
    {
        var piece = GivenPiece.Shackle(state, holds);
        var baselines = GivenPiece.Figures(piece.Gear);
        var answers = Judge
            .MissingAnswers(new(Site.Books, kind, piece.Gear, [], []))
            .Select(m => new DraftAnswer(
                m.Part,
                m.Criterion.Id,
                m.Criterion.IsAnswerChosen ? new(Answer: "no") : new(Value: "1 in"),
                null,
                "Inspector",
                At(-60)
            )
            {
                Order = At(-60).Order(),
            })
            .ToList();
        return new()
        {
            Piece = piece,
            Site = Site,
            Kind = kind,
            Answers = answers,
            Baselines = baselines,
            Authorisations = [new(FamilyGroup.Hardware, Day.AddYears(1))],
        };
    }

    private static List<DraftAnswer> With(IEnumerable<DraftAnswer> answers, string criterion, AnswerEntry entry) =>
        [.. answers.Select(a => a.Criterion == criterion ? a with { Entry = entry } : a)];
}
