using Keralith.Core.Judgement;

namespace Keralith.Core.Signing;

/// <summary>Findings in words.</summary>
public static class Findings
{
    /// <summary>The findings that put a piece in the cage, in one line.</summary>
    public static string InOneLine(Case @case, Verdict verdict)
    {
        var names = @case.Parts.ToDictionary(p => p.Path, p => p.Name.ToLowerInvariant());
        var gravest = verdict.Findings.Max(f => f.Outcome);
        var worst = verdict.Findings.Where(f => f.Outcome == gravest).ToList();
        var first = string.Join("; ", worst.Take(2).Select(f => $"{Fault(f.Criterion)}: {names[f.Part]}"));
        return worst.Count > 2 ? $"{first}; and {worst.Count - 2} more" : first;
    }

    /// <summary>What is wrong, and not the name of what was looked at: a title alone reads as if it were fine.</summary>
    private static string Fault(Gear.Criterion criterion) =>
        criterion.IsAnswerChosen ? criterion.Question.TrimEnd('.') : criterion.Title;
}
