using Keralith.Core.Formats;
using Keralith.Core.Gear;
using Keralith.Core.Quantities;
using Keralith.Core.Tags;
using Xunit;

namespace Keralith.Core.Tests;

/// <summary>What a marking's transcription comes to.</summary>
public class TagTests
{
    private const string OneLeg = """{"family":"alloy-chain-sling","size":"3/8 in","grade":"80"}""";

    [Theory]
    [InlineData("alloy-chain-sling", "", "maker grade size ratedLoad hitch reach identification")]
    [InlineData("alloy-chain-sling", ",\"legs\":2", "maker grade size legs ratedLoad hitch reach identification")]
    [InlineData("wire-rope-sling", ",\"legs\":2", "maker ratedLoad hitch size legs")]
    [InlineData("metal-mesh-sling", "", "maker ratedLoad chokerLoad identification")]
    [InlineData("web-sling", "", "maker code ratedLoad hitch fiber")]
    [InlineData("roundsling", ",\"coreFiber\":\"polyester\"", "maker code ratedLoad hitch coreFiber")]
    [InlineData(
        "roundsling",
        ",\"coreFiber\":\"polyester\",\"coverFiber\":\"nylon\"",
        "maker code ratedLoad hitch coreFiber coverFiber"
    )]
    [InlineData("eye-bolt", ",\"material\":\"carbon\"", "maker ratedLoad")]
    [InlineData("eye-bolt", ",\"material\":\"alloy\"", "maker ratedLoad grade")]
    [InlineData("swivel-hoist-ring", "", "maker ratedLoad torque")]
    [InlineData("wedge-socket", "", "maker size wedge")]
    [InlineData("powered-hoist", "", "maker model serial ratedLoad warning supply")]
    [InlineData("hand-chain-hoist", "", "maker model serial ratedLoad warning")]
    [InlineData("lifting-clamp", ",\"ownWeight\":\"45 kg\"", "maker serial ratedLoad category")]
    [InlineData("lifting-clamp", ",\"ownWeight\":\"46 kg\"", "maker serial ownWeight ratedLoad category")]
    [InlineData("load-indicator", "", "maker ratedLoad calibration")]
    public void A_marking_must_carry_what_its_family_wants(string family, string more, string codes) =>
        Assert.Equal(
            codes.Split(' '),
            Tag($$"""{"family":"{{family}}"{{more}}}""", carried: []).Missing.Select(e => e.Code)
        );

    [Fact]
    public void An_entry_missing_holds_and_is_named()
    {
        var verdict = Judged(Tag(OneLeg, carried: ["maker", "grade", "size", "ratedLoad", "reach", "identification"]));
        Assert.Equal(Outcome.Hold, verdict.Outcome);
        Assert.Contains("hitch and angle", verdict.Against.Single(), StringComparison.Ordinal);
    }

    [Theory]
    [InlineData("8800 lb", 4, "asme", 8800)]
    [InlineData("8800 lb", 4, "asme ontario", 7040)]
    [InlineData("8800 lb", 5, "asme ontario", 8800)]
    [InlineData("8800 lb", 7, "ontario", 8800)]
    [InlineData("7000 lb", 3.5, "asme", 6125)]
    public void A_rated_load_counts_by_the_factor_the_books_want_and_never_more_than_marked(
        string marked,
        double factor,
        string books,
        double pounds
    ) =>
        Assert.Equal(
            (decimal)pounds,
            Math.Round(
                Judged(
                    Tag("""{"family":"alloy-chain-sling","size":"3/8 in","grade":"100"}""", marked, (decimal)factor),
                    books
                ).Here!.Here.Pounds,
                6
            )
        );

