using Keralith.Core.Formats;
using Keralith.Core.Gear;
using Keralith.Core.Judgement;
using Keralith.Core.Sites;

namespace Keralith.Data;

/// <summary>A piece whose last full inspection would come out otherwise today.</summary>
/// <param name="Then">The verdict as signed.</param>
/// <param name="Now">What the same answers come to by today's rules.</param>
/// <param name="Because">The finding that decides now, in words.</param>
public sealed record Rejudged(
    string Mark,
    Guid Inspection,
    DateOnly InspectedOn,
    VerdictKind Then,
    VerdictKind Now,
    string Because
);

/// <summary>What today's rules make of the register.</summary>
/// <param name="Judged">How many records were judged again.</param>
/// <param name="Changed">Those that come out otherwise, the gravest first.</param>
/// <param name="Unread">Marks whose case this version can't judge: parts or criteria it no longer has.</param>
public sealed record RegisterRejudged(int Judged, IReadOnlyList<Rejudged> Changed, IReadOnlyList<string> Unread);

/// <summary>Judges the last full inspection of every piece by today's catalogue, books and limits. Nothing is altered.</summary>
public sealed class JudgeAgain(Database database)
{
    public async Task<RegisterRejudged> RunAsync(Site site, CancellationToken cancel)
    {
        await using var command = database.Command(
            $"""
            select p.mark, p.maker, p.model, i.id, i.inspected_on, i.verdict, i.case_document
            from piece p
            cross join lateral (select * from standing_inspection i where i.piece_id = p.id and i.kind in {Fragments.Full} order by i.counts_from desc, i.id limit 1) i
            where p.state not in {Fragments.Retired}
            order by p.mark
            """
        );
        await using var reader = await command.ExecuteReaderAsync(cancel).ConfigureAwait(false);
        var judged = 0;
        var changed = new List<Rejudged>();
        var unread = new List<string>();
        while (await reader.ReadAsync(cancel).ConfigureAwait(false))
        {
            var mark = reader.Get<string>("mark");
            if (
                Of(reader.Get<string>("case_document"), reader.TextOrNull("maker"), reader.TextOrNull("model"), site)
                is not { } today
            )
            {
                unread.Add(mark);
                continue;
            }

            judged++;
            var signed = Code.Parse<VerdictKind>(reader.Get<string>("verdict"));
            if (today.Verdict.Kind != signed)
                changed.Add(
                    new(
                        mark,
                        reader.Get<Guid>("id"),
                        reader.Get<DateOnly>("inspected_on"),
                        signed,
                        today.Verdict.Kind,
                        today.Because
                    )
                );
        }

        return new(
            judged,
            [.. changed.OrderByDescending(c => c.Now).ThenBy(c => c.Mark, StringComparer.Ordinal)],
            unread
        );
    }

    /// <summary>One record judged again; null when this version can't read its case.</summary>
    /// <returns>The verdict and the finding that decides it, in words.</returns>
    public static (Verdict Verdict, string Because)? Of(string caseDocument, string? maker, string? model, Site site)
    {
        if (CaseReader.Read(caseDocument).Value is not { } then)
            return null;
        var today = then with
        {
            Books = site.Books,
            Gear = site.Policies.Applied(then.Gear, model),
            Limits = site.LimitsFor(maker, model),
        };

        // An answer only another book asked for stays in its record; today's books do not ask it.
        today = today with
        {
            Answers = today.Answers.Where(a => today.Placement.IndexOf(a.Criterion, a.Part) >= 0).ToList(),
        };
        var verdict = Judge.Of(today, site.WatchShare);
        return (verdict, Because(today, verdict));
    }

    private static string Because(Case @case, Verdict verdict)
    {
        string Part(string path) => @case.Placement.Find(path)?.Name ?? path;
        if (verdict.Kind == VerdictKind.Incomplete)
        {
            var first = verdict.Missing[0];
            return $"Not asked then: {first.Criterion.Title.ToLowerInvariant()} ({Part(first.Part)}){(verdict.Missing.Count > 1 ? $", and {verdict.Missing.Count - 1} more" : string.Empty)}.";
        }

        var worst = verdict.Findings.MaxBy(f => f.Outcome);
        return worst is null
            ? string.Empty
            : $"{worst.Criterion.Title} ({Part(worst.Part)}): {worst.Reason} {RuleBookShelf.NameOf(worst.Governing.Book)} governs.";
    }
}
