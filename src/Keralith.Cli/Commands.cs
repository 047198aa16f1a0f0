using System.CommandLine;
using Keralith.Cli.Works;
using Keralith.Core.Gear;
using Keralith.Core.Quantities;
using Keralith.Data;

namespace Keralith.Cli;

/// <summary>The commands behind the one entry script.</summary>
internal static class Commands
{
    /// <summary>What the shell is told of a call whose words are off.</summary>
    private const int WrongWords = 2;

    /// <summary>All commands with what they take and what they say of themselves.</summary>
    public static RootCommand Root() =>
        new(
            "keralith: inspect rigging gear, and keep the record\n\nkeralith judge FILE and keralith lift FILE need no database."
        )
        {
            Demo(),
            InScript(
                "test",
                "Runs all tests, or one part: core, data, web or e2e. Installs what is missing. The last line is \"N passed, N failed\"."
            ),
            Simple(
                "serve",
                "Serves a works at KERALITH_URLS (http://127.0.0.1:5080): on the database KERALITH_DATABASE (an Npgsql connection string), or on a "
                    + "cluster of its own in the folder .keralith/works. While nobody administers it, it prints the address to set it up at.",
                ServeCommand.RunAsync
            ),
            Simple(
                "migrate",
                "Brings the schema of the database KERALITH_DATABASE up to date. Safe to run twice.",
                MigrateAsync
            ),
            VerifyLedger(),
            CertificateCommand.Make(),
            RecordCommands.Verify(),
            RecordCommands.Rebuild(),
            InScript(
                "package",
                "Makes one archive in a folder (here, where none is named) that runs on a Debian 12 machine without the SDK: the program, its styles "
                    + "and fonts, units for systemd, and the docs."
            ),
            PersonCommand.Make(),
            BackupCommands.Backup(),
            BackupCommands.Restore(),
            Import(),
            Export(),
            Document(
                DocumentCommand.Judge,
                "Reads one keralith.case/1 object from FILE, or from standard input, and writes its keralith.verdict/1. "
                    + "Exit code 2 when a case is not one; every fault is named with its path on standard error."
            ),
            Document(
                DocumentCommand.Lift,
                "Reads one keralith.lift/1 or /2 object from FILE, or from standard input, and writes its keralith.lift-result: the pull of each leg, "
                    + "what is asked of each piece and what it may carry so, the weakest piece and the largest load."
            ),
            LoadCell(),
            InScript(
                "bench",
                "Runs the benchmarks on this machine and says whether the targets are met: judgement alone, pages alone, or both. "
                    + "The first time it makes a register of 200 000 pieces; small stops at 20 000; --log shows all that was measured."
            ),
        };

    public static async Task<int> RunAsync(string[] args)
    {
        var parsed = Root().Parse(args is [] or ["help"] ? ["--help"] : args);
        if (parsed.Errors.Count > 0)
        {
            foreach (var error in parsed.Errors)
                await Console.Error.WriteLineAsync($"{error.Message} keralith --help lists the commands.");
            return WrongWords;
        }

        try
        {
            // What runs until it is stopped listens for Ctrl-C itself.
            var ended = await parsed.InvokeAsync(
                new InvocationConfiguration { EnableDefaultExceptionHandler = false, ProcessTerminationTimeout = null }
            );
            return args.Length == 0 ? WrongWords : ended;
        }
        catch (UsageException e)
        {
            await Console.Error.WriteLineAsync(e.Message);
            return WrongWords;
        }
    }

    private static Command Demo()
    {
        var port = Port("Where it listens; another free port if that is taken.", DemoCommand.UsualPort);
        return With(
            new Command(
                "demo",
                "Starts a database of its own on loopback in the folder .keralith, fills it with the demo scenario the first time, and serves "
                    + "the application on http://127.0.0.1:5080. Ctrl-C stops both. What was entered stays; delete the folder .keralith/demo to begin anew."
            )
            {
                port,
            },
            parsed => DemoCommand.RunAsync(parsed.GetValue(port))
        );
    }

    private static Command LoadCell()
    {
        var port = Port("Where it listens; 0 takes a free port.", 0);
        var hang = new Option<string>("--hang")
        {
            Description = "The weight that hangs on it from the start, with its unit.",
            DefaultValueFactory = _ => "0 kg",
        };
        hang.Validators.Add(r =>
        {
            if (Mass.Read(r.GetValueOrDefault<string>()) is { Ok: false } read)
                r.AddError(read.Fault!);
        });
        return With(
            new Command(
                "load-cell",
                "A load cell that is not there: whoever connects to its port on loopback reads a line of JSON every 150 ms, "
                    + "{\"format\":\"keralith.cell/1\",\"at\":\"...\",\"kg\":1234.5,\"steady\":true}. It takes lines: hang 1200 kg. "
                    + "The demo starts one; KERALITH_LOAD_CELL names one (host:port) to a served application."
            )
            {
                port,
                hang,
            },
            parsed => Cli.LoadCell.CellStandIn.RunAsync(parsed.GetValue(port), Mass.Parse(parsed.GetValue(hang)!))
        );
    }

