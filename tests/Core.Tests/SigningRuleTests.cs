using Keralith.Core.Custody;
using Keralith.Core.Gear;
using Keralith.Core.Judgement;
using Keralith.Core.People;
using Keralith.Core.Quantities;
using Keralith.Core.Schedule;
using Xunit;

namespace Keralith.Core.Tests;

/// <summary>Who may sign, what a signature adds, and when the next inspection is due.</summary>
public class SigningRuleTests
{
    private static readonly DateOnly Today = new(2026, 3, 2);

    private static readonly Instrument Caliper = new("K-7", Length.Parse("0.02 mm"), Today);

    [Theory]
    [InlineData("alloy-chain-sling", FamilyGroup.Sling, 0, true)]
    [InlineData("alloy-chain-sling", FamilyGroup.Sling, -1, false)]
    [InlineData("alloy-chain-sling", FamilyGroup.Hardware, 10, false)]
    [InlineData("shackle", FamilyGroup.Hardware, 10, true)]
    [InlineData("lever-hoist", FamilyGroup.Hoist, 10, true)]
    public void An_authorisation_counts_for_its_group_up_to_and_with_its_day(
        string family,
        FamilyGroup group,
        int daysLeft,
        bool may
    ) =>
        Assert.Equal(
            may,
            Authorisation.RefusalToSign([new(group, Today.AddDays(daysLeft))], GearFamilies.Find(family)!, Today)
                is null
        );

    [Fact]
    public void Without_an_authorisation_nobody_signs_and_every_family_belongs_to_a_group()
    {
        Assert.Contains(
            "not authorised",
            Authorisation.RefusalToSign([], GearFamilies.Find("shackle")!, Today),
            StringComparison.Ordinal
        );
        Assert.Contains(
            "ran out on 2026-03-01",
            Authorisation.RefusalToSign(
                [new(FamilyGroup.Hardware, Today.AddDays(-1))],
                GearFamilies.Find("shackle")!,
                Today
            ),
            StringComparison.Ordinal
        );
        Assert.All(GearFamilies.All, f => Assert.Contains(Authorisation.GroupOf(f), Authorisation.Groups));
    }

    [Fact]
    public void An_inspector_is_never_milder_than_the_rules_and_stricter_only_with_a_reason()
    {
        var verdicts = new[] { VerdictKind.Fit, VerdictKind.Watch, VerdictKind.Hold, VerdictKind.Remove };
        foreach (var rules in verdicts)
        {
            Assert.Equal(rules, Signature.Plain.Of(rules, true, [], Today).Value);
            foreach (var chosen in verdicts)
            {
                var without = new Signature(chosen).Of(rules, true, [], Today);
                var with = new Signature(chosen, "Feels rough at the bowl").Of(rules, true, [], Today);
                Assert.Equal(chosen == rules, without.Ok);
                Assert.Equal(chosen >= rules, with.Ok);
                if (with.Ok)
                    Assert.Equal(chosen, with.Value);
            }
        }

        Assert.Contains(
            "never milder",
            new Signature(VerdictKind.Fit, "Looks fine to me").Of(VerdictKind.Watch, true, [], Today).Fault,
            StringComparison.Ordinal
        );
        Assert.False(new Signature(VerdictKind.Remove, "Why").Of(VerdictKind.Incomplete, true, [], Today).Ok);
    }

    [Theory]
    [InlineData(0, null, VerdictKind.Fit)]
    [InlineData(1, null, null)]
    [InlineData(1, "The other one is away", VerdictKind.Hold)]
    public void Readings_of_an_instrument_out_of_calibration_accept_nothing(
        int daysLate,
        string? reason,
        VerdictKind? signedAs
    )
    {
        var result = new Signature(InstrumentReason: reason).Of(
            VerdictKind.Fit,
            true,
            [Caliper],
            Today.AddDays(daysLate)
        );
        Assert.Equal(signedAs, result.Ok ? result.Value : null);
        Assert.Equal(
            VerdictKind.Fit,
            Signature.Plain.Of(VerdictKind.Fit, isFull: false, [Caliper], Today.AddDays(daysLate)).Value
        );
        if (reason is not null)
            Assert.Equal(
                VerdictKind.Remove,
                new Signature(InstrumentReason: reason)
                    .Of(VerdictKind.Remove, true, [Caliper], Today.AddDays(daysLate))
                    .Value
            );
    }

