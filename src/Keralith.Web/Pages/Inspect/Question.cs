using System.Text;
using Keralith.Core.Gear;
using Keralith.Core.Judgement;
using Keralith.Core.Quantities;
using Keralith.Core.Signing;
using Keralith.Data;
using Keralith.Web.Drawings;
using Keralith.Web.Showing;
using Microsoft.AspNetCore.Html;

namespace Keralith.Web.Pages.Inspect;

/// <summary>One question of the part in hand: what is asked, what was answered, what it comes to.</summary>
/// <param name="Criterion">The criterion.</param>
/// <param name="Part">The part's path.</param>
/// <param name="Answer">The answer in the draft; null: none yet.</param>
/// <param name="Baseline">The figure when new on record.</param>
/// <param name="Finding">What the answer comes to; null while there is none.</param>
/// <param name="Limits">For a measure of length: every book's limit; null otherwise.</param>
/// <param name="Earlier">Earlier readings, oldest first.</param>
/// <param name="Fault">Why what was typed is not an answer.</param>
public sealed record Question(
    Criterion Criterion,
    string Part,
    DraftAnswer? Answer,
    BaselineRow? Baseline,
    Finding? Finding,
    LimitSet? Limits,
    IReadOnlyList<Length> Earlier,
    string? Fault
)
{
    /// <summary>The reading the finding rests on; null where nothing was measured.</summary>
    public Length? Worst { get; init; }

    /// <summary>What the reading is held against, as it is on record of the piece; null where it is held against something else.</summary>
    public string? OnRecord { get; init; }

    /// <summary>The unit a bare figure is taken in: the baseline's, else the gear's own.</summary>
    public string Unit { get; init; } = "mm";

    /// <summary>Pictures of what was found here.</summary>
    public IReadOnlyList<Guid> Photos { get; init; } = [];

    public IHtmlContent Photographs() => PhotoStrip.Of(Photos, Criterion.Title);

    /// <summary>How much of the allowance the practice caliper's specimens have used up.</summary>
    private static readonly decimal[] Worn = [0, 0.5m, 1.2m];

    /// <summary>
    /// Readings the practice caliper takes, in the question's unit: as new, half worn, worn out. Empty where there is
    /// no figure to go by.
    /// </summary>
    public string Specimens =>
        Limits
            ?.Entries.Select(e => e.Resolved)
            .OfType<Figure>()
            .Where(f => f.Reference is not null)
            .MinBy(f => f.Allowance)
            is { Reference: { } asNew } figure
            ? string.Join(
                '|',
                Worn.Select(share =>
                    Math.Round((asNew + ((figure.Limit - asNew) * share)) / (Unit == "in" ? 25.4m : 1m), 3)
                        .ToString(System.Globalization.CultureInfo.InvariantCulture)
                )
            )
            : string.Empty;

    /// <summary>
    /// The outcome with its reason and the gauge, as shown under the answer and sent to the page that saves in the
    /// background.
    /// </summary>
    public IHtmlContent Result()
    {
        var html = new StringBuilder();
        if (Fault is not null)
            html.Append("<span class=\"fault\" role=\"alert\">").Append(Encode(Fault)).Append("</span>");
        if (Finding is { Outcome: Outcome.Clear } && Criterion.IsAnswerChosen)
            html.Append("<span class=\"sr-only\">clear</span>");
        else if (Finding is { } finding)
        {
            html.Append("<p class=\"mt-1\">").Append(Glyphs.Word(Code.Of(finding.Outcome))).Append(' ');
            if (Criterion.Kind is CriterionKind.Measure or CriterionKind.Count || finding.Outcome != Outcome.Clear)
                html.Append("<span>").Append(Encode(finding.Reason)).Append("</span>");
            if (Answer?.Entry is { } entry && entry.IsOfPlaces(Criterion))
                html.Append(" <span class=\"fine quiet\">The longest against the shortest of ")
                    .Append(Encode(string.Join(", ", entry.Readings)))
                    .Append(".</span>");
            else if (Answer?.Entry.Readings is { Count: > 1 } readings)
                html.Append(" <span class=\"fine quiet\">The worst of ")
                    .Append(readings.Count)
                    .Append(": ")
                    .Append(Encode(string.Join(", ", readings)))
                    .Append(".</span>");
            if (finding.BooksDiffer)
                html.Append(" <span class=\"fine quiet\">")
                    .Append(
                        Encode(
                            BookFinding.DifferWords(
                                finding
                                    .Books.Where(b => b.Outcome is not null)
                                    .Select(b => (b.Book, Code.Of(b.Outcome!.Value)))
                            )
                        )
                    )
                    .Append("</span>");
            html.Append("</p>");
        }

        if (Limits is not null)
        {
            var value = Finding is null ? (Length?)null : Worst;
            html.Append(
                GaugeDrawing.Draw(Limits, value, Earlier, Unit == "in" ? LengthUnit.Inch : LengthUnit.Millimetre)
            );
        }

        return new HtmlString(html.ToString());
    }

    /// <summary>The places a pair is measured at, with what was measured there.</summary>
    /// <param name="legs">The legs of the piece.</param>
    public IReadOnlyList<(string Place, string Figure)> Places(int legs)
    {
        var read =
            Answer is { } answer && answer.Entry.IsOfPlaces(Criterion)
                ? answer.Entry.Readings.ToDictionary(r => AnswerEntry.PlaceOf(r) ?? string.Empty, AnswerEntry.FigureOf)
                : [];
        return [.. Criterion.Places(legs).Select(p => (p, read.GetValueOrDefault(p) ?? string.Empty))];
    }

    /// <summary>The mark of what the answer given comes to, for inside that answer.</summary>
    public IHtmlContent Mark(Found found) =>
        Finding is { } finding && Answer?.Entry.Answer == Code.Of(found) && Fault is null
            ? Glyphs.Mark(Code.Of(finding.Outcome))
            : HtmlString.Empty;

    /// <summary>The last reading before this inspection, in the question's unit; empty where there is none.</summary>
    public string Last =>
        Earlier.Count == 0
            ? string.Empty
            : QuantityFormat.Exact(
                Length
                    .FromMillimetres(Math.Round(Earlier[^1].Millimetres / Step, MidpointRounding.AwayFromZero) * Step)
                    .In(Unit == "in" ? LengthUnit.Inch : LengthUnit.Millimetre)
            );

    /// <summary>To so much a reading is told again, in millimetres.</summary>
    private decimal Step => Unit == "in" ? 0.0254m : 0.01m;

    private static string Encode(string text) => System.Net.WebUtility.HtmlEncode(text);
}
