using Keralith.Core.Formats;
using Keralith.Core.Judgement;
using Keralith.Core.People;
using Keralith.Core.Schedule;
using Keralith.Core.Wear;
using Keralith.Data;
using Keralith.Web.Security;
using Keralith.Web.Showing;
using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Mvc;

namespace Keralith.Web.Pages.Inspect;

/// <summary>The verdict in full, read before it is signed.</summary>
[Authorize(Policy = nameof(Right.Draft))]
public sealed class SignModel(
    Here here,
    InspectionStore inspections,
    PieceStore pieces,
    SigningStore signing,
    PeopleStore people,
    Passwords passwords
) : YardPage(here)
{
    private const string WrongPassword = "That is not your password, or there were too many tries. Nothing was signed.";

    public Walk Walk { get; private set; } = null!;

    public IReadOnlyList<FindingLine> Findings { get; private set; } = [];

    public IReadOnlyDictionary<string, string> PartNames { get; private set; } = new Dictionary<string, string>();

    public DateOnly InspectedOn { get; private set; }

    public DateOnly NextDue { get; private set; }

    /// <summary>An earlier next inspection that wear seen advises, and why; null where there is none.</summary>
    public (DateOnly Day, string Why)? Earlier { get; private set; }

    /// <summary>Why this person may not sign for this family; null when they may.</summary>
    public string? Unauthorised { get; private set; }

    /// <summary>Instruments used that were out of calibration.</summary>
    public IReadOnlyList<Instrument> Stale { get; private set; } = [];

    /// <summary>What may be signed: as the rules say, or stricter.</summary>
    public IReadOnlyList<VerdictKind> MaySign { get; private set; } = [];

    /// <summary>What was typed, shown again after a refusal.</summary>
    public Signature Typed { get; private set; } = Signature.Plain;

    public async Task<IActionResult> OnGetAsync(Guid id) =>
        await LoadAsync(id) ? Page()
        : await inspections.FindSignedAsync(id, Cancel) is not null ? Redirect($"/inspection/{id}")
        : NotFound();

    [Takes(Right.SignInspection)]
    public async Task<IActionResult> OnPostAsync(
        Guid id,
        int version,
        string? inspectedOn,
        string? password,
        string? verdict,
        string? reason,
        string? instrumentReason,
        string? nextBy,
        string[] care
    )
    {
        Typed = new(Code.Find<VerdictKind>(verdict), Short(reason), Short(instrumentReason));
        if (!IsDay(inspectedOn, "Inspected on", out var day) || !IsDay(nextBy, "Inspect again by", out var next))
            return await LoadAsync(id) ? Page() : NotFound();
        return await SignedAsync(
            id,
            password,
            () =>
                signing.SignAsync(
                    id,
                    new(version, day)
                    {
                        With = Typed,
                        NextBy = next,
                        Care = care,
                    },
                    Here.Stamp(Submission),
                    Cancel
                ),
            $"/inspection/{id}"
        );
    }

    /// <summary>A trainee signs for countersignature.</summary>
    public async Task<IActionResult> OnPostOfferAsync(Guid id, int version, string? inspectedOn, string? password)
    {
        if (!IsDay(inspectedOn, "Inspected on", out var day))
            return await LoadAsync(id) ? Page() : NotFound();
        return await SignedAsync(
            id,
            password,
            () => signing.OfferAsync(id, new(version, day), Here.Stamp(Submission), Cancel),
            "/drafts"
        );
    }

    /// <summary>The countersigner hands it back.</summary>
    [Takes(Right.SignInspection)]
    public async Task<IActionResult> OnPostHandBackAsync(Guid id, int version, string? remark)
    {
        if (!await LoadAsync(id))
            return NotFound();
        return await AfterAsync(
            await signing.HandBackAsync(id, version, remark ?? string.Empty, Here.Stamp(Submission), Cancel),
            "/drafts",
            () => Task.CompletedTask
        );
    }

    /// <summary>Throws the draft away; the piece is looked at anew.</summary>
    public async Task<IActionResult> OnPostDiscardAsync(Guid id)
    {
        if (!await LoadAsync(id))
            return NotFound();
        return await AfterAsync(
            await inspections.DiscardAsync(id, Here.Stamp(Submission), Cancel),
            $"/piece/{Walk.Piece.Mark}",
            () => Task.CompletedTask
        );
    }

    private async Task<IActionResult> SignedAsync(
        Guid id,
        string? password,
        Func<Task<Checked<Recorded>>> sign,
        string onward
    )
    {
        if (!await LoadAsync(id))
            return await inspections.FindSignedAsync(id, Cancel) is not null
                ? Redirect($"/inspection/{id}")
                : NotFound();
        if (!await Here.ConfirmsAsync(passwords, password, Cancel))
        {
            Refuse(WrongPassword);
            return Page();
        }

        var result = await sign();
        if (!result.Ok && !await LoadAsync(id))
            return NotFound();
        return await AfterAsync(result, onward, () => Task.CompletedTask);
    }

    private static string? Short(string? text) => string.IsNullOrWhiteSpace(text) ? null : text;

    private async Task<bool> LoadAsync(Guid id)
    {
        if (await Walk.LoadAsync(id, inspections, pieces, Here, Cancel) is not { } walk)
            return false;
        Walk = walk;
        PartNames = walk.Parts.ToDictionary(p => p.Path, p => p.Name);
        (Findings, _) = FindingLine.Of(
            VerdictWriter.Write(walk.Verdict),
            OwnDocument.Read(OwnDocument.Write(walk.Case, walk.Verdict)),
            PartNames
        );
        InspectedOn = walk.Draft.InspectedOn ?? walk.Draft.Corrects?.InspectedOn ?? Here.Today;
        NextDue = Intervals
            .Periodic(walk.Piece.Gear.Family, walk.Piece.ServiceClass, walk.Site.Books)
            .After(InspectedOn)!
            .Value;
        Earlier =
            walk.Verdict.Kind is VerdictKind.Fit or VerdictKind.Watch
            && WearSeries.Earlier(walk.Wear(), NextDue) is { } advised
            && advised.Day > InspectedOn
                ? (
                    advised.Day,
                    $"{advised.Series.Criterion.Title}, {PartNames.GetValueOrDefault(advised.Series.Part, advised.Series.Part)}: {Say.Nearing((Wearing)advised.Series.Forecast)}"
                )
                : null;
        Unauthorised = Here.May(Right.SignInspection)
            ? Authorisation.RefusalToSign(
                await people.AuthorisationsAsync(Here.Actor.Id, Cancel),
                walk.Piece.Gear.Family,
                Here.Today
            )
            : null;
        Stale = walk.Instruments.Where(i => !i.IsInDateOn(InspectedOn)).ToList();
        MaySign = new[] { VerdictKind.Fit, VerdictKind.Watch, VerdictKind.Hold, VerdictKind.Remove }
            .Where(v => v >= walk.Verdict.Kind)
            .ToList();
        return true;
    }
}
