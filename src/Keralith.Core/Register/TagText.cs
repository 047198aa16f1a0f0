using System.Text.RegularExpressions;
using Keralith.Core.Quantities;

namespace Keralith.Core.Register;

/// <summary>
/// Reads a tag copied as it stands, all in one run, as fields of the register's form. What is found is a proposal: each is
/// confirmed by whoever has the tag in hand, and what can't be told is left open.
/// </summary>
public static partial class TagText
{
    /// <summary>Letters a tag may have.</summary>
    public const int Longest = 600;

    private static readonly (string Word, string Legs)[] LegWords =
    [
        ("single", "1"),
        ("one", "1"),
        ("double", "2"),
        ("two", "2"),
        ("three", "3"),
        ("triple", "3"),
        ("four", "4"),
        ("quad", "4"),
    ];

    private static readonly string[] Fibers = ["polyester", "nylon", "polypropylene"];

    /// <summary>The fields a tag's words fill, by the form's field names; empty where nothing is told.</summary>
    public static IReadOnlyDictionary<string, string> Read(string? tag)
    {
        var found = new Dictionary<string, string>();
        if (string.IsNullOrWhiteSpace(tag) || tag.Length > Longest)
            return found;
        var text = QuantityText.Plain(tag.Replace('\r', '\n'));
        var straight = WithoutOtherHitches(text);
        Loads(text, found);
        if (Factor().Match(text) is { Success: true } factor)
            found["designFactor"] = factor.Groups[1].Value;
        if (Serial().Match(text) is { Success: true } serial)
            found["serial"] = serial.Groups[1].Value.ToUpperInvariant();
        if (Grade().Match(text) is { Success: true } grade)
            found["grade"] = grade.Groups[1].Value;
        if (LegCount().Match(text) is { Success: true } legs)
            found["legs"] = legs.Groups[1].Value;
        else if (
            LegWord().Match(text) is { Success: true } word
            && LegWords
                .FirstOrDefault(w => w.Word.Equals(word.Groups[1].Value, StringComparison.OrdinalIgnoreCase))
                .Legs
                is { } count
        )
            found["legs"] = count;
        if (Degrees().Match(straight) is { Success: true } angle)
            (found["ratedAngle"], found["ratedHitch"]) = ($"{angle.Groups[1].Value} deg", "vertical");
        else if (Upright().IsMatch(straight))
            found["ratedHitch"] = "vertical";
        if (Reach().Match(text) is { Success: true } reach && Length.Read(reach.Groups[1].Value) is { Ok: true } along)
            found["reach"] = along.Value.ToString();
        foreach (Match size in Size().Matches(text))
        {
            // The reach of a short sling may be in inches too: it stands under its own word.
            if (
                found.GetValueOrDefault("reach") is { } taken
                && Length.Read(size.Groups[1].Value) is { Ok: true } same
                && same.Value.ToString() == taken
            )
                continue;
            if (Length.Read(size.Groups[1].Value) is { Ok: true } across)
            {
                found["size"] = across.Value.ToString();
                break;
            }
        }

        if (Fibers.FirstOrDefault(f => text.Contains(f, StringComparison.OrdinalIgnoreCase)) is { } fiber)
            found["fiber"] = fiber;
        return found;
    }

    /// <summary>
    /// Line by line: what stands behind choker or basket is that hitch's; the first load before either word is the rated one. A
    /// load followed by such a word, with none behind it, is that hitch's too, as far as anybody can tell, and is left open.
    /// </summary>
    private static void Loads(string text, Dictionary<string, string> found)
    {
        var others = new List<string>();
        foreach (var line in text.Split('\n'))
        {
            var hitches = OtherHitch().Matches(line);
            foreach (Match load in Load().Matches(line))
            {
                if (Mass.Read(load.Value) is not { Ok: true } mass)
                    continue;
                if (hitches.LastOrDefault(h => h.Index < load.Index) is { } hitch)
                {
                    var name = hitch.Value.StartsWith("b", StringComparison.OrdinalIgnoreCase) ? "basket" : "choker";
                    var angle = Degrees().Match(line[hitch.Index..load.Index]) is { Success: true } at
                        ? $" {at.Groups[1].Value} deg"
                        : string.Empty;
                    others.Add($"{name}{angle} {mass.Value}");
                }
                else if (hitches.Count == 0 || Load().IsMatch(line[hitches[0].Index..]))
                    found.TryAdd("ratedLoad", mass.Value.ToString());
            }
        }

        if (others.Count > 0)
            found[PieceEntryReader.Ratings] = string.Join('\n', others.DistinctBy(o => o.Split(' ')[0]));
    }

    /// <summary>The text without what stands behind choker or basket: an angle there is not the rated one's.</summary>
    private static string WithoutOtherHitches(string text) =>
        string.Join(
            '\n',
            text.Split('\n').Select(l => OtherHitch().Match(l) is { Success: true } h ? l[..h.Index] : l)
        );

    [GeneratedRegex(@"\b(?:choke[rd]?|basket)\b", RegexOptions.IgnoreCase)]
    private static partial Regex OtherHitch();

    [GeneratedRegex(
        @"(?:(?:\d{1,3}(?:[ ,]\d{3})+|\d+(?:[.-]\d+(?:/\d+)?|/\d+)?)\s*(?:short tons?|tonnes?|tons?|lbs?|kgs?|t)\b)",
        RegexOptions.IgnoreCase
    )]
    private static partial Regex Load();

    [GeneratedRegex(@"(?:\bD\.?F\.?\s*|\bfactor\s*)?\b(\d{1,2}(?:\.\d)?)\s*(?::|to)\s*1\b", RegexOptions.IgnoreCase)]
    private static partial Regex Factor();

    [GeneratedRegex(
        @"\b(?:S/?N|ser(?:ial)?\.?(?:\s*n(?:o|umber)\.?)?)[\s:#]*([A-Z0-9][A-Z0-9-]{1,24})",
        RegexOptions.IgnoreCase
    )]
    private static partial Regex Serial();

    [GeneratedRegex(@"\bG(?:r(?:ade)?)?\.?\s*-?\s*(80|100|120|8|10|12)\b", RegexOptions.IgnoreCase)]
    private static partial Regex Grade();

    [GeneratedRegex(@"\b([1-4])\s*-?\s*legs?\b", RegexOptions.IgnoreCase)]
    private static partial Regex LegCount();

    [GeneratedRegex(@"\b(single|one|double|two|three|triple|four|quad)\s*-?\s*legs?\b", RegexOptions.IgnoreCase)]
    private static partial Regex LegWord();

    [GeneratedRegex(@"\b(\d{1,2}(?:\.\d)?)\s*deg", RegexOptions.IgnoreCase)]
    private static partial Regex Degrees();

    [GeneratedRegex(@"\b(?:vertical|straight)\b", RegexOptions.IgnoreCase)]
    private static partial Regex Upright();

    [GeneratedRegex(
        @"(?:\breach\b\D{0,4})?(\d+(?:\.\d+|-\d+/\d+)?\s*(?:ft|'|m\b(?!m)))|\breach\b\D{0,4}(\d+(?:\.\d+)?\s*(?:in|""|mm|cm))",
        RegexOptions.IgnoreCase
    )]
    private static partial Regex Reach();

    [GeneratedRegex(@"(?<![\d/.-])(\d+(?:-\d+/\d+|\s\d+/\d+|/\d+|\.\d+)?\s*(?:in\b|""|mm\b))", RegexOptions.IgnoreCase)]
    private static partial Regex Size();
}
