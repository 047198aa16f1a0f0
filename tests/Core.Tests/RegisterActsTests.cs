using Keralith.Core.Custody;
using Keralith.Core.Gear;
using Keralith.Core.Judgement;
using Keralith.Core.People;
using Keralith.Core.Quantities;
using Keralith.Core.Register;
using Keralith.Core.Sites;
using Xunit;

namespace Keralith.Core.Tests;

/// <summary>What is done to the register: figures filled in, parts replaced, reports accepted, a piece taken out of a lot.</summary>
public class RegisterActsTests
{
    private static readonly Signer Qualified = GivenPeople.Signer(Role.Qualified);
    private static readonly Signer Inspector = GivenPeople.Signer(Role.Inspector);
    private static readonly Site Works = new("Works", [RuleBookShelf.Asme], 0.75m, 30, false, false);

    private static readonly BaselineKey Pin = GivenPiece
        .Figures(GivenPiece.Shackle().Gear)
        .Keys.First(k => k.Part.Contains("pin", StringComparison.Ordinal));

    private static BaselineFigure Figure(string length, BaselineBasis basis = BaselineBasis.Catalogue) =>
        new(Length.Parse(length), basis);

    private static string? Filled(
        string length,
        Role role,
        BaselineBasis basis = BaselineBasis.Catalogue,
        VerdictKind? verdict = null,
        bool overLinks = false
    ) =>
        RegisterActs
            .Fill(
                GivenPiece.Shackle() with
                {
                    Verdict = verdict,
                },
                [(Pin, overLinks)],
                _ => Figure(length, basis),
                GivenPeople.Signer(role)
            )
            .Fault;

    [Theory]
    [InlineData("0 mm", "over 0")]
    [InlineData("0.001 mm", null)]
    [InlineData("22 mm", null)]
    public void A_figure_when_new_is_over_nothing(string length, string? refused) =>
        Said(refused, Filled(length, Role.Stores));

    [Theory]
    [InlineData(Role.Crew, null, "does not allow")]
    [InlineData(Role.Auditor, null, "does not allow")]
    [InlineData(Role.Stores, null, null)]
    [InlineData(Role.Inspector, VerdictKind.Fit, "a qualified person enters")]
    [InlineData(Role.Stores, VerdictKind.Watch, "a qualified person enters")]
    [InlineData(Role.Qualified, VerdictKind.Fit, null)]
    public void What_a_piece_was_inspected_by_is_entered_by_a_qualified_person_alone(
        Role role,
        VerdictKind? verdict,
        string? refused
    ) => Said(refused, Filled("22 mm", role, verdict: verdict));

    [Theory]
    [InlineData(Role.Inspector, "Only a qualified person accepts")]
    [InlineData(Role.Qualified, null)]
    public void Todays_figure_is_accepted_as_the_one_when_new_by_a_qualified_person_alone(Role role, string? refused) =>
        Said(refused, Filled("22 mm", role, BaselineBasis.Provisional));

    [Fact]
    public void A_gauge_length_says_over_how_many_links() =>
        Said("over how many links", Filled("22 mm", Role.Stores, overLinks: true));

    [Fact]
    public void Only_what_is_missing_is_filled_in_and_only_by_what_was_measured()
    {
        Said("lacks no such figure", RegisterActs.Fill(GivenPiece.Shackle(), [], _ => null, Qualified).Fault);
        Said(
            "nothing was measured on",
            RegisterActs.Fill(GivenPiece.Shackle(), [(Pin, false)], _ => null, Qualified).Fault
        );
        var set = RegisterActs.Fill(GivenPiece.Shackle(), [(Pin, false)], _ => Figure("22 mm"), Qualified).Value!;
        Assert.Equal([new(Pin, Figure("22 mm"))], set);
    }

    [Theory]
    [InlineData("pin", "The maker", "Worn", Role.Qualified, null)]
    [InlineData("pin", "The maker", "Worn", Role.Inspector, "does not allow")]
    [InlineData(" ", "The maker", "Worn", Role.Qualified, "what was replaced")]
    [InlineData("pin", "", "Worn", Role.Qualified, "There is no field repair")]
    [InlineData("pin", "The maker", null, Role.Qualified, "why it was replaced")]
    public void A_part_is_replaced_by_somebody_named_for_a_reason(
        string what,
        string fittedBy,
        string? reason,
        Role role,
        string? refused
    ) =>
        Said(
            refused,
            RegisterActs
                .ReplacePart(
                    GivenPiece.Shackle(),
                    new(Pin.Part, what, fittedBy, reason, PartFigures(Pin.Part)),
                    GivenPeople.Signer(role)
                )
                .Fault
        );

    [Fact]
    public void The_new_part_is_judged_by_its_own_figures_all_of_them_and_by_none_of_another_part()
    {
        Said("by its own figures", Replaced(Pin.Part, []));
        Said("Choose the part", Replaced("leg-1/hook", []));
        var body = GivenPiece.Figures(GivenPiece.Shackle().Gear).Keys.First(k => k.Part != Pin.Part);
        var more = PartFigures(Pin.Part);
        more[body] = Figure("1 in");
        Said($"The figures given are of {body.Part}; the part replaced is {Pin.Part}", Replaced(Pin.Part, more));
        Said("over 0", Replaced(Pin.Part, PartFigures(Pin.Part).ToDictionary(f => f.Key, _ => Figure("0 mm"))));
        Assert.Null(Replaced(Pin.Part, PartFigures(Pin.Part)));
    }

