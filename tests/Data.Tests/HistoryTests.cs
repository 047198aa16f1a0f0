using System.Collections.Concurrent;
using Keralith.Core.Custody;
using Keralith.Core.Gear;
using Keralith.Core.Judgement;
using Keralith.Core.Register;
using Keralith.Core.Schedule;
using Keralith.Core.Signing;
using Keralith.Core.Sites;
using Keralith.Testing;
using Xunit;

namespace Keralith.Data.Tests;

/// <summary>
/// A thousand histories of up to thirty acts by several people, through the stores: whatever is done to a piece in
/// whatever order, what is kept on it is
/// what its records come to. The longest test of the stores, and worth it: it is the one that holds for sequences
/// nobody thought of.
/// </summary>
public class HistoryTests
{
    private const int Histories = 1000;
    private const int MostActs = 30;
    private const int Hands = 4;

    private static readonly string[] Everybody =
    [
        "crew",
        "stores",
        "inspector",
        "inspector2",
        "qualified",
        "qualified2",
        "admin",
    ];

    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    [Fact]
    public async Task What_is_kept_on_a_piece_is_what_its_records_come_to_after_any_history()
    {
        await using var yard = await Yard.OpenAsync();
        var done = new ConcurrentDictionary<string, int>();
        var numbers = new ConcurrentQueue<int>(Enumerable.Range(0, Histories));
        var hands = Enumerable
            .Range(0, Hands)
            .Select(async hand =>
            {
                while (numbers.TryDequeue(out var number))
                    await new History(yard, number, done).RunAsync(hand);
            });
        await Task.WhenAll(hands);
        Assert.Equal(
            [],
            (await new VerifyStore(yard.Database).RunAsync(yard.Now, Cancel)).Select(f => $"{f.Mark}: {f.Why}")
        );
        Assert.Equal([], await new StoredAndComputed(yard).DifferencesAsync(Cancel));

        // The ledger alone makes the same works again, and whatever is changed unseen in this one is named.
        await using var anew = new Database(await TestDatabases.CreateEmptyAsync());
        Assert.Equal(Histories, (await RecordTests.RebuildAsync(yard.Database, anew)).Pieces);
        Assert.Equal([], await new VerifyStore(anew).RunAsync(yard.Now, Cancel));
        await Tampering.EqualAsync(yard.Database, anew);
        Assert.True(await RecordTests.NamedByChanceAsync(yard, new(1)) > 25);

        // Nothing is shown by acts that were all refused.
        Assert.All(History.Acts, a => Assert.True(done.GetValueOrDefault(a) >= 5, $"{a}: {done.GetValueOrDefault(a)}"));
    }

    /// <summary>One piece and what is done to it, by chance from a seed.</summary>
    private sealed class History(Yard yard, int number, ConcurrentDictionary<string, int> done)
    {
        /// <summary>The maker that may ask proof tests: of few pieces, for what lacks one is not handed out.</summary>
        private const string Asked = "Test works";

        private readonly Random _chance = new(number);
        private readonly string _mark = $"HM-{number:0000}";
        private DateTimeOffset _now = new DateTimeOffset(2026, 3, 2, 9, 0, 0, TimeSpan.Zero).AddDays(number % 50);

        public static IReadOnlyList<string> Acts { get; } =
        [
            "hold",
            "release",
            "retag",
            "lose",
            "find",
            "move",
            "issue",
            "hand over",
            "return",
            "inspect",
            "look",
            "correct",
            "withdraw",
            "event",
            "service",
            "condemn",
            "destroy",
            "send away",
            "take back",
            "test",
            "lock",
            "unlock",
            "witness",
            "put right",
            "recall",
            "end recall",
            "books",
            "ask proof tests",
        ];

