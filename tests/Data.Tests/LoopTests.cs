using Keralith.Core.Custody;
using Keralith.Core.Judgement;
using Keralith.Core.Register;
using Keralith.Testing;
using Npgsql;
using Xunit;

namespace Keralith.Data.Tests;

public class LoopTests
{
    private static readonly (string, string, AnswerEntry) OpenedThroat = (
        "leg-1/hook",
        "hook.throat",
        new(Value: "1.45 in")
    );

    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    [Fact]
    public async Task New_gear_is_used_only_after_its_initial_inspection()
    {
        await using var yard = await Yard.OpenAsync();
        var piece = await yard.RegisterAsync(Seed.Sling("HM-0001"));
        Assert.False(piece.UseOn(new(2026, 3, 2), await yard.Sites.GetAsync(Cancel)).MayBeUsed);
        Yard.Must(await yard.InspectAsync("HM-0001", InspectionKind.Periodic));
        piece = await yard.FindAsync("HM-0001");
        Assert.Equal(PieceState.InService, piece.State);
        Assert.True(piece.UseOn(new(2026, 3, 2), await yard.Sites.GetAsync(Cancel)).MayBeUsed);
        Assert.Equal(new DateOnly(2027, 3, 2), piece.PeriodicDue);
        Assert.Equal(InspectionKind.Initial, Assert.Single(await yard.Inspections.SignedAsync(piece.Id, Cancel)).Kind);
    }

    [Fact]
    public async Task A_remove_verdict_puts_the_piece_in_the_cage_at_once()
    {
        await using var yard = await Yard.OpenAsync();
        await yard.InServiceAsync(Seed.Sling("HM-0001"));
        Yard.Must(await yard.InspectAsync("HM-0001", InspectionKind.Periodic, OpenedThroat));
        var piece = await yard.FindAsync("HM-0001");
        Assert.Equal(PieceState.Held, piece.State);
        Assert.Equal(VerdictKind.Remove, piece.Verdict);
        var hold = Assert.Single(await yard.Custody.HoldsAsync(piece.Id, Cancel));
        Assert.Equal(HoldCause.VerdictRemove, hold.Cause);
        Assert.Contains("Throat opening: leg 1, hook", hold.Reason, StringComparison.Ordinal);
    }

    [Fact]
    public async Task A_verdict_hold_is_closed_only_by_a_qualified_person_after_a_clean_periodic_signed_by_somebody_else()
    {
        await using var yard = await Yard.OpenAsync();
        await yard.InServiceAsync(Seed.Sling("HM-0001"));
        Yard.Must(
            await yard.InspectAsync("HM-0001", InspectionKind.Periodic, ("leg-2", "chain.crack", new(Answer: "yes")))
        );
        Assert.Contains("qualified", (await yard.ReleaseAsync("inspector", "HM-0001")).Fault, StringComparison.Ordinal);
        Assert.Contains(
            "full periodic",
            (await yard.ReleaseAsync("qualified", "HM-0001")).Fault,
            StringComparison.Ordinal
        );
        Yard.Must(await yard.InspectByAsync("qualified", "HM-0001", InspectionKind.Periodic));
        Assert.Equal(PieceState.Held, (await yard.FindAsync("HM-0001")).State);
        Assert.Contains(
            "You signed the clean inspection",
            (await yard.ReleaseAsync("qualified", "HM-0001")).Fault,
            StringComparison.Ordinal
        );
        Assert.Contains(
            "Write why",
            (await yard.ReleaseAsync("qualified2", "HM-0001", " ")).Fault,
            StringComparison.Ordinal
        );
        Yard.Must(await yard.ReleaseAsync("qualified2", "HM-0001"));
        Assert.Equal(PieceState.InService, (await yard.FindAsync("HM-0001")).State);
    }

