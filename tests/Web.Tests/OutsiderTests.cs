using System.Diagnostics;
using System.IO.Compression;
using System.Net;
using Keralith.Data;
using Keralith.Data.Exchange;
using Keralith.Testing;
using Keralith.Web.Printing;
using Keralith.Web.Security;
using Microsoft.Extensions.DependencyInjection;
using Xunit;

namespace Keralith.Web.Tests;

/// <summary>What an outsider can check: certificates by page and command, a pack by a script that knows nothing of us.</summary>
public class OutsiderTests
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    private static string Checker => Path.Combine(Root(AppContext.BaseDirectory), "tests", "pack", "check-pack.mjs");

    private static string Root(string folder) =>
        File.Exists(Path.Combine(folder, "Keralith.slnx")) ? folder : Root(Path.GetDirectoryName(folder)!);

    private static async Task<(int Exit, string Said)> RunAsync(string program, params string[] args)
    {
        var start = new ProcessStartInfo(program) { RedirectStandardOutput = true, RedirectStandardError = true };
        foreach (var arg in args)
            start.ArgumentList.Add(arg);
        using var process = Process.Start(start)!;
        var (output, error) = (
            process.StandardOutput.ReadToEndAsync(Cancel),
            process.StandardError.ReadToEndAsync(Cancel)
        );
        await process.WaitForExitAsync(Cancel);
        return (process.ExitCode, await output + await error);
    }

    private static Task<(int Exit, string Said)> KeralithAsync(params string[] args) =>
        RunAsync("dotnet", [Path.Combine(AppContext.BaseDirectory, "keralith.dll"), .. args]);

    private static string Written(string name, string text)
    {
        var file = Path.Combine(Path.GetTempPath(), $"{Guid.NewGuid():N}-{name}");
        File.WriteAllText(file, text);
        return file;
    }

    [Fact]
    public async Task A_certificate_is_checked_by_anybody_with_the_page_or_the_command_and_tampering_is_named()
    {
        await using var yard = await WebYard.OpenAsync();
        var piece = await yard.AcceptedAsync(Seed.Shackle("HM-0001"), DateTimeOffset.UtcNow.AddDays(-9));
        var signed = (
            await yard.App.Services.GetRequiredService<InspectionStore>().SignedAsync(piece.Id, Cancel)
        ).Single();
        var crew = await yard.SignedInAsync("crew");
        var path = $"/inspection/{signed.Id}/certificate.json";
        Assert.Equal(HttpStatusCode.Conflict, (await crew.GetAsync(path)).StatusCode);

        var admin = await yard.SignedInAsync("admin");
        Assert.Equal(HttpStatusCode.Redirect, (await admin.PostAsync("/heads?handler=Sign", [])).StatusCode);
        var json = await (await crew.GetAsync(path)).Content.ReadAsStringAsync(Cancel);

        var nobody = yard.Visitor();
        var page = await nobody.PageAsync("/heads");
        var key = page.QuerySelector("pre")!.TextContent;
        var head = page.QuerySelectorAll("pre").Last().TextContent;
        async Task<string> AskAsync(string certificate) =>
            (
                await Visitor.ReadAsync(
                    await nobody.PostAsync("/heads", new() { ["certificate"] = certificate }, "/heads")
                )
            )
                .QuerySelector("section.answer")!
                .TextContent;
        Assert.Contains("It holds", await AskAsync(json), StringComparison.Ordinal);
        var forged = json.Replace("HM-0001", "HM-0002", StringComparison.Ordinal);
        Assert.Contains("as it was sealed: its words are others", await AskAsync(forged), StringComparison.Ordinal);
        Assert.Contains("It does not hold", await AskAsync("nothing"), StringComparison.Ordinal);

        var (file, keyFile, headFile) = (Written("c.json", json), Written("k.pem", key), Written("h.json", head));
        var whole = await KeralithAsync("check-certificate", file, "--key", keyFile, "--head", headFile);
        Assert.Equal(0, whole.Exit);
        Assert.DoesNotContain("NO ", whole.Said, StringComparison.Ordinal);
        var bad = await KeralithAsync("check-certificate", Written("f.json", forged));
        Assert.Equal(1, bad.Exit);
        Assert.Contains("NO   The record is as it was sealed", bad.Said, StringComparison.Ordinal);
    }

    [Fact]
    public async Task Another_key_signs_from_then_on_and_what_the_old_one_signed_still_holds()
    {
        await using var yard = await WebYard.OpenAsync();
        await yard.AcceptedAsync(Seed.Shackle("HM-0001"), DateTimeOffset.UtcNow.AddDays(-9));
        var works = yard.App.Services.GetRequiredService<WorksKey>();
        var heads = yard.App.Services.GetRequiredService<TreeHeadStore>();
        Assert.NotNull(await works.SignAsync(rotate: false, Cancel));
        Assert.Null(await works.SignAsync(rotate: false, Cancel));
        Assert.NotNull(await works.SignAsync(rotate: true, Cancel));
        Assert.Equal(2, (await heads.KeysAsync(Cancel)).Count);
        Assert.Equal(2, (await heads.HeadsAsync(9, Cancel)).DistinctBy(h => h.Key).Count());
        Assert.Empty(await yard.App.Services.GetRequiredService<VerifyStore>().RunAsync(DateTimeOffset.UtcNow, Cancel));

        // Its seal lost, the key signs no more: another is made, and nothing stops.
        await heads.AddKeyAsync(
            new(
                "lost",
                (await heads.KeysAsync(Cancel))[0].PublicPem,
                "not sealed by us",
                DateTimeOffset.UtcNow.AddHours(1)
            ),
            Cancel
        );
        Assert.NotNull(await works.SignAsync(rotate: false, Cancel));
    }

    [Fact]
    public async Task A_pack_holds_by_a_script_that_knows_nothing_of_the_application_and_is_the_same_each_time()
    {
        await using var yard = await WebYard.OpenAsync();
        await yard.AcceptedAsync(Seed.Shackle("HM-0001"), DateTimeOffset.UtcNow.AddDays(-9));
        await yard.AcceptedAsync(Seed.Shackle("HM-0002"), DateTimeOffset.UtcNow.AddDays(-8));
        var auditor = await yard.SignedInAsync("auditor");
        var days = $"from={DateTime.UtcNow.AddDays(-30):yyyy-MM-dd}&until={DateTime.UtcNow:yyyy-MM-dd}";
        async Task<byte[]> PackAsync(string more) =>
            await (await auditor.GetAsync($"/ledger/pack.zip?{days}{more}")).Content.ReadAsByteArrayAsync(Cancel);
        var pack = await PackAsync("");
        Assert.Equal(pack, await PackAsync(""));
        using (var anew = new MemoryStream())
        {
            var today = DateOnly.FromDateTime(DateTime.UtcNow);
            Assert.True(
                await yard
                    .App.Services.GetRequiredService<AuditPack>()
                    .WriteAsync(
                        anew,
                        new(today.AddDays(-30), today, null, null, null),
                        TimeZoneInfo.Utc,
                        PackSummary.Pdf,
                        Cancel
                    )
            );
            Assert.Equal(pack, anew.ToArray());
        }

        var page = await auditor.PageAsync($"/ledger/pack?{days}");
        var link = page.QuerySelector("a[href^='/ledger/pack.zip']")!.GetAttribute("href")!;
        Assert.Equal(pack, await (await auditor.GetAsync(link)).Content.ReadAsByteArrayAsync(Cancel));
        var file = Path.Combine(Path.GetTempPath(), $"{Guid.NewGuid():N}.zip");
        await File.WriteAllBytesAsync(file, pack, Cancel);
        var (exit, said) = await RunAsync("node", Checker, file);
        Assert.True(exit == 0, said);
        Assert.Contains("2 inspections", said, StringComparison.Ordinal);

        await File.WriteAllBytesAsync(file, await PackAsync("&mark=hm-0002"), Cancel);
        Assert.Contains("1 inspections", (await RunAsync("node", Checker, file)).Said, StringComparison.Ordinal);

        foreach (var (name, from, to, fault) in Changes)
        {
            await File.WriteAllBytesAsync(file, pack, Cancel);
            Change(file, name, from, to);
            var found = await RunAsync("node", Checker, file);
            Assert.Equal(1, found.Exit);
            Assert.Contains(fault, found.Said, StringComparison.Ordinal);
        }

        Assert.Equal(
            HttpStatusCode.UnprocessableEntity,
            (await auditor.GetAsync("/ledger/pack.zip?from=2026-02-30&until=x")).StatusCode
        );
    }

    /// <summary>What is changed in a pack, and what the script says of it.</summary>
    private static readonly (string Name, string From, string To, string Fault)[] Changes =
    [
        ("ledger.jsonl", "\"actor\" : \"inspector\"", "\"actor\" : \"qualified\"", "not as it was sealed"),
        ("ledger.jsonl", "HM-0002", "HM-0003", "not as it was sealed"),
        ("hashes.txt", "a", "b", "does not stand in the ledger"),
        ("hashes.txt", "\n", "\n" + "00", "the root is not the ledger's"),
        ("head.json", "\"size\":", "\"size\":1", "another count"),
        ("head.signed", "format", "formal", "what is signed is not the head"),
        ("inspections.jsonl", "-", "0", "stands in no entry"),
    ];

    private static void Change(string file, string name, string from, string to)
    {
        using var archive = ZipFile.Open(file, ZipArchiveMode.Update);
        var entry = archive.GetEntry(name)!;
        string text;
        using (var reader = new StreamReader(entry.Open()))
            text = reader.ReadToEnd();
        Assert.Contains(from, text, StringComparison.Ordinal);
        entry.Delete();
        using var writer = new StreamWriter(archive.CreateEntry(name).Open());
        writer.Write(text.Replace(from, to, StringComparison.Ordinal));
    }
}
