using Keralith.Core.Formats;
using Keralith.Core.Gear;
using Xunit;

namespace Keralith.Core.Tests;

/// <summary>
/// What is asked where: the parts of each family in the order a hand travels, with their criteria, as a periodic
/// inspection under ASME asks them.
/// </summary>
public class PlacementTests
{
    private const string Hook =
        "hook.crack hook.nick-gouge hook.twist hook.throat hook.wear hook.fit hook.latch hook.attachment hook.heat hook.corrosion";
    private const string Link = "link.deformed link.heat link.corrosion link.nick-gouge link.wear";
    private const string FirstPart = "id.marking id.tag-complete";
    private const string Rope =
        "rope.broken-in-lay rope.broken-in-strand rope.diameter rope.abrasion rope.kink rope.crush rope.birdcage rope.core rope.heat rope.corrosion rope.stretch";
    private const string Web = "web.chemical web.melt web.cut web.stitch web.wear web.knot web.stiff";
    private const string Adjustable = "adj.deformed adj.wear adj.nick-gouge adj.heat adj.corrosion";
    private const string HoistChain =
        "hoist.reeving hoistchain.damage hoistchain.lubrication hoistchain.growth hoistchain.wear";
    private const string HoistRope =
        "hoistrope.broken-in-lay hoistrope.broken-in-strand hoistrope.valley-break hoistrope.outer-wire hoistrope.diameter hoistrope.structure hoistrope.heat hoistrope.end";
    private const string Whole = "any.unauthorised-repair any.doubt";
    private const string WholeWithAttachments = "any.unauthorised-repair any.doubt any.attachment-rating";

