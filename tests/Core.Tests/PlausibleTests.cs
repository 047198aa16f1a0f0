using Keralith.Core.Gear;
using Keralith.Core.Judgement;
using Keralith.Core.Quantities;
using Keralith.Core.Register;
using Keralith.Core.Tags;
using Xunit;
using Outcome = Keralith.Core.Gear.Outcome;

namespace Keralith.Core.Tests;

/// <summary>What can't be so is refused, what is unlikely is asked: all that is entered of a piece together.</summary>
public class PlausibleTests
{
    [Theory]
    [InlineData("shackle", "size=7/8 in;pinType=screw", "6-1/2 short ton", false, false)]
    [InlineData("shackle", "size=7/8 in;pinType=screw", "14 short ton", false, false)]
    [InlineData("shackle", "size=7/8 in;pinType=screw", "15 short ton", true, false)]
    [InlineData("shackle", "size=7/8 in;pinType=screw", "90 t", true, true)]
    [InlineData(
        "wire-rope-sling",
        "size=1/2 in;body=strand-laid;core=iwrc;termination=swaged;legs=1",
        "2.5 short ton",
        false,
        false
    )]
    [InlineData(
        "wire-rope-sling",
        "size=1/2 in;body=strand-laid;core=iwrc;termination=swaged;legs=1",
        "4 short ton",
        true,
        false
    )]
    [InlineData(
        "wire-rope-sling",
        "size=1/2 in;body=strand-laid;core=iwrc;termination=swaged;legs=1",
        "25 short ton",
        true,
        true
    )]
    [InlineData("eye-bolt", "size=1/2 in;shoulder=true;material=carbon", "2600 lb", false, false)]
    [InlineData("eye-bolt", "size=1/2 in;shoulder=true;material=carbon", "7000 lb", true, false)]
    [InlineData("eye-bolt", "size=1/2 in;shoulder=true;material=carbon", "26000 lb", true, true)]
    [InlineData("alloy-chain-sling", "size=3/8 in;grade=80;legs=2;endFitting=hook", "12200 lb", false, false)]
    [InlineData("alloy-chain-sling", "size=3/8 in;grade=80;legs=2;endFitting=hook", "14342 lb", false, false)]
    [InlineData("alloy-chain-sling", "size=3/8 in;grade=80;legs=2;endFitting=hook", "14343 lb", true, false)]
    [InlineData("alloy-chain-sling", "size=3/8 in;grade=80;legs=2;endFitting=hook", "122000 lb", true, true)]
    public void A_rating_far_above_what_the_size_carries_is_asked_about_and_one_no_gear_has_is_refused(
        string family,
        string made,
        string rated,
        bool asked,
        bool refused
    )
    {
        var entry = Entry(family, made, ("ratedLoad", rated));
        Assert.Equal(refused, Plausible.RefusalOf(entry) is not null);
        var tag = TagJudgement.Of(
            new(
                entry.Gear,
                entry.Gear.Family.TagEntries.Select(e => e.Code).ToList(),
                entry.RatedLoad,
                entry.DesignFactor
            ),
            Surroundings.Ordinary,
            [RuleBookShelf.Asme]
        );
        Assert.Equal(asked, tag.Remarks.Any(r => r is { Check: "rating and size", Outcome: Outcome.Hold }));
    }

    [Theory]
    [InlineData("15 in", "10", true)]
    [InlineData("12.5 in", "10", true)]
    [InlineData("12.4 in", "10", false)]
    [InlineData("18 in", "10", true)]
    [InlineData("18.1 in", "10", false)]
    [InlineData("60 in", "33", false)]
    public void A_gauge_length_goes_with_its_links(string length, string links, bool can)
    {
        var entry = Entry(
            "alloy-chain-sling",
            "size=1/2 in;grade=80;legs=1;endFitting=hook",
            ("baseline:leg-1:chain.gauge-growth", length),
            ("links:leg-1:chain.gauge-growth", links)
        );
        Assert.Equal(can, Plausible.RefusalOf(entry) is null);
    }

