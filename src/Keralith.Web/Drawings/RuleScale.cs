using Keralith.Core.Gear;
using Microsoft.AspNetCore.Html;

namespace Keralith.Web.Drawings;

/// <summary>
/// One book's limit on a scale all books share: new at the left, worse to the right, what fails hatched, a figure tried
/// as a line down
/// through all of them. Without words: those stand beside it.
/// </summary>
public sealed class RuleScale
{
    private readonly decimal _span;
    private readonly decimal? _tried;

    /// <param name="figures">The limits to be compared.</param>
    /// <param name="value">The figure tried, in their unit; null: none.</param>
    public RuleScale(IEnumerable<Figure> figures, decimal? value)
    {
        var known = figures.Where(f => f.Reference is not null).ToList();
        if (known.Count == 0)
            return;
        var most = known.Max(f => f.Allowance!.Value);
        if (value is { } v)
            _tried = Change(known[0], v);
        _span = Math.Max(most, Math.Min(_tried ?? 0, most * 2)) * 1.25m;
        if (_span == 0)
            _span = 1;
    }

    /// <summary>Whether there is anything to draw.</summary>
    public bool HasScale => _span > 0;

    /// <summary>The row of one limit; empty where it can't stand on the scale.</summary>
    public IHtmlContent Row(Figure? figure)
    {
        if (!HasScale || figure?.Reference is null)
            return HtmlString.Empty;
        var s = new Sheet(new DrawingOptions());
        var limit = At(figure.Allowance!.Value);
        s.Line(0, 12, 100, 12, "scale-line");
        s.Line(0, 5, 0, 19, "scale-new");
        s.Rect(limit, 6, 100 - limit, 12, 0, "scale-fails");
        if (figure.HoldAbove is { } step)
        {
            var hold = At(Math.Abs(step - figure.Reference.Value));
            s.Rect(hold, 9, limit - hold, 6, 0, "scale-holds");
        }

        s.Line(limit, 2, limit, 22, "scale-limit");
        if (_tried is { } tried)
            s.Line(At(tried), 0, At(tried), 24, "scale-tried");
        return new HtmlString(
            Sheet.F(
                $"<svg class=\"scale\" viewBox=\"0 0 100 24\" preserveAspectRatio=\"none\" aria-hidden=\"true\">{s.Lines}</svg>"
            )
        );
    }

    private static decimal Change(Figure figure, decimal value) =>
        Math.Max(0, figure.Grows ? value - figure.Reference!.Value : figure.Reference!.Value - value);

    private double At(decimal change) => (double)Math.Min(change / _span, 1) * 100;
}
