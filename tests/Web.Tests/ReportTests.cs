using System.Net;
using System.Text;
using Keralith.Core.Schedule;
using Keralith.Testing;
using Keralith.Web.Printing;
using PdfSharp.Pdf;
using PdfSharp.Pdf.Content;
using PdfSharp.Pdf.Content.Objects;
using PdfSharp.Pdf.IO;
using Xunit;

namespace Keralith.Web.Tests;

/// <summary>Reports on paper: they wrap and never shrink, repeat their headings, number their pages and can be read aloud.</summary>
public class ReportTests
{
    private static readonly DateTimeOffset Made = new(2026, 3, 2, 8, 0, 0, TimeSpan.Zero);

    private static readonly ReportColumn[] Two = [new("Mark", 1, Mono: true), new("What", 3)];

    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    [Fact]
    public void The_same_words_at_the_same_time_make_the_same_bytes()
    {
        Assert.Equal(Long(40), Long(40));
        Assert.NotEqual(Long(40), Long(41));
    }

    [Fact]
    public void It_has_a_title_a_language_and_a_structure_to_be_read_by()
    {
        using var document = Read(Long(3));
        Assert.Equal("A list", document.Info.Title);
        var catalog = document.Internals.Catalog;
        Assert.Equal("en", catalog.Elements.GetString("/Lang"));
        Assert.NotNull(catalog.Elements["/StructTreeRoot"]);
        Assert.True(catalog.Elements.GetDictionary("/MarkInfo")!.Elements.GetBoolean("/Marked"));
        var tags = Tags(document);
        Assert.Equal(1, tags.GetValueOrDefault("/H1"));
        Assert.Equal(1, tags.GetValueOrDefault("/Table"));
        Assert.Equal(4, tags.GetValueOrDefault("/TR"));
        Assert.Equal(2, tags.GetValueOrDefault("/TH"));
        Assert.Equal(6, tags.GetValueOrDefault("/TD"));
    }

    [Theory]
    [InlineData(3, 1)]
    [InlineData(400, 2)]
    public void It_takes_as_many_pages_as_it_needs_and_its_table_stays_one_table(int rows, int least)
    {
        using var document = Read(Long(rows));
        Assert.True(document.PageCount >= least);
        var tags = Tags(document);
        Assert.Equal(1, tags["/Table"]);
        Assert.Equal(rows + 1, tags["/TR"]);

        // Headings repeated on later pages are no part of the table, or it would be read aloud with them in between.
        Assert.Equal(2, tags["/TH"]);
        Assert.Equal(2 * rows, tags["/TD"]);
    }

    [Theory]
    [InlineData("short")]
    [InlineData("a text of many words that goes on and on, past the end of its column and past the end of its page ")]
    [InlineData("onewordwithoutanyplacetobreakwhichiswiderthanthewholepageofthereportthatitissetin")]
    [InlineData("\U0001F529\U0001F529\U0001F529")]
    public void Whatever_is_written_wraps_and_is_set_in_the_same_sizes(string text)
    {
        var many = string.Concat(Enumerable.Repeat(text, 60));
        var report = new Report("A list", many)
            .Heading(many, 1)
            .Heading(many)
            .Paragraph(many)
            .Facts([("Name", many), (many, "Value"), ("Nothing", null)])
            .Table(
                Two,
                [
                    [many, many],
                    ["", ""],
                ]
            )
            .Table(Two, []);
        using var document = Read(report.Pdf(Made));
        var sizes = new HashSet<double>();
        foreach (var page in document.Pages)
            Sizes(ContentReader.ReadContent(page), sizes);
        Assert.Subset(new HashSet<double> { 7, 8, 9.2, 10, 12, 16 }, sizes);
    }

    [Fact]
    public void A_row_longer_than_a_page_goes_on_in_the_next()
    {
        var words = string.Concat(Enumerable.Repeat("word after word ", 2000));
        using var document = Read(
            new Report("A list", "x")
                .Table(
                    Two,
                    [
                        ["HM-0001", words],
                        ["HM-0002", "y"],
                    ]
                )
                .Pdf(Made)
        );
        Assert.InRange(document.PageCount, 2, 40);
    }

    [Fact]
    public async Task The_incident_file_gathers_piece_witnesses_inspections_and_what_happened()
    {
        await using var yard = await WebYard.OpenAsync();
        await yard.AcceptedAsync(Seed.Shackle("HM-0002"), DateTimeOffset.UtcNow.AddDays(-20));
        var inspector = await yard.SignedInAsync("inspector");
        Dictionary<string, string> said = new()
        {
            ["who"] = "The driver",
            ["on"] = $"{DateTimeOffset.UtcNow.AddDays(-1):yyyy-MM-dd}",
            ["words"] = "It let go with a bang.",
        };
        Assert.Equal(
            HttpStatusCode.Redirect,
            (await inspector.PostAsync("/piece/HM-0002/look-back?handler=Witness", said)).StatusCode
        );
        var page = await inspector.PageAsync("/piece/HM-0002/look-back");
        Assert.Contains(
            "It let go with a bang.",
            page.QuerySelector(".witness")!.TextContent,
            StringComparison.Ordinal
        );
        var again = await inspector.PostAsync(
            "/piece/HM-0002/look-back?handler=Witness",
            new(said) { ["on"] = "2199-01-01", ["words"] = "I saw it." }
        );
        Assert.Equal(HttpStatusCode.UnprocessableEntity, again.StatusCode);
        Assert.Contains(
            "I saw it.",
            (await Visitor.ReadAsync(again)).QuerySelector("textarea[name=words]")!.TextContent,
            StringComparison.Ordinal
        );
        using var file = Read(
            await (
                await inspector.GetAsync("/piece/HM-0002/incident.pdf?failed=2026-01-01")
            ).Content.ReadAsByteArrayAsync(Cancel)
        );
        Assert.Equal("Incident file of HM-0002", file.Info.Title);
        Assert.True(Tags(file)["/H2"] >= 6);
        Assert.Equal(1, Tags(file)["/Figure"]);
        Assert.Equal(HttpStatusCode.NotFound, (await inspector.GetAsync("/piece/HM-0999/incident.pdf")).StatusCode);
    }

