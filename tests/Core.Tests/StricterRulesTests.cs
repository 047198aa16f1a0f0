using Keralith.Core.Custody;
using Keralith.Core.Gear;
using Keralith.Core.Judgement;
using Keralith.Core.People;
using Keralith.Core.Register;
using Keralith.Core.Sites;
using Xunit;

namespace Keralith.Core.Tests;

/// <summary>Rules made stricter stop gear at once; nothing becomes milder by a rule alone; what a rule held goes when it does.</summary>
public class StricterRulesTests
{
    private static readonly Signer Qualified = GivenPeople.Signer(Role.Qualified);
    private static readonly Site Works = new("Works", [RuleBookShelf.Asme], 0.75m, 30, false, false);
    private static readonly Guid Inspection = Guid.NewGuid();
    private static readonly Guid Hold = Guid.NewGuid();

    /// <summary>A hook opened by a share of its throat, everything else on it without a fault.</summary>
    private static StandingInspection Opened(
        string millimetres,
        PieceState state = PieceState.InService,
        VerdictKind signedAs = VerdictKind.Fit
    )
    {
        var bare = Given.Case(Given.OneHook, "");
        var answers = Judge
            .MissingAnswers(bare)
            .Select(m =>
                m.Criterion.IsAnswerChosen
                    ? $$"""{"criterion":"{{m.Criterion.Id}}","part":"{{m.Part}}","answer":"no"}"""
                    : $$"""{"criterion":"{{m.Criterion.Id}}","part":"{{m.Part}}","value":"{{(m.Criterion.Id == "hook.throat" ? millimetres : "100")}} mm","baseline":"100 mm","baselineBasis":"new"}"""
            );
        return new(
            state,
            Inspection,
            signedAs,
            Given.Case(Given.OneHook, string.Join(",", answers)),
            "Orrery Chainworks",
            "T-1"
        );
    }

    private static Site With(string figure) =>
        Works.With(new EnteredLimit(LimitOwner.Site, "", "", "hook.throat", figure, "Policy"));

    [Theory]
    [InlineData("102.99", false)]
    [InlineData("103", true)]
    [InlineData("103.01", true)]
    public void A_limit_of_3_percent_holds_what_lies_at_it_and_beyond(string millimetres, bool holds)
    {
        Assert.Null(StricterRules.Of(Opened(millimetres), Works, "No rule"));
        var held = StricterRules.Of(Opened(millimetres), With("3 %"), "Limit of 3 %");
        Assert.Equal(holds, held is not null);
        if (held is null)
            return;
        Assert.Equal((PieceState.Held, HoldCause.RulesChanged), (held.State, held.Hold.Cause));
        Assert.StartsWith(
            "Limit of 3 %: its last full inspection, fit then, comes out remove. ",
            held.Hold.Reason,
            StringComparison.Ordinal
        );
        Assert.Equal(
            (Inspection, "fit", "remove"),
            (held.Record.Inspection, held.Record.SignedAs, held.Record.ComesTo)
        );
    }

    [Theory]
    [InlineData(PieceState.New, PieceState.Held)]
    [InlineData(PieceState.InService, PieceState.Held)]
    [InlineData(PieceState.Held, PieceState.Held)]
    [InlineData(PieceState.AtRepair, PieceState.AtRepair)]
    [InlineData(PieceState.AtTest, PieceState.AtTest)]
    [InlineData(PieceState.Condemned, null)]
    [InlineData(PieceState.Destroyed, null)]
    [InlineData(PieceState.Missing, null)]
    public void It_holds_whatever_might_be_used_again(PieceState state, PieceState? becomes) =>
        Assert.Equal(becomes, StricterRules.Of(Opened("104", state), With("3 %"), "Limit")?.State);

    [Theory]
    [InlineData(VerdictKind.Fit, true)]
    [InlineData(VerdictKind.Watch, true)]
    [InlineData(VerdictKind.Hold, false)]
    [InlineData(VerdictKind.Remove, false)]
    public void What_its_own_inspection_stopped_is_not_held_a_second_time(VerdictKind signedAs, bool holds) =>
        Assert.Equal(holds, StricterRules.Of(Opened("104", signedAs: signedAs), With("3 %"), "Limit") is not null);

    [Fact]
    public void A_record_that_this_version_can_not_judge_holds()
    {
        var held = StricterRules.Of(Opened("100") with { Case = null }, Works, "Catalogue");
        Assert.Contains("can't judge its record any more", held!.Hold.Reason, StringComparison.Ordinal);
    }

