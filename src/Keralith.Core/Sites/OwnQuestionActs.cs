using Keralith.Core.Gear;
using Keralith.Core.People;

namespace Keralith.Core.Sites;

/// <summary>A question in force at a site, and who set it.</summary>
public sealed record QuestionRow(OwnQuestion Question, string Reason, DateTimeOffset SetAt, string SetBy)
{
    public string Id => Question.Criterion.Id;

    /// <summary>Where it was withdrawn: when, by whom and why; null: it is asked.</summary>
    public (DateTimeOffset At, string By, string Why)? Withdrawn { get; init; }
}

/// <summary>A question of a site's own as it is entered. Every field may be empty.</summary>
public sealed record EnteredQuestion
{
    /// <summary>The number of the site that asks it.</summary>
    public int Site { get; init; } = Sites.Site.First;

    public string? Family { get; init; }

    public string? Part { get; init; }

    public string? Maker { get; init; }

    public string? Model { get; init; }

    /// <summary>The code of <see cref="CriterionKind.See"/> or <see cref="CriterionKind.Test"/>.</summary>
    public string? Kind { get; init; }

    /// <summary>The code of <see cref="AskedIn"/>.</summary>
    public string? AskedIn { get; init; }

    /// <summary>The code of <see cref="Outcome.Hold"/> or <see cref="Outcome.Remove"/>.</summary>
    public string? OnFault { get; init; }

    public string? Title { get; init; }

    public string? Question { get; init; }

    public string? Look { get; init; }

    public string? Source { get; init; }

    public string? Reason { get; init; }
}

/// <summary>What is decided about a site's own questions.</summary>
public static class OwnQuestionActs
{
    private const int LongestTitle = 60;
    private const int LongestText = 300;
    private const int LongestReason = 400;
    private const int LongestName = 120;

    /// <summary>Most questions a site asks at one time.</summary>
    public const int Most = 200;

    /// <summary>Reads a question as it is to be asked.</summary>
    /// <param name="asked">How many the site asks already.</param>
    public static Checked<QuestionRow> Set(EnteredQuestion given, int asked, Signer by)
    {
        if (
            by.Without(Right.SetLimits, "Only a qualified person sets what is asked beside the books.") is { } forbidden
        )
            return forbidden;
        if (asked >= Most)
            return new Refusal($"A site asks at most {Most} questions of its own: withdraw one first.");
        if (GearFamilies.Find(given.Family ?? string.Empty) is not { } family)
            return new Refusal("Choose the family it is asked of.");
        if (OwnQuestion.PartsOf(family).All(p => p.Path != given.Part))
            return new Refusal("Choose the part it sits on.");
        if (Code.Find<CriterionKind>(given.Kind) is not (CriterionKind.See or CriterionKind.Test))
            return new Refusal("Choose whether it is looked for or tried.");
        if (Code.Find<AskedIn>(given.AskedIn) is not { } askedIn)
            return new Refusal("Choose in which inspections it is asked.");
        if (Code.Find<Outcome>(given.OnFault) is not (Outcome.Hold or Outcome.Remove))
            return new Refusal("Choose what a fault means: hold or remove.");
        var (maker, model) = (Trimmed(given.Maker), Trimmed(given.Model));
        if (model.Length > 0 && maker.Length == 0)
            return new Refusal("Name the maker of the model.");
        if (
            Unwritten(given.Title, LongestTitle, "a name, such as Repair label") is { } untitled
            || (untitled = Unwritten(given.Question, LongestText, "what counts as the fault")) is not null
            || (untitled = Unwritten(given.Look, LongestText, "how it is looked for or tried")) is not null
            || (untitled = Unwritten(given.Source, LongestText, "where it comes from: a maker's bulletin, a policy"))
                is not null
            || (untitled = Unwritten(given.Reason, LongestReason, "why it is asked: it stands in the ledger"))
                is not null
        )
            return untitled;
        if (maker.Length > LongestName || model.Length > LongestName)
            return new Refusal("That is too long to be a name.");
        return new QuestionRow(
            new(
                CriterionOf(
                    0,
                    Code.Parse<CriterionKind>(given.Kind!),
                    askedIn,
                    Code.Parse<Outcome>(given.OnFault!),
                    given.Title!.Trim(),
                    given.Question!.Trim(),
                    given.Look!.Trim(),
                    given.Source!.Trim()
                ),
                family,
                given.Part!,
                maker,
                model
            ),
            given.Reason!.Trim(),
            by.At,
            by.Name
        );
    }

    /// <summary>Withdraws a question.</summary>
    /// <param name="question">The question; null: the site has none of that number.</param>
    /// <returns>Why, as it is kept.</returns>
    public static Checked<string> Withdraw(QuestionRow? question, string? reason, Signer by)
    {
        if (
            by.Without(Right.SetLimits, "Only a qualified person withdraws what is asked beside the books.") is
            { } forbidden
        )
            return forbidden;
        if (question is not { Withdrawn: null })
            return Refusal.NotFound("The site asks no such question.");
        return Unwritten(reason, LongestReason, "why it is withdrawn: it stands in the ledger") is { } unwritten
            ? unwritten
            : reason!.Trim();
    }

    /// <summary>A site's question as a criterion, judged like any other.</summary>
    public static Criterion CriterionOf(
        long number,
        CriterionKind kind,
        AskedIn askedIn,
        Outcome onFault,
        string title,
        string question,
        string look,
        string source
    ) =>
        new()
        {
            Id = OwnQuestion.IdOf(number),
            Kind = kind,
            AskedIn = askedIn,
            OnFault = onFault,
            Source = new(source, "asked by this site"),
            Title = title,
            Question = question,
            Look = look,
        };

    private static string Trimmed(string? text) => (text ?? string.Empty).Trim();

    private static Refusal? Unwritten(string? text, int longest, string what) =>
        string.IsNullOrWhiteSpace(text) ? new Refusal($"Write {what}.")
        : text.Trim().Length > longest ? new Refusal($"Write {what}, in up to {longest} letters.")
        : null;
}
