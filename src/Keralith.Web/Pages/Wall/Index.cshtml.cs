using Keralith.Core.Custody;
using Keralith.Core.Gear;
using Keralith.Core.Judgement;
using Keralith.Core.People;
using Keralith.Core.Register;
using Keralith.Core.Schedule;
using Keralith.Core.Sites;
using Keralith.Data;
using Keralith.Web.Showing;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.WebUtilities;

namespace Keralith.Web.Pages.Wall;

/// <summary>A piece as it hangs on the wall.</summary>
/// <param name="Row">How it stands.</param>
/// <param name="Kind">How it stands: <c>fit</c>, <c>watch</c>, <c>hold</c>, <c>remove</c>, <c>stopped</c>, <c>new</c>,
/// <c>missing</c>, <c>out</c>.</param>
/// <param name="Shown">Whether the filter lets it stand out.</param>
public sealed record Hanging(WallRow Row, string Kind, bool Shown);

/// <summary>A store drawn as its rack wall, and what wants doing today.</summary>
public sealed class WallModel(Here here, WallStore wall, PieceStore pieces) : YardPage(here)
{
    /// <summary>Most pieces drawn close at once; a fuller store is seen from afar first, bay by bay.</summary>
    /// <summary>How a piece stands on the wall, with its words.</summary>
    public static IReadOnlyList<(string Kind, string Word)> Kinds { get; } =
    [
        ("fit", "fit"),
        ("watch", "watch"),
        ("hold", "hold"),
        ("remove", "remove"),
        ("stopped", "not to be used"),
        ("new", "new"),
        ("missing", "missing"),
        ("out", "handed out"),
    ];

    public const int MostClose = 120;

    public static IReadOnlyList<(string Code, string Name)> Filters { get; } =
    [
        ("usable", "what may be used"),
        ("overdue", "overdue"),
        ("soon", "due soon"),
        ("held", "on hold"),
        ("new", "new"),
        ("season", "without the season's mark"),
        ("missing", "missing"),
        ("out", "handed out"),
    ];

    public IReadOnlyList<Store> Stores { get; private set; } = [];

    public Store? Store { get; private set; }

    public Site Site { get; private set; } = null!;

    public int Notice { get; private set; }

    public string? Only { get; private set; }

    public string? Family { get; private set; }

    public string? Q { get; private set; }

    /// <summary>The families in this store.</summary>
    public IReadOnlyList<GearFamily> Families { get; private set; } = [];

    public IReadOnlyList<Bay> Bays { get; private set; } = [];

    /// <summary>The bay seen close; null when the whole store is.</summary>
    public Bay? Close { get; private set; }

    /// <summary>What is drawn close, as it hangs and as it is written of.</summary>
    public IReadOnlyList<(Hanging Hangs, Piece Piece)> Shown { get; private set; } = [];

    public int Count { get; private set; }

    public int CountShown { get; private set; }

    public bool Filtered => Only is not null || Family is not null || Q is not null;

    public IReadOnlyList<WallRow> Overdue { get; private set; } = [];

    public IReadOnlyList<WallRow> Soon { get; private set; } = [];

    public int Held { get; private set; }

    public IReadOnlyList<WallRow> Fresh { get; private set; } = [];

    public IReadOnlyList<(WallRow Piece, string Why)> Next { get; private set; } = [];

    /// <summary>What a person new to their role does first.</summary>
    public IReadOnlyList<(FirstStep Step, bool Done)> Steps { get; private set; } = [];

