namespace Keralith.Core.Gear;

/// <summary>Hand-chain and powered hoists (ASME B30.16), lever and rope-grip hoists (ASME B30.21).</summary>
internal static class Hoists
{
    private static readonly string[] Frame =
    [
        "hoist.operation",
        "hoist.frame",
        "hoist.gears",
        "hoist.warning-label",
        "hoist.overload",
    ];
    private static readonly PartTemplate TopHook = new("top-hook", "Top hook", HookCriteria.OnAssembly);
    private static readonly PartTemplate BottomHook = new("bottom-hook", "Bottom hook", HookCriteria.OnAssembly);
    private static readonly PartTemplate Brake = new("brake", "Brake", ["hoist.brake", "hoist.brake-wear"]);
    private static readonly PartTemplate LoadChain = new("load-chain", "Load chain", HoistCriteria.OnLoadChain)
    {
        Present = g => g.Medium == "chain",
    };

    private static readonly TagEntry[] Entries =
    [
        TagEntries.Maker,
        new("model", "model"),
        TagEntries.Serial,
        new("ratedLoad", "rated load, on hoist or load block"),
        new("warning", "warning label"),
    ];

    public static GearFamily HandChain { get; } =
        new()
        {
            Code = "hand-chain-hoist",
            Kind = GearKind.HungHandHoist,
            Name = "Hand-chain hoist",
            Standard = "ASME B30.16, overhead hoists",
            Group = FamilyGroup.Hoist,
            HasAttachments = true,
            Asks = ["falls", "lift", "size", "pitch", "hookLatch", "hookSwivels", "overloadLimiter", "handPullLimit"],
            Requires = ["falls"],
            Parts =
            [
                new("frame", "Frame", Frame),
                new("load-chain", "Load chain", HoistCriteria.OnLoadChain),
                new("hand-chain", "Hand chain", ["hoist.hand-effort", "hoist.hand-pull"]),
                TopHook,
                BottomHook,
                Brake,
            ],
            TagEntries = Entries,
        };

    public static GearFamily Powered { get; } =
        new()
        {
            Code = "powered-hoist",
            Kind = GearKind.PoweredHoist,
            Name = "Powered hoist",
            Standard = "ASME B30.16, overhead hoists",
            Group = FamilyGroup.Hoist,
            HasAttachments = true,
            Asks =
            [
                "power",
                "suspension",
                "medium",
                "falls",
                "lift",
                "size",
                "pitch",
                "ropeSize",
                "hookLatch",
                "hookSwivels",
                "overloadLimiter",
                "rotationResistant",
            ],
            Requires = ["power", "suspension", "medium"],
            Narrowed = new Dictionary<string, IReadOnlyList<string>> { ["medium"] = ["chain", "rope"] },
            Parts =
            [
                new("frame", "Frame", Frame),
                LoadChain,
                new("load-rope", "Load rope", [.. HoistCriteria.OnLoadRope, "hoist.drum"])
                {
                    Present = g => g.Medium == "rope",
                },
                TopHook with
                {
                    Present = g => g.Suspension == "hook",
                },
                new("top-lug", "Suspension lug", ["hoist.suspension"]) { Present = g => g.Suspension == "lug" },
                new("trolley", "Trolley", ["hoist.suspension", "hoist.drift"])
                {
                    Present = g => g.Suspension == "trolley",
                },
                BottomHook,
                Brake,
                new("limits", "Limit devices", ["hoist.limit"]),
                new("controls", "Controls and supply", ["hoist.controls", "hoist.supply", "hoist.electrical"]),
            ],
            TagEntries = [.. Entries, new("supply", "supply: voltage or air pressure")],
        };

    public static GearFamily Lever { get; } =
        new()
        {
            Code = "lever-hoist",
            Kind = GearKind.LeverHoist,
            Name = "Lever hoist",
            Standard = "ASME B30.21, lever hoists",
            Group = FamilyGroup.Hoist,
            HasAttachments = true,
            Asks =
            [
                "medium",
                "falls",
                "lift",
                "size",
                "pitch",
                "ropeSize",
                "width",
                "hookLatch",
                "hookSwivels",
                "overloadLimiter",
                "handPullLimit",
            ],
            Requires = ["medium"],
            Parts =
            [
                new("frame", "Frame", [.. Frame, "hoist.free-chain"]),
                new("handle", "Lever", ["hoist.hand-effort", "hoist.hand-pull", "hoist.handle"]),
                LoadChain,
                new("load-rope", "Load rope", HoistCriteria.OnLoadRope) { Present = g => g.Medium == "rope" },
                new("load-web", "Load web", ["hoist.reeving", .. WebCriteria.OnLoadWeb])
                {
                    Present = g => g.Medium == "web",
                },
                TopHook,
                BottomHook,
                Brake,
            ],
            TagEntries = Entries,
        };

    public static GearFamily RopeGrip { get; } =
        new()
        {
            Code = "rope-grip-hoist",
            Kind = GearKind.RopeGripHoist,
            Name = "Rope-grip hoist",
            Standard = "ASME B30.21, lever hoists",
            Group = FamilyGroup.Hoist,
            HasAttachments = true,
            Asks = ["ropeSize", "lift", "hookLatch", "hookSwivels"],
            Requires = ["ropeSize"],
            Parts =
            [
                new("frame", "Frame", ["hoist.operation", "hoist.jaws", "hoist.frame", "hoist.warning-label"]),
                new("handle", "Lever", ["hoist.handle"]),
                new("load-rope", "Load rope", [.. HoistCriteria.OnLoadRope, "hoist.rope-type"]),
                new("anchor", "Anchor", ["hoist.anchor"]),
                BottomHook,
                new("shear-pins", "Shear pins", ["hoist.shear-pin"]),
            ],
            TagEntries = Entries,
        };
}
