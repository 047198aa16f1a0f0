using Keralith.Core.Formats;
using Keralith.Core.Lifts;
using Xunit;
using static Keralith.Core.Tests.GivenLift;

namespace Keralith.Core.Tests;

/// <summary>What a sling may carry by hitch, choke, bend, book and heat, each limit at, just below and just above.</summary>
public class LiftTests
{
    [Theory]
    [InlineData("90 deg", 600.0)]
    [InlineData("60 deg", 692.8)]
    [InlineData("45 deg", 848.5)]
    [InlineData("30 deg", 1200.0)]
    public void Twelve_hundred_pounds_on_two_legs_pulls_harder_the_flatter_they_hang(string angle, double pounds)
    {
        var leg = Alike(Chain, angle: angle, weight: "1200 lb").Legs[0];
        Assert.Equal(pounds, (double)leg.Tension!.Value / 0.45359237, pounds / 1000);
    }

    [Theory]
    [InlineData("29.99 deg", LiftOutcome.NotPermitted)]
    [InlineData("30 deg", LiftOutcome.Caution)]
    [InlineData("44.99 deg", LiftOutcome.Caution)]
    [InlineData("45 deg", LiftOutcome.Ok)]
    public void Legs_under_thirty_degrees_lift_nothing_and_under_forty_five_want_watching(
        string angle,
        LiftOutcome outcome
    ) => Assert.Equal(outcome, Alike(Chain, angle: angle).Outcome);

    [Theory]
    [InlineData("59.9 deg", LiftOutcome.Caution)]
    [InlineData("60 deg", LiftOutcome.Ok)]
    public void Japan_wants_sixty_degrees_as_a_rule(string angle, LiftOutcome outcome) =>
        Assert.Equal(outcome, Alike(Chain, angle: angle, books: "japan").Outcome);

    [Theory]
    [InlineData("choker", "59.9 deg", false, LiftOutcome.NotPermitted)]
    [InlineData("choker", "60 deg", false, LiftOutcome.Ok)]
    [InlineData("choker", "44.9 deg", true, LiftOutcome.NotPermitted)]
    [InlineData("choker", "45 deg", true, LiftOutcome.Ok)]
    [InlineData("basket", "59.9 deg", false, LiftOutcome.NotPermitted)]
    [InlineData("basket", "60 deg", false, LiftOutcome.Ok)]
    public void Two_choked_legs_or_baskets_hang_no_flatter_than_sixty_a_double_wrap_than_forty_five(
        string hitch,
        string angle,
        bool wrapped,
        LiftOutcome outcome
    ) =>
        Assert.Equal(
            outcome,
            Alike(
                Web,
                angle: angle,
                hitch: hitch,
                extra: $",\"chokeAngle\":\"130 deg\",\"doubleWrap\":{(wrapped ? "true" : "false")}"
            ).Outcome
        );

    [Theory]
    [InlineData(Chain, "120.01 deg", 0.80)]
    [InlineData(Chain, "120 deg", 0.80 * 0.87)]
    [InlineData(Chain, "90 deg", 0.80 * 0.87)]
    [InlineData(Chain, "89.99 deg", 0.80 * 0.74)]
    [InlineData(Chain, "60 deg", 0.80 * 0.74)]
    [InlineData(Chain, "59.99 deg", 0.80 * 0.62)]
    [InlineData(Chain, "30 deg", 0.80 * 0.62)]
    [InlineData(Chain, "29.99 deg", 0.80 * 0.49)]
    [InlineData(Rope, "90 deg", 0.73 * 0.87)]
    [InlineData(FiberRope, "90 deg", 0.75 * 0.87)]
    [InlineData(Web, "120.01 deg", 0.80)]
    [InlineData(Web, "120 deg", 0.80 * 0.82)]
    [InlineData(Web, "105 deg", 0.80 * 0.82)]
    [InlineData(Web, "104.99 deg", 0.80 * 0.71)]
    [InlineData(Round, "90 deg", 0.80 * 0.71)]
    [InlineData(Round, "89.99 deg", 0.80 * 0.58)]
    [InlineData(Web, "60 deg", 0.80 * 0.58)]
    [InlineData(Web, "59.99 deg", 0.80 * 0.50)]
    [InlineData(Mesh, "121 deg", 1.00)]
    public void A_tight_choke_takes_its_row_of_the_table(string sling, string choke, double factor)
    {
        var piece = Alike(sling, 1, "90 deg", "choker", $",\"chokeAngle\":\"{choke}\"").Legs[0].Pieces[0];
        Assert.Equal(3000 * factor, (double)piece.Allowed!.Value, 6);
    }

