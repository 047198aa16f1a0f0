using Keralith.Core.Custody;
using Keralith.Core.Gear;
using Keralith.Core.People;
using Keralith.Core.Register;
using Keralith.Core.Signing;
using Keralith.Data;
using Keralith.Web.Files;
using Keralith.Web.Pages.Register;
using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Html;
using Microsoft.AspNetCore.Mvc;

namespace Keralith.Web.Pages.Inspect;

/// <summary>An answer as the page sends it in the background.</summary>
public sealed record SentAnswer(
    string? Part,
    string? Criterion,
    string? Answer,
    string? Value,
    string? Shortest,
    string? Uncertainty,
    string? Note,
    string? Unit
)
{
    /// <summary>Where on the drawing, in its units; empty where nobody pinned it.</summary>
    public string? PinX { get; init; }

    public string? PinY { get; init; }

    /// <summary>The mark of the answer the page was opened with; null where it sends none.</summary>
    public string? Seen { get; init; }

    /// <summary>The pin; null where there is none, or it is no place.</summary>
    public Pin? Pin =>
        decimal.TryParse(PinX, System.Globalization.NumberStyles.Float, null, out var x)
        && decimal.TryParse(PinY, System.Globalization.NumberStyles.Float, null, out var y)
        && Math.Abs(x) < Furthest
        && Math.Abs(y) < Furthest
            ? new(Math.Round(x, 1), Math.Round(y, 1))
            : null;

    private const decimal Furthest = 5000;
}

