using Keralith.Core.Quantities;

namespace Keralith.Core.Gear;

/// <summary>What is stated of a piece of gear: its family and the attributes the rules look at. Immutable.</summary>
public sealed class GearPiece
{
    private readonly Dictionary<string, AttributeValue> _values;

    /// <param name="family">The family.</param>
    /// <param name="values">Attributes by their fixed names; a name no attribute has is a bug.</param>
    /// <exception cref="ArgumentException">A name is not an attribute.</exception>
    public GearPiece(GearFamily family, IEnumerable<KeyValuePair<string, AttributeValue>> values)
    {
        Family = family;
        _values = new(values);
        foreach (var name in _values.Keys)
        {
            if (GearAttributes.Find(name) is null)
                throw new ArgumentException($"There is no attribute {name}.", nameof(values));
        }

        MakeUp = GearAttributes.MakeUpOf(_values);
    }

    public GearFamily Family { get; }

    /// <summary>
    /// Choices, flags, legs and figures on record packed into one number: pieces of a family with the same have the same parts and
    /// questions.
    /// </summary>
    internal UInt128 MakeUp { get; }

    /// <summary>All that is stated, by name.</summary>
    public IReadOnlyDictionary<string, AttributeValue> Values => _values;

    /// <summary>Chain: nominal diameter; rope: diameter; shackle: stock of the bow.</summary>
    public Length? Size => Length("size");

    /// <summary>Legs, 1 unless stated.</summary>
    public int Legs => Whole("legs") ?? 1;

    /// <summary>
    /// What the legs end in: hook, link or shackle; an alloy chain sling's are links unless stated; null: none.
    /// </summary>
    public string? EndFitting => Text("endFitting") ?? (Family.Kind == GearKind.Chain ? "link" : null);

    /// <summary>Hooks are taken to have a latch unless stated otherwise.</summary>
    public bool HookLatch => Flag("hookLatch", true);

    public bool HookSwivels => Flag("hookSwivels");

    public bool Shortener => Flag("shortener");

    public string? PinType => Text("pinType");

    /// <summary>Rope is strand-laid unless stated otherwise.</summary>
    public bool IsStrandLaid => Text("body") is null or "strand-laid";

    /// <summary>What a hoist's load hangs on: chain unless stated; a rope-grip hoist's is rope.</summary>
    public string Medium => Text("medium") ?? (Family.Kind == GearKind.RopeGripHoist ? "rope" : "chain");

    /// <summary>What a powered hoist hangs by: a hook unless stated.</summary>
    public string Suspension => Text("suspension") ?? "hook";

    /// <summary>A kit's roster; null when not stated.</summary>
    public RosterValue? Roster => _values.GetValueOrDefault("roster") as RosterValue;

    public bool LatchPolicy => Flag("latchPolicy");

    /// <summary>What the grade mark of a chain sling says; null when it is of another family or none is stated.</summary>
    public ChainGrade? ChainGrade =>
        Family.Kind == GearKind.Chain && Text("grade") is { } mark ? Gear.ChainGrade.Of(mark) : null;

    /// <summary>Whether it is chain whose mark says that it is not for lifting.</summary>
    public bool IsUnderAlloy => ChainGrade is { Kind: ChainKind.NotForLifting };

    /// <summary>Whether it is a sling of lang-lay rope.</summary>
    public bool IsLangLay => Family.Kind == GearKind.WireRope && Text("lay") == "lang";

    /// <summary>Why a family can't have an attribute's value; null when it can: a chain sling's grade is a mark of a closed list.</summary>
    public static string? FaultOf(GearFamily family, string name, AttributeValue value) =>
        name == "grade" && family.Kind == GearKind.Chain && value is TextValue mark
            ? Gear.ChainGrade.FaultOf(mark.Value)
            : null;

    /// <summary>The same piece with one thing more stated, or stated otherwise.</summary>
    public GearPiece With(string name, AttributeValue value) =>
        new(Family, new Dictionary<string, AttributeValue>(_values) { [name] = value });

    public Length? Length(string name) => _values.GetValueOrDefault(name) is LengthValue v ? v.Length : null;

    public Mass? Mass(string name) => _values.GetValueOrDefault(name) is MassValue v ? v.Mass : null;

    public Force? Force(string name) => _values.GetValueOrDefault(name) is ForceValue v ? v.Force : null;

    public Moment? Moment(string name) => _values.GetValueOrDefault(name) is MomentValue v ? v.Moment : null;

    public int? Whole(string name) => _values.GetValueOrDefault(name) is WholeValue v ? v.Whole : null;

    public string? Text(string name) => _values.GetValueOrDefault(name) is TextValue v ? v.Value : null;

    public bool Flag(string name, bool unlessStated = false) =>
        _values.GetValueOrDefault(name) is FlagValue v ? v.Value : unlessStated;
}