    [Fact]
    public async Task Crew_may_stop_a_piece_and_an_inspector_closes_the_doubt_after_a_clean_inspection()
    {
        await using var yard = await Yard.OpenAsync();
        await yard.InServiceAsync(Seed.Shackle("HM-0002"));
        Yard.Must(await yard.HoldAsync("crew", "HM-0002"));
        Assert.False(
            (await yard.FindAsync("HM-0002")).UseOn(new(2026, 3, 2), await yard.Sites.GetAsync(Cancel)).MayBeUsed
        );
        Assert.Contains("inspector", (await yard.ReleaseAsync("crew", "HM-0002")).Fault, StringComparison.Ordinal);
        Assert.Contains(
            "Inspect it again",
            (await yard.ReleaseAsync("inspector", "HM-0002")).Fault,
            StringComparison.Ordinal
        );
        Yard.Must(
            await yard.Signing.SignCleanCheckAsync(
                await yard.FindAsync("HM-0002"),
                new(2026, 3, 2),
                yard.Stamp("crew"),
                Cancel
            )
        );
        Assert.Contains(
            "a look before use is not enough",
            (await yard.ReleaseAsync("inspector", "HM-0002")).Fault,
            StringComparison.Ordinal
        );
        Yard.Must(await yard.InspectAsync("HM-0002", InspectionKind.Periodic));
        Yard.Must(await yard.ReleaseAsync("inspector", "HM-0002"));
        Assert.True(
            (await yard.FindAsync("HM-0002")).UseOn(new(2026, 3, 2), await yard.Sites.GetAsync(Cancel)).MayBeUsed
        );
    }

    [Fact]
    public async Task A_missing_marking_comes_back_by_a_new_tag_and_an_inspection_that_reads_it()
    {
        await using var yard = await Yard.OpenAsync();
        await yard.InServiceAsync(Seed.Shackle("HM-0002"));
        Yard.Must(
            await yard.InspectAsync("HM-0002", InspectionKind.Periodic, ("body", "id.marking", new(Answer: "yes")))
        );
        var piece = await yard.FindAsync("HM-0002");
        Assert.Equal(HoldCause.Marking, Assert.Single(await yard.Custody.HoldsAsync(piece.Id, Cancel)).Cause);
        Yard.Must(await yard.InspectAsync("HM-0002", InspectionKind.Periodic));
        Assert.Contains(
            "fit a new tag",
            (await yard.ReleaseAsync("qualified", "HM-0002")).Fault,
            StringComparison.Ordinal
        );
        piece = await yard.FindAsync("HM-0002");
        Yard.Must(
            await yard.Custody.RetagAsync(
                piece.Id,
                piece.Version,
                "Serial on the pin and the maker's letter",
                "Pellow Forge",
                yard.Stamp("qualified"),
                Cancel
            )
        );
        var tags = await yard.Database.AskAsync(t => PieceStore.Tags(t, piece.Id), Cancel);
        Assert.Equal((2, "new tag fitted", tags[1].RatedLoad), (tags.Count, tags[0].Why, tags[0].RatedLoad));
        Assert.Contains(
            "Inspect it again",
            (await yard.ReleaseAsync("qualified", "HM-0002")).Fault,
            StringComparison.Ordinal
        );
        Yard.Must(await yard.InspectAsync("HM-0002", InspectionKind.Periodic));
        Yard.Must(await yard.ReleaseAsync("qualified", "HM-0002"));
        Assert.Equal(PieceState.InService, (await yard.FindAsync("HM-0002")).State);
    }

