namespace Keralith.Core.Gear;

/// <summary>The family groups a person is authorised for.</summary>
public enum FamilyGroup
{
    [Code("sling")]
    Sling,

    [Code("hardware")]
    Hardware,

    [Code("hoist")]
    Hoist,

    [Code("below-hook")]
    BelowHook,

    [Code("site")]
    Site,
}

/// <summary>
/// What a family is like to the rules: which tables of heat, chemicals, bends and ratings it reads, and what it is on a lift. Several families may be
/// of one kind.
/// </summary>
public enum GearKind
{
    /// <summary>Chain slings: judged, rated and heated as alloy chain.</summary>
    Chain,

    /// <summary>Slings of wire rope.</summary>
    WireRope,

    /// <summary>Slings of metal mesh.</summary>
    Mesh,

    /// <summary>Slings of fiber rope.</summary>
    FiberRope,

    /// <summary>Flat slings of woven web.</summary>
    Web,

    /// <summary>Endless slings in a cover.</summary>
    Roundsling,

    /// <summary>Several members under one mark.</summary>
    Kit,

    /// <summary>Nets for loose or wrapped loads.</summary>
    Net,

    Shackle,

    Hook,

    EyeBolt,

    EyeNut,

    HoistRing,

    Turnbuckle,

    Link,

    Swivel,

    Block,

    LoadIndicator,

    LiftingPoint,

    /// <summary>Hand-chain hoists, hung from above.</summary>
    HungHandHoist,

    /// <summary>Powered hoists, hung from above.</summary>
    PoweredHoist,

    /// <summary>Lever hoists, which pull any way.</summary>
    LeverHoist,

    /// <summary>Rope-grip hoists, which pull any way along a rope of their own.</summary>
    RopeGripHoist,

    Clamp,

    Beam,

    Clip,

    WedgeSocket,

    Restraint,
}

/// <summary>
/// A family of gear as data: what it is called, what is stated of it, which parts a hand meets on it and what is asked of each.
/// A new family is a new value of this type and a drawing.
/// </summary>
public sealed record GearFamily
{
    /// <summary>The fixed code of the file formats, such as <c>alloy-chain-sling</c>.</summary>
    public required string Code { get; init; }

    /// <summary>The name people read.</summary>
    public required string Name { get; init; }

    /// <summary>The standard it is inspected under, such as "ASME B30.9, chapter 9-1".</summary>
    public required string Standard { get; init; }

    public required FamilyGroup Group { get; init; }

    /// <summary>What it is like to the rules.</summary>
    public required GearKind Kind { get; init; }

    /// <summary>Whether its frequent inspection, and heavy service, are kept by the calendar rather than by each use.</summary>
    public bool IsKeptByCalendar => Kind == GearKind.Hook || Group is FamilyGroup.Hoist or FamilyGroup.BelowHook;

    /// <summary>The attributes a form asks for, by fixed name, in order.</summary>
    public required IReadOnlyList<string> Asks { get; init; }

    /// <summary>Of those, the ones a piece can't be registered without.</summary>
    public required IReadOnlyList<string> Requires { get; init; }

    /// <summary>Choices that are fewer here than the file formats allow, by attribute; a form offers only these.</summary>
    public IReadOnlyDictionary<string, IReadOnlyList<string>> Narrowed { get; init; } =
        new Dictionary<string, IReadOnlyList<string>>();

    /// <summary>The parts, in the order a hand travels; <c>whole</c> is added by itself.</summary>
    public required IReadOnlyList<PartTemplate> Parts { get; init; }

    /// <summary>What the marking must carry.</summary>
    public required IReadOnlyList<TagEntry> TagEntries { get; init; }

    /// <summary>Whether a certificate is due before first use.</summary>
    public bool CertificateDue { get; init; }

    /// <summary>Whether attachments serve it whose rating must not be below its own.</summary>
    public bool HasAttachments { get; init; }

    /// <summary>Tie-downs, binders and the like: registered so that they can be told apart, never usable for a lift.</summary>
    public bool NotForLifting { get; init; }

    /// <summary>The choices a form offers for one of the attributes.</summary>
    public IReadOnlyList<string> ChoicesOf(AttributeDefinition definition) =>
        Narrowed.GetValueOrDefault(definition.Name) ?? definition.Choices;

    /// <summary>The design factor taken where the marking names none (rule books, asme).</summary>
    public decimal? AssumedDesignFactor { get; init; }

    /// <summary>Families are compared by identity: there is one of each.</summary>
    public bool Equals(GearFamily? other) => ReferenceEquals(this, other);

    public override int GetHashCode() => Code.GetHashCode(StringComparison.Ordinal);

    public override string ToString() => Code;
}

/// <summary>One part of a family, before its legs are counted.</summary>
/// <param name="Path">The part's path; <c>{n}</c> stands for the leg's number.</param>
/// <param name="Name">The name people read; <c>{n}</c> likewise.</param>
/// <param name="Criteria">Ids of the criteria that sit on it, beyond those every first part and the whole bring.</param>
public sealed record PartTemplate(string Path, string Name, IReadOnlyList<string> Criteria)
{
    /// <summary>Whether a given piece has the part; always, unless stated.</summary>
    public Func<GearPiece, bool> Present { get; init; } = _ => true;

    public bool PerLeg => Path.Contains("{n}", StringComparison.Ordinal);
}

/// <summary>One entry a marking must carry.</summary>
/// <param name="Code">Short fixed name.</param>
/// <param name="Name">What people read.</param>
public sealed record TagEntry(string Code, string Name)
{
    /// <summary>Whether a given piece must carry it; always, unless stated.</summary>
    public Func<GearPiece, bool> Due { get; init; } = _ => true;
}