    [Theory]
    [InlineData("2026-01-31", "normal", "2027-01-31", "2026-02-28")]
    [InlineData("2024-01-31", "normal", "2025-01-31", "2024-02-29")]
    [InlineData("2024-02-29", "normal", "2025-02-28", "2024-03-29")]
    [InlineData("2026-08-31", "heavy", "2027-02-28", "2026-09-14")]
    [InlineData("2026-11-30", "severe", "2027-02-28", "2026-12-07")]
    public void Due_dates_of_a_hook_keep_to_the_ends_of_months_and_to_leap_years(
        string day,
        string service,
        string periodic,
        string frequent
    )
    {
        var due = DueDates.From(
            GearFamilies.Find("hook")!,
            Enum.Parse<ServiceClass>(service, ignoreCase: true),
            [RuleBookShelf.Asme],
            [new(InspectionKind.Periodic, DateOnly.Parse(day))]
        );
        Assert.Equal((DateOnly.Parse(periodic), DateOnly.Parse(frequent)), (due.Periodic!.Value, due.Frequent!.Value));
    }

    [Fact]
    public void A_next_inspection_set_earlier_counts_until_the_next_full_one_and_never_later_than_the_interval()
    {
        var family = GearFamilies.Find("alloy-chain-sling")!;
        DateOnly? Due(params AcceptedInspection[] done) =>
            DueDates.From(family, ServiceClass.Normal, [RuleBookShelf.Asme], done).Periodic;
        var first = new AcceptedInspection(InspectionKind.Periodic, new(2026, 3, 1), new(2026, 7, 1));
        Assert.Equal(new DateOnly(2026, 7, 1), Due(first));
        Assert.Equal(new DateOnly(2026, 7, 1), Due(first, new(InspectionKind.Frequent, new(2026, 5, 1))));
        Assert.Equal(new DateOnly(2027, 6, 1), Due(first, new(InspectionKind.Periodic, new(2026, 6, 1))));
        Assert.Equal(new DateOnly(2027, 3, 1), Due(first with { NextBy = new(2029, 1, 1) }));
    }

    [Theory]
    [InlineData("asme", "2026-12-31")]
    [InlineData("asme osha", "2026-06-30")]
    public void A_hoist_that_stands_idle_is_due_for_a_full_inspection_however_recent_its_last(
        string books,
        string until
    )
    {
        var shelf = books.Split(' ').Select(b => RuleBookShelf.Find(b)!).ToList();
        var hoist = GearFamilies.Find("lever-hoist")!;
        Assert.Equal(
            DateOnly.Parse(until),
            DueDates.From(hoist, ServiceClass.Normal, shelf, [new(InspectionKind.Periodic, new(2026, 1, 1))]).Periodic
        );
        Assert.Equal(
            new DateOnly(2027, 1, 1),
            DueDates
                .From(
                    GearFamilies.Find("alloy-chain-sling")!,
                    ServiceClass.Normal,
                    shelf,
                    [new(InspectionKind.Periodic, new(2026, 1, 1))]
                )
                .Periodic
        );
    }

    [Fact]
    public void A_hoist_looked_at_in_time_is_not_idle_and_a_look_that_comes_too_late_does_not_help()
    {
        var shelf = new[] { RuleBookShelf.Asme, RuleBookShelf.Find("osha")! };
        DateOnly Due(params string[] looks) =>
            DueDates
                .From(
                    GearFamilies.Find("lever-hoist")!,
                    ServiceClass.Normal,
                    shelf,
                    looks
                        .Select(d => new AcceptedInspection(InspectionKind.Frequent, DateOnly.Parse(d)))
                        .Prepend(new(InspectionKind.Periodic, new(2026, 1, 1)))
                )
                .Periodic!.Value;
        Assert.Equal(new DateOnly(2026, 12, 29), Due("2026-06-30"));
        Assert.Equal(new DateOnly(2027, 1, 1), Due("2026-06-30", "2026-10-01"));
        Assert.Equal(new DateOnly(2026, 6, 30), Due("2026-07-01"));
    }

