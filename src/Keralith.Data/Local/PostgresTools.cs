using System.Diagnostics;

namespace Keralith.Data.Local;

/// <summary>PostgreSQL's own programs, as Debian's packages install them.</summary>
internal static class PostgresTools
{
    private const string Debian = "/usr/lib/postgresql";
    private const int Oldest = 15;

    /// <summary>The folder of the newest programs that have one; null where there are none.</summary>
    /// <param name="program">The program that must be in it.</param>
    public static string? Newest(string program) =>
        All(program).OrderByDescending(d => d.Version).Select(d => d.Path).FirstOrDefault();

    /// <summary>The folder of the programs that can speak to a server of a version: its own, else the next newer.</summary>
    /// <param name="version">The server's major version.</param>
    public static string? For(int version, string program) =>
        All(program).Where(d => d.Version >= version).OrderBy(d => d.Version).Select(d => d.Path).FirstOrDefault();

    /// <summary>Runs a program to its end.</summary>
    /// <returns>Its exit code, and what it said of faults.</returns>
    public static async Task<(int Code, string Said)> RunAsync(
        string program,
        IEnumerable<string> arguments,
        string password,
        CancellationToken cancel
    )
    {
        var start = new ProcessStartInfo(program, arguments)
        {
            RedirectStandardError = true,
            RedirectStandardOutput = true,
        };
        start.Environment["PGPASSWORD"] = password;
        start.Environment["LC_ALL"] = "C";
        using var process = Process.Start(start)!;
        var (said, output) = (
            process.StandardError.ReadToEndAsync(cancel),
            process.StandardOutput.ReadToEndAsync(cancel)
        );
        try
        {
            await process.WaitForExitAsync(cancel).ConfigureAwait(false);
        }
        catch (OperationCanceledException)
        {
            process.Kill(entireProcessTree: true);
            throw;
        }

        await output.ConfigureAwait(false);
        return (process.ExitCode, (await said.ConfigureAwait(false)).Trim());
    }

    private static IEnumerable<(string Path, int Version)> All(string program) =>
        Directory.Exists(Debian)
            ? Directory
                .GetDirectories(Debian)
                .Select(d =>
                    (
                        Path: Path.Combine(d, "bin"),
                        Version: int.TryParse(Path.GetFileName(d), out var version) ? version : 0
                    )
                )
                .Where(d => d.Version >= Oldest && File.Exists(Path.Combine(d.Path, program)))
            : [];
}
