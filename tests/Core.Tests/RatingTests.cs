using Keralith.Core.Custody;
using Keralith.Core.Gear;
using Keralith.Core.Lifts;
using Keralith.Core.Quantities;
using Keralith.Core.Register;
using Keralith.Core.Schedule;
using Keralith.Core.Tags;
using Xunit;

namespace Keralith.Core.Tests;

/// <summary>What a sling may carry by hitch and angle, what seats in what, and the season's mark.</summary>
public class RatingTests
{
    [Theory]
    [InlineData("alloy-chain-sling", "asme", Hitch.Choker, 90, "800 kg")]
    [InlineData("alloy-chain-sling", "asme australia", Hitch.Choker, 90, "750 kg")]
    [InlineData("web-sling", "asme", Hitch.Choker, 90, "800 kg")]
    [InlineData("wire-rope-sling", "asme", Hitch.Choker, 90, "730 kg")]
    [InlineData("fiber-rope-sling", "asme", Hitch.Choker, 90, "750 kg")]
    [InlineData("alloy-chain-sling", "asme", Hitch.Basket, 90, "2000 kg")]
    [InlineData("alloy-chain-sling", "asme", Hitch.Basket, 30, "1000 kg")]
    [InlineData("wire-rope-sling", "asme europe", Hitch.Basket, 60, "1400 kg")]
    [InlineData("alloy-chain-sling", "asme ontario", Hitch.Vertical, 90, "800 kg")]
    public void One_leg_carries_by_hitch_what_the_strictest_book_allows(
        string family,
        string books,
        Hitch hitch,
        int angle,
        string load
    )
    {
        var ratings = Ratings(family, 1, "1000 kg", TagWords.Plain with { Hitch = Hitch.Vertical }, books)!;
        Assert.Equal(
            Mass.Parse(load).Kilograms,
            ratings.Rows.Single(r => r.Hitch == hitch && r.Angle.Degrees == angle).Load!.Value.Kilograms,
            6
        );
    }

    [Theory]
    [InlineData(2, 60, "1000 kg")]
    [InlineData(2, 45, "816.4 kg")]
    [InlineData(2, 30, "577.3 kg")]
    [InlineData(4, 60, "1000 kg")]
    public void Several_legs_carry_less_the_flatter_they_hang_and_never_more_than_marked(
        int legs,
        int angle,
        string load
    )
    {
        var ratings = Ratings("alloy-chain-sling", legs, "1000 kg", TagWords.Plain with { Angle = new(60) })!;
        Assert.Equal(
            Mass.Parse(load).Kilograms,
            ratings.Rows.Single(r => r.Hitch == Hitch.Vertical && r.Angle.Degrees == angle).Load!.Value.Kilograms,
            0
        );
        Assert.All(ratings.Rows, r => Assert.True(r.Load is null || r.Load <= Mass.Parse("1000.001 kg")));
    }

    [Fact]
    public void Choked_legs_flatter_than_sixty_degrees_are_not_permitted()
    {
        var rows = Ratings("alloy-chain-sling", 2, "1000 kg", TagWords.Plain with { Angle = new(60) })!
            .Rows.Where(r => r.Hitch == Hitch.Choker)
            .ToList();
        Assert.NotNull(rows.Single(r => r.Angle.Degrees == 60).Load);
        Assert.All(rows.Where(r => r.Angle.Degrees < 60), r => Assert.Null(r.Load));
    }

    [Fact]
    public void What_the_marking_itself_gives_for_a_hitch_counts_where_it_is_less()
    {
        var words = TagWords.Plain with
        {
            Hitch = Hitch.Vertical,
            Ratings = [MarkedRating.Read("choker 700 kg").Value, MarkedRating.Read("basket 45 deg 1900 kg").Value],
        };
        var rows = Ratings("web-sling", 1, "1000 kg", words)!.Rows;
        Assert.Equal(700, rows.Single(r => r.Hitch == Hitch.Choker).Load!.Value.Kilograms);
        Assert.Equal(1900, rows.Single(r => r.Hitch == Hitch.Basket && r.Angle.Degrees == 90).Load!.Value.Kilograms);
        Assert.Null(rows.Single(r => r.Hitch == Hitch.Basket && r.Angle.Degrees == 30).Load);
    }

