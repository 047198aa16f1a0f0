using Keralith.Core.Lifts;
using Keralith.Core.Quantities;

namespace Keralith.Core.Formats;

/// <summary>Reads the load of a lift: its weight, or from the second edition its parts, or what it weighed where.</summary>
internal static class LoadReader
{
    private static readonly Dictionary<string, LoadBasis> Bases = Enum.GetValues<LoadBasis>().ToDictionary(Code.Of);
    private static readonly Dictionary<string, Material> Materials = Material.All.ToDictionary(m => m.Document);
    private static readonly string[] Ways = ["weight", "parts", "weighings"];

    /// <summary>The load; null where it can't be read.</summary>
    public static LiftLoad? Load(JsonFields load, LiftEdition edition)
    {
        var basis = load.OneOf("basis", Bases);
        var temperature = load.Parsed("temperature", Temperature.Read);
        return edition == LiftEdition.First ? Weight(load, basis, temperature) : MadeUp(load, basis, temperature);
    }

    private static LiftLoad? Weight(JsonFields load, LoadBasis? basis, Temperature? temperature)
    {
        load.Require("the load's weight with its unit", "weight");
        var weight = load.PositiveMass("weight");
        load.RefuseUnread("weight, basis, temperature");
        return weight is { } w ? new(w, basis, temperature) : null;
    }

    private static LiftLoad? MadeUp(JsonFields load, LoadBasis? basis, Temperature? temperature)
    {
        var given = Ways.Where(load.Has).ToList();
        if (given.Count != 1)
            load.Refuse(
                "weight",
                $"found {(given.Count == 0 ? "neither" : string.Join(" and ", given))}, expected one of {string.Join(", ", Ways)}"
            );
        var weight = load.PositiveMass("weight");
        var parts = load.Has("parts") ? Parts(load) : null;
        var weighings = load.Has("weighings") ? Weighings(load) : null;
        var added = load.Percent("contingency") / 100;
        load.RefuseUnread("weight, parts or weighings, basis, contingency, temperature");
        if (given.Count != 1)
            return null;
        LoadBasis? their =
            parts is not null ? LoadBasis.Estimated
            : weighings is not null ? LoadBasis.Weighed
            : null;
        if (their is { } must && basis is { } said && said != must)
        {
            load.Refuse("basis", $"found \"{Code.Of(said)}\", expected \"{Code.Of(must)}\": {given[0]} are that");
            return null;
        }

        var bare = weight ?? parts?.Weight ?? weighings?.Weight;
        if (bare is not { } alone)
            return null;
        if (alone.Kilograms <= 0)
        {
            load.Refuse(given[0], "come to no weight, expected more than 0");
            return null;
        }

        var contingency = added ?? (parts is null ? 0 : LoadEstimate.UsualContingency);
        return new(contingency == 0 ? alone : alone * (1 + contingency), their ?? basis, temperature)
        {
            Bare = alone,
            Contingency = contingency == 0 ? null : contingency,
            Parts = parts,
            Weighings = weighings,
        };
    }

    private static LoadParts? Parts(JsonFields load)
    {
        var before = load.Faults.Count;
        var parts = new List<LoadPart>();
        foreach (var part in load.Objects("parts").Where(p => p.IsObject))
        {
            if (Part(part) is { } read)
                parts.Add(read);
        }

        if (parts.Count == 0 && load.Faults.Count == before)
            load.Refuse("parts", "found no part, expected at least one");
        if (load.Faults.Count > before)
            return null;
        if (parts.Sum(p => (double)p.Kilograms) <= (double)Mass.Heaviest.Kilograms)
            return new(parts);
        load.Refuse("parts", "are together heavier than anything lifted; check figures and units");
        return null;
    }

    private static LoadPart? Part(JsonFields part)
    {
        var at = part.Has("at") ? LiftReader.Point(part, "at") : null;
        var count = part.Has("count") ? part.Whole("count", 1) : 1;
        var before = part.Faults.Count;
        LoadShape? shape;
        decimal? density = 0;
        if (part.Has("weight") == part.Has("shape"))
        {
            part.Refuse("weight", "expected either a weight or a shape with its sizes");
            return null;
        }

        if (part.Has("weight"))
        {
            shape = part.PositiveMass("weight") is { } weight ? new Lump(weight) : null;
            part.RefuseUnread("weight, count, at");
        }
        else
        {
            shape = Shape(part, out var sizes);
            if (shape is not Linear)
                density = Density(part);
            part.RefuseUnread($"shape, {sizes}, {(shape is Linear ? string.Empty : "of or density, ")}count, at");
        }

        if (part.Faults.Count > before || shape is null || density is not { } filled || count is not { } many)
            return null;
        var read = new LoadPart(shape, filled, many) { At = at };
        if (read.IsLifted)
            return read;
        part.Refuse("count", "comes to more than anything lifted; check figures and units");
        return null;
    }

