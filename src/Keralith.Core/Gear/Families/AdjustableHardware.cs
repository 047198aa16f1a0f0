namespace Keralith.Core.Gear;

/// <summary>Eye bolts, eye nuts, swivel hoist rings, turnbuckles (ASME B30.26, chapter 26-2).</summary>
internal static class AdjustableHardware
{
    private static readonly TagEntry[] Entries =
    [
        TagEntries.Maker,
        new("ratedLoad", "size or rated load"),
        TagEntries.GradeIfAlloy,
    ];

    public static GearFamily EyeBolt { get; } =
        Of(
                GearKind.EyeBolt,
                "eye-bolt",
                "Eye bolt",
                ["size", "shoulder", "threadLength", "threadSize", "hole", "material", "grade"],
                ["size", "shoulder"],
                "eyebolt.shank",
                "eyebolt.shoulder"
            )
            .OnThread("eyebolt.engagement");

    public static GearFamily EyeNut { get; } =
        Of(GearKind.EyeNut, "eye-nut", "Eye nut", ["size", "material", "grade"], ["size"]);

    public static GearFamily Turnbuckle { get; } =
        Of(
                GearKind.Turnbuckle,
                "turnbuckle",
                "Turnbuckle",
                ["size", "threadSize", "reach", "material", "grade"],
                ["size"],
                "turnbuckle.lock"
            )
            .OnThread("turnbuckle.engagement");

    public static GearFamily SwivelHoistRing { get; } =
        Of(
            GearKind.HoistRing,
            "swivel-hoist-ring",
            "Swivel hoist ring",
            ["size", "threadLength", "torque", "material", "grade"],
            ["size"],
            "ring.rotate",
            "ring.seat"
        ) with
        {
            Parts =
            [
                new("body", "Body", [.. AdjustableCriteria.OnBody, "ring.rotate", "ring.seat", "ring.torque"]),
                new("thread", "Thread", ["adj.thread"]),
                new("bail", "Bail", AdjustableCriteria.OnBody),
            ],
            TagEntries = [TagEntries.Maker, TagEntries.RatedLoad, new("torque", "torque"), TagEntries.GradeIfAlloy],
        };

    /// <summary>The family with one criterion more on its thread.</summary>
    private static GearFamily OnThread(this GearFamily family, string criterion) =>
        family with
        {
            Parts =
            [
                .. family.Parts.Select(p => p.Path == "thread" ? p with { Criteria = [.. p.Criteria, criterion] } : p),
            ],
        };

    private static GearFamily Of(
        GearKind kind,
        string code,
        string name,
        string[] asks,
        string[] requires,
        params string[] own
    ) =>
        new()
        {
            Code = code,
            Kind = kind,
            Name = name,
            Standard = "ASME B30.26, adjustable hardware",
            Group = FamilyGroup.Hardware,
            Asks = asks,
            Requires = requires,
            Parts =
            [
                new("body", "Body", [.. AdjustableCriteria.OnBody, .. own]),
                new("thread", "Thread", ["adj.thread"]),
            ],
            TagEntries = Entries,
        };
}
