using Keralith.Core.Custody;
using Keralith.Core.Formats;
using Keralith.Core.Gear;
using Keralith.Core.People;
using Keralith.Core.Register;
using Keralith.Data;
using Keralith.Web.Security;
using Microsoft.AspNetCore.Mvc;

namespace Keralith.Web.Pages.Inspect;

/// <summary>A signed inspection, read as it was judged.</summary>
public sealed class SignedModel(
    Here here,
    InspectionStore inspections,
    PieceStore pieces,
    CorrectionStore corrections,
    FileStore files,
    Passwords passwords
) : YardPage(here)
{
    public InspectionRow Inspection { get; private set; } = null!;

    public Piece Piece { get; private set; } = null!;

    public Usability Use { get; private set; } = null!;

    public IReadOnlyList<FindingLine> Findings { get; private set; } = [];

    public IReadOnlyList<(string Where, string Note)> Notes { get; private set; } = [];

    /// <summary>Where findings were pinned on the drawing.</summary>
    public IReadOnlyList<(decimal X, decimal Y, string What)> Pins { get; private set; } = [];

    /// <summary>The books it was judged by, with the editions the site named then, and the limits beside them.</summary>
    public string WorkedTo { get; private set; } = string.Empty;

    /// <summary>Pictures of what was found, by what they show.</summary>
    public IReadOnlyList<(string Where, IReadOnlyList<Guid> Files)> Photos { get; private set; } = [];

    /// <summary>Whether the person may put another record in its place.</summary>
    public bool MayCorrect => Inspection.Counts && !Piece.State.IsRetired() && Here.May(Right.Draft);

    /// <summary>Whether the person may withdraw it.</summary>
    public bool MayWithdraw =>
        Inspection.Counts
        && !Piece.State.IsRetired()
        && Correction.RefusalToWithdraw(
            new(Inspection.Kind, Inspection.Verdict, Here.DayOf(Inspection.CountsFrom)),
            Here.Actor.Roles,
            Inspection.Hands.Contains(Here.Actor.Id)
        )
            is null;

    /// <summary>What was typed as the reason, shown again after a refusal.</summary>
    public string? Why { get; private set; }

    public async Task<IActionResult> OnGetAsync(Guid id) => await LoadAsync(id) ? Page() : NotFound();

    /// <summary>Opens the draft of a correction.</summary>
    [Takes(Right.Draft)]
    public async Task<IActionResult> OnPostCorrectAsync(Guid id, string? why)
    {
        if (!await LoadAsync(id))
            return NotFound();
        Why = why;
        var draft = await corrections.OpenAsync(Inspection, Piece, why, Here.Stamp(Submission), Cancel);
        if (draft.Ok)
            return Redirect($"/inspect/{draft.Value}");
        Refuse(draft.Fault!);
        return Page();
    }

    /// <summary>Withdraws the record.</summary>
    [Takes(Right.Draft)]
    public async Task<IActionResult> OnPostWithdrawAsync(Guid id, string? why, string? password)
    {
        if (!await LoadAsync(id))
            return NotFound();
        Why = why;
        if (!await Here.ConfirmsAsync(passwords, password, Cancel))
        {
            Refuse("That is not your password, or there were too many tries. Nothing was withdrawn.");
            return Page();
        }

        return await AfterAsync(
            await corrections.WithdrawAsync(id, why, Here.Stamp(Submission), Cancel),
            $"/inspection/{id}",
            () => Task.CompletedTask
        );
    }

    /// <summary>What a record corrects, or what took its place, in words; null where neither.</summary>
    internal static string? Aside(InspectionRow inspection, Here here) =>
        inspection.Superseded is { } gone
            ? $"{(gone.Became is null ? "Withdrawn" : "Corrected")} {here.Day(gone.At)} by {gone.By}: {gone.Why}"
        : inspection.CorrectsWhy is { } why ? $"In the place of a wrong record: {why}"
        : null;

    private async Task<bool> LoadAsync(Guid id)
    {
        if (await inspections.FindSignedAsync(id, Cancel) is not { } inspection)
            return false;
        Inspection = inspection;
        Piece = (await pieces.GetAsync(inspection.Piece, Cancel))!;
        var site = await Here.SiteOfAsync(Piece, Cancel);
        Use = Piece.UseOn(Here.Today, site);
        var names = Catalogue.Parts(Piece.Gear, RuleBookShelf.All).ToDictionary(p => p.Path, p => p.Name);
        WorkedTo = Worked(inspection);
        (Findings, _) = FindingLine.Of(inspection.VerdictDocument!, inspection.Own, names);
        Pins = inspection
            .Pins.Select(p =>
                (
                    p.Value.X,
                    p.Value.Y,
                    p.Key.Split(' ') is [var part, var criterion]
                        ? $"{inspection.TitleOf(criterion)}, {names.GetValueOrDefault(part, part)}"
                        : p.Key
                )
            )
            .ToList();
        Notes = inspection.NotesTold(names);
        Photos = (await files.OfInspectionAsync(id, Cancel))
            .GroupBy(p => $"{inspection.TitleOf(p.Criterion)}, {names.GetValueOrDefault(p.Part, p.Part)}")
            .Select(g => (g.Key, (IReadOnlyList<Guid>)g.Select(p => p.Id).ToList()))
            .ToList();
        return true;
    }

    /// <summary>What a record was judged by, in words.</summary>
    internal static string Worked(InspectionRow inspection)
    {
        var @case = CaseReader.Read(inspection.CaseDocument).Value;
        if (@case is null)
            return "the books named in its case";
        var books = @case.Books.Select(b =>
            inspection.WorkedTo.Editions?.GetValueOrDefault(b.Id) is { } year and > 0 ? $"{b.Name} ({year})" : b.Name
        );
        var limits =
            @case.Limits.Count == 0
                ? string.Empty
                : $", with {@case.Limits.Count} of the site's and the maker's own limits";
        var share = inspection.WorkedTo.WatchShare is { } watch
            ? $", watched from {watch * 100:0.#} % of an allowance"
            : string.Empty;
        return $"{string.Join(" and ", books)}{limits}{share}";
    }
}
