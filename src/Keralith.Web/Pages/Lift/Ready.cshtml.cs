using Keralith.Core.Lifts;
using Keralith.Core.People;
using Keralith.Core.Register;
using Keralith.Data;
using Keralith.Web.Security;
using Microsoft.AspNetCore.Mvc;

namespace Keralith.Web.Pages.Lift;

/// <summary>
/// Before and after a lift: the checklist, the signature of a critical one, its gear handed out, the trial lift and its
/// end.
/// </summary>
public sealed class ReadyModel(Here here, LiftStore lifts, PieceStore pieces, IssueStore issues, Passwords passwords)
    : LiftPage(here, lifts, pieces)
{
    public IReadOnlyList<LiftRecord> Records => Lift.Records;

    /// <summary>What was ticked, shown again after a refusal.</summary>
    public IReadOnlySet<string> Ticked { get; private set; } = new HashSet<string>();

    /// <summary>Why a line does not apply, by code, shown again after a refusal.</summary>
    public IReadOnlyDictionary<string, string> NotApplying { get; private set; } = new Dictionary<string, string>();

    /// <summary>The checklist answered on this version of the plan; null while it is not.</summary>
    public LiftRecord? Answered => Records.FirstOrDefault(r => r.Kind == "checked" && r.Version == Row.Version);

    /// <summary>The marks of what is out for it still.</summary>
    public IReadOnlyList<string> StillOut { get; private set; } = [];

    public LiftRecord? Signature => Records.FirstOrDefault(r => r.Kind == "signed" && r.Version == Row.Version);

    /// <summary>Pieces of the plan that can be handed out now, and those that can't with why.</summary>
    public IReadOnlyList<(Piece Piece, string? WhyNot)> ToHandOut =>
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

    public Task<IActionResult> OnPostCheckAsync(Guid id, int version, string[] done, string? note)
    {
        Ticked = done.Where(d => !string.IsNullOrEmpty(d)).ToHashSet();
        NotApplying = Request
            .Form.Where(f => f.Key.StartsWith("not:", StringComparison.Ordinal) && f.Value[0] is { Length: > 0 })
            .ToDictionary(f => f.Key[4..], f => f.Value[0]!);
        return StepAsync(id, version, new CheckLift(Ticked, Short(note)) { NotApplying = NotApplying });
    }

    /// <summary>A qualified person signs: the password is asked again.</summary>
    [Takes(Right.SignLift)]
    public async Task<IActionResult> OnPostSignAsync(Guid id, int version, string? password)
    {
        if (await Here.ConfirmsAsync(passwords, password, Cancel))
            return await StepAsync(id, version, new SignLift());
        if (!await ShowAsync(id))
            return NotFound();
        Refuse("That is not your password. Nothing was signed.");
        return Page();
    }

    /// <summary>Hands out in one press all the gear of the plan.</summary>
    [Takes(Right.Issue)]
    public async Task<IActionResult> OnPostIssueAsync(Guid id, int version, string? holder, string? back)
    {
        if (IsDay(back, "Wanted back", out var day))
            return await StepAsync(id, version, new HandOutLift(Short(holder), day));
        return await LoadAsync(id) ? Page() : NotFound();
    }

    public Task<IActionResult> OnPostTrialAsync(
        Guid id,
        int version,
        string? level,
        bool slipped,
        string? links,
        string? note,
        string? low,
        string? by
    )
    {
        bool? hung = level switch
        {
            "yes" => true,
            "no" => false,
            _ => null,
        };
        return StepAsync(
            id,
            version,
            new TryLift(hung, slipped, Short(links), Short(note)) { Low = Short(low), By = Short(by) }
        );
    }

    public Task<IActionResult> OnPostEndAsync(Guid id, int version, string? note) =>
        StepAsync(id, version, new EndLift(Short(note)));

    public Task<IActionResult> OnPostCallOffAsync(Guid id, int version, string? note) =>
        StepAsync(id, version, new CallOffLift(Short(note)));

    private async Task<IActionResult> StepAsync(Guid id, int version, LiftStep step, string? onward = null)
    {
        var result = await Lifts.StepAsync(id, version, step, Here.Stamp(Submission), Cancel);
        return result.Refusal is { Kind: RefusalKind.NotFound } || !await ShowAsync(id)
            ? NotFound()
            : await AfterAsync(result, onward ?? $"/lift/{id}/ready", () =>
            {
                Submission = Guid.CreateVersion7();
                return Task.CompletedTask;
            });
    }

    private async Task<bool> ShowAsync(Guid id)
    {
        if (!await LoadAsync(id))
            return false;
        if (!Row.State.IsOpen())
            StillOut = [.. (await issues.OutAsync(null, id, Cancel)).Select(o => o.Piece.Mark)];
        return true;
    }

    private static string Short(string? text) => text?.Trim() ?? string.Empty;
}
