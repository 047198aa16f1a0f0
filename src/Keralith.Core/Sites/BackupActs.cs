namespace Keralith.Core.Sites;

/// <summary>What stands where a backup is to be restored.</summary>
public enum RestoreStanding
{
    /// <summary>No database.</summary>
    Missing,

    /// <summary>A database with nothing in it.</summary>
    Empty,

    /// <summary>A database with records in it.</summary>
    Filled,

    /// <summary>A database that somebody works on.</summary>
    InUse,
}

/// <summary>What is decided about backups and restoring them.</summary>
public static class BackupActs
{
    /// <summary>The server's own programs, of its version or a newer one, are not there.</summary>
    public static Refusal NoPrograms { get; } =
        new(
            "PostgreSQL's own programs of the server's version are not installed. On Debian: apt-get install postgresql-client"
        );

    /// <summary>What was read is no backup of this program.</summary>
    public static Refusal NotOurs { get; } = new("This is no backup of Keralith.");

    /// <summary>What was read is of a newer program.</summary>
    public static Refusal Newer { get; } =
        new("This backup is of a newer version of Keralith than this program. Restore it with that version.");

    /// <summary>Why a backup can't be written; null when it can.</summary>
    /// <param name="isThere">Whether a file of the name is there.</param>
    public static Refusal? RefusalToWrite(string file, bool isThere) =>
        isThere ? Refusal.Conflict($"{file} is there already; a backup is never written over.") : null;

    /// <summary>Why backups can't be thinned to a number; null when they can.</summary>
    /// <param name="keep">How many are to stay.</param>
    public static Refusal? RefusalToKeep(int keep) => keep < 1 ? new Refusal("Keep one backup at the least.") : null;

    /// <summary>A backup could not be written.</summary>
    public static Refusal NotWritten(string why) => new($"The backup could not be written: {why}");

    /// <summary>What was to be restored is broken.</summary>
    public static Refusal NotWhole(string why) => new($"This is no whole backup: {why}");

    /// <summary>Why a backup can't be restored; null when it can: nothing stands there, or it may be put aside.</summary>
    /// <param name="isThere">Whether the file is there.</param>
    /// <param name="over">Whether what stands is to be put aside.</param>
    public static Refusal? RefusalToRestore(
        string file,
        bool isThere,
        string database,
        RestoreStanding stands,
        bool over
    ) =>
        !isThere ? Refusal.NotFound($"There is no file {file}.")
        : stands == RestoreStanding.InUse
            ? Refusal.Conflict($"The database {database} is in use. Stop the application first.")
        : stands == RestoreStanding.Filled && !over
            ? Refusal.Conflict(
                $"The database {database} has records in it. With --over they are put aside, under another name, and the backup takes their place."
            )
        : null;
}
