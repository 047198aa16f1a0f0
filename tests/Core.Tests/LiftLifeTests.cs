using Keralith.Core.Gear;
using Keralith.Core.Lifts;
using Keralith.Core.People;
using Xunit;

namespace Keralith.Core.Tests;

/// <summary>The life of a lift: every state and every step, and what each step wants.</summary>
public class LiftLifeTests
{
    private const string Refused = "refused";

    private static readonly IReadOnlySet<string> All = LiftChecklist.Every.Select(i => i.Code).ToHashSet();

    private static readonly Signer Qualified = GivenPeople.Signer(Role.Qualified);

    private static readonly Dictionary<string, LiftStep> Steps = new()
    {
        ["check"] = new CheckLift(All, null),
        ["sign"] = new SignLift(),
        ["weigh"] = new WeighLift(Quantities.Mass.Parse("1 t"), "cell"),
        ["set aside"] = new SetSourceAside(LiftKnown.Centre, "Drawn again"),
        ["hand out"] = new HandOutLift("Maud", null),
        ["good trial"] = new TryLift(true, false, null, null),
        ["bad trial"] = new TryLift(false, false, "leg 2: 3", null),
        ["trial, slipped"] = new TryLift(true, true, null, "The choke slipped"),
        ["end"] = new EndLift("Landed"),
        ["call off"] = new CallOffLift("Wind"),
    };

    /// <summary>A column each: planned, checked, ready, out, tried, done, called off. Everything else is as wanted.</summary>
    public static TheoryData<string, string> Table { get; } =
        new()
        {
            { "check", "ready ready ready refused refused refused refused" },
            { "sign", "ready ready ready refused refused refused refused" },
            { "weigh", "planned checked ready out tried refused refused" },
            { "set aside", "planned planned planned refused refused refused refused" },
            { "hand out", "refused refused out refused refused refused refused" },
            { "good trial", "refused refused refused tried tried refused refused" },
            { "bad trial", "refused refused refused planned planned refused refused" },
            { "trial, slipped", "refused refused refused planned planned refused refused" },
            { "end", "refused refused refused refused done refused refused" },
            { "call off", "called-off called-off called-off called-off called-off refused refused" },
        };

    [Theory]
    [MemberData(nameof(Table))]
    public void A_lift_becomes(string step, string row)
    {
        var becomes = Enum.GetValues<LiftState>().Select(s => Said(LiftLife.After(Good(s), Steps[step], Qualified)));
        Assert.Equal(row, string.Join(' ', becomes));
    }

    [Fact]
    public void Every_step_has_a_row() => Assert.Equal(Steps.Keys.Order(), Table.Select(r => r.Data.Item1).Order());

    [Fact]
    public void A_plan_is_changed_until_its_gear_is_out_and_is_then_planned_again()
    {
        var becomes = Enum.GetValues<LiftState>().Select(s => Said(LiftLife.AfterChange(s, Qualified)));
        Assert.Equal("planned planned planned refused refused refused refused", string.Join(' ', becomes));
        Assert.False(LiftLife.AfterChange(LiftState.Planned, GivenPeople.Signer(Role.Auditor)).Ok);
    }

    [Theory]
    [InlineData("check", LiftState.Planned)]
    [InlineData("sign", LiftState.Checked)]
    [InlineData("hand out", LiftState.Ready)]
    [InlineData("good trial", LiftState.Out)]
    public void A_plan_that_may_not_be_lifted_goes_no_step_on(string step, LiftState state)
    {
        foreach (var worst in Enum.GetValues<LiftOutcome>())
        {
            var may = worst < LiftOutcome.Overloaded;
            Assert.True(
                may == LiftLife.After(Good(state) with { Verdict = Plan(worst) }, Steps[step], Qualified).Ok,
                $"{worst}"
            );
        }

        Assert.False(LiftLife.After(Good(state) with { Verdict = null }, Steps[step], Qualified).Ok);
        Assert.False(LiftLife.After(Good(state) with { Verdict = Plan(null) }, Steps[step], Qualified).Ok);
    }

    [Fact]
    public void Every_line_of_the_checklist_is_answered_none_left_out()
    {
        foreach (var left in Plan(LiftOutcome.Ok)!.Checklist.Select(i => i.Code))
        {
            var check = new CheckLift(All.Where(c => c != left).ToHashSet(), null);
            Assert.Contains(
                "Not answered yet",
                LiftLife.After(Good(LiftState.Planned), check, Qualified).Fault,
                StringComparison.Ordinal
            );
        }

        Assert.False(LiftLife.After(Good(LiftState.Planned), new CheckLift(new HashSet<string>(), null), Qualified).Ok);
    }

    [Fact]
    public void What_is_critical_or_to_be_asked_waits_for_a_signature()
    {
        foreach (var plan in new[] { Plan(LiftOutcome.Ask), Plan(LiftOutcome.Ok, critical: true) })
        {
            var facts = Good(LiftState.Planned) with { Verdict = plan, IsSigned = false };
            Assert.Equal("checked", Said(LiftLife.After(facts, Steps["check"], Qualified)));
            Assert.Equal(
                "ready",
                Said(LiftLife.After(facts with { State = LiftState.Checked }, Steps["sign"], Qualified))
            );
            var ready = facts with { State = LiftState.Ready };
            Assert.Equal(Refused, Said(LiftLife.After(ready, Steps["hand out"], Qualified)));
            Assert.Equal("out", Said(LiftLife.After(ready with { IsSigned = true }, Steps["hand out"], Qualified)));
        }
    }

