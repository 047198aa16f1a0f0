using System.Text.Json;
using Keralith.Core.Formats;
using Keralith.Core.Lifts;
using Xunit;
using static Keralith.Core.Tests.GivenLift;

namespace Keralith.Core.Tests;

/// <summary>What hangs, over which edge, below which beam and from which crane: each limit at, just below and just above.</summary>
public class LoadPathTests
{
    private const string Sling = """{"family":"web-sling","ratedLoad":"10 t","designFactor":5}""";

    public static TheoryData<string> Examples =>
        new(
            Cases
                .Where(c => !c.GetProperty("expected").TryGetProperty("error", out _))
                .Select(c => c.GetProperty("name").GetString()!)
        );

    private static IEnumerable<JsonElement> Cases =>
        JsonDocument
            .Parse(
                new StreamReader(typeof(LoadPathTests).Assembly.GetManifestResourceStream("lift-2.json")!).ReadToEnd()
            )
            .RootElement.EnumerateArray();

    // The load.

    [Theory]
    [InlineData("""{"shape":"box","length":"1 m","width":"1 m","height":"1 m","density":"2000 kg/m3"}""", 2000)]
    [InlineData("""{"shape":"plate","length":"2 m","width":"1 m","thickness":"10 mm","of":"steel"}""", 157)]
    [InlineData("""{"shape":"sphere","diameter":"1 m","of":"concrete-plain"}""", 1256.64)]
    [InlineData("""{"shape":"cylinder","diameter":"1 m","length":"2 m","of":"seasoned-oak"}""", 1130.97)]
    [InlineData("""{"shape":"pipe","outside":"200 mm","wall":"100 mm","length":"1 m","of":"steel"}""", 246.62)]
    [InlineData("""{"shape":"prism","area":"100 cm2","length":"10 m","of":"concrete-reinforced","count":2}""", 500)]
    [InlineData("""{"shape":"linear","perLength":"12 kg/m","length":"3 m","count":3}""", 108)]
    [InlineData("""{"shape":"box","length":"1 ft","width":"1 ft","height":"2 ft","density":"100 lb/ft3"}""", 90.72)]
    [InlineData("""{"weight":"15 kg","count":4}""", 60)]
    public void A_part_weighs_its_volume_times_its_density(string part, double kilograms) =>
        Assert.Equal(
            (decimal)kilograms,
            Math.Round(Plumb($$"""{"parts":[{{part}}],"contingency":0}""").Load.Weight.Kilograms, 2)
        );

    [Theory]
    [InlineData("""{"parts":[{"weight":"100 kg"}]}""", 110)]
    [InlineData("""{"parts":[{"weight":"100 kg"}],"contingency":0}""", 100)]
    [InlineData("""{"weight":"100 kg","basis":"marked"}""", 100)]
    [InlineData("""{"weight":"100 kg","basis":"known","contingency":12.5}""", 112.5)]
    [InlineData(
        """{"weighings":[{"at":["0 m","0 m"],"reading":"60 kg"},{"at":["1 m","0 m"],"reading":"40 kg"}]}""",
        100
    )]
    public void A_tenth_is_added_to_parts_and_to_nothing_else_unless_somebody_says(string load, double kilograms) =>
        Assert.Equal((decimal)kilograms, Plumb(load).Load.Weight.Kilograms);

    [Theory]
    [InlineData("""{"weight":"1 t","weighings":[]}""", "$.load.weight")]
    [InlineData("""{}""", "$.load.weight")]
    [InlineData("""{"parts":[]}""", "$.load.parts")]
    [InlineData("""{"parts":[{"weight":"1 t"}],"basis":"weighed"}""", "$.load.basis")]
    [InlineData("""{"weighings":[{"at":["0 m","0 m"],"reading":"1 t"}]}""", "$.load.weighings")]
    [InlineData(
        """{"weighings":[{"at":["0 m","1 m"],"reading":"1 t"},{"at":["0 mm","1000 mm"],"reading":"1 t"}]}""",
        "$.load.weighings[1].at"
    )]
    [InlineData(
        """{"weighings":[{"at":["0 m","0 m"],"reading":"0 kg"},{"at":["1 m","0 m"],"reading":"0 kg"}]}""",
        "$.load.weighings"
    )]
    [InlineData(
        """{"weighings":[{"at":["0 m","0 m"],"reading":"-1 kg"},{"at":["1 m","0 m"],"reading":"9 kg"}]}""",
        "$.load.weighings[0].reading"
    )]
    [InlineData("""{"parts":[{"weight":"1 t","shape":"sphere"}]}""", "$.load.parts[0].weight")]
    [InlineData("""{"parts":[{"shape":"cube","length":"1 m","of":"steel"}]}""", "$.load.parts[0].shape")]
    [InlineData("""{"parts":[{"shape":"sphere","diameter":"1 m"}]}""", "$.load.parts[0].of")]
    [InlineData("""{"parts":[{"shape":"sphere","diameter":"0 m","of":"steel"}]}""", "$.load.parts[0].diameter")]
    [InlineData("""{"parts":[{"shape":"sphere","diameter":"1 m","of":"oak"}]}""", "$.load.parts[0].of")]
    [InlineData(
        """{"parts":[{"shape":"sphere","diameter":"1 m","of":"steel","density":"1 kg/m3"}]}""",
        "$.load.parts[0].of"
    )]
    [InlineData(
        """{"parts":[{"shape":"linear","perLength":"1 kg/m","length":"1 m","of":"steel"}]}""",
        "$.load.parts[0].of"
    )]
    [InlineData(
        """{"parts":[{"shape":"pipe","outside":"200 mm","wall":"100.1 mm","length":"1 m","of":"steel"}]}""",
        "$.load.parts[0].wall"
    )]
    [InlineData("""{"parts":[{"weight":"1 t","count":0}]}""", "$.load.parts[0].count")]
    [InlineData("""{"parts":[{"shape":"sphere","diameter":"90 km","of":"lead"}]}""", "$.load.parts[0]")]
    [InlineData(
        """{"parts":[{"shape":"sphere","diameter":"90000 m","of":"lead","count":2000000000}]}""",
        "$.load.parts[0].count"
    )]
    [InlineData("""{"parts":[{"weight":"900000 t"},{"weight":"900000 t"}]}""", "$.load.parts")]
    [InlineData("""{"weight":"1 t","contingency":100.1}""", "$.load.contingency")]
    public void A_load_that_contradicts_itself_is_no_load(string load, string place)
    {
        var read = LiftReader.Read(PlumbJson(load));
        Assert.Null(read.Value);
        Assert.Contains(read.Faults, f => f.Path.StartsWith(place, StringComparison.Ordinal));
    }

