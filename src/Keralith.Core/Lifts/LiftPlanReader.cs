using Keralith.Core.Quantities;
using Keralith.Core.Tags;

namespace Keralith.Core.Lifts;

/// <summary>
/// Reads a plan from what was typed, field by field: the one gate for the bench, saved lifts and templates. Every fault
/// is named with its field.
/// </summary>
public sealed class LiftPlanReader
{
    /// <summary>Parts a load may be put together from.</summary>
    public const int MostParts = 6;

    /// <summary>What a plan says of itself that is just begun: not a fault of what was typed.</summary>
    public const string WeightWanted = "the load's weight is wanted first";

    /// <summary>What the fields of a plan's crane begin with.</summary>
    public const string FirstCrane = "crane";

    /// <summary>What the fields of a second crane begin with.</summary>
    public const string SecondCrane = "second";

    /// <summary>Rows of gear a plan may hold.</summary>
    public const int MostPieces = 40;

    /// <summary>Supports a load may be weighed on.</summary>
    public const int MostScales = 4;

    private readonly PlanFields _fields;
    private readonly LiftKnown _known;
    private LoadWeighings? _scales;

    private LiftPlanReader(IReadOnlyDictionary<string, string> fields, LiftKnown known) =>
        (_fields, _known) = (new(fields), known);

    /// <summary>The shapes a part may have, with what each asks for.</summary>
    public static IReadOnlyList<(string Code, string Name, IReadOnlyList<string> Asks)> Shapes { get; } =
    [
        ("box", "Box, slab or plate", ["length", "width", "height"]),
        ("cylinder", "Cylinder", ["diameter", "length"]),
        ("pipe", "Pipe", ["outside diameter", "wall", "length"]),
        ("sphere", "Ball", ["diameter"]),
        ("prism", "Any section", ["section area", "length"]),
        ("linear", "Bar or rail by weight", ["weight for each length", "length"]),
    ];

    /// <summary>The field of one figure of a load's part: its shape, <c>a</c>, <c>b</c>, <c>c</c>, density or count.</summary>
    public static string PartField(int part, string name) => $"part-{part}-{name}";

    /// <summary>The field of one thing said of a piece.</summary>
    public static string PieceField(int row, string name) => $"piece-{row}-{name}";

    /// <summary>Reads a plan.</summary>
    /// <param name="fields">What was typed, by field.</param>
    /// <param name="known">What is on record of the lift; null: nothing.</param>
    /// <returns>The plan, or the faults by field name; a plan with faults is not worked out.</returns>
    public static (LiftPlan? Plan, IReadOnlyDictionary<string, string> Faults) Read(
        IReadOnlyDictionary<string, string> fields,
        LiftKnown? known = null
    )
    {
        var reader = new LiftPlanReader(fields, known ?? LiftKnown.Nothing);
        var plan = reader.Plan();
        return (reader._fields.Faults.Count == 0 ? plan : null, reader._fields.Faults);
    }

    /// <summary>The marks a plan names, whatever else is wrong with it.</summary>
    public static IReadOnlyList<string> Marks(IReadOnlyDictionary<string, string> fields) =>
        [
            .. Enumerable
                .Range(1, MostPieces)
                .Select(row => fields.GetValueOrDefault(PieceField(row, "mark"))?.Trim().ToUpperInvariant())
                .Where(m => m is { Length: > 0 })
                .Distinct()!,
        ];

    /// <summary>Reads what an instrument showed, as typed: on one cell, or on each support.</summary>
    /// <param name="fields">What was typed, by field.</param>
    /// <param name="with">The instrument.</param>
    public static Checked<WeighLift> Weighing(IReadOnlyDictionary<string, string> fields, string? with)
    {
        var reader = new LiftPlanReader(fields, LiftKnown.Nothing);
        var supports = reader.Scales();
        var shown = supports?.Weight ?? reader._fields.Mass("weighed");
        if (reader._fields.Faults.Count > 0)
            return new Refusal($"{reader._fields.Faults.Values.First()}.");
        return shown is { } weight
            ? new WeighLift(weight, with?.Trim()) { Supports = supports }
            : new Refusal("Write what the instrument showed, with its unit.");
    }

