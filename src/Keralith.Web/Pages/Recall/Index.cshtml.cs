using Keralith.Core.Custody;
using Keralith.Core.People;
using Keralith.Core.Register;
using Keralith.Data;
using Keralith.Web.Security;
using Microsoft.AspNetCore.Mvc;

namespace Keralith.Web.Pages.Recall;

/// <summary>Recalls: what a maker or the site calls back, previewed before it is set.</summary>
public sealed class IndexModel(Here here, RecallStore recalls) : YardPage(here)
{
    private const int MostShown = 200;

    public IReadOnlyList<RecallRow> Recalls { get; private set; } = [];

    /// <summary>How many pieces a standing recall means and never held; by recall.</summary>
    public IReadOnlyDictionary<Guid, int> Missed { get; private set; } = new Dictionary<Guid, int>();

    /// <summary>What was typed, by field.</summary>
    public IReadOnlyDictionary<string, string> Typed { get; private set; } = new Dictionary<string, string>();

    /// <summary>What the recall would be about; null: nothing asked yet, or it can't be read.</summary>
    public RecallMatch? Match { get; private set; }

    public IReadOnlyList<Piece> Meant { get; private set; } = [];

    public int All { get; private set; }

    /// <summary>Makes near what was written and not meant by it, with how many pieces there are of each.</summary>
    public IReadOnlyList<(string Maker, string? Model, int Pieces)> Near { get; private set; } = [];

    /// <summary>How many pieces have no maker on record, and so may be meant though no recall finds them.</summary>
    public int Makerless { get; private set; }

    public async Task OnGetAsync()
    {
        Typed = Request.Query.Where(f => f.Value[0] is { Length: <= 120 }).ToDictionary(f => f.Key, f => f.Value[0]!);
        await LoadAsync(Typed.ContainsKey("maker"));
    }

    [Takes(Right.Recall)]
    public async Task<IActionResult> OnPostAsync(string? reason, string? source)
    {
        Typed = Request.Form.Where(f => f.Value[0] is { Length: <= 400 }).ToDictionary(f => f.Key, f => f.Value[0]!);
        await LoadAsync(true);
        if (Match is not { } match)
            return Page();
        return await AfterAsync(
            await recalls.SetAsync(match, reason, source, Here.Stamp(Submission), Cancel),
            $"/recall/{Submission}",
            () => LoadAsync(true)
        );
    }

    public string this[string field] => Typed.GetValueOrDefault(field) ?? string.Empty;

    private async Task LoadAsync(bool asked)
    {
        Recalls = await recalls.AllAsync(Cancel);
        Missed = await recalls.MissedAsync(Cancel);
        if (
            !asked
            || !IsDay(this["from"], "In service from", out var from)
            || !IsDay(this["until"], "until", out var until)
        )
            return;
        var read = RecallMatch.Read(
            this["maker"],
            this["model"],
            this["batch"],
            this["serialFrom"],
            this["serialTo"],
            from,
            until
        );
        if (!read.Ok)
        {
            Refuse(read.Refusal!);
            return;
        }

        Match = read.Value;
        (var meant, All) = await recalls.PreviewAsync(Match, MostShown, Cancel);
        Meant = meant;
        Near = await recalls.NearAsync(Match, Cancel);
        Makerless = await recalls.MakerlessAsync(Cancel);
    }
}