    [Fact]
    public async Task A_retired_piece_is_never_used_inspected_or_registered_again()
    {
        await using var yard = await Yard.OpenAsync();
        var piece = await yard.InServiceAsync(Seed.Shackle("HM-0002"));
        Assert.Contains(
            "role",
            (await yard.Custody.CondemnAsync(piece.Id, piece.Version, "Worn", yard.Stamp("inspector"), Cancel)).Fault,
            StringComparison.Ordinal
        );
        Assert.Contains(
            "condemn it first",
            (
                await yard.Custody.DestroyAsync(
                    piece.Id,
                    piece.Version,
                    "Cut",
                    Seed.People["crew"],
                    "",
                    yard.Stamp("stores"),
                    Cancel
                )
            ).Fault,
            StringComparison.Ordinal
        );
        Yard.Must(await yard.Custody.CondemnAsync(piece.Id, piece.Version, "Worn", yard.Stamp("qualified"), Cancel));
        piece = await yard.FindAsync("HM-0002");
        Assert.Contains(
            "another person",
            (
                await yard.Custody.DestroyAsync(
                    piece.Id,
                    piece.Version,
                    "Cut",
                    Seed.People["stores"],
                    "",
                    yard.Stamp("stores"),
                    Cancel
                )
            ).Fault,
            StringComparison.Ordinal
        );
        Yard.Must(
            await yard.Custody.DestroyAsync(
                piece.Id,
                piece.Version,
                "Cut through bow and pin",
                Seed.People["crew"],
                "",
                yard.Stamp("stores"),
                Cancel
            )
        );
        piece = await yard.FindAsync("HM-0002");
        Assert.Equal(
            ["Destroyed: it will never lift again."],
            piece.UseOn(new(2026, 3, 2), await yard.Sites.GetAsync(Cancel)).Reasons
        );
        Assert.False((await yard.HoldAsync("crew", "HM-0002")).Ok);
        Assert.False(
            (await yard.Inspections.OpenAsync(piece, InspectionKind.Periodic, yard.Stamp("inspector"), Cancel)).Ok
        );
        var again = await yard.Pieces.RegisterAsync(
            PieceEntryReader.Read(Seed.Shackle("hm-0002")).Entry!,
            Guid.NewGuid(),
            yard.Stamp("stores"),
            Cancel
        );
        Assert.Contains("never used again", again.Fault, StringComparison.Ordinal);
        await Assert.ThrowsAsync<PostgresException>(async () =>
            await yard
                .Database.Command("update piece set state = 'in-service' where mark = 'HM-0002'")
                .ExecuteNonQueryAsync(Cancel)
        );
        Assert.Equal(2, (await yard.Custody.DisposalsAsync(piece.Id, Cancel)).Count);
    }

    [Fact]
    public async Task The_same_submission_five_times_is_one_record()
    {
        await using var yard = await Yard.OpenAsync();
        var piece = await yard.InServiceAsync(Seed.Shackle("HM-0002"));
        var stamp = yard.Stamp("crew");
        var results = await Task.WhenAll(
            Enumerable
                .Range(0, 5)
                .Select(_ => yard.Custody.HoldAsync(piece.Id, HoldCause.Doubt, "Bent?", stamp, Cancel))
        );
        Assert.All(results, r => Assert.True(r.Ok, r.Fault));
        Assert.Single(results, r => !r.Value.Repeated);
        Assert.Single(await yard.Custody.HoldsAsync(piece.Id, Cancel));
        var (draft, version) = await yard.DraftAsync("HM-0002", InspectionKind.Periodic);
        var signing = yard.Stamp("inspector");
        var signed = await Task.WhenAll(
            Enumerable
                .Range(0, 5)
                .Select(_ => yard.Signing.SignAsync(draft, new(version, new(2026, 3, 2)), signing, Cancel))
        );
        Assert.All(signed, r => Assert.True(r.Ok, r.Fault));
        Assert.Equal(2, (await yard.Inspections.SignedAsync(piece.Id, Cancel)).Count);
    }

