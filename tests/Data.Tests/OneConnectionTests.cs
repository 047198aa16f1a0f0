using Keralith.Core.Custody;
using Keralith.Core.Gear;
using Keralith.Core.Judgement;
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

/// <summary>A command asks the pool once: every store on a pool of one connection, and many at once on a small pool.</summary>
public class OneConnectionTests
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    [Fact]
    public async Task Every_command_of_every_store_needs_one_connection_alone()
    {
        await using var yard = await Yard.OpenAsync(connections: 1);
        await RegisterAndCareAsync(yard);
        await CageAsync(yard);
        await SettingsAsync(yard);
        await LiftsAsync(yard);
        Assert.Null((await yard.Ledger.VerifyAsync(Cancel)).Broken);
    }

    [Fact]
    public async Task Thirty_holds_and_hand_outs_at_once_on_a_pool_of_four_all_end()
    {
        await using var yard = await Yard.OpenAsync(connections: 4);
        var pieces = new List<Piece>();
        for (var i = 0; i < 10; i++)
            pieces.Add(await yard.InServiceAsync(Seed.Shackle($"HM-{i:0000}")));
        var issues = new IssueStore(yard.Database);
        var moves = new YardStore(yard.Database);
        var acts = pieces.SelectMany(p =>
            new[]
            {
                yard.Custody.HoldAsync(p.Id, HoldCause.Doubt, "Bent", yard.Stamp("crew"), Cancel),
                issues.IssueAsync(p.Id, "Maud", "", null, yard.Stamp("stores"), Cancel),
                moves.MoveAsync([p.Id, pieces[0].Id], 2, $"P{p.Mark}", yard.Stamp("stores"), Cancel),
            }
        );
        var results = await Task.WhenAll(acts);
        Assert.True(results.Count(r => r.Ok) >= 20);
        Assert.All(pieces, p => Assert.Equal(PieceState.Held, yard.FindAsync(p.Mark).GetAwaiter().GetResult().State));
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
        var issues = new IssueStore(yard.Database);
        Yard.Must(await issues.IssueAsync(piece.Id, "Maud", "", null, yard.Stamp("stores"), Cancel));
        Yard.Must(await issues.ReturnAsync(piece.Id, "", yard.Stamp("stores"), Cancel));
    }

    private static DateOnly Day(Yard yard) => DateOnly.FromDateTime(yard.Now.UtcDateTime);
}
