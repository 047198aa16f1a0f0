using System.Text.RegularExpressions;

namespace Keralith.Core.Custody;

/// <summary>
/// A works' own mark, such as <c>HM-0042</c>: what the label carries and the scanner reads. Upper case; letters,
/// digits, dashes.
/// </summary>
public readonly partial record struct Mark
{
    private Mark(string text) => Text = text;

    /// <summary>The mark in upper case.</summary>
    public string Text { get; }

    /// <summary>Reads a mark as typed or scanned; case and surrounding blanks don't matter.</summary>
    public static Checked<Mark> Read(string? text)
    {
        var plain = (text ?? string.Empty).Trim().ToUpperInvariant();
        return Pattern().IsMatch(plain)
            ? new Mark(plain)
            : new Refusal(
                plain.Length == 0
                    ? "Write the mark, such as HM-0042."
                    : "A mark is 2 to 24 letters, digits and dashes, such as HM-0042."
            );
    }

    /// <summary>What was typed without its dash, with it: <c>hm0042</c> is <c>HM-0042</c>; null where it is nothing of the kind.</summary>
    public static string? Dashed(string text) =>
        Undashed().Match(text.Trim().ToUpperInvariant()) is { Success: true } match
            ? $"{match.Groups[1].Value}-{match.Groups[2].Value}"
            : null;

    /// <summary>What it looks like: <c>HM-OO11</c> looks like <c>HM-0011</c>, and like <c>HM0011</c>.</summary>
    public string Look => Looks.Of(Text);

    public override string ToString() => Text;

    [GeneratedRegex("^([A-Z]{1,8}) ?([0-9]{1,12})$")]
    private static partial Regex Undashed();

    [GeneratedRegex("^[A-Z0-9](?:[A-Z0-9-]{0,22}[A-Z0-9])$")]
    private static partial Regex Pattern();
}
