using Keralith.Core.Custody;
using Keralith.Core.People;
using Keralith.Testing;
using Xunit;

namespace Keralith.Data.Tests;

/// <summary>Lifts on record, and gear in people's hands.</summary>
public class LiftStoreTests
{
    private static readonly DateOnly Today = new(2026, 3, 3);

    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    [Fact]
    public async Task Two_people_on_one_lift_never_write_over_each_other()
    {
        await using var yard = await Yard.OpenAsync();
        var (lifts, id) = await BegunAsync(yard, "HM-0002");
        Assert.Equal(
            2,
            (await lifts.SaveAsync(id, 1, Fields("HM-0002", "first"), Seed.People["crew"], yard.Now, Cancel)).Value
        );
        var late = await lifts.SaveAsync(id, 1, Fields("HM-0002", "second"), Seed.People["stores"], yard.Now, Cancel);
        Assert.Equal(LiftStore.Conflict, late.Fault);
        Assert.Equal("first", (await lifts.GetAsync(id, Cancel))!.Name);
        Assert.False(
            (await lifts.SaveAsync(id, 2, Fields("HM-0002", "third"), Seed.People["auditor"], yard.Now, Cancel)).Ok
        );
    }

    [Fact]
    public async Task A_checklist_holds_for_the_plan_it_was_answered_on()
    {
        await using var yard = await Yard.OpenAsync();
        var (lifts, id) = await BegunAsync(yard, "HM-0002");
        var checking = yard.Stamp("crew");
        Yard.Must(
            await lifts.RecordAsync(
                id,
                1,
                "checked",
                Right.PlanLift,
                new Dictionary<string, string> { ["weight"] = "yes" },
                LiftState.Ready,
                checking,
                Cancel
            )
        );
        Assert.True(
            (
                await lifts.RecordAsync(
                    id,
                    1,
                    "checked",
                    Right.PlanLift,
                    new Dictionary<string, string>(),
                    LiftState.Ready,
                    checking,
                    Cancel
                )
            )
                .Value
                .Repeated
        );
        Assert.Equal(LiftState.Ready, (await lifts.GetAsync(id, Cancel))!.State);
        Assert.Equal(
            2,
            (await lifts.SaveAsync(id, 1, Fields("HM-0002", "heavier"), Seed.People["crew"], yard.Now, Cancel)).Value
        );
        Assert.Equal(LiftState.Planned, (await lifts.GetAsync(id, Cancel))!.State);
        Assert.Equal(1, Assert.Single(await lifts.RecordsAsync(id, Cancel)).Version);
        Assert.False(
            (
                await lifts.RecordAsync(
                    id,
                    1,
                    "signed",
                    Right.SignLift,
                    new Dictionary<string, string>(),
                    LiftState.Ready,
                    yard.Stamp("qualified"),
                    Cancel
                )
            ).Ok
        );
        Assert.False(
            (
                await lifts.RecordAsync(
                    id,
                    2,
                    "signed",
                    Right.SignLift,
                    new Dictionary<string, string>(),
                    LiftState.Ready,
                    yard.Stamp("crew"),
                    Cancel
                )
            ).Ok
        );
        Assert.Null((await yard.Ledger.VerifyAsync(Cancel)).Broken);
    }

    [Fact]
    public async Task Whoever_planned_with_a_piece_is_told_when_it_is_held()
    {
        await using var yard = await Yard.OpenAsync();
        var (lifts, id) = await BegunAsync(yard, "HM-0002");
        var notices = new NoticeStore(yard.Database);
        Assert.Empty(await notices.OpenAsync(Seed.People["crew"].Id, Cancel));
        Yard.Must(await yard.HoldAsync("stores", "HM-0002"));
        var told = Assert.Single(await notices.OpenAsync(Seed.People["crew"].Id, Cancel));
        Assert.Contains("HM-0002", told.Words, StringComparison.Ordinal);
        Assert.Equal($"/lift/{id}", told.Link);
        await notices.SeenAsync(Seed.People["crew"].Id, told.Id, yard.Now, Cancel);
        Assert.Empty(await notices.OpenAsync(Seed.People["crew"].Id, Cancel));
        Assert.Equal(id, Assert.Single(await lifts.NamingAsync("HM-0002", Cancel)).Id);
    }

