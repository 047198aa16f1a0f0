using System.Globalization;
using System.Text.RegularExpressions;
using Keralith.Core.Ledger;
using Keralith.Core.People;

namespace Keralith.Core.Custody;

/// <summary>What a recall asks of a piece. A text that says nothing, such as a dash, is not known.</summary>
/// <param name="Serial">As it stands on the piece; null: not known.</param>
/// <param name="Since">In service, or bought, since; null: not known.</param>
public sealed record RecallCandidate(string? Maker, string? Model, string? Batch, string? Serial, DateOnly? Since);

/// <summary>
/// Which gear a recall is about. Everything said must agree; what is not known of a piece is taken to agree, for what is not
/// known is never taken as fine.
/// </summary>
/// <param name="Maker">Its maker, however spelled.</param>
/// <param name="SerialFrom">The first serial of a range; alone: that one.</param>
/// <param name="SerialTo">The last serial of a range.</param>
/// <param name="From">In service since that day or later.</param>
/// <param name="Until">In service since that day or earlier.</param>
public sealed partial record RecallMatch(
    string Maker,
    string? Model,
    string? Batch,
    string? SerialFrom,
    string? SerialTo,
    DateOnly? From,
    DateOnly? Until
)
{
    /// <summary>Reads what was typed; fields that say nothing are not asked.</summary>
    /// <returns>The match, or why it names no gear.</returns>
    public static Checked<RecallMatch> Read(
        string? maker,
        string? model,
        string? batch,
        string? serialFrom,
        string? serialTo,
        DateOnly? from,
        DateOnly? until
    )
    {
        var match = new RecallMatch(
            Text(maker) ?? string.Empty,
            Text(model),
            Text(batch),
            Text(serialFrom),
            Text(serialTo),
            from,
            until
        );
        if (match.Maker.Length == 0)
            return new Refusal("Write the maker.");
        if (match is { SerialFrom: null, SerialTo: not null })
            return new Refusal("A range of serials begins with one.");
        if (match is { Model: null, Batch: null, SerialFrom: null, From: null, Until: null })
            return new Refusal(
                "Write at least the model, the batch, a serial or when it was bought: not all a maker ever made."
            );
        if (match.From > match.Until)
            return new Refusal("The first day lies after the last.");
        return match.SerialTo is not null && Range(match.SerialFrom!, match.SerialTo) is null
            ? new Refusal(
                "The two serials make no range: the same letters, then figures that rise, such as K-1000 to K-1999."
            )
            : match;

        static string? Text(string? typed) => Spelling.SaysNothing(typed) ? null : typed!.Trim();
    }

    /// <summary>Whether gear of a make may be meant, whatever its serials: a maker not on record is not, a model or a batch is.</summary>
    public bool MeansMake(string? maker, string? model, string? batch) =>
        !Spelling.SaysNothing(maker) && IsMaker(maker) && MayMean(Model, model) && MayMean(Batch, batch);

    /// <summary>Whether a maker on record is the one recalled, however it is spelled: what looks alike is one.</summary>
    public bool IsMaker(string? maker) =>
        Looks.OfMaker(maker) == Looks.OfMaker(Maker) || Spelling.MayBeSame(maker, Maker);

    /// <summary>
    /// Whether gear of a make is near what is recalled and not meant by it: the same maker with a model near it, or a maker
    /// near it. Somebody decides before anything is held.
    /// </summary>
    public bool IsNear(string? maker, string? model) =>
        IsMaker(maker) ? Model is not null && Looks.IsNear(model, Model) : Looks.IsNear(maker, Maker);

    private static bool MayMean(string? asked, string? onRecord) =>
        Spelling.MayMean(asked, onRecord) || Looks.Of(asked) == Looks.Of(onRecord);

    /// <summary>Whether a piece is meant.</summary>
    public bool Matches(RecallCandidate piece) =>
        MeansMake(piece.Maker, piece.Model, piece.Batch)
        && (SerialFrom is null || Spelling.SaysNothing(piece.Serial) || InRange(piece.Serial!))
        && (From is null || piece.Since is null || piece.Since >= From)
        && (Until is null || piece.Since is null || piece.Since <= Until);

    private bool InRange(string serial)
    {
        if (SerialTo is null)
            return IsAlike(serial, SerialFrom!);
        var (letters, first, last) = Range(SerialFrom!, SerialTo)!.Value;

        // What stands behind the figures (K-150A), more figures than can be counted, or none at all leave it in doubt: a
        // serial that can't be placed is meant.
        var figures = Figures().Matches(serial);
        return figures.Count == 0
            || figures.Any(f =>
                IsAlike(serial[..f.Index], letters)
                && (f.Length > MostFigures || (Counted(f) is var own && own >= first && own <= last))
            );
    }

    private static bool IsAlike(string one, string other) =>
        Spelling.MayBeSame(one, other) || Looks.Of(one) == Looks.Of(other);

    private static (string Letters, decimal First, decimal Last)? Range(string from, string to) =>
        Split(from) is { } first
        && Split(to) is { } last
        && Spelling.MayBeSame(first.Letters, last.Letters)
        && first.Figures <= last.Figures
            ? (first.Letters, first.Figures, last.Figures)
            : null;

    /// <summary>A serial's letters and the figures it ends with; null where it ends with none, or with more than can be counted.</summary>
    private static (string Letters, decimal Figures)? Split(string serial) =>
        Figures().Matches(serial).LastOrDefault() is { Length: <= MostFigures } last
        && last.Index + last.Length == serial.Length
            ? (serial[..last.Index], Counted(last))
            : null;

    private static decimal Counted(Match figures) => decimal.Parse(figures.ValueSpan, CultureInfo.InvariantCulture);

    private const int MostFigures = 18;

    [GeneratedRegex("[0-9]+")]
    private static partial Regex Figures();
}

