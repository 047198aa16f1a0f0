using System.Text.Json.Serialization;
using Keralith.Core.Custody;
using Keralith.Core.Judgement;
using Keralith.Core.Ledger;
using Keralith.Core.People;

namespace Keralith.Core.Schedule;

/// <summary>A season's mark: a colour, a pattern and a letter, so that no one needs colour sight.</summary>
/// <param name="Letter">One capital letter.</param>
/// <param name="Colour">The colour's name, as painted.</param>
/// <param name="Pattern">The pattern's code.</param>
public sealed record SeasonMark(string Letter, string Colour, SeasonPattern Pattern);

/// <summary>How a season's paint is laid.</summary>
[JsonConverter(typeof(CodeJson<SeasonPattern>))]
public enum SeasonPattern
{
    [Code("plain")]
    Plain,

    [Code("two-bands")]
    TwoBands,

    [Code("dots")]
    Dots,

    [Code("slant")]
    Slant,

    [Code("checks")]
    Checks,

    [Code("ring")]
    Ring,
}

/// <summary>One season by the calendar.</summary>
/// <param name="Number">Counted from the scheme's first; never the same twice.</param>
/// <param name="Mark">What is painted.</param>
/// <param name="From">Its first day.</param>
/// <param name="Until">Its last day.</param>
public sealed record Season(int Number, SeasonMark Mark, DateOnly From, DateOnly Until);

/// <summary>A site's own ordered scheme of season colours.</summary>
/// <param name="Marks">The marks in order, at least two; after the last the first comes again.</param>
/// <param name="Months">How long a season is: 1, 3, 6 or 12 months.</param>
/// <param name="First">The first day of the first season, the first of a month.</param>
/// <param name="OverlapDays">For how many days after its end a season's mark still counts.</param>
/// <param name="Enforced">Whether gear without the season's mark may not be used.</param>
public sealed record SeasonScheme(
    IReadOnlyList<SeasonMark> Marks,
    int Months,
    DateOnly First,
    int OverlapDays,
    bool Enforced
)
{
    /// <summary>The season of a day; null before the first.</summary>
    public Season? On(DateOnly day)
    {
        if (day < First)
            return null;
        var number = (((day.Year - First.Year) * 12) + day.Month - First.Month) / Months;
        var from = First.AddMonths(number * Months);
        return new(number, Marks[number % Marks.Count], from, from.AddMonths(Months).AddDays(-1));
    }

    /// <summary>
    /// Whether a piece painted in a season still carries a mark that counts: of this season, or of the last within the
    /// overlap.
    /// </summary>
    /// <param name="painted">The day of the season it was painted for; null: never.</param>
    /// <param name="today">The day asked about.</param>
    public bool Counts(DateOnly? painted, DateOnly today) =>
        painted is { } day
        && On(day) is { } carried
        && On(today) is { } now
        && carried.Number <= now.Number
        && today <= carried.Until.AddDays(OverlapDays);

    /// <summary>
    /// Why the season's mark may not be put on; null when it may. Only what a full inspection found fit or watch, and
    /// which may be used but for the colour, gets it.
    /// </summary>
    /// <param name="state">Its state.</param>
    /// <param name="standing">The verdict it stands under.</param>
    /// <param name="periodicDue">When its periodic runs out.</param>
    /// <param name="today">The day.</param>
    public string? RefusalToApply(PieceState state, VerdictKind? standing, DateOnly? periodicDue, DateOnly today) =>
        On(today) is null ? "The scheme has not begun yet."
        : state != PieceState.InService || standing?.IsClean() != true || periodicDue is null || periodicDue < today
            ? "The season's mark goes on what stands as fit or watch, in service and in date; inspect it first."
        : null;

    /// <summary>Records that the season's mark was put on a piece.</summary>
    /// <param name="mark">The piece's mark.</param>
    /// <param name="carries">The first day of the season whose mark it carries; null: none.</param>
    public Checked<PieceOutcome> Paint(
        string mark,
        PieceState state,
        VerdictKind? standing,
        DateOnly? periodicDue,
        DateOnly? carries,
        Signer by
    )
    {
        if (by.Without(Right.PaintSeason) is { } forbidden)
            return forbidden;
        if (RefusalToApply(state, standing, periodicDue, by.Day) is { } refusal)
            return new Refusal($"{mark}: {refusal}");
        var season = On(by.Day)!;
        return carries == season.From
            ? new Refusal($"{mark} carries this season's mark already.")
            : new PieceOutcome(state, new SeasonMarked(season.Mark.Letter, season.Mark.Colour, season.From));
    }
}
