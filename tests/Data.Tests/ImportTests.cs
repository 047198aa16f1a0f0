using System.Text;
using Keralith.Core.Custody;
using Keralith.Core.People;
using Keralith.Core.Register;
using Keralith.Data.Exchange;
using Keralith.Testing;
using Xunit;

namespace Keralith.Data.Tests;

/// <summary>Files in and out: what each row becomes, before and after it lands.</summary>
public class ImportTests
{
    private const string Head = "mark,serial,family,maker,size,grade,legs,end_fitting,rated_load,pin_type,store,peg";
    private const string Shackle = "HM-0100,P-1,shackle,Pellow Forge,7/8 in,,,,6-1/2 short ton,screw,Basin Yard,B2";

    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    [Fact]
    public async Task Good_rows_land_and_the_same_file_again_changes_nothing()
    {
        await using var yard = await Yard.OpenAsync();
        var (begun, _) = await yard.Ledger.VerifyAsync(Cancel);
        var file =
            $"{Head}\n{Shackle}\nHM-0101,O-1,alloy-chain-sling,Orrery Chainworks,3/8 in,80,2,hook,12200 lb,,Upper Flight,A1\n";
        Assert.Equal(2, (await LandAsync(yard, file)).Value);
        Assert.Equal("Upper Flight", (await yard.FindAsync("HM-0101")).Store);
        var again = await PlanAsync(yard, file);
        Assert.Equal(
            (0, 2, 0),
            (again.Count(RowFate.New), again.Count(RowFate.Unchanged), again.Count(RowFate.Refused))
        );
        Assert.Equal(0, (await LandAsync(yard, file)).Value);
        Assert.Equal((begun + 2, null), await yard.Ledger.VerifyAsync(Cancel));
    }

    [Theory]
    [InlineData("\uFEFF")]
    [InlineData("", ";", "\r\n")]
    [InlineData("", "\t", "\n")]
    public async Task A_spreadsheets_ways_of_writing_are_read(string start, string comma = ",", string line = "\r\n")
    {
        await using var yard = await Yard.OpenAsync();
        var file =
            start
            + Head.Replace(",", comma, StringComparison.Ordinal)
            + line
            + Shackle.Replace(",", comma, StringComparison.Ordinal)
            + line
            + line;
        Assert.Equal(1, (await LandAsync(yard, file)).Value);
    }

    [Fact]
    public async Task One_bad_row_stops_all_unless_the_good_ones_are_asked_for()
    {
        await using var yard = await Yard.OpenAsync();
        var file = $"{Head}\n{Shackle}\nHM-0101,,shackle,,7/8,,,,,screw,Basin Yard,\n";
        var refused = await LandAsync(yard, file);
        Assert.Contains("1 row is refused; nothing landed", refused.Fault, StringComparison.Ordinal);
        Assert.Null(await yard.Pieces.FindAsync("HM-0100", Cancel));
        Assert.Equal(1, (await LandAsync(yard, file, partial: true)).Value);
        Assert.Null(await yard.Pieces.FindAsync("HM-0101", Cancel));
    }

    [Fact]
    public async Task Each_refused_row_is_named_with_row_column_and_reason()
    {
        await using var yard = await Yard.OpenAsync();
        await yard.RegisterAsync(Seed.Shackle("HM-0001"));
        var gone = await yard.RegisterAsync(Seed.Shackle("HM-0002"));
        Yard.Must(
            await yard.Custody.CondemnAsync(gone.Id, gone.Version, "Bow worn through", yard.Stamp("qualified"), Cancel)
        );
        var plan = await PlanAsync(
            yard,
            $"{Head}\n{Shackle}\n{Shackle}\n{Shackle.Replace("0100", "0001", StringComparison.Ordinal)}\n{Shackle.Replace("0100", "0002", StringComparison.Ordinal)}\n{Shackle.Replace("0100", "0103", StringComparison.Ordinal)},extra\n"
        );
        using var errors = new MemoryStream();
        await ImportErrors.WriteAsync(errors, plan, Cancel);
        var lines = Encoding.UTF8.GetString(errors.ToArray());
        Assert.StartsWith("row,column,reason\r\n", lines, StringComparison.Ordinal);
        Assert.Contains("3,mark,HM-0100 stands in row 2 too.", lines, StringComparison.Ordinal);
        Assert.Contains(
            "4,serial,\"HM-0001 is registered already, with \"\"P-HM-0001\"\" here.",
            lines,
            StringComparison.Ordinal
        );
        Assert.Contains(
            "5,mark,HM-0002 was condemned. The mark of a retired piece is never used again",
            lines,
            StringComparison.Ordinal
        );
        Assert.Contains("6,mark,The row has 13 cells under 12 headings", lines, StringComparison.Ordinal);
    }

    [Fact]
    public async Task A_serial_that_stands_elsewhere_lands_and_is_remarked_on()
    {
        await using var yard = await Yard.OpenAsync();
        await yard.RegisterAsync(Seed.Shackle("HM-0001"));
        var plan = await PlanAsync(yard, $"{Head}\n{Shackle.Replace("P-1", "p-hm-0001", StringComparison.Ordinal)}\n");
        Assert.Equal(RowFate.New, plan.Rows[0].Fate);
        Assert.Contains("stand on HM-0001", plan.Rows[0].Remarks[0], StringComparison.Ordinal);
    }

