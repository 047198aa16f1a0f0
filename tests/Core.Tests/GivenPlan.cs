using Keralith.Core.Custody;
using Keralith.Core.Gear;
using Keralith.Core.Lifts;
using Keralith.Core.Quantities;
using Keralith.Core.Tags;
using Xunit;

namespace Keralith.Core.Tests;

/// <summary>Short ways to put a plan together.</summary>
internal static class GivenPlan
{
    public static readonly IReadOnlyList<RuleBook> Asme = [RuleBookShelf.Asme];
    public static readonly Usability Usable = new([]);

    /// <summary>What was typed; empty fields are none.</summary>
    public static Dictionary<string, string> Fields(params (string Name, string Value)[] typed) =>
        typed.Where(t => t.Value.Length > 0).ToDictionary(t => t.Name, t => t.Value);

    public static LiftPlan Plan(Dictionary<string, string> fields)
    {
        var (plan, faults) = LiftPlanReader.Read(fields);
        Assert.True(plan is not null, string.Join("; ", faults));
        return plan;
    }

    public static PlanVerdict Verdict(Dictionary<string, string> fields, params LiftGear[] gear) =>
        PlanVerdict.Of(Plan(fields), gear.ToDictionary(g => g.Mark), Asme);

    public static GearPiece Bare(string family, int legs = 1) =>
        new(
            GearFamilies.Find(family)!,
            [
                .. Graded(family, []),
                .. legs == 1 ? [] : new[] { KeyValuePair.Create("legs", (AttributeValue)new WholeValue(legs)) },
            ]
        );

    /// <summary>Chain whose grade nobody states is asked about: here it is grade 80 unless stated.</summary>
    private static IEnumerable<KeyValuePair<string, AttributeValue>> Graded(
        string family,
        (string Name, string Value)[] stated
    ) => family == "alloy-chain-sling" && stated.All(s => s.Name != "grade") ? [new("grade", new TextValue("80"))] : [];

    public static LiftGear Sling(string mark, string family, string rated, TagWords words, int legs = 1) =>
        new(mark, Bare(family, legs), Mass.Parse(rated), GearFamilies.Find(family)!.AssumedDesignFactor, words, Usable);

    /// <summary>A piece with what is stated of it.</summary>
    public static LiftGear Piece(
        string mark,
        string family,
        string rated,
        params (string Name, string Value)[] stated
    ) =>
        new(
            mark,
            new(
                GearFamilies.Find(family)!,
                [
                    .. stated.Select(v =>
                        KeyValuePair.Create(v.Name, GearAttributes.Find(v.Name)!.Read(v.Value).Value)
                    ),
                    .. Graded(family, stated),
                ]
            ),
            rated.Length == 0 ? null : Mass.Parse(rated),
            null,
            TagWords.Plain with
            {
                Hitch = Hitch.Vertical,
            },
            Usable
        );
}
