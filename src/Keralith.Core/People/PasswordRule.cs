namespace Keralith.Core.People;

/// <summary>
/// What a password must be: long, and none that everybody tries first. Nothing is asked of what it is made up of
/// (NIST SP 800-63B, section 5.1.1.2).
/// </summary>
public static class PasswordRule
{
    /// <summary>Letters it has at the least.</summary>
    public const int Shortest = 12;

    /// <summary>Letters it has at the most.</summary>
    public const int Longest = 200;

    /// <summary>Why a password can't be taken; null when it can.</summary>
    /// <param name="password">The password.</param>
    /// <param name="again">The same typed again.</param>
    /// <param name="own">Words that belong to the person and the works: their names.</param>
    /// <param name="isCommon">Whether a password is among those tried first, the words of its owner counted in.</param>
    public static Refusal? RefusalOf(
        string? password,
        string? again,
        IReadOnlyList<string> own,
        Func<string, IReadOnlyList<string>, bool> isCommon
    )
    {
        var text = password ?? string.Empty;
        if (text.Length < Shortest)
            return new Refusal($"A password has {Shortest} letters at the least; a few words in a row do well.");
        if (text.Length > Longest)
            return new Refusal($"A password has {Longest} letters at the most.");
        if (text != again)
            return new Refusal("The two passwords differ. Type the same twice.");
        return isCommon(text, own)
            ? new Refusal(
                "This password is among those that are tried first. Choose another, such as a few words in a row."
            )
            : null;
    }
}
