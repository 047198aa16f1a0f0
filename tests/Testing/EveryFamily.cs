using Keralith.Core.Gear;
using Keralith.Core.Register;

namespace Keralith.Testing;

/// <summary>One piece of every family, everything the family is asked about stated.</summary>
public static class EveryFamily
{
    private static readonly Dictionary<string, string> Values = new()
    {
        ["grade"] = "80",
        ["construction"] = "6x36",
        ["colour"] = "green",
        ["coreFiber"] = "polyester",
        ["coverFiber"] = "polyester",
        ["size"] = "3/4 in",
        ["reach"] = "6 ft",
        ["legs"] = "2",
        ["roster"] = "8 members, 9 to 12 links",
    };

    /// <summary>The form of a piece of a family.</summary>
    public static Dictionary<string, string> Form(GearFamily family, string mark)
    {
        var attributes = family
            .Asks.Select(name =>
            {
                var definition = GearAttributes.Find(name)!;
                return (
                    name,
                    Values.TryGetValue(name, out var value)
                        ? value
                        : definition.Kind switch
                        {
                            AttributeKind.Length => "40 mm",
                            AttributeKind.Mass => "12 kg",
                            AttributeKind.Force => "180 N at 500 kg",
                            AttributeKind.Moment => "100 ft lbf",
                            AttributeKind.Whole => "2",
                            AttributeKind.Number => "4",
                            AttributeKind.Choice => family.ChoicesOf(definition)[0],
                            AttributeKind.Flag => "true",
                            AttributeKind.Text => "as marked",
                            AttributeKind.Roster => "8 members",
                            _ => throw new InvalidOperationException($"No such attribute kind: {definition.Kind}."),
                        }
                );
            })
            .ToArray();
        var form = new Dictionary<string, string>
        {
            ["mark"] = mark,
            ["family"] = family.Code,
            ["maker"] = "Pellow Forge",
            ["serial"] = $"X-{mark}",
            ["ratedLoad"] = "2 t",
            ["store"] = "1",
            ["peg"] = "C3",
        };
        foreach (var (name, value) in attributes)
            form[name] = value;
        Filled(form, c => c switch
            {
                "rope.diameter" => "20 mm",
                "chain.gauge-growth" or "hoistchain.growth" => "22.5 in",
                "hook.throat" => "60 mm",
                "hoistchain.wear" => "0.75 in",
                "hoistrope.diameter" => "40 mm",
                _ => "1 in",
            });
        if (family.Code == "sling-kit")
            form["members"] = "2; sling leg; 3500 lb; bears; HM-0042\n4; wear sleeve; -; spare";
        form["batch"] = "B-7";
        form["notes"] = "two lines\nof notes";
        form["ratedHitch"] = "vertical";
        form["ratedAngle"] = "60 deg";
        form["ratedAs"] = "working-load-limit";
        form["tagRatings"] = "choker 1.6 t\nbasket 60 deg 3.4 t";
        form["fit:throat"] = "35 mm";
        form["meets:acid"] = "true";
        form["coldest"] = "-5 C";
        form["ownWeight"] = "14 lb";
        form["discardOn"] = "2031-04-30";
        form["proofTestDue"] = "2030-02-28";
        return form;
    }

    /// <summary>Ticks every entry of the marking and fills in every figure when new.</summary>
    public static Dictionary<string, string> Filled(Dictionary<string, string> fields, Func<string, string> baseline)
    {
        var family = GearFamilies.Find(fields["family"])!;
        foreach (var entry in family.TagEntries)
            fields[PieceEntryReader.TagField(entry.Code)] = "true";
        foreach (var (part, criterion) in PieceEntryReader.BaselinesOf(PieceEntryReader.Gear(family, fields)))
        {
            var (value, basis, links) = PieceEntryReader.Fields(new(part.Path, criterion.Id));
            fields[value] = baseline(criterion.Id);
            fields[basis] = "new";
            if (criterion.OverLinks)
                fields[links] = "10";
        }

        return fields;
    }
}
