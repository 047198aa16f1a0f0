using System.Globalization;
using Keralith.Data;
using Keralith.Data.Local;

namespace Keralith.Web.Running;

/// <summary>Backups on a schedule, into the folder KERALITH_BACKUPS; KERALITH_BACKUPS_KEEP of them stay, or 14.</summary>
public sealed class Backups(Database database, TimeProvider time)
{
    private const int Usual = 14;

    /// <summary>Where they go; null: nowhere.</summary>
    public string? Folder { get; } =
        Environment.GetEnvironmentVariable("KERALITH_BACKUPS") is { Length: > 0 } folder ? folder : null;

    /// <summary>Writes one.</summary>
    /// <exception cref="IOException">It could not be written; the message says why.</exception>
    public async Task<string> RunAsync(Func<string, Task> say, CancellationToken cancel)
    {
        var keep = int.TryParse(
            Environment.GetEnvironmentVariable("KERALITH_BACKUPS_KEEP"),
            NumberStyles.None,
            CultureInfo.InvariantCulture,
            out var said
        )
            ? Math.Max(1, said)
            : Usual;
        var written = await new Dump(database.ConnectionString).WriteToAsync(
            Folder!,
            keep,
            time.GetUtcNow(),
            cancel,
            say
        );
        return written.Ok
            ? $"{Path.GetFileName(written.Value)}, {new FileInfo(written.Value).Length / 1024} KiB."
            : throw new IOException(written.Fault);
    }
}
