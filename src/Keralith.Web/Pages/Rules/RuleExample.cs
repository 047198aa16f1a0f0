using Keralith.Core.Gear;

namespace Keralith.Web.Pages.Rules;

/// <summary>
/// The gear the rules are shown on: a piece with everything fitted that its family may have, changed by whatever is
/// asked for.
/// </summary>
public static class RuleExample
{
    private static readonly Dictionary<string, string> Usual = new()
    {
        ["size"] = "3/4 in",
        ["grade"] = "80",
        ["legs"] = "2",
        ["endFitting"] = "hook",
        ["shortener"] = "true",
        ["hookLatch"] = "true",
        ["hookSwivels"] = "true",
        ["pinType"] = "bolt",
        ["body"] = "strand-laid",
        ["core"] = "iwrc",
        ["strands"] = "6",
        ["wiresPerStrand"] = "37",
        ["termination"] = "swaged",
        ["shoulder"] = "true",
        ["type"] = "with-fittings",
        ["warningCore"] = "true",
        ["overloadLimiter"] = "true",
        ["power"] = "electric",
        ["suspension"] = "hook",
        ["medium"] = "chain",
        ["roster"] = "8 members, 9 to 12 links",
        ["fiber"] = "polyester",
        ["threadSize"] = "3/4 in",
        ["hole"] = "blind",
        ["torque"] = "100 ft lbf",
        ["handPullLimit"] = "58 lbf",
        ["coreFiber"] = "polyester",
    };

    /// <summary>The piece for a family.</summary>
    /// <param name="asked">What a query states of it, by attribute name; what can't be read is passed over.</param>
    public static GearPiece Of(GearFamily family, IReadOnlyDictionary<string, string> asked)
    {
        var values = new Dictionary<string, AttributeValue>();
        foreach (var name in family.Asks)
        {
            var definition = GearAttributes.Find(name)!;
            var text = asked.GetValueOrDefault(name) is { Length: > 0 } given
                ? given
                : Usual.GetValueOrDefault(name)
                    ?? (definition.Kind == AttributeKind.Choice ? family.ChoicesOf(definition)[0] : null);
            if (text is not null && definition.Read(text.Trim()) is { Ok: true } read)
                values[name] = read.Value;
            else if (Usual.TryGetValue(name, out var usual))
                values[name] = definition.Read(usual).Value;
        }

        return new(family, values);
    }

    /// <summary>The attributes that change what is asked or where the limits lie: a small form above the drawing.</summary>
    public static IEnumerable<AttributeDefinition> Turns(GearFamily family) =>
        family
            .Asks.Select(n => GearAttributes.Find(n)!)
            .Where(a =>
                a.Kind is AttributeKind.Choice or AttributeKind.Flag or AttributeKind.Roster
                || a.Name is "size" or "strands" or "wiresPerStrand" or "legs"
            );
}
