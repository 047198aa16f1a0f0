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

    public async Task OnGetAsync(string? mark, string? family) =>
        await ShowAsync(
            new Dictionary<string, string> { ["mark"] = mark ?? string.Empty, ["family"] = family ?? string.Empty },
            new Dictionary<string, string>()
        );

    /// <summary>Shows the form again with the questions the chosen family and attributes need; saves nothing.</summary>
    public async Task<IActionResult> OnPostAskAsync()
    {
        await ShowAsync(EntryForm.Typed(Request.Form), new Dictionary<string, string>());
        return Page();
    }

    public async Task<IActionResult> OnPostAsync()
    {
        var typed = EntryForm.Typed(Request.Form);
        var (entries, faults) = PieceEntryReader.ReadAlike(typed);
        if (entries.Count == 0)
        {
            Refuse(
                faults.Count == 1
                    ? "One field wants another look; nothing was saved."
                    : $"{faults.Count} fields want another look; nothing was saved."
            );
            await ShowAsync(typed, faults);
            return Page();
        }

        // The first piece takes the form's id, so that the same form sent twice is one record; the others' ids are made
        // here with it.
        var result = await pieces.RegisterAsync(
            entries.Select((e, i) => (i == 0 ? Submission : Guid.CreateVersion7(), e)).ToList(),
            Here.Stamp(Submission),
            Cancel
        );
        var onward =
            entries.Count == 1
                ? $"/piece/{entries[0].Mark}"
                : $"/register?q={Uri.EscapeDataString(CommonStart(entries.Select(e => e.Mark.Text)))}&state=new";
        return await AfterAsync(result, onward, () =>
            ShowAsync(
                typed,
                new Dictionary<string, string>
                {
                    [entries.Count == 1 ? "mark" : PieceEntryReader.Alike] = result.Fault!,
                }
            )
        );
    }

    private static string CommonStart(IEnumerable<string> marks) =>
        marks.Aggregate((a, b) => a[..a.Zip(b).TakeWhile(p => p.First == p.Second).Count()]);

    private async Task ShowAsync(
        IReadOnlyDictionary<string, string> typed,
        IReadOnlyDictionary<string, string> faults
    ) => Form = new(typed, faults, await sites.StoresAsync(Cancel), IsNew: true);
}
