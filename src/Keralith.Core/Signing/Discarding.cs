using Keralith.Core.Gear;
using Keralith.Core.Ledger;
using Keralith.Core.People;

namespace Keralith.Core.Signing;

/// <summary>Throwing drafts away: by whoever made them, or a qualified person; a finding never goes without a trace.</summary>
public static class Discarding
{
    /// <summary>Throws a draft away.</summary>
    /// <param name="draft">Its id.</param>
    /// <param name="startedBy">Who began it.</param>
    /// <param name="offeredBy">Who signed it for countersignature; null: nobody.</param>
    /// <param name="answers">Its answers.</param>
    /// <returns>What the ledger keeps; null where nothing was found against the piece.</returns>
    public static Checked<DraftDiscarded?> Of(
        Guid draft,
        Guid startedBy,
        Guid? offeredBy,
        IEnumerable<DraftAnswer> answers,
        Signer by
    )
    {
        if (by.Without(Right.Draft) is { } forbidden)
            return forbidden;
        if (by.Person != startedBy && by.Person != offeredBy && !by.Roles.May(Right.CloseVerdict))
            return Refusal.Forbidden("Somebody else made this draft: they or a qualified person throw it away.");
        var found = answers
            .Where(a => a.IsGiven && a.Entry.Answer != Code.Of(Found.No))
            .Select(a => new RecordedAnswer(
                a.Part,
                a.Criterion,
                a.Entry.Answer ?? a.Entry.Value ?? string.Empty,
                a.Note
            ))
            .ToList();
        return found.Count == 0 ? (DraftDiscarded?)null : new DraftDiscarded(draft, found);
    }
}
