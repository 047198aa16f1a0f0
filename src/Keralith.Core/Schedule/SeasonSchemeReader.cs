namespace Keralith.Core.Schedule;

/// <summary>Reads a season scheme as a site enters it. The one place what a scheme may be is decided.</summary>
public static class SeasonSchemeReader
{
    private const int MostMarks = 12;
    private const int MostOverlap = 90;

    /// <summary>Reads a scheme.</summary>
    /// <param name="marks">One mark a line: letter, colour, pattern; such as <c>V heather ring</c>.</param>
    /// <param name="months">How long a season is: 1, 3, 6 or 12 months.</param>
    /// <param name="first">The first day of the first season, the first of a month.</param>
    /// <param name="overlapDays">0 to 90.</param>
    /// <param name="enforced">Whether gear without the mark may not be used.</param>
    /// <param name="paints">The paints there are.</param>
    public static Checked<SeasonScheme> Read(
        string marks,
        int? months,
        DateOnly? first,
        int? overlapDays,
        bool enforced,
        IReadOnlyCollection<string> paints
    )
    {
        var read = new List<SeasonMark>();
        foreach (var line in marks.Split('\n', StringSplitOptions.RemoveEmptyEntries | StringSplitOptions.TrimEntries))
        {
            var words = line.Split([' ', '\t', ','], StringSplitOptions.RemoveEmptyEntries);
            if (words.Length != 3)
                return new Refusal($"\"{line}\": write letter, colour and pattern, such as V heather ring.");
            if (words[0] is not [>= 'A' and <= 'Z'])
                return new Refusal($"\"{line}\": the letter is one capital, A to Z.");
            if (!paints.Contains(words[1]))
                return new Refusal($"\"{line}\": there is no paint {words[1]}. There are {string.Join(", ", paints)}.");
            if (Code.Find<SeasonPattern>(words[2]) is not { } pattern)
                return new Refusal(
                    $"\"{line}\": there is no pattern {words[2]}. There are {string.Join(", ", Enum.GetValues<SeasonPattern>().Select(Code.Of))}."
                );
            read.Add(new(words[0], words[1], pattern));
        }

        if (read.Count is < 2 or > MostMarks)
            return new Refusal($"A scheme has 2 to {MostMarks} marks, one a line.");
        if (read.Select(m => m.Letter).Distinct().Count() < read.Count)
            return new Refusal("Each mark has a letter of its own.");
        if (
            read.Zip(read.Skip(1).Append(read[0]))
                .Any(p => p.First.Colour == p.Second.Colour && p.First.Pattern == p.Second.Pattern)
        )
            return new Refusal(
                "Two seasons that follow each other differ in colour or pattern, the last and the first too."
            );
        if (months is not (1 or 3 or 6 or 12))
            return new Refusal("A season is 1, 3, 6 or 12 months long.");
        if (first is not { Day: 1 } day)
            return new Refusal("The first season begins on the first of a month.");
        if (overlapDays is not (>= 0 and <= MostOverlap))
            return new Refusal($"A mark counts for 0 to {MostOverlap} days after its season.");
        return new SeasonScheme(read, months.Value, day, overlapDays.Value, enforced);
    }

    /// <summary>A scheme's marks as they are entered.</summary>
    public static string Lines(SeasonScheme scheme) =>
        string.Join('\n', scheme.Marks.Select(m => $"{m.Letter} {m.Colour} {Code.Of(m.Pattern)}"));

    /// <summary>Whether marks painted under one scheme mean the same under another.</summary>
    public static bool KeepsMarks(SeasonScheme before, SeasonScheme after) =>
        before.Months == after.Months && before.First == after.First && before.Marks.SequenceEqual(after.Marks);
}