    [Theory]
    [InlineData("1400 mm", "70 mm", LiftOutcome.Ok)]
    [InlineData("1400 mm", "70.1 mm", LiftOutcome.Ask)]
    [InlineData("2000 mm", "100 mm", LiftOutcome.Ok)]
    [InlineData("2000 mm", "400 mm", LiftOutcome.Ask)]
    [InlineData("2000 mm", "400.1 mm", LiftOutcome.NotPermitted)]
    public void A_typed_centre_of_gravity_may_lie_a_twentieth_of_the_picks_from_the_parts_own(
        string apart,
        string typed,
        LiftOutcome outcome
    )
    {
        var half = $"{decimal.Parse(apart.Split(' ')[0], System.Globalization.CultureInfo.InvariantCulture) / 2} mm";
        var lift = Worked(
            $$"""{"format":"keralith.lift/2","load":{"parts":[{"weight":"1 t","at":["0 mm","0 mm","-300 mm"]}]},"geometry":{"hook":["{{typed}}","0 mm","2 m"],"centreOfGravity":["{{typed}}","0 mm","-300 mm"],"legs":[{"pick":["-{{half}}","0 mm","0 mm"],"hitch":"vertical","sling":{{Sling}} },{"pick":["{{half}}","0 mm","0 mm"],"hitch":"vertical","sling":{{Sling}} }]} }"""
        );
        Assert.Equal(outcome, lift.Outcome);
        Assert.Equal(
            double.Parse(typed.Split(' ')[0], System.Globalization.CultureInfo.InvariantCulture),
            lift.Centre!.Value.X,
            1e-9
        );
    }

    [Theory]
    [InlineData("0 mm", null, LiftOutcome.Ask)]
    [InlineData("0 mm", "0 mm", LiftOutcome.Ok)]
    [InlineData("10 mm", "10 mm", LiftOutcome.Ok)]
    [InlineData("10.1 mm", "10.1 mm", LiftOutcome.Ask)]
    [InlineData("40 mm", "40 mm", LiftOutcome.Ask)]
    [InlineData("40.1 mm", "40.1 mm", LiftOutcome.NotPermitted)]
    public void A_centre_weighed_in_plan_has_no_height_and_is_asked_about_until_somebody_types_it(
        string hook,
        string? typed,
        LiftOutcome outcome
    )
    {
        var centre = typed is null
            ? string.Empty
            : $$"""
                "centreOfGravity":["{{typed}}","0 mm","-9 m"],
                """;
        Assert.Equal(
            outcome,
            Worked(
                $$"""{"format":"keralith.lift/2","load":{"weighings":[{"at":["-1 m","0 m"],"reading":"50 kg"},{"at":["1 m","0 m"],"reading":"50 kg"}]},"geometry":{"hook":["{{hook}}","0 mm","2 m"],{{centre}}"legs":[{"pick":["{{hook}}","0 mm","1 m"],"hitch":"vertical","sling":{{Sling}} }]} }"""
            ).Outcome
        );
    }

    [Fact]
    public void Parts_that_do_not_all_have_a_place_give_no_centre_of_gravity()
    {
        const string Load = """{"parts":[{"weight":"1 t","at":["0 mm","0 mm","0 mm"]},{"weight":"1 kg"}]}""";
        Assert.Null(Plumb(Load).Centre);
        var read = LiftReader.Read(
            $$"""{"format":"keralith.lift/2","load":{{Load}},"geometry":{"hook":["0 mm","0 mm","2 m"],"legs":[{"pick":["0 mm","0 mm","1 m"],"hitch":"vertical","sling":{{Sling}} }]} }"""
        );
        Assert.Contains(read.Faults, f => f.Path == "$.geometry.centreOfGravity");
    }

    // Edges.

    [Theory]
    [InlineData("20.1 mm", 1.0, LiftOutcome.Ok)]
    [InlineData("20 mm", 0.7, LiftOutcome.Ok)]
    [InlineData("10.1 mm", 0.7, LiftOutcome.Ok)]
    [InlineData("10 mm", 0.5, LiftOutcome.Caution)]
    [InlineData("0 mm", 0.5, LiftOutcome.Caution)]
    public void Chain_keeps_all_over_two_sizes_and_half_over_one(string radius, double factor, LiftOutcome outcome) =>
        Edged(Chain, radius, factor, outcome);

