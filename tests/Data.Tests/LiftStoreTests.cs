using Keralith.Core.Custody;
using Keralith.Core.Lifts;
using Keralith.Testing;
using Xunit;

namespace Keralith.Data.Tests;

/// <summary>Lifts on record, and gear in people's hands.</summary>
public class LiftStoreTests
{
    private static readonly DateOnly Today = new(2026, 3, 3);

    private static readonly IReadOnlySet<string> All = LiftChecklist.Every.Select(i => i.Code).ToHashSet();

    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    [Fact]
    public async Task Two_people_on_one_lift_never_write_over_each_other()
    {
        await using var yard = await Yard.OpenAsync();
        var lift = await BegunAsync(yard);
        Assert.Equal(2, (await lift.SaveAsync(1, "first", "crew")).Value);
        var late = await lift.SaveAsync(1, "second", "stores");
        Assert.Equal(RefusalKind.Conflict, late.Refusal!.Kind);
        Assert.Equal("first", (await lift.RowAsync()).Name);
        Assert.Equal(RefusalKind.Forbidden, (await lift.SaveAsync(2, "third", "auditor")).Refusal!.Kind);
    }

    [Fact]
    public async Task Everybody_saves_on_one_version_at_once_and_one_is_kept()
    {
        await using var yard = await Yard.OpenAsync();
        var lift = await BegunAsync(yard);
        var saved = await Task.WhenAll(Enumerable.Range(0, 6).Select(i => lift.SaveAsync(1, $"name {i}", "crew")));
        Assert.Single(saved, s => s.Ok);
        Assert.Equal(2, (await lift.RowAsync()).Version);
    }

    [Fact]
    public async Task A_checklist_holds_for_the_plan_it_was_answered_on()
    {
        await using var yard = await Yard.OpenAsync();
        var lift = await BegunAsync(yard);
        Assert.Contains(
            "Not answered",
            (await lift.StepAsync(1, new CheckLift(new HashSet<string> { "weight" }, null), "crew")).Fault,
            StringComparison.Ordinal
        );
        Assert.Equal(LiftState.Planned, (await lift.RowAsync()).State);
        var stamp = yard.Stamp("crew");
        Yard.Must(await lift.Store.StepAsync(lift.Id, 1, new CheckLift(All, null), stamp, Cancel));
        Assert.True((await lift.Store.StepAsync(lift.Id, 1, new CheckLift(All, null), stamp, Cancel)).Value.Repeated);
        Assert.Equal(LiftState.Ready, (await lift.RowAsync()).State);
        Assert.Equal(2, (await lift.SaveAsync(1, "heavier", "crew")).Value);
        Assert.Equal(LiftState.Planned, (await lift.RowAsync()).State);
        Assert.Equal(RefusalKind.Conflict, (await lift.StepAsync(1, new CheckLift(All, null), "crew")).Refusal!.Kind);
        Assert.Contains(
            "not ready",
            (await lift.StepAsync(2, new HandOutLift("Maud", null), "stores")).Fault,
            StringComparison.Ordinal
        );
        Assert.Equal(1, Assert.Single(await lift.Store.RecordsAsync(lift.Id, Cancel)).Version);
        Assert.Null((await yard.Ledger.VerifyAsync(Cancel)).Broken);
    }

    [Theory]
    [InlineData("delete from lift_record")]
    [InlineData("update lift_record set data = data || '{\"note\": \"another\"}'")]
    [InlineData("update lift_record set kind = 'signed'")]
    [InlineData(
        "insert into lift_record select gen_random_uuid(), lift_id, 'signed', lift_version, '{}', at, by_person from lift_record"
    )]
    public async Task A_step_of_a_lift_and_its_entry_say_the_same(string sql)
    {
        await using var yard = await Yard.OpenAsync(isTold: false);
        var lift = await BegunAsync(yard);
        Yard.Must(await lift.StepAsync(1, new CheckLift(All, null), "crew"));
        var verify = new VerifyStore(yard.Database);
        Assert.Empty(await verify.RunAsync(yard.Now, Cancel));
        await yard.AsOwnerAsync($"set session_replication_role = replica; {sql}");
        Assert.Contains(await verify.RunAsync(yard.Now, Cancel), f =>
            f.Why.Contains("do not say the same of one step", StringComparison.Ordinal)
        );
    }

