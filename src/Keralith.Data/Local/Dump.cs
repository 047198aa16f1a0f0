using System.Globalization;
using System.Text.RegularExpressions;
using Keralith.Core.Sites;
using Npgsql;

namespace Keralith.Data.Local;

/// <summary>
/// Backups by PostgreSQL's own dump: all records, with their files and pictures, in one file. A file that is not whole is
/// never taken for a backup: it gets its name last, after it was read through once.
/// </summary>
/// <param name="connectionString">The database; to restore, that of whoever sets up and migrates.</param>
public sealed partial class Dump(string connectionString)
{
    private readonly NpgsqlConnectionStringBuilder _at = new(connectionString);

    /// <summary>What backups in a folder end in.</summary>
    public const string Ending = ".keralith";

    /// <summary>Writes a backup.</summary>
    /// <param name="file">Where; it is not there yet.</param>
    /// <param name="say">Told how far it has come, in words; null: nobody asks.</param>
    /// <returns>How large it is, in bytes; a refusal where none could be written.</returns>
    public async Task<Checked<long>> WriteAsync(string file, CancellationToken cancel, Func<string, Task>? say = null)
    {
        if (BackupActs.RefusalToWrite(file, File.Exists(file)) is { } refusal)
            return refusal;
        if (PostgresTools.For(await VersionAsync(cancel).ConfigureAwait(false), "pg_dump") is not { } tools)
            return BackupActs.NoPrograms;
        var making = $"{Path.GetFullPath(file)}.partial";
        Directory.CreateDirectory(Path.GetDirectoryName(making)!);
        try
        {
            var writing = PostgresTools.RunAsync(
                Path.Combine(tools, "pg_dump"),
                [
                    "--format=custom",
                    "--no-owner",
                    "--no-privileges",
                    $"--file={making}",
                    "--no-password",
                    $"--dbname={Where(_at.Database!)}",
                ],
                _at.Password ?? string.Empty,
                cancel
            );
            await WatchAsync(writing, making, say).ConfigureAwait(false);
            var (code, said) = await writing.ConfigureAwait(false);
            if (code == 0 && say is not null)
                await say("reading it through").ConfigureAwait(false);
            if (code == 0)
                (code, said) = await ReadThroughAsync(tools, making, cancel).ConfigureAwait(false);
            if (code != 0)
                return BackupActs.NotWritten(Last(said));
            await FlushAsync(making, cancel).ConfigureAwait(false);
            if (!OperatingSystem.IsWindows())
                File.SetUnixFileMode(making, UnixFileMode.UserRead | UnixFileMode.UserWrite);
            File.Move(making, file);
            return new FileInfo(file).Length;
        }
        catch (IOException e)
        {
            return BackupActs.NotWritten(e.Message);
        }
        finally
        {
            File.Delete(making);
        }
    }

    /// <summary>Says how much stands in a file until it is written.</summary>
    private static async Task WatchAsync(Task writing, string file, Func<string, Task>? say)
    {
        while (say is not null && await Task.WhenAny(writing, Task.Delay(Often)).ConfigureAwait(false) != writing)
        {
            if (File.Exists(file))
                await say(string.Create(CultureInfo.InvariantCulture, $"{new FileInfo(file).Length >> 20} MiB written"))
                    .ConfigureAwait(false);
        }
    }

    private static readonly TimeSpan Often = TimeSpan.FromSeconds(1);

    /// <summary>Writes a backup into a folder, named by the moment, and throws the oldest away beyond a number.</summary>
    /// <param name="keep">How many stay; at least 1.</param>
    /// <returns>The file; a refusal where none could be written, and none was thrown away then.</returns>
    public async Task<Checked<string>> WriteToAsync(
        string folder,
        int keep,
        DateTimeOffset now,
        CancellationToken cancel,
        Func<string, Task>? say = null
    )
    {
        if (BackupActs.RefusalToKeep(keep) is { } refusal)
            return refusal;
        var file = Path.Combine(
            folder,
            string.Create(CultureInfo.InvariantCulture, $"keralith-{now.UtcDateTime:yyyyMMdd-HHmmss}{Ending}")
        );
        var written = await WriteAsync(file, cancel, say).ConfigureAwait(false);
        if (!written.Ok)
            return written.Refusal!;
        foreach (
            var old in Directory
                .EnumerateFiles(folder, $"keralith-*{Ending}")
                .Where(f => Named().IsMatch(Path.GetFileName(f)))
                .OrderDescending(StringComparer.Ordinal)
                .Skip(keep)
        )
            File.Delete(old);
        return file;
    }

