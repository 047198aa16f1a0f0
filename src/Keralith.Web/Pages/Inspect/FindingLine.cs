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
    /// <summary>The limit of the governing book in words; null where it has no figure.</summary>
    public string? Limit { get; init; }

    /// <summary>The share of the allowance used up; null where there is none.</summary>
    public decimal? Used { get; init; }

    /// <summary>What was read, with what uncertainty; null where nothing was measured, or the case is not at hand.</summary>
    public string? Read { get; init; }

    /// <summary>The figure when new that was judged by; null where there was none.</summary>
    public string? WhenNew { get; init; }

    /// <summary>
    /// The findings of a verdict document and of what the site asked of its own, worst first, and the unanswered questions.
    /// </summary>
    /// <param name="verdictDocument">As it was judged.</param>
    /// <param name="own">What the site asked of its own.</param>
    /// <param name="partNames">Names of parts by their paths.</param>
    /// <param name="caseDocument">What was judged; null: readings are left out.</param>
    public static (IReadOnlyList<FindingLine> Findings, IReadOnlyList<(string Part, string Title)> Missing) Of(
        string verdictDocument,
        IReadOnlyList<OwnAsked> own,
        IReadOnlyDictionary<string, string> partNames,
        string? caseDocument = null
    )
    {
        using var document = JsonDocument.Parse(verdictDocument);
        var readings = Readings(caseDocument);
        string Name(string part) => partNames.GetValueOrDefault(part, part);
        var findings = document
            .RootElement.GetProperty("findings")
            .EnumerateArray()
            .Select(f => One(f, Name, readings))
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

    private static FindingLine One(
        JsonElement f,
        Func<string, string> name,
        Dictionary<(string Part, string Criterion), (string? Read, string? WhenNew)> readings
    )
    {
        var (part, criterion) = (f.GetProperty("part").GetString()!, f.GetProperty("criterion").GetString()!);
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
        var (read, whenNew) = readings.GetValueOrDefault((part, criterion));
        return new(
            f.GetProperty("outcome").GetString()!,
            name(part),
            TitleOf(criterion),
            f.GetProperty("reason").GetString()!,
            f.GetProperty("reference").GetString()!,
            BookFinding.GovernsWords(book, books.Find(b => b.Book == book).From),
            books.Select(b => b.Outcome).Distinct().Count() > 1
                ? BookFinding.DifferWords(books.Select(b => (b.Book, b.Outcome)))
                : null
        )
        {
            Limit = f.GetProperty("limit") is { ValueKind: JsonValueKind.Object } limit
                ? limit.GetProperty("text").GetString()
                : null,
            Used = f.GetProperty("consumed") is { ValueKind: JsonValueKind.Number } used ? used.GetDecimal() : null,
            Read = read,
            WhenNew = whenNew,
        };
    }

    /// <summary>
    /// What a case document says was read, by part and criterion; of several answers to one question the last is told
    /// with the others.
    /// </summary>
    private static Dictionary<(string Part, string Criterion), (string? Read, string? WhenNew)> Readings(string? @case)
    {
        var readings = new Dictionary<(string, string), (string? Read, string? WhenNew)>();
        if (@case is null)
            return readings;
        using var document = JsonDocument.Parse(@case);
        foreach (var answer in document.RootElement.GetProperty("answers").EnumerateArray())
        {
            string? Text(string name) =>
                answer.TryGetProperty(name, out var value)
                    ? value.ValueKind == JsonValueKind.String
                        ? value.GetString()
                        : value.GetRawText()
                    : null;
            if (Text("value") is not { } read)
                continue;
            var key = (Text("part")!, Text("criterion")!);
            var said = Text("uncertainty") is { } within ? $"{read} +/- {within}" : read;
            readings[key] = (
                readings.TryGetValue(key, out var before) ? $"{before.Read}; {said}" : said,
                Text("baseline")
            );
        }

        return readings;
    }

    private static string TitleOf(string criterion) => Catalogue.Find(criterion)?.Title ?? criterion;
}
