using Keralith.Core.Custody;
using Keralith.Core.Gear;
using Keralith.Core.Quantities;
using Keralith.Core.Register;
using Keralith.Core.Tags;

namespace Keralith.Core.Lifts;

/// <summary>Where on a lift a piece of a family goes.</summary>
public enum LiftRole
{
    /// <summary>A leg's sling.</summary>
    Sling,

    /// <summary>Hardware, in a leg or above.</summary>
    Hardware,

    /// <summary>Above the legs only.</summary>
    Above,

    /// <summary>On no lift.</summary>
    None,
}

/// <summary>A registered piece as a lift looks at it.</summary>
/// <param name="Mark">Its mark.</param>
/// <param name="Gear">What is stated of it.</param>
/// <param name="RatedLoad">As marked; null where not known.</param>
/// <param name="DesignFactor">As marked; null where the marking names none.</param>
/// <param name="Tag">What its marking gives it for.</param>
/// <param name="Use">May it be used.</param>
public sealed record LiftGear(
    string Mark,
    GearPiece Gear,
    Mass? RatedLoad,
    decimal? DesignFactor,
    TagWords Tag,
    Usability Use
)
{
    /// <summary>The hottest it has met.</summary>
    public Temperature? Hottest { get; init; }

    /// <summary>A kit's roster.</summary>
    public IReadOnlyList<KitMember> Members { get; init; } = [];

    /// <summary>How many hang under its mark; null for a single piece.</summary>
    public int? LotCount { get; init; }

    /// <summary>The maker's paper on record that states a rated load above the usual one; null: none.</summary>
    public string? RatingPaper { get; init; }

    /// <summary>Of a hung hoist: how far off plumb its maker states it may pull, by a paper on record; null where none does.</summary>
    public Angle? MakersAngle { get; init; }

    /// <summary>Of a lifting point: whether its calculation is on record.</summary>
    public bool IsCalculated { get; init; }

    /// <summary>Sizes that decide what seats in what.</summary>
    public FitSizes Fit { get; init; } = FitSizes.None;

    /// <summary>One leg of a sling straight; of anything else its rated load; null where it is not known.</summary>
    public Mass? OneLegStraight => RoleOf(Gear.Family) == LiftRole.Sling ? Sling(Hitch.Vertical).RatedLoad : RatedLoad;

    /// <summary>In how many legs it can hang at once.</summary>
    public int MostLegs => RoleOf(Gear.Family) == LiftRole.Sling ? Gear.Legs : LotCount ?? 1;

    /// <summary>It in words: its mark and what it is.</summary>
    public override string ToString() => $"{Mark}, {Gear.Family.Name.ToLowerInvariant()}";

    /// <summary>Where gear of a family goes.</summary>
    public static LiftRole RoleOf(GearFamily family) =>
        family switch
        {
            { NotForLifting: true } or { Code: "wire-rope-clip" or "wedge-socket" } => LiftRole.None,
            { Group: FamilyGroup.Sling } or { Code: "sling-kit" or "cargo-net" } => LiftRole.Sling,
            { Group: FamilyGroup.Hoist } or { Code: "lifting-point" } => LiftRole.Above,
            _ => LiftRole.Hardware,
        };

    /// <summary>The piece as a sling before anything is said of its rating.</summary>
    private LiftSling Unrated =>
        new(Gear, null)
        {
            DesignFactor = DesignFactor,
            Hottest = Hottest,
            RatingPaper = RatingPaper,
        };

    /// <summary>The piece as one leg's sling, for a hitch.</summary>
    public LiftSling Sling(Hitch hitch)
    {
        var bare = Unrated;
        if (Gear.Family.Kind == GearKind.Kit)
        {
            var leg = KitMember.OneLeg(Members);
            return bare with
            {
                RatedLoad = leg,
                WhyUnrated = leg is null ? "a member that bears load has no rated load" : null,
                Ceiling = RatedLoad is { } set ? new(hitch, new(0), set) : null,
                LegTable = Tag.LegTable,
            };
        }

        if (RatedLoad is not { } marked)
            return bare;
        if (HitchRatings.Stated(Gear, Tag) is not { } stated)
            return bare with { WhyUnrated = "its marking's hitch or angle is not stated: enter it on the piece" };
        var given = Tag.Ratings.Where(r => r.Legs is null && r.Hitch == hitch).ToList();
        var plain = given.FirstOrDefault(r => r.Angle is null)?.Load;
        var table = given
            .Where(r => r.Angle is not null)
            .Select(r => new TagTableRow(r.Hitch, r.Angle!.Value, r.Load))
            .ToList();
        var share = HitchFactors.Share(Gear.Legs);
        return stated switch
        {
            { Hitch: Hitch.Vertical } when Gear.Legs == 1 => bare with
            {
                RatedLoad = marked,
                ChokerRating = OfHitch(Hitch.Choker),
                BasketRating = OfHitch(Hitch.Basket),
                TagTable = table,
            },
            { Hitch: Hitch.Vertical } => bare with
            {
                RatedLoad = marked * (1 / (share * HitchFactors.Sine(stated.Angle))),
                Ceiling = new(hitch, stated.Angle, plain ?? marked),
                TagTable = table,
            },
            { Hitch: Hitch.Basket } when stated.Angle.Degrees == 90 && Gear.Legs == 1 => bare with
            {
                RatedLoad = marked * 0.5m,
                ChokerRating = OfHitch(Hitch.Choker),
                BasketRating = marked,
                TagTable = table,
            },
            _ => bare with
            {
                WhyUnrated =
                    $"its marking gives a {Code.Of(stated.Hitch)} rating only: nothing more is worked out from it",
            },
        };

        Mass? OfHitch(Hitch asked) => asked == hitch ? plain : null;
    }

    /// <summary>The piece as hardware.</summary>
    /// <param name="facts">How it is rigged.</param>
    public LiftComponent Component(RigFacts facts) =>
        Gear.Family.Kind switch
        {
            GearKind.Shackle => new ShackleOnLift(
                RatedLoad,
                facts.Pull,
                facts.Collects,
                Code.Find<PinKind>(Gear.PinType)
            ),
            GearKind.Hook => new HookOnLift(RatedLoad, facts.Collects),
            GearKind.EyeBolt or GearKind.EyeNut => new EyeBoltOnLift(RatedLoad)
            {
                Shoulder = Gear.Values.ContainsKey("shoulder") ? Gear.Flag("shoulder") : null,
                Seated = facts.Seated,
                Angle = facts.Pull,
                OutOfPlane = facts.OutOfPlane,
                Hole = facts.Hole ?? Code.Find<BoltHole>(Gear.Text("hole")),
                AsksHole = facts.AsksHole && Gear.Family.Kind == GearKind.EyeBolt,
                Engaged = facts.Engaged,
                Metal = facts.Metal,
            },
            GearKind.HoistRing => new HoistRingOnLift(RatedLoad),
            GearKind.Turnbuckle => new TurnbuckleOnLift(RatedLoad),
            GearKind.Link or GearKind.Swivel => new LinkOnLift(RatedLoad, facts.Collects),
            GearKind.LoadIndicator => new LoadIndicatorOnLift(RatedLoad ?? Gear.Mass("capacity")),
            GearKind.LiftingPoint => new LiftingPointOnLift(RatedLoad, IsCalculated),
            _ when Gear.Family.Group == FamilyGroup.Hoist => new HoistOnLift(Gear.Family, RatedLoad, facts.OffPlumb)
            {
                MakersAngle = MakersAngle,
            },
            _ => new OtherOnLift(Gear.Family, RatedLoad),
        };
}