    /// <summary>
    /// Restores a backup. It is read into a database beside, brought up to this program there, and takes the name last:
    /// what stood before is there whole until then, and is kept under another name.
    /// </summary>
    /// <param name="over">Whether a database with records in it is put aside.</param>
    /// <param name="upgrade">Brings the restored database up to this program.</param>
    /// <param name="say">Told how far it has come, in words; null: nobody asks.</param>
    /// <returns>The name under which what stood before is kept; empty: nothing stood.</returns>
    public async Task<Checked<string>> RestoreAsync(
        string file,
        bool over,
        DateTimeOffset now,
        Func<Database, Task> upgrade,
        CancellationToken cancel,
        Action<string>? say = null
    )
    {
        if (PostgresTools.For(await VersionAsync(cancel).ConfigureAwait(false), "pg_restore") is not { } tools)
            return BackupActs.NoPrograms;
        var name = _at.Database!;
        var stands = await StandsAsync(name, cancel).ConfigureAwait(false);
        if (BackupActs.RefusalToRestore(file, File.Exists(file), name, stands, over) is { } refusal)
            return refusal;
        var beside = $"{name}_restoring";
        await SayAsync($"drop database if exists \"{beside}\" with (force)", cancel).ConfigureAwait(false);
        await SayAsync($"create database \"{beside}\"", cancel).ConfigureAwait(false);
        say?.Invoke($"Reading {Path.GetFileName(file)} into a database beside ...");
        var refused = await ReadIntoAsync(
                tools,
                file,
                beside,
                async restored =>
                {
                    say?.Invoke("Bringing it up to this program ...");
                    await upgrade(restored).ConfigureAwait(false);
                },
                cancel
            )
            .ConfigureAwait(false);
        if (refused is not null)
        {
            await SayAsync($"drop database if exists \"{beside}\" with (force)", CancellationToken.None)
                .ConfigureAwait(false);
            return refused;
        }

        var aside =
            stands == RestoreStanding.Filled
                ? string.Create(CultureInfo.InvariantCulture, $"{name}_before_{now.UtcDateTime:yyyyMMdd_HHmmss}")
                : string.Empty;
        say?.Invoke("Giving it its name ...");
        if (aside.Length > 0)
            await SayAsync($"alter database \"{name}\" rename to \"{aside}\"", cancel).ConfigureAwait(false);
        else if (stands == RestoreStanding.Empty)
            await SayAsync($"drop database \"{name}\"", cancel).ConfigureAwait(false);
        await SayAsync($"alter database \"{beside}\" rename to \"{name}\"", cancel).ConfigureAwait(false);
        return aside;
    }

    private async Task<Refusal?> ReadIntoAsync(
        string tools,
        string file,
        string database,
        Func<Database, Task> upgrade,
        CancellationToken cancel
    )
    {
        var (code, said) = await PostgresTools
            .RunAsync(
                Path.Combine(tools, "pg_restore"),
                [
                    "--exit-on-error",
                    "--no-owner",
                    "--no-privileges",
                    "--no-password",
                    $"--dbname={Where(database)}",
                    file,
                ],
                _at.Password ?? string.Empty,
                cancel
            )
            .ConfigureAwait(false);
        if (code != 0)
            return BackupActs.NotWhole(Last(said));
        var target = new NpgsqlConnectionStringBuilder(connectionString) { Database = database, Pooling = false };
        await using var restored = new Database(target.ConnectionString);
        var fault = await restored.FaultOfVersionAsync(cancel).ConfigureAwait(false);
        if (fault is Database.VersionFault.NotOurs)
            return BackupActs.NotOurs;
        if (fault is Database.VersionFault.Newer)
            return BackupActs.Newer;
        await upgrade(restored).ConfigureAwait(false);
        return null;
    }