    [Fact]
    public async Task Of_two_people_changing_one_piece_the_second_is_told_and_nothing_is_lost()
    {
        await using var yard = await Yard.OpenAsync();
        var seen = await yard.InServiceAsync(Seed.Shackle("HM-0002"));
        var fields = Seed.Shackle("HM-0002");
        fields["peg"] = "C3";
        Yard.Must(
            await yard.Pieces.EditAsync(
                seen.Id,
                seen.Version,
                PieceEntryReader.Read(fields).Entry!,
                new("Read again", null),
                yard.Stamp("stores"),
                Cancel
            )
        );
        fields["peg"] = "D4";
        var second = await yard.Pieces.EditAsync(
            seen.Id,
            seen.Version,
            PieceEntryReader.Read(fields).Entry!,
            new("Read again", null),
            yard.Stamp("inspector"),
            Cancel
        );
        Assert.Contains("Somebody else", second.Fault, StringComparison.Ordinal);
        Assert.Equal("C3", (await yard.FindAsync("HM-0002")).Peg);
    }

    [Fact]
    public async Task A_verdict_read_before_somebody_changed_an_answer_is_not_signed()
    {
        await using var yard = await Yard.OpenAsync();
        await yard.InServiceAsync(Seed.Sling("HM-0001"));
        var (draft, version) = await yard.DraftAsync("HM-0001", InspectionKind.Periodic);
        await yard.Inspections.SaveAsync(
            draft,
            [new("leg-1/hook", "hook.throat", new(Value: "1.45 in"), null, "", yard.Now)],
            Seed.People["inspector2"],
            yard.Now,
            Cancel
        );
        Assert.Contains(
            "changed since",
            (await yard.Signing.SignAsync(draft, new(version, new(2026, 3, 2)), yard.Stamp("inspector"), Cancel)).Fault,
            StringComparison.Ordinal
        );
    }

    [Fact]
    public async Task An_incomplete_inspection_is_not_signed_unless_it_already_takes_the_piece_out_of_use()
    {
        await using var yard = await Yard.OpenAsync();
        var piece = await yard.InServiceAsync(Seed.Sling("HM-0001"));
        var draft = (
            await yard.Inspections.OpenAsync(piece, InspectionKind.Periodic, yard.Stamp("inspector"), Cancel)
        ).Value;
        var version = (
            await yard.Inspections.SaveAsync(
                draft,
                [new("leg-1", "chain.crack", new(Answer: "no"), null, "", yard.Now)],
                Seed.People["inspector"],
                yard.Now,
                Cancel
            )
        ).Value;
        Assert.Contains(
            "not complete",
            (await yard.Signing.SignAsync(draft, new(version, new(2026, 3, 2)), yard.Stamp("inspector"), Cancel)).Fault,
            StringComparison.Ordinal
        );
        version = (
            await yard.Inspections.SaveAsync(
                draft,
                [new("leg-1", "chain.crack", new(Answer: "yes"), null, "", yard.Now)],
                Seed.People["inspector"],
                yard.Now,
                Cancel
            )
        ).Value;
        Yard.Must(await yard.Signing.SignAsync(draft, new(version, new(2026, 3, 2)), yard.Stamp("inspector"), Cancel));
        Assert.Equal(PieceState.Held, (await yard.FindAsync("HM-0001")).State);
    }

    [Fact]
    public async Task A_missing_baseline_holds_and_says_which()
    {
        await using var yard = await Yard.OpenAsync();
        var fields = Seed.Sling("HM-0001");
        fields.Remove("baseline:leg-2/hook:hook.throat");
        await yard.RegisterAsync(fields);
        Yard.Must(
            await yard.InspectAsync(
                "HM-0001",
                InspectionKind.Initial,
                ("leg-2/hook", "hook.throat", new(Value: "1.375 in"))
            )
        );
        var piece = await yard.FindAsync("HM-0001");
        Assert.Equal(PieceState.Held, piece.State);
        Assert.Contains("Throat opening: leg 2, hook", piece.OpenHolds[0], StringComparison.Ordinal);
    }

