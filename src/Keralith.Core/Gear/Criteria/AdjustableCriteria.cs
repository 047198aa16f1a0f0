namespace Keralith.Core.Gear;

/// <summary>Adjustable hardware: eye bolts, eye nuts, swivel hoist rings, turnbuckles (ASME B30.26, chapter 26-2).</summary>
internal static class AdjustableCriteria
{
    private static readonly Chapter Book = new("ASME B30.26, adjustable hardware");
    private static readonly Chapter OnRecord = new("The figure on record; site default beside ASME B30.26");

    /// <summary>Nothing is measured of what lies in the store.</summary>
    private static readonly Found[] OfFitted = [Found.No, Found.Unsure, Found.NotAccessible];

    public static IReadOnlyList<Criterion> All { get; } =
    [
        Book.Fault(
            "adj.deformed",
            "Deformed or cracked",
            "Bent, twisted, distorted, stretched, elongated, cracked or broken.",
            "Roll it on a flat face; look at the root of the eye.",
            "A bent shank was pulled at an angle it is not made for."
        ),
        Book.Wear(
            "adj.wear",
            "Wear",
            "The thinnest point now.",
            "Measure at the bearing place of the eye, both ways across.",
            "section when new"
        ),
        Book.Fault(
            "adj.thread",
            "Thread",
            "Thread damage or wear.",
            "Run a nut along it; look for flattened crests and a drawn-out pitch."
        ),
        Book.Fault(
            "adj.nick-gouge",
            "Nicks and gouges",
            "Nicks or gouges.",
            "A thumbnail along the eye and the shank."
        ),
        Book.Fault(
            "adj.heat",
            "Heat, spatter, arc",
            "Heat damage, weld spatter or an arc strike.",
            "Blue or straw colours, beads, small craters."
        ),
        Book.Fault("adj.corrosion", "Corrosion", "Excessive pitting or corrosion.", "Brush it; feel for pits."),
        Book.Fault(
            "eyebolt.shank",
            "Shank",
            "The shank is undercut or bent, or does not run smoothly into the shoulder.",
            "Look at the root, where shank meets shoulder.",
            "A sharp root is where eye bolts break."
        ),
        Book.Fault(
                "eyebolt.shoulder",
                "Shoulder",
                "The shoulder is damaged or not flat.",
                "Set it on a flat face: it seats all round.",
                "Only a shoulder that seats allows a pull at an angle."
            )
            .If(g => g.Flag("shoulder")),
        Book.Test(
            "ring.rotate",
            "articulation",
            "Turns and pivots",
            "It does not swivel or pivot freely.",
            "Turn it all the way round and tip the bail over, by hand."
        ),
        Book.Fault(
            "turnbuckle.lock",
            "Locked, thread engaged",
            "It is not locked, or the thread is not fully engaged.",
            "Closed bodies hide the thread: look through the hole or measure."
        ),
        Book.Fault(
            "ring.seat",
            "Seat",
            "Its bushing is not in full contact, it is shimmed, or the torque is unknown.",
            "Try a feeler under the bushing; read the torque on the ring.",
            "A ring that does not seat bends its bolt."
        ),
        OnRecord
            .Measure(
                "ring.torque",
                "torque",
                "Torque",
                "The torque its bolt is tightened to now.",
                "A torque wrench in calibration, turned on until the bolt just moves.",
                "Too little and it works loose; too much and the bolt has no strength left for the load.",
                new TorqueOnRecord(0.05m)
            )
            .If(g => g.Moment("torque") is not null) with
        {
            Measures = Dimension.Moment,
            InsteadOfFigure = OfFitted,
        },
        OnRecord
            .Measure(
                "turnbuckle.engagement",
                "thread engagement",
                "Thread engaged",
                "The length of thread engaged at the worse end.",
                "From the inside of the body, or through its hole; a closed body hides the thread: mark the rod and screw it out.",
                "A thread that holds by a few turns strips.",
                new ThreadEngaged(1)
            )
            .If(g => g.Length("threadSize") is not null) with
        {
            InsteadOfFigure = [Found.Unsure, Found.NotAccessible],
        },
        OnRecord
            .Measure(
                "eyebolt.engagement",
                "thread engagement",
                "Thread engaged",
                "The length of thread in the blind hole, which is in steel.",
                "The depth of the hole's thread, or the thread less what stands out. In softer metal more is needed: answer can't tell and ask a qualified person.",
                "Under one and a half diameters the thread strips before the shank breaks.",
                new ThreadEngaged(1.5m)
            )
            .If(g => g.Length("threadSize") is not null && g.Text("hole") == "blind") with
        {
            InsteadOfFigure = OfFitted,
        },
    ];

    /// <summary>On the body and the bail of any of them.</summary>
    public static string[] OnBody { get; } =
        All.Ids().Where(id => id.StartsWith("adj.", StringComparison.Ordinal)).But("adj.thread");
}