    private LiftPlan? Plan()
    {
        var basis = _fields.Choice<LoadBasis>("basis") ?? LoadBasis.Estimated;
        var estimate = Estimate(basis == LoadBasis.Estimated);
        _scales = basis == LoadBasis.Weighed ? Scales() : null;
        var weight = LoadWeight.Of(
            basis,
            estimate,
            _fields.Mass("weight"),
            _scales?.Weight ?? (basis == LoadBasis.Weighed ? _fields.Mass("weighed") : null),
            _known
        );
        if (weight is null)
            _fields.Refuse(
                basis switch
                {
                    LoadBasis.Estimated => PartField(1, "shape"),
                    LoadBasis.Weighed => "weighed",
                    _ => "weight",
                },
                WeightWanted
            );
        else if (weight.Weight.Kilograms is <= 0 or > 1_000_000_000)
            _fields.Refuse("weight", "a weight over 0 and lighter than anything is heavy");
        var temperature = _fields.Parsed("temperature", Temperature.Read);
        var load = weight is not null ? Load(weight, temperature, estimate) : null;
        var stand = Stand(load);
        var machine = new PlanMachine(_fields, _known);
        var hitch = new PlannedHitch(_fields.Choice<Hitch>("hitch") ?? Hitch.Vertical)
        {
            ChokeAngle = _fields.Angle("chokeAngle", 0, 180),
            BentRound = _fields.Length("bentRound"),
            DoubleWrap = _fields.Flag("doubleWrap"),
            Contact = _fields.Choice<Contact>("contact") ?? Contact.Round,
            Reeved = _fields.Flag("reeved"),
            Crossed = _fields.Flag("crossed"),
            Edge = Edge(),
            Thickness = _fields.Raw("edge") is null ? null : _fields.Length("slingThickness"),
        };
        if (hitch.Hitch == Hitch.Basket && stand is StandPoints)
            _fields.Refuse("hitch", "legs to known points are single parts: straight or choked");
        var pieces = Pieces(stand?.Legs ?? 4);
        var four = _fields.Choice<FourLegs>("fourLegs");
        var rigging = _fields.Mass("rigging", orNothing: true);
        var (crane, room) = (machine.Crane(), machine.Headroom());
        var (name, job) = (_fields.Text("name"), _fields.Text("job"));
        return _fields.Faults.Count > 0
            ? null
            : new()
            {
                Name = name ?? "Lift without a name",
                Job = job,
                Critical = _fields.Flag("critical"),
                Load = load!,
                Weight = weight!,
                Crane = crane,
                Headroom = room,
                Estimate = estimate,
                Stand = stand!,
                Hitch = hitch,
                FourLegs = four,
                Rigging = rigging,
                Pieces = pieces,
            };
    }

    /// <summary>The edge the slings bear on, where somebody said that they do.</summary>
    private Edge? Edge()
    {
        if (_fields.Raw("edge") is null)
            return null;
        if (_fields.Raw("edgeRadius") is null)
            _fields.Refuse("edgeRadius", "the radius of the edge is wanted; 0 where it is sharp");
        var protection = _fields.Choice<EdgeProtection>("edgeProtection") ?? EdgeProtection.None;
        var bare = protection == EdgeProtection.None;
        var (radius, its, bears) = (
            FromZero("edgeRadius"),
            bare ? null : FromZero("edgeProtectedRadius"),
            bare ? null : FromZero("edgeBears")
        );
        return radius is { } r
            ? new(r)
            {
                Protection = protection,
                ProtectedRadius = its,
                Bears = bears,
            }
            : null;
    }

    private Length? FromZero(string name)
    {
        var length = _fields.Length(name, positive: false);
        if (length?.Millimetres < 0)
            _fields.Refuse(name, "a length of 0 or over");
        return length;
    }

