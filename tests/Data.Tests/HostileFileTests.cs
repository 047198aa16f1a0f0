using System.Diagnostics;
using System.IO.Compression;
using System.Text;
using Keralith.Data.Exchange;
using Xunit;

namespace Keralith.Data.Tests;

/// <summary>Files made to take the machine: each took a core or its memory once.</summary>
public class HostileFileTests
{
    private const string Row = "<row r=\"1\"><c r=\"A1\" t=\"inlineStr\"><is><t>mark</t></is></c></row>";

    public static TheoryData<string, string> Sheets { get; } =
        new()
        {
            { "a dimension of the whole sheet", $"<dimension ref=\"A1:XFD1048576\"/><sheetData>{Row}</sheetData>" },
            {
                "a row a million rows away",
                $"<sheetData>{Row}<row r=\"1048576\"><c r=\"A1048576\"><v>1</v></c></row></sheetData>"
            },
            {
                "a cell in the last column",
                $"<sheetData>{Row}<row r=\"2\"><c r=\"XFD2\"><v>1</v></c></row></sheetData>"
            },
            {
                "a row number that is none",
                $"<sheetData>{Row}<row r=\"99999999999\"><c r=\"A2\"><v>1</v></c></row></sheetData>"
            },
            {
                "ten thousand merged cells",
                $"<sheetData>{Row}</sheetData><mergeCells>{string.Concat(Enumerable.Range(1, 10_000).Select(i => $"<mergeCell ref=\"A{i}:B{i}\"/>"))}</mergeCells>"
            },
            {
                "more rows than a register has",
                $"<sheetData>{string.Concat(Enumerable.Range(1, 100_100).Select(i => $"<row r=\"{i}\"/>"))}</sheetData>"
            },
        };

    [Theory]
    [MemberData(nameof(Sheets))]
    public void A_sheet_is_bounded_before_it_is_read(string what, string sheet)
    {
        var clock = Stopwatch.StartNew();
        var read = Table.Read(
            Xlsx($"<worksheet xmlns=\"http://schemas.openxmlformats.org/spreadsheetml/2006/main\">{sheet}</worksheet>"),
            Cancel
        );
        Assert.False(read.Ok, what);
        Assert.Contains("sheet", read.Fault, StringComparison.Ordinal);
        Assert.True(clock.Elapsed < TimeSpan.FromSeconds(5), what);
    }

    [Fact]
    public void A_sheet_that_unpacks_to_more_than_a_machine_holds_is_given_up_on_the_way()
    {
        var before = GC.GetTotalAllocatedBytes();
        var sheet = new string(' ', 250 * 1024 * 1024);
        var bytes = Xlsx($"<worksheet>{sheet}</worksheet>");
        sheet = null;
        Assert.InRange(bytes.Length, 1, 3 * 1024 * 1024);
        before = GC.GetTotalAllocatedBytes();
        Assert.Contains("larger than anything", Table.Read(bytes, Cancel).Fault, StringComparison.Ordinal);
        Assert.InRange(GC.GetTotalAllocatedBytes() - before, 0, 300L * 1024 * 1024);
    }

    [Fact]
    public void A_document_type_is_never_looked_into() =>
        Assert.False(
            Table
                .Read(
                    Xlsx(
                        "<!DOCTYPE x [<!ENTITY a \"aaaaaaaaaa\"><!ENTITY b \"&a;&a;&a;&a;\">]><worksheet>&b;</worksheet>"
                    ),
                    Cancel
                )
                .Ok
        );

    [Fact]
    public void Reading_is_given_up_with_the_request_that_asked()
    {
        using var given = new CancellationTokenSource();
        given.Cancel();
        var csv = Encoding.UTF8.GetBytes("mark,family\n" + string.Concat(Enumerable.Repeat("HM-1,hook\n", 1000)));
        Assert.ThrowsAny<OperationCanceledException>(() => Table.Read(csv, given.Token));
    }

    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    private static byte[] Xlsx(string sheet)
    {
        using var file = new MemoryStream();
        using (var zip = new ZipArchive(file, ZipArchiveMode.Create, leaveOpen: true))
        {
            Add(
                zip,
                "[Content_Types].xml",
                "<Types xmlns=\"http://schemas.openxmlformats.org/package/2006/content-types\"><Default Extension=\"xml\" ContentType=\"application/xml\"/><Override PartName=\"/xl/workbook.xml\" ContentType=\"application/vnd.openxmlformats-officedocument.spreadsheetml.sheet.main+xml\"/><Override PartName=\"/xl/worksheets/sheet1.xml\" ContentType=\"application/vnd.openxmlformats-officedocument.spreadsheetml.worksheet+xml\"/></Types>"
            );
            Add(
                zip,
                "_rels/.rels",
                "<Relationships xmlns=\"http://schemas.openxmlformats.org/package/2006/relationships\"><Relationship Id=\"r1\" Type=\"http://schemas.openxmlformats.org/officeDocument/2006/relationships/officeDocument\" Target=\"xl/workbook.xml\"/></Relationships>"
            );
            Add(
                zip,
                "xl/workbook.xml",
                "<workbook xmlns=\"http://schemas.openxmlformats.org/spreadsheetml/2006/main\" xmlns:r=\"http://schemas.openxmlformats.org/officeDocument/2006/relationships\"><sheets><sheet name=\"a\" sheetId=\"1\" r:id=\"r1\"/></sheets></workbook>"
            );
            Add(
                zip,
                "xl/_rels/workbook.xml.rels",
                "<Relationships xmlns=\"http://schemas.openxmlformats.org/package/2006/relationships\"><Relationship Id=\"r1\" Type=\"http://schemas.openxmlformats.org/officeDocument/2006/relationships/worksheet\" Target=\"worksheets/sheet1.xml\"/></Relationships>"
            );
            Add(zip, "xl/worksheets/sheet1.xml", sheet);
        }

        return file.ToArray();
    }

    private static void Add(ZipArchive zip, string name, string xml)
    {
        using var writer = new StreamWriter(zip.CreateEntry(name, CompressionLevel.Fastest).Open());
        writer.Write(xml);
    }
}
