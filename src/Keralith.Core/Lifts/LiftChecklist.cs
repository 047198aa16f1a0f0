using Keralith.Core.Gear;
using Keralith.Core.Tags;

namespace Keralith.Core.Lifts;

/// <summary>What a line of the checklist is about.</summary>
public enum ChecklistGroup
{
    Load,
    Rigging,
    Machine,
    Place,
    People,
}

/// <summary>One thing an arrangement must pass before it is lifted.</summary>
/// <param name="Code">Short fixed name.</param>
/// <param name="Group">What it is about.</param>
/// <param name="Text">What is asked.</param>
public sealed record ChecklistItem(string Code, ChecklistGroup Group, string Text)
{
    /// <summary>Whether it may be answered that it does not apply, with why; else it is so, or nothing is lifted.</summary>
    public bool MayNotApply { get; init; }
}

/// <summary>
/// What is asked once a lift; the answers are kept with it. The lines come from the arrangement: what is not planned is not
/// asked, and each kind of gear brings its own.
/// </summary>
public static class LiftChecklist
{
    /// <summary>Letters kept of why a line does not apply.</summary>
    public const int LongestWhy = 120;

    /// <summary>The lines of every lift, in order.</summary>
    public static IReadOnlyList<ChecklistItem> General { get; } =
    [
        Load("weight", "The weight is known, and how"),
        Load("hook", "The hook is over the centre of gravity"),
        Load("strong", "The load stands the inward pull"),
        Load("loose", "Nothing is loose on or in the load"),
        Rigging("gear", "Each piece is usable and is the one on the plan, by mark and rating"),
        Rigging("rated", "Every piece is named and rated"),
        Rigging("edges", "Edges are padded; no leg bears on one that is not on the plan"),
        Rigging("twists", "No twist, knot, kink or crossed wrap"),
        Rigging("hooks-out", "Hooks face outward; nothing is forced or hammered on"),
        new(
            "stops",
            ChecklistGroup.Machine,
            "The hoist is plumb over the load, not run to its stops, its rope not slack on the floor"
        )
        {
            MayNotApply = true,
        },
        Place("path", "Path and landing are planned; travel is low"),
        Place("snag", "Nothing snags on the way up"),
        Place("tag-line", "A tag line is on", mayNotApply: true),
        Place("wind", "Wind is low enough for the load's face", mayNotApply: true),
        Place("cordon", "The area is cordoned where the load is left hanging", mayNotApply: true),
        Place("chemicals", "Nothing near is hotter, colder or sharper to the gear than it stands"),
        People("people", "People are clear, nobody under or beside it, fingers out"),
        People("signals", "Signals are agreed, one leads"),
        People("briefing", "The briefing was held; the risk assessment is read and signed"),
        People("slack", "Slack will be taken up gently"),
        People("trial", "Trial lift planned: 12 to 20 in (30 to 50 cm), stop, look, lower, adjust"),
        People("resting", "No sling will be pulled from under the resting load, nor dragged", mayNotApply: true),
        People("unhook", "It will be unhooked before the carrier moves off", mayNotApply: true),
    ];

    private static readonly ChecklistItem Heat = Place(
        "surroundings",
        "The temperature at the gear is as planned, and stays so"
    );
    private static readonly ChecklistItem Choke = Rigging(
        "choke",
        "Each choke is snug, clear of splice, fitting and tag"
    );
    private static readonly ChecklistItem[] OfACrane =
    [
        Machine("crane", "The crane stands level on ground that bears it, set up as its chart's configuration says"),
        Machine("radius", "The radius is measured at pick-up, on the way and at landing; it grows as the boom bends"),
    ];
    private static readonly ChecklistItem Tandem = Machine(
        "tandem",
        "One leads both cranes; the hooks stay plumb and rise level; neither swings nor travels but as planned"
    );
    private static readonly ChecklistItem[] OfTheWay =
    [
        Place("headroom", "The highest point of the way was measured, and the hook comes over it"),
        Place("landing", "There is something to put it down on: no sling will lie under it"),
    ];
    private static readonly ChecklistItem Basket = Rigging(
        "basket",
        "No basket can slide: the legs stand steep enough, or are held"
    );
    private static readonly ChecklistItem Wraps = Rigging(
        "wraps",
        "Double wraps lie side by side, not crossed under the load, drawn even by hand as the strain comes on"
    );

