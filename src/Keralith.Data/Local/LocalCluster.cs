using System.Diagnostics;
using System.Net;
using System.Net.Sockets;
using System.Security.Cryptography;
using Npgsql;

namespace Keralith.Data.Local;

/// <summary>
/// The project's own PostgreSQL cluster: kept in a folder, on loopback, on a free port, behind a password of its own.
/// The server never runs as root: called by root, it is handed to the <c>postgres</c> user of the Debian package.
/// </summary>
public sealed class LocalCluster
{
    private const string User = "keralith";

    private readonly string _folder;
    private readonly string _binaries;
    private readonly string? _runAs;
    private int _port;

    private LocalCluster(string folder, string binaries, string? runAs)
    {
        _folder = folder;
        _binaries = binaries;
        _runAs = runAs;
    }

    /// <summary>Whether this call started the server, and so may stop it.</summary>
    public bool Started { get; private set; }

    private string Data => Path.Combine(_folder, "data");

    private string PasswordFile => Path.Combine(_folder, "password");

    /// <summary>Starts the cluster kept in a folder, making it first if need be. Safe to call while it runs.</summary>
    /// <exception cref="InvalidOperationException">PostgreSQL is not installed, or did not start; the message says what
    /// to do.</exception>
    /// <param name="settings">Further settings of the server as <c>name=value</c>, such as those that trade durability
    /// for speed in tests.</param>
    public static LocalCluster Start(string folder, params IReadOnlyList<string> settings)
    {
        var binaries = PostgresTools.Newest("initdb")
            ?? throw new InvalidOperationException(
                "PostgreSQL is not installed. On Debian: apt-get install postgresql-15"
            );
        var runAs = Environment.UserName == "root" ? "postgres" : null;
        var cluster = new LocalCluster(Reachable(Path.GetFullPath(folder), runAs), binaries, runAs);
        cluster.Prepare();
        cluster.Launch(settings);
        cluster.EnsureRole();
        return cluster;
    }

    /// <summary>
    /// How long whoever sets up waits for a connection, and the application. On loopback nobody is away: who does not answer
    /// at once is busy, or comes up after a crash.
    /// </summary>
    private static readonly TimeSpan OfSettingUp = TimeSpan.FromSeconds(60),
        OfTheApplication = TimeSpan.FromSeconds(15);

    /// <summary>An Npgsql connection string to one of its databases, for whoever sets up and migrates.</summary>
    public string ConnectionString(string database) => ConnectionString(database, User, OfSettingUp);

    /// <summary>The same for the application itself: it can neither alter nor drop.</summary>
    public string AppConnectionString(string database) =>
        ConnectionString(database, DatabaseRole.Name, OfTheApplication);

    private string ConnectionString(string database, string user, TimeSpan patience) =>
        new NpgsqlConnectionStringBuilder
        {
            Host = "127.0.0.1",
            Port = _port,
            Username = user,
            Password = File.ReadAllText(PasswordFile).Trim(),
            Database = database,
            Timeout = (int)patience.TotalSeconds,
            IncludeErrorDetail = true,
        }.ConnectionString;

    /// <summary>Makes a database if it is not there yet, and fills it; it appears whole or not at all.</summary>
    /// <param name="database">Its name.</param>
    /// <param name="fill">Fills the new database, given its connection string.</param>
    public async Task EnsureDatabaseAsync(string database, Func<string, Task> fill)
    {
        await using var connection = new NpgsqlConnection(ConnectionString("postgres"));
        await connection.OpenAsync().ConfigureAwait(false);
        await using (
            var exists = new NpgsqlCommand("select 1 from pg_database where datname = $1", connection)
            {
                Parameters = { new() { Value = database } },
            }
        )
        {
            if (await exists.ExecuteScalarAsync().ConfigureAwait(false) is not null)
                return;
        }

        var unfinished = $"{database}_unfinished";
        await SayAsync(connection, $"drop database if exists \"{unfinished}\" with (force)").ConfigureAwait(false);
        await SayAsync(connection, $"create database \"{unfinished}\"").ConfigureAwait(false);
        await fill(ConnectionString(unfinished)).ConfigureAwait(false);
        NpgsqlConnection.ClearAllPools();
        await SayAsync(connection, $"alter database \"{unfinished}\" rename to \"{database}\"").ConfigureAwait(false);
    }

