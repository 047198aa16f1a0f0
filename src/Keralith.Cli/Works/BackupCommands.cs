using System.CommandLine;
using Keralith.Data;
using Keralith.Data.Local;

namespace Keralith.Cli.Works;

/// <summary>Backups written and restored.</summary>
internal static class BackupCommands
{
    private const int UsuallyKept = 14;

    public static Command Backup()
    {
        var file = new Argument<string?>("FILE")
        {
            Description = "The file to write; it is not there yet.",
            Arity = ArgumentArity.ZeroOrOne,
        };
        var folder = new Option<string>("--to") { Description = "A folder instead; the file is named by the moment." };
        var keep = new Option<int>("--keep")
        {
            Description = "How many backups stay in the folder.",
            DefaultValueFactory = _ => UsuallyKept,
        };
        var command = new Command(
            "backup",
            "Writes all records, files and pictures into one file, by PostgreSQL's own dump, while the application runs. The file gets its name "
                + "last, when it is whole. The key that seals what is kept (KERALITH_KEY_FILE) is not in it: keep it apart."
        )
        {
            file,
            folder,
            keep,
        };
        command.Validators.Add(r =>
        {
            if (r.GetValue(file) is null == r.GetValue(folder) is null)
                r.AddError("Name a file, or a folder with --to.");
        });
        command.SetAction(
            (parsed, cancel) =>
                Records.OnAsync(async records =>
                {
                    var dump = new Dump(records.App);
                    var to = parsed.GetValue(folder);
                    var written = to is null
                        ? (await dump.WriteAsync(parsed.GetValue(file)!, cancel)) is { Ok: false } refused
                            ? refused.Refusal!
                            : (Checked<string>)parsed.GetValue(file)!
                        : await dump.WriteToAsync(to, parsed.GetValue(keep), DateTimeOffset.UtcNow, cancel);
                    if (!written.Ok)
                        return Refused(written.Fault!);
                    await new ChoreStore(records.Database).RecordAsync(
                        "backup",
                        $"{written.Value}, by command.",
                        cancel
                    );
                    Console.WriteLine($"{written.Value}: {new FileInfo(written.Value).Length / 1024} KiB.");
                    return 0;
                })
        );
        return command;
    }

    public static Command Restore()
    {
        var file = new Argument<string>("FILE") { Description = "A backup." };
        var over = new Option<bool>("--over")
        {
            Description = "Puts a database with records in it aside, under another name.",
        };
        var command = new Command(
            "restore",
            "Restores a backup, brings it up to this program, and verifies all of it. The application is stopped meanwhile. What stood before "
                + "is whole until the backup is, and is kept under another name. Exit code 1 when something does not verify."
        )
        {
            file,
            over,
        };
        command.SetAction((parsed, cancel) => RestoreAsync(parsed.GetValue(file)!, parsed.GetValue(over), cancel));
        return command;
    }

    private static async Task<int> RestoreAsync(string file, bool over, CancellationToken cancel)
    {
        // Never over the demo: what is restored is a works' own.
        await using var records = Records.Configured is null ? await Records.OwnAsync() : Records.Open();
        var aside = await new Dump(records.Owner).RestoreAsync(
            file,
            over,
            DateTimeOffset.UtcNow,
            Commands.UpgradeAsync,
            cancel,
            Console.WriteLine
        );
        if (!aside.Ok)
            return Refused(aside.Fault!);
        Console.WriteLine(
            aside.Value.Length == 0
                ? "Restored."
                : $"Restored. What stood before is kept as the database {aside.Value}."
        );
        return await RecordCommands.VerifyAsync(records.Database, await records.KeyAsync());
    }

    private static int Refused(string words)
    {
        Console.Error.WriteLine(words);
        return 1;
    }
}