    [Theory]
    [InlineData("wire-rope-sling", "japan", 5, 6)]
    [InlineData("web-sling", "australia", 5, 7)]
    [InlineData("roundsling", "europe", 5, 7)]
    [InlineData("fiber-rope-sling", "japan", 5, 6)]
    [InlineData("fiber-rope-sling", "europe", 5, 7)]
    public void An_unmarked_factor_is_the_familys_own_and_is_said(string family, string book, int assumed, int required)
    {
        var here = Judged(Tag($$"""{"family":"{{family}}"}""", "1000 kg"), book).Here!;
        Assert.True(here.FactorAssumed);
        Assert.Equal(
            (assumed, required, (decimal?)required),
            (here.MarkedFactor, here.RequiredFactor, here.RequiredFactor)
        );
        Assert.Equal(Math.Round(1000m * assumed / required, 9), Math.Round(here.Here.Kilograms, 9));
    }

    [Theory]
    [InlineData("3/8 in", "80", "7171 lb", Outcome.Clear)]
    [InlineData("3/8 in", "80", "7171.01 lb", Outcome.Hold)]
    [InlineData("10 mm", "80", "7171.01 lb", Outcome.Hold)]
    [InlineData("3/8 in", "100", "8888 lb", Outcome.Clear)]
    [InlineData("3/8 in", "100", "8888.1 lb", Outcome.Hold)]
    [InlineData("1-1/4 in", "100", "91304 lb", Outcome.Clear)]
    [InlineData("1-1/4 in", "800", "73024 lb", Outcome.Hold)]
    [InlineData("11 mm", "80", "99999 lb", Outcome.Clear)]
    [InlineData("3/8 in", "120", "99999 lb", Outcome.Clear)]
    public void A_single_leg_rated_more_than_a_hundredth_over_the_guide_is_misread(
        string size,
        string grade,
        string marked,
        Outcome expected
    ) =>
        Assert.Equal(
            expected,
            Remark(
                Judged(Tag($$"""{"family":"alloy-chain-sling","size":"{{size}}","grade":"{{grade}}"}""", marked, 4)),
                "size and grade"
            ).Outcome
        );

    [Fact]
    public void What_the_guide_has_no_row_for_is_said_to_be_unchecked()
    {
        Assert.Contains(
            "not checked",
            Remark(
                Judged(Tag("""{"family":"alloy-chain-sling","size":"11 mm","grade":"80"}""", "1 t")),
                "size and grade"
            ).Words,
            StringComparison.Ordinal
        );
        Assert.Contains(
            "not checked",
            Remark(Judged(Tag(Given.TwoLegChain, "12200 lb")), "size and grade").Words,
            StringComparison.Ordinal
        );
    }

    [Theory]
    [InlineData("violet", "1 t", Outcome.Clear)]
    [InlineData("purple", "1000 kg", Outcome.Clear)]
    [InlineData("green", "2 t", Outcome.Clear)]
    [InlineData("green", "4400 lb", Outcome.Clear)]
    [InlineData("green", "2020 kg", Outcome.Clear)]
    [InlineData("green", "2020.1 kg", Outcome.Hold)]
    [InlineData("green", "3 t", Outcome.Hold)]
    [InlineData("grey", "4 t", Outcome.Clear)]
    [InlineData("blue", "8 t", Outcome.Clear)]
    [InlineData("orange", "10 t", Outcome.Clear)]
    [InlineData("orange", "25 t", Outcome.Clear)]
    [InlineData("orange", "9.8 t", Outcome.Hold)]
    [InlineData("tartan", "3 t", Outcome.Clear)]
    public void A_capacity_colour_that_disagrees_with_the_tag_holds(string colour, string marked, Outcome expected) =>
        Assert.Equal(
            expected,
            Remark(
                Judged(Tag($$"""{"family":"roundsling","colour":"{{colour}}"}""", marked)),
                "capacity colour"
            ).Outcome
        );