    [Fact]
    public void A_hold_signed_stricter_than_the_rules_closes_as_a_verdict_hold_does()
    {
        var fit = new Verdict(VerdictKind.Fit, [], []);
        Assert.Null(HoldRules.CauseOf(fit, VerdictKind.Watch));
        Assert.Equal(HoldCause.VerdictHold, HoldRules.CauseOf(fit, VerdictKind.Hold));
        Assert.Equal(HoldCause.VerdictRemove, HoldRules.CauseOf(fit, VerdictKind.Remove));
    }

    [Theory]
    [InlineData("V heather ring\nM moss dots", 3, "2026-01-01", 14, null)]
    [InlineData("V heather ring", 3, "2026-01-01", 14, "2 to 12 marks")]
    [InlineData("v heather ring\nM moss dots", 3, "2026-01-01", 14, "one capital")]
    [InlineData("V heather ring\nV moss dots", 3, "2026-01-01", 14, "a letter of its own")]
    [InlineData("V heather ring\nM heather ring", 3, "2026-01-01", 14, "differ in colour or pattern")]
    [InlineData("V tartan ring\nM moss dots", 3, "2026-01-01", 14, "no paint tartan")]
    [InlineData("V heather stars\nM moss dots", 3, "2026-01-01", 14, "no pattern stars")]
    [InlineData("V heather\nM moss dots", 3, "2026-01-01", 14, "letter, colour and pattern")]
    [InlineData("V heather ring\nM moss dots", 5, "2026-01-01", 14, "1, 3, 6 or 12")]
    [InlineData("V heather ring\nM moss dots", 3, "2026-01-02", 14, "first of a month")]
    [InlineData("V heather ring\nM moss dots", 3, "2026-01-01", 91, "0 to 90")]
    public void A_season_scheme_is_read_or_refused_with_the_reason(
        string marks,
        int months,
        string first,
        int overlap,
        string? fault
    )
    {
        var read = SeasonSchemeReader.Read(marks, months, DateOnly.Parse(first), overlap, true, ["heather", "moss"]);
        if (fault is not null)
            Assert.Contains(fault, read.Fault, StringComparison.Ordinal);
        else
            Assert.Equal(marks, SeasonSchemeReader.Lines(read.Value));
    }

    [Fact]
    public void Another_overlap_keeps_what_is_painted_and_another_order_does_not()
    {
        var scheme = SeasonSchemeReader
            .Read("V heather ring\nM moss dots", 3, new(2026, 1, 1), 14, true, ["heather", "moss"])
            .Value;
        Assert.True(SeasonSchemeReader.KeepsMarks(scheme, scheme with { OverlapDays = 0, Enforced = false }));
        Assert.False(SeasonSchemeReader.KeepsMarks(scheme, scheme with { Marks = scheme.Marks.Reverse().ToList() }));
        Assert.False(SeasonSchemeReader.KeepsMarks(scheme, scheme with { Months = 6 }));
    }

    [Fact]
    public void Every_event_says_what_to_look_at_and_none_lies_in_the_future()
    {
        Assert.All(Enum.GetValues<GearEventKind>(), k => Assert.NotEmpty(GearEvents.LookAt(k)));
        Assert.True(Record(Today, "The stop plank fell into the slings").Ok);
        Assert.False(Record(Today.AddDays(1), "Will fall").Ok);
        Assert.False(Record(Today, " ").Ok);

        static Checked<PieceOutcome> Record(DateOnly happened, string what) =>
            GearEvents.Record(
                Guid.NewGuid(),
                GearEventKind.Collision,
                happened,
                what,
                "HM-1",
                PieceState.InService,
                GivenPeople.Signer(Role.Crew, Today)
            );
    }
}