    /// <summary>Reads a backup through: one whose end is missing is found here, and not on the day it is needed.</summary>
    private Task<(int Code, string Said)> ReadThroughAsync(string tools, string file, CancellationToken cancel) =>
        PostgresTools.RunAsync(
            Path.Combine(tools, "pg_restore"),
            ["--file=/dev/null", file],
            _at.Password ?? string.Empty,
            cancel
        );

    private static async Task FlushAsync(string file, CancellationToken cancel)
    {
        await using var stream = new FileStream(file, FileMode.Open, FileAccess.ReadWrite);
        await stream.FlushAsync(cancel).ConfigureAwait(false);
        stream.Flush(flushToDisk: true);
    }

    private async Task<RestoreStanding> StandsAsync(string name, CancellationToken cancel)
    {
        await using var connection = await MaintenanceAsync(cancel).ConfigureAwait(false);
        var found = await new NpgsqlCommand(
            "select d.oid::int, (select count(*)::int from pg_stat_activity a where a.datid = d.oid) from pg_database d where datname = $1",
            connection
        )
            .Positional(name)
            .ListAsync(r => r.GetInt32(1), cancel)
            .ConfigureAwait(false);
        if (found.Count == 0)
            return RestoreStanding.Missing;
        if (found[0] > 0)
            return RestoreStanding.InUse;
        var target = new NpgsqlConnectionStringBuilder(connectionString) { Pooling = false };
        await using var inside = new NpgsqlConnection(target.ConnectionString);
        await inside.OpenAsync(cancel).ConfigureAwait(false);
        var tables = await new NpgsqlCommand(
            "select count(*)::int from pg_class where relkind = 'r' and relnamespace = 'public'::regnamespace",
            inside
        )
            .ListAsync(r => r.GetInt32(0), cancel)
            .ConfigureAwait(false);
        return tables[0] == 0 ? RestoreStanding.Empty : RestoreStanding.Filled;
    }

    private async Task<int> VersionAsync(CancellationToken cancel)
    {
        await using var connection = await MaintenanceAsync(cancel).ConfigureAwait(false);
        return connection.PostgreSqlVersion.Major;
    }

    private async Task SayAsync(string sql, CancellationToken cancel)
    {
        await using var connection = await MaintenanceAsync(cancel).ConfigureAwait(false);
        await new NpgsqlCommand(sql, connection).RunAsync(cancel).ConfigureAwait(false);
    }

    private async Task<NpgsqlConnection> MaintenanceAsync(CancellationToken cancel)
    {
        // The application's own role sees the database it works on; whoever restores, every server's own.
        var at = new NpgsqlConnectionStringBuilder(connectionString) { Database = "postgres", Pooling = false };
        var connection = new NpgsqlConnection(at.ConnectionString);
        await connection.OpenAsync(cancel).ConfigureAwait(false);
        return connection;
    }

    /// <summary>Where a database is, as PostgreSQL's own programs are told; of several members, the one that leads.</summary>
    private string Where(string database)
    {
        var members = _at.Host!.Split(',').Select(m => m.Split(':')).ToList();
        (string Name, string Value)[] said =
        [
            ("host", string.Join(',', members.Select(m => m[0]))),
            (
                "port",
                string.Join(
                    ',',
                    members.Select(m => m.Length > 1 ? m[1] : _at.Port.ToString(CultureInfo.InvariantCulture))
                )
            ),
            ("user", _at.Username!),
            ("dbname", database),
            ("target_session_attrs", members.Count > 1 ? "read-write" : "any"),
        ];
        return string.Join(' ', said.Select(s => $"{s.Name}='{Quoted(s.Value)}'"));
    }

    private static string Quoted(string value) =>
        value.Replace("\\", "\\\\", StringComparison.Ordinal).Replace("'", "\\'", StringComparison.Ordinal);

    private static string Last(string said) =>
        said.Split('\n', StringSplitOptions.RemoveEmptyEntries).LastOrDefault() ?? "it says nothing";

    [GeneratedRegex(@"^keralith-\d{8}-\d{6}\.keralith$")]
    private static partial Regex Named();
}
