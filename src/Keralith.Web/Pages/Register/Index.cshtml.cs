using Keralith.Core.Gear;
using Keralith.Core.Sites;
using Keralith.Data;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.WebUtilities;

namespace Keralith.Web.Pages.Register;

/// <summary>A column of the register's list.</summary>
/// <param name="Sort">The order its heading puts the list in; null: none.</param>
public sealed record RegisterColumn(string Code, string Name, string? Sort = null);

/// <summary>The register: found by fragments or nearest spelling, narrowed by facets with counts.</summary>
public sealed class IndexModel(Here here, RegisterSearch search, ViewStore views) : YardPage(here)
{
    private const int PerPage = 50;
    private const int LongestValue = 120;

    public static IReadOnlyList<(string Code, string Name)> Sorts { get; } =
    [
        ("place", "by store and peg"),
        ("mark", "by mark"),
        ("due", "by periodic due date"),
        ("rated", "strongest first"),
        ("new", "newest first"),
    ];

    /// <summary>The columns a list may show, in their order, and the order each heading puts it in; null: none.</summary>
    public static IReadOnlyList<RegisterColumn> AllColumns { get; } =
    [
        new("mark", "Mark", "mark"),
        new("what", "What"),
        new("made", "Serial, maker"),
        new("model", "Model"),
        new("batch", "Batch"),
        new("rated", "Rated load", "rated"),
        new("where", "Where", "place"),
        new("holder", "Out with"),
        new("state", "State"),
        new("use", "May be used?"),
        new("due", "Periodic", "due"),
        new("frequent", "Frequent check"),
        new("service", "Service class"),
        new("since", "In service since"),
    ];

    private const string Usual = "mark what made rated where use due";
    private const string ColumnsCookie = "register-columns";

    private IReadOnlyList<RegisterColumn>? _columns;

    /// <summary>The columns this person chose on this device; the usual ones where nobody chose.</summary>
    public IReadOnlyList<RegisterColumn> Columns =>
        _columns ??= Chose((Request.Cookies[ColumnsCookie] ?? Usual).Split(' '));

    private static IReadOnlyList<RegisterColumn> Chose(string[] codes) =>
        [.. AllColumns.Where(c => c.Code == "mark" || codes.Contains(c.Code))];

    /// <summary>Keeps which columns are shown, on this device.</summary>
    public IActionResult OnPostColumns(string[] column, string? onward)
    {
        Response.Cookies.Append(
            ColumnsCookie,
            string.Join(' ', AllColumns.Select(c => c.Code).Where(c => column.Contains(c))),
            new()
            {
                MaxAge = TimeSpan.FromDays(365),
                HttpOnly = true,
                SameSite = SameSiteMode.Lax,
                Secure = Request.IsHttps,
            }
        );
        return LocalRedirect(Url.IsLocalUrl(onward) ? onward : "/register");
    }

    /// <summary>Whether something narrows the list down.</summary>
    public bool IsNarrowed => Q is not null || Chosen.Count > 0;

    public string? Q { get; private set; }

    public string Sort { get; private set; } = Sorts[0].Code;

    public int PageNumber { get; private set; } = 1;

    public SiteSet Sites { get; private set; } = null!;

    public RegisterPage Found { get; private set; } = null!;

    /// <summary>The value chosen in each facet.</summary>
    public IReadOnlyDictionary<string, string> Chosen { get; private set; } = new Dictionary<string, string>();

    /// <summary>The searches this person keeps.</summary>
    public IReadOnlyList<SavedView> Views { get; private set; } = [];

    /// <summary>The number of the first piece shown among all that match.</summary>
    public int First => ((PageNumber - 1) * PerPage) + 1;

    public bool HasMore => Found.Total > PageNumber * PerPage;

    /// <param name="page">Which fifty are shown, from 1. From the query alone: the route has a value of that name too, the page it leads to.</param>
    public Task OnGetAsync(string? q, string? sort, [FromQuery] int? page) => LoadAsync(q, sort, page);

    public async Task<IActionResult> OnPostKeepAsync(string? name, string? q, string? sort)
    {
        await LoadAsync(q, sort, 1);
        return await AfterAsync(
            await views.KeepAsync(name ?? string.Empty, With("page", null), Here.Stamp(Submission), Cancel),
            With("page", null),
            () => Task.CompletedTask
        );
    }

    public async Task<IActionResult> OnPostDropAsync(Guid view)
    {
        await views.DropAsync(view, Here.Actor.Id, Cancel);
        return Redirect("/register");
    }

    private async Task LoadAsync(string? q, string? sort, int? page)
    {
        Q = string.IsNullOrWhiteSpace(q) ? null : FreeText.Start(q, FreeText.MostAsked);
        Sort = Sorts.Any(s => s.Code == sort) ? sort! : Sorts[0].Code;
        PageNumber = Math.Clamp(page ?? 1, 1, 10_000);
        Chosen = RegisterSearch
            .Facets.Where(f => Request.Query[f].ToString() is { Length: > 0 and <= LongestValue })
            .ToDictionary(f => f, f => Request.Query[f].ToString());
        var query = new RegisterQuery
        {
            Today = Here.Today,
            Text = Q,
            Chosen = Chosen,
            Sort = Sort,
            Most = PerPage,
            Skip = (PageNumber - 1) * PerPage,
        };
        var trip = new Trip();
        var (mine, ahead) = (ViewStore.Of(trip, Here.Actor.Id), search.Ask(trip, query));
        await Here.MakeAsync(trip, Cancel, hasForm: true);
        Views = mine.Value;
        Sites = await Here.SitesAsync(Cancel);
        Found = await search.FindAsync(query with { Today = Here.Today, Notice = Sites.Home.DueNotice }, Cancel, ahead);
    }

    /// <summary>
    /// The address of the same search with one thing changed; a null value takes it away. Turning a facet begins at the
    /// first page.
    /// </summary>
    public string With(string name, string? value)
    {
        var query = new Dictionary<string, string?>(Chosen.ToDictionary(c => c.Key, string? (c) => c.Value))
        {
            ["q"] = Q,
            ["sort"] = Sort == Sorts[0].Code ? null : Sort,
        };
        query[name] = value;
        return QueryHelpers.AddQueryString("/register", query.Where(p => !string.IsNullOrEmpty(p.Value)));
    }

    /// <summary>A facet's name as people read it.</summary>
    public static string Name(string facet) =>
        facet switch
        {
            "family" => "Family",
            "store" => "Store",
            "state" => "State",
            "verdict" => "Last verdict",
            "service" => "Service class",
            "maker" => "Maker",
            "due" => "Periodic inspection",
            "colour" => "Capacity colour",
            "rated" => "Rated load",
            "season" => "Season's mark",
            _ => throw new ArgumentOutOfRangeException(nameof(facet), facet, null),
        };

    /// <summary>A facet's value as people read it.</summary>
    public string Name(string facet, string value) =>
        facet switch
        {
            "family" => GearFamilies.Find(value)?.Name ?? value,
            "season" => DateOnly.TryParseExact(value, "yyyy-MM-dd", out var day)
            && Sites.All.Select(s => s.Seasons?.On(day)).OfType<Core.Schedule.Season>().DistinctBy(s => s.Mark).ToList()
                is [var season]
                ? $"{season.Mark.Letter}, {season.Mark.Colour}, from {value}"
                : value,
            _ => value,
        };
}