    /// <summary>Throws a database away, with all its records.</summary>
    public async Task DropDatabaseAsync(string database)
    {
        await using var connection = new NpgsqlConnection(ConnectionString("postgres"));
        await connection.OpenAsync().ConfigureAwait(false);
        await SayAsync(connection, $"drop database if exists \"{database}\" with (force)").ConfigureAwait(false);
    }

    /// <summary>Stops the server, if this call started it and it still runs.</summary>
    public void Stop()
    {
        if (Started && IsThere())
            StopNow();
        Started = false;
    }

    /// <summary>Stops the server; one that went down by itself in this moment is stopped too.</summary>
    private void StopNow()
    {
        try
        {
            Run("pg_ctl", "-D", Data, "-m", "fast", "-w", "stop");
        }
        catch (InvalidOperationException) when (!IsThere())
        {
            // It was killed, or went down by itself, while it was being stopped: there is nothing left to stop.
        }
    }

    /// <summary>Whether the server's process is there: a file it left behind when it was killed does not count.</summary>
    private bool IsThere()
    {
        try
        {
            return int.TryParse(File.ReadLines(Path.Combine(Data, "postmaster.pid")).FirstOrDefault(), out var process)
                && Processes.Runs(process);
        }
        catch (IOException)
        {
            // No file, or gone while it was read.
            return false;
        }
    }

    /// <summary>
    /// A server that was killed and that nobody reaped keeps its number, and a new one would take it for running. Its
    /// lock is taken off once none of its
    /// own processes works in the folder any more.
    /// </summary>
    private void ForgetHusk()
    {
        var file = Path.Combine(Data, "postmaster.pid");
        if (!File.Exists(file) || IsThere())
            return;
        for (var tries = 0; tries < 200 && Processes.AnyWorksIn(Data); tries++)
            Thread.Sleep(50);
        if (!Processes.AnyWorksIn(Data))
            File.Delete(file);
    }

    private const int MostTries = 6;

    /// <summary>The folder, or one in its place where the server's own user can't come to it, as below root's home.</summary>
    private static string Reachable(string folder, string? runAs)
    {
        if (runAs is null)
            return folder;
        for (var above = Directory.GetParent(folder); above is not null; above = above.Parent)
        {
            if (!above.Exists || (File.GetUnixFileMode(above.FullName) & UnixFileMode.OtherExecute) != 0)
                continue;
            var name = Convert
                .ToHexString(SHA256.HashData(System.Text.Encoding.UTF8.GetBytes(folder)))[..12]
                .ToLowerInvariant();
            var instead = Path.Combine("/var/tmp", $"keralith-{name}");
            Console.Error.WriteLine(
                $"keralith: {above.FullName} is closed to the user {runAs}; the database is kept in {instead}"
            );
            return instead;
        }

        return folder;
    }

    private static async Task SayAsync(NpgsqlConnection connection, string sql)
    {
        await using var command = new NpgsqlCommand(sql, connection);
        await command.ExecuteNonQueryAsync().ConfigureAwait(false);
    }

    private void Prepare()
    {
        if (File.Exists(Path.Combine(Data, "PG_VERSION")))
            return;
        Directory.CreateDirectory(_folder);
        File.WriteAllText(PasswordFile, Convert.ToHexString(RandomNumberGenerator.GetBytes(24)));
        File.SetUnixFileMode(PasswordFile, UnixFileMode.UserRead | UnixFileMode.UserWrite);
        if (_runAs is not null)
            Execute("chown", "-R", $"{_runAs}:", _folder);
        Run(
            "initdb",
            "-D",
            Data,
            "-U",
            User,
            $"--pwfile={PasswordFile}",
            "--auth=scram-sha-256",
            "--encoding=UTF8",
            "--locale=C.UTF-8",
            "--no-instructions"
        );
    }