    [Theory]
    [InlineData("200 mm", 1.0, LiftOutcome.Ok)]
    [InlineData("199.9 mm", 0.92, LiftOutcome.Caution)]
    [InlineData("40 mm", 0.77, LiftOutcome.Caution)]
    [InlineData("39.9 mm", 0.75, LiftOutcome.Ask)]
    [InlineData("8 mm", 0.5, LiftOutcome.Ask)]
    [InlineData("7.9 mm", null, LiftOutcome.NotPermitted)]
    public void Wire_rope_bends_over_an_edge_as_round_a_pin_of_twice_its_radius(
        string radius,
        double? factor,
        LiftOutcome outcome
    ) => Edged(Sized(Rope, "size", "16 mm"), radius, factor, outcome);

    [Theory]
    [InlineData("web-sling", "thickness")]
    [InlineData("roundsling", "thickness")]
    [InlineData("fiber-rope-sling", "size")]
    public void What_can_be_cut_bears_on_no_edge_sharper_than_it_is_thick(string family, string by)
    {
        var sling = $$"""{"family":"{{family}}","ratedLoad":"3000 kg","designFactor":5,"{{by}}":"12 mm"}""";
        Edged(sling, "12 mm", 1, LiftOutcome.Ok);
        Edged(sling, "11.9 mm", null, LiftOutcome.NotPermitted);
        Edged(sling, "11.9 mm", null, LiftOutcome.NotPermitted, "softener", "50 mm");
        Edged(sling, "11.9 mm", 1, LiftOutcome.Ok, "cut-protector", "12 mm");
        Edged(sling, "11.9 mm", null, LiftOutcome.NotPermitted, "cut-protector", "11.9 mm");
        Edged(sling, "11.9 mm", 1, LiftOutcome.Caution, "cut-protector");
        Edged(sling, "12 mm", 1, LiftOutcome.Ask, "softener");
        Edged(sling, "12 mm", 1, LiftOutcome.Ok, "softener", "20 mm");
    }

    [Theory]
    [InlineData("8 mm", LiftOutcome.Ok)]
    [InlineData("7.9 mm", LiftOutcome.Ask)]
    public void Mesh_over_an_edge_sharper_than_its_fabric_asks_its_maker(string radius, LiftOutcome outcome) =>
        Edged(Sized(Mesh, "thickness", "8 mm"), radius, 1, outcome);

    [Fact]
    public void Padding_whose_radius_nobody_knows_leaves_the_bare_edge()
    {
        Edged(Chain, "9 mm", 0.5, LiftOutcome.Ask, "softener");
        Edged(Chain, "9 mm", 0.5, LiftOutcome.Ask, "cut-protector");
        Edged(Sized(Mesh, "thickness", "8 mm"), "9 mm", 1, LiftOutcome.Ask, "cut-protector");
        Edged(Sized(Rope, "size", "16 mm"), "7 mm", null, LiftOutcome.NotPermitted, "softener");
        Edged(Chain, "0 mm", 0.7, LiftOutcome.Ok, "softener", "20 mm");
    }

    [Theory]
    [InlineData(",\"bears\":\"104 mm\"", LiftOutcome.Ok)]
    [InlineData(",\"bears\":\"103.9 mm\"", LiftOutcome.Ask)]
    [InlineData("", LiftOutcome.Ask)]
    public void What_protects_wire_rope_bears_along_one_lay(string bears, LiftOutcome outcome) =>
        Assert.Equal(
            outcome,
            Second(
                Sized(Rope, "size", "16 mm"),
                $$""","edge":{"radius":"0 mm","protection":"cut-protector","protectedRadius":"200 mm"{{bears}}}"""
            ).Outcome
        );

    [Fact]
    public void A_sling_whose_size_or_kind_has_no_figure_asks()
    {
        Edged(
            """{"family":"alloy-chain-sling","grade":"80","ratedLoad":"3 t","designFactor":4}""",
            "1 m",
            1,
            LiftOutcome.Ask
        );
        Edged("""{"family":"cargo-net","ratedLoad":"3 t","size":"20 mm"}""", "1 m", 1, LiftOutcome.Ask);
    }

    [Theory]
    [InlineData(10, "64 mm", 3320)]
    [InlineData(8, "80 mm", 3320)]
    [InlineData(8, "64 mm", 3320)]
    [InlineData(25, "199.9 mm", 3680)]
    [InlineData(24.9, "200 mm", 3680)]
    public void In_a_basket_wire_rope_loses_to_the_sharper_of_bend_and_edge_alone(
        double bend,
        string radius,
        double left
    )
    {
        var sling = """{"family":"wire-rope-sling","size":"16 mm","ratedLoad":"2 t","designFactor":5}""";
        var piece = Second(
            sling,
            $$""","bendRatio":{{bend.ToString(System.Globalization.CultureInfo.InvariantCulture)}},"edge":{"radius":"{{radius}}"}""",
            hitch: "basket"
        )
            .Legs[0]
            .Pieces[0];
        Assert.Equal((decimal)left, piece.Allowed);
    }