    private LoadEstimate? Estimate(bool wanted)
    {
        var parts = new List<LoadPart>();
        for (var part = 1; part <= MostParts; part++)
        {
            if (_fields.Raw(PartField(part, "shape")) is { } shape && Part(part, shape, wanted) is { } read)
                parts.Add(read);
        }

        var contingency = _fields.Number("contingency", 0, 100) / 100 ?? LoadEstimate.UsualContingency;
        var added = _fields.Mass("added", orNothing: true)?.Kilograms ?? 0;
        return parts.Count == 0 ? null : new(parts, contingency, added);
    }

    private LoadPart? Part(int part, string shape, bool wanted)
    {
        string F(string name) => PartField(part, name);
        if (!wanted && _fields.Raw(F("a")) is null)
            return null;
        LoadShape? read = shape switch
        {
            "box" => (_fields.RequiredLength(F("a")), _fields.RequiredLength(F("b")), _fields.RequiredLength(F("c")))
                is ({ } a, { } b, { } c)
                ? new Box(a, b, c)
                : null,
            "cylinder" => (_fields.RequiredLength(F("a")), _fields.RequiredLength(F("b"))) is ({ } a, { } b)
                ? new Cylinder(a, b)
                : null,
            "pipe" => (_fields.RequiredLength(F("a")), _fields.RequiredLength(F("b")), _fields.RequiredLength(F("c")))
                is ({ } a, { } b, { } c)
                ? new Pipe(a, b, c)
                : null,
            "sphere" => _fields.RequiredLength(F("a")) is { } a ? new Sphere(a) : null,
            "prism" => (Required(F("a"), Area.Read), _fields.RequiredLength(F("b"))) is ({ } a, { } b)
                ? new Prism(a, b)
                : null,
            "linear" => (Required(F("a"), LinearMass.Read), _fields.RequiredLength(F("b"))) is ({ } a, { } b)
                ? new Linear(a, b)
                : null,
            _ => null,
        };
        if (read is null)
            _fields.Refuse(F("shape"), Shapes.Any(s => s.Code == shape) ? "its sizes are wanted" : "choose a shape");
        if (read is Pipe pipe && pipe.Wall.Millimetres * 2 > pipe.Outside.Millimetres)
            _fields.Refuse(F("b"), "a wall is at most half the outside diameter");
        var count = _fields.Number(F("count"), 1, 10_000) ?? 1;
        if (count != decimal.Truncate(count))
            _fields.Refuse(F("count"), "a whole number");
        var density = Material.Find(_fields.Raw(F("density")))?.KilogramsPerCubicMetre
            ?? (read is Linear ? 1 : _fields.Number(F("own"), 1, 30_000));
        if (read is not null && density is null)
            _fields.Refuse(F("density"), "choose a material, or write its density in kg/m3");
        Point3? at = HasPoint($"part-{part}") ? Point($"part-{part}") : null;
        return read is not null && density is { } d ? new(read, d, (int)count) { At = at } : null;
    }

    private T? Required<T>(string name, Func<string, Checked<T>> read)
        where T : struct
    {
        if (_fields.Raw(name) is null)
            _fields.Refuse(name, "a figure is wanted here");
        return _fields.Parsed(name, read);
    }

    /// <summary>The load with what its own figures tell of its centre of gravity, where every part has a place.</summary>
    private LiftLoad Load(LoadWeight weight, Temperature? temperature, LoadEstimate? estimate)
    {
        var isEstimate = weight.Basis == LoadBasis.Estimated && weight.Weight == estimate?.Weight;
        return new(weight.Weight, weight.Basis, temperature)
        {
            Contingency = isEstimate ? estimate?.Contingency : null,
            Bare = isEstimate && estimate is { Added: 0 } ? Mass.FromKilograms(estimate.Bare) : weight.Weight,
            Parts =
                isEstimate && estimate is { Added: 0 } && estimate.Parts.Any(p => p.At is not null)
                    ? new(estimate.Parts)
                    : null,
            Weighings = _known.Counting.FirstOrDefault(w => w.Supports?.Weight == weight.Weight)?.Supports
                ?? (_scales?.Weight == weight.Weight ? _scales : null),
        };
    }