        public async Task RunAsync(int hand)
        {
            var entry = PieceEntryReader.Read(Seed.Shackle(_mark)).Entry! with
            {
                Serial = $"only {_mark}",
                Maker = number % 8 == 0 ? Asked : "Pellow Forge",
            };
            Yard.Must(await yard.Pieces.RegisterAsync(entry, Guid.NewGuid(), By("stores"), Cancel));
            for (var acts = _chance.Next(1, MostActs + 1); acts > 0; acts--)
            {
                // Most of what happens to a piece is that it is inspected, held and let go; few are scrapped, and books
                // seldom change.
                var act = _chance.Next(100) switch
                {
                    < 22 => "inspect",
                    < 28 => "look",
                    < 36 => "hold",
                    < 40 => "send away",
                    < 46 => "take back",
                    < 48 => "test",
                    < 49 => "lock",
                    < 50 => "unlock",
                    < 51 => "witness",
                    < 52 => "recall",
                    < 53 => "end recall",
                    < 56 => "put right",
                    < 60 => "release",
                    < 64 => "retag",
                    < 68 => "lose",
                    < 73 => "find",
                    < 77 => "move",
                    < 82 => "issue",
                    < 85 => "hand over",
                    < 88 => "return",
                    < 90 => "correct",
                    < 92 => "withdraw",
                    < 94 => "event",
                    < 96 => "service",
                    < 98 => "condemn",
                    < 99 => "destroy",
                    _ => hand != 0 ? "move"
                    : _chance.Next(2) == 0 ? "books"
                    : "ask proof tests",
                };
                _now += TimeSpan.FromHours(_chance.Next(1, 200));
                var piece = await yard.FindAsync(_mark);
                if ((await DoAsync(act, piece)).Ok)
                {
                    done.AddOrUpdate(act, 1, (_, n) => n + 1);
                    if (act == "issue" && (await HandOverAsync(piece.Id)).Ok)
                        done.AddOrUpdate("hand over", 1, (_, n) => n + 1);
                }
                else if (act == "condemn" && piece.State == PieceState.Condemned)
                    await DoAsync("destroy", piece);
            }
        }

        private async Task<Checked<Recorded>> HandOverAsync(Guid id)
        {
            Refusal? why = null;
            var next = _chance.Next(2) == 0 ? "Maud" : "Osric";
            var over = await new IssueStore(yard.Database).HandOverAsync(
                [id],
                next,
                Sometimes("Weir"),
                null,
                r => why = r,
                Anybody(),
                Cancel
            );
            return why ?? over;
        }

        private async Task<Checked<Recorded>> DoAsync(string act, Piece piece)
        {
            var (id, version) = (piece.Id, piece.Version);
            var store = new YardStore(yard.Database);
            return act switch
            {
                "hold" => await yard.Custody.HoldAsync(
                    id,
                    _chance.Next(3) switch
                    {
                        0 => HoldCause.Doubt,
                        1 => HoldCause.Marking,
                        _ => HoldCause.Event,
                    },
                    "Something looks wrong",
                    Anybody(),
                    Cancel
                ),
                "release" => await ReleaseAsync(piece),
                "retag" => await yard.Custody.RetagAsync(id, version, "By its serial", "The maker", Anybody(), Cancel),
                "lose" => await store.LoseAsync(id, "Not on its peg", Anybody(), Cancel),
                "find" => await store.FindAsync(id, "Under the bench", Anybody(), Cancel),
                "move" => await store.MoveAsync([id], _chance.Next(1, 4), $"P{_chance.Next(9)}", Anybody(), Cancel),
                "issue" => await new IssueStore(yard.Database).IssueAsync(
                    id,
                    "Maud",
                    "Lock 9",
                    null,
                    Anybody(),
                    Cancel
                ),
                "hand over" => await HandOverAsync(id),
                "return" => await new IssueStore(yard.Database).ReturnAsync(
                    id,
                    Sometimes("Pin hard to turn"),
                    Anybody(),
                    Cancel
                ),
                "inspect" => await InspectAsync(piece),
                "look" => await yard.Signing.SignCleanCheckAsync(piece, null, Anybody(), Cancel),
                "correct" => await CorrectAsync(piece),
                "withdraw" => await WithdrawAsync(piece),
                "event" => await new EventStore(yard.Database).RecordAsync(
                    [id],
                    GearEventKind.Shock,
                    Day,
                    "It fell",
                    Anybody(),
                    Cancel
                ),
                "service" => await ServiceAsync(piece),
                "condemn" => await yard.Custody.CondemnAsync(id, version, "Worn out", By("qualified"), Cancel),
                "destroy" => await yard.Custody.DestroyAsync(
                    id,
                    version,
                    "Cut",
                    Seed.People["stores"],
                    "",
                    By("qualified"),
                    Cancel
                ),
                "send away" => await new AwayStore(yard.Database).SendAsync(
                    id,
                    version,
                    _chance.Next(2) == 0 ? AwayFor.Repair : AwayFor.Test,
                    "The maker's shop",
                    "Look at the pin",
                    null,
                    By("stores"),
                    Cancel
                ),
                "take back" => await new AwayStore(yard.Database).TakeBackAsync(
                    id,
                    version,
                    "Pin replaced",
                    _chance.Next(2) == 0,
                    By("stores"),
                    Cancel
                ),
                "test" => await new AwayStore(yard.Database).TestAsync(
                    id,
                    version,
                    new(
                        ProofSubject.Leg,
                        piece.RatedLoad! * 2,
                        Day,
                        "Test house",
                        "Cell 4",
                        Day.AddDays(90),
                        "T-77",
                        Passed: _chance.Next(4) > 0
                    ),
                    By("inspector"),
                    Cancel
                ),
                "lock" => await new AwayStore(yard.Database).LockAsync(id, true, "Asked for", By("inspector"), Cancel),
                "unlock" => await new AwayStore(yard.Database).LockAsync(id, false, "Done", By("qualified"), Cancel),
                "witness" => await new LookBackStore(yard.Database).TakeAsync(
                    id,
                    "The driver",
                    Day,
                    "It let go with a bang.",
                    By("inspector"),
                    Cancel
                ),
                "put right" => await PutRightAsync(id),
                "recall" => await RecallAsync(piece),
                "end recall" => await EndRecallAsync(),
                "books" => await BooksAsync(),
                "ask proof tests" => await AskProofTestsAsync(),
                _ => throw new ArgumentOutOfRangeException(nameof(act), act, null),
            };
        }