    [Fact]
    public void A_chain_basket_loses_to_both_bend_and_edge_and_an_edge_counts_after_the_tags_own_table()
    {
        var edge = ",\"edge\":{\"radius\":\"15 mm\"}";
        Assert.Equal(
            3000 * 2 * 0.8m * 0.7m,
            Second(Chain, $",\"bendRatio\":4{edge}", hitch: "basket").Legs[0].Pieces[0].Allowed
        );
        var tabled =
            Chain[..^1] + ",\"tagTable\":[{\"hitch\":\"vertical\",\"angle\":\"60 deg\",\"ratedLoad\":\"1000 kg\"}]}";
        var piece = Second(tabled, edge).Legs[0].Pieces[0];
        Assert.Equal(700, piece.Allowed);
        Assert.Equal(["tag table", "edge"], piece.Reductions.Select(r => r.What));
    }

    [Theory]
    [InlineData("""{"protection":"softener"}""", "$.symmetric.edge.radius")]
    [InlineData("""{"radius":"-1 mm"}""", "$.symmetric.edge.radius")]
    [InlineData("""{"radius":"1 mm","bears":"9 mm"}""", "$.symmetric.edge.bears")]
    [InlineData(
        """{"radius":"1 mm","protection":"none","protectedRadius":"9 mm"}""",
        "$.symmetric.edge.protectedRadius"
    )]
    [InlineData("""{"radius":"1 mm","protection":"carpet"}""", "$.symmetric.edge.protection")]
    public void An_edge_needs_its_radius_and_protection_what_protects(string edge, string place) =>
        Assert.Contains(LiftReader.Read(SecondJson(Chain, $",\"edge\":{edge}")).Faults, f => f.Path == place);

    // Beams.

    [Theory]
    [InlineData("-1 m", "3 m", "0 mm", 750, 250)]
    [InlineData("3 m", "-1 m", "0 mm", 250, 750)]
    [InlineData("-1 m", "1 m", "100 mm", 450, 550)]
    public void Two_drops_carry_by_the_lever_rule_in_whatever_order_they_are_named(
        string one,
        string other,
        string g,
        double first,
        double second
    )
    {
        var legs = Beam("lifting", one, other, g).Legs;
        Assert.Equal([(decimal)first, (decimal)second], legs.Select(l => l.Tension));
        Assert.All(legs, l => Assert.Equal(90, l.Angle));
    }

    [Theory]
    [InlineData("-40 mm", LiftOutcome.Ok)]
    [InlineData("40.1 mm", LiftOutcome.Ask)]
    [InlineData("200 mm", LiftOutcome.Ask)]
    [InlineData("-200.1 mm", LiftOutcome.NotPermitted)]
    [InlineData("1 m", LiftOutcome.NotPermitted)]
    [InlineData("5 m", LiftOutcome.NotPermitted)]
    [InlineData(null, LiftOutcome.Ask)]
    public void A_lifting_beam_asks_from_a_fiftieth_off_its_middle_and_stops_at_a_tenth(
        string? g,
        LiftOutcome outcome
    ) => Assert.Equal(outcome, Beam("lifting", "-1 m", "1 m", g).Outcome);

    [Theory]
    [InlineData("20 mm", LiftOutcome.Ok)]
    [InlineData("20.1 mm", LiftOutcome.Ask)]
    [InlineData("200.1 mm", LiftOutcome.NotPermitted)]
    public void An_equaliser_asks_from_a_hundredth_and_shares_by_its_arms_whatever_hangs_where(
        string g,
        LiftOutcome outcome
    )
    {
        var lift = Beam("equaliser", "-500 mm", "1.5 m", g);
        Assert.Equal(outcome, lift.Outcome);
        Assert.Equal([750, 250], lift.Legs.Select(l => l.Tension));
    }

    [Fact]
    public void Drops_on_one_side_of_the_pivot_turn_an_equaliser_over()
    {
        Assert.Equal(LiftOutcome.NotPermitted, Beam("equaliser", "0 mm", "1 m", "0 mm").Outcome);
        Assert.Equal(LiftOutcome.NotPermitted, Beam("equaliser", "1 m", "2 m", "0 mm").Outcome);
        Assert.Contains(LiftReader.Read(BeamJson("equaliser", "0 mm", null, "0 mm")).Faults, f => f.Path == "$.drops");
    }

    [Theory]
    [InlineData("lifting", "0 mm", "10 mm", LiftOutcome.Ok)]
    [InlineData("lifting", "0 mm", "10.1 mm", LiftOutcome.NotPermitted)]
    [InlineData("lifting", "10 mm", "10 mm", LiftOutcome.Ok)]
    [InlineData("lifting", "10.1 mm", "5 mm", LiftOutcome.NotPermitted)]
    [InlineData("spreader", "0 mm", "10 mm", LiftOutcome.Ask)]
    [InlineData("spreader", "0 mm", "10.1 mm", LiftOutcome.NotPermitted)]
    public void One_drop_hangs_under_the_middle_with_the_load_under_it(
        string kind,
        string at,
        string g,
        LiftOutcome outcome
    ) => Assert.Equal(outcome, Beam(kind, at, null, g, span: "4 m").Outcome);

    [Theory]
    [InlineData("5 mm", LiftOutcome.Ask)]
    [InlineData("5.1 mm", LiftOutcome.NotPermitted)]
    public void Below_a_short_spreader_a_single_drop_has_half_a_hundredth_of_its_span(string g, LiftOutcome outcome) =>
        Assert.Equal(outcome, Beam("spreader", "0 mm", null, g, span: "1 m").Outcome);

