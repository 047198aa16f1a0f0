using System.Text;

namespace Keralith.Core.Kernel;

/// <summary>
/// What a name, mark or code looks like, whatever script, accents or spacing it is written in: two that look alike are
/// taken for one wherever holding or asking too much is the safe side.
/// </summary>
public static class Looks
{
    /// <summary>Names shorter than this are near only where they look the same.</summary>
    private const int LeastNear = 4;

    private static readonly Dictionary<char, string> Alike = Table();

    private static readonly HashSet<string> LegalForms = new(
        "LTD LIMITED INC INCORPORATED CORP CORPORATION CO COMPANY LLC LLP LP PLC PTY GMBH MBH AG KG OHG UG SE SA SAS SARL SRL SPA SNC BV NV CV AB AS ASA APS OY OYJ SP ZOO DOO KFT RT BHD PTE".Split(
            ' '
        )
    );

    /// <summary>
    /// What all that look alike have in common: letters of other scripts and with accents as the Latin ones they look
    /// like, capitals, figures; O as 0, I and L as 1. Empty where nothing is said.
    /// </summary>
    public static string Of(string? text)
    {
        var look = new StringBuilder();
        foreach (var sign in text ?? string.Empty)
            look.Append(Sign(sign));
        return look.Replace('O', '0').Replace('I', '1').Replace('L', '1').ToString();
    }

    /// <summary>The same of a maker's name, its legal form left out: <c>Pellow Forge Ltd.</c> is <c>PELLOW FORGE</c>.</summary>
    public static string OfMaker(string? name)
    {
        var words = Words(name);
        while (words.Count > 1 && LegalForms.Contains(words[^1]))
            words.RemoveAt(words.Count - 1);
        return Of(string.Concat(words));
    }

    /// <summary>
    /// Whether somebody may have meant one name by another without writing it so: one stands whole within the other, or a
    /// letter or two are other. False where they look the same.
    /// </summary>
    public static bool IsNear(string? name, string? other)
    {
        var (one, two) = (OfMaker(name), OfMaker(other));
        if (one == two || one.Length < LeastNear || two.Length < LeastNear)
            return false;
        var (shorter, longer) = one.Length < two.Length ? (one, two) : (two, one);
        return longer.StartsWith(shorter, StringComparison.Ordinal)
            || longer.EndsWith(shorter, StringComparison.Ordinal)
            || Apart(one, two) <= (shorter.Length < 8 ? 1 : 2);
    }

    private static List<string> Words(string? name)
    {
        var words = new List<string>();
        var word = new StringBuilder();
        foreach (var sign in $"{name} ")
        {
            if (Sign(sign) is { Length: > 0 } looks)
                word.Append(looks);
            else if (sign is not ('.' or '\'') && word.Length > 0)
            {
                words.Add(word.ToString());
                word.Clear();
            }
        }

        return words;
    }

    private static string Sign(char sign)
    {
        // Full-width forms stand a fixed way behind the plain ones.
        var plain = char.ToUpperInvariant(sign is >= '\uFF01' and <= '\uFF5E' ? (char)(sign - 0xFEE0) : sign);
        return char.IsAsciiLetterOrDigit(plain) ? plain.ToString()
            : Alike.TryGetValue(plain, out var looks) ? looks
            : char.IsLetterOrDigit(plain) ? plain.ToString()
            : string.Empty;
    }

    /// <summary>How many letters are put in, left out or other, from one to another.</summary>
    private static int Apart(string one, string two)
    {
        var before = Enumerable.Range(0, two.Length + 1).ToArray();
        for (var i = 0; i < one.Length; i++)
        {
            var now = new int[two.Length + 1];
            now[0] = i + 1;
            for (var j = 0; j < two.Length; j++)
                now[j + 1] = Math.Min(Math.Min(now[j], before[j + 1]) + 1, before[j] + (one[i] == two[j] ? 0 : 1));
            before = now;
        }

        return before[^1];
    }

    /// <summary>Capitals of other scripts and with accents, by the Latin ones they look like.</summary>
    private static Dictionary<char, string> Table()
    {
        var table = new Dictionary<char, string>();
        foreach (
            var (looks, signs) in new[]
            {
                ("A", "ÀÁÂÃÄÅĀĂĄǍΑАª"),
                ("AE", "ÆǼ"),
                ("B", "ΒВЬ"),
                ("C", "ÇĆĈĊČСϹ"),
                ("D", "ÐĎĐ"),
                ("E", "ÈÉÊËĒĔĖĘĚΕЕЁ"),
                ("F", "Ϝ"),
                ("G", "ĜĞĠĢ"),
                ("H", "ĤĦΗН"),
                ("I", "ÌÍÎÏĨĪĬĮİıΙІЇӀ"),
                ("J", "ĴЈ"),
                ("K", "ĶΚКĸ\u212A"),
                ("L", "ĹĻĽĿŁ"),
                ("M", "ΜМ"),
                ("N", "ÑŃŅŇŊΝ"),
                ("O", "ÒÓÔÕÖØŌŎŐΟОº"),
                ("OE", "Œ"),
                ("P", "ΡР"),
                ("R", "ŔŖŘ"),
                ("S", "ŚŜŞŠЅſ"),
                ("SS", "ßẞ"),
                ("T", "ŢŤŦΤТ"),
                ("TH", "Þ"),
                ("U", "ÙÚÛÜŨŪŬŮŰŲ"),
                ("W", "Ŵ"),
                ("X", "ΧХ"),
                ("Y", "ÝŶŸΥУҮ"),
                ("Z", "ŹŻŽΖ"),
                ("FI", "ﬁ"),
                ("FL", "ﬂ"),
                ("FF", "ﬀ"),
                ("0", "⁰₀０"),
                ("1", "¹₁①"),
                ("2", "²₂②"),
                ("3", "³₃③"),
                ("4", "⁴₄④"),
                ("5", "⁵₅⑤"),
                ("6", "⁶₆⑥"),
                ("7", "⁷₇⑦"),
                ("8", "⁸₈⑧"),
                ("9", "⁹₉⑨"),
            }
        )
        {
            foreach (var sign in signs)
                table[sign] = looks;
        }

        return table;
    }
}