    [Fact]
    public async Task A_tag_that_lacks_an_entry_holds_whatever_is_answered_of_it()
    {
        await using var yard = await Yard.OpenAsync();
        var fields = Seed.Sling("HM-0001");
        fields.Remove(PieceEntryReader.TagField("grade"));
        await yard.RegisterAsync(fields);
        Yard.Must(await yard.InspectAsync("HM-0001", InspectionKind.Initial));
        var inspection = Assert.Single(
            await yard.Inspections.SignedAsync((await yard.FindAsync("HM-0001")).Id, Cancel)
        );
        Assert.Equal(VerdictKind.Hold, inspection.Verdict);
        Assert.Contains("does not carry: grade", inspection.Notes, StringComparison.Ordinal);
    }

    [Fact]
    public async Task What_the_transcription_lacks_can_not_be_answered_away()
    {
        await using var yard = await Yard.OpenAsync();
        var fields = Seed.Sling("HM-0001");
        fields.Remove(PieceEntryReader.TagField("grade"));
        await yard.RegisterAsync(fields);
        Yard.Must(
            await yard.InspectAsync("HM-0001", InspectionKind.Initial, ("tag", "id.tag-complete", new(Answer: "no")))
        );
        Assert.Equal(PieceState.Held, (await yard.FindAsync("HM-0001")).State);
    }

    [Fact]
    public async Task Answers_given_before_a_hold_are_no_clean_inspection_after_it()
    {
        await using var yard = await Yard.OpenAsync();
        await yard.InServiceAsync(Seed.Sling("HM-0001"));
        var (draft, version) = await yard.DraftAsync("HM-0001", InspectionKind.Periodic);
        Yard.Must(await yard.HoldAsync("crew", "HM-0001"));
        Assert.Contains(
            "before the piece was put on hold",
            (await yard.Signing.SignAsync(draft, new(version, new(2026, 3, 2)), yard.Stamp("inspector"), Cancel)).Fault,
            StringComparison.Ordinal
        );
        await yard.Inspections.DiscardAsync(draft, yard.Stamp("qualified"), Cancel);
        Yard.Must(await yard.InspectAsync("HM-0001", InspectionKind.Periodic));
        Yard.Must(await yard.ReleaseAsync("inspector", "HM-0001"));
    }

    [Fact]
    public async Task Answers_of_a_fortnight_ago_are_signed_only_to_stop_a_piece()
    {
        await using var yard = await Yard.OpenAsync();
        await yard.InServiceAsync(Seed.Sling("HM-0001"));
        var (draft, version) = await yard.DraftAsync("HM-0001", InspectionKind.Periodic);
        yard.Now = yard.Now.AddDays(15);
        Assert.Contains(
            "older than 14 days",
            (
                await yard.Signing.SignAsync(draft, new(version, new(2026, 3, 17)), yard.Stamp("inspector"), Cancel)
            ).Fault,
            StringComparison.Ordinal
        );
        await yard.Inspections.DiscardAsync(draft, yard.Stamp("qualified"), Cancel);
        (draft, version) = await yard.DraftAsync("HM-0001", InspectionKind.Periodic, OpenedThroat);
        yard.Now = yard.Now.AddDays(15);
        Yard.Must(await yard.Signing.SignAsync(draft, new(version, new(2026, 4, 1)), yard.Stamp("inspector"), Cancel));
    }

    [Fact]
    public async Task A_fault_found_on_a_leg_does_not_vanish_when_the_leg_is_edited_away()
    {
        await using var yard = await Yard.OpenAsync();
        var piece = await yard.InServiceAsync(Seed.Sling("HM-0001"));
        var (draft, version) = await yard.DraftAsync(
            "HM-0001",
            InspectionKind.Periodic,
            ("leg-2", "chain.crack", new(Answer: "yes"))
        );
        var fields = Seed.Sling("HM-0001");
        fields["legs"] = "1";
        Yard.Must(
            await yard.Pieces.EditAsync(
                piece.Id,
                piece.Version,
                PieceEntryReader.Read(fields).Entry!,
                new("Read again", null),
                yard.Stamp("inspector"),
                Cancel
            )
        );
        Assert.Contains(
            "no longer has",
            (await yard.Signing.SignAsync(draft, new(version, new(2026, 3, 2)), yard.Stamp("inspector"), Cancel)).Fault,
            StringComparison.Ordinal
        );
    }

