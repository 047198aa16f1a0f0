using System.Text;
using System.Text.Json;
using Keralith.Core.Gear;
using Keralith.Core.Lifts;
using Keralith.Core.Quantities;
using Keralith.Core.Tags;

namespace Keralith.Core.Formats;

/// <summary>Reads <c>keralith.lift/1</c>. Every fault is listed; a lift with any is not worked out.</summary>
public static class LiftReader
{
    public const string Format = "keralith.lift/1";

    private const string Extras = "chokeAngle, bendRatio, doubleWrap, contact, reeved, crossed";

    private static readonly string[] RowNeeds = ["angle", "ratedLoad"];
    private static readonly string[] SlingExtras = ["tagRatings", "tagTable", "hottest"];
    private static readonly Dictionary<string, LoadBasis> Bases = Enum.GetValues<LoadBasis>().ToDictionary(Code.Of);
    private static readonly Dictionary<string, FourLegs> Fours = Enum.GetValues<FourLegs>().ToDictionary(Code.Of);
    private static readonly Dictionary<string, Hitch> Hitches = Enum.GetValues<Hitch>().ToDictionary(Code.Of);
    private static readonly Dictionary<string, Contact> Contacts = Enum.GetValues<Contact>().ToDictionary(Code.Of);
    private static readonly Dictionary<string, PinKind> Pins = Enum.GetValues<PinKind>().ToDictionary(Code.Of);
    private static readonly Dictionary<string, BoltHole> Holes = Enum.GetValues<BoltHole>().ToDictionary(Code.Of);

    /// <summary>The kinds a component may be.</summary>
    public static IReadOnlyList<string> ComponentKinds { get; } =
    ["shackle", "hook", "eye-bolt", "swivel-hoist-ring", "turnbuckle", "link", "clip-eye", "load-indicator"];

    /// <summary>The kinds that may hang above the legs.</summary>
    public static IReadOnlyList<string> AboveKinds { get; } =
    [
        .. ComponentKinds,
        .. GearFamilies.All.Where(f => f.Group == FamilyGroup.Hoist).Select(f => f.Code),
        "lifting-point",
    ];

    /// <summary>The families one leg may be made of: slings, nets, and kits made up as legs.</summary>
    public static IReadOnlyList<string> SlingFamilies { get; } =
    [
        .. GearFamilies
            .All.Where(f => f.Group == FamilyGroup.Sling)
            .Select(f => f.Code)
            .Union(["cargo-net", "sling-kit"]),
    ];

    /// <summary>Reads a lift from JSON text.</summary>
    public static ReadResult<Lift> Read(string json) => Read(Encoding.UTF8.GetBytes(json));

    /// <summary>Reads a lift from UTF-8 JSON.</summary>
    public static ReadResult<Lift> Read(ReadOnlyMemory<byte> utf8) => JsonText.Read(utf8, Format, Read);

    /// <summary>Reads a lift from a parsed document.</summary>
    public static ReadResult<Lift> Read(JsonElement root)
    {
        var faults = new List<Fault>();
        var fields = new JsonFields(root, Place.Root, faults);
        if (!fields.IsObject)
            return new(null, faults);
        if (fields.RequiredText("format") is { } format && format != Format)
            fields.Refuse("format", $"found \"{format}\", expected \"{Format}\"");
        var books = fields.RuleBooks("ruleBooks");
        var four = fields.OneOf("fourLegs", Fours);
        var load = Required(fields, "load", faults, l => Load(l));
        if (fields.Has("symmetric") == fields.Has("geometry"))
            fields.Refuse(
                "symmetric",
                $"found {(fields.Has("symmetric") ? "symmetric and geometry" : "neither symmetric nor geometry")}, expected one of the two"
            );
        var symmetric = Object(fields, "symmetric", faults, s => Symmetric(s, faults));
        var geometry = Object(fields, "geometry", faults, g => Geometry(g, faults));
        var above = Components(fields, "above", AboveKinds, faults);
        var rigging = Object(fields, "rigging", faults, r =>
        {
            if (!r.Has("weight"))
                r.Refuse("weight", "missing, expected the weight of the rigging with its unit");
            var weight = r.Parsed("weight", Mass.Read);
            if (weight?.Kilograms < 0)
                r.Refuse("weight", $"found {weight}, expected 0 or over");
            r.RefuseUnread("weight");
            return new Weight(weight);
        });
        fields.RefuseUnread("format, ruleBooks, fourLegs, load, symmetric or geometry, above, rigging");
        return faults.Count > 0
            ? new(null, faults)
            : new(
                new(books, load!, symmetric ?? geometry!)
                {
                    FourLegs = four,
                    Above = above,
                    Rigging = rigging?.Of,
                },
                faults
            );
    }

