using Keralith.Core.People;
using Keralith.Data;
using Keralith.Web.Security;
using Microsoft.AspNetCore.Mvc;

namespace Keralith.Web.Pages.Desk;

/// <summary>The counter: gear handed out and taken back by scanning, and who has what, since when.</summary>
public sealed class IndexModel(Here here, IssueStore issues, PieceStore pieces, SiteStore sites) : YardPage(here)
{
    private const int Longest = 8000;

    /// <summary>What is out, those who have had something longest first.</summary>
    public IReadOnlyList<OutRow> Out { get; private set; } = [];

    public IReadOnlyList<Store> Stores { get; private set; } = [];

    public int? Store { get; private set; }

    /// <summary>Names to choose from: people here, and who took gear lately.</summary>
    public IReadOnlyList<string> People { get; private set; } = [];

    /// <summary>Jobs to choose from: lifts that are open, and what gear went to lately.</summary>
    public IReadOnlyList<string> Jobs { get; private set; } = [];

    /// <summary>What was typed to hand out; kept where it is refused.</summary>
    public string Marks { get; private set; } = string.Empty;

    public string Holder { get; private set; } = string.Empty;

    public string Job { get; private set; } = string.Empty;

    public string? Back { get; private set; }

    /// <summary>What was typed to take back; kept where it is refused.</summary>
    public string Returned { get; private set; } = string.Empty;

    /// <summary>What was just done, in words; null: nothing.</summary>
    public string? Done { get; private set; }

    /// <summary>Why some of it was not.</summary>
    public IReadOnlyList<string> Stayed { get; private set; } = [];

    public bool MayIssue => Here.May(Right.Issue);

    public bool MayHandOver => Here.May(Right.HandOver);

    public async Task OnGetAsync(int? store)
    {
        var marks = ScanModel.Chosen(Request);
        Marks = marks is { Length: <= Longest } ? marks : string.Empty;
        await LoadAsync(store);
    }

    [Takes(Right.Issue)]
    public async Task<IActionResult> OnPostAsync(string? marks, string? holder, string? job, string? back)
    {
        (Marks, Holder, Job, Back) = (marks ?? string.Empty, holder ?? string.Empty, job ?? string.Empty, back);
        if (!IsDay(back, "Wanted back", out var day))
            return await AgainAsync();
        var stayed = new List<string>();
        return await DoAsync(
            Marks,
            stayed,
            found =>
                issues.IssueAsync(found, Holder, Job, day, r => stayed.Add(r.Words), Here.Stamp(Submission), Cancel),
            n =>
            {
                Marks = string.Empty;
                return $"{Count(n)} handed out to {Holder.Trim()}.";
            }
        );
    }

    [Takes(Right.Issue)]
    public async Task<IActionResult> OnPostReturnAsync(string? returned, string[] mark)
    {
        Returned = string.Join('\n', [returned ?? string.Empty, .. mark]).Trim();
        var stayed = new List<string>();
        return await DoAsync(
            Returned,
            stayed,
            found => issues.ReturnAsync(found, r => stayed.Add(r.Words), Here.Stamp(Submission), Cancel),
            n =>
            {
                Returned = string.Empty;
                return $"{Count(n)} taken back.";
            }
        );
    }

    /// <summary>Hands those ticked from who has them to the next.</summary>
    [Takes(Right.HandOver)]
    public async Task<IActionResult> OnPostOverAsync(string[] mark, string? next, string? job)
    {
        var stayed = new List<string>();
        var (holder, work) = (next?.Trim() ?? string.Empty, job ?? string.Empty);
        return await DoAsync(
            string.Join('\n', mark),
            stayed,
            found =>
                issues.HandOverAsync(
                    found,
                    holder,
                    work,
                    null,
                    r => stayed.Add(r.Words),
                    Here.Stamp(Submission),
                    Cancel
                ),
            n => $"{Count(n)} handed over to {holder}."
        );
    }

    /// <summary>Does something with all that was scanned, and says what became of it.</summary>
    private async Task<IActionResult> DoAsync(
        string scanned,
        List<string> stayed,
        Func<IReadOnlyCollection<Guid>, Task<Checked<Recorded>>> act,
        Func<int, string> said
    )
    {
        if (scanned.Length > Longest)
        {
            Refuse("Too many at once: send them in two turns.");
            return await AgainAsync();
        }

        var (found, unknown) = await ScanModel.PiecesAsync(scanned, pieces, Cancel);
        if (found.Count == 0)
        {
            Refuse(unknown.Count == 0 ? "Scan at least one mark." : $"No such piece: {string.Join(", ", unknown)}.");
            return await AgainAsync();
        }

        var result = await act([.. found.Select(p => p.Id)]);
        if (!result.Ok)
        {
            Refuse(result.Refusal!);
            return await AgainAsync();
        }

        Done = result.Value.Repeated ? "That was recorded already." : said(found.Count - stayed.Count);
        Stayed = [.. stayed, .. unknown.Select(u => $"{u}: there is no such piece.")];
        return await AgainAsync();
    }

    private async Task<IActionResult> AgainAsync()
    {
        Submission = Guid.CreateVersion7();
        ModelState.Remove(nameof(Submission));
        await LoadAsync(null);
        return Page();
    }

    private async Task LoadAsync(int? store)
    {
        Store = store;
        Stores = await sites.StoresAsync(Cancel);
        Out = await issues.OutAsync(store, null, Cancel);
        if (MayIssue)
            (People, Jobs) = await issues.KnownAsync(Cancel);
    }

    private static string Count(int pieces) => pieces == 1 ? "1 piece" : $"{pieces} pieces";
}
