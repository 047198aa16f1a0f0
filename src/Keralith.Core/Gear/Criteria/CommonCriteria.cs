namespace Keralith.Core.Gear;

/// <summary>What is asked of every family: identity, repairs, doubt, site policies.</summary>
internal static class CommonCriteria
{
    private static readonly Source Marking = new("ASME B30", "identification");

    public static string[] OnFirstPart { get; } = ["id.marking", "id.tag-complete", "id.overhead", "id.certificate"];

    public static string[] OnWhole { get; } = ["any.unauthorised-repair", "any.doubt", "any.attachment-rating"];

    public static IReadOnlyList<Criterion> All { get; } =
    [
        new()
        {
            Id = "id.marking",
            Kind = CriterionKind.See,
            AskedIn = AskedIn.Frequent,
            Source = Marking,
            Title = "Marking",
            Question = "The tag or marking is missing, or can't be read.",
            Look = "Wipe it. Every entry must be readable with the naked eye at arm's length.",
            Why = "Without a rated load that can be read there is nothing to work to.",
        },
        new()
        {
            Id = "id.tag-complete",
            Kind = CriterionKind.See,
            AskedIn = AskedIn.Periodic,
            Source = Marking,
            OnFault = Outcome.Hold,
            Title = "Marking complete",
            Question = "An entry the marking must carry is missing.",
            Look = "Read the tag aloud against the list beside the drawing.",
            Why = "A tag that names no hitch or angle invites the wrong figure.",
        },
        new()
        {
            Id = "any.unauthorised-repair",
            Kind = CriterionKind.See,
            AskedIn = AskedIn.Frequent,
            Source = new("ASME B30", "repairs and modifications"),
            Title = "Unauthorised repair",
            Question = "A weld, field repair, home-made or substituted part, drilling, grinding or machining.",
            Look =
                "Look for bright ground patches, weld beads the maker did not leave, parts that do not match their neighbours.",
            Why = "Heat and grinding change the metal; nobody has tested what is there now.",
        },
        new()
        {
            Id = "any.doubt",
            Kind = CriterionKind.See,
            AskedIn = AskedIn.Frequent,
            Source = new("ASME B30", "other conditions that give doubt"),
            OnFault = Outcome.Hold,
            Title = "Anything else",
            Question = "Anything else gives doubt about it.",
            Look = "If you would rather not stand near it under load, say so here.",
            Why = "A doubt costs a second look; the list can't name everything.",
        },
        new()
        {
            Id = "id.overhead",
            Kind = CriterionKind.See,
            AskedIn = AskedIn.Initial,
            Source = Marking,
            OnFault = Outcome.Hold,
            Title = "Made for lifting",
            Question = "The maker does not state it for overhead lifting.",
            Look = "Read the marking, the certificate or the catalogue page.",
            Why = "General cable, binders and tie-downs look alike and are not made for it.",
        },
        new()
        {
            Id = "id.certificate",
            Kind = CriterionKind.See,
            AskedIn = AskedIn.Initial,
            Source = new("ASME B30", "certificates and proof tests"),
            OnFault = Outcome.Hold,
            Title = "Certificate",
            Question = "The maker's certificate is missing.",
            Look = "It names this piece or its batch, the proof load and the date.",
            Applies = c => c.Gear.Family.CertificateDue,
        },
        new()
        {
            Id = "any.attachment-rating",
            Kind = CriterionKind.See,
            AskedIn = AskedIn.Periodic,
            Source = new("ASME B30.9", "fittings and attachments"),
            OnFault = Outcome.Hold,
            Title = "Attachments strong enough",
            Question = "An attachment is rated below the piece it serves.",
            Look = "Read the rated load on each ring, hook and link and compare with the tag.",
            Why = "The weakest piece governs.",
            Applies = c => c.Gear.Family.HasAttachments,
        },
        new()
        {
            Id = "policy.latch",
            Kind = CriterionKind.See,
            AskedIn = AskedIn.Frequent,
            Source = new("Site policy", "latches"),
            OnFault = Outcome.Hold,
            Title = "Latch policy",
            Question = "A hook has no latch, and this site wants one on every hook.",
            Look = "Every hook, foundry hooks exempt by name.",
            Applies = c => c.Gear.LatchPolicy,
        },
        new()
        {
            Id = "policy.thimble",
            Kind = CriterionKind.See,
            AskedIn = AskedIn.Frequent,
            Source = new("Site policy", "thimbles"),
            OnFault = Outcome.Hold,
            Title = "Thimble policy",
            Question = "An eye has no thimble, and this site wants one in every eye.",
            Look = "Both eyes of every leg.",
            Applies = c => c.Gear.Flag("thimblePolicy"),
        },
    ];
}