    public static TheoryData<string, string[]> Families =>
        new()
        {
            {
                """{"family":"wire-rope-sling"}""",
                [
                    $"tag: {FirstPart}",
                    $"leg-1: {Rope}",
                    "leg-1/eye-top: rope.end-attachment rope.eye",
                    "leg-1/eye-bottom: rope.end-attachment rope.eye",
                    $"whole: {WholeWithAttachments}",
                ]
            },
            {
                """{"family":"wire-rope-sling","body":"cable-laid","legs":2,"endFitting":"hook","termination":"clips","thimblePolicy":true}""",
                [
                    $"tag: {FirstPart}",
                    $"top-link: {Link}",
                    $"leg-1: {Rope.Replace(" rope.broken-in-strand", "", StringComparison.Ordinal)} rope.clips",
                    "leg-1/eye-top: policy.thimble rope.end-attachment rope.eye",
                    "leg-1/eye-bottom: policy.thimble rope.end-attachment rope.eye",
                    $"leg-1/hook: {Hook}",
                    $"leg-2: {Rope.Replace(" rope.broken-in-strand", "", StringComparison.Ordinal)} rope.clips",
                    "leg-2/eye-top: policy.thimble rope.end-attachment rope.eye",
                    "leg-2/eye-bottom: policy.thimble rope.end-attachment rope.eye",
                    $"leg-2/hook: {Hook}",
                    $"whole: {WholeWithAttachments}",
                ]
            },
            {
                """{"family":"metal-mesh-sling"}""",
                [
                    $"tag: {FirstPart}",
                    "body: mesh.weld mesh.broken-wire mesh.abrasion mesh.corrosion mesh.stiff mesh.heat",
                    "fitting-top: mesh.choker-slot mesh.eye-width mesh.eye-section mesh.fitting",
                    "fitting-bottom: mesh.choker-slot mesh.eye-width mesh.eye-section mesh.fitting",
                    $"whole: {WholeWithAttachments}",
                ]
            },
            {
                """{"family":"fiber-rope-sling","endFitting":"link"}""",
                [
                    $"tag: {FirstPart}",
                    "leg-1: fiber.cut fiber.diameter fiber.fuzz fiber.inside fiber.stiff fiber.melt fiber.kink fiber.splice",
                    $"leg-1/fitting: {Link}",
                    $"whole: {WholeWithAttachments}",
                ]
            },
            {
                """{"family":"web-sling","warningCore":true,"type":"with-fittings"}""",
                [
                    $"tag: {FirstPart}",
                    $"body: {Web} web.warning-core web.stretch",
                    $"eye-top: {Web} web.warning-core",
                    $"eye-bottom: {Web} web.warning-core",
                    "fitting-top: web.fitting",
                    "fitting-bottom: web.fitting",
                    $"whole: {WholeWithAttachments}",
                ]
            },
            {
                """{"family":"roundsling"}""",
                [
                    $"tag: {FirstPart}",
                    "body: round.chemical round.heat round.core-exposed round.core-broken round.knot round.cover round.stiff",
                    $"whole: {WholeWithAttachments}",
                ]
            },
            {
                """{"family":"roundsling","endFitting":"link"}""",
                [
                    $"tag: {FirstPart}",
                    "body: round.chemical round.heat round.core-exposed round.core-broken round.knot round.cover round.stiff",
                    "fitting: round.fitting",
                    $"whole: {WholeWithAttachments}",
                ]
            },
            {
                """{"family":"shackle","pinType":"bolt"}""",
                [
                    $"body: {FirstPart} shackle.deformed shackle.wear-body shackle.nick-gouge shackle.heat shackle.corrosion",
                    "pin: shackle.deformed shackle.pin-fit shackle.pin-original shackle.pin-secured shackle.wear-pin shackle.thread shackle.nick-gouge shackle.heat shackle.corrosion",
                    $"whole: {Whole}",
                ]
            },
            {
                """{"family":"eye-bolt","shoulder":true}""",
                [
                    $"body: {FirstPart} {Adjustable} eyebolt.shank eyebolt.shoulder",
                    "thread: adj.thread",
                    $"whole: {Whole}",
                ]
            },
            {
                """{"family":"eye-bolt"}""",
                [$"body: {FirstPart} {Adjustable} eyebolt.shank", "thread: adj.thread", $"whole: {Whole}"]
            },
            {
                """{"family":"eye-nut"}""",
                [$"body: {FirstPart} {Adjustable}", "thread: adj.thread", $"whole: {Whole}"]
            },
            {
                """{"family":"turnbuckle"}""",
                [$"body: {FirstPart} {Adjustable} turnbuckle.lock", "thread: adj.thread", $"whole: {Whole}"]
            },
            {
                """{"family":"swivel-hoist-ring"}""",
                [
                    $"body: {FirstPart} {Adjustable} ring.rotate ring.seat",
                    "thread: adj.thread",
                    $"bail: {Adjustable}",
                    $"whole: {Whole}",
                ]
            },
            {
                """{"family":"wire-rope-clip"}""",
                [
                    $"body: {FirstPart} clip.fit clip.wear clip.deformed clip.heat clip.corrosion clip.nick-gouge",
                    $"whole: {Whole}",
                ]
            },
            {
                """{"family":"wedge-socket"}""",
                [
                    $"body: {FirstPart} wedge.wear wedge.fit wedge.deformed wedge.heat wedge.corrosion wedge.nick-gouge",
                    $"whole: {Whole}",
                ]
            },
            {
                """{"family":"swivel"}""",
                [$"body: {FirstPart} {Link} swivel.rotate swivel.fasteners", $"whole: {Whole}"]
            },
            {
                """{"family":"rigging-block","endFitting":"hook","hookLatch":false}""",
                [
                    $"body: {FirstPart} block.fasteners block.wear block.deformed block.heat block.corrosion block.nick-gouge",
                    "sheave: block.sheave",
                    $"hook: {Hook.Replace(" hook.latch", "", StringComparison.Ordinal)}",
                    $"whole: {Whole}",
                ]
            },
            {
                """{"family":"load-indicator"}""",
                [
                    $"body: {FirstPart} cell.wear cell.calibration cell.deformed cell.heat cell.corrosion cell.nick-gouge",
                    "display: cell.function",
                    $"whole: {Whole}",
                ]
            },
            {
                """{"family":"hook","latchPolicy":true}""",
                [
                    $"hook: {FirstPart} policy.latch {Hook.Replace(" hook.fit", "", StringComparison.Ordinal)}",
                    $"whole: {Whole}",
                ]
            },
            {
                """{"family":"hand-chain-hoist","overloadLimiter":true}""",
                [
                    $"frame: {FirstPart} hoist.operation hoist.overload hoist.frame hoist.gears hoist.warning-label",
                    $"load-chain: {HoistChain}",
                    "hand-chain: hoist.hand-effort",
                    $"top-hook: {Hook}",
                    $"bottom-hook: {Hook}",
                    "brake: hoist.brake hoist.brake-wear",
                    $"whole: {WholeWithAttachments}",
                ]
            },
            {
                """{"family":"powered-hoist","power":"electric","suspension":"trolley","medium":"rope"}""",
                [
                    $"frame: {FirstPart} hoist.operation hoist.frame hoist.gears hoist.warning-label",
                    $"load-rope: hoist.reeving hoist.drum {HoistRope}",
                    "trolley: hoist.suspension hoist.drift",
                    $"bottom-hook: {Hook}",
                    "brake: hoist.brake hoist.brake-wear",
                    "limits: hoist.limit",
                    "controls: hoist.controls hoist.supply hoist.electrical",
                    $"whole: {WholeWithAttachments}",
                ]
            },
            {
                """{"family":"powered-hoist","power":"air","suspension":"lug"}""",
                [
                    $"frame: {FirstPart} hoist.operation hoist.frame hoist.gears hoist.warning-label",
                    $"load-chain: {HoistChain}",
                    "top-lug: hoist.suspension",
                    $"bottom-hook: {Hook}",
                    "brake: hoist.brake hoist.brake-wear",
                    "limits: hoist.limit",
                    "controls: hoist.controls hoist.supply",
                    $"whole: {WholeWithAttachments}",
                ]
            },
            {
                """{"family":"lever-hoist","medium":"web","warningCore":true}""",
                [
                    $"frame: {FirstPart} hoist.operation hoist.free-chain hoist.frame hoist.gears hoist.warning-label",
                    "handle: hoist.hand-effort hoist.handle",
                    $"load-web: {Web} web.stretch hoist.reeving",
                    $"top-hook: {Hook}",
                    $"bottom-hook: {Hook}",
                    "brake: hoist.brake hoist.brake-wear",
                    $"whole: {WholeWithAttachments}",
                ]
            },
            {
                """{"family":"rope-grip-hoist"}""",
                [
                    $"frame: {FirstPart} hoist.operation hoist.jaws hoist.frame hoist.warning-label",
                    "handle: hoist.handle",
                    $"load-rope: hoist.reeving hoist.rope-type {HoistRope}",
                    "anchor: hoist.anchor",
                    $"bottom-hook: {Hook}",
                    "shear-pins: hoist.shear-pin",
                    $"whole: {WholeWithAttachments}",
                ]
            },
            {
                """{"family":"lifting-clamp","kind":"beam"}""",
                [
                    $"body: {FirstPart} clamp.deformed clamp.crack clamp.pivot clamp.screw clamp.pads",
                    "jaw: clamp.teeth clamp.lock clamp.wear",
                    $"whole: {Whole}",
                ]
            },
            {
                """{"family":"lifting-beam"}""",
                [
                    $"body: {FirstPart} beam.deformed beam.weld-crack beam.lug-wear beam.hole-wear",
                    "fittings: beam.fasteners",
                    $"whole: {WholeWithAttachments}",
                ]
            },
            {
                """{"family":"cargo-net"}""",
                [$"body: {FirstPart} net.cut net.knot", "edge-rope: net.edge", $"whole: {Whole}"]
            },
            {
                """{"family":"lifting-point"}""",
                [$"body: {FirstPart} point.crack point.deformed point.fasteners point.document", $"whole: {Whole}"]
            },
            {
                """{"family":"sling-kit"}""",
                [
                    $"members: {FirstPart} kit.complete kit.member kit.match kit.link-count",
                    $"whole: {WholeWithAttachments}",
                ]
            },
            { """{"family":"restraint"}""", [$"body: {FirstPart}", $"whole: {Whole}"] },
        };