    public async Task<IActionResult> OnGetAsync(int? store, string? bay, string? only, string? family, string? q)
    {
        var trip = new Trip();
        var stores = SiteStore.Stores(trip);
        var did = OwnWaysStore.Did(trip, Here.Actor, FirstSteps.Kinds(Here.Actor.Roles));
        await Here.MakeAsync(trip, Cancel);
        Stores = stores.Value;
        Steps = did.Value is { } known ? FirstSteps.Of(Here.Actor.Roles, known) : [];
        Store = store is null ? Stores.FirstOrDefault() : Stores.FirstOrDefault(s => s.Id == store);
        if (store is not null && Store is null)
            return NotFound();
        if (Store is null)
            return Page();
        Site = await Here.SiteAsync(Store.Site, Cancel);
        Notice = Site.DueNotice;
        Only = Filters.Any(f => f.Code == only) ? only : null;
        Family = GearFamilies.Find(family ?? string.Empty)?.Code;
        Q = string.IsNullOrWhiteSpace(q) ? null : FreeText.Start(q.Trim(), FreeText.MostAsked);
        var rows = await wall.HangingAsync(Store.Id, Site, Here.Today, Cancel);
        Families = rows.Select(p => p.Family).Distinct().OrderBy(f => f.Name).ToList();
        var hanging = rows.ConvertAll(Hang);
        (Count, CountShown) = (hanging.Count, hanging.Count(h => h.Shown));
        Bays = hanging
            .GroupBy(h => Bay.Of(h.Row.Peg))
            .Select(g => new Bay(g.Key, g.ToList()))
            .OrderBy(b => b.Name == Bay.None)
            .ThenBy(b => b.Name.Length)
            .ThenBy(b => b.Name, StringComparer.Ordinal)
            .ToList();

        // From afar the bay asked for is opened, or the first with something in it the filter shows.
        if (hanging.Count > MostClose)
            Close = Bays.FirstOrDefault(b => b.Name == bay)
                ?? Bays.FirstOrDefault(b => b.Pieces.Any(p => p.Shown))
                ?? Bays[0];
        var close = (Close?.Pieces ?? hanging).Take(MostClose * 4).ToList();
        var written = (await pieces.OfMarksAsync(close.ConvertAll(h => h.Row.Mark), Cancel)).ToDictionary(p => p.Mark);
        Shown = close.Where(h => written.ContainsKey(h.Row.Mark)).Select(h => (h, written[h.Row.Mark])).ToList();
        Today(rows);
        return Page();
    }

    /// <summary>The address of this wall with one thing changed.</summary>
    public string With(string name, string? value)
    {
        var query = new Dictionary<string, string?>
        {
            ["store"] = Store?.Id.ToString(),
            ["bay"] = Close?.Name,
            ["only"] = Only,
            ["family"] = Family,
            ["q"] = Q,
        };
        query[name] = value;
        return QueryHelpers.AddQueryString("/", query.Where(p => !string.IsNullOrEmpty(p.Value)));
    }

    private Hanging Hang(WallRow piece)
    {
        var kind = piece.State switch
        {
            PieceState.Missing => "missing",
            PieceState.AtRepair or PieceState.AtTest => "out",
            PieceState.Held => piece.Verdict is VerdictKind.Remove ? "remove" : "hold",
            PieceState.New => "new",
            _ when piece.IsOut => "out",
            _ when !piece.Use.MayBeUsed => "stopped",
            _ => piece.Verdict is VerdictKind.Watch || piece.IsCarried ? "watch" : "fit",
        };
        return new(piece, kind, Stands(piece));
    }

    private bool Stands(WallRow piece)
    {
        if (Family is not null && piece.Family.Code != Family)
            return false;
        if (
            Q is not null
            && !$"{piece.Mark} {piece.Serial} {piece.Maker} {piece.Model} {piece.Peg}".Contains(
                Q,
                StringComparison.OrdinalIgnoreCase
            )
        )
            return false;
        return Only switch
        {
            "usable" => piece.Use.MayBeUsed,
            "overdue" => piece.State == PieceState.InService
                && DueDate.StateOn(piece.PeriodicDue, Here.Today, Notice) == DueState.Overdue,
            "soon" => piece.State == PieceState.InService
                && DueDate.StateOn(piece.PeriodicDue, Here.Today, Notice) == DueState.Soon,
            "held" => piece.State == PieceState.Held,
            "new" => piece.State == PieceState.New,
            "missing" => piece.State == PieceState.Missing,
            "out" => piece.IsOut,
            "season" => Site.Seasons is { } scheme && !scheme.Counts(piece.SeasonFor, Here.Today),
            _ => true,
        };
    }

    private void Today(IReadOnlyList<WallRow> rows)
    {
        Held = rows.Count(p => p.State == PieceState.Held);
        Fresh = rows.Where(p => p.State == PieceState.New).ToList();
        var inUse = rows.Where(p => p.State == PieceState.InService).ToList();
        Overdue = inUse.Where(p => DueDate.StateOn(p.PeriodicDue, Here.Today, Notice) is DueState.Overdue).ToList();
        Soon = inUse.Where(p => DueDate.StateOn(p.PeriodicDue, Here.Today, Notice) is DueState.Soon).ToList();
        Next = Overdue
            .OrderBy(p => p.PeriodicDue)
            .Select(p => (p, $"overdue since {p.PeriodicDue:yyyy-MM-dd}"))
            .Concat(Fresh.Select(p => (p, "new: initial inspection")))
            .Concat(
                Soon.OrderBy(p => p.PeriodicDue).Select(p => (p, $"due {Say.Date(p.PeriodicDue!.Value, Here.Today)}"))
            )
            .Take(9)
            .ToList();
    }
}
