using Keralith.Core.Custody;
using Keralith.Core.Judgement;
using Keralith.Core.People;
using Xunit;

namespace Keralith.Core.Tests;

/// <summary>Who may close which hold, with whom, after what.</summary>
public class ClosingHoldsTests
{
    private static readonly DateTimeOffset Held = new(2026, 3, 2, 9, 0, 0, TimeSpan.Zero);

    private static readonly Guid Inspector = Guid.NewGuid();

    /// <summary>By cause: the roles that may close it once everything else is as wanted.</summary>
    public static TheoryData<HoldCause, string> MayClose { get; } =
        new()
        {
            { HoldCause.Doubt, "inspector qualified" },
            { HoldCause.Marking, "qualified" },
            { HoldCause.VerdictHold, "qualified" },
            { HoldCause.VerdictRemove, "qualified" },
            { HoldCause.Event, "qualified" },
            { HoldCause.FactsChanged, "qualified" },
            { HoldCause.RulesChanged, "qualified" },
        };

    [Theory]
    [MemberData(nameof(MayClose))]
    public void A_hold_is_closed_by(HoldCause cause, string roles)
    {
        var may = Enum.GetValues<Role>().Where(r => Close(cause, r, Clean(Held.AddHours(2))).Ok).Select(Code.Of);
        Assert.Equal(roles, string.Join(' ', may));
        var refused = Enum.GetValues<Role>().Select(r => Close(cause, r, Clean(Held.AddHours(2)))).Where(r => !r.Ok);
        Assert.All(refused, r => Assert.Equal(RefusalKind.Forbidden, r.Refusal!.Kind));
    }

    /// <summary>What does for a clean inspection made after the hold, and what does not.</summary>
    public static TheoryData<string, SignedInspection?, bool> AfterWhat { get; } =
        new()
        {
            { "no inspection at all", null, false },
            { "one made before the hold", Clean(Held.AddSeconds(-1)), false },
            { "one signed at the very moment of the hold", Clean(Held), false },
            { "one signed a moment after", Clean(Held.AddHours(1).AddTicks(1)), true },
            { "an initial one", Clean(Held.AddHours(2)) with { Kind = InspectionKind.Initial }, true },
            { "one after an event", Clean(Held.AddHours(2)) with { Kind = InspectionKind.AfterEvent }, true },
            { "a look before use", Clean(Held.AddHours(2)) with { Kind = InspectionKind.Frequent }, false },
            { "a look at return", Clean(Held.AddHours(2)) with { Kind = InspectionKind.Return }, false },
            { "one that came to watch", Clean(Held.AddHours(2)) with { Verdict = VerdictKind.Watch }, true },
            { "one that came to hold", Clean(Held.AddHours(2)) with { Verdict = VerdictKind.Hold }, false },
            { "one that came to remove", Clean(Held.AddHours(2)) with { Verdict = VerdictKind.Remove }, false },
            { "a correction", Clean(Held.AddHours(2)) with { IsCorrection = true }, false },
        };

    [Fact]
    public void Whoever_made_the_clean_inspection_does_not_close_either_though_somebody_else_countersigned_it()
    {
        var own = GivenPeople.Signer(Role.Qualified, Inspector);
        var made = Clean(Held.AddHours(2)) with { SignedBy = Guid.NewGuid(), MadeBy = Inspector };
        foreach (var cause in Enum.GetValues<HoldCause>().Where(c => c is not (HoldCause.Doubt or HoldCause.Marking)))
            Assert.False(Release(cause, own, [made], Held.AddHours(1)).Ok, $"{cause}");
    }

    /// <summary>Every cause but a recall: no inspection here says that a maker's notice is done with.</summary>
    private static IEnumerable<HoldCause> Inspected => Enum.GetValues<HoldCause>().Where(c => c != HoldCause.Recall);

    [Fact]
    public void Whoever_changed_what_it_is_judged_by_while_it_was_held_never_closes_its_hold()
    {
        var own = GivenPeople.Signer(Role.Qualified);
        foreach (var cause in Inspected)
        {
            var clean = Clean(Held.AddHours(2));
            Checked<OpenHold> Close(Guid by, DateTimeOffset at) =>
                HoldRules.MayClose(
                    new(Guid.NewGuid(), cause, Held.Order()),
                    own,
                    "Sound",
                    [clean],
                    Held.AddHours(1).Order(),
                    oneMayDoBoth: true,
                    [new(by, at.Order())]
                );
            Assert.Equal(RefusalKind.Forbidden, Close(own.Person, Held).Refusal?.Kind);
            Assert.Equal(RefusalKind.Forbidden, Close(own.Person, Held.AddHours(1)).Refusal?.Kind);
            Assert.True(Close(own.Person, Held.AddTicks(-1)).Ok);
            Assert.True(Close(Guid.NewGuid(), Held.AddHours(1)).Ok);
        }
    }

    [Theory]
    [MemberData(nameof(AfterWhat))]
    public void Every_hold_waits_for_a_full_clean_inspection_made_after_it(
        string what,
        SignedInspection? made,
        bool does
    ) => Assert.All(Inspected, cause => Assert.True(does == Close(cause, Role.Qualified, made).Ok, $"{cause}: {what}"));