    [Theory]
    [InlineData(PieceState.InService, PieceState.Held)]
    [InlineData(PieceState.Held, PieceState.Held)]
    [InlineData(PieceState.AtRepair, PieceState.AtRepair)]
    [InlineData(PieceState.Condemned, null)]
    [InlineData(PieceState.Destroyed, null)]
    public void With_a_new_part_it_is_held_until_somebody_looked(PieceState state, PieceState? becomes)
    {
        var done = RegisterActs.ReplacePart(
            GivenPiece.Shackle(state),
            new(Pin.Part, "pin", "The maker", "Worn", PartFigures(Pin.Part)),
            Qualified
        );
        Assert.Equal(becomes, done.Ok ? done.Value.State : null);
        if (done.Ok)
            Assert.Equal(HoldCause.Event, done.Value.Hold!.Cause);
    }

    [Theory]
    [InlineData(null, null)]
    [InlineData(PieceState.InService, "registered already")]
    [InlineData(PieceState.Missing, "registered already")]
    [InlineData(PieceState.Condemned, "was condemned")]
    [InlineData(PieceState.Destroyed, "never used again")]
    public void A_mark_is_given_once_and_that_of_a_retired_piece_never_again(PieceState? taken, string? refused) =>
        Said(refused, RegisterActs.RefusalOfMark("HM-1", taken)?.Words);

    [Theory]
    // A shackle is due every 12 months; today is 2026-03-02.
    [InlineData("2025-03-01", "ran out on 2026-03-01")]
    [InlineData("2025-03-02", null)]
    [InlineData("2026-03-01", null)]
    public void A_report_puts_a_piece_into_service_until_it_runs_out(string inspected, string? refused) =>
        Said(refused, Accepted(Reported(inspected)).Fault);

    [Fact]
    public void A_report_is_accepted_of_gear_whose_marking_was_read_and_whose_figures_are_known()
    {
        var piece = Reported("2025-12-01");
        Assert.Equal(PieceState.InService, Accepted(piece).Value!.State);
        Said("nobody has read its marking", Accepted(piece with { TagRead = false }).Fault);
        Said("HM-1:", Accepted(piece with { TagEntries = [] }).Fault);
        Said("no rated load, no use", Accepted(piece with { RatedLoad = null }).Fault);
        Said("file is not attached", Accepted(piece, file: false).Fault);
        Said("No report is on record", Accepted(piece with { CarriedOver = null }).Fault);
        Said("Only what is new here", Accepted(piece with { State = PieceState.InService }).Fault);
        var figures = GivenPiece.Figures(piece.Gear);
        figures.Remove(Pin);
        Said("is not on record. Enter it first", Accepted(piece, figures: figures).Fault);
    }

    [Theory]
    [InlineData(FamilyGroup.Hardware, 0, null)]
    [InlineData(FamilyGroup.Hardware, 1, null)]
    [InlineData(FamilyGroup.Hardware, -1, "ran out")]
    [InlineData(FamilyGroup.Sling, 1, "not authorised")]
    public void A_report_is_accepted_by_who_may_sign_for_such_gear_today(FamilyGroup group, int days, string? refused)
    {
        Said(refused, Accepted(Reported("2025-12-01"), authorised: new(group, Inspector.Day.AddDays(days))).Fault);
        Said("does not allow", Accepted(Reported("2025-12-01"), by: GivenPeople.Signer(Role.Stores)).Fault);
    }

    [Fact]
    public void What_was_measured_new_on_one_of_a_lot_is_a_twins_for_the_one_taken_out_of_it()
    {
        var lot = GivenPiece.Shackle() with { LotCount = 12, Serial = "P-1" };
        var figures = GivenPiece.Figures(lot.Gear);
        figures[Pin] = Figure("22 mm", BaselineBasis.Provisional);
        var (entry, provisional) = RegisterActs.OutOfLot(lot, Mark.Read("HM-2").Value, figures);
        Assert.Equal(("HM-2", null, null), (entry.Mark.Text, entry.Serial, entry.LotCount));
        Assert.All(entry.Baselines.Values, f => Assert.Equal(BaselineBasis.Twin, f.Basis));

        // What was accepted as provisional of the lot stays that, and is entered beside.
        Assert.Equal([Pin], provisional.Keys);
        Assert.DoesNotContain(Pin, entry.Baselines.Keys);
    }

    private static Dictionary<BaselineKey, BaselineFigure> PartFigures(string part) =>
        GivenPiece.Figures(GivenPiece.Shackle().Gear).Where(f => f.Key.Part == part).ToDictionary();

    private static string? Replaced(string part, Dictionary<BaselineKey, BaselineFigure> figures) =>
        RegisterActs.ReplacePart(GivenPiece.Shackle(), new(part, "pin", "The maker", "Worn", figures), Qualified).Fault;

    private static Piece Reported(string inspected) =>
        GivenPiece.Shackle(PieceState.New) with
        {
            CarriedOver = new(
                DateOnly.Parse(inspected, System.Globalization.CultureInfo.InvariantCulture),
                "An inspector",
                "Report 7"
            ),
        };

    private static Checked<PieceOutcome> Accepted(
        Piece piece,
        bool file = true,
        Dictionary<BaselineKey, BaselineFigure>? figures = null,
        Authorisation? authorised = null,
        Signer? by = null
    ) =>
        RegisterActs.AcceptReport(
            new(
                piece,
                Works,
                file ? Guid.NewGuid() : null,
                figures ?? GivenPiece.Figures(piece.Gear),
                [authorised ?? new(FamilyGroup.Hardware, Inspector.Day)]
            ),
            by ?? Inspector
        );

    private static void Said(string? part, string? fault)
    {
        if (part is null)
            Assert.Null(fault);
        else
            Assert.Contains(part, fault ?? "it was let through", StringComparison.Ordinal);
    }
}
