using Keralith.Core.Custody;
using Keralith.Core.Judgement;
using Keralith.Core.Signing;
using Keralith.Testing;
using Npgsql;
using Xunit;

namespace Keralith.Data.Tests;

/// <summary>Wrong records in the database: another in their place, or withdrawn; nothing signed is altered.</summary>
public class CorrectionStoreTests
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    [Fact]
    public async Task A_correction_stands_in_the_place_of_the_wrong_record_and_both_stay_readable()
    {
        await using var yard = await Yard.OpenAsync();
        yard.Now = yard.Now.AddDays(-12);
        var piece = await yard.RegisterAsync(Seed.Shackle("HM-0001"));
        yard.Now = yard.Now.AddDays(12);
        Yard.Must(await yard.InspectAsync("HM-0001", InspectionKind.Initial));
        var wrong = (await yard.Inspections.SignedAsync(piece.Id, Cancel))[0];
        yard.Now = yard.Now.AddDays(3);
        var (draft, version) = await CorrectAsync(
            yard,
            wrong,
            "Measured on the wrong side",
            ("body", "shackle.wear-body", new(Value: "0.87 in; 0.86 in"))
        );
        Yard.Must(await yard.Signing.SignAsync(draft, new(version, new(2026, 2, 20)), yard.Stamp("inspector"), Cancel));

        var signed = await yard.Inspections.SignedAsync(piece.Id, Cancel);
        Assert.Equal(2, signed.Count);
        var old = signed.Single(i => i.Id == wrong.Id);
        Assert.Equal(
            (draft, "Measured on the wrong side", "Test inspector"),
            (old.Superseded!.Became, old.Superseded.Why, old.Superseded.By)
        );
        Assert.Equal(wrong.CaseDocument, old.CaseDocument);
        var now = signed.Single(i => i.Counts);
        Assert.Equal((wrong.Id, wrong.SignedAt), (now.Corrects, now.CountsFrom));
        Assert.Contains("0.86 in", now.CaseDocument, StringComparison.Ordinal);

        // The day it names is what the next one is counted from.
        Assert.Equal(new DateOnly(2027, 2, 20), (await yard.FindAsync("HM-0001")).PeriodicDue);
        Assert.Null((await yard.Ledger.VerifyAsync(Cancel)).Broken);
        await using var forged = yard.Database.Command("update supersession set why = 'another'");
        await Assert.ThrowsAsync<PostgresException>(() => forged.ExecuteNonQueryAsync(Cancel));
    }

    [Fact]
    public async Task A_correction_that_finds_against_the_piece_stops_it_at_once()
    {
        await using var yard = await Yard.OpenAsync();
        var piece = await yard.InServiceAsync(Seed.Shackle("HM-0001"));
        var wrong = (await yard.Inspections.SignedAsync(piece.Id, Cancel))[0];
        var (draft, version) = await CorrectAsync(
            yard,
            wrong,
            "The figure was of another bow",
            ("body", "shackle.wear-body", new(Value: "0.7 in"))
        );
        Yard.Must(
            await yard.Signing.SignAsync(draft, new(version, wrong.InspectedOn), yard.Stamp("inspector"), Cancel)
        );
        var held = await yard.FindAsync("HM-0001");
        Assert.Equal((PieceState.Held, VerdictKind.Remove), (held.State, held.Verdict));
        Assert.Null(held.PeriodicDue);
    }

    [Fact]
    public async Task A_record_that_stopped_a_piece_is_made_milder_by_a_qualified_person_and_its_hold_stays_until_it_is_inspected_again()
    {
        await using var yard = await Yard.OpenAsync();
        var piece = await yard.InServiceAsync(Seed.Shackle("HM-0001"));
        yard.Now = yard.Now.AddDays(30);
        Yard.Must(
            await yard.InspectAsync(
                "HM-0001",
                InspectionKind.Periodic,
                ("body", "shackle.wear-body", new(Value: "0.7 in"))
            )
        );
        var wrong = (await yard.Inspections.SignedAsync(piece.Id, Cancel)).Single(i => i.Verdict == VerdictKind.Remove);
        var (draft, version) = await CorrectAsync(
            yard,
            wrong,
            "0.87 was read as 0.7",
            ("body", "shackle.wear-body", new(Value: "0.87 in"))
        );
        Assert.Contains(
            "only a qualified person",
            (
                await yard.Signing.SignAsync(draft, new(version, wrong.InspectedOn), yard.Stamp("inspector"), Cancel)
            ).Fault,
            StringComparison.Ordinal
        );
        Yard.Must(
            await yard.Signing.SignAsync(draft, new(version, wrong.InspectedOn), yard.Stamp("qualified"), Cancel)
        );

        var after = await yard.FindAsync("HM-0001");
        Assert.Equal((PieceState.Held, VerdictKind.Fit, 1), (after.State, after.Verdict, after.OpenHolds.Count));

        // What was seen before the hold says nothing of the piece since: the correction is no clean inspection made after it.
        Assert.Contains(
            "wanted first",
            (await yard.ReleaseAsync("qualified2", "HM-0001")).Fault,
            StringComparison.Ordinal
        );
        Yard.Must(await yard.InspectAsync("HM-0001", InspectionKind.Periodic));
        Yard.Must(await yard.ReleaseAsync("qualified2", "HM-0001"));
    }

    [Fact]
    public async Task A_clean_inspection_corrected_closes_no_hold_any_more_and_keeps_its_earlier_next_day()
    {
        await using var yard = await Yard.OpenAsync();
        var piece = await yard.InServiceAsync(Seed.Shackle("HM-0001"));
        yard.Now = yard.Now.AddDays(30);
        Yard.Must(await yard.HoldAsync("crew", "HM-0001"));
        var (clean, signs) = await yard.DraftAsync("HM-0001", InspectionKind.Periodic);
        Yard.Must(
            await yard.Signing.SignAsync(
                clean,
                new(signs, new(2026, 4, 1)) { NextBy = new(2026, 7, 1) },
                yard.Stamp("inspector"),
                Cancel
            )
        );
        var wrong = (await yard.Inspections.SignedAsync(piece.Id, Cancel)).Single(i => i.Id == clean);
        var (draft, version) = await CorrectAsync(yard, wrong, "The note was of another piece");
        Yard.Must(
            await yard.Signing.SignAsync(draft, new(version, wrong.InspectedOn), yard.Stamp("inspector2"), Cancel)
        );
        Assert.Equal(
            (PieceState.Held, new DateOnly(2026, 7, 1)),
            ((await yard.FindAsync("HM-0001")).State, (await yard.FindAsync("HM-0001")).PeriodicDue!.Value)
        );
        Assert.Contains(
            "Inspect it again first",
            (await yard.ReleaseAsync("inspector", "HM-0001")).Fault,
            StringComparison.Ordinal
        );
        Yard.Must(await yard.InspectAsync("HM-0001", InspectionKind.Periodic));
        Yard.Must(await yard.ReleaseAsync("inspector", "HM-0001"));
    }

    [Fact]
    public async Task A_correction_as_grave_as_the_wrong_record_puts_on_no_second_hold()
    {
        await using var yard = await Yard.OpenAsync();
        var piece = await yard.InServiceAsync(Seed.Shackle("HM-0001"));
        yard.Now = yard.Now.AddDays(30);
        Yard.Must(
            await yard.InspectAsync(
                "HM-0001",
                InspectionKind.Periodic,
                ("body", "shackle.wear-body", new(Value: "0.7 in"))
            )
        );
        var wrong = (await yard.Inspections.SignedAsync(piece.Id, Cancel)).Single(i => i.Verdict == VerdictKind.Remove);
        var (draft, version) = await CorrectAsync(
            yard,
            wrong,
            "It was 0.71",
            ("body", "shackle.wear-body", new(Value: "0.71 in"))
        );
        Yard.Must(
            await yard.Signing.SignAsync(draft, new(version, wrong.InspectedOn), yard.Stamp("inspector"), Cancel)
        );
        Assert.Single((await yard.FindAsync("HM-0001")).OpenHolds);
    }

    [Fact]
    public async Task A_full_inspection_withdrawn_counts_for_nothing_and_holds_the_piece()
    {
        await using var yard = await Yard.OpenAsync();
        var piece = await yard.InServiceAsync(Seed.Shackle("HM-0001"));
        var record = (await yard.Inspections.SignedAsync(piece.Id, Cancel))[0];
        var corrections = new CorrectionStore(yard.Database);
        Assert.Contains(
            "Write what is wrong",
            (await corrections.WithdrawAsync(record.Id, " ", yard.Stamp("inspector"), Cancel)).Fault,
            StringComparison.Ordinal
        );
        Assert.Contains(
            "role",
            (await corrections.WithdrawAsync(record.Id, "It was HM-0002", yard.Stamp("crew"), Cancel)).Fault,
            StringComparison.Ordinal
        );
        var stamp = yard.Stamp("inspector");
        Yard.Must(await corrections.WithdrawAsync(record.Id, "It was HM-0002", stamp, Cancel));
        Assert.True((await corrections.WithdrawAsync(record.Id, "It was HM-0002", stamp, Cancel)).Value.Repeated);
        Assert.Contains(
            "already",
            (await corrections.WithdrawAsync(record.Id, "Again", yard.Stamp("qualified"), Cancel)).Fault,
            StringComparison.Ordinal
        );

        var held = await yard.FindAsync("HM-0001");
        Assert.Equal((PieceState.Held, null, null), (held.State, held.Verdict, held.PeriodicDue));
        Assert.Contains("was withdrawn: It was HM-0002", Assert.Single(held.OpenHolds), StringComparison.Ordinal);
        Assert.False((await yard.Inspections.SignedAsync(piece.Id, Cancel))[0].Counts);
        Assert.Contains(
            "already",
            (
                await corrections.OpenAsync(
                    (await yard.Inspections.SignedAsync(piece.Id, Cancel))[0],
                    held,
                    "Too late",
                    yard.Stamp("inspector"),
                    Cancel
                )
            ).Fault,
            StringComparison.Ordinal
        );
        Assert.Null((await yard.Ledger.VerifyAsync(Cancel)).Broken);
    }

    [Fact]
    public async Task Two_who_correct_one_record_share_one_draft_and_one_correction_lands()
    {
        await using var yard = await Yard.OpenAsync();
        var piece = await yard.InServiceAsync(Seed.Shackle("HM-0001"));
        var wrong = (await yard.Inspections.SignedAsync(piece.Id, Cancel))[0];
        var corrections = new CorrectionStore(yard.Database);
        var first = (
            await corrections.OpenAsync(wrong, piece, "The day is wrong", yard.Stamp("inspector"), Cancel)
        ).Value;
        Assert.Equal(
            first,
            (await corrections.OpenAsync(wrong, piece, "The day is wrong", yard.Stamp("qualified"), Cancel)).Value
        );

        // An inspection of its own goes on beside it.
        Assert.NotEqual(
            first,
            (await yard.Inspections.OpenAsync(piece, InspectionKind.Periodic, yard.Stamp("inspector"), Cancel)).Value
        );
        yard.Now = yard.Now.AddDays(2);
        Assert.Contains(
            "seen by then",
            (
                await yard.Signing.SignAsync(
                    first,
                    new(1, wrong.InspectedOn.AddDays(1)),
                    yard.Stamp("inspector"),
                    Cancel
                )
            ).Fault,
            StringComparison.Ordinal
        );
        Yard.Must(await yard.Signing.SignAsync(first, new(1, wrong.InspectedOn), yard.Stamp("inspector"), Cancel));
        Assert.Equal(2, (await yard.Inspections.SignedAsync(piece.Id, Cancel)).Count);
    }

    [Fact]
    public async Task Figures_when_new_set_since_then_do_not_bear_on_what_was_seen_before()
    {
        await using var yard = await Yard.OpenAsync();
        var piece = await yard.InServiceAsync(Seed.Shackle("HM-0001"));
        var wrong = (await yard.Inspections.SignedAsync(piece.Id, Cancel))[0];
        yard.Now = yard.Now.AddDays(3);
        await using var since = yard.Database.Command(
            "insert into baseline (piece_id, part, criterion, value, basis, set_at, set_by) select id, 'body', 'shackle.wear-body', '2 in', 'new', $1, $2 from piece"
        );
        since.Parameters.Add(new() { Value = yard.Now });
        since.Parameters.Add(new() { Value = Seed.People["inspector"].Id });
        await since.ExecuteNonQueryAsync(Cancel);
        var (draft, version) = await CorrectAsync(yard, wrong, "The day is wrong");
        Yard.Must(
            await yard.Signing.SignAsync(draft, new(version, wrong.InspectedOn), yard.Stamp("inspector"), Cancel)
        );
        Assert.Equal(
            VerdictKind.Fit,
            (await yard.Inspections.SignedAsync(piece.Id, Cancel)).Single(i => i.Counts).Verdict
        );
    }

    [Fact]
    public async Task A_picture_of_a_finding_goes_with_the_record_and_a_picture_of_a_hold_with_the_hold()
    {
        await using var yard = await Yard.OpenAsync();
        var piece = await yard.RegisterAsync(Seed.Shackle("HM-0001"));
        var files = new FileStore(yard.Database);
        var photo = new NewFile(FileKind.Photo, "Wear of the bow", null, "image/jpeg", [1, 2, 3], [1]);
        var (draft, version) = await yard.DraftAsync("HM-0001", InspectionKind.Initial);
        Assert.Contains(
            "role",
            (
                await files.AttachToDraftAsync(draft, "body", "shackle.wear-body", photo, yard.Stamp("crew"), Cancel)
            ).Fault,
            StringComparison.Ordinal
        );
        Yard.Must(
            await files.AttachToDraftAsync(draft, "body", "shackle.wear-body", photo, yard.Stamp("inspector"), Cancel)
        );
        Yard.Must(await yard.Signing.SignAsync(draft, new(version, new(2026, 3, 2)), yard.Stamp("inspector"), Cancel));
        Assert.Equal("shackle.wear-body", Assert.Single(await files.OfInspectionAsync(draft, Cancel)).Criterion);
        Assert.Contains(
            "takes no more pictures",
            (
                await files.AttachToDraftAsync(
                    draft,
                    "body",
                    "shackle.wear-body",
                    photo,
                    yard.Stamp("inspector"),
                    Cancel
                )
            ).Fault,
            StringComparison.Ordinal
        );

        Yard.Must(
            await yard.Custody.HoldAsync(
                piece.Id,
                HoldCause.Doubt,
                "The bow is bent",
                yard.Stamp("crew"),
                Cancel,
                photo
            )
        );
        Assert.Single((await files.OfHoldsAsync(piece.Id, Cancel)).SelectMany(h => h));
        Assert.Equal(2, (await files.OfAsync(piece.Id, Cancel)).Count);
        Assert.Null((await yard.Ledger.VerifyAsync(Cancel)).Broken);
    }

    private static async Task<(Guid Draft, int Version)> CorrectAsync(
        Yard yard,
        InspectionRow wrong,
        string why,
        params (string Part, string Criterion, AnswerEntry Entry)[] but
    )
    {
        var piece = (await yard.Pieces.GetAsync(wrong.Piece, Cancel))!;
        var draft = (
            await new CorrectionStore(yard.Database).OpenAsync(wrong, piece, why, yard.Stamp("inspector"), Cancel)
        ).Value;
        var version = (
            await yard.Inspections.SaveAsync(
                draft,
                but.Select(b => new DraftAnswer(b.Part, b.Criterion, b.Entry, null, "", yard.Now)).ToList(),
                Seed.People["inspector"],
                yard.Now,
                Cancel
            )
        ).Value;
        return (draft, version);
    }
}
