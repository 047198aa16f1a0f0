using System.Text;
using System.Text.Json;
using Keralith.Core.Lifts;
using Keralith.Core.Quantities;

namespace Keralith.Core.Formats;

/// <summary>
/// Reads <c>keralith.lift/1</c> and <c>keralith.lift/2</c>. Every fault is listed; a lift with any is not worked out.
/// </summary>
public static class LiftReader
{
    public const string Format = "keralith.lift/1";

    /// <summary>With loads in parts and weighed, edges, beams and cranes.</summary>
    public const string SecondFormat = "keralith.lift/2";

    private static readonly Dictionary<string, FourLegs> Fours = Enum.GetValues<FourLegs>().ToDictionary(Code.Of);

    /// <summary>The kinds a component may be.</summary>
    public static IReadOnlyList<string> ComponentKinds => RiggingReader.ComponentKinds;

    /// <summary>The kinds that may hang above the legs.</summary>
    public static IReadOnlyList<string> AboveKinds => RiggingReader.AboveKinds;

    /// <summary>The families one leg may be made of: slings, nets, and kits made up as legs.</summary>
    public static IReadOnlyList<string> SlingFamilies => RiggingReader.SlingFamilies;

    /// <summary>Reads a lift from JSON text.</summary>
    public static ReadResult<Lift> Read(string json) => Read(Encoding.UTF8.GetBytes(json));

    /// <summary>Reads a lift from UTF-8 JSON.</summary>
    public static ReadResult<Lift> Read(ReadOnlyMemory<byte> utf8) => JsonText.Read(utf8, Format, Read);

    /// <summary>Reads a lift from a parsed document.</summary>
    public static ReadResult<Lift> Read(JsonElement root)
    {
        var faults = new List<Fault>();
        var fields = new JsonFields(root, faults);
        if (!fields.IsObject)
            return new(null, faults);
        var format = fields.RequiredText("format");
        if (format is not (null or Format or SecondFormat))
            fields.Refuse("format", $"found \"{format}\", expected \"{Format}\" or \"{SecondFormat}\"");
        var edition = format == SecondFormat ? LiftEdition.Second : LiftEdition.First;
        var books = fields.RuleBooks("ruleBooks");
        var four = fields.OneOf("fourLegs", Fours);
        var load = fields.RequiredObject("load", l => LoadReader.Load(l, edition));
        string[] stands = edition == LiftEdition.Second ? ["symmetric", "geometry", "beam"] : ["symmetric", "geometry"];
        var given = stands.Where(fields.Has).ToList();
        if (given.Count != 1)
            fields.Refuse(
                "symmetric",
                $"found {(given.Count == 0 ? $"neither {string.Join(" nor ", stands)}" : string.Join(" and ", given))}, expected one of {string.Join(", ", stands)}"
            );
        var symmetric = fields.Object("symmetric", s => Symmetric(s, edition));
        var geometry = fields.Object("geometry", g => Geometry(g, edition, load));
        var beam = edition == LiftEdition.Second ? BeamReader.UnderBeam(fields) : null;
        var above = RiggingReader.Components(fields, "above", AboveKinds);
        var crane = edition == LiftEdition.Second ? fields.Object("crane", CraneReader.Crane) : null;
        var rigging = fields.Object("rigging", r =>
        {
            r.Require("the weight of the rigging with its unit", "weight");
            var weight = r.MassFromZero("weight");
            r.RefuseUnread("weight");
            return new Weight(weight);
        });
        fields.RefuseUnread(
            edition == LiftEdition.Second
                ? "format, ruleBooks, fourLegs, load, symmetric, geometry or beam with drops and centreOfGravity, above, rigging, crane"
                : "format, ruleBooks, fourLegs, load, symmetric or geometry, above, rigging"
        );
        return faults.Count > 0
            ? new(null, faults)
            : new(
                new(books, load!, symmetric ?? geometry ?? beam!)
                {
                    Edition = edition,
                    FourLegs = four,
                    Above = above,
                    Rigging = rigging?.Of,
                    Crane = crane,
                },
                faults
            );
    }

