using Keralith.Data;
using Keralith.Data.Local;
using Keralith.Web;

namespace Keralith.Cli;

/// <summary>The commands behind the one entry script.</summary>
internal static class Commands
{
    private const string Help = """
        keralith: inspect rigging gear, and keep the record

          keralith demo [--port N]         from a fresh machine to the running application with demo data
          keralith test [core|data|web|e2e] all tests, or one part; the last line counts them
          keralith serve                   the application on a database (environment: KERALITH_DATABASE, KERALITH_URLS)
          keralith migrate                 bring the database of KERALITH_DATABASE up to date
          keralith verify-ledger           re-compute the chain of signed records and name the first broken one
          keralith import FILE [--dry-run] [--partial]  a register (CSV or XLSX) into the records
          keralith export WHAT [--all-columns]          register, inspections or ledger to standard output
          keralith judge [FILE|-] [--lines] cases in, verdicts out; no database
          keralith lift [FILE|-] [--lines]  arrangements in, what they may carry out; no database
          keralith load-cell [--port N] [--hang WEIGHT] a load cell's stand-in: readings as lines on loopback
          keralith bench                   how fast it is, beside a floor measured in the same run

        keralith COMMAND --help says more.
        """;

    private static readonly Dictionary<string, string> HelpOf = new()
    {
        ["demo"] =
            "keralith demo [--port N]\n\nStarts a database of its own on loopback in the folder .keralith, fills it with the demo scenario the first time, and serves\nthe application on http://127.0.0.1:5080, or on another free port if that is taken. Ctrl-C stops both. Safe to run again:\nwhat was entered stays. Delete the folder .keralith/demo to begin anew.",
        ["test"] =
            "keralith test [core|data|web|e2e]\n\nRuns all tests, or one part. Installs what is missing. The last line is \"N passed, N failed\".",
        ["serve"] =
            "keralith serve\n\nServes the application on the database KERALITH_DATABASE (an Npgsql connection string) at KERALITH_URLS.",
        ["migrate"] =
            "keralith migrate\n\nBrings the schema of the database KERALITH_DATABASE up to date. Safe to run twice.",
        ["verify-ledger"] =
            "keralith verify-ledger\n\nRe-computes the hash chain of the signed records in KERALITH_DATABASE, or of the demo when it runs. Exit code 1 when it is broken.",
        ["import"] =
            "keralith import FILE [--dry-run] [--partial]\n\nReads a register as CSV (UTF-8; comma or semicolon) or XLSX into KERALITH_DATABASE, or into the demo when there is one, in the name of\nKERALITH_USER, or of the first administrator. Nothing lands unless every row is good; --partial lands the good ones; --dry-run lands nothing.\nEach refused row is named on standard error as CSV: row,column,reason. The same file twice changes nothing. Exit code 2 when a row is refused.",
        ["export"] =
            "keralith export WHAT [--all-columns]\n\nWrites to standard output: register (CSV; --all-columns adds what the fixed columns can't carry), inspections (JSON Lines), ledger\n(JSON Lines with the hash chain). From KERALITH_DATABASE, or from the demo when there is one.",
        ["bench"] =
            "keralith bench [judgement|pages] [small] [--log]\n\nRuns the benchmarks on this machine and says whether the targets are met: judgement alone, pages alone, or both. The first time it makes a register of\n200 000 pieces, about five minutes; small stops at 20 000. --log shows all that was measured.",
        ["lift"] =
            "keralith lift [FILE|-] [--lines]\n\nReads one keralith.lift/1 object from FILE, or from standard input, and writes its keralith.lift-result/1: the pull of each leg, what is\nasked of each piece and what it may carry so, the weakest piece and the largest load.\n--lines: one arrangement a line in, one result a line out; a bad line yields {\"error\": \"...\"} and the run goes on.\nExit code 2 when an arrangement is not one; every fault is named with its path on standard error.",
        ["load-cell"] =
            "keralith load-cell [--port N] [--hang WEIGHT]\n\nA load cell that is not there: whoever connects to its port on loopback reads a line of JSON every 150 ms,\n  {\"format\":\"keralith.cell/1\",\"at\":\"...\",\"kg\":1234.5,\"steady\":true}\nwith swing after a load is hung, noise and a slow drift. It takes lines: hang 1200 kg. The demo starts one by itself;\nKERALITH_LOAD_CELL names one (host:port) to a served application.",
        ["judge"] =
            "keralith judge [FILE|-] [--lines]\n\nReads one keralith.case/1 object from FILE, or from standard input, and writes its keralith.verdict/1.\n--lines: one case a line in, one result a line out; a bad line yields {\"error\": \"...\"} and the run goes on.\nExit code 2 when a case is not one; every fault is named with its path on standard error.",
    };

