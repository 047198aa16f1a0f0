using System.Text.Json;
using Keralith.Core.Gear;
using Keralith.Core.Judgement;
using Keralith.Core.Quantities;
using Keralith.Core.Register;
using Keralith.Core.Signing;
using Keralith.Core.Sites;
using Keralith.Core.Wear;
using Keralith.Data;
using Keralith.Web.Showing;

namespace Keralith.Web.Pages.Inspect;

/// <summary>An inspection under way: the piece, its parts in the order a hand travels, and what was answered so far.</summary>
public sealed class Walk
{
    private readonly Dictionary<(string Part, string Criterion), DraftAnswer> _answers;
    private readonly IReadOnlyDictionary<BaselineKey, BaselineRow> _baselines;
    private readonly Dictionary<BaselineKey, List<Length>> _earlier = [];
    private readonly IReadOnlyList<InspectionRow> _signed;

    private Walk(
        Draft draft,
        Piece piece,
        Site site,
        IEnumerable<DraftAnswer> answers,
        IReadOnlyDictionary<BaselineKey, BaselineRow> baselines,
        IReadOnlyDictionary<(string Part, string Criterion), LastReading> last,
        IEnumerable<InspectionRow> signed
    )
    {
        (Draft, Piece, Site) = (draft, piece, site);
        _answers = answers.ToDictionary(a => (a.Part, a.Criterion));
        _baselines = baselines;
        Case = InspectionStore.CaseOf(piece, draft.Kind, site, _answers.Values, baselines, last);
        Parts = Case
            .Parts.Select(p =>
                p with
                {
                    Criteria = p
                        .Criteria.Where(c =>
                            Judge.IsAsked(c, draft.Kind) || (c.Optional && draft.Kind != InspectionKind.Frequent)
                        )
                        .ToList(),
                }
            )
            .Where(p => p.Criteria.Count > 0)
            .ToList();
        WorksMeter.Judgements.Add(1);
        Verdict = Judge.Of(Case, site.WatchShare);
        _signed = signed.Where(i => i.Counts && i.Id != draft.Corrects?.Record).ToList();
        foreach (var inspection in _signed.Reverse())
            Remember(inspection);
    }

    public Draft Draft { get; }

    /// <summary>The unit the person likes a bare figure taken in; null: the site's.</summary>
    public string? OwnUnit { get; init; }

    /// <summary>What the person has in hand to measure with today.</summary>
    public Instrument? InHand { get; init; }

    /// <summary>Where findings were pinned on the drawing.</summary>
    public IReadOnlyList<(decimal X, decimal Y, string What)> Pins =>
        _answers
            .Values.Where(a => a.Pin is not null)
            .Select(a =>
                (
                    a.Pin!.Value.X,
                    a.Pin.Value.Y,
                    $"{TitleOf(a.Criterion)}, {Parts.FirstOrDefault(p => p.Path == a.Part)?.Name}"
                )
            )
            .ToList();

    private string? TitleOf(string criterion) =>
        Parts.SelectMany(p => p.Criteria).FirstOrDefault(c => c.Id == criterion)?.Title;

    /// <summary>What its readings were taken with.</summary>
    public IEnumerable<Instrument> Instruments =>
        _answers.Values.Select(a => a.Instrument).OfType<Instrument>().Distinct();

    /// <summary>Every measure over time, this draft's figures with it.</summary>
    public IReadOnlyList<WearSeries> Wear() =>
        WearRows.Of(
            Piece,
            Site,
            _baselines,
            [
                .. WearRows.Records(_signed),
                new(Draft.InspectedOn ?? Site.DayOf(Draft.SavedAt), DateTimeOffset.MaxValue, Case),
            ]
        );

    public Piece Piece { get; }

    public Site Site { get; }

    public IReadOnlyList<Part> Parts { get; }

    public Case Case { get; }

    public Verdict Verdict { get; }

    /// <summary>Parts with no question left.</summary>
    public IReadOnlySet<string> Done =>
        Parts.Select(p => p.Path).Except(Verdict.Missing.Select(m => m.Part)).ToHashSet();

