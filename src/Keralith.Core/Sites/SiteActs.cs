using Keralith.Core.Gear;
using Keralith.Core.Judgement;
using Keralith.Core.People;
using Keralith.Core.Schedule;

namespace Keralith.Core.Sites;

/// <summary>How a site works, as it is to be from now on.</summary>
/// <param name="Version">The version of the site that was changed.</param>
/// <param name="Books">At least one.</param>
/// <param name="Editions">The edition year of each book the site works to, where it says one.</param>
/// <param name="WatchShare">Over 0, at most 0.75: watching later than the rules' own share would be milder.</param>
/// <param name="Policies">Policies the site adds.</param>
/// <param name="Reason">Why.</param>
public sealed record SiteChange(
    int Version,
    IReadOnlyList<RuleBook> Books,
    IReadOnlyDictionary<string, int> Editions,
    decimal WatchShare,
    SitePolicies Policies,
    string Reason
)
{
    /// <summary>The number of the site that is changed.</summary>
    public int Site { get; init; } = Sites.Site.First;

    /// <summary>Whether gear without the season's mark may not be used; null: as it was.</summary>
    public bool? EnforceSeason { get; init; }

    /// <summary>The IANA name of its time zone; null: as it was.</summary>
    public string? TimeZone { get; init; }

    /// <summary>How many pieces whoever changes it was shown that it stops; null: none were shown.</summary>
    public int? Stops { get; init; }

    /// <summary>The site as it is after the change.</summary>
    public Site Of(Site site) =>
        site with
        {
            Books = Books,
            Editions = Editions,
            WatchShare = WatchShare,
            Policies = Policies,
        };
}

/// <summary>A limit of the site or a maker, as it is entered.</summary>
/// <param name="Owner">Whose kind.</param>
/// <param name="Maker">Whose; empty for the site's own.</param>
/// <param name="Model">For which model; empty: everything the maker makes.</param>
/// <param name="Criterion">The measure or count.</param>
/// <param name="Figure">As written; empty withdraws it.</param>
/// <param name="Reason">Why, or where the figure stands.</param>
public sealed record EnteredLimit(
    LimitOwner Owner,
    string Maker,
    string Model,
    string Criterion,
    string Figure,
    string Reason
)
{
    /// <summary>The number of the site it is set at; a maker's counts at every site.</summary>
    public int Site { get; init; } = Sites.Site.First;

    /// <summary>How many pieces whoever sets it was shown that it stops; null: none were shown.</summary>
    public int? Stops { get; init; }
}

/// <summary>What is decided about how a site works.</summary>
public static class SiteActs
{
    private const int LongestName = 120;
    private const int LongestFigure = 40;
    private const int LongestReason = 400;

    /// <summary>Why a site can't work so; null when it can.</summary>
    public static Refusal? RefusalToChange(SiteChange change, Signer by)
    {
        if (
            by.Without(Right.SetBooks, "Only a supervisor or administrator changes the books a site works to.") is
            { } forbidden
        )
            return forbidden;
        if (change.Books.Count == 0)
            return new Refusal("A site works to one book at least.");
        if (change.WatchShare is <= 0 or > Judge.DefaultWatchShare)
            return new Refusal(
                $"The watch share lies above 0 and at most at {Judge.DefaultWatchShare:0.##}: watching later would be milder than the rules."
            );
        if (change.Policies.CriticalShare is <= 0 or > SitePolicies.UsualCriticalShare)
            return new Refusal(
                $"A lift is critical over a share of the crane above 0 and at most {SitePolicies.UsualCriticalShare:0.##}: a site is only ever stricter."
            );
        if (change.Editions.Values.Any(y => y is < 1950 or > 2100))
            return new Refusal("An edition is a year, such as 2021.");
        if (change.TimeZone is { } zone && Site.ZoneOf(zone) is { Ok: false } unknown)
            return unknown.Refusal;
        return string.IsNullOrWhiteSpace(change.Reason) ? new Refusal("Say why: it stands in the ledger.") : null;
    }

    /// <summary>Reads a limit as it is to be kept.</summary>
    /// <param name="books">The books the site works to.</param>
    public static Checked<EnteredLimit> SetLimit(EnteredLimit given, IReadOnlyList<RuleBook> books, Signer by)
    {
        var entry = given with
        {
            Maker = given.Maker.Trim(),
            Model = given.Model.Trim(),
            Figure = given.Figure.Trim(),
            Reason = given.Reason.Trim(),
        };
        if (by.Without(Right.SetLimits, "Only a qualified person sets limits beside the books.") is { } forbidden)
            return forbidden;
        if (entry.Reason.Length == 0)
            return new Refusal("Say why, or where the figure stands: it goes into the ledger.");
        if ((entry.Owner == LimitOwner.Maker) == Spelling.SaysNothing(entry.Maker))
            return new Refusal(
                entry.Owner == LimitOwner.Maker ? "Name the maker." : "A site's own limit names no maker."
            );
        if (
            entry.Maker.Length > LongestName
            || entry.Model.Length > LongestName
            || entry.Figure.Length > LongestFigure
            || entry.Reason.Length > LongestReason
        )
            return new Refusal("That is too long to be one.");
        if (Catalogue.Find(entry.Criterion) is null)
            return new Refusal("Choose a measure or a count.");
        if (entry.Figure.Length == 0)
            return entry;
        var limit = OwnLimitReader.Read(entry.Owner, entry.Criterion, entry.Figure, books);
        return limit.Ok ? entry : limit.Refusal!;
    }

    /// <summary>What a change of the site's rules is called where it holds gear.</summary>
    public static string Said(SiteChange change) =>
        $"Rules changed ({string.Join(", ", change.Books.Select(b => b.Name))}; {change.Reason.Trim()})";

    /// <summary>What a change of a limit is called where it holds gear.</summary>
    public static string Said(EnteredLimit limit) =>
        $"Limit of {(limit.Maker.Length > 0 ? limit.Maker : "the site")} on {Catalogue.Get(limit.Criterion).Title}, "
        + $"{(limit.Figure.Length > 0 ? limit.Figure : "withdrawn")} ({limit.Reason})";

    /// <summary>Why a season scheme can't be set; null when it can.</summary>
    public static Refusal? RefusalOfSeasons(string? reason, Signer by) =>
        by.Without(Right.SetSeasons)
        ?? (string.IsNullOrWhiteSpace(reason) ? new Refusal("Say why: it stands in the ledger.") : null);

    /// <summary>The season scheme a piece may be painted by; a refusal where the site has none.</summary>
    public static Checked<SeasonScheme> SeasonsOf(Site site) =>
        site.Seasons is { } scheme ? scheme : new Refusal("This site has no season colours.");
}