    [Fact]
    public void A_choke_nobody_has_measured_is_asked_about_and_computed_with_the_lowest_row()
    {
        var piece = Alike(Rope, 1, "90 deg", "choker").Legs[0].Pieces[0];
        Assert.Equal((LiftOutcome.Ask, 3000 * 0.73m * 0.49m), (piece.Outcome, piece.Allowed));
        Assert.Equal(LiftOutcome.Ask, Alike(Mesh, 1, "90 deg", "choker", ",\"chokeAngle\":\"120 deg\"").Outcome);
    }

    [Theory]
    [InlineData("australia", Chain, "square", 0.75)]
    [InlineData("australia", Web, "round", 0.75)]
    [InlineData("australia", Web, "square", 0.50)]
    [InlineData("europe", Rope, "round", 0.80)]
    [InlineData("asme europe", Rope, "round", 0.73)]
    [InlineData("asme australia", FiberRope, "round", 0.75)]
    public void Each_book_has_its_own_choker_and_the_smallest_counts(
        string books,
        string sling,
        string contact,
        double factor
    )
    {
        var piece = Alike(sling, 1, "90 deg", "choker", $",\"chokeAngle\":\"130 deg\",\"contact\":\"{contact}\"", books)
            .Legs[0]
            .Pieces[0];
        Assert.Equal(3000 * factor, (double)piece.Allowed!.Value, 6);
    }

    [Theory]
    // What the tag gives for a choker takes the place of the table's share, which is 0.73 of 3000 kg for wire rope.
    [InlineData("asme", "2700 kg", 2700)]
    [InlineData("asme", "2000 kg", 2000)]
    // A book with a share of its own allows no more than that: 0.80 and 0.75.
    [InlineData("europe", "2700 kg", 2400)]
    [InlineData("europe", "2399 kg", 2399)]
    [InlineData("australia", "2700 kg", 2250)]
    // Of several books the least; never more than straight.
    [InlineData("asme europe australia", "2700 kg", 2250)]
    [InlineData("asme", "3500 kg", 3000)]
    public void A_choker_rating_on_the_tag_counts_and_a_books_own_share_caps_it(
        string books,
        string marked,
        double allowed
    )
    {
        var sling = Rope.Replace("}", $",\"tagRatings\":{{\"choker\":\"{marked}\"}}}}", StringComparison.Ordinal);
        var piece = Alike(sling, 1, "90 deg", "choker", ",\"chokeAngle\":\"130 deg\"", books).Legs[0].Pieces[0];
        Assert.Equal(allowed, (double)piece.Allowed!.Value, 6);
    }

    [Theory]
    [InlineData("90 deg", "25", 5000)]
    [InlineData("60 deg", "25", 4330.127019)]
    [InlineData("90 deg", "24", 4600)]
    public void A_basket_rating_on_the_tag_counts_with_angle_and_bend(string angle, string bend, double allowed)
    {
        var sling = Rope.Replace("}", ",\"tagRatings\":{\"basket\":\"5000 kg\"}}", StringComparison.Ordinal);
        var piece = Alike(sling, 1, angle, "basket", $",\"bendRatio\":{bend}").Legs[0].Pieces[0];
        Assert.Equal(allowed, (double)piece.Allowed!.Value, 5);
    }

    [Theory]
    [InlineData(Rope, "25", 1.00, LiftOutcome.Ok)]
    [InlineData(Rope, "24.9", 0.92, LiftOutcome.Caution)]
    [InlineData(Rope, "19.9", 0.89, LiftOutcome.Caution)]
    [InlineData(Rope, "14.9", 0.86, LiftOutcome.Caution)]
    [InlineData(Rope, "9.9", 0.83, LiftOutcome.Caution)]
    [InlineData(Rope, "7.9", 0.79, LiftOutcome.Caution)]
    [InlineData(Rope, "5", 0.77, LiftOutcome.Caution)]
    [InlineData(Rope, "4.9", 0.75, LiftOutcome.Ask)]
    [InlineData(Rope, "3.9", 0.70, LiftOutcome.Ask)]
    [InlineData(Rope, "2", 0.65, LiftOutcome.Ask)]
    [InlineData(Rope, "1", 0.50, LiftOutcome.Ask)]
    [InlineData(Rope, "0.99", null, LiftOutcome.NotPermitted)]
    [InlineData(Chain, "6", 1.00, LiftOutcome.Ok)]
    [InlineData(Chain, "5.9", 0.90, LiftOutcome.Ok)]
    [InlineData(Chain, "4.9", 0.80, LiftOutcome.Ok)]
    [InlineData(Chain, "3.9", 0.70, LiftOutcome.Ok)]
    [InlineData(Chain, "2", 0.60, LiftOutcome.Ok)]
    [InlineData(Chain, "1.99", null, LiftOutcome.NotPermitted)]
    [InlineData(FiberRope, "8", 1.00, LiftOutcome.Ok)]
    [InlineData(FiberRope, "7.9", 1.00, LiftOutcome.Ask)]
    [InlineData(Web, "0.5", 1.00, LiftOutcome.Ok)]
    public void A_basket_bent_sharply_takes_the_next_lower_row(
        string sling,
        string ratio,
        double? factor,
        LiftOutcome outcome
    )
    {
        var piece = Alike(sling, 1, "90 deg", "basket", $",\"bendRatio\":{ratio}").Legs[0].Pieces[0];
        Assert.Equal(outcome, piece.Outcome);
        Assert.Equal(6000 * (decimal?)factor, piece.Allowed);
    }