    /// <summary>The worst outcome found on each part, where it is worse than clear.</summary>
    public IReadOnlyDictionary<string, string> Found =>
        Verdict
            .Findings.Where(f => f.Outcome > Outcome.Clear)
            .GroupBy(f => f.Part)
            .ToDictionary(g => g.Key, g => Code.Of(g.Max(f => f.Outcome)));

    public string Progress =>
        Verdict.Missing.Count switch
        {
            0 => "Every question is answered.",
            1 => "1 question left.",
            var left => $"{left} questions left.",
        };

    /// <summary>The walk of a draft; null when it is signed or gone.</summary>
    public static async Task<Walk?> LoadAsync(
        Guid id,
        InspectionStore inspections,
        PieceStore pieces,
        Here here,
        CancellationToken cancel
    )
    {
        if (await inspections.DraftAsync(id, cancel) is not { } draft)
            return null;
        var piece = (await pieces.GetAsync(draft.Piece, cancel))!;
        var answers = await inspections.AnswersAsync(id, cancel);
        var baselines = await pieces.BaselinesAsync(piece.Id, cancel, draft.Corrects?.Seen);
        var last = draft.Corrects is null
            ? await inspections.LastAsync(piece.Id, answers, here.Actor.Id, cancel)
            : SigningFacts.NothingRead;
        return new(
            draft,
            piece,
            await here.SiteOfAsync(piece, cancel),
            answers,
            baselines,
            last,
            await inspections.SignedAsync(piece.Id, cancel)
        )
        {
            OwnUnit = here.Actor.Unit,
            InHand = await here.InHandAsync(cancel),
        };
    }

    /// <summary>The first part with a question left, else the first.</summary>
    public Part Open() => Parts.FirstOrDefault(p => Verdict.Missing.Any(m => m.Part == p.Path)) ?? Parts[0];

    /// <summary>The part after another; null after the last.</summary>
    public Part? After(Part part)
    {
        var at = Parts.ToList().IndexOf(part);
        return at + 1 < Parts.Count ? Parts[at + 1] : null;
    }

    /// <summary>
    /// When the answer to a question was kept, as a mark pages send back; empty where there is none. Another mark means
    /// somebody answered since.
    /// </summary>
    public string SeenMark(string part, string criterion) =>
        _answers.TryGetValue((part, criterion), out var answer) ? $"{answer.SavedAt.UtcTicks}" : string.Empty;

    /// <summary>
    /// What somebody, or another device, answered since a page was opened, where that page now answers otherwise; null
    /// where nothing was lost sight of.
    /// </summary>
    /// <param name="mine">The answer about to be kept.</param>
    /// <param name="seen">The mark the page was opened with; null where it sends none.</param>
    public string? Overtaken(DraftAnswer mine, string? seen) =>
        seen is not null
        && seen != SeenMark(mine.Part, mine.Criterion)
        && _answers.TryGetValue((mine.Part, mine.Criterion), out var theirs)
        && theirs.Entry != mine.Entry
        && theirs.Entry is not { Answer: null, Value: null }
            ? $"{theirs.SavedBy} entered {(theirs.Entry.Value ?? (Code.Find<Found>(theirs.Entry.Answer) is { } found ? Say.Found(found) : theirs.Entry.Answer))} at {theirs.SavedAt:HH:mm} UTC, after this page was opened. Yours is the later and is kept: agree which is right."
            : null;

    /// <summary>A question with what was answered.</summary>
    /// <param name="fault">Why what was just typed is no answer.</param>
    public Question Ask(Part part, Criterion criterion, string? fault = null)
    {
        var key = new BaselineKey(part.Path, criterion.Id);
        var baseline = _baselines.GetValueOrDefault(key);
        var answer = _answers.GetValueOrDefault((part.Path, criterion.Id));
        var worst = Verdict
            .Findings.Where(f => !f.FromGear)
            .Zip(Case.Answers)
            .Where(f => f.First.Part == part.Path && f.First.Criterion == criterion)
            .OrderByDescending(f => f.First.Outcome)
            .ThenByDescending(f => f.First.Governing.Consumed ?? 0)
            .FirstOrDefault();
        var finding = worst.First;
        var reference = criterion.IsPair ? (worst.Second?.Response as Measured)?.Baseline : baseline?.Figure.Length;
        var limits = criterion.IsLength ? LimitSet.For(Case, criterion, reference) : null;
        var unit = (baseline?.Figure.Length ?? Piece.Gear.Size)?.IsInchNamed switch
        {
            true => "in",
            false => "mm",
            null => OwnUnit ?? Site.Unit,
        };
        return new(
            criterion,
            part.Path,
            answer,
            baseline,
            finding,
            limits,
            _earlier.GetValueOrDefault(key)?.TakeLast(3).ToList() ?? [],
            fault
        )
        {
            Unit = unit,
            OnRecord = OnRecord(criterion)?.Text,
            Worst = (worst.Second?.Response as Measured)?.Value,
        };
    }