    [Theory]
    [InlineData("", "empty")]
    [InlineData("\n\n", "empty")]
    [InlineData("serial,maker\n1,2\n", "No heading means mark")]
    [InlineData("mark,family,store,mark\n", "Two headings mean mark")]
    [InlineData("mark,family,store\n\"HM-1,hook\n", null)]
    public async Task A_file_that_is_no_register_is_refused_with_words(string file, string? words)
    {
        await using var yard = await Yard.OpenAsync();
        var table = Table.Read(Encoding.UTF8.GetBytes(file), Cancel);
        var fault = table.Fault
            ?? (
                await Import(yard).PlanAsync(table.Value, RegisterImport.Mapping(table.Value), Role.Stores, Cancel)
            ).Fault;
        if (words is not null)
            Assert.Contains(words, fault, StringComparison.Ordinal);
    }

    [Fact]
    public void Other_encodings_binary_and_oversize_files_are_refused_with_words()
    {
        Assert.Contains(
            "UTF-16",
            Table.Read(Encoding.Unicode.GetPreamble().Concat(Encoding.Unicode.GetBytes(Head)).ToArray(), Cancel).Fault,
            StringComparison.Ordinal
        );
        Assert.Contains(
            "not UTF-8",
            Table.Read(Encoding.Latin1.GetBytes("mark,maker\nHM-1,Forêt\n"), Cancel).Fault,
            StringComparison.Ordinal
        );
        Assert.Contains("not text", Table.Read([109, 0, 97, 0], Cancel).Fault, StringComparison.Ordinal);
        Assert.Contains("can be read", Table.Read([0x50, 0x4B, 3, 4, 9, 9, 9], Cancel).Fault, StringComparison.Ordinal);
        Assert.Contains(
            "at most 24 MB",
            Table.Read(new byte[Table.MostBytes + 1], Cancel).Fault,
            StringComparison.Ordinal
        );
        Assert.Contains(
            "longer than",
            Table.Read(Encoding.UTF8.GetBytes($"mark,notes\nHM-1,{new string('x', 5000)}\n"), Cancel).Fault,
            StringComparison.Ordinal
        );
    }

    [Fact]
    public async Task What_goes_out_comes_in_again_as_it_was_through_both_kinds_of_file()
    {
        await using var yard = await Yard.OpenAsync();
        var form = Seed.Sling("HM-0001");
        form["notes"] = "=SUM(A1:A9)";
        form["maker"] = "Orrery, \"Chain\" works";
        await yard.RegisterAsync(form);
        await yard.RegisterAsync(EveryFamily.Form(Core.Gear.GearFamilies.Find("sling-kit")!, "HM-0002"));
        var export = new RegisterExport(yard.Database, yard.Sites);
        var headings = await export.HeadingsAsync(true, Cancel);
        using var csv = new MemoryStream();
        await TableWriter.CsvAsync(csv, headings, export.RowsAsync(headings, null, Cancel), Cancel);
        Assert.Contains("'=SUM(A1:A9)", Encoding.UTF8.GetString(csv.ToArray()), StringComparison.Ordinal);
        using var xlsx = new MemoryStream();
        await TableWriter.XlsxAsync(xlsx, headings, export.RowsAsync(headings, null, Cancel), Cancel);
        foreach (var bytes in new[] { csv.ToArray(), xlsx.ToArray() })
        {
            var table = Table.Read(bytes, Cancel).Value;
            var plan = (await Import(yard).PlanAsync(table, RegisterImport.Mapping(table), Role.Stores, Cancel)).Value;
            Assert.Equal(2, plan.Count(RowFate.Unchanged));
        }
    }

    [Fact]
    public async Task Gear_with_a_report_stays_new_until_the_report_is_there_to_be_read()
    {
        await using var yard = await Yard.OpenAsync();
        Assert.Equal(
            1,
            (
                await LandAsync(
                    yard,
                    $"{Head},last_periodic,last_inspector,evidence\n{Shackle},2026-01-10,Ines Corvane,report 7\n"
                )
            ).Value
        );
        var piece = await yard.FindAsync("HM-0100");
        Assert.Equal((PieceState.New, null), (piece.State, piece.PeriodicDue));
        Assert.Equal(new CarriedOver(new(2026, 1, 10), "Ines Corvane", "report 7"), piece.CarriedOver);
        Assert.Contains(
            "yet to come",
            (
                await LandAsync(
                    yard,
                    $"{Head},last_periodic,last_inspector,evidence\n{Shackle.Replace("0100", "0102", StringComparison.Ordinal)},2027-01-10,Ines Corvane,report 7\n"
                )
            ).Fault,
            StringComparison.Ordinal
        );
    }

    private static RegisterImport Import(Yard yard) => new(yard.Database, yard.Sites, new(yard.Database, yard.Sites));

    private static async Task<ImportPlan> PlanAsync(Yard yard, string file)
    {
        var table = Table.Read(Encoding.UTF8.GetBytes(file), Cancel).Value;
        return (await Import(yard).PlanAsync(table, RegisterImport.Mapping(table), Role.Stores, Cancel)).Value;
    }

    private static async Task<Checked<int>> LandAsync(Yard yard, string file, bool partial = false) =>
        await Import(yard).LandAsync(await PlanAsync(yard, file), partial, yard.Stamp("stores"), null, Cancel);
}