    [Fact]
    public void A_basket_whose_bend_is_not_known_is_asked_about()
    {
        Assert.Equal(LiftOutcome.Ask, Alike(Rope, 1, "90 deg", "basket").Outcome);
        Assert.Equal(LiftOutcome.Ok, Alike(Round, 1, "90 deg", "basket").Outcome);
    }

    [Fact]
    public void A_basket_carries_the_pull_of_both_its_parts()
    {
        var leg = Alike(Web, 2, "60 deg", "basket").Legs[0];
        Assert.Equal(500, leg.Tension);
        Assert.Equal(500m, leg.Pieces[0].Demand);
        Assert.Equal(500 / (2 * Math.Sin(Math.PI / 3)) * 0.5, (double)leg.Inward!.Value, 6);
        Assert.Equal(2 * 3000 * Math.Sin(Math.PI / 3), (double)leg.Pieces[0].Allowed!.Value, 6);
    }

    [Theory]
    [InlineData("90 deg", 2.0)]
    [InlineData("89 deg", 1.4)]
    [InlineData("45 deg", 1.4)]
    [InlineData("44.9 deg", 1.0)]
    public void Europe_rates_one_basket_by_bands(string angle, double band) =>
        Assert.Equal(
            3000 * band,
            (double)Alike(Web, 1, angle, "basket", books: "europe").Legs[0].Pieces[0].Allowed!.Value,
            6
        );

    [Theory]
    [InlineData(2, "45 deg", 1.4)]
    [InlineData(2, "44.9 deg", 1.0)]
    [InlineData(3, "60 deg", 2.1)]
    [InlineData(4, "40 deg", 1.5)]
    public void Europe_rates_several_legs_by_bands(int legs, string angle, double band) =>
        Assert.Equal(3000 * band, (double)Alike(Chain, legs, angle, books: "europe").Capacity!.Value, 0.3);

    [Theory]
    [InlineData("80", "399 F", null, 1.00)]
    [InlineData("80", "400 F", null, 0.90)]
    [InlineData("80", "401 F", null, 0.85)]
    [InlineData("80", "1000 F", null, 0.40)]
    [InlineData("100", "400 F", null, 0.85)]
    [InlineData("100", "538 C", null, 0.30)]
    [InlineData("80", "60 F", "900 F", 0.80)]
    [InlineData("80", "500 F", "900 F", 0.80)]
    [InlineData("80", "600 F", "600 F", 0.80)]
    [InlineData("80", "1001 F", null, null)]
    [InlineData("80", "60 F", "1001 F", null)]
    public void Heat_takes_its_row_of_chain_while_hot_and_for_good(string grade, string now, string? met, double? left)
    {
        var sling = Chain
            .Replace("\"80\"", $"\"{grade}\"", StringComparison.Ordinal)
            .Replace("}", met is null ? "}" : $",\"hottest\":\"{met}\"}}", StringComparison.Ordinal);
        var piece = Alike(sling, 1, "90 deg", load: $",\"temperature\":\"{now}\"").Legs[0].Pieces[0];
        Assert.Equal(left is { } f ? 3000 * f : null, (double?)piece.Allowed);
        if (left is null)
            Assert.Equal(LiftOutcome.NotPermitted, piece.Outcome);
    }

