using Keralith.Core.Custody;
using Keralith.Core.Gear;
using Keralith.Core.Judgement;
using Keralith.Core.Schedule;
using Keralith.Core.Signing;
using Keralith.Testing;
using Xunit;

namespace Keralith.Data.Tests;

/// <summary>Signing in the records: countersignature, leave to sign, stricter verdicts, instruments, events, seasons.</summary>
public class SigningTests
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    [Fact]
    public async Task A_trainees_inspection_counts_from_the_countersignature_dated_as_inspected()
    {
        await using var yard = await Yard.OpenAsync();
        yard.Now = yard.Now.AddDays(-2);
        var piece = await yard.RegisterAsync(Seed.Shackle("HM-0001"));
        yard.Now = yard.Now.AddDays(2);
        var (draft, version) = await yard.DraftAsync("HM-0001", InspectionKind.Initial);
        var offered = yard.Stamp("trainee");
        Yard.Must(await yard.Signing.OfferAsync(draft, new(version, new(2026, 3, 1)), offered, Cancel));
        Assert.Equal(PieceState.New, (await yard.FindAsync("HM-0001")).State);
        Assert.Equal("HM-0001", Assert.Single(await yard.Inspections.OfferedAsync(Cancel)).Mark);

        Yard.Must(
            await yard.Signing.SignAsync(draft, new(version + 1, new(2026, 3, 9)), yard.Stamp("inspector"), Cancel)
        );
        var signed = Assert.Single(await yard.Inspections.SignedAsync(piece.Id, Cancel));
        Assert.Equal(
            (new DateOnly(2026, 3, 1), "Test trainee", "Test inspector"),
            (signed.InspectedOn, signed.MadeBy, signed.SignedBy)
        );
        Assert.Equal(new DateOnly(2027, 3, 1), (await yard.FindAsync("HM-0001")).PeriodicDue);
        Assert.Null((await yard.Ledger.VerifyAsync(Cancel)).Broken);
    }

    [Fact]
    public async Task What_a_trainee_finds_against_a_piece_stops_it_before_anybody_countersigns()
    {
        await using var yard = await Yard.OpenAsync();
        await yard.InServiceAsync(Seed.Shackle("HM-0001"));
        yard.Now = yard.Now.AddDays(30);
        var (draft, version) = await yard.DraftAsync(
            "HM-0001",
            InspectionKind.Periodic,
            ("body", "shackle.wear-body", new(Value: "0.7 in"))
        );
        Yard.Must(await yard.Signing.OfferAsync(draft, new(version, new(2026, 4, 1)), yard.Stamp("trainee"), Cancel));
        var piece = await yard.FindAsync("HM-0001");
        Assert.Equal(PieceState.Held, piece.State);
        Assert.Contains("not countersigned yet", piece.OpenHolds[0], StringComparison.Ordinal);
    }

    [Fact]
    public async Task Nobody_countersigns_their_own_and_an_answer_changed_afterwards_takes_the_offer_back()
    {
        await using var yard = await Yard.OpenAsync();
        await yard.RegisterAsync(Seed.Shackle("HM-0001"));
        var (draft, version) = await yard.DraftAsync("HM-0001", InspectionKind.Initial);
        Yard.Must(await yard.Signing.OfferAsync(draft, new(version, new(2026, 3, 2)), yard.Stamp("inspector"), Cancel));
        Assert.Contains(
            "Nobody countersigns their own",
            (await yard.Signing.SignAsync(draft, new(version + 1, null), yard.Stamp("inspector"), Cancel)).Fault,
            StringComparison.Ordinal
        );
        var answers = await yard.Inspections.AnswersAsync(draft, Cancel);
        var changed = (
            await yard.Inspections.SaveAsync(draft, [answers[0]], Seed.People["inspector"], yard.Now, Cancel)
        ).Value;
        Assert.Empty(await yard.Inspections.OfferedAsync(Cancel));
        Assert.Contains(
            "Nobody signed it",
            (await yard.Signing.HandBackAsync(draft, changed, "Again", yard.Stamp("inspector2"), Cancel)).Fault,
            StringComparison.Ordinal
        );
    }

    [Fact]
    public async Task Leave_to_sign_that_ran_out_signs_nothing_and_new_leave_does()
    {
        await using var yard = await Yard.OpenAsync();
        await yard.RegisterAsync(Seed.Shackle("HM-0001"));
        var people = new PeopleStore(yard.Database);
        var inspector = Seed.People["inspector"].Id;
        Yard.Must(
            await people.AuthoriseAsync(
                inspector,
                new(FamilyGroup.Hardware, new(2026, 3, 1)),
                yard.Stamp("admin"),
                Cancel
            )
        );
        Assert.Contains(
            "ran out on 2026-03-01",
            (await yard.InspectAsync("HM-0001", InspectionKind.Initial)).Fault,
            StringComparison.Ordinal
        );
        Assert.Contains(
            "Only an administrator",
            (
                await people.AuthoriseAsync(
                    inspector,
                    new(FamilyGroup.Hardware, new(2027, 3, 1)),
                    yard.Stamp("inspector"),
                    Cancel
                )
            ).Fault,
            StringComparison.Ordinal
        );
        Assert.Contains(
            "signs no inspections",
            (
                await people.AuthoriseAsync(
                    Seed.People["crew"].Id,
                    new(FamilyGroup.Hardware, new(2027, 3, 1)),
                    yard.Stamp("admin"),
                    Cancel
                )
            ).Fault,
            StringComparison.Ordinal
        );
        Yard.Must(
            await people.AuthoriseAsync(
                inspector,
                new(FamilyGroup.Hardware, new(2027, 3, 1)),
                yard.Stamp("admin"),
                Cancel
            )
        );
        Yard.Must(await yard.InspectAsync("HM-0001", InspectionKind.Initial));
    }

    [Fact]
    public async Task A_clean_piece_signed_as_hold_goes_to_the_cage_with_the_inspectors_reason()
    {
        await using var yard = await Yard.OpenAsync();
        await yard.InServiceAsync(Seed.Shackle("HM-0001"));
        yard.Now = yard.Now.AddDays(30);
        var (draft, version) = await yard.DraftAsync("HM-0001", InspectionKind.Periodic);
        var signing = new SignatureRead(version, new(2026, 4, 1)) { With = new(VerdictKind.Hold, "The pin squeals") };
        Yard.Must(await yard.Signing.SignAsync(draft, signing, yard.Stamp("inspector"), Cancel));
        var piece = await yard.FindAsync("HM-0001");
        Assert.Equal((PieceState.Held, VerdictKind.Hold), (piece.State, piece.Verdict));
        Assert.Contains("The pin squeals", piece.OpenHolds[0], StringComparison.Ordinal);
    }

    [Fact]
    public async Task The_next_inspection_may_be_set_earlier_never_later()
    {
        await using var yard = await Yard.OpenAsync();
        await yard.RegisterAsync(Seed.Shackle("HM-0001"));
        var (draft, version) = await yard.DraftAsync("HM-0001", InspectionKind.Initial);
        Assert.Contains(
            "never later",
            (
                await yard.Signing.SignAsync(
                    draft,
                    new(version, new(2026, 3, 2)) { NextBy = new(2027, 3, 3) },
                    yard.Stamp("inspector"),
                    Cancel
                )
            ).Fault,
            StringComparison.Ordinal
        );
        Yard.Must(
            await yard.Signing.SignAsync(
                draft,
                new(version, new(2026, 3, 2)) { NextBy = new(2026, 7, 1) },
                yard.Stamp("inspector"),
                Cancel
            )
        );
        Assert.Equal(new DateOnly(2026, 7, 1), (await yard.FindAsync("HM-0001")).PeriodicDue);
    }

    [Fact]
    public async Task A_caliper_in_hand_stands_on_its_readings_and_out_of_calibration_holds_the_piece()
    {
        await using var yard = await Yard.OpenAsync();
        var piece = await yard.RegisterAsync(Seed.Shackle("HM-0001"));
        var instruments = new InstrumentStore(yard.Database);
        var entering = yard.Stamp("inspector");
        Yard.Must(await instruments.EnterAsync("Caliper 7", "0.02 mm", new(2026, 3, 1), entering, Cancel));
        await instruments.TakeAsync(Seed.People["inspector"].Id, new(2026, 3, 2), entering.Submission, Cancel);
        var (draft, version) = await yard.DraftAsync("HM-0001", InspectionKind.Initial);
        Assert.Contains(
            "out of calibration",
            (await yard.Signing.SignAsync(draft, new(version, new(2026, 3, 2)), yard.Stamp("inspector"), Cancel)).Fault,
            StringComparison.Ordinal
        );
        Yard.Must(
            await yard.Signing.SignAsync(
                draft,
                new(version, new(2026, 3, 2)) { With = new(InstrumentReason: "The other is at the laboratory") },
                yard.Stamp("inspector"),
                Cancel
            )
        );
        var signed = Assert.Single(await yard.Inspections.SignedAsync(piece.Id, Cancel));
        Assert.Equal(VerdictKind.Hold, signed.Verdict);
        Assert.StartsWith("Caliper 7", Assert.Single(signed.Instruments), StringComparison.Ordinal);
    }

    [Fact]
    public async Task An_event_holds_everything_that_was_there_until_an_inspection_after_it_and_another_person()
    {
        await using var yard = await Yard.OpenAsync();
        var one = await yard.InServiceAsync(Seed.Shackle("HM-0001"));
        var two = await yard.InServiceAsync(Seed.Sling("HM-0002"));
        var events = new EventStore(yard.Database);
        yard.Now = yard.Now.AddDays(20);
        var stamp = yard.Stamp("crew");
        Yard.Must(
            await events.RecordAsync(
                [one.Id, two.Id],
                GearEventKind.Shock,
                new(2026, 3, 22),
                "The stop plank dropped a foot",
                stamp,
                Cancel
            )
        );
        Assert.True(
            (
                await events.RecordAsync(
                    [one.Id, two.Id],
                    GearEventKind.Shock,
                    new(2026, 3, 22),
                    "The stop plank dropped a foot",
                    stamp,
                    Cancel
                )
            )
                .Value
                .Repeated
        );
        foreach (var mark in new[] { "HM-0001", "HM-0002" })
            Assert.Contains(
                "shock load on 2026-03-22",
                Assert.Single((await yard.FindAsync(mark)).OpenHolds),
                StringComparison.Ordinal
            );
        Assert.Equal(["HM-0001", "HM-0002"], Assert.Single(await events.OfAsync(one.Id, Cancel)).Marks);

        Assert.False((await yard.ReleaseAsync("qualified", "HM-0001")).Ok);
        Yard.Must(await yard.InspectAsync("HM-0001", InspectionKind.AfterEvent));
        Yard.Must(await yard.ReleaseAsync("qualified", "HM-0001"));
        Assert.Equal(PieceState.InService, (await yard.FindAsync("HM-0001")).State);
    }

    [Fact]
    public async Task Another_scheme_takes_every_mark_off_and_another_overlap_takes_none()
    {
        await using var yard = await Yard.OpenAsync();
        var piece = await yard.InServiceAsync(Seed.Shackle("HM-0001"));
        var seasons = new SeasonStore(yard.Database);
        var scheme = SeasonSchemeReader
            .Read("V heather ring\nM moss dots", 3, new(2026, 1, 1), 14, true, ["heather", "moss"])
            .Value;
        Yard.Must(await seasons.SetAsync(1, 1, scheme, "New", yard.Stamp("qualified"), Cancel));
        Yard.Must(await new YardStore(yard.Database).PaintAsync([piece.Id], yard.Stamp("inspector"), Cancel));
        Assert.Equal(
            new SeasonProgress(1, "Basin Yard", 1, 0),
            Assert.Single(await seasons.ProgressAsync(new(2026, 1, 1), 1, Cancel))
        );
        Yard.Must(
            await seasons.SetAsync(1, 2, scheme with { OverlapDays = 0 }, "Stricter", yard.Stamp("qualified"), Cancel)
        );
        Assert.Empty(await seasons.LackingAsync(new(2026, 1, 1), 1, null, Cancel));
        Assert.Contains(
            "Somebody else",
            (await seasons.SetAsync(1, 2, scheme, "Late", yard.Stamp("qualified"), Cancel)).Fault,
            StringComparison.Ordinal
        );
        Yard.Must(
            await seasons.SetAsync(1, 3, scheme with { Months = 6 }, "Half-yearly", yard.Stamp("qualified"), Cancel)
        );
        Assert.Equal("HM-0001", Assert.Single(await seasons.LackingAsync(new(2026, 1, 1), 1, null, Cancel)).Mark);
        Assert.Contains(
            "role",
            (await seasons.SetAsync(1, 4, scheme, "Mine", yard.Stamp("crew"), Cancel)).Fault,
            StringComparison.Ordinal
        );
    }

    [Fact]
    public async Task The_due_list_counts_by_store_family_and_inspector_and_looks_weeks_ahead()
    {
        await using var yard = await Yard.OpenAsync();
        await yard.InServiceAsync(Seed.Shackle("HM-0001"));
        await yard.InServiceAsync(Seed.Sling("HM-0002"));
        var due = new DueStore(yard.Database);
        var today = new DateOnly(2027, 2, 20);
        var list = await due.ListAsync(new(), today, 30, Cancel);
        Assert.Equal(["HM-0002", "HM-0001"], list.Pieces.Select(p => p.Piece.Mark).OrderDescending());
        Assert.Contains(new DueCount("by", "Test inspector", 2, 0), list.Counts);
        Assert.Equal(2, list.Weeks.Single(w => w.Week == new DateOnly(2027, 3, 1)).Count);
        Assert.Equal(
            ["HM-0002"],
            (await due.ListAsync(new(Family: "alloy-chain-sling"), today, 30, Cancel)).Pieces.Select(p => p.Piece.Mark)
        );
        Assert.Empty((await due.ListAsync(new(By: "Somebody else"), today, 30, Cancel)).Pieces);
        Assert.Equal(2, (await due.ListAsync(new(Week: new(2027, 3, 1)), new(2026, 12, 1), 30, Cancel)).Pieces.Count);
        Assert.Contains(
            new DueCount("store", "Basin Yard", 2, 2),
            (await due.ListAsync(new(), new(2027, 3, 3), 30, Cancel)).Counts
        );
    }
}
