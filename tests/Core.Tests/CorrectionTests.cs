using Keralith.Core.Custody;
using Keralith.Core.Gear;
using Keralith.Core.Judgement;
using Keralith.Core.People;
using Keralith.Core.Quantities;
using Xunit;

namespace Keralith.Core.Tests;

/// <summary>Wrong records, and several readings of one measure.</summary>
public class CorrectionTests
{
    private static readonly DateOnly Signed = new(2026, 3, 2);

    [Theory]
    [InlineData(VerdictKind.Fit, VerdictKind.Remove, Role.Inspector, true)]
    [InlineData(VerdictKind.Fit, VerdictKind.Fit, Role.Inspector, true)]
    [InlineData(VerdictKind.Watch, VerdictKind.Fit, Role.Inspector, true)]
    [InlineData(VerdictKind.Hold, VerdictKind.Remove, Role.Inspector, true)]
    [InlineData(VerdictKind.Hold, VerdictKind.Hold, Role.Inspector, true)]
    [InlineData(VerdictKind.Hold, VerdictKind.Watch, Role.Inspector, false)]
    [InlineData(VerdictKind.Remove, VerdictKind.Hold, Role.Inspector, false)]
    [InlineData(VerdictKind.Remove, VerdictKind.Hold, Role.Qualified, true)]
    [InlineData(VerdictKind.Remove, VerdictKind.Fit, Role.Qualified, true)]
    public void What_stopped_a_piece_is_made_milder_by_a_qualified_person_alone(
        VerdictKind was,
        VerdictKind now,
        Role role,
        bool may
    ) => Assert.Equal(may, Correction.Refusal(new(InspectionKind.Periodic, was, Signed), now, Signed, role) is null);

    [Theory]
    [InlineData("2026-03-01", true)]
    [InlineData("2026-03-02", true)]
    [InlineData("2026-03-03", false)]
    public void A_correction_tells_what_was_seen_by_the_day_of_the_wrong_record_never_later(string day, bool may) =>
        Assert.Equal(
            may,
            Correction.Refusal(
                new(InspectionKind.Periodic, VerdictKind.Fit, Signed),
                VerdictKind.Fit,
                DateOnly.Parse(day, System.Globalization.CultureInfo.InvariantCulture),
                Role.Qualified
            )
                is null
        );

    [Theory]
    [InlineData(InspectionKind.Periodic, VerdictKind.Fit, Role.Inspector, true, true)]
    [InlineData(InspectionKind.Periodic, VerdictKind.Fit, Role.Inspector, false, false)]
    [InlineData(InspectionKind.Periodic, VerdictKind.Fit, Role.Qualified, false, true)]
    [InlineData(InspectionKind.Periodic, VerdictKind.Fit, Role.Crew, true, false)]
    [InlineData(InspectionKind.Frequent, VerdictKind.Fit, Role.Crew, true, true)]
    [InlineData(InspectionKind.Frequent, VerdictKind.Fit, Role.Crew, false, false)]
    [InlineData(InspectionKind.Frequent, VerdictKind.Fit, Role.Inspector, false, true)]
    [InlineData(InspectionKind.Frequent, VerdictKind.Hold, Role.Crew, true, false)]
    [InlineData(InspectionKind.Periodic, VerdictKind.Remove, Role.Inspector, true, false)]
    [InlineData(InspectionKind.Periodic, VerdictKind.Remove, Role.Qualified, false, true)]
    public void A_record_is_withdrawn_by_its_signer_or_a_qualified_person_and_one_that_stopped_a_piece_by_the_latter(
        InspectionKind kind,
        VerdictKind verdict,
        Role role,
        bool own,
        bool may
    ) => Assert.Equal(may, Correction.RefusalToWithdraw(new(kind, verdict, Signed), role, own) is null);

    [Theory]
    [InlineData(InspectionKind.Initial, true)]
    [InlineData(InspectionKind.Periodic, true)]
    [InlineData(InspectionKind.AfterEvent, true)]
    [InlineData(InspectionKind.Frequent, false)]
    [InlineData(InspectionKind.Return, false)]
    public void A_full_inspection_withdrawn_holds_the_piece(InspectionKind kind, bool holds) =>
        Assert.Equal(holds, Correction.Holds(kind));

    [Theory]
    [InlineData(PieceState.InService, VerdictKind.Remove, PieceState.Held)]
    [InlineData(PieceState.InService, VerdictKind.Hold, PieceState.Held)]
    [InlineData(PieceState.InService, VerdictKind.Fit, PieceState.InService)]
    [InlineData(PieceState.Held, VerdictKind.Fit, PieceState.Held)]
    [InlineData(PieceState.New, VerdictKind.Fit, PieceState.New)]
    [InlineData(PieceState.Missing, VerdictKind.Remove, null)]
    [InlineData(PieceState.Condemned, VerdictKind.Fit, null)]
    [InlineData(PieceState.InService, VerdictKind.Incomplete, null)]
    public void A_correction_stops_a_piece_and_never_puts_one_into_use(
        PieceState was,
        VerdictKind verdict,
        PieceState? now
    )
    {
        var after = Correction.After(was, verdict);
        Assert.Equal(now, after.Ok ? after.Value : null);
    }

