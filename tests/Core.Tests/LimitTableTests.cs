using System.Globalization;
using Keralith.Core.Gear;
using Keralith.Core.Judgement;
using Keralith.Core.Quantities;
using Xunit;

namespace Keralith.Core.Tests;

/// <summary>
/// The limits of every other family as the trade writes them, one a line, each tried at the limit, just below and just above,
/// in inches and in millimetres. A line gives gear, criterion, part, books, figure when new, limit, and whether the
/// limit itself passes.
/// </summary>
public class LimitTableTests
{
    private const string Measures = """
        wire-rope-sling            rope.diameter        leg-1        asme              20 mm    19 mm        passes  down
        wire-rope-sling            rope.diameter        leg-1        asme              3/4 in   0.7125 in    passes  down
        wire-rope-sling            rope.diameter        leg-1        osha              20 mm    19 mm        passes  down
        wire-rope-sling            rope.diameter        leg-1        osha-construction 3/4 in   0.7125 in    passes  down
        wire-rope-sling            rope.diameter        leg-1        australia         20 mm    19 mm        passes  down
        wire-rope-sling            rope.diameter        leg-1        japan             20 mm    18.6 mm      fails   down
        wire-rope-sling            rope.diameter        leg-1        japan             1 in     0.93 in      fails   down
        wire-rope-sling            rope.diameter        leg-1        europe            20 mm    18 mm        fails   down
        wire-rope-sling            rope.diameter        leg-1        europe            1 in     0.9 in       fails   down
        wire-rope-sling            rope.diameter        leg-1        ontario           8 mm     7.6 mm       passes  down
        wire-rope-sling            rope.diameter        leg-1        ontario           8.1 mm   7.695 mm     passes  down
        wire-rope-sling            rope.diameter        leg-1        ontario           19.9 mm  18.905 mm    passes  down
        wire-rope-sling            rope.diameter        leg-1        ontario           20 mm    19 mm        passes  down
        wire-rope-sling            rope.diameter        leg-1        ontario           26 mm    24.7 mm      passes  down
        wire-rope-sling            rope.diameter        leg-1        ontario           50 mm    47.5 mm      passes  down
        wire-rope-sling            rope.diameter        leg-1        ontario           64 mm    61 mm        passes  down
        wire-rope-sling            rope.diameter        leg-1        ontario           1/2 in   0.475 in     passes  down
        wire-rope-sling            rope.outer-wire      leg-1        osha              1.2 mm   0.8 mm       fails   down
        wire-rope-sling            rope.outer-wire      leg-1        osha              0.06 in  0.04 in      fails   down
        wire-rope-sling            rope.outer-wire      leg-1        osha-construction 1.2 mm   0.8 mm       fails   down
        wire-rope-sling            rope.outer-wire      leg-1        ontario           1.2 mm   0.8 mm       passes  down
        wire-rope-sling            rope.outer-wire      leg-1        ontario           0.06 in  0.04 in      passes  down
        metal-mesh-sling           mesh.abrasion        body         asme              4 mm     3 mm         fails   down
        metal-mesh-sling           mesh.abrasion        body         asme              0.16 in  0.12 in      fails   down
        metal-mesh-sling           mesh.corrosion       body         asme              4 mm     3.4 mm       fails   down
        metal-mesh-sling           mesh.corrosion       body         osha              0.16 in  0.136 in     fails   down
        metal-mesh-sling           mesh.choker-slot     fitting-top  asme              50 mm    55 mm        passes  up
        metal-mesh-sling           mesh.choker-slot     fitting-top  europe            2 in     2.2 in       passes  up
        metal-mesh-sling           mesh.eye-width       fitting-top  asme              50 mm    45 mm        passes  down
        metal-mesh-sling           mesh.eye-width       fitting-top  asme              2 in     1.8 in       passes  down
        metal-mesh-sling           mesh.eye-section     fitting-bottom asme            20 mm    17 mm        fails   down
        metal-mesh-sling           mesh.eye-section     fitting-bottom asme            1 in     0.85 in      fails   down
        fiber-rope-sling           fiber.diameter       leg-1        asme              30 mm    27 mm        passes  down
        fiber-rope-sling           fiber.diameter       leg-1        japan             1 in     0.9 in       passes  down
        eye-bolt                   adj.wear             body         asme              3/4 in   0.675 in     fails   down
        eye-bolt                   adj.wear             body         osha              20 mm    18 mm        fails   down
        eye-nut                    adj.wear             body         asme              20 mm    18 mm        fails   down
        swivel-hoist-ring          adj.wear             bail         asme              3/4 in   0.675 in     fails   down
        turnbuckle                 adj.wear             body         asme              20 mm    18 mm        fails   down
        swivel                     link.wear            body         asme              20 mm    18 mm        fails   down
        wedge-socket               wedge.wear           body         asme              30 mm    27 mm        fails   down
        wedge-socket               wedge.wear           body         asme              1 in     0.9 in       fails   down
        wire-rope-clip             clip.wear            body         asme              20 mm    18 mm        fails   down
        wire-rope-clip             clip.wear            body         asme              1/2 in   0.45 in      fails   down
        rigging-block              block.wear           body         asme              20 mm    18 mm        fails   down
        rigging-block              block.wear           body         asme              1 in     0.9 in       fails   down
        load-indicator             cell.wear            body         asme              20 mm    18 mm        fails   down
        load-indicator             cell.wear            body         asme              1 in     0.9 in       fails   down
        hand-chain-hoist           hoistchain.growth    load-chain   asme              300 mm   307.5 mm     passes  up
        hand-chain-hoist           hoistchain.growth    load-chain   osha              12 in    12.3 in      passes  up
        lever-hoist                hoistchain.growth    load-chain   asme              300 mm   307.5 mm     passes  up
        powered-hoist              hoistchain.growth    load-chain   asme              300 mm   304.5 mm     passes  up
        powered-hoist              hoistchain.growth    load-chain   europe            12 in    12.18 in     passes  up
        hand-chain-hoist           hoistchain.wear      load-chain   asme              10 mm    9 mm         fails   down
        hand-chain-hoist           hoistchain.wear      load-chain   asme              3/8 in   0.3375 in    fails   down
        rope-grip-hoist            hoistrope.outer-wire load-rope    asme              1.2 mm   0.8 mm       fails   down
        rope-grip-hoist            hoistrope.outer-wire load-rope    asme              0.06 in  0.04 in      fails   down
        rope-grip-hoist            hoistrope.diameter   load-rope    asme              1/4 in   0.234375 in  passes  down
        rope-grip-hoist            hoistrope.diameter   load-rope    asme              5/16 in  0.296875 in  passes  down
        rope-grip-hoist            hoistrope.diameter   load-rope    asme              3/8 in   0.34375 in   passes  down
        rope-grip-hoist            hoistrope.diameter   load-rope    asme              1/2 in   0.46875 in   passes  down
        rope-grip-hoist            hoistrope.diameter   load-rope    asme              9/16 in  0.515625 in  passes  down
        rope-grip-hoist            hoistrope.diameter   load-rope    asme              3/4 in   0.703125 in  passes  down
        rope-grip-hoist            hoistrope.diameter   load-rope    asme              7/8 in   0.8125 in    passes  down
        rope-grip-hoist            hoistrope.diameter   load-rope    asme              1-1/8 in 1.0625 in    passes  down
        rope-grip-hoist            hoistrope.diameter   load-rope    asme              1-1/4 in 1.15625 in   passes  down
        rope-grip-hoist            hoistrope.diameter   load-rope    asme              1-1/2 in 1.40625 in   passes  down
        rope-grip-hoist            hoistrope.diameter   load-rope    asme              8 mm     7.6 mm       passes  down
        rope-grip-hoist            hoistrope.diameter   load-rope    asme              8.1 mm   7.3 mm       passes  down
        rope-grip-hoist            hoistrope.diameter   load-rope    asme              13 mm    12.2 mm      passes  down
        rope-grip-hoist            hoistrope.diameter   load-rope    asme              19 mm    17.8 mm      passes  down
        rope-grip-hoist            hoistrope.diameter   load-rope    asme              29 mm    27.4 mm      passes  down
        rope-grip-hoist            hoistrope.diameter   load-rope    osha              38 mm    35.6 mm      passes  down
        rope-grip-hoist            hook.throat          bottom-hook  asme              40 mm    42 mm        fails   up
        rope-grip-hoist            hook.throat          bottom-hook  osha              2 in     2.3 in       passes  up
        lifting-clamp              clamp.wear           jaw          asme              20 mm    18 mm        fails   down
        lifting-clamp              clamp.wear           jaw          asme              1 in     0.9 in       fails   down
        lifting-beam               beam.lug-wear        body         asme              20 mm    18 mm        fails   down
        lifting-beam               beam.lug-wear        body         asme              1 in     0.9 in       fails   down
        lifting-beam               beam.hole-wear       body         asme              40 mm    44 mm        fails   up
        lifting-beam               beam.hole-wear       body         asme              2 in     2.2 in       fails   up
        """;