/// <summary>A recall that was not let go.</summary>
public sealed record StandingRecall(Guid Id, RecallMatch Match, string Reason);

/// <summary>Recalls: all gear that matches is held at once, and what is registered later; who set one lets it go.</summary>
public static class Recalls
{
    /// <summary>The gear a recall means and never held. Whose hold by it was let go is not held by it again.</summary>
    /// <param name="among">Gear that is not retired.</param>
    /// <param name="held">Which gear was ever held by which recall.</param>
    public static IEnumerable<Guid> Missed(
        StandingRecall recall,
        IEnumerable<(Guid Id, RecallCandidate Candidate)> among,
        IReadOnlySet<(Guid Recall, Guid Piece)> held
    ) =>
        among
            .GroupBy(c => (c.Candidate.Maker, c.Candidate.Model, c.Candidate.Batch))
            .Where(make => recall.Match.MeansMake(make.Key.Maker, make.Key.Model, make.Key.Batch))
            .SelectMany(make => make)
            .Where(c => !held.Contains((recall.Id, c.Id)) && recall.Match.Matches(c.Candidate))
            .Select(c => c.Id);

    /// <summary>Why the gear a recall missed can't be held by it now; null when it can. Stopping is anybody's who may recall.</summary>
    public static Refusal? RefusalToHoldMissed(bool isEnded, int missed, Signer by)
    {
        if (by.Without(Right.Recall) is { } forbidden)
            return forbidden;
        if (isEnded)
            return new("This recall is let go already.", RefusalKind.Conflict);
        return missed == 0 ? new("All it means is held by it, or was.", RefusalKind.Conflict) : null;
    }

    /// <summary>Why a recall can't be set; null when it can.</summary>
    public static Refusal? RefusalToSet(string? reason, string? source, Signer by)
    {
        if (by.Without(Right.Recall) is { } forbidden)
            return forbidden;
        if (string.IsNullOrWhiteSpace(reason))
            return new("Write what is the matter with it.");
        return string.IsNullOrWhiteSpace(source)
            ? new("Write the paper it comes from: the maker's notice, its number.")
            : null;
    }

    /// <summary>What a recall does to a piece that matches; null: nothing, for it is retired.</summary>
    public static PieceOutcome? Stop(PieceState state, Guid recall, string reason)
    {
        if (state.IsRetired())
            return null;

        // What is missing or away stays so, and is held all the same: found or back, it does not go into use.
        var after = state == PieceState.Missing || state.IsAway() ? state : PieceState.Held;
        return new(after, new PieceRecalled(recall, reason)) { Hold = new(HoldCause.Recall, $"Recall: {reason}") };
    }

    /// <summary>Why a recall can't be let go by somebody; null when it can.</summary>
    public static Refusal? RefusalToEnd(Guid setBy, bool isEnded, string? reason, Signer by)
    {
        if (by.Without(Right.Recall) is { } forbidden)
            return forbidden;
        if (isEnded)
            return new("This recall is let go already.", RefusalKind.Conflict);
        if (setBy != by.Person)
            return Refusal.Forbidden("Somebody else set this recall; they let it go.");
        return string.IsNullOrWhiteSpace(reason) ? new("Write why it is let go.") : null;
    }
}