    [Theory]
    [MemberData(nameof(Families))]
    public void A_periodic_inspection_asks_each_part_what_belongs_to_it(string gear, string[] parts) =>
        Assert.Equal(
            parts,
            Given
                .Judged(gear, "")
                .Missing.GroupBy(m => m.Part)
                .Select(g => $"{g.Key}: {string.Join(' ', g.Select(m => m.Criterion.Id))}")
        );

    [Theory]
    [InlineData("asme", false)]
    [InlineData("japan europe australia", false)]
    [InlineData("asme osha", true)]
    [InlineData("osha-construction", true)]
    [InlineData("ontario", true)]
    public void Outer_wires_are_asked_only_by_books_that_have_them_and_after_the_diameter(string books, bool asked)
    {
        var rope = Given
            .Judged("""{"family":"wire-rope-sling"}""", "", books)
            .Missing.Where(m => m.Part == "leg-1")
            .Select(m => m.Criterion.Id)
            .ToList();
        Assert.Equal(asked, rope.Contains("rope.outer-wire"));
        if (asked)
            Assert.Equal(rope.IndexOf("rope.diameter") + 1, rope.IndexOf("rope.outer-wire"));
    }

    [Theory]
    [InlineData("alloy-chain-sling", true)]
    [InlineData("metal-mesh-sling", true)]
    [InlineData("lifting-clamp", true)]
    [InlineData("lifting-beam", true)]
    [InlineData("wire-rope-sling", false)]
    [InlineData("shackle", false)]
    public void An_initial_inspection_asks_for_a_certificate_where_one_is_due(string family, bool due)
    {
        var missing = Given
            .Judged($$"""{"family":"{{family}}"}""", "", kind: "initial")
            .Missing.Select(m => m.Criterion.Id)
            .ToList();
        Assert.Equal(due, missing.Contains("id.certificate"));
        Assert.Contains("id.overhead", missing);
    }