/// <summary>How a piece of hardware is rigged on a lift. What nobody has said is null.</summary>
public sealed record RigFacts
{
    /// <summary>Nothing said.</summary>
    public static RigFacts None { get; } = new();

    /// <summary>Off its axis: of a shackle's bow, of an eye bolt's shank.</summary>
    public Angle? Pull { get; init; }

    /// <summary>Included angle of the legs it collects.</summary>
    public Angle? Collects { get; init; }

    public Angle? OutOfPlane { get; init; }

    public bool Seated { get; init; } = true;

    public BoltHole? Hole { get; init; }

    /// <summary>Whether a hole nobody has stated is asked about: of a piece that is planned, not of one looked for.</summary>
    public bool AsksHole { get; init; }

    /// <summary>In bolt diameters.</summary>
    public decimal? Engaged { get; init; }

    public string? Metal { get; init; }

    public Angle? OffPlumb { get; init; }

    /// <summary>Of a turnbuckle's thread, one screw; null: a coarse thread.</summary>
    public Length? ScrewPitch { get; init; }

    /// <summary>Thread engaged at a turnbuckle's worse end.</summary>
    public Length? ScrewEngaged { get; init; }

    /// <summary>Between the ends of a turnbuckle's screws in its body.</summary>
    public Length? ScrewOpen { get; init; }
}
