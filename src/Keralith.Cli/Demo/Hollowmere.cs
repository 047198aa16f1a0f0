using Keralith.Core.Gear;
using Keralith.Core.Judgement;
using Keralith.Core.People;
using Keralith.Core.Register;
using Keralith.Core.Sites;
using Keralith.Data;
using Microsoft.AspNetCore.Identity;

namespace Keralith.Cli.Demo;

/// <summary>
/// The demo scenario: three years at Hollowmere Lock Works, dated back from the day it is loaded, made with a fixed seed and
/// written through the same stores as real input. Nothing in it is a real person, maker or place.
/// </summary>
public sealed partial class Hollowmere
{
    /// <summary>The password of every demo person.</summary>
    public const string Password = "lockgate-demo";

    private readonly Random _random = new(20260301);
    private readonly Scenario _scenario = Scenario.Read();
    private readonly SortedList<(DateTimeOffset At, int Order), Func<DateTimeOffset, Task>> _events = [];
    private readonly Dictionary<string, Actor> _people = [];
    private readonly PieceStore _pieces;
    private readonly InspectionStore _inspections;
    private readonly SigningStore _signing;
    private readonly CustodyStore _custody;
    private readonly SiteStore _sites;
    private readonly SettingsStore _settings;
    private readonly YardStore _yard;
    private readonly FileStore _files;
    private readonly Database _database;
    private readonly DateOnly _today;
    private readonly CancellationToken _cancel;
    private IReadOnlyList<RuleBook> _books = [];

    private Hollowmere(Database database, DateOnly today, CancellationToken cancel)
    {
        (_database, _today, _cancel) = (database, today, cancel);
        _sites = new(database);
        _pieces = new(database);
        _inspections = new(database);
        _signing = new(database);
        _custody = new(database);
        _settings = new(database);
        _yard = new(database);
        _files = new(database);
    }

    /// <summary>Loads the scenario into a migrated, empty database.</summary>
    public static Task LoadAsync(Database database, DateOnly today, CancellationToken cancel) =>
        new Hollowmere(database, today, cancel).LoadAsync();

    private async Task LoadAsync()
    {
        _books = _scenario.RuleBooks.Select(b => RuleBookShelf.Find(b)!).ToList();
        await _sites.SetUpAsync(
            new(_scenario.Site, _books, Judge.DefaultWatchShare, 30, false, true) { Seasons = Seasons() },
            [
                .. _scenario.Stores.Select(s => new StoreEntry(
                    s.Name,
                    s.About,
                    Code.Find<StoreKind>(s.Kind) ?? StoreKind.Rack,
                    s.OftenOffline
                )),
            ],
            _cancel
        );
        var people = new PeopleStore(_database);
        var hasher = new PasswordHasher<Actor>();
        foreach (var p in _scenario.People)
        {
            var actor = new Actor(NewId(), p.Username, p.Name, Code.Parse<Role>(p.Role));
            await people.AddAsync(
                actor,
                hasher.HashPassword(actor, Password),
                $"{p.Username}@hollowmere.invalid",
                _cancel
            );
            _people[p.Username] = actor;
        }

        await AuthoriseAsync(people);

        var stores = await _sites.StoresAsync(_cancel);
        Slings(stores);
        Shackles(stores);
        Others(stores);
        TraineesWork(stores[0]);
        More(stores);
        TakenOver(stores);
        Rules();
        Paint();
        Lately();
        On(-1, new(18, 40), LiftsAsync);
        foreach (var (key, run) in _events)
            await run(key.At);
        await new RecordSeal(_database).RunAsync(DateTimeOffset.UtcNow, _cancel);
    }

