using Keralith.Core.Custody;
using Keralith.Core.Judgement;
using Keralith.Core.People;
using Keralith.Core.Sites;
using Keralith.Core.Tags;

namespace Keralith.Core.Register;

/// <summary>Why a fact is entered otherwise, and by what.</summary>
/// <param name="Why">Why.</param>
/// <param name="File">A file of the piece that shows it; null: it was read from the piece.</param>
public sealed record Grounds(string? Why, Guid? File)
{
    /// <summary>Nothing was said.</summary>
    public static Grounds None { get; } = new(null, null);

    /// <summary>Letters a reason may have.</summary>
    public const int LongestWhy = 400;
}

/// <summary>What a change of the register looks at.</summary>
/// <param name="Piece">The piece as it stands.</param>
/// <param name="Entry">What is to be entered.</param>
/// <param name="Known">Its figures when new.</param>
/// <param name="Site">Where it is judged.</param>
public sealed record ChangeFacts(
    Piece Piece,
    PieceEntry Entry,
    IReadOnlyDictionary<BaselineKey, BaselineFigure> Known,
    Site Site
)
{
    /// <summary>The last full inspection that counts, as it was signed; null: none can be judged again.</summary>
    public Case? Standing { get; init; }

    /// <summary>Whether it stands under an inspection or an accepted report: from then on facts are changed, not written.</summary>
    public bool IsJudged => Piece.Verdict is not null || Piece.IsCarried;
}

/// <summary>What a change of the register comes to.</summary>
/// <param name="Figures">The figures when new that are other than before.</param>
/// <param name="Changes">The facts a verdict, a rating or a due date stands on that are other than before; empty: a slip
/// of the pen, or a piece nobody has inspected.</param>
/// <param name="State">The piece's state from now on.</param>
/// <param name="Hold">The hold it puts on; null: none.</param>
public sealed record ChangeOutcome(
    IReadOnlyList<KeyValuePair<BaselineKey, BaselineFigure>> Figures,
    IReadOnlyList<FactChange> Changes,
    PieceState State,
    NewHold? Hold
);

/// <summary>
/// Changes what is entered of a piece. Before its first inspection the register is written freely; afterwards a fact
/// that a verdict stands on changes with a reason, by somebody with the right, and the piece is judged again.
/// </summary>
public static class ChangeOfFacts
{
    /// <summary>Decides a change. Mark and family stay.</summary>
    public static Checked<ChangeOutcome> Of(ChangeFacts facts, Grounds grounds, Signer by)
    {
        var (piece, entry, known) = (facts.Piece, facts.Entry, facts.Known);
        if (by.Without(Right.Register) is { } forbidden)
            return forbidden;
        if (piece.State.IsRetired())
            return new Refusal("This piece is retired; its record stands as it is.");
        if (Custody.EvidenceLock.Refuses(piece.Locked) is { } kept)
            return kept;
        if (piece.Mark != entry.Mark.Text || piece.Gear.Family != entry.Gear.Family)
            return new Refusal("The mark and the family of a piece never change; register another.");
        if (piece.CarriedOver is { } report && entry.CarriedOver != report)
            return new Refusal("The report it was taken over with stands as recorded.");
        var figures = entry.Baselines.Where(b => !known.TryGetValue(b.Key, out var now) || now != b.Value).ToList();
        var refused = entry.Surroundings.RefusalOf(piece.Surroundings, by.Roles)
            ?? entry.Details.RefusalToFree(piece.Details, by.Roles)
            ?? entry.RefusalToUnread(piece.TagRead)
            ?? PieceEntry.RefusalOf([.. figures.Select(b => b.Value)], by.Roles)
            ?? entry.RefusalOn(by.Day);
        if (refused is not null)
            return new Refusal(refused);

        // A figure on record stays: what a form leaves out is not taken away.
        var before = piece.Entry(known);
        var after = entry with { Baselines = With(known, figures) };
        var changes = facts.IsJudged
            ? PieceFacts.Between(before, after).Where(c => c.Means != ChangeMeaning.SlipOfThePen).ToList()
            : [];
        var impossible = Plausible.RefusalOf(after);
        if (changes.Count == 0)
            return impossible is not null && !facts.IsJudged
                ? impossible
                : new ChangeOutcome(figures, [], piece.State, null);
        if (RefusalOf(changes, grounds, by) is { } refusal)
            return refusal;
        if (impossible is not null)
            return impossible;
        if (HoldOf(facts, before, after, changes) is not { } hold)
            return new ChangeOutcome(figures, changes, piece.State, null);
        var held = PieceLife.AfterHold(piece.State);
        return held.Ok ? new ChangeOutcome(figures, changes, held.Value, hold) : held.Refusal!;
    }

