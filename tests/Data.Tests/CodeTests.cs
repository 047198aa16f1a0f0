using Keralith.Testing;
using Xunit;

namespace Keralith.Data.Tests;

/// <summary>Further codes in the register: found by every scan, one piece's alone, kept when a tag is replaced.</summary>
public class CodeTests
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    [Fact]
    public async Task A_code_bound_once_leads_to_its_piece_until_it_comes_off()
    {
        await using var yard = await Yard.OpenAsync();
        var (first, second) = (
            await yard.RegisterAsync(Seed.Sling("HM-0001")),
            await yard.RegisterAsync(Seed.Shackle("HM-0002"))
        );
        var codes = new CodeStore(yard.Database);
        Assert.Null(await yard.Pieces.FindAsync("04a2b9", Cancel));
        Yard.Must(await codes.BindAsync(first.Id, " 04a2b9 ", yard.Stamp("stores"), Cancel));
        Assert.Equal("HM-0001", (await yard.Pieces.FindAsync("04A2b9", Cancel))?.Mark);
        Assert.Contains(
            "HM-0001",
            (await codes.BindAsync(second.Id, "04A2B9", yard.Stamp("stores"), Cancel)).Fault,
            StringComparison.Ordinal
        );
        Assert.False((await codes.BindAsync(second.Id, "hm-0001", yard.Stamp("stores"), Cancel)).Ok);
        Assert.False((await codes.BindAsync(second.Id, first.Serial, yard.Stamp("stores"), Cancel)).Ok);
        Yard.Must(await codes.BindAsync(first.Id, first.Serial, yard.Stamp("stores"), Cancel));
        Assert.Equal("HM-0001", (await yard.Pieces.FindAsync(first.Serial!, Cancel))?.Mark);

        Yard.Must(await codes.TakeOffAsync(first.Id, "04A2B9", "The radio tag fell off", yard.Stamp("stores"), Cancel));
        Assert.Null(await yard.Pieces.FindAsync("04A2B9", Cancel));
        Yard.Must(await codes.BindAsync(second.Id, "04A2B9", yard.Stamp("stores"), Cancel));
        Assert.Equal("HM-0002", (await yard.Pieces.FindAsync("04A2B9", Cancel))?.Mark);
        Assert.Equal(
            ["piece.code-taken-off", "piece.code-bound", "piece.code-bound", "piece.registered"],
            (await yard.Ledger.NewestAsync("HM-0001", null, 9, Cancel)).Select(e => e.Kind)
        );
        Assert.Contains(await yard.Database.AskAsync(t => YardStore.Events(t, second.Id), Cancel), e =>
            e.What == "Further code bound: 04A2B9"
        );
        Assert.Empty(await new VerifyStore(yard.Database).RunAsync(yard.Now, Cancel));
    }

    [Fact]
    public async Task Of_many_who_bind_one_code_at_once_one_does()
    {
        await using var yard = await Yard.OpenAsync();
        var pieces = new List<Guid>();
        for (var i = 1; i <= 6; i++)
            pieces.Add((await yard.RegisterAsync(Seed.Shackle($"HM-000{i}"))).Id);
        var codes = new CodeStore(yard.Database);
        var results = await Task.WhenAll(
            pieces.Select(p => codes.BindAsync(p, "04A2B9", yard.Stamp("stores"), Cancel))
        );
        Assert.Single(results, r => r.Ok);
        Assert.NotNull(await yard.Pieces.FindAsync("04A2B9", Cancel));
    }

    [Fact]
    public async Task A_code_moved_behind_the_application_is_found()
    {
        await using var yard = await Yard.OpenAsync();
        var first = await yard.RegisterAsync(Seed.Sling("HM-0001"));
        await yard.RegisterAsync(Seed.Shackle("HM-0002"));
        Yard.Must(await new CodeStore(yard.Database).BindAsync(first.Id, "04A2B9", yard.Stamp("stores"), Cancel));
        await yard.AsOwnerAsync("update piece_code set piece_id = (select id from piece where mark = 'HM-0002')");
        Assert.All(await new VerifyStore(yard.Database).RunAsync(yard.Now, Cancel), f =>
            Assert.Contains("further code", f.Why, StringComparison.Ordinal)
        );
        Assert.NotNull((await yard.FindAsync("HM-0002")).Distrust);
    }
}