    private void Launch(IReadOnlyList<string> settings)
    {
        if (RunningPort() is { } running)
        {
            _port = running;
            return;
        }

        ForgetHusk();
        string[] all =
        [
            "listen_addresses=127.0.0.1",
            "unix_socket_directories=''",
            "synchronous_commit=on",
            "max_connections=120",
            "jit=off",
            .. settings,
        ];
        for (var tries = 1; !Started; tries++)
        {
            _port = LoopbackPorts.Free();
            var options = $"-p {_port} {string.Join(' ', all.Select(s => $"-c {s}"))}";
            try
            {
                Run("pg_ctl", "-D", Data, "-l", Path.Combine(_folder, "log"), "-w", "-t", "60", "-o", options, "start");
                Started = true;
            }
            catch (InvalidOperationException) when (tries < MostTries)
            {
                // On a busy machine another may have taken the port since it was found free, or what a killed server left
                // is still going down: with another port, and a little later.
                Thread.Sleep(TimeSpan.FromSeconds(tries));
            }
        }
    }

    /// <summary>The application's role, with the cluster's password.</summary>
    private void EnsureRole()
    {
        using var connection = new NpgsqlConnection(ConnectionString("postgres"));
        connection.Open();
        using var command = new NpgsqlCommand(
            $"""
            do $$
            begin
              perform pg_advisory_xact_lock(1);
              if not exists (select from pg_roles where rolname = '{DatabaseRole.Name}') then
                create role {DatabaseRole.Name} login password '{File.ReadAllText(PasswordFile).Trim()}';
              end if;
            end $$
            """,
            connection
        );
        command.ExecuteNonQuery();
    }

    private int? RunningPort()
    {
        var pidFile = Path.Combine(Data, "postmaster.pid");
        if (!File.Exists(pidFile))
            return null;
        var lines = File.ReadAllLines(pidFile);
        if (
            lines.Length < 4
            || !int.TryParse(lines[0], out var pid)
            || !int.TryParse(lines[3], out var port)
            || !Processes.Runs(pid)
        )
            return null;
        using var probe = new TcpClient();
        try
        {
            probe.Connect(IPAddress.Loopback, port);
            return port;
        }
        catch (SocketException)
        {
            return null;
        }
    }

    private void Run(string program, params string[] arguments)
    {
        var path = Path.Combine(_binaries, program);
        if (_runAs is null)
            Execute(path, arguments);
        else
            Execute("runuser", ["-u", _runAs, "--", path, .. arguments]);
    }

    private void Execute(string program, params string[] arguments)
    {
        // The server inherits what it is started with: output goes to a file, so that nobody waits on a pipe it holds open.
        var output = Path.Combine(Path.GetTempPath(), $"keralith-{Guid.NewGuid():N}.out");
        var shell = new ProcessStartInfo("/bin/sh") { WorkingDirectory = "/" };
        shell.ArgumentList.Add("-c");
        shell.ArgumentList.Add("out=$1; shift; exec \"$@\" >\"$out\" 2>&1 </dev/null");
        shell.ArgumentList.Add("sh");
        shell.ArgumentList.Add(output);
        shell.ArgumentList.Add(program);
        foreach (var argument in arguments)
            shell.ArgumentList.Add(argument);
        using var process = Process.Start(shell)!;
        process.WaitForExit();
        var said = File.Exists(output) ? File.ReadAllText(output).Trim() : string.Empty;
        File.Delete(output);
        if (process.ExitCode != 0)
            throw new InvalidOperationException($"{Path.GetFileName(program)} in {_folder} failed: {said}");
    }
}