    public static TheoryData<string, string, string, string, string, string, bool, bool> MeasureRows
    {
        get
        {
            var rows = new TheoryData<string, string, string, string, string, string, bool, bool>();
            foreach (var line in Measures.Split('\n'))
            {
                var c = line.Split(' ', StringSplitOptions.RemoveEmptyEntries);
                rows.Add(c[0], c[1], c[2], c[3], $"{c[4]} {c[5]}", $"{c[6]} {c[7]}", c[8] == "passes", c[9] == "up");
            }

            return rows;
        }
    }

    [Theory]
    [MemberData(nameof(MeasureRows))]
    public void A_measure_is_judged_at_just_below_and_just_above_its_limit(
        string family,
        string criterion,
        string part,
        string book,
        string baseline,
        string limit,
        bool limitPasses,
        bool worseIsLarger
    )
    {
        var unit = limit.Split(' ')[1];
        var figure = decimal.Parse(limit.Split(' ')[0], CultureInfo.InvariantCulture);
        var step = worseIsLarger ? 0.0001m : -0.0001m;
        Assert.Equal(limitPasses ? Outcome.Watch : Outcome.Remove, Judged(figure));
        Assert.Equal(Outcome.Watch, Judged(figure - step));
        Assert.Equal(Outcome.Remove, Judged(figure + step));
        var finding = Given.Measured(Gear(family), criterion, part, limit, baseline, book);
        Assert.Equal(Length.Parse(limit).Millimetres, finding.Governing.Figure!.Limit);

        Outcome Judged(decimal value) =>
            Given.Measured(Gear(family), criterion, part, $"{value} {unit}", baseline, book).Outcome;
    }

