using Keralith.Core.Gear;
using Keralith.Core.Quantities;

namespace Keralith.Core.Judgement;

/// <summary>
/// Reads a limit a site or a maker sets beside the books: <c>3 %</c> of change, an amount or a least thickness, or a
/// first failing count.
/// </summary>
public static class OwnLimitReader
{
    /// <summary>The measures and counts that take a limit of their own.</summary>
    public static IEnumerable<Criterion> Criteria =>
        Catalogue.All.Where(c => !c.IsAnswerChosen && c.Limit is not { IsOnRecord: true });

    /// <summary>Reads a limit as typed.</summary>
    /// <param name="owner">A site's limit must be stricter than every chosen book's.</param>
    /// <param name="criterion">The id of a measure or count.</param>
    /// <param name="figure">Such as <c>3 %</c>, <c>0.5 mm</c>, <c>8 deg</c> or <c>6</c>.</param>
    /// <param name="books">The books worked to.</param>
    public static Checked<OwnLimit> Read(
        LimitOwner owner,
        string criterion,
        string figure,
        IReadOnlyList<RuleBook> books
    )
    {
        var read = Parse(owner, criterion, figure);
        if (!read.Ok)
            return read;
        if (owner == LimitOwner.Maker)
            return GearFamilies.All.Select(f => read.Value.FaultOn(new(f, []))).All(f => f is not null)
                ? new Refusal($"{read.Value.FaultOn(new(GearFamilies.All[0], []))}.")
                : read;
        return LaxerThan(read.Value, books) is { } book
            ? new Refusal($"{figure.Trim()} is not stricter than {book}; a site's own limit only ever is.")
            : read;
    }

    /// <summary>
    /// Reads a limit that was accepted before: books chosen since may have made it needless, which the judgement passes
    /// over.
    /// </summary>
    public static Checked<OwnLimit> Parse(LimitOwner owner, string criterion, string figure) =>
        Criteria.FirstOrDefault(c => c.Id == criterion) is { } known
            ? Figure(owner, known, figure.Trim())
            : new Refusal("Choose a measure or a count.");

    private static Checked<OwnLimit> Figure(LimitOwner owner, Criterion criterion, string text)
    {
        var limit = new OwnLimit(owner, criterion);
        if (criterion.Kind == CriterionKind.Count)
        {
            return
                int.TryParse(text, System.Globalization.NumberStyles.None, null, out var count)
                && count is >= 1 and <= 1000
                ? limit with
                {
                    Count = count,
                }
                : new Refusal("Write the first count that fails, such as 6.");
        }

        if (criterion.IsAngle)
        {
            var angle = Angle.Read(text);
            return angle.Ok && angle.Value.Degrees >= 0
                ? limit with
                {
                    Absolute = angle.Value.Degrees,
                }
                : new Refusal(angle.Fault ?? "An angle is 0 or over.");
        }

        if (text.EndsWith('%'))
        {
            var share = QuantityText.Bare(text[..^1], "3 %");
            return !share.Ok ? new Refusal(share.Fault!)
                : share.Value is >= 0 and <= 100 ? limit with { Percent = share.Value }
                : new Refusal("A share of change lies between 0 and 100 %.");
        }

        var length = Length.Read(text);
        return !length.Ok ? new Refusal($"{length.Fault}; or a share, such as 3 %")
            : length.Value.Millimetres < 0 ? new Refusal("An amount of change is 0 or over.")
            : limit with { Absolute = length.Value.Millimetres };
    }

    /// <summary>
    /// The book a share or a count is not stricter than, tried on gear of usual size; null when it is stricter than
    /// all. Amounts depend on the size: they count where they are stricter.
    /// </summary>
    private static string? LaxerThan(OwnLimit limit, IReadOnlyList<RuleBook> books)
    {
        if (limit.Absolute is not null)
            return null;
        var usual = Length.FromMillimetres(10);
        foreach (var family in GearFamilies.All)
        {
            var gear = new GearPiece(
                family,
                [
                    new("size", new LengthValue(usual)),
                    new("strands", new WholeValue(6)),
                    new("wiresPerStrand", new WholeValue(36)),
                ]
            );
            var limits = LimitSet.For(new(books, InspectionKind.Periodic, gear, [limit], []), limit.Criterion, usual);
            if (limits.Entries.Any(e => e.Book == "site"))
                return null;
            if (!Catalogue.PlacementOf(gear, books).Questions.Any(q => q.Criterion == limit.Criterion))
                continue;
            var figures = limits.Entries.Where(e => e.Resolved is Figure).ToList();
            if (figures.Count == 0)
                return null;
            var strictest = figures.MinBy(e => ((Figure)e.Resolved).Allowance);
            return RuleBookShelf.NameOf(strictest.From ?? strictest.Book);
        }

        return null;
    }
}
