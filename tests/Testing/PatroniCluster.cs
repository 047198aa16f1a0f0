using System.Diagnostics;
using System.Net.Http.Json;
using System.Text.Json;
using Keralith.Data.Local;
using Npgsql;

namespace Keralith.Testing;

/// <summary>
/// Three members of PostgreSQL run by Patroni, with etcd to agree by, all on loopback and each with the file that the
/// documentation gives: what was acknowledged stands on two of them.
/// </summary>
public sealed class PatroniCluster : IAsyncDisposable
{
    private const string Password = "on-loopback-alone";
    private const int Members = 3;

    private static readonly TimeSpan Patience = TimeSpan.FromSeconds(90);

    private readonly string _folder = Path.Combine("/var/tmp", $"keralith-patroni-{Environment.ProcessId}");
    private readonly HttpClient _http = new() { Timeout = TimeSpan.FromSeconds(2) };
    private readonly List<Process> _processes = [];
    private readonly int[] _ports = [.. Enumerable.Range(0, Members).Select(_ => LoopbackPorts.Free())];
    private readonly int[] _apis = [.. Enumerable.Range(0, Members).Select(_ => LoopbackPorts.Free())];

    /// <summary>Starts it, and waits until one leads and the others follow.</summary>
    /// <param name="member">The member's file, as the documentation gives it.</param>
    public static async Task<PatroniCluster> StartAsync(string member)
    {
        var cluster = new PatroniCluster();
        try
        {
            await cluster.BeginAsync(await File.ReadAllTextAsync(member));
            return cluster;
        }
        catch
        {
            await cluster.DisposeAsync();
            throw;
        }
    }

    /// <summary>A connection string to whichever member leads.</summary>
    public string ConnectionString(string database, string user) =>
        new NpgsqlConnectionStringBuilder
        {
            Host = string.Join(',', _ports.Select(p => $"127.0.0.1:{p}")),
            Database = database,
            Username = user,
            Password = Password,
            TargetSessionAttributes = "read-write",
            HostRecheckSeconds = 1,
            Timeout = 3,
            CommandTimeout = 15,
        }.ConnectionString;

    /// <summary>The password all its roles have.</summary>
    public static string RolePassword => Password;

    /// <summary>Which member leads; null: none does.</summary>
    public async Task<int?> LeaderAsync()
    {
        foreach (var api in _apis)
        {
            try
            {
                var seen = await _http.GetFromJsonAsync<JsonElement>($"http://127.0.0.1:{api}/cluster");
                foreach (var member in seen.GetProperty("members").EnumerateArray())
                {
                    if (
                        member.GetProperty("role").GetString() == "leader"
                        && member.GetProperty("state").GetString() == "running"
                    )
                        return Array.IndexOf(_ports, member.GetProperty("port").GetInt32());
                }
            }
            catch (Exception e) when (e is HttpRequestException or TaskCanceledException or KeyNotFoundException)
            {
                // This member is gone, or not there yet: another one knows.
            }
        }

        return null;
    }

    /// <summary>Kills a member as a machine that loses its power: its server and what watches it, at once.</summary>
    public void Kill(int member)
    {
        Kill(File.ReadLines(Path.Combine(_folder, $"m{member}", "postmaster.pid")).First());
        foreach (var pid in Pids($"m{member}.yml"))
            Kill(pid);
    }

    public async ValueTask DisposeAsync()
    {
        foreach (var pid in Pids(_folder).Reverse())
            Kill(pid);
        foreach (var process in _processes)
        {
            await process.WaitForExitAsync();
            process.Dispose();
        }

        for (var tries = 0; tries < 50 && Pids(_folder).Any(); tries++)
            await Task.Delay(100);
        Directory.Delete(_folder, recursive: true);
        _http.Dispose();
    }