    [Theory]
    [InlineData("strand-laid", "asme", 10)]
    [InlineData("cable-laid", "asme", 20)]
    [InlineData("braided-under-8", "asme", 20)]
    [InlineData("braided-8-or-more", "asme", 40)]
    [InlineData("strand-laid", "osha", 10)]
    [InlineData("cable-laid", "osha", 20)]
    [InlineData("braided-8-or-more", "osha", 40)]
    [InlineData("strand-laid", "osha-construction", 10)]
    [InlineData("cable-laid", "osha-construction", 20)]
    [InlineData("strand-laid", "ontario", 6)]
    [InlineData("cable-laid", "ontario", 6)]
    [InlineData("strand-laid", "japan", 12)]
    [InlineData("cable-laid", "japan", 20)]
    [InlineData("strand-laid", "australia", 12)]
    [InlineData("braided-under-8", "australia", 20)]
    [InlineData("strand-laid", "europe", 6)]
    [InlineData("braided-8-or-more", "europe", 6)]
    public void Broken_wires_in_a_sling_rope_are_counted_to_the_first_that_fails(string body, string book, int first) =>
        AssertFirstFailing(
            $$"""{"family":"wire-rope-sling","body":"{{body}}","strands":6,"wiresPerStrand":19}""",
            "rope.broken-in-lay",
            "leg-1",
            book,
            first
        );

    [Theory]
    [InlineData(6, 19, "australia", 12)]
    [InlineData(6, 19, "japan", 12)]
    [InlineData(6, 20, "australia", 13)]
    [InlineData(6, 20, "japan", 12)]
    [InlineData(6, 37, "japan", 23)]
    public void A_tenth_of_the_wires_is_taken_as_more_than_or_from(int strands, int wires, string book, int first) =>
        AssertFirstFailing(
            $$"""{"family":"wire-rope-sling","strands":{{strands}},"wiresPerStrand":{{wires}}}""",
            "rope.broken-in-lay",
            "leg-1",
            book,
            first
        );

