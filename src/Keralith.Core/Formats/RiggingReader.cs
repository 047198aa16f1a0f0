using Keralith.Core.Gear;
using Keralith.Core.Lifts;
using Keralith.Core.Quantities;
using Keralith.Core.Tags;

namespace Keralith.Core.Formats;

/// <summary>Reads how one leg is rigged, in both editions of a lift: its sling, its hitch and what hangs in it.</summary>
internal static class RiggingReader
{
    /// <summary>The fields of a leg beside its hitch, sling and components, for refusals.</summary>
    public static string Extras(LiftEdition edition) =>
        "chokeAngle, bendRatio, doubleWrap, contact, reeved, crossed"
        + (edition == LiftEdition.Second ? ", edge" : string.Empty);

    private static readonly string[] SlingExtras = ["tagRatings", "tagTable", "hottest"];
    private static readonly string[] SlingExtrasOfSecond = [.. SlingExtras, "thickness"];
    private static readonly Dictionary<string, Hitch> Hitches = Enum.GetValues<Hitch>().ToDictionary(Code.Of);
    private static readonly Dictionary<string, Contact> Contacts = Enum.GetValues<Contact>().ToDictionary(Code.Of);
    private static readonly Dictionary<string, PinKind> Pins = Enum.GetValues<PinKind>().ToDictionary(Code.Of);
    private static readonly Dictionary<string, BoltHole> Holes = Enum.GetValues<BoltHole>().ToDictionary(Code.Of);
    private static readonly Dictionary<string, EdgeProtection> Protections = Enum.GetValues<EdgeProtection>()
        .ToDictionary(Code.Of);

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

    /// <summary>How one leg is rigged; null where it can't be read.</summary>
    /// <param name="fields">The leg.</param>
    /// <param name="edition">Edges and the thickness of a sling came with the second.</param>
    /// <param name="inGeometry">Legs on a geometry are single parts: no basket.</param>
    public static LegRigging? Rigging(JsonFields fields, LiftEdition edition, bool inGeometry = false)
    {
        var hitch = fields.RequiredOneOf("hitch", Hitches);
        if (inGeometry && hitch == Hitch.Basket)
            fields.Refuse(
                "hitch",
                "found \"basket\", expected vertical or choker: legs on a geometry are single parts"
            );
        var sling = fields.RequiredObject("sling", s => Sling(s, edition));
        var components = Components(fields, "components", ComponentKinds);
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
            Edge = edition == LiftEdition.Second ? fields.Object("edge", Edge) : null,
        };
        return hitch is null || sling is null ? null : rigging;
    }

    /// <summary>A sling; null where it can't be read.</summary>
    public static LiftSling? Sling(JsonFields fields, LiftEdition edition)
    {
        var gear = GearReader.Read(fields, edition == LiftEdition.Second ? SlingExtrasOfSecond : SlingExtras);
        var ratings = fields.Object("tagRatings", r =>
        {
            var (choker, basket) = (r.PositiveMass("choker"), r.PositiveMass("basket"));
            r.RefuseUnread("choker, basket");
            return new TagRatings(choker, basket);
        });
        var table = new List<TagTableRow>();
        foreach (var row in fields.Objects("tagTable").Where(r => r.IsObject))
        {
            var hitch = row.RequiredOneOf("hitch", Hitches);
            row.Require("the least horizontal angle and the whole sling's rating there", "angle", "ratedLoad");
            var angle = row.AngleBetween("angle", 0, 90);
            var load = row.PositiveMass("ratedLoad");
            row.RefuseUnread("hitch, angle, ratedLoad");
            if (hitch is { } h && angle is { } a && load is { } l)
                table.Add(new(h, a, l));
        }

        var hottest = fields.Parsed("hottest", Temperature.Read);
        var thickness = edition == LiftEdition.Second ? fields.PositiveLength("thickness") : null;
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
            Thickness = thickness,
        };
    }

    /// <summary>The components of a field, in order; what can't be read has been refused.</summary>
    public static List<LiftComponent> Components(JsonFields fields, string name, IReadOnlyList<string> kinds) =>
        [.. fields.Objects(name).Where(c => c.IsObject).Select(c => Component(c, kinds)).OfType<LiftComponent>()];

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

    private static Edge? Edge(JsonFields fields)
    {
        fields.Require("the radius of the edge with its unit, 0 and over", "radius");
        var radius = fields.LengthFromZero("radius");
        var protection = fields.OneOf("protection", Protections) ?? EdgeProtection.None;
        var (its, bears) = (fields.LengthFromZero("protectedRadius"), fields.LengthFromZero("bears"));
        fields.RefuseUnread("radius, protection, protectedRadius, bears");
        if (protection == EdgeProtection.None && fields.Has("protectedRadius"))
            fields.Refuse("protectedRadius", "there is no protection, expected a softener or a cut-protector");
        if (protection == EdgeProtection.None && fields.Has("bears"))
            fields.Refuse("bears", "there is no protection, expected a softener or a cut-protector");
        return radius is { } r
            ? new(r)
            {
                Protection = protection,
                ProtectedRadius = its,
                Bears = bears,
            }
            : null;
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

    private sealed record TagRatings(Mass? Choker, Mass? Basket);
}