    private static Command Import()
    {
        var file = new Argument<string>("FILE")
        {
            Description = "A register as CSV (UTF-8; comma or semicolon) or XLSX.",
        };
        var dry = new Option<bool>("--dry-run") { Description = "Says what would land; lands nothing." };
        var partial = new Option<bool>("--partial") { Description = "Lands the good rows though others are refused." };
        return With(
            new Command(
                "import",
                "Reads a register into KERALITH_DATABASE, or into the demo, in the name of KERALITH_USER, or of the first administrator. Nothing lands "
                    + "unless every row is good. Each refused row is named on standard error as CSV. Exit code 2 when a row is refused."
            )
            {
                file,
                dry,
                partial,
            },
            parsed =>
                OnRecordsAsync(d =>
                    ExchangeCommands.ImportAsync(
                        d,
                        parsed.GetValue(file)!,
                        parsed.GetValue(dry),
                        parsed.GetValue(partial)
                    )
                )
        );
    }

    private static Command Export()
    {
        var what = new Argument<string>("WHAT") { Description = "register (CSV), inspections or ledger (JSON Lines)." };
        what.AcceptOnlyFromAmong("register", "inspections", "ledger");
        var all = new Option<bool>("--all-columns")
        {
            Description = "Adds to the register what the fixed columns can't carry.",
        };
        return With(
            new Command("export", "Writes to standard output, from KERALITH_DATABASE, or from the demo.") { what, all },
            parsed => OnRecordsAsync(d => ExchangeCommands.ExportAsync(d, parsed.GetValue(what)!, parsed.GetValue(all)))
        );
    }

    private static Command Document(DocumentCommand document, string says)
    {
        var file = new Argument<string>("FILE")
        {
            Description = "The file, or - for standard input.",
            DefaultValueFactory = _ => "-",
        };
        var lines = new Option<bool>("--lines")
        {
            Description =
                "One document a line in, one result a line out; a bad line yields {\"error\": \"...\"} and the run goes on.",
        };
        return With(new Command(document.Name, says) { file, lines }, parsed =>
            document.RunAsync(parsed.GetValue(file)!, parsed.GetValue(lines))
        );
    }

    private static Option<int> Port(string says, int usual)
    {
        var port = new Option<int>("--port") { Description = says, DefaultValueFactory = _ => usual };
        port.Validators.Add(r =>
        {
            if (r.Tokens.Count == 1 && int.TryParse(r.Tokens[0].Value, out var given) && given is < 0 or > 65535)
                r.AddError("A port is a number from 0 to 65535.");
        });
        return port;
    }

    /// <summary>A command the entry script carries out itself; here it only says what it does.</summary>
    private static Command InScript(string name, string says)
    {
        var rest = new Argument<string[]>("PART") { Arity = ArgumentArity.ZeroOrMore };
        return With(new Command(name, says) { rest }, _ =>
            throw new UsageException($"./keralith {name} carries this out.")
        );
    }

    private static Command Simple(string name, string says, Func<Task<int>> run) =>
        With(new Command(name, says), _ => run());

    private static Command With(Command command, Func<ParseResult, Task<int>> run)
    {
        command.SetAction((parsed, _) => run(parsed));
        return command;
    }

    private static async Task<int> MigrateAsync()
    {
        await using var database = new Database(
            Records.Configured
                ?? throw new UsageException("Set KERALITH_DATABASE to the connection string of a PostgreSQL database.")
        );
        await UpgradeAsync(database);
        Console.WriteLine("The database is up to date.");
        return 0;
    }

    /// <summary>
    /// Brings schema and register up to this program: a newer catalogue judges the register again, and standing recalls hold
    /// what this program reads as meant and the one before did not.
    /// </summary>
    public static async Task UpgradeAsync(Database database)
    {
        database.Migrate();
        var now = DateTimeOffset.UtcNow;
        var held = await new JudgeAgain(database).ByNewCatalogueAsync(now, CancellationToken.None);
        if (held > 0)
            Console.WriteLine($"Catalogue {Catalogue.Version} holds {held} pieces that the one before did not.");
        var recalled = await new RecallStore(database).HoldMissedAsync(now, CancellationToken.None);
        if (recalled > 0)
            Console.WriteLine($"Standing recalls put {recalled} holds on gear that they mean and did not hold.");
        var told = await new RecordSeal(database).RunAsync(now, CancellationToken.None);
        if (told > 0)
            Console.WriteLine($"The ledger tells {told} rows that stood before entries told their rows.");
    }

    private static Command VerifyLedger()
    {
        var head = new Option<FileInfo?>("--head")
        {
            Description = "A head kept outside: whether the ledger still holds what it stood for.",
        };
        var command = new Command(
            "verify-ledger",
            "Re-computes the hash chain of the signed records in KERALITH_DATABASE, or of the demo. Exit code 1 when it is broken, or a head is not met."
        )
        {
            head,
        };
        command.SetAction(parsed =>
            OnRecordsAsync(async database =>
            {
                var chain = await VerifyLedgerAsync(database);
                return parsed.GetValue(head) is { } file
                    ? Math.Max(chain, await CertificateCommand.MeetAsync(database, file))
                    : chain;
            })
        );
        return command;
    }

    private static async Task<int> VerifyLedgerAsync(Database database)
    {
        var (entries, broken) = await new LedgerStore(database).VerifyAsync(CancellationToken.None);
        Console.WriteLine(
            broken is null
                ? $"The chain is whole: {entries} records."
                : $"The chain is broken after {entries} good records: {broken}."
        );
        return broken is null ? 0 : 1;
    }

    private static Task<int> OnRecordsAsync(Func<Database, Task<int>> work) => Records.OnAsync(r => work(r.Database));
}

/// <summary>A call whose words are off; the message says what to write.</summary>
internal sealed class UsageException(string message) : Exception(message);
