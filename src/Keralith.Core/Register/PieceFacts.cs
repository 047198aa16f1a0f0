using System.Globalization;
using Keralith.Core.Judgement;
using Keralith.Core.People;

namespace Keralith.Core.Register;

/// <summary>What a change of a fact means once a piece stands under an inspection.</summary>
public enum ChangeMeaning
{
    /// <summary>A slip of the pen: no verdict, rating or due date stands on it.</summary>
    [Code("slip")]
    SlipOfThePen,

    /// <summary>The standing inspection and the marking are judged again; what comes out worse is held.</summary>
    [Code("judge")]
    JudgedAgain,

    /// <summary>It makes something milder, or nobody has looked at what it adds: held until a full inspection.</summary>
    [Code("inspect")]
    InspectedAgain,
}

/// <summary>A fact of a piece that was entered otherwise.</summary>
/// <param name="Field">Its field in the register.</param>
/// <param name="Label">What it is, in words.</param>
/// <param name="Before">As it was; empty: nothing.</param>
/// <param name="After">As it is to be; empty: nothing.</param>
/// <param name="Means">What the change means.</param>
/// <param name="Needs">The right it takes.</param>
public sealed record FactChange(
    string Field,
    string Label,
    string Before,
    string After,
    ChangeMeaning Means,
    Right Needs
)
{
    /// <summary>The change in words: <c>rated load 12200 lb, now 11000 lb</c>.</summary>
    public override string ToString() =>
        $"{Label} {(Before.Length == 0 ? "not stated" : Before)}, now {(After.Length == 0 ? "not stated" : After)}";
}

/// <summary>
/// The facts a verdict, a rating or a due date stands on, what a change of each means and who makes it: the one table.
/// Before the first inspection the register is written freely.
/// </summary>
public static class PieceFacts
{
    private const ChangeMeaning Judge = ChangeMeaning.JudgedAgain;

    /// <summary>What there are as many of as the gear has, by the start of the name; the rest are <see cref="PieceFields"/>.</summary>
    private static readonly IReadOnlyList<PieceField> Families =
    [
        Group(PieceEntryReader.TagUnread, "marking not read", PieceFields.Always(Judge, Right.ChangeFacts)),
        Group("tag:", "marking carries", PieceFields.Always(Judge, Right.ChangeFacts)),
        Group("meets:", "meets", (a, b) =>
            PieceFields.Milder(a.Surroundings.Chemicals.Except(b.Surroundings.Chemicals).Any())
        ),
        Group("baseline:", "figure when new", Figures),
        Group("basis:", "basis of the figure when new", Figures),
        Group("links:", "links of the figure when new", Figures),
    ];

    /// <summary>Attributes of the gear itself: read from the piece.</summary>
    private static readonly PieceField Attribute = Group(
        string.Empty,
        string.Empty,
        PieceFields.Always(Judge, Right.ChangeFacts)
    );

    /// <summary>
    /// A figure when new is a qualified person's to change; one that judges more mildly waits for a full inspection: a
    /// figure that moved the milder way, a better basis, other links.
    /// </summary>
    private static (ChangeMeaning, Right) Figures(PieceEntry before, PieceEntry after) =>
        (
            before.Baselines.Any(b =>
                after.Baselines.TryGetValue(b.Key, out var now) && IsMilder(after.Gear, b.Key, b.Value, now)
            )
                ? ChangeMeaning.InspectedAgain
                : Judge,
            Right.ChangeFigures
        );

    private static bool IsMilder(Gear.GearPiece gear, BaselineKey key, BaselineFigure was, BaselineFigure now) =>
        was.Links != now.Links
        || now.Basis < was.Basis
        || Gear.Catalogue.Find(key.Criterion)?.IsMilder(gear, was.Length, now.Length) != false;

    private static PieceField Group(
        string start,
        string label,
        Func<PieceEntry, PieceEntry, (ChangeMeaning, Right)> change
    ) => new(start, label) { Write = _ => string.Empty, Change = change };

    /// <summary>What is entered otherwise, fact by fact.</summary>
    public static IReadOnlyList<FactChange> Between(PieceEntry before, PieceEntry after)
    {
        var (was, now) = (PieceEntryFields.Of(before), PieceEntryFields.Of(after));
        return
        [
            .. was
                .Keys.Union(now.Keys)
                .Select(f => (Field: f, Was: was.GetValueOrDefault(f, ""), Now: now.GetValueOrDefault(f, "")))
                .Where(f => f.Was != f.Now)
                .Select(f =>
                {
                    var row = RowOf(f.Field);
                    var (means, needs) = row.Change(before, after);
                    return new FactChange(f.Field, LabelOf(row, f.Field), f.Was, f.Now, means, needs);
                }),
        ];
    }

    private static PieceField RowOf(string field) =>
        PieceFields.Find(field)
        ?? Families.FirstOrDefault(f => field.StartsWith(f.Name, StringComparison.Ordinal))
        ?? Attribute;

    private static string LabelOf(PieceField row, string field)
    {
        var rest = row.Name.EndsWith(':') ? field[row.Name.Length..].Replace(':', ' ') : string.Empty;
        return row.Name switch
        {
            "" => Gear.GearAttributes.Find(field)?.Label is { } own ? Lower(own) : field,
            "tag:" or "meets:" => $"{row.Label} {rest}",
            _ when rest.Length > 0 => $"{row.Label} ({rest})",
            _ => row.Label,
        };
    }

    internal static string Lower(string words) => char.ToLower(words[0], CultureInfo.InvariantCulture) + words[1..];
}
