using Keralith.Core.Custody;
using Keralith.Core.Judgement;
using Keralith.Core.Sites;
using Keralith.Testing;
using Xunit;

namespace Keralith.Data.Tests;

/// <summary>A site's own questions, from being set to the records that were asked them.</summary>
public class QuestionTests
{
    private static readonly EnteredQuestion Label = new()
    {
        Family = "alloy-chain-sling",
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

    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    [Fact]
    public async Task It_is_asked_from_the_day_it_is_set_and_a_record_reads_as_it_was_asked()
    {
        await using var yard = await Yard.OpenAsync();
        await yard.InServiceAsync(Seed.Sling("HM-0001"));
        var questions = new QuestionStore(yard.Database);
        Yard.Must(await questions.SetAsync(Label, yard.Stamp("qualified"), Cancel));

        // Set later, it changes nothing that was signed, and is asked from the next inspection on.
        Assert.Equal(PieceState.InService, (await yard.FindAsync("HM-0001")).State);
        var unanswered = await yard.InspectAsync("HM-0001", InspectionKind.Periodic);
        Assert.Contains("not complete", unanswered.Fault, StringComparison.Ordinal);
        await ThrowAwayAsync(yard);
        Yard.Must(await yard.InspectAsync("HM-0001", InspectionKind.Periodic, ("tag", "own.1", new("no"))));
        var fit = await NewestAsync(yard);
        Assert.Equal((VerdictKind.Fit, "no"), (fit.Verdict, Assert.Single(fit.Own).Answer));

        Yard.Must(await yard.InspectAsync("HM-0001", InspectionKind.Periodic, ("tag", "own.1", new("yes"))));
        var piece = await yard.FindAsync("HM-0001");
        Assert.Equal((PieceState.Held, VerdictKind.Hold), (piece.State, piece.Verdict));
        Assert.Contains("repair label", Assert.Single(piece.OpenHolds), StringComparison.Ordinal);

        Yard.Must(
            await questions.WithdrawAsync(Site.First, "own.1", "Painted on now", yard.Stamp("qualified"), Cancel)
        );
        Yard.Must(
            await questions.SetAsync(
                Label with
                {
                    Question = "The repair is not painted on the master link.",
                },
                yard.Stamp("qualified"),
                Cancel
            )
        );
        var held = (await yard.Inspections.FindSignedAsync((await NewestAsync(yard)).Id, Cancel))!;
        var asked = Assert.Single(held.Own);
        Assert.Equal(("own.1", Label.Question), (asked.Question, asked.Asked));
        Assert.Equal("Repair label", held.TitleOf("own.1"));
        var site = await yard.Sites.GetAsync(Cancel);
        Assert.Equal("own.2", Assert.Single(site.Questions).Id);
        Assert.Equal(["own.2", "own.1"], (await questions.AllAsync(Site.First, Cancel)).Select(q => q.Id));
        Assert.Equal(
            ["rules.question-set", "rules.question-withdrawn", "rules.question-set"],
            (await yard.Ledger.NewestAsync("site", null, 3, Cancel)).Select(e => e.Kind)
        );
        Assert.Empty(await new VerifyStore(yard.Database).RunAsync(yard.Now, Cancel));
    }

    [Fact]
    public async Task What_was_asked_cannot_be_altered_behind_the_application()
    {
        await using var yard = await Yard.OpenAsync();
        await yard.InServiceAsync(Seed.Sling("HM-0001"));
        var questions = new QuestionStore(yard.Database);
        Yard.Must(await questions.SetAsync(Label, yard.Stamp("qualified"), Cancel));
        Yard.Must(await yard.InspectAsync("HM-0001", InspectionKind.Periodic, ("tag", "own.1", new("no"))));
        await yard.AsOwnerAsync("set session_replication_role = replica; update inspection set own_document = null");
        Assert.Contains(
            "something else than its entry",
            Assert.Single(await new VerifyStore(yard.Database).RunAsync(yard.Now, Cancel)).Why,
            StringComparison.Ordinal
        );
        var refused = await Assert.ThrowsAsync<Npgsql.PostgresException>(() =>
            yard.Database.Command("update own_question set on_fault = 'hold'").ExecuteNonQueryAsync(Cancel)
        );
        Assert.Contains("denied", refused.Message, StringComparison.Ordinal);
    }

    [Fact]
    public async Task A_question_withdrawn_meanwhile_stops_no_draft_it_was_clear_on_and_one_found_at_fault_is_looked_at_again()
    {
        await using var yard = await Yard.OpenAsync();
        await yard.InServiceAsync(Seed.Sling("HM-0001"));
        var questions = new QuestionStore(yard.Database);
        Yard.Must(await questions.SetAsync(Label, yard.Stamp("qualified"), Cancel));
        var (clear, version) = await yard.DraftAsync("HM-0001", InspectionKind.Periodic, ("tag", "own.1", new("no")));
        Yard.Must(await questions.WithdrawAsync(Site.First, "own.1", "Closed", yard.Stamp("qualified"), Cancel));
        Yard.Must(await SignAsync(yard, clear, version));
        Assert.Empty((await NewestAsync(yard)).Own);

        Yard.Must(await questions.SetAsync(Label, yard.Stamp("qualified"), Cancel));
        var (fault, next) = await yard.DraftAsync("HM-0001", InspectionKind.Periodic, ("tag", "own.2", new("yes")));
        Yard.Must(await questions.WithdrawAsync(Site.First, "own.2", "Closed", yard.Stamp("qualified"), Cancel));
        Assert.Contains("no longer has", (await SignAsync(yard, fault, next)).Fault, StringComparison.Ordinal);
    }

    [Fact]
    public async Task A_look_before_use_answers_it_and_a_correction_begins_with_its_answer()
    {
        await using var yard = await Yard.OpenAsync();
        await yard.InServiceAsync(Seed.Sling("HM-0001"));
        Yard.Must(await new QuestionStore(yard.Database).SetAsync(Label, yard.Stamp("qualified"), Cancel));
        Yard.Must(
            await yard.Signing.SignCleanCheckAsync(await yard.FindAsync("HM-0001"), null, yard.Stamp("crew"), Cancel)
        );
        var check = await NewestAsync(yard);
        Assert.Equal("no", Assert.Single(check.Own).Answer);
        Yard.Must(await yard.InspectAsync("HM-0001", InspectionKind.Periodic, ("tag", "own.1", new("no"))));
        var draft = await new CorrectionStore(yard.Database).OpenAsync(
            await NewestAsync(yard),
            await yard.FindAsync("HM-0001"),
            "The label was another piece's",
            yard.Stamp("inspector"),
            Cancel
        );
        Assert.Equal(
            "no",
            (await yard.Inspections.AnswersAsync(draft.Value, Cancel)).Single(a => a.Criterion == "own.1").Entry.Answer
        );
    }

    [Theory]
    [InlineData(2)]
    [InlineData(0)]
    public async Task A_site_that_is_none_asks_nothing(int site)
    {
        await using var yard = await Yard.OpenAsync();
        var questions = new QuestionStore(yard.Database);
        Assert.False((await questions.SetAsync(Label with { Site = site }, yard.Stamp("qualified"), Cancel)).Ok);
        Assert.False((await questions.WithdrawAsync(site, "own.1", "Why", yard.Stamp("qualified"), Cancel)).Ok);
    }

    private static async Task<InspectionRow> NewestAsync(Yard yard) =>
        (await yard.Inspections.SignedAsync((await yard.FindAsync("HM-0001")).Id, Cancel))[0];

    private static Task<Checked<Recorded>> SignAsync(Yard yard, Guid draft, int version)
    {
        var stamp = yard.Stamp("inspector");
        return yard.Signing.SignAsync(draft, new(version, DateOnly.FromDateTime(stamp.At.Date)), stamp, Cancel);
    }

    private static async Task ThrowAwayAsync(Yard yard)
    {
        foreach (var draft in await yard.Inspections.DraftsAsync(Seed.People["inspector"].Id, null, Cancel))
            Yard.Must(await yard.Inspections.DiscardAsync(draft.Id, yard.Stamp("inspector"), Cancel));
    }
}
