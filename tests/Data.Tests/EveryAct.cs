using System.Security.Cryptography;
using Keralith.Core.Custody;
using Keralith.Core.Gear;
using Keralith.Core.Judgement;
using Keralith.Core.Ledger;
using Keralith.Core.Lifts;
using Keralith.Core.People;
using Keralith.Core.Quantities;
using Keralith.Core.Register;
using Keralith.Core.Schedule;
using Keralith.Core.Sites;
using Keralith.Data.Exchange;
using Keralith.Testing;
using Xunit;

namespace Keralith.Data.Tests;

/// <summary>Every command of every store, once: a works in which every table of the record holds something.</summary>
internal static class EveryAct
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    public static async Task DoneAsync(Yard yard)
    {
        await RegisterAndCareAsync(yard);
        await CageAsync(yard);
        await SettingsAsync(yard);
        await PeopleAsync(yard);
        await LiftsAsync(yard);
        await AwayAsync(yard);
        await TakenOverAsync(yard);
        await RoundsAsync(yard);
        await RecallsAsync(yard);
        await HeadsAsync(yard);
    }

    private static async Task PeopleAsync(Yard yard)
    {
        var accounts = new AccountStore(yard.Database);
        var bo = Accounts.Read("bo", "Bo", ["crew"], "bo@hollowmere.invalid").Value;
        Yard.Must(await accounts.InviteAsync(bo, "secret", yard.Stamp("admin"), Cancel));
        Yard.Must(await accounts.ChangeAsync("bo", "Bo Reed", Role.Stores, "", yard.Stamp("admin"), Cancel));
        Yard.Must(await accounts.DisableAsync("bo", yard.Stamp("admin"), Cancel));
        Yard.Must(await accounts.EnableAsync("bo", yard.Stamp("admin"), Cancel));
        Yard.Must(await new FactorStore(yard.Database).SetAsync([1, 2, 3], 7, ["one"], yard.Stamp("admin"), Cancel));
        var stores = new StoreKeeping(yard.Database);
        var entry = new SiteEntry("Upper Works", [RuleBookShelf.Asme], TimeZoneInfo.Utc);
        Yard.Must(await stores.AddSiteAsync(entry, yard.Stamp("admin"), Cancel));
    }

    private static async Task AwayAsync(Yard yard)
    {
        var store = new AwayStore(yard.Database);
        var piece = await yard.InServiceAsync(Seed.Shackle("HM-0040"));
        var photo = new NewFile(FileKind.Photo, "Bow", null, "image/jpeg", [1, 2, 3], [1]);
        Yard.Must(await yard.Custody.HoldAsync(piece.Id, HoldCause.Doubt, "Bent", yard.Stamp("crew"), Cancel, photo));
        piece = await yard.FindAsync("HM-0040");
        Yard.Must(
            await store.SendAsync(
                piece.Id,
                piece.Version,
                AwayFor.Test,
                "The test works",
                "Try it",
                null,
                yard.Stamp("stores"),
                Cancel
            )
        );
        piece = await yard.FindAsync("HM-0040");
        Yard.Must(await store.TakeBackAsync(piece.Id, piece.Version, "Tried", false, yard.Stamp("stores"), Cancel));
        piece = await yard.FindAsync("HM-0040");
        var test = new ProofTest(
            ProofSubject.Leg,
            Mass.Parse("13 short ton"),
            Day(yard),
            "The test works",
            "Cell 9",
            Day(yard).AddYears(1),
            "C-1",
            true
        );
        Yard.Must(await store.TestAsync(piece.Id, piece.Version, test, yard.Stamp("inspector"), Cancel));
        Yard.Must(await store.LockAsync(piece.Id, true, "Asked for", yard.Stamp("inspector"), Cancel));
        Yard.Must(await store.LockAsync(piece.Id, false, "Looked at", yard.Stamp("qualified"), Cancel));
        Yard.Must(await store.LockAsync(piece.Id, true, "Asked for again", yard.Stamp("inspector"), Cancel));
        Yard.Must(await new CodeStore(yard.Database).BindAsync(piece.Id, "rfid-77", yard.Stamp("stores"), Cancel));
    }

    private static async Task TakenOverAsync(Yard yard)
    {
        var form = Seed.Shackle("HM-0050");
        (form["lastPeriodic"], form["lastInspector"], form["evidence"]) = ("2026-02-01", "Somebody", "survey 3");
        form["inServiceSince"] = "2020-01-01";
        var piece = await yard.RegisterAsync(form);
        var files = new FileStore(yard.Database);
        var report = new NewFile(FileKind.Report, "survey 3", new(2026, 2, 1), "application/pdf", [1, 2, 3], null);
        Yard.Must(await files.AttachAsync([piece.Id], report, yard.Stamp("stores"), Cancel));
        Yard.Must(await files.AcceptReportsAsync([piece.Id], yard.Stamp("inspector"), Cancel));
        piece = await yard.FindAsync("HM-0050");
        var changed = piece.Entry(new Dictionary<BaselineKey, BaselineFigure>()) with
        {
            ServiceClass = ServiceClass.Severe,
        };
        Yard.Must(
            await yard.Pieces.EditAsync(
                piece.Id,
                piece.Version,
                changed,
                new("Works at the quench", null),
                yard.Stamp("qualified"),
                Cancel
            )
        );
        var (draft, version) = await yard.DraftAsync("HM-0050", InspectionKind.Periodic);
        var photo = new NewFile(FileKind.Photo, "Body", null, "image/jpeg", [4, 5, 6], [2]);
        Yard.Must(await files.AttachToDraftAsync(draft, "body", "any.doubt", photo, yard.Stamp("inspector"), Cancel));
        Yard.Must(await yard.Signing.SignAsync(draft, new(version, Day(yard)), yard.Stamp("inspector"), Cancel));
    }

    private static async Task RoundsAsync(Yard yard)
    {
        var rounds = new RoundStore(yard.Database);
        var (piece, begun) = (await yard.FindAsync("HM-0001"), yard.Stamp("stores"));
        Yard.Must(await rounds.SearchAsync(begun.Submission, [piece.Id], begun, Cancel));
        Yard.Must(await rounds.SeeAsync(begun.Submission, [("HM-0001", piece.Id)], "B7", yard.Stamp("stores"), Cancel));
        Yard.Must(await rounds.CloseAsync(begun.Submission, yard.Stamp("stores"), Cancel));
    }

    private static async Task RecallsAsync(Yard yard)
    {
        var recalls = new RecallStore(yard.Database);
        var match = new RecallMatch("Orrery Chainworks", null, null, null, null, null, null);
        var set = yard.Stamp("qualified");
        Yard.Must(await recalls.SetAsync(match, "Cracks", "Notice 4", set, Cancel));
        Yard.Must(await recalls.EndAsync(set.Submission, "Sound", yard.Stamp("qualified"), Cancel));
        Yard.Must(await recalls.SetAsync(match, "Cracks after all", "Notice 5", yard.Stamp("admin"), Cancel));
    }

    private static async Task HeadsAsync(Yard yard)
    {
        var heads = new TreeHeadStore(yard.Database);
        using var key = ECDsa.Create(ECCurve.NamedCurves.nistP256);
        await heads.AddKeyAsync(
            new(TreeHead.FingerprintOf(key), key.ExportSubjectPublicKeyInfoPem(), "sealed", yard.Now),
            Cancel
        );
        await new VerifyStore(yard.Database).SealAsync(yard.Now, Cancel);
        Assert.NotNull(await heads.SignAsync("Test works", key, yard.Now, again: false, Cancel));
    }

    private static async Task RegisterAndCareAsync(Yard yard)
    {
        var store = new YardStore(yard.Database);
        var shackle = await yard.InServiceAsync(Seed.Shackle("HM-0001"));
        var form = Seed.Shackle("HM-0001");
        form["notes"] = "Looked over";
        var entry = PieceEntryReader.Read(form).Entry!;
        Yard.Must(
            await yard.Pieces.EditAsync(
                shackle.Id,
                shackle.Version,
                entry,
                new("Read again", null),
                yard.Stamp("stores"),
                Cancel
            )
        );
        Yard.Must(await store.MoveAsync([shackle.Id], 2, "B7", yard.Stamp("stores"), Cancel));
        Yard.Must(await store.LoseAsync(shackle.Id, "Not on its peg", yard.Stamp("crew"), Cancel));
        Yard.Must(await store.FindAsync(shackle.Id, "Under the bench", yard.Stamp("crew"), Cancel));
        var lot = Seed.Shackle("HM-0002");
        lot["lotCount"] = "12";
        var bin = await yard.RegisterAsync(lot);
        Yard.Must(await store.CountLotAsync(bin.Id, bin.Version, 12, 1, "Bent", yard.Stamp("stores"), Cancel));
        bin = await yard.FindAsync("HM-0002");
        Yard.Must(await store.SplitLotAsync(bin.Id, bin.Version, "HM-0003", "Spread", yard.Stamp("stores"), Cancel));
        var sling = await yard.InServiceAsync(Seed.Sling("HM-0004"));
        var figures = new Dictionary<BaselineKey, BaselineFigure>
        {
            [new("leg-1/hook", "hook.throat")] = new(Length.Parse("1-1/2 in"), BaselineBasis.New, null),
            [new("leg-1/hook", "hook.wear")] = new(Length.Parse("1 in"), BaselineBasis.New, null),
        };
        var part = new NewPart("leg-1/hook", "hook", "The maker", "Opened", figures);
        Yard.Must(await store.ReplacePartAsync(sling.Id, sling.Version, part, yard.Stamp("qualified"), Cancel));
        var file = new NewFile(FileKind.Report, "Report", null, "application/pdf", "%PDF-1.4"u8.ToArray(), null);
        Yard.Must(await new FileStore(yard.Database).AttachAsync([sling.Id], file, yard.Stamp("stores"), Cancel));
        var views = new ViewStore(yard.Database);
        Yard.Must(await views.KeepAsync("Slings", "q=sling", yard.Stamp("stores"), Cancel));
        var sites = new SiteStore(yard.Database);
        var import = new RegisterImport(yard.Database, sites, new(yard.Database, sites));
        var table = Table.Read("mark,family,store\nHM-0900,shackle,Basin Yard\n"u8.ToArray(), Cancel).Value;
        var plan = await import.PlanAsync(table, RegisterImport.Mapping(table), Role.Stores, Cancel);
        Assert.Equal(1, (await import.LandAsync(plan.Value, true, yard.Stamp("stores"), null, Cancel)).Value);
    }

    private static async Task CageAsync(Yard yard)
    {
        var piece = await yard.InServiceAsync(Seed.Shackle("HM-0010"));
        Yard.Must(await yard.Custody.HoldAsync(piece.Id, HoldCause.Marking, "Tag gone", yard.Stamp("crew"), Cancel));
        piece = await yard.FindAsync("HM-0010");
        Yard.Must(
            await yard.Custody.RetagAsync(
                piece.Id,
                piece.Version,
                "Serial",
                "The maker",
                yard.Stamp("qualified"),
                Cancel
            )
        );
        Yard.Must(await yard.InspectAsync("HM-0010", InspectionKind.Periodic));
        Yard.Must(await yard.ReleaseAsync("qualified", "HM-0010"));
        var corrections = new CorrectionStore(yard.Database);
        piece = await yard.FindAsync("HM-0010");
        var records = await yard.Inspections.SignedAsync(piece.Id, Cancel);
        Assert.True((await corrections.OpenAsync(records[0], piece, "Wrong day", yard.Stamp("inspector"), Cancel)).Ok);
        Yard.Must(await corrections.WithdrawAsync(records[1].Id, "Never made", yard.Stamp("qualified"), Cancel));
        var (draft, version) = await yard.DraftAsync("HM-0010", InspectionKind.Periodic);
        Yard.Must(await yard.Signing.OfferAsync(draft, new(version, Day(yard)), yard.Stamp("trainee"), Cancel));
        Yard.Must(
            await yard.Signing.HandBackAsync(draft, version + 1, "Measure again", yard.Stamp("inspector"), Cancel)
        );
        Yard.Must(await yard.Signing.SignAsync(draft, new(version + 2, Day(yard)), yard.Stamp("inspector"), Cancel));
        var events = new EventStore(yard.Database);
        Yard.Must(
            await events.RecordAsync([piece.Id], GearEventKind.Shock, Day(yard), "It fell", yard.Stamp("crew"), Cancel)
        );
        Yard.Must(
            await new LookBackStore(yard.Database).TakeAsync(
                piece.Id,
                "The driver",
                Day(yard),
                "It creaked.",
                yard.Stamp("inspector"),
                Cancel
            )
        );
        var rights = new PutRightStore(yard.Database);
        var wrong = (await rights.OfAsync(piece.Id, Cancel))[0];
        Yard.Must(await rights.PutAsync(piece.Id, wrong.Id, new("Another piece"), yard.Stamp("qualified"), Cancel));
        piece = await yard.FindAsync("HM-0010");
        Yard.Must(
            await yard.Custody.CondemnAsync(piece.Id, piece.Version, "Worn out", yard.Stamp("qualified"), Cancel)
        );
        piece = await yard.FindAsync("HM-0010");
        Yard.Must(
            await yard.Custody.DestroyAsync(
                piece.Id,
                piece.Version,
                "Cut",
                Seed.People["stores"],
                "",
                yard.Stamp("qualified"),
                Cancel
            )
        );
        var form = Seed.Shackle("HM-0011");
        form["serial"] = "in its place";
        Yard.Must(
            await new ReplacementStore(yard.Database).RegisterAsync(
                PieceEntryReader.Read(form).Entry!,
                Guid.NewGuid(),
                "HM-0010",
                yard.Stamp("stores"),
                Cancel
            )
        );
    }

    private static async Task SettingsAsync(Yard yard)
    {
        var settings = new SettingsStore(yard.Database);
        var site = await yard.Sites.GetAsync(Cancel);
        var change = new SiteChange(
            site.Version,
            [RuleBookShelf.Asme],
            site.Editions,
            0.7m,
            SitePolicies.None,
            "Trial"
        );
        Yard.Must(await settings.ChangeSiteAsync(change, yard.Stamp("admin"), Cancel));
        var limit = new EnteredLimit(LimitOwner.Site, "", "", "hook.throat", "4 %", "Policy");
        Yard.Must(await settings.SetLimitAsync(limit, yard.Stamp("qualified"), Cancel));
        var asked = new EnteredProofAsk("", "", "hook", 12, "Policy");
        Yard.Must(await new ProofAskStore(yard.Database).SetAsync(asked, yard.Stamp("qualified"), Cancel));
        var question = new EnteredQuestion
        {
            Family = "wire-rope-sling",
            Part = "tag",
            Kind = "see",
            AskedIn = "frequent",
            OnFault = "hold",
            Title = "Repair label",
            Question = "The repair label is missing or can't be read.",
            Look = "On the master link, behind the tag.",
            Source = "Works policy 4",
            Reason = "Repairs must be told from the outside",
        };
        var questions = new QuestionStore(yard.Database);
        Yard.Must(await questions.SetAsync(question, yard.Stamp("qualified"), Cancel));
        var id = (await yard.Sites.GetAsync(Cancel)).Questions[0].Id;
        Yard.Must(await questions.WithdrawAsync(site.Id, id, "Not needed", yard.Stamp("qualified"), Cancel));
        question = question with { Title = "Second label" };
        Yard.Must(await questions.SetAsync(question, yard.Stamp("qualified"), Cancel));
        var scheme = SeasonSchemeReader
            .Read("V heather ring\nM moss dots", 3, new(2026, 1, 1), 14, false, ["heather", "moss"])
            .Value;
        Yard.Must(
            await new SeasonStore(yard.Database).SetAsync(
                site.Id,
                site.Version + 1,
                scheme,
                "New",
                yard.Stamp("qualified"),
                Cancel
            )
        );
        var painted = await yard.InServiceAsync(Seed.Shackle("HM-0020"));
        Yard.Must(await new YardStore(yard.Database).PaintAsync([painted.Id], yard.Stamp("inspector"), Cancel));
        var leave = new Authorisation(FamilyGroup.Sling, Day(yard).AddYears(1));
        Yard.Must(
            await new PeopleStore(yard.Database).AuthoriseAsync(
                Seed.People["inspector2"].Id,
                leave,
                yard.Stamp("admin"),
                Cancel
            )
        );
        var tokens = new TokenStore(yard.Database);
        var stamp = yard.Stamp("admin");
        Yard.Must(
            await tokens.AddAsync("Scanner", TokenStore.Make(), Day(yard).AddDays(30), Role.Admin, stamp, Cancel)
        );
        Yard.Must(await tokens.RevokeAsync(stamp.Submission, yard.Stamp("admin"), Cancel));
        var instruments = new InstrumentStore(yard.Database);
        Yard.Must(
            await instruments.EnterAsync("Caliper 7", "0.02 mm", Day(yard).AddYears(1), yard.Stamp("inspector"), Cancel)
        );
    }

    private static async Task LiftsAsync(Yard yard)
    {
        var lifts = new LiftStore(yard.Database);
        var stamp = yard.Stamp("crew");
        Yard.Must(await lifts.BeginAsync(new Dictionary<string, string> { ["name"] = "Gate" }, false, stamp, Cancel));
        var fields = new Dictionary<string, string> { ["name"] = "Gate leaf" };
        Assert.Equal(
            2,
            (await lifts.SaveAsync(stamp.Submission, 1, fields, Seed.People["crew"], yard.Now, Cancel)).Value
        );
        Yard.Must(await lifts.StepAsync(stamp.Submission, 2, new CallOffLift("Wind"), yard.Stamp("crew"), Cancel));
        var piece = await yard.InServiceAsync(Seed.Shackle("HM-0030"));
        var sling = Seed.Sling("HM-0031");
        (sling["legs"], sling["ratedLoad"], sling["ratedHitch"]) = ("1", "7100 lb", "vertical");
        sling.Remove("ratedFor");
        await yard.InServiceAsync(sling);
        await CheckedAsync(yard, lifts);
        var issues = new IssueStore(yard.Database);
        Yard.Must(await issues.IssueAsync(piece.Id, "Maud", "", null, yard.Stamp("stores"), Cancel));
        Yard.Must(await issues.ReturnAsync(piece.Id, "", yard.Stamp("stores"), Cancel));
    }

    private static async Task CheckedAsync(Yard yard, LiftStore lifts)
    {
        var fields = new Dictionary<string, string>
        {
            ["name"] = "Gate post",
            ["job"] = "Lock 9",
            ["basis"] = "known",
            ["weight"] = "400 kg",
            ["hitch"] = "vertical",
            ["stand"] = "alike",
            ["legs"] = "1",
            ["angle"] = "90",
            ["piece-1-mark"] = "HM-0031",
            ["piece-1-place"] = "leg-1",
            ["piece-2-mark"] = "HM-0030",
            ["piece-2-place"] = "leg-1",
            ["piece-2-pull"] = "0",
        };
        var stamp = yard.Stamp("crew");
        Yard.Must(await lifts.BeginAsync(fields, false, stamp, Cancel));
        var all = LiftChecklist.Every.Select(i => i.Code).ToHashSet();
        Yard.Must(await lifts.StepAsync(stamp.Submission, 1, new CheckLift(all, null), yard.Stamp("crew"), Cancel));
    }

    private static DateOnly Day(Yard yard) => DateOnly.FromDateTime(yard.Now.UtcDateTime);
}
