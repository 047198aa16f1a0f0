using Keralith.Core.Register;
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
        await yard.RegisterAsync(Made("HM-0002", "PELLOW-FORGE", "k-150"), by: "qualified");
        await yard.RegisterAsync(Made("HM-0003", "Pellow Forges", "K-150"));
        await yard.RegisterAsync(Made("HM-0004", "Pellow Forge", "K-151"));
        Assert.Equal(["HM-0002"], await yard.Database.AskAsync(t => PieceStore.TwinsOfSerial(t, piece.Id), Cancel));
    }

    [Theory]
    [InlineData("HM-OO01", "Orrery", "S-9", "looks the same")]
    [InlineData("HM0001", "Orrery", "S-9", "looks the same")]
    [InlineData("K-150", "Orrery", "S-9", "is a serial or a further code of HM-0001")]
    [InlineData("RFID-77", "Orrery", "S-9", "is a serial or a further code of HM-0001")]
    [InlineData("HM-0009", "Orrery", "hm-0001", "is the mark of HM-0001")]
    [InlineData("HM-0009", "PELLOW forge", "k-150", "is HM-0001 already")]
    [InlineData("HM-0009", "Orrery", "K-150", null)]
    [InlineData("HM-0009", "Pellow Forge", "K-151", null)]
    public async Task What_would_be_taken_for_another_piece_is_not_entered(
        string mark,
        string maker,
        string serial,
        string? said
    )
    {
        await using var yard = await Yard.OpenAsync();
        var piece = await yard.RegisterAsync(Made("HM-0001", "Pellow Forge", "K-150"));
        Yard.Must(await new CodeStore(yard.Database).BindAsync(piece.Id, "rfid-77", yard.Stamp("stores"), Cancel));
        var entry = PieceEntryReader.Read(Made(mark, maker, serial)).Entry!;
        var entered = await yard.Pieces.RegisterAsync(entry, Guid.NewGuid(), yard.Stamp("stores"), Cancel);
        Assert.Equal(said is null, entered.Ok);
        if (said is not null)
            Assert.Contains(said, entered.Fault, StringComparison.Ordinal);
    }

    [Fact]
    public async Task Two_of_one_file_that_look_alike_are_not_entered_and_no_code_is_anothers_mark_without_its_dash()
    {
        await using var yard = await Yard.OpenAsync();
        var two = new[] { "HM-0011", "HM-OO11" }
            .Select((m, i) => (Guid.NewGuid(), PieceEntryReader.Read(Made(m, "Orrery", $"S-{i}")).Entry!))
            .ToList();
        Assert.False((await yard.Pieces.RegisterAsync(two, yard.Stamp("stores"), Cancel)).Ok);
        var piece = await yard.RegisterAsync(Made("HM-0001", "Pellow Forge", "K-150"));
        await yard.RegisterAsync(Made("HM-0002", "Pellow Forge", "K-151"));
        var bound = await new CodeStore(yard.Database).BindAsync(piece.Id, "HM0002", yard.Stamp("stores"), Cancel);
        Assert.Contains("leads to HM-0002", bound.Fault, StringComparison.Ordinal);
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