    /// <summary>Why these changes can't be made so; null when they can.</summary>
    /// <param name="changes">The facts changed.</param>
    /// <param name="grounds">Why, and by what.</param>
    /// <param name="by">Who.</param>
    public static Refusal? RefusalOf(IReadOnlyList<FactChange> changes, Grounds grounds, Signer by)
    {
        foreach (var change in changes)
        {
            if (
                by.Without(
                    change.Needs,
                    change.Needs == Right.ChangeFigures
                        ? $"{change}: a verdict or a rating stands on it. A qualified person changes it, with the paper that shows it."
                        : $"{change}: a verdict or a rating stands on it. An inspector changes it, as read from the piece."
                ) is
                { } forbidden
            )
                return forbidden;
        }

        if (string.IsNullOrWhiteSpace(grounds.Why) || grounds.Why.Trim().Length > Grounds.LongestWhy)
            return new Refusal(
                $"Say why it is changed, in at most {Grounds.LongestWhy} letters: {string.Join("; ", changes)}."
            );
        var shown = changes.FirstOrDefault(c => c.Needs == Right.ChangeFigures);
        return shown is not null && grounds.File is null
            ? new Refusal($"{shown}: attach the paper that shows it to the piece, and name it here.")
            : null;
    }

    /// <summary>The hold a change puts on: what comes out worse, what becomes milder, what nobody has looked at.</summary>
    private static NewHold? HoldOf(
        ChangeFacts facts,
        PieceEntry before,
        PieceEntry after,
        IReadOnlyList<FactChange> changes
    )
    {
        var why = new List<string>();
        if (changes.Any(c => c.Means == ChangeMeaning.InspectedAgain))
            why.Add("nobody has inspected it by these");
        if (facts.Standing is { } then)
        {
            var (was, now) = (Rejudgement.Of(then, facts.Site, before), Rejudgement.Of(then, facts.Site, after));
            if (now.Verdict.Kind.Stops() && (!was.Verdict.Kind.Stops() || now.Verdict.Kind > was.Verdict.Kind))
                why.Add($"its last full inspection comes out {Code.Of(now.Verdict.Kind)} by these. {now.Because}");
            else if (now.Verdict.Missing.Except(was.Verdict.Missing).Any())
                why.Add($"parts of it were not inspected. {now.Because}");
            if (Plausible.AgainstMeasured(then, after.Gear) is { } measured)
                why.Add(measured);
        }
        else if (changes.Any(c => Gear.GearAttributes.Find(c.Field) is not null))
            why.Add("nobody here has inspected it by these");

        var (said, says) = (Against(facts, before), Against(facts, after));
        if (says.FirstOrDefault(r => said.All(s => s.Check != r.Check)) is { } worse)
            why.Add($"its marking comes out worse: {worse.Words}");
        else if (said.Any(s => says.All(r => r.Check != s.Check)))
            why.Add("its marking comes out milder, which a full inspection alone may say");
        return why.Count == 0 ? null : new(HoldCause.FactsChanged, $"{Short(changes)}: {string.Join("; ", why)}");
    }

    /// <summary>What of a marking stops use.</summary>
    private static List<TagRemark> Against(ChangeFacts facts, PieceEntry entry)
    {
        var gear = facts.Site.Policies.Applied(entry.Gear, entry.Model);
        var tag = new TagTranscription(gear, entry.TagEntries, entry.RatedLoad, entry.DesignFactor)
        {
            IsRead = entry.TagRead,
            Words = entry.Details.Tag,
            RatingPaper = entry.Details.RatingPaper,
            Legibility = entry.Details.Tag.Legibility,
        };
        return [.. TagJudgement.Of(tag, entry.Surroundings, facts.Site.Books).Stopping];
    }

    private static string Short(IReadOnlyList<FactChange> changes) =>
        string.Join("; ", changes.Take(3)) + (changes.Count > 3 ? $"; and {changes.Count - 3} more" : string.Empty);

    private static Dictionary<BaselineKey, BaselineFigure> With(
        IReadOnlyDictionary<BaselineKey, BaselineFigure> known,
        IEnumerable<KeyValuePair<BaselineKey, BaselineFigure>> changed
    )
    {
        var all = known.ToDictionary();
        foreach (var (key, figure) in changed)
            all[key] = figure;
        return all;
    }
}
