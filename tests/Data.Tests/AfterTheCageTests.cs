using System.Diagnostics;
using System.Security.Cryptography;
using Keralith.Core.Custody;
using Keralith.Core.Gear;
using Keralith.Core.Judgement;
using Keralith.Core.Ledger;
using Keralith.Core.Register;
using Keralith.Testing;
using Xunit;

namespace Keralith.Data.Tests;

/// <summary>Repair, test, recall, evidence, looking back and the signed head, through the stores.</summary>
public class AfterTheCageTests
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    private static async Task NothingIsFoundAsync(Yard yard) =>
        Assert.Equal(
            [],
            (await new VerifyStore(yard.Database).RunAsync(yard.Now, Cancel)).Select(f => $"{f.Mark}: {f.Why}")
        );

    [Fact]
    public async Task A_repaired_piece_goes_back_after_an_inspection_and_a_proof_test_made_since()
    {
        await using var yard = await Yard.OpenAsync();
        await yard.InServiceAsync(Seed.Shackle("HM-0001"));
        var away = new AwayStore(yard.Database);
        Yard.Must(await yard.HoldAsync("crew", "HM-0001"));
        var held = await yard.FindAsync("HM-0001");
        Yard.Must(
            await away.SendAsync(
                held.Id,
                held.Version,
                AwayFor.Repair,
                "The maker",
                "New pin",
                null,
                yard.Stamp("stores"),
                Cancel
            )
        );
        var gone = await yard.FindAsync("HM-0001");
        Assert.Equal(PieceState.AtRepair, gone.State);
        Assert.False(
            (await yard.Inspections.OpenAsync(gone, InspectionKind.Periodic, yard.Stamp("inspector"), Cancel)).Ok
        );
        Assert.False(
            (
                await new YardStore(yard.Database).MoveAsync(
                    [gone.Id],
                    gone.StoreId,
                    "Z9",
                    yard.Stamp("stores"),
                    Cancel
                )
            ).Ok
        );
        Assert.Equal("The maker", Assert.Single(await away.AllAsync(yard.Pieces, Cancel)).Away.To);

        // A test before it went proves nothing of what was repaired.
        Yard.Must(await away.TakeBackAsync(gone.Id, gone.Version, "Pin replaced", true, yard.Stamp("stores"), Cancel));
        Yard.Must(await yard.InspectAsync("HM-0001", InspectionKind.Periodic));
        var back = (await yard.Custody.HoldsAsync(held.Id, Cancel)).Single(h => h.Cause == HoldCause.Returned);
        var now = await yard.FindAsync("HM-0001");
        var refused = await yard.Custody.ReleaseAsync(
            now.Id,
            now.Version,
            back.Id,
            "Sound",
            yard.Stamp("qualified"),
            Cancel
        );
        Assert.Contains("proof test", refused.Fault, StringComparison.Ordinal);
        Yard.Must(await away.TestAsync(now.Id, now.Version, Proof(now), yard.Stamp("inspector"), Cancel));
        now = await yard.FindAsync("HM-0001");
        Yard.Must(
            await yard.Custody.ReleaseAsync(now.Id, now.Version, back.Id, "Sound", yard.Stamp("qualified"), Cancel)
        );
        Yard.Must(await yard.ReleaseAsync("inspector", "HM-0001"));
        Assert.Equal(PieceState.InService, (await yard.FindAsync("HM-0001")).State);
        Assert.Contains(await yard.Database.AskAsync(t => YardStore.Events(t, now.Id), Cancel), e =>
            e.What.StartsWith("Back from The maker", StringComparison.Ordinal)
        );
        await NothingIsFoundAsync(yard);
    }

    private static ProofTest Proof(Piece piece) =>
        new(
            ProofSubject.Leg,
            piece.RatedLoad! * 2,
            new DateOnly(2026, 1, 1),
            "Test house",
            "Cell 4",
            new DateOnly(2026, 12, 31),
            "T-77",
            Passed: true
        );

    [Fact]
    public async Task A_failed_proof_test_and_what_is_kept_as_evidence_verify_and_stop_the_piece()
    {
        await using var yard = await Yard.OpenAsync();
        var piece = await yard.InServiceAsync(Seed.Shackle("HM-0001"));
        var away = new AwayStore(yard.Database);
        piece = await yard.FindAsync("HM-0001");
        Yard.Must(
            await away.TestAsync(
                piece.Id,
                piece.Version,
                Proof(piece) with
                {
                    Passed = false,
                },
                yard.Stamp("inspector"),
                Cancel
            )
        );
        Yard.Must(await away.LockAsync(piece.Id, true, "Broke at 2 t", yard.Stamp("inspector"), Cancel));
        piece = await yard.FindAsync("HM-0001");
        Assert.Equal((PieceState.Held, "Broke at 2 t"), (piece.State, piece.Locked));
        var sent = await away.SendAsync(
            piece.Id,
            piece.Version,
            AwayFor.Repair,
            "The maker",
            "New pin",
            null,
            yard.Stamp("stores"),
            Cancel
        );
        Assert.Contains("evidence", sent.Fault, StringComparison.Ordinal);
        var changed = await yard.Pieces.EditAsync(
            piece.Id,
            piece.Version,
            piece.Entry(new Dictionary<BaselineKey, BaselineFigure>()) with
            {
                Details = piece.Details with { Notes = "Nothing to see" },
            },
            Grounds.None,
            yard.Stamp("qualified"),
            Cancel
        );
        Assert.Contains("evidence", changed.Fault, StringComparison.Ordinal);
        await NothingIsFoundAsync(yard);
        await yard.AsOwnerAsync("update piece set locked = null");
        Assert.Contains(await new VerifyStore(yard.Database).RunAsync(yard.Now, Cancel), f =>
            f.Why.Contains("evidence", StringComparison.Ordinal)
        );
    }

    [Fact]
    public async Task A_hand_out_a_release_and_a_destruction_recorded_wrongly_are_put_right_and_verify()
    {
        await using var yard = await Yard.OpenAsync();
        var piece = await yard.InServiceAsync(Seed.Shackle("HM-0001"));
        var (issues, records) = (new IssueStore(yard.Database), new PutRightStore(yard.Database));
        Yard.Must(await issues.IssueAsync(piece.Id, "Maud", "Lock 9", new(2026, 3, 9), yard.Stamp("stores"), Cancel));
        var record = Assert.Single(await records.OfAsync(piece.Id, Cancel));
        Assert.Equal((RecordKind.HandOut, true), (record.Kind, record.IsOut));
        Yard.Must(
            await records.PutAsync(
                piece.Id,
                record.Id,
                new("She had another") { Holder = "South crew", Job = "Lock 3" },
                yard.Stamp("stores"),
                Cancel
            )
        );
        var issued = (await yard.FindAsync("HM-0001")).Issued!;
        Assert.Equal(
            ("South crew", "Lock 3", new DateOnly(2026, 3, 9)),
            (issued.Holder, issued.Job, issued.ExpectedBack)
        );
        Assert.False((await records.PutAsync(piece.Id, record.Id, new("Again"), yard.Stamp("qualified"), Cancel)).Ok);

        Yard.Must(await yard.HoldAsync("crew", "HM-0001"));
        Yard.Must(await yard.InspectAsync("HM-0001", InspectionKind.Periodic));
        Yard.Must(await yard.ReleaseAsync("inspector", "HM-0001"));
        var release = (await records.OfAsync(piece.Id, Cancel)).Single(r => r.Kind == RecordKind.Release);
        Yard.Must(
            await records.PutAsync(piece.Id, release.Id, new("I looked at HM-0002"), yard.Stamp("inspector"), Cancel)
        );
        piece = await yard.FindAsync("HM-0001");
        Assert.Equal(PieceState.Held, piece.State);
        await NothingIsFoundAsync(yard);

        Yard.Must(await yard.Custody.CondemnAsync(piece.Id, piece.Version, "Bent", yard.Stamp("qualified"), Cancel));
        for (var again = 0; again < 2; again++)
        {
            piece = await yard.FindAsync("HM-0001");
            Assert.Equal(PieceState.Condemned, piece.State);
            Yard.Must(
                await yard.Custody.DestroyAsync(
                    piece.Id,
                    piece.Version,
                    "Cut through",
                    Seed.People["stores"],
                    string.Empty,
                    yard.Stamp("qualified"),
                    Cancel
                )
            );
            if (again > 0)
                break;
            var destroyed = (await records.OfAsync(piece.Id, Cancel)).First(r => r.Kind == RecordKind.Destruction);
            Yard.Must(
                await records.PutAsync(piece.Id, destroyed.Id, new("It was HM-0003"), yard.Stamp("qualified"), Cancel)
            );
        }

        Assert.Equal(PieceState.Destroyed, (await yard.FindAsync("HM-0001")).State);
        Assert.Single(await new LookBackStore(yard.Database).RetiredAsync(null, 10, Cancel));
        await NothingIsFoundAsync(yard);
        await yard.AsOwnerAsync(
            "alter table put_right disable trigger user; update put_right set why = 'no reason' where kind = 'release'"
        );
        Assert.NotEmpty(await new VerifyStore(yard.Database).RunAsync(yard.Now, Cancel));
    }

    [Fact]
    public async Task A_new_piece_takes_the_place_of_a_condemned_one_on_its_kits_roster_too_once()
    {
        await using var yard = await Yard.OpenAsync();
        var old = await yard.InServiceAsync(Seed.Shackle("HM-0001"));
        var kit = EveryFamily.Form(GearFamilies.Find("sling-kit")!, "HM-0100");
        kit["members"] = "2; hook; 3 t; bears; HM-0001\n1; apex; 5 t; common";
        await yard.RegisterAsync(kit);
        async Task<Checked<Recorded>> InPlaceAsync(string mark, string who) =>
            await new ReplacementStore(yard.Database).RegisterAsync(
                PieceEntryReader.Read(Made(mark, mark)).Entry!,
                Guid.NewGuid(),
                "hm-0001",
                yard.Stamp(who),
                Cancel
            );
        Assert.Contains("is here still", (await InPlaceAsync("HM-0002", "inspector")).Fault, StringComparison.Ordinal);
        Assert.Null(await yard.Pieces.FindAsync("HM-0002", Cancel));
        Yard.Must(await yard.Custody.CondemnAsync(old.Id, old.Version, "Bent", yard.Stamp("qualified"), Cancel));
        Yard.Must(await InPlaceAsync("HM-0002", "inspector"));
        Assert.Contains(
            "HM-0002 took the place",
            (await InPlaceAsync("HM-0003", "inspector")).Fault,
            StringComparison.Ordinal
        );
        var roster = (await yard.FindAsync("HM-0100")).Details.Members;
        Assert.Equal("HM-0002", roster[0].Mark?.Text);
        var trip = new Trip();
        var places = ReplacementStore.Places(trip, old.Id);
        await yard.Database.MakeAsync(trip, Cancel);
        Assert.Equal((null, "HM-0002"), places.Value);
        await NothingIsFoundAsync(yard);
    }

    [Fact]
    public async Task Proof_tests_calibrations_and_lives_that_run_out_are_due_the_first_first()
    {
        await using var yard = await Yard.OpenAsync();
        foreach (
            var (mark, proof, discard) in new[]
            {
                ("HM-0001", "2026-03-20", ""),
                ("HM-0002", "2026-03-10", "2026-03-15"),
                ("HM-0003", "2026-04-02", ""),
            }
        )
        {
            var fields = Seed.Shackle(mark);
            fields["serial"] = mark;
            (fields["proofTestDue"], fields["discardOn"]) = (proof, discard);
            await yard.InServiceAsync(fields);
        }

        var due = await new DueStore(yard.Database).ElseAsync(null, new(2026, 4, 1), Cancel);
        Assert.Equal(
            ["HM-0002 proof test", "HM-0002 life set by its maker", "HM-0001 proof test"],
            due.Select(d => $"{d.Mark} {d.What}")
        );
        Assert.Empty(await new DueStore(yard.Database).ElseAsync(null, new(2026, 3, 9), Cancel));
        Assert.Empty(await new DueStore(yard.Database).ElseAsync(99, new(2026, 4, 1), Cancel));
    }

    private static Dictionary<string, string> Made(string mark, string serial, string model = "X-2")
    {
        var fields = Seed.Shackle(mark);
        (fields["serial"], fields["maker"], fields["model"]) = (serial, "Test works", model);
        return fields;
    }

    private static readonly RecallMatch Serials = new("test works", "X-2", null, "K-100", "K-199", null, null);

    [Fact]
    public async Task A_recall_holds_all_that_matches_wherever_it_is_and_what_is_registered_later()
    {
        await using var yard = await Yard.OpenAsync();
        await yard.InServiceAsync(Made("HM-0001", "K-100"));
        await yard.InServiceAsync(Made("HM-0002", "K-199"));
        await yard.InServiceAsync(Made("HM-0003", "K-200"));
        var lost = await yard.InServiceAsync(Made("HM-0004", "K-150"));
        var entered = await yard.RegisterAsync(Made("HM-0005", "K-300"));
        Yard.Must(await new YardStore(yard.Database).LoseAsync(lost.Id, "Nobody knows", yard.Stamp("crew"), Cancel));
        Yard.Must(
            await new IssueStore(yard.Database).IssueAsync(
                (await yard.FindAsync("HM-0002")).Id,
                "Maud",
                "Lock 9",
                null,
                yard.Stamp("stores"),
                Cancel
            )
        );
        var recalls = new RecallStore(yard.Database);
        var (meant, all) = await recalls.PreviewAsync(Serials, 10, Cancel);
        Assert.Equal(3, all);
        Assert.Equal(["HM-0001", "HM-0002", "HM-0004"], meant.Select(p => p.Mark).Order());

        // Whose maker nobody put on record is not found, and is counted so that somebody looks.
        Assert.Equal(0, await recalls.MakerlessAsync(Cancel));
        var nameless = Made("HM-0009", "K-150");
        nameless.Remove("maker");
        await yard.RegisterAsync(nameless);
        nameless = Made("HM-0010", "K-151");
        nameless["maker"] = "-";
        await yard.RegisterAsync(nameless);
        Assert.Equal(
            (3, 2),
            ((await recalls.PreviewAsync(Serials, 10, Cancel)).All, await recalls.MakerlessAsync(Cancel))
        );
        Assert.False((await recalls.SetAsync(Serials, "Cracks", "Notice 4", yard.Stamp("inspector"), Cancel)).Ok);
        var set = yard.Stamp("qualified");
        Yard.Must(await recalls.SetAsync(Serials, "Cracks", "Notice 4", set, Cancel));
        Assert.Equal(PieceState.Held, (await yard.FindAsync("HM-0001")).State);
        Assert.Equal(PieceState.Held, (await yard.FindAsync("HM-0002")).State);
        Assert.Equal(PieceState.InService, (await yard.FindAsync("HM-0003")).State);
        Assert.Equal(PieceState.Missing, (await yard.FindAsync("HM-0004")).State);

        // Registered later, and entered otherwise later.
        await yard.RegisterAsync(Made("HM-0006", "K-120"));
        Assert.Equal(PieceState.Held, (await yard.FindAsync("HM-0006")).State);
        var now = await yard.FindAsync("HM-0005");
        Yard.Must(
            await yard.Pieces.EditAsync(
                now.Id,
                now.Version,
                now.Entry(new Dictionary<BaselineKey, BaselineFigure>()) with
                {
                    Serial = "K-130",
                },
                Grounds.None,
                yard.Stamp("stores"),
                Cancel
            )
        );
        Assert.Equal(PieceState.Held, (await yard.FindAsync("HM-0005")).State);
        Yard.Must(await new YardStore(yard.Database).FindAsync(lost.Id, "Under the bench", yard.Stamp("crew"), Cancel));
        await NothingIsFoundAsync(yard);

        // One of them is let go alone by who set it, the others with the recall; other holds stay.
        var one = (await yard.Custody.HoldsAsync(entered.Id, Cancel)).Single();
        now = await yard.FindAsync("HM-0005");
        Assert.False(
            (await yard.Custody.ReleaseAsync(now.Id, now.Version, one.Id, "Sound", yard.Stamp("admin"), Cancel)).Ok
        );
        Yard.Must(
            await yard.Custody.ReleaseAsync(now.Id, now.Version, one.Id, "Sound", yard.Stamp("qualified"), Cancel)
        );
        Assert.Equal(PieceState.New, (await yard.FindAsync("HM-0005")).State);
        Assert.False((await recalls.EndAsync(set.Submission, "Sound", yard.Stamp("admin"), Cancel)).Ok);
        Yard.Must(await recalls.EndAsync(set.Submission, "The maker says so", yard.Stamp("qualified"), Cancel));
        Assert.Equal(PieceState.InService, (await yard.FindAsync("HM-0001")).State);
        Assert.Equal(PieceState.New, (await yard.FindAsync("HM-0006")).State);
        Assert.Equal(PieceState.Held, (await yard.FindAsync("HM-0004")).State);
        Assert.Equal(
            (0, 5),
            (await recalls.FindAsync(set.Submission, Cancel)) is { } row ? (row.Held, row.All) : default
        );
        await yard.RegisterAsync(Made("HM-0007", "K-121"));
        Assert.Equal(PieceState.New, (await yard.FindAsync("HM-0007")).State);
        await NothingIsFoundAsync(yard);
    }

    [Fact]
    public async Task Two_who_recall_and_release_at_once_leave_nothing_in_between()
    {
        await using var yard = await Yard.OpenAsync();
        for (var i = 1; i <= 12; i++)
            await yard.InServiceAsync(Made($"HM-{i:0000}", $"K-{100 + i}"));
        var recalls = new RecallStore(yard.Database);
        await Task.WhenAll(
            recalls.SetAsync(Serials, "Cracks", "Notice 4", yard.Stamp("qualified"), Cancel),
            recalls.SetAsync(Serials, "Cracks too", "Notice 5", yard.Stamp("admin"), Cancel),
            yard.HoldAsync("crew", "HM-0003"),
            new IssueStore(yard.Database).IssueAsync(
                (await yard.FindAsync("HM-0005")).Id,
                "Maud",
                "",
                null,
                yard.Stamp("stores"),
                Cancel
            )
        );
        var set = await recalls.AllAsync(Cancel);
        Assert.Equal([12, 12], set.Select(r => r.Held));
        await NothingIsFoundAsync(yard);
    }

    /// <summary>Letters whose small forms differ while their capital is one, as a database's own comparison does not know.</summary>
    [Fact]
    public async Task A_recall_finds_its_maker_however_spelled_in_case_in_any_script()
    {
        await using var yard = await Yard.OpenAsync();
        foreach (var (mark, maker) in new[] { ("HM-0001", "ατλας"), ("HM-0002", "Ατλας"), ("HM-0003", "ατλα") })
        {
            var made = Made(mark, $"K-15{mark[^1]}");
            made["maker"] = maker;
            await yard.InServiceAsync(made);
        }

        var recalls = new RecallStore(yard.Database);
        var capitals = Serials with { Maker = "ΑΤΛΑΣ" };
        Assert.Equal(2, (await recalls.PreviewAsync(capitals, 10, Cancel)).All);
        Yard.Must(await recalls.SetAsync(capitals, "Cracks", "Notice 4", yard.Stamp("qualified"), Cancel));
        Assert.Equal(PieceState.Held, (await yard.FindAsync("HM-0001")).State);
        Assert.Equal(PieceState.Held, (await yard.FindAsync("HM-0002")).State);
        Assert.Equal(PieceState.InService, (await yard.FindAsync("HM-0003")).State);
        await NothingIsFoundAsync(yard);
    }

    /// <summary>Recalls stand for years, and whoever registers a piece holds up everybody who signs meanwhile.</summary>
    [Fact]
    public async Task However_many_recalls_stand_registering_a_piece_takes_no_more_questions()
    {
        await using var yard = await Yard.OpenAsync();
        await yard.RegisterAsync(Made("HM-0001", "M-1"));
        var alone = await TripsAsync(() => yard.RegisterAsync(Made("HM-0002", "M-2")));
        var recalls = new RecallStore(yard.Database);
        for (var i = 0; i < 30; i++)
        {
            var range = Serials with { SerialFrom = $"K-{i * 10:000}", SerialTo = $"K-{(i * 10) + 10:000}" };
            Yard.Must(await recalls.SetAsync(range, $"Cracks {i}", "Notice 4", yard.Stamp("qualified"), Cancel));
        }

        Assert.Equal(alone, await TripsAsync(() => yard.RegisterAsync(Made("HM-0003", "M-3"))));

        // Each that means it holds it.
        await yard.RegisterAsync(Made("HM-0004", "K-010"));
        Assert.Equal(
            ["Recall: Cracks 0", "Recall: Cracks 1"],
            (await yard.Custody.HoldsAsync((await yard.FindAsync("HM-0004")).Id, Cancel)).Select(h => h.Reason).Order()
        );
        await NothingIsFoundAsync(yard);
    }

    /// <summary>How many round trips to the database something takes.</summary>
    private static async Task<int> TripsAsync(Func<Task> act)
    {
        var trips = 0;
        using var mine = new Activity("counted").Start();
        using var listener = new ActivityListener
        {
            ShouldListenTo = source => source.Name == "Npgsql",
            Sample = (ref options) =>
                options.Parent.TraceId == mine.TraceId ? ActivitySamplingResult.AllData : ActivitySamplingResult.None,
            ActivityStopped = trip => Interlocked.Add(ref trips, trip.TraceId == mine.TraceId ? 1 : 0),
        };
        ActivitySource.AddActivityListener(listener);
        await act();
        Assert.True(trips > 0, "nothing was counted");
        return trips;
    }

    [Fact]
    public async Task Looking_back_tells_jobs_holders_and_gear_since_the_last_fit_inspection()
    {
        await using var yard = await Yard.OpenAsync();
        var piece = await yard.InServiceAsync(Seed.Shackle("HM-0001"));
        var other = await yard.InServiceAsync(Seed.Shackle("HM-0002"));
        var third = await yard.InServiceAsync(Seed.Shackle("HM-0003"));
        var issues = new IssueStore(yard.Database);
        Yard.Must(await issues.IssueAsync(piece.Id, "Before", "Old job", null, yard.Stamp("stores"), Cancel));
        Yard.Must(await issues.ReturnAsync(piece.Id, "", yard.Stamp("stores"), Cancel));
        Yard.Must(await yard.InspectAsync("HM-0001", InspectionKind.Periodic));
        Yard.Must(await issues.IssueAsync(piece.Id, "North crew", "Lock 9", null, yard.Stamp("stores"), Cancel));
        Yard.Must(await issues.IssueAsync(other.Id, "north-crew", "LOCK 9", null, yard.Stamp("stores"), Cancel));
        var stayed = new List<string>();
        var over = yard.Stamp("crew");
        Guid[] handed = [piece.Id, third.Id];
        foreach (var _ in new[] { "handed over", "and sent twice" })
            Yard.Must(
                await issues.HandOverAsync(handed, "South crew", "Weir", null, r => stayed.Add(r.Words), over, Cancel)
            );
        Assert.Equal("South crew", (await yard.FindAsync("HM-0001")).Issued!.Holder);
        Assert.Contains("HM-0003 is not out", Assert.Single(stayed), StringComparison.Ordinal);
        await NothingIsFoundAsync(yard);
        Yard.Must(
            await new EventStore(yard.Database).RecordAsync(
                [piece.Id, third.Id],
                GearEventKind.Shock,
                DateOnly.FromDateTime(yard.Now.UtcDateTime),
                "It dropped",
                yard.Stamp("crew"),
                Cancel
            )
        );
        var back = await new LookBackStore(yard.Database).OfAsync(piece.Id, "HM-0001", yard.Now.AddDays(1), Cancel);
        Assert.Equal(["Lock 9", "Weir"], back.Jobs.Order());
        Assert.Equal(["North crew", "South crew"], back.Holders.Order());
        Assert.Equal([("HM-0003", true), ("HM-0002", false)], back.Gear);
        Assert.NotNull(back.Since);
        Assert.Empty(await new LookBackStore(yard.Database).RetiredAsync(null, 10, Cancel));
    }

    [Fact]
    public async Task A_signed_head_finds_what_was_cut_off_or_changed_behind_the_application()
    {
        await using var yard = await Yard.OpenAsync();
        await yard.InServiceAsync(Seed.Shackle("HM-0001"));
        var heads = new TreeHeadStore(yard.Database);
        using var key = ECDsa.Create(ECCurve.NamedCurves.nistP256);
        await heads.AddKeyAsync(
            new(TreeHead.FingerprintOf(key), key.ExportSubjectPublicKeyInfoPem(), "sealed", yard.Now),
            Cancel
        );
        var head = await heads.SignAsync("Test works", key, yard.Now, again: false, Cancel);
        Assert.NotNull(head);
        Assert.Null(await heads.SignAsync("Test works", key, yard.Now, again: false, Cancel));
        var inspection = (await yard.Inspections.SignedAsync((await yard.FindAsync("HM-0001")).Id, Cancel)).Single();
        var certificate = await heads.CertificateAsync("HM-0001", inspection.Id, Cancel);
        Assert.All(CertificateDocument.Check(certificate!, head, key.ExportSubjectPublicKeyInfoPem()), s =>
            Assert.Null(s.Fault)
        );
        Assert.Null(await heads.CertificateAsync("HM-0001", Guid.NewGuid(), Cancel));
        await NothingIsFoundAsync(yard);

        // What the head stands for cut short with the entry that tells of it, the chain itself is whole: the head alone tells.
        await yard.AsOwnerAsync(
            "set session_replication_role = replica; delete from ledger where number > (select max(number) from ledger) - 2"
        );
        Assert.Null((await yard.Ledger.VerifyAsync(Cancel)).Broken);
        Assert.Contains(await new VerifyStore(yard.Database).RunAsync(yard.Now, Cancel), f =>
            f.Why.Contains("cut off", StringComparison.Ordinal)
        );
    }
}
