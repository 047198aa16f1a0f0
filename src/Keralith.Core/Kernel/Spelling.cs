namespace Keralith.Core.Kernel;

/// <summary>
/// Names of makers and models, batches and serials, as people write them from tags, papers and memory: letters and digits tell
/// two apart, and whether anything stands between two figures (1.1 is not 11); nothing else does.
/// </summary>
public static class Spelling
{
    /// <summary>Whether two are one. Nothing written, and what has neither letter nor digit, is one with the like.</summary>
    public static bool Same(string? name, string? other) => Key(name) == Key(other);

    /// <summary>Whether two may be one, where holding or asking too much is the safe side: figures run together too.</summary>
    public static bool MayBeSame(string? name, string? other) => Run(name) == Run(other);

    /// <summary>
    /// Whether what is asked of gear of some name may mean a piece: nothing asked means any, and where nothing is on record it
    /// may be that one.
    /// </summary>
    public static bool MayMean(string? asked, string? onRecord) =>
        SaysNothing(asked) || SaysNothing(onRecord) || MayBeSame(asked, onRecord);

    /// <summary>Whether nothing is said: nothing written, or neither letter nor digit, as a dash where nobody knew.</summary>
    public static bool SaysNothing(string? name) => Key(name).Length == 0;

    /// <summary>
    /// What all spellings of a name have in common: its letters, as capitals, and digits, figures that something parts kept
    /// apart by a dot. Empty for no name.
    /// </summary>
    public static string Key(string? name)
    {
        var text = name ?? string.Empty;
        var key = new System.Text.StringBuilder(text.Length);
        var parted = false;
        foreach (var sign in text)
        {
            var counts = char.IsLetterOrDigit(sign);
            if (counts && parted && char.IsDigit(sign) && key.Length > 0 && char.IsDigit(key[^1]))
                key.Append('.');
            if (counts)
                key.Append(char.ToUpperInvariant(sign));
            parted = !counts;
        }

        return key.ToString();
    }

    private static string Run(string? name) => Key(name).Replace(".", string.Empty, StringComparison.Ordinal);
}
