using Keralith.Core.Judgement;
using Keralith.Core.Sites;

namespace Keralith.Core.Register;

/// <summary>What a signed inspection comes to under other rules or other facts than it was signed by.</summary>
/// <param name="Verdict">The verdict.</param>
/// <param name="Because">The finding that decides it, in words.</param>
public sealed record Rejudged(Verdict Verdict, string Because);

/// <summary>Judges a signed inspection again. The record itself is not altered.</summary>
public static class Rejudgement
{
    /// <summary>The answers of then, judged by a site's rules of now.</summary>
    /// <param name="then">The case as it was signed.</param>
    /// <param name="site">The site whose books, limits, policies and watch share are asked.</param>
    /// <param name="maker">Whose limits are asked beside the site's.</param>
    /// <param name="model">For which model.</param>
    public static Rejudged Of(Case then, Site site, string? maker, string? model)
    {
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
        return new(verdict, Because(today, verdict));
    }

    /// <summary>The answers of then on a piece entered otherwise: its gear, its maker, its figures when new.</summary>
    public static Rejudged Of(Case then, Site site, PieceEntry entry) =>
        Of(
            then with
            {
                Gear = entry.Gear,
                Answers = [.. then.Answers.Select(a => a with { Response = ByFigures(a, entry.Baselines) })],
            },
            site,
            entry.Maker,
            entry.Model
        );

    private static Response ByFigures(Answer answer, IReadOnlyDictionary<BaselineKey, BaselineFigure> figures) =>
        answer.Response is Measured measured
        && !answer.Criterion.IsPair
        && figures.TryGetValue(new(answer.Part, answer.Criterion.Id), out var figure)
            ? measured with
            {
                Baseline = figure.Length,
                Basis = figure.Basis,
            }
            : answer.Response;

    private static string Because(Case @case, Verdict verdict)
    {
        string Part(string path) => @case.Placement.Find(path)?.Name ?? path;
        if (verdict.Kind == VerdictKind.Incomplete)
        {
            var first = verdict.Missing[0];
            var more = verdict.Missing.Count > 1 ? $", and {verdict.Missing.Count - 1} more" : string.Empty;
            return $"Not asked then: {first.Criterion.Title.ToLowerInvariant()} ({Part(first.Part)}){more}.";
        }

        var worst = verdict.Findings.MaxBy(f => f.Outcome);
        return worst is null
            ? string.Empty
            : $"{worst.Criterion.Title} ({Part(worst.Part)}): {worst.Reason} {worst.Governing.Governs}.";
    }
}