/// <summary>Along the body, one part at a time. Drawn for any family from the catalogue.</summary>
[Authorize(Policy = nameof(Right.Draft))]
[RequestSizeLimit(Upload.MostRequest)]
[RequestFormLimits(MultipartBodyLengthLimit = Upload.MostRequest)]
public sealed class InspectModel(
    Here here,
    InspectionStore inspections,
    PieceStore pieces,
    FileStore files,
    OwnWaysStore ways
) : YardPage(here)
{
    private readonly Dictionary<string, string> _faults = [];

    public Walk Walk { get; private set; } = null!;

    public Part Part { get; private set; } = null!;

    public IReadOnlyList<Question> Questions { get; private set; } = [];

    /// <summary>Whether explanations stand open.</summary>
    public bool Explains { get; private set; }

    /// <summary>What is looked for on the part.</summary>
    public IReadOnlyList<Question> Looks => [.. Questions.Where(q => q.Criterion.IsAnswerChosen)];

    /// <summary>What is measured or counted on it, what is only asked where somebody measures it last.</summary>
    public IReadOnlyList<Question> Figures =>
        [.. Questions.Where(q => !q.Criterion.IsAnswerChosen).OrderBy(q => q.Criterion.Optional)];

    /// <summary>Whether everything looked for was answered, and nothing found: the lines fold to one.</summary>
    public bool IsClean => Looks.All(q => q.Answer?.Entry.Answer == Code.Of(Found.No) && q.Answer.Note is null);

    /// <summary>Whether the person may enter figures when new at all.</summary>
    public bool MayEnter => Here.May(Right.Register);

    /// <summary>Whether they are taken here: of a piece no verdict stands on yet. Later it is a change of facts.</summary>
    public bool TakesFigures => MayEnter && Walk.Piece is { Verdict: null, IsCarried: false, State: PieceState.New };

    /// <summary>What stands on the part's page: its words are explained.</summary>
    public IEnumerable<string?> Words =>
        Part.Criteria.SelectMany(c => new[] { c.Title, c.Question, c.Look, c.BaselineName }).Append(Part.Name);

    /// <summary>A figure when new, put on record where its measure is taken.</summary>
    /// <param name="of">The criterion judged against it.</param>
    public async Task<IActionResult> OnPostNewAsync(Guid id, string? part, string? of)
    {
        if (!await LoadAsync(id, part) || Part.Criteria.FirstOrDefault(c => c.Id == of) is not { } criterion)
            return NotFound();
        var piece = Walk.Piece;
        var entry = new Dictionary<string, string>(EntryForm.Of(piece, await pieces.BaselinesAsync(piece.Id, Cancel)));
        var (value, basis, links) = PieceEntryReader.Fields(new(Part.Path, criterion.Id));
        var unit = Walk.Ask(Part, criterion).Unit;
        entry[value] =
            Request.Form[$"figure:{of}"].ToString() is { Length: > 0 } typed && char.IsAsciiDigit(typed[^1])
                ? $"{typed} {unit}"
                : Request.Form[$"figure:{of}"].ToString();
        (entry[basis], entry[links]) = (Request.Form[$"basis:{of}"].ToString(), Request.Form[$"links:{of}"].ToString());
        var (read, faults) = PieceEntryReader.Read(entry);
        if (read is null)
        {
            Refuse(string.Join(" ", faults.Values));
            await ShowAsync();
            return Page();
        }

        return await AfterAsync(
            await pieces.EditAsync(piece.Id, piece.Version, read, Grounds.None, Here.Stamp(Submission), Cancel),
            $"/inspect/{id}?part={Uri.EscapeDataString(Part.Path)}",
            ShowAsync
        );
    }

    public async Task<IActionResult> OnGetAsync(Guid id, string? part)
    {
        if (!await LoadAsync(id, part))
            return await inspections.FindSignedAsync(id, Cancel) is not null
                ? Redirect($"/inspection/{id}")
                : NotFound();
        await ShowAsync();
        return Page();
    }

    /// <summary>One answer, kept the moment it is given.</summary>
    public async Task<IActionResult> OnPostAnswerAsync(Guid id, [FromBody] SentAnswer? sent)
    {
        if (
            sent is null
            || !await LoadAsync(id, sent.Part)
            || Part.Path != sent.Part
            || Part.Criteria.FirstOrDefault(c => c.Id == sent.Criterion) is not { } criterion
        )
        {
            return new JsonResult(
                new
                {
                    kept = false,
                    html = "<span class=\"fault\">This inspection is signed or was thrown away; it takes no more answers.</span>",
                }
            );
        }

        var read = Walk.Read(
            Part,
            criterion,
            sent.Answer,
            sent.Value,
            sent.Shortest,
            sent.Uncertainty,
            sent.Note,
            sent.Unit,
            Here.Actor,
            Here.Now
        );
        if (!read.Ok)
            return new JsonResult(
                new
                {
                    kept = false,
                    html = Html((Walk.Ask(Part, criterion, read.Fault) with { Finding = null }).Result()),
                }
            );
        var saved = await inspections.SaveAsync(id, [read.Value with { Pin = sent.Pin }], Here.Actor, Here.Now, Cancel);
        var overtaken = Walk.Overtaken(read.Value, sent.Seen);
        await LoadAsync(id, sent.Part);
        var html =
            (
                overtaken is null
                    ? string.Empty
                    : $"<p class=\"notice\" role=\"alert\">{System.Net.WebUtility.HtmlEncode(overtaken)}</p>"
            ) + Html(Walk.Ask(Part, criterion, saved.Fault).Result());
        return new JsonResult(
            new
            {
                kept = saved.Ok,
                progress = Walk.Progress,
                seen = Walk.SeenMark(Part.Path, criterion.Id),
                mark = Code.Find<Found>(read.Value.Entry.Answer) is { } given
                    ? Html(Walk.Ask(Part, criterion, saved.Fault).Mark(given))
                    : string.Empty,
                html,
            }
        );
    }

    /// <summary>The whole part at once: the way without script.</summary>
    public async Task<IActionResult> OnPostPartAsync(Guid id, string? part, bool clean)
    {
        if (!await LoadAsync(id, part))
            return Redirect($"/inspection/{id}");
        if (await KeepTypedAsync(id, clean) && !clean)
            return Redirect(
                Walk.After(Part) is { } next
                    ? $"/inspect/{id}?part={Uri.EscapeDataString(next.Path)}"
                    : $"/inspect/{id}/sign"
            );
        await LoadAsync(id, part);
        await ShowAsync();
        return Page();
    }

    /// <summary>A picture of what was found; without script the answers of the part are kept with it.</summary>
    /// <param name="of">The criterion it shows.</param>
    public async Task<IActionResult> OnPostPhotoAsync(Guid id, string? part, string? of)
    {
        var background = Request.Headers.Accept.ToString().Contains("application/json", StringComparison.Ordinal);
        if (
            !await LoadAsync(id, part)
            || Part.Path != part
            || Part.Criteria.FirstOrDefault(c => c.Id == of) is not { } criterion
        )
            return background
                ? new JsonResult(
                    new { fault = "This inspection is signed or was thrown away; it takes no more pictures." }
                )
                : Redirect($"/inspection/{id}");
        var read = await Upload.PhotoAsync(
            Here.Actor.Id,
            Request.Form.Files.GetFile($"photo:{criterion.Id}"),
            $"{criterion.Title}, {Part.Name}",
            Cancel
        );
        var fault = read.Ok
            ? (
                await files.AttachToDraftAsync(
                    id,
                    Part.Path,
                    criterion.Id,
                    read.Value,
                    Here.Stamp(Guid.CreateVersion7()),
                    Cancel
                )
            ).Fault
            : read.Fault;
        if (!background)
        {
            await KeepTypedAsync(id, clean: false);
            if (fault is not null)
                Refuse(fault);
            await LoadAsync(id, part);
            await ShowAsync();
            return Page();
        }

        await ShowAsync();
        return new JsonResult(
            new { fault, html = Html(Questions.Single(q => q.Criterion == criterion).Photographs()) }
        );
    }

    /// <summary>Keeps what the form of the part holds.</summary>
    /// <returns>Whether all of it was kept.</returns>
    private async Task<bool> KeepTypedAsync(Guid id, bool clean)
    {
        var kept = new List<DraftAnswer>();
        foreach (var criterion in Part.Criteria)
        {
            var answer = Typed(criterion, "answer") ?? (clean && criterion.IsAnswerChosen ? "no" : null);
            var read = Walk.Read(
                Part,
                criterion,
                answer,
                Typed(criterion, "value") ?? TypedPlaces(criterion),
                Typed(criterion, "shortest"),
                Typed(criterion, "uncertainty"),
                Typed(criterion, "note"),
                Typed(criterion, "unit"),
                Here.Actor,
                Here.Now
            );
            if (read.Ok)
                kept.Add(read.Value);
            else
                _faults[criterion.Id] = read.Fault!;
        }

        var saved = await inspections.SaveAsync(id, kept, Here.Actor, Here.Now, Cancel);
        if (!saved.Ok)
            Refuse(saved.Fault!);
        else if (_faults.Count > 0)
            Refuse("A figure wants another look; the other answers are kept.");
        return Refused is null;
    }

    /// <summary>What was typed of a pair place by place; null when nothing was.</summary>
    private string? TypedPlaces(Criterion criterion)
    {
        var typed = criterion
            .Places(Walk.Piece.Gear.Legs)
            .Select(p => (Place: p, Figure: Typed(criterion, $"place:{p}")))
            .Where(p => p.Figure is not null)
            .ToList();
        return typed.Count == 0 ? null : string.Join("; ", typed.Select(p => $"{p.Place}: {p.Figure}"));
    }

    /// <summary>What was typed for a criterion in the form just sent; null when nothing was.</summary>
    public string? Typed(Criterion criterion, string field) =>
        Request.HasFormContentType
        && Request.Form.TryGetValue($"{criterion.Id}:{field}", out var value)
        && value[0] is { Length: > 0 and <= 500 } text
            ? text
            : null;

    private static string Html(IHtmlContent content)
    {
        using var writer = new StringWriter();
        content.WriteTo(writer, System.Text.Encodings.Web.HtmlEncoder.Default);
        return writer.ToString();
    }

    private async Task ShowAsync()
    {
        var (when, hasSigned) = await ways.ExplainsAsync(Here.Actor.Id, Walk.Piece.Gear.Family.Code, Cancel);
        Explains = when == Explain.Always || (when == Explain.First && !hasSigned);
        var photos = await files.OfInspectionAsync(Walk.Draft.Id, Cancel);
        Questions = Part
            .Criteria.Select(c =>
                Walk.Ask(Part, c, _faults.GetValueOrDefault(c.Id)) with
                {
                    Photos = photos.Where(p => p.Part == Part.Path && p.Criterion == c.Id).Select(p => p.Id).ToList(),
                }
            )
            .ToList();
    }

    private async Task<bool> LoadAsync(Guid id, string? part)
    {
        if (await Walk.LoadAsync(id, inspections, pieces, Here, Cancel) is not { } walk)
            return false;
        Walk = walk;
        Part = walk.Parts.FirstOrDefault(p => p.Path == part) ?? walk.Open();
        return true;
    }
}