    [Fact]
    public void Whoever_signed_the_clean_inspection_does_not_close_the_hold_of_a_verdict_or_an_event()
    {
        var own = GivenPeople.Signer(Role.Qualified, Inspector);
        foreach (var cause in Inspected)
        {
            var alone = Release(cause, own, [Clean(Held.AddHours(2))], Held.AddHours(1));
            var wanted = cause is HoldCause.Doubt or HoldCause.Marking;
            Assert.True(wanted == alone.Ok, $"{cause}");
            Assert.True(Release(cause, own, [Clean(Held.AddHours(2))], Held.AddHours(1), oneMayDoBoth: true).Ok);
            var other = Clean(Held.AddHours(3)) with { SignedBy = Guid.NewGuid() };
            Assert.True(Release(cause, own, [Clean(Held.AddHours(2)), other], Held.AddHours(1)).Ok);
        }
    }

    [Theory]
    [InlineData(null, false)]
    [InlineData(-1, false)]
    [InlineData(0, false)]
    [InlineData(1, true)]
    public void A_missing_marking_waits_for_a_tag_fitted_after_the_hold(int? minutes, bool does)
    {
        DateTimeOffset? tagged = minutes is { } m ? Held.AddMinutes(m) : null;
        var closed = Release(HoldCause.Marking, GivenPeople.Signer(Role.Qualified), [Clean(Held.AddHours(2))], tagged);
        Assert.Equal(does, closed.Ok);
    }

    [Theory]
    [InlineData(-1, false)]
    [InlineData(0, false)]
    [InlineData(1, true)]
    public void The_new_tag_is_read_by_an_inspection_after_it_was_fitted(int ticks, bool does)
    {
        var tagged = Held.AddHours(1);
        var read = Clean(tagged.AddTicks(ticks));
        Assert.Equal(does, Release(HoldCause.Marking, GivenPeople.Signer(Role.Qualified), [read], tagged).Ok);
    }

    [Fact]
    public void With_another_hold_open_a_piece_stays_in_the_cage()
    {
        var holds = new[] { Hold(HoldCause.Doubt), Hold(HoldCause.Event) };
        var facts = new ReleaseFacts(PieceState.Held, holds, [Clean(Held.AddHours(2))], null, false);
        var first = Cage.Release(facts, holds[0].Id, "Sound", GivenPeople.Signer(Role.Qualified));
        Assert.Equal(PieceState.Held, first.Value.State);
        var last = Cage.Release(
            facts with
            {
                Open = [holds[1]],
            },
            holds[1].Id,
            "Sound",
            GivenPeople.Signer(Role.Qualified)
        );
        Assert.Equal(PieceState.InService, last.Value.State);
        Assert.False(Cage.Release(facts, Guid.NewGuid(), "Sound", GivenPeople.Signer(Role.Qualified)).Ok);
    }

    [Fact]
    public void What_is_kept_as_evidence_is_not_released()
    {
        var facts = Facts(HoldCause.Doubt, [Clean(Held.AddHours(2))]);
        var by = GivenPeople.Signer(Role.Qualified);
        Assert.True(Cage.Release(facts, Id, "Sound", by).Ok);
        Assert.Contains(
            "kept as evidence: claim 7",
            Cage.Release(facts with { Locked = "claim 7" }, Id, "Sound", by).Fault,
            StringComparison.Ordinal
        );
    }

    [Fact]
    public void A_release_says_why()
    {
        var closed = Cage.Release(
            Facts(HoldCause.Doubt, [Clean(Held.AddHours(2))]),
            Id,
            " ",
            GivenPeople.Signer(Role.Qualified)
        );
        Assert.Contains("Write why", closed.Fault, StringComparison.Ordinal);
    }

    private static readonly Guid Id = Guid.NewGuid();

    private static OpenHold Hold(HoldCause cause) => new(Guid.NewGuid(), cause, Held.Order());

    private static SignedInspection Clean(DateTimeOffset at) =>
        new(InspectionKind.Periodic, VerdictKind.Fit, at.Order(), Inspector);

    private static ReleaseFacts Facts(HoldCause cause, IReadOnlyList<SignedInspection> made) =>
        new(PieceState.Held, [new(Id, cause, Held.Order())], made, Held.AddHours(1).Order(), false);

    private static Checked<PieceOutcome> Close(HoldCause cause, Role role, SignedInspection? made) =>
        Cage.Release(Facts(cause, made is null ? [] : [made]), Id, "Sound", GivenPeople.Signer(role));

    private static Checked<PieceOutcome> Release(
        HoldCause cause,
        Signer by,
        IReadOnlyList<SignedInspection> made,
        DateTimeOffset? tagged,
        bool oneMayDoBoth = false
    ) =>
        Cage.Release(
            Facts(cause, made) with
            {
                Retagged = tagged?.Order(),
                OneMayDoBoth = oneMayDoBoth,
            },
            Id,
            "Sound",
            by
        );
}
