using System.Globalization;
using Keralith.Core.People;
using Keralith.Core.Quantities;
using Keralith.Core.Sites;

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
    private const ChangeMeaning Slip = ChangeMeaning.SlipOfThePen;
    private const ChangeMeaning Judge = ChangeMeaning.JudgedAgain;
    private const ChangeMeaning Inspect = ChangeMeaning.InspectedAgain;

    /// <summary>A row of the table.</summary>
    /// <param name="Field">The field, or the start of its name where it ends in a colon.</param>
    /// <param name="Label">In words; null: the words of what follows the colon, or the attribute's own.</param>
    /// <param name="Of">What a change from one entry to the other means, and the right it takes.</param>
    private sealed record Row(
        string Field,
        string? Label,
        Func<PieceEntry, PieceEntry, (ChangeMeaning Means, Right Needs)> Of
    );

    private static readonly IReadOnlyList<Row> Table =
    [
        new("serial", "serial", Always(Slip, Right.Register)),
        new("batch", "batch", Always(Slip, Right.Register)),
        new("notes", "notes", Always(Slip, Right.Register)),
        new("store", "store", Always(Slip, Right.Register)),
        new("peg", "peg", Always(Slip, Right.Register)),
        new("maker", "maker", (a, b) => Spelling(a.Maker, b.Maker)),
        new("model", "model", (a, b) => Spelling(a.Model, b.Model)),
        new("ratedLoad", "rated load", RatedLoad),
        new("designFactor", "design factor", Always(Judge, Right.ChangeFacts)),
        new("ratedFor", "what it is rated for", Always(Judge, Right.ChangeFacts)),
        new("ratedAs", "how the marking names the load", Always(Judge, Right.ChangeFacts)),
        new("ratedHitch", "hitch of the rating", Always(Judge, Right.ChangeFacts)),
        new("ratedAngle", "angle of the rating", Always(Judge, Right.ChangeFacts)),
        new(PieceEntryReader.Ratings, "ratings by hitch and angle", Always(Judge, Right.ChangeFacts)),
        new("legibility", "legibility", Always(Judge, Right.ChangeFacts)),
        new("markingAt", "place of the marking", Always(Judge, Right.ChangeFacts)),
        new(PieceEntryReader.TagUnread, "marking not read", Always(Judge, Right.ChangeFacts)),
        new("tag:", null, Always(Judge, Right.ChangeFacts)),
        new("serviceClass", "service class", (a, b) => Milder(b.ServiceClass < a.ServiceClass)),
        new("inServiceSince", "in service since", Always(Judge, Right.ChangeFacts)),
        new("discardOn", "discard date", (a, b) => Milder(IsLater(b.DiscardOn, a.DiscardOn))),
        new("proofTestDue", "proof test due", Always(Judge, Right.ChangeFigures)),
        new("calibrationDue", "calibration due", Always(Judge, Right.ChangeFigures)),
        new("lotCount", "pieces in the lot", LotCount),
        new("coldest", "coldest it works in", (a, b) =>
            Milder(IsLess(b.Surroundings.Coldest, a.Surroundings.Coldest, -1))
        ),
        new("hottest", "hottest it works in", (a, b) =>
            Milder(IsLess(b.Surroundings.Hottest, a.Surroundings.Hottest, 1))
        ),
        new("hasMet", "hottest it has met", (a, b) => Milder(IsLess(b.Surroundings.HasMet, a.Surroundings.HasMet, 1))),
        new("meets:", null, (a, b) => Milder(a.Surroundings.Chemicals.Except(b.Surroundings.Chemicals).Any())),
        new("makersWord", "the maker's word", Always(Judge, Right.ChangeFigures)),
        new(PieceEntryReader.Members, "roster", Always(Inspect, Right.ChangeFacts)),
        new("fit:", null, Always(Judge, Right.ChangeFacts)),
        new("baseline:", "figure when new", Always(Judge, Right.ChangeFigures)),
        new("basis:", "basis of the figure when new", Always(Judge, Right.ChangeFigures)),
        new("links:", "links of the figure when new", Always(Judge, Right.ChangeFigures)),
        new("lastPeriodic", "last periodic elsewhere", Always(Judge, Right.ChangeFigures)),
        new("lastInspector", "inspector elsewhere", Always(Judge, Right.ChangeFigures)),
        new("evidence", "report", Always(Judge, Right.ChangeFigures)),
    ];

    /// <summary>Attributes of the gear itself: read from the piece.</summary>
    private static readonly Row Attribute = new(string.Empty, null, Always(Judge, Right.ChangeFacts));

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
                    var (means, needs) = row.Of(before, after);
                    return new FactChange(f.Field, LabelOf(row, f.Field), f.Was, f.Now, means, needs);
                }),
        ];
    }

    private static Row RowOf(string field) =>
        Table.FirstOrDefault(r =>
            r.Field == field || (r.Field.EndsWith(':') && field.StartsWith(r.Field, StringComparison.Ordinal))
        ) ?? Attribute;

    private static string LabelOf(Row row, string field)
    {
        var rest = row.Field.EndsWith(':') ? field[row.Field.Length..].Replace(':', ' ') : string.Empty;
        return row.Field switch
        {
            "" => Gear.GearAttributes.Find(field)?.Label is { } own ? Lower(own) : field,
            "tag:" => $"marking carries {rest}",
            "meets:" => $"meets {rest}",
            "fit:" => PieceEntryReader.FitFields.FirstOrDefault(f => f.Field == field).Label is { } fit
                ? Lower(fit)
                : field,
            _ when rest.Length > 0 => $"{row.Label} ({rest})",
            _ => row.Label!,
        };
    }

    private static string Lower(string words) => char.ToLower(words[0], CultureInfo.InvariantCulture) + words[1..];

    private static Func<PieceEntry, PieceEntry, (ChangeMeaning, Right)> Always(ChangeMeaning means, Right needs) =>
        (_, _) => (means, needs);

    /// <summary>Stricter may be said by whoever keeps the register; milder waits for a full inspection.</summary>
    private static (ChangeMeaning, Right) Milder(bool milder) =>
        milder ? (Inspect, Right.ChangeFigures) : (Judge, Right.Register);

    /// <summary>A maker's limits go by the name: another spelling is none of another maker.</summary>
    private static (ChangeMeaning, Right) Spelling(string? before, string? after) =>
        Site.Same(before, after) ? (Slip, Right.Register) : (Judge, Right.ChangeFacts);

    /// <summary>A marking read for the first time brings its load; a load raised later is another matter.</summary>
    private static (ChangeMeaning, Right) RatedLoad(PieceEntry before, PieceEntry after)
    {
        var raised = after.RatedLoad is { } now && (before.RatedLoad is not { } was || now.Kilograms > was.Kilograms);
        return !raised || (before.RatedLoad is null && !before.TagRead && after.TagRead)
            ? (Judge, Right.ChangeFacts)
            : (Inspect, Right.ChangeFigures);
    }

    private static (ChangeMeaning, Right) LotCount(PieceEntry before, PieceEntry after) =>
        after.LotCount is { } now && before.LotCount is { } was && now <= was
            ? (Slip, Right.Register)
            : (Inspect, Right.ChangeFigures);

    /// <summary>Whether a last day was moved on, or taken away.</summary>
    private static bool IsLater(DateOnly? after, DateOnly? before) =>
        before is not null && (after is null || after > before);

    /// <summary>Whether a temperature says less heat (sign 1) or less cold (sign -1) than before.</summary>
    private static bool IsLess(Temperature? after, Temperature? before, int sign) =>
        before is { } was && (after is not { } now || Math.Sign(was.Celsius - now.Celsius) == sign);
}
