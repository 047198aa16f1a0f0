using System.CommandLine;
using System.Diagnostics;
using System.Globalization;
using Keralith.Data;

namespace Keralith.Cli.Works;

/// <summary>The record against its ledger: verified, and made anew from it.</summary>
internal static class RecordCommands
{
    public static Command Verify()
    {
        var resume = new Option<FileInfo?>("--resume")
        {
            Description = "A file that keeps which steps are done: cut off, the next call with it goes on behind them.",
        };
        var command = new Command(
            "verify",
            "Verifies the records in KERALITH_DATABASE, or of the demo: the chain, the heads kept beside it, every table of the record "
                + "against what the ledger tells, row by row and both ways, every file, everything kept on a piece against its facts. "
                + "What does not verify is named and may not be used. Exit code 1 then."
        )
        {
            resume,
        };
        command.SetAction(
            (parsed, _) =>
                Records.OnAsync(async records =>
                    await VerifyAsync(records.Database, await records.KeyAsync(), parsed.GetValue(resume))
                )
        );
        return command;
    }

    /// <summary>Verifies records, and says what does not.</summary>
    public static async Task<int> VerifyAsync(Database database, byte[]? key, FileInfo? resume = null)
    {
        var progress = resume is null ? null : new VerifyProgress(resume.FullName);
        var found = await new VerifyStore(database, key).RunAsync(
            DateTimeOffset.UtcNow,
            CancellationToken.None,
            step => Console.Error.WriteLineAsync($"Verifying {step}"),
            progress
        );
        progress?.End();
        foreach (var (mark, why) in found)
            Console.WriteLine($"{mark ?? "ledger"}: {why}");
        Console.WriteLine(
            found.Count == 0
                ? "Everything verifies."
                : $"{found.Count} things do not verify; those pieces may not be used."
        );
        return found.Count == 0 ? 0 : 1;
    }

    public static Command Rebuild()
    {
        var into = new Option<string>("--into")
        {
            Description =
                "The database it is made in: its name on the same server, made where there is none, or an Npgsql connection string of its owner. It must be empty.",
            Required = true,
        };
        var command = new Command(
            "rebuild",
            "Makes a works anew from the ledger and the files of KERALITH_DATABASE, or of the demo, and from nothing else, and verifies it. "
                + "Passwords, second factors and mail addresses are not in the ledger: people choose them again. Exit code 1 where the "
                + "ledger can't be built on, or what was made does not verify."
        )
        {
            into,
        };
        command.SetAction((parsed, _) => Records.OnAsync(records => RebuildAsync(records, parsed.GetValue(into)!)));
        return command;
    }

    private static async Task<int> RebuildAsync(Records records, string into)
    {
        var clock = Stopwatch.StartNew();
        var empty = await RebuildStore.EmptyAsync(records.Owner, into, CancellationToken.None);
        if (!empty.Ok)
            throw new UsageException(empty.Fault!);
        await using var target = new Database(empty.Value);
        try
        {
            var made = await new RebuildStore(records.Database, target).RunAsync(
                DateTimeOffset.UtcNow,
                what => Console.Error.WriteLineAsync(Said(clock, $"Rebuilding {what}")),
                CancellationToken.None
            );
            Console.WriteLine(
                string.Create(
                    CultureInfo.InvariantCulture,
                    $"Made of {made.Entries} entries: {made.Rows} rows, {made.Pieces} pieces among them."
                )
            );
        }
        catch (InvalidDataException e)
        {
            await Console.Error.WriteLineAsync(e.Message);
            return 1;
        }

        var verified = await VerifyAsync(target, await records.KeyAsync());
        Console.WriteLine(
            "Nobody has a password in it: keralith person reset USERNAME prints an address to choose one by. Heads are signed with a new key."
        );
        return verified;
    }

    private static string Said(Stopwatch clock, string what) =>
        string.Create(CultureInfo.InvariantCulture, $"{clock.Elapsed:hh\\:mm\\:ss} {what}");
}
