using Keralith.Core.Custody;
using Keralith.Core.Gear;
using Keralith.Core.Judgement;
using Keralith.Core.People;
using Keralith.Core.Quantities;
using Keralith.Core.Register;
using Keralith.Core.Signing;
using Keralith.Core.Tags;
using Xunit;

namespace Keralith.Core.Tests;

/// <summary>
/// A reading is held against what was read last, a figure when new against what was read since, a marking against
/// itself: the milder of two never takes the other's place in silence.
/// </summary>
public class ReadingsOnRecordTests
{
    private static readonly Guid Maud = Guid.NewGuid();
    private static readonly Guid Piet = Guid.NewGuid();

    private const string Throat = "hook.throat";

    private static EarlierRecord Read(
        string value,
        int month,
        Guid? by = null,
        string whenNew = "45 mm",
        string? instrument = "K-7",
        string uncertainty = "0 mm"
    ) =>
        new(
            Given.Case(
                Given.OneHook,
                $$"""{"criterion":"hook.throat","part":"hook","value":"{{value}}","baseline":"{{whenNew}}","uncertainty":"{{uncertainty}}"}"""
            ),
            new(2026, month, 1),
            new(2026, month, 1, 8, 0, 0, TimeSpan.Zero),
            by ?? Maud,
            instrument is null ? [] : [$"{instrument}, +/- 0.02 mm, calibrated to 2027-01-01"]
        );

    private static Finding Now(
        string value,
        IEnumerable<EarlierRecord> earlier,
        Guid? by = null,
        string instrument = "K-7",
        string whenNew = "45 mm",
        string uncertainty = "0 mm",
        DateTimeOffset? replaced = null
    )
    {
        var answer = new DraftAnswer("hook", Throat, new(Value: value), null, "Somebody", DateTimeOffset.UnixEpoch)
        {
            Hand = by ?? Maud,
            Instrument = new(instrument, Length.Parse("0.02 mm"), new(2027, 1, 1)),
        };
        var parts = replaced is { } at ? new Dictionary<string, DateTimeOffset> { ["hook"] = at } : [];
        var @case = Given.Case(
            Given.OneHook,
            $$"""{"criterion":"hook.throat","part":"hook","value":"{{value}}","baseline":"{{whenNew}}","uncertainty":"{{uncertainty}}"}"""
        );
        return Judge.Of(@case with { Last = LastReadings.Of(earlier, parts, [answer], Maud) }).Findings[0];
    }

    /// <summary>Of 45.81 mm two hundredths are 0.9162: down to 44.8938 mm is what a rule and a caliper differ by.</summary>
    [Theory]
    [InlineData("44.9 mm", Outcome.Clear)]
    [InlineData("44.8938 mm", Outcome.Clear)]
    [InlineData("44.8937 mm", Outcome.Hold)]
    [InlineData("44.1 mm", Outcome.Hold)]
    public void A_throat_that_closed_since_it_was_last_read_is_held(string value, Outcome outcome)
    {
        var finding = Now(value, [Read("45.81 mm", 3)]);
        Assert.Equal(outcome, finding.Outcome);
        if (outcome == Outcome.Hold)
            Assert.Contains("45.81 mm read on 2026-03-01", finding.Reason, StringComparison.Ordinal);
    }

    [Theory]
    [InlineData("44.81 mm", Outcome.Clear)]
    [InlineData("44.8 mm", Outcome.Hold)]
    public void Both_uncertainties_together_are_allowed_for_where_they_are_more(string value, Outcome outcome) =>
        Assert.Equal(outcome, Now(value, [Read("45.81 mm", 3, uncertainty: "0.6 mm")], uncertainty: "0.4 mm").Outcome);

    [Fact]
    public void A_second_reading_by_another_instrument_or_person_clears_it()
    {
        EarlierRecord[] earlier = [Read("45.81 mm", 3), Read("44.1 mm", 6)];
        Assert.Equal(Outcome.Hold, Now("44.1 mm", earlier).Outcome);
        Assert.Equal(Outcome.Clear, Now("44.1 mm", earlier, by: Piet).Outcome);
        Assert.Equal(Outcome.Clear, Now("44.1 mm", earlier, instrument: "K-8").Outcome);
        Assert.Equal(Outcome.Hold, Now("43 mm", earlier, by: Piet).Outcome);

        // Confirmed, it is what later readings are held against.
        EarlierRecord[] confirmed = [.. earlier, Read("44.15 mm", 7, Piet)];
        Assert.Equal(Outcome.Clear, Now("44.1 mm", confirmed).Outcome);
        EarlierRecord[] alone = [.. earlier, Read("44.15 mm", 7)];
        Assert.Equal(Outcome.Hold, Now("44.1 mm", alone).Outcome);
    }

