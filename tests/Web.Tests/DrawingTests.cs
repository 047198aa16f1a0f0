using System.Globalization;
using AngleSharp.Html.Parser;
using Keralith.Core.Formats;
using Keralith.Core.Gear;
using Keralith.Core.Judgement;
using Keralith.Core.Quantities;
using Keralith.Web.Drawings;
using Microsoft.AspNetCore.Html;
using Xunit;

namespace Keralith.Web.Tests;

public class DrawingTests
{
    public static TheoryData<string> Pieces =>
        new()
        {
            """{"family":"alloy-chain-sling","legs":1}""",
            """{"family":"alloy-chain-sling","legs":2,"endFitting":"hook","size":"3/8 in"}""",
            """{"family":"alloy-chain-sling","legs":4,"endFitting":"shackle","shortener":true}""",
            """{"family":"shackle","pinType":"screw","size":"7/8 in"}""",
            """{"family":"shackle","pinType":"bolt"}""",
            """{"family":"shackle","pinType":"round"}""",
            """{"family":"hook","hookLatch":false}""",
            """{"family":"link-or-ring"}""",
            """{"family":"wire-rope-sling","size":"3/4 in","endFitting":"hook","legs":3}""",
            """{"family":"wire-rope-sling","termination":"clips"}""",
            """{"family":"metal-mesh-sling","width":"6 in"}""",
            """{"family":"fiber-rope-sling","legs":2,"endFitting":"link"}""",
            """{"family":"web-sling"}""",
            """{"family":"web-sling","type":"with-fittings"}""",
            """{"family":"roundsling","endFitting":"shackle"}""",
            """{"family":"eye-bolt","shoulder":true}""",
            """{"family":"eye-nut"}""",
            """{"family":"swivel-hoist-ring"}""",
            """{"family":"turnbuckle"}""",
            """{"family":"wire-rope-clip"}""",
            """{"family":"wedge-socket"}""",
            """{"family":"swivel"}""",
            """{"family":"rigging-block","endFitting":"hook"}""",
            """{"family":"load-indicator"}""",
            """{"family":"hand-chain-hoist"}""",
            """{"family":"powered-hoist","suspension":"trolley","power":"electric"}""",
            """{"family":"powered-hoist","suspension":"lug","medium":"rope"}""",
            """{"family":"lever-hoist","medium":"web"}""",
            """{"family":"lever-hoist","medium":"rope"}""",
            """{"family":"rope-grip-hoist"}""",
            """{"family":"lifting-clamp","kind":"plate"}""",
            """{"family":"lifting-clamp","kind":"beam"}""",
            """{"family":"lifting-beam"}""",
            """{"family":"lifting-point","kind":"trolley-beam"}""",
            """{"family":"cargo-net"}""",
            """{"family":"sling-kit"}""",
            """{"family":"restraint"}""",
        };

    [Theory]
    [MemberData(nameof(Pieces))]
    public void Every_part_that_is_asked_about_is_drawn_named_and_leads_somewhere(string gear)
    {
        var piece = Piece(gear);
        var svg = Text(GearDrawings.Draw(piece, new DrawingOptions { LinkTo = p => $"/x?part={p}" }));
        var document = new HtmlParser().ParseDocument(svg);
        var drawn = document
            .QuerySelectorAll("a[data-part]")
            .Select(a => a.GetAttribute("data-part")!)
            .Order()
            .ToList();
        var asked = Catalogue
            .Parts(piece, [RuleBookShelf.Asme])
            .Where(p => p.Criteria.Count > 0)
            .Select(p => p.Path)
            .Order();
        Assert.Equal(asked, drawn);
        Assert.All(document.QuerySelectorAll("a[data-part]"), a => Assert.NotEmpty(a.GetAttribute("aria-label")!));
    }

    [Theory]
    [MemberData(nameof(Pieces))]
    public void The_part_in_question_is_inked_and_the_rest_pale(string gear)
    {
        var piece = Piece(gear);
        foreach (var part in Catalogue.Parts(piece, [RuleBookShelf.Asme]).Where(p => p.Criteria.Count > 0))
        {
            var svg = Text(GearDrawings.Draw(piece, new DrawingOptions { Active = part.Path, LinkTo = p => p }));
            Assert.Single(new HtmlParser().ParseDocument(svg).QuerySelectorAll("g.is-active"));
        }
    }

