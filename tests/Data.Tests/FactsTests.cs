using Keralith.Core.Custody;
using Keralith.Core.Gear;
using Keralith.Core.Judgement;
using Keralith.Core.Register;
using Keralith.Testing;
using Xunit;

namespace Keralith.Data.Tests;

/// <summary>What a verdict stands on is not changed under it: each of these was done once, and the piece stayed fit.</summary>
public class FactsTests
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    [Theory]
    [InlineData("stores")]
    [InlineData("inspector")]
    public async Task A_rated_load_raised_is_not_the_storekeepers_nor_the_inspectors(string who)
    {
        await using var yard = await Yard.OpenAsync();
        await yard.InServiceAsync(Seed.Shackle("HM-0002"));
        var raised = await ChangeAsync(yard, who, "HM-0002", ("ratedLoad", "90 t"));
        Assert.Equal(RefusalKind.Forbidden, raised.Refusal!.Kind);
        Assert.Equal("6.5 short ton", (await yard.FindAsync("HM-0002")).RatedLoad.ToString());
    }

    [Fact]
    public async Task A_rated_load_raised_by_the_paper_holds_the_piece_until_a_full_inspection_and_another_person()
    {
        await using var yard = await Yard.OpenAsync();
        var piece = await yard.InServiceAsync(Seed.Shackle("HM-0002"));
        Assert.Contains(
            "paper",
            (await ChangeAsync(yard, "qualified", "HM-0002", ("ratedLoad", "7 short ton"))).Fault,
            StringComparison.Ordinal
        );
        var paper = await AttachAsync(yard, piece);
        Yard.Must(await ChangeAsync(yard, "qualified", "HM-0002", paper, ("ratedLoad", "7 short ton")));
        await HeldAsync(yard, "HM-0002", HoldCause.FactsChanged);
        Assert.False((await yard.ReleaseAsync("qualified2", "HM-0002")).Ok);
        Yard.Must(await yard.InspectAsync("HM-0002", InspectionKind.Periodic));
        var mover = await yard.ReleaseAsync("qualified", "HM-0002");
        Assert.Contains("another person must close", mover.Fault, StringComparison.Ordinal);
        Yard.Must(await yard.ReleaseAsync("qualified2", "HM-0002"));
        Assert.Equal(PieceState.InService, (await yard.FindAsync("HM-0002")).State);
    }

    [Fact]
    public async Task A_sling_of_one_leg_does_not_become_four_legs_that_nobody_looked_at()
    {
        await using var yard = await Yard.OpenAsync();
        var one = Seed.Sling("HM-0001");
        one["legs"] = "1";
        await yard.InServiceAsync(one);
        Assert.False((await ChangeAsync(yard, "stores", "HM-0001", ("legs", "4"))).Ok);
        Yard.Must(await ChangeAsync(yard, "inspector", "HM-0001", ("legs", "4")));
        var reason = await HeldAsync(yard, "HM-0001", HoldCause.FactsChanged);
        Assert.Contains("not inspected", reason, StringComparison.Ordinal);
    }

    [Fact]
    public async Task A_figure_when_new_moved_never_brings_back_what_was_removed()
    {
        await using var yard = await Yard.OpenAsync();
        var piece = await yard.InServiceAsync(Seed.Sling("HM-0001"));
        Yard.Must(
            await yard.InspectAsync(
                "HM-0001",
                InspectionKind.Periodic,
                ("leg-1/hook", "hook.throat", new(Value: "1.6 in"))
            )
        );
        Assert.Equal(VerdictKind.Remove, (await yard.FindAsync("HM-0001")).Verdict);
        (string, string) moved = ("baseline:leg-1/hook:hook.throat", "1.6 in");
        Assert.False((await ChangeAsync(yard, "stores", "HM-0001", moved)).Ok);
        Assert.False((await ChangeAsync(yard, "inspector", "HM-0001", moved)).Ok);
        Yard.Must(await ChangeAsync(yard, "qualified", "HM-0001", await AttachAsync(yard, piece), moved));
        var stands = await yard.FindAsync("HM-0001");
        Assert.Equal((PieceState.Held, VerdictKind.Remove), (stands.State, stands.Verdict));
        Yard.Must(
            await yard.InspectAsync(
                "HM-0001",
                InspectionKind.Periodic,
                ("leg-1/hook", "hook.throat", new(Value: "1.6 in"))
            )
        );
        Assert.Equal(RefusalKind.Forbidden, (await yard.ReleaseAsync("qualified", "HM-0001")).Refusal!.Kind);
    }

    [Fact]
    public async Task A_figure_when_new_put_right_to_the_stricter_side_holds_at_once()
    {
        await using var yard = await Yard.OpenAsync();
        var piece = await yard.InServiceAsync(Seed.Sling("HM-0001"));
        var paper = await AttachAsync(yard, piece);
        Yard.Must(
            await ChangeAsync(yard, "qualified", "HM-0001", paper, ("baseline:leg-1/hook:hook.throat", "1.2 in"))
        );
        var reason = await HeldAsync(yard, "HM-0001", HoldCause.FactsChanged);
        Assert.Contains("comes out remove", reason, StringComparison.Ordinal);
    }

    [Fact]
    public async Task A_milder_service_class_waits_for_a_full_inspection()
    {
        await using var yard = await Yard.OpenAsync();
        var severe = Seed.Sling("HM-0001");
        severe["serviceClass"] = "severe";
        var piece = await yard.InServiceAsync(severe);
        Assert.False((await ChangeAsync(yard, "stores", "HM-0001", ("serviceClass", "normal"))).Ok);
        Yard.Must(
            await ChangeAsync(yard, "qualified", "HM-0001", await AttachAsync(yard, piece), ("serviceClass", "normal"))
        );
        await HeldAsync(yard, "HM-0001", HoldCause.FactsChanged);
    }

    [Fact]
    public async Task A_marking_that_says_less_than_it_must_holds_and_a_slip_of_the_pen_does_not()
    {
        await using var yard = await Yard.OpenAsync();
        await yard.InServiceAsync(Seed.Sling("HM-0001"));
        Yard.Must(await ChangeAsync(yard, "stores", "HM-0001", ("serial", "O-17"), ("notes", "Hangs low")));
        Assert.Equal(PieceState.InService, (await yard.FindAsync("HM-0001")).State);
        Yard.Must(await ChangeAsync(yard, "inspector", "HM-0001", ("tag:maker", "")));
        var reason = await HeldAsync(yard, "HM-0001", HoldCause.FactsChanged);
        Assert.Contains("marking comes out worse", reason, StringComparison.Ordinal);
    }

    [Fact]
    public async Task A_change_of_facts_stands_on_record_with_old_and_new_why_and_by_whom()
    {
        await using var yard = await Yard.OpenAsync();
        var piece = await yard.InServiceAsync(Seed.Sling("HM-0001"));
        Yard.Must(await ChangeAsync(yard, "inspector", "HM-0001", ("grade", "100")));
        var kept = Assert.Single(await yard.Database.AskAsync(t => PieceStore.FactChanges(t, piece.Id), Cancel));
        Assert.Equal(("Read again", "Test inspector", null), (kept.Why, kept.By, kept.File));
        Assert.Contains("80, now 100", Assert.Single(kept.Changes), StringComparison.Ordinal);
        Assert.Null((await yard.Ledger.VerifyAsync(Cancel)).Broken);
    }

    [Fact]
    public async Task A_paper_of_another_piece_shows_nothing()
    {
        await using var yard = await Yard.OpenAsync();
        await yard.InServiceAsync(Seed.Shackle("HM-0002"));
        var paper = await AttachAsync(yard, await yard.InServiceAsync(Seed.Shackle("HM-0003")));
        var changed = await ChangeAsync(yard, "qualified", "HM-0002", paper, ("ratedLoad", "7 short ton"));
        Assert.Contains("not attached", changed.Fault, StringComparison.Ordinal);
    }

    [Fact]
    public async Task Before_its_first_inspection_the_register_is_written_freely()
    {
        await using var yard = await Yard.OpenAsync();
        await yard.RegisterAsync(Seed.Shackle("HM-0002"));
        Yard.Must(await ChangeAsync(yard, "stores", "HM-0002", ("ratedLoad", "7 short ton")));
        Assert.Equal(PieceState.New, (await yard.FindAsync("HM-0002")).State);
    }

    [Fact]
    public async Task A_stricter_limit_is_shown_first_then_holds_and_withdrawn_lets_go_what_it_alone_held()
    {
        await using var yard = await Yard.OpenAsync();
        foreach (var mark in new[] { "HM-0001", "HM-0002", "HM-0003" })
        {
            await yard.InServiceAsync(Seed.Sling(mark));
            Yard.Must(
                await yard.InspectAsync(
                    mark,
                    InspectionKind.Periodic,
                    ("leg-1/hook", "hook.throat", new(Value: mark == "HM-0003" ? "1.38 in" : "1.43 in"))
                )
            );
        }

        Assert.Equal(RefusalKind.Conflict, (await LimitAsync(yard, "3 %", null)).Refusal!.Kind);
        Assert.Equal(PieceState.InService, (await yard.FindAsync("HM-0001")).State);
        Assert.Equal(RefusalKind.Conflict, (await LimitAsync(yard, "3 %", 3)).Refusal!.Kind);
        Yard.Must(await LimitAsync(yard, "3 %", 2));
        Assert.Contains(
            "comes out remove",
            await HeldAsync(yard, "HM-0001", HoldCause.RulesChanged),
            StringComparison.Ordinal
        );
        await HeldAsync(yard, "HM-0002", HoldCause.RulesChanged);
        Assert.Equal(PieceState.InService, (await yard.FindAsync("HM-0003")).State);

        var again = new JudgeAgain(yard.Database);
        Assert.False((await again.LetGoAsync("Withdrawn", yard.Stamp("qualified"), Cancel)).Ok);
        Yard.Must(await yard.HoldAsync("crew", "HM-0002"));
        Yard.Must(await LimitAsync(yard, "", null));
        Assert.False((await again.LetGoAsync("Withdrawn", yard.Stamp("inspector"), Cancel)).Ok);
        Yard.Must(await again.LetGoAsync("Withdrawn", yard.Stamp("qualified"), Cancel));
        Assert.Equal(PieceState.InService, (await yard.FindAsync("HM-0001")).State);
        Assert.Equal(PieceState.Held, (await yard.FindAsync("HM-0002")).State);
    }

    [Fact]
    public async Task A_newer_catalogue_judges_the_register_again_once_and_says_so()
    {
        await using var yard = await Yard.OpenAsync();
        await yard.InServiceAsync(Seed.Sling("HM-0001"));
        Yard.Must(
            await yard.InspectAsync(
                "HM-0001",
                InspectionKind.Periodic,
                ("leg-1/hook", "hook.throat", new(Value: "1.43 in"))
            )
        );
        await using var older = yard.Database.Command(
            """
            insert into own_limit (owner, maker, model, criterion, figure, reason, set_at, set_by)
            select 'site', '', '', 'hook.throat', '3 %', 'Was not asked then', now(), id from person where username = 'qualified';
            update site set catalogue_version = '2025.1'
            """
        );
        await older.ExecuteNonQueryAsync(Cancel);
        var again = new JudgeAgain(yard.Database);
        Assert.Equal(1, await again.ByNewCatalogueAsync(yard.Now.AddDays(1), Cancel));
        Assert.StartsWith(
            $"Catalogue {Catalogue.Version}",
            await HeldAsync(yard, "HM-0001", HoldCause.RulesChanged),
            StringComparison.Ordinal
        );
        Assert.Equal(0, await again.ByNewCatalogueAsync(yard.Now.AddDays(2), Cancel));
    }

    [Fact]
    public async Task A_newer_program_reads_a_makers_word_for_gear_whose_model_nobody_wrote_down()
    {
        await using var yard = await Yard.OpenAsync(isTold: false);
        foreach (var (mark, model) in new[] { ("HM-0001", null), ("HM-0002", "T-2"), ("HM-0003", "T-1") })
        {
            var fields = Seed.Sling(mark);
            if (model is not null)
                fields["model"] = model;
            await yard.InServiceAsync(fields);
            Yard.Must(
                await yard.InspectAsync(
                    mark,
                    InspectionKind.Periodic,
                    ("leg-1/hook", "hook.throat", new(Value: "1.43 in"))
                )
            );
        }

        await using var older = yard.Database.Command(
            """
            insert into own_limit (owner, maker, model, criterion, figure, reason, set_at, set_by)
            select 'maker', 'Orrery Chainworks', 'T-1', 'hook.throat', '3 %', 'Leaflet', now(), id
            from person where username = 'qualified';
            insert into proof_ask (site_id, maker, model, family, months, reason, set_at, set_by)
            select 1, 'Orrery Chainworks', 'T-1', '', 12, 'Leaflet', now(), id from person where username = 'qualified';
            update site set catalogue_version = '2025.1'
            """
        );
        await older.ExecuteNonQueryAsync(Cancel);
        Assert.Equal(2, await new JudgeAgain(yard.Database).ByNewCatalogueAsync(yard.Now.AddDays(1), Cancel));
        await HeldAsync(yard, "HM-0001", HoldCause.RulesChanged);
        await HeldAsync(yard, "HM-0003", HoldCause.RulesChanged);
        Assert.Equal(PieceState.InService, (await yard.FindAsync("HM-0002")).State);

        // The proof test its maker asks of that model is asked of it too, from the first start on.
        Assert.True((await yard.FindAsync("HM-0001")).Proof.Lacks);
        Assert.False((await yard.FindAsync("HM-0002")).Proof.Lacks);
        Assert.True((await yard.FindAsync("HM-0003")).Proof.Lacks);
        Assert.Empty(await new VerifyStore(yard.Database).RunAsync(yard.Now.AddDays(1), Cancel));
    }

    /// <summary>The reason of its one open hold.</summary>
    private static async Task<string> HeldAsync(Yard yard, string mark, HoldCause cause)
    {
        var piece = await yard.FindAsync(mark);
        Assert.Equal(PieceState.Held, piece.State);
        var hold = Assert.Single(await yard.Custody.HoldsAsync(piece.Id, Cancel), h => h.IsOpen && h.Cause == cause);
        return hold.Reason;
    }

    private static async Task<Guid> AttachAsync(Yard yard, Piece piece)
    {
        var stamp = yard.Stamp("qualified");
        Yard.Must(
            await new FileStore(yard.Database).AttachAsync(
                [piece.Id],
                new(FileKind.Conformity, "Certificate 4711", null, "application/pdf", "%PDF-1.7"u8.ToArray(), null),
                stamp,
                Cancel
            )
        );
        return stamp.Submission;
    }

    private static Task<Checked<Recorded>> ChangeAsync(
        Yard yard,
        string who,
        string mark,
        params (string Field, string Value)[] changes
    ) => ChangeAsync(yard, who, mark, null, changes);

    private static async Task<Checked<Recorded>> ChangeAsync(
        Yard yard,
        string who,
        string mark,
        Guid? paper,
        params (string Field, string Value)[] changes
    )
    {
        var piece = await yard.FindAsync(mark);
        var figures = await yard.Pieces.BaselinesAsync(piece.Id, Cancel);
        var fields = PieceEntryFields.Of(piece.Entry(figures.ToDictionary(b => b.Key, b => b.Value.Figure)));
        foreach (var (field, value) in changes)
            fields[field] = value;
        var (entry, faults) = PieceEntryReader.Read(fields);
        Assert.True(entry is not null, string.Join("; ", faults));
        return await yard.Pieces.EditAsync(
            piece.Id,
            piece.Version,
            entry,
            new("Read again", paper),
            yard.Stamp(who),
            Cancel
        );
    }

    private static Task<Checked<Recorded>> LimitAsync(Yard yard, string figure, int? stops) =>
        new SettingsStore(yard.Database).SetLimitAsync(
            new(LimitOwner.Site, "", "", "hook.throat", figure, "Service sheet") { Stops = stops },
            yard.Stamp("qualified"),
            Cancel
        );
}