    [Fact]
    public async Task A_critical_lift_is_out_only_after_a_qualified_persons_signature()
    {
        await using var yard = await Yard.OpenAsync();
        var lift = await BegunAsync(yard, ("critical", "true"));
        Yard.Must(await lift.StepAsync(1, new CheckLift(All, null), "crew"));
        Assert.Equal(LiftState.Checked, (await lift.RowAsync()).State);
        Assert.False((await lift.StepAsync(1, new HandOutLift("Maud", null), "stores")).Ok);
        Assert.Equal(RefusalKind.Forbidden, (await lift.StepAsync(1, new SignLift(), "inspector")).Refusal!.Kind);
        Yard.Must(await lift.StepAsync(1, new SignLift(), "qualified"));
        Yard.Must(await lift.StepAsync(1, new HandOutLift("Maud", null), "stores"));
        Assert.Equal(LiftState.Out, (await lift.RowAsync()).State);
    }

    [Fact]
    public async Task A_plan_that_overloads_a_piece_is_never_checked_by_any_path()
    {
        await using var yard = await Yard.OpenAsync();
        var lift = await BegunAsync(yard, ("weight", "9000 kg"));
        Assert.Contains(
            "does not stand",
            (await lift.StepAsync(1, new CheckLift(All, null), "crew")).Fault,
            StringComparison.Ordinal
        );
        foreach (
            var step in new LiftStep[]
            {
                new SignLift(),
                new HandOutLift("Maud", null),
                new TryLift(true, false, null, null),
                new EndLift(null),
            }
        )
            Assert.False((await lift.StepAsync(1, step, "qualified")).Ok, step.Code);
        Assert.Equal(LiftState.Planned, (await lift.RowAsync()).State);
    }

    [Fact]
    public async Task A_lift_that_is_out_is_never_checked_again_nor_changed_and_ends_after_a_good_trial_lift_alone()
    {
        await using var yard = await Yard.OpenAsync();
        var lift = await OutAsync(yard);
        Assert.False((await lift.StepAsync(1, new CheckLift(All, null), "crew")).Ok);
        Assert.False((await lift.SaveAsync(1, "changed", "crew")).Ok);
        Assert.False((await lift.StepAsync(1, new EndLift("Down"), "crew")).Ok);
        Yard.Must(await lift.StepAsync(1, new TryLift(true, false, null, null), "crew"));
        Yard.Must(await lift.StepAsync(1, new EndLift("Down"), "crew"));
        Assert.Equal(LiftState.Done, (await lift.RowAsync()).State);
        Assert.False((await lift.StepAsync(1, new CallOffLift("Late"), "crew")).Ok);
        Assert.Null((await yard.Ledger.VerifyAsync(Cancel)).Broken);
    }

    [Fact]
    public async Task A_trial_lift_that_was_not_good_goes_back_to_planning_and_its_gear_need_not_be_handed_out_again()
    {
        await using var yard = await Yard.OpenAsync();
        var lift = await OutAsync(yard);
        Assert.False((await lift.StepAsync(1, new TryLift(false, false, null, null), "crew")).Ok);
        Yard.Must(await lift.StepAsync(1, new TryLift(true, true, null, "The choke slipped"), "crew"));
        var back = await lift.RowAsync();
        Assert.Equal((LiftState.Planned, 2), (back.State, back.Version));
        Assert.False((await lift.StepAsync(2, new EndLift(null), "crew")).Ok);
        Assert.False((await lift.StepAsync(2, new HandOutLift("Maud", null), "stores")).Ok);
        Yard.Must(await lift.StepAsync(2, new CheckLift(All, null), "crew"));
        Yard.Must(await lift.StepAsync(2, new HandOutLift("Maud", null), "stores"));
        Assert.Equal("Maud", (await yard.FindAsync("HM-0002")).Issued!.Holder);
        Yard.Must(await lift.StepAsync(2, new TryLift(true, false, null, null), "crew"));
    }

    [Fact]
    public async Task A_trial_lift_waits_for_whoever_is_calling_the_lift_off_and_then_finds_it_called_off()
    {
        await using var yard = await Yard.OpenAsync();
        var lift = await OutAsync(yard);
        await using var connection = await yard.Database.OpenAsync(Cancel);
        await using var calling = await connection.BeginTransactionAsync(Cancel);
        await using (
            var off = new Npgsql.NpgsqlCommand("update lift set state = 'called-off' where id = $1", connection)
        )
        {
            off.Parameters.Add(new() { Value = lift.Id });
            await off.ExecuteNonQueryAsync(Cancel);
        }

        var trying = lift.StepAsync(1, new TryLift(true, false, null, null), "crew");
        await yard.UntilSomebodyWaitsAsync();
        await calling.CommitAsync(Cancel);
        Assert.False((await trying).Ok);
        Assert.Equal(LiftState.CalledOff, (await lift.RowAsync()).State);
    }