    [Theory]
    [InlineData(OneLeg, "399 F", "asme", Outcome.Clear)]
    [InlineData(OneLeg, "400 F", "asme", Outcome.Hold)]
    [InlineData(OneLeg, "-40 F", "asme", Outcome.Clear)]
    [InlineData(OneLeg, "-41 C", "asme", Outcome.Hold)]
    [InlineData("""{"family":"wire-rope-sling","core":"fiber"}""", "82 C", "asme", Outcome.Clear)]
    [InlineData("""{"family":"wire-rope-sling","core":"fiber"}""", "83 C", "asme", Outcome.Hold)]
    [InlineData("""{"family":"wire-rope-sling"}""", "20 C", "asme", Outcome.Hold)]
    [InlineData("""{"family":"web-sling","fiber":"nylon"}""", "194 F", "asme", Outcome.Clear)]
    [InlineData("""{"family":"web-sling","fiber":"nylon"}""", "181 F", "asme osha", Outcome.Hold)]
    [InlineData("""{"family":"web-sling","fiber":"polypropylene"}""", "151 F", "asme", Outcome.Hold)]
    [InlineData("""{"family":"roundsling","coreFiber":"aramid"}""", "20 C", "asme", Outcome.Hold)]
    [InlineData("""{"family":"metal-mesh-sling","coating":"elastomer"}""", "200 F", "asme", Outcome.Clear)]
    [InlineData("""{"family":"metal-mesh-sling","coating":"none"}""", "550 F", "asme", Outcome.Clear)]
    [InlineData("""{"family":"eye-bolt","material":"carbon"}""", "29 F", "asme", Outcome.Hold)]
    [InlineData("""{"family":"rigging-block"}""", "-19 C", "asme", Outcome.Hold)]
    [InlineData("""{"family":"lifting-beam"}""", "20 C", "asme", Outcome.Hold)]
    [InlineData("""{"family":"fiber-rope-sling","fiber":"wire"}""", "20 C", "asme", Outcome.Hold)]
    [InlineData("""{"family":"fiber-rope-sling","fiber":"nylon"}""", "180 F", "asme", Outcome.Clear)]
    public void Gear_that_works_outside_the_limits_of_its_material_is_held(
        string gear,
        string works,
        string books,
        Outcome expected
    ) =>
        Assert.Equal(
            expected,
            Remark(
                Judged(Tag(gear, "1 t"), books, new(null, Temperature.Read(works).Value, null, [])),
                "temperature"
            ).Outcome
        );

    [Theory]
    [InlineData("80", "500 F", 1000)]
    [InlineData("80", "501 F", 950)]
    [InlineData("80", "600 F", 950)]
    [InlineData("80", "601 F", 900)]
    [InlineData("100", "500 F", 950)]
    [InlineData("100", "1000 F", 650)]
    [InlineData("120", "400 F", 1000)]
    [InlineData("80", "316 C", 950)]
    public void Heat_takes_its_lasting_share_of_a_chains_rated_load(string grade, string met, double kilograms)
    {
        var verdict = Judged(
            Tag($$"""{"family":"alloy-chain-sling","size":"3/8 in","grade":"{{grade}}"}""", "1000 kg", 4),
            met: new(null, null, Temperature.Read(met).Value, [])
        );
        Assert.Equal((decimal)kilograms, verdict.Here!.Here.Kilograms);
    }

    [Theory]
    [InlineData(OneLeg, "1000 F", "asme", Outcome.Clear)]
    [InlineData(OneLeg, "1001 F", "asme", Outcome.Remove)]
    [InlineData(OneLeg, "539 C", "asme", Outcome.Remove)]
    [InlineData("""{"family":"wire-rope-sling","core":"fiber"}""", "200 F", "asme osha", Outcome.Hold)]
    [InlineData("""{"family":"wire-rope-sling","core":"fiber"}""", "201 F", "asme osha", Outcome.Remove)]
    [InlineData("""{"family":"wire-rope-sling","core":"fiber"}""", "201 F", "asme", Outcome.Hold)]
    [InlineData("""{"family":"wire-rope-sling","core":"iwrc"}""", "201 F", "asme osha", Outcome.Clear)]
    [InlineData("""{"family":"wire-rope-sling"}""", "94 C", "osha-construction", Outcome.Remove)]
    public void What_gear_has_met_may_hold_it_or_rule_it_out_for_good(
        string gear,
        string met,
        string books,
        Outcome expected
    )
    {
        var tag = Tag(gear, "1 t");
        Assert.Equal(
            expected,
            Judged(
                tag with
                {
                    Carried = tag.Gear.Family.TagEntries.Select(e => e.Code).ToList(),
                },
                books,
                new(null, null, Temperature.Read(met).Value, [])
            ).Outcome
        );
    }