    private async Task BeginAsync(string member)
    {
        Directory.CreateDirectory(_folder);
        var (client, peer) = (LoopbackPorts.Free(), LoopbackPorts.Free());
        for (var i = 0; i < Members; i++)
        {
            var text = member;
            foreach (
                var (name, value) in new (string, string)[]
                {
                    ("NAME", $"m{i}"),
                    ("ADDRESS", "127.0.0.1"),
                    ("API_PORT", $"{_apis[i]}"),
                    ("ETCD", $"127.0.0.1:{client}"),
                    ("PORT", $"{_ports[i]}"),
                    ("DATA", Path.Combine(_folder, $"m{i}")),
                    ("BIN", "/usr/lib/postgresql/15/bin"),
                    ("SOCKETS", _folder),
                    ("NETWORK", "127.0.0.1/32"),
                    ("PASSWORD", Password),
                }
            )
                text = text.Replace($"@{name}@", value, StringComparison.Ordinal);
            await File.WriteAllTextAsync(Path.Combine(_folder, $"m{i}.yml"), text);
        }

        await AsPostgres("chown", "-R", "postgres:", _folder).WaitForExitAsync();
        var (at, between) = ($"http://127.0.0.1:{client}", $"http://127.0.0.1:{peer}");
        _processes.Add(
            AsServer(
                "etcd",
                ["etcd", "--name", "one", "--data-dir", Path.Combine(_folder, "etcd"), "--log-level", "error"],
                ["--listen-client-urls", at, "--advertise-client-urls", at, "--listen-peer-urls", between],
                ["--initial-advertise-peer-urls", between, "--initial-cluster", $"one={between}"]
            )
        );
        for (var i = 0; i < Members; i++)
            _processes.Add(AsServer($"m{i}", ["patroni", Path.Combine(_folder, $"m{i}.yml")]));
        await UntilAsync(
            async () => await LeaderAsync() is { } leader && await FollowersAsync(leader) == Members - 1,
            "the members did not find each other"
        );
    }

    /// <summary>How many follow, one of them synchronously.</summary>
    private async Task<int> FollowersAsync(int leader)
    {
        try
        {
            var at = new NpgsqlConnectionStringBuilder(ConnectionString("postgres", "postgres"))
            {
                Host = "127.0.0.1",
                Port = _ports[leader],
                Pooling = false,
            };
            at.TargetSessionAttributes = null;
            await using var connection = new NpgsqlConnection(at.ConnectionString);
            await connection.OpenAsync();
            await using var command = new NpgsqlCommand(
                "select case when bool_or(sync_state = 'sync') then count(*)::int else 0 end from pg_stat_replication where state = 'streaming'",
                connection
            );
            return (int)(await command.ExecuteScalarAsync())!;
        }
        catch (NpgsqlException)
        {
            return 0;
        }
    }

    /// <summary>Waits until something is so.</summary>
    /// <exception cref="TimeoutException">It did not become so.</exception>
    public async Task UntilAsync(Func<Task<bool>> isSo, string otherwise)
    {
        var clock = Stopwatch.StartNew();
        while (!await isSo())
        {
            if (clock.Elapsed > Patience)
                throw new TimeoutException($"{otherwise}: {Log()}");
            await Task.Delay(250);
        }
    }

    private string Log() =>
        string.Join(
            '\n',
            Directory
                .EnumerateFiles(_folder, "*.log")
                .Select(f => $"{f}: {string.Join('\n', File.ReadLines(f).TakeLast(6))}")
        );

    /// <summary>What serves writes into a file, so that nobody waits on a pipe it holds open.</summary>
    private Process AsServer(string log, params string[][] arguments) =>
        AsPostgres([
            "/bin/sh",
            "-c",
            "log=$1; shift; cd /; exec \"$@\" >\"$log\" 2>&1 </dev/null",
            "sh",
            Path.Combine(_folder, $"{log}.log"),
            .. arguments.SelectMany(a => a),
        ]);

    private static Process AsPostgres(params string[] command)
    {
        var isRoot = Environment.UserName == "root";
        string[] all = isRoot && command[0] != "chown" ? ["runuser", "-u", "postgres", "--", .. command] : command;
        return Process.Start(new ProcessStartInfo(all[0], all[1..]) { WorkingDirectory = "/" })!;
    }

    private static IEnumerable<string> Pids(string named) =>
        Directory
            .GetDirectories("/proc")
            .Select(d => Path.GetFileName(d)!)
            .Where(p => p.All(char.IsAsciiDigit) && p != $"{Environment.ProcessId}" && Names(p, named))
            .ToList();

    private static bool Names(string pid, string named)
    {
        try
        {
            return File.ReadAllText($"/proc/{pid}/cmdline").Contains(named, StringComparison.Ordinal)
                || new FileInfo($"/proc/{pid}/cwd").LinkTarget?.Contains(named, StringComparison.Ordinal) == true;
        }
        catch (Exception e) when (e is IOException or UnauthorizedAccessException)
        {
            // Gone while it was looked at.
            return false;
        }
    }

    private static void Kill(string pid)
    {
        using var kill = Process.Start("kill", ["-9", pid]);
        kill.WaitForExit();
    }
}
