using Keralith.Core.Gear;
using Keralith.Core.Lifts;
using Keralith.Core.Quantities;
using Xunit;

namespace Keralith.Core.Tests;

/// <summary>The checklist comes from the arrangement: what is planned is asked, and nothing else.</summary>
public class LiftChecklistTests
{
    private static readonly string[] General = [.. LiftChecklist.General.Select(i => i.Code)];

    [Fact]
    public void A_plain_lift_is_asked_the_general_lines_alone() => Assert.Equal(General, Codes([]));

    [Theory]
    [InlineData("temperature", "surroundings")]
    [InlineData("choker", "choke")]
    [InlineData("basket", "basket")]
    public void What_is_planned_brings_its_line(string planned, string line)
    {
        (string Name, string Value)[] fields = planned switch
        {
            "temperature" => [("temperature", "300 F")],
            _ => [("hitch", planned)],
        };
        Assert.Equal([line], Codes(fields).Except(General));
    }

    [Theory]
    [InlineData("shackle", "pins")]
    [InlineData("eye-bolt", "eye-bolts")]
    [InlineData("eye-nut", "eye-bolts")]
    [InlineData("swivel-hoist-ring", "rings")]
    [InlineData("turnbuckle", "turnbuckles")]
    [InlineData("wire-rope-clip", "clips")]
    [InlineData("cargo-net", "net")]
    [InlineData("lifting-clamp", "clamps")]
    [InlineData("sling-kit", "kit")]
    [InlineData("lifting-beam", "beam")]
    [InlineData("lifting-point", "point")]
    [InlineData("hand-chain-hoist", null)]
    [InlineData("powered-hoist", null)]
    [InlineData("lever-hoist", "lever")]
    [InlineData("rope-grip-hoist", "rope")]
    [InlineData("load-indicator", "indicator")]
    [InlineData("link-or-ring", null)]
    [InlineData("alloy-chain-sling", null)]
    public void Each_kind_of_gear_brings_its_own(string family, string? line) =>
        Assert.Equal(
            line is null ? [] : [line],
            Codes([], new GearPiece(GearFamilies.Find(family)!, [])).Except(General)
        );

    [Fact]
    public void Eyes_made_with_clips_are_asked_about_like_clips() =>
        Assert.Contains(
            "clips",
            Codes(
                [],
                new GearPiece(
                    GearFamilies.Find("wire-rope-sling")!,
                    [KeyValuePair.Create<string, AttributeValue>("termination", new TextValue("clips"))]
                )
            )
        );

    [Theory]
    [InlineData("3/4 in", "4 or more, 4-1/2 in apart")]
    [InlineData("3/8 in", "as their maker says")]
    [InlineData("1.6 in", "as their maker says")]
    public void Clips_are_asked_about_with_the_count_and_spacing_their_rope_takes(string rope, string says)
    {
        foreach (
            var gear in new GearPiece[]
            {
                new(
                    GearFamilies.Find("wire-rope-sling")!,
                    [new("termination", new TextValue("clips")), new("size", new LengthValue(Length.Parse(rope)))]
                ),
                new(GearFamilies.Find("wire-rope-clip")!, [new("ropeSize", new LengthValue(Length.Parse(rope)))]),
            }
        )
            Assert.Contains(
                says,
                LiftChecklist.Of(Plan([]), [gear]).Single(i => i.Code == "clips").Text,
                StringComparison.Ordinal
            );
    }

    [Theory]
    [InlineData("choker", true)]
    [InlineData("basket", true)]
    [InlineData("vertical", false)]
    public void Double_wraps_are_asked_about_where_a_hitch_has_them(string hitch, bool asked) =>
        Assert.Equal(asked, Codes([("hitch", hitch), ("doubleWrap", "true")]).Contains("wraps"));

    [Fact]
    public void Lines_stand_together_by_what_they_are_about_each_once()
    {
        var pieces = GearFamilies.All.Select(f => new GearPiece(f, [])).ToArray();
        var items = LiftChecklist.Of(Plan([("hitch", "choker")]), [.. pieces, .. pieces]);
        Assert.Equal(items.OrderBy(i => i.Group).Select(i => i.Code), items.Select(i => i.Code));
        Assert.Equal(items.Count, items.DistinctBy(i => i.Code).Count());
        Assert.Equal(LiftChecklist.Every.Count, LiftChecklist.Every.DistinctBy(i => i.Code).Count());
    }

    [Fact]
    public void A_line_that_may_not_apply_is_answered_with_why_and_no_other_is()
    {
        foreach (var item in LiftChecklist.Every)
        {
            var others = LiftChecklist.Every.Select(i => i.Code).Where(c => c != item.Code).ToHashSet();
            Assert.Equal(item.MayNotApply ? [] : [item], Open(others, item.Code, "Indoors, no wind"));
            Assert.Equal([item], Open(others, item.Code, " "));
            Assert.Equal([item], Open(others, item.Code, new('x', LiftChecklist.LongestWhy + 1)));
        }

        static IReadOnlyList<ChecklistItem> Open(IReadOnlySet<string> done, string code, string why) =>
            LiftChecklist.Open(LiftChecklist.Every, done, new Dictionary<string, string> { [code] = why });
    }

    [Fact]
    public void The_weight_the_gear_the_people_and_the_trial_lift_always_apply() =>
        Assert.All(new[] { "weight", "gear", "rated", "people", "trial", "hook", "slack", "edges" }, code =>
            Assert.False(LiftChecklist.General.Single(i => i.Code == code).MayNotApply)
        );

    [Fact]
    public void What_was_answered_is_kept_word_by_word()
    {
        var said = new CheckLift(new HashSet<string> { "weight" }, "Windy")
        {
            NotApplying = new Dictionary<string, string>
            {
                ["wind"] = " Indoors ",
                ["weight"] = "never",
                ["cordon"] = " ",
            },
        }.Said;
        Assert.Equal(
            new Dictionary<string, string>
            {
                ["weight"] = "yes",
                ["wind"] = "does not apply: Indoors",
                ["note"] = "Windy",
            },
            said
        );
    }

    private static IEnumerable<string> Codes((string Name, string Value)[] more, params GearPiece[] gear) =>
        LiftChecklist.Of(Plan(more), gear).Select(i => i.Code);

    private static LiftPlan Plan((string Name, string Value)[] more) => Read(Fields(more));

    private static LiftPlan Read(Dictionary<string, string> fields)
    {
        var (plan, faults) = LiftPlanReader.Read(fields);
        Assert.True(plan is not null, string.Join("; ", faults));
        return plan;
    }

    private static Dictionary<string, string> Fields((string Name, string Value)[] more)
    {
        var fields = new Dictionary<string, string>
        {
            ["basis"] = "known",
            ["weight"] = "1 t",
            ["stand"] = "alike",
            ["legs"] = "2",
            ["angle"] = "60",
            ["hitch"] = "vertical",
            ["unit"] = "mm",
            ["massUnit"] = "kg",
        };
        foreach (var (name, value) in more)
            fields[name] = value;
        return fields;
    }
}