    [Theory]
    [InlineData("""{"family":"web-sling","fiber":"nylon"}""", Chemical.Acid, true)]
    [InlineData("""{"family":"web-sling","fiber":"nylon"}""", Chemical.Bleach, true)]
    [InlineData("""{"family":"web-sling","fiber":"nylon"}""", Chemical.Caustic, false)]
    [InlineData("""{"family":"web-sling","fiber":"polyester"}""", Chemical.Caustic, true)]
    [InlineData("""{"family":"web-sling","fiber":"polyester"}""", Chemical.Acid, false)]
    [InlineData("""{"family":"web-sling","fiber":"polyester","fittingMetal":"aluminium"}""", Chemical.Acid, true)]
    [InlineData("""{"family":"fiber-rope-sling","fiber":"polypropylene"}""", Chemical.Solvent, true)]
    [InlineData("""{"family":"alloy-chain-sling"}""", Chemical.Acid, false)]
    [InlineData("""{"family":"roundsling"}""", Chemical.Solvent, false)]
    public void Gear_that_meets_chemicals_is_held_and_the_words_say_whether_it_is_ruled_out(
        string gear,
        Chemical chemical,
        bool ruledOut
    )
    {
        var piece = Given.Case(gear, "").Gear;
        Assert.Equal(ruledOut, Materials.Against(piece, chemical, [RuleBookShelf.Asme]).RuledOut);
        Assert.Equal(
            Outcome.Hold,
            Remark(Judged(new(piece, [], null, null), met: new(null, null, null, [chemical])), "chemicals").Outcome
        );
    }

    [Fact]
    public void Polypropylene_and_caustics_part_the_books()
    {
        var rope = Given.Case("""{"family":"fiber-rope-sling","fiber":"polypropylene"}""", "").Gear;
        Assert.False(Materials.Against(rope, Chemical.Caustic, [RuleBookShelf.Asme]).RuledOut);
        Assert.True(
            Materials.Against(rope, Chemical.Caustic, [RuleBookShelf.Asme, RuleBookShelf.Find("osha")!]).RuledOut
        );
    }

    [Fact]
    public void No_rated_load_is_held()
    {
        var verdict = Judged(Tag(OneLeg, null));
        Assert.Null(verdict.Here);
        Assert.Equal(Outcome.Hold, Remark(verdict, "rated load").Outcome);
    }

    [Fact]
    public void No_question_is_answered_better_than_the_transcription_allows()
    {
        var incomplete = Judged(Tag(OneLeg, carried: []));
        Assert.Equal(Found.Yes, incomplete.AtBest("id.tag-complete", Found.No));
        Assert.Equal(Found.NotAccessible, incomplete.AtBest("id.tag-complete", Found.NotAccessible));
        Assert.Equal(Found.No, incomplete.AtBest("chain.heat", Found.No));
        Assert.Equal(
            Found.Yes,
            Judged(Tag(OneLeg), met: new(null, null, new(1001, TemperatureScale.Fahrenheit), []))
                .AtBest("chain.heat", Found.No)
        );
    }

    private static TagRemark Remark(TagVerdict verdict, string check) => verdict.Remarks.Single(r => r.Check == check);

    private static TagVerdict Judged(TagTranscription tag, string books = "asme", Surroundings? met = null) =>
        TagJudgement.Of(
            tag,
            met ?? Surroundings.Ordinary,
            books.Split(' ').Select(b => RuleBookShelf.Find(b)!).ToList()
        );

    private static TagTranscription Tag(
        string gear,
        string? marked = "3000 lb",
        decimal? factor = null,
        IReadOnlyList<string>? carried = null
    )
    {
        var piece = CaseReader.Read(Given.Json(gear, "")).Value!.Gear;
        return new(
            piece,
            carried ?? piece.Family.TagEntries.Select(e => e.Code).ToList(),
            marked is null ? null : Mass.Parse(marked),
            factor
        );
    }
}
