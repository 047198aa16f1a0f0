using Keralith.Core.People;
using Keralith.Core.Register;
using Keralith.Data;
using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Mvc;

namespace Keralith.Web.Pages.Register;

[Authorize(Policy = nameof(Right.Register))]
public sealed class NewModel(Here here, SiteStore sites, PieceStore pieces, ReplacementStore replacements)
    : YardPage(here)
{
    public EntryForm Form { get; private set; } = null!;

    /// <summary>The mark of the piece this form began from; null: none.</summary>
    public string? BegunAs { get; private set; }

    /// <summary>The mark of the piece whose place it takes; null: none's.</summary>
    public string? Replaces { get; private set; }

    /// <summary>What was read from a tag pasted in, in words; null: nothing was.</summary>
    public string? FromTag { get; private set; }

    public async Task OnGetAsync(
        string? mark,
        string? family,
        [FromQuery(Name = "as")] string? like,
        [FromQuery] string? replaces
    )
    {
        Replaces = replaces;
        var fields = new Dictionary<string, string> { ["family"] = family ?? string.Empty };
        if (!string.IsNullOrWhiteSpace(like))
        {
            if (await pieces.FindAsync(like, Cancel) is { } twin)
            {
                BegunAs = twin.Mark;
                var figures = await pieces.BaselinesAsync(twin.Id, Cancel);
                fields = PieceEntryFields.StartOf(twin.Entry(figures.ToDictionary(b => b.Key, b => b.Value.Figure)));
                if (twin.Mark == replaces)
                    fields["peg"] = twin.Peg;
            }
            else
                Refuse($"There is no piece {like.Trim()} to begin from.");
        }

        fields["mark"] = mark ?? string.Empty;
        await ShowAsync(fields, new Dictionary<string, string>());
    }

    /// <summary>
    /// Shows the form again with the questions the chosen family and attributes need, and what a tag pasted in tells; saves
    /// nothing.
    /// </summary>
    public async Task<IActionResult> OnPostAskAsync(string? pasted, [FromForm] string? replaces)
    {
        Replaces = replaces;
        var fields = EntryForm.Typed(Request.Form).ToDictionary();
        fields.Remove("pasted");
        var told = TagText.Read(pasted).Where(t => string.IsNullOrWhiteSpace(fields.GetValueOrDefault(t.Key))).ToList();
        foreach (var (field, value) in told)
            fields[field] = value;
        if (!string.IsNullOrWhiteSpace(pasted))
            FromTag =
                told.Count == 0
                    ? "Nothing in it could be told apart: type it field by field."
                    : $"Read from the tag: {string.Join(", ", told.Select(t => t.Value.Replace('\n', ',')))}. Hold each against the tag.";
        var faults = new Dictionary<string, string>();
        if (
            fields.GetValueOrDefault("mark") is { Length: > 0 } mark
            && await pieces.FindAsync(mark, Cancel) is { } taken
        )
            faults["mark"] = $"{taken.Mark} is registered already.";
        await ShowAsync(fields, faults);
        return Page();
    }

    public async Task<IActionResult> OnPostAsync([FromForm] string? replaces)
    {
        Replaces = replaces;
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
        var result =
            entries is [var one] && !string.IsNullOrWhiteSpace(replaces)
                ? await replacements.RegisterAsync(one, Submission, replaces, Here.Stamp(Submission), Cancel)
                : await pieces.RegisterAsync(
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
    ) =>
        Form = new(typed, faults, await sites.StoresAsync(Cancel), IsNew: true)
        {
            Offers = await pieces.OffersAsync(Cancel),
        };
}
