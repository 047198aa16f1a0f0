using System.Text.RegularExpressions;

namespace Keralith.Web.Printing;

/// <summary>
/// A stand-in for a label printer: what is sent to it lands in a spool folder, a PDF to look at and an SVG to see on
/// its page. The folder is KERALITH_SPOOL,
/// or one beside the temporary files.
/// </summary>
public sealed partial class LabelPrinter(TimeProvider clock)
{
    private const int MostShown = 30;

    private static string Folder =>
        Environment.GetEnvironmentVariable("KERALITH_SPOOL") ?? Path.Combine(Path.GetTempPath(), "keralith-spool");

    /// <summary>Prints labels; the same job twice is one.</summary>
    public async Task PrintAsync(Guid job, IReadOnlyList<Label> labels, LabelSize size, CancellationToken cancel)
    {
        Directory.CreateDirectory(Folder);
        if (Directory.EnumerateFiles(Folder, $"*-{job:N}.pdf").Any())
            return;
        var now = clock.GetUtcNow();
        var name = Path.Combine(Folder, $"{now:yyyyMMdd-HHmmss}-{job:N}");
        await File.WriteAllTextAsync($"{name}.svg", LabelSheet.Svg(labels, size, 0, 0), cancel);
        await File.WriteAllBytesAsync($"{name}.pdf", LabelSheet.Pdf(labels, size, 0, now), cancel);
    }

    /// <summary>What it printed, newest first.</summary>
    public static IReadOnlyList<(string Name, DateTime At)> Printed() =>
        !Directory.Exists(Folder)
            ? []
            : Directory
                .EnumerateFiles(Folder, "*.pdf")
                .Select(f => Path.GetFileNameWithoutExtension(f))
                .Where(n => Job().IsMatch(n))
                .OrderDescending()
                .Take(MostShown)
                .Select(n => (n, DateTime.ParseExact(n[..15], "yyyyMMdd-HHmmss", null)))
                .ToList();

    /// <summary>A file it made; null when there is none of that name.</summary>
    public static string? FileOf(string name, string extension) =>
        Job().IsMatch(name)
        && extension is "pdf" or "svg"
        && Path.Combine(Folder, $"{name}.{extension}") is var path
        && File.Exists(path)
            ? path
            : null;

    [GeneratedRegex(@"^\d{8}-\d{6}-[0-9a-f]{32}$")]
    private static partial Regex Job();
}