    [Fact]
    public async Task Gear_goes_out_to_a_checked_lift_only_and_comes_back_with_a_look()
    {
        await using var yard = await Yard.OpenAsync();
        var (lifts, id) = await BegunAsync(yard, "HM-0002");
        var piece = await yard.FindAsync("HM-0002");
        var issues = new IssueStore(yard.Database, yard.Sites);
        Assert.Contains(
            "not ready",
            (await lifts.IssueAsync(id, 1, [piece.Id], "Maud", null, Today, yard.Stamp("stores"), Cancel)).Fault,
            StringComparison.Ordinal
        );
        Yard.Must(
            await lifts.RecordAsync(
                id,
                1,
                "checked",
                Right.PlanLift,
                new Dictionary<string, string>(),
                LiftState.Ready,
                yard.Stamp("crew"),
                Cancel
            )
        );
        Assert.False((await lifts.IssueAsync(id, 1, [piece.Id], "Maud", null, Today, yard.Stamp("crew"), Cancel)).Ok);
        Yard.Must(
            await lifts.IssueAsync(id, 1, [piece.Id], "Maud", Today.AddDays(2), Today, yard.Stamp("stores"), Cancel)
        );
        Assert.Equal(
            ("Maud", "Lock 9"),
            ((await yard.FindAsync("HM-0002")).Issued!.Holder, (await yard.FindAsync("HM-0002")).Issued!.Job)
        );
        Assert.Contains(
            "out with Maud",
            (await issues.IssueAsync(piece.Id, "Osric", "", null, Today, yard.Stamp("stores"), Cancel)).Fault,
            StringComparison.Ordinal
        );
        Assert.False(
            (await lifts.SaveAsync(id, 1, Fields("HM-0002", "changed"), Seed.People["crew"], yard.Now, Cancel)).Ok
        );

        Yard.Must(await issues.ReturnAsync(piece.Id, "pin hard to turn", yard.Stamp("stores"), Cancel));
        var back = await yard.FindAsync("HM-0002");
        Assert.Null(back.Issued);
        Assert.Equal(PieceState.Held, back.State);
        Assert.Contains("pin hard to turn", back.OpenHolds[0], StringComparison.Ordinal);
        Assert.False((await issues.ReturnAsync(piece.Id, "", yard.Stamp("stores"), Cancel)).Ok);
        Assert.Null((await yard.Ledger.VerifyAsync(Cancel)).Broken);
    }

    [Fact]
    public async Task One_piece_that_may_not_be_used_is_never_handed_out()
    {
        await using var yard = await Yard.OpenAsync();
        await yard.InServiceAsync(Seed.Shackle("HM-0002"));
        Yard.Must(await yard.HoldAsync("crew", "HM-0002"));
        var piece = await yard.FindAsync("HM-0002");
        Assert.Contains(
            "may not be used",
            (
                await new IssueStore(yard.Database, yard.Sites).IssueAsync(
                    piece.Id,
                    "Maud",
                    "",
                    null,
                    Today,
                    yard.Stamp("stores"),
                    Cancel
                )
            ).Fault,
            StringComparison.Ordinal
        );
        Assert.Null((await yard.FindAsync("HM-0002")).Issued);
    }

    [Fact]
    public async Task Two_storekeepers_hand_out_one_piece_once()
    {
        await using var yard = await Yard.OpenAsync();
        await yard.InServiceAsync(Seed.Shackle("HM-0002"));
        var piece = await yard.FindAsync("HM-0002");
        var issues = new IssueStore(yard.Database, yard.Sites);
        var stamps = Enumerable.Range(0, 6).Select(_ => yard.Stamp("stores")).ToList();
        var results = await Task.WhenAll(
            stamps.Select((s, i) => issues.IssueAsync(piece.Id, $"Person {i}", "", null, Today, s, Cancel))
        );
        Assert.Single(results, r => r.Ok);
    }

    private static async Task<(LiftStore Lifts, Guid Id)> BegunAsync(Yard yard, string mark)
    {
        await yard.InServiceAsync(Seed.Shackle(mark));
        var lifts = new LiftStore(yard.Database, yard.Sites);
        var stamp = yard.Stamp("crew");
        Yard.Must(await lifts.BeginAsync(Fields(mark, "Gate leaf"), false, stamp, Cancel));
        return (lifts, stamp.Submission);
    }

    private static Dictionary<string, string> Fields(string mark, string name) =>
        new()
        {
            ["name"] = name,
            ["job"] = "Lock 9",
            ["piece-1-mark"] = mark,
            ["piece-1-place"] = "above",
        };
}