        /// <summary>Puts one of its records right, whichever it is.</summary>
        private async Task<Checked<Recorded>> PutRightAsync(Guid id)
        {
            var store = new PutRightStore(yard.Database);
            var records = await store.OfAsync(id, Cancel);
            return records.Count == 0
                ? new Refusal("Nothing is on record.")
                : await store.PutAsync(
                    id,
                    records[_chance.Next(records.Count)].Id,
                    new("It was another piece") { Holder = "South crew", Job = "Lock 3" },
                    By("qualified"),
                    Cancel
                );
        }

        private Guid? _recall;

        /// <summary>Recalls this piece alone, by its serial.</summary>
        private async Task<Checked<Recorded>> RecallAsync(Piece piece)
        {
            var stamp = By("qualified");
            var set = await new RecallStore(yard.Database).SetAsync(
                new(piece.Maker!, null, null, $"only {_mark}", null, null, null),
                "Cracks",
                "Notice 4",
                stamp,
                Cancel
            );
            if (set.Ok)
                _recall = stamp.Submission;
            return set;
        }

        private async Task<Checked<Recorded>> EndRecallAsync() =>
            _recall is { } recall
                ? await new RecallStore(yard.Database).EndAsync(recall, "Sound", By("qualified"), Cancel)
                : new Refusal("None was set.");

        private DateOnly Day => DateOnly.FromDateTime(_now.UtcDateTime);

        private Stamp By(string who) => new(Seed.People[who], _now, Guid.NewGuid());

        private Stamp Anybody() => By(Everybody[_chance.Next(Everybody.Length)]);

        private string Sometimes(string text) => _chance.Next(3) == 0 ? text : string.Empty;

        private async Task<Checked<Recorded>> ReleaseAsync(Piece piece)
        {
            var open = (await yard.Custody.HoldsAsync(piece.Id, Cancel)).Where(h => h.IsOpen).ToList();
            if (open.Count == 0)
                return new Refusal("Nothing to close.");

            // Those who let a piece go look at it first, as a rule.
            if (_chance.Next(4) > 0)
            {
                if (open.Any(h => h.Cause == HoldCause.Marking))
                {
                    await yard.Custody.RetagAsync(
                        piece.Id,
                        piece.Version,
                        "Serial",
                        "The maker",
                        By("qualified"),
                        Cancel
                    );
                    _now += TimeSpan.FromHours(1);
                }

                await InspectAsync(await yard.FindAsync(_mark), clean: true);
                _now += TimeSpan.FromHours(1);
                piece = await yard.FindAsync(_mark);
            }

            var hold = open[_chance.Next(open.Count)];
            return await yard.Custody.ReleaseAsync(piece.Id, piece.Version, hold.Id, "Sound", Anybody(), Cancel);
        }

        private async Task<Checked<Recorded>> InspectAsync(Piece piece, bool clean = false)
        {
            var kind = (InspectionKind)(
                _chance.Next(3) switch
                {
                    0 => (int)InspectionKind.AfterEvent,
                    _ => (int)InspectionKind.Periodic,
                }
            );
            var opened = await yard.Inspections.OpenAsync(piece, kind, By("inspector"), Cancel);
            return opened.Ok ? await SignAsync(opened.Value, piece, clean) : opened.Refusal!;
        }