    [Theory]
    [InlineData("frequent")]
    [InlineData("return")]
    public void A_look_before_use_measures_nothing(string kind)
    {
        foreach (var family in Keralith.Core.Gear.GearFamilies.All)
        {
            Assert.DoesNotContain(
                Given.Judged($$"""{"family":"{{family.Code}}"}""", "", "asme osha ontario", kind).Missing,
                m => m.Criterion.Kind == CriterionKind.Measure || m.Criterion.AskedIn != AskedIn.Frequent
            );
        }
    }

    [Fact]
    public void After_an_event_all_a_periodic_inspection_asks_is_asked()
    {
        foreach (var family in Keralith.Core.Gear.GearFamilies.All)
        {
            var gear = $$"""{"family":"{{family.Code}}"}""";
            Assert.Equal(Given.Judged(gear, "").Missing, Given.Judged(gear, "", kind: "after-event").Missing);
        }
    }

    [Fact]
    public void An_answer_where_its_criterion_does_not_sit_is_bad_input()
    {
        Assert.Equal(
            "$.answers[0].criterion",
            CaseReader
                .Read(
                    Given.Json(
                        """{"family":"web-sling"}""",
                        """{"criterion":"web.stretch","part":"eye-top","answer":"no"}"""
                    )
                )
                .Faults.Single()
                .Path
        );
        Assert.Equal(
            "$.answers[0].part",
            CaseReader
                .Read(
                    Given.Json(
                        """{"family":"powered-hoist","suspension":"lug"}""",
                        """{"criterion":"hook.crack","part":"top-hook","answer":"no"}"""
                    )
                )
                .Faults.Single()
                .Path
        );
        Assert.Equal(
            "$.answers[0].criterion",
            CaseReader
                .Read(
                    Given.Json(
                        """{"family":"wire-rope-sling"}""",
                        """{"criterion":"rope.outer-wire","part":"leg-1","value":"1 mm"}"""
                    )
                )
                .Faults.Single()
                .Path
        );
    }

    [Theory]
    [InlineData("wire-rope-sling", 6, 36, "6 x 36 = 216 wires")]
    [InlineData("wire-rope-sling", null, null, "as many strands as the rope has")]
    [InlineData("shackle", null, null, null)]
    public void One_lay_is_found_by_counting_strands_along_a_line(string family, int? strands, int? wires, string? said)
    {
        var values = new List<KeyValuePair<string, AttributeValue>>();
        if (strands is { } s)
            values.Add(new("strands", new WholeValue(s)));
        if (wires is { } w)
            values.Add(new("wiresPerStrand", new WholeValue(w)));
        var help = RopeLay.Help(new(GearFamilies.Find(family)!, values));
        if (said is null)
            Assert.Null(help);
        else
            Assert.Contains(said, help, StringComparison.Ordinal);
    }
}