    /// <summary>What each kind of gear brings.</summary>
    private static readonly IReadOnlyList<(Func<GearPiece, bool> Brings, ChecklistItem Item)> Brought =
    [
        (
            g => g.Family.Kind == GearKind.Shackle,
            Rigging("pins", "Shackle pins are home, and can't turn themselves out")
        ),
        (
            g => g.Family.Kind is GearKind.EyeBolt or GearKind.EyeNut,
            Rigging("eye-bolts", "Eye bolts are seated, and pulled in their plane")
        ),
        (
            g => g.Family.Kind == GearKind.HoistRing,
            Rigging("rings", "Hoist rings seat all round, torqued as marked, and turn freely")
        ),
        (
            g => g.Family.Kind == GearKind.Turnbuckle,
            Rigging("turnbuckles", "Turnbuckles are locked, their thread fully engaged")
        ),
        (
            g => g.Family.Kind == GearKind.Clip || g.Text("termination") == "clips",
            Rigging(
                "clips",
                "Clips: saddles on the live side, count and spacing right, torqued, and again after the first load"
            )
        ),
        (g => g.Family.Kind == GearKind.Net, Rigging("net", "The net closes round the load, all corners on the hook")),
        (
            g => g.Family.Kind == GearKind.Clamp,
            Rigging("clamps", "Clamps are locked, on clean metal of the thickness they are made for")
        ),
        (g => g.Family.Kind == GearKind.Kit, Rigging("kit", "The kit is complete, by its roster")),
        (
            g => g.Family.Kind == GearKind.Beam,
            Machine("beam", "The beam is rated for this span and these picks, and hangs level")
        ),
        (
            g => g.Family.Kind == GearKind.LiftingPoint,
            Machine("point", "The lifting point's calculation covers this pull")
        ),
        (
            g => g.Family.Kind == GearKind.LeverHoist,
            Machine("lever", "No pipe on the lever; the slack end of the chain is clear")
        ),
        (
            g => g.Family.Kind == GearKind.RopeGripHoist,
            Machine(
                "rope",
                "The hoist's rope is the one made for it, anchored, not slack on the floor; one lever is worked at a time"
            )
        ),
        (
            g => g.Family.Kind == GearKind.LoadIndicator,
            Machine("indicator", "The load indicator is set to nought and in calibration")
        ),
    ];

    /// <summary>Every line there is, whatever the arrangement.</summary>
    public static IReadOnlyList<ChecklistItem> Every { get; } =
    [.. General, Heat, Choke, Basket, Wraps, .. OfACrane, Tandem, .. OfTheWay, .. Brought.Select(b => b.Item)];

    /// <summary>When to stop and ask.</summary>
    public static IReadOnlyList<string> AskForHelp { get; } =
    [
        "the weight or the centre of gravity can't be told",
        "the load is higher than it is wide, gives, or holds liquid",
        "the legs come flatter than 45 deg, or must be of different length",
        "more than one crane or hoist carries",
        "people must go under or ride with it",
        "the gear has been hot, in chemicals, or shocked",
        "anything on the plan says ask",
    ];

    /// <summary>The lines of an arrangement, group by group.</summary>
    /// <param name="gear">The pieces it names.</param>
    public static IReadOnlyList<ChecklistItem> Of(LiftPlan plan, IEnumerable<GearPiece> gear)
    {
        var pieces = gear.ToList();
        var own = new List<ChecklistItem>();
        if (plan.Load.Temperature is not null)
            own.Add(Heat);
        if (plan.Hitch.Hitch == Hitch.Choker)
            own.Add(Choke);
        if (plan.Hitch.Hitch == Hitch.Basket)
            own.Add(Basket);
        if (plan.Hitch is { DoubleWrap: true, Hitch: Hitch.Choker or Hitch.Basket })
            own.Add(Wraps);
        if (plan.Crane is not null)
            own.AddRange(OfACrane);
        if (plan.Stand is StandCranes)
            own.Add(Tandem);
        if (plan.Headroom is not null)
            own.AddRange(OfTheWay);
        own.AddRange(Brought.Where(b => pieces.Exists(p => b.Brings(p))).Select(b => Told(b.Item, pieces)));
        return [.. General.Concat(own).OrderBy(i => i.Group)];
    }

    /// <summary>A line with the figures its gear takes: clips by the size of their rope.</summary>
    private static ChecklistItem Told(ChecklistItem item, IEnumerable<GearPiece> pieces)
    {
        if (item.Code != "clips")
            return item;
        var rows = pieces
            .Select(p =>
                p.Family.Kind == GearKind.Clip ? p.Length("ropeSize")
                : p.Text("termination") == "clips" ? p.Size
                : null
            )
            .OfType<Quantities.Length>()
            .Distinct()
            .Select(rope =>
                Tags.RopeClips.Of(rope) is { } row
                    ? $"{rope} rope: {row.Least} or more, {row.Spacing} apart"
                    : $"{rope} rope: as their maker says"
            )
            .ToList();
        return rows.Count == 0
            ? item
            : item with
            {
                Text = $"{item.Text}. {string.Join("; ", rows)}; turned back and torqued as their maker says",
            };
    }

    /// <summary>The lines not yet answered.</summary>
    /// <param name="items">The lines of the arrangement.</param>
    /// <param name="done">The codes of what is so.</param>
    /// <param name="notApplying">Why a line does not apply, by code.</param>
    public static IReadOnlyList<ChecklistItem> Open(
        IReadOnlyList<ChecklistItem> items,
        IReadOnlySet<string> done,
        IReadOnlyDictionary<string, string> notApplying
    ) =>
        [
            .. items.Where(i =>
                !done.Contains(i.Code)
                && !(
                    i.MayNotApply && notApplying.GetValueOrDefault(i.Code)?.Trim() is { Length: > 0 and <= LongestWhy }
                )
            ),
        ];

    private static ChecklistItem Load(string code, string text) => new(code, ChecklistGroup.Load, text);

    private static ChecklistItem Rigging(string code, string text) => new(code, ChecklistGroup.Rigging, text);

    private static ChecklistItem Machine(string code, string text) => new(code, ChecklistGroup.Machine, text);

    private static ChecklistItem Place(string code, string text, bool mayNotApply = false) =>
        new(code, ChecklistGroup.Place, text) { MayNotApply = mayNotApply };

    private static ChecklistItem People(string code, string text, bool mayNotApply = false) =>
        new(code, ChecklistGroup.People, text) { MayNotApply = mayNotApply };
}