    /// <summary>What the site added to the books over the years.</summary>
    private void Rules()
    {
        At(300, 9, async t =>
        {
            var site = await _sites.GetAsync(_cancel);
            Must(
                await _settings.ChangeSiteAsync(
                    new(
                        site.Version,
                        _books,
                        new Dictionary<string, int> { ["asme"] = 2021, ["osha"] = 2025 },
                        site.WatchShare,
                        SitePolicies.None,
                        "Editions on the office shelf named"
                    ),
                    Stamp("admin", t),
                    _cancel
                )
            );
        });
        At(210, 10, async t =>
            Must(
                await _settings.SetLimitAsync(
                    new(
                        LimitOwner.Maker,
                        "Quillon Hoists",
                        "QH-2",
                        "hoistchain.growth",
                        "2 %",
                        "The maker's service sheet for this model"
                    ),
                    Stamp("qualified", t),
                    _cancel
                )
            )
        );
        At(1, 16, async t => Must(
                await new QuestionStore(_database).SetAsync(
                    new()
                    {
                        Family = "lever-hoist",
                        Part = "handle",
                        Kind = "see",
                        AskedIn = "frequent",
                        OnFault = "hold",
                        Title = "Length mark",
                        Question = "The yellow length mark on the lever is gone, or the lever reaches past it.",
                        Look = "Hold the lever against the gauge board by the counter.",
                        Source = "Works instruction 12, lever hoists",
                        Reason = "A pipe was found on a lever in the autumn",
                    },
                    Stamp("qualified", t),
                    _cancel
                )
            ));
        At(1, 15, async t =>
            Must(
                await _settings.SetLimitAsync(
                    new(
                        LimitOwner.Site,
                        "",
                        "",
                        "hook.throat",
                        "4.8 %",
                        "Two hooks opened between periodic inspections last winter"
                    ),
                    Stamp("qualified", t),
                    _cancel
                )
            )
        );
    }

    /// <summary>
    /// Who signs for what: the inspector's leave for gear below the hook runs out soon, so that its end is seen.
    /// </summary>
    private async Task AuthoriseAsync(PeopleStore people)
    {
        foreach (var who in new[] { "inspector", "qualified" })
        {
            foreach (var group in Authorisation.Groups)
            {
                var until = _today.AddDays(who == "inspector" && group == FamilyGroup.BelowHook ? 20 : 400);
                Must(
                    await people.AuthoriseAsync(
                        _people[who].Id,
                        new(group, until),
                        Stamp("admin", new(_today.AddDays(-1200).ToDateTime(new(9, 0)), TimeSpan.Zero)),
                        _cancel
                    )
                );
            }
        }
    }

    private void Bought(DemoPiece piece, int daysAgo)
    {
        Register(piece, daysAgo);
        At(daysAgo - 1, 9, t => Inspect(piece, InspectionKind.Initial, 0, t));
    }

    private void Register(DemoPiece piece, int daysAgo) => At(daysAgo, 8, async at =>
        {
            piece.With("inServiceSince", DateOnly.FromDateTime(at.Date).ToString("yyyy-MM-dd"));
            var (entry, faults) = PieceEntryReader.Read(piece.Fields);
            if (entry is null)
                throw new InvalidOperationException($"{piece.Mark}: {string.Join("; ", faults)}");
            var provisional = entry.Baselines.Values.Any(b => b.Basis == BaselineBasis.Provisional);
            Must(
                await _pieces.RegisterAsync(
                    entry,
                    NewId(),
                    Stamp(provisional || entry.Details.MakersAngle is not null ? "qualified" : "stores", at),
                    _cancel
                ),
                piece
            );
        });

    private async Task Custody(
        DemoPiece piece,
        Func<Piece, Stamp, Task<Checked<Recorded>>> act,
        string who,
        DateTimeOffset at
    ) => Must(await act((await _pieces.FindAsync(piece.Mark, _cancel))!, Stamp(who, at)), piece);

    private static void Must(Checked<Recorded> result, DemoPiece? piece = null)
    {
        if (!result.Ok)
            throw new InvalidOperationException($"{piece?.Mark ?? "site"}: {result.Fault}");
    }

    private static string Mark(int number) => $"HM-{number:0000}";

    private static void Hang(DemoPiece piece, Store store, int peg) =>
        piece.With("store", store.Id.ToString()).With("peg", $"{(char)('A' + (peg / 6))}{(peg % 6) + 1}");

    private void At(int daysAgo, int hour, Func<DateTimeOffset, Task> run) =>
        On(-daysAgo, new TimeOnly(hour, _random.Next(60)), run);

    /// <summary>Something happens on a day counted from today, at a time: all of it in the order of the clock.</summary>
    private void On(int days, TimeOnly time, Func<DateTimeOffset, Task> run) =>
        _events.Add((new(_today.AddDays(days).ToDateTime(time), TimeSpan.Zero), _events.Count), run);

    private Stamp Stamp(string who, DateTimeOffset at) => new(_people[who], at, NewId());

    private Guid NewId()
    {
        var bytes = new byte[16];
        _random.NextBytes(bytes);
        return new(bytes);
    }
}