    [Theory]
    [InlineData("-1.96 m", "1.96 m", "0 mm", LiftOutcome.Ok)]
    [InlineData("-1.92 m", "1.96 m", "0 mm", LiftOutcome.Ok)]
    [InlineData("-1.919 m", "1.96 m", "0 mm", LiftOutcome.Ask)]
    [InlineData("-1.96 m", "1.92 m", "0 mm", LiftOutcome.Ok)]
    [InlineData("-1.96 m", "1.919 m", "0 mm", LiftOutcome.Ask)]
    [InlineData("-2.08 m", "2.08 m", "0 mm", LiftOutcome.Ok)]
    [InlineData("-2.081 m", "2 m", "0 mm", LiftOutcome.NotPermitted)]
    [InlineData("2 m", "-2 m", "80 mm", LiftOutcome.Caution)]
    [InlineData("2 m", "-2 m", "80.1 mm", LiftOutcome.Ask)]
    public void A_spreader_hangs_its_drops_under_its_top_picks_and_its_load_under_its_middle(
        string one,
        string other,
        string g,
        LiftOutcome outcome
    ) => Assert.Equal(outcome, Beam("spreader", one, other, g, span: "4 m", topAngle: "45 deg").Outcome);

    [Theory]
    [InlineData("2 m", true)]
    [InlineData("2.001 m", false)]
    public void Beyond_a_whole_span_off_the_middle_no_pull_is_told_however_heavy_the_spreader(string g, bool told)
    {
        var lift = Beam("spreader", "-1 m", "1 m", g, span: "2 m", own: "20 t");
        Assert.Equal(LiftOutcome.NotPermitted, lift.Outcome);
        Assert.Equal(told, lift.Beam!.Top.All(t => t.Tension is not null));
    }

    [Theory]
    [InlineData("44.9 deg", "", LiftOutcome.NotPermitted)]
    [InlineData("45 deg", "", LiftOutcome.Ok)]
    [InlineData("44.9 deg", ",\"leastTopAngle\":\"40 deg\"", LiftOutcome.Caution)]
    [InlineData("29.9 deg", ",\"leastTopAngle\":\"20 deg\"", LiftOutcome.NotPermitted)]
    public void Legs_above_a_spreader_stand_as_steep_as_its_plate_and_the_books_ask(
        string angle,
        string least,
        LiftOutcome outcome
    ) =>
        Assert.Equal(
            outcome,
            Beam("spreader", "-1 m", "1 m", "0 mm", span: "2 m", topAngle: angle, more: least).Outcome
        );

    [Fact]
    public void Europes_band_and_the_heat_of_the_load_hold_for_the_legs_above_a_spreader_and_no_band_for_its_drops()
    {
        var lift = Beam(
            "spreader",
            "-1 m",
            "1 m",
            "0 mm",
            span: "2 m",
            topAngle: "60 deg",
            books: "europe",
            sling: Chain,
            load: ",\"temperature\":\"250 C\""
        );
        Assert.Equal(["temperature", "band"], lift.Beam!.Top[0].Pieces[0].Reductions.Select(r => r.What));
        Assert.Equal(["temperature"], lift.Legs[0].Pieces[0].Reductions.Select(r => r.What));
    }

    [Theory]
    [InlineData("2 deg", LiftOutcome.Ok)]
    [InlineData("2.1 deg", LiftOutcome.Caution)]
    public void A_spreader_tilts_until_the_common_centre_hangs_under_the_hook(string tilt, LiftOutcome outcome)
    {
        // tan t = 2 W g / (total x span x tan(topAngle)): a long, light spreader under a flat top.
        var degrees = double.Parse(tilt.Split(' ')[0], System.Globalization.CultureInfo.InvariantCulture);
        var g = (decimal)Math.Floor(Math.Tan(degrees * Math.PI / 180) * 4000 / 2 * 1e9) / 1e9m;
        var lift = Beam(
            "spreader",
            "-2 m",
            "2 m",
            $"{g.ToString(System.Globalization.CultureInfo.InvariantCulture)} mm",
            span: "4 m",
            topAngle: "45 deg",
            own: "0 kg"
        );
        Assert.Equal(outcome, lift.Outcome);
    }

    [Theory]
    [InlineData("1 mm", null, LiftOutcome.Ok)]
    [InlineData("0 mm", "0 mm", LiftOutcome.NotPermitted)]
    [InlineData("-1 mm", "0 mm", LiftOutcome.NotPermitted)]
    [InlineData("0 mm", "1 mm", LiftOutcome.Ok)]
    [InlineData("101 mm", "-100 mm", LiftOutcome.Ok)]
    [InlineData("100 mm", "-100 mm", LiftOutcome.NotPermitted)]
    [InlineData("1 mm", "-100 mm", LiftOutcome.NotPermitted)]
    public void A_load_whose_picks_run_at_or_below_its_centre_of_gravity_turns_over(
        string one,
        string? other,
        LiftOutcome outcome
    ) => Assert.Equal(outcome, Beam("lifting", "-1 m", "1 m", "0 mm", above: one, otherAbove: other).Outcome);