    [Fact]
    public void A_part_replaced_since_begins_anew() =>
        Assert.Equal(
            Outcome.Clear,
            Now(
                "44.1 mm",
                [Read("45.81 mm", 3)],
                whenNew: "44 mm",
                replaced: new(2026, 5, 1, 0, 0, 0, TimeSpan.Zero)
            ).Outcome
        );

    /// <summary>The hook was 35 mm wide when new; somebody enters 60, and it is opened to 62.</summary>
    [Fact]
    public void A_figure_when_new_that_the_record_contradicts_is_not_believed()
    {
        EarlierRecord[] earlier = [Read("35.2 mm", 3, whenNew: "35 mm")];
        var finding = Now("62 mm", earlier, whenNew: "60 mm");
        Assert.Equal(Outcome.Hold, finding.Outcome);
        Assert.Contains("can't have been 60 mm when new: 35.2 mm was read on 2026-03-01", finding.Reason);
        Assert.Equal(Outcome.Hold, Now("62 mm", earlier, by: Piet, whenNew: "60 mm").Outcome);
    }

    [Theory]
    [InlineData("37.05 mm", Outcome.Clear)]
    [InlineData("37.06 mm", Outcome.Hold)]
    public void A_figure_when_new_may_lie_as_far_from_the_record_as_a_reading_may(string whenNew, Outcome outcome) =>
        Assert.Equal(outcome, Now(whenNew, [Read("35.2 mm", 3, whenNew: "35.2 mm")], whenNew: whenNew).Outcome);

    [Fact]
    public void A_reading_that_was_doubtful_when_it_was_made_tells_nothing_later() =>
        Assert.Equal(Outcome.Clear, Now("45.1 mm", [Read("40 mm", 3)]).Outcome);

    [Theory]
    [InlineData("hook.throat", "1-3/8 in", "1-1/2 in", true)]
    [InlineData("hook.throat", "1-3/8 in", "1-1/4 in", false)]
    [InlineData("hook.wear", "1 in", "7/8 in", true)]
    [InlineData("hook.wear", "1 in", "1-1/8 in", false)]
    [InlineData("chain.gauge-growth", "300 mm", "303 mm", true)]
    [InlineData("chain.gauge-growth", "300 mm", "297 mm", false)]
    [InlineData("rope.outer-wire", "1 mm", "1.1 mm", true)]
    [InlineData("hook.throat", "1 in", "1 in", false)]
    public void A_figure_when_new_is_milder_one_way(string criterion, string was, string now, bool milder) =>
        Assert.Equal(
            milder,
            Catalogue.Get(criterion).IsMilder(new(GearFamilies.Find("hook")!, []), Length.Parse(was), Length.Parse(now))
        );

    /// <summary>By the size of chain, rope or stock: least and most at, below and above.</summary>
    [Theory]
    [InlineData(
        "alloy-chain-sling",
        "size=10 mm;grade=80;legs=1;endFitting=hook",
        "leg-1/hook",
        "hook.throat",
        "80 mm",
        "80.1 mm"
    )]
    [InlineData(
        "alloy-chain-sling",
        "size=10 mm;grade=80;legs=1;endFitting=hook",
        "leg-1/hook",
        "hook.throat",
        "10 mm",
        "9.9 mm"
    )]
    [InlineData(
        "alloy-chain-sling",
        "size=10 mm;grade=80;legs=1;endFitting=hook",
        "leg-1/hook",
        "hook.wear",
        "60 mm",
        "60.1 mm"
    )]
    [InlineData(
        "alloy-chain-sling",
        "size=10 mm;grade=80;legs=1;endFitting=hook",
        "top-link",
        "link.wear",
        "40 mm",
        "40.1 mm"
    )]
    [InlineData("shackle", "size=20 mm;pinType=screw", "pin", "shackle.wear-pin", "50 mm", "50.1 mm")]
    [InlineData("shackle", "size=20 mm;pinType=screw", "body", "shackle.wear-body", "40 mm", "40.1 mm")]
    [InlineData("hand-chain-hoist", "size=8 mm", "load-chain", "hoistchain.wear", "10 mm", "10.1 mm")]
    public void A_figure_when_new_lies_within_what_its_size_can_be(
        string family,
        string stated,
        string part,
        string criterion,
        string may,
        string not
    )
    {
        var gear = new GearPiece(
            GearFamilies.Find(family)!,
            stated
                .Split(';')
                .Select(s => s.Split('='))
                .Select(s => KeyValuePair.Create(s[0], GearAttributes.Find(s[0])!.Read(s[1]).Value))
        );
        PieceEntry Entry(string figure) =>
            GivenPiece
                .Shackle()
                .Entry(
                    new Dictionary<BaselineKey, BaselineFigure>
                    {
                        [new(part, criterion)] = new(Length.Parse(figure), BaselineBasis.New),
                    }
                ) with
            {
                Gear = gear,
                RatedLoad = null,
            };
        Assert.Null(Plausible.RefusalOf(Entry(may)));
        Assert.Contains("misread?", Plausible.RefusalOf(Entry(not))!.Words, StringComparison.Ordinal);
    }

