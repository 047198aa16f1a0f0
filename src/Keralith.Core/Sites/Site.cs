using Keralith.Core.Gear;
using Keralith.Core.Judgement;
using Keralith.Core.Schedule;

namespace Keralith.Core.Sites;

/// <summary>The site and how it works.</summary>
/// <param name="Name">Its name.</param>
/// <param name="Books">The rule books it works to.</param>
/// <param name="WatchShare">The share of an allowance from which a piece is watched.</param>
/// <param name="DueNotice">Days of notice before something is due.</param>
/// <param name="OneMayDoBoth">Whether one person may sign the clean inspection and close the hold.</param>
/// <param name="Demo">Whether the records are demo data.</param>
public sealed record Site(
    string Name,
    IReadOnlyList<RuleBook> Books,
    decimal WatchShare,
    int DueNotice,
    bool OneMayDoBoth,
    bool Demo
)
{
    /// <summary>The number of the first site of a works, and of the only one.</summary>
    public const int First = 1;

    /// <summary>Its number among the sites of the works, 1 and over.</summary>
    public int Id { get; init; } = First;

    public SitePolicies Policies { get; init; } = SitePolicies.None;

    /// <summary>The season scheme; null where the site has none.</summary>
    public SeasonScheme? Seasons { get; init; }

    /// <summary>The edition year of each book the site says it works to, by the book's id.</summary>
    public IReadOnlyDictionary<string, int> Editions { get; init; } = new Dictionary<string, int>();

    /// <summary>Limits in force: the site's own, and makers' by model, which count at every site.</summary>
    public IReadOnlyList<LimitRow> Limits { get; init; } = [];

    /// <summary>Proof tests asked here: the site's own, and makers', which count at every site.</summary>
    public IReadOnlyList<ProofAskRow> ProofAsks { get; init; } = [];

    /// <summary>What it asks beside the books, in force.</summary>
    public IReadOnlyList<QuestionRow> Questions { get; init; } = [];

    public int Version { get; init; } = 1;

    /// <summary>The unit a bare figure is taken in where nothing else says it: <c>in</c> or <c>mm</c>.</summary>
    public string Unit { get; init; } = "mm";

    /// <summary>Whether those who release, condemn or administer sign in with a second factor.</summary>
    public bool AsksSecondFactor { get; init; }

    /// <summary>Where it lies in time: its day turns at its own midnight.</summary>
    public TimeZoneInfo Zone { get; init; } = TimeZoneInfo.Utc;

    /// <summary>What the ledger names it by, whatever it is called.</summary>
    public string Subject => Id == First ? "site" : $"site {Id}";

    /// <summary>The site's day at a moment.</summary>
    public DateOnly DayOf(DateTimeOffset moment) =>
        DateOnly.FromDateTime(TimeZoneInfo.ConvertTime(moment, Zone).DateTime);

    /// <summary>Why nothing can be recorded of a day; null when it can: no piece has a record here from before it was registered.</summary>
    /// <param name="registered">When it was registered.</param>
    /// <param name="day">The day.</param>
    public Refusal? RefusalBefore(DateTimeOffset registered, DateOnly day) =>
        registered != DateTimeOffset.MinValue && day < DayOf(registered)
            ? new Refusal(
                $"It was registered on {DayOf(registered):yyyy-MM-dd}: nothing is recorded of a day before. What was done elsewhere is taken over with its report."
            )
            : null;

    /// <summary>The time zone of an IANA name, such as <c>Europe/London</c>.</summary>
    public static Checked<TimeZoneInfo> ZoneOf(string? name)
    {
        // Names of the time zone database alone: what else the machine may call a zone means nothing elsewhere.
        if (name is "UTC" || (name is { Length: <= 60 } && name.Contains('/', StringComparison.Ordinal)))
        {
            if (TimeZoneInfo.TryFindSystemTimeZoneById(name, out var zone))
                return zone;
        }

        return new Refusal("Name the time zone as the time zone database does, such as UTC or Area/City.");
    }

    /// <summary>The limits that count for a piece: the site's, and its maker's for its model.</summary>
    public IReadOnlyList<OwnLimit> LimitsFor(string? maker, string? model)
    {
        if (Limits.Count == 0)
            return [];
        var own = Limits.Where(l => l.Limit.Owner == LimitOwner.Site);
        var makers = Limits.Where(l => l.Limit.Owner == LimitOwner.Maker && IsBy(l.Maker, maker));
        return
        [
            .. own.Select(l => l.Limit),
            .. makers.GroupBy(l => l.Limit.Criterion).SelectMany(said => OfModel([.. said], model)),
        ];
    }

    /// <summary>
    /// What a maker says of a model by one criterion: that comes before what it says of everything it makes. Of a piece whose
    /// model is not on record any of it may be meant: all of it counts as a limit of the site's own does, where it is stricter,
    /// and nothing makes it laxer.
    /// </summary>
    private static IEnumerable<OwnLimit> OfModel(IReadOnlyList<LimitRow> said, string? model)
    {
        if (Spelling.SaysNothing(model) && said.Any(l => l.IsOfOneModel))
            return said.Select(l => l.Limit with { Owner = LimitOwner.Site });
        var its = said.FirstOrDefault(l => l.IsOfOneModel && Spelling.Same(l.Model, model));
        return (its ?? said.FirstOrDefault(l => !l.IsOfOneModel)) is { } meant ? [meant.Limit] : [];
    }

    /// <summary>
    /// Whether more is asked of a piece because its model is not on record: its maker has limits, proof tests or questions of
    /// some model.
    /// </summary>
    public bool AsksForModel(GearFamily family, string? maker, string? model) =>
        Spelling.SaysNothing(model)
        && (
            Limits.Any(l => l.IsOfOneModel && IsBy(l.Maker, maker))
            || ProofAsks.Any(a => !Spelling.SaysNothing(a.Model) && a.IsOf(family, maker, model))
            || QuestionsFor(family, maker, model).Any(q => !Spelling.SaysNothing(q.Model))
        );

    private static bool IsBy(string said, string? maker) => !Spelling.SaysNothing(maker) && Spelling.Same(said, maker);

    /// <summary>How many months a proof test of a piece holds good, the shortest that is asked; null: none is asked.</summary>
    public int? ProofMonthsOf(GearFamily family, string? maker, string? model) =>
        ProofAsks.Where(a => a.IsOf(family, maker, model)).Min(a => (int?)a.Months);

    /// <summary>What the site asks of a piece beside the books.</summary>
    public IReadOnlyList<OwnQuestion> QuestionsFor(GearFamily family, string? maker, string? model)
    {
        if (Questions.Count == 0)
            return [];
        return
        [
            .. Questions
                .Select(q => q.Question)
                .Where(q =>
                    q.Family == family
                    && (q.Maker.Length == 0 || Spelling.MayBeSame(q.Maker, maker))
                    && Spelling.MayMean(q.Model, model)
                ),
        ];
    }

    /// <summary>The site as it is with another limit in force, or one withdrawn.</summary>
    /// <param name="entered">A limit that can be read.</param>
    public Site With(EnteredLimit entered)
    {
        var key = LimitRow.KeyOf(entered.Owner, Id, entered.Maker, entered.Model, entered.Criterion);
        var others = Limits.Where(l =>
            LimitRow.KeyOf(l.Limit.Owner, Id, l.Maker, l.Model, l.Limit.Criterion.Id) != key
        );
        var read = OwnLimitReader.Read(entered.Owner, entered.Criterion, entered.Figure.Trim(), Books);
        return this with
        {
            Limits = read.Ok
                ?
                [
                    .. others,
                    new(
                        entered.Maker,
                        entered.Model,
                        read.Value,
                        entered.Figure,
                        entered.Reason,
                        default,
                        string.Empty
                    ),
                ]
                : [.. others],
        };
    }

    /// <summary>The site as it is with another proof test asked, or one withdrawn.</summary>
    public Site With(EnteredProofAsk entered)
    {
        var others = ProofAsks.Where(a => !a.IsOf(entered));
        return this with
        {
            ProofAsks = entered.Months is { } months
                ?
                [
                    .. others,
                    new(
                        entered.Maker,
                        entered.Model,
                        GearFamilies.Find(entered.Family),
                        months,
                        entered.Reason,
                        default,
                        string.Empty
                    ),
                ]
                : [.. others],
        };
    }
}

/// <summary>A limit in force beside the books.</summary>
/// <param name="Maker">Whose; empty for the site's own.</param>
/// <param name="Model">For which model; empty: for everything the maker makes.</param>
/// <param name="Limit">The limit.</param>
/// <param name="Figure">As it was written.</param>
public sealed record LimitRow(
    string Maker,
    string Model,
    OwnLimit Limit,
    string Figure,
    string Reason,
    DateTimeOffset SetAt,
    string SetBy
)
{
    /// <summary>Whether a maker says it of one model, not of everything it makes.</summary>
    public bool IsOfOneModel => !Spelling.SaysNothing(Model);

    /// <summary>
    /// What tells one from another: of those with the same key the one set last is in force, and none is when that withdrew it.
    /// </summary>
    /// <param name="site">The number of the site; what a maker says counts at all.</param>
    /// <param name="criterion">Its id.</param>
    public static (LimitOwner Owner, int Site, string Maker, string Model, string Criterion) KeyOf(
        LimitOwner owner,
        int site,
        string maker,
        string model,
        string criterion
    ) => (owner, owner == LimitOwner.Site ? site : 0, Spelling.Key(maker), Spelling.Key(model), criterion);
}
