using Keralith.Core.Gear;
using Keralith.Core.Judgement;
using Keralith.Core.Quantities;
using Keralith.Core.Sites;

namespace Keralith.Web.Pages.Rules;

/// <summary>What one book, the site or a maker says of a criterion on the piece shown.</summary>
/// <param name="Id">The book's id, or <c>site</c>.</param>
/// <param name="Name">The name people read.</param>
/// <param name="Here">Whether the site works to it.</param>
/// <param name="Says">The rule in words.</param>
/// <param name="Limit">The limit with its unit; null where there is none to name.</param>
/// <param name="Figure">The limit itself; null for faults, and where data is missing.</param>
/// <param name="Outcome">What it makes of the figure or the fault tried; null when nothing was tried or it says nothing.</param>
public sealed record RuleRow(
    string Id,
    string Name,
    bool Here,
    string Says,
    string? Limit,
    Figure? Figure,
    Outcome? Outcome
)
{
    /// <summary>Whether the ASME figure stands in because this book is silent.</summary>
    public bool FromAsme { get; init; }
}

/// <summary>A criterion seen by every book, with what a figure would come to.</summary>
/// <param name="Rows">All books of the shelf, then the site's own limit where it counts.</param>
/// <param name="Tried">What the site makes of the figure tried, by all it works to; null when none was.</param>
/// <param name="Fault">Why what was typed is no figure.</param>
/// <param name="Baseline">The figure when new the limits are shown for; null where none is needed.</param>
/// <param name="Value">The figure tried, in the unit of the limits; null when none was.</param>
public sealed record RuleRows(
    IReadOnlyList<RuleRow> Rows,
    Finding? Tried,
    string? Fault,
    string? Baseline,
    decimal? Value
)
{
    /// <summary>Whether the books do not agree.</summary>
    public bool Differ =>
        Rows.Select(r => (r.Figure?.Limit, r.Figure?.Comparator, r.Figure?.HoldAbove, r.Figure is null ? r.Says : null))
            .Distinct()
            .Skip(1)
            .Any();

    /// <summary>Reads a criterion by every book.</summary>
    /// <param name="figure">What is tried: a figure with its unit, a count, or empty. For a fault nothing is tried:
    /// every book is asked what it makes of one.</param>
    /// <param name="baseline">The figure when new; empty: a usual one.</param>
    public static RuleRows Of(
        Criterion criterion,
        string part,
        GearPiece gear,
        Site site,
        string? figure,
        string? baseline
    )
    {
        var example =
            criterion.IsAnswerChosen || criterion.Kind == CriterionKind.Count || criterion.BaselineName is null
                ? null
                : UsualBaseline(criterion, gear);
        var typed = example is null || string.IsNullOrWhiteSpace(baseline) ? example : baseline.Trim();
        string? fault = null;
        Length? reference = null;
        if (typed is not null)
        {
            var read = Length.Read(typed);
            if (read is { Ok: true, Value.Millimetres: > 0 })
                reference = read.Value;
            else
                (fault, reference) = (
                    $"{criterion.BaselineName}: {read.Fault ?? "a figure is over 0"}",
                    Length.Parse(example!)
                );
        }

        var response = Response(criterion, reference, figure, ref fault);
        var rows = RuleBookShelf
            .All.Select(b => Row(b, criterion, part, gear, reference, response, site.Books.Contains(b)))
            .ToList();
        var here = new Case(
            site.Books,
            InspectionKind.Periodic,
            site.Policies.Applied(gear),
            site.LimitsFor(null, null),
            []
        );
        var judged = here.Placement.IndexOf(criterion, part) >= 0;
        var tried =
            response is null || !judged
                ? null
                : Judge.Answer(
                    here with
                    {
                        Answers = [new(criterion, part, response)],
                    },
                    new(criterion, part, response),
                    site.WatchShare
                );
        if (judged && !criterion.IsAnswerChosen)
            rows.AddRange(OwnRows(here, criterion, reference, tried));
        return new(rows, criterion.IsAnswerChosen ? null : tried, fault, reference?.ToString(), ValueOf(response));
    }

    private static Response? Response(Criterion criterion, Length? baseline, string? figure, ref string? fault)
    {
        if (criterion.IsAnswerChosen)
            return new Chosen(Found.Yes);
        if (string.IsNullOrWhiteSpace(figure))
            return null;
        var entry = new AnswerEntry(Value: figure.Trim(), Shortest: baseline?.ToString());
        var read = entry.Read(criterion, baseline is { } b ? new(b, BaselineBasis.New) : null);
        if (read.Ok)
            return read.Value;
        fault ??= read.Fault;
        return null;
    }

    private static RuleRow Row(
        RuleBook book,
        Criterion criterion,
        string part,
        GearPiece gear,
        Length? baseline,
        Response? response,
        bool here
    )
    {
        var own = book.Rules.GetValueOrDefault(criterion.Id);
        var alone = new Case([book], InspectionKind.Periodic, gear, [], []);
        if (!criterion.IsAnswerChosen && own?.Limit is null && criterion.Limit is null)
            return new(book.Id, book.Name, here, "says nothing of this", null, null, null);
        var tried = response is null
            ? null
            : Judge.Answer(alone with { Answers = [new(criterion, part, response)] }, new(criterion, part, response));
        if (criterion.IsAnswerChosen)
            return new(book.Id, book.Name, here, FaultWords(own, criterion), null, null, tried!.Outcome)
            {
                FromAsme = own is null && book != RuleBookShelf.Asme,
            };
        var entry = LimitSet.For(alone, criterion, baseline).Entries[0];
        var says = entry.From == "asme" ? criterion.Limit!.Words : (own?.Limit ?? criterion.Limit!).Words;
        var (limit, resolved) = entry.Resolved switch
        {
            Figure f => (Words(f.Limit, criterion, baseline, gear), f),
            Within range => (range.What, (Figure?)null),
            Missing missing => ($"needs {missing.What}", null),
            NoRow noRow => (noRow.What, null),
            _ => throw new System.Diagnostics.UnreachableException(),
        };
        return new(book.Id, book.Name, here, says, limit, resolved, tried?.Outcome) { FromAsme = entry.From == "asme" };
    }

    private static IEnumerable<RuleRow> OwnRows(Case here, Criterion criterion, Length? baseline, Finding? tried)
    {
        foreach (
            var entry in LimitSet
                .For(here, criterion, baseline)
                .Entries.Where(e => e is { Book: "site", Resolved: Figure })
        )
        {
            var figure = (Figure)entry.Resolved;
            yield return new(
                "site",
                "This site",
                true,
                "the site's own, stricter limit",
                Words(figure.Limit, criterion, baseline, here.Gear),
                figure,
                tried?.Books.FirstOrDefault(b => b.Book == "site")?.Outcome
            );
        }
    }

    private static string FaultWords(BookRule? own, Criterion criterion)
    {
        var outcome = own?.OnFault ?? criterion.OnFault;
        var decidedBy = own?.DecidedBy ?? criterion.DecidedBy;
        var until = decidedBy is null
            ? string.Empty
            : $" until the {Catalogue.Get(decidedBy).Title.ToLowerInvariant()} is measured there";
        var atLeast = criterion.AtLeastUnder(own);
        var whatever = atLeast == Outcome.Clear ? string.Empty : $"; {Code.Of(atLeast)} whatever is found";
        return $"{(own?.Says is { } says ? $"{says} " : string.Empty)}{Code.Of(outcome)}{until}{whatever}";
    }

    private static string Words(decimal limit, Criterion criterion, Length? baseline, GearPiece gear) =>
        criterion switch
        {
            { Kind: CriterionKind.Count } => QuantityFormat.Number(limit),
            { IsAngle: true } => new Angle(limit).ToString(),
            { Measures: Dimension.Force } => QuantityFormat.Rounded(limit, gear.Force("handPullLimit")!.Value.Unit),
            { Measures: Dimension.Moment } => QuantityFormat.Rounded(limit, gear.Moment("torque")!.Value.Unit),
            _ => QuantityFormat.Rounded(
                Length
                    .FromMillimetres(limit)
                    .In((baseline ?? gear.Size)?.IsInchNamed == true ? LengthUnit.Inch : LengthUnit.Millimetre)
            ),
        };

    private static decimal? ValueOf(Response? response) =>
        response switch
        {
            Counted c => c.Count,
            Measured m => m.Value.Millimetres,
            MeasuredAngle a => a.Value.Degrees,
            MeasuredForce f => f.Value.Newtons,
            MeasuredMoment m => m.Value.NewtonMetres,
            _ => null,
        };

    /// <summary>
    /// A figure when new that shows where the books part: a throat of 1-3/8 in, a gauge length of 12 in, else an inch
    /// or the piece's size.
    /// </summary>
    private static string UsualBaseline(Criterion criterion, GearPiece gear) =>
        criterion switch
        {
            { Id: "hook.throat" } => "1-3/8 in",
            { Id: "rope.outer-wire" or "hoistrope.outer-wire" } => "0.06 in",
            { Id: "hoistrope.diameter" } => "1/2 in",
            { OverLinks: true } or { IsPair: true } => "12 in",
            { BaselineFromSize: true } when gear.Size is { } size => size.ToString(),
            _ => "1 in",
        };
}
