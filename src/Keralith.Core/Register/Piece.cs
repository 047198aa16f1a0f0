using Keralith.Core.Custody;
using Keralith.Core.Gear;
using Keralith.Core.Judgement;
using Keralith.Core.Quantities;
using Keralith.Core.Schedule;
using Keralith.Core.Sites;
using Keralith.Core.Tags;

namespace Keralith.Core.Register;

/// <summary>A piece as it stands now.</summary>
public sealed record Piece
{
    public required Guid Id { get; init; }

    public required string Mark { get; init; }

    public required GearPiece Gear { get; init; }

    public string? Serial { get; init; }

    public string? Maker { get; init; }

    public string? Model { get; init; }

    public Mass? RatedLoad { get; init; }

    public decimal? DesignFactor { get; init; }

    public string? RatedFor { get; init; }

    public required IReadOnlyList<string> TagEntries { get; init; }

    /// <summary>What it meets where it works.</summary>
    public Surroundings Surroundings { get; init; } = Surroundings.Ordinary;

    public required ServiceClass ServiceClass { get; init; }

    public DateOnly? InServiceSince { get; init; }

    public required int StoreId { get; init; }

    /// <summary>The number of the site its store belongs to: whose rules it is judged by.</summary>
    public int SiteId { get; init; } = Site.First;

    public required string Store { get; init; }

    public required string Peg { get; init; }

    /// <summary>When it was registered; nothing is recorded of a day before.</summary>
    public DateTimeOffset RegisteredAt { get; init; } = DateTimeOffset.MinValue;

    /// <summary>
    /// Why its record can't be read in full; null: it can. What can be read is shown, it may not be used, and holding it
    /// always works.
    /// </summary>
    public string? Unreadable { get; init; }

    /// <summary>Why its records do not verify; null: they do, as far as they were looked at.</summary>
    public string? Distrust { get; init; }

    /// <summary>Of a kit: those of its members that are registered, as they stand.</summary>
    public IReadOnlyList<MemberStanding> Members { get; init; } = [];

    /// <summary>Where it hangs.</summary>
    public HangingPlace Place => new(Store, Peg);

    public required PieceState State { get; init; }

    /// <summary>The last signed verdict; null before the first.</summary>
    public VerdictKind? Verdict { get; init; }

    /// <summary>Open holds in words, oldest first.</summary>
    public required IReadOnlyList<string> OpenHolds { get; init; }

    public DateOnly? PeriodicDue { get; init; }

    public DateOnly? FrequentDue { get; init; }

    /// <summary>How long its proof test holds good.</summary>
    public ProofDue Proof { get; init; } = ProofDue.None;

    public required int Version { get; init; }

    /// <summary>Whether anybody has read its marking.</summary>
    public bool TagRead { get; init; } = true;

    public string? Batch { get; init; }

    public DateOnly? CalibrationDue { get; init; }

    /// <summary>How many pieces hang under this mark; null for a single piece.</summary>
    public int? LotCount { get; init; }

    /// <summary>The first day of the season whose mark it carries; null: none.</summary>
    public DateOnly? SeasonFor { get; init; }

    /// <summary>The last report it was taken over with; null where it was not.</summary>
    public CarriedOver? CarriedOver { get; init; }

    /// <summary>Whether it is in service on that report alone: accepted, and not yet fully inspected here.</summary>
    public bool IsCarried { get; init; }

    /// <summary>The last day it was inspected; before its first inspection the day it was registered.</summary>
    public DateOnly? Touched { get; init; }

    /// <summary>Why it is kept as evidence; null: it is not.</summary>
    public string? Locked { get; init; }

    /// <summary>In whose hands it is; null: in store.</summary>
    public IssuedTo? Issued { get; init; }

    /// <summary>What is kept beside what lists and rules look for in the database.</summary>
    public PieceDetails Details { get; init; } = PieceDetails.None;

    /// <summary>The gear as it is judged at a site: the site's policies stated with it.</summary>
    public GearPiece GearAt(Site site) => site.Policies.Applied(Gear, Model);

    /// <summary>What its marking comes to at a site, asked of Core.</summary>
    public TagVerdict TagAt(Site site) =>
        TagJudgement.Of(
            new(Gear, TagEntries, RatedLoad, DesignFactor)
            {
                IsRead = TagRead,
                Words = Details.Tag,
                Legibility = Details.Tag.Legibility,
                RatingPaper = Details.RatingPaper,
            },
            Surroundings,
            site.Books
        );

    /// <summary>Everything entered of it, with its newest figures when new.</summary>
    public PieceEntry Entry(IReadOnlyDictionary<BaselineKey, BaselineFigure> baselines) =>
        new()
        {
            Mark = Custody.Mark.Read(Mark).Value,
            Gear = Gear,
            Serial = Serial,
            Maker = Maker,
            Model = Model,
            Batch = Batch,
            RatedLoad = RatedLoad,
            DesignFactor = DesignFactor,
            RatedFor = RatedFor,
            TagEntries = TagEntries,
            TagRead = TagRead,
            Details = Details,
            Surroundings = Surroundings,
            ServiceClass = ServiceClass,
            InServiceSince = InServiceSince,
            CalibrationDue = CalibrationDue,
            LotCount = LotCount,
            CarriedOver = CarriedOver,
            Store = StoreId,
            Peg = Peg,
            Baselines = baselines,
        };

    /// <summary>The last day it may be used without another inspection, asked of Core.</summary>
    public DateOnly? UsableUntil => new DueDates(PeriodicDue, FrequentDue).UsableUntil;

    private bool FrequentByCalendar => Intervals.Frequent(Gear.Family, ServiceClass) is not EachUse;

    /// <summary>May it be used now, by the rules and on the day of its own site.</summary>
    public Usability UseAt(DateTimeOffset now, SiteSet sites)
    {
        var site = sites.Of(SiteId);
        return UseOn(site.DayOf(now), site);
    }

    /// <summary>May it be used, asked of Core.</summary>
    public Usability UseOn(DateOnly today, Site site) =>
        Usability.On(
            new UseFacts
            {
                State = State,
                OpenHolds = OpenHolds,
                PeriodicDue = PeriodicDue,
                FrequentDue = FrequentDue,
                FrequentByCalendar = FrequentByCalendar,
                RatedLoadKnown = RatedLoad is not null,
                AgainstMarking = Unreadable is null ? TagAt(site).AgainstUse.ToList() : [],
                AgainstPolicy = Unreadable is null ? site.Policies.Against(Gear).ToList() : [],
                LacksSeasonColour = site.Seasons is { Enforced: true } scheme && !scheme.Counts(SeasonFor, today),
                CalibrationDue = CalibrationDue,
                DiscardOn = Details.DiscardOn,
                ProofTestDue = Proof.Until,
                LacksProofTest = Proof.Lacks,
                Locked = Locked,
                IsEmptyLot = LotCount == 0,
                ForLifting = !Gear.Family.NotForLifting,
                Unreadable = Unreadable,
                Distrust = Distrust,
                AgainstMembers =
                    Gear.Family.Kind == GearKind.Kit ? KitUse.Against(Details.Members, Members, today) : [],
            },
            today
        );
}