    [Fact]
    public async Task A_piece_held_while_it_is_out_stops_the_lift()
    {
        await using var yard = await Yard.OpenAsync();
        var lift = await OutAsync(yard);
        Yard.Must(await yard.HoldAsync("crew", "HM-0002"));
        Assert.False((await lift.StepAsync(1, new TryLift(true, false, null, null), "crew")).Ok);
        Yard.Must(await lift.StepAsync(1, new CallOffLift("Its shackle is on hold"), "crew"));
        Assert.Equal(LiftState.CalledOff, (await lift.RowAsync()).State);
        Assert.Empty(await NamingAsync(yard, "HM-0002"));
    }

    private static async Task<List<LiftRow>> NamingAsync(Yard yard, string mark)
    {
        var piece = (await yard.Pieces.FindAsync(mark, Cancel))!;
        return await yard.Database.AskAsync(t => LiftStore.Naming(t, piece.Id), Cancel);
    }

    [Fact]
    public async Task An_arrangement_to_begin_from_has_no_life_of_its_own()
    {
        await using var yard = await Yard.OpenAsync();
        await yard.InServiceAsync(Seed.Shackle("HM-0002"));
        var store = new LiftStore(yard.Database);
        var stamp = yard.Stamp("crew");
        Yard.Must(await store.BeginAsync(Fields("HM-0002", "Template"), true, stamp, Cancel));
        var checking = await store.StepAsync(stamp.Submission, 1, new CheckLift(All, null), yard.Stamp("crew"), Cancel);
        Assert.Contains("begin a lift from it", checking.Fault, StringComparison.Ordinal);
    }

    [Fact]
    public async Task Whoever_planned_with_a_piece_is_told_when_it_is_held()
    {
        await using var yard = await Yard.OpenAsync();
        var lift = await BegunAsync(yard);
        var notices = new NoticeStore(yard.Database);
        Assert.Empty(await notices.OpenAsync(Seed.People["crew"].Id, Cancel));
        Yard.Must(await yard.HoldAsync("stores", "HM-0002"));
        var told = Assert.Single(await notices.OpenAsync(Seed.People["crew"].Id, Cancel));
        Assert.Contains("HM-0002", told.Words, StringComparison.Ordinal);
        Assert.Equal($"/lift/{lift.Id}", told.Link);
        await notices.SeenAsync(Seed.People["crew"].Id, told.Id, yard.Now, Cancel);
        Assert.Empty(await notices.OpenAsync(Seed.People["crew"].Id, Cancel));
        Assert.Equal(lift.Id, Assert.Single(await NamingAsync(yard, "HM-0002")).Id);
    }

    [Fact]
    public async Task Who_has_a_piece_and_who_handed_it_out_are_told_that_it_is_on_hold()
    {
        await using var yard = await Yard.OpenAsync();
        var piece = await yard.InServiceAsync(Seed.Shackle("HM-0001"));
        var holder = Seed.People["crew"];
        Yard.Must(
            await new IssueStore(yard.Database).IssueAsync(
                piece.Id,
                $" {holder.Name.ToUpperInvariant()} ",
                "",
                null,
                yard.Stamp("stores"),
                Cancel
            )
        );
        Yard.Must(await yard.Custody.HoldAsync(piece.Id, HoldCause.Doubt, "Bent", yard.Stamp("inspector"), Cancel));
        var notices = new NoticeStore(yard.Database);
        Assert.Contains(
            "out in your name, is on hold: Bent",
            Assert.Single(await notices.OpenAsync(holder.Id, Cancel)).Words,
            StringComparison.Ordinal
        );
        Assert.Contains(
            "you handed out to",
            Assert.Single(await notices.OpenAsync(Seed.People["stores"].Id, Cancel)).Words,
            StringComparison.Ordinal
        );

        // Whoever holds it knows.
        Assert.Empty(await notices.OpenAsync(Seed.People["inspector"].Id, Cancel));
    }

