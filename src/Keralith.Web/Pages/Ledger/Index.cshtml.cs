using Keralith.Core.People;
using Keralith.Data;
using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.WebUtilities;

namespace Keralith.Web.Pages.Ledger;

/// <summary>The ledger by piece, person, kind and day.</summary>
[Authorize(Policy = nameof(Right.ReadLedger))]
public sealed class IndexModel(Here here, LedgerStore ledger, SiteStore sites) : YardPage(here)
{
    private const int Most = 60;

    /// <summary>Years a day is looked for in: no ledger has entries of others.</summary>
    private const int FirstYear = 1990,
        LastYear = 2200;

    public IReadOnlyList<LedgerStore.Line> Entries { get; private set; } = [];

    /// <summary>Everybody who has an entry.</summary>
    public IReadOnlyList<(string Actor, string Name)> Actors { get; private set; } = [];

    /// <summary>The stores a pack may be narrowed to.</summary>
    public IReadOnlyList<Store> Stores { get; private set; } = [];

    public string? Piece { get; private set; }

    public string? Who { get; private set; }

    public string? Kind { get; private set; }

    public DateOnly? Day { get; private set; }

    /// <summary>Where earlier entries begin; null: there are none.</summary>
    public string? Earlier { get; private set; }

    public string? Checked { get; private set; }

    public async Task OnGetAsync(string? piece, string? who, string? kind, string? day, long? before)
    {
        if (IsDay(day, "Day", out var read) && read is { Year: >= FirstYear and <= LastYear })
            Day = read;
        Piece = string.IsNullOrWhiteSpace(piece) ? null : ScanModel.MarkIn(piece).ToUpperInvariant();
        (Who, Kind) = (Blank(who), Blank(kind));
        Actors = await ledger.ActorsAsync(Cancel);
        Stores = await sites.StoresAsync(Cancel);
        var site = await Here.SiteAsync(Cancel);
        var (from, until) = Day is { } on
            ? (StartOf(on, site.Zone), StartOf(on.AddDays(1), site.Zone))
            : (default(DateTimeOffset?), default(DateTimeOffset?));
        Entries = await ledger.LinesAsync(new(Piece, Who, Kind, from, until), before, Most, Cancel);
        Earlier =
            Entries.Count < Most
                ? null
                : QueryHelpers.AddQueryString(
                    "/ledger",
                    new Dictionary<string, string?>
                    {
                        ["piece"] = Piece,
                        ["who"] = Who,
                        ["kind"] = Kind,
                        ["day"] = Day?.ToString("yyyy-MM-dd", System.Globalization.CultureInfo.InvariantCulture),
                        ["before"] = $"{Entries[^1].Entry.Number}",
                    }.Where(q => q.Value is not null)
                );
    }

    /// <summary>Re-computes the whole chain.</summary>
    public async Task OnPostAsync()
    {
        var (entries, broken) = await ledger.VerifyAsync(Cancel);
        Checked = broken is null ? $"The chain is whole: {entries} records." : $"The chain is broken: {broken}.";
        await OnGetAsync(null, null, null, null, null);
    }

    private static DateTimeOffset StartOf(DateOnly day, TimeZoneInfo zone)
    {
        var midnight = day.ToDateTime(TimeOnly.MinValue);
        return new DateTimeOffset(midnight, zone.GetUtcOffset(midnight)).ToUniversalTime();
    }

    private static string? Blank(string? text) => string.IsNullOrWhiteSpace(text) ? null : text;
}
