using Keralith.Core.Custody;
using Keralith.Core.Gear;
using Keralith.Core.Judgement;
using Keralith.Core.People;
using Keralith.Core.Quantities;
using Keralith.Core.Register;
using Keralith.Core.Sites;
using Xunit;

namespace Keralith.Core.Tests;

/// <summary>
/// What is entered of a piece changes freely until somebody inspected it; then with a reason, by who may, and the piece is judged
/// again by what it is now.
/// </summary>
public class ChangeOfFactsTests
{
    private const string Maker = "Orrery Chainworks";

    private static readonly Site Works = new("Works", [RuleBookShelf.Asme], 0.75m, 30, false, false);
    private static readonly Grounds Paper = new("The certificate says so", Guid.NewGuid());

    private static readonly Piece Inspected = GivenPiece.Shackle() with { Maker = Maker, Verdict = VerdictKind.Fit };

    private static readonly Dictionary<BaselineKey, BaselineFigure> Known = GivenPiece.Figures(Inspected.Gear);

    private static readonly BaselineKey Pin = Known.Keys.First(k => k.Part.Contains("pin", StringComparison.Ordinal));

    /// <summary>Its last full inspection: no fault, and every measure an inch less 3 %.</summary>
    private static readonly Case Standing = new(
        Works.Books,
        InspectionKind.Periodic,
        Inspected.Gear,
        [],
        [
            .. Judge
                .MissingAnswers(new(Works.Books, InspectionKind.Periodic, Inspected.Gear, [], []))
                .Select(m => new Answer(
                    m.Criterion,
                    m.Part,
                    m.Criterion.IsAnswerChosen
                        ? new Chosen(Found.No)
                        : new Measured(Length.Parse("0.97 in"), Length.Parse("1 in"))
                )),
        ]
    );

    private static Checked<ChangeOutcome> Changed(
        Func<PieceEntry, PieceEntry> change,
        Role role = Role.Qualified,
        Grounds? grounds = null,
        Piece? piece = null,
        Site? site = null
    )
    {
        var was = piece ?? Inspected;
        return ChangeOfFacts.Of(
            new(was, change(was.Entry(Known)), Known, site ?? Works)
            {
                Standing = was.Verdict is null ? null : Standing,
            },
            grounds ?? Paper,
            GivenPeople.Signer(role)
        );
    }

    [Theory]
    [InlineData(Role.Crew)]
    [InlineData(Role.Trainee)]
    [InlineData(Role.Auditor)]
    public void The_register_is_written_by_who_keeps_it(Role role) =>
        Assert.Equal(RefusalKind.Forbidden, Changed(e => e with { Serial = "P-2" }, role).Refusal?.Kind);

    [Fact]
    public void A_retired_piece_one_kept_as_evidence_and_another_mark_or_family_are_not_changed()
    {
        Said("retired", Changed(e => e, piece: Inspected with { State = PieceState.Condemned }));
        Said("retired", Changed(e => e, piece: Inspected with { State = PieceState.Destroyed }));
        Assert.False(Changed(e => e, piece: Inspected with { Locked = "It failed" }).Ok);
        Said("never change", Changed(e => e with { Mark = Mark.Read("HM-2").Value }));
        Said("never change", Changed(e => e with { Gear = GivenPlan.Bare("hook") }));
    }

    [Fact]
    public void The_report_a_piece_was_taken_over_with_stands_as_recorded()
    {
        var report = new CarriedOver(new(2025, 12, 1), "An inspector", "Report 7");
        var taken = GivenPiece.Shackle(PieceState.New) with { CarriedOver = report };
        Said(
            "stands as recorded",
            Changed(e => e with { CarriedOver = report with { LastPeriodic = new(2026, 1, 1) } }, piece: taken)
        );
        Said("stands as recorded", Changed(e => e with { CarriedOver = null }, piece: taken));
        Assert.True(Changed(e => e with { Serial = "P-2" }, piece: taken).Ok);
    }

    [Fact]
    public void Until_somebody_inspected_it_everything_is_written_freely()
    {
        var done = Changed(
            e => e with { RatedLoad = Mass.Parse("1 t"), Maker = "Pellow Forge" },
            Role.Stores,
            Grounds.None,
            GivenPiece.Shackle(PieceState.New)
        );
        Assert.Empty(done.Value!.Changes);
        Assert.Equal((PieceState.New, null), (done.Value.State, done.Value.Hold));
    }