    [Theory]
    [InlineData("wire-rope-sling", "rope.broken-in-strand", "leg-1", "asme", 5)]
    [InlineData("wire-rope-sling", "rope.broken-in-strand", "leg-1", "osha", 5)]
    [InlineData("wire-rope-sling", "rope.broken-in-strand", "leg-1", "osha-construction", 5)]
    [InlineData("wire-rope-sling", "rope.broken-in-strand", "leg-1", "ontario", 3)]
    [InlineData("wire-rope-sling", "rope.broken-in-strand", "leg-1", "europe", 3)]
    [InlineData("rope-grip-hoist", "hoistrope.broken-in-lay", "load-rope", "asme", 12)]
    [InlineData("rope-grip-hoist", "hoistrope.broken-in-lay", "load-rope", "europe", 12)]
    [InlineData("rope-grip-hoist", "hoistrope.broken-in-lay", "load-rope", "ontario", 6)]
    [InlineData("rope-grip-hoist", "hoistrope.broken-in-strand", "load-rope", "ontario", 3)]
    [InlineData("rope-grip-hoist", "hoistrope.broken-in-strand", "load-rope", "asme", 4)]
    public void Other_counts_fail_from_their_first(
        string family,
        string criterion,
        string part,
        string book,
        int first
    ) => AssertFirstFailing(Gear(family), criterion, part, book, first);

    [Fact]
    public void Rotation_resistant_hoist_rope_fails_at_two() =>
        AssertFirstFailing(
            """{"family":"rope-grip-hoist","rotationResistant":true}""",
            "hoistrope.broken-in-lay",
            "load-rope",
            "asme",
            2
        );

    [Theory]
    [InlineData("japan")]
    [InlineData("australia")]
    public void A_share_of_the_wires_holds_until_the_wires_are_known_unless_another_book_removes(string book)
    {
        const string Rope = """{"family":"wire-rope-sling"}""";
        var finding = Counted(Rope, "rope.broken-in-lay", "leg-1", 3, book);
        Assert.Equal(
            (Outcome.Hold, null, null),
            (finding.Outcome, finding.Governing.Figure, finding.Governing.Consumed)
        );
        Assert.Contains("strands", finding.Reason, StringComparison.Ordinal);
        Assert.Equal(
            (Outcome.Remove, "asme"),
            (
                Counted(Rope, "rope.broken-in-lay", "leg-1", 10, $"{book} asme").Outcome,
                Counted(Rope, "rope.broken-in-lay", "leg-1", 10, $"{book} asme").Governing.Book
            )
        );
    }

    [Theory]
    [InlineData("11/32 in")]
    [InlineData("17/32 in")]
    [InlineData("1.6 in")]
    [InlineData("38.1 mm")]
    public void Hoist_rope_between_or_beyond_the_bands_is_held(string nominal) =>
        Assert.Equal(
            Outcome.Hold,
            Given.Measured(Gear("rope-grip-hoist"), "hoistrope.diameter", "load-rope", nominal, nominal).Outcome
        );

    [Theory]
    [InlineData("kit.complete", 8, Outcome.Clear)]
    [InlineData("kit.complete", 9, Outcome.Clear)]
    [InlineData("kit.complete", 7, Outcome.Hold)]
    [InlineData("kit.complete", 0, Outcome.Hold)]
    [InlineData("kit.link-count", 8, Outcome.Hold)]
    [InlineData("kit.link-count", 9, Outcome.Clear)]
    [InlineData("kit.link-count", 12, Outcome.Clear)]
    [InlineData("kit.link-count", 13, Outcome.Hold)]
    public void A_kit_is_counted_against_its_roster_and_held_never_removed(
        string criterion,
        int count,
        Outcome expected
    )
    {
        Assert.Equal(
            expected,
            Counted(
                """{"family":"sling-kit","roster":{"members":8,"links":[9,12]}}""",
                criterion,
                "members",
                count
            ).Outcome
        );
        var unknown = Counted("""{"family":"sling-kit"}""", criterion, "members", count);
        Assert.Equal(Outcome.Hold, unknown.Outcome);
        Assert.Contains("roster", unknown.Reason, StringComparison.Ordinal);
    }

