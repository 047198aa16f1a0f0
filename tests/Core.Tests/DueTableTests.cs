using Keralith.Core.Custody;
using Keralith.Core.Gear;
using Keralith.Core.Judgement;
using Keralith.Core.Schedule;
using Xunit;

namespace Keralith.Core.Tests;

/// <summary>When what is due: by family, service class and book; and what is kept on a piece of it.</summary>
public class DueTableTests
{
    private static readonly DateOnly Day = new(2026, 1, 31);

    private static readonly Guid Somebody = Guid.NewGuid();

    /// <summary>
    /// By service class, normal, heavy, severe: months of the periodic inspection, and what the frequent one is kept
    /// by.
    /// </summary>
    private static readonly Dictionary<string, (string Periodic, string Frequent)> ByKind = new()
    {
        ["each use"] = ("12 12 3", "each-use each-use each-use"),
        ["by calendar"] = ("12 6 3", "1-month 14-days 7-days"),
    };

    public static TheoryData<string> Families { get; } = [.. GearFamilies.All.Select(f => f.Code)];

    [Theory]
    [MemberData(nameof(Families))]
    public void Asme_keeps_slings_and_hardware_each_use_and_hooks_hoists_and_gear_below_the_hook_by_calendar(
        string code
    )
    {
        var family = GearFamilies.Find(code)!;
        var byCalendar = code == "hook" || family.Group is FamilyGroup.Hoist or FamilyGroup.BelowHook;
        var (periodic, frequent) = ByKind[byCalendar ? "by calendar" : "each use"];
        var classes = Enum.GetValues<ServiceClass>();
        Assert.Equal(periodic, string.Join(' ', classes.Select(c => Months(family, c))));
        Assert.Equal(frequent, string.Join(' ', classes.Select(c => Said(Intervals.Frequent(family, c)))));
    }

    /// <summary>The shortest interval of the chosen books, in months, for normal service.</summary>
    public static TheoryData<string, string, int> Books { get; } =
        new()
        {
            { "alloy-chain-sling", "asme", 12 },
            { "alloy-chain-sling", "osha", 12 },
            { "alloy-chain-sling", "europe", 6 },
            { "shackle", "europe", 6 },
            { "hook", "europe", 6 },
            { "hand-chain-hoist", "europe", 12 },
            { "hand-chain-hoist", "asme", 12 },
        };

    [Theory]
    [MemberData(nameof(Books))]
    public void The_shorter_interval_of_a_book_governs(string family, string book, int months)
    {
        var gear = GearFamilies.Find(family)!;
        var alone = Intervals.Periodic(gear, ServiceClass.Normal, [RuleBookShelf.Find(book)!]);
        var beside = Intervals.Periodic(gear, ServiceClass.Normal, [RuleBookShelf.Asme, RuleBookShelf.Find(book)!]);
        Assert.Equal(new Months(months), alone);
        Assert.Equal(new Months(Math.Min(months, 12)), beside);
    }

    [Fact]
    public void A_month_after_the_end_of_January_is_the_end_of_February()
    {
        var hoist = GearFamilies.Find("hand-chain-hoist")!;
        var due = DueDates.From(hoist, ServiceClass.Normal, [RuleBookShelf.Asme], [new(InspectionKind.Periodic, Day)]);
        Assert.Equal(new DateOnly(2026, 2, 28), due.Frequent);
    }

    [Fact]
    public void The_last_to_inspect_is_kept_and_who_made_it_where_another_countersigned()
    {
        var (first, second, trainee) = (Guid.NewGuid(), Guid.NewGuid(), Guid.NewGuid());
        var made = new[] { Signed(0) with { SignedBy = first }, Signed(1) with { SignedBy = second } };
        Assert.Equal(second, Of(made).LastBy);
        Assert.Equal(trainee, Of([.. made, Signed(2) with { MadeBy = trainee }]).LastBy);
        Assert.Null(Of([]).LastBy);
    }

    [Fact]
    public void A_full_inspection_makes_the_standing_verdict_milder_and_a_look_never_does()
    {
        var watch = Signed(0) with { Verdict = VerdictKind.Watch };
        Assert.Equal(VerdictKind.Fit, Of([watch, Signed(1)]).Verdict);
        Assert.Equal(VerdictKind.Watch, Of([watch, Look(1)]).Verdict);
        Assert.Equal(VerdictKind.Remove, Of([watch, Look(1) with { Verdict = VerdictKind.Remove }]).Verdict);
        Assert.Equal(VerdictKind.Fit, Of([Look(0) with { Verdict = VerdictKind.Hold }, Signed(1)]).Verdict);
    }

    [Fact]
    public void Only_what_accepts_a_piece_moves_its_due_dates()
    {
        Assert.Equal(new DateOnly(2027, 1, 31), Of([Signed(0)]).Due.Periodic);
        Assert.Equal(
            new DateOnly(2027, 1, 31),
            Of([Signed(0), Signed(30) with { Verdict = VerdictKind.Hold }]).Due.Periodic
        );
        Assert.Equal(new DateOnly(2027, 1, 31), Of([Signed(0), Look(30)]).Due.Periodic);
        Assert.Null(Of([Look(0)]).Due.Periodic);
    }

    [Fact]
    public void A_report_counts_as_a_periodic_inspection_of_its_day_until_the_first_one_here()
    {
        var carried = Of([], report: Day.AddMonths(-6));
        Assert.Equal((true, new DateOnly(2026, 7, 31)), (carried.IsCarried, carried.Due.Periodic!.Value));
        Assert.True(Of([Look(0)], report: Day.AddMonths(-6)).IsCarried);
        Assert.False(Of([Signed(0)], report: Day.AddMonths(-6)).IsCarried);
    }

    [Fact]
    public void The_last_day_it_was_touched_is_that_of_an_inspection_or_a_hand_out()
    {
        Assert.Equal(Day.AddDays(9), Of([Signed(0), Signed(9)]).Touched);
        Assert.Equal(Day.AddDays(20), Of([Signed(0)], lastOut: Day.AddDays(20)).Touched);
        Assert.Equal(Day.AddDays(20), Of([Signed(20)], lastOut: Day.AddDays(3)).Touched);
        Assert.Equal(Day, Of([], touched: Day).Touched);
    }

    private static SignedInspection Signed(int days) =>
        new(InspectionKind.Periodic, VerdictKind.Fit, At(days).Order(), Somebody) { InspectedOn = Day.AddDays(days) };

    private static SignedInspection Look(int days) => Signed(days) with { Kind = InspectionKind.Frequent };

    private static DateTimeOffset At(int days) => new(Day.AddDays(days).ToDateTime(new(9, 0)), TimeSpan.Zero);

    private static Derived Of(
        SignedInspection[] inspections,
        DateOnly? report = null,
        DateOnly? lastOut = null,
        DateOnly? touched = null
    ) =>
        Derived.Of(
            new(GearFamilies.Find("shackle")!, ServiceClass.Normal, inspections, report, lastOut, touched),
            [RuleBookShelf.Asme]
        );

    private static int Months(GearFamily family, ServiceClass service) =>
        ((Months)Intervals.Periodic(family, service, [RuleBookShelf.Asme])).Count;

    private static string Said(Interval interval) =>
        interval switch
        {
            EachUse => "each-use",
            Months m => $"{m.Count}-month",
            Days d => $"{d.Count}-days",
            _ => "?",
        };
}