    [Theory]
    [MemberData(nameof(Pieces))]
    public void A_silhouette_is_a_drawing_without_links_or_figures(string gear)
    {
        var svg = Text(GearDrawings.Draw(Piece(gear), new DrawingOptions { Silhouette = true }));
        var document = new HtmlParser().ParseDocument(svg);
        Assert.Empty(document.QuerySelectorAll("a"));
        Assert.Empty(document.QuerySelectorAll("text"));
        Assert.NotEmpty(document.QuerySelectorAll(".outline"));
        Assert.DoesNotContain("style=", svg, StringComparison.Ordinal);
    }

    [Fact]
    public void Figures_stand_where_they_are_measured_and_are_never_taken_for_markup()
    {
        var svg = Text(
            GearDrawings.Draw(
                Piece("""{"family":"hook"}"""),
                new DrawingOptions
                {
                    Figures = new Dictionary<string, string>
                    {
                        ["hook hook.throat"] = "<b>1-3/8 in",
                        ["hook hook.wear"] = "1 in",
                    },
                }
            )
        );
        Assert.Contains("throat &lt;b&gt;1-3/8 in", svg, StringComparison.Ordinal);
        Assert.Contains("section 1 in", svg, StringComparison.Ordinal);
    }

    [Fact]
    public void The_four_outcomes_have_four_shapes_and_always_their_word()
    {
        var marks = new[] { "fit", "watch", "hold", "remove" }
            .Select(c => (Code: c, Svg: Text(Glyphs.Word(c))))
            .ToList();
        Assert.All(marks, m => Assert.EndsWith($"{m.Code}</span>", m.Svg, StringComparison.Ordinal));
        Assert.Equal(
            4,
            marks
                .Select(m =>
                    m.Svg[
                        m.Svg.IndexOf("focusable", StringComparison.Ordinal)..m.Svg.IndexOf(
                            "</svg>",
                            StringComparison.Ordinal
                        )
                    ]
                )
                .Distinct()
                .Count()
        );
    }

    [Fact]
    public void A_gauge_shows_the_figure_when_new_each_books_limit_the_reading_and_the_last_ones()
    {
        var gauge = Gauge("hook.throat", """{"family":"hook"}""", "1.375 in", "1.43 in", ["1.38 in", "1.40 in"]);
        Assert.Equal(
            "Gauge: as new 1.375 in; asme limit 1.444 in; osha limit 1.581 in; reading 1.43 in",
            gauge.QuerySelector("svg")!.GetAttribute("aria-label")
        );
        Assert.Equal(2, gauge.QuerySelectorAll(".gauge-limit").Length);
        Assert.Single(gauge.QuerySelectorAll(".gauge-pointer"));
        Assert.Equal(2, gauge.QuerySelectorAll(".gauge-earlier").Length);
    }

    [Fact]
    public void Books_of_one_mind_share_a_tick_and_a_two_step_rule_shows_its_hold()
    {
        var wear = Gauge("hook.wear", """{"family":"hook"}""", "25 mm", null, []);
        Assert.Single(wear.QuerySelectorAll(".gauge-limit"));
        Assert.Contains(wear.QuerySelectorAll(".gauge-label"), t => t.TextContent == "asme, osha");
        Assert.Single(
            Gauge("chain.gauge-growth", """{"family":"alloy-chain-sling"}""", "11.25 in", null, [])
                .QuerySelectorAll(".gauge-hold")
        );
    }

    [Fact]
    public void A_gauge_without_a_figure_when_new_is_not_drawn_and_a_wild_reading_stays_on_the_sheet()
    {
        var @case = CaseReader.Read("""{"format":"keralith.case/1","gear":{"family":"hook"}}""").Value!;
        Assert.Empty(
            Text(GaugeDrawing.Draw(LimitSet.For(@case, Catalogue.Get("hook.throat"), null), null, [], LengthUnit.Inch))
        );
        var pointer = Gauge("hook.throat", """{"family":"hook"}""", "1 in", "900 in", [])
            .QuerySelector(".gauge-pointer")!
            .GetAttribute("d")!;
        Assert.InRange(double.Parse(pointer[1..pointer.IndexOf(' ', StringComparison.Ordinal)]), 0, 540);
    }