    [Fact]
    public async Task Gear_goes_out_with_its_lift_and_comes_back_with_a_look()
    {
        await using var yard = await Yard.OpenAsync();
        var lift = await BegunAsync(yard);
        var piece = await yard.FindAsync("HM-0002");
        var issues = new IssueStore(yard.Database);
        Yard.Must(await lift.StepAsync(1, new CheckLift(All, null), "crew"));
        Assert.False((await lift.StepAsync(1, new HandOutLift("Maud", null), "crew")).Ok);
        Assert.False((await lift.StepAsync(1, new HandOutLift("Maud", new(2026, 3, 1)), "stores")).Ok);
        Assert.False((await lift.StepAsync(1, new HandOutLift(" ", null), "stores")).Ok);
        Yard.Must(await lift.StepAsync(1, new HandOutLift("Maud", Today.AddDays(2)), "stores"));
        var issued = (await yard.FindAsync("HM-0002")).Issued!;
        Assert.Equal(("Maud", "Lock 9"), (issued.Holder, issued.Job));
        Assert.Contains(
            "out with Maud",
            (await issues.IssueAsync(piece.Id, "Osric", "", null, yard.Stamp("stores"), Cancel)).Fault,
            StringComparison.Ordinal
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
        var issued = await new IssueStore(yard.Database).IssueAsync(
            piece.Id,
            "Maud",
            "",
            null,
            yard.Stamp("stores"),
            Cancel
        );
        Assert.Contains("may not be used", issued.Fault, StringComparison.Ordinal);
        Assert.Null((await yard.FindAsync("HM-0002")).Issued);
    }

    [Fact]
    public async Task Two_storekeepers_hand_out_one_piece_once()
    {
        await using var yard = await Yard.OpenAsync();
        await yard.InServiceAsync(Seed.Shackle("HM-0002"));
        var piece = await yard.FindAsync("HM-0002");
        var issues = new IssueStore(yard.Database);
        var stamps = Enumerable.Range(0, 6).Select(_ => yard.Stamp("stores")).ToList();
        var results = await Task.WhenAll(
            stamps.Select((s, i) => issues.IssueAsync(piece.Id, $"Person {i}", "", null, s, Cancel))
        );
        Assert.Single(results, r => r.Ok);
    }

    /// <summary>A lift and what is done with it.</summary>
    private sealed record Begun(Yard Yard, LiftStore Store, Guid Id, (string Name, string Value)[] Typed)
    {
        public async Task<LiftRow> RowAsync() => (await Store.GetAsync(Id, Cancel))!;

        public Task<Checked<int>> SaveAsync(int version, string name, string who) =>
            Store.SaveAsync(Id, version, Fields("HM-0002", name, Typed), Seed.People[who], Yard.Now, Cancel);

        public Task<Checked<Recorded>> StepAsync(int version, LiftStep step, string who) =>
            Store.StepAsync(Id, version, step, Yard.Stamp(who), Cancel);
    }

    private static async Task<Begun> OutAsync(Yard yard)
    {
        var lift = await BegunAsync(yard);
        Yard.Must(await lift.StepAsync(1, new CheckLift(All, null), "crew"));
        Yard.Must(await lift.StepAsync(1, new HandOutLift("Maud", null), "stores"));
        return lift;
    }

    private static async Task<Begun> BegunAsync(Yard yard, params (string Name, string Value)[] typed)
    {
        await yard.InServiceAsync(Seed.Shackle("HM-0002"));
        var sling = Seed.Sling("HM-0003");
        sling["legs"] = "1";
        sling["ratedLoad"] = "7100 lb";
        sling["ratedHitch"] = "vertical";
        sling.Remove("ratedFor");
        await yard.InServiceAsync(sling);
        var lifts = new LiftStore(yard.Database);
        var stamp = yard.Stamp("crew");
        Yard.Must(await lifts.BeginAsync(Fields("HM-0002", "Gate leaf", typed), false, stamp, Cancel));
        return new(yard, lifts, stamp.Submission, typed);
    }

    private static Dictionary<string, string> Fields(
        string mark,
        string name,
        params (string Name, string Value)[] typed
    )
    {
        var fields = new Dictionary<string, string>
        {
            ["name"] = name,
            ["job"] = "Lock 9",
            ["basis"] = "known",
            ["weight"] = "1000 kg",
            ["hitch"] = "vertical",
            ["stand"] = "alike",
            ["legs"] = "1",
            ["angle"] = "90",
            ["piece-1-mark"] = "HM-0003",
            ["piece-1-place"] = "leg-1",
            ["piece-2-mark"] = mark,
            ["piece-2-place"] = "leg-1",
            ["piece-2-pull"] = "0",
        };
        foreach (var (field, value) in typed)
            fields[field] = value;
        return fields;
    }
}