    [Fact]
    public async Task Only_a_qualified_person_accepts_a_provisional_figure()
    {
        await using var yard = await Yard.OpenAsync();
        var fields = Seed.Shackle("HM-0002");
        fields["basis:pin:shackle.wear-pin"] = "provisional";
        var entry = PieceEntryReader.Read(fields).Entry!;
        Assert.Contains(
            "qualified",
            (await yard.Pieces.RegisterAsync(entry, Guid.NewGuid(), yard.Stamp("stores"), Cancel)).Fault,
            StringComparison.Ordinal
        );
        Yard.Must(await yard.Pieces.RegisterAsync(entry, Guid.NewGuid(), yard.Stamp("qualified"), Cancel));
        Yard.Must(await yard.InspectAsync("HM-0002", InspectionKind.Initial));
        Assert.Equal(VerdictKind.Watch, (await yard.FindAsync("HM-0002")).Verdict);
    }

    [Fact]
    public async Task A_clean_look_before_use_never_makes_a_watch_milder()
    {
        await using var yard = await Yard.OpenAsync();
        await yard.RegisterAsync(Seed.Sling("HM-0001"));
        Yard.Must(
            await yard.InspectAsync(
                "HM-0001",
                InspectionKind.Initial,
                ("leg-1/hook", "hook.throat", new(Value: "1.43 in"))
            )
        );
        var piece = await yard.FindAsync("HM-0001");
        Assert.Equal(VerdictKind.Watch, piece.Verdict);
        yard.Now = yard.Now.AddDays(1);
        Yard.Must(await yard.Signing.SignCleanCheckAsync(piece, new(2026, 3, 3), yard.Stamp("crew"), Cancel));
        Assert.Equal(VerdictKind.Watch, (await yard.FindAsync("HM-0001")).Verdict);
        Assert.Equal(new DateOnly(2027, 3, 2), (await yard.FindAsync("HM-0001")).PeriodicDue);
    }

    [Fact]
    public async Task What_is_stored_of_a_piece_is_what_core_computes()
    {
        await using var yard = await Yard.OpenAsync();
        await yard.InServiceAsync(Seed.Sling("HM-0001"));
        yard.Now = yard.Now.AddMonths(11);
        Yard.Must(await yard.InspectAsync("HM-0001", InspectionKind.Periodic));
        var piece = await yard.FindAsync("HM-0001");
        var site = await yard.Sites.GetAsync(Cancel);
        var signed = await yard.Inspections.SignedAsync(piece.Id, Cancel);
        var due = Core.Schedule.DueDates.From(
            piece.Gear.Family,
            piece.ServiceClass,
            site.Books,
            signed.Select(i => new Core.Schedule.AcceptedInspection(i.Kind, i.InspectedOn))
        );
        Assert.Equal(due.Periodic, piece.PeriodicDue);
        var fields = Seed.Sling("HM-0001");
        fields["serviceClass"] = "severe";
        Yard.Must(
            await yard.Pieces.EditAsync(
                piece.Id,
                piece.Version,
                PieceEntryReader.Read(fields).Entry!,
                new("Read again", null),
                yard.Stamp("qualified"),
                Cancel
            )
        );
        Assert.Equal(new DateOnly(2027, 5, 2), (await yard.FindAsync("HM-0001")).PeriodicDue);
    }

    [Fact]
    public async Task A_trainee_signs_nothing()
    {
        await using var yard = await Yard.OpenAsync();
        await yard.RegisterAsync(Seed.Shackle("HM-0002"));
        Assert.Contains(
            "draft",
            (await yard.InspectByAsync("trainee", "HM-0002", InspectionKind.Initial)).Fault,
            StringComparison.Ordinal
        );
        Assert.Equal(PieceState.New, (await yard.FindAsync("HM-0002")).State);
    }
}
