namespace Keralith.Core.Gear;

/// <summary>Every attribute the file formats know, by its fixed name.</summary>
public static class GearAttributes
{
    /// <summary>All definitions, in the order a form asks for them.</summary>
    public static IReadOnlyList<AttributeDefinition> All { get; } =
    [
        Length("size", "Size", "Chain: nominal link diameter. Rope: diameter. Shackle: stock of the bow, not the pin."),
        Text("grade", "Grade", "As marked: 80, 100, 120 for alloy chain."),
        Whole("legs", "Legs", 4),
        Length("reach", "Reach", "From the bearing of the top link to the bearing of the lower end."),
        Choice("endFitting", "Lower end", "hook", "link", "shackle"),
        Flag("hookLatch", "Hooks have a latch"),
        Flag("hookSwivels", "Hooks swivel"),
        Flag("selfLocking", "Hooks lock themselves"),
        Flag("shortener", "Shorteners fitted"),
        Choice("pinType", "Pin", "screw", "bolt", "round"),
        Length("pinSize", "Pin diameter"),
        Length("ropeSize", "Rope size"),
        Length("width", "Width"),
        Length("wireDiameter", "Wire diameter"),
        Length("threadLength", "Thread length"),
        Length("circumference", "Circumference"),
        Length("span", "Span"),
        Length("lift", "Lift"),
        Length("mesh", "Mesh"),
        Length("pitch", "Pitch", "Inside length of a link along the chain."),
        Length("threadSize", "Thread", "Nominal diameter of the thread, with the hole it is fitted in.") with
        {
            BringsQuestion = true,
        },
        Choice("hole", "Fitted in", "blind", "through-tapped", "through"),
        new(
            "torque",
            AttributeKind.Moment,
            "Torque",
            "As marked on the ring, such as 100 ft lbf or 135 N m: the torque found is held against it."
        )
        {
            BringsQuestion = true,
        },
        new(
            "handPullLimit",
            AttributeKind.Force,
            "Hand pull, most",
            "The maker's figure at the rated load, such as 260 N; at another load: 180 N at 500 kg."
        )
        {
            BringsQuestion = true,
        },
        Mass("ratedLoad", "Rated load"),
        Mass("capacity", "Capacity"),
        Mass("ownWeight", "Own weight"),
        Whole("strands", "Strands"),
        Whole("wiresPerStrand", "Wires in a strand", hint: "Filler wires left out."),
        Whole("plies", "Plies", 8),
        Whole("falls", "Falls"),
        Whole("count", "Count"),
        new("designFactor", AttributeKind.Number, "Design factor", "As marked, such as 4 or 5."),
        Choice("body", "Rope body", "strand-laid", "cable-laid", "braided-under-8", "braided-8-or-more"),
        Choice("core", "Core", "iwrc", "fiber"),
        Choice("lay", "Lay", "regular", "lang"),
        Choice("termination", "Eyes made by", "swaged", "hand-spliced", "poured", "clips"),
        Choice("gauge", "Gauge", "heavy", "medium", "light"),
        Choice("coating", "Coating", "none", "elastomer"),
        Choice("fiber", "Fiber", "nylon", "polyester", "polypropylene", "wire"),
        Choice("type", "Type", "eye-eye", "endless", "with-fittings"),
        Choice("fittingMetal", "Metal of the fittings", "steel", "aluminium"),
        Choice("material", "Material", "carbon", "alloy"),
        Choice("power", "Power", "electric", "air"),
        Choice("suspension", "Suspension", "hook", "lug", "trolley"),
        Choice("medium", "Load medium", "chain", "rope", "web"),
        Choice("kind", "Kind", "plate", "beam", "padeye", "trolley-beam", "spreader", "equalizer", "lifting"),
        Choice("use", "Used", "indoor", "outdoor"),
        Flag("shoulder", "Has a shoulder"),
        Flag("warningCore", "Has a warning core"),
        Flag("overloadLimiter", "Overload limiter fitted"),
        Flag("rotationResistant", "Rotation-resistant rope"),
        Flag("latchPolicy", "Latches required by the site"),
        Flag("thimblePolicy", "Thimbles required by the site"),
        new(
            "roster",
            AttributeKind.Roster,
            "Roster",
            "How many belong to it, and the links of a leg: 8 members, 9 to 12 links."
        ),
        Text("construction", "Construction"),
        Text("colour", "Colour"),
        Text("coreFiber", "Core fiber"),
        Text("coverFiber", "Cover fiber"),
        Text("maker", "Maker"),
        Text("model", "Model"),
        Text("batch", "Batch"),
        Text("serial", "Serial"),
        Text("mark", "Mark"),
    ];

    private static readonly Dictionary<string, AttributeDefinition> ByName = All.ToDictionary(a => a.Name);

    private static readonly Dictionary<string, int> Shifts = PackedAt();

    /// <summary>The definition of a name, or null when there is no such attribute.</summary>
    public static AttributeDefinition? Find(string name) => ByName.GetValueOrDefault(name);

    /// <summary>
    /// Choices, flags, legs and which figures that bring a question are on record, packed into one number; sizes, figures
    /// and texts themselves are left out.
    /// </summary>
    internal static UInt128 MakeUpOf(Dictionary<string, AttributeValue> values)
    {
        var packed = UInt128.Zero;
        foreach (var (name, value) in values)
        {
            if (!Shifts.TryGetValue(name, out var shift))
                continue;
            var code = value switch
            {
                FlagValue flag => flag.Value ? 2 : 1,
                WholeValue whole => whole.Whole,
                _ when ByName[name].BringsQuestion => 1,
                TextValue text => IndexOf(ByName[name].Choices, text.Value) + 1,
                _ => throw new System.Diagnostics.UnreachableException(),
            };
            packed |= (UInt128)(uint)code << shift;
        }

        return packed;
    }

    /// <summary>Where each choice, flag and the number of legs starts in the packed number.</summary>
    private static Dictionary<string, int> PackedAt()
    {
        var shifts = new Dictionary<string, int>();
        var at = 0;
        foreach (var definition in All)
        {
            var codes = definition.Kind switch
            {
                AttributeKind.Choice => definition.Choices.Count + 1,
                AttributeKind.Flag => 3,
                _ when definition.BringsQuestion => 2,
                _ when definition.Name == "legs" => definition.Most + 1,
                _ => 0,
            };
            if (codes == 0)
                continue;
            shifts.Add(definition.Name, at);
            at += int.Log2(codes) + 1;
        }

        return at <= 128
            ? shifts
            : throw new InvalidOperationException("The make-up of gear no longer fits its number.");
    }

    private static int IndexOf(IReadOnlyList<string> choices, string value)
    {
        for (var i = 0; i < choices.Count; i++)
        {
            if (choices[i] == value)
                return i;
        }

        throw new ArgumentException($"There is no choice {value}.", nameof(value));
    }

    private static AttributeDefinition Length(string name, string label, string? hint = null) =>
        new(name, AttributeKind.Length, label, hint);

    private static AttributeDefinition Mass(string name, string label) => new(name, AttributeKind.Mass, label);

    private static AttributeDefinition Text(string name, string label, string? hint = null) =>
        new(name, AttributeKind.Text, label, hint);

    private static AttributeDefinition Flag(string name, string label) => new(name, AttributeKind.Flag, label);

    private static AttributeDefinition Whole(string name, string label, int most = 1_000_000, string? hint = null) =>
        new(name, AttributeKind.Whole, label, hint) { Most = most };

    private static AttributeDefinition Choice(string name, string label, params string[] choices) =>
        new(name, AttributeKind.Choice, label) { Choices = choices };
}
