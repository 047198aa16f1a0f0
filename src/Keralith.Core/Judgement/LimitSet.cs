using Keralith.Core.Gear;
using Keralith.Core.Quantities;

namespace Keralith.Core.Judgement;

/// <summary>One limit that counts: whose it is and what it comes to.</summary>
/// <param name="Book">The book's id, or <c>site</c> or <c>maker</c>.</param>
/// <param name="Resolved">The figure, or why there is none.</param>
/// <param name="From">Who stands in for a silent book.</param>
public readonly record struct LimitEntry(string Book, Resolved Resolved, string? From = null);

/// <summary>
/// The limits of every chosen book for one criterion on one piece, then those of the site and the maker that apply.
/// The judgement, the gauge on the page and the rules place all read the same set.
/// </summary>
public sealed record LimitSet(IReadOnlyList<LimitEntry> Entries)
{
    private static readonly NoRow Silent = new("the book says nothing of this");

    /// <summary>Whether no chosen book has a row for the size.</summary>
    public bool OnlyMissingRows => Entries.All(e => e.Resolved is NoRow);

    /// <summary>The limits of a case for a criterion.</summary>
    /// <param name="case">Books, gear and own limits; the answers are not looked at.</param>
    /// <param name="criterion">A measure or count.</param>
    /// <param name="baseline">The figure when new, or null.</param>
    /// <exception cref="InvalidOperationException">No chosen book has a rule for the criterion: it was not to be
    /// answered.</exception>
    public static LimitSet For(Case @case, Criterion criterion, Length? baseline)
    {
        var context = new LimitContext(@case.Gear, baseline ?? (criterion.BaselineFromSize ? @case.Gear.Size : null));
        var asme = criterion.Limit?.Resolve(context);
        var makers = OwnFigures(@case, criterion, context, LimitOwner.Maker);
        var laxer =
            criterion.MakerMayBeLaxer && makers.Count > 0
                ? makers
                    .Where(m => StandsInFor(m, asme) && IsBelieved(m, criterion, @case.Gear))
                    .MinBy(m => ((Figure)m).Allowance)
                : null;

        var entries = new List<LimitEntry>(@case.Books.Count + @case.Limits.Count);
        for (var i = 0; i < @case.Books.Count; i++)
        {
            var book = @case.Books[i];
            var rule = book.Rules.GetValueOrDefault(criterion.Id);
            var own = rule?.Limit?.Resolve(context);
            if (own is null or NoRow)
            {
                if (asme is not null)
                    entries.Add(
                        new(
                            book.Id,
                            laxer ?? asme,
                            laxer is not null ? "maker"
                                : book == RuleBookShelf.Asme ? null
                                : RuleBookShelf.Asme.Id
                        )
                    );
                else
                    entries.Add(new(book.Id, own ?? Silent));
            }
            else
            {
                var tightest =
                    rule!.BesideAsme && asme is Figure beside && own is Figure figure && IsStricter(beside, figure)
                        ? beside
                        : own;
                entries.Add(new(book.Id, tightest, tightest == own ? null : RuleBookShelf.Asme.Id));
            }
        }

        if (entries.TrueForAll(static e => ReferenceEquals(e.Resolved, Silent)))
            throw new InvalidOperationException($"No chosen book has a limit for {criterion.Id}.");
        if (@case.Limits.Count == 0)
            return new(entries);
        var figures = entries.Select(e => e.Resolved).OfType<Figure>().ToList();
        AddStricter(entries, "site", OwnFigures(@case, criterion, context, LimitOwner.Site), figures);
        if (laxer is not null)
            entries.Add(new("maker", laxer));
        AddStricter(entries, "maker", makers.Where(m => !ReferenceEquals(m, laxer)), figures);
        return new(entries);
    }

    private static void AddStricter(
        List<LimitEntry> entries,
        string owner,
        IEnumerable<Resolved> own,
        List<Figure> books
    )
    {
        foreach (var resolved in own)
        {
            if (resolved is not Figure figure || books.All(b => IsStricter(figure, b)))
                entries.Add(new(owner, resolved));
        }
    }

    private static bool StandsInFor(Resolved maker, Resolved? asme) =>
        maker is Figure mine
        && asme switch
        {
            Figure theirs => IsStricter(theirs, mine),
            Missing => true,
            _ => false,
        };

    /// <summary>Whether a maker's laxer figure lies within what a maker is believed.</summary>
    private static bool IsBelieved(Resolved maker, Criterion criterion, GearPiece gear) =>
        maker is Figure { Allowance: { } allowed, Reference: { } reference }
            ? allowed <= reference * criterion.MakersMost(gear)
            : maker is Figure;

    private static bool IsStricter(Figure a, Figure b) => a.Grows ? a.Limit < b.Limit : a.Limit > b.Limit;

    private static List<Resolved> OwnFigures(Case @case, Criterion criterion, LimitContext context, LimitOwner owner)
    {
        if (@case.Limits.Count == 0)
            return [];
        var figures = new List<Resolved>();
        foreach (var limit in @case.Limits)
        {
            if (limit.Owner == owner && limit.Criterion.Id == criterion.Id)
                figures.Add(OwnFigure(limit, criterion, context, @case.Books));
        }

        return figures;
    }

    private static Resolved OwnFigure(
        OwnLimit limit,
        Criterion criterion,
        LimitContext context,
        IReadOnlyList<RuleBook> books
    )
    {
        if (limit.Count is { } count)
            return new Figure(count, 0, Comparator.AtOrAbove);
        var model = criterion.Limit?.Resolve(context);
        if (model is null or NoRow)
            model = books
                .Select(b => b.Rules.GetValueOrDefault(criterion.Id)?.Limit?.Resolve(context))
                .OfType<Figure>()
                .FirstOrDefault()
                ?? model;
        if (criterion.ThicknessWhenNew is { } whenNew)
        {
            var reference = whenNew(context)?.Millimetres;
            if (limit.Absolute is { } least)
                return new Figure(least, reference, Comparator.Below);
            return reference is { } nominal
                ? Change(
                    nominal,
                    nominal * limit.Percent!.Value / 100,
                    ((model as Figure)?.Comparator) ?? Comparator.Below,
                    null
                )
                : new Missing("the figure when new (baseline)");
        }

        if (model is not Figure figure || figure.Reference is not { } from)
            return new Missing("the figure when new (baseline)");
        var allowed = limit.Absolute ?? (from * limit.Percent!.Value / 100);
        return Change(from, allowed, figure.Comparator, figure.HoldAbove);
    }

    /// <summary>
    /// A limit a given change away from a reference. Where no change is allowed the reference itself still passes.
    /// </summary>
    private static Figure Change(decimal reference, decimal allowed, Comparator comparator, decimal? holdAbove) =>
        comparator switch
        {
            Comparator.Above or Comparator.AtOrAbove => new(
                reference + allowed,
                reference,
                allowed == 0 ? Comparator.Above : comparator
            )
            {
                HoldAbove = holdAbove,
            },
            Comparator.Below or Comparator.AtOrBelow => new(
                reference - allowed,
                reference,
                allowed == 0 ? Comparator.Below : comparator
            ),
        };
}