    [Fact]
    public void A_beam_of_unknown_rating_or_weight_asks_and_carries_no_figure()
    {
        var unrated = Beam("lifting", "-1 m", "1 m", "0 mm", rated: null);
        Assert.Equal(LiftOutcome.Ask, unrated.Outcome);
        Assert.Null(unrated.Capacity);
        Assert.Equal(LiftOutcome.Ask, Beam("lifting", "-1 m", "1 m", "0 mm", own: null).Outcome);
    }

    [Theory]
    [InlineData("980 kg", LiftOutcome.Overloaded)]
    [InlineData("1020 kg", LiftOutcome.Caution)]
    public void A_beam_carries_load_and_rigging_and_what_hangs_above_its_weight_too(string rated, LiftOutcome outcome)
    {
        var lift = Worked(
            BeamJson("lifting", "-1 m", "1 m", "0 mm", rated: rated)[..^1]
                + ",\"rigging\":{\"weight\":\"20 kg\"},\"above\":[{\"kind\":\"link\",\"ratedLoad\":\"5 t\"}]}"
        );
        Assert.Equal(outcome, lift.Outcome);
        Assert.Equal(1020, lift.Beam!.Piece.Demand);
        Assert.Equal(1120, lift.Above[0].Demand);
    }

    [Fact]
    public void The_largest_load_leaves_every_leg_above_a_spreader_at_its_rating()
    {
        // (W/2 + 60)/sin 60 = 1000 kg.
        var top = """{"family":"web-sling","ratedLoad":"1000 kg","designFactor":5}""";
        var lift = Beam(
            "spreader",
            "-1 m",
            "1 m",
            "0 mm",
            span: "2 m",
            topAngle: "60 deg",
            own: "120 kg",
            topSling: top
        );
        Assert.Equal(2 * ((1000 * Math.Sin(Math.PI / 3)) - 60), (double)lift.Capacity!.Value, 1e-6);
        Assert.Null(lift.Weakest!.Leg);
        Assert.Equal("web-sling", lift.Weakest.Piece.Kind);
    }

    [Theory]
    [InlineData(",\"span\":\"2 m\"", "$.beam.span")]
    [InlineData(",\"topAngle\":\"60 deg\"", "$.beam.topAngle")]
    [InlineData(",\"topComponents\":[{\"kind\":\"link\"}]", "$.beam.topSling")]
    public void Only_a_spreader_has_a_span_and_two_legs_above(string more, string place) =>
        Assert.Contains(LiftReader.Read(BeamJson("lifting", "-1 m", "1 m", "0 mm", more: more)).Faults, f =>
            f.Path == place
        );

    [Theory]
    [InlineData("0 deg")]
    [InlineData("90 deg")]
    public void Legs_above_a_spreader_stand_neither_flat_nor_upright(string angle) =>
        Assert.Contains(
            LiftReader.Read(BeamJson("spreader", "-1 m", "1 m", "0 mm", span: "2 m", topAngle: angle)).Faults,
            f => f.Path == "$.beam.topAngle"
        );

    [Fact]
    public void Two_drops_at_one_place_and_a_centre_beside_no_beam_are_refused()
    {
        Assert.Contains(LiftReader.Read(BeamJson("lifting", "1 m", "1000 mm", "0 mm")).Faults, f =>
            f.Path == "$.drops[1].at"
        );
        Assert.Contains(
            LiftReader.Read(SecondJson(Chain, string.Empty)[..^1] + ",\"centreOfGravity\":\"1 mm\"}").Faults,
            f => f.Path == "$.centreOfGravity"
        );
        Assert.Contains(
            LiftReader
                .Read(
                    SecondJson(Chain, ",\"edge\":{\"radius\":\"1 mm\"}")
                        .Replace("lift/2", "lift/1", StringComparison.Ordinal)
                )
                .Faults,
            f => f.Path == "$.symmetric.edge"
        );
    }

    // Cranes.

    [Theory]
    [InlineData("11 m", "4 m", 13000.0)]
    [InlineData("11 m", "3.9 m", null)]
    [InlineData("11 m", "4.01 m", 9000.0)]
    [InlineData("11 m", "9 m", 5600.0)]
    [InlineData("11 m", "9.01 m", null)]
    [InlineData("16 m", "9.01 m", 3300.0)]
    [InlineData("12 m", "9 m", 5600.0)]
    [InlineData("12 m", "4 m", 11800.0)]
    [InlineData("10.9 m", "6 m", null)]
    [InlineData("16.1 m", "6 m", null)]
    public void A_chart_is_read_at_the_next_larger_radius_and_never_beyond_its_figures(
        string boom,
        string radius,
        double? gross
    )
    {
        var lift = OnCrane("100 kg", boom, $"\"{radius}\"");
        Assert.Equal((decimal?)gross, lift.Crane!.Gross);
        Assert.Equal(gross is null ? LiftOutcome.NotPermitted : LiftOutcome.Ok, lift.Outcome);
        Assert.Equal(gross is null, lift.Capacity is null);
    }

    [Theory]
    [InlineData("6750 kg", LiftOutcome.Ok, false)]
    [InlineData("6750.1 kg", LiftOutcome.Ask, true)]
    [InlineData("9000 kg", LiftOutcome.Ask, true)]
    [InlineData("9000.1 kg", LiftOutcome.Overloaded, true)]
    public void Over_three_quarters_of_what_is_left_a_lift_is_critical(
        string weight,
        LiftOutcome outcome,
        bool critical
    )
    {
        var lift = OnCrane(weight, "11 m", "\"6 m\"");
        Assert.Equal((outcome, critical), (lift.Outcome, lift.Crane!.IsCritical));
    }