    [Fact]
    public void Labels_can_be_read_aloud_like_reports_front_and_back()
    {
        var sheet = LabelSheet.Pdf([Shackle], LabelSize.All[1], 0, Made, backs: true);
        ReadAloud(sheet, "Labels, 99 x 38 mm, 14 on an A4 sheet", pages: 2);
    }

    [Fact]
    public void A_seasons_poster_can_be_read_aloud_like_a_report()
    {
        var scheme = SeasonSchemeReader
            .Read("V heather ring\nM moss dots", 3, new(2026, 1, 1), 14, false, ["heather", "moss"])
            .Value;
        var poster = SeasonPoster.Pdf("Test works", scheme, scheme.On(new(2026, 4, 2))!, Made);
        ReadAloud(poster, "Season M", pages: 1);
    }

    private static readonly Label Shackle = new(
        "HM-0002",
        "Shackle",
        "6.5 t",
        null,
        null,
        null,
        "http://127.0.0.1/piece/HM-0002",
        null,
        ["Wipe it dry"]
    );

    private static void ReadAloud(byte[] pdf, string title, int pages)
    {
        using var document = Read(pdf);
        Assert.Equal((title, pages), (document.Info.Title, document.PageCount));
        Assert.Equal("en", document.Internals.Catalog.Elements.GetString("/Lang"));
        var tags = Tags(document);
        Assert.True(tags.GetValueOrDefault("/P") >= 4);
        Assert.True(tags.GetValueOrDefault("/Figure") >= 1);
    }

    [Fact]
    public void Labels_at_one_time_are_the_same_bytes()
    {
        byte[] Sheet(string mark) => LabelSheet.Pdf([Shackle with { Mark = mark }], LabelSize.All[0], 0, Made);
        Assert.Equal(Sheet("HM-0002"), Sheet("HM-0002"));
        Assert.NotEqual(Sheet("HM-0002"), Sheet("HM-0003"));
    }

    [Fact]
    public async Task A_pack_carries_its_summary_on_paper_and_twice_the_same()
    {
        await using var yard = await WebYard.OpenAsync();
        await yard.AcceptedAsync(Seed.Shackle("HM-0002"), DateTimeOffset.UtcNow.AddDays(-20));
        var auditor = await yard.SignedInAsync("auditor");
        var address =
            $"/ledger/pack.zip?from={DateTimeOffset.UtcNow.AddDays(-30):yyyy-MM-dd}&until={DateTimeOffset.UtcNow:yyyy-MM-dd}";
        var (one, other) = (await PackAsync(), await PackAsync());
        Assert.Equal(one, other);
        using var archive = new System.IO.Compression.ZipArchive(new MemoryStream(one));
        using var bytes = new MemoryStream();
        await using (var entry = await archive.GetEntry("summary.pdf")!.OpenAsync(Cancel))
            await entry.CopyToAsync(bytes, Cancel);
        using var summary = Read(bytes.ToArray());
        Assert.Equal("Auditor's pack", summary.Info.Title);
        Assert.True(Tags(summary)["/H2"] >= 7);

        async Task<byte[]> PackAsync() => await (await auditor.GetAsync(address)).Content.ReadAsByteArrayAsync(Cancel);
    }

    private static byte[] Long(int rows) =>
        new Report("A list", "of the test works")
            .Heading("A list", 1)
            .Table(
                Two,
                Enumerable.Range(1, rows).Select(n => (IReadOnlyList<string>)[$"HM-{n:0000}", "Shackle, 3/4 in"])
            )
            .Pdf(Made);

    private static PdfDocument Read(byte[] pdf)
    {
        Assert.Equal("%PDF-", Encoding.Latin1.GetString(pdf, 0, 5));
        return PdfReader.Open(new MemoryStream(pdf), PdfDocumentOpenMode.Import);
    }

    /// <summary>How often each tag stands in the document's structure.</summary>
    private static Dictionary<string, int> Tags(PdfDocument document)
    {
        var counts = new Dictionary<string, int>();
        foreach (var item in document.Internals.GetAllObjects().OfType<PdfDictionary>())
        {
            if (item.Elements.GetName("/Type") == "/StructElem" && item.Elements.GetName("/S") is { Length: > 0 } tag)
                counts[tag] = counts.GetValueOrDefault(tag) + 1;
        }

        return counts;
    }

    private static void Sizes(CSequence content, HashSet<double> sizes)
    {
        foreach (var part in content.OfType<COperator>().Where(o => o.Name == "Tf"))
            sizes.Add(
                Math.Round(
                    Math.Abs(part.Operands[1] is CReal real ? real.Value : ((CInteger)part.Operands[1]).Value),
                    1
                )
            );
    }
}
