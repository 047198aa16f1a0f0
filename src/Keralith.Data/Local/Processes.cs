namespace Keralith.Data.Local;

/// <summary>What Linux says of the processes that run.</summary>
internal static class Processes
{
    /// <summary>Whether any process has a folder for its own to work in.</summary>
    public static bool AnyWorksIn(string folder) =>
        Directory
            .GetDirectories("/proc")
            .Any(process =>
            {
                try
                {
                    return int.TryParse(Path.GetFileName(process), out var number)
                        && new FileInfo(Path.Combine(process, "cwd")).LinkTarget == folder
                        && Runs(number);
                }
                catch (Exception e) when (e is IOException or UnauthorizedAccessException)
                {
                    // Gone while it was looked at, or somebody else's.
                    return false;
                }
            });

    /// <summary>Whether a process runs; one that ended and that nobody reaped does not.</summary>
    public static bool Runs(int process)
    {
        try
        {
            var stat = File.ReadAllText($"/proc/{process}/stat");
            return stat[(stat.LastIndexOf(')') + 2)..][0] is not ('Z' or 'X');
        }
        catch (IOException)
        {
            return false;
        }
    }
}
