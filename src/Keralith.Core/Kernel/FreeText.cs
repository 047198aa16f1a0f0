using System.Globalization;

namespace Keralith.Core.Kernel;

/// <summary>
/// The one gate for text that people and programs write: nothing that is no text, and nothing cut in silence.
/// </summary>
public static class FreeText
{
    /// <summary>Letters of a reason, a remark, a name, where nothing else is said.</summary>
    public const int Usual = 500;

    /// <summary>Signs of what is looked for that are read; what follows is not.</summary>
    public const int MostAsked = 60;

    /// <summary>The start of a text, never half a character.</summary>
    /// <param name="most">Signs (UTF-16) it may have.</param>
    public static string Start(string text, int most) =>
        text.Length <= most ? text
        : char.IsHighSurrogate(text[most - 1]) ? text[..(most - 1)]
        : text[..most];

    /// <summary>What in a text is no text, in words; null when nothing is: NUL and controls, halves of characters.</summary>
    public static string? FaultOf(string text)
    {
        for (var i = 0; i < text.Length; i++)
        {
            var c = text[i];
            if (char.IsHighSurrogate(c) && i + 1 < text.Length && char.IsLowSurrogate(text[i + 1]))
                i++;
            else if (char.IsSurrogate(c))
                return "it holds half a character";
            else if (char.IsControl(c) && c is not ('\t' or '\r' or '\n'))
                return $"it holds a control character (U+{(int)c:X4})";
        }

        return null;
    }

    /// <summary>How many letters a text has, as people count them: a letter with its accent is one.</summary>
    public static int Letters(string text) =>
        text.Length <= 1 ? text.Length : new StringInfo(text).LengthInTextElements;

    /// <summary>Why a text can't be kept; null when it can.</summary>
    /// <param name="what">What it is, in words.</param>
    /// <param name="text">The text; null: nothing was written.</param>
    /// <param name="most">Letters it may have.</param>
    public static Refusal? RefusalOf(string what, string? text, int most = Usual)
    {
        if (text is null)
            return null;
        if (FaultOf(text) is { } fault)
            return new Refusal($"{what}: {fault}. Write it again.");
        return text.Length > most && Letters(text) is var letters && letters > most
            ? new Refusal($"{what}: {letters} letters; at most {most} are kept. Shorten it: nothing was saved.")
            : null;
    }

    /// <summary>A text without what is no text: for holds, which are never refused for how they are written.</summary>
    public static string Cleaned(string text)
    {
        if (FaultOf(text) is null)
            return text;
        var kept = new System.Text.StringBuilder(text.Length);
        foreach (var rune in text.EnumerateRunes())
        {
            if (
                rune != System.Text.Rune.ReplacementChar
                && (!System.Text.Rune.IsControl(rune) || rune.Value is 9 or 10 or 13)
            )
                kept.Append(rune);
        }

        return kept.ToString();
    }
}