        private async Task<Checked<Recorded>> SignAsync(Guid draft, Piece piece, bool clean, DateOnly? on = null)
        {
            var pin = clean
                ? "1 in"
                : _chance.Next(6) switch
                {
                    0 => "0.5 in",
                    1 => "0.92 in",
                    _ => "1 in",
                };
            var open = (await yard.Inspections.DraftAsync(draft, Cancel))!;
            var site = await yard.Sites.GetAsync(Cancel);
            var answers = Judge
                .MissingAnswers(new(site.Books, open.Kind, piece.GearAt(site), [], []))
                .Select(m => new DraftAnswer(
                    m.Part,
                    m.Criterion.Id,
                    m.Criterion.IsAnswerChosen
                        ? new(Answer: "no")
                        : new(Value: m.Criterion.Id == "shackle.wear-pin" ? pin : "7/8 in"),
                    null,
                    "",
                    _now
                ))
                .ToList();
            var saved = await yard.Inspections.SaveAsync(draft, answers, Seed.People["inspector"], _now, Cancel);
            var read = new SignatureRead(saved.Value, on ?? Day.AddDays(-_chance.Next(3)))
            {
                NextBy = _chance.Next(8) == 0 ? Day.AddDays(60) : null,
            };
            var result = await yard.Signing.SignAsync(draft, read, Anybody(), Cancel);
            if (!result.Ok)
                await yard.Inspections.DiscardAsync(draft, yard.Stamp("qualified"), Cancel);
            return result;
        }

        private async Task<Checked<Recorded>> CorrectAsync(Piece piece)
        {
            if (await AnyRecordAsync(piece) is not { } record)
                return new Refusal("Nothing to correct.");
            var opened = await new CorrectionStore(yard.Database).OpenAsync(
                record,
                piece,
                "The wrong pin",
                By("inspector"),
                Cancel
            );
            return opened.Ok ? await SignAsync(opened.Value, piece, clean: false, record.InspectedOn) : opened.Refusal!;
        }

        private async Task<Checked<Recorded>> WithdrawAsync(Piece piece) =>
            await AnyRecordAsync(piece) is { } record
                ? await new CorrectionStore(yard.Database).WithdrawAsync(
                    record.Id,
                    "Another piece",
                    By("qualified"),
                    Cancel
                )
                : new Refusal("Nothing to withdraw.");

        private async Task<InspectionRow?> AnyRecordAsync(Piece piece)
        {
            var records = (await yard.Inspections.SignedAsync(piece.Id, Cancel)).Where(r => r.Counts).ToList();
            return records.Count == 0 ? null : records[_chance.Next(records.Count)];
        }

        private async Task<Checked<Recorded>> ServiceAsync(Piece piece)
        {
            var figures = (await yard.Pieces.BaselinesAsync(piece.Id, Cancel)).ToDictionary(
                b => b.Key,
                b => b.Value.Figure
            );
            var service = (ServiceClass)_chance.Next(3);
            var entry = piece.Entry(figures) with { ServiceClass = service };
            return await yard.Pieces.EditAsync(
                piece.Id,
                piece.Version,
                entry,
                new("Read again", null),
                Anybody(),
                Cancel
            );
        }

        /// <summary>Asked of one maker's gear, or no more: whoever asks sees what it stops by then, and signs.</summary>
        private async Task<Checked<Recorded>> AskProofTestsAsync()
        {
            var store = new ProofAskStore(yard.Database);
            var sites = (await yard.Sites.SitesAsync(Cancel))!;
            var ask = new EnteredProofAsk(
                Asked,
                "",
                "",
                sites.Home.ProofAsks.Count == 0 ? _chance.Next(1, 13) : null,
                "Trial"
            );
            var stops = await store.WouldStopAsync(ask, sites, _now, Cancel);
            return await store.SetAsync(ask with { Stops = stops.Count }, By("qualified"), Cancel);
        }

        private async Task<Checked<Recorded>> BooksAsync()
        {
            var site = await yard.Sites.GetAsync(Cancel);
            var books =
                site.Books.Count == 2
                    ? new[] { RuleBookShelf.Asme, RuleBookShelf.Find("osha")!, RuleBookShelf.Find("europe")! }
                    : [RuleBookShelf.Asme, RuleBookShelf.Find("osha")!];
            var change = new SiteChange(site.Version, books, site.Editions, site.WatchShare, site.Policies, "Trial");
            return await new SettingsStore(yard.Database).ChangeSiteAsync(change, By("admin"), Cancel);
        }
    }

