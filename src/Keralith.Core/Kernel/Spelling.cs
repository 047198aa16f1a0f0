namespace Keralith.Core.Kernel;

/// <summary>
/// Names of makers and models, batches and serials, as people write them from tags, papers and memory: letters and digits tell
/// two apart, and nothing else does.
/// </summary>
public static class Spelling
{
    /// <summary>Whether two are one. Nothing written, and what has neither letter nor digit, is one with the like.</summary>
    public static bool Same(string? name, string? other) => Key(name) == Key(other);

    /// <summary>What all spellings of a name have in common: its letters, as capitals, and digits. Empty for no name.</summary>
    public static string Key(string? name) =>
        string.Concat((name ?? string.Empty).Where(char.IsLetterOrDigit)).ToUpperInvariant();
}