    [Theory]
    [InlineData("baseline:body:shackle.wear-body", "0.4 in", false)]
    [InlineData("baseline:body:shackle.wear-body", "7/8 in", true)]
    [InlineData("baseline:body:shackle.wear-body", "2 in", false)]
    [InlineData("baseline:pin:shackle.wear-pin", "1 in", true)]
    [InlineData("baseline:pin:shackle.wear-pin", "25.4 in", false)]
    [InlineData("ownWeight", "5 lb", true)]
    [InlineData("ownWeight", "7 short ton", false)]
    public void A_figure_goes_with_its_size(string field, string value, bool can) =>
        Assert.Equal(
            can,
            Plausible.RefusalOf(
                Entry("shackle", "size=7/8 in;pinType=screw", ("ratedLoad", "6-1/2 short ton"), (field, value))
            )
                is null
        );

    [Fact]
    public void All_figures_one_size_up_are_asked_about_against_what_was_measured()
    {
        var gear = Entry("wire-rope-sling", "size=1/2 in;body=strand-laid;core=iwrc;termination=swaged;legs=1").Gear;
        var measured = new Case(
            [RuleBookShelf.Asme],
            InspectionKind.Periodic,
            gear,
            [],
            [
                new(
                    Catalogue.Get("rope.diameter"),
                    "leg-1",
                    new Measured(Length.Parse("0.49 in"), Length.Parse("1/2 in"))
                ),
            ]
        );
        Assert.Null(Plausible.AgainstMeasured(measured, gear));
        var up = Entry("wire-rope-sling", "size=3/4 in;body=strand-laid;core=iwrc;termination=swaged;legs=1").Gear;
        Assert.Contains("0.49 in was measured", Plausible.AgainstMeasured(measured, up), StringComparison.Ordinal);
    }

    [Theory]
    [InlineData("8", 80)]
    [InlineData("T", 80)]
    [InlineData("t", 80)]
    [InlineData("800", 80)]
    [InlineData("V", 100)]
    [InlineData("10", 100)]
    [InlineData("120", 120)]
    [InlineData("A", null)]
    public void Grade_letters_are_read_and_one_that_names_no_grade_is_asked(string mark, int? grade)
    {
        var gear = Entry("alloy-chain-sling", $"size=3/8 in;grade={mark};legs=1;endFitting=hook").Gear;
        Assert.Equal(grade, gear.ChainGrade?.Number);
        var tag = TagJudgement.Of(new(gear, [], Mass.Parse("2 t"), 4), Surroundings.Ordinary, [RuleBookShelf.Asme]);
        Assert.Equal(grade is null, tag.Remarks.Any(r => r is { Check: "grade", Outcome: Outcome.Hold }));
    }

    [Theory]
    [InlineData("60 deg", 60)]
    [InlineData("30 deg from the vertical", 60)]
    [InlineData("30 deg vertical", 60)]
    [InlineData("60 deg included", 60)]
    [InlineData("45 deg to the horizontal", 45)]
    public void A_tags_angle_is_read_however_it_is_given(string text, int horizontal) =>
        Assert.Equal(horizontal, Angle.ReadHorizontal(text).Value.Degrees);

    [Theory]
    [InlineData(0, true)]
    [InlineData(-1, false)]
    [InlineData(1, true)]
    public void A_discard_date_and_a_proof_test_stop_the_piece_once_they_are_past(int days, bool may)
    {
        var today = new DateOnly(2026, 3, 2);
        var facts = new Custody.UseFacts
        {
            State = Custody.PieceState.InService,
            OpenHolds = [],
            PeriodicDue = today,
            FrequentDue = null,
            FrequentByCalendar = false,
            RatedLoadKnown = true,
        };
        Assert.Equal(may, Custody.Usability.On(facts with { DiscardOn = today.AddDays(days) }, today).MayBeUsed);
        Assert.Equal(may, Custody.Usability.On(facts with { ProofTestDue = today.AddDays(days) }, today).MayBeUsed);
    }

    private static PieceEntry Entry(string family, string made, params (string Field, string Value)[] more)
    {
        var fields = new Dictionary<string, string>
        {
            ["mark"] = "HM-0001",
            ["family"] = family,
            ["store"] = "1",
        };
        foreach (var part in made.Split(';'))
            fields[part.Split('=')[0]] = part.Split('=')[1];
        foreach (var (field, value) in more)
            fields[field] = value;
        var (entry, faults) = PieceEntryReader.Read(fields);
        Assert.True(entry is not null, string.Join("; ", faults));
        return entry;
    }
}