    [Theory]
    [InlineData("europe", "200 C", 1.00)]
    [InlineData("europe", "201 C", 0.90)]
    [InlineData("europe", "300 C", 0.90)]
    [InlineData("europe", "301 C", 0.75)]
    [InlineData("europe", "400 C", 0.75)]
    [InlineData("europe", "401 C", null)]
    [InlineData("asme europe", "250 C", 0.85)]
    public void Europe_has_its_own_heat_and_of_several_books_the_larger_counts(
        string books,
        string now,
        double? left
    ) =>
        Assert.Equal(
            left is { } f ? 3000 * f : null,
            (double?)
                Alike(Chain, 1, "90 deg", load: $",\"temperature\":\"{now}\"", books: books).Legs[0].Pieces[0].Allowed
        );

    [Theory]
    [InlineData(Web, "194 F", "asme", LiftOutcome.Ok)]
    [InlineData(Web, "195 F", "asme", LiftOutcome.Ask)]
    [InlineData(Web, "181 F", "osha", LiftOutcome.Ask)]
    [InlineData(Web, "-41 F", "asme", LiftOutcome.Ask)]
    [InlineData(Rope, "400 F", "asme", LiftOutcome.Ok)]
    [InlineData(Rope, "401 F", "asme", LiftOutcome.Ask)]
    [InlineData("""{"family":"wire-rope-sling","ratedLoad":"3 t"}""", "70 F", "asme", LiftOutcome.Ask)]
    [InlineData("""{"family":"web-sling","ratedLoad":"3 t"}""", "70 F", "asme", LiftOutcome.Ask)]
    [InlineData(Chain, "-41 F", "asme", LiftOutcome.Ask)]
    [InlineData("""{"family":"alloy-chain-sling","grade":"120","ratedLoad":"3 t"}""", "400 F", "asme", LiftOutcome.Ask)]
    [InlineData(
        """{"family":"wire-rope-sling","core":"fiber","ratedLoad":"3 t","hottest":"201 F"}""",
        "70 F",
        "osha",
        LiftOutcome.NotPermitted
    )]
    public void A_temperature_outside_the_table_or_with_no_row_is_asked_about(
        string sling,
        string temperature,
        string books,
        LiftOutcome outcome
    ) =>
        Assert.Equal(
            outcome,
            Alike(sling, 1, "90 deg", load: $",\"temperature\":\"{temperature}\"", books: books).Outcome
        );

    [Theory]
    [InlineData("""{"family":"alloy-chain-sling","grade":"70","ratedLoad":"3 t"}""")]
    [InlineData("""{"family":"wire-rope-sling","lay":"lang","ratedLoad":"3 t"}""")]
    public void What_is_not_made_for_lifting_never_lifts(string sling) =>
        Assert.Equal(LiftOutcome.NotPermitted, Alike(sling, 1, "90 deg", weight: "1 kg").Outcome);

    [Theory]
    [InlineData("asme", LiftOutcome.Ask)]
    [InlineData("ontario", LiftOutcome.NotPermitted)]
    [InlineData("asme osha-construction", LiftOutcome.NotPermitted)]
    public void An_eye_made_with_clips_is_asked_about_or_ruled_out(string books, LiftOutcome outcome)
    {
        Assert.Equal(
            outcome,
            Alike(
                """{"family":"wire-rope-sling","termination":"clips","ratedLoad":"3 t","designFactor":6}""",
                1,
                "90 deg",
                books: books
            ).Outcome
        );
        Assert.Equal(outcome, Component("""{"kind":"clip-eye","ratedLoad":"3 t"}""", books: books).Outcome);
    }

    [Theory]
    [InlineData("7171 lb", LiftOutcome.Ok)]
    [InlineData("7172 lb", LiftOutcome.Ask)]
    public void A_tag_more_than_a_hundredth_above_its_size_and_grade_is_asked_about(
        string rated,
        LiftOutcome outcome
    ) =>
        Assert.Equal(
            outcome,
            Alike(
                $$"""{"family":"alloy-chain-sling","size":"3/8 in","grade":"80","ratedLoad":"{{rated}}"}""",
                1,
                "90 deg"
            ).Outcome
        );

    [Theory]
    [InlineData("2400 kg", LiftOutcome.Ok)]
    [InlineData("2400.01 kg", LiftOutcome.Caution)]
    [InlineData("3000 kg", LiftOutcome.Caution)]
    [InlineData("3000.01 kg", LiftOutcome.Overloaded)]
    public void Over_four_fifths_wants_watching_and_over_the_whole_is_overloaded(string weight, LiftOutcome outcome) =>
        Assert.Equal(outcome, Alike(Chain, 1, "90 deg", weight: weight).Outcome);

