using Keralith.Core.Custody;
using Keralith.Core.Gear;
using Keralith.Core.Judgement;
using Keralith.Core.Ledger;
using Keralith.Core.People;
using Keralith.Core.Quantities;
using Keralith.Core.Schedule;
using Keralith.Core.Tags;
using Xunit;

namespace Keralith.Core.Tests;

public class CustodyTests
{
    private static readonly DateOnly Today = new(2026, 3, 2);
    private static readonly UseFacts Good = new()
    {
        State = PieceState.InService,
        OpenHolds = [],
        PeriodicDue = Today,
        FrequentDue = null,
        FrequentByCalendar = false,
        RatedLoadKnown = true,
    };
    private static readonly GearFamily Sling = GearFamilies.Find("alloy-chain-sling")!;
    private static readonly GearFamily Hook = GearFamilies.Find("hook")!;

    public static TheoryData<string, UseFacts, string> NotUsable =>
        new()
        {
            { "new", Good with { State = PieceState.New }, "not inspected" },
            {
                "held",
                Good with
                {
                    State = PieceState.Held,
                    OpenHolds = ["a doubt since 2026-03-01, bent"],
                },
                "a doubt"
            },
            { "an open hold whatever the state says", Good with { OpenHolds = ["a doubt"] }, "a doubt" },
            { "condemned", Good with { State = PieceState.Condemned }, "never lift again" },
            { "destroyed", Good with { State = PieceState.Destroyed }, "never lift again" },
            { "overdue by a day", Good with { PeriodicDue = Today.AddDays(-1) }, "overdue since 2026-03-01" },
            { "never passed a periodic", Good with { PeriodicDue = null }, "No periodic" },
            {
                "frequent overdue",
                Good with
                {
                    FrequentByCalendar = true,
                    FrequentDue = Today.AddDays(-1),
                },
                "Frequent inspection overdue"
            },
            { "frequent never", Good with { FrequentByCalendar = true }, "No frequent" },
            { "no rated load", Good with { RatedLoadKnown = false }, "rated load" },
            { "not for lifting", Good with { ForLifting = false }, "Not for lifting" },
            { "lacks the season's colour", Good with { LacksSeasonColour = true }, "colour" },
            { "kept as evidence", Good with { Locked = "claim 7" }, "Kept as evidence: claim 7." },
            { "calibration out", Good with { CalibrationDue = Today.AddDays(-1) }, "Calibration" },
        };

    [Fact]
    public void A_piece_in_service_may_be_used_up_to_and_on_its_due_day() =>
        Assert.True(Usability.On(Good, Today).MayBeUsed);

    [Theory]
    [MemberData(nameof(NotUsable))]
    public void Anything_against_a_piece_is_a_reason_not_to_use_it(string why, UseFacts facts, string reason)
    {
        Assert.NotEmpty(why);
        var use = Usability.On(facts, Today);
        Assert.False(use.MayBeUsed);
        Assert.Contains(use.Reasons, r => r.Contains(reason, StringComparison.Ordinal));
    }

    [Theory]
    [InlineData(PieceState.Condemned)]
    [InlineData(PieceState.Destroyed)]
    public void Nothing_leads_back_from_the_scrap(PieceState retired)
    {
        Assert.False(PieceLife.AfterHold(retired).Ok);
        Assert.False(PieceLife.AfterInspection(retired, InspectionKind.Periodic, VerdictKind.Fit, 0).Ok);
        Assert.False(PieceLife.AfterRelease(retired, 0, true).Ok);
        Assert.False(PieceLife.AfterCondemning(retired).Ok);
    }

    [Fact]
    public void A_clean_inspection_alone_never_releases_a_held_piece() =>
        Assert.Equal(
            PieceState.Held,
            PieceLife.AfterInspection(PieceState.Held, InspectionKind.Periodic, VerdictKind.Fit, 1).Value
        );

    [Fact]
    public void A_piece_held_before_it_was_ever_accepted_goes_back_to_new() =>
        Assert.Equal(PieceState.New, PieceLife.AfterRelease(PieceState.Held, 0, everAccepted: false).Value);