    /// <summary>What is kept on every piece, against what Core makes of its facts, read here on its own.</summary>
    private sealed class StoredAndComputed(Yard yard)
    {
        public async Task<List<string>> DifferencesAsync(CancellationToken cancel)
        {
            var site = await yard.Sites.GetAsync(cancel);
            var differences = new List<string>();
            await using var command = yard.Database.Command(
                """
                select p.mark, p.family, p.service_class, p.state, p.verdict, p.periodic_due, p.frequent_due, p.last_by, p.open_holds,
                  exists (select from disposal d where d.piece_id = p.id and d.step = 'condemned') as condemned,
                  exists (select from disposal d where d.piece_id = p.id and d.step = 'destroyed'
                    and not exists (select from put_right r where r.record_id = d.id)) as destroyed,
                  coalesce((select m.kind = 'lost' from move m where m.piece_id = p.id and m.kind <> 'moved' order by m.at desc limit 1), false) as missing,
                  (select a.sent_for from away a where a.piece_id = p.id and not exists (select from away_return r where r.away_id = a.id)) as away,
                  (select count(*)::int from hold h where h.piece_id = p.id and not exists (select from release r where r.hold_id = h.id)) as holds,
                  array(select i.kind || '|' || i.verdict || '|' || i.inspected_on || '|' || coalesce(i.next_by::text, '') || '|' || coalesce(i.made_by, i.signed_by)
                    from inspection i
                    where i.piece_id = p.id and not exists (select from supersession s where s.inspection_id = i.id)
                    order by coalesce(i.seen_at, i.signed_at), i.id) as records,
                  (select max(t.tested_on) from proof_test t where t.piece_id = p.id and t.passed and t.subject = 'leg'
                    and not exists (select from put_right r where r.record_id = t.id)) as proven,
                  p.proof_due, p.proof_lacks, p.maker
                from piece p
                """
            );
            await using var reader = await command.ExecuteReaderAsync(cancel);
            while (await reader.ReadAsync(cancel))
            {
                var records = reader.GetFieldValue<string[]>(14).Select(Record).ToList();
                var accepted = records.Any(r => r is { IsFull: true, IsClean: true });
                var state = PieceLife.Of(
                    reader.GetBoolean(9),
                    reader.GetBoolean(10),
                    reader.GetBoolean(11),
                    Code.Find<AwayFor>(Text(12)),
                    reader.GetInt32(13),
                    accepted
                );
                var family = GearFamilies.Find(reader.GetString(1))!;
                var derived = Derived.Of(
                    new(family, Code.Parse<ServiceClass>(reader.GetString(2)), records, null, null, null)
                    {
                        Proof = new(
                            null,
                            Date(15) is { } proven ? new(proven, null) : null,
                            site.ProofMonthsOf(family, Text(18), null)
                        ),
                    },
                    site.Books
                );
                var retired = state.IsRetired();
                Compare("state", reader.GetString(3), Code.Of(state));
                Compare("holds", reader.GetInt32(8), reader.GetInt32(13));
                Compare("verdict", Text(4), derived.Verdict is { } verdict ? Code.Of(verdict) : null);
                Compare("last by", reader.IsDBNull(7) ? (Guid?)null : reader.GetGuid(7), derived.LastBy);

                // Books changed since it was retired move nothing of it any more.
                if (!retired)
                {
                    Compare("periodic", Date(5), derived.Due.Periodic);
                    Compare("frequent", Date(6), derived.Due.Frequent);
                    Compare("proof test", Date(16), derived.Proof.Until);
                    Compare("lacks a proof test", reader.GetBoolean(17), derived.Proof.Lacks);
                }

                void Compare<T>(string what, T stored, T computed)
                {
                    if (!EqualityComparer<T>.Default.Equals(stored, computed))
                        differences.Add($"{reader.GetString(0)}: {what} {stored}, computed {computed}");
                }
            }

            return differences;

            string? Text(int column) => reader.IsDBNull(column) ? null : reader.GetString(column);

            DateOnly? Date(int column) => reader.IsDBNull(column) ? null : reader.GetFieldValue<DateOnly>(column);
        }

        private static SignedInspection Record(string row)
        {
            var parts = row.Split('|');
            return new(
                Code.Parse<InspectionKind>(parts[0]),
                Code.Parse<VerdictKind>(parts[1]),
                default,
                Guid.Parse(parts[4])
            )
            {
                InspectedOn = Day(parts[2]),
                NextBy = parts[3].Length == 0 ? null : Day(parts[3]),
            };
        }

        private static DateOnly Day(string text) =>
            DateOnly.ParseExact(text, "yyyy-MM-dd", System.Globalization.CultureInfo.InvariantCulture);
    }
}
