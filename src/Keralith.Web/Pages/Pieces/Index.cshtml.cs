using Keralith.Core.Custody;
using Keralith.Core.Formats;
using Keralith.Core.Gear;
using Keralith.Core.Judgement;
using Keralith.Core.Lifts;
using Keralith.Core.People;
using Keralith.Core.Register;
using Keralith.Core.Sites;
using Keralith.Core.Tags;
using Keralith.Core.Wear;
using Keralith.Data;
using Keralith.Web.Pages.Inspect;
using Keralith.Web.Security;
using Keralith.Web.Showing;
using Microsoft.AspNetCore.Mvc;

namespace Keralith.Web.Pages.Pieces;

/// <summary>One line of a piece's history.</summary>
/// <param name="Aside">What else is to be known of it: what it corrects, or what took its place.</param>
/// <param name="Counts">Whether it still counts.</param>
public sealed record HistoryLine(
    DateTimeOffset At,
    string What,
    string Who,
    string? Verdict,
    string? Link,
    string? Aside = null,
    bool Counts = true
);

/// <summary>One figure when new with what was last measured.</summary>
public sealed record FigureLine(string Part, string Name, BaselineRow? Baseline, string? Last);

/// <summary>The piece: may it be used, for what, until when, and who says so.</summary>
public sealed class PieceModel(
    Here here,
    Database database,
    PieceStore pieces,
    InspectionStore inspections,
    CustodyStore custody
) : YardPage(here)
{
    public Piece Piece { get; private set; } = null!;

    public Site Site { get; private set; } = null!;

    public Usability Use { get; private set; } = null!;

    /// <summary>What the marking comes to here.</summary>
    public TagVerdict Tag { get; private set; } = null!;

    public IReadOnlyList<string> SerialTwins { get; private set; } = [];

    public IReadOnlyDictionary<string, string> Figures { get; private set; } = new Dictionary<string, string>();

    public IReadOnlyList<FigureLine> Baselines { get; private set; } = [];

    /// <summary>Every measure over time with its limits, what wears first at the head.</summary>
    public IReadOnlyList<WearSeries> Wear { get; private set; } = [];

    /// <summary>What happened to it beyond its use, newest first.</summary>
    public IReadOnlyList<EventRow> Events { get; private set; } = [];

    /// <summary>Open lifts it is planned for.</summary>
    public IReadOnlyList<LiftRow> Lifts { get; private set; } = [];

    /// <summary>Whether it is held because its marking is gone or can't be read.</summary>
    public bool MarkingGone { get; private set; }

    /// <summary>Whether it is held for such an event: the inspection wanted is one after it.</summary>
    public bool AfterEvent { get; private set; }

    public IReadOnlyDictionary<string, string> PartNames { get; private set; } = new Dictionary<string, string>();

    public IReadOnlyList<HistoryLine> History { get; private set; } = [];

    public string? Worse { get; private set; }

    /// <summary>What it may carry by hitch and angle; null for gear that is no sling.</summary>
    public HitchRatings? Ratings { get; private set; }

    public PieceDetails Details { get; private set; } = null!;

    public IReadOnlyList<TagRecord> Tags { get; private set; } = [];

    public IReadOnlyList<FileRow> Files { get; private set; } = [];

    /// <summary>The piece asked about: whether it seats in this one, or this one in it.</summary>
    public string? SeatMark { get; private set; }

    public SeatCheck? Seat { get; private set; }

    /// <summary>The mark of the piece whose place it took; null: none's.</summary>
    public string? Replaces { get; private set; }

    /// <summary>The mark of what took its place; null: nothing did.</summary>
    public string? ReplacedBy { get; private set; }

    /// <summary>The name of its site, where there are several.</summary>
    public string? SiteNamed { get; private set; }

    /// <summary>The further codes it carries.</summary>
    public IReadOnlyList<string> Codes { get; private set; } = [];

    public Draft? OpenDraft { get; private set; }

    /// <summary>What was just done to it, by the word its address carries.</summary>
    private static readonly Dictionary<string, string> JustDone = new()
    {
        ["check"] = "Frequent check recorded: no fault found.",
        ["hold"] = "Put on hold.",
        ["move"] = "It hangs there now.",
        ["issue"] = "Handed out.",
        ["return"] = "Taken back.",
        ["lost"] = "Recorded as missing.",
        ["found"] = "Found: it waits in the cage.",
        ["season"] = "The season's mark is recorded.",
        ["count"] = "The count is recorded.",
        ["split"] = "Split out under its own mark.",
        ["part"] = "The replaced part is recorded.",
        ["code"] = "The code leads here now.",
        ["codeoff"] = "The code leads here no more.",
    };

    /// <summary>What was just done to it, in words; null: nothing.</summary>
    public string? Done { get; private set; }

    /// <summary>Figures when new that its first inspection will want and nobody has given.</summary>
    public IReadOnlyList<FigureLine> WantedFirst =>
        Piece.State == PieceState.New ? [.. Baselines.Where(b => b.Baseline is null)] : [];

    public async Task<IActionResult> OnGetAsync(string mark, string? seat, string? done)
    {
        Done = JustDone.GetValueOrDefault(done ?? string.Empty);
        var trip = new Trip();
        var found = PieceStore.Find(trip, mark);
        var kept = PieceOnRecord.Marked(trip, PieceStore.AsMark(mark));
        await Here.MakeAsync(trip, Cancel, hasForm: Here.May(Core.People.Right.Draft));
        if (found.Value is not { } piece)
            return NotFound();
        if (piece.Mark != PieceStore.AsMark(mark))
        {
            // Found by its serial, or by a code it carries.
            kept = new(trip, piece.Id);
            await database.MakeAsync(trip, Cancel);
        }

        Piece = piece;
        SiteNamed = (await Here.SitesAsync(Cancel)) is { AreSeveral: true } sites ? sites.Of(piece.SiteId).Name : null;
        Site = await Here.SiteOfAsync(piece, Cancel);
        (Replaces, ReplacedBy) = kept.Places.Value;
        Use = piece.UseOn(Here.Today, Site);
        Tag = piece.TagAt(Site);
        Details = piece.Details;
        Ratings = piece.RatingsAt(Site);
        Tags = kept.Tags.Value;
        Files = kept.Files.Value;
        await CheckSeatAsync(seat);
        var baselines = kept.Baselines.Value;
        Figures = Drawings.GearDrawings.Figures(piece.Gear, baselines.ToDictionary(b => b.Key, b => b.Value.Figure));
        var signed = kept.Inspections.Value;
        PartNames = Catalogue.Parts(piece.GearAt(Site), Site.Books).ToDictionary(p => p.Path, p => p.Name);
        var measured = WearRows.Records(signed);
        Wear = WearRows
            .Of(piece, Site, baselines, measured)
            .Where(s => s.Points.Count > 1)
            .OrderBy(s => s.Forecast is Wearing w ? w.DaysToLimit : int.MaxValue)
            .ThenByDescending(s => s.Points.Count)
            .ToList();
        var last = LastMeasured(measured, baselines);
        Worse = WorseToday(
            signed
                .OrderByDescending(i => i.CountsFrom)
                .FirstOrDefault(i => i.Counts && i.Kind is not (InspectionKind.Frequent or InspectionKind.Return))
        );
        Baselines = PieceEntryReader
            .BaselinesOf(piece.Gear)
            .Select(b => new FigureLine(
                b.Part.Name,
                b.Criterion.BaselineName!,
                baselines.GetValueOrDefault(new(b.Part.Path, b.Criterion.Id)),
                last.GetValueOrDefault(new(b.Part.Path, b.Criterion.Id))
            ))
            .ToList();
        SerialTwins = piece.Serial is null || piece.Maker is null ? [] : kept.SerialTwins.Value;
        OpenDraft = kept.Drafts.Value.FirstOrDefault(d =>
            d.Corrects is null
            && d.Kind is InspectionKind.Initial or InspectionKind.Periodic or InspectionKind.AfterEvent
        );
        Lifts = kept.Lifts.Value;
        Events = kept.Events.Value;
        Codes = kept.Codes.Value;
        var holds = kept.Holds.Value;
        AfterEvent = IsAfterEvent(holds);
        MarkingGone = holds.Any(h => h is { IsOpen: true, Cause: HoldCause.Marking });
        History = Lines(signed, holds, kept.Disposals.Value)
            .Concat(kept.Moves.Value.Select(e => new HistoryLine(e.At, e.What, e.By, null, null)))
            .OrderByDescending(h => h.At)
            .ToList();
        return Page();
    }

    /// <summary>Why its last full inspection would come out worse by today's rules; null when it would not.</summary>
    private string? WorseToday(InspectionRow? full) =>
        full is not null
        && !Piece.State.IsRetired()
        && CaseReader.Read(full.CaseDocument).Value is { } then
        && Rejudgement.Of(then, Site, Piece.Maker, Piece.Model) is { } today
        && today.Verdict.Kind > full.Verdict
            ? $"By today's rules its inspection of {full.InspectedOn:yyyy-MM-dd}, signed as {Code.Of(full.Verdict)}, would come out {Code.Of(today.Verdict.Kind)}. {today.Because}"
            : null;

    /// <summary>The one with a throat or a bowl is the hook; the other goes in it.</summary>
    private async Task CheckSeatAsync(string? mark)
    {
        SeatMark = mark is { Length: > 0 and <= 40 } ? mark : null;
        if (SeatMark is null)
            return;
        Seat =
            await pieces.FindAsync(SeatMark, Cancel) is not { } other ? new(null, $"There is no piece {SeatMark}.")
            : Details.Fit.IsHook ? SeatCheck.Of(Details.Fit, other.Details.Fit)
            : SeatCheck.Of(other.Details.Fit, Details.Fit);
    }

    [Takes(Right.Draft)]
    public async Task<IActionResult> OnPostInspectAsync(string mark)
    {
        if (await pieces.FindAsync(mark, Cancel) is not { } piece)
            return NotFound();
        var kind = IsAfterEvent(await custody.HoldsAsync(piece.Id, Cancel))
            ? InspectionKind.AfterEvent
            : InspectionKind.Periodic;
        var draft = await inspections.OpenAsync(piece, kind, Here.Stamp(Submission), Cancel);
        return draft.Ok ? Redirect($"/inspect/{draft.Value}") : Redirect($"/piece/{piece.Mark}");
    }

    private static bool IsAfterEvent(IEnumerable<HoldRow> holds) =>
        holds.Any(h => h.IsOpen && h.Cause == HoldCause.Event);

    private IEnumerable<HistoryLine> Lines(
        IEnumerable<InspectionRow> signed,
        IEnumerable<HoldRow> holds,
        IEnumerable<DisposalRow> disposals
    )
    {
        foreach (var i in signed)
            yield return new(
                i.SignedAt,
                Say.Kind(i.Kind),
                i.SignedBy,
                Code.Of(i.Verdict),
                $"/inspection/{i.Id}",
                SignedModel.Aside(i, Here),
                i.Counts
            );
        foreach (var h in holds)
        {
            yield return new(h.PlacedAt, $"On hold, {HoldRules.Said(h.Cause)}: {h.Reason}", h.PlacedBy, null, null);
            if (h.ReleasedAt is { } at)
                yield return new(
                    at,
                    $"Hold closed ({HoldRules.Said(h.Cause)}): {h.ReleaseReason}",
                    h.ReleasedBy!,
                    null,
                    null
                );
        }

        foreach (var d in disposals)
            yield return new(
                d.At,
                d.Step == "condemned" ? $"Condemned: {d.Reason}" : $"Destroyed: {d.Method}, witness {d.Witness}",
                d.By,
                null,
                null
            );
    }

    /// <summary>The newest figure of each length that is compared with one when new.</summary>
    /// <param name="measured">The newest first.</param>
    private static Dictionary<BaselineKey, string> LastMeasured(
        IEnumerable<WearRecord> measured,
        IReadOnlyDictionary<BaselineKey, BaselineRow> baselines
    )
    {
        var last = new Dictionary<BaselineKey, string>();
        foreach (var record in measured)
        foreach (var answer in record.Case.Answers)
        {
            if (answer.Response is not Measured figure)
                continue;
            var key = new BaselineKey(answer.Part, answer.Criterion.Id);

            // A figure of the part that was there before is not this part's.
            if (!baselines.TryGetValue(key, out var since) || record.SignedAt >= since.SetAt)
                last.TryAdd(key, $"{figure.Value} ({record.Day:yyyy-MM-dd})");
        }

        return last;
    }
}
