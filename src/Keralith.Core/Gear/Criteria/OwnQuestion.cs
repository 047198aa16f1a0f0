namespace Keralith.Core.Gear;

/// <summary>
/// A question a site asks beside the books: on a part of a family, or of one maker's or one model's. It never changes; another
/// takes its place under another id, so that a record reads as it was asked.
/// </summary>
/// <param name="Criterion">What is asked: seen or tested, with an id such as <c>own.7</c>.</param>
/// <param name="Family">The family it is asked of.</param>
/// <param name="Part">The part it sits on, as the family names it: <c>leg-{n}/hook</c> is every leg's hook.</param>
/// <param name="Maker">Whose gear; empty: everybody's.</param>
/// <param name="Model">Which model; empty: everything the maker makes.</param>
public sealed record OwnQuestion(Criterion Criterion, GearFamily Family, string Part, string Maker, string Model)
{
    private const string Prefix = "own.";

    /// <summary>The id of a question of a number.</summary>
    public static string IdOf(long number) => $"{Prefix}{number}";

    /// <summary>Whether an id is that of a site's own question.</summary>
    public static bool IsId(string criterion) => criterion.StartsWith(Prefix, StringComparison.Ordinal);

    /// <summary>The number in an id; null where it is none of a site's own.</summary>
    public static long? NumberOf(string criterion) =>
        IsId(criterion) && long.TryParse(criterion.AsSpan(Prefix.Length), out var number) ? number : null;

    /// <summary>Whether it sits on a part of a piece of its family.</summary>
    /// <param name="path">Such as <c>leg-2/hook</c>.</param>
    public bool SitsOn(string path) => TemplateOf(path) == Part;

    /// <summary>Where the family has the part, its name; null where it has none.</summary>
    public string? PartName => PartsOf(Family).FirstOrDefault(p => p.Path == Part).Name;

    /// <summary>The parts of a family a question may sit on, with their names.</summary>
    public static IEnumerable<(string Path, string Name)> PartsOf(GearFamily family) =>
        family
            .Parts.Where(p => p.Path != "legs")
            .Select(p =>
                (
                    p.Path,
                    p.PerLeg
                        ? p
                            .Name.Replace("Leg {n}", "Each leg", StringComparison.Ordinal)
                            .Replace(" {n}", string.Empty, StringComparison.Ordinal)
                        : p.Name
                )
            )
            .Append(("whole", "The whole piece"));

    private static string TemplateOf(string path) =>
        path.StartsWith("leg-", StringComparison.Ordinal) && path.Length > 4 && char.IsAsciiDigit(path[4])
            ? $"leg-{{n}}{path[5..]}"
            : path;
}
