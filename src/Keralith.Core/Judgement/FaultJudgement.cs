using Keralith.Core.Criteria;

namespace Keralith.Core.Judgement;

/// <summary>Faults looked for and functions tried.</summary>
internal static class FaultJudgement
{
    public static Finding Of(Case @case, Answer answer, Chosen chosen)
    {
        var books = new List<BookFinding>(@case.Books.Count);
        foreach (var book in @case.Books)
        {
            var own = book.Rules.GetValueOrDefault(answer.Criterion.Id);
            var decidedBy = own?.DecidedBy ?? answer.Criterion.DecidedBy;
            var (outcome, reason) = chosen.Found switch
            {
                Found.No => (Outcome.Clear, "No fault found."),
                Found.Unsure => (Outcome.Hold, "Nobody could tell: held until somebody who can has looked."),
                Found.NotAccessible => (Outcome.Hold, "It could not be reached: held until it has been seen."),
                Found.Yes when decidedBy is not null && IsAnswered(@case, decidedBy, answer.Part) => (Outcome.Clear, $"Found; the {Name(decidedBy)} measured there decides."),
                Found.Yes when decidedBy is not null => (own?.OnFault ?? answer.Criterion.OnFault, $"{answer.Criterion.Question} Measure the {Name(decidedBy)} at that place; held until then."),
                Found.Yes => (own?.OnFault ?? answer.Criterion.OnFault, answer.Criterion.Question),
                _ => throw new InvalidOperationException($"No such answer: {chosen.Found}."),
            };
            books.Add(new(book.Id, outcome, null, null, reason) { From = own is null && book != RuleBookShelf.Asme ? RuleBookShelf.Asme.Id : null });
        }

        var governing = Judge.Governing(books);
        return new(answer.Criterion, answer.Part, governing, books, governing.Reason);
    }

    private static bool IsAnswered(Case @case, string criterion, string part) =>
        @case.Answers.Any(a => a.Part == part && a.Criterion.Id == criterion);

    private static string Name(string criterion) => Catalogue.Get(criterion).Title.ToLowerInvariant();
}