    [Theory]
    [InlineData("basket 4 t", null)]
    [InlineData("basket 4.001 t", "a basket carries twice that at most")]
    [InlineData("basket 100 t", "a basket carries twice that at most")]
    [InlineData("choker 2 t", null)]
    [InlineData("choker 2.001 t", "no hitch of one part carries more")]
    [InlineData("basket 60 deg 3.4 t", null)]
    public void A_marking_that_gives_a_hitch_more_than_it_can_is_held(string rating, string? said)
    {
        var words = TagWords.Plain with { Hitch = Hitch.Vertical, Ratings = [MarkedRating.Read(rating).Value] };
        var tag = Web(words);
        Assert.Equal(said is not null, tag.Stopping.Any(r => r.Check == "rating by hitch"));
        if (said is not null)
            Assert.Contains(said, tag.Stopping.Single(r => r.Check == "rating by hitch").Words);
    }

    [Theory]
    [InlineData("basket 2.001 t", true)]
    [InlineData("basket 2 t", false)]
    [InlineData("vertical 1.001 t", true)]
    public void Of_a_marking_in_a_basket_the_straight_leg_is_half(string rating, bool held)
    {
        var words = TagWords.Plain with { Hitch = Hitch.Basket, Ratings = [MarkedRating.Read(rating).Value] };
        Assert.Equal(held, Web(words).Stopping.Any(r => r.Check == "rating by hitch"));
    }

    private static TagVerdict Web(TagWords words) =>
        TagJudgement.Of(
            new(new(GearFamilies.Find("web-sling")!, []), [], Mass.Parse("2 t"), 5) { Words = words },
            Surroundings.Ordinary,
            [RuleBookShelf.Asme]
        );

    [Theory]
    [InlineData("8000 lb", null, true)]
    [InlineData("8000 lb", "sheet 44", false)]
    [InlineData("30000 lb", "sheet 44", true)]
    public void A_rating_above_the_usual_one_stands_by_its_makers_paper_and_never_beyond_three_times(
        string rated,
        string? paper,
        bool held
    )
    {
        var gear = new GearPiece(
            GearFamilies.Find("alloy-chain-sling")!,
            [new("size", new LengthValue(Length.Parse("3/8 in"))), new("grade", new TextValue("80"))]
        );
        var tag = TagJudgement.Of(
            new(gear, [], Mass.Parse(rated), 4) { RatingPaper = paper },
            Surroundings.Ordinary,
            [RuleBookShelf.Asme]
        );
        Assert.Equal(
            held,
            tag.Remarks.Any(r => r is { Check: "rating and size" or "size and grade", Outcome: Outcome.Hold })
        );
    }

    [Fact]
    public void Whoever_gave_an_answer_of_the_clean_inspection_closes_no_hold_by_it()
    {
        var hold = new OpenHold(Guid.NewGuid(), HoldCause.VerdictHold, new(1));
        var qualified = GivenPeople.Signer(Role.Qualified);
        SignedInspection Clean(params Guid[] hands) =>
            new(InspectionKind.Periodic, VerdictKind.Fit, new(2), Guid.NewGuid()) { Hands = hands };
        Assert.True(HoldRules.MayClose(hold, qualified, "Sound", [Clean(Maud)], null, false).Ok);
        Assert.False(HoldRules.MayClose(hold, qualified, "Sound", [Clean(qualified.Person)], null, false).Ok);
        Assert.True(
            HoldRules.MayClose(hold, qualified, "Sound", [Clean(qualified.Person), Clean(Maud)], null, false).Ok
        );
    }
}
