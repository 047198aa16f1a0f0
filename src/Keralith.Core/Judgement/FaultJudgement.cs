using Keralith.Core.Gear;

namespace Keralith.Core.Judgement;

/// <summary>Faults looked for and functions tried.</summary>
internal static class FaultJudgement
{
    public static Finding Of(Case @case, Answer answer, Chosen chosen)
    {
        var criterion = answer.Criterion;
        if (OwnQuestion.IsId(criterion.Id))
        {
            // No book says anything of what a site asks of its own.
            var (found, why) = Judged(@case, answer, chosen.Found, null);
            var site = new BookFinding("site", found) { Said = why };
            return new(criterion, answer.Part, site, [site]);
        }

        var books = new BookFinding[@case.Books.Count];
        for (var i = 0; i < books.Length; i++)
        {
            var book = @case.Books[i];
            var own = book.Rules.GetValueOrDefault(criterion.Id);
            var (outcome, reason) = Judged(@case, answer, chosen.Found, own);
            var atLeast = criterion.AtLeastUnder(own);
            if (outcome < atLeast)
                (outcome, reason) = (atLeast, criterion.AtLeastBecause!);
            books[i] = new(book.Id, outcome)
            {
                Said = reason,
                From = own is null && book != RuleBookShelf.Asme ? RuleBookShelf.Asme.Id : null,
            };
        }

        return new(criterion, answer.Part, Judge.Governing(books), books);
    }

    private static (Outcome Outcome, string Reason) Judged(Case @case, Answer answer, Found found, BookRule? own)
    {
        switch (found)
        {
            case Found.No when !answer.Criterion.IsAnswerChosen:
                return (Outcome.Clear, "Not fitted: nothing to measure.");
            case Found.No:
                return (Outcome.Clear, "No fault found.");
            case Found.Unsure:
                return (Outcome.Hold, "Nobody could tell: held until somebody who can has looked.");
            case Found.NotAccessible:
                return (Outcome.Hold, "It could not be reached: held until it has been seen.");
            case Found.Yes:
                var criterion = answer.Criterion;
                var onFault = own?.OnFault ?? criterion.OnFault;
                var question = own?.Says ?? criterion.Question;
                if ((own?.DecidedBy ?? criterion.DecidedBy) is not { } decidedBy)
                    return (onFault, question);
                var measure = Catalogue.Get(decidedBy).Title.ToLowerInvariant();
                return IsAnswered(@case, decidedBy, answer.Part)
                    ? (Outcome.Clear, $"Found; the {measure} measured there decides.")
                    : (onFault, $"{question} Measure the {measure} at that place; held until then.");
            default:
                throw new InvalidOperationException($"No such answer: {found}.");
        }
    }

    private static bool IsAnswered(Case @case, string criterion, string part)
    {
        foreach (var answer in @case.Answers)
        {
            if (answer.Part == part && answer.Criterion.Id == criterion)
                return true;
        }

        return false;
    }
}
