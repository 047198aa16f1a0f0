using Keralith.Core.Quantities;

namespace Keralith.Core.Criteria;

/// <summary>Hooks, alone or as a part of something (ASME B30.10).</summary>
internal static class HookCriteria
{
    public static IReadOnlyList<Criterion> All { get; } =
    [
        Fault("hook.crack", "Cracks", "A crack, however fine.", "Clean the saddle and the shank; look across the light at the inside of the bend.", "The inside of the bend carries the most."),
        Fault("hook.nick-gouge", "Nicks and gouges", "A nick or gouge.", "A thumbnail finds what the eye passes over.", "A notch across the bend starts a crack."),
        Fault("hook.twist", "Bend or twist", "Any bend or twist out of the plane that can be seen.", "Sight along the hook from the tip: shank, bend and tip lie in one plane.", "A twisted hook has been loaded sideways."),
        new()
        {
            Id = "hook.twist-angle", Kind = CriterionKind.Measure, AskedIn = AskedIn.Periodic, Source = new("29 CFR 1910.179", "hooks, twist"), Optional = true, IsAngle = true,
            Title = "Angle of twist", Question = "How far the tip is turned out of the plane of the unbent hook.",
            Look = "Lay a straight edge along the shank and an angle gauge on the tip.",
            Applies = c => c.AnyBookHas("hook.twist-angle"),
        },
        new()
        {
            Id = "hook.throat", Kind = CriterionKind.Measure, AskedIn = AskedIn.Periodic, Source = Topic("throat opening"),
            Title = "Throat opening", Question = "The throat opening now.",
            Look = "Measure the narrowest gap between tip and shank, at the punch marks where the maker set them, the latch held open.",
            Why = "A hook opens before it fails: growth is the mark of overload or of loading on the tip.",
            Limit = new GrowthLimit(0.05m, Comparator.AtOrAbove) { MostInch = Length.FromInches(0.25m), MostMetric = Length.FromMillimetres(6) },
            BaselineName = "throat when new",
        },
        new()
        {
            Id = "hook.wear", Kind = CriterionKind.Measure, AskedIn = AskedIn.Periodic, Source = Topic("wear"),
            Title = "Wear of the section", Question = "The thinnest section of the hook or its load pin now.",
            Look = "Measure through the bearing point of the saddle, where the sling sits.",
            Why = "Metal gone from the saddle is strength gone.",
            Limit = new LossLimit(1, 10, Comparator.Below), BaselineName = "section when new",
        },
        new()
        {
            Id = "hook.rotate", Kind = CriterionKind.Test, AskedIn = AskedIn.Frequent, Source = Topic("swivels"),
            Title = "Swivel turns", Question = "The swivel does not turn through a full circle.", Look = "Turn it by hand, unloaded, all the way round.",
            Applies = c => c.Gear.HookSwivels,
        },
        Fault("hook.fit", "Seats in the bowl", "What it is used with does not sit in the bowl.", "Hang the usual fitting in it: it bears on the bowl, not on the tip or the latch.", "A load on the tip is many times worse than one in the bowl.") with
        {
            AskedIn = AskedIn.Periodic, OnFault = Outcome.Hold,
        },
        new()
        {
            Id = "hook.latch", Kind = CriterionKind.Test, AskedIn = AskedIn.Frequent, Source = Topic("latch"),
            Title = "Latch", Question = "The latch is missing, damaged, or does not close and touch the tip; a self-locking hook does not lock.",
            Look = "Press it open and let go: it snaps shut and lies on the tip.", Why = "A latch that no longer touches the tip tells of a hook that has opened.",
            Applies = c => c.Gear.HookLatch,
        },
        Fault("hook.attachment", "Attachment", "The swivel, nut, pin, thread or other attachment is worn, damaged or loose.", "Try each for play by hand; look for a missing cotter.", null) with { AskedIn = AskedIn.Periodic },
        Fault("hook.heat", "Heat, weld, arc", "Heat damage, a weld or an arc strike.", "Blue or straw colours, beads, small craters.", "Nothing may be welded to a hook."),
        Fault("hook.corrosion", "Corrosion", "Excessive pitting or corrosion.", "Brush it; feel for pits.", null),
    ];

    /// <summary>On an assembly: all of them.</summary>
    public static string[] OnAssembly { get; } = ["policy.latch", .. All.Select(c => c.Id)];

    /// <summary>A hook by itself: nothing yet to seat in its bowl.</summary>
    public static string[] Alone { get; } = OnAssembly.Where(id => id != "hook.fit").ToArray();

    private static Source Topic(string topic) => new("ASME B30.10", topic);

    private static Criterion Fault(string id, string title, string question, string look, string? why) =>
        Criterion.Fault(Topic("removal"), id, title, question, look, why);
}