    [Theory]
    [InlineData("7200 kg", LiftOutcome.Ok)]
    [InlineData("7200.1 kg", LiftOutcome.Caution)]
    public void A_site_that_asks_later_is_still_warned_from_four_fifths(string weight, LiftOutcome outcome) =>
        Assert.Equal(outcome, OnCrane(weight, "11 m", "\"6 m\"", ",\"criticalShare\":90").Outcome);

    [Theory]
    [InlineData("8899 kg", LiftOutcome.Overloaded)]
    [InlineData("9000 kg", LiftOutcome.NotPermitted)]
    public void A_block_that_uses_up_all_the_chart_gives_leaves_nothing_to_lift(string block, LiftOutcome outcome) =>
        Assert.Equal(
            outcome,
            OnCrane("200 kg", "11 m", "\"6 m\"", $$""","deductions":[{"what":"block","weight":"{{block}}"}]""").Outcome
        );

    [Theory]
    [InlineData("""{"configuration":"full","boomLength":"11 m","radius":"9.5 m","capacity":"5601 kg"}""")]
    [InlineData("""{"configuration":"full","boomLength":"11 m","radius":"600 cm","capacity":"9 t"}""")]
    public void A_chart_that_names_a_figure_twice_or_grows_with_the_radius_is_none(string row)
    {
        var read = LiftReader.Read(CraneJson("1 t", "11 m", "\"6 m\"", string.Empty, $",{row}"));
        Assert.Contains(read.Faults, f => f.Path == "$.crane.chart");
    }

    [Fact]
    public void A_crane_without_figures_for_how_it_stands_lifts_nothing()
    {
        var lift = Worked(
            CraneJson("1 t", "11 m", "\"6 m\"")
                .Replace(
                    "\"configuration\":\"full\",\"boomLength\":\"11 m\",\"radii\"",
                    "\"configuration\":\"half\",\"boomLength\":\"11 m\",\"radii\"",
                    StringComparison.Ordinal
                )
        );
        Assert.Equal(LiftOutcome.NotPermitted, lift.Outcome);
        Assert.Equal("crane", lift.Weakest!.Piece.Kind);
        Assert.Contains(LiftReader.Read(CraneJson("1 t", "11 m", string.Empty)).Faults, f => f.Path == "$.crane.radii");
    }

    // Both ways.

    [Fact]
    public void What_hangs_below_a_beam_is_in_balance_with_what_holds_it()
    {
        var random = new Random(20261129);
        for (var round = 0; round < 500; round++)
        {
            decimal Between(int least, int most) => random.Next(least, most + 1);
            var (low, high) = (Between(-3000, -1), Between(1, 3000));
            var (span, g, angle, own) = (Between(1000, 6000), Between(-60, 60), Between(30, 80), Between(0, 900));
            if (g <= low || g >= high)
                continue;
            var lift = Beam(
                "spreader",
                $"{high} mm",
                $"{low} mm",
                $"{g} mm",
                span: $"{span} mm",
                topAngle: $"{angle} deg",
                own: $"{own} kg"
            );
            var (atHigh, atLow) = (lift.Legs[0].Tension!.Value, lift.Legs[1].Tension!.Value);
            Assert.Equal(1000, (double)(atHigh + atLow), 1e-9);
            Assert.Equal((double)(1000 * g), (double)((atHigh * high) + (atLow * low)), 1e-6);

            // The upright parts of the legs above hold load and beam; their moment is the load's alone.
            var upright = lift.Beam!.Top.Select(t =>
                (double)t.Tension!.Value * Math.Sin((double)angle * Math.PI / 180)
            );
            Assert.Equal((double)(1000 + own), upright.Sum(), 1e-6);
            Assert.Equal((double)(1000 * g), (upright.First() - upright.Last()) * (double)span / 2, 1e-4);
        }
    }

    [Theory]
    [MemberData(nameof(Examples))]
    public void A_load_and_its_path_written_out_read_back_to_the_same_result(string name)
    {
        var lift = LiftReader
            .Read(Cases.First(c => c.GetProperty("name").GetString() == name).GetProperty("input"))
            .Value!;
        Assert.Equal(
            LiftWriter.Write(LiftJudge.Of(lift)),
            LiftWriter.Write(LiftJudge.Of(Read(LiftDocument.Write(lift)!)))
        );
    }

    [Fact]
    public void The_second_edition_of_a_lift_of_the_first_comes_to_the_same()
    {
        var first = JsonDocument
            .Parse(
                LiftWriter.Write(Alike(Chain, 3, "50 deg", more: ""","above":[{"kind":"hook","ratedLoad":"1 t"}]"""))
            )
            .RootElement;
        var second = JsonDocument
            .Parse(
                LiftWriter.Write(
                    Worked(
                        SecondJson(Chain, string.Empty, 3, "50 deg")[..^1]
                            + ""","above":[{"kind":"hook","ratedLoad":"1 t"}]}"""
                    )
                )
            )
            .RootElement;
        Assert.Equal("keralith.lift-result/2", second.GetProperty("format").GetString());
        foreach (var name in new[] { "outcome", "legs", "above", "capacityKg", "remarks" })
            Assert.Equal(first.GetProperty(name).GetRawText(), second.GetProperty(name).GetRawText());
        Assert.Equal(JsonValueKind.Null, first.GetProperty("weakest").GetProperty("leg").ValueKind);
        Assert.Equal(0, second.GetProperty("weakest").GetProperty("leg").GetInt32());
    }

