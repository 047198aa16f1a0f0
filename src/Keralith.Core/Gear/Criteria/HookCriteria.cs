using Keralith.Core.Quantities;

namespace Keralith.Core.Gear;

/// <summary>Hooks, alone or as a part of something (ASME B30.10).</summary>
internal static class HookCriteria
{
    private static readonly Chapter Book = new("ASME B30.10");

    public static IReadOnlyList<Criterion> All { get; } =
    [
        Book.Fault(
            "hook.crack",
            "Cracks",
            "A crack, however fine.",
            "Clean the saddle and the shank; look across the light at the inside of the bend.",
            "The inside of the bend carries the most."
        ),
        Book.Fault(
            "hook.nick-gouge",
            "Nicks and gouges",
            "A nick or gouge.",
            "A thumbnail finds what the eye passes over.",
            "A notch across the bend starts a crack."
        ),
        Book.Fault(
            "hook.twist",
            "Bend or twist",
            "Any bend or twist out of the plane that can be seen.",
            "Sight along the hook from the tip: shank, bend and tip lie in one plane.",
            "A twisted hook has been loaded sideways."
        ),
        Book.Measure(
            "hook.twist-angle",
            "twist",
            "Angle of twist",
            "How far the tip is turned out of the plane of the unbent hook.",
            "Lay a straight edge along the shank and an angle gauge on the tip.",
            null,
            null
        ) with
        {
            Source = new("29 CFR 1910.179", "hooks, twist"),
            Optional = true,
            Measures = Dimension.Angle,
            Applies = c => c.AnyBookHas("hook.twist-angle"),
        },
        Book.Measure(
            "hook.throat",
            "throat opening",
            "Throat opening",
            "The throat opening now.",
            "Measure the narrowest gap between tip and shank, at the punch marks where the maker set them, the latch held open.",
            "A hook opens before it fails: growth is the mark of overload or of loading on the tip.",
            new GrowthLimit(0.05m, Comparator.AtOrAbove)
            {
                MostInch = Length.FromInches(0.25m),
                MostMetric = Length.FromMillimetres(6),
            },
            "throat when new"
        ) with
        {
            MakerMayBeLaxer = true,
            MakersMostShare = 0.15m,
            LikelyOfSize = (1, 8),
            FileName = "throat",
            Taught =
                "5, 10, 15 and even 25 % of growth are taught. On a throat of 1-3/8 in, 5 % is 0.069 in and 15 % is 0.206 in: agree on the book before the caliper comes out.",
        },
        Book.Measure(
            "hook.wear",
            "wear",
            "Wear of the section",
            "The thinnest section of the hook or its load pin now.",
            "Measure through the bearing point of the saddle, where the sling sits.",
            "Metal gone from the saddle is strength gone.",
            new LossLimit(1, 10, Comparator.Below),
            "section when new"
        ) with
        {
            MakerMayBeLaxer = true,
            LikelyOfSize = (0.5m, 6),
            FileName = "section",
        },
        Book.Test(
                "hook.rotate",
                "swivels",
                "Swivel turns",
                "The swivel does not turn through a full circle.",
                "Turn it by hand, unloaded, all the way round."
            )
            .If(g => g.HookSwivels),
        Book.Fault(
                "hook.fit",
                "Seats in the bowl",
                "What it is used with does not sit in the bowl.",
                "Hang the usual fitting in it: it bears on the bowl, not on the tip or the latch.",
                "A load on the tip is many times worse than one in the bowl."
            )
            .Periodic()
            .Holding(),
        Book.Test(
                "hook.latch",
                "latch",
                "Latch",
                "The latch is missing, damaged, or does not close and touch the tip; a self-locking hook does not lock.",
                "Press it open and let go: it snaps shut and lies on the tip.",
                "A latch that no longer touches the tip tells of a hook that has opened."
            )
            .If(g => g.HookLatch),
        Book.Fault(
                "hook.attachment",
                "Attachment",
                "The swivel, nut, pin, thread or other attachment is worn, damaged or loose.",
                "Try each for play by hand; look for a missing cotter."
            )
            .Periodic(),
        Book.Fault(
            "hook.heat",
            "Heat, weld, arc",
            "Heat damage, a weld or an arc strike.",
            "Blue or straw colours, beads, small craters.",
            "Nothing may be welded to a hook."
        ),
        Book.Fault("hook.corrosion", "Corrosion", "Excessive pitting or corrosion.", "Brush it; feel for pits."),
    ];

    /// <summary>On an assembly: all of them.</summary>
    public static string[] OnAssembly { get; } = ["policy.latch", .. All.Ids()];

    /// <summary>A hook by itself: nothing yet to seat in its bowl.</summary>
    public static string[] Alone { get; } = OnAssembly.But("hook.fit");
}