    /// <summary>Reads what was typed as an answer; a bare figure takes the unit chosen beside it.</summary>
    /// <returns>The answer to keep, or why it is none.</returns>
    public Checked<DraftAnswer> Read(
        Part part,
        Criterion criterion,
        string? answer,
        string? value,
        string? shortest,
        string? uncertainty,
        string? note,
        string? unit,
        Actor who,
        DateTimeOffset at
    )
    {
        // What is in hand brings its uncertainty to every length it measures, unless another is written.
        var inexact =
            Blank(uncertainty) is null && Blank(value) is not null && criterion.IsLength
                ? InHand?.Uncertainty.ToString()
                : WithUnit(uncertainty, unit, criterion);
        var figures = AnswerEntry.Split(value);
        var readings = figures.Select(r => WithUnit(r, unit, criterion)).ToList();
        var entry = new AnswerEntry(
            criterion.IsAnswerChosen || figures.Count == 0 ? Blank(answer) : null,
            readings.Count == 0 ? null : string.Join("; ", readings),
            WithUnit(shortest, unit, criterion),
            inexact
        );
        var kept = new DraftAnswer(part.Path, criterion.Id, entry, Blank(note), who.Name, at);
        if (entry is { Answer: null, Value: null })
            return kept with { Entry = new() };
        var read = entry.ReadAll(criterion, _baselines.GetValueOrDefault(new(part.Path, criterion.Id))?.Figure);
        return read.Ok ? kept : new Refusal(read.Fault!);
    }

    private static string? Blank(string? text) => string.IsNullOrWhiteSpace(text) ? null : text.Trim();

    private string? WithUnit(string? text, string? unit, Criterion criterion)
    {
        if (Blank(text) is not { } figure)
            return null;
        if (criterion.Kind != CriterionKind.Measure || !char.IsAsciiDigit(figure[^1]))
            return figure;
        return criterion.Measures switch
        {
            Dimension.Angle => $"{figure} deg",
            Dimension.Length => unit is "in" or "mm" ? $"{figure} {unit}" : figure,

            // As the figure it is held against is written.
            Dimension.Force or Dimension.Moment => UnitOnRecord(criterion) is { } marked
                ? $"{figure} {marked}"
                : figure,
        };
    }

    private AttributeValue? OnRecord(Criterion criterion) =>
        criterion.Limit switch
        {
            TorqueOnRecord => Piece.Gear.Values.GetValueOrDefault("torque"),
            HandPullOnRecord => Piece.Gear.Values.GetValueOrDefault("handPullLimit"),
            ThreadEngaged => Piece.Gear.Values.GetValueOrDefault("threadSize"),
            _ => null,
        };

    /// <summary>The unit of what is on record: a bare figure is taken in the same.</summary>
    private string? UnitOnRecord(Criterion criterion) =>
        OnRecord(criterion) switch
        {
            MomentValue moment => moment.Text.Split(' ', 2)[1],
            ForceValue force => force.Force.ToString().Split(' ', 2)[1],
            _ => null,
        };

    private void Remember(InspectionRow inspection)
    {
        using var document = JsonDocument.Parse(inspection.CaseDocument);
        foreach (var answer in document.RootElement.GetProperty("answers").EnumerateArray())
        {
            if (
                !answer.TryGetProperty("value", out var value)
                || Length.Read(value.GetString()) is not { Ok: true } length
            )
                continue;
            var key = new BaselineKey(
                answer.GetProperty("part").GetString()!,
                answer.GetProperty("criterion").GetString()!
            );
            if (!_earlier.TryGetValue(key, out var readings))
                _earlier[key] = readings = [];
            readings.Add(length.Value);
        }
    }
}