    [Fact]
    public void A_signature_comes_after_the_checklist_and_from_a_qualified_person()
    {
        var facts = Good(LiftState.Checked) with { IsChecked = false };
        Assert.Contains("first", LiftLife.After(facts, Steps["sign"], Qualified).Fault, StringComparison.Ordinal);
        foreach (var role in Enum.GetValues<Role>().Where(r => r != Role.Qualified))
            Assert.Equal(
                RefusalKind.Forbidden,
                LiftLife.After(Good(LiftState.Checked), Steps["sign"], GivenPeople.Signer(role)).Refusal!.Kind
            );
    }

    [Fact]
    public void Gear_goes_out_to_somebody_named_all_of_it_and_not_back_before_today()
    {
        var ready = Good(LiftState.Ready);
        Assert.Equal(Refused, Said(LiftLife.After(ready, new HandOutLift(" ", null), Qualified)));
        Assert.Equal(
            Refused,
            Said(LiftLife.After(ready, new HandOutLift("Maud", Qualified.Day.AddDays(-1)), Qualified))
        );
        Assert.Equal("out", Said(LiftLife.After(ready, new HandOutLift("Maud", Qualified.Day), Qualified)));
        Assert.Equal(Refused, Said(LiftLife.After(ready with { Pieces = 0 }, Steps["hand out"], Qualified)));
        var missing = LiftLife.After(
            ready with
            {
                NotReady = ["HM-1: it is out with Osric."],
            },
            Steps["hand out"],
            Qualified
        );
        Assert.Contains("HM-1", missing.Fault, StringComparison.Ordinal);
    }

    [Fact]
    public void A_trial_lift_says_whether_it_hung_level_and_a_bad_one_what_is_rigged_otherwise()
    {
        Assert.Equal(Refused, Said(LiftLife.After(Good(LiftState.Out), new TryLift(null, false, "x", "x"), Qualified)));
        Assert.Equal(
            Refused,
            Said(LiftLife.After(Good(LiftState.Out), new TryLift(false, false, " ", null), Qualified))
        );
        Assert.Equal(
            Refused,
            Said(LiftLife.After(Good(LiftState.Out), new TryLift(true, true, null, null), Qualified))
        );
    }

    [Fact]
    public void Calling_off_says_why_and_a_template_takes_no_step()
    {
        Assert.Equal(Refused, Said(LiftLife.After(Good(LiftState.Planned), new CallOffLift(" "), Qualified)));
        Assert.All(Steps.Values, s =>
            Assert.False(LiftLife.After(Good(LiftState.Planned) with { IsTemplate = true }, s, Qualified).Ok)
        );
    }

    [Fact]
    public void A_lift_is_tried_with_the_gear_that_is_out_for_it_and_stands()
    {
        var good = Steps["good trial"];
        Assert.Equal(Refused, Said(LiftLife.After(Good(LiftState.Out) with { NotOut = ["HM-1"] }, good, Qualified)));
        var stopped = Good(LiftState.Out) with { Verdict = Plan(LiftOutcome.NotPermitted) };
        Assert.Equal(Refused, Said(LiftLife.After(stopped, good, Qualified)));
        Assert.Equal("planned", Said(LiftLife.After(stopped, Steps["bad trial"], Qualified)));
    }

    [Fact]
    public void A_lift_whose_gear_is_not_as_checked_any_more_ends_with_words_how_it_came_down()
    {
        foreach (
            var facts in new[]
            {
                Good(LiftState.Tried) with
                {
                    NotOut = ["HM-1"],
                },
                Good(LiftState.Tried) with
                {
                    Verdict = Plan(LiftOutcome.NotPermitted),
                },
                Good(LiftState.Tried) with
                {
                    Verdict = null,
                },
            }
        )
        {
            var asked = LiftLife.After(facts, new EndLift(" "), Qualified);
            Assert.Contains("Write how it went", asked.Fault, StringComparison.Ordinal);
            Assert.Equal("done", Said(LiftLife.After(facts, new EndLift("Landed on a spare sling"), Qualified)));
        }

        Assert.Equal("done", Said(LiftLife.After(Good(LiftState.Tried), new EndLift(null), Qualified)));
    }

    private static LiftFacts Good(LiftState state) => new(state, false, Plan(LiftOutcome.Ok), true, true, [], 2);

    private static PlanVerdict Plan(LiftOutcome? outcome, bool critical = false)
    {
        var (plan, faults) = LiftPlanReader.Read(
            new Dictionary<string, string>
            {
                ["basis"] = "known",
                ["weight"] = "1000 kg",
                ["critical"] = critical ? "true" : "",
            }
                .Where(f => f.Value.Length > 0)
                .ToDictionary()
        );
        Assert.True(plan is not null, string.Join("; ", faults));
        return new(plan.With(new Dictionary<string, LiftGear>(), [RuleBookShelf.Asme]), null, outcome, []);
    }

    private static string Said(Checked<LiftState> after) => after.Ok ? Code.Of(after.Value) : Refused;
}
