using Keralith.Core.People;
using Keralith.Core.Register;
using Keralith.Data;
using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Mvc;

namespace Keralith.Web.Pages.Register;

[Authorize(Policy = nameof(Right.Register))]
public sealed class NewModel(Here here, SiteStore sites, PieceStore pieces) : YardPage(here)
{
    public EntryForm Form { get; private set; } = null!;

    public async Task OnGetAsync(string? mark, string? family) => await ShowAsync(new Dictionary<string, string> { ["mark"] = mark ?? string.Empty, ["family"] = family ?? string.Empty }, new Dictionary<string, string>());

    /// <summary>Shows the form again with the questions the chosen family and attributes need; saves nothing.</summary>
    public async Task<IActionResult> OnPostAskAsync()
    {
        await ShowAsync(EntryForm.Typed(Request.Form), new Dictionary<string, string>());
        return Page();
    }

    public async Task<IActionResult> OnPostAsync()
    {
        var typed = EntryForm.Typed(Request.Form);
        var (entry, faults) = PieceEntryReader.Read(typed);
        if (entry is null)
        {
            Refuse(faults.Count == 1 ? "One field wants another look; nothing was saved." : $"{faults.Count} fields want another look; nothing was saved.");
            await ShowAsync(typed, faults);
            return Page();
        }

        var result = await pieces.RegisterAsync(entry, Submission, Here.Stamp(Submission), Cancel);
        return await AfterAsync(result, $"/piece/{entry.Mark}", () => ShowAsync(typed, new Dictionary<string, string> { ["mark"] = result.Fault! }));
    }

    private async Task ShowAsync(IReadOnlyDictionary<string, string> typed, IReadOnlyDictionary<string, string> faults) =>
        Form = new(typed, faults, await sites.StoresAsync(Cancel), IsNew: true);
}