    [Fact]
    public void A_marking_without_its_angle_is_not_worked_out()
    {
        Assert.Empty(Ratings("alloy-chain-sling", 2, "1000 kg", TagWords.Plain)!.Rows);
        Assert.Null(Ratings("shackle", 1, "1000 kg", TagWords.Plain));
    }

    [Fact]
    public void A_kit_carries_by_its_weakest_bearing_member_and_never_above_the_sets_rating()
    {
        List<KitMember> members =
        [
            KitMember.Read("4; leg; 1000 kg; bears").Value,
            KitMember.Read("1; ring; 5 t; bears").Value,
            KitMember.Read("4; sleeve; -; spare").Value,
        ];
        Assert.Equal(Mass.Parse("1000 kg"), KitMember.OneLeg(members));
        Assert.Null(KitMember.OneLeg([.. members, KitMember.Read("1; hook; -; bears").Value]));
        var rows = HitchRatings.OfKit(KitMember.OneLeg(members)!.Value, 4, Mass.Parse("1500 kg")).Rows;
        Assert.Equal(1000, rows[0].Load!.Value.Kilograms);
        Assert.All(rows, r => Assert.True(r.Load <= Mass.Parse("1500 kg")));
    }

    [Theory]
    [InlineData("34.9 mm", "30 mm", null)]
    [InlineData("35 mm", "30 mm", false)]
    [InlineData("32.1 mm", "30 mm", false)]
    [InlineData("32 mm", "26 mm", false)]
    [InlineData("32 mm", "26.1 mm", true)]
    public void What_is_too_thick_for_throat_or_bowl_or_too_narrow_for_the_section_does_not_seat(
        string stock,
        string inside,
        bool? seats
    )
    {
        var hook = new FitSizes(
            Length.Parse("35 mm"),
            seats is null ? null : Length.Parse("32 mm"),
            null,
            null,
            Length.Parse("26 mm")
        );
        Assert.Equal(seats, SeatCheck.Of(hook, new(null, null, Length.Parse(inside), Length.Parse(stock), null)).Seats);
    }

    [Fact]
    public void The_seasons_mark_counts_to_the_seasons_end_and_the_overlap_and_no_longer()
    {
        var scheme = new SeasonScheme(
            [new("R", "madder", SeasonPattern.Dots), new("K", "teal", SeasonPattern.Ring)],
            3,
            new(2024, 1, 1),
            14,
            true
        );
        Assert.Equal(
            ("K", new DateOnly(2024, 4, 1), new DateOnly(2024, 6, 30)),
            (
                scheme.On(new(2024, 5, 9))!.Mark.Letter,
                scheme.On(new(2024, 5, 9))!.From,
                scheme.On(new(2024, 5, 9))!.Until
            )
        );
        Assert.Equal("R", scheme.On(new(2024, 7, 1))!.Mark.Letter);
        Assert.Null(scheme.On(new(2023, 12, 31)));
        Assert.True(scheme.Counts(new(2024, 1, 1), new(2024, 4, 14)));
        Assert.False(scheme.Counts(new(2024, 1, 1), new(2024, 4, 15)));
        Assert.False(scheme.Counts(null, new(2024, 1, 2)));

        // The same colour two seasons ago is not this season's mark.
        Assert.False(scheme.Counts(new(2024, 1, 1), new(2024, 7, 2)));
    }

    [Theory]
    [InlineData(12, 12, 0, "", 12)]
    [InlineData(12, 12, 1, "bent", 11)]
    [InlineData(12, 10, 0, "two on the boat", 10)]
    [InlineData(12, 10, 0, "", null)]
    [InlineData(12, 13, 0, "", null)]
    [InlineData(12, 3, 4, "bent", null)]
    public void A_count_of_a_lot_explains_every_piece_that_is_not_there(
        int there,
        int seen,
        int rejected,
        string reason,
        int? left
    )
    {
        var after = Lot.AfterCount(PieceState.InService, there, seen, rejected, reason);
        Assert.Equal(left, after.Ok ? after.Value : null);
    }

    [Theory]
    [InlineData(PieceState.Condemned)]
    [InlineData(PieceState.Destroyed)]
    [InlineData(PieceState.Missing)]
    public void Nothing_comes_out_of_a_lot_that_is_gone(PieceState state)
    {
        Assert.False(Lot.AfterSplit(state, 12, "sound").Ok);
        Assert.False(Lot.AfterCount(state, 12, 12, 0, null).Ok);
    }

