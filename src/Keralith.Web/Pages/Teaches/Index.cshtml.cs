using Keralith.Core.Gear;
using Keralith.Core.People;
using Keralith.Data;
using Keralith.Web.Showing;
using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Mvc;

namespace Keralith.Web.Pages.Teaches;

/// <summary>What the record teaches: why gear leaves and when, what is found where, what to order.</summary>
[Authorize(Policy = nameof(Right.ReadSettings))]
public sealed class IndexModel(Here here, TeachingStore teaching) : TablePage(here)
{
    /// <summary>A table of the page: its heading, what its figures are, its lines.</summary>
    public sealed record Part(string Code, string Heading, string Says, IReadOnlyList<TaughtLine> Lines);

    public Taught Taught { get; private set; } = null!;

    public IReadOnlyList<Part> Parts { get; private set; } = [];

    /// <summary>The page, or one of its tables as CSV.</summary>
    public async Task<IActionResult> OnGetAsync(string? csv)
    {
        Taught = await teaching.AsOfAsync(Here.Today, Cancel);
        Parts =
        [
            new("why", "Why gear leaves", "by what was found on it, of all condemned", Taught.Why),
            new("make", "Which makes leave", "of all ever registered of that make", Taught.ByMake),
            new("store", "From which store", "of all ever registered there", Taught.ByStore),
            new("findings", "What stops gear", "findings that held or removed, of all inspections", Taught.Findings),
            new(
                "found-at",
                "At which inspection it is found",
                "inspections that found something, of that kind",
                Taught.FoundAt
            ),
            new("inspectors", "Who finds it", "inspections that stopped a piece, of all they made", Taught.ByInspector),
        ];
        if (Parts.FirstOrDefault(p => p.Code == csv) is { } part)
            return await CsvAsync(
                part.Code,
                ["name", "count", "of"],
                part.Lines.Select(l => new object?[] { Name(l), l.Count, l.Of })
            );
        return csv switch
        {
            "expected" => await CsvAsync(
                "expected",
                ["family", "size", "pieces", "left", "expected", "least", "most", "cost"],
                Taught
                    .Expected.Concat(Taught.BySize)
                    .Select(e =>
                        new object?[]
                        {
                            e.Family.Name,
                            e.Size,
                            e.Rate.Pieces,
                            e.Rate.Removed,
                            Math.Round(e.Rate.Expected, 1),
                            Math.Round(e.Rate.Range.Least, 1),
                            Math.Round(e.Rate.Range.Most, 1),
                            e.Size is null ? string.Join("; ", e.Costs) : e.Cost?.ToString(),
                        }
                    )
            ),
            "pace" => await CsvAsync(
                "pace",
                ["of", "name", "measures", "share_a_year"],
                Taught
                    .PaceByMake.Select(l => ("make", l))
                    .Concat(Taught.PaceByStore.Select(l => ("store", l)))
                    .Select(x => new object?[] { x.Item1, x.l.Name, x.l.Measures, Math.Round(x.l.PerYear, 4) })
            ),
            "quarters" => await CsvAsync(
                "quarters",
                ["from", "found", "of"],
                Taught.Quarters.Select(q => new object?[] { $"{q.From:yyyy-MM-dd}", q.Found, q.Of })
            ),
            "differences" => await CsvAsync(
                "differences",
                ["inspector", "criterion", "found", "looked", "others_found", "others_looked"],
                Taught.Differences.Select(d =>
                    new object?[]
                    {
                        d.Own.Who,
                        Name(d.Own.Criterion),
                        d.Own.Found,
                        d.Own.Looked,
                        d.Others.Found,
                        d.Others.Looked,
                    }
                )
            ),
            "ages" => await CsvAsync(
                "ages",
                ["family", "left", "youngest", "middle", "oldest"],
                Taught.Ages.Select(a => new object?[] { a.Family.Name, a.Count, a.Youngest, a.Middle, a.Oldest })
            ),
            _ => Page(),
        };
    }

    /// <summary>A line's name as people read it: a criterion by what it is of.</summary>
    public static string Name(TaughtLine line) => line.Name.Length == 0 ? "no maker on record" : Name(line.Name);

    /// <summary>A criterion by what it is of; what is none by itself.</summary>
    public static string Name(string id) => Catalogue.Find(id) is { } criterion ? Say.Criterion(criterion) : id;

    /// <summary>Where the records behind a figure are.</summary>
    /// <param name="value">Of which one.</param>
    /// <param name="and">What tells it apart further; null: nothing.</param>
    public static string Behind(TaughtBy by, string value, string? and = null) =>
        "/teaches/records"
        + QueryString.Create(
            new KeyValuePair<string, string?>[] { new("of", Code.Of(by)), new("is", value), new("and", and) }.Where(q =>
                q.Value is not null
            )
        );

    private const int Few = 10;

    /// <summary>Whether a family's line says more than that there is little of it.</summary>
    public static bool Says(ExpectedLine line) => line.Rate.Removed > 0 || line.Rate.Pieces >= Few;

    /// <summary>Where the strips of what will leave end: the largest count any of them may come to.</summary>
    public double MostExpected => Taught.Expected.Where(Says).Select(e => e.Rate.Range.Most).Append(1).Max();

    /// <summary>Of a thousand how many, as a whole number.</summary>
    public static int InThousand(TaughtLine line) => line.Of == 0 ? 0 : (int)Math.Round(1000.0 * line.Count / line.Of);

    /// <summary>A share as a figure of the width it is drawn in, from 0 to 100.</summary>
    public static double Share(TaughtLine line) => line.Of == 0 ? 0 : 100.0 * line.Count / line.Of;
}