    private static string PlumbJson(string load) =>
        $$"""{"format":"keralith.lift/2","load":{{load}},"symmetric":{"legs":1,"angle":"90 deg","hitch":"vertical","sling":{{Sling}} } }""";

    private static LiftResult Plumb(string load) => Worked(PlumbJson(load));

    private static string Sized(string sling, string by, string size) => $"{sling[..^1]},\"{by}\":\"{size}\"}}";

    private static string SecondJson(
        string sling,
        string extra,
        int legs = 1,
        string angle = "90 deg",
        string hitch = "vertical"
    ) =>
        $$"""{"format":"keralith.lift/2","load":{"weight":"1000 kg","basis":"weighed"},"symmetric":{"legs":{{legs}},"angle":"{{angle}}","hitch":"{{hitch}}","sling":{{sling}}{{extra}} } }""";

    private static LiftResult Second(string sling, string extra, string hitch = "vertical") =>
        Worked(SecondJson(sling, extra, hitch: hitch));

    /// <summary>One plumb leg over an edge: what is left of it, and what the lift comes to.</summary>
    private static void Edged(
        string sling,
        string radius,
        double? factor,
        LiftOutcome outcome,
        string? protection = null,
        string? its = null
    )
    {
        var protects = protection is null
            ? string.Empty
            : $",\"protection\":\"{protection}\"{(its is null ? string.Empty : $",\"protectedRadius\":\"{its}\"")}";
        var lift = Worked(
            SecondJson(sling, $$""","edge":{"radius":"{{radius}}"{{protects}}}""")
                .Replace("1000 kg", "10 kg", StringComparison.Ordinal)
        );
        Assert.Equal(outcome, lift.Outcome);
        Assert.Equal((decimal?)factor * 3000, lift.Legs[0].Pieces[0].Allowed);
    }

    private static string BeamJson(
        string kind,
        string at,
        string? other,
        string? g,
        string? span = null,
        string topAngle = "60 deg",
        string? own = "100 kg",
        string? rated = "10 t",
        string more = "",
        string books = "asme",
        string sling = Sling,
        string topSling = "",
        string load = "",
        string? above = null,
        string? otherAbove = null
    )
    {
        var beam = new List<string> { $"\"kind\":\"{kind}\"" };
        if (rated is not null)
            beam.Add($"\"ratedLoad\":\"{rated}\"");
        if (own is not null)
            beam.Add($"\"ownWeight\":\"{own}\"");
        if (kind == "spreader")
            beam.Add(
                $"\"span\":\"{span}\",\"topAngle\":\"{topAngle}\",\"topSling\":{(topSling.Length > 0 ? topSling : sling)}"
            );
        var drops = new (string? At, string? Above)[] { (at, above), (other, otherAbove) }
            .Where(d => d.At is not null)
            .Select(d =>
                $$"""{"at":"{{d.At}}"{{(d.Above is null ? string.Empty : $",\"above\":\"{d.Above}\"")}},"hitch":"vertical","sling":{{sling}}}"""
            );
        var centre = g is null ? string.Empty : $",\"centreOfGravity\":\"{g}\"";
        return $$"""{"format":"keralith.lift/2","ruleBooks":["{{books}}"],"load":{"weight":"1000 kg","basis":"weighed"{{load}}},"beam":{{{string.Join(",", beam)}}{{more}}},"drops":[{{string.Join(",", drops)}}]{{centre}}}""";
    }

    private static LiftResult Beam(
        string kind,
        string at,
        string? other,
        string? g,
        string? span = null,
        string topAngle = "60 deg",
        string? own = "100 kg",
        string? rated = "10 t",
        string more = "",
        string books = "asme",
        string sling = Sling,
        string topSling = "",
        string load = "",
        string? above = null,
        string? otherAbove = null
    ) =>
        Worked(
            BeamJson(
                kind,
                at,
                other,
                g,
                span,
                topAngle,
                own,
                rated,
                more,
                books,
                sling,
                topSling,
                load,
                above,
                otherAbove
            )
        );

    private static string CraneJson(string weight, string boom, string radii, string more = "", string row = "") =>
        $$"""{"format":"keralith.lift/2","load":{"weight":"{{weight}}","basis":"weighed"},"symmetric":{"legs":1,"angle":"90 deg","hitch":"vertical","sling":{"family":"web-sling","ratedLoad":"90 t","designFactor":5} },"crane":{"chart":[{"configuration":"full","boomLength":"11 m","radius":"4 m","capacity":"13 t"},{"configuration":"full","boomLength":"11 m","radius":"9 m","capacity":"5600 kg"},{"configuration":"full","boomLength":"11 m","radius":"6 m","capacity":"9 t"},{"configuration":"full","boomLength":"16 m","radius":"4 m","capacity":"11.8 t"},{"configuration":"full","boomLength":"16 m","radius":"9 m","capacity":"5750 kg"},{"configuration":"full","boomLength":"16 m","radius":"13 m","capacity":"3300 kg"}{{row}}],"configuration":"full","boomLength":"{{boom}}","radii":[{{radii}}]{{more}} } }""";

    private static LiftResult OnCrane(string weight, string boom, string radii, string more = "") =>
        Worked(CraneJson(weight, boom, radii, more));
}
