using Keralith.Core.Custody;
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
    }

    private void Slings(List<Store> stores)
    {
        // One line a piece: make, legs, lower end, reach, store, months since new, days since the last periodic, and
        // what is special.
        for (var i = 0; i < 35; i++)
        {
            var legs = (i % 5) switch
            {
                0 or 3 => 1,
                1 or 2 => 2,
                _ => i % 2 == 0 ? 4 : 3,
            };
            var end =
                i % 7 == 3 ? "link"
                : i % 11 == 5 ? "shackle"
                : "hook";
            var piece = DemoPiece.Sling(
                Mark(i + 1),
                _scenario.Chain[(i * 5) % _scenario.Chain.Length],
                legs,
                end,
                4 + (i % 4 * 2),
                _random
            );
            if (end == "shackle")
                piece.With("pinType", "screw");
            Hang(piece, stores[i % 3], i / 3);
            if (i == 17)
                piece.With("serviceClass", "severe");
            Tell(piece, i);
        }
    }

    private void Shackles(List<Store> stores)
    {
        for (var i = 0; i < 26; i++)
        {
            var piece = DemoPiece.Shackle(
                Mark(i + 41),
                _scenario.Shackles[(i * 5) % _scenario.Shackles.Length],
                (i % 4) switch
                {
                    3 => "bolt",
                    _ => "screw",
                },
                _random
            );
            Hang(piece, stores[i % 3], 12 + (i / 3));
            Tell(piece, i + 40);
        }
    }

    private void Others(List<Store> stores)
    {
        for (var i = 0; i < _scenario.Others.Length; i++)
        {
            var make = _scenario.Others[i];
            var piece = DemoPiece.Of(Mark(i + 71), make, _random);
            Hang(piece, stores[i % 3], 22 + (i / 3));
            switch (make.Family)
            {
                case "wire-rope-sling" when make.Fields["legs"] == "1" && make.Fields["body"] == "strand-laid": // Drawn down year by year.
                    InUse(piece.Wears("leg-1", "rope.diameter", 0.27m), 36, 40);
                    break;
                case "eye-nut": // Chemicals in the cleaning shed: held until the maker has said.
                    Bought(piece.With("meets:acid", "true"), 9);
                    break;
                case "web-sling" when make.Rated == "3 t": // A colour that says two tonnes on a tag that says three.
                    Bought(piece, 16);
                    break;
                case "powered-hoist":
                    InUse(piece, 26, 8);
                    break;
                case "lever-hoist": // A pipe on the lever.
                    InUse(piece, 30, 15, ("handle", "hoist.handle"));
                    break;
                default:
                    // Hoists, hooks and gear below the hook are looked at each month as well: most were within the last weeks.
                    InUse(piece, 20 + (i % 5 * 3), 5 + (i * 29 % 25));
                    break;
            }
        }
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

    /// <summary>What became of each piece.</summary>
    private void Tell(DemoPiece piece, int i)
    {
        var months = 38 - (i % 9 * 3);
        switch (i)
        {
            case 1: // Throat opening year by year: watch by now.
                InUse(piece.Wears("leg-1/hook", "hook.throat", 0.29m), months, 40);
                break;
            case 4: // One hook opened beyond the limit, condemned and cut up.
                InUse(piece.Wears("leg-1/hook", "hook.throat", 0.42m), 38, 150);
                At(140, 11, t =>
                    Custody(
                        piece,
                        (p, s) =>
                            _custody.CondemnAsync(
                                p.Id,
                                p.Version,
                                "Throat of one hook opened beyond the limit: overloaded. The sling is not worth a new hook.",
                                s,
                                _cancel
                            ),
                        "qualified",
                        t
                    )
                );
                At(133, 15, t =>
                    Custody(
                        piece,
                        (p, s) =>
                            _custody.DestroyAsync(
                                p.Id,
                                p.Version,
                                "Every fourth link cut with the disc, hooks cut through the bowl",
                                _people["inspector"],
                                "Scrap bin 2",
                                s,
                                _cancel
                            ),
                        "stores",
                        t
                    )
                );
                break;
            case 7: // A crew's doubt, three days ago.
                InUse(piece, months, 120);
                At(3, 9, t =>
                    Custody(
                        piece,
                        (p, s) =>
                            _custody.HoldAsync(
                                p.Id,
                                HoldCause.Doubt,
                                "Fell from the stop-plank crane on to the coping; one link looks flattened",
                                s,
                                _cancel
                            ),
                        "crew",
                        t
                    )
                );
                break;
            case 10: // Removed at the last periodic, waiting in the cage.
                InUse(piece.Wears("leg-1", "chain.link-thickness", 0.37m), 36, 12);
                break;
            case 12: // Tag torn off.
                InUse(piece, months, 200);
                At(6, 14, t =>
                    Custody(
                        piece,
                        (p, s) =>
                            _custody.HoldAsync(
                                p.Id,
                                HoldCause.Marking,
                                "Tag torn off at lock 9; only the wire is left",
                                s,
                                _cancel
                            ),
                        "stores",
                        t
                    )
                );
                break;
            case 16: // Stretch in the noise band: held, inspected clean since, waiting for the qualified person.
                InUse(piece.Wears("leg-1", "chain.gauge-difference", 0.14m), 36, 30);
                At(2, 10, t => Inspect(piece, InspectionKind.Periodic, 0, t));
                break;
            case 20: // Condemned, not yet destroyed.
                InUse(piece, months, 75, ("leg-1", "chain.heat"));
                At(60, 10, t =>
                    Custody(
                        piece,
                        (p, s) =>
                            _custody.CondemnAsync(
                                p.Id,
                                p.Version,
                                "Arc strike on three links; nobody knows how hot it was",
                                s,
                                _cancel
                            ),
                        "qualified",
                        t
                    )
                );
                break;
            case 24: // Taken over with provisional figures: watch at best.
                InUse(piece.TakenOver(), 20, 90);
                break;
            case 28: // A missing baseline: the measurement held it.
                InUse(piece.Without("baseline:leg-1/hook:hook.throat"), 5, 150);
                break;
            case 31 or 33: // New, to be inspected before first use.
                Register(piece, 4);
                break;
            case 32: // New, its initial inspection begun by the trainee.
                Register(piece, 9);
                At(1, 10, t => Draft(piece, t));
                break;
            case 43: // Pin worn to four fifths of the allowance.
                InUse(piece.Wears("pin", "shackle.wear-pin", 0.27m), 36, 25);
                break;
            case 44: // A record that named the wrong day, corrected the week after.
                InUse(piece, months, 198);
                At(190, 10, t => Correct(piece, t));
                break;
            case 47: // Wrong pin found, removed, the cage.
                InUse(piece, months, 20, ("pin", "shackle.pin-original"));
                break;
            case 52: // Worn bow, destroyed last year.
                InUse(piece.Wears("body", "shackle.wear-body", 0.5m), 36, 320);
                At(315, 9, t =>
                    Custody(
                        piece,
                        (p, s) =>
                            _custody.CondemnAsync(
                                p.Id,
                                p.Version,
                                "Bow worn by more than a tenth at the crown",
                                s,
                                _cancel
                            ),
                        "qualified",
                        t
                    )
                );
                At(310, 9, t =>
                    Custody(
                        piece,
                        (p, s) =>
                            _custody.DestroyAsync(
                                p.Id,
                                p.Version,
                                "Bow and pin cut through",
                                _people["stores"],
                                "",
                                s,
                                _cancel
                            ),
                        "qualified",
                        t
                    )
                );
                break;
            case 60 or 63:
                Register(piece, 7);
                break;
            default:
                // Most are simply in use: a few overdue, a few due within the month.
                var last = (i % 8) switch
                {
                    2 => 350,
                    5 when i % 3 == 0 => 381,
                    _ => 20 + (i * 37 % 290),
                };
                InUse(piece, months, last);
                break;
        }
    }

    private void InUse(
        DemoPiece piece,
        int monthsOld,
        int daysSinceLast,
        params (string Part, string Criterion)[] lastFaults
    )
    {
        Register(piece, monthsOld * 30);
        At((monthsOld * 30) - 1, 9, t => Inspect(piece, InspectionKind.Initial, 0, t));
        var every = piece.Fields.GetValueOrDefault("serviceClass") == "severe" ? 88 : 360;
        var first = daysSinceLast;
        while (first + every < (monthsOld * 30) - 30)
            first += every;
        for (var ago = first; ago >= daysSinceLast; ago -= every)
        {
            var years = ((monthsOld * 30) - ago) / 365m;
            var faults = ago == daysSinceLast ? lastFaults : [];
            At(ago, 8 + _random.Next(8), t => Inspect(piece, InspectionKind.Periodic, years, t, faults));
        }

        MonthlyChecks(piece, Math.Min(330, (monthsOld * 30) - 20));
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
                await _pieces.RegisterAsync(entry, NewId(), Stamp(provisional ? "qualified" : "stores", at), _cancel),
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
