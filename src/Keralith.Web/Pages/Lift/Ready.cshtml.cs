using Keralith.Core.Lifts;
using Keralith.Core.People;
using Keralith.Data;
using Keralith.Web.Security;
using Microsoft.AspNetCore.Mvc;

namespace Keralith.Web.Pages.Lift;

/// <summary>Before and after a lift: the checklist, the signature of a critical one, its gear handed out, the trial lift and its end.</summary>
public sealed class ReadyModel(Here here, LiftStore lifts, PieceStore pieces, Passwords passwords)
    : LiftPage(here, lifts, pieces)
{
    public IReadOnlyList<LiftRecord> Records { get; private set; } = [];

    /// <summary>What was ticked, shown again after a refusal.</summary>
    public IReadOnlySet<string> Ticked { get; private set; } = new HashSet<string>();

    /// <summary>The checklist answered on this version of the plan; null while it is not.</summary>
    public LiftRecord? Answered => Records.FirstOrDefault(r => r.Kind == "checked" && r.Version == Row.Version);

    public LiftRecord? Signature => Records.FirstOrDefault(r => r.Kind == "signed" && r.Version == Row.Version);

    /// <summary>Pieces of the plan that can be handed out now, and those that can't with why.</summary>
    public IReadOnlyList<(PieceRow Piece, string? WhyNot)> ToHandOut =>
        [
            .. Lift
                .Pieces.Values.OrderBy(p => p.Mark, StringComparer.Ordinal)
                .Select(p =>
                    (
                        p,
                        p.Issued is { } held ? $"out with {held.Holder}"
                        : Lift.Gear[p.Mark].Use is { MayBeUsed: false } use ? string.Join(" ", use.Reasons)
                        : null
                    )
                ),
        ];

    public async Task<IActionResult> OnGetAsync(Guid id) => await ShowAsync(id) ? Page() : NotFound();

    public async Task<IActionResult> OnPostCheckAsync(Guid id, int version, string[] done, string? note)
    {
        Ticked = done.ToHashSet();
        if (!await ShowAsync(id))
            return NotFound();
        if (Lift.Verdict is not { MayBeLifted: true })
            Refuse("The plan itself does not stand yet: see the bench.");
        else if (LiftChecklist.Open(Ticked) is { Count: > 0 } open)
            Refuse(
                $"Not answered yet: {string.Join("; ", open.Select(o => o.Text.ToLowerInvariant()))}. Nothing was recorded."
            );
        if (Refused is not null)
            return Page();
        var said = Ticked.Order().ToDictionary(t => t, _ => "yes");
        if (note is { Length: > 0 })
            said["note"] = Short(note);
        var becomes = Lift.Verdict!.AsksSignature ? (LiftState?)null : LiftState.Ready;
        return await AfterAsync(
            await Lifts.RecordAsync(
                id,
                version,
                "checked",
                Right.PlanLift,
                said,
                becomes,
                Here.Stamp(Submission),
                Cancel
            ),
            $"/lift/{id}/ready",
            () => ShowAsync(id)
        );
    }

    /// <summary>A qualified person signs a critical lift; the password is asked again.</summary>
    public async Task<IActionResult> OnPostSignAsync(Guid id, int version, string? password)
    {
        if (!Here.May(Right.SignLift))
            return Forbid();
        if (!await ShowAsync(id))
            return NotFound();
        if (Answered is null)
            Refuse("The checklist is answered first.");
        else if (await passwords.CheckAsync(Here.Actor.Username, password, Here.Now, Cancel) is null)
            Refuse("That is not your password. Nothing was signed.");
        if (Refused is not null)
            return Page();
        return await AfterAsync(
            await Lifts.RecordAsync(
                id,
                version,
                "signed",
                Right.SignLift,
                new Dictionary<string, string>(),
                LiftState.Ready,
                Here.Stamp(Submission),
                Cancel
            ),
            $"/lift/{id}/ready",
            () => ShowAsync(id)
        );
    }

    /// <summary>Hands out in one press what may be used; what may not stays with its reasons.</summary>
    public async Task<IActionResult> OnPostIssueAsync(Guid id, int version, string? holder, DateOnly? back)
    {
        if (!Here.May(Right.Issue))
            return Forbid();
        if (!await ShowAsync(id))
            return NotFound();
        var usable = ToHandOut.Where(p => p.WhyNot is null).Select(p => p.Piece.Id).ToList();
        if (string.IsNullOrWhiteSpace(holder))
            Refuse("Name who takes it.");
        else if (usable.Count == 0)
            Refuse("Nothing of it can be handed out now.");
        if (Refused is not null)
            return Page();
        return await AfterAsync(
            await Lifts.IssueAsync(
                id,
                version,
                usable,
                Short(holder),
                back,
                Here.Today,
                Here.Stamp(Submission),
                Cancel
            ),
            $"/lift/{id}/ready",
            () => ShowAsync(id)
        );
    }

    public async Task<IActionResult> OnPostTrialAsync(Guid id, int version, string? level, string? links, string? note)
    {
        if (!await ShowAsync(id))
            return NotFound();
        if (level is not ("yes" or "no"))
            Refuse("Say whether it hung level.");
        else if (level == "no" && string.IsNullOrWhiteSpace(links) && string.IsNullOrWhiteSpace(note))
            Refuse("Say what is rigged otherwise: links taken up, or a note.");
        if (Refused is not null)
            return Page();
        var said = new Dictionary<string, string>
        {
            ["level"] = level!,
            ["links taken up"] = Short(links),
            ["note"] = Short(note),
        };
        return await AfterAsync(
            await Lifts.RecordAsync(id, version, "trial", Right.PlanLift, said, null, Here.Stamp(Submission), Cancel),
            $"/lift/{id}/ready",
            () => ShowAsync(id)
        );
    }

    public async Task<IActionResult> OnPostEndAsync(Guid id, int version, string? note)
    {
        if (!await ShowAsync(id))
            return NotFound();
        return await AfterAsync(
            await Lifts.RecordAsync(
                id,
                version,
                "ended",
                Right.PlanLift,
                new Dictionary<string, string> { ["note"] = Short(note) },
                LiftState.Done,
                Here.Stamp(Submission),
                Cancel
            ),
            "/lift",
            () => ShowAsync(id)
        );
    }

    private async Task<bool> ShowAsync(Guid id)
    {
        if (!await LoadAsync(id))
            return false;
        Records = await Lifts.RecordsAsync(id, Cancel);
        return true;
    }

    private static string Short(string? text) => text is { Length: > 300 } ? text[..300] : text?.Trim() ?? string.Empty;
}