    [Theory]
    [InlineData("asme", "no", Outcome.Hold)]
    [InlineData("osha", "no", Outcome.Hold)]
    [InlineData("osha-construction", "no", Outcome.Remove)]
    [InlineData("ontario", "unsure", Outcome.Remove)]
    [InlineData("japan", "no", Outcome.Hold)]
    [InlineData("asme", "yes", Outcome.Remove)]
    public void An_eye_made_with_clips_is_never_milder_than_the_eye_itself(
        string book,
        string answer,
        Outcome expected
    ) =>
        Assert.Equal(
            expected,
            Given
                .Judged(
                    """{"family":"wire-rope-sling","termination":"clips"}""",
                    $$"""{"criterion":"rope.clips","part":"leg-1","answer":"{{answer}}"}""",
                    book
                )
                .Findings[0]
                .Outcome
        );

    [Theory]
    [InlineData("wire-rope-sling", "rope.abrasion", "leg-1")]
    [InlineData("wire-rope-sling", "rope.short", "leg-1")]
    [InlineData("roundsling", "round.cover", "body")]
    [InlineData("hand-chain-hoist", "hoist.warning-label", "frame")]
    [InlineData("load-indicator", "cell.calibration", "body")]
    [InlineData("lifting-point", "point.document", "body")]
    public void These_faults_hold(string family, string criterion, string part) =>
        Assert.Equal(Outcome.Hold, Seen(family, criterion, part));

    [Theory]
    [InlineData("wire-rope-sling", "rope.lang", "leg-1")]
    [InlineData("sling-kit", "kit.match", "members")]
    [InlineData("lifting-clamp", "clamp.pivot", "body")]
    [InlineData("powered-hoist", "hoist.drift", "trolley")]
    [InlineData("lever-hoist", "hoist.free-chain", "frame")]
    public void These_faults_remove(string family, string criterion, string part) =>
        Assert.Equal(Outcome.Remove, Seen(family, criterion, part));

    [Fact]
    public void A_dry_load_chain_is_watched() =>
        Assert.Equal(Outcome.Watch, Seen("hand-chain-hoist", "hoistchain.lubrication", "load-chain"));

    [Fact]
    public void Scrubbed_rope_is_decided_by_the_diameter_measured_there()
    {
        var verdict = Given.Judged(
            """{"family":"wire-rope-sling","size":"20 mm"}""",
            """{"criterion":"rope.abrasion","part":"leg-1","answer":"yes"},{"criterion":"rope.diameter","part":"leg-1","value":"19.8 mm"}"""
        );
        Assert.Equal([Outcome.Clear, Outcome.Clear], verdict.Findings.Select(f => f.Outcome));
    }

    [Fact]
    public void Lang_lay_rope_is_removed_whatever_was_answered()
    {
        var verdict = Given.Judged("""{"family":"wire-rope-sling","lay":"lang","legs":2}""", "");
        Assert.Equal(VerdictKind.Remove, verdict.Kind);
        Assert.Equal(["leg-1", "leg-2"], verdict.Findings.Select(f => f.Part));
    }

    private static Outcome Seen(string family, string criterion, string part) =>
        Given
            .Judged(
                Gear(family),
                $$"""{"criterion":"{{criterion}}","part":"{{part}}","answer":"yes"}""",
                kind: "initial"
            )
            .Findings[0]
            .Outcome;

    private static void AssertFirstFailing(string gear, string criterion, string part, string book, int first)
    {
        Assert.Equal(Outcome.Remove, Counted(gear, criterion, part, first, book).Outcome);
        Assert.Equal(Outcome.Remove, Counted(gear, criterion, part, first + 1, book).Outcome);
        Assert.NotEqual(Outcome.Remove, Counted(gear, criterion, part, first - 1, book).Outcome);
        var figure = Counted(gear, criterion, part, 0, book).Governing.Figure!;
        Assert.Equal((first, Comparator.AtOrAbove), (figure.Limit, figure.Comparator));
    }

    private static Finding Counted(string gear, string criterion, string part, int count, string books = "asme") =>
        Given.Judged(gear, $$"""{"criterion":"{{criterion}}","part":"{{part}}","count":{{count}}}""", books).Findings[
            0
        ];

    private static string Gear(string family) =>
        family switch
        {
            "powered-hoist" => """{"family":"powered-hoist","suspension":"trolley"}""",
            _ => $$"""{"family":"{{family}}"}""",
        };
}
