using Keralith.Core.Custody;
using Keralith.Testing;
using Xunit;

namespace Keralith.Data.Tests;

/// <summary>
/// A recall that stands and does not hold what it means, as one set while a maker written in another way was another maker:
/// its gear is found, may not be used, and is held by whoever may recall.
/// </summary>
public class MissedRecallTests
{
    private static readonly Guid Recall = Guid.NewGuid();

    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    private static Dictionary<string, string> Made(string mark, string maker, string serial)
    {
        var fields = Seed.Shackle(mark);
        (fields["serial"], fields["maker"], fields["model"]) = (serial, maker, "X-2");
        return fields;
    }

    /// <summary>A yard with gear on record, and a recall set behind it that held nothing.</summary>
    private static async Task<Yard> OpenAsync()
    {
        var yard = await Yard.OpenAsync(isTold: false);
        await yard.InServiceAsync(Made("HM-0001", "Pellow-Forge", "K-100"));
        await yard.InServiceAsync(Made("HM-0002", "PELLOW FORGE", "k-199 A"));
        await yard.InServiceAsync(Made("HM-0003", "Pellow Forge", "K-200"));
        await yard.InServiceAsync(Made("HM-0004", "Other Forge", "K-150"));
        await yard.InServiceAsync(Made("HM-0005", "Pellow Forge", "K-150"));
        var gone = await yard.FindAsync("HM-0005");
        Yard.Must(await yard.Custody.CondemnAsync(gone.Id, gone.Version, "Bent", yard.Stamp("qualified"), Cancel));
        await yard.AsOwnerAsync(
            $"""
            insert into recall (id, maker, model, serial_from, serial_to, reason, source, at, by_person)
            select '{Recall}', 'Pellow Forge', 'x2', 'K-100', 'K-199', 'Cracks', 'Notice 4', now(), id
            from person where username = 'qualified'
            """
        );
        return yard;
    }

    private static async Task<IEnumerable<string>> FoundAsync(Yard yard) =>
        (await new VerifyStore(yard.Database).RunAsync(yard.Now, Cancel)).Select(f => $"{f.Mark}: {f.Why}");

    [Fact]
    public async Task What_a_standing_recall_means_and_never_held_does_not_verify_and_may_not_be_used()
    {
        await using var yard = await OpenAsync();
        const string Why = "A recall means it and does not hold it (Cracks): hold it under Cage, Recalls.";
        Assert.Equal([$"HM-0001: {Why}", $"HM-0002: {Why}"], await FoundAsync(yard));
        var piece = await yard.FindAsync("HM-0001");
        var use = piece.UseOn(DateOnly.FromDateTime(yard.Now.Date), await yard.Sites.GetAsync(Cancel));
        Assert.Contains(use.Reasons, r => r.Contains("A recall means it", StringComparison.Ordinal));
        var recalls = new RecallStore(yard.Database);
        Assert.Equal(2, (await recalls.MissedAsync(Cancel))[Recall]);
        var (shown, all) = await recalls.MissedAsync(Recall, 1, Cancel);
        Assert.Equal((1, 2), (shown.Count, all));
    }

