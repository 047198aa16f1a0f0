using System.Text.Json;
using Keralith.Core.Formats;
using Keralith.Core.Gear;
using Keralith.Core.Judgement;

namespace Keralith.Web.Pages.Inspect;

/// <summary>
/// One finding as a verdict document states it: a signed record reads as it was judged, whatever the rules say today.
/// </summary>
public sealed record FindingLine(
    string Outcome,
    string Part,
    string Title,
    string Reason,
    string Reference,
    string Book,
    string? Books
)
{
    /// <summary>
    /// The findings of a verdict document and of what the site asked of its own, worst first, and the unanswered questions.
    /// </summary>
    public static (IReadOnlyList<FindingLine> Findings, IReadOnlyList<(string Part, string Title)> Missing) Of(
        string verdictDocument,
        IReadOnlyList<OwnAsked> own,
        IReadOnlyDictionary<string, string> partNames
    )
    {
        using var document = JsonDocument.Parse(verdictDocument);
        string Name(string part) => partNames.GetValueOrDefault(part, part);
        var findings = document
            .RootElement.GetProperty("findings")
            .EnumerateArray()
            .Select(f =>
            {
                var book = f.GetProperty("book").GetString()!;
                var books = f.GetProperty("books")
                    .EnumerateArray()
                    .Select(b =>
                        (
                            Book: b.GetProperty("book").GetString()!,
                            Outcome: b.GetProperty("outcome").GetString()!,
                            From: b.TryGetProperty("from", out var from) ? from.GetString() : null
                        )
                    )
                    .Where(b => b.Outcome is not null)
                    .ToList();
                return new FindingLine(
                    f.GetProperty("outcome").GetString()!,
                    Name(f.GetProperty("part").GetString()!),
                    TitleOf(f.GetProperty("criterion").GetString()!),
                    f.GetProperty("reason").GetString()!,
                    f.GetProperty("reference").GetString()!,
                    BookFinding.GovernsWords(book, books.Find(b => b.Book == book).From),
                    books.Select(b => b.Outcome).Distinct().Count() > 1
                        ? BookFinding.DifferWords(books.Select(b => (b.Book, b.Outcome)))
                        : null
                );
            })
            .Concat(
                own.Where(o => o.Outcome is not null)
                    .Select(o => new FindingLine(
                        o.Outcome!,
                        Name(o.Part),
                        o.Title,
                        o.Reason!,
                        $"{o.Source}, asked by this site",
                        BookFinding.GovernsWords("site", null),
                        null
                    ))
            );
        var order = new[] { "remove", "hold", "watch", "clear" };
        return (
            findings.OrderBy(f => Array.IndexOf(order, f.Outcome)).ToList(),
            document
                .RootElement.GetProperty("missing")
                .EnumerateArray()
                .Select(m => (m.GetProperty("part").GetString()!, TitleOf(m.GetProperty("criterion").GetString()!)))
                .Concat(own.Where(o => o.Outcome is null).Select(o => (o.Part, o.Title)))
                .ToList()
        );
    }

    private static string TitleOf(string criterion) => Catalogue.Find(criterion)?.Title ?? criterion;
}
