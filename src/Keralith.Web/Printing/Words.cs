namespace Keralith.Web.Printing;

/// <summary>A line of words on something small: how large it wishes to be beside the others.</summary>
/// <param name="Text">What it says.</param>
/// <param name="Wish">Its size beside the other lines' where all have room, over 0.</param>
/// <param name="Bold">Whether it stands out.</param>
/// <param name="Mono">Whether it is a mark or a figure.</param>
/// <param name="Most">How many lines it may break into, 1 and over.</param>
/// <param name="Beside">Room kept free behind it, in its own sizes.</param>
public sealed record Words(
    string Text,
    double Wish,
    bool Bold = false,
    bool Mono = false,
    int Most = 1,
    double Beside = 0
)
{
    /// <summary>From one baseline to the next, in sizes.</summary>
    public const double Leading = 1.14;

    private const double Largest = 40;
    private const double Smallest = 0.5;

    private Type At(double size) => new(size, Bold, Mono);

    /// <summary>A text's width in its type, in the unit of the type's size.</summary>
    public static double Width(string text, Type type)
    {
        using var font = Fonts.Sized(type);
        return font.MeasureText(text);
    }

    /// <summary>The size in which a text just fills a width.</summary>
    public static double Filling(string text, Type type, double width) =>
        Width(text, type with { Size = 1 }) is > 0 and var one ? width / one : Largest;

    /// <summary>Words set as large as a box lets them be, in its middle.</summary>
    /// <returns>Each line as it stands: its words, its type, its baseline, in the box's unit.</returns>
    public static IReadOnlyList<(Words Of, string Text, Type Type, double Baseline)> Fit(
        IReadOnlyList<Words> words,
        double width,
        double height
    )
    {
        var (low, high) = (Smallest, Largest);
        while (high - low > 0.01)
        {
            var scale = (low + high) / 2;
            if (Height(Set(words, scale, width)) <= height)
                low = scale;
            else
                high = scale;
        }

        var set = Set(words, low, width);
        var lines = new List<(Words, string, Type, double)>();

        // What the widths leave free stands between the lines, up to half a line each.
        var free = Math.Max(0, height - Height(set));
        var gap = Math.Min(free / (set.Count + 1), height * 0.04);
        var y = (free - (gap * (set.Count - 1))) / 2;
        foreach (var (of, text, size) in set)
        {
            lines.Add((of, text, of.At(size), y + (size * 0.86)));
            y += (size * Leading) + gap;
        }

        return lines;
    }

    private static double Height(List<(Words Of, string Text, double Size)> set) => set.Sum(l => l.Size * Leading);

    private static List<(Words Of, string Text, double Size)> Set(
        IReadOnlyList<Words> words,
        double scale,
        double width
    ) => [.. words.SelectMany(w => w.Broken(scale * w.Wish, width))];

    /// <summary>The words in the fewest lines that let them keep a size; smaller where no breaking does.</summary>
    private IEnumerable<(Words Of, string Text, double Size)> Broken(double size, double width)
    {
        List<string> lines = [];
        for (var many = 1; many <= Most; many++)
        {
            lines = Break(many);
            var fits = lines.Min(Room);
            if (fits >= size || many == Most)
                return lines.Select(l => (this, l, Math.Min(size, fits)));
        }

        return [];

        double Room(string line) => width / ((width / Filling(line, At(1), width)) + Beside);
    }

    /// <summary>The text in so many lines of about one length, broken between words.</summary>
    private List<string> Break(int many)
    {
        var rest = Text.Split(' ', StringSplitOptions.RemoveEmptyEntries).ToList();
        var lines = new List<string>();
        for (var left = many; left > 1 && rest.Count > 1; left--)
        {
            var goal = string.Join(' ', rest).Length / (double)left;
            var take = Enumerable
                .Range(1, rest.Count - 1)
                .MinBy(n => Math.Abs(string.Join(' ', rest.Take(n)).Length - goal));
            lines.Add(string.Join(' ', rest.Take(take)));
            rest.RemoveRange(0, take);
        }

        lines.Add(string.Join(' ', rest));
        return lines;
    }
}
