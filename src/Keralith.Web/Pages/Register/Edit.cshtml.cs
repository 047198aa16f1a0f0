using Keralith.Core.People;
using Keralith.Core.Register;
using Keralith.Data;
using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Mvc;

namespace Keralith.Web.Pages.Register;

[Authorize(Policy = nameof(Right.Register))]
public sealed class EditModel(Here here, SiteStore sites, PieceStore pieces, FileStore files) : YardPage(here)
{
    /// <summary>Why a fact that a verdict stands on is changed.</summary>
    [BindProperty]
    public string? ChangeWhy { get; set; }

    /// <summary>The paper that shows it; null: read from the piece.</summary>
    [BindProperty]
    public Guid? ChangeFile { get; set; }

    /// <summary>Whether a verdict stands on what is entered: a change says why.</summary>
    public bool AsksWhy { get; private set; }

    /// <summary>The piece's papers.</summary>
    public IReadOnlyList<FileRow> Papers { get; private set; } = [];

    public EntryForm Form { get; private set; } = null!;

    /// <summary>The version the change is made on.</summary>
    public int SeenVersion { get; private set; }

    /// <summary>Whether a new tag was just fitted and is to be read.</summary>
    public bool Retagged { get; private set; }

    public async Task<IActionResult> OnGetAsync(string mark, bool retagged)
    {
        Retagged = retagged;
        if (await pieces.FindAsync(mark, Cancel) is not { } piece)
            return NotFound();
        SeenVersion = piece.Version;
        await AskWhyAsync(piece);
        await ShowAsync(
            EntryForm.Of(piece, await pieces.BaselinesAsync(piece.Id, Cancel)),
            new Dictionary<string, string>()
        );
        return Page();
    }

    public async Task<IActionResult> OnPostAskAsync(string mark, int version)
    {
        if (await pieces.FindAsync(mark, Cancel) is not { } piece)
            return NotFound();
        SeenVersion = version;
        await AskWhyAsync(piece);
        await ShowAsync(EntryForm.Typed(Request.Form), new Dictionary<string, string>());
        return Page();
    }

    public async Task<IActionResult> OnPostAsync(string mark, int version)
    {
        if (await pieces.FindAsync(mark, Cancel) is not { } piece)
            return NotFound();
        SeenVersion = version;
        await AskWhyAsync(piece);
        var typed = EntryForm.Typed(Request.Form);
        var (entry, faults) = PieceEntryReader.Read(typed);
        if (entry is null)
        {
            Refuse(
                $"{faults.Count} {(faults.Count == 1 ? "field wants" : "fields want")} another look; nothing was saved."
            );
            await ShowAsync(typed, faults);
            return Page();
        }

        var result = await pieces.EditAsync(
            piece.Id,
            version,
            entry,
            new(ChangeWhy, ChangeFile),
            Here.Stamp(Submission),
            Cancel
        );
        return await AfterAsync(result, $"/piece/{piece.Mark}", async () =>
        {
            Submission = Guid.CreateVersion7();
            if (result.Refusal!.Kind != RefusalKind.Conflict)
            {
                await ShowAsync(typed, new Dictionary<string, string>());
                return;
            }

            // What was typed stays; what stands now is named, so that the next press is made knowingly.
            SeenVersion = piece.Version;
            await ShowAsync(
                typed,
                ChangedMeanwhile(typed, EntryForm.Of(piece, await pieces.BaselinesAsync(piece.Id, Cancel)))
            );
        });
    }

    private async Task AskWhyAsync(Piece piece)
    {
        AsksWhy = piece.Verdict is not null || piece.IsCarried;
        Papers = await files.OfAsync(piece.Id, Cancel);
    }

    private static Dictionary<string, string> ChangedMeanwhile(
        IReadOnlyDictionary<string, string> typed,
        IReadOnlyDictionary<string, string> now
    ) =>
        now.Where(f => typed.TryGetValue(f.Key, out var mine) && mine != f.Value)
            .ToDictionary(
                f => f.Key,
                f => f.Value.Length == 0 ? "On record now: nothing." : $"On record now: {f.Value}."
            );

    private async Task ShowAsync(
        IReadOnlyDictionary<string, string> typed,
        IReadOnlyDictionary<string, string> faults
    ) => Form = new(typed, faults, await sites.StoresAsync(Cancel), IsNew: false);
}
