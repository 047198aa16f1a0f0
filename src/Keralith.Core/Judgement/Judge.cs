using Keralith.Core.Gear;

namespace Keralith.Core.Judgement;

/// <summary>Judges a case: every answer by every chosen book, the worst governs. Pure: the same case, the same verdict.</summary>
public static class Judge
{
    /// <summary>The share of an allowance from which a piece is watched, unless the site sets another.</summary>
    public const decimal DefaultWatchShare = 0.75m;

    /// <summary>Judges a case whose answers all sit on parts and criteria the gear has.</summary>
    /// <param name="case">The case.</param>
    /// <param name="watchShare">Over 0, at most 1.</param>
    public static Verdict Of(Case @case, decimal watchShare = DefaultWatchShare)
    {
        var findings = new List<Finding>(@case.Answers.Count);
        for (var i = 0; i < @case.Answers.Count; i++)
            findings.Add(Answer(@case, @case.Answers[i], watchShare));
        GearFacts.Add(@case, findings);
        var missing = MissingAnswers(@case);
        var worst = Outcome.Clear;
        foreach (var finding in findings)
        {
            if (finding.Outcome > worst)
                worst = finding.Outcome;
        }

        var kind = worst switch
        {
            Outcome.Remove => VerdictKind.Remove,
            Outcome.Hold => VerdictKind.Hold,
            Outcome.Watch or Outcome.Clear when missing.Count > 0 => VerdictKind.Incomplete,
            Outcome.Watch => VerdictKind.Watch,
            Outcome.Clear => VerdictKind.Fit,
        };
        return new(kind, findings, missing);
    }

    /// <summary>Judges one answer of a case.</summary>
    public static Finding Answer(Case @case, Answer answer, decimal watchShare = DefaultWatchShare) =>
        answer.Response switch
        {
            Chosen chosen => FaultJudgement.Of(@case, answer, chosen),
            Counted counted => LimitJudgement.Of(@case, answer, new Reading(counted.Count), watchShare),
            Measured measured => LimitJudgement.Of(
                @case,
                answer,
                Reading.From(measured) with
                {
                    Last = @case.Last.GetValueOrDefault((answer.Part, answer.Criterion.Id)),
                },
                watchShare
            ),
            MeasuredAngle angle => LimitJudgement.Of(@case, answer, Reading.From(angle), watchShare),
            MeasuredForce force => LimitJudgement.Of(@case, answer, Reading.From(force), watchShare),
            MeasuredMoment moment => LimitJudgement.Of(@case, answer, Reading.From(moment), watchShare),
            _ => throw new System.Diagnostics.UnreachableException(),
        };

    /// <summary>Whether a criterion is asked in a kind of inspection.</summary>
    public static bool IsAsked(Criterion criterion, InspectionKind kind) => IsAsked(criterion, LastAskedIn(kind));

    private static bool IsAsked(Criterion criterion, AskedIn last) => !criterion.Optional && criterion.AskedIn <= last;

    /// <summary>What is asked from frequent inspections on is asked in all, what is asked in the initial one in that alone.</summary>
    private static AskedIn LastAskedIn(InspectionKind kind) =>
        kind switch
        {
            InspectionKind.Initial => AskedIn.Initial,
            InspectionKind.Periodic or InspectionKind.AfterEvent => AskedIn.Periodic,
            InspectionKind.Frequent or InspectionKind.Return => AskedIn.Frequent,
        };

    /// <summary>The required questions without an answer, by part and then in catalogue order.</summary>
    public static IReadOnlyList<PlacedCriterion> MissingAnswers(Case @case)
    {
        var placement = @case.Placement;
        var questions = placement.EachQuestion;
        Span<bool> answered = questions.Length <= 512 ? stackalloc bool[questions.Length] : new bool[questions.Length];
        for (var i = 0; i < @case.Answers.Count; i++)
        {
            var answer = @case.Answers[i];
            if (placement.IndexOf(answer.Criterion, answer.Part) is >= 0 and var at)
                answered[at] = true;
        }

        var last = LastAskedIn(@case.Kind);
        var missing = new List<PlacedCriterion>(questions.Length);
        for (var i = 0; i < questions.Length; i++)
        {
            if (!answered[i] && IsAsked(questions[i].Criterion, last))
                missing.Add(questions[i]);
        }

        return missing;
    }

    /// <summary>
    /// The entry that governs: the worst outcome; among equals the smallest allowance; among equals the first named.
    /// </summary>
    internal static BookFinding Governing(ReadOnlySpan<BookFinding> books)
    {
        BookFinding? best = null;
        foreach (var book in books)
        {
            if (book.Outcome is null)
                continue;
            if (best is null || book.Outcome > best.Outcome || (book.Outcome == best.Outcome && IsTighter(book, best)))
                best = book;
        }

        return best ?? throw new InvalidOperationException("No book has judged.");
    }

    private static bool IsTighter(BookFinding candidate, BookFinding best)
    {
        if (candidate.Figure?.Allowance is not { } mine)
            return false;
        return best.Figure?.Allowance is not { } theirs
            || mine < theirs
            || (mine == theirs && best.From == "maker" && candidate.Book == "maker");
    }
}
