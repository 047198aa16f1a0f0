using Keralith.Testing;
using Xunit;

namespace Keralith.Data.Tests;

/// <summary>What people write at different moments is found to be one name by the database as by Core.</summary>
public class SpelledTests
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    private static Dictionary<string, string> Made(string mark, string maker, string serial)
    {
        var form = Seed.Shackle(mark);
        (form["maker"], form["serial"]) = (maker, serial);
        return form;
    }

    [Fact]
    public async Task A_serial_of_the_same_maker_is_warned_of_however_the_maker_is_spelled()
    {
        await using var yard = await Yard.OpenAsync();
        var piece = await yard.RegisterAsync(Made("HM-0001", "Pellow Forge", "K-150"));
        await yard.RegisterAsync(Made("HM-0002", "PELLOW-FORGE", "k-150"));
        await yard.RegisterAsync(Made("HM-0003", "Pellow Forges", "K-150"));
        await yard.RegisterAsync(Made("HM-0004", "Pellow Forge", "K-151"));
        Assert.Equal(["HM-0002"], await yard.Database.AskAsync(t => PieceStore.TwinsOfSerial(t, piece.Id), Cancel));
    }

    [Theory]
    [InlineData("Maud Tarrow", "maud tarrow ", true)]
    [InlineData("Maud Tarrow", "MAUD-TARROW", true)]
    [InlineData("Ødegård", "ØDEGÅRD", true)]
    [InlineData("Maud Tarrow", "Maud", false)]
    public async Task Who_has_a_piece_out_is_told_of_its_hold_however_the_store_wrote_the_name(
        string name,
        string written,
        bool told
    )
    {
        await using var yard = await Yard.OpenAsync();
        await yard.AsOwnerAsync($"update person set name = '{name}' where username = 'crew'");
        var piece = await yard.InServiceAsync(Seed.Shackle("HM-0001"));
        var issues = new IssueStore(yard.Database);
        Yard.Must(await issues.IssueAsync(piece.Id, written, "Lock 9", null, yard.Stamp("stores"), Cancel));
        Yard.Must(await yard.HoldAsync("inspector", "HM-0001"));
        var notices = await new NoticeStore(yard.Database).OpenAsync(Seed.People["crew"].Id, Cancel);
        Assert.Equal(told, notices.Any(n => n.Words.Contains("out in your name", StringComparison.Ordinal)));
    }
}