    [Theory]
    [InlineData(Role.Stores, null)]
    [InlineData(Role.Qualified, null)]
    public void A_slip_of_the_pen_wants_no_reason_and_holds_nothing(Role role, string? why)
    {
        var done = Changed(e => e with { Maker = "ORRERY chain-works" }, role, new(why, null));
        Assert.Empty(done.Value!.Changes);
        Assert.Null(done.Value.Hold);
    }

    [Theory]
    [InlineData(Role.Stores, "The certificate says so", true, "An inspector changes it")]
    [InlineData(Role.Inspector, "The certificate says so", false, null)]
    [InlineData(Role.Inspector, " ", true, "Say why it is changed")]
    [InlineData(Role.Qualified, null, true, "Say why it is changed")]
    public void What_a_verdict_stands_on_is_changed_for_a_reason_by_who_read_it(
        Role role,
        string? why,
        bool file,
        string? refused
    )
    {
        var done = Changed(e => e with { Maker = "Pellow Forge" }, role, new(why, file ? Guid.NewGuid() : null));
        if (refused is null)
            Assert.Equal("maker", Assert.Single(done.Value!.Changes).Field);
        else
            Said(refused, done);
    }

    [Theory]
    // Worn to 0.97 in; 10 % removes: from 1.0778 in when new on.
    [InlineData("1.05 in", null)]
    [InlineData("1.077 in", null)]
    [InlineData("1.08 in", PieceState.Held)]
    [InlineData("1.2 in", PieceState.Held)]
    public void A_figure_when_new_put_right_judges_the_last_inspection_again(string whenNew, PieceState? held)
    {
        var done = Changed(e =>
            e with
            {
                Baselines = new Dictionary<BaselineKey, BaselineFigure>
                {
                    [Pin] = new(Length.Parse(whenNew), BaselineBasis.New),
                },
            }
        );
        Assert.Equal(held ?? PieceState.InService, done.Value!.State);
        Assert.Equal(held is null ? null : HoldCause.FactsChanged, done.Value.Hold?.Cause);
        Assert.Equal(Pin, Assert.Single(done.Value.Figures).Key);
    }

    [Fact]
    public void A_figure_when_new_is_put_right_by_a_qualified_person_with_the_paper()
    {
        PieceEntry Right(PieceEntry e) =>
            e with
            {
                Baselines = new Dictionary<BaselineKey, BaselineFigure>
                {
                    [Pin] = new(Length.Parse("1.05 in"), BaselineBasis.New),
                },
            };
        Said("A qualified person changes it", Changed(Right, Role.Inspector));
        Said("attach the paper", Changed(Right, grounds: new("Misread", null)));
        Assert.True(Changed(Right).Ok);
    }

    [Fact]
    public void The_model_it_turns_out_to_be_brings_its_makers_limit()
    {
        var strict = Works.With(new EnteredLimit(LimitOwner.Maker, Maker, "T-1", Pin.Criterion, "2 %", "Leaflet"));
        var known = Inspected with { Model = "T-2" };
        Assert.Equal(PieceState.Held, Changed(e => e with { Model = "T-1" }, piece: known, site: strict).Value!.State);
        Assert.Null(Changed(e => e with { Model = "T-3" }, piece: known, site: strict).Value!.Hold);

        // What nobody knew was held to it all along; to be of another model holds nothing, and lets nothing go.
        Assert.Null(Changed(e => e with { Model = "T-1" }, site: strict).Value!.Hold);
        Assert.Null(Changed(e => e with { Model = "T-2" }, site: strict).Value!.Hold);
        Assert.Equal(
            PieceState.Held,
            Changed(
                e => e with { Model = "T-2" },
                piece: Inspected with
                {
                    State = PieceState.Held,
                    OpenHolds = ["Rules changed"],
                },
                site: strict
            ).Value!.State
        );
        Assert.Equal(PieceState.Held, Changed(e => e with { Model = null }, piece: known, site: strict).Value!.State);
    }

    [Fact]
    public void A_marking_that_says_less_or_more_than_it_did_is_looked_at()
    {
        var less = Changed(e => e with { TagEntries = [] });
        Assert.Contains("comes out worse", less.Value!.Hold!.Reason, StringComparison.Ordinal);
        var more = Changed(
            e => e with { TagEntries = Inspected.TagEntries },
            piece: Inspected with
            {
                TagEntries = [],
            }
        );
        Assert.Contains("comes out milder", more.Value!.Hold!.Reason, StringComparison.Ordinal);
    }

    private static void Said(string part, Checked<ChangeOutcome> done) =>
        Assert.Contains(part, done.Fault ?? "it was let through", StringComparison.Ordinal);
}