    private static LoadShape? Shape(JsonFields part, out string sizes)
    {
        var shape = part.RequiredText("shape");
        (sizes, LoadShape? read) = shape switch
        {
            "box" => ("length, width, height", Sized(part, "length", "width", "height", (l, w, h) => new Box(l, w, h))),
            "plate" => (
                "length, width, thickness",
                Sized(part, "length", "width", "thickness", (l, w, t) => new Box(l, w, t))
            ),
            "pipe" => (
                "outside, wall, length",
                Sized(part, "outside", "wall", "length", (o, w, l) => new Pipe(o, w, l))
            ),
            "cylinder" => ("diameter, length", Sized(part, "diameter", "length", (d, l) => new Cylinder(d, l))),
            "sphere" => ("diameter", Size(part, "diameter") is { } d ? new Sphere(d) : null),
            "prism" => (
                "area, length",
                (Positive(part, "area", Area.Read, a => a.SquareMillimetres), Size(part, "length"))
                    is ({ } area, { } along)
                    ? new Prism(area, along)
                    : null
            ),
            "linear" => (
                "perLength, length",
                (Positive(part, "perLength", LinearMass.Read, m => m.KilogramsPerMetre), Size(part, "length"))
                    is ({ } each, { } along)
                    ? new Linear(each, along)
                    : null
            ),
            _ => ("its sizes", (LoadShape?)null),
        };
        if (shape is not (null or "box" or "plate" or "pipe" or "cylinder" or "sphere" or "prism" or "linear"))
            part.Refuse("shape", $"found \"{shape}\", expected box, cylinder, pipe, sphere, plate, prism or linear");
        if (read is Pipe pipe && pipe.Wall.Millimetres * 2 > pipe.Outside.Millimetres)
            part.Refuse("wall", $"found {pipe.Wall}, expected at most half the outside diameter {pipe.Outside}");
        return read;
    }

    private static decimal? Density(JsonFields part)
    {
        if (part.Has("of") == part.Has("density"))
        {
            part.Refuse("of", "expected either a material or a density, such as \"2700 kg/m3\"");
            return null;
        }

        return part.Has("of")
            ? part.OneOf("of", MaterialDensities)
            : Positive(part, "density", Quantities.Density.Read, d => d.KilogramsPerCubicMetre)?.KilogramsPerCubicMetre;
    }

    private static readonly Dictionary<string, decimal> MaterialDensities = Materials.ToDictionary(
        m => m.Key,
        m => m.Value.KilogramsPerCubicMetre
    );

    private static LoadShape? Sized(JsonFields part, string one, string two, Func<Length, Length, LoadShape> shape) =>
        (Size(part, one), Size(part, two)) is ({ } a, { } b) ? shape(a, b) : null;

    private static LoadShape? Sized(
        JsonFields part,
        string one,
        string two,
        string three,
        Func<Length, Length, Length, LoadShape> shape
    ) => (Size(part, one), Size(part, two), Size(part, three)) is ({ } a, { } b, { } c) ? shape(a, b, c) : null;

    private static Length? Size(JsonFields part, string name)
    {
        part.Require("a length with its unit", name);
        return part.PositiveLength(name);
    }

    private static T? Positive<T>(JsonFields part, string name, Func<string, Checked<T>> read, Func<T, decimal> figure)
        where T : struct
    {
        part.Require("a figure with its unit", name);
        var value = part.Parsed(name, read);
        if (value is not { } v || figure(v) > 0)
            return value;
        part.Refuse(name, "found 0 or under, expected more than 0");
        return null;
    }

    private static LoadWeighings? Weighings(JsonFields load)
    {
        var before = load.Faults.Count;
        var readings = new List<Weighing>();
        foreach (var weighing in load.Objects("weighings").Where(w => w.IsObject))
        {
            var at = LiftReader.Places(weighing, "at", 2);
            weighing.Require("what the scale showed, with its unit", "reading");
            var reading = weighing.MassFromZero("reading");
            weighing.RefuseUnread("at, reading");
            if (at is null || reading is not { } showed)
                continue;
            if (readings.Any(r => r.X == at[0] && r.Y == at[1]))
                weighing.Refuse("at", "a second weighing at one place, expected one for each");
            readings.Add(new(at[0], at[1], showed));
        }

        if (readings.Count < 2 && load.Faults.Count == before)
            load.Refuse("weighings", $"found {readings.Count}, expected two or more");
        return load.Faults.Count > before ? null : new(readings);
    }
}