    private static LiftLoad? Load(JsonFields load)
    {
        if (!load.Has("weight"))
            load.Refuse("weight", "missing, expected the load's weight with its unit");
        var weight = load.PositiveMass("weight");
        var basis = load.OneOf("basis", Bases);
        var temperature = load.Parsed("temperature", Temperature.Read);
        load.RefuseUnread("weight, basis, temperature");
        return weight is { } w ? new(w, basis, temperature) : null;
    }

    private static Arrangement? Symmetric(JsonFields fields, List<Fault> faults)
    {
        if (!fields.Has("legs"))
            fields.Refuse("legs", "missing, expected a whole number from 1 to 4");
        var legs = fields.Whole("legs", 1);
        if (legs > 4)
            fields.Refuse("legs", $"found {legs}, expected 1 to 4");
        if (!fields.Has("angle"))
            fields.Refuse("angle", "missing, expected the legs' angle from the horizontal, such as \"60 deg\"");
        var angle = fields.AngleBetween("angle", 0, 90);
        var rigging = Rigging(fields, faults, inGeometry: false);
        fields.RefuseUnread($"legs, angle, hitch, sling, components, {Extras}");
        return legs is { } n and <= 4 && angle is { } a && rigging is not null
            ? new SymmetricLegs(n, a, rigging)
            : null;
    }

    private static Arrangement? Geometry(JsonFields fields, List<Fault> faults)
    {
        var before = faults.Count;
        var hook = Point(fields, "hook");
        var centre = Point(fields, "centreOfGravity");
        var picks = new List<Point3>();
        var riggings = new List<LegRigging>();
        var count = 0;
        foreach (var (element, place) in fields.Array("legs"))
        {
            count++;
            var leg = new JsonFields(element, place, faults);
            if (!leg.IsObject)
                continue;
            if (Point(leg, "pick") is { } pick)
                picks.Add(pick);
            if (Rigging(leg, faults, inGeometry: true) is { } rigging)
                riggings.Add(rigging);
            leg.RefuseUnread($"pick, hitch, sling, components, {Extras}");
        }

        if (count is 0 or > 4)
            fields.Refuse("legs", $"found {count} legs, expected 1 to 4");
        fields.RefuseUnread("hook, centreOfGravity, legs");
        if (faults.Count > before || hook is not { } h || centre is not { } g)
            return null;
        var geometry = LegGeometry.Read(h, g, picks);
        if (geometry.Ok)
            return new LegsToPoints(geometry.Value, riggings);
        fields.Refuse("legs", geometry.Fault!);
        return null;
    }

    private static Point3? Point(JsonFields fields, string name)
    {
        var at = new List<double>();
        if (!fields.Has(name))
            fields.Refuse(name, "missing, expected [x, y, z], z up, such as [\"0 mm\", \"0 mm\", \"2400 mm\"]");
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
                at.Add((double)read.Value.Millimetres);
            else
                fields.Refuse(place, Length.Read(element.GetString()!).Fault!);
        }