    [Fact]
    public async Task Who_may_recall_holds_it_though_somebody_else_set_the_recall_and_who_set_it_lets_it_go()
    {
        await using var yard = await OpenAsync();
        var recalls = new RecallStore(yard.Database);
        Assert.Equal(
            RefusalKind.Forbidden,
            (await recalls.HoldMissedAsync(Recall, yard.Stamp("inspector"), Cancel)).Refusal?.Kind
        );
        Yard.Must(await recalls.HoldMissedAsync(Recall, yard.Stamp("admin"), Cancel));
        Assert.Equal(["HM-0001", "HM-0002"], (await recalls.HeldAsync(Recall, 10, Cancel)).Select(p => p.Mark));
        Assert.Equal(PieceState.Held, (await yard.FindAsync("HM-0001")).State);
        Assert.Equal(PieceState.InService, (await yard.FindAsync("HM-0003")).State);
        Assert.Equal([], await FoundAsync(yard));
        Assert.Empty(await recalls.MissedAsync(Cancel));

        // Nothing is left to hold, nor by a recall nobody knows.
        Assert.Equal(
            RefusalKind.Conflict,
            (await recalls.HoldMissedAsync(Recall, yard.Stamp("admin"), Cancel)).Refusal?.Kind
        );
        Assert.Equal(
            RefusalKind.NotFound,
            (await recalls.HoldMissedAsync(Guid.NewGuid(), yard.Stamp("admin"), Cancel)).Refusal?.Kind
        );

        // One is let go alone by who set the recall, and is not held by it again.
        var held = await yard.FindAsync("HM-0001");
        var hold = (await yard.Custody.HoldsAsync(held.Id, Cancel)).Single().Id;
        Assert.False(
            (await yard.Custody.ReleaseAsync(held.Id, held.Version, hold, "Sound", yard.Stamp("admin"), Cancel)).Ok
        );
        Yard.Must(
            await yard.Custody.ReleaseAsync(held.Id, held.Version, hold, "Sound", yard.Stamp("qualified"), Cancel)
        );
        Assert.Equal(PieceState.InService, (await yard.FindAsync("HM-0001")).State);
        Assert.Empty(await recalls.MissedAsync(Cancel));
        Assert.Equal([], await FoundAsync(yard));
    }

    [Fact]
    public async Task A_recall_that_was_let_go_missed_nothing_and_holds_nothing_more()
    {
        await using var yard = await OpenAsync();
        var recalls = new RecallStore(yard.Database);
        Yard.Must(await recalls.EndAsync(Recall, "The maker says so", yard.Stamp("qualified"), Cancel));
        Assert.Equal([], await FoundAsync(yard));
        Assert.Equal(0, (await recalls.MissedAsync(Recall, 10, Cancel)).All);
        Assert.Equal(
            RefusalKind.Conflict,
            (await recalls.HoldMissedAsync(Recall, yard.Stamp("qualified"), Cancel)).Refusal?.Kind
        );
        Assert.Equal(PieceState.InService, (await yard.FindAsync("HM-0001")).State);
    }

    /// <summary>At its start a newer program holds it by itself; nothing is left for the page, nor for the next start.</summary>
    [Fact]
    public async Task A_newer_program_holds_at_its_start_what_the_one_before_read_as_other_gear()
    {
        await using var yard = await OpenAsync();
        var recalls = new RecallStore(yard.Database);
        Assert.Equal(2, await recalls.HoldMissedAsync(yard.Now, Cancel));
        Assert.Equal(PieceState.Held, (await yard.FindAsync("HM-0002")).State);
        Assert.Equal(
            "Keralith itself",
            (await yard.Custody.HoldsAsync((await yard.FindAsync("HM-0002")).Id, Cancel)).Single().PlacedBy
        );
        Assert.Equal([], await FoundAsync(yard));
        Assert.Equal(0, await recalls.HoldMissedAsync(yard.Now, Cancel));
        Yard.Must(await recalls.EndAsync(Recall, "The maker says so", yard.Stamp("qualified"), Cancel));
        Assert.Equal(PieceState.InService, (await yard.FindAsync("HM-0002")).State);
        Assert.Equal([], await FoundAsync(yard));
    }

    /// <summary>Two who press at once hold it once, and what is registered meanwhile is held once too.</summary>
    [Fact]
    public async Task It_is_held_once_however_many_press_at_once()
    {
        await using var yard = await OpenAsync();
        var recalls = new RecallStore(yard.Database);
        var pressed = await Task.WhenAll(
            recalls.HoldMissedAsync(Recall, yard.Stamp("admin"), Cancel),
            recalls.HoldMissedAsync(Recall, yard.Stamp("qualified"), Cancel),
            recalls.HoldMissedAsync(Recall, yard.Stamp("admin"), Cancel)
        );
        Assert.Equal(1, pressed.Count(p => p.Ok));
        var row = (await recalls.FindAsync(Recall, Cancel))!;
        Assert.Equal((2, 2), (row.Held, row.All));
        Assert.Equal([], await FoundAsync(yard));
    }
}