    /// <summary>What the load weighed on two supports or more; null where it was not weighed so.</summary>
    private LoadWeighings? Scales()
    {
        var readings = new List<Weighing>();
        for (var n = 1; n <= MostScales; n++)
        {
            if (_fields.Mass($"scale-{n}-reading", orNothing: true) is { } reading)
                readings.Add(
                    new(
                        (decimal)_fields.Coordinate($"scale-{n}-x"),
                        (decimal)_fields.Coordinate($"scale-{n}-y"),
                        reading
                    )
                );
        }

        if (readings.Count == 0)
            return null;
        if (readings.Count == 1)
            _fields.Refuse("scale-2-reading", "one support tells no weight: weigh on two or more");
        if (readings.DistinctBy(r => (r.X, r.Y)).Count() < readings.Count)
            _fields.Refuse("scale-2-x", "two supports stand at one place");
        if (readings.Sum(r => r.Reading.Kilograms) <= 0)
            _fields.Refuse("scale-1-reading", "a weight over 0");
        return new(readings);
    }

    /// <summary>How high the centre of gravity lies by a tilted weighing; null where none was made or it tells nothing.</summary>
    private double? Height(LiftLoad load)
    {
        if (_fields.Length("tilt-apart") is not { } apart)
            return null;
        var (level, raised, resolution) = (
            _fields.Mass("tilt-level"),
            _fields.Mass("tilt-raised"),
            _fields.Mass("tilt-step", orNothing: true)
        );
        if ((level, raised, _fields.Angle("tilt-angle", 0, 90)) is not ({ } a, { } b, { } tilt))
        {
            _fields.Refuse("tilt-level", "both readings and the tilt are wanted");
            return null;
        }

        var high = new TiltedWeighing(apart, a, b, tilt, resolution ?? Mass.FromKilograms(0)).Height(load.Weight);
        if (high.Ok)
            return (double)high.Value;
        _fields.Refuse("tilt-raised", high.Fault!);
        return null;
    }

    private PlannedStand? Stand(LiftLoad? load) =>
        _fields.Raw("stand") switch
        {
            "points" => Points(load),
            "beam" => new PlanMachine(_fields, _known).Beam(),
            "drift" => Between(),
            "cranes" => new PlanMachine(_fields, _known).Cranes(),
            _ => Alike(),
        };

    private StandAlike? Alike()
    {
        var legs = (int)(_fields.Number("legs", 1, 4) ?? 2);
        Angle? angle = _fields.Raw("angleAs") switch
        {
            "vertical" => _fields.Angle("angle", 0, 90) is { } v ? new Angle(90 - v.Degrees) : null,
            "included" => _fields.Angle("angle", 0, 180) is { } i ? new Angle(90 - (i.Degrees / 2)) : null,
            "height" => Height(),
            _ => _fields.Angle("angle", 0, 90),
        };
        if (angle is null && _fields.Raw("angle") is null && _fields.Raw("angleAs") != "height")
            angle = new(legs == 1 ? 90 : 60);
        return angle is { } a ? new(legs, a) : null;
    }

    private Angle? Height()
    {
        if ((_fields.RequiredLength("height"), _fields.Length("spread", positive: false)) is not ({ } high, var apart))
            return null;
        var beside = apart?.Millimetres ?? 0;
        if (beside >= 0)
            return new(
                QuantityFormat.Round(
                    Figures.Of(Math.Atan2((double)high.Millimetres, (double)beside) * 180 / Math.PI),
                    2
                )
            );
        _fields.Refuse("spread", "a distance, 0 or over");
        return null;
    }