    [Fact]
    public void What_comes_out_of_a_held_lot_waits_for_a_qualified_person()
    {
        Assert.Equal(HoldCause.Event, Lot.CauseOfSplit(PieceState.Held));
        Assert.Equal(HoldCause.Doubt, Lot.CauseOfSplit(PieceState.InService));
    }

    [Theory]
    [InlineData("1000 F", "asme", true)]
    [InlineData("1001 F", "asme", false)]
    [InlineData("200 C", "asme europe", true)]
    [InlineData("201 C", "asme europe", false)]
    public void Chain_too_hot_for_a_chosen_book_gets_no_figure_at_all(string hottest, string books, bool worked)
    {
        var gear = new GearPiece(GearFamilies.Find("alloy-chain-sling")!, [new("grade", new TextValue("80"))]);
        var met = Surroundings.Ordinary with { Hottest = Temperature.Read(hottest).Value };
        Assert.Equal(
            worked,
            HitchRatings
                .Of(
                    gear,
                    RatedLoadHere.For(gear.Family, Mass.Parse("1 t"), null, Books(books)),
                    TagWords.Plain with
                    {
                        Hitch = Hitch.Vertical,
                    },
                    met,
                    Books(books)
                )!
                .Rows.Count > 0
        );
    }

    [Fact]
    public void A_look_never_names_a_piece_that_something_sure_speaks_against()
    {
        var gear = new GearPiece(
            GearFamilies.Find("alloy-chain-sling")!,
            [new("size", new LengthValue(Length.Parse("10 mm"))), new("legs", new WholeValue(2))]
        );
        var look = Look.Nothing with { Family = "alloy-chain-sling", Legs = 2, Size = Length.Parse("9.1 mm") };
        Assert.True(look.Compare(gear, 1, "A1", null).Likeness > 0);
        Assert.Equal(0, (look with { Size = Length.Parse("8.9 mm") }).Compare(gear, 1, "A1", null).Likeness);
        Assert.Equal(0, (look with { Legs = 1 }).Compare(gear, 1, "A1", null).Likeness);
        Assert.Equal(0, (look with { Serial = "77" }).Compare(gear, 1, "A1", "O-12").Likeness);
        Assert.True(
            (look with { Peg = "a1" }).Compare(gear, 1, "A1", null).Likeness
                > look.Compare(gear, 1, "A1", null).Likeness
        );
    }

    [Fact]
    public void Policies_stop_what_they_name_and_a_foundry_hook_is_excepted_by_name()
    {
        var chain = new GearPiece(GearFamilies.Find("alloy-chain-sling")!, []);
        Assert.Single(new SitePolicies(false, false, NoChainHoisting: true).Against(chain));
        Assert.Empty(new SitePolicies(false, false, CapacityColours: true).Against(chain));
        Assert.Single(
            new SitePolicies(false, false, CapacityColours: true).Against(new(GearFamilies.Find("web-sling")!, []))
        );
        var hook = new GearPiece(GearFamilies.Find("hook")!, []);
        Assert.True(new SitePolicies(true, false).Applied(hook, "Eye hook").LatchPolicy);
        Assert.False(new SitePolicies(true, false).Applied(hook, "Foundry hook").LatchPolicy);
    }

    [Theory]
    [InlineData("2026-03-31", "asme", null)]
    [InlineData("2026-04-01", "asme", "frequent")]
    [InlineData("2026-09-01", "asme", "frequent")]
    [InlineData("2026-09-01", "asme osha", "periodic")]
    [InlineData("2027-03-01", "asme", "periodic")]
    public void An_idle_hoist_wants_an_inspection_before_use(string today, string books, string? wanted)
    {
        var words = Idle.Words(GearFamilies.Find("lever-hoist")!, new(2026, 3, 1), DateOnly.Parse(today), Books(books));
        if (wanted is null)
            Assert.Null(words);
        else
            Assert.Contains(wanted, words, StringComparison.Ordinal);
    }

    private static HitchRatings? Ratings(string family, int legs, string load, TagWords words, string books = "asme")
    {
        var gear = new GearPiece(GearFamilies.Find(family)!, [new("legs", new WholeValue(legs))]);
        return HitchRatings.Of(
            gear,
            RatedLoadHere.For(gear.Family, Mass.Parse(load), null, Books(books)),
            words,
            Surroundings.Ordinary,
            Books(books)
        );
    }

    private static List<RuleBook> Books(string books) => books.Split(' ').Select(b => RuleBookShelf.Find(b)!).ToList();
}
