using Keralith.Core.People;
using Keralith.Data;
using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Mvc;

namespace Keralith.Web.Pages.Teaches;

/// <summary>The records behind a figure of what the record teaches.</summary>
[Authorize(Policy = nameof(Right.ReadSettings))]
public sealed class RecordsModel(Here here, TaughtRecords store) : TablePage(here)
{
    public IReadOnlyList<TaughtRecord> Rows { get; private set; } = [];

    /// <summary>What they are the records of, in words.</summary>
    public string Of { get; private set; } = string.Empty;

    /// <param name="of">The code of a <see cref="TaughtBy"/>.</param>
    /// <param name="value">Of which one.</param>
    /// <param name="and">What tells it apart further.</param>
    public async Task<IActionResult> OnGetAsync(
        string? of,
        [FromQuery(Name = "is")] string? value,
        string? and,
        bool csv
    )
    {
        if (Code.Find<TaughtBy>(of) is not { } by)
            return NotFound();
        Of = Words(by, value ?? string.Empty, and);
        Rows = await store.OfAsync(by, value ?? string.Empty, and, Here.Today, Cancel);
        return csv
            ? await CsvAsync(
                "records",
                ["mark", "family", "day", "what", "by"],
                Rows.Select(r => new object?[] { r.Mark, r.Family, $"{r.On:yyyy-MM-dd}", What(r), r.By })
            )
            : Page();
    }

    /// <summary>What a record says, in words.</summary>
    public static string What(TaughtRecord record) =>
        string.Join(
            ". ",
            new[] { record.Said?.TrimEnd('.'), string.Join("; ", record.Criteria.Select(IndexModel.Name)) }.Where(w =>
                !string.IsNullOrEmpty(w)
            )
        );

    private static string Words(TaughtBy by, string value, string? and)
    {
        var name = value.Length == 0 ? "no maker on record" : IndexModel.Name(value);
        var family = Core.Gear.GearFamilies.Find(value)?.Name ?? value;
        return by switch
        {
            TaughtBy.Why => $"Condemned: {name}",
            TaughtBy.Make => $"Condemned of {name}",
            TaughtBy.Store => $"Condemned from {name}",
            TaughtBy.Family => $"Condemned, in service since a known day: {family}",
            TaughtBy.Left => $"Condemned in the last two years: {family} {and}".TrimEnd(),
            TaughtBy.Finding => $"Inspections that found: {name}",
            TaughtBy.Kind => $"Inspections that found something: {value}",
            TaughtBy.Inspector => $"Inspections by {value} that stopped a piece",
            TaughtBy.InspectorFinding => $"Inspections by {and} that found: {name}",
            TaughtBy.PaceOfMake => $"Measures read twice, of {name}",
            TaughtBy.PaceOfStore => $"Measures read twice, in {value}",
        };
    }
}