    private StandPoints? Points(LiftLoad? load)
    {
        var count = (int)(_fields.Number("legs", 1, 4) ?? 2);
        var picks = Enumerable.Range(1, count).Select(n => Point($"pick-{n}")).ToList();
        var (hook, centre) = (Point("hook"), Point("g"));
        var typed = HasPoint("g");
        var own = typed ? null : load?.Centre;
        if (own is not null)
            centre = own.At;
        var weighedHigh = load is not null && own is { InPlanOnly: true } ? Height(load) : null;
        if (weighedHigh is { } high)
            centre = centre with { Z = high };
        if (_fields.Faults.Count > 0)
            return null;
        var read = LegGeometry.Read(hook, centre, picks);
        if (read.Ok)
            return new(read.Value)
            {
                CentreIsTyped = own is null || weighedHigh is not null,
                OwnIsSetAside = _known.SetAside.Contains(LiftKnown.Centre),
            };
        _fields.Refuse("hook-z", read.Fault!);
        return null;
    }

    private StandDrift? Between()
    {
        var count = (int)(_fields.Number("hoists", 2, BetweenHoists.Most) ?? 2);
        var hooks = "abcdef"[..count]
            .Select(h => new Point3(_fields.Coordinate($"{h}-x"), 0, _fields.Coordinate($"{h}-z")))
            .ToList();
        var (from, to, high) = (_fields.Coordinate("from"), _fields.Coordinate("to"), _fields.Coordinate("carried"));
        if (_fields.Faults.Count > 0)
            return null;
        var steps = new List<Drift>();
        for (var i = 0; i + 1 < count; i++)
        {
            // Handed on where it hangs plumb under the next.
            var read = Drift.Read(
                hooks[i],
                hooks[i + 1],
                i == 0 ? from : hooks[i].X,
                i + 2 == count ? to : hooks[i + 1].X,
                high
            );
            if (read.Ok)
                steps.Add(read.Value);
            else
                _fields.Refuse(i == 0 ? "from" : $"{"abcdef"[i + 1]}-x", read.Fault!);
        }

        return steps.Count == count - 1 ? new(steps) : null;
    }

    /// <summary>Whether anything of a point was typed; what of it was not is 0 then.</summary>
    private bool HasPoint(string name) =>
        (_fields.Raw($"{name}-x") ?? _fields.Raw($"{name}-y") ?? _fields.Raw($"{name}-z")) is not null;

    private Point3 Point(string name) =>
        new(_fields.Coordinate($"{name}-x"), _fields.Coordinate($"{name}-y"), _fields.Coordinate($"{name}-z"));

    private List<PlannedPiece> Pieces(int legs)
    {
        var pieces = new List<PlannedPiece>();
        for (var row = 1; row <= MostPieces; row++)
        {
            string F(string name) => PieceField(row, name);
            if (_fields.Raw(F("mark")) is not { } typed)
                continue;
            var mark = Custody.Mark.Read(typed);
            if (!mark.Ok)
                _fields.Refuse(F("mark"), mark.Fault!);
            var place = PlannedPlace.Read(_fields.Raw(F("place")));
            if (place is null)
                _fields.Refuse(F("place"), "choose where it hangs");
            if (place is { IsLeg: true, Leg: var leg } && leg > legs)
                _fields.Refuse(F("place"), $"there {(legs == 1 ? "is 1 leg" : $"are {legs} legs")}");
            var facts = new RigFacts
            {
                Pull = _fields.Angle(F("pull"), 0, 180),
                Collects = _fields.Angle(F("collects"), 0, 180),
                OutOfPlane = _fields.Angle(F("outOfPlane"), 0, 180),
                Seated = !_fields.Flag(F("notSeated")),
                Hole = _fields.Choice<BoltHole>(F("hole")),
                AsksHole = true,
                Engaged = _fields.Number(F("engaged"), 0, 100),
                Metal = _fields.Text(F("metal")),
                OffPlumb = _fields.Angle(F("offPlumb"), 0, 180),
                ScrewPitch = _fields.Length(F("screwPitch")),
                ScrewEngaged = _fields.Length(F("screwEngaged")),
                ScrewOpen = _fields.Length(F("screwOpen"), positive: false),
            };
            if (mark.Ok && place is { } at)
                pieces.Add(new(mark.Value.Text, at, facts));
        }

        return pieces;
    }
}