    [Theory]
    [InlineData(Right.Hold, "Crew Stores Trainee Inspector Qualified Admin")]
    [InlineData(Right.SignInspection, "Inspector Qualified")]
    [InlineData(Right.CloseDoubt, "Inspector Qualified")]
    [InlineData(Right.CloseVerdict, "Qualified")]
    [InlineData(Right.Condemn, "Qualified")]
    public void Anyone_can_stop_and_few_can_release(Right right, string roles) =>
        Assert.Equal(roles.Split(' '), Enum.GetValues<Role>().Where(r => r.May(right)).Select(r => r.ToString()));

    [Fact]
    public void The_auditor_changes_nothing() =>
        Assert.Equal(
            [Right.Read, Right.ReadLedger, Right.ReadSettings],
            Enum.GetValues<Right>().Where(r => Role.Auditor.May(r))
        );

    [Theory]
    [InlineData(ServiceClass.Normal, "2027-03-02")]
    [InlineData(ServiceClass.Heavy, "2027-03-02")]
    [InlineData(ServiceClass.Severe, "2026-06-02")]
    public void A_sling_is_due_by_its_service_class(ServiceClass service, string due) =>
        Assert.Equal(DateOnly.Parse(due), DueOf(Sling, service).Periodic);

    [Theory]
    [InlineData(ServiceClass.Normal, "2027-03-02", "2026-04-02")]
    [InlineData(ServiceClass.Heavy, "2026-09-02", "2026-03-16")]
    [InlineData(ServiceClass.Severe, "2026-06-02", "2026-03-09")]
    public void A_hook_is_due_by_the_calendar_for_both_inspections(
        ServiceClass service,
        string periodic,
        string frequent
    ) => Assert.Equal(new DueDates(DateOnly.Parse(periodic), DateOnly.Parse(frequent)), DueOf(Hook, service));

    [Theory]
    [InlineData("2027-03-02", "2026-04-02", "2026-04-02")]
    [InlineData("2026-04-02", "2027-03-02", "2026-04-02")]
    [InlineData("2027-03-02", null, "2027-03-02")]
    [InlineData(null, null, null)]
    public void A_piece_may_be_used_until_the_earlier_of_its_dates(string? periodic, string? frequent, string? until) =>
        Assert.Equal(Day(until), new DueDates(Day(periodic), Day(frequent)).UsableUntil);

    private static DateOnly? Day(string? day) => day is null ? null : DateOnly.Parse(day);

    [Theory]
    [InlineData("asme europe", "alloy-chain-sling", "2026-09-02")]
    [InlineData("asme europe", "shackle", "2026-09-02")]
    [InlineData("asme europe", "hook", "2026-09-02")]
    [InlineData("asme europe", "web-sling", "2026-09-02")]
    // Europe's six months are not for hoists; one nobody looks at for a whole year counts as idle from that day.
    [InlineData("asme europe", "powered-hoist", "2027-03-01")]
    [InlineData("asme australia", "web-sling", "2026-06-02")]
    [InlineData("asme australia europe", "wire-rope-sling", "2026-06-02")]
    [InlineData("osha ontario japan", "wire-rope-sling", "2027-03-02")]
    [InlineData("asme australia", "alloy-chain-sling", "2027-03-02")]
    public void A_shorter_interval_of_a_book_governs(string books, string family, string due) =>
        Assert.Equal(
            DateOnly.Parse(due),
            DueDates
                .From(
                    GearFamilies.Find(family)!,
                    ServiceClass.Normal,
                    books.Split(' ').Select(b => RuleBookShelf.Find(b)!).ToList(),
                    [new(InspectionKind.Periodic, Today)]
                )
                .Periodic
        );

    [Fact]
    public void A_month_from_the_last_of_january_is_the_end_of_february() =>
        Assert.Equal(new DateOnly(2026, 2, 28), new Months(1).After(new(2026, 1, 31)));