    private static Arrangement? Symmetric(JsonFields fields, LiftEdition edition)
    {
        fields.Require("a whole number from 1 to 4", "legs");
        var legs = fields.Whole("legs", 1);
        if (legs > 4)
            fields.Refuse("legs", $"found {legs}, expected 1 to 4");
        fields.Require("the legs' angle from the horizontal, such as \"60 deg\"", "angle");
        var angle = fields.AngleBetween("angle", 0, 90);
        var rigging = RiggingReader.Rigging(fields, edition);
        fields.RefuseUnread($"legs, angle, hitch, sling, components, {RiggingReader.Extras(edition)}");
        return legs is { } n and <= 4 && angle is { } a && rigging is not null
            ? new SymmetricLegs(n, a, rigging)
            : null;
    }

    private static Arrangement? Geometry(JsonFields fields, LiftEdition edition, LiftLoad? load)
    {
        var before = fields.Faults.Count;
        var hook = Point(fields, "hook");

        // What the load itself gives stands in for what nobody typed.
        var typed = edition == LiftEdition.First || load?.Centre is null || fields.Has("centreOfGravity");
        var centre = typed ? Point(fields, "centreOfGravity") : load!.Centre!.At;
        var picks = new List<Point3>();
        var riggings = new List<LegRigging>();
        var count = 0;
        foreach (var leg in fields.Objects("legs"))
        {
            count++;
            if (!leg.IsObject)
                continue;
            if (Point(leg, "pick") is { } pick)
                picks.Add(pick);
            if (RiggingReader.Rigging(leg, edition, inGeometry: true) is { } rigging)
                riggings.Add(rigging);
            leg.RefuseUnread($"pick, hitch, sling, components, {RiggingReader.Extras(edition)}");
        }

        if (count is 0 or > 4)
            fields.Refuse("legs", $"found {count} legs, expected 1 to 4");
        fields.RefuseUnread("hook, centreOfGravity, legs");
        if (fields.Faults.Count > before || hook is not { } h || centre is not { } g)
            return null;
        var geometry = LegGeometry.Read(h, g, picks);
        if (geometry.Ok)
            return new LegsToPoints(geometry.Value, riggings) { CentreIsTyped = typed };
        fields.Refuse("legs", geometry.Fault!);
        return null;
    }

    /// <summary>A point that must be there; null where it can't be read.</summary>
    internal static Point3? Point(JsonFields fields, string name) =>
        Places(fields, name, 3) is { } at ? new((double)at[0], (double)at[1], (double)at[2]) : null;

    /// <summary>So many figures of a place, in millimetres, that must be there; null where they can't be read.</summary>
    internal static decimal[]? Places(JsonFields fields, string name, int wanted)
    {
        var expected = wanted == 2 ? "[x, y]" : "[x, y, z]";
        fields.Require(
            wanted == 2
                ? "[x, y], such as [\"0 mm\", \"2400 mm\"]"
                : "[x, y, z], z up, such as [\"0 mm\", \"0 mm\", \"2400 mm\"]",
            name
        );
        var at = new List<decimal>();
        var count = 0;
        foreach (var (element, place) in fields.Array(name))
        {
            count++;
            if (element.ValueKind != JsonValueKind.String)
                fields.Refuse(
                    place,
                    $"found {JsonFields.Kind(element)}, expected text with a unit, such as \"2400 mm\""
                );
            else if (Length.Read(element.GetString()!) is { Ok: true } read)
                at.Add(read.Value.Millimetres);
            else
                fields.Refuse(place, Length.Read(element.GetString()!).Fault!);
        }

        if (fields.Has(name) && count != wanted)
            fields.Refuse(name, $"found {count} figures, expected {expected}");
        return at.Count == wanted && count == wanted ? [.. at] : null;
    }

    private sealed record Weight(Mass? Of);
}