    [Fact]
    public void What_was_never_asked_waits_for_the_next_inspection()
    {
        var then = Opened("100");
        var without = then with { Case = then.Case! with { Answers = [.. then.Case.Answers.Skip(1)] } };
        var now = Rejudgement.Of(without.Case, Works, null, null);
        Assert.Equal(VerdictKind.Incomplete, now.Verdict.Kind);
        Assert.StartsWith("Not asked then: ", now.Because, StringComparison.Ordinal);
        Assert.Null(StricterRules.Of(without, Works, "Books changed"));
    }

    [Fact]
    public void Moved_it_is_held_by_the_rules_of_where_it_goes()
    {
        var quay = With("3 %") with { Id = 2, Name = "Quay" };
        Assert.Null(StricterRules.Moved(null, quay));
        Assert.Null(StricterRules.Moved(Opened("104"), Works));
        Assert.StartsWith("Moved to Quay: ", StricterRules.Moved(Opened("104"), quay)!.Hold.Reason);
    }

    [Theory]
    [InlineData(0, null, true)]
    [InlineData(0, 0, true)]
    [InlineData(1, null, false)]
    [InlineData(1, 0, false)]
    [InlineData(1, 1, true)]
    [InlineData(1, 2, false)]
    [InlineData(12, 12, true)]
    public void A_rule_is_set_by_who_saw_all_that_it_stops_and_no_other_number(int stops, int? seen, bool set)
    {
        var refused = StricterRules.RefusalUnseen([.. Enumerable.Range(1, stops).Select(n => $"HM-{n}")], seen);
        Assert.Equal(set, refused is null);
        Assert.Equal(set ? null : RefusalKind.Conflict, refused?.Kind);
    }

    [Fact]
    public void What_a_rule_held_is_let_go_when_no_rule_holds_it_any_more()
    {
        var held = Opened("104", PieceState.Held);
        Assert.Contains("still hold it", LetGo(held, With("3 %")).Fault, StringComparison.Ordinal);
        Assert.Equal(PieceState.InService, LetGo(held, Works).Value!.State);

        // Another hold stands; or it was looked at since, and that inspection closes it.
        Assert.Equal(PieceState.Held, LetGo(held, Works, stillOpen: 1).Value!.State);
        Assert.Contains(
            "inspected since",
            LetGo(held with { Inspection = Guid.NewGuid() }, Works).Fault,
            StringComparison.Ordinal
        );
        Assert.Contains(
            "not on hold",
            LetGo(held with { State = PieceState.InService }, Works).Fault,
            StringComparison.Ordinal
        );
    }

    [Theory]
    [InlineData(Role.Qualified, "The rule was withdrawn", true)]
    [InlineData(Role.Qualified, " ", false)]
    [InlineData(Role.Qualified, null, false)]
    [InlineData(Role.Inspector, "The rule was withdrawn", false)]
    [InlineData(Role.Admin, "The rule was withdrawn", false)]
    public void A_qualified_person_lets_it_go_and_says_why(Role role, string? reason, bool may)
    {
        var by = GivenPeople.Signer(role);
        Assert.Equal(may, StricterRules.RefusalToLetGo(reason, by) is null);
        Assert.Equal(
            may,
            StricterRules.LetGo(Opened("104", PieceState.Held), Inspection, Hold, 0, Works, reason, by).Ok
        );
    }

    [Theory]
    [InlineData(0, false)]
    [InlineData(1, true)]
    public void A_press_that_let_nothing_go_says_so(int gone, bool done) =>
        Assert.Equal(done, StricterRules.RefusalOfNone(gone) is null);

    [Fact]
    public void Judged_again_the_record_keeps_its_answers_and_takes_the_rules_of_now()
    {
        var then = Opened("104").Case!;
        var now = Rejudgement.Of(then, With("3 %"), null, null);
        Assert.Equal(VerdictKind.Remove, now.Verdict.Kind);
        Assert.EndsWith("The site's own limit governs.", now.Because, StringComparison.Ordinal);
        Assert.Equal(
            VerdictKind.Remove,
            Rejudgement.Of(then, Works with { Books = [RuleBookShelf.Find("ontario")!] }, null, null).Verdict.Kind
        );
        Assert.Equal(VerdictKind.Watch, Rejudgement.Of(then, Works, null, null).Verdict.Kind);
    }

    private static Checked<PieceOutcome> LetGo(StandingInspection standing, Site site, int stillOpen = 0) =>
        StricterRules.LetGo(standing, Inspection, Hold, stillOpen, site, "The rule was withdrawn", Qualified);
}
