using Keralith.Data;

namespace Keralith.Web.Pages.Retired;

/// <summary>What left for good: why, when, how old, who saw it.</summary>
public sealed class IndexModel(Here here, LookBackStore store) : YardPage(here)
{
    private const int Most = 300;

    public string? Q { get; private set; }

    public IReadOnlyList<RetiredRow> Rows { get; private set; } = [];

    /// <summary>Whether any of them has a picture.</summary>
    public bool HasPictures => Rows.Any(r => r.Picture is not null);

    public async Task OnGetAsync(string? q)
    {
        Q = string.IsNullOrWhiteSpace(q) ? null : FreeText.Start(q.Trim(), FreeText.MostAsked);
        Rows = await store.RetiredAsync(Q, Most, Cancel);
    }

    /// <summary>How old it was when it left, in words; empty where nobody knows.</summary>
    public string Age(RetiredRow row)
    {
        if (row.InServiceSince is not { } since)
            return string.Empty;
        var days = Here.DayOf(row.CondemnedAt).DayNumber - since.DayNumber;
        return days < 0 ? string.Empty
            : days < 365 ? $"{days / 30} months"
            : FormattableString.Invariant($"{days / 365.25:0.0} years");
    }
}
