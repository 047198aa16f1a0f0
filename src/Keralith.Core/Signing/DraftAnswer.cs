using Keralith.Core.Gear;
using Keralith.Core.Judgement;
using Keralith.Core.Register;
using Keralith.Core.Sites;
using Keralith.Core.Tags;

namespace Keralith.Core.Signing;

/// <summary>An answer kept in a draft.</summary>
public sealed record DraftAnswer(
    string Part,
    string Criterion,
    AnswerEntry Entry,
    string? Note,
    string SavedBy,
    DateTimeOffset SavedAt
)
{
    /// <summary>Where it stands among the facts; one without a number says nothing of what came after anything.</summary>
    public FactOrder Order { get; init; }

    /// <summary>What it was measured with; null where none was in hand, or nothing was measured.</summary>
    public Instrument? Instrument { get; init; }

    /// <summary>Whose hand it is; null where that is whoever made the record.</summary>
    public Guid? Hand { get; init; }

    /// <summary>Where on the drawing it was found, in its units; null where nobody pinned it.</summary>
    public Pin? Pin { get; init; }

    /// <summary>Whether anything was answered; a note alone is no answer.</summary>
    public bool IsGiven => Entry is not { Answer: null, Value: null };

    /// <summary>Whether it is a length taken with an instrument, not an angle or a count.</summary>
    public bool IsMeasured => Entry.Value is not null && Catalogue.Find(Criterion) is { IsLength: true };
}

/// <summary>A place on a drawing, in the drawing's units.</summary>
public readonly record struct Pin(decimal X, decimal Y);

/// <summary>A draft as a case.</summary>
public static class DraftCase
{
    /// <summary>The case of a draft: the gear, the site's books, and the answers with their figures when new.</summary>
    public static Case Of(
        Piece piece,
        InspectionKind kind,
        Site site,
        IEnumerable<DraftAnswer> answers,
        IReadOnlyDictionary<BaselineKey, BaselineFigure> baselines,
        IReadOnlyDictionary<(string Part, string Criterion), LastReading>? last = null
    )
    {
        var given = answers.ToDictionary(a => (a.Part, a.Criterion));
        var read = new List<Answer>();
        var (gear, tag) = (piece.GearAt(site), piece.TagAt(site));
        var own = site.QuestionsFor(gear.Family, piece.Maker, piece.Model);
        var placement = Catalogue.PlacementOf(gear, site.Books).With(own);
        foreach (var part in placement.Parts)
        {
            foreach (var criterion in part.Criteria)
            {
                if (!given.TryGetValue((part.Path, criterion.Id), out var answer))
                    continue;
                var figure = baselines.GetValueOrDefault(new(part.Path, criterion.Id));
                var responses = answer.Entry.ReadAll(criterion, figure);
                if (!responses.Ok)
                    continue;
                read.AddRange(responses.Value.Select(r => new Answer(criterion, part.Path, AtBest(tag, criterion, r))));
            }
        }

        // The record names the limits that bear on this gear, and no others.
        var limits = site.LimitsFor(piece.Maker, piece.Model)
            .Where(l => placement.Questions.Any(q => q.Criterion == l.Criterion) && l.FaultOn(gear) is null)
            .ToList();
        return new(site.Books, kind, gear, limits, read)
        {
            Own = own,
            Last = last ?? new Dictionary<(string, string), LastReading>(),
        };
    }

    /// <summary>
    /// The answers of a look before use with no fault on it: everything it asks, answered "no fault", and where it asks
    /// for a count, none seen.
    /// </summary>
    public static List<DraftAnswer> Clean(Piece piece, Site site, string by, DateTimeOffset at) =>
        Judge
            .MissingAnswers(
                new(site.Books, InspectionKind.Frequent, piece.GearAt(site), [], [])
                {
                    Own = site.QuestionsFor(piece.Gear.Family, piece.Maker, piece.Model),
                }
            )
            .Where(m => m.Criterion.IsAnswerChosen || m.Criterion.Kind == CriterionKind.Count)
            .Select(m => new DraftAnswer(
                m.Part,
                m.Criterion.Id,
                m.Criterion.IsAnswerChosen ? new(Code.Of(Found.No)) : new(Value: "0"),
                null,
                by,
                at
            )
            {
                Order = FactOrder.Latest,
            })
            .ToList();

    private static Response AtBest(TagVerdict tag, Criterion criterion, Response response) =>
        response is Chosen chosen ? new Chosen(tag.AtBest(criterion.Id, chosen.Found)) : response;
}