    [Theory]
    [InlineData("three-share", 1000 / 3.0)]
    [InlineData("two-carry", 500)]
    public void Four_legs_count_as_three_or_as_two(string four, double tension) =>
        Assert.Equal(
            tension,
            (double)Alike(Chain, 4, "90 deg", more: $",\"fourLegs\":\"{four}\"").Legs[3].Tension!.Value,
            6
        );

    [Fact]
    public void Crossed_slings_are_made_for_twice_the_tension_and_reeved_ones_are_not_made()
    {
        var crossed = Alike(Chain, extra: ",\"crossed\":true").Legs[0];
        Assert.Equal(2 * crossed.Tension, crossed.Pieces[0].Demand);
        var reeved = Alike(Chain, extra: ",\"reeved\":true");
        Assert.Equal((LiftOutcome.NotPermitted, (decimal?)null), (reeved.Outcome, reeved.Capacity));
        Assert.Equal(3000m, reeved.Legs[0].Pieces[0].Allowed);
    }

    [Fact]
    public void A_tags_table_is_a_ceiling_and_gives_nothing_flatter_than_its_last_row()
    {
        const string Table =
            ""","tagTable":[{"hitch":"vertical","angle":"60 deg","ratedLoad":"5000 kg"},{"hitch":"vertical","angle":"45 deg","ratedLoad":"4000 kg"}]}""";
        var sling = Chain.Replace("}", Table, StringComparison.Ordinal);
        Assert.Equal(5000, (double)Alike(sling, angle: "60 deg").Capacity!.Value, 6);
        Assert.Equal(4000, (double)Alike(sling, angle: "59.9 deg").Capacity!.Value, 6);
        Assert.Equal(LiftOutcome.NotPermitted, Alike(sling, angle: "44.9 deg").Outcome);
        Assert.Equal(
            LiftOutcome.NotPermitted,
            Alike(sling, angle: "60 deg", hitch: "choker", extra: ",\"chokeAngle\":\"130 deg\"").Outcome
        );
        Assert.Equal(4000, (double)Alike(sling, angle: "60 deg", books: "ontario").Capacity!.Value, 6);
    }

    [Fact]
    public void Level_legs_have_no_figure_and_never_throw()
    {
        foreach (var angle in new[] { "0 deg", "0.00000001 deg" })
        {
            var level = Alike(Chain, angle: angle, weight: "1000000000 kg");
            Assert.Equal(LiftOutcome.NotPermitted, level.Outcome);
            Assert.Empty(level.Legs);
            Assert.Null(level.Capacity);
        }

        Assert.Equal(
            LiftOutcome.NotPermitted,
            Alike(
                """{"family":"web-sling","ratedLoad":"0.000000000001 kg"}""",
                angle: "0.001 deg",
                weight: "1000000000 kg"
            ).Outcome
        );
    }

    [Theory]
    [InlineData("""{"format":"keralith.lift/1"}""", "$.load", "$.symmetric")]
    [InlineData(
        """{"format":"keralith.lift/1","load":{"weight":"-1 kg"},"symmetric":{"legs":2,"angle":"91 deg","hitch":"noose","sling":{"family":"shackle"}}}""",
        "$.load.weight",
        "$.symmetric.angle",
        "$.symmetric.hitch",
        "$.symmetric.sling.family"
    )]
    [InlineData(
        """{"format":"keralith.lift/1","load":{"weight":"1 kg"},"symmetric":{"legs":2,"angle":"60 deg","hitch":"vertical","sling":{"family":"web-sling","tagRatings":{"choker":5,"noose":"1 kg"}},"bendRatio":0}}""",
        "$.symmetric.sling.tagRatings.choker",
        "$.symmetric.sling.tagRatings.noose",
        "$.symmetric.bendRatio"
    )]
    [InlineData(
        """{"format":"keralith.lift/1","load":{"weight":"1 kg"},"symmetric":{"legs":1,"angle":"60 deg","hitch":"vertical","sling":{"family":"web-sling"},"components":[{"kind":"hand-chain-hoist"},{"kind":"shackle","offPlumb":"1 deg"}]},"rigging":{}}""",
        "$.symmetric.components[0].kind",
        "$.symmetric.components[1].offPlumb",
        "$.rigging.weight"
    )]
    public void Every_fault_of_a_lift_is_named_by_its_path(string json, params string[] paths)
    {
        var read = LiftReader.Read(json);
        Assert.Null(read.Value);
        Assert.All(paths, p => Assert.Contains(read.Faults, f => f.Path == p));
    }
}