    private static AngleSharp.Html.Dom.IHtmlDocument Gauge(
        string criterion,
        string gear,
        string baseline,
        string? value,
        string[] earlier
    )
    {
        var @case = CaseReader
            .Read($$"""{"format":"keralith.case/1","ruleBooks":["asme","osha"],"gear":{{gear}}}""")
            .Value!;
        var from = Length.Parse(baseline);
        return new HtmlParser().ParseDocument(
            Text(
                GaugeDrawing.Draw(
                    LimitSet.For(@case, Catalogue.Get(criterion), from),
                    value is null ? null : Length.Parse(value),
                    earlier.Select(Length.Parse).ToList(),
                    from.Unit
                )
            )
        );
    }

    private static GearPiece Piece(string gear) =>
        CaseReader.Read($$"""{"format":"keralith.case/1","gear":{{gear}}}""").Value!.Gear;

    private static string Text(IHtmlContent content)
    {
        using var writer = new StringWriter();
        content.WriteTo(writer, System.Text.Encodings.Web.HtmlEncoder.Default);
        return writer.ToString();
    }

    [Fact]
    public void Every_measurement_and_count_has_a_drawing_of_how_it_is_taken()
    {
        var without = Catalogue
            .All.Where(c => !c.IsAnswerChosen && c.Id != "kit.complete" && GuideDrawing.Of(c).ToString()!.Length == 0)
            .Select(c => c.Id);
        Assert.Empty(without);
    }

    [Theory]
    [InlineData(0, 0, false)]
    [InlineData(1, 1, false)]
    [InlineData(20, 20, false)]
    [InlineData(21, 11, true)]
    [InlineData(2000, 20, true)]
    public void A_week_of_thousands_is_drawn_with_no_more_links_than_a_week_of_twenty(
        int count,
        int links,
        bool several
    )
    {
        var drawn = WeeksDrawing.Draw([new(new(2026, 3, 2), count)], null, _ => "/due").ToString()!;
        Assert.Equal(links, drawn.Split("weeks-link").Length - 1);
        Assert.Equal(several, drawn.Contains("A link stands for", StringComparison.Ordinal));
    }

    private static string Written(SvgText line) => line.ToStringAndClear();

    /// <summary>Halves go away from nought, and a nought has no sign and no places.</summary>
    [Theory]
    [InlineData(0, "0")]
    [InlineData(-0.004, "0")]
    [InlineData(0.005, "0.01")]
    [InlineData(0.0049, "0")]
    [InlineData(0.05, "0.05")]
    [InlineData(-0.05, "-0.05")]
    [InlineData(0.5, "0.5")]
    [InlineData(0.1 + 0.2, "0.3")]
    [InlineData(1.005, "1.01")]
    [InlineData(2.675, "2.68")]
    [InlineData(-12.345, "-12.35")]
    [InlineData(99.995, "100")]
    [InlineData(120, "120")]
    [InlineData(999999999.99, "999999999.99")]
    [InlineData(1e9, "1000000000")]
    public void A_place_is_written_to_a_hundredth(double place, string written) =>
        Assert.Equal($"M{written} 7", Written($"M{place:0.##} {7}"));

    [Theory]
    [InlineData(0.05, "0.1")]
    [InlineData(0.049, "0")]
    [InlineData(-3.25, "-3.3")]
    [InlineData(12, "12")]
    public void A_place_is_written_to_a_tenth_where_that_is_enough(double place, string written) =>
        Assert.Equal(written, Written($"{place:0.#}"));

    [Fact]
    public void Places_are_written_as_the_platform_writes_them()
    {
        var some = new Random(7);
        for (var i = 0; i < 20_000; i++)
        {
            var place = Math.Round((some.NextDouble() - 0.5) * 2000, some.Next(0, 9));
            var platform = place.ToString("0.##", CultureInfo.InvariantCulture);
            Assert.Equal(platform == "-0" ? "0" : platform, Written($"{place:0.##}"));
        }
    }

    [Fact]
    public void A_place_that_is_no_number_is_left_to_the_platform() =>
        Assert.Equal("NaN", Written($"{double.NaN:0.##}"));
}