        if (fields.Has(name) && count != 3)
            fields.Refuse(name, $"found {count} figures, expected [x, y, z]");
        return at.Count == 3 && count == 3 ? new(at[0], at[1], at[2]) : null;
    }

    private static LegRigging? Rigging(JsonFields fields, List<Fault> faults, bool inGeometry)
    {
        var hitch = fields.RequiredOneOf("hitch", Hitches);
        if (inGeometry && hitch == Hitch.Basket)
            fields.Refuse(
                "hitch",
                "found \"basket\", expected vertical or choker: legs on a geometry are single parts"
            );
        var sling = Required(fields, "sling", faults, s => Sling(s, faults));
        var components = Components(fields, "components", ComponentKinds, faults);
        var choke = fields.AngleBetween("chokeAngle", 0, 180);
        var bend = fields.Number("bendRatio");
        if (bend <= 0)
            fields.Refuse("bendRatio", $"found {bend}, expected D/d over 0");
        var rigging = new LegRigging(hitch ?? Hitch.Vertical, sling!)
        {
            Components = components,
            ChokeAngle = choke,
            BendRatio = bend,
            DoubleWrap = fields.Flag("doubleWrap") ?? false,
            Contact = fields.OneOf("contact", Contacts) ?? Contact.Round,
            Reeved = fields.Flag("reeved") ?? false,
            Crossed = fields.Flag("crossed") ?? false,
        };
        return hitch is null || sling is null ? null : rigging;
    }

    private static LiftSling? Sling(JsonFields fields, List<Fault> faults)
    {
        var gear = GearReader.Read(fields, faults, SlingExtras);
        var ratings = Object(fields, "tagRatings", faults, r =>
        {
            var (choker, basket) = (r.PositiveMass("choker"), r.PositiveMass("basket"));
            r.RefuseUnread("choker, basket");
            return new TagRatings(choker, basket);
        });
        var table = new List<TagTableRow>();
        foreach (var (element, place) in fields.Array("tagTable"))
        {
            var row = new JsonFields(element, place, faults);
            if (!row.IsObject)
                continue;
            var hitch = row.RequiredOneOf("hitch", Hitches);
            foreach (var name in RowNeeds.Where(n => !row.Has(n)))
                row.Refuse(name, "missing, expected the least horizontal angle and the whole sling's rating there");
            var angle = row.AngleBetween("angle", 0, 90);
            var load = row.PositiveMass("ratedLoad");
            row.RefuseUnread("hitch, angle, ratedLoad");
            if (hitch is { } h && angle is { } a && load is { } l)
                table.Add(new(h, a, l));
        }

        var hottest = fields.Parsed("hottest", Temperature.Read);
        if (gear is not null && !SlingFamilies.Contains(gear.Family.Code))
            fields.Refuse("family", $"found \"{gear.Family}\", expected one of {string.Join(", ", SlingFamilies)}");
        if (gear is null)
            return null;
        return new(gear, gear.Mass("ratedLoad"))
        {
            DesignFactor = gear.Values.GetValueOrDefault("designFactor") is NumberValue factor ? factor.Number : null,
            ChokerRating = ratings?.Choker,
            BasketRating = ratings?.Basket,
            TagTable = table,
            Hottest = hottest,
        };
    }

    private static List<LiftComponent> Components(
        JsonFields fields,
        string name,
        IReadOnlyList<string> kinds,
        List<Fault> faults
    )
    {
        var components = new List<LiftComponent>();
        foreach (var (element, place) in fields.Array(name))
        {
            var component = new JsonFields(element, place, faults);
            if (component.IsObject && Component(component, kinds) is { } read)
                components.Add(read);
        }

        return components;
    }

    private static LiftComponent? Component(JsonFields fields, IReadOnlyList<string> kinds)
    {
        var kind = fields.RequiredText("kind");
        if (kind is not null && !kinds.Contains(kind))
        {
            fields.Refuse("kind", $"found \"{kind}\", expected one of {string.Join(", ", kinds)}");
            return null;
        }

        var rated = fields.PositiveMass("ratedLoad");
        var factor = fields.Number("designFactor");
        if (factor <= 0)
            fields.Refuse("designFactor", $"found {factor}, expected a number over 0");
        var own = kind switch
        {
            "shackle" => ", pull, collects, pin",
            "hook" or "link" => ", collects",
            "eye-bolt" => ", shoulder, seated, angle, outOfPlane, hole, engaged, metal",
            "lifting-point" => ", documented",
            _ => kind is not null && kind.EndsWith("-hoist", StringComparison.Ordinal) ? ", offPlumb" : string.Empty,
        };
        LiftComponent? read = kind switch
        {
            "shackle" => new ShackleOnLift(
                rated,
                fields.AngleBetween("pull", 0, 180),
                fields.AngleBetween("collects", 0, 180),
                fields.OneOf("pin", Pins)
            ),
            "hook" => new HookOnLift(rated, fields.AngleBetween("collects", 0, 180)),
            "eye-bolt" => EyeBolt(fields, rated),
            "swivel-hoist-ring" => new HoistRingOnLift(rated),
            "turnbuckle" => new TurnbuckleOnLift(rated),
            "link" => new LinkOnLift(rated, fields.AngleBetween("collects", 0, 180)),
            "clip-eye" => new ClipEyeOnLift(rated),
            "load-indicator" => new LoadIndicatorOnLift(rated),
            "lifting-point" => new LiftingPointOnLift(rated, fields.Flag("documented") ?? false),
            null => null,
            _ => new HoistOnLift(GearFamilies.Find(kind)!, rated, fields.AngleBetween("offPlumb", 0, 180)),
        };
        fields.RefuseUnread($"kind, ratedLoad, designFactor{own}");
        return read;
    }

    private static EyeBoltOnLift EyeBolt(JsonFields fields, Mass? rated)
    {
        var engaged = fields.Number("engaged");
        if (engaged < 0)
            fields.Refuse("engaged", $"found {engaged}, expected diameters of thread, 0 or over");
        return new(rated)
        {
            Shoulder = fields.Flag("shoulder"),
            Seated = fields.Flag("seated") ?? true,
            Angle = fields.AngleBetween("angle", 0, 180),
            OutOfPlane = fields.AngleBetween("outOfPlane", 0, 180),
            Hole = fields.OneOf("hole", Holes),
            Engaged = engaged,
            Metal = fields.Text("metal"),
        };
    }

    private static T? Object<T>(JsonFields fields, string name, List<Fault> faults, Func<JsonFields, T?> read)
        where T : class
    {
        if (fields.Take(name) is not { } element)
            return null;
        var inner = new JsonFields(element, fields.PlaceOf(name), faults);
        return inner.IsObject ? read(inner) : null;
    }

    private static T? Required<T>(JsonFields fields, string name, List<Fault> faults, Func<JsonFields, T?> read)
        where T : class
    {
        if (!fields.Has(name))
            fields.Refuse(name, "missing, expected an object");
        return Object(fields, name, faults, read);
    }

    private sealed record Weight(Mass? Of);

    private sealed record TagRatings(Mass? Choker, Mass? Basket);
}
