using System.Net;
using System.Text;
using Keralith.Core.Gear;
using Keralith.Core.Register;
using Keralith.Data;
using Keralith.Testing;
using Keralith.Web.Files;
using SkiaSharp;
using Xunit;

namespace Keralith.Web.Tests;

/// <summary>The register's pages: files in, files out, labels, pictures.</summary>
public class RegisterPageTests
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    [Theory]
    [InlineData("sling-kit")]
    [InlineData("shackle")]
    [InlineData("web-sling")]
    [InlineData("load-indicator")]
    public async Task The_form_asks_every_field_of_the_table_that_its_family_has_once(string family)
    {
        await using var yard = await WebYard.OpenAsync();
        var stores = await yard.SignedInAsync("stores");
        var form = (await stores.PageAsync($"/register/new?family={family}")).QuerySelector(
            "form[action='/register/new'][method=post]"
        )!;
        foreach (var field in PieceFields.All)
        {
            var inputs = form.QuerySelectorAll($"[name='{field.Name}']").Length;
            Assert.True(
                inputs == (field.IsAskedOf(GearFamilies.Find(family)!) ? 1 : 0),
                $"{field.Name} stands {inputs} times."
            );
        }
    }

    [Fact]
    public async Task Later_leads_through_the_register_fifty_by_fifty_and_Earlier_back()
    {
        await using var yard = await WebYard.OpenAsync();
        var marks = Enumerable.Range(1, 101).Select(i => $"HM-{i:0000}").ToList();
        foreach (var mark in marks)
            await yard.RegisterAsync(Seed.Shackle(mark));
        var crew = await yard.SignedInAsync("crew");
        var (at, seen) = ("/register?q=hm&sort=mark", new List<string>());
        for (var fifty = 1; fifty <= 3; fifty++)
        {
            var page = await crew.PageAsync(at);
            seen.AddRange(page.QuerySelectorAll("tbody td.mark").Select(c => c.TextContent));
            var ways = page.QuerySelectorAll("nav[aria-label=Pages] a");
            Assert.Equal(
                fifty switch
                {
                    1 => ["Later"],
                    2 => ["Earlier", "Later"],
                    _ => ["Earlier"],
                },
                ways.Select(w => w.TextContent)
            );
            Assert.Equal(
                fifty switch
                {
                    1 => "1 to 50 of 101",
                    2 => "51 to 100 of 101",
                    _ => "101 to 101 of 101",
                },
                page.QuerySelector("nav[aria-label=Pages] span")!.TextContent
            );
            at = ways[^1].GetAttribute("href")!;
        }

        Assert.Equal(marks, seen);
        Assert.Equal("HM-0051", (await crew.PageAsync(at)).QuerySelector("tbody td.mark")!.TextContent);
        Assert.Contains(
            "The list ends before",
            (await crew.PageAsync("/register?q=hm&page=4")).QuerySelector("main")!.TextContent,
            StringComparison.Ordinal
        );
        Assert.Null((await crew.PageAsync("/register?q=hm-0007")).QuerySelector("nav[aria-label=Pages]"));
    }

    [Fact]
    public async Task A_code_that_moved_to_another_piece_leads_there_at_once_with_what_is_on_record_of_that_one()
    {
        await using var yard = await WebYard.OpenAsync();
        var pieces = new[]
        {
            await yard.AcceptedAsync(Seed.Shackle("HM-0001"), DateTimeOffset.UtcNow),
            await yard.RegisterAsync(Seed.Shackle("HM-0002")),
        };
        var codes = new CodeStore(yard.Database);
        var crew = await yard.SignedInAsync("crew");
        Stamp Now() => new(Seed.People["stores"], DateTimeOffset.UtcNow, Guid.NewGuid());
        Assert.Equal(HttpStatusCode.NotFound, (await crew.GetAsync("/piece/04A2B9")).StatusCode);
        for (var i = 0; i < 4; i++)
        {
            var (piece, other) = (pieces[i % 2], pieces[(i + 1) % 2]);
            Assert.True((await codes.BindAsync(piece.Id, "04A2B9", Now(), Cancel)).Ok);
            for (var again = 0; again < 2; again++)
            {
                var text = (await crew.PageAsync("/piece/04A2B9")).Body!.TextContent;
                Assert.Contains(piece.Mark, text, StringComparison.Ordinal);
                Assert.DoesNotContain(other.Mark, text, StringComparison.Ordinal);
                Assert.Equal(i % 2 == 0, text.Contains("Initial inspection", StringComparison.OrdinalIgnoreCase));
            }

            Assert.True((await codes.TakeOffAsync(piece.Id, "04A2B9", "It fell off", Now(), Cancel)).Ok);
        }

        Assert.Equal(HttpStatusCode.NotFound, (await crew.GetAsync("/piece/04A2B9")).StatusCode);
    }

    [Fact]
    public async Task A_file_shows_each_rows_fate_before_it_lands_and_then_lands()
    {
        await using var yard = await WebYard.OpenAsync();
        var stores = await yard.SignedInAsync("stores");
        const string file =
            "mark,Serial No,family,size,pin_type,WLL,store\nHM-0100,P-1,shackle,7/8 in,screw,2 t,Basin Yard\nHM-0101,P-2,shackle,7/8,screw,2 t,Basin Yard\n";
        var sent = await stores.SendFileAsync("/register/import", "file", "register.csv", Encoding.UTF8.GetBytes(file));
        Assert.True(
            sent.StatusCode == HttpStatusCode.Redirect,
            await sent.Content.ReadAsStringAsync(Cancel) + sent.Headers
        );
        var page = sent.Headers.Location!.ToString();
        var preview = await stores.PageAsync(page);
        Assert.Contains("1 would land", preview.Body!.TextContent, StringComparison.Ordinal);
        Assert.Contains("no unit", preview.Body!.TextContent, StringComparison.Ordinal);
        Assert.Contains(
            "size",
            await (await stores.GetAsync($"{page}/errors.csv")).Content.ReadAsStringAsync(Cancel),
            StringComparison.Ordinal
        );
        Assert.Equal(HttpStatusCode.Redirect, (await stores.SubmitAsync(page, "form[action*=Land]", [])).StatusCode);
        Assert.Contains(
            "1 piece landed, 1 rows left out",
            (await stores.PageAsync(page)).Body!.TextContent,
            StringComparison.Ordinal
        );
        Assert.Contains("HM-0100", (await stores.PageAsync("/register")).Body!.TextContent, StringComparison.Ordinal);
        Assert.Equal(HttpStatusCode.NotFound, (await (await yard.SignedInAsync("admin")).GetAsync(page)).StatusCode);
    }

    [Fact]
    public async Task What_goes_out_is_a_file_of_each_kind()
    {
        await using var yard = await WebYard.OpenAsync();
        await yard.RegisterAsync(Seed.Sling("HM-0001"));
        var crew = await yard.SignedInAsync("crew");
        foreach (
            var (path, start) in new[]
            {
                ("/register/export.csv", "mark,serial,family"),
                ("/register/export.csv?all=true", "mark,serial"),
                ("/register/export.xlsx", "PK"),
                ("/register/export.pdf", "%PDF-"),
                ("/labels/sheet.pdf?marks=HM-0001", "%PDF-"),
                ("/labels/sheet.svg?marks=HM-0001", "<svg"),
            }
        )
        {
            var response = await crew.GetAsync(path);
            Assert.Equal(HttpStatusCode.OK, response.StatusCode);
            Assert.StartsWith(start, await response.Content.ReadAsStringAsync(Cancel), StringComparison.Ordinal);
        }

        Assert.Contains(
            "HM-0001",
            await (await crew.GetAsync("/labels/sheet.svg?marks=hm-0001")).Content.ReadAsStringAsync(Cancel),
            StringComparison.Ordinal
        );
        Assert.Contains(
            "DO NOT USE",
            await (await crew.GetAsync("/labels/sheet.svg?marks=HM-0001&outOfUse=true")).Content.ReadAsStringAsync(
                Cancel
            ),
            StringComparison.Ordinal
        );
        Assert.Contains(
            "No such piece",
            (await crew.PageAsync("/labels?marks=HM-9999")).Body!.TextContent,
            StringComparison.Ordinal
        );
    }

    [Theory]
    [InlineData("a4-24")]
    [InlineData("a4-14")]
    [InlineData("a4-8")]
    [InlineData("letter-10")]
    [InlineData("roll")]
    public async Task A_label_of_several_legs_says_for_how_many_and_at_which_angle_its_load_is(string size)
    {
        await using var yard = await WebYard.OpenAsync();
        await yard.RegisterAsync(Seed.Sling("HM-0001"));
        await yard.RegisterAsync(Seed.Shackle("HM-0002"));
        var silent = Seed.Sling("HM-0003");
        silent.Remove("ratedFor");
        await yard.RegisterAsync(silent);
        var crew = await yard.SignedInAsync("crew");
        async Task<string> LabelAsync(string mark) =>
            string.Join(
                ' ',
                (await crew.PageAsync($"/labels/sheet.svg?marks={mark}&size={size}"))
                    .QuerySelectorAll("text")
                    .Select(t => t.TextContent)
            );

        var sling = await LabelAsync("HM-0001");
        Assert.Contains("12200 lb", sling, StringComparison.Ordinal);
        Assert.Contains("2 legs at 60 deg", sling, StringComparison.Ordinal);
        Assert.Contains("2 legs, angle not stated", await LabelAsync("HM-0003"), StringComparison.Ordinal);
        Assert.DoesNotContain("legs", await LabelAsync("HM-0002"), StringComparison.Ordinal);
    }

    [Fact]
    public async Task Pieces_scanned_one_after_the_other_are_hung_elsewhere_all_or_none()
    {
        await using var yard = await WebYard.OpenAsync();
        await yard.RegisterAsync(Seed.Sling("HM-0001"));
        await yard.RegisterAsync(Seed.Shackle("HM-0002"));
        var crew = await yard.SignedInAsync("crew");
        var refused = await crew.PostAsync(
            "/register/move",
            new()
            {
                ["marks"] = "hm-0001\nHM-0009",
                ["store"] = "2",
                ["peg"] = "Q7",
            }
        );
        Assert.Equal(HttpStatusCode.UnprocessableEntity, refused.StatusCode);
        var again = await Visitor.ReadAsync(refused);
        Assert.Contains(
            "No such piece: HM-0009. Nothing was moved.",
            again.Body!.TextContent,
            StringComparison.Ordinal
        );
        Assert.Equal("hm-0001\nHM-0009", again.QuerySelector("textarea")!.TextContent.Trim());
        Assert.Contains(
            "Choose the store",
            (await Visitor.ReadAsync(await crew.PostAsync("/register/move", new() { ["marks"] = "HM-0001" })))
                .Body!
                .TextContent,
            StringComparison.Ordinal
        );
        Assert.Equal(
            HttpStatusCode.Redirect,
            (
                await crew.PostAsync(
                    "/register/move",
                    new()
                    {
                        ["marks"] = "hm-0001\nhttp://keralith.test/piece/HM-0002\nHM-0001",
                        ["store"] = "2",
                        ["peg"] = "Q7",
                    }
                )
            ).StatusCode
        );
        foreach (var mark in new[] { "HM-0001", "HM-0002" })
            Assert.Contains(
                "Workboat Teasel",
                (await crew.PageAsync($"/piece/{mark}")).Body!.TextContent,
                StringComparison.Ordinal
            );
    }

    [Fact]
    public async Task A_labels_code_scanned_leads_to_the_piece()
    {
        await using var yard = await WebYard.OpenAsync();
        await yard.RegisterAsync(Seed.Sling("HM-0001"));
        var crew = await yard.SignedInAsync("crew");
        Assert.Equal(
            "/piece/HM-0001",
            (
                await crew.GetAsync("/scan?q=" + Uri.EscapeDataString("http://127.0.0.1:5080/piece/HM-0001"))
            ).Headers.Location!.ToString()
        );
    }

    [Fact]
    public async Task A_picture_is_drawn_anew_without_what_the_camera_wrote_in_it()
    {
        var picture = Visitor.Picture(2000, 1000);
        var marked = picture[..2]
            .Concat(new byte[] { 0xFF, 0xE1, 0, 20 })
            .Concat(Encoding.ASCII.GetBytes("Exif\0\0SECRETPLACE1"))
            .Concat(picture[2..])
            .ToArray();
        var read = await Received.ReadAsync(Guid.NewGuid(), FileKind.Photo, "Hook", null, marked, Cancel);
        Assert.True(read.Ok, read.Fault);
        Assert.DoesNotContain("SECRETPLACE", Encoding.Latin1.GetString(read.Value.Bytes), StringComparison.Ordinal);
        using var drawn = SKBitmap.Decode(read.Value.Bytes);
        Assert.Equal((1600, 800), (drawn.Width, drawn.Height));
    }

    [Theory]
    [InlineData("", "empty")]
    [InlineData("<svg xmlns='http://www.w3.org/2000/svg'><script>alert(1)</script></svg>", "neither")]
    [InlineData("GIF89a", "neither")]
    [InlineData("%PDF-1.7", "JPEG")]
    public async Task What_is_no_picture_is_refused_with_words(string content, string words)
    {
        var read = await Received.ReadAsync(
            Guid.NewGuid(),
            FileKind.Photo,
            "Hook",
            null,
            Encoding.ASCII.GetBytes(content),
            Cancel
        );
        Assert.Contains(words, read.Fault, StringComparison.Ordinal);
    }

    [Fact]
    public async Task A_picture_made_to_fill_a_memory_is_refused_before_it_is_unpacked()
    {
        // A PNG that says it is 30000 by 30000 points and holds almost nothing.
        var png = Visitor.Picture(1, 1, SKEncodedImageFormat.Png);
        new byte[] { 0, 0, 0x75, 0x30, 0, 0, 0x75, 0x30 }.CopyTo(png, 16);
        System.Buffers.Binary.BinaryPrimitives.WriteUInt32BigEndian(png.AsSpan(29), Crc(png.AsSpan(12, 17)));
        Assert.Contains(
            "more than a camera makes",
            (await Received.ReadAsync(Guid.NewGuid(), FileKind.Photo, "Bomb", null, png, Cancel)).Fault,
            StringComparison.Ordinal
        );
    }

    /// <summary>The check sum PNG wants of a chunk.</summary>
    private static uint Crc(ReadOnlySpan<byte> bytes)
    {
        var crc = uint.MaxValue;
        foreach (var b in bytes)
        {
            crc ^= b;
            for (var i = 0; i < 8; i++)
                crc = (crc & 1) == 1 ? (crc >> 1) ^ 0xEDB88320 : crc >> 1;
        }

        return ~crc;
    }

    [Fact]
    public async Task Columns_are_chosen_and_pieces_ticked_go_to_what_is_done_with_them()
    {
        await using var yard = await WebYard.OpenAsync();
        await yard.RegisterAsync(Seed.Shackle("HM-0001"));
        await yard.RegisterAsync(Seed.Shackle("HM-0002"));
        var stores = await yard.SignedInAsync("stores");
        var usual = await stores.PageAsync("/register");
        Assert.Equal(
            ["Mark", "What", "Serial, maker", "Rated load", "Where", "May be used?", "Periodic"],
            usual.QuerySelectorAll("table.register th:not(.tick)").Select(h => h.TextContent.Trim())
        );
        await stores.SubmitAsync("/register", "form[action*=Columns]", new() { ["column"] = "state" });
        var chosen = await stores.PageAsync("/register");
        Assert.Equal(
            ["Mark", "State"],
            chosen.QuerySelectorAll("table.register th:not(.tick)").Select(h => h.TextContent.Trim())
        );
        Assert.Equal(
            ["/desk", "/register/move", "/round", "/event"],
            chosen.QuerySelectorAll("p.chosen [formaction]").Select(b => b.GetAttribute("formaction"))
        );
        foreach (var page in new[] { "/labels", "/desk", "/register/move", "/round", "/event" })
        {
            var opened = await stores.PageAsync($"{page}?marks=HM-0001&marks=HM-0002");
            var field = opened.QuerySelector("[name=marks]")!;
            var marks = field.GetAttribute("value") ?? field.TextContent;
            Assert.Contains("HM-0001", marks, StringComparison.Ordinal);
            Assert.Contains("HM-0002", marks, StringComparison.Ordinal);
        }
    }

    [Fact]
    public async Task A_piece_is_begun_as_another_and_from_its_tag_pasted_as_it_stands()
    {
        await using var yard = await WebYard.OpenAsync();
        await yard.RegisterAsync(Seed.Sling("HM-0041"));
        var stores = await yard.SignedInAsync("stores");
        var page = await stores.PageAsync("/register/new?as=HM-0041");
        Assert.Contains("next free: HM-0042", page.Body!.TextContent, StringComparison.Ordinal);
        Assert.Equal("", page.QuerySelector("[name=mark]")!.GetAttribute("value"));
        Assert.Equal("", page.QuerySelector("[name=serial]")!.GetAttribute("value") ?? "");
        Assert.Equal("3/8 in", page.QuerySelector("[name=size]")!.GetAttribute("value"));
        var unknown = await Visitor.ReadAsync(await stores.GetAsync("/register/new?as=HM-0999"));
        Assert.Contains(
            "no piece HM-0999",
            unknown.QuerySelector("[role=alert]")!.TextContent,
            StringComparison.Ordinal
        );

        // What was typed stays; what the tag tells fills the rest; a mark in use is told at once.
        var filled = await Visitor.ReadAsync(
            await stores.PostAsync(
                "/register/new?handler=Ask",
                new()
                {
                    ["family"] = "alloy-chain-sling",
                    ["mark"] = "HM-0041",
                    ["grade"] = "80",
                    ["pasted"] = "1/2 IN GR 100 2 LEG 60 DEG 26 000 LB SN Q-1",
                },
                "/register/new"
            )
        );
        Assert.Equal("80", filled.QuerySelector("[name=grade]")!.GetAttribute("value"));
        Assert.Equal("26000 lb", filled.QuerySelector("[name=ratedLoad]")!.GetAttribute("value"));
        Assert.Equal("Q-1", filled.QuerySelector("[name=serial]")!.GetAttribute("value"));
        Assert.Contains(
            "registered already",
            filled.QuerySelector("#fault-mark")!.TextContent,
            StringComparison.Ordinal
        );
        Assert.Contains(
            "Hold each against the tag",
            filled.QuerySelector("[role=status]")!.TextContent,
            StringComparison.Ordinal
        );
    }
}