    [Fact]
    public void A_frequent_check_moves_no_periodic_date() =>
        Assert.Equal(
            new DueDates(new(2027, 1, 1), new(2026, 3, 15)),
            DueDates.From(
                Hook,
                ServiceClass.Normal,
                [RuleBookShelf.Asme],
                [new(InspectionKind.Periodic, new(2026, 1, 1)), new(InspectionKind.Frequent, new(2026, 2, 15))]
            )
        );

    [Theory]
    [InlineData(0, DueState.Soon)]
    [InlineData(30, DueState.Soon)]
    [InlineData(31, DueState.Later)]
    [InlineData(-1, DueState.Overdue)]
    public void A_due_date_is_soon_within_the_notice_and_overdue_from_the_day_after(int days, DueState expected) =>
        Assert.Equal(expected, DueDate.StateOn(Today.AddDays(days), Today));

    [Theory]
    [InlineData("hm-0042 ", "HM-0042")]
    [InlineData("B7", "B7")]
    public void A_mark_is_read_as_typed_or_scanned(string text, string mark) =>
        Assert.Equal(mark, Mark.Read(text).Value.Text);

    [Theory]
    [InlineData("")]
    [InlineData("A")]
    [InlineData("HM 42")]
    [InlineData("-HM")]
    [InlineData("HM/42")]
    [InlineData("ABCDEFGHIJKLMNOPQRSTUVWXYZ")]
    public void What_is_no_mark_is_refused(string text) => Assert.False(Mark.Read(text).Ok);

    [Fact]
    public void A_marking_is_never_rated_up_and_an_unnamed_factor_is_said()
    {
        var strict = RuleBookShelf.Find("ontario")!;
        var marked = Mass.FromPounds(8800);
        Assert.Equal(7040m, RatedLoadHere.For(Sling, marked, 4, [RuleBookShelf.Asme, strict]).Here.Pounds);
        Assert.Equal(8800m, RatedLoadHere.For(Sling, marked, 6, [strict]).Here.Pounds);
        var assumed = RatedLoadHere.For(Sling, marked, null, [strict]);
        Assert.True(assumed.FactorAssumed);
        Assert.Equal(7040m, assumed.Here.Pounds);
    }

    [Fact]
    public void A_chain_of_records_breaks_where_one_was_changed_left_out_or_put_in()
    {
        var entries = new List<LedgerEntry>();
        for (var i = 1; i <= 3; i++)
            entries.Add(
                LedgerChain.Seal(
                    i,
                    DateTimeOffset.UnixEpoch.AddDays(i),
                    "inspector",
                    new LotCounted(12, i, 12 - i, "Bent"),
                    "HM-1",
                    entries.Count == 0 ? LedgerChain.Beginning : entries[^1].Hash
                )
            );
        Assert.Equal("""{"left":9,"reason":"Bent","rejected":3,"seen":12}""", entries[2].Data);
        Assert.Null(LedgerChain.Check(null, entries[0]));
        Assert.Null(LedgerChain.Check(entries[1], entries[2]));
        Assert.Contains("entry 2 is missing", LedgerChain.Check(entries[0], entries[2]), StringComparison.Ordinal);
        Assert.Contains(
            "changed",
            LedgerChain.Check(entries[0], entries[1] with { Actor = "other" }),
            StringComparison.Ordinal
        );
        Assert.Contains(
            "changed",
            LedgerChain.Check(
                entries[0],
                entries[1] with
                {
                    Data = """{"left":10,"reason":"Bent","rejected":2,"seen":13}""",
                }
            ),
            StringComparison.Ordinal
        );
        Assert.Contains(
            "changed",
            LedgerChain.Check(entries[0], entries[1] with { Form = CanonicalForm.First }),
            StringComparison.Ordinal
        );
        Assert.Contains(
            "does not follow",
            LedgerChain.Check(entries[0] with { Hash = new byte[32] }, entries[1]),
            StringComparison.Ordinal
        );
    }

    private static DueDates DueOf(GearFamily family, ServiceClass service) =>
        DueDates.From(
            family,
            service,
            [RuleBookShelf.Asme, RuleBookShelf.Find("osha")!],
            [new(InspectionKind.Periodic, Today)]
        );
}