    public static async Task<int> RunAsync(string[] args)
    {
        if (args.Length == 0 || args[0] is "--help" or "-h" or "help")
        {
            Console.WriteLine(Help);
            return args.Length == 0 ? 2 : 0;
        }

        if (args.Skip(1).Any(a => a is "--help" or "-h") && HelpOf.TryGetValue(args[0], out var help))
        {
            Console.WriteLine(help);
            return 0;
        }

        try
        {
            return args[0] switch
            {
                "judge" => await DocumentCommand.Judge.RunAsync(args[1..]),
                "lift" => await DocumentCommand.Lift.RunAsync(args[1..]),
                "load-cell" => await LoadCell.CellStandIn.RunAsync(args[1..]),
                "demo" => await DemoCommand.RunAsync(args[1..]),
                "serve" => await ServeAsync(),
                "migrate" => Migrate(),
                "verify-ledger" => await OnRecordsAsync(VerifyLedgerAsync),
                "import" => await OnRecordsAsync(d => ExchangeCommands.ImportAsync(d, args[1..])),
                "export" => await OnRecordsAsync(d => ExchangeCommands.ExportAsync(d, args[1..])),
                _ => Unknown(args[0]),
            };
        }
        catch (UsageException e)
        {
            await Console.Error.WriteLineAsync(e.Message);
            return 2;
        }
    }

    private static async Task<int> ServeAsync()
    {
        await using var app = WebHost.Build(
            [],
            Configured(),
            Environment.GetEnvironmentVariable("KERALITH_URLS") ?? "http://127.0.0.1:5080",
            quiet: false
        );
        await app.RunAsync();
        return 0;
    }

    private static int Migrate()
    {
        new Database(Configured()).Migrate();
        Console.WriteLine("The database is up to date.");
        return 0;
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

    /// <summary>Works on the database of KERALITH_DATABASE, or on the demo's, started for it.</summary>
    private static async Task<int> OnRecordsAsync(Func<Database, Task<int>> work)
    {
        LocalCluster? cluster = null;
        var connection = Environment.GetEnvironmentVariable("KERALITH_DATABASE");
        if (connection is null)
        {
            if (!Directory.Exists(DemoCommand.Folder))
                throw new UsageException("Set KERALITH_DATABASE, or run the demo first.");
            cluster = LocalCluster.Start(DemoCommand.Folder);
            connection = cluster.ConnectionString(DemoCommand.DatabaseName);
        }

        try
        {
            await using var database = new Database(connection);
            return await work(database);
        }
        finally
        {
            cluster?.Stop();
        }
    }

    private static string Configured() =>
        Environment.GetEnvironmentVariable("KERALITH_DATABASE")
        ?? throw new UsageException("Set KERALITH_DATABASE to the connection string of a PostgreSQL database.");

    private static int Unknown(string command) =>
        throw new UsageException($"There is no command \"{command}\". keralith --help lists them.");
}

/// <summary>A call whose words are off; the message says what to write.</summary>
internal sealed class UsageException(string message) : Exception(message);