    [Theory]
    [InlineData(null, null, null)]
    [InlineData("2026-07-01", null, "2026-07-01")]
    [InlineData(null, "2026-07-01", "2026-07-01")]
    [InlineData("2026-07-01", "2026-06-30", "2026-06-30")]
    [InlineData("2026-07-01", "2026-07-01", "2026-07-01")]
    [InlineData("2026-07-01", "2026-07-02", "2026-07-01")]
    public void An_earlier_next_inspection_set_with_the_wrong_record_is_not_lost(
        string? wrong,
        string? now,
        string? kept
    ) => Assert.Equal(Day(kept), Correction.NextBy(Day(wrong), Day(now)));

    [Fact]
    public void A_clean_inspection_made_after_a_hold_closes_it_no_longer_once_it_is_corrected()
    {
        var at = new DateTimeOffset(2026, 3, 2, 9, 0, 0, TimeSpan.Zero);
        var clean = new SignedInspection(
            InspectionKind.Periodic,
            VerdictKind.Fit,
            at.AddHours(1).Order(),
            Guid.NewGuid()
        );
        var closer = GivenPeople.Signer(Role.Qualified);
        foreach (var cause in new[] { HoldCause.Doubt, HoldCause.VerdictRemove, HoldCause.Event })
        {
            Assert.True(
                HoldRules.MayClose(new(Guid.NewGuid(), cause, at.Order()), closer, "Sound", [clean], null, false).Ok
            );
            Assert.False(
                HoldRules
                    .MayClose(
                        new(Guid.NewGuid(), cause, at.Order()),
                        closer,
                        "Sound",
                        [clean with { IsCorrection = true }],
                        null,
                        false
                    )
                    .Ok
            );
        }
    }

    private static DateOnly? Day(string? text) =>
        text is null ? null : DateOnly.Parse(text, System.Globalization.CultureInfo.InvariantCulture);

    [Theory]
    [InlineData(null, false)]
    [InlineData("  ", false)]
    [InlineData("The bow of HM-0412 was measured", true)]
    public void A_correction_says_why(string? why, bool may) => Assert.Equal(may, Correction.RefusalOf(why) is null);

    [Fact]
    public void A_reason_has_at_most_500_letters()
    {
        Assert.Null(Correction.RefusalOf(new string('a', 500)));
        Assert.NotNull(Correction.RefusalOf(new string('a', 501)));
    }

    [Fact]
    public void Several_readings_are_each_an_answer_and_the_worst_counts_whichever_way_is_worse()
    {
        // A throat of 40 mm may open to 42; a link may wear to what its size allows: larger is worse in one, smaller in
        // the other.
        Assert.Equal(
            [Outcome.Clear, Outcome.Remove, Outcome.Clear],
            Judged("hook", "hook", "hook.throat", "40.1 mm; 42.1 mm; 40.2 mm", "40 mm")
        );
        Assert.Equal(
            [Outcome.Clear, Outcome.Remove, Outcome.Clear],
            Judged("hook", "hook", "hook.wear", "20 mm; 17.9 mm; 19.9 mm", "20 mm")
        );
    }

    [Theory]
    [InlineData("40.1 mm; 40.2", "Reading 2")]
    [InlineData("40.1 mm; 0 mm", "over 0")]
    [InlineData("1 mm;1 mm;1 mm;1 mm;1 mm;1 mm;1 mm;1 mm;1 mm;1 mm;1 mm;1 mm;1 mm", "At most 12")]
    public void A_reading_that_is_none_is_named(string typed, string refusal) =>
        Assert.Contains(
            refusal,
            new AnswerEntry(Value: typed).ReadAll(Catalogue.Get("hook.throat"), null).Fault,
            StringComparison.Ordinal
        );

    [Theory]
    [InlineData("hook.throat", null, "40.1 mm; 42 mm", null, "0.05 mm")]
    [InlineData("hook.throat", null, "1-13/32 in", null, null)]
    [InlineData("hook.twist-angle", null, "9 deg; 8.5 deg", null, "0.5 deg")]
    [InlineData("rope.broken-in-lay", null, "3; 5", null, null)]
    [InlineData("chain.leg-difference", null, "72.1 in", "72 in", null)]
    [InlineData("hook.crack", "unsure", null, null, null)]
    public void An_answer_read_is_the_entry_it_was_read_from(
        string criterion,
        string? answer,
        string? value,
        string? shortest,
        string? uncertainty
    )
    {
        var entry = new AnswerEntry(answer, value, shortest, uncertainty);
        var asked = Catalogue.Get(criterion);
        Assert.Equal(entry, AnswerEntry.Of(asked, entry.ReadAll(asked, null).Value));
    }

    private static IEnumerable<Outcome> Judged(string family, string part, string criterion, string typed, string asNew)
    {
        var asked = Catalogue.Get(criterion);
        var answers = new AnswerEntry(Value: typed)
            .ReadAll(asked, new(Length.Parse(asNew), BaselineBasis.New))
            .Value.Select(r => new Answer(asked, part, r))
            .ToList();
        return Judge
            .Of(
                new(
                    [RuleBookShelf.Asme],
                    InspectionKind.Periodic,
                    new(Gear.GearFamilies.Find(family)!, []),
                    [],
                    answers
                )
            )
            .Findings.Select(f => f.Outcome);
    }
}
